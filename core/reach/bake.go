package reach

import (
	"math"
	"sort"

	"envex/core/floor"
	"envex/core/plan"
)

// segment is a stretch of the show in which one machine has to get from state u at part p
// to state v at part q and more than one place for it could be best. p is -1 when the
// machine may begin in any state, q is the number of parts when it may end in any.
type segment struct {
	machine    int
	p, q, u, v int
	via        []int // the states worth being in on the way; nil where that is not known
	detours    bool  // it can be worth passing through others too, so that the foot ends nearer to the next switch
}

// frozen reports whether nothing is moved at the change into part i: the rig cannot make its
// sound, so the player stays on the one before. Between songs there is time to get ready
// for what comes after.
func (s *solver) frozen(i int) bool { return s.parts[i].broken != "" && !s.parts[i].afterGap() }

// choices are the states a contested machine may be in inside part i.
func (s *solver) choices(g segment, i int) []int {
	if g.via != nil && !(g.detours && s.detours) {
		return g.via
	}
	return s.machines[g.machine].choices(i)
}

// course is where one machine stands at the arrival in and on leaving each part.
type course struct {
	arrive, leave []int
}

func (c *course) fill(from, to, state int) {
	for i := max(0, from); i <= to && i < len(c.arrive); i++ {
		c.arrive[i], c.leave[i] = state, state
	}
}

// job is a move that could be made at leisure in any of some parts.
type job struct {
	segment
	options []option
}

type option struct {
	part int
	way  path
}

// bake settles every move that has only one sensible place: what has to move at one change
// moves there; what can be made ready while nobody hears it is, as early as there is room,
// which costs no press at a change and so cannot be bettered; what a hand does between
// songs is done in the last gap that has room. What is left is contested.
func (s *solver) bake() []segment {
	s.courses = make([]course, len(s.machines))
	n := len(s.parts)
	states := make([]int, 2*n*len(s.machines)) // of all of them, in one piece
	for mi := range s.machines {
		own := states[2*n*mi : 2*n*(mi+1)]
		s.courses[mi] = course{own[:n:n], own[n:]}
		s.trace(mi)
	}
	s.placeJobs()
	s.placeHands()
	return s.contested
}

// trace walks one machine through the parts that ask something of it.
func (s *solver) trace(mi int) {
	m := s.machines[mi]
	p, u := -1, -1
	var loose []int // parts since p that allow several states
	for i := range s.parts {
		list := m.allowed[i]
		switch {
		case list == nil:
		case len(list) > 1:
			loose = append(loose, i)
		default:
			v := list[0]
			switch {
			case s.content(m, loose, v) && (p < 0 || u == v):
				s.courses[mi].fill(p+1, i, v)
			case len(loose) > 0 || p < 0:
				s.contest(segment{machine: mi, p: p, q: i, u: u, v: v})
			default:
				s.settle(segment{machine: mi, p: p, q: i, u: u, v: v, via: []int{u, v}})
			}
			p, u, loose = i, v, nil
		}
	}
	if p >= 0 && s.content(m, loose, u) {
		s.courses[mi].fill(p, len(s.parts)-1, u)
		return
	}
	s.contest(segment{machine: mi, p: p, q: len(s.parts), u: u, v: -1})
	if p >= 0 {
		s.courses[mi].fill(p, p, u)
	}
}

func (s *solver) content(m *machine, parts []int, state int) bool {
	for _, i := range parts {
		if !m.allows(i, state) {
			return false
		}
	}
	return true
}

func (s *solver) contest(g segment) {
	s.contested = append(s.contested, g)
	if g.q < len(s.parts) {
		s.courses[g.machine].fill(g.q, g.q, g.v)
	}
}

// settle finds a place for one move from a known state to another across parts that do not
// mind which.
func (s *solver) settle(g segment) {
	m := s.machines[g.machine]
	var at []int
	for k := g.p + 1; k <= g.q; k++ {
		if !s.frozen(k) && (!s.parts[k].held || k == g.q) {
			at = append(at, k)
		}
	}
	if ways := m.between(g.u, g.v, s.parts[g.q].wants, false); len(ways) > 0 {
		for _, way := range ways {
			for _, step := range way {
				for _, state := range step.states {
					if !contains(g.via, state) {
						g.via = append(g.via, state)
					}
				}
			}
		}
		options := s.leisure(g)
		leaves := s.leavesFoot(g)
		if len(options) > 0 && !leaves {
			s.jobs = append(s.jobs, job{g, options})
			return
		}
		if len(at) == 1 {
			s.moveAt(g, at[0])
			return
		}
		if leaves && !(m.tapping && len(m.vars) == 1) { // no tempo is tapped that no sound follows
			g.detours = m.states <= mostDetours
			s.exact = s.exact && g.detours
		}
		s.contest(g)
		return
	}
	var places []int
	for _, k := range at {
		if mo, ok := s.motion(g.machine, g.u, g.v, k); ok && mo.fail == "" {
			places = append(places, k)
		}
	}
	if len(places) == 0 || places[0] == g.q {
		s.moveAt(g, g.q)
		return
	}
	s.handJobs = append(s.handJobs, handJob{g, places})
}

