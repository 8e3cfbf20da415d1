package night

import (
	"cmp"
	"slices"

	"envex/core/plan"
	"envex/core/reach"
)

// Switch is a switch of the player's own floor.
type Switch struct {
	Key   plan.Key `json:"key" doc:"gear/switch"`
	Label string   `json:"label"`
	Gear  string   `json:"gear"`
	X     float64  `json:"x_mm"`
	Y     float64  `json:"y_mm"`
	Width float64  `json:"width_mm"`
}

// floorOf are the switches of a rig where they stand: from the back, and from left to right.
func floorOf(p *plan.Plan, report *reach.Report) []Switch {
	list := []Switch{}
	for _, s := range report.Floor.Switches {
		if g, ok := p.FindGear(s.Key.Gear()); ok {
			list = append(list, Switch{Key: s.Key, Label: s.Name, Gear: g.Name, X: s.X, Y: s.Y, Width: s.Width})
		}
	}
	slices.SortStableFunc(list, func(a, b Switch) int { return cmp.Or(cmp.Compare(a.Y, b.Y), cmp.Compare(a.X, b.X)) })
	return list
}
