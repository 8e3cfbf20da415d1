package path

import (
	"fmt"
	"slices"
	"sort"
	"strings"

	"envex/core/plan"
)

// findings is all that is to be said against the path as it stands, worst first.
func (j *judge) findings() []Finding {
	list := []Finding{}
	add := func(more ...Finding) {
		for _, f := range more {
			f.Settled = j.ignoredBecause(f.ID)
			f.Repairs = j.gated(f)
			f.Ways = j.waysOut(f)
			if f.Stops == nil {
				f.Stops, f.Names = []plan.Key{}, []string{}
			}
			list = append(list, f)
		}
	}
	add(j.wiringFindings()...)
	preferences := j.preferenceFindings()
	add(withoutTwins(j.signalFindings(), preferences)...)
	add(j.laneFindings()...)
	add(j.groundFindings()...)
	add(j.loadFindings()...)
	add(j.houseFindings()...)
	add(preferences...)
	add(j.limitFindings()...)
	SortByGravity(list)
	return list
}

// limitFindings are recipes that have more on at once than the player allows.
func (j *judge) limitFindings() []Finding {
	var list []Finding
	over := j.plan.OverLimit(j.rig)
	for i := range j.rig.Recipes {
		rec := &j.rig.Recipes[i]
		words, ok := over[rec.ID]
		if !ok {
			continue
		}
		name := rec.Name
		if s, found := j.plan.FindSound(rec.Sound); found {
			name = s.Name
		}
		f := about("gain-limit", Fault, fmt.Sprintf("%s has too many gain stages on", name), words)
		f.ID += ":" + string(rec.ID)
		list = append(list, f)
	}
	return list
}

// gated are the repairs of a finding that leave a path which can be wired and, where it is a matter of order, do
// not make the whole order cost more.
func (j *judge) gated(f Finding) []Move {
	list := []Move{}
	now := j.now()
	for _, m := range f.Repairs {
		if f.Gravity == Preference && m.Cost > now+1e-9 || m.Path != nil && !j.wirable(m.Path) {
			continue
		}
		list = append(list, m)
	}
	return list
}

// withoutTwins leaves out what a preference says already, that a stop ends the second side,
// and gives its repairs to that.
func withoutTwins(found, preferences []Finding) []Finding {
	var rest []Finding
	for _, f := range found {
		said := false
		for i := range preferences {
			if f.Rule == "stereo-into-mono" && preferences[i].Rule == "stereo-after-mono" &&
				preferences[i].Stops[0] == f.Stops[0] {
				preferences[i].Repairs = append(preferences[i].Repairs, f.Repairs...)
				said = true
			}
		}
		if !said {
			rest = append(rest, f)
		}
	}
	return rest
}

// about is a finding on stops that is no matter of weighing.
func about(rule string, gravity Gravity, title, reason string, stops ...*stop) Finding {
	f := Finding{ID: "route:" + rule, Rule: rule, Gravity: gravity, Title: title, Reason: reason}
	for _, s := range stops {
		f.ID += ":" + string(s.key)
		f.Stops = append(f.Stops, s.key)
		f.Names = append(f.Names, s.name)
	}
	return f
}

func (j *judge) preferenceFindings() []Finding {
	var list []Finding
	j.present.pairs(func(earlier, later *stop) {
		for _, f := range between(j.rules, later, earlier) { // had better be the other way round
			repairs, fixed := j.turnRound(later, earlier)
			if fixed {
				continue // it cannot be changed, so it is not nagged about
			}
			title := "Move " + later.name + " before " + earlier.name
			if len(repairs) == 0 { // an amp without a loop stands where it stands
				title = earlier.name + " stands before " + later.name
			}
			list = append(list, Finding{
				ID: findingID(f.rule, later, earlier), Rule: f.rule, Gravity: Preference, Title: title,
				Stops: []plan.Key{later.key, earlier.key}, Names: []string{later.name, earlier.name},
				Weight: weightOf(units(f.weight)), Reason: f.reason, School: f.school, Repairs: repairs,
			})
		}
	})
	return list
}

// place is where a stop stands in the gathered tree: a list and the number of its item.
type place struct {
	list *track
	item int
}

// places leads from the main line to a stop.
func (l *track) places(key plan.Key) []place {
	for i, it := range l.items {
		if !slices.ContainsFunc(it.all, func(s *stop) bool { return s.key == key }) {
			continue
		}
		way := []place{{l, i}}
		for _, inner := range it.inner {
			if deeper := inner.places(key); deeper != nil {
				return append(way, deeper...)
			}
		}
		return way
	}
	return nil
}

