package plan

import (
	"fmt"
	"slices"
)

// LaneName is what a lane of a split is called: its own name; the jack that a tap is taken from; the position
// of the switch that chooses it; its side; what it ends in, where no other lane ends in the like; else its
// number.
func (p *Plan) LaneName(s *Split, lane int) string {
	if name := s.Lanes[lane].Name; name != "" {
		return name
	}
	switch s.Kind {
	case SplitTap:
		return p.jackName(s.From)
	case SplitLeftRight:
		return []string{"left", "right"}[min(lane, 1)]
	case SplitAB:
		if c, ok := p.ChoiceOf(s); ok && !c.By.IsOn() && lane < len(c.By.Control.Options) && len(s.Lanes[lane].When) == 0 {
			return c.By.Control.Options[lane]
		}
	}
	ends := make([]string, len(s.Lanes))
	for i := range s.Lanes {
		ends[i] = p.endName(s.Lanes[i].Nodes)
	}
	own := ends[lane]
	same := 0
	for _, x := range ends {
		if x == own {
			same++
		}
	}
	if own == "" || same > 1 {
		return fmt.Sprintf("lane %d", lane+1)
	}
	return own
}

// jackName is a jack as a person would say it.
func (p *Plan) jackName(key Key) string {
	g, ok := p.FindGear(key.Gear())
	if !ok {
		return key.Rest()
	}
	if j, ok := g.FindJack(ID(key.Rest())); ok && j.Name != "" {
		return j.Name
	}
	return key.Rest()
}

// endName is the piece of gear that a line ends in; of several blocks of one box the box.
func (p *Plan) endName(nodes []Node) string {
	if len(nodes) == 0 {
		return ""
	}
	last := nodes[len(nodes)-1]
	if g, ok := p.FindGear(last.Stop.Gear()); ok {
		return g.Name
	}
	return ""
}

// SplitName is what a split is called: the jack it is taken from, or what its lanes are.
func (p *Plan) SplitName(s *Split) string {
	if s.Kind == SplitTap {
		if g, ok := p.FindGear(s.From.Gear()); ok {
			return "the " + p.jackName(s.From) + " of " + g.Name
		}
		return "the tap"
	}
	var names []string
	for i := range s.Lanes {
		names = append(names, p.LaneName(s, i))
	}
	if len(names) > 3 {
		names = append(slices.Clone(names[:2]), fmt.Sprintf("%d more", len(names)-2))
	}
	return "the split into " + Listed(names)
}

// Carries reports whether anything that sounds still comes out of a chain as a rig is set, when some of its
// stops let nothing through.
func (p *Plan) Carries(nodes []Node, set Setting, blocks func(Key) bool) bool {
	through, out := p.carries(nodes, set, blocks, true)
	return out || through && len(nodes) > 0
}

// carries follows a line: whether a signal comes through it, and whether one came out on the way.
func (p *Plan) carries(nodes []Node, set Setting, blocks func(Key) bool, in bool) (through, out bool) {
	for _, n := range nodes {
		if n.Split == nil {
			in = in && !blocks(n.Stop)
			continue
		}
		s := n.Split
		sounds, main := p.Sounding(s, set)
		in = in && (s.Divider() == "" || !blocks(s.Divider()))
		any := false
		for i, lane := range s.Lanes {
			if !sounds[i] {
				continue
			}
			t, o := p.carries(lane.Nodes, set, blocks, in)
			out = out || o
			any = any || t && (s.Kind != SplitTap || !p.endsInTuner(lane.Nodes))
		}
		switch {
		case s.Kind == SplitTap:
			out = out || any
			if in = in && main; !main {
				return false, out
			}
		case s.Join == "":
			return false, out || any
		default:
			in = any && (s.To == "" || !blocks(s.To))
		}
	}
	return in, out
}

func (p *Plan) endsInTuner(nodes []Node) bool {
	if len(nodes) == 0 {
		return true // nothing at all
	}
	_, b, ok := p.blockAt(nodes[len(nodes)-1].Stop)
	return ok && b.Effect == EffectTuner
}

// IsOutput reports whether the lane of a tap leads anywhere but to a tuner.
func (p *Plan) IsOutput(s *Split) bool {
	return s.Kind == SplitTap && len(s.Lanes) > 0 && !p.endsInTuner(s.Lanes[0].Nodes)
}

// StopsSounding are the stops that the signal passes as a rig is set: those of lanes that sound.
func (p *Plan) StopsSounding(nodes []Node, set Setting) map[Key]bool {
	out := map[Key]bool{}
	p.stopsSounding(nodes, set, out)
	return out
}

func (p *Plan) stopsSounding(nodes []Node, set Setting, out map[Key]bool) {
	for _, n := range nodes {
		if n.Split == nil {
			out[n.Stop] = true
			continue
		}
		if key := n.Split.Divider(); key != "" {
			out[key] = true
		}
		if n.Split.To != "" {
			out[n.Split.To] = true
		}
		sounds, main := p.Sounding(n.Split, set)
		for i, lane := range n.Split.Lanes {
			if sounds[i] {
				p.stopsSounding(lane.Nodes, set, out)
			}
		}
		if !main {
			return
		}
	}
}
