package path

import (
	"context"
	"math"
	"slices"

	"envex/core/plan"
)

// maxExact is the most stops in a knot for which the best order is found exactly: 2^20 sets.
const maxExact = 20

// problem is a linear-ordering problem: cost[i][j] is what it costs that i comes before j,
// in units, and precedes[j] are the stops that must come before j. The stops are
// numbered in their present order.
type problem struct {
	cost     [][]int64
	precedes []uint64
}

// Weights are counted in hundredths, each of hundredth units. What is left below that breaks
// ties: even with every pair of maxStops inverted, inversions do not add up to a hundredth.
const (
	hundredth = 10_000
	maxStops  = plan.MaxStops
)

func units(weight float64) int64 { return int64(math.Round(weight*100)) * hundredth }

func weightOf(units int64) float64 { return float64(units/hundredth) / 100 }

// breakTies adds one to what it costs to turn a pair of the present order round, so that
// among equals the order nearest the present one wins.
func (p *problem) breakTies() {
	for i := range p.cost {
		for j := range i {
			p.cost[i][j]++
		}
	}
}

func (p *problem) n() int { return len(p.cost) }

func (p *problem) total(order []int) int64 {
	var sum int64
	for x, i := range order {
		for _, j := range order[x+1:] {
			sum += p.cost[i][j]
		}
	}
	return sum
}

// bound is a cost no order can be under: each pair at its cheaper way round, where that is
// allowed.
func (p *problem) bound() int64 {
	var sum int64
	for i := range p.cost {
		for j := range i {
			a, b := p.cost[i][j], p.cost[j][i]
			switch {
			case p.precedes[j]&(1<<i) != 0:
				sum += a
			case p.precedes[i]&(1<<j) != 0:
				sum += b
			default:
				sum += min(a, b)
			}
		}
	}
	return sum
}

// solve finds the cheapest order of all stops. It is proven least where every knot has at
// most maxExact stops; beyond that it is the best a descent from the present order finds.
func (p *problem) solve(ctx context.Context) (order []int, proven bool, err error) {
	proven = true
	for _, knot := range p.knots() {
		if err := ctx.Err(); err != nil {
			return nil, false, err
		}
		sub := p.within(knot)
		var found []int
		var ok bool
		if len(knot) > maxExact {
			if found, err = sub.descend(ctx, sub.present()); err == nil {
				ok, proven = true, proven && sub.total(found) == sub.bound()
			}
		} else {
			found, ok, err = sub.exact(ctx)
		}
		if err != nil {
			return nil, false, err
		}
		if !ok { // what cannot be changed contradicts itself
			return p.present(), false, nil
		}
		for _, x := range found {
			order = append(order, knot[x])
		}
	}
	return order, proven, nil
}

func (p *problem) present() []int {
	order := make([]int, p.n())
	for i := range order {
		order[i] = i
	}
	return order
}

// knots parts the stops so that every stop of one knot had better, or has to, come before
// every stop of the next: then the best order is the best of each knot, one after the other,
// because each pair between knots is at its cheaper way round. They are the strongly
// connected components of the tournament of pairs; a set is a union of the first of them when
// its stops win against all others, which their numbers of wins alone tell (Landau 1953).
func (p *problem) knots() [][]int {
	n := p.n()
	wins := make([]int, n)
	for i := range n {
		for k := i + 1; k < n; k++ {
			if p.before(i, k) {
				wins[i]++
			} else {
				wins[k]++
			}
		}
	}
	sorted := p.present()
	slices.SortStableFunc(sorted, func(a, b int) int { return wins[b] - wins[a] })
	var knots [][]int
	from, sum := 0, 0
	for x, i := range sorted {
		sum += wins[i]
		k := x + 1
		if sum == k*(k-1)/2+k*(n-k) {
			knot := slices.Clone(sorted[from:k])
			slices.Sort(knot)
			knots = append(knots, knot)
			from = k
		}
	}
	return knots
}

