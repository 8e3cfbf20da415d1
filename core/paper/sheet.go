package paper

import (
	"context"
	"fmt"
	"strings"

	"envex/core/plan"
	"envex/core/reason"
	"envex/core/signal"
)

// Kind names a sheet.
type Kind string

// The sheets there are.
const (
	LoadOut      Kind = "load"
	PatchList    Kind = "patch"
	SettingSheet Kind = "settings"
	PowerSheet   Kind = "power"
	MIDIMap      Kind = "midi"
	House        Kind = "foh"
	FloorSheet   Kind = "floor"
	Walk         Kind = "walk"
	FailurePlan  Kind = "failure"
	FaultFinding Kind = "faults"
	SetSheet     Kind = "set"
	AskSheet     Kind = "ask"
	StandInSheet Kind = "standins"
)

// Kinds are the sheets that go to the gig, the one that is on the music stand first.
func Kinds() []Kind {
	return []Kind{
		SetSheet, PatchList, SettingSheet, FloorSheet, PowerSheet, MIDIMap, House, LoadOut, FailurePlan, FaultFinding, Walk,
	}
}

// AllKinds are the sheets there are: those of the gig, and those for which sounds are rendered, what stands in for a box
// and what is sent ahead.
func AllKinds() []Kind { return append(Kinds(), StandInSheet, AskSheet) }

var titles = map[Kind]string{
	SetSheet: "Set sheet", PatchList: "Patch list", SettingSheet: "Settings sheet", FloorSheet: "Floor",
	PowerSheet: "Power plan", MIDIMap: "Program and MIDI map",
	House: "For front-of-house", LoadOut: "Load-out list", FailurePlan: "Failure plan", FaultFinding: "Fault finding",
	Walk: "Walk of the rig", AskSheet: "To ask for", StandInSheet: "Stand-ins",
}

// Title is what a sheet is called; "" for one there is not.
func (k Kind) Title() string { return titles[k] }

// Sheet is one sheet of a show.
type Sheet struct {
	Kind     Kind     `json:"kind"`
	Title    string   `json:"title"`
	Facts    []Fact   `json:"facts" doc:"What stands at its head: the show, the rig, the date."`
	Parts    []Part   `json:"parts"`
	Assumed  []string `json:"assumed" doc:"What was taken where nobody has said, in words."`
	Cautions []string `json:"cautions" doc:"What can hurt someone, in words."`
}

// Fact is a label and what it says.
type Fact struct {
	Label string `json:"label"`
	Text  string `json:"text"`
}

// Part is a table of a sheet, with a heading.
type Part struct {
	Title   string   `json:"title"`
	Note    string   `json:"note,omitempty"`
	Columns []Column `json:"columns"`
	Rows    []Row    `json:"rows"`
}

// Column is a column of a table.
type Column struct {
	Name   string `json:"name"`
	Number bool   `json:"number,omitempty" doc:"Its cells are figures, which line up."`
}

// Row is the cells of a line, one for each column.
type Row []Cell

// Cell is what stands in one place of a table.
type Cell struct {
	Text string   `json:"text"`
	Tape string   `json:"tape,omitempty" doc:"The tape of the sound it names. The text carries the sound's letters, for paper has no colour."`
	Hand *float64 `json:"hand,omitempty" minimum:"0" maximum:"1" doc:"Where the hand of a clock face stands: 0 at 7 o'clock, 1 at 5 o'clock."`
}

// Make derives a sheet of a show. The plan must be valid. It fails when there is no such show or kind.
func Make(p *plan.Plan, show plan.ID, kind Kind) (*Sheet, error) {
	return MakeWith(context.Background(), p, show, kind, nil)
}

// MakeWith is [Make] with what was rendered before, for the sheets for which sounds are rendered. It fails with the
// context's error, too, when that is cancelled.
func MakeWith(ctx context.Context, p *plan.Plan, show plan.ID, kind Kind, kept *signal.Kept) (*Sheet, error) {
	s, err := p.ShowByID(show)
	if err != nil {
		return nil, fmt.Errorf("paper: %w", err)
	}
	if p, err = p.AtShow(s); err != nil {
		return nil, fmt.Errorf("paper: %w", err)
	}
	there, err := p.At(s.Rig, s.Destination)
	if err != nil {
		return nil, fmt.Errorf("paper: %w", err)
	}
	rig, err := there.RigByID(s.Rig)
	if err != nil {
		return nil, fmt.Errorf("paper: %w", err)
	}
	m := &maker{plan: there, given: p, show: s, rig: rig}
	m.sheet = &Sheet{
		Kind: kind, Title: kind.Title(), Facts: m.facts(), Parts: []Part{}, Assumed: []string{}, Cautions: []string{},
	}
	make := map[Kind]func() error{
		PatchList: m.patch, SetSheet: m.set, LoadOut: m.load, Walk: m.walk, SettingSheet: m.settingSheet,
		MIDIMap: m.midi, House: m.house, FloorSheet: m.floor, PowerSheet: m.power, FailurePlan: m.failure,
		FaultFinding: m.faults,
		AskSheet:     func() error { return m.ask(ctx, kept) },
		StandInSheet: func() error { return m.standIns(ctx, kept) },
	}[kind]
	if make == nil {
		return nil, reason.Errorf("there is no sheet %q; there are %s", kind, plan.Listed(words(AllKinds())))
	}
	if err := make(); err != nil {
		return nil, fmt.Errorf("paper: %w", err)
	}
	return m.sheet, nil
}

func words(kinds []Kind) []string {
	var list []string
	for _, k := range kinds {
		list = append(list, string(k))
	}
	return list
}

// maker is what a sheet is made out of.
type maker struct {
	plan  *plan.Plan // with the rig as it stands at the show
	given *plan.Plan
	show  *plan.Show
	rig   *plan.Rig
	sheet *Sheet
	known []plan.Used // once they were worked out
}

// facts stand at the head of every sheet, so that a page that has lost the others is still
// known for what it is.
func (m *maker) facts() []Fact {
	list := []Fact{}
	add := func(label, text string) {
		if strings.TrimSpace(text) != "" {
			list = append(list, Fact{label, text})
		}
	}
	add("Show", m.show.Name)
	add("Date", m.show.Date)
	add("Place", m.show.Place)
	add("Rig", m.rig.Name)
	if d, ok := m.rig.FindDestination(m.show.Destination); ok {
		add("Into", d.Name)
	}
	for i := range m.rig.Swaps {
		s := &m.rig.Swaps[i]
		add(s.Name, m.name(m.rig.InSlot(s)))
	}
	return list
}

func (m *maker) name(gear plan.ID) string {
	if g, ok := m.plan.FindGear(gear); ok {
		return g.Name
	}
	return string(gear)
}

func text(s string) Cell { return Cell{Text: s} }

// sound is a sound's cell: its letters ahead of its name, and its tape.
func (m *maker) sound(id plan.ID) Cell {
	s, ok := m.plan.FindSound(id)
	if !ok {
		return text(string(id))
	}
	words := s.Name
	if s.Short != "" {
		words = s.Short + " " + s.Name
	}
	return Cell{Text: words, Tape: s.Tape}
}
