// Package exchange reads and writes songs and set lists in open formats of other programs: Standard
// MIDI Files and CSV, and reads ChordPro. What was understood is said before anything is done with it.
package exchange

import (
	"fmt"
	"math"
	"reflect"
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
	Said    []string    `json:"said" doc:"How the file was read where it does not say that itself, in words."`
}

// DraftSong is a song that was read.
type DraftSong struct {
	Title    string         `json:"title"`
	Tempo    plan.Tempo     `json:"tempo"`
	NoTempo  bool           `json:"no_tempo,omitempty" doc:"The file says none; 120 is taken."`
	Meter    plan.Meter     `json:"meter"`
	NoMeter  bool           `json:"no_meter,omitempty" doc:"The file says none; 4/4 is taken."`
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

	Singing bool    `json:"singing,omitempty"`
	Rest    float64 `json:"rest_beats,omitempty" doc:"Beats of silence just before it."`
}

// LineError is a fault in a text, with its line.
type LineError struct {
	Line int
	What string
}

func (e *LineError) Error() string { return fmt.Sprintf("line %d: %s", e.Line, e.What) }

// Words is what a person reads of it: see [reason.Of].
func (e *LineError) Words() string { return e.Error() }

// Limits of what is read.
const (
	MaxBytes    = 2 << 20
	maxSongs    = 500
	maxSections = 200
	maxLeft     = 100 // lines that say what was left out
)

