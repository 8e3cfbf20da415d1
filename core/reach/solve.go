package reach

import (
	"cmp"
	"encoding/binary"

	"envex/core/plan"
)

// solver holds one computation: the music, what is asked, the machines, and the plan of
// moves as it takes shape.
type solver struct {
	plan     *plan.Plan
	rig      *plan.Rig
	foot     plan.Footwork
	feet     *feet
	settings *settings
	vars     []*variable
	parts    []*part
	machines []*machine
	fixed    []int // by variable: its value where no machine moves it
	exact    bool
	detours  bool // states off the shortest ways are tried, where that can leave the foot in a better place
	yields   bool // a move at leisure leaves room that a contested one may need
	labels   int  // the most ways that are kept at once; maxLabels where it is 0

	courses   []course
	jobs      []job
	handJobs  []handJob
	load      []int // presses at leisure settled in each part
	rests     []rest
	contested []segment
	outcomes  []*outcome // by part; nil for the first
	owners    []owned    // by variable; made when it is asked for

	lanes   bool                        // some lane of the chain is chosen by a switch
	said    *phrases                    // while the report is written
	unheard map[*plan.Recipe][]plan.Key // by recipe: the stops its signal does not pass
}

// label is one way the show can have gone so far: the states of the contested machines,
// where the foot is when that matters, and what it has cost.
type label struct {
	states []int // of the segments open in this part, on leaving it
	arrive []int // of the same, on arrival
	foot   int   // switch the foot was last on when the part is short, else -1
	cost   cost
	prev   *label
	out    *outcome
	rests  []rest
}

// maxLabels bounds the search; more are reached only by rigs whose many presets the
// recipes all leave open.
const maxLabels = 4000

func (s *solver) most() int { return cmp.Or(s.labels, maxLabels) }

// search plays the show through, keeping for each combination of open states the cheapest
// way there: dynamic programming over the parts. It reports false when there were more
// combinations than it is allowed to keep.
func (s *solver) search() bool {
	open := make([][]int, len(s.parts))   // segments open inside each part
	across := make([][]int, len(s.parts)) // segments open across the change into each part
	for gi, g := range s.contested {
		for i := max(0, g.p+1); i < min(g.q, len(s.parts)); i++ {
			open[i] = append(open[i], gi)
		}
		for i := max(1, g.p+1); i <= min(g.q, len(s.parts)-1); i++ {
			across[i] = append(across[i], gi)
		}
	}
	labels := s.begin(open[0])
	for i := 1; i < len(s.parts); i++ {
		next := &frontier{best: map[string]*label{}}
		st := &step{solver: s, i: i, settled: s.uncontested(i), open: open, across: across[i], next: next}
		for _, l := range labels {
			st.from(l)
			if len(next.order) > s.most() {
				return false
			}
		}
		labels = next.list()
	}
	var best *label
	for _, l := range labels {
		if best == nil || l.cost.less(best.cost) {
			best = l
		}
	}
	s.adopt(best, open)
	return true
}

// begin lists the states the show can start in; setting up is not counted.
func (s *solver) begin(open []int) []*label {
	labels := []*label{{foot: -1}}
	for _, gi := range open {
		var next []*label
		for _, l := range labels {
			for _, state := range s.choices(s.contested[gi], 0) {
				states := append(append([]int(nil), l.states...), state)
				next = append(next, &label{states: states, arrive: states, foot: -1})
			}
		}
		if labels = next; len(labels) > s.most() {
			labels = labels[:s.most()]
			s.exact = false
		}
	}
	return labels
}

// frontier keeps the cheapest label for each key, in the order keys were first met.
type frontier struct {
	best  map[string]*label
	order []string
}

func (f *frontier) offer(l *label) {
	key := make([]byte, 0, 2*len(l.states)+2)
	for _, s := range l.states {
		key = binary.LittleEndian.AppendUint16(key, uint16(s))
	}
	key = binary.LittleEndian.AppendUint16(key, uint16(l.foot+1))
	old, ok := f.best[string(key)]
	if !ok {
		f.order = append(f.order, string(key))
	}
	if !ok || l.cost.less(old.cost) {
		f.best[string(key)] = l
	}
}

func (f *frontier) list() []*label {
	list := make([]*label, len(f.order))
	for i, k := range f.order {
		list[i] = f.best[k]
	}
	return list
}

// step carries labels across the change into part i.
type step struct {
	*solver
	i       int
	settled []motion
	open    [][]int
	across  []int
	next    *frontier
}

// from extends one label in every way: where each open machine goes at the change, in
// which order, and what is moved at leisure afterwards.
func (s *step) from(l *label) {
	s.choose(l, 0, s.settled, map[int]int{})
}

