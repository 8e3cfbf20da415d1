package shorthand

import (
	"fmt"
	"slices"

	"envex/core/catalog"
	"envex/core/plan"
)

// Rigged is what a reading becomes: what is to be added to a plan.
type Rigged struct {
	Gear []plan.Gear `json:"gear"`
	Rig  plan.Rig    `json:"rig"`
	Said []string    `json:"said"`
}

// Build makes gear, a path and a rig of a reading, for a plan. Every box that is typed is in the answer: what is not
// understood, and what has no place in a path, is owned and not placed.
func (r *Reading) Build(p *plan.Plan, newID func() plan.ID, name string) *Rigged {
	here := *p
	here.Gear = slices.Clone(p.Gear)
	b := &builder{
		plan: &here, kinds: NewKinds(catalog.All()), newID: newID,
		out: &Rigged{Gear: []plan.Gear{}, Said: slices.Clone(r.Said)}, boxes: map[int][]plan.Gear{},
		placed: map[plan.Key]bool{},
	}
	b.out.Rig = plan.Rig{ID: newID(), Name: b.rigName(name)}
	b.gather(r.Chips)
	if len(b.out.Rig.Guitars) == 0 {
		if i := slices.IndexFunc(p.Gear, func(g plan.Gear) bool { return g.Kind == plan.Guitar }); i >= 0 {
			b.out.Rig.Guitars = []plan.ID{p.Gear[i].ID}
			b.say("%s is plugged in.", p.Gear[i].Name)
		}
	}
	b.switcher(r.Chips)
	b.out.Rig.Path = b.path(r.Chips)
	return b.out
}

type builder struct {
	kinds *Kinds
	plan  *plan.Plan // with what is made so far
	newID func() plan.ID
	out   *Rigged

	boxes  map[int][]plan.Gear // of each chip with a box of its own
	loops  plan.ID             // the loop switcher
	placed map[plan.Key]bool
}

func (b *builder) say(format string, args ...any) {
	if words := fmt.Sprintf(format, args...); !slices.Contains(b.out.Said, words) {
		b.out.Said = append(b.out.Said, words)
	}
}

func (b *builder) rigName(name string) string {
	if name == "" {
		name = "My rig"
	}
	base := name
	for n := 2; slices.ContainsFunc(b.plan.Rigs, func(r plan.Rig) bool { return r.Name == name }); n++ {
		name = fmt.Sprintf("%s %d", base, n)
	}
	return name
}

func (b *builder) own(g plan.Gear) plan.Gear {
	b.plan.Put(g)
	b.out.Gear = append(b.out.Gear, g)
	return g
}

// gather makes the box of every chip.
func (b *builder) gather(chips []Chip) {
	for i, c := range chips {
		if c.With >= 0 {
			continue
		}
		if g, ok := b.plan.FindGear(c.Gear); ok && c.Gear != "" {
			b.boxes[i] = []plan.Gear{*g}
		} else {
			parts := []Chip{c}
			for _, o := range chips {
				if o.With == i {
					parts = append(parts, o)
				}
			}
			for range c.Count {
				b.boxes[i] = append(b.boxes[i], b.own(boxOf(b.plan, b.kinds, b.newID(), parts)))
			}
		}
		for _, g := range b.boxes[i] {
			if g.Kind == plan.Controller && g.Switcher == nil {
				b.stand(g)
			}
			switch c.Place {
			case AsGuitar:
				b.out.Rig.Guitars = append(b.out.Rig.Guitars, g.ID)
			case AsBoard:
				b.out.Rig.Floor.Board = g.ID
			}
		}
	}
}

// stand takes a controller into the rig though it is in no path: it gets a place in front of the other boxes, side by side,
// and its first switch does in the rig what it does anyway.
func (b *builder) stand(g plan.Gear) {
	const front = 200.0
	r := &b.out.Rig
	x := 0.0
	for id, at := range r.Floor.Places {
		if o, ok := b.plan.FindGear(id); ok && o.Size != nil {
			x = max(x, at.X+o.Size.Width+20)
		}
	}
	if r.Floor.Places == nil {
		r.Floor.Places = map[plan.ID]plan.Placement{}
	}
	r.Floor.Places[g.ID] = plan.Placement{X: x, Y: front}
	if len(g.Footswitches) > 0 {
		f := &g.Footswitches[0]
		press, hold, double := r.SwitchDoes(&g, f)
		r.Assignments = append(
			r.Assignments, plan.Assignment{Gear: g.ID, Switch: f.ID, Press: press, Hold: hold, Double: double},
		)
	}
}

