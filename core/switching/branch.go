package switching

import (
	"cmp"
	"context"
	"slices"
)

// maxBranches bounds branch and bound in steps, not seconds, so that answers repeat.
const maxBranches = 3_000_000

// branch finds the fewest bank steps by branch and bound on programs: the ones that change most
// are seated first, and a seating is given up once its own steps, with the least that every program
// still standing needs towards those seated, reach the best found. It needs no tables, and proves
// shows whose programs hang together in clusters, of any size; where it runs out of steps the bound
// is the lightest that was left open.
func (p *pages) branch(ctx context.Context, good layout) (layout, error) {
	out, _, err := p.search(ctx, good)
	return out, err
}

// branchBelow looks only for layouts of fewer steps than a number, with no layout where there is none, and says
// how many branches it followed.
func (p *pages) branchBelow(ctx context.Context, steps int) (layout, int, error) {
	return p.search(ctx, layout{steps: steps})
}

func (p *pages) search(ctx context.Context, good layout) (layout, int, error) {
	b := &brancher{pages: p, ctx: ctx, best: good, bank: slices.Repeat([]int{-1}, p.n()), load: make([]int, p.banks)}
	b.pull = make([][]int, p.n())
	for i := range b.pull {
		b.pull[i] = make([]int, p.banks)
	}
	b.order = b.heaviest()
	b.round = p.barred == nil && len(p.dist) == p.banks && isRound(p.dist)
	b.left = -1
	b.seat(0, 0)
	if err := ctx.Err(); err != nil {
		return layout{}, b.steps, err
	}
	out := b.best
	out.bound, out.proven = out.steps, out.steps >= 0
	if b.left >= 0 && (out.steps < 0 || b.left < out.steps) {
		out.bound, out.proven = b.left, false
	}
	return out, b.steps, nil
}

type brancher struct {
	*pages
	ctx   context.Context
	round bool // every bank is as good as any other to begin in
	order []int
	bank  []int
	load  []int
	pull  [][]int // by program and bank: the steps towards those seated if it stood there
	best  layout
	steps int
	left  int // the lightest branch that was not followed for want of steps, -1 for none
}

// heaviest orders the programs so that each hangs together most with those before it.
func (b *brancher) heaviest() []int {
	n := b.n()
	total, pull := make([]int, n), make([]int, n)
	for i := range n {
		for k := range n {
			total[i] += b.weight[i][k]
		}
	}
	var order []int
	in := make([]bool, n)
	for range n {
		next := -1
		for i := range n {
			if !in[i] && (next < 0 || pull[i] > pull[next] || (pull[i] == pull[next] && total[i] > total[next])) {
				next = i
			}
		}
		in[next] = true
		order = append(order, next)
		for k := range n {
			pull[k] += b.weight[next][k]
		}
	}
	return order
}

func (b *brancher) seat(at, cost int) {
	if b.steps++; b.steps%4096 == 0 && b.ctx.Err() != nil {
		return
	}
	least := cost + b.least(at)
	if b.best.steps >= 0 && least >= b.best.steps {
		return
	}
	if b.steps > cmp.Or(b.most, maxBranches) {
		if b.left < 0 || least < b.left {
			b.left = least
		}
		return
	}
	if at == len(b.order) {
		b.best = layout{bank: slices.Clone(b.bank), steps: cost}
		return
	}
	i := b.order[at]
	banks := make([]int, 0, b.banks)
	for k := range b.banks {
		if b.load[k] < b.slots && b.allows(i, k) && (at > 0 || k <= b.first()) {
			banks = append(banks, k)
		}
	}
	slices.SortStableFunc(banks, func(x, y int) int { return b.pull[i][x] - b.pull[i][y] })
	for _, k := range banks {
		b.move(i, k, 1)
		b.seat(at+1, cost+b.pull[i][k])
		b.move(i, k, -1)
	}
}

// first is the last bank in which the first program need be tried: the others mirror or turn what was tried.
func (b *brancher) first() int {
	switch {
	case b.round:
		return 0
	case b.barred != nil || b.dist != nil:
		return b.banks - 1
	}
	return (b.banks - 1) / 2
}

// isRound reports whether presses from bank to bank stay the same when all banks turn by one.
func isRound(dist [][]int) bool {
	n := len(dist)
	for a := range dist {
		for b, d := range dist[a] {
			if dist[(a+1)%n][(b+1)%n] != d {
				return false
			}
		}
	}
	return n > 0
}

// move seats a program, or takes it out again.
func (b *brancher) move(i, bank, sign int) {
	b.load[bank] += sign
	b.bank[i] = bank
	if sign < 0 {
		b.bank[i] = -1
	}
	for k, w := range b.weight[i] {
		if w == 0 {
			continue
		}
		for x := range b.banks {
			b.pull[k][x] += sign * b.between(k, i, x, bank)
		}
	}
}

// least is a number of steps that those not seated yet add at least: each at its best bank that
// has room, towards those seated.
func (b *brancher) least(at int) int {
	sum := 0
	for _, i := range b.order[at:] {
		best := -1
		for k := range b.banks {
			if b.load[k] < b.slots && b.allows(i, k) && (best < 0 || b.pull[i][k] < best) {
				best = b.pull[i][k]
			}
		}
		sum += max(best, 0)
	}
	return sum
}
