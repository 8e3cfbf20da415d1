package setorder

import (
	"context"
	"fmt"
	"math"
	"slices"
	"strings"

	"envex/core/plan"
)

// none stands for no guitar yet.
const none = 255

// prices are what it takes to take guitars up, worked out once. Guitars in hand are called by their numbers.
type prices struct {
	rig     *plan.Rig
	hands   []plan.InHand
	guitar  []byte // by what is in hand: the number of its guitar
	guitars int
	known   map[[3]byte]price
}

type price struct {
	seconds float64
	change  bool
}

func pricesOf(r *plan.Rig, units []*unit) *prices {
	p := &prices{rig: r, known: map[[3]byte]price{}}
	guitars := map[plan.ID]byte{}
	for _, u := range units {
		for _, h := range u.hands {
			i := slices.Index(p.hands, h)
			if i < 0 {
				i = len(p.hands)
				p.hands = append(p.hands, h)
				g, ok := guitars[h.Guitar]
				if !ok {
					g = byte(len(guitars))
					guitars[h.Guitar] = g
				}
				p.guitar = append(p.guitar, g)
			}
			u.numbers = append(u.numbers, byte(i))
		}
	}
	p.guitars = len(guitars)
	return p
}

// of is what it takes to have one in hand after another; its guitar stood as it was put away, or none where it was set up
// for this.
func (p *prices) of(from, to, stood byte) price {
	if from == none {
		return price{}
	}
	key := [3]byte{from, to, stood}
	x, ok := p.known[key]
	if !ok {
		put := p.hands[to]
		if stood != none {
			put = p.hands[stood]
		}
		seconds, words := p.rig.TakenUp(p.hands[from], p.hands[to], put, func(id plan.ID) string { return string(id) })
		x = price{seconds, words != ""}
		p.known[key] = x
	}
	return x
}

// kind is units that are alike: which of them is played makes no difference but to the distance from the order there is,
// and that is least when they come in their own order.
type kind struct {
	units  []*unit
	length int
	least  cost // to come to one of it from anywhere, at least
	first  cost // from another kind
}

func kindsOf(units []*unit) []*kind {
	var list []*kind
	by := map[string]*kind{}
	for _, u := range units {
		key := fmt.Sprint(len(u.entries), u.hands, u.from, u.to)
		k := by[key]
		if k == nil {
			k = &kind{length: len(u.entries)}
			by[key] = k
			list = append(list, k)
		}
		k.units = append(k.units, u)
	}
	return list
}

// cost is what an order is judged by, in this order.
type cost struct {
	changes int
	seconds float64
	moved   int // places that songs are from where they are
}

// eps absorbs the last bits of sums.
const eps = 1e-9

func (c cost) less(d cost) bool {
	switch {
	case c.changes != d.changes:
		return c.changes < d.changes
	case math.Abs(c.seconds-d.seconds) > eps:
		return c.seconds < d.seconds
	}
	return c.moved < d.moved
}

// way is an order as far as it goes.
type way struct {
	cost
	played string // by kind: how many of it
	away   string // by guitar: how it stands
	hand   byte   // what is in hand
	last   *unit
	before *way
	places int
}

// How many ways are kept of one length: in a quick look, and in a long one.
const (
	quickWays = 2000
	maxWays   = 60000
)

// begin is the way on which nothing was played.
func (s *set) begin() *way {
	return &way{
		played: strings.Repeat("\x00", len(s.kinds)), away: strings.Repeat("\xff", s.prices.guitars), hand: none,
	}
}

// search finds the order of least cost; nil where there is none. It is false where there were more ways than are kept:
// then it is the best of those that were. A quick look at few ways is enough for most sets; else the whole table is filled,
// where it is not too large, and the way that was found has to be bettered where it is.
func (s *set) search(ctx context.Context) (*way, bool, error) {
	s.bounds()
	quick, exact, err := s.layer(ctx, nil, quickWays)
	if err != nil || exact {
		return quick, exact, err
	}
	if d, ok := newDense(s); ok {
		best, err := d.search(ctx)
		return best, true, err
	}
	best, exact, err := s.layer(ctx, quick, maxWays)
	if best == nil {
		best = quick
	}
	return best, exact, err
}

// layer goes on from length to length with so many ways at most, leaving out those that cannot better an order that is
// known. It gives nil where none does.
func (s *set) layer(ctx context.Context, known *way, most int) (*way, bool, error) {
	exact := true
	layers := make([]map[string]*way, len(s.list.Entries)+1)
	layers[0] = map[string]*way{"": s.begin()}
	for at := range s.list.Entries {
		if err := ctx.Err(); err != nil {
			return nil, false, fmt.Errorf("setorder: %w", err)
		}
		ways := sorted(layers[at], most)
		exact = exact && len(ways) == len(layers[at])
		layers[at] = nil
		for _, w := range ways {
			for _, next := range s.goOn(w) {
				if known != nil && next.places < len(s.list.Entries) && !s.atLeast(next).less(known.cost) {
					continue
				}
				into := &layers[next.places]
				if *into == nil {
					*into = map[string]*way{}
				}
				key := s.key(next)
				if old, ok := (*into)[key]; !ok || next.less(old.cost) {
					(*into)[key] = next
				}
			}
		}
	}
	ends := sorted(layers[len(s.list.Entries)], 1)
	if len(ends) == 0 {
		return nil, exact, nil
	}
	return ends[0], exact, nil
}

