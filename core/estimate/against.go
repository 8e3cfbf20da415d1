package estimate

import "fmt"

// Against is a step of dialling in as it was recorded, against what the model says of it.
type Against struct {
	Dirt   Figure  `json:"dirt_pct" doc:"Of the recording."`
	Louder *Figure `json:"louder_lu,omitempty" doc:"Than the recording before the step; absent where there is none."`
	Met    bool    `json:"met" doc:"Neither is further off than the estimate may be."`
	Words  string  `json:"words"`
}

// Step compares a recording that was made after a step with what a model says: its dirt in percent, and how many LU
// louder than before it. Before is the recording made before the step, the same way; nil where there is none.
func Step(after, before *Recording, dirt, louder float64) Against {
	out := Against{Dirt: after.Dirt, Met: true}
	out.Words = fmt.Sprintf(
		"Recorded: %.0f %% dirt (%.0f to %.0f), modelled: %.0f %%",
		after.Dirt.Is,
		after.Dirt.Low,
		after.Dirt.High,
		dirt,
	)
	switch {
	case dirt < after.Dirt.Low:
		out.Met = false
		out.Words += ", so it is dirtier than the model: turn its gain down, or play softer"
	case dirt > after.Dirt.High:
		out.Met = false
		out.Words += ", so it is cleaner than the model: turn its gain up, or play harder"
	}
	if before != nil {
		by := after.Loudness - before.Loudness
		out.Louder = &Figure{Is: by, Low: by - playedLU, High: by + playedLU}
		out.Words += fmt.Sprintf("; %+.1f LU, modelled: %+.1f LU", by, louder)
		switch {
		case louder < out.Louder.Low:
			out.Met = false
			out.Words += ", so it came out louder: turn its level down"
		case louder > out.Louder.High:
			out.Met = false
			out.Words += ", so it came out quieter: turn its level up"
		}
	}
	out.Words += "."
	return out
}
