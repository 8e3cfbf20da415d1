package reach

import (
	"slices"
	"sort"
)

// group is one op used some times in a row, and the state after each use.
type group struct {
	op     *op
	count  int
	states []int
}

// use is one use of an op on the way, and the state it leads to.
type use struct {
	op    *op
	state int
}

// path is a way to get a machine from one state to another: groups in the order in which
// they must come.
type path []group

func (p path) presses() int {
	n := 0
	for _, g := range p {
		n += g.count * g.op.presses()
	}
	return n
}

// Bounds on the search for ways between two states: paths up to this many ops longer than
// the shortest, and this many of them. A toggle or a selector never comes near either.
const (
	extraOps = 2
	longWay  = 6 // from here on only the shortest ways are looked at, and the answer is said not to be exact
	maxPaths = 64
)

// between lists the ways from one state to another that could be best in some change: no
// state twice, and none that only adds presses to another. With silent set, every step on
// the way must be inaudible in a part with these wants.
func (m *machine) between(from, to int, w *wants, silent bool) []path {
	if !m.tapping && !silent {
		if known, ok := m.paths[[2]int{from, to}]; ok {
			return known
		}
	}
	quiet := silence{from, to, w}
	if silent {
		if known, ok := m.unheard[quiet]; ok {
			return known
		}
	}
	search := pathSearch{m: m, w: w, silent: silent, to: to, seen: map[int]bool{from: true}}
	if !m.tapping && !silent {
		search.far = m.distances(to)
	}
	if silent && !m.tapping { // only the shortest is asked for
		search.first(from)
	} else if short := search.shortest(from); short >= 0 {
		search.limit = short + extraOps
		if short > longWay {
			search.limit, m.curtailed = short, true
		}
		search.walk(from, nil)
	}
	found := undominated(search.found)
	switch {
	case silent:
		if m.unheard == nil {
			m.unheard = map[silence][]path{}
		}
		m.unheard[quiet] = found
	case !m.tapping:
		m.paths[[2]int{from, to}] = found
	}
	return found
}

type pathSearch struct {
	m      *machine
	w      *wants
	silent bool
	to     int
	limit  int
	seen   map[int]bool
	far    []int16 // by state: the fewest ops to the goal; nil where that is not known
	found  [][]use
}

// distances gives the fewest ops from every state to one, -1 where there is no way: so that a
// search for ways turns back in time.
func (m *machine) distances(to int) []int16 {
	if known, ok := m.far[to]; ok {
		return known
	}
	if m.into == nil {
		m.into = make([][]int32, m.states)
		for state := range m.states {
			for _, o := range m.ops {
				for _, n := range m.after(o, state, nil) {
					if n != state {
						m.into[n] = append(m.into[n], int32(state))
					}
				}
			}
		}
		m.far = map[int][]int16{}
	}
	far := make([]int16, m.states)
	for i := range far {
		far[i] = -1
	}
	far[to] = 0
	for queue := []int32{int32(to)}; len(queue) > 0; queue = queue[1:] {
		for _, from := range m.into[queue[0]] {
			if far[from] < 0 {
				far[from] = far[queue[0]] + 1
				queue = append(queue, from)
			}
		}
	}
	m.far[to] = far
	return far
}

func (s *pathSearch) next(o *op, state int) []int {
	var list []int
	for _, n := range s.m.after(o, state, s.w) {
		if n != state && (!s.silent || s.m.inert(s.w, state, n)) {
			list = append(list, n)
		}
	}
	return list
}

// shortest is the least number of ops to the goal, -1 when there is no way.
func (s *pathSearch) shortest(from int) int {
	if s.far != nil {
		return int(s.far[from])
	}
	depth := map[int]int{from: 0}
	queue := []int{from}
	for len(queue) > 0 {
		state := queue[0]
		queue = queue[1:]
		if state == s.to {
			return depth[state]
		}
		for _, o := range s.m.ops {
			for _, n := range s.next(o, state) {
				if _, ok := depth[n]; !ok {
					depth[n] = depth[state] + 1
					queue = append(queue, n)
				}
			}
		}
	}
	return -1
}

// first finds one of the shortest ways to the goal, the first that the ops give in their order.
func (s *pathSearch) first(from int) {
	type step struct {
		use
		before int
	}
	came := map[int]step{from: {before: -1}}
	for queue := []int{from}; len(queue) > 0; queue = queue[1:] {
		state := queue[0]
		if state == s.to {
			var way []use
			for state != from {
				way = append(way, came[state].use)
				state = came[state].before
			}
			slices.Reverse(way)
			s.found = append(s.found, way)
			return
		}
		for _, o := range s.m.ops {
			for _, n := range s.next(o, state) {
				if _, ok := came[n]; !ok {
					came[n] = step{use{o, n}, state}
					queue = append(queue, n)
				}
			}
		}
	}
}

func (s *pathSearch) walk(state int, done []use) {
	if state == s.to {
		s.found = append(s.found, append([]use(nil), done...))
		return
	}
	if len(done) == s.limit || len(s.found) >= maxPaths*8 {
		return
	}
	for _, o := range s.m.ops {
		for _, n := range s.next(o, state) {
			if s.seen[n] || (s.far != nil && (s.far[n] < 0 || len(done)+1+int(s.far[n]) > s.limit)) {
				continue
			}
			s.seen[n] = true
			s.walk(n, append(done, use{o, n}))
			delete(s.seen, n)
		}
	}
}

// undominated keeps, of the found ways, those whose presses are not all in another's too,
// fewest presses first.
func undominated(found [][]use) []path {
	sort.SliceStable(found, func(i, j int) bool { return len(found[i]) < len(found[j]) })
	var kept [][]use
	for _, f := range found {
		redundant := false
		for _, k := range kept {
			redundant = redundant || includes(f, k)
		}
		if !redundant && len(kept) < maxPaths {
			kept = append(kept, f)
		}
	}
	paths := make([]path, len(kept))
	for i, k := range kept {
		paths[i] = grouped(k)
	}
	sort.SliceStable(paths, func(i, j int) bool { return paths[i].presses() < paths[j].presses() })
	return paths
}

// includes reports whether every op of less is in more, as often and in the same order.
func includes(more, less []use) bool {
	i := 0
	for _, u := range more {
		if i < len(less) && less[i].op == u.op {
			i++
		}
	}
	return i == len(less)
}

func grouped(uses []use) path {
	var p path
	for _, u := range uses {
		if n := len(p); n > 0 && p[n-1].op == u.op {
			p[n-1].count++
			p[n-1].states = append(p[n-1].states, u.state)
			continue
		}
		p = append(p, group{op: u.op, count: 1, states: []int{u.state}})
	}
	return p
}
