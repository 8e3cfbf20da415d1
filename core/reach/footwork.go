package reach

import (
	"encoding/binary"
	"math"

	"envex/core/floor"
	"envex/core/plan"
)

// feet times the foot. Times are seconds, places mm.
type feet struct {
	f      plan.Footwork
	floor  *floor.Plan
	stomps map[[2]int]bool
	table  []float64 // by from and to: one move's seconds without the singing factor
	known  map[string]ordering
}

func newFeet(f plan.Footwork, fl *floor.Plan, pairs []plan.DoubleStomp) *feet {
	x := &feet{f: f, floor: fl, stomps: map[[2]int]bool{}, known: map[string]ordering{}}
	index := map[plan.Key]int{}
	n := len(fl.Switches)
	for i, s := range fl.Switches {
		index[s.Key] = i
	}
	for _, p := range pairs {
		a, ok := index[p.A]
		b, ok2 := index[p.B]
		if ok && ok2 {
			x.stomps[[2]int{a, b}], x.stomps[[2]int{b, a}] = true, true
		}
	}
	x.table = make([]float64, n*n)
	for i, a := range fl.Switches {
		for j, b := range fl.Switches {
			x.table[i*n+j] = floor.MoveSeconds(f, math.Hypot(a.X-b.X, a.Y-b.Y), b.Width)
		}
	}
	return x
}

// stance is where the foot is when a change begins: at a switch, on a rocker, or (nil)
// waiting at whichever switch comes first.
type stance struct {
	sw   int // index of the switch; -1 on a rocker
	x, y float64
}

func (t *feet) from(at *stance, to int) float64 {
	switch {
	case at == nil:
		return 0
	case at.sw >= 0:
		return t.table[at.sw*len(t.floor.Switches)+to]
	}
	s := t.floor.Switches[to]
	return floor.MoveSeconds(t.f, math.Hypot(at.x-s.X, at.y-s.Y), s.Width)
}

// pace is what slows the presses of one change: singing, and the beat that taps follow.
type pace struct {
	factor float64
	beat   float64
}

// busy is how long the foot is held by one group once it has got there: repeats, holds,
// double-press windows and taps.
func (t *feet) busy(g group, p pace) float64 {
	s := float64(g.count-1) * t.table[g.op.sw*len(t.floor.Switches)+g.op.sw] * p.factor
	switch {
	case g.op.taps > 1:
		s += float64(g.op.taps-1) * p.beat * float64(g.count)
	case g.op.gesture == held:
		s += t.f.Hold * float64(g.count)
	case g.op.gesture == doubled:
		s += t.f.DoubleTime * float64(g.count)
	}
	return s
}

// lag is how long after the foot has done a group its effect comes: a plain press of a
// switch that also has a double press waits out the window.
func (t *feet) lag(g group) float64 {
	if g.op.late {
		return t.f.DoubleTime
	}
	return 0
}

// stomp reports whether two groups can be one step of the foot on both switches.
func (t *feet) stomp(a, b group) bool {
	plain := func(g group) bool { return g.op.gesture == pressed && g.op.taps == 1 && g.count == 1 }
	return plain(a) && plain(b) && t.stomps[[2]int{a.op.sw, b.op.sw}]
}

// task is one group to be pressed in a change, and the task that must come before it.
type task struct {
	group
	after int  // index of the task that must come first, -1 for none
	up    bool // it turns a gain stage on
	down  bool // it turns a gain stage off
}

// maxTasks is how many different things one change can be searched for exactly; past it
// the nearest switch comes next.
const maxTasks = 14

// ordering is tasks in an order, with what it costs from the first press.
type ordering struct {
	order   []int
	stomped []bool // by place in the order: pressed together with the one before
	seconds float64
}

// best is the order of the tasks that takes least time from the stance, ending at task
// `last` or, when that is -1, anywhere. The time is from the moment the foot sets off (or
// presses, when it is waiting there) to the last effect, without the dwell.
//
// It is found by dynamic programming over subsets: rest[mask][last] is the least time from
// finishing `last` until everything outside mask has had its effect.
func (t *feet) best(tasks []task, at *stance, p pace, last int) (ordering, bool) {
	n := len(tasks)
	if n == 0 {
		return ordering{}, true
	}
	if n == 1 {
		g := tasks[0].group
		return ordering{
			order: []int{0}, stomped: []bool{false}, seconds: t.from(at, g.op.sw)*p.factor + t.busy(g, p) + t.lag(g),
		}, true
	}
	key := orderKey(tasks, at, p, last)
	if known, ok := t.known[string(key)]; ok {
		return known, len(known.order) > 0
	}
	o := t.search(tasks, p, last)
	best, loud, first := math.Inf(1), 0, -1
	for i := range tasks {
		if tasks[i].after >= 0 {
			continue
		}
		s := t.from(at, tasks[i].op.sw)*p.factor + t.busy(tasks[i].group, p) + o.rest(i)
		l := o.loudest(1<<i) + int(o.loud[((1<<i)*n+i)*o.layers])
		if s < best-1e-12 || (s < best+1e-12 && l < loud) {
			best, loud, first = s, l, i
		}
	}
	if first < 0 {
		t.known[string(key)] = ordering{}
		return ordering{}, false
	}
	found := o.read(first, best)
	t.known[string(key)] = found
	return found, true
}