// before reports whether stop i has to, or had better, come before stop k. There are no ties.
func (p *problem) before(i, k int) bool {
	switch {
	case p.precedes[k]&(1<<i) != 0:
		return true
	case p.precedes[i]&(1<<k) != 0:
		return false
	}
	return p.cost[i][k] < p.cost[k][i]
}

// within is the problem of some of the stops alone.
func (p *problem) within(stops []int) *problem {
	sub := &problem{cost: make([][]int64, len(stops)), precedes: make([]uint64, len(stops))}
	for x, i := range stops {
		sub.cost[x] = make([]int64, len(stops))
		for y, k := range stops {
			sub.cost[x][y] = p.cost[i][k]
			if p.precedes[k]&(1<<i) != 0 {
				sub.precedes[y] |= 1 << x
			}
		}
	}
	return sub
}

// exact finds the cheapest order by dynamic programming over sets: the cheapest way to
// begin with the stops of a set does not depend on what follows. It gives false when no
// order is allowed.
//
// What stop j costs after all of a set is the sum of a column over the set; it is read from
// two tables, one for each half of the stops.
func (p *problem) exact(ctx context.Context) ([]int, bool, error) {
	n := p.n()
	if n == 1 {
		return []int{0}, true, nil
	}
	low := n / 2
	tables := [2][][]int64{p.columns(0, low), p.columns(low, n)}
	best := make([]int64, 1<<n)
	last := make([]int8, 1<<n)
	lowMask := 1<<low - 1
	for set := 1; set < 1<<n; set++ {
		if set&0xffff == 0 && ctx.Err() != nil {
			return nil, false, ctx.Err()
		}
		best[set] = math.MaxInt64
		for rest := set; rest != 0; rest &= rest - 1 {
			j := trailing(rest)
			before := set &^ (1 << j)
			if best[before] == math.MaxInt64 || p.precedes[j]&^uint64(before) != 0 {
				continue
			}
			c := best[before] + tables[0][j][before&lowMask] + tables[1][j][before>>low]
			if c < best[set] {
				best[set], last[set] = c, int8(j)
			}
		}
	}
	if best[1<<n-1] == math.MaxInt64 {
		return nil, false, nil
	}
	order := make([]int, n)
	for set, x := 1<<n-1, n-1; set != 0; x-- {
		order[x] = int(last[set])
		set &^= 1 << last[set]
	}
	return order, true, nil
}

// columns gives, for each stop j, what it costs that j comes after each subset of the stops
// from one number up to another.
func (p *problem) columns(from, to int) [][]int64 {
	tables := make([][]int64, p.n())
	for j := range tables {
		sums := make([]int64, 1<<(to-from))
		for set := 1; set < len(sums); set++ {
			i := trailing(set)
			sums[set] = sums[set&(set-1)] + p.cost[from+i][j]
		}
		tables[j] = sums
	}
	return tables
}

// descend improves an allowed order by moving one stop at a time while that helps.
func (p *problem) descend(ctx context.Context, order []int) ([]int, error) {
	order = append([]int(nil), order...)
	now := p.total(order)
	for improved := true; improved; {
		improved = false
		for from := range order {
			if err := ctx.Err(); err != nil {
				return nil, err
			}
			for to := range order {
				next := shifted(order, from, to)
				if c := p.total(next); c < now && p.allowed(next) {
					order, now, improved = next, c, true
				}
			}
		}
	}
	return order, nil
}

func (p *problem) allowed(order []int) bool {
	var before uint64
	for _, j := range order {
		if p.precedes[j]&^before != 0 {
			return false
		}
		before |= 1 << j
	}
	return true
}

func shifted(order []int, from, to int) []int {
	next := append([]int(nil), order[:from]...)
	next = append(next, order[from+1:]...)
	return append(next[:to:to], append([]int{order[from]}, next[to:]...)...)
}
