package exchange

import (
	"encoding/hex"
	"fmt"
	"io"
	"math"
	"strings"

	"gitlab.com/gomidi/midi/v2/smf"

	"envex/core/midi"
	"envex/core/plan"
	"envex/core/reason"
)

// ticks is the resolution of what is written: ticks a quarter note.
const ticks = 960

// WriteSMF writes a set, or one song of it where one is named, as a Standard MIDI File: the tempo map,
// the meters, a marker for each section, and on a rig that holds programs the messages that each change
// sends, so that a playback system can do the switching. It gives what could not be written, in words.
// It fails when the set list, the song or the rig is not there.
func WriteSMF(w io.Writer, p *plan.Plan, rig, setList, song plan.ID) ([]string, error) {
	l, err := p.SetListByID(setList)
	if err != nil {
		return nil, fmt.Errorf("exchange: %w", err)
	}
	x := &writing{plan: p}
	if rig != "" {
		r, err := p.RigByID(rig)
		if err != nil {
			return nil, fmt.Errorf("exchange: %w", err)
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
		return nil, reason.Errorf("the set has no song %q", song)
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
	x.bpm = 0 // each song says its own, so that it is known again
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
	if named {
		x.tempi = append(x.tempi, timed{x.at, smf.MetaText(songEnd)})
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
