package reach

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"envex/core/plan"
)

// brute plays a small show in every way there is and keeps the best. It shares with the
// solver what a recipe asks and how long one move takes, and nothing of how moves are
// placed, grouped or ordered: every sequence of presses is tried, press by press, on the
// states of all variables at once.
type brute struct {
	s       *solver
	m       []*machine
	allowed [][][]int
	cut     bool // some change would take more presses than are tried
}

type bruteLabel struct {
	states []int
	foot   int
	cost   cost
}

func key(states []int, foot int) string { return fmt.Sprint(states, foot) }

// bruteForce is the least that a show costs, and whether every way was tried.
func bruteForce(s *solver) (least cost, all bool) {
	b := &brute{s: s, m: s.machines}
	b.close()
	labels := map[string]bruteLabel{}
	b.product(0, nil, func(states []int) {
		l := bruteLabel{states: states, foot: -1}
		b.resting(0, l, func(r bruteLabel) { keep(labels, r) })
	})
	for i := 1; i < len(s.parts); i++ {
		next := map[string]bruteLabel{}
		for _, l := range labels {
			b.change(i, l, func(a bruteLabel) { b.resting(i, a, func(r bruteLabel) { keep(next, r) }) })
		}
		labels = next
	}
	best := cost{fails: math.MaxInt}
	for _, l := range labels {
		if l.cost.less(best) {
			best = l.cost
		}
	}
	return best, !b.cut
}

func keep(labels map[string]bruteLabel, l bruteLabel) {
	k := key(l.states, l.foot)
	if old, ok := labels[k]; !ok || l.cost.less(old.cost) {
		labels[k] = l
	}
}

// close pins each machine where what it stands at suits: between two parts that want the
// same one state, before the first such and after the last. What suits is not moved.
func (b *brute) close() {
	for _, m := range b.m {
		list := append([][]int(nil), m.allowed...)
		suits := func(from, to, state int) bool {
			for k := from; k < to; k++ {
				if !m.allows(k, state) {
					return false
				}
			}
			return true
		}
		pin := func(from, to, state int) {
			for k := from; k < to; k++ {
				list[k] = []int{state}
			}
		}
		last := -1
		for i := range list {
			if len(m.allowed[i]) != 1 {
				continue
			}
			state := m.allowed[i][0]
			if (last < 0 || m.allowed[last][0] == state) && suits(last+1, i, state) {
				pin(last+1, i, state)
			}
			for k := last + 1; last >= 0 && m.tapping && len(m.vars) == 1 && k < i; k++ {
				if list[k] == nil { // no tempo is tapped that no sound follows
					list[k] = []int{m.allowed[last][0], state}
				}
			}
			last = i
		}
		if last >= 0 && suits(last+1, len(list), m.allowed[last][0]) {
			pin(last+1, len(list), m.allowed[last][0])
		}
		b.allowed = append(b.allowed, list)
	}
}

func (b *brute) fits(mi, i, state int) bool {
	return b.allowed[mi][i] == nil || contains(b.allowed[mi][i], state)
}

func (b *brute) product(i int, states []int, yield func([]int)) {
	if len(states) == len(b.m) {
		yield(append([]int(nil), states...))
		return
	}
	for state := range b.m[len(states)].states {
		if b.fits(len(states), i, state) {
			b.product(i, append(states[:len(states):len(states)], state), yield)
		}
	}
}

// resting tries every sequence of unheard presses inside part i.
func (b *brute) resting(i int, l bruteLabel, yield func(bruteLabel)) {
	yield(l)
	s := b.s
	x := s.parts[i]
	if x.broken != "" || x.rocker != "" || x.duration < s.foot.Short {
		return
	}
	var walk func(states []int, presses []int, seen map[string]bool)
	walk = func(states []int, presses []int, seen map[string]bool) {
		total := 0
		for mi, n := range presses {
			total += n
			room := clearTime(s.parts, i, s.foot, s.ringing(b.m[mi], l.states[mi], states[mi], i))
			if n > 0 && room+eps < float64(n)*s.foot.Leisure {
				return
			}
		}
		if total > s.capacity(i) {
			return
		}
		ok := true
		for mi := range b.m {
			ok = ok && b.fits(mi, i, states[mi])
		}
		if ok && total > 0 {
			r := l
			r.states = append([]int(nil), states...)
			r.cost.presses += total
			yield(r)
		}
		if len(seen) > 6 {
			return
		}
		for mi, m := range b.m {
			for _, o := range m.ops {
				for _, to := range m.after(o, states[mi], x.wants) {
					if to == states[mi] || !m.inert(x.wants, states[mi], to) {
						continue
					}
					next := append([]int(nil), states...)
					next[mi] = to
					if seen[key(next, 0)] {
						continue
					}
					seen[key(next, 0)] = true
					n := append([]int(nil), presses...)
					n[mi] += o.presses()
					walk(next, n, seen)
					delete(seen, key(next, 0))
				}
			}
		}
	}
	walk(l.states, make([]int, len(b.m)), map[string]bool{key(l.states, 0): true})
}

