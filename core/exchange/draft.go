// Package exchange reads and writes songs and set lists in open formats of other programs: Standard
// MIDI Files and CSV, and reads ChordPro. What was understood is said before anything is done with it.
package exchange

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"envex/core/plan"
)

// Draft is what was understood of a file.
type Draft struct {
	SetList string      `json:"set_list,omitempty" doc:"The name of the set, where the file is one."`
	Songs   []DraftSong `json:"songs"`
	Left    []string    `json:"left" doc:"What was left out, in words."`
}

// DraftSong is a song that was read.
type DraftSong struct {
	Title    string         `json:"title"`
	Tempo    plan.Tempo     `json:"tempo"`
	NoTempo  bool           `json:"no_tempo,omitempty" doc:"The file says none; 120 is taken."`
	Meter    plan.Meter     `json:"meter"`
	Tuning   string         `json:"tuning,omitempty"`
	Capo     int            `json:"capo,omitempty"`
	GapS     *float64       `json:"gap_s,omitempty"`
	Segue    bool           `json:"segue,omitempty"`
	Sections []DraftSection `json:"sections"`
}

// DraftSection is a section that was read.
type DraftSection struct {
	Label string   `json:"label"`
	Sound string   `json:"sound,omitempty" doc:"By name; absent where the file names none."`
	Bars  *float64 `json:"bars,omitempty"`
	BPM   float64  `json:"bpm,omitempty" doc:"Where it differs from the song's."`
}

// LineError is a fault in a text, with its line.
type LineError struct {
	Line int
	What string
}

func (e *LineError) Error() string { return fmt.Sprintf("line %d: %s", e.Line, e.What) }

// Limits of what is read.
const (
	MaxBytes    = 2 << 20
	maxSongs    = 500
	maxSections = 200
)

// tempoOf reads beats a minute.
func tempoOf(text string) (float64, bool) {
	bpm, err := strconv.ParseFloat(text, 64)
	return bpm, err == nil && bpm >= 20 && bpm <= 400
}

// meterOf reads a time signature, such as 4/4.
func meterOf(text string) (plan.Meter, bool) {
	top, foot, ok := strings.Cut(text, "/")
	beats, err := strconv.Atoi(strings.TrimSpace(top))
	unit, err2 := strconv.Atoi(strings.TrimSpace(foot))
	if !ok || err != nil || err2 != nil || beats < 1 || beats > 32 || !slices.Contains([]int{1, 2, 4, 8, 16, 32}, unit) {
		return plan.Meter{}, false
	}
	return plan.Meter{Beats: beats, Unit: unit}, true
}

// capoOf reads the fret of a capo.
func capoOf(text string) (int, bool) {
	capo, err := strconv.Atoi(text)
	return capo, err == nil && capo >= 0 && capo <= 24
}

// labelled is a section whose label may end in the sound it asks for: "Solo [Lead]".
func labelled(text string) DraftSection {
	s := DraftSection{Label: text}
	if open := strings.LastIndex(text, "["); open > 0 && strings.HasSuffix(text, "]") {
		s.Sound = text[open+1 : len(text)-1]
		s.Label = strings.TrimSpace(text[:open])
	}
	return s
}

// Into makes of a draft what a plan takes in: its songs, the sounds they ask for, and the set list.
// Sounds are found by name; where one is not there the home sound of the plan stands in and is named
// in the words that come back. A song without sections whose title the plan knows is that song.
func (d *Draft) Into(p *plan.Plan, newID func() plan.ID) (*plan.Plan, []string) {
	b := &building{plan: p, newID: newID, out: &plan.Plan{}, sounds: map[plan.ID]bool{}}
	var entries []plan.SetEntry
	for _, s := range d.Songs {
		entries = append(entries, plan.SetEntry{ID: newID(), Song: b.song(s), GapS: s.GapS, Segue: s.Segue && len(entries) > 0})
	}
	if d.SetList != "" && len(entries) > 0 {
		b.out.Put(plan.SetList{ID: newID(), Name: d.SetList, Entries: entries})
	}
	return b.out, b.said
}

type building struct {
	plan   *plan.Plan
	newID  func() plan.ID
	out    *plan.Plan
	sounds map[plan.ID]bool
	said   []string
}

func (b *building) say(format string, args ...any) {
	if text := fmt.Sprintf(format, args...); !slices.Contains(b.said, text) {
		b.said = append(b.said, text)
	}
}

func (b *building) song(d DraftSong) plan.ID {
	known := slices.IndexFunc(b.plan.Songs, func(s plan.Song) bool { return strings.EqualFold(s.Title, d.Title) })
	if known >= 0 && len(d.Sections) == 0 {
		s := b.plan.Songs[known]
		b.say("%s is the song that is here already.", s.Title)
		for _, sec := range s.Sections {
			b.use(sec.Sound)
		}
		b.out.Put(s)
		return s.ID
	}
	s := plan.Song{ID: b.newID(), Title: d.Title, Tempo: d.Tempo, Meter: d.Meter, Tuning: d.Tuning, Capo: d.Capo, Sections: []plan.Section{}}
	for _, sec := range d.Sections {
		x := plan.Section{ID: b.newID(), Label: sec.Label, Sound: b.sound(sec), Bars: sec.Bars}
		if sec.BPM > 0 && sec.BPM != d.Tempo.BPM {
			x.Tempo = &plan.Tempo{BPM: sec.BPM, Beat: d.Tempo.Beat}
		}
		s.Sections = append(s.Sections, x)
	}
	b.out.Put(s)
	return s.ID
}

// sound finds what a section asks for: by the name it gives, else by its label, else home.
func (b *building) sound(d DraftSection) plan.ID {
	for _, name := range []string{d.Sound, d.Label} {
		for _, s := range b.plan.Sounds {
			if name != "" && (strings.EqualFold(s.Name, name) || strings.EqualFold(s.Short, name)) {
				return b.use(s.ID)
			}
		}
	}
	home := b.home()
	switch {
	case d.Sound != "":
		b.say("%s is no sound here; %s stands in.", d.Sound, home.Name)
	default:
		b.say("%s names no sound; %s stands in.", d.Label, home.Name)
	}
	return b.use(home.ID)
}

func (b *building) home() plan.Sound {
	for _, list := range [][]plan.Sound{b.plan.Sounds, b.out.Sounds} {
		for _, s := range list {
			if s.Role == plan.HomeRole {
				return s
			}
		}
		if len(list) > 0 {
			return list[0]
		}
	}
	s := plan.Sound{ID: b.newID(), Name: "Home", Short: "HM", Role: plan.HomeRole, Tape: plan.Tapes()[0]}
	b.out.Put(s)
	return s
}

// use carries a sound of the plan along, so that what comes out stands alone.
func (b *building) use(id plan.ID) plan.ID {
	if !b.sounds[id] {
		b.sounds[id] = true
		if s, ok := b.plan.FindSound(id); ok {
			b.out.Put(*s)
		}
	}
	return id
}