// tempoOf reads beats a minute.
func tempoOf(text string) (float64, bool) {
	bpm, err := strconv.ParseFloat(decimal(text), 64)
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
// in the words that come back. A song whose title the plan knows is that song; where the file says otherwise
// of it, it comes with what the file says, under the same id, so that taking it in asks which holds.
func (d *Draft) Into(p *plan.Plan, newID func() plan.ID) (*plan.Plan, []string) {
	return d.IntoWith(p, newID, nil)
}

// MakeSound makes a sound of what somebody calls it, beside those there are; its id is given to it.
type MakeSound func(called string, have []plan.Sound) plan.Sound

// IntoWith is [Draft.Into] for a player who types: a sound that is not there is made, where something is given that
// makes it.
func (d *Draft) IntoWith(p *plan.Plan, newID func() plan.ID, make MakeSound) (*plan.Plan, []string) {
	b := &building{plan: p, newID: newID, make: make, out: &plan.Plan{}, sounds: map[plan.ID]bool{}}
	var entries []plan.SetEntry
	for _, s := range d.Songs {
		entries = append(
			entries, plan.SetEntry{ID: newID(), Song: b.song(s), GapS: s.GapS, Segue: s.Segue && len(entries) > 0},
		)
	}
	if d.SetList != "" && len(entries) > 0 {
		b.out.Put(plan.SetList{ID: newID(), Name: d.SetList, Entries: entries})
	}
	return b.out, b.said
}

type building struct {
	plan   *plan.Plan
	newID  func() plan.ID
	make   MakeSound
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
	if known >= 0 {
		return b.known(b.plan.Songs[known], d)
	}
	s := plan.Song{
		ID: b.newID(), Title: d.Title, Tempo: d.Tempo, Meter: d.Meter, Tuning: d.Tuning, Capo: d.Capo,
		Sections: []plan.Section{},
	}
	for _, sec := range d.Sections {
		s.Sections = append(s.Sections, b.section(sec, d.Tempo))
	}
	b.out.Put(s)
	return s.ID
}

// known is a song whose title the plan has: as it is there, or with what the file says otherwise. Then it
// comes in beside the one that is here, and the player is asked which holds.
func (b *building) known(here plan.Song, d DraftSong) plan.ID {
	s := here
	var other []string
	if !d.NoTempo && math.Abs(quarters(d.Tempo)-quarters(s.Tempo)) > 0.01 {
		other = append(other, fmt.Sprintf("the tempo is %s here and %s there", number(s.Tempo.BPM), number(d.Tempo.BPM)))
		s.Tempo = d.Tempo
	}
	if !d.NoMeter && d.Meter != s.Meter {
		other = append(
			other,
			fmt.Sprintf("the meter is %d/%d here and %d/%d there", s.Meter.Beats, s.Meter.Unit, d.Meter.Beats, d.Meter.Unit),
		)
		s.Meter = d.Meter
	}
	if d.Tuning != "" && d.Tuning != s.Tuning {
		other = append(other, "the tuning differs")
		s.Tuning = d.Tuning
	}
	if d.Capo > 0 && d.Capo != s.Capo {
		other = append(other, "the capo differs")
		s.Capo = d.Capo
	}
	if len(d.Sections) > 0 {
		if list, same := b.sections(here, d); !same {
			other = append(other, "the sections differ")
			s.Sections = list
		}
	}
	if len(other) == 0 {
		b.say("%s is the song that is here already.", s.Title)
	} else {
		b.say("%s is here already: %s. You are asked which holds.", s.Title, strings.Join(other, ", "))
	}
	b.needs(here)
	b.needs(s)
	b.out.Put(s)
	return s.ID
}

// needs carries along what a song of the plan refers to, so that what comes out stands alone.
func (b *building) needs(s plan.Song) {
	with := *b.plan
	with.Put(s)
	bundle, err := with.Bundle(s.ID)
	if err != nil {
		return // it is in the plan, by the line above
	}
	for _, a := range bundle.All() {
		if a.AggregateID() != s.ID {
			b.out.Put(a)
		}
	}
}

// sections are those of a file for a song that is here, each as it is here with what the file says; it
// reports whether they are the same.
func (b *building) sections(here plan.Song, d DraftSong) (list []plan.Section, same bool) {
	same = len(here.Sections) == len(d.Sections)
	for i, sec := range d.Sections {
		if i >= len(here.Sections) || !strings.EqualFold(plainLabel(here.Sections[i].Label), plainLabel(sec.Label)) {
			list = append(list, b.section(sec, d.Tempo))
			same = false
			continue
		}
		was := here.Sections[i]
		x := was
		if sec.Sound != "" {
			if id := b.sound(sec); id != was.Sound {
				x.Sound, x.Recipe = id, ""
			}
		}
		if sec.Bars != nil {
			x.Bars = sec.Bars
		}
		x.Singing = x.Singing || sec.Singing
		if sec.Rest > 0 {
			x.Rest = sec.Rest
		}
		if sec.BPM > 0 && math.Abs(sec.BPM-quarters(was.TempoIn(here))) > 0.01 && math.Abs(sec.BPM-quarters(d.Tempo)) > 0.01 {
			x.Tempo = &plan.Tempo{BPM: sec.BPM}
		}
		same = same && reflect.DeepEqual(was, x)
		list = append(list, x)
	}
	return list, same
}

// section is a section that is new.
func (b *building) section(d DraftSection, tempo plan.Tempo) plan.Section {
	x := plan.Section{ID: b.newID(), Label: d.Label, Sound: b.sound(d), Bars: d.Bars, Singing: d.Singing, Rest: d.Rest}
	if d.BPM > 0 && d.BPM != tempo.BPM {
		x.Tempo = &plan.Tempo{BPM: d.BPM, Beat: tempo.Beat}
	}
	return x
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
	if b.make != nil && d.Sound != "" {
		have := slices.Concat(b.plan.Sounds, b.out.Sounds)
		if i := slices.IndexFunc(have, func(s plan.Sound) bool { return strings.EqualFold(s.Name, d.Sound) }); i >= 0 {
			return b.use(have[i].ID)
		}
		s := b.make(d.Sound, have)
		s.ID = b.newID()
		b.out.Put(s)
		b.say("%s is new: a %s sound.", s.Name, s.Role)
		return s.ID
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