// switcher adds the loop switcher of what stands in numbered brackets: one that is typed, else one of the catalogue.
func (b *builder) switcher(chips []Chip) {
	most := 0
	for i, c := range chips {
		most = max(most, c.Loop)
		for _, g := range b.boxes[i] {
			if g.Switcher != nil && b.loops == "" {
				b.loops = g.ID
			}
		}
	}
	if most == 0 {
		return
	}
	if b.loops == "" {
		k := b.kinds.byID["loop-switcher"]
		b.loops = b.own(k.In(b.plan, b.newID(), "Loop switcher")).ID
		b.say("A loop switcher was added for what stands in square brackets.")
	}
	for i := range b.out.Gear {
		if g := &b.out.Gear[i]; g.ID == b.loops && len(g.Switcher.Loops) < most {
			s := *g.Switcher
			s.Loops = append(slices.Clone(s.Loops), make([]plan.SwitcherLoop, most-len(s.Loops))...)
			g.Switcher = &s
			b.plan.Put(*g)
		}
	}
	if g, _ := b.plan.FindGear(b.loops); len(g.Switcher.Loops) < most {
		b.say("%s has %d loops; what is typed into later ones stands in the chain.", g.Name, len(g.Switcher.Loops))
	}
}

// path puts the segments of a chain one behind the other; a segment of several lanes is a split.
func (b *builder) path(chips []Chip) []plan.Node {
	var path []plan.Node
	last := 0
	for _, c := range chips {
		last = max(last, c.Segment)
	}
	for s := 0; s <= last; s++ {
		var lanes [][]int
		for i, c := range chips {
			if c.Segment != s || c.With >= 0 {
				continue
			}
			for len(lanes) <= c.Lane {
				lanes = append(lanes, nil)
			}
			lanes[c.Lane] = append(lanes[c.Lane], i)
		}
		lanes = slices.DeleteFunc(lanes, func(l []int) bool { return len(l) == 0 })
		if len(lanes) == 1 {
			path = append(path, b.lane(chips, lanes[0], s < last || len(lanes) > 1)...)
		} else if len(lanes) > 1 {
			path = b.split(path, chips, lanes, s == last)
		}
	}
	return path
}

// lane is the nodes of the chips of a lane, what stands in an amp's loop between its preamp and the rest of it.
func (b *builder) lane(chips []Chip, lane []int, goesOn bool) []plan.Node {
	var nodes []plan.Node
	for at := 0; at < len(lane); at++ {
		c := chips[lane[at]]
		for _, g := range b.boxes[lane[at]] {
			if c.Place != InPath && c.Place != InLoop {
				continue
			}
			if g.Kind != plan.Amp {
				nodes = append(nodes, b.stops(&g, c)...)
				continue
			}
			var looped []plan.Node
			for at+1 < len(lane) && chips[lane[at+1]].Place == InLoop {
				at++
				for _, x := range b.boxes[lane[at]] {
					looped = append(looped, b.stops(&x, chips[lane[at]])...)
				}
			}
			nodes = append(nodes, b.amp(&g, looped)...)
			rest := lane[at+1:]
			if g.SpeakerOut != nil && !g.SpeakerOut.Internal && !goesOn && !b.hasSpeaker(chips, rest) {
				k := b.kinds.byID["speaker"]
				cab := b.own(k.In(b.plan, b.newID(), "Speaker cabinet"))
				b.say("%s needs a speaker: a cabinet was added.", g.Name)
				nodes = append(nodes, b.stops(&cab, Chip{})...)
			}
		}
	}
	return nodes
}

func (b *builder) hasSpeaker(chips []Chip, lane []int) bool {
	return slices.ContainsFunc(
		lane, func(i int) bool { e := chips[i].Effect; return e == plan.EffectSpeaker || e == plan.EffectLoad },
	)
}

// amp is an amp's sections with what stands in its loop.
func (b *builder) amp(g *plan.Gear, looped []plan.Node) []plan.Node {
	var before, after []plan.Node
	seen := false
	for _, blk := range g.Blocks {
		n := b.node(g, blk.ID, Chip{})
		if n == nil {
			continue
		}
		if seen {
			after = append(after, *n)
		} else {
			before = append(before, *n)
		}
		seen = seen || blk.Effect == plan.EffectPreamp
	}
	if len(looped) > 0 && g.Loop == nil {
		b.say("%s has no loop: what was typed for it stands in front.", g.Name)
		return slices.Concat(looped, before, after)
	}
	return slices.Concat(before, looped, after)
}

