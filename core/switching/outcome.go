package switching

import (
	"fmt"

	"envex/core/plan"
	"envex/core/reach"
)

// Outcome is the reach of a rig over the set, and the work it takes.
type Outcome struct {
	Reached    int     `json:"reached"`
	Total      int     `json:"total"`
	Tight      int     `json:"tight"`
	Late       int     `json:"late"`
	ByHand     int     `json:"by_hand"`
	Impossible int     `json:"impossible"`
	NotSet     int     `json:"not_set" doc:"Changes to or from a sound without a recipe; not in the total."`
	Exact      bool    `json:"exact"`
	Presses    int     `json:"presses" doc:"At the changes of the show."`
	Leisure    int     `json:"leisure" doc:"Presses at leisure, between the changes."`
	FootworkS  float64 `json:"footwork_s" doc:"Of the whole show."`
}

// Failed is how many changes are not reached.
func (o Outcome) Failed() int { return o.Total - o.Reached }

// OutcomeOf sums a report up.
func OutcomeOf(r *reach.Report) Outcome {
	t := r.Reach
	o := Outcome{
		Reached: t.Reached, Total: t.Total, Tight: t.Tight, Late: t.Late, ByHand: t.ByHand, Impossible: t.Impossible,
		NotSet: t.NotSet, Exact: r.Exact,
	}
	for i := range r.Changes {
		o.Presses += len(r.Changes[i].Presses)
		o.FootworkS += r.Changes[i].FootworkS
	}
	for i := range r.Sections {
		for _, x := range r.Sections[i].ReadyEarly {
			o.Leisure += x.Presses
		}
	}
	return o
}

func outcome(p *plan.Plan, rig, setList plan.ID) (Outcome, error) {
	report, err := reach.Compute(p, rig, setList)
	if err != nil {
		return Outcome{}, fmt.Errorf("switching: %w", err)
	}
	return OutcomeOf(report), nil
}
