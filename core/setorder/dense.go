package setorder

import (
	"context"
	"fmt"
	"math"
)

// dense is the whole table of a search: by how many of each kind were played, which kind was last, and how guitars stand
// that are tuned in several ways. Costs are packed into one number each, so that the least is the best.
type dense struct {
	*set
	radix  []int   // by kind: one more than there are of it
	stride []int   // by kind
	counts int     // of all combinations
	tuned  []int   // by guitar: the stride of how it stands; 0 for one that stands one way alone
	place  []int   // by what is in hand: its number among those of its guitar, from 1
	ways   []int   // by guitar: in how many ways it is tuned
	hands  [][]int // by guitar and place: what is in hand
	stands int     // of all combinations
	table  []uint64
	open   []bool   // by count: nothing that is left has missed its last place
	cost   []uint64 // of a change, by from, to and stood
}

// denseMost is how many entries a table may have.
const denseMost = 24 << 20

// unreached is an entry to which no way leads.
const unreached = math.MaxUint64

// packed is a cost as one number, in whole milliseconds.
func packed(x price) uint64 {
	n := uint64(math.Round(x.seconds*1000)) << 16
	if x.change {
		n |= 1 << 48
	}
	return n
}

// newDense is the table of a set; false where it would be too large.
func newDense(s *set) (*dense, bool) {
	d := &dense{set: s, counts: 1, stands: 1}
	for _, k := range s.kinds {
		d.radix = append(d.radix, len(k.units)+1)
		d.stride = append(d.stride, d.counts)
		if d.counts *= len(k.units) + 1; d.counts > denseMost {
			return nil, false
		}
	}
	d.ways, d.hands = make([]int, s.prices.guitars), make([][]int, s.prices.guitars)
	for i, g := range s.prices.guitar {
		d.ways[g]++
		d.place = append(d.place, d.ways[g])
		d.hands[g] = append(d.hands[g], i)
	}
	d.tuned = make([]int, s.prices.guitars)
	if s.rig.HandedBy == "" && s.prices.guitars > 1 {
		for g, n := range d.ways {
			if n > 1 {
				d.tuned[g] = d.stands
				if d.stands *= n + 1; d.stands > denseMost {
					return nil, false
				}
			}
		}
	}
	if d.counts > denseMost/(len(s.kinds)*d.stands) {
		return nil, false
	}
	n := len(s.prices.hands)
	d.cost = make([]uint64, n*n*(n+1))
	for from := range n {
		for to := range n {
			for stood := range n + 1 {
				put := byte(none)
				if stood < n && s.prices.guitar[stood] == s.prices.guitar[to] {
					put = byte(stood)
				}
				d.cost[(from*n+to)*(n+1)+stood] = packed(s.prices.of(byte(from), byte(to), put))
			}
		}
	}
	return d, true
}

// search fills the table and reads the best way out of it; nil where there is none.
func (d *dense) search(ctx context.Context) (*way, error) {
	d.open = make([]bool, d.counts)
	count := make([]int, len(d.kinds))
	for v := range d.counts {
		d.open[v] = d.isOpen(count)
		d.next(count)
	}
	d.table = make([]uint64, d.counts*len(d.kinds)*d.stands)
	for i := range d.table {
		d.table[i] = unreached
	}
	clear(count)
	for v := range d.counts {
		if v%4096 == 0 && ctx.Err() != nil {
			return nil, fmt.Errorf("setorder: %w", ctx.Err())
		}
		if d.open[v] {
			d.from(v, count)
		}
		d.next(count)
	}
	return d.best(), nil
}

// next counts on.
func (d *dense) next(count []int) {
	for k := range count {
		if count[k]++; count[k] < d.radix[k] {
			return
		}
		count[k] = 0
	}
}

func (d *dense) placesOf(count []int) int {
	n := 0
	for k, c := range count {
		n += c * d.kinds[k].length
	}
	return n
}

func (d *dense) isOpen(count []int) bool {
	places := d.placesOf(count)
	for k, c := range count {
		if c < len(d.kinds[k].units) && d.kinds[k].units[c].to < places {
			return false
		}
	}
	return true
}