// mostDetours is how many states a machine may have for all of them to be tried on the way from one to another.
const mostDetours = 16

// leavesFoot reports whether a press at one of the segment's changes would decide where the
// foot starts the next one: then even a press that could be made at leisure may be better
// made at the change.
func (s *solver) leavesFoot(g segment) bool {
	for k := g.p + 1; k <= g.q && k+1 < len(s.parts); k++ {
		if s.parts[k].duration < s.foot.Short && !s.parts[k+1].afterGap() {
			return true
		}
	}
	return false
}

// moveAt makes the move of a segment at the change into part k.
func (s *solver) moveAt(g segment, k int) {
	s.courses[g.machine].fill(g.p+1, k-1, g.u)
	s.courses[g.machine].fill(k, g.q, g.v)
}

// leisure lists the parts of a segment in which its move could be made unheard, each with
// the way of fewest presses.
func (s *solver) leisure(g segment) []option {
	var options []option
	least := math.MaxInt
	for k := g.p + 1; k < g.q; k++ {
		way, ok := s.leisurely(g.machine, g.u, g.v, k)
		if !ok || way.presses() > least {
			continue
		}
		if way.presses() < least {
			least, options = way.presses(), nil
		}
		options = append(options, option{k, way})
	}
	return options
}

// leisurely is the way to move a machine at leisure inside part k, if there is one: nothing
// that moves can be heard there, nothing of it still rings, the foot is free, and there is
// room clear of the changes for every press.
func (s *solver) leisurely(mi, from, to, k int) (path, bool) {
	x := s.parts[k]
	m := s.machines[mi]
	if x.broken != "" || x.rocker != "" || x.duration < s.foot.Short || !m.inert(x.wants, from, to) {
		return nil, false
	}
	ways := m.between(from, to, x.wants, true)
	if len(ways) == 0 {
		return nil, false
	}
	room := clearTime(s.parts, k, s.foot, s.ringing(m, from, to, k))
	return ways[0], room+eps >= float64(ways[0].presses())*s.foot.Leisure
}

// ringing is how long after the start of part k something that moves between the two
// states still rings.
func (s *solver) ringing(m *machine, from, to, k int) float64 {
	longest := 0.0
	for j, v := range m.vars {
		x := s.vars[v]
		if x.ring == 0 || m.value(from, j) == m.value(to, j) {
			continue
		}
		on, ok := s.settings.byKey[plan.OnKey(x.Gear, x.Block)]
		if !ok {
			continue
		}
		since := 0.0
		for i := k; i > 0 && since < x.ring; i-- {
			if s.parts[i].afterGap() {
				since += s.parts[i].gap
			}
			before := s.parts[i-1]
			if one := before.wants.of[on].oneOf; one == nil || contains(one, s.vars[on].index[plan.On(true)]) {
				longest = math.Max(longest, x.ring-since)
				break
			}
			since += before.duration
		}
	}
	return longest
}

// capacity is how many presses at leisure part k has room for.
func (s *solver) capacity(k int) int {
	room := clearTime(s.parts, k, s.foot, 0)
	if math.IsInf(room, 1) || s.foot.Leisure <= 0 {
		return math.MaxInt32
	}
	return int((room + eps) / s.foot.Leisure)
}

// placeJobs gives each leisure move the earliest part with room, the most urgent first. If
// some move finds none, it is contested, with all that compete with it for room.
func (s *solver) placeJobs() {
	sort.SliceStable(s.jobs, func(i, j int) bool {
		a, b := s.jobs[i].options, s.jobs[j].options
		return a[len(a)-1].part < b[len(b)-1].part
	})
	for {
		s.load = make([]int, len(s.parts))
		asked := map[int]int{} // by part: what contested moves may need of its room
		placed := make([]option, len(s.jobs))
		failed := -1
		for i, j := range s.jobs {
			ok := false
			for _, o := range j.options {
				if _, known := asked[o.part]; !known {
					asked[o.part] = s.rivals(o.part)
				}
				if s.load[o.part]+o.way.presses()+asked[o.part] <= s.capacity(o.part) {
					s.load[o.part] += o.way.presses()
					placed[i], ok = o, true
					break
				}
			}
			if !ok {
				failed = i
				break
			}
		}
		if failed < 0 {
			for i, j := range s.jobs {
				s.restAt(j.segment, placed[i])
			}
			return
		}
		s.concede(failed)
	}
}