// bruteStep is one press (or hold, or tapping) of a sequence.
type bruteStep struct {
	op   *op
	mach int
}

// maxSteps is how many presses are tried at one change.
const maxSteps = 6

// change tries every sequence of presses in which nothing comes back to where it has been,
// and every set of hand moves, at the change into i.
func (b *brute) change(i int, l bruteLabel, yield func(bruteLabel)) {
	s := b.s
	if s.frozen(i) {
		r := l
		if !s.parts[i].unset() {
			r.cost.fails++
		}
		r.foot = b.footAfter(i, l.foot, -1)
		yield(r)
		return
	}
	w := s.parts[i].wants
	var walk func(states []int, steps []bruteStep, seen map[string]bool)
	walk = func(states []int, steps []bruteStep, seen map[string]bool) {
		b.hands(i, l, states, steps, 0, nil, yield)
		for mi, m := range b.m {
			for _, o := range m.ops {
				for _, to := range m.after(o, states[mi], w) {
					next := append([]int(nil), states...)
					next[mi] = to
					been := fmt.Sprint(mi, " ", to)
					if to == states[mi] || seen[been] {
						continue
					}
					if len(steps) == maxSteps {
						b.cut = true
						return
					}
					seen[been] = true
					walk(next, append(steps[:len(steps):len(steps)], bruteStep{o, mi}), seen)
					delete(seen, been)
				}
			}
		}
	}
	start := map[string]bool{}
	for mi, state := range l.states {
		start[fmt.Sprint(mi, " ", state)] = true
	}
	walk(l.states, nil, start)
}

// hands moves by hand, machine by machine, what the presses have not brought where part i
// wants it; what a press can move is not moved by hand.
func (b *brute) hands(
	i int, l bruteLabel, states []int, steps []bruteStep, mi int, moved []motion, yield func(bruteLabel),
) {
	if mi == len(b.m) {
		if !b.wasteful(i, l, states, steps) {
			b.finish(i, l, states, steps, moved, yield)
		}
		return
	}
	if b.fits(mi, i, states[mi]) {
		b.hands(i, l, states, steps, mi+1, moved, yield)
	}
	if states[mi] != l.states[mi] {
		return // the feet have moved it
	}
	for to := range b.m[mi].states {
		if to == states[mi] || !b.fits(mi, i, to) {
			continue
		}
		mo, ok := b.s.motion(mi, states[mi], to, i)
		if !ok || len(mo.ways) > 0 {
			continue
		}
		next := append([]int(nil), states...)
		next[mi] = to
		b.hands(i, l, next, steps, mi+1, append(moved[:len(moved):len(moved)], mo), yield)
	}
}

// wasteful reports whether some presses on a machine could be left out and leave it in the
// same state: nothing is pressed that no sound needs, not even to put the foot somewhere.
func (b *brute) wasteful(i int, l bruteLabel, states []int, steps []bruteStep) bool {
	w := b.s.parts[i].wants
	for mi, m := range b.m {
		var ops []*op
		for _, st := range steps {
			if st.mach == mi {
				ops = append(ops, st.op)
			}
		}
		ends := func(mask int) map[int]bool {
			at := map[int]bool{l.states[mi]: true}
			for k, o := range ops {
				if mask&(1<<k) == 0 {
					continue
				}
				next := map[int]bool{}
				for state := range at {
					for _, to := range m.after(o, state, w) {
						next[to] = true
					}
				}
				at = next
			}
			return at
		}
		for mask := range 1<<len(ops) - 1 {
			if ends(mask)[states[mi]] {
				return true
			}
		}
	}
	return false
}

func (b *brute) footAfter(i, before, last int) int {
	short := b.s.parts[i].duration < b.s.foot.Short
	switch {
	case !short:
		return -1
	case last >= 0:
		return last
	case b.s.parts[i-1].duration < b.s.foot.Short && !b.s.parts[i].afterGap():
		return before
	}
	return -1
}

