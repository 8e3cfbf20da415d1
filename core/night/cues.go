package night

import (
	"fmt"
	"slices"

	"envex/core/midi"
	"envex/core/plan"
)

// Cue is what is sent to the devices of a rig for a step: all that brings them to where it has them. Who has sent some of
// it before leaves that out.
type Cue struct {
	Entry   plan.ID     `json:"entry"`
	Section plan.ID     `json:"section"`
	Sends   []midi.Sent `json:"sends" doc:"As it begins."`
	Ready   []midi.Sent `json:"ready" doc:"What is made ready in it, once what rings is over: all that then stands, where it is not as it began."`
}

// Cues are what is sent for each step. They fail as [midi.Cue] does.
func (e *Evening) Cues() ([]Cue, error) {
	list := make([]Cue, len(e.Steps))
	for i, s := range e.Steps {
		sends, err := midi.Cue(e.plan, e.rig.ID, e.courses[i].Arrives(e.at[i]))
		if err != nil {
			return nil, fmt.Errorf("night: %w", err)
		}
		leaves, err := midi.Cue(e.plan, e.rig.ID, e.Stands(i))
		if err != nil {
			return nil, fmt.Errorf("night: %w", err)
		}
		ready := slices.DeleteFunc(leaves, func(x midi.Sent) bool {
			return slices.ContainsFunc(
				sends,
				func(y midi.Sent) bool { return y.Moves == x.Moves && y.Bytes == x.Bytes },
			)
		})
		list[i] = Cue{s.Entry, s.Section, sends, ready}
	}
	return list, nil
}

// Stands is where everything stands as a step is left, by its number.
func (e *Evening) Stands(step int) map[plan.Key]plan.Value { return e.courses[step].Stands(e.at[step]) }

// Desk is the devices of the rig, simulated, as it is played. It fails as [midi.NewDesk] does.
func (e *Evening) Desk() (*midi.Desk, error) { return midi.NewDesk(e.plan, e.rig.ID) }
