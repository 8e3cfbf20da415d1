package reach

import (
	"slices"

	"envex/core/plan"
)

// bankKey is the variable that holds the bank a controller stands on. It is no control of
// the gear, so its name is one that no control can have.
func bankKey(controller plan.ID) plan.Key { return plan.Key(controller) + "//bank" }

// banksOf are the banks of a controller that hold programs, numbers in their order, then
// names.
func banksOf(r *plan.Rig, controller plan.ID) []string {
	var banks []string
	for name := range r.Programs[controller] {
		banks = append(banks, name)
	}
	slices.SortFunc(banks, plan.CompareSlots)
	return banks
}

// addBanks adds, for every controller with programs in several banks, the bank it stands on.
func (s *settings) addBanks(controllers []plan.ID) {
	for _, id := range controllers {
		banks := banksOf(s.rig, id)
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
	banks := banksOf(s.rig, controller)
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
			if !known || x.Kind() == plan.UnchangedValue || x.Kind() == plan.SyncValue {
				continue
			}
			if tables[v] == nil {
				tables[v] = slices.Repeat([]int{unchanged}, max(1, len(banks)))
				order = append(order, v)
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

// programNotes says what of the programs is not counted.
func programNotes(p *plan.Plan, r *plan.Rig) []string {
	for id := range r.Programs {
		for _, bank := range r.Programs[id] {
			for _, program := range bank {
				for _, x := range program.Values {
					if x.Kind() == plan.SyncValue {
						g, _ := p.FindGear(id)
						return []string{"Settings that follow the tempo are not counted in programs of " + g.Name + "; presets and taps are."}
					}
				}
			}
		}
	}
	return nil
}
