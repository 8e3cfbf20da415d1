package reach

import (
	"slices"

	"envex/core/plan"
)

// bankKey is the variable that holds the bank a controller stands on. It is no control of
// the gear, so its name is one that no control can have.
func bankKey(controller plan.ID) plan.Key { return plan.Key(controller) + "//bank" }

// mostBanks is how many banks of a controller its switches are followed through; of one with more, those from
// the first to the last with a program, and from there no further.
const mostBanks = 16

// banksOf are the banks that a controller's bank switches pass, in order, and whether they are all it has.
func (s *settings) banksOf(controller plan.ID) (banks []string, whole bool) {
	g, ok := s.plan.FindGear(controller)
	if !ok {
		return nil, true
	}
	banks = s.rig.BanksOf(g)
	last := 0
	for i, b := range banks {
		if len(s.rig.Programs[controller][b]) > 0 {
			last = i
		}
	}
	if len(banks) > max(mostBanks, last+1) {
		return banks[:max(mostBanks, last+1)], false
	}
	return banks, true
}

// addBanks adds, for every controller with programs in several banks, the bank it stands on.
func (s *settings) addBanks(controllers []plan.ID) {
	for _, id := range controllers {
		if len(s.rig.Programs[id]) == 0 {
			continue
		}
		banks, _ := s.banksOf(id)
		if len(banks) < 2 {
			continue
		}
		x := &variable{silent: true, Variable: plan.Variable{
			Key: bankKey(id), Gear: id, Label: s.gearName(id) + " bank", Access: plan.Foot,
			Control: &plan.Control{ID: "bank", Name: "bank", Kind: plan.Selector, Access: plan.Foot, Options: banks},
		}}
		s.put(x)
		for _, b := range banks {
			x.intern(plan.Text(b))
		}
	}
}

// recalled is what recalling a slot of a controller does to each variable that any program
// of the slot sets. A slot of the bank it stands on does what that bank's program says; a
// slot named with its bank goes there too.
func (s *settings) recalled(controller plan.ID, a plan.Action) []effect {
	bank, slot, ok := a.Slot()
	if !ok {
		return nil
	}
	banks, _ := s.banksOf(controller)
	var effects []effect
	bankVar := -1
	if v, ok := s.byKey[bankKey(controller)]; ok {
		bankVar = v
	}
	at := slices.Index(banks, bank)
	if bank != "" && at < 0 {
		return nil
	}
	tables := map[int][]int{}
	var order []int
	for n, name := range banks {
		for _, k := range sortedKeys(s.rig.Programs[controller][name][slot].Values) {
			v, known := s.byKey[k]
			x := s.rig.Programs[controller][name][slot].Values[k]
			if !known || x.Kind() == plan.UnchangedValue {
				continue
			}
			if tables[v] == nil {
				tables[v] = slices.Repeat([]int{unchanged}, max(1, len(banks)))
				order = append(order, v)
			}
			if x.Kind() == plan.SyncValue {
				tables[v][n] = withTempo - slices.Index(s.notes[v], x)
				continue
			}
			tables[v][n] = s.vars[v].intern(x)
		}
	}
	for _, v := range order {
		e := effect{slot: v, kind: plan.Recall, bank: bankVar, table: tables[v]}
		if bank != "" {
			e.table = slices.Repeat([]int{tables[v][at]}, len(e.table))
		}
		effects = append(effects, e)
	}
	if bank != "" && bankVar >= 0 {
		effects = append(effects, effect{slot: bankVar, kind: plan.Set, value: at})
	}
	return effects
}

// manyBanks is how many banks a controller has before resting places are looked for only in those
// that serve the sounds at hand; the answer is then said not to be exact.
const manyBanks = 3

// nearBanks leaves a part, where a controller has many banks, only the states in the few that serve
// most of the parts around it: a bank that is of no use until later is stepped to later.
func (m *machine) nearBanks(s *settings, parts []*part) {
	for j, v := range m.vars {
		if !s.vars[v].silent || m.sizes[j] <= manyBanks {
			continue
		}
		m.curtailed = true
		serving := make([]map[int]bool, len(parts))
		known := map[*wants]map[int]bool{}
		for i, x := range parts {
			if known[x.wants] == nil {
				known[x.wants] = m.serving(j, x.wants)
			}
			serving[i] = known[x.wants]
		}
		for i := range parts {
			var near []int // with those of its neighbours, so that none has to be left at once
			for k := max(0, i-1); k <= min(i+1, len(parts)-1); k++ {
				near = append(near, mostServing(serving, k, m.sizes[j])...)
			}
			if len(near) == 0 || m.allowed[i] == nil {
				continue
			}
			var kept []int
			for _, state := range m.allowed[i] {
				if slices.Contains(near, m.value(state, j)) {
					kept = append(kept, state)
				}
			}
			m.allowed[i] = kept
		}
	}
}

// ahead is how many parts on a bank is to serve to be worth standing on.
const ahead = 4

// mostServing are the banks that serve most of the parts from the one before to some ahead, the
// lower first among equals.
func mostServing(serving []map[int]bool, i, banks int) []int {
	count := make([]int, banks)
	for k := max(0, i-1); k < min(i+ahead, len(serving)); k++ {
		for b := range serving[k] {
			count[b]++
		}
	}
	var list []int
	for b, n := range count {
		if n > 0 {
			list = append(list, b)
		}
	}
	slices.SortStableFunc(list, func(a, b int) int { return count[b] - count[a] })
	return list[:min(len(list), manyBanks)]
}

// serving are the banks of the machine's j-th variable in which some slot recalls what a part asks.
func (m *machine) serving(j int, w *wants) map[int]bool {
	banks := map[int]bool{}
	for bank := range m.sizes[j] {
		for _, o := range m.ops {
			fits := len(o.effects) > 0
			for _, e := range o.effects {
				if e.kind != plan.Recall {
					fits = false
					break
				}
				one := w.of[m.vars[e.slot]].oneOf
				fits = fits && (e.table[bank] < 0 || one == nil || contains(one, e.table[bank]))
			}
			some := false
			for _, e := range o.effects {
				some = some || (e.kind == plan.Recall && e.table[bank] != unchanged)
			}
			banks[bank] = banks[bank] || (fits && some)
		}
	}
	for bank, serves := range banks {
		if !serves {
			delete(banks, bank)
		}
	}
	return banks
}