func (b *brute) finish(i int, l bruteLabel, states []int, steps []bruteStep, moved []motion, yield func(bruteLabel)) {
	s := b.s
	c := changeSearch{solver: s, i: i, gap: s.parts[i].afterGap(), free: freeTime(s.parts[i-1], s.parts[i], s.foot)}
	factor := 1.0
	if !c.gap && (s.parts[i-1].sec.Singing || s.parts[i].sec.Singing) {
		factor = s.foot.Singing
	}
	o := &outcome{free: c.free, last: -1}
	if len(steps) > 0 {
		o.feet = b.time(steps, 0, s.stance(i, l.foot), factor, s.parts[i].beat(), false) + s.foot.Dwell
		o.last = steps[len(steps)-1].op.sw
	}
	quick, slow, fail := 0.0, 0.0, Verdict("")
	for _, m := range moved {
		if m.fail == Impossible || fail == "" {
			fail = m.fail
		}
		if m.fail != "" {
			o.cost.undone++
		}
		if m.fail == Impossible {
			continue
		}
		for _, h := range m.hands {
			o.cost.hands++
			if h.access == plan.QuickHand {
				quick += h.seconds
			} else {
				slow += h.seconds
			}
		}
	}
	o.hands, o.needed = quick+slow, math.Max(o.feet, quick)+slow
	r := bruteLabel{states: states, foot: b.footAfter(i, l.foot, o.last)}
	if c.verdict(fail, o).fails() {
		o.cost.fails = 1
	}
	for _, st := range steps {
		o.cost.atChange += st.op.presses()
	}
	o.cost.presses, o.cost.footwork = o.cost.atChange, o.feet
	r.cost = l.cost.plus(o.cost)
	yield(r)
}

// time is how long a sequence of presses takes from the stance to its last effect, trying
// each pair of allowed neighbours together and apart.
func (b *brute) time(steps []bruteStep, n int, at *stance, factor, beat float64, stomped bool) float64 {
	s := b.s
	o := steps[n].op
	move := s.feet.from(at, o.sw) * factor
	alone := func(k int) bool {
		return steps[k].op.gesture == pressed && steps[k].op.taps == 1 &&
			(k == 0 || steps[k-1].op != steps[k].op) && (k+1 == len(steps) || steps[k+1].op != steps[k].op)
	}
	rest := func(move float64, stomped bool) float64 {
		busy := 0.0
		switch {
		case o.taps > 1:
			busy = float64(o.taps-1) * beat
		case o.gesture == held:
			busy = s.foot.Hold
		case o.gesture == doubled:
			busy = s.foot.DoubleTime
		}
		lag := 0.0
		if o.late {
			lag = s.foot.DoubleTime
		}
		left := lag
		if n+1 < len(steps) {
			left = math.Max(lag, b.time(steps, n+1, &stance{sw: o.sw}, factor, beat, stomped))
		}
		return move + busy + left
	}
	best := rest(move, false)
	if n > 0 && !stomped && alone(n-1) && alone(n) && s.feet.stomps[[2]int{steps[n-1].op.sw, o.sw}] {
		best = math.Min(best, rest(0, true))
	}
	return best
}

func TestThePlanOfPressesIsTheBestThereIs(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := randomPlan(t)
		if !isTheBest(t, p) {
			t.Skip("more presses at one change than are tried")
		}
	})
}

// isTheBest holds the plan of presses of a show against every way to play it. It is false where that is too many
// presses at one change to try.
func isTheBest(t require.TestingT, p *plan.Plan) bool {
	require.Empty(t, p.Validate())
	s, err := prepare(p, &p.Rigs[0], &p.SetLists[0], Start{})
	require.NoError(t, err)
	s.solve()
	require.True(t, s.exact)
	var got cost
	for _, o := range s.outcomes[1:] {
		got = got.plus(o.cost)
	}
	for _, r := range s.rests {
		got.presses += r.way.presses()
	}
	want, all := bruteForce(s)
	if !all && got.less(want) {
		return false
	}
	require.Equal(t, [4]int{want.fails, want.undone, want.atChange, want.presses},
		[4]int{got.fails, got.undone, got.atChange, got.presses},
		"failures, moves not made, presses at changes, presses")
	require.InDelta(t, want.footwork, got.footwork, 1e-6, "footwork")
	return true
}
