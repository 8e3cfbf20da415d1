package electric

import (
	"math"
	"slices"

	"envex/core/plan"
)

// place tries every way to feed the loads from i on.
func (a *assigning) place(i int) {
	if a.tries++; a.tries > maxTries {
		return
	}
	if a.hopeless(i) {
		return
	}
	if i == len(a.loads) {
		if !a.have || a.now.compare(a.best) < 0 {
			a.have, a.best = true, a.now
			a.found = cloneSeats(a.seats)
			a.left = slices.Clone(a.leaves)
		}
		return
	}
	least := -1
	if a.alike[i] {
		least = a.codes[i-1]
	}
	a.open(i, least)
	a.share(i, least)
	a.leave(i)
}

func cloneSeats(list []seat) []seat {
	out := slices.Clone(list)
	for i := range out {
		out[i].loads = slices.Clone(out[i].loads)
	}
	return out
}

// hopeless reports whether nothing from here can beat the best: have fewer loads left, outputs shared
// and leads, or as few with more headroom than the best has.
func (a *assigning) hopeless(i int) bool {
	if !a.have {
		return false
	}
	bound := a.now
	unfed, short := a.unmatched(i)
	left := unfed
	if a.allows(plan.DaisyChain) {
		bound.shared += short
	} else {
		left += short
	}
	bound.unserved += left
	bound.stranded += max(0, left-a.batteries(i))
	if c := bound.counts(a.best); c != 0 {
		return c > 0
	}
	return a.floor <= a.best.least
}

// batteries counts the loads from i on that can do without a supply.
func (a *assigning) batteries(i int) int {
	n := 0
	for _, l := range a.loads[i:] {
		if l.draw.Battery {
			n++
		}
	}
	return n
}

// unmatched bounds what is left from load i on: those that nothing feeds, and of the others those that
// a maximum matching with free outputs (augmenting paths, Kuhn 1955) finds none for.
func (a *assigning) unmatched(i int) (unfed, short int) {
	for k := range a.taker {
		a.taker[k] = -1
	}
	for l := i; l < len(a.loads); l++ {
		if len(a.fits[l]) == 0 {
			unfed++
			continue
		}
		clear(a.seen)
		if !a.augment(l) {
			short++
		}
	}
	return unfed, short
}

// augment finds a free output for a load, moving others on where it has to.
func (a *assigning) augment(l int) bool {
	for _, o := range a.reach[l] {
		if !a.free[o] || a.seen[o] {
			continue
		}
		a.seen[o] = true
		if a.taker[o] < 0 || a.augment(a.taker[o]) {
			a.taker[o] = l
			return true
		}
	}
	return false
}

// kind is what seats that come to the same have in common.
type kind struct {
	class, second int
	volts         float64
	lead          string
}

// open gives a load an output of its own.
func (a *assigning) open(i, least int) {
	l := a.loads[i]
	tried := map[kind]bool{}
	for _, w := range a.fits[i] {
		if !a.free[w.out] || w.second >= 0 && !a.free[w.second] || w.out < least {
			continue
		}
		same := kind{a.class[w.out], -1, w.volts, w.lead}
		if w.second >= 0 {
			same.second = a.class[w.second]
		}
		if tried[same] || !a.supplies(&w, l) || a.grounds(&w, l) != "" {
			continue
		}
		tried[same] = true
		before := a.now
		w.loads, w.drawn = []int{i}, l.ma
		a.free[w.out] = false
		if w.second >= 0 {
			a.free[w.second] = false
		}
		if w.lead != "" {
			a.now.leads++
		}
		a.now.least = math.Min(a.now.least, w.headroom())
		supply := a.outs[w.out].supply.ID
		a.drawn[supply] += l.ma
		a.seats = append(a.seats, w)
		a.codes[i] = w.out
		a.place(i + 1)
		a.seats = a.seats[:len(a.seats)-1]
		a.drawn[supply] -= l.ma
		a.free[w.out] = true
		if w.second >= 0 {
			a.free[w.second] = true
		}
		a.now = before
	}
}

// share hangs a load beside others, where daisy chains are allowed.
func (a *assigning) share(i, least int) {
	l := a.loads[i]
	if !a.allows(plan.DaisyChain) {
		return
	}
	for k := range a.seats {
		s := &a.seats[k]
		if s.pinned != nil || s.second >= 0 || (s.drawn+l.ma)*reserve > s.gives ||
			headroom(s.gives, s.drawn+l.ma) < a.floor || s.out < least {
			continue
		}
		if v, _ := a.match(l, &a.outs[s.out], s.volts, s.lead); v != Fits || !a.supplies(s, l) {
			continue
		}
		if ids := a.on(s); a.clash(append(ids, l.gear.ID)) != "" || a.grounds(s, l) != "" {
			continue
		}
		before, was := a.now, *s
		s.loads, s.drawn = append(slices.Clone(s.loads), i), s.drawn+l.ma
		a.now.shared++
		a.now.least = math.Min(a.now.least, s.headroom())
		supply := a.outs[s.out].supply.ID
		a.drawn[supply] += l.ma
		a.codes[i] = s.out
		a.place(i + 1)
		a.drawn[supply] -= l.ma
		a.seats[k], a.now = was, before
	}
}

// leave goes on without a load.
func (a *assigning) leave(i int) {
	before := a.now
	a.now.unserved++
	if !a.loads[i].draw.Battery {
		a.now.stranded++
	}
	a.leaves = append(a.leaves, i)
	a.codes[i] = len(a.outs)
	a.place(i + 1)
	a.leaves = a.leaves[:len(a.leaves)-1]
	a.now = before
}

// supplies reports whether the supply of a seat has enough in all for one more load.
func (a *assigning) supplies(s *seat, l *load) bool {
	o := &a.outs[s.out]
	return (a.drawn[o.supply.ID]+l.ma)*reserve <= math.Max(totalOf(o.supply.Supply), 0)
}

func (a *assigning) on(s *seat) []plan.ID {
	var ids []plan.ID
	if s.pinned != nil {
		ids = append(ids, s.pinned.Gear...)
	}
	for _, i := range s.loads {
		ids = append(ids, a.loads[i].gear.ID)
	}
	return ids
}

// grounds is why a load cannot hang on an output that is not isolated, with what hangs on the other
// such outputs of its supply.
func (a *assigning) grounds(s *seat, l *load) string {
	if !a.outs[s.out].Shared {
		return ""
	}
	ids := []plan.ID{l.gear.ID}
	for k := range a.seats {
		if o := &a.outs[a.seats[k].out]; o.Shared && o.supply == a.outs[s.out].supply {
			ids = append(ids, a.on(&a.seats[k])...)
		}
	}
	return a.clash(ids)
}
