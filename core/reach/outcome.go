package reach

import (
	"math"

	"envex/core/plan"
)

// eps absorbs the last bits of floating-point sums, so that exactly enough time is enough.
const eps = 1e-9

// cost is what a plan of presses is judged by, in this order. Hands come last: they decide
// nothing the player asked about, but keep knobs from being turned for no reason.
type cost struct {
	fails    int
	undone   int // moves that cannot be made at their change, whatever that fails by besides
	atChange int
	presses  int
	footwork float64
	hands    int
}

func (c cost) plus(d cost) cost {
	return cost{
		c.fails + d.fails, c.undone + d.undone, c.atChange + d.atChange, c.presses + d.presses,
		c.footwork + d.footwork, c.hands + d.hands,
	}
}

func (c cost) less(d cost) bool {
	switch {
	case c.fails != d.fails:
		return c.fails < d.fails
	case c.undone != d.undone:
		return c.undone < d.undone
	case c.atChange != d.atChange:
		return c.atChange < d.atChange
	case c.presses != d.presses:
		return c.presses < d.presses
	case math.Abs(c.footwork-d.footwork) > eps:
		return c.footwork < d.footwork
	}
	return c.hands < d.hands
}

// handMove is one variable moved by hand.
type handMove struct {
	v        int
	from, to int
	access   plan.Access
	seconds  float64
}

// motion is one machine going from one state to another at a change.
type motion struct {
	machine  int
	from, to int
	ways     []path
	hands    []handMove
	fail     Verdict // ByHand or Impossible where it cannot be done there at all
}

// motion builds what it takes to move machine mi at the change into part i. It is refused
// where the move could not be made there and does not have to be: what no foot or quick
// hand can move is moved between songs, or fails at the change that needs it.
func (s *solver) motion(mi, from, to, i int) (motion, bool) {
	m := s.machines[mi]
	mo := motion{machine: mi, from: from, to: to}
	if mo.ways = m.between(from, to, s.parts[i].wants, false); len(mo.ways) > 0 {
		return mo, true
	}
	forced := !m.allows(i, from)
	gap := s.parts[i].afterGap()
	for j, v := range m.vars {
		a, b := m.value(from, j), m.value(to, j)
		if a == b {
			continue
		}
		h := handMove{v: v, from: a, to: b, access: s.vars[v].Access}
		switch {
		case s.vars[v].Key == GuitarKey:
			h.seconds, _ = s.settings.takenUp(s.vars[v].values[a], s.vars[v].values[b], s.parts[i])
		case isSlot(s.vars[v].Key):
			h.seconds = s.foot.BoxSwap
		case h.access == plan.SlowHand:
			h.seconds = s.foot.SlowHand
		case h.access == plan.QuickHand:
			h.seconds = s.foot.QuickHand
		default:
			mo.fail = Impossible
		}
		if h.access == plan.SlowHand && !gap && mo.fail == "" {
			mo.fail = ByHand
		}
		mo.hands = append(mo.hands, h)
	}
	return mo, mo.fail == "" || forced
}

// outcome is one way through a change: the presses in order, the hands beside them, and
// how it turns out.
type outcome struct {
	cost    cost
	verdict Verdict
	feet    float64 // seconds from the first press to the last effect and a dwell
	hands   float64 // seconds of the hand moves
	needed  float64
	free    float64
	pace    pace
	at      *stance
	motions []motion
	tasks   []task
	of      []int // by task: which motion it belongs to
	ordering
	last int // the switch the foot ends on, -1 when nothing was pressed
}

// changeSearch enumerates the ways through one change.
type changeSearch struct {
	*solver
	i       int
	motions []motion
	at      *stance
	pace    pace
	free    float64
	gap     bool
}

// maxWays bounds how many combinations of ways one change is searched for.
const maxWays = 512

// through finds the best way through the change into part i, or, with everyEnd, the best
// for each switch the foot could end on.
func (s *solver) through(i int, motions []motion, at *stance, everyEnd bool) []*outcome {
	c := &changeSearch{solver: s, i: i, motions: motions, at: at}
	a, b := s.parts[i-1], s.parts[i]
	c.gap = b.afterGap()
	c.free = freeTime(a, b, s.foot)
	c.pace = pace{factor: 1, beat: b.beat()}
	if !c.gap && (a.sec.Singing || b.sec.Singing) {
		c.pace.factor = s.foot.Singing
	}
	combos := 1
	for _, m := range motions {
		if len(m.ways) > 0 {
			combos *= len(m.ways)
		}
		if combos > maxWays {
			s.exact = false
			break
		}
	}
	byEnd := map[int]*outcome{}
	pick := make([]int, len(motions))
	for {
		c.try(pick, everyEnd, byEnd)
		if combos > maxWays || !advance(pick, motions) {
			break
		}
	}
	return inOrder(byEnd)
}