func (s *step) choose(l *label, n int, motions []motion, arrive map[int]int) {
	if n == len(s.across) {
		s.change(l, motions, arrive)
		return
	}
	gi := s.across[n]
	g := s.contested[gi]
	from := g.u
	if g.p < s.i-1 {
		from = l.states[indexOf(s.open[s.i-1], gi)]
	}
	targets := []int{g.v}
	if g.q > s.i {
		targets = s.choices(g, s.i)
	}
	if s.frozen(s.i) || (s.parts[s.i].held && s.machines[g.machine].allows(s.i, from)) {
		targets = []int{from}
	}
	for _, to := range targets {
		arrive[gi] = to
		if to == from {
			s.choose(l, n+1, motions, arrive)
			continue
		}
		if mo, ok := s.motion(g.machine, from, to, s.i); ok {
			s.choose(l, n+1, append(motions[:len(motions):len(motions)], mo), arrive)
		}
	}
	delete(arrive, gi)
}

func (s *step) change(l *label, motions []motion, arrive map[int]int) {
	short := s.parts[s.i].duration < s.foot.Short
	for _, o := range s.through(s.i, motions, s.stance(s.i, l.foot), short && s.i+1 < len(s.parts)) {
		next := &label{foot: -1, cost: l.cost.plus(o.cost), prev: l, out: o}
		if short {
			next.foot = o.last
			if o.last < 0 && s.parts[s.i-1].duration < s.foot.Short && !s.parts[s.i].afterGap() {
				next.foot = l.foot
			}
		}
		for _, gi := range s.open[s.i] {
			next.states = append(next.states, arrive[gi])
		}
		next.arrive = next.states
		s.rest(next, 0, s.capacity(s.i)-s.load[s.i])
	}
}

// stance is where the foot is when the change into part i begins.
func (s *solver) stance(i, last int) *stance {
	before := s.parts[i-1]
	if before.rocker != "" && !s.parts[i].afterGap() {
		if x, y, ok := s.feet.floor.Rocker(before.rocker.Gear()); ok {
			return &stance{sw: -1, x: x, y: y}
		}
	}
	if last >= 0 && before.duration < s.foot.Short && !s.parts[i].afterGap() {
		return &stance{sw: last}
	}
	return nil
}

// rest offers a label with every choice of moves at leisure in its part.
func (s *step) rest(l *label, n, room int) {
	if n == len(s.open[s.i]) {
		s.next.offer(l)
		return
	}
	s.rest(l, n+1, room)
	g := s.contested[s.open[s.i][n]]
	from := l.states[n]
	for _, to := range s.choices(g, s.i) {
		if to == from {
			continue
		}
		way, ok := s.leisurely(g.machine, from, to, s.i)
		if !ok || way.presses() > room {
			continue
		}
		moved := *l
		moved.states = append([]int(nil), l.states...)
		moved.states[n] = to
		moved.rests = append(l.rests[:len(l.rests):len(l.rests)], rest{g.machine, s.i, from, to, way})
		moved.cost.presses += way.presses()
		s.rest(&moved, n+1, room-way.presses())
	}
}

// adopt writes the best way through the show into the courses.
func (s *solver) adopt(l *label, open [][]int) {
	s.outcomes = make([]*outcome, len(s.parts))
	for i := len(s.parts) - 1; l != nil; i, l = i-1, l.prev {
		s.outcomes[i] = l.out
		s.rests = append(s.rests, l.rests...)
		for n, gi := range open[i] {
			c := &s.courses[s.contested[gi].machine]
			c.arrive[i], c.leave[i] = l.arrive[n], l.states[n]
		}
	}
}

// solve settles what can be settled and searches the rest. Where that is too many ways it is searched with less:
// without detours and with every move at leisure where it has room first, and where there still are too many as each
// machine would go on its own.
func (s *solver) solve() {
	s.exact, s.detours, s.yields = true, true, true
	s.bake()
	if s.search() {
		return
	}
	s.exact, s.detours, s.yields = false, false, false
	s.jobs, s.handJobs, s.rests, s.contested = nil, nil, nil, nil
	s.bake()
	if s.search() {
		return
	}
	for _, g := range s.contested {
		s.giveUp(g)
	}
	s.contested = nil
	s.search()
}

// giveUp settles a contested segment without searching: it moves at the first change that
// does not allow the state it is in.
func (s *solver) giveUp(g segment) {
	m := s.machines[g.machine]
	state := g.u
	for i := max(0, g.p+1); i <= min(g.q, len(s.parts)-1); i++ {
		if list := m.allowed[i]; list != nil && (state < 0 || !contains(list, state)) {
			if state < 0 { // it begins where it is first wanted
				s.courses[g.machine].fill(0, i-1, list[0])
			}
			state = list[0]
		}
		s.courses[g.machine].fill(i, i, max(0, state))
	}
}
