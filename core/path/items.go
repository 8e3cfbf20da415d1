package path

import (
	"sync"

	"envex/core/plan"
)

// pose turns the preferences and what cannot be changed, for every list of a tree, into a
// linear-ordering problem, once somebody asks for it: cables and levels do not.
func (j *judge) pose(l *track) {
	l.each(func(l *track) { l.problem = sync.OnceValue(func() *problem { return j.posed(l) }) })
}

func (j *judge) posed(l *track) *problem {
	n := len(l.items)
	p := &problem{cost: make([][]int64, n), precedes: make([]uint64, n)}
	for i, a := range l.items {
		p.cost[i] = make([]int64, n)
		for k, b := range l.items {
			if i == k {
				continue
			}
			p.cost[i][k] = j.costOf(a, b)
			if (l.fixed && i < k) || mustPrecede(a, b, i, k) {
				p.precedes[k] |= 1 << i
			}
		}
	}
	closeLoops(l, p)
	p.breakTies()
	return p
}

// costOf is what it costs that item a comes before item b.
func (j *judge) costOf(a, b *item) int64 {
	var sum int64
	for _, s := range a.next {
		for _, t := range b.all {
			sum += j.openCost(s, t)
		}
	}
	return sum
}

// openCost is what it costs that s comes before t, without the pairs the player has settled.
func (j *judge) openCost(s, t *stop) int64 {
	pair := [2]*stop{s, t}
	if known, ok := j.costs[pair]; ok {
		return known
	}
	var sum int64
	for _, f := range between(j.rules, t, s) {
		if j.ignoredBecause(findingID(f.rule, t, s)) == "" {
			sum += units(f.weight)
		}
	}
	j.costs[pair] = sum
	return sum
}

// mustPrecede reports whether item a, at place i, has to come before item b, at place k,
// whatever the preferences: nothing crosses what is pinned or what ends the path, loops run in
// number order, an amp's own blocks keep theirs, what listens to an earlier stop stays after it,
// and what holds for their stops holds for them.
func mustPrecede(a, b *item, i, k int) bool {
	if a.isPinned() || b.isPinned() || a.isOpen() || b.isOpen() {
		return i < k
	}
	for _, s := range a.all { // in lanes that do not come back too
		for _, t := range b.all {
			switch {
			case t.after == s.key:
				return true
			case s.after == t.key:
				return false
			case s.isAmp() && s.gear == t.gear:
				return i < k
			}
		}
	}
	if a.isGuitarTap() != b.isGuitarTap() {
		return a.isGuitarTap()
	}
	if one, ok := a.loop(); ok && a.numbered {
		if two, ok := b.loop(); ok && one.switcher == two.switcher && one.loop < two.loop {
			return true
		}
	}
	for _, s := range a.line {
		for _, t := range b.line {
			if stopPrecedes(s, t, i < k) {
				return true
			}
		}
	}
	return false
}

// stopPrecedes reports whether s, on a line, has to come before t: what stands out of the amp and
// what ends the path stay there, and a radio is first.
func stopPrecedes(s, t *stop, now bool) bool {
	switch {
	case s.isAmp() && t.isAmp() && s.gear == t.gear:
		return false // that is settled for whole items
	case s.is(plan.EffectRadio) != t.is(plan.EffectRadio):
		return s.is(plan.EffectRadio)
	case s.ends() != t.ends():
		return now
	case t.is(plan.EffectPower) && s.zone != plan.Out:
		return true
	case t.zone == plan.Out && !t.is(plan.EffectPower) && (s.zone != plan.Out || now):
		return true
	}
	return false
}

// isPinned reports whether the player has pinned the item or anything it would take along.
func (it *item) isPinned() bool {
	if it.node.Pinned {
		return true
	}
	if it.run {
		for _, x := range it.inner[0].items {
			if x.isPinned() {
				return true
			}
		}
	}
	return false
}

// isOpen reports whether each lane ends on its own, so that nothing follows.
func (it *item) isOpen() bool {
	s := it.node.Split
	return s != nil && s.Kind != plan.SplitTap && s.Join == ""
}

// isGuitarTap reports whether the item is a tap that was left on a line without what it is
// taken from: a second output of the guitar, which comes before everything.
func (it *item) isGuitarTap() bool {
	return it.node.Split != nil && it.node.Split.Kind == plan.SplitTap
}

// closeLoops keeps every item out of the loop of an amp that has none: it must come before
// the preamp.
func closeLoops(l *track, p *problem) {
	for i, pre := range l.items {
		if pre.stop == nil || !pre.stop.isAmp() || !pre.stop.is(plan.EffectPreamp) || pre.stop.gear.Loop != nil {
			continue
		}
		for k, it := range l.items {
			for _, s := range it.line {
				if s.gear != pre.stop.gear && s.zone != plan.Out {
					p.precedes[i] |= 1 << k
				}
			}
		}
	}
}
