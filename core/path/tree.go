package path

import (
	"slices"

	"envex/core/plan"
)

// track is a line of items that are ordered among each other: the main path, or a lane.
type track struct {
	items   []*item
	fixed   bool // the items keep the order they are listed in
	problem func() *problem
}

// item is what moves as one: a stop, a split with its lanes, or stops that have to stay
// next to each other.
type item struct {
	node   plan.Node // of a stop or a split
	stop   *stop     // of a stop
	inner  []*track  // lanes of a split; or the one list of what stays together
	called string    // of a split, its name
	joint  []*stop   // of a split: what divides and what joins
	run    bool      // stops that stay together

	numbered bool // it stands in a loop of a switcher whose loops run in number order

	all  []*stop // every stop within, in signal order
	next []*stop // of those, the ones that what follows is fed through
	line []*stop // of those, the ones that stand on the line itself or have to be passed
}

// reader makes lists of items out of nodes.
type reader struct {
	plan  *plan.Plan
	rig   *plan.Rig
	stops map[plan.Key]*stop
	gears map[plan.ID]*plan.Gear
	group bool // gather what has to stay together
}

func (r *reader) list(nodes []plan.Node) *track {
	l := &track{}
	for _, n := range nodes {
		if it := r.item(n); it != nil {
			l.items = append(l.items, it)
		}
	}
	if r.group {
		r.gather(l)
	}
	return l
}

func (r *reader) item(n plan.Node) *item {
	if n.Split == nil {
		s, ok := r.stops[n.Stop]
		if !ok {
			return nil
		}
		return &item{node: n, stop: s, all: []*stop{s}, next: []*stop{s}, line: []*stop{s}}
	}
	it := &item{node: n, called: r.plan.SplitName(n.Split)}
	if s, ok := r.stops[n.Split.Divider()]; ok {
		it.joint = append(it.joint, s)
	}
	it.all = append(it.all, it.joint...)
	for _, lane := range n.Split.Lanes {
		inner := r.list(lane.Nodes)
		it.inner = append(it.inner, inner)
		for _, x := range inner.items {
			it.all = append(it.all, x.all...)
		}
	}
	if s, ok := r.stops[n.Split.To]; ok && n.Split.To != n.Split.Divider() {
		it.joint = append(it.joint, s)
		it.all = append(it.all, s)
	}
	if n.Split.Kind != plan.SplitTap {
		it.next, it.line = it.all, it.all
	}
	return it
}

// stay is an item of others that stay next to each other.
func stay(inner *track) *item {
	it := &item{run: true, inner: []*track{inner}}
	for _, x := range inner.items {
		it.all = append(it.all, x.all...)
		it.next = append(it.next, x.next...)
		it.line = append(it.line, x.line...)
	}
	return it
}

// gather puts together what cannot be parted: taps with what they are taken from, the blocks
// of a box that has no jacks between them, the stops of one loop, and loops of a switcher
// that have no break point between them.
func (r *reader) gather(l *track) {
	for i := 0; i < len(l.items); i++ {
		if at := r.source(l, i); at >= 0 && at != i {
			l.items = together(l.items, []int{at, i}, true)
			i = -1
		}
	}
	l.items = gatherBy(l.items, true, r.box)
	l.items = gatherBy(l.items, false, loopOf)
	for _, id := range switchersIn(l.items) {
		r.gatherLoops(l, id)
	}
}

// source is the item that a tap is taken from: the last block of that gear before it, or the
// first after; -1 where the item is no tap or its source is not on this line.
func (r *reader) source(l *track, i int) int {
	n := l.items[i].node
	if n.Split == nil || n.Split.Kind != plan.SplitTap {
		return -1
	}
	found := -1
	for k, x := range l.items {
		for _, s := range x.line {
			if s.gear.ID == n.Split.From.Gear() && (found < 0 || k < i) {
				found = k
			}
		}
	}
	return found
}

// box is the gear of a block that has no jacks of its own to stand apart with.
func (r *reader) box(it *item) (any, bool) {
	if it.stop == nil || len(it.stop.gear.Blocks) < 2 || standsApart(it.stop) {
		return nil, false
	}
	return struct {
		gear     plan.ID
		switcher plan.ID
		loop     int
	}{it.stop.gear.ID, it.node.Switcher, it.node.Loop}, true
}

// standsApart reports whether a block can stand away from the others of its box.
func standsApart(s *stop) bool {
	if s.isAmp() {
		return true // preamp and power have rules of their own
	}
	return slices.ContainsFunc(s.gear.Jacks, func(j plan.Jack) bool { return j.Block == s.block.ID })
}

type loopID struct {
	switcher plan.ID
	loop     int
}

func loopOf(it *item) (any, bool) {
	id, ok := it.loop()
	return id, ok
}

// loop is the loop an item stands in: a stop's or a split's own, or that of a run.
func (it *item) loop() (loopID, bool) {
	if it.run {
		return it.inner[0].items[0].loop()
	}
	return loopID{it.node.Switcher, it.node.Loop}, it.node.Switcher != ""
}