// stops are the nodes of a box's circuits. What parts or joins a signal has a place in a split alone.
func (b *builder) stops(g *plan.Gear, c Chip) []plan.Node {
	var nodes []plan.Node
	for _, blk := range g.Blocks {
		if blk.Effect == plan.EffectSplitter || blk.Effect == plan.EffectMixer && blk.Inputs != "stereo" {
			b.say("%s is owned and not placed: nothing comes apart there.", g.Name)
			continue
		}
		if n := b.node(g, blk.ID, c); n != nil {
			nodes = append(nodes, *n)
		}
	}
	return nodes
}

func (b *builder) node(g *plan.Gear, block plan.ID, c Chip) *plan.Node {
	n := plan.Node{Stop: plan.BlockKey(g.ID, block)}
	if b.placed[n.Stop] {
		b.say("%s is typed twice and stands in its first place.", g.Name)
		return nil
	}
	b.placed[n.Stop] = true
	if s, ok := b.plan.FindGear(b.loops); ok && c.Loop > 0 && s.HasLoop(c.Loop) {
		n.Switcher, n.Loop = b.loops, c.Loop
	}
	return &n
}

// split parts the signal into lanes: by the splitter or A/B box at the end of the path before, else by the two sides of
// a stereo output, else by a plain Y lead. Lanes that are not the end come together again.
func (b *builder) split(path []plan.Node, chips []Chip, lanes [][]int, end bool) []plan.Node {
	s := &plan.Split{ID: b.newID(), Kind: plan.SplitCopy}
	if g, blk := b.divider(chips, lanes[0][0]); g != nil {
		s.From = plan.BlockKey(g.ID, blk.ID)
		b.placed[s.From] = true
		b.out.Said = slices.DeleteFunc(b.out.Said, func(x string) bool {
			return x == fmt.Sprintf("%s is owned and not placed: nothing comes apart there.", g.Name)
		})
		if slices.ContainsFunc(blk.Controls, func(c plan.Control) bool { return c.Kind == plan.Selector }) {
			s.Kind = plan.SplitAB
		}
	} else if b.stereoEnd(path) && len(lanes) == 2 {
		s.Kind = plan.SplitLeftRight
	}
	if !end {
		s.Join = plan.JoinSum
	}
	for i, lane := range lanes {
		s.Lanes = append(s.Lanes, plan.Lane{Name: b.laneName(chips, lane, i), Nodes: b.lane(chips, lane, !end)})
	}
	return append(path, plan.Node{Split: s})
}

func (b *builder) laneName(chips []Chip, lane []int, i int) string {
	for _, k := range lane {
		if len(b.boxes[k]) > 0 && b.boxes[k][0].Kind == plan.Amp {
			return b.boxes[k][0].Name
		}
	}
	return fmt.Sprintf("Lane %d", i+1)
}

// divider is what parts the signal right before a chip.
func (b *builder) divider(chips []Chip, before int) (*plan.Gear, *plan.Block) {
	for i := before - 1; i >= 0; i-- {
		if chips[i].Place != InPath || len(b.boxes[i]) == 0 {
			continue
		}
		g := &b.boxes[i][0]
		if len(g.Blocks) == 1 && g.Blocks[0].Effect == plan.EffectSplitter && chips[i].Segment == chips[before].Segment-1 {
			return g, &g.Blocks[0]
		}
		return nil, nil
	}
	return nil, nil
}

// stereoEnd reports whether a path ends at a box with two sides.
func (b *builder) stereoEnd(path []plan.Node) bool {
	if len(path) == 0 || path[len(path)-1].Stop == "" {
		return false
	}
	key := path[len(path)-1].Stop
	g, ok := b.plan.FindGear(key.Gear())
	if !ok {
		return false
	}
	blk, ok := g.FindBlock(plan.ID(key.Rest()))
	return ok && blk.Outputs == "stereo"
}

// File is what is made as a plan that stands alone: with the owned gear that its path uses.
func (m *Rigged) File(p *plan.Plan) *plan.Plan {
	file := &plan.Plan{}
	for _, key := range m.Rig.Stops() {
		if g, ok := p.FindGear(key.Gear()); ok {
			file.Put(*g)
		}
	}
	for _, id := range append([]plan.ID{m.Rig.Floor.Board}, m.Rig.Guitars...) {
		if g, ok := p.FindGear(id); ok && id != "" {
			file.Put(*g)
		}
	}
	for _, g := range m.Gear {
		file.Put(g)
	}
	file.Put(m.Rig)
	return file
}
