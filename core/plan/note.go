package plan

import (
	"strconv"
	"strings"
)

// NoteFraction is the length of a note as a fraction of a whole note: "1/4" is 0.25,
// dotted ("1/8.") is half as long again, triplet ("1/8t") is two thirds. The second
// result is false when the text is no note length from 1/1 to 1/64.
func NoteFraction(note string) (float64, bool) {
	body, factor := note, 1.0
	switch {
	case strings.HasSuffix(note, "."):
		body, factor = note[:len(note)-1], 1.5
	case strings.HasSuffix(note, "t"):
		body, factor = note[:len(note)-1], 2.0/3.0
	}
	bottom, ok := strings.CutPrefix(body, "1/")
	if !ok {
		return 0, false
	}
	n, err := strconv.Atoi(bottom)
	if err != nil || n < 1 || n > 64 || n&(n-1) != 0 || bottom != strconv.Itoa(n) {
		return 0, false
	}
	return factor / float64(n), true
}

// Tempo is a speed: beats a minute, and which note gets the beat ("1/4." in 6/8).
type Tempo struct {
	BPM  float64 `json:"bpm" minimum:"20" maximum:"400" doc:"Beats a minute."`
	Beat string  `json:"beat,omitempty" doc:"The note that gets the beat; a quarter note when absent."`
}

// BeatSeconds is the length of one beat in seconds: 60 / bpm.
func (t Tempo) BeatSeconds() float64 { return 60 / t.BPM }

// BeatNote is the note that gets the beat.
func (t Tempo) BeatNote() string {
	if t.Beat == "" {
		return "1/4"
	}
	return t.Beat
}

// Milliseconds is how long a note lasts at this tempo. The second result is false when
// either note is not one.
//
// ms = 60000 / bpm x (note / beat), both as fractions of a whole note.
func (t Tempo) Milliseconds(note string) (float64, bool) {
	n, ok := NoteFraction(note)
	b, ok2 := NoteFraction(t.BeatNote())
	if !ok || !ok2 || t.BPM <= 0 {
		return 0, false
	}
	return 60000 / t.BPM * n / b, true
}

// Meter is a time signature: 3/4 has three quarter notes to the bar.
type Meter struct {
	Beats int `json:"beats" minimum:"1" maximum:"32"`
	Unit  int `json:"unit" minimum:"1" maximum:"32"`
}

// BarSeconds is the length of a bar in seconds, 4/4 when the meter is absent.
func (t Tempo) BarSeconds(m Meter) float64 {
	whole := 1.0
	if m.Beats > 0 && m.Unit > 0 {
		whole = float64(m.Beats) / float64(m.Unit)
	}
	beat, ok := NoteFraction(t.BeatNote())
	if !ok {
		beat = 0.25
	}
	return whole / beat * t.BeatSeconds()
}
