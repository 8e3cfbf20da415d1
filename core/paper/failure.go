package paper

import (
	"fmt"
	"strings"

	"envex/core/failure"
	"envex/core/plan"
)

const loadCaution = "A valve amp always needs its speaker or a rated load. Inside work on it is for a qualified tech: it holds lethal voltage even when it is unplugged."

// failure is, for each box, which sounds of the set are there without it, and the quickest way round.
func (m *maker) failure() error {
	f, err := failure.On(m.given, m.show.Rig, m.show.Destination, m.show.SetList)
	if err != nil {
		return err
	}
	part := Part{
		Title: "If it dies",
		Columns: []Column{
			{
				"box",
				false,
			}, {"still there", false}, {"changed", false}, {"lost", false}, {"kept", true}, {"changed of it", true},
			{"quickest way round", false}, {"owned, can stand in", false},
		},
		Rows: []Row{},
	}
	for _, id := range f.Boxes() {
		g, ok := m.plan.FindGear(id)
		if !ok {
			continue
		}
		x, err := f.Without(id)
		if err != nil {
			return err
		}
		part.Rows = append(part.Rows, fateRow(x))
		if g.SpeakerOut != nil && g.SpeakerOut.Valve {
			m.care(loadCaution)
		}
	}
	part.Note = fmt.Sprintf(
		"The set has %d sections: how many keep their sound, and how many of these have it changed.", f.Sections(),
	)
	m.sheet.Parts = append(m.sheet.Parts, part)
	m.sheet.Assumed = append(
		m.sheet.Assumed,
		"Lost is a sound that must have an effect which only this box gives; changed is one the box is on in. It is judged from what the sounds ask for, not by listening.",
	)
	return nil
}

func fateRow(x *failure.Fate) Row {
	var here, lost []string
	changed := map[string][]string{} // by what they are without
	kept, thinner := 0, 0            // sections of the set
	for _, s := range x.Sounds {
		kept += s.Sections
		switch s.State {
		case failure.Here:
			here = append(here, s.Name)
		case failure.Other:
			here = append(here, s.Name+" by its recipe "+s.By)
		case failure.Changed:
			changed[s.Without] = append(changed[s.Without], s.Name)
			thinner += s.Hit
		case failure.Lost:
			lost = append(lost, s.Name)
			kept -= s.Hit
		}
	}
	all := len(x.Sounds)
	var changes []string
	for _, words := range plan.SortedKeys(changed) {
		changes = append(changes, every(changed[words], all)+": "+words)
	}
	return Row{
		text(
			x.Name,
		), text(every(here, all)), text(strings.Join(changes, ". ")), text(every(lost, all)), text(fmt.Sprint(kept)),
		text(fmt.Sprint(thinner)), text(x.Round), text(plan.Listed(x.Spares)),
	}
}

// every is names one after the other, or that it is all of them.
func every(names []string, of int) string {
	if len(names) == of && of > 1 {
		return "every sound"
	}
	return strings.Join(names, "; ")
}
