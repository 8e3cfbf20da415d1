package exchange

import (
	"encoding/hex"
	"fmt"
	"io"
	"math"
	"slices"
	"strings"

	"gitlab.com/gomidi/midi/v2/smf"

	"envex/core/midi"
	"envex/core/plan"
)

// ticks is the resolution of what is written: ticks a quarter note.
const ticks = 960

// maxTicks is how long a file may be: a day at 120 quarter notes a minute.
const maxQuarters = 24 * 60 * 120

// mark is something at a time of a file.
type mark struct {
	at   uint64
	text string
}

// ReadSMF reads a Standard MIDI File as a song: its title from the first track's name, tempo and meter
// from its first events, sections from its markers, each as long as to the next. A marker "Solo [Lead]"
// names the sound as well. It fails on what is no such file.
func ReadSMF(data []byte, name string) (*Draft, error) {
	if len(data) > MaxBytes {
		return nil, fmt.Errorf("exchange: %d bytes are too many; %d is the most", len(data), MaxBytes)
	}
	resolution, tracks, err := scanSMF(data)
	if err != nil {
		return nil, fmt.Errorf("exchange: read MIDI file: %w", err)
	}
	x := &reading{resolution: float64(resolution), meter: plan.Meter{Beats: 4, Unit: 4}}
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
	meter      plan.Meter
	meters     int
	markers    []mark
	end        uint64
	others     int
}

type tempoAt struct {
	at  uint64
	bpm float64
}

func (x *reading) track(track []read, first bool) {
	for _, e := range track {
		text := string(e.data)
		switch {
		case e.meta == 0x51 && len(e.data) == 3: // microseconds a quarter note
			if us := int(e.data[0])<<16 | int(e.data[1])<<8 | int(e.data[2]); us > 0 {
				x.tempi = append(x.tempi, tempoAt{e.at, 60e6 / float64(us)})
			}
		case e.meta == 0x58 && len(e.data) >= 2:
			top, power := e.data[0], e.data[1]
			if x.meters++; x.meters == 1 && top >= 1 && top <= 32 && power <= 5 {
				x.meter = plan.Meter{Beats: int(top), Unit: 1 << power}
			}
		case e.meta == 0x06:
			x.markers = append(x.markers, mark{e.at, text})
		case e.meta == 0x03:
			if first && x.title == "" {
				x.title = strings.TrimSpace(text)
			}
		case e.meta == noMeta:
			x.others++
		}
		x.end = max(x.end, e.at)
	}
}

func (x *reading) draft(name string) (*Draft, error) {
	if float64(x.end)/x.resolution > maxQuarters {
		return nil, fmt.Errorf("exchange: the file is longer than a day")
	}
	d := &Draft{Left: []string{}}
	s := DraftSong{Title: clip(x.title), Tempo: plan.Tempo{BPM: 120}, NoTempo: true, Meter: x.meter, Sections: []DraftSection{}}
	if s.Title == "" {
		s.Title = clip(name)
	}
	if s.Title == "" {
		s.Title = "Untitled"
	}
	slices.SortStableFunc(x.tempi, func(a, b tempoAt) int { return int(int64(a.at) - int64(b.at)) })
	if len(x.tempi) > 0 {
		bpm, err := x.tempo(x.tempi[0].bpm)
		if err != nil {
			return nil, err
		}
		s.Tempo.BPM, s.NoTempo = bpm, false
	}
	if x.meters > 1 {
		d.Left = append(d.Left, "Only the first meter is kept.")
	}
	if err := x.sections(d, &s); err != nil {
		return nil, err
	}
	if x.others > 0 {
		d.Left = append(d.Left, fmt.Sprintf("%d notes and controls are left out.", x.others))
	}
	d.Songs = []DraftSong{s}
	return d, nil
}

