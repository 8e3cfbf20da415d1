package exchange

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"
	"unicode/utf8"

	"envex/core/plan"
	"envex/core/reason"
)

// maxQuarters is how long a file may be: a day at 120 quarter notes a minute.
const maxQuarters = 24 * 60 * 120

// mark is something at a time of a file.
type mark struct {
	at   uint64
	text string
}

// ReadSMF reads a Standard MIDI File as a song: its title from the first track's name, tempo and meter
// from its first events, sections from its markers, each as long as to the next. A marker "Solo [Lead]"
// names the sound as well. A file with cue points is a set, of which each begins a song, as [WriteSMF]
// writes one. It fails on what is no such file.
func ReadSMF(data []byte, name string) (*Draft, error) {
	if len(data) > MaxBytes {
		return nil, reason.Errorf("%d bytes are too many: the limit is %d", len(data), MaxBytes)
	}
	resolution, tracks, err := scanSMF(data)
	if err != nil {
		return nil, fmt.Errorf("exchange: read MIDI file: %w", err)
	}
	x := &reading{resolution: float64(resolution)}
	for i, track := range tracks {
		x.track(track, i == 0)
	}
	return x.draft(name)
}

// reading gathers what a file has that is understood.
type reading struct {
	resolution float64
	title      string
	tempi      []tempoAt
	meters     []meterAt
	markers    []mark
	cues       []mark // where songs of a set begin
	ends       []mark // where they end
	end        uint64
	others     int
	latin      bool // a text was no UTF-8
}

type tempoAt struct {
	at  uint64
	bpm float64
}

type meterAt struct {
	at    uint64
	meter plan.Meter
}

// songEnd is the text by which a file of ours says where a song of a set ends: what follows is the gap.
const songEnd = "End of song"

func (x *reading) track(track []read, first bool) {
	for _, e := range track {
		switch e.meta {
		case 0x51: // microseconds a quarter note
			if len(e.data) == 3 {
				if us := int(e.data[0])<<16 | int(e.data[1])<<8 | int(e.data[2]); us > 0 {
					x.tempi = append(x.tempi, tempoAt{e.at, 60e6 / float64(us)})
				}
			}
		case 0x58:
			if len(e.data) >= 2 && e.data[0] >= 1 && e.data[0] <= 32 && e.data[1] <= 5 {
				x.meters = append(x.meters, meterAt{e.at, plan.Meter{Beats: int(e.data[0]), Unit: 1 << e.data[1]}})
			}
		case 0x06:
			x.markers = append(x.markers, mark{e.at, x.text(e.data)})
		case 0x07:
			x.cues = append(x.cues, mark{e.at, x.text(e.data)})
		case 0x01:
			if string(e.data) == songEnd {
				x.ends = append(x.ends, mark{at: e.at})
			}
		case 0x03:
			if first && x.title == "" {
				x.title = strings.TrimSpace(x.text(e.data))
			}
		case noMeta:
			x.others++
		}
		x.end = max(x.end, e.at)
	}
}

// text is what a text event says. The format leaves open how letters are written: what is no UTF-8 is
// Latin-1.
func (x *reading) text(data []byte) string {
	if utf8.Valid(data) {
		return string(data)
	}
	x.latin = true
	return latin1(data)
}

func (x *reading) draft(name string) (*Draft, error) {
	if float64(x.end)/x.resolution > maxQuarters {
		return nil, reason.Errorf("the file is longer than a day")
	}
	d := &Draft{Left: []string{}, Said: []string{}, Songs: []DraftSong{}}
	slices.SortStableFunc(x.tempi, func(a, b tempoAt) int { return cmp.Compare(a.at, b.at) })
	slices.SortStableFunc(x.meters, func(a, b meterAt) int { return cmp.Compare(a.at, b.at) })
	byTime := func(a, b mark) int { return cmp.Compare(a.at, b.at) }
	slices.SortStableFunc(x.markers, byTime)
	slices.SortStableFunc(x.cues, byTime)
	title := cmp.Or(clip(x.title), clip(name))
	starts := x.cues
	if len(starts) == 0 {
		starts = []mark{{text: cmp.Or(title, "Untitled")}}
	} else {
		d.SetList = cmp.Or(title, "Set list")
	}
	if len(starts) > maxSongs {
		return nil, reason.Errorf("more than %d cue points", maxSongs)
	}
	for i, start := range starts {
		until := x.end
		if i+1 < len(starts) {
			until = starts[i+1].at
		}
		s, err := x.song(d, start, until, i == 0)
		if err != nil {
			return nil, err
		}
		if s.Title == "" {
			s.Title = fmt.Sprintf("Song %d", i+1)
		}
		d.Songs = append(d.Songs, s)
	}
	x.gaps(d, starts)
	if len(x.cues) > 0 && len(x.markers) > 0 && x.markers[0].at < x.cues[0].at {
		d.Left = append(d.Left, "Markers before the first song are left out.")
	}
	if x.others > 0 {
		d.Left = append(d.Left, fmt.Sprintf("%d notes and controls are left out.", x.others))
	}
	if x.latin {
		d.Said = append(
			d.Said, "Its texts are no UTF-8, and were read as Latin-1: look whether letters with marks are right.",
		)
	}
	return d, nil
}