// advance steps pick to the next combination of ways.
func advance(pick []int, motions []motion) bool {
	for k := range pick {
		if pick[k]++; pick[k] < len(motions[k].ways) {
			return true
		}
		pick[k] = 0
	}
	return false
}

func inOrder(byEnd map[int]*outcome) []*outcome {
	list := make([]*outcome, 0, len(byEnd))
	for len(byEnd) > 0 {
		least := math.MaxInt
		for end := range byEnd {
			least = min(least, end)
		}
		list = append(list, byEnd[least])
		delete(byEnd, least)
	}
	return list
}

func (c *changeSearch) try(pick []int, everyEnd bool, byEnd map[int]*outcome) {
	n := 0
	for k, m := range c.motions {
		if len(m.ways) > 0 {
			n += len(m.ways[pick[k]])
		}
	}
	tasks, of := make([]task, 0, n), make([]int, 0, n)
	for k, m := range c.motions {
		if len(m.ways) == 0 {
			continue
		}
		before, state := -1, m.from
		for _, g := range m.ways[pick[k]] {
			t := task{group: g, after: before}
			t.up, t.down = c.gainTurns(m.machine, state, g.states[len(g.states)-1])
			tasks = append(tasks, t)
			of = append(of, k)
			before, state = len(tasks)-1, g.states[len(g.states)-1]
		}
	}
	if len(tasks) > maxTasks {
		c.exact = false
		c.keep(c.judge(tasks, of, c.nearest(tasks)), -1, byEnd)
		return
	}
	if !everyEnd || len(tasks) == 0 {
		if o, ok := c.best(tasks, c.at, c.pace, -1); ok {
			c.keep(c.judge(tasks, of, o), -1, byEnd)
		}
		return
	}
	for end := range tasks {
		if o, ok := c.best(tasks, c.at, c.pace, end); ok {
			c.keep(c.judge(tasks, of, o), tasks[end].op.sw, byEnd)
		}
	}
}

func (c *changeSearch) best(tasks []task, at *stance, p pace, last int) (ordering, bool) {
	return c.feet.best(tasks, at, p, last)
}

func (c *changeSearch) keep(o *outcome, end int, byEnd map[int]*outcome) {
	if old, ok := byEnd[end]; !ok || o.cost.less(old.cost) {
		byEnd[end] = o
	}
}

// nearest orders more tasks than can be searched: always the nearest that may come next.
func (c *changeSearch) nearest(tasks []task) ordering {
	var o ordering
	done := make([]bool, len(tasks))
	at := c.at
	for range tasks {
		best, next := math.Inf(1), -1
		for j, t := range tasks {
			if done[j] || (t.after >= 0 && !done[t.after]) {
				continue
			}
			if s := c.feet.from(at, t.op.sw); s < best {
				best, next = s, j
			}
		}
		done[next] = true
		o.seconds += best*c.pace.factor + c.feet.busy(tasks[next].group, c.pace) + c.feet.lag(tasks[next].group)
		o.order = append(o.order, next)
		o.stomped = append(o.stomped, false)
		at = &stance{sw: tasks[next].op.sw}
	}
	return o
}

// judge gives an ordering its times and verdict.
func (c *changeSearch) judge(tasks []task, of []int, order ordering) *outcome {
	o := &outcome{
		free: c.free, pace: c.pace, at: c.at, motions: c.motions, tasks: tasks, of: of, ordering: order, last: -1,
	}
	for _, t := range tasks {
		o.cost.atChange += t.count * t.op.presses()
	}
	o.cost.presses = o.cost.atChange
	if len(tasks) > 0 {
		o.feet = order.seconds + c.foot.Dwell
		o.last = tasks[order.order[len(order.order)-1]].op.sw
	}
	o.cost.footwork = o.feet
	quick, slow := 0.0, 0.0
	fail := Verdict("")
	for _, m := range c.motions {
		if m.fail == Impossible || (m.fail == ByHand && fail == "") {
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
	o.hands = quick + slow
	o.needed = math.Max(o.feet, quick) + slow
	o.verdict = c.verdict(fail, o)
	if o.verdict.fails() {
		o.cost.fails = 1
	}
	return o
}

// verdict follows from the slack, unless something cannot be done there at all.
func (c *changeSearch) verdict(fail Verdict, o *outcome) Verdict {
	slack := o.free - o.needed
	switch {
	case c.parts[c.i].unset() && c.parts[c.i-1].unset() && c.parts[c.i].sec.Sound == c.parts[c.i-1].sec.Sound:
		return InTime // whatever it will be, it stays as it is
	case c.parts[c.i].unset() || c.parts[c.i-1].unset():
		return NotSet
	case c.parts[c.i].broken != "":
		return Impossible
	case fail != "":
		return fail
	case slack >= c.foot.Tight-eps:
		return InTime
	case slack >= -eps:
		return Tight
	case o.hands > 0 && o.feet <= o.free+eps:
		return ByHand
	case o.hands > o.free+eps:
		return ByHand
	}
	return Late
}
