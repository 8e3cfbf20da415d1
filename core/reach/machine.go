package reach

import (
	"slices"

	"envex/core/floor"
	"envex/core/plan"
	"envex/core/reason"
)

// gesture is how a footswitch is used.
type gesture int

const (
	pressed gesture = iota
	held
	doubled
)

func (g gesture) String() string { return [...]string{"press", "hold", "double"}[g] }

// effect is one thing an op does to one variable of its machine.
type effect struct {
	slot  int // which variable of the machine
	kind  plan.ActionKind
	value int // for set
	by    int // for step
	wrap  bool
	bank  int   // for recall: which variable of the machine is the bank, -1 where there is one bank
	table []int // for recall: the value by bank, unchanged where a program leaves it
}

// unchanged is what a program recalls of a variable that it leaves as it is.
const unchanged = -1

// withTempo, and what is below it, is what a program recalls that follows the tempo: the note in the list of
// those that the rig asks of the variable, counted down.
const withTempo = -2

// op is one gesture on one footswitch, and what it moves.
type op struct {
	id      int
	sw      int // index into the floor's switches
	gesture gesture
	late    bool // the switch also has a double press, so a plain press waits out its window
	taps    int  // more than 1 for a tapped tempo
	effects []effect
}

// presses is how many presses one use of the op is.
func (o *op) presses() int {
	if o.taps > 1 {
		return o.taps
	}
	return 1
}

// machine is a set of variables that some press moves together, most often just one, and
// the ops that move them. Its states are the combinations of their values, as one number.
type machine struct {
	vars    []int
	ops     []*op
	sizes   []int
	strides []int // by variable: how far apart two of its neighbouring values are
	states  int
	allowed [][]int // by part: the states its recipe is content with; nil for any
	paths   map[[2]int][]path
	unheard map[silence][]path
	tapping bool
	gains   bool // some variable of it turns a gain stage on and off
	// curtailed is set once a way was so long that only the shortest were looked at.
	curtailed bool

	leads map[*op][]int   // by op and state: where it leads; made when it is asked for
	into  [][]int32       // by state: the states that one op leads from; made when it is asked for
	far   map[int][]int16 // by goal: the fewest ops to it
}

// silence is a move that must not be heard in a part with certain wants.
type silence struct {
	from, to int
	wants    *wants
}

// maxStates bounds the states of one machine; no real controller governs so much at once.
const maxStates = 1 << 16

// buildOps reads every footswitch of the rig.
func buildOps(s *settings, f *floor.Plan) (ops []*op, touched [][]int) {
	taps := s.rig.Profile.Filled().Taps
	for i := range f.Switches {
		key := f.Switches[i].Key
		g, _ := s.plan.FindGear(key.Gear())
		sw, _ := g.FindSwitch(plan.ID(key.Rest()))
		press, hold, double := s.rig.SwitchDoes(g, sw)
		for n, p := range []*plan.Press{press, hold, double} {
			if p == nil || p.Momentary || s.bypasses(key.Gear(), p) {
				continue
			}
			o := &op{id: len(ops), sw: i, gesture: gesture(n), late: gesture(n) == pressed && double != nil, taps: 1}
			for _, a := range p.Actions {
				if a.Kind == plan.Tap {
					o.taps = taps
				}
				o.effects = append(o.effects, s.effectsOf(key, a)...)
			}
			if len(o.effects) == 0 {
				continue
			}
			var vars []int
			for _, e := range o.effects {
				vars = append(vars, e.slot)
				if e.kind == plan.Recall && e.bank >= 0 {
					vars = append(vars, e.bank)
				}
			}
			ops = append(ops, o)
			touched = append(touched, vars)
		}
	}
	return ops, touched
}

// bypasses reports whether a press turns a box in a loop on or off at the box itself: it is left
// on and its loop is switched, so nobody presses that.
func (s *settings) bypasses(gear plan.ID, p *plan.Press) bool {
	for _, a := range p.Actions {
		if block, ok := onBlock(a.Target); ok && a.Target.Gear() == gear && s.looped[block] {
			return true
		}
	}
	return false
}

