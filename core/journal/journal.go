// Package journal reads what happened at shows: notes before and after, faults and their cures, what
// was changed on the night and fresh batteries, as lines that can be searched, and as the history of
// one box. It carries a change of the night over to the rig.
package journal

import (
	"cmp"
	"slices"
	"strings"

	"envex/core/plan"
)

// Kind is what sort of line it is.
type Kind string

// The sorts of line.
const (
	Before  Kind = "before"
	Fault   Kind = "fault"
	Change  Kind = "change"
	Battery Kind = "battery"
	After   Kind = "after"
)

// Line is one thing that was written down of a show.
type Line struct {
	Show     plan.ID `json:"show"`
	ShowName string  `json:"show_name"`
	Date     string  `json:"date,omitempty"`
	Place    string  `json:"place,omitempty"`
	Kind     Kind    `json:"kind" enum:"before,fault,change,battery,after"`
	Index    int     `json:"index" doc:"Which of its kind in the show, from 0."`
	Text     string  `json:"text"`
	Gear     plan.ID `json:"gear,omitempty"`
	Where    string  `json:"where,omitempty" doc:"Where in the chain: a box, or the lead into one."`
	Cured    string  `json:"cured,omitempty" doc:"Of a fault: how; absent while it is not."`
	Keep     string  `json:"keep,omitempty" enum:"kept,left" doc:"Of a change: what was decided."`
	Carries  string  `json:"carries,omitempty" doc:"Of a change that says which control stood where: what keeping it sets, in words."`
}

// Query says which lines are wanted; what is empty asks for nothing.
type Query struct {
	Text string  // words that must all be in the line
	Gear plan.ID // the box it is about
	Show plan.ID
	Kind Kind
}

// Read gives the lines that a query asks for, the latest show first and those without a date last; within
// a show as the night went. The plan must be valid.
func Read(p *plan.Plan, q Query) []Line {
	shows := slices.Clone(p.Shows)
	slices.SortStableFunc(shows, func(a, b plan.Show) int { return cmp.Compare(b.Date, a.Date) })
	list := []Line{}
	for i := range shows {
		for _, l := range linesOf(p, &shows[i]) {
			if q.wants(l) {
				list = append(list, l)
			}
		}
	}
	return list
}

func linesOf(p *plan.Plan, s *plan.Show) []Line {
	var list []Line
	add := func(kind Kind, i int, text string, gear plan.ID) *Line {
		list = append(
			list,
			Line{
				Show: s.ID, ShowName: s.Name, Date: s.Date, Place: s.Place, Kind: kind, Index: i, Text: text, Gear: gear,
				Where: nameOf(p, gear),
			},
		)
		return &list[len(list)-1]
	}
	if s.Notes != "" {
		add(Before, 0, s.Notes, "")
	}
	for i, f := range s.Faults {
		l := add(Fault, i, f.Text, f.Gear)
		l.Cured = f.Cured
		if f.Lead {
			l.Where = "the lead into " + l.Where
		}
	}
	for i, f := range s.Fixes {
		gear := cmp.Or(f.Gear, f.Key.Gear())
		l := add(Change, i, f.Text, gear)
		l.Keep = f.Keep
		if f.Key != "" && f.Value != nil {
			l.Carries = carries(p, f)
		}
	}
	for i, id := range s.Batteries {
		add(Battery, i, "Fresh battery", id)
	}
	if s.After != "" {
		add(After, 0, s.After, "")
	}
	return list
}

func nameOf(p *plan.Plan, id plan.ID) string {
	if g, ok := p.FindGear(id); ok {
		return g.Name
	}
	return string(id)
}

func (q Query) wants(l Line) bool {
	if q.Gear != "" && l.Gear != q.Gear || q.Show != "" && l.Show != q.Show || q.Kind != "" && l.Kind != q.Kind {
		return false
	}
	all := strings.ToLower(
		strings.Join([]string{l.ShowName, l.Date, l.Place, string(l.Kind), l.Text, l.Where, l.Cured, l.Carries}, "\n"),
	)
	for _, word := range strings.Fields(strings.ToLower(q.Text)) {
		if !strings.Contains(all, word) {
			return false
		}
	}
	return true
}