// gatherBy puts the items with the same key together, at the place of the first.
func gatherBy(items []*item, fixed bool, key func(*item) (any, bool)) []*item {
	for i := 0; i < len(items); i++ {
		k, ok := key(items[i])
		if !ok {
			continue
		}
		members := []int{i}
		for j := i + 1; j < len(items); j++ {
			if k2, ok := key(items[j]); ok && k2 == k {
				members = append(members, j)
			}
		}
		if len(members) > 1 {
			items = together(items, members, fixed)
		}
	}
	return items
}

// together makes one item of several, at the place of the first.
func together(items []*item, members []int, fixed bool) []*item {
	inner := &track{fixed: fixed}
	var rest []*item
	place := slices.Min(members)
	for _, m := range members {
		inner.items = append(inner.items, items[m])
	}
	for i, x := range items {
		switch {
		case i == place:
			rest = append(rest, stay(inner))
		case !slices.Contains(members, i):
			rest = append(rest, x)
		}
	}
	return rest
}

func switchersIn(items []*item) []plan.ID {
	var ids []plan.ID
	for _, it := range items {
		if id, ok := it.loop(); ok && !slices.Contains(ids, id.switcher) {
			ids = append(ids, id.switcher)
		}
	}
	return ids
}

// gatherLoops puts the loops of one switcher into number order, and those without a break
// point between them together.
func (r *reader) gatherLoops(l *track, switcher plan.ID) {
	g := r.gears[switcher]
	if g == nil || g.Switcher == nil {
		return
	}
	var places []int
	for i, it := range l.items {
		if id, ok := it.loop(); ok && id.switcher == switcher {
			places = append(places, i)
			it.numbered = !g.Switcher.Reorders
		}
	}
	inOrder := make([]*item, len(places))
	for x, i := range places {
		inOrder[x] = l.items[i]
	}
	if !g.Switcher.Reorders {
		slices.SortStableFunc(inOrder, func(a, b *item) int {
			x, _ := a.loop()
			y, _ := b.loop()
			return x.loop - y.loop
		})
	}
	for x, i := range places {
		l.items[i] = inOrder[x]
	}
	for x := len(places) - 1; x > 0; x-- {
		// From the back, so that places before stay what they are.
		a, _ := l.items[places[x-1]].loop()
		b, _ := inOrder[x].loop()
		if g.Switcher.Reorders || !breakBetween(g, a.loop, b.loop) {
			continue
		}
		l.items = segment(l.items, places[x:], g.Switcher.Reorders)
		places = places[:x]
	}
	l.items = segment(l.items, places, g.Switcher.Reorders)
}

func segment(items []*item, places []int, free bool) []*item {
	if len(places) < 2 {
		return items
	}
	out := together(items, places, !free)
	for _, it := range out {
		if it.run && it.inner[0].items[0] == items[places[0]] {
			it.numbered = !free
		}
	}
	return out
}

// breakBetween reports whether the chain can leave a switcher after loop a and come back
// before loop b.
func breakBetween(g *plan.Gear, a, b int) bool {
	for k := a + 1; k <= b; k++ {
		if g.HasLoop(k) && g.Switcher.Loops[k-1].Break {
			return true
		}
	}
	return false
}

// order is how each list of a tree is arranged: the numbers of its items. A list that is not
// in it stands as it is.
type order map[*track][]int

// nodes writes a list back as a path.
func (o order) nodes(l *track) []plan.Node {
	nodes := []plan.Node{}
	for x := range l.items {
		i := x
		if arranged, ok := o[l]; ok {
			i = arranged[x]
		}
		it := l.items[i]
		switch {
		case it.run:
			nodes = append(nodes, o.nodes(it.inner[0])...)
		case it.node.Split != nil:
			s := *it.node.Split
			s.Lanes = slices.Clone(s.Lanes)
			for k := range s.Lanes {
				s.Lanes[k].Nodes = o.nodes(it.inner[k])
			}
			n := it.node
			n.Split = &s
			nodes = append(nodes, n)
		default:
			nodes = append(nodes, it.node)
		}
	}
	return nodes
}

// each visits a list and every list within.
func (l *track) each(visit func(*track)) {
	visit(l)
	for _, it := range l.items {
		for _, inner := range it.inner {
			inner.each(visit)
		}
	}
}

// pairs visits every two stops of which the first feeds the second, in a tree as it stands.
func (l *track) pairs(visit func(first, second *stop)) {
	for x, a := range l.items {
		for _, b := range l.items[x+1:] {
			for _, s := range a.next {
				for _, t := range b.all {
					visit(s, t)
				}
			}
		}
		for _, inner := range a.inner {
			if len(a.joint) > 0 && a.joint[0].key == a.node.Split.Divider() {
				for _, it := range inner.items {
					for _, t := range it.all {
						visit(a.joint[0], t)
					}
				}
			}
			inner.pairs(visit)
		}
	}
}
