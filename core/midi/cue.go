package midi

import (
	"fmt"

	"envex/core/plan"
)

// Cue is what brings every device of a rig that listens to where a state has it: program changes first, since they move
// everything in a device. What the state does not say, and what no message sets, is left out. It fails when the rig is
// not there.
func Cue(p *plan.Plan, rig plan.ID, state map[plan.Key]plan.Value) ([]Sent, error) {
	r, err := p.RigByID(rig)
	if err != nil {
		return nil, fmt.Errorf("midi: %w", err)
	}
	vars := variables(p, r)
	var changes, controls []Sent
	for _, g := range listeners(p, r) {
		for _, m := range g.Messages() {
			v, known := vars[m.Target]
			value, stands := state[m.Target]
			if !known || !stands {
				continue
			}
			n, ok := m.Number(v, value)
			if !ok {
				continue
			}
			if x := sent(g, m, v, value, n, g.MIDI.Channel); x.Kind == ProgramChange {
				changes = append(changes, x)
			} else {
				controls = append(controls, x)
			}
		}
	}
	return append(append([]Sent{}, changes...), controls...), nil
}

// Answer is what a device says to a message that it obeys, as simulated ones do: the same message again. One that is
// wrong says another.
func Answer(m Message, wrong bool) []byte {
	if wrong {
		if m.Kind == ProgramChange {
			m.Number = (m.Number + 1) % 128
		} else {
			m.Value = (m.Value + 1) % 128
		}
	}
	return m.Bytes()
}

// States are where every control that listens stands.
func (d *Desk) States() []Shown {
	list := []Shown{}
	for _, g := range d.devices {
		for _, m := range g.Messages() {
			list = append(
				list,
				Shown{
					Variable: m.Target,
					Gear:     g.ID,
					Label:    d.vars[m.Target].Label,
					Value:    d.states[m.Target].String(),
				},
			)
		}
	}
	return list
}
