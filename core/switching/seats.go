package switching

import (
	"slices"

	"envex/core/plan"
)

// pin is the slot a program is kept on, and its bank, -1 for any.
type pin struct {
	slot string
	bank int
}

// pins are what the player keeps where it is: by program, for the one that serves the sound most.
func (s *solving) pins(n *needs) map[int]pin {
	found := map[int]pin{}
	for _, x := range s.was.SlotPins {
		if x.Controller != s.gear.ID {
			continue
		}
		best := -1
		for i := range n.list {
			if slices.Contains(n.list[i].sounds, x.Sound) && (best < 0 || n.list[i].uses > n.list[best].uses) {
				best = i
			}
		}
		if best < 0 || !slices.ContainsFunc(s.slots, func(w slotSwitch) bool { return w.slot == x.Slot }) {
			continue
		}
		at := pin{slot: x.Slot, bank: -1}
		if number := slices.Index(s.was.BankNames(s.gear, min(s.banks, 60)), x.Bank); number >= 0 && s.School == Page {
			at.bank = number
		}
		if other, taken := found[best]; taken && other != at {
			s.out.Notes = append(
				s.out.Notes, s.label(n.list[best])+" is kept on slot "+other.slot+"; it cannot be on slot "+x.Slot+" too.",
			)
			continue
		}
		found[best] = at
	}
	return found
}

// barred are, by program, the banks it may not stand in: with a pin to a bank all others, and
// with a pin to a slot any bank in which that slot is kept for something else.
func (n *needs) barred(banks int) []uint64 {
	if len(n.pins) == 0 {
		return nil
	}
	out := make([]uint64, len(n.list))
	some := false
	for i, a := range n.pins {
		if a.bank >= 0 {
			out[i] = (1<<banks - 1) &^ (1 << a.bank)
		} else {
			for k, b := range n.pins {
				if k != i && b.slot == a.slot && b.bank >= 0 {
					out[i] |= 1 << b.bank
				}
			}
		}
		some = some || out[i] != 0
	}
	if !some {
		return nil
	}
	return out
}

func byUse(n *needs) []int {
	list := make([]int, len(n.list))
	for i := range list {
		list[i] = i
	}
	slices.SortStableFunc(list, func(a, b int) int { return n.list[b].uses - n.list[a].uses })
	return list
}

// seat gives programs of one bank their slots: those that are pinned or had one before keep it, a
// lead stands at the far end, and the most used are under the readiest foot, nearest to the middle.
func (n *needs) seat(in []int, slots []slotSwitch, usual map[int]string, bank int) []place {
	free := map[string]bool{}
	middle := 0.0
	for _, s := range slots {
		free[s.slot] = true
		middle += s.x / float64(len(slots))
	}
	ready := slices.Clone(slots)
	slices.SortStableFunc(ready, func(a, b slotSwitch) int {
		x, y := abs(a.x-middle), abs(b.x-middle)
		switch {
		case x < y:
			return -1
		case x > y:
			return 1
		}
		return 0
	})
	var list []place
	sit := func(i int, slot string) {
		free[slot] = false
		list = append(list, place{i, slot})
	}
	order := slices.Clone(in)
	slices.SortStableFunc(order, func(a, b int) int { return n.list[b].uses - n.list[a].uses })
	var rest []int
	order = slices.DeleteFunc(order, func(i int) bool {
		at, pinned := n.pins[i]
		if !pinned || !free[at.slot] || (at.bank >= 0 && bank >= 0 && at.bank != bank) {
			return false
		}
		sit(i, at.slot)
		return true
	})
	for _, i := range order {
		end := slots[len(slots)-1].slot
		switch {
		case usual[i] != "" && free[usual[i]]:
			sit(i, usual[i])
		case usual[i] == "" && n.list[i].lead && free[end] && len(in) > 1:
			sit(i, end)
		default:
			rest = append(rest, i)
		}
	}
	for _, i := range rest {
		for _, s := range ready {
			if free[s.slot] {
				sit(i, s.slot)
				break
			}
		}
	}
	slices.SortFunc(list, func(a, b place) int { return plan.CompareSlots(a.slot, b.slot) })
	return list
}

func abs(x float64) float64 { return max(x, -x) }
