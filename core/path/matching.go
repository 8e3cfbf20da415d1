package path

import (
	"fmt"

	"envex/core/plan"
)

// Matching is what is wrong with levels and loads along a rig's chain at one of its destinations,
// or as it stands when that is "": the findings of [Judge] that are no matter of order. It fails
// when there is no such rig or destination.
func Matching(p *plan.Plan, rig, destination plan.ID) ([]Finding, error) {
	there, err := p.At(rig, destination)
	if err != nil {
		return nil, fmt.Errorf("path: %w", err)
	}
	r, _ := there.FindRig(rig)
	d, _ := r.FindDestination(destination)
	j := newJudge(there, r, d, r.Path, nil)
	list := []Finding{}
	about := map[string]bool{
		"line-into-instrument": true, "instrument-into-line": true, "speaker-into-input": true,
		"no-load": true, "load-impedance": true, "passive-split": true,
	}
	for _, found := range [][]Finding{j.loadFindings(), j.trace.found, j.laneFindings()} {
		for _, f := range found {
			if about[f.Rule] {
				f.Settled, f.Repairs = j.ignoredBecause(f.ID), []Move{}
				list = append(list, f)
			}
		}
	}
	return list, nil
}
