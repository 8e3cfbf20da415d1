package switching

import (
	"cmp"
	"context"
	"math/bits"
	"slices"

	"envex/core/reason"
)

// pages is the problem of one page in its bare form: which bank each program stands in. The
// weight of two programs is how often the show goes from one to the other.
//
// The bank steps of a change are the boundaries between the two banks, so all steps together are
// the sum, over the boundaries, of the weights that cross: a chain of growing sets of programs, at
// most slots more at a step, and the sum of their cuts is to be least.
//
// A program may be kept out of some banks, where a pin wants it or its slot elsewhere.
type pages struct {
	weight [][]int
	toward [][]int // as weight, in one direction; needed where dist is given
	dist   [][]int // presses from bank to bank; nil for as many as lie between them
	slots  int
	banks  int
	barred []uint64 // by program: the banks it may not stand in, as bits; nil for none
	memory int      // how many bytes the tables may take; 0 for [defaultMemory]
	most   int      // branches that may be followed; 0 for [maxBranches]
}

// defaultMemory is what the tables of the exact method may take, in bytes: enough for 24 programs
// in 6 banks of 5.
const defaultMemory = 512 << 20

// tables is how many bytes the exact method takes.
func (p *pages) tables() int {
	layers := (p.banks+1)/2 + 1
	if p.barred != nil {
		layers = p.banks + 1
	}
	return (layers + 3) * 2 << min(p.n(), 40)
}

func (p *pages) allows(i, bank int) bool { return p.barred == nil || p.barred[i]>>bank&1 == 0 }

// layout is a bank for each program, and what is known about it.
type layout struct {
	bank   []int
	steps  int
	bound  int // no layout steps less
	proven bool
}

// maxExact is the most programs for which the least is found by dynamic programming: 2^24 sets.
const maxExact = 24

// errNoRoom says that what is pinned leaves no room for the rest.
var errNoRoom = reason.Errorf("with the slots that are kept, the programs do not fit into the banks")

func (p *pages) n() int { return len(p.weight) }

func (p *pages) steps(bank []int) int {
	sum := 0
	for i := range bank {
		for k := range i {
			sum += p.between(i, k, bank[i], bank[k])
		}
	}
	return sum
}

// between is the bank steps of all changes between two programs in two banks, either way.
func (p *pages) between(i, k, a, b int) int {
	if p.dist == nil {
		return p.weight[i][k] * max(a-b, b-a)
	}
	return p.toward[i][k]*p.dist[a][b] + p.toward[k][i]*p.dist[b][a]
}

// moving is the problem without the programs that are never changed to or from and may stand anywhere, and
// which programs are left.
func (p *pages) moving() (*pages, []int) {
	var moving []int
	for i := range p.weight {
		kept := p.barred != nil && p.barred[i] != 0
		if kept || slices.ContainsFunc(p.weight[i], func(w int) bool { return w > 0 }) {
			moving = append(moving, i)
		}
	}
	sub := &pages{slots: p.slots, banks: p.banks, memory: p.memory, most: p.most, dist: p.dist}
	for _, i := range moving {
		if p.barred != nil {
			sub.barred = append(sub.barred, p.barred[i])
		}
		row, toward := make([]int, len(moving)), make([]int, len(moving))
		for y, k := range moving {
			row[y] = p.weight[i][k]
			if p.dist != nil {
				toward[y] = p.toward[i][k]
			}
		}
		sub.weight, sub.toward = append(sub.weight, row), append(sub.toward, toward)
	}
	return sub, moving
}

// solve finds the layout with the fewest bank steps. Programs that are never changed to or from
// stand anywhere and drop out first; where all fit into one bank there is nothing to do. It ends
// with the context's error when that is cancelled.
func (p *pages) solve(ctx context.Context, progress func(share float64)) (layout, error) {
	sub, moving := p.moving()
	found, err := sub.place(ctx, progress)
	if err != nil {
		return layout{}, err
	}
	if found.steps < 0 {
		return layout{}, errNoRoom
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
		if b < 0 {
			return layout{}, errNoRoom
		}
		out.bank[i] = b
		load[b]++
	}
	return out, nil
}