// orderKey tells apart what can make two changes want different orders.
func orderKey(tasks []task, at *stance, p pace, last int) []byte {
	key := make([]byte, 0, 8*len(tasks)+40)
	for _, t := range tasks {
		key = append(key, byte(t.op.id), byte(t.op.id>>8), byte(t.count), byte(t.after+1), t.turns())
		if t.op.taps > 1 {
			key = binary.LittleEndian.AppendUint64(key, math.Float64bits(p.beat))
		}
	}
	key = binary.LittleEndian.AppendUint64(key, math.Float64bits(p.factor))
	key = append(key, byte(last+1))
	if at != nil {
		key = binary.LittleEndian.AppendUint16(key, uint16(at.sw+1))
		key = binary.LittleEndian.AppendUint64(key, math.Float64bits(at.x))
		key = binary.LittleEndian.AppendUint64(key, math.Float64bits(at.y))
	}
	return key
}

// turns packs what a task does to gain stages.
func (t task) turns() byte {
	b := byte(0)
	if t.up {
		b = 1
	}
	if t.down {
		b |= 2
	}
	return b
}

// orderSearch is the dynamic programme of [feet.best]. Its table is indexed by the set of
// tasks done, the last of them, and whether that one was stomped together with the one
// before, which a third switch cannot be.
type orderSearch struct {
	tasks  []task
	last   int
	layers int       // 2 when some pair can be stomped together, else 1
	travel []float64 // by from and to: the move and what the second task takes
	joint  []float64 // the same when both are stomped together; NaN where they cannot be
	lag    []float64
	memo   []float64
	loud   []int16 // of the cheapest way on: how many sounds in between are louder than both ends
	step   []int16
	ups    int // the tasks that turn a gain stage on, and those that turn one off
	downs  int
}

func (t *feet) search(tasks []task, p pace, last int) *orderSearch {
	n := len(tasks)
	o := &orderSearch{tasks: tasks, last: last, layers: 1, travel: make([]float64, n*n), lag: make([]float64, n)}
	switches := len(t.floor.Switches)
	for j, b := range tasks {
		if b.up && !b.down {
			o.ups |= 1 << j
		}
		if b.down && !b.up {
			o.downs |= 1 << j
		}
		o.lag[j] = t.lag(b.group)
		busy := t.busy(b.group, p)
		for i, a := range tasks {
			o.travel[i*n+j] = t.table[a.op.sw*switches+b.op.sw]*p.factor + busy
			if i != j && len(t.stomps) > 0 && t.stomp(a.group, b.group) {
				if o.joint == nil {
					o.layers, o.joint = 2, nans(n*n)
				}
				o.joint[i*n+j] = busy
			}
		}
	}
	o.memo = make([]float64, (1<<n)*n*o.layers)
	o.step = make([]int16, len(o.memo))
	o.loud = make([]int16, len(o.memo))
	for mask := 1<<n - 1; mask > 0; mask-- {
		for i := range n {
			if mask&(1<<i) != 0 {
				for layer := range o.layers {
					o.fill(mask, i, layer)
				}
			}
		}
	}
	return o
}

func nans(n int) []float64 {
	list := make([]float64, n)
	for i := range list {
		list[i] = math.NaN()
	}
	return list
}

// fill works out the least time left once the tasks of mask are done, i last.
func (o *orderSearch) fill(mask, i, layer int) {
	n := len(o.tasks)
	k := (mask*n+i)*o.layers + layer
	best, loud, next := math.Inf(1), 0, -1
	take := func(left float64, to, step int) {
		l := int(o.loud[to]) + o.loudest(mask|1<<(step/2))
		if left < best-1e-12 || (left < best+1e-12 && l < loud) {
			best, loud, next = left, l, step
		}
	}
	if mask == 1<<n-1 {
		if o.last < 0 || o.last == i {
			best = o.lag[i]
		}
	} else {
		for j := range n {
			after := o.tasks[j].after
			if mask&(1<<j) != 0 || (after >= 0 && mask&(1<<after) == 0) {
				continue
			}
			to := ((mask|1<<j)*n + j) * o.layers
			take(o.travel[i*n+j]+o.memo[to], to, j*2)
			if o.joint != nil && layer == 0 && !math.IsNaN(o.joint[i*n+j]) {
				take(o.joint[i*n+j]+o.memo[to+1], to+1, j*2+1)
			}
		}
		best = math.Max(best, o.lag[i])
	}
	o.memo[k], o.step[k], o.loud[k] = best, int16(next), int16(loud)
}

// loudest is 1 where, once the tasks of mask are done, a gain stage of the new sound is on and
// one of the old still is: louder or dirtier than both. It decides among orders that take the
// same time.
func (o *orderSearch) loudest(mask int) int {
	if mask&o.ups != 0 && o.downs&^mask != 0 {
		return 1
	}
	return 0
}

// rest is the least time left after beginning with task i.
func (o *orderSearch) rest(i int) float64 { return o.memo[((1<<i)*len(o.tasks)+i)*o.layers] }

func (o *orderSearch) read(first int, seconds float64) ordering {
	n := len(o.tasks)
	out := ordering{order: []int{first}, stomped: []bool{false}, seconds: seconds}
	mask, i, layer := 1<<first, first, 0
	for mask != 1<<n-1 {
		next := int(o.step[(mask*n+i)*o.layers+layer])
		i, layer = next/2, next%2
		mask |= 1 << i
		out.order = append(out.order, i)
		out.stomped = append(out.stomped, layer == 1)
	}
	return out
}
