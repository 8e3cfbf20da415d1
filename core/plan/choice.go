package plan

import "slices"

// Choice is how the lanes of a split are chosen: by a selector on a box, a guitar or a controller, or by
// a block that is on or off.
type Choice struct {
	By    Variable
	Lanes [][]Value // by lane, where By stands while the lane sounds; nil for one that always does
	Main  []Value   // of a tap, where By stands while the main path sounds; nil where it always does
}

// ChoiceOf is how the lanes of a split are chosen: by what the split names, else, of an A/B split, by the
// first selector of its divider, whose positions are its lanes in order and, after them, all lanes at once.
// It is false for a split whose lanes nothing chooses.
func (p *Plan) ChoiceOf(s *Split) (Choice, bool) {
	by, ok := p.chooser(s)
	if !ok {
		return Choice{}, false
	}
	c := Choice{By: by, Main: s.Main, Lanes: make([][]Value, len(s.Lanes))}
	for i, lane := range s.Lanes {
		if c.Lanes[i] = lane.When; len(lane.When) == 0 && s.Kind == SplitAB {
			c.Lanes[i] = by.positionsOf(i, len(s.Lanes))
		}
	}
	return c, true
}

// positionsOf are the positions at which lane i of n sounds where nobody says: its own, and those after
// the last lane's.
func (v Variable) positionsOf(i, n int) []Value {
	if v.IsOn() {
		return []Value{On(i > 0)}
	}
	list := []Value{}
	for k, o := range v.Control.Options {
		if k == i || k >= n {
			list = append(list, Text(o))
		}
	}
	return list
}

func (p *Plan) chooser(s *Split) (Variable, bool) {
	if s.Choice != "" {
		return p.VariableOf(s.Choice)
	}
	if s.Kind != SplitAB {
		return Variable{}, false
	}
	g, b, ok := p.blockAt(s.Divider())
	if !ok {
		return Variable{}, false
	}
	for _, v := range g.Variables() {
		if v.Block == b.ID && v.Control != nil && v.Control.Kind == Selector {
			return v, true
		}
	}
	return Variable{}, false
}

// VariableOf looks a variable of a plan's gear up by its key.
func (p *Plan) VariableOf(key Key) (Variable, bool) {
	g, ok := p.FindGear(key.Gear())
	if !ok {
		return Variable{}, false
	}
	list := g.Variables()
	i := slices.IndexFunc(list, func(v Variable) bool { return v.Key == key })
	if i < 0 {
		return Variable{}, false
	}
	return list[i], true
}

// Sounding says which lanes of a split sound as a rig is set, and whether what follows a tap does. Of an A/B
// split that nothing chooses it is the first.
func (p *Plan) Sounding(s *Split, set Setting) (lanes []bool, main bool) {
	lanes, main = make([]bool, len(s.Lanes)), true
	c, ok := p.ChoiceOf(s)
	at := set.At(c.By.Key)
	is := func(where []Value) bool { return !ok || len(where) == 0 || slices.Contains(where, at) }
	for i := range lanes {
		if lanes[i] = !ok && (s.Kind != SplitAB || i == 0); ok {
			lanes[i] = c.Lanes[i] == nil || slices.Contains(c.Lanes[i], at)
		}
		if g, known := p.FindGear(s.From.Gear()); known && s.Kind == SplitTap && g.Kind == Guitar && set.Guitar != "" &&
			g.ID != set.Guitar {
			lanes[i] = false // the other guitar's output
		}
	}
	return lanes, is(s.Main)
}

// LaneConditions are, by block, what has to hold for the lane it stands in to sound: outside it the block
// does nothing. Blocks that always sound are not in it.
func (p *Plan) LaneConditions(nodes []Node) map[Key][]KeyCondition {
	out := map[Key][]KeyCondition{}
	p.laneConditions(nodes, nil, out)
	return out
}

func (p *Plan) laneConditions(nodes []Node, have []KeyCondition, out map[Key][]KeyCondition) {
	also := func(by Variable, is []Value) []KeyCondition {
		if len(is) == 0 {
			return have
		}
		return append(slices.Clone(have), KeyCondition{Key: by.Key, Is: is})
	}
	note := func(key Key) {
		if key != "" && len(have) > 0 {
			out[key] = have
		}
	}
	for _, n := range nodes {
		if n.Split == nil {
			note(n.Stop)
			continue
		}
		note(n.Split.Divider())
		note(n.Split.To)
		c, chosen := p.ChoiceOf(n.Split)
		for i, lane := range n.Split.Lanes {
			inner := have
			if chosen {
				inner = also(c.By, c.Lanes[i])
			}
			p.laneConditions(lane.Nodes, inner, out)
		}
		if chosen && n.Split.Kind == SplitTap {
			have = also(c.By, c.Main)
		}
	}
}

// VariablesIn are the variables of a rig's gear that its chain, its guitars and its controllers bring, with
// what the lanes they stand in ask added to their conditions.
func (p *Plan) VariablesIn(r *Rig) []Variable {
	stands := map[Key]bool{}
	for _, k := range r.Stops() {
		stands[k] = true
	}
	lanes := p.LaneConditions(r.Path)
	var list []Variable
	for _, id := range r.GearIn() {
		g, ok := p.FindGear(id)
		if !ok {
			continue
		}
		shared := laneOfAll(g, stands, lanes)
		for _, v := range g.Variables() {
			extra := shared
			if v.Block != "" {
				key := BlockKey(g.ID, v.Block)
				if !stands[key] {
					continue
				}
				extra = lanes[key]
			}
			for _, c := range extra {
				if c.Key != v.Key { // what chooses a lane is not in it
					v.When = append(slices.Clone(v.When), c)
				}
			}
			list = append(list, v)
		}
	}
	return list
}

// laneOfAll is what has to hold for any block of a piece of gear to sound: what all of them share.
func laneOfAll(g *Gear, stands map[Key]bool, lanes map[Key][]KeyCondition) []KeyCondition {
	var shared []KeyCondition
	first := true
	for i := range g.Blocks {
		key := BlockKey(g.ID, g.Blocks[i].ID)
		if !stands[key] {
			continue
		}
		if first {
			shared, first = lanes[key], false
			continue
		}
		shared = slices.DeleteFunc(slices.Clone(shared), func(c KeyCondition) bool {
			return !slices.ContainsFunc(
				lanes[key], func(x KeyCondition) bool { return x.Key == c.Key && slices.Equal(x.Is, c.Is) },
			)
		})
	}
	return shared
}
