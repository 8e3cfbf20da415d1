package failure

import (
	"slices"

	"envex/core/plan"
)

// mostSpares is how many boxes are named that can stand in for one.
const mostSpares = 3

// spares are pedals that are owned, not in the chain, and able to stand in for a pedal: what does the same first. How near
// they come is not said here: it takes a meter.
func (f *Rig) spares(g *plan.Gear) []string {
	if g.Kind != plan.Pedal {
		return nil
	}
	var same, like []string
	in := f.rig.GearIn()
	for i := range f.plan.Gear {
		other := &f.plan.Gear[i]
		if other.Kind != plan.Pedal || slices.Contains(in, other.ID) || f.isUnheard(g) {
			continue
		}
		_, blocks, ok := f.plan.Instead(f.rig, g.ID, other)
		switch {
		case !ok:
		case DoesTheSame(f.plan, blocks):
			same = append(same, other.Name)
		default:
			like = append(like, other.Name)
		}
	}
	list := append(same, like...)
	return list[:min(len(list), mostSpares)]
}

// isUnheard reports whether a box is one whose job is not to be heard, so that no sound misses it.
func (f *Rig) isUnheard(g *plan.Gear) bool {
	return !slices.ContainsFunc(g.Blocks, func(b plan.Block) bool { return !b.Effect.Traits().Unheard })
}

// DoesTheSame reports whether each block that stands in has the effect of the one that it stands in for, as
// [plan.Plan.Instead] names them.
func DoesTheSame(p *plan.Plan, blocks map[plan.Key]plan.Key) bool {
	effect := func(key plan.Key) plan.Effect {
		g, _ := p.FindGear(key.Gear())
		b, _ := g.FindBlock(plan.ID(key.Rest()))
		return b.Effect
	}
	for from, to := range blocks {
		if effect(from) != effect(to) {
			return false
		}
	}
	return true
}