// mostYielding is how many states a contested machine may be in for what it needs at leisure to be worked out.
const mostYielding = 64

// rivals is how many presses at leisure the contested moves can make in part k at most, be it the whole of a
// move or the beginning of one.
func (s *solver) rivals(k int) int {
	presses := 0
	if !s.yields {
		return 0
	}
	for _, g := range s.contested {
		if k <= g.p || k >= g.q {
			continue
		}
		most := 0
		states := s.choices(g, k)
		if len(states) > mostYielding {
			s.exact = false
			continue
		}
		for _, from := range states {
			for _, to := range states {
				if from == to {
					continue
				}
				if way, ok := s.leisurely(g.machine, from, to, k); ok {
					most = max(most, way.presses())
				}
			}
		}
		presses += most
	}
	return presses
}

// concede contests a job and every job that could use one of the same parts.
func (s *solver) concede(failed int) {
	parts := map[int]bool{}
	lost := map[int]bool{failed: true}
	for grown := true; grown; {
		grown = false
		for i := range lost {
			for _, o := range s.jobs[i].options {
				parts[o.part] = true
			}
		}
		for i, j := range s.jobs {
			for _, o := range j.options {
				if parts[o.part] && !lost[i] {
					lost[i], grown = true, true
				}
			}
		}
	}
	var left []job
	for i, j := range s.jobs {
		if lost[i] {
			s.contest(j.segment)
		} else {
			left = append(left, j)
		}
	}
	s.jobs = left
}

// restAt makes the move of a segment at leisure.
func (s *solver) restAt(g segment, o option) {
	c := &s.courses[g.machine]
	c.fill(g.p+1, o.part, g.u)
	c.fill(o.part+1, g.q, g.v)
	c.leave[o.part] = g.v
	s.rests = append(s.rests, rest{machine: g.machine, part: o.part, from: g.u, to: g.v, way: o.way})
}

// rest is one move made at leisure.
type rest struct {
	machine, part, from, to int
	way                     path
}

// handJob is a move by hand that could be made at any of some changes.
type handJob struct {
	segment
	places []int
}

// placeHands gives each move by hand the last change with room for it, so that it fails
// nothing and costs no press. What finds no room is contested.
func (s *solver) placeHands() {
	if len(s.handJobs) == 0 {
		return
	}
	room := make([]float64, len(s.parts))
	for i := 1; i < len(s.parts); i++ {
		room[i] = freeTime(s.parts[i-1], s.parts[i], s.foot) - s.bound(i)
	}
	for _, j := range s.handJobs {
		seconds := 0.0
		if mo, ok := s.motion(j.machine, j.u, j.v, j.places[0]); ok {
			for _, h := range mo.hands {
				seconds += h.seconds
			}
		}
		placed := false
		for n := len(j.places) - 1; n >= 0 && !placed; n-- {
			if k := j.places[n]; room[k] >= seconds+s.foot.Tight {
				room[k] -= seconds
				s.moveAt(j.segment, k)
				placed = true
			}
		}
		if !placed {
			s.contest(j.segment)
		}
	}
}

// farthest is a distance no foot has to go, in mm; it bounds a move from above.
const farthest = 6000.0

// bound is a time the settled moves at the change into part i cannot exceed.
func (s *solver) bound(i int) float64 {
	total := s.foot.Dwell
	p := pace{factor: s.foot.Singing, beat: s.parts[i].beat()}
	for _, mo := range s.uncontested(i) {
		longest := 0.0
		for _, way := range mo.ways {
			seconds := 0.0
			for _, g := range way {
				seconds += floor.MoveSeconds(
					s.foot, farthest, s.feet.floor.Switches[g.op.sw].Width,
				)*p.factor + s.feet.busy(g, p) + s.feet.lag(g)
			}
			longest = math.Max(longest, seconds)
		}
		total += longest
		for _, h := range mo.hands {
			total += h.seconds
		}
	}
	return total
}

// usualMoves is how many machines move at most changes: room for them is made at once.
const usualMoves = 6

// uncontested are the moves at the change into part i that are not contested.
func (s *solver) uncontested(i int) []motion {
	if s.frozen(i) {
		return nil
	}
	list := make([]motion, 0, usualMoves)
	for mi := range s.machines {
		from, to := s.courses[mi].leave[i-1], s.courses[mi].arrive[i]
		if from == to || s.isContested(mi, i) {
			continue
		}
		mo, _ := s.motion(mi, from, to, i)
		list = append(list, mo)
	}
	return list
}

// isContested reports whether the move of a machine at the change into part i is open.
func (s *solver) isContested(mi, i int) bool {
	for _, g := range s.contested {
		if g.machine == mi && g.p < i && i <= g.q {
			return true
		}
	}
	return false
}