// parting is the line on which two stops are in different items.
func (j *judge) parting(a, b *stop) (l *track, i, k int, ok bool) {
	one, two := j.whole.places(a.key), j.whole.places(b.key)
	for x := range min(len(one), len(two)) {
		if one[x].list != two[x].list {
			return nil, 0, 0, false
		}
		if one[x].item != two[x].item {
			return one[x].list, one[x].item, two[x].item, true
		}
	}
	return nil, 0, 0, false
}

// turnRound gives the ways to bring a stop before one that it follows: by moving it, or the
// other, or by exchanging the plugs of the switcher loops they stand in; the cheaper first.
// It is fixed where nothing is to be said because it is so by the player's own word, across a
// pinned stop, or by how a box is made.
func (j *judge) turnRound(first, second *stop) (moves []Move, fixed bool) {
	moves = []Move{}
	l, from, to, ok := j.parting(first, second)
	if !ok {
		return moves, !second.joint // a splitter stands before its lanes, whatever it does to them
	}
	a, b := l.items[from], l.items[to]
	if a.isPinned() || b.isPinned() || first.gear == second.gear {
		return moves, true
	}
	if j.broken {
		return moves, false // that comes first
	}
	if one, two := j.loopOf(first.key), j.loopOf(second.key); one.switcher != "" && one.switcher == two.switcher &&
		a.numbered {
		return j.exchange(one, two, first.key), false
	}
	present := l.problem().present()
	for _, m := range []struct {
		after []int
		moved *item
		words string
	}{
		{shifted(present, from, to), a, fmt.Sprintf("Move %s before %s", a.name(), b.name())},
		{shifted(present, to, from), b, fmt.Sprintf("Move %s after %s", b.name(), a.name())},
	} {
		if l.problem().allowed(m.after) {
			moves = append(moves, j.moved(order{l: m.after}, m.moved.id(), m.words))
		}
	}
	sort.SliceStable(moves, func(a, b int) bool { return moves[a].Cost < moves[b].Cost })
	return moves, false
}

// loopOf is the loop a stop of a line stands in.
func (j *judge) loopOf(key plan.Key) (found loopID) {
	mapNodes(j.path, func(n plan.Node) plan.Node {
		if n.ID() == key && n.Switcher != "" {
			found = loopID{n.Switcher, n.Loop}
		}
		return n
	})
	return found
}

// exchange is the one way to turn two numbered loops of a switcher round: their plugs change
// places.
func (j *judge) exchange(one, two loopID, what plan.Key) []Move {
	path, ok := j.exchanged(one, two)
	if !ok {
		return []Move{}
	}
	return []Move{j.rewired(path, what, exchangeWords(one, two))}
}

func exchangeWords(one, two loopID) string {
	return fmt.Sprintf("Exchange the plugs of loops %d and %d", min(one.loop, two.loop), max(one.loop, two.loop))
}

func renumbered(nodes []plan.Node, one, two loopID) []plan.Node {
	out := slices.Clone(nodes)
	for i := range out {
		switch id := (loopID{out[i].Switcher, out[i].Loop}); id {
		case one:
			out[i].Loop = two.loop
		case two:
			out[i].Loop = one.loop
		}
	}
	return out
}

// wiringFindings are the places where the path asks for what cannot be wired: loops of a
// switcher out of number order, boxes between two loops without a way out, and blocks of one
// box with something between them.
func (j *judge) wiringFindings() []Finding {
	var list []Finding
	j.present.each(func(l *track) {
		list = append(list, j.loopFindings(l)...)
		list = append(list, j.boxFindings(l)...)
	})
	return list
}

// mend brings together what cannot be parted, where that breaks nothing else.
func (j *judge) mend(what plan.Key, words string) []Move {
	if !j.mends {
		return nil
	}
	return []Move{j.moved(order{}, what, words)}
}

func (j *judge) loopFindings(l *track) []Finding {
	var list []Finding
	for _, id := range switchersIn(l.items) {
		g, ok := j.plan.FindGear(id)
		if !ok || g.Switcher == nil {
			continue
		}
		last := -1
		for i, it := range l.items {
			at, in := it.loop()
			if !in || at.switcher != id {
				continue
			}
			if last >= 0 {
				list = append(list, j.betweenLoops(g, l, last, i)...)
			}
			last = i
		}
	}
	return list
}