// effectsOf is what one action of a footswitch does; nothing where what it moves is not in
// the rig. The slots are variables of the rig until machines are made of them.
func (s *settings) effectsOf(sw plan.Key, a plan.Action) []effect {
	switch a.Kind {
	case plan.Mute:
		return nil
	case plan.Recall:
		return s.recalled(sw.Gear(), a)
	case plan.Bank:
		v, ok := s.byKey[bankKey(sw.Gear())]
		if !ok {
			return nil
		}
		banks, whole := s.banksOf(sw.Gear())
		if a.Value == nil {
			return []effect{{slot: v, kind: plan.Step, by: a.Stride(), wrap: a.Wrap && whole}}
		}
		if at := slices.Index(banks, a.Value.Word()); at >= 0 {
			return []effect{{slot: v, kind: plan.Set, value: at}}
		}
		return nil
	}
	v, ok := s.byKey[a.Target]
	if !ok {
		return nil
	}
	e := effect{slot: v, kind: a.Kind, by: a.Stride(), wrap: a.Wrap}
	if a.Kind == plan.Set {
		e.value = s.vars[v].intern(*a.Value)
	}
	return []effect{e}
}

// buildMachines groups the variables and drops the groups that never have to move. It also
// gives the state of every variable that is dropped.
func buildMachines(s *settings, parts []*part, ops []*op, touched [][]int) (machines []*machine, fixed []int, err error) {
	root := all(len(s.vars))
	var find func(int) int
	find = func(i int) int {
		if root[i] != i {
			root[i] = find(root[i])
		}
		return root[i]
	}
	for _, vars := range touched {
		for _, v := range vars[1:] {
			root[find(v)] = find(vars[0])
		}
	}
	byRoot := map[int]*machine{}
	for i := range s.vars {
		m := byRoot[find(i)]
		if m == nil {
			m = &machine{paths: map[[2]int][]path{}}
			byRoot[find(i)] = m
			machines = append(machines, m)
		}
		m.vars = append(m.vars, i)
	}
	for i, o := range ops {
		m := byRoot[find(touched[i][0])]
		for j := range o.effects {
			o.effects[j].slot = indexOf(m.vars, o.effects[j].slot)
			if o.effects[j].kind == plan.Recall && o.effects[j].bank >= 0 {
				o.effects[j].bank = indexOf(m.vars, o.effects[j].bank)
			}
			m.tapping = m.tapping || o.effects[j].kind == plan.Tap ||
				slices.ContainsFunc(o.effects[j].table, func(to int) bool { return to <= withTempo })
		}
		m.ops = append(m.ops, o)
	}
	fixed = make([]int, len(s.vars))
	moving := machines[:0]
	asking := distinct(parts)
	for _, m := range machines {
		state, still, err := m.prepare(s, parts, asking)
		if err != nil {
			return nil, nil, err
		}
		if still {
			for j, v := range m.vars {
				fixed[v] = m.value(state, j)
			}
			continue
		}
		moving = append(moving, m)
	}
	return moving, fixed, nil
}

func indexOf(list []int, x int) int {
	for i, y := range list {
		if x == y {
			return i
		}
	}
	return -1
}

// asking is the different wants of the parts, and by part which of them it has: -1 where
// nothing can be asked of the rig.
type asking struct {
	wants []*wants
	of    []int
	lists [][]int // by wants: the states of one machine that they allow; made anew for each
}

func distinct(parts []*part) *asking {
	a := &asking{of: make([]int, len(parts))}
	number := map[*wants]int{}
	for i, x := range parts {
		if x.broken != "" {
			a.of[i] = -1
			continue
		}
		n, ok := number[x.wants]
		if !ok {
			n = len(a.wants)
			number[x.wants] = n
			a.wants = append(a.wants, x.wants)
		}
		a.of[i] = n
	}
	a.lists = make([][]int, len(a.wants))
	return a
}

// prepare sizes the machine's states and works out which each part allows. Where one state is
// right for all of them it gives that.
func (m *machine) prepare(s *settings, parts []*part, asked *asking) (state int, still bool, err error) {
	m.states = 1
	for _, v := range m.vars {
		m.gains = m.gains || s.vars[v].gain
		n := max(1, len(s.vars[v].values))
		m.sizes = append(m.sizes, n)
		m.strides = append(m.strides, m.states)
		if m.states *= n; m.states > maxStates {
			first := s.vars[m.vars[0]].Label
			return 0, false, reason.Errorf("the switches that move %s move too many controls at once", first)
		}
	}
	for n, w := range asked.wants {
		asked.lists[n] = m.allowedBy(w)
	}
	if state, still = m.still(s, asked.lists); still {
		return state, true, nil
	}
	m.allowed = make([][]int, len(parts))
	for i, n := range asked.of {
		if n >= 0 {
			m.allowed[i] = asked.lists[n]
		}
	}
	m.nearBanks(s, parts)
	m.close()
	return 0, false, nil
}

