package board

import (
	"fmt"
	"slices"

	"envex/core/plan"
)

// assume says what was taken to be so.
func (x *rigOn) assume(r *Report) {
	said := func(words string, names []string) {
		if len(names) > 0 {
			r.Assumed = append(r.Assumed, fmt.Sprintf(words, listed(names)))
		}
	}
	var sizes, sockets, inlets, heights, weights []string
	for _, b := range x.lay.Boxes {
		g, ok := x.plan.FindGear(b.Gear)
		if !ok || b.Board == "" {
			continue
		}
		switch {
		case g.Size == nil && g.FloorUnit == nil:
			sizes = append(sizes, g.Name)
		case g.Size != nil && g.Size.Height == nil:
			heights = append(heights, g.Name)
		}
		if slices.ContainsFunc(g.Jacks, func(j plan.Jack) bool { return j.Side != "" && j.At == nil }) {
			sockets = append(sockets, g.Name)
		}
		if g.Power != nil && g.Power.Side == "" {
			inlets = append(inlets, g.Name)
		}
	}
	for _, id := range r.Weight.Unknown {
		if g, ok := x.plan.FindGear(id); ok {
			weights = append(weights, g.Name)
		}
	}
	said("The size of %s is not known: a small box of 70 by 120 mm is taken.", sizes)
	said("The height of %s is not known, so no lid is judged over it.", heights)
	said("Where along their sides the jacks of %s are is not known: any place with room for the plug is taken.", sockets)
	said("Where the power goes into %s is not known, so room for its plug is not judged.", inlets)
	said("The weight of %s is not known and not in the total.", weights)
	if r.Weight.Cables > 0 {
		r.Assumed = append(
			r.Assumed, fmt.Sprintf("Leads are taken to weigh %.0f g a metre and %.0f g a plug.", cableGPerM, plugG),
		)
	}
	if g, ok := x.plan.FindGear(r.Board); ok && g.Size == nil {
		r.Assumed = append(r.Assumed, fmt.Sprintf("The size of %s is not known, so what stands on it is not judged.", g.Name))
	}
}

// listed is names in a row: all of a few, else how many.
func listed(names []string) string {
	if len(names) > 4 {
		names = append(slices.Clone(names[:2]), fmt.Sprintf("%d others", len(names)-2))
	}
	return plan.Listed(names)
}