// betweenLoops judges two places of a line that follow each other in the loops of a switcher,
// and what stands between them.
func (j *judge) betweenLoops(g *plan.Gear, l *track, i, k int) []Finding {
	a, _ := l.items[i].loop()
	b, _ := l.items[k].loop()
	var list []Finding
	if b.loop < a.loop && !g.Switcher.Reorders {
		f := about("loop-order", Fault, fmt.Sprintf("Loop %d before loop %d", b.loop, a.loop),
			fmt.Sprintf("the loops of %s run in number order", g.Name), l.items[k].all[0], l.items[i].all[0])
		f.Repairs = append(f.Repairs, j.mend(l.items[k].id(), "Put the loops in number order")...)
		if path, ok := j.exchanged(a, b); ok {
			f.Repairs = append(f.Repairs, j.rewired(path, l.items[k].id(), exchangeWords(a, b)))
		}
		return append(list, f)
	}
	if !g.Switcher.Reorders && breakBetween(g, a.loop, b.loop) {
		return nil // a switcher that reorders its loops has no way out that stays between the same two
	}
	for _, it := range l.items[i+1 : k] {
		if len(it.all) == 0 {
			continue
		}
		f := about("between-loops", Fault, fmt.Sprintf("%s between loops %d and %d", it.name(), a.loop, b.loop),
			fmt.Sprintf("%s has no break point there, so the signal cannot leave it and come back", g.Name), it.all[0])
		if a.loop == b.loop {
			f.Title = fmt.Sprintf("%s inside loop %d", it.name(), a.loop)
			f.Reason = fmt.Sprintf("what stands between two stops of a loop of %s is in that loop too", g.Name)
			f.Repairs = append(
				f.Repairs, j.rewired(withLoop(j.path, it.id(), a), it.id(), fmt.Sprintf("Put %s into loop %d", it.name(), a.loop)),
			)
		}
		f.Repairs = append(f.Repairs, j.mend(it.id(), fmt.Sprintf("Move %s after loop %d", it.name(), b.loop))...)
		f.Repairs = append(f.Repairs, j.intoSpare(g, it, a.loop, b.loop)...)
		list = append(list, f)
	}
	return list
}

// intoSpare offers an empty loop between two others for a box, held on.
func (j *judge) intoSpare(g *plan.Gear, it *item, from, to int) []Move {
	used := map[int]bool{}
	j.present.each(func(l *track) {
		for _, x := range l.items {
			if id, ok := x.loop(); ok && id.switcher == g.ID {
				used[id.loop] = true
			}
		}
	})
	for k := from + 1; k < to; k++ {
		if used[k] {
			continue
		}
		m := j.rewired(
			withLoop(j.path, it.id(), loopID{g.ID, k}), it.id(),
			fmt.Sprintf("Put %s into spare loop %d and hold it on", it.name(), k),
		)
		m.Held = []plan.HeldLoop{{Switcher: g.ID, Loop: k}}
		return []Move{m}
	}
	return nil
}

// withLoop is a path with one node put into a loop.
func withLoop(nodes []plan.Node, id plan.Key, loop loopID) []plan.Node {
	return mapNodes(nodes, func(n plan.Node) plan.Node {
		if n.ID() == id {
			n.Switcher, n.Loop = loop.switcher, loop.loop
		}
		return n
	})
}

// exchanged is the path with the numbers of two loops exchanged, and in the order that follows;
// false where it cannot be wired even so.
func (j *judge) exchanged(a, b loopID) ([]plan.Node, bool) {
	next := newJudge(
		j.plan, j.rig, j.dest, mapNodes(j.path, func(n plan.Node) plan.Node { return renumbered([]plan.Node{n}, a, b)[0] }),
		j.driven,
	)
	path := order{}.nodes(next.whole)
	return path, next.mends && len(newJudge(j.plan, j.rig, j.dest, path, j.driven).wiringFindings()) == 0
}

// mapNodes is a path with every node changed, those of lanes included.
func mapNodes(nodes []plan.Node, change func(plan.Node) plan.Node) []plan.Node {
	out := slices.Clone(nodes)
	for i := range out {
		if s := out[i].Split; s != nil {
			next := *s
			next.Lanes = slices.Clone(s.Lanes)
			for k := range next.Lanes {
				next.Lanes[k].Nodes = mapNodes(s.Lanes[k].Nodes, change)
			}
			out[i].Split = &next
		}
		out[i] = change(out[i])
	}
	return out
}

// boxFindings are the boxes of a line whose blocks stand apart without jacks for it.
func (j *judge) boxFindings(l *track) []Finding {
	var list []Finding
	last := map[plan.ID]int{}
	for i, it := range l.items {
		if it.stop == nil || len(it.stop.gear.Blocks) < 2 || standsApart(it.stop) {
			continue
		}
		at, seen := last[it.stop.gear.ID]
		last[it.stop.gear.ID] = i
		if !seen || at == i-1 || standsApart(l.items[at].stop) {
			continue
		}
		var between []string
		for _, x := range l.items[at+1 : i] {
			between = append(between, x.name())
		}
		f := about("one-box", Fault, it.stop.gear.Name+" in two places",
			fmt.Sprintf("it has no jacks between its blocks, so %s cannot stand between them", strings.Join(between, ", ")),
			l.items[at].stop, it.stop)
		f.Repairs = append(f.Repairs, j.mend(it.id(), fmt.Sprintf("Bring the blocks of %s together", it.stop.gear.Name))...)
		list = append(list, f)
	}
	return list
}
