package switching

import (
	"context"
	"math/bits"
	"slices"
)

// pages is the problem of one page in its bare form: which bank each program stands in. The
// weight of two programs is how often the show goes from one to the other.
//
// The bank steps of a change are the boundaries between the two banks, so all steps together are
// the sum, over the boundaries, of the weights that cross: a chain of growing sets of programs, at
// most slots more at a step, and the sum of their cuts is to be least.
type pages struct {
	weight [][]int
	slots  int
	banks  int
}

// layout is a bank for each program, and what is known about it.
type layout struct {
	bank   []int
	steps  int
	bound  int // no layout steps less
	proven bool
}

// maxExact is the most programs for which the least is found by dynamic programming: 2^24 sets.
const maxExact = 24

func (p *pages) n() int { return len(p.weight) }

func (p *pages) steps(bank []int) int {
	sum := 0
	for i := range bank {
		for k := range i {
			d := bank[i] - bank[k]
			sum += p.weight[i][k] * max(d, -d)
		}
	}
	return sum
}

// solve finds the layout with the fewest bank steps. Programs that are never changed to or from
// stand anywhere and drop out first; where all fit into one bank there is nothing to do. It ends
// with the context's error when that is cancelled.
func (p *pages) solve(ctx context.Context, progress func(share float64)) (layout, error) {
	var moving []int
	for i := range p.weight {
		for k := range p.weight {
			if i != k && p.weight[i][k] > 0 {
				moving = append(moving, i)
				break
			}
		}
	}
	sub := &pages{slots: p.slots, banks: p.banks}
	for _, i := range moving {
		row := make([]int, len(moving))
		for y, k := range moving {
			row[y] = p.weight[i][k]
		}
		sub.weight = append(sub.weight, row)
	}
	found, err := sub.place(ctx, progress)
	if err != nil {
		return layout{}, err
	}
	out := layout{bank: make([]int, p.n()), steps: found.steps, bound: found.bound, proven: found.proven}
	load := make([]int, p.banks)
	for x, i := range moving {
		out.bank[i] = found.bank[x]
		load[found.bank[x]]++
	}
	for i := range p.weight {
		if slices.Contains(moving, i) {
			continue
		}
		b := slices.IndexFunc(load, func(n int) bool { return n < p.slots })
		out.bank[i] = b
		load[b]++
	}
	return out, nil
}

func (p *pages) place(ctx context.Context, progress func(float64)) (layout, error) {
	if p.n() <= p.slots {
		return layout{bank: make([]int, p.n()), proven: true}, nil
	}
	good := p.descend()
	if p.n() > maxExact || p.heavy() {
		good.bound = p.bound()
		good.proven = good.steps == good.bound
		return good, ctx.Err()
	}
	return p.exact(ctx, progress, good)
}

// bound is a number of steps no layout is under: every boundary that the programs need parts them
// in two, so at least the lightest cut of all crosses it (found exactly: Stoer and Wagner 1997).
func (p *pages) bound() int {
	boundaries := (p.n()+p.slots-1)/p.slots - 1
	return boundaries * p.lightestCut()
}

// lightestCut is the least weight that parts the programs in two, by maximum adjacency orders.
func (p *pages) lightestCut() int {
	w := make([][]int, p.n())
	for i := range w {
		w[i] = slices.Clone(p.weight[i])
	}
	left := make([]int, p.n())
	for i := range left {
		left[i] = i
	}
	best := -1
	for len(left) > 1 {
		reach := map[int]int{}
		rest := slices.Clone(left)
		prev, last := -1, -1
		for len(rest) > 0 {
			at := 0
			for k := range rest {
				if reach[rest[k]] > reach[rest[at]] {
					at = k
				}
			}
			prev, last = last, rest[at]
			rest = slices.Delete(rest, at, at+1)
			for _, k := range rest {
				reach[k] += w[last][k]
			}
		}
		if best < 0 || reach[last] < best {
			best = reach[last]
		}
		for _, k := range left {
			w[prev][k] += w[last][k]
			w[k][prev] = w[prev][k]
		}
		left = slices.DeleteFunc(left, func(i int) bool { return i == last })
	}
	return max(best, 0)
}

// heavy reports whether sums could pass what the packed tables hold.
func (p *pages) heavy() bool {
	total := 0
	for i := range p.weight {
		for k := range i {
			total += p.weight[i][k]
		}
	}
	return total*p.banks >= int(unreached)
}

// descend moves and exchanges programs between banks while that helps, from several fixed
// starts, and keeps the best.
func (p *pages) descend() layout {
	n := p.n()
	best := layout{steps: -1}
	for start := range n {
		bank := p.start(start)
		now := p.steps(bank)
		for improved := true; improved; {
			improved = false
			for i := range n {
				if next, ok := p.better(bank, i, now); ok {
					now, improved = next, true
				}
			}
		}
		if best.steps < 0 || now < best.steps {
			best = layout{bank: slices.Clone(bank), steps: now}
		}
	}
	return best
}

// start fills the banks in the order in which programs hang together, from one on.
func (p *pages) start(from int) []int {
	n := p.n()
	bank := make([]int, n)
	in := make([]bool, n)
	pull := make([]int, n)
	next := from
	for x := range n {
		bank[next], in[next] = x/p.slots, true
		for k := range n {
			pull[k] += p.weight[next][k]
		}
		next = -1
		for k := range n {
			if !in[k] && (next < 0 || pull[k] > pull[next]) {
				next = k
			}
		}
	}
	return bank
}

// better moves one program to another bank, or exchanges it with another, where that helps.
func (p *pages) better(bank []int, i, now int) (int, bool) {
	load := make([]int, p.banks)
	for _, b := range bank {
		load[b]++
	}
	was := bank[i]
	for b := range p.banks {
		if b == was || load[b] >= p.slots {
			continue
		}
		bank[i] = b
		if s := p.steps(bank); s < now {
			return s, true
		}
		bank[i] = was
	}
	for k := range bank {
		if bank[k] == was {
			continue
		}
		bank[i], bank[k] = bank[k], was
		if s := p.steps(bank); s < now {
			return s, true
		}
		bank[k], bank[i] = bank[i], was
	}
	return now, false
}

func lowest(set uint32) int { return bits.TrailingZeros32(set) }
