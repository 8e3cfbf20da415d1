package paper

import (
	"fmt"
	"strings"

	"envex/core/floor"
	"envex/core/plan"
)

// floor is every footswitch: what it does, and where it is.
func (m *maker) floor() error {
	lay := floor.Lay(m.plan, m.rig)
	part := Part{
		Title: "Footswitches",
		Columns: []Column{
			{"box", false}, {"switch", false}, {"press", false}, {"hold", false}, {"double press", false}, {"across mm", true},
			{"towards you mm", true},
		},
		Rows: []Row{},
	}
	for _, s := range lay.Switches {
		g, ok := m.plan.FindGear(s.Key.Gear())
		if !ok {
			continue
		}
		f, ok := g.FindSwitch(plan.ID(s.Key.Rest()))
		if !ok {
			continue
		}
		press, hold, double := m.rig.SwitchDoes(g, f)
		part.Rows = append(
			part.Rows,
			Row{
				text(g.Name), text(s.Label), text(m.does(press)), text(m.does(hold)), text(m.does(double)),
				text(fmt.Sprintf("%.0f", s.X)), text(fmt.Sprintf("%.0f", s.Y)),
			},
		)
	}
	part.Note = "Measured to the middle of each switch, from the far left corner."
	for _, b := range lay.Boxes {
		if !b.Placed {
			m.sheet.Assumed = append(
				m.sheet.Assumed, b.Name+" has no place yet: it is taken to stand in a row in front of the rest.",
			)
		}
	}
	m.sheet.Parts = append(m.sheet.Parts, part)
	return nil
}

// does is what a press does, in words.
func (m *maker) does(p *plan.Press) string {
	if p == nil {
		return ""
	}
	var list []string
	for _, a := range p.Actions {
		list = append(list, m.acts(a))
	}
	words := strings.Join(list, ", ")
	if p.Momentary && words != "" {
		words += ", while it is held"
	}
	return words
}

func (m *maker) acts(a plan.Action) string {
	label := m.label(a.Target)
	value := ""
	if a.Value != nil {
		value = a.Value.String()
	}
	switch a.Kind {
	case plan.Toggle:
		return label + " on and off"
	case plan.Set:
		return label + " to " + value
	case plan.Step:
		return fmt.Sprintf("%s %s", label, steps(a.Stride()))
	case plan.Tap:
		return strings.TrimSpace(label + " tap tempo")
	case plan.Recall:
		return "program " + value
	case plan.Bank:
		return "bank " + steps(a.Stride())
	case plan.Mute:
		return "mute"
	}
	return ""
}

func steps(by int) string {
	switch {
	case by == 1:
		return "up"
	case by == -1:
		return "down"
	case by < 0:
		return fmt.Sprintf("down %d", -by)
	}
	return fmt.Sprintf("up %d", by)
}

// label is what a variable is called; a control of nothing that is there keeps its key.
func (m *maker) label(key plan.Key) string {
	g, ok := m.plan.FindGear(key.Gear())
	if !ok {
		return string(key)
	}
	for _, v := range g.Variables() {
		if v.Key == key {
			return v.Label
		}
	}
	return string(key)
}