func (p *pages) place(ctx context.Context, progress func(float64)) (layout, error) {
	if p.n() <= p.slots && p.barred == nil {
		return layout{bank: make([]int, p.n()), proven: true}, nil
	}
	good := p.descend()
	if p.dist == nil && p.n() <= maxExact && !p.heavy() && p.tables() <= cmp.Or(p.memory, defaultMemory) {
		return p.exact(ctx, progress, good)
	}
	found, err := p.branch(ctx, good)
	if err != nil || found.proven {
		return found, err
	}
	found.bound = max(found.bound, p.bound())
	found.proven = found.steps >= 0 && found.steps == found.bound
	return found, nil
}

// bound is a number of steps no layout is under: every boundary that the programs need parts them
// in two, so at least the lightest cut of all crosses it (found exactly: Stoer and Wagner 1997).
//
// Where banks are not in a row, each of them parts its programs from all others, which costs its cut at
// least, counted from both sides.
func (p *pages) bound() int {
	banks := (p.n() + p.slots - 1) / p.slots
	if p.dist != nil && banks > 1 {
		return (banks*p.lightestCut() + 1) / 2
	}
	return (banks - 1) * p.lightestCut()
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
// starts, and keeps the best. Its steps are -1 where no start could be made.
func (p *pages) descend() layout {
	n := p.n()
	best := layout{steps: -1}
	for start := range n {
		bank, ok := p.start(start)
		if !ok {
			continue
		}
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

// start fills the banks in the order in which programs hang together, from one on; those that may
// not stand everywhere are seated first.
func (p *pages) start(from int) ([]int, bool) {
	n := p.n()
	bank := slices.Repeat([]int{-1}, n)
	load := make([]int, p.banks)
	pull := make([]int, n)
	sit := func(i int) bool {
		for b := range p.banks {
			if load[b] < p.slots && p.allows(i, b) {
				bank[i] = b
				load[b]++
				for k := range n {
					pull[k] += p.weight[i][k]
				}
				return true
			}
		}
		return false
	}
	for i := range n {
		if p.barred != nil && bits.OnesCount64(p.barred[i]) == p.banks-1 && !sit(i) {
			return nil, false
		}
	}
	for next := from; next >= 0; {
		if bank[next] < 0 && !sit(next) {
			return nil, false
		}
		next = -1
		for k := range n {
			if bank[k] < 0 && (next < 0 || pull[k] > pull[next]) {
				next = k
			}
		}
	}
	return bank, true
}

// better moves one program to another bank, or exchanges it with another, where that helps.
func (p *pages) better(bank []int, i, now int) (int, bool) {
	load := make([]int, p.banks)
	for _, b := range bank {
		load[b]++
	}
	was := bank[i]
	here := p.at(bank, i, was)
	for b := range p.banks {
		if b == was || load[b] >= p.slots || !p.allows(i, b) {
			continue
		}
		if there := p.at(bank, i, b); there < here {
			bank[i] = b
			return now - here + there, true
		}
	}
	for k := range bank {
		to := bank[k]
		if to == was || !p.allows(i, to) || !p.allows(k, was) {
			continue
		}
		before := here + p.at(bank, k, to) - p.between(i, k, was, to)
		bank[i], bank[k] = to, was
		if after := p.at(bank, i, to) + p.at(bank, k, was) - p.between(i, k, to, was); after < before {
			return now - before + after, true
		}
		bank[i], bank[k] = was, to
	}
	return now, false
}

// at is the bank steps of all changes to and from a program if it stood in a bank.
func (p *pages) at(bank []int, i, in int) int {
	sum := 0
	for k, w := range p.weight[i] {
		if w > 0 && k != i {
			sum += p.between(i, k, in, bank[k])
		}
	}
	return sum
}

func lowest(set uint32) int { return bits.TrailingZeros32(set) }