// from goes on from every entry of a count.
func (d *dense) from(v int, count []int) {
	places := d.placesOf(count)
	for k := range d.kinds {
		if count[k] == len(d.kinds[k].units) || !d.open[v+d.stride[k]] {
			continue
		}
		u := d.kinds[k].units[count[k]]
		if places < u.from || places > u.to {
			continue
		}
		into := ((v+d.stride[k])*len(d.kinds) + k) * d.stands
		moved := uint64(len(u.entries) * abs(places-u.at))
		if v == 0 {
			cost, stands := d.take(u, none, 0)
			d.table[into+stands] = cost + moved
			continue
		}
		for last := range d.kinds {
			hand := d.handAfter(last)
			row := (v*len(d.kinds) + last) * d.stands
			for stood := range d.stands {
				before := d.table[row+stood]
				if before == unreached {
					continue
				}
				cost, stands := d.take(u, hand, stood)
				if cost += before + moved; cost < d.table[into+stands] {
					d.table[into+stands] = cost
				}
			}
		}
	}
}

// handAfter is what is in hand after one of a kind.
func (d *dense) handAfter(k int) byte {
	numbers := d.kinds[k].units[0].numbers
	return numbers[len(numbers)-1]
}

// take is what a unit costs after what is in hand, and how the guitars stand then.
func (d *dense) take(u *unit, hand byte, stood int) (cost uint64, stands int) {
	n := len(d.prices.hands)
	for i, to := range u.numbers {
		g := d.prices.guitar[to]
		if i%2 == 0 && hand != none {
			cost += d.cost[(int(hand)*n+int(to))*(n+1)+d.standing(int(g), stood)]
		}
		hand = to
		if d.tuned[g] > 0 {
			digit := stood / d.tuned[g] % (d.ways[g] + 1)
			stood += (d.place[to] - digit) * d.tuned[g]
		}
	}
	return cost, stood
}

// standing is how a guitar stands, as the prices number it; one more than there are where it was not taken up.
func (d *dense) standing(guitar, stood int) int {
	if d.tuned[guitar] == 0 {
		return len(d.prices.hands)
	}
	digit := stood / d.tuned[guitar] % (d.ways[guitar] + 1)
	if digit == 0 {
		return len(d.prices.hands)
	}
	return d.hands[guitar][digit-1]
}

// best reads the best way out of the table.
func (d *dense) best() *way {
	v, least, at := d.counts-1, uint64(unreached), -1
	for i := v * len(d.kinds) * d.stands; i < len(d.table); i++ {
		if d.table[i] < least {
			least, at = d.table[i], i
		}
	}
	if at < 0 {
		return nil
	}
	var order []*unit
	for {
		k, stands := at/d.stands%len(d.kinds), at%d.stands
		v = at / d.stands / len(d.kinds)
		n := v / d.stride[k] % d.radix[k]
		u := d.kinds[k].units[n-1]
		order = append([]*unit{u}, order...)
		before := v - d.stride[k]
		if before == 0 {
			break
		}
		at = d.cameFrom(before, u, d.table[at], stands)
	}
	w := d.begin()
	for _, u := range order {
		w = d.with(w, u)
	}
	return w
}

// cameFrom is the entry of a count from which a unit leads to a cost and a standing.
func (d *dense) cameFrom(v int, u *unit, total uint64, stands int) int {
	count, left := make([]int, len(d.kinds)), v
	for k := range count {
		count[k] = left % d.radix[k]
		left /= d.radix[k]
	}
	moved := uint64(len(u.entries) * abs(d.placesOf(count)-u.at))
	for last := range d.kinds {
		for stood := range d.stands {
			i := (v*len(d.kinds)+last)*d.stands + stood
			if d.table[i] == unreached {
				continue
			}
			if cost, then := d.take(u, d.handAfter(last), stood); then == stands && d.table[i]+cost+moved == total {
				return i
			}
		}
	}
	panic("setorder: an entry that was reached was reached from somewhere")
}
