package plan

import "slices"

// Limits on a path; see the other limits of a plan.
const (
	MaxStops     = 64
	MaxLanes     = 8
	MaxLaneDepth = 8
)

// pathCheck checks one path: each block stands once, splits are whole, amps are wired as
// they can be, and switcher loops exist.
type pathCheck struct {
	*validator
	stood  map[Key]bool // blocks so far
	splits map[ID]bool
	amps   map[ID]bool // amps whose preamp stands anywhere in the path
}

func (v *validator) path(path string, nodes []Node) {
	c := &pathCheck{validator: v, stood: map[Key]bool{}, splits: map[ID]bool{}, amps: map[ID]bool{}}
	keys := StopsIn(nodes)
	if len(keys) > MaxStops {
		v.problems.add(path, "there are %d stops: the limit is %d", len(keys), MaxStops)
		return
	}
	for _, k := range keys {
		if v.plan.effectOf(k) == EffectPreamp && v.isAmp(k) {
			c.amps[k.Gear()] = true
		}
	}
	c.list(path, nodes, lineage{amps: map[ID]bool{}})
}

// PathProblems is everything wrong with a path of a rig, as far as the gear goes; nothing where it is sound.
func (p *Plan) PathProblems(path []Node) Problems { return p.PathChecks()(path) }

// PathChecks is [Plan.PathProblems] for many paths: the plan is read once.
func (p *Plan) PathChecks() func(path []Node) Problems {
	v := newValidator(p)
	return func(path []Node) Problems {
		v.problems = nil
		v.path("path", path)
		return v.problems
	}
}

// lineage is what stands before a place in its own line: the amps whose preamp the signal
// has passed, how deep in lanes the place is, and whether the line has to come back.
type lineage struct {
	amps   map[ID]bool
	depth  int
	joined bool
}

func (v *validator) isAmp(k Key) bool {
	g := v.gearByID[k.Gear()]
	return g != nil && g.Kind == Amp
}

func (c *pathCheck) list(path string, nodes []Node, past lineage) {
	for i := range nodes {
		n, np := &nodes[i], at(path, i)
		switch {
		case n.Split != nil && n.Stop != "":
			c.problems.add(np, "a place in the path is a stop or a split, not both")
			continue
		case n.Split != nil:
			c.split(dot(np, "split"), n.Split, past, i == len(nodes)-1)
		default:
			c.stop(dot(np, "stop"), n.Stop, past)
		}
		if n.KeyIn != "" && !c.stood[n.KeyIn] {
			c.problems.add(dot(np, "key"), "%q is not an earlier stop", n.KeyIn)
		}
		if n.Switcher != "" || n.Loop != 0 {
			c.switcherLoop(np, n.Switcher, n.Loop)
		}
	}
	c.fused(path, nodes)
}

func (c *pathCheck) stop(path string, key Key, past lineage) {
	if !c.stand(path, key) {
		return
	}
	g := c.gearByID[key.Gear()]
	if g.Kind != Amp {
		return
	}
	switch c.plan.effectOf(key) {
	case EffectPreamp:
		past.amps[g.ID] = true
	case EffectPower:
		if c.amps[g.ID] && !past.amps[g.ID] {
			c.problems.add(path, "the power section of %s stands before its preamp", g.Name)
		}
	}
}

// stand notes that a block stands in the path, and reports whether there is such a block.
func (c *pathCheck) stand(path string, key Key) bool {
	g, b := c.block(path, key)
	if b == nil {
		return false
	}
	if c.stood[key] {
		c.problems.add(path, "%s is in the chain twice", g.StopName(b))
	}
	c.stood[key] = true
	return true
}

func (c *pathCheck) split(path string, s *Split, past lineage, last bool) {
	if c.idForm(path, s.ID) {
		if c.splits[s.ID] || c.gearByID[s.ID] != nil {
			c.problems.add(dot(path, "id"), "the id %q is used already", s.ID)
		}
		c.splits[s.ID] = true
	}
	if past.depth >= MaxLaneDepth {
		c.problems.add(path, "lanes are nested deeper than %d levels", MaxLaneDepth)
		return
	}
	c.lanesFit(path, s, past, last)
	c.divider(path, s)
	c.choice(path, s)
	for i, lane := range s.Lanes {
		inner := lineage{amps: map[ID]bool{}, depth: past.depth + 1, joined: s.Join != ""}
		for id := range past.amps {
			inner.amps[id] = true
		}
		c.list(dot(at(dot(path, "lanes"), i), "nodes"), lane.Nodes, inner)
	}
	if s.To == "" || s.To == s.Divider() {
		return
	}
	if c.stand(dot(path, "to"), s.To) && c.plan.effectOf(s.To) != EffectMixer {
		c.problems.add(dot(path, "to"), "%s is no mixer", c.gearByID[s.To.Gear()].Name)
	}
}

