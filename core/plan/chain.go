package plan

import "slices"

// Stops are the blocks of the path in signal order: those of lanes after what divides the
// signal for them, and before what joins it again.
func (r *Rig) Stops() []Key { return StopsIn(r.Path) }

// FromTheGuitar is a path with what is taken from a second output of a guitar at its head, where the
// signal leaves: its place in the path says nothing else.
func (p *Plan) FromTheGuitar(path []Node) []Node {
	isOutput := func(n Node) bool {
		if n.Split == nil || n.Split.Kind != SplitTap {
			return false
		}
		g, ok := p.FindGear(n.Split.From.Gear())
		return ok && g.Kind == Guitar
	}
	var first, rest []Node
	for _, n := range path {
		if isOutput(n) {
			first = append(first, n)
		} else {
			rest = append(rest, n)
		}
	}
	if len(first) == 0 {
		return path
	}
	return append(first, rest...)
}

// StopsIn are the blocks of a path in signal order, lanes included.
func StopsIn(path []Node) []Key {
	keys := []Key{}
	for i := range path {
		n := &path[i]
		if n.Split == nil {
			if n.Stop != "" {
				keys = append(keys, n.Stop)
			}
			continue
		}
		from, to := n.Split.Divider(), n.Split.To
		if from != "" {
			keys = append(keys, from)
		}
		for _, lane := range n.Split.Lanes {
			keys = append(keys, StopsIn(lane.Nodes)...)
		}
		if to != "" && to != from {
			keys = append(keys, to)
		}
	}
	return keys
}

// Divider is the block that divides the signal; "" for a tap, a Y lead or two outputs.
func (s *Split) Divider() Key {
	if s.Kind == SplitTap {
		return ""
	}
	return s.From
}

// walkNodes visits every node of a path, lanes included, in signal order.
func walkNodes(nodes []Node, visit func(*Node)) {
	for i := range nodes {
		visit(&nodes[i])
		if nodes[i].Split != nil {
			for _, lane := range nodes[i].Split.Lanes {
				walkNodes(lane.Nodes, visit)
			}
		}
	}
}

// Zone is where a stop stands with respect to the amp.
type Zone string

// The zones of a chain.
const (
	FrontOfAmp Zone = "front"
	InTheLoop  Zone = "loop"
	Out        Zone = "out"
)

// Zones says of each node of a path, splits by their id, which zone it is in. Whatever
// stands before an amp's preamp is in front of it; between preamp and power is in its loop;
// the power section and what follows are out. A lane begins in the zone its split is in, and
// what follows a join is where the first lane has come to.
func (p *Plan) Zones(path []Node) map[Key]Zone {
	zones := map[Key]Zone{}
	p.zonesFrom(p.FromTheGuitar(path), FrontOfAmp, zones)
	return zones
}

func (p *Plan) zonesFrom(path []Node, zone Zone, zones map[Key]Zone) Zone {
	for _, n := range path {
		effect := p.effectOf(n.Stop)
		g, _ := p.FindGear(n.Stop.Gear())
		isAmp := g != nil && g.Kind == Amp
		if effect == EffectPower {
			zone = Out
		}
		zones[n.ID()] = zone
		switch {
		case effect == EffectPreamp && isAmp && zone == FrontOfAmp:
			zone = InTheLoop
		case n.Split != nil:
			after := zone
			for i, lane := range n.Split.Lanes {
				if z := p.zonesFrom(lane.Nodes, zone, zones); i == 0 && n.Split.Kind != SplitTap {
					after = z
				}
			}
			zone = after
		}
	}
	return zone
}

func (p *Plan) effectOf(stop Key) Effect {
	if stop == "" {
		return ""
	}
	g, ok := p.FindGear(stop.Gear())
	if !ok {
		return ""
	}
	if b, ok := g.FindBlock(ID(stop.Rest())); ok {
		return b.Effect
	}
	return ""
}

// IsHeld reports whether the rig keeps a loop of a switcher on all night.
func (r *Rig) IsHeld(switcher ID, loop int) bool {
	return slices.Contains(r.Held, HeldLoop{Switcher: switcher, Loop: loop})
}

// Looped are the blocks that a switcher takes in and out of the chain: those in its loops, lanes
// in a loop included, but for loops that are held on.
func (r *Rig) Looped() map[Key]bool {
	in := map[Key]bool{}
	for key := range r.SwitchedLoops("") {
		in[key] = true
	}
	return in
}

// SwitchedLoops are the loops of [Rig.LoopsOf] that are switched, not held on.
func (r *Rig) SwitchedLoops(switcher ID) map[Key]int {
	loops := map[Key]int{}
	walkNodes(r.Path, func(n *Node) {
		if n.Switcher == "" || (switcher != "" && n.Switcher != switcher) || r.IsHeld(n.Switcher, n.Loop) {
			return
		}
		for _, key := range StopsIn([]Node{*n}) {
			loops[key] = n.Loop
		}
	})
	return loops
}

// LoopsOf gives the loop of each block that stands in one of a switcher, or of any switcher
// when that is "".
func (r *Rig) LoopsOf(switcher ID) map[Key]int {
	loops := map[Key]int{}
	walkNodes(r.Path, func(n *Node) {
		if n.Switcher == "" || (switcher != "" && n.Switcher != switcher) {
			return
		}
		for _, key := range StopsIn([]Node{*n}) {
			loops[key] = n.Loop
		}
	})
	return loops
}

// FrontOfAmp is a path up to the first amp on it, in one line: of a split into amps the lane of the first goes on.
func (p *Plan) FrontOfAmp(path []Node) []Node {
	var out []Node
	for _, n := range path {
		if g, ok := p.FindGear(n.Stop.Gear()); ok && g.Kind == Amp {
			return out
		}
		if n.Split != nil {
			for _, lane := range n.Split.Lanes {
				if len(p.AmpsIn(lane.Nodes)) > 0 {
					return append(out, p.FrontOfAmp(lane.Nodes)...)
				}
			}
		}
		out = append(out, n)
	}
	return out
}

// InLoopOf are the stops between the preamp and the power section of an amp, on its own line, that are not of the amp.
func (p *Plan) InLoopOf(path []Node, amp ID) []Key {
	var list []Key
	inside := false
	for _, n := range path {
		switch {
		case n.Stop.Gear() == amp && n.Split == nil:
			switch p.effectOf(n.Stop) {
			case EffectPreamp:
				inside = true
			case EffectPower:
				return list
			}
		case n.Split != nil && !inside:
			for _, lane := range n.Split.Lanes {
				if found := p.InLoopOf(lane.Nodes, amp); len(found) > 0 {
					return found
				}
			}
		case inside:
			list = append(list, StopsIn([]Node{n})...)
		}
	}
	return nil
}
