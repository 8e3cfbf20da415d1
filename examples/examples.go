// Package examples is rigs to start from, one for each way that players put a rig together. Each is an ordinary Envex file
// with recipes within their targets and a set that is in reach; to be taken as one's own and changed.
package examples

import (
	"embed"
	"fmt"

	"envex/core/plan"
)

//go:embed *.envex.json
var files embed.FS

// Example is a rig to start from.
type Example struct {
	ID   string `json:"id"`
	Name string `json:"name"`
	Line string `json:"line" doc:"Who plays like that, in a line."`
}

// All lists them, in the order they are offered.
func All() []Example {
	return []Example{
		{"clean-amp", "One loud clean amp", "The amp stays clean; every other sound is a pedal in front of it."},
		{
			"amp-gain", "The amp's own gain, with a loop",
			"The amp itself crunches; a drive makes it heavy, and boost, echo and reverb stand in its loop.",
		},
		{"loop-switcher", "Loop switcher", "Every pedal stands in a loop; one press brings in all that a sound needs."},
		{"stored-amp", "MIDI and a stored amp", "The amp keeps its settings in memories, and a controller calls them up."},
		{
			"four-cables", "Four cables",
			"One multi-effect: its drive stands in front of the amp, its delay and reverb in the loop.",
		},
		{"two-amps", "Two amps in stereo", "A stereo delay and reverb into two different amps, side by side."},
		{"to-the-house", "Straight to the house", "No amp on stage: a preamp, a speaker simulator and a DI."},
		{
			"travelling", "A small travelling board", "Four boxes on a board that goes into a bag, and whatever combo there is.",
		},
	}
}

// Plan is the plan of an example. It fails where there is none by that id.
func Plan(id string) (*plan.Plan, error) {
	data, err := files.ReadFile(id + ".envex.json")
	if err != nil {
		return nil, fmt.Errorf("examples: there is no example %q", id)
	}
	return plan.Decode(data)
}