// close asks before the first part that asks something, and after the last, what that part
// asks: nothing is moved that no sound needs, not even to put the foot somewhere.
func (m *machine) close() {
	for _, end := range []struct{ from, step int }{{0, 1}, {len(m.allowed) - 1, -1}} {
		i := end.from
		for i >= 0 && i < len(m.allowed) && m.allowed[i] == nil {
			i += end.step
		}
		for j := end.from; i >= 0 && i < len(m.allowed) && j != i; j += end.step {
			m.allowed[j] = m.allowed[i]
		}
	}
}

func (m *machine) allowedBy(w *wants) []int {
	free := true
	for _, v := range m.vars {
		free = free && w.of[v].oneOf == nil
	}
	if free {
		return nil
	}
	if len(m.vars) == 1 {
		return w.of[m.vars[0]].oneOf
	}
	var list []int
	for state := range m.states {
		fits := true
		for j, v := range m.vars {
			one := w.of[v].oneOf
			fits = fits && (one == nil || contains(one, m.value(state, j)))
		}
		if fits {
			list = append(list, state)
		}
	}
	return list
}

// still finds a state that is in every list, the base settings where they are one; nil is a
// list of all states.
func (m *machine) still(s *settings, lists [][]int) (int, bool) {
	base := 0
	for j := len(m.vars) - 1; j >= 0; j-- {
		v := s.vars[m.vars[j]]
		base = base*m.sizes[j] + max(0, v.index[s.rig.BaseValue(v.Variable)])
	}
	everywhere := func(state int) bool {
		return !slices.ContainsFunc(lists, func(list []int) bool { return list != nil && !contains(list, state) })
	}
	if everywhere(base) {
		return base, true
	}
	some := slices.IndexFunc(lists, func(list []int) bool { return list != nil })
	for _, state := range lists[some] {
		if everywhere(state) {
			return state, true
		}
	}
	return 0, false
}

// value is what the machine's j-th variable is in a state.
func (m *machine) value(state, j int) int {
	if len(m.sizes) == 1 {
		return state
	}
	return state / m.strides[j] % m.sizes[j]
}

// with is a state with the machine's j-th variable set.
func (m *machine) with(state, j, value int) int {
	return state + (value-m.value(state, j))*m.strides[j]
}

// allows reports whether part i is content with a state.
func (m *machine) allows(i, state int) bool {
	return m.allowed[i] == nil || contains(m.allowed[i], state)
}

// choices are the states part i is content with.
func (m *machine) choices(i int) []int {
	if m.allowed[i] == nil {
		return all(m.states)
	}
	return m.allowed[i]
}

// after lists the states an op can lead to from a state, in part i: one, but for a tap,
// which can give any of the times of the part's tempo.
func (m *machine) after(o *op, state int, w *wants) []int {
	if m.tapping {
		return m.work(o, state, w)
	}
	if m.leads == nil {
		m.leads = map[*op][]int{}
	}
	table := m.leads[o]
	if table == nil {
		table = make([]int, m.states)
		for from := range table {
			table[from] = m.work(o, from, nil)[0]
		}
		m.leads[o] = table
	}
	return table[state : state+1 : state+1]
}

// work carries an op out.
func (m *machine) work(o *op, state int, w *wants) []int {
	results := []int{state}
	for _, e := range o.effects {
		now := m.value(state, e.slot)
		switch e.kind {
		case plan.Toggle:
			results = m.setAll(results, e.slot, 1-now)
		case plan.Set:
			results = m.setAll(results, e.slot, e.value)
		case plan.Step:
			results = m.setAll(results, e.slot, stepped(now, e.by, m.sizes[e.slot], e.wrap))
		case plan.Recall:
			bank := 0
			if e.bank >= 0 {
				bank = m.value(state, e.bank)
			}
			switch to := e.table[bank]; {
			case to <= withTempo:
				results = m.setAll(results, e.slot, w.tapped[m.vars[e.slot]][withTempo-to])
			case to != unchanged:
				results = m.setAll(results, e.slot, to)
			}
		case plan.Tap:
			var next []int
			for _, value := range w.tapped[m.vars[e.slot]] {
				next = append(next, m.setAll(append([]int(nil), results...), e.slot, value)...)
			}
			results = next
		}
	}
	return results
}

func (m *machine) setAll(states []int, slot, value int) []int {
	for i := range states {
		states[i] = m.with(states[i], slot, value)
	}
	return states
}

func stepped(now, by, n int, wrap bool) int {
	next := now + by
	if wrap {
		return ((next % n) + n) % n
	}
	return min(max(next, 0), n-1)
}

// inert reports whether going from one state to another can be heard in part i: it cannot
// when every variable that differs does nothing there.
func (m *machine) inert(w *wants, from, to int) bool {
	for j, v := range m.vars {
		if !w.of[v].inert && m.value(from, j) != m.value(to, j) {
			return false
		}
	}
	return true
}