// gaps are the times between the songs of a set, where the file says where each ends.
func (x *reading) gaps(d *Draft, starts []mark) {
	for i := 1; i < len(starts); i++ {
		end, ok := x.endOf(starts[i-1].at, starts[i].at)
		if !ok {
			continue
		}
		gap := math.Round(float64(starts[i].at-end)/x.resolution/x.tempoAt(end)*60*100) / 100
		switch {
		case gap == 0:
			d.Songs[i].Segue = true
		case gap <= 3600 && gap != plan.DefaultGapS:
			d.Songs[i].GapS = &gap
		}
	}
}

// endOf is where a song ends that begins at a time, before another; false where the file does not say.
func (x *reading) endOf(from, until uint64) (uint64, bool) {
	for _, e := range x.ends {
		if e.at > from && e.at <= until {
			return e.at, true
		}
	}
	return until, false
}

// tempoAt is the tempo that holds at a time, in quarter notes a minute. Where a song begins it is the first
// that stands there: the others are of its first section.
func (x *reading) tempoAt(at uint64) float64 {
	bpm, from := 120.0, uint64(math.MaxUint64)
	for _, t := range x.tempi {
		if t.at <= at && t.at != from {
			bpm, from = t.bpm, t.at
		}
	}
	return bpm
}

// song is what stands between two times of a file. The first of it has the tempo and the meter that the
// file begins with, however late they come.
func (x *reading) song(d *Draft, start mark, until uint64, first bool) (DraftSong, error) {
	s := DraftSong{
		Title: clip(start.text), Tempo: plan.Tempo{BPM: 120}, NoTempo: true, Meter: plan.Meter{Beats: 4, Unit: 4},
		NoMeter: true, Sections: []DraftSection{},
	}
	end, _ := x.endOf(start.at, until)
	if len(x.tempi) > 0 {
		at := start.at
		if first {
			at = max(at, x.tempi[0].at)
		}
		bpm, err := x.tempo(x.tempoAt(at))
		if err != nil {
			return s, err
		}
		s.Tempo.BPM, s.NoTempo = bpm, false
	}
	for i, m := range x.meters {
		if m.at <= start.at || first && i == 0 {
			s.Meter, s.NoMeter = m.meter, false
		} else if m.at < end {
			d.Left = appendOnce(d.Left, "Only the first meter of a song is kept.")
		}
	}
	return s, x.sections(d, &s, start.at, end)
}

// tempo gives what a file counts, in quarter notes a minute, as the beats of a song.
func (x *reading) tempo(bpm float64) (float64, error) {
	bpm = math.Round(bpm*1000) / 1000
	if !(bpm >= 20 && bpm <= 400) {
		return 0, reason.Errorf("a tempo of %g is outside 20 to 400", bpm)
	}
	return bpm, nil
}

func clip(s string) string {
	s = strings.ToValidUTF8(strings.TrimSpace(s), "")
	if len(s) <= plan.MaxName {
		return s
	}
	return strings.ToValidUTF8(s[:plan.MaxName], "")
}

// sections are the markers between two times.
func (x *reading) sections(d *Draft, s *DraftSong, from, until uint64) error {
	bar := x.resolution * 4 * float64(s.Meter.Beats) / float64(s.Meter.Unit)
	var here []mark
	for _, m := range x.markers {
		if m.at >= from && (m.at < until || m.at == until && until == x.end) {
			here = append(here, m)
		}
	}
	for i, m := range here {
		end := until
		if i+1 < len(here) {
			end = here[i+1].at
		}
		sec := labelled(clip(m.text))
		if sec.Label == "" {
			sec.Label = fmt.Sprintf("Section %d", i+1)
		}
		if bars := math.Round(float64(end-m.at)/bar*4) / 4; bars >= 0.25 && bars <= 1000 {
			sec.Bars = &bars
		}
		for _, t := range x.tempi {
			if t.at <= m.at {
				bpm, err := x.tempo(t.bpm)
				if err != nil {
					return err
				}
				sec.BPM = bpm
			} else if t.at < end {
				d.Left = appendOnce(d.Left, "Tempo changes inside a section are left out.")
			}
		}
		if len(s.Sections) >= maxSections {
			return reason.Errorf("more than %d markers", maxSections)
		}
		s.Sections = append(s.Sections, sec)
	}
	if len(s.Sections) == 0 {
		d.Left = appendOnce(d.Left, fmt.Sprintf("There are no markers in %s, so it has no sections.", s.Title))
	}
	return nil
}

func appendOnce(list []string, x string) []string {
	if slices.Contains(list, x) {
		return list
	}
	return append(list, x)
}
