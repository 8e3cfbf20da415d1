package night

import (
	"fmt"

	"envex/core/midi"
	"envex/core/plan"
)

// Cue is what is sent to the devices of a rig for a step: all that brings them to where it has them. Who has sent some of
// it before leaves that out.
type Cue struct {
	Entry   plan.ID     `json:"entry"`
	Section plan.ID     `json:"section"`
	Sends   []midi.Sent `json:"sends"`
}

// Cues are what is sent for each step. They fail as [midi.Cue] does.
func (e *Evening) Cues() ([]Cue, error) {
	list := make([]Cue, len(e.Steps))
	for i, s := range e.Steps {
		sends, err := midi.Cue(e.plan, e.rig.ID, e.Stands(i))
		if err != nil {
			return nil, fmt.Errorf("night: %w", err)
		}
		list[i] = Cue{s.Entry, s.Section, sends}
	}
	return list, nil
}

// Stands is where everything stands as a step is left, by its number.
func (e *Evening) Stands(step int) map[plan.Key]plan.Value { return e.courses[step].Stands(e.at[step]) }

// Desk is the devices of the rig, simulated, as it is played. It fails as [midi.NewDesk] does.
func (e *Evening) Desk() (*midi.Desk, error) { return midi.NewDesk(e.plan, e.rig.ID) }
