package switching

import (
	"context"
	"math/bits"
	"sync"
)

// unreached marks a set that no chain of banks gives.
const unreached = ^uint16(0)

// exact finds the fewest bank steps by dynamic programming over sets of programs, meeting in
// the middle: a chain of sets may be read from either end, because a set and its complement
// have the same cut. after[b] holds, for every set, the least sum of cuts of b banks that hold
// just that set, the last cut included. Where some programs may not stand in every bank the chain
// reads differently from its two ends, and is built from the front alone.
func (p *pages) exact(ctx context.Context, progress func(float64), good layout) (layout, error) {
	n := p.n()
	all := uint32(1)<<n - 1
	half := (p.banks + 1) / 2
	if p.barred != nil {
		half = p.banks
	}
	cut := p.cuts()
	after := make([][]uint16, half+1)
	after[0] = make([]uint16, 1<<n)
	for s := range after[0] {
		after[0][s] = unreached
	}
	after[0][0] = 0
	for b := 1; b <= half; b++ {
		layer := append([]uint16(nil), after[b-1]...)
		for taken := range p.slots {
			if err := ctx.Err(); err != nil {
				return layout{}, err
			}
			layer = grow(layer, p.allowed(b-1), (b-1)*p.slots+taken+1)
		}
		for s, c := range layer {
			if c != unreached {
				layer[s] = c + cut[s]
			}
		}
		after[b] = layer
		if progress != nil {
			progress(float64(b) / float64(half))
		}
	}
	front, back := after[half], after[p.banks-half]
	best, at := int(unreached), uint32(0)
	for s := range uint32(1) << n {
		a, z := front[s], back[all&^s]
		if a == unreached || z == unreached {
			continue
		}
		if c := int(a) + int(z) - int(cut[s]); c < best {
			best, at = c, s
		}
	}
	if best == int(unreached) {
		return layout{steps: -1}, nil
	}
	out := layout{steps: best, bound: best, proven: true}
	if best == good.steps {
		out.bank = good.bank // among equals the one that is there already
		return out, nil
	}
	out.bank = make([]int, n)
	p.unfold(after, cut, half, at, func(i, b int) { out.bank[i] = b - 1 })
	p.unfold(after, cut, p.banks-half, all&^at, func(i, b int) { out.bank[i] = p.banks - b })
	return out, nil
}

// allowed are the programs that may stand in a bank.
func (p *pages) allowed(bank int) uint32 {
	var set uint32
	for i := range p.weight {
		if p.allows(i, bank) {
			set |= 1 << i
		}
	}
	return set
}

// cuts gives, for every set of programs, the weight between it and the rest.
func (p *pages) cuts() []uint16 {
	n := p.n()
	total := make([]int, n)
	for i := range n {
		for k := range n {
			if i != k {
				total[i] += p.weight[i][k]
			}
		}
	}
	low := n / 2
	near, far := p.sums(0, low), p.sums(low, n)
	cut := make([]uint16, 1<<n)
	for s := uint32(1); s < 1<<n; s++ {
		i := lowest(s)
		rest := s & (s - 1)
		inside := near[i][rest&(1<<low-1)] + far[i][rest>>low]
		cut[s] = uint16(int(cut[rest]) + total[i] - 2*inside)
	}
	return cut
}

// sums gives, for every program, the weight between it and every set of those from one to before another.
func (p *pages) sums(from, to int) [][]int {
	all := make([][]int, p.n())
	for i := range all {
		all[i] = make([]int, 1<<(to-from))
		for s := uint32(1); s < 1<<(to-from); s++ {
			all[i][s] = all[i][s&(s-1)] + p.weight[i][from+lowest(s)]
		}
	}
	return all
}

// grow lets every set take one more program at no cost: the least of a set and of each set that
// lacks one of its programs. Sets of more programs than the banks so far can hold are reached by
// nothing. The two halves of the sets are done side by side; both only read the old layer.
func grow(old []uint16, allowed uint32, most int) []uint16 {
	layer := make([]uint16, len(old))
	var wait sync.WaitGroup
	for _, part := range [2][2]int{{0, len(old) / 2}, {len(old) / 2, len(old)}} {
		wait.Go(func() {
			for s := part[0]; s < part[1]; s++ {
				if bits.OnesCount32(uint32(s)) > most {
					layer[s] = unreached
					continue
				}
				least := old[s]
				for r := uint32(s) & allowed; r != 0; r &= r - 1 {
					if c := old[uint32(s)&^(1<<bits.TrailingZeros32(r))]; c < least {
						least = c
					}
				}
				layer[s] = least
			}
		})
	}
	wait.Wait()
	return layer
}

// unfold reads the banks of a set back from the tables.
func (p *pages) unfold(after [][]uint16, cut []uint16, banks int, set uint32, put func(i, bank int)) {
	for b := banks; b > 0 && set != 0; b-- {
		want := after[b][set] - cut[set]
		added := p.added(after[b-1], set, set&p.allowed(b-1), 0, p.slots, want)
		for r := added; r != 0; r &= r - 1 {
			put(lowest(r), b)
		}
		set &^= added
	}
}

// added finds the programs that a bank added to come to a set at a cost.
func (p *pages) added(before []uint16, set, from, taken uint32, slots int, want uint16) uint32 {
	if before[set&^taken] == want {
		return taken
	}
	if slots == 0 {
		return 0
	}
	for r := from; r != 0; r &= r - 1 {
		i := uint32(1) << lowest(r)
		if found := p.added(before, set, r&^i, taken|i, slots-1, want); found != 0 {
			return found
		}
	}
	return 0
}