// tempo gives what a file counts, in quarter notes a minute, as the beats of a song.
func (x *reading) tempo(bpm float64) (float64, error) {
	bpm = math.Round(bpm*1000) / 1000
	if !(bpm >= 20 && bpm <= 400) {
		return 0, fmt.Errorf("exchange: a tempo of %g is outside 20 to 400", bpm)
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

func (x *reading) sections(d *Draft, s *DraftSong) error {
	slices.SortStableFunc(x.markers, func(a, b mark) int { return int(int64(a.at) - int64(b.at)) })
	bar := x.resolution * 4 * float64(x.meter.Beats) / float64(x.meter.Unit)
	for i, m := range x.markers {
		end := x.end
		if i+1 < len(x.markers) {
			end = x.markers[i+1].at
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
			return fmt.Errorf("exchange: more than %d markers", maxSections)
		}
		s.Sections = append(s.Sections, sec)
	}
	if len(s.Sections) == 0 {
		d.Left = append(d.Left, "There are no markers, so the song has no sections.")
	}
	return nil
}

func appendOnce(list []string, x string) []string {
	if slices.Contains(list, x) {
		return list
	}
	return append(list, x)
}

// WriteSMF writes a set, or one song of it where one is named, as a Standard MIDI File: the tempo map,
// the meters, a marker for each section, and on a rig that holds programs the messages that each change
// sends, so that a playback system can do the switching. It gives what could not be written, in words.
// It fails when the set list, the song or the rig is not there.
func WriteSMF(w io.Writer, p *plan.Plan, rig, setList, song plan.ID) ([]string, error) {
	l, ok := p.FindSetList(setList)
	if !ok {
		return nil, fmt.Errorf("exchange: there is no set list %q", setList)
	}
	x := &writing{plan: p}
	if rig != "" {
		r, ok := p.FindRig(rig)
		if !ok {
			return nil, fmt.Errorf("exchange: there is no rig %q", rig)
		}
		line, err := midi.Map(p, rig)
		if err != nil {
			return nil, fmt.Errorf("exchange: %w", err)
		}
		x.rig, x.line = r, line
		if len(line.Programs) == 0 {
			x.left = append(x.left, fmt.Sprintf("%s holds no programs, so nothing is sent at the changes.", r.Name))
		}
	}
	title := l.Name
	found := false
	for i, e := range l.Entries {
		s, ok := p.FindSong(e.Song)
		if !ok || song != "" && e.Song != song {
			continue
		}
		if song != "" {
			if found {
				continue // played twice, written once
			}
			title = s.Title
		}
		gap := 0.0
		if i > 0 && song == "" {
			gap = l.GapBefore(e)
		}
		found = true
		x.song(s, gap, song == "")
	}
	if !found {
		return nil, fmt.Errorf("exchange: the set has no song %q", song)
	}
	return x.left, x.write(w, title)
}

// writing gathers events by their time.
type writing struct {
	plan  *plan.Plan
	rig   *plan.Rig
	line  *midi.Report
	at    float64 // quarter notes from the start
	bpm   float64 // of quarter notes
	meter plan.Meter
	tempi []timed
	sends []timed
	left  []string
}

type timed struct {
	at  float64
	msg []byte
}

// quarters is how many quarter notes a minute a tempo is.
func quarters(t plan.Tempo) float64 {
	beat, ok := plan.NoteFraction(t.BeatNote())
	if !ok {
		beat = 0.25
	}
	return t.BPM * beat * 4
}

func (x *writing) tempo(bpm float64) {
	if math.Abs(bpm-x.bpm) > 1e-9 {
		x.bpm = bpm
		x.tempi = append(x.tempi, timed{x.at, smf.MetaTempo(bpm)})
	}
}

func (x *writing) song(s *plan.Song, gap float64, named bool) {
	if x.bpm > 0 {
		x.at += gap * x.bpm / 60
	}
	x.tempo(quarters(s.Tempo))
	if s.Meter != x.meter && s.Meter.Beats > 0 {
		x.meter = s.Meter
		x.tempi = append(x.tempi, timed{x.at, smf.MetaMeter(uint8(s.Meter.Beats), uint8(s.Meter.Unit))})
	}
	if named {
		x.tempi = append(x.tempi, timed{x.at, smf.MetaCuepoint(s.Title)})
	}
	for _, sec := range s.Sections {
		tempo := sec.TempoIn(*s)
		x.tempo(quarters(tempo))
		label := sec.Label
		if sound, ok := x.plan.FindSound(sec.Sound); ok {
			label += " [" + sound.Name + "]"
		}
		x.tempi = append(x.tempi, timed{x.at, smf.MetaMarker(label)})
		x.send(sec)
		bars := 8.0
		if sec.Bars != nil {
			bars = *sec.Bars
		} else {
			x.left = appendOnce(x.left, "Sections of open length are written as eight bars.")
		}
		whole := 1.0
		if s.Meter.Beats > 0 {
			whole = float64(s.Meter.Beats) / float64(s.Meter.Unit)
		}
		x.at += bars * whole * 4
	}
}

// send puts the messages of the program that serves a section's sound where it begins.
func (x *writing) send(sec plan.Section) {
	if x.rig == nil || len(x.line.Programs) == 0 {
		return
	}
	for _, p := range x.line.Programs {
		if x.rig.Programs[p.Controller][p.Bank][p.Slot].Sound != sec.Sound {
			continue
		}
		for _, m := range p.Sends {
			if data, err := hex.DecodeString(strings.ReplaceAll(m.Bytes, " ", "")); err == nil && len(data) > 0 {
				x.sends = append(x.sends, timed{x.at, data})
			}
		}
		return
	}
	name := string(sec.Sound)
	if s, ok := x.plan.FindSound(sec.Sound); ok {
		name = s.Name
	}
	x.left = appendOnce(x.left, fmt.Sprintf("No program is labelled with %s.", name))
}

func (x *writing) write(w io.Writer, title string) error {
	file := smf.NewSMF1()
	file.TimeFormat = smf.MetricTicks(ticks)
	file.NoRunningStatus = true // plain to read for what is old or small
	if err := file.Add(trackOf(title, x.tempi, x.at)); err != nil {
		return fmt.Errorf("exchange: write MIDI file: %w", err)
	}
	if len(x.sends) > 0 {
		if err := file.Add(trackOf("Changes", x.sends, x.at)); err != nil {
			return fmt.Errorf("exchange: write MIDI file: %w", err)
		}
	}
	if _, err := file.WriteTo(w); err != nil {
		return fmt.Errorf("exchange: write MIDI file: %w", err)
	}
	return nil
}

func trackOf(name string, events []timed, end float64) smf.Track {
	var t smf.Track
	t.Add(0, smf.MetaTrackSequenceName(name))
	at := uint64(0)
	for _, e := range events {
		now := uint64(math.Round(e.at * ticks))
		t.Add(uint32(now-at), e.msg)
		at = now
	}
	t.Close(uint32(uint64(math.Round(end*ticks)) - at))
	return t
}
