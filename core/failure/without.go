package failure

import (
	"slices"

	"envex/core/plan"
)

// without is a path with boxes taken out of it: what stood in the loops of one stays, plugged straight
// in; where one divided the signal or joined it again, the first lane that has anything in it goes on
// alone. The path it is given is not changed.
func without(p *plan.Plan, nodes []plan.Node, out map[plan.ID]bool) []plan.Node {
	list := []plan.Node{}
	for _, n := range nodes {
		if out[n.Switcher] {
			n.Switcher, n.Loop = "", 0
		}
		if out[n.KeyIn.Gear()] {
			n.KeyIn = ""
		}
		switch {
		case n.Split == nil:
			if !out[n.Stop.Gear()] {
				list = append(list, n)
			}
		case out[n.Split.From.Gear()] && n.Split.Kind == plan.SplitTap:
		case out[n.Split.From.Gear()] || out[n.Split.To.Gear()]:
			list = append(list, without(p, firstLane(n.Split).Nodes, out)...)
		default:
			list = append(list, thinned(p, n, out)...)
		}
	}
	return list
}

// thinned is a split with boxes taken out of its lanes. A lane that ends in an amp which is out has
// nothing to be heard by and is dropped; one lane that is left is no split any more.
func thinned(p *plan.Plan, n plan.Node, out map[plan.ID]bool) []plan.Node {
	s := *n.Split
	s.Lanes = nil
	for _, lane := range n.Split.Lanes {
		if s.Join == "" && s.Kind != plan.SplitTap && out[ends(p, lane.Nodes)] {
			continue
		}
		lane.Nodes = without(p, lane.Nodes, out)
		s.Lanes = append(s.Lanes, lane)
	}
	switch len(s.Lanes) {
	case 0:
		return nil
	case 1:
		if s.Kind != plan.SplitTap {
			return s.Lanes[0].Nodes
		}
	}
	n.Split = &s
	return []plan.Node{n}
}

func firstLane(s *plan.Split) plan.Lane {
	i := slices.IndexFunc(s.Lanes, func(l plan.Lane) bool { return len(l.Nodes) > 0 })
	if i < 0 {
		return plan.Lane{}
	}
	return s.Lanes[i]
}

// ends is the amp that a line ends in; "" where it ends in none.
func ends(p *plan.Plan, nodes []plan.Node) plan.ID {
	for _, n := range slices.Backward(nodes) {
		g, ok := p.FindGear(n.Stop.Gear())
		if !ok {
			return ""
		}
		if g.Kind == plan.Amp {
			return g.ID
		}
		if b, ok := g.FindBlock(plan.ID(n.Stop.Rest())); !ok || b.Effect != plan.EffectSpeaker {
			return ""
		}
	}
	return ""
}