// lanesFit checks how many lanes there are and whether they may end where they do.
func (c *pathCheck) lanesFit(path string, s *Split, past lineage, last bool) {
	lanes := dot(path, "lanes")
	switch n := len(s.Lanes); {
	case s.Kind == SplitTap && n != 1:
		c.problems.add(lanes, "a tap has one lane; the main path goes on beside it")
	case s.Kind == SplitLeftRight && n != 2:
		c.problems.add(lanes, "a split into left and right has two lanes")
	case s.Kind != SplitTap && n < 2:
		c.problems.add(lanes, "a split needs two lanes or more")
	case n > MaxLanes:
		c.problems.add(lanes, "there are %d lanes: the limit is %d", n, MaxLanes)
	}
	if s.Join == JoinStereo && len(s.Lanes) != 2 {
		c.problems.add(dot(path, "join"), "two lanes make a stereo signal, not %d", len(s.Lanes))
	}
	switch {
	case s.Kind == SplitTap && s.Join != "":
		c.problems.add(dot(path, "join"), "what is tapped does not come back; make it a copy to join it again")
	case s.Kind == SplitTap || s.Join != "":
	case !last:
		c.problems.add(
			dot(path, "join"), "each lane ends on its own, so nothing can follow; join the lanes, or put what follows into one",
		)
	case past.joined:
		c.problems.add(dot(path, "join"), "each lane ends on its own here, and the lane around it has to come back")
	}
	if s.To != "" && s.Join == "" {
		c.problems.add(dot(path, "to"), "nothing is joined, so there is no mixer")
	}
}

// choice checks what chooses among lanes, and the positions at which they sound.
func (c *pathCheck) choice(path string, s *Split) {
	if s.Choice != "" {
		if v, ok := c.variables[s.Choice]; !ok {
			c.problems.add(dot(path, "choice"), "there is no control %q", s.Choice)
			return
		} else if !v.IsOn() && v.Control.Kind != Selector {
			c.problems.add(dot(path, "choice"), "%s is no selector", v.Label)
			return
		}
	}
	by, chosen := c.plan.chooser(s)
	where := func(path string, list []Value) {
		if len(list) > 0 && !chosen {
			c.problems.add(path, "no switch chooses among these lanes: say under choice which does")
			return
		}
		for k, x := range list {
			c.setting(at(path, k), x, by, literal)
		}
	}
	for i, lane := range s.Lanes {
		where(dot(at(dot(path, "lanes"), i), "when"), lane.When)
	}
	if len(s.Main) > 0 && s.Kind != SplitTap {
		c.problems.add(dot(path, "main"), "only a tap has a main path beside its lane")
		return
	}
	where(dot(path, "main"), s.Main)
}

// divider checks what divides the signal: a jack of the gear for a tap, else a splitter.
func (c *pathCheck) divider(path string, s *Split) {
	fp := dot(path, "from")
	switch {
	case s.Kind == SplitTap && s.From == "":
		c.problems.add(fp, "say which jack the tap is taken from (gear/jack)")
	case s.Kind == SplitTap:
		if !c.gearExists(fp, s.From.Gear()) {
			return
		}
		g := c.gearByID[s.From.Gear()]
		if !slices.ContainsFunc(g.Jacks, func(j Jack) bool { return string(j.ID) == s.From.Rest() }) {
			c.problems.add(fp, "%s has no jack %q", g.Name, s.From.Rest())
		}
	case s.From != "":
		if e := c.plan.effectOf(s.From); c.stand(fp, s.From) && e != EffectSplitter && e != EffectMixer {
			c.problems.add(fp, "%s is not a splitter", c.gearByID[s.From.Gear()].Name)
		}
	}
}

// fused checks each amp without a loop in one line of the path: its power section follows
// its preamp, and nothing but its own blocks stands between them.
func (c *pathCheck) fused(path string, nodes []Node) {
	for i, n := range nodes {
		g := c.gearByID[n.Stop.Gear()]
		if g == nil || g.Kind != Amp || g.Loop != nil || c.plan.effectOf(n.Stop) != EffectPreamp {
			continue
		}
		power := slices.IndexFunc(nodes, func(x Node) bool {
			return x.Stop.Gear() == g.ID && c.plan.effectOf(x.Stop) == EffectPower
		})
		if power < 0 {
			c.problems.add(dot(at(path, i), "stop"), "the power section of %s is missing after its preamp", g.Name)
		}
		for j := i + 1; j < power; j++ {
			if nodes[j].Stop.Gear() != g.ID {
				c.problems.add(
					dot(at(path, j), "stop"), "%s has no effects loop, so nothing can stand between its preamp and its power section",
					g.Name,
				)
			}
		}
	}
}

// switcherLoop checks that a loop of a switcher is one that it has.
func (v *validator) switcherLoop(path string, switcher ID, loop int) {
	if switcher == "" {
		v.problems.add(dot(path, "switcher"), "say which switcher has the loop")
		return
	}
	if !v.gearExists(dot(path, "switcher"), switcher) {
		return
	}
	g := v.gearByID[switcher]
	switch {
	case g.Switcher == nil:
		v.problems.add(dot(path, "switcher"), "%s has no switched loops", g.Name)
	case !g.HasLoop(loop):
		v.problems.add(dot(path, "loop"), "%s has no loop %d; it has %d", g.Name, loop, len(g.Switcher.Loops))
	}
}