// atLeast is what a way costs at least when it comes to its end: each unit that is left is come to from the best of all,
// and one of each kind from another kind.
func (s *set) atLeast(w *way) cost {
	c := w.cost
	for i, k := range s.kinds {
		n := len(k.units) - int(w.played[i])
		if n == 0 {
			continue
		}
		c.changes += n * k.least.changes
		c.seconds += float64(n) * k.least.seconds
		if !slices.Contains(k.units, w.last) {
			c.changes += k.first.changes - k.least.changes
			c.seconds += k.first.seconds - k.least.seconds
		}
	}
	return c
}

// bounds works out, for each kind, the least that it takes to come to one of it: from anywhere, and from another kind.
func (s *set) bounds() {
	for _, k := range s.kinds {
		k.least, k.first = cost{changes: 1, seconds: math.Inf(1)}, cost{changes: 1, seconds: math.Inf(1)}
		for _, from := range s.kinds {
			x := s.leastPrice(from, k)
			if from != k || len(k.units) > 1 {
				k.least = both(k.least, x)
			}
			if from != k {
				k.first = both(k.first, x)
			}
		}
		if len(s.kinds) == 1 {
			k.first = k.least
		}
	}
}

// both is the least of each of two costs.
func both(a, b cost) cost {
	return cost{changes: min(a.changes, b.changes), seconds: math.Min(a.seconds, b.seconds)}
}

// leastPrice is the least that it takes to come from one kind to another, however its guitar stands.
func (s *set) leastPrice(from, k *kind) cost {
	hand, to := from.units[0].numbers[len(from.units[0].numbers)-1], k.units[0].numbers[0]
	least := cost{changes: 1, seconds: math.Inf(1)}
	for stood := range len(s.prices.hands) {
		if s.prices.guitar[stood] != s.prices.guitar[to] {
			continue
		}
		x := s.prices.of(hand, to, byte(stood))
		c := cost{seconds: x.seconds}
		if x.change {
			c.changes = 1
		}
		least = both(least, c)
	}
	return least
}

// sorted are so many ways by their keys: those of the least cost where there are more.
func sorted(layer map[string]*way, most int) []*way {
	keys := plan.SortedKeys(layer)
	list := make([]*way, len(keys))
	for i, k := range keys {
		list[i] = layer[k]
	}
	if len(list) <= most {
		return list
	}
	slices.SortStableFunc(list, func(a, b *way) int {
		switch {
		case a.less(b.cost):
			return -1
		case b.less(a.cost):
			return 1
		}
		return 0
	})
	return list[:most]
}

// goOn are the ways that are one unit longer.
func (s *set) goOn(w *way) []*way {
	list := make([]*way, 0, len(s.kinds))
	for i, k := range s.kinds {
		n := int(w.played[i])
		if n == len(k.units) {
			continue
		}
		u := k.units[n]
		if w.places < u.from || w.places > u.to {
			continue
		}
		next := s.with(w, u)
		next.played = w.played[:i] + string([]byte{byte(n + 1)}) + w.played[i+1:]
		if s.possible(next) {
			list = append(list, next)
		}
	}
	return list
}

// with is a way that goes on with a unit.
func (s *set) with(w *way, u *unit) *way {
	next := &way{cost: w.cost, played: w.played, last: u, before: w, places: w.places + len(u.entries), hand: w.hand}
	away := []byte(w.away)
	for i, to := range u.numbers {
		if i%2 == 0 { // before a song: what is done inside it is its own
			x := s.prices.of(next.hand, to, away[s.prices.guitar[to]])
			if x.change {
				next.changes++
				next.seconds += x.seconds
			}
		}
		next.hand = to
		away[s.prices.guitar[to]] = to
	}
	next.away = string(away)
	for k := range u.entries {
		next.moved += abs(w.places + k - u.at - k)
	}
	return next
}

func abs(n int) int { return max(n, -n) }

// possible reports whether nothing that is left has missed its last place.
func (s *set) possible(w *way) bool {
	for i, k := range s.kinds {
		if n := int(w.played[i]); n < len(k.units) && k.units[n].to < w.places {
			return false
		}
	}
	return true
}

// key tells apart ways of one length by all that what follows depends on: how many of each kind are played, what is in
// hand, and how guitars stand that are still to be taken up.
func (s *set) key(w *way) string {
	key := make([]byte, 0, len(w.played)+1+len(w.away))
	key = append(append(key, w.played...), w.hand)
	if s.rig.HandedBy != "" {
		return string(key) // who hands them over has them ready
	}
	for g := range s.prices.guitars {
		if g == int(s.prices.guitar[w.hand]) || !s.comes(w, byte(g)) {
			key = append(key, none)
			continue
		}
		key = append(key, w.away[g])
	}
	return string(key)
}

// comes reports whether a guitar is still to be taken up.
func (s *set) comes(w *way, guitar byte) bool {
	for i, k := range s.kinds {
		if int(w.played[i]) == len(k.units) {
			continue
		}
		for _, n := range k.units[0].numbers {
			if s.prices.guitar[n] == guitar {
				return true
			}
		}
	}
	return false
}

// costOf is what an order of units costs.
func (s *set) costOf(order []*unit) cost {
	w := s.begin()
	for _, u := range order {
		w = s.with(w, u)
	}
	return w.cost
}

// entriesOf are the entries of a way in its order.
func (s *set) entriesOf(w *way) []plan.SetEntry {
	var units []*unit
	for ; w.last != nil; w = w.before {
		units = append(units, w.last)
	}
	slices.Reverse(units)
	var list []plan.SetEntry
	for _, u := range units {
		list = append(list, u.entries...)
	}
	return list
}
