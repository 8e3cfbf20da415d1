package plan

import (
	"slices"
	"strconv"
)

// BankNames are what the first n banks of a controller are called in this rig: by letters where it has lettered
// ones, or bank switches that name them so; else by numbers.
func (r *Rig) BankNames(g *Gear, n int) []string {
	lettered := len(r.Programs[g.ID]) > 0 && !numbered(SortedKeys(r.Programs[g.ID]))
	for i := range g.Footswitches {
		press, hold, double := r.SwitchDoes(g, &g.Footswitches[i])
		for _, x := range []*Press{press, hold, double} {
			if x == nil {
				continue
			}
			for _, a := range x.Actions {
				bank, _, _ := a.Slot()
				if a.Kind == Bank && a.Value != nil {
					bank = a.Value.Word()
				}
				lettered = lettered || bank != "" && !numbered([]string{bank})
			}
		}
	}
	names := make([]string, n)
	for i := range names {
		if names[i] = strconv.Itoa(i + 1); lettered {
			names[i] = letter(i + 1)
		}
	}
	return names
}

// BanksOf are the banks that the bank switches of a controller pass, in order: those with programs where it
// passes over empty ones or nobody has said how many it has; else all it has, those without a program by
// their number.
func (r *Rig) BanksOf(g *Gear) []string {
	used := SortedKeys(r.Programs[g.ID])
	slices.SortStableFunc(used, CompareSlots)
	if g.SkipsEmpty || g.Banks == 0 {
		return used
	}
	all := slices.Clone(used)
	for n := 1; len(all) < g.Banks; n++ {
		name := strconv.Itoa(n)
		if !numbered(used) && len(used) > 0 {
			name = letter(n)
		}
		if !slices.Contains(all, name) {
			all = append(all, name)
		}
	}
	slices.SortStableFunc(all, CompareSlots)
	return all
}

func numbered(banks []string) bool {
	return !slices.ContainsFunc(banks, func(b string) bool {
		_, err := strconv.Atoi(b)
		return err != nil
	})
}

// letter is the name of the n-th bank of a controller that letters them; past Z it is a number.
func letter(n int) string {
	if n <= 26 {
		return string(rune('A' + n - 1))
	}
	return strconv.Itoa(n)
}

// Far is what stands for the presses between two banks that no switch gets from one to the other.
const Far = 1 << 12

// BankPresses is, of n banks in a row, how many presses of a controller's bank switches lead from each to each
// other in this rig; [Far] where none do.
func (r *Rig) BankPresses(g *Gear, n int) [][]int {
	type move struct {
		by    int
		wraps bool
		to    int // of a switch that goes to one bank
	}
	var moves []move
	names := r.BanksOf(g)
	for i := range g.Footswitches {
		press, hold, double := r.SwitchDoes(g, &g.Footswitches[i])
		for _, x := range []*Press{press, hold, double} {
			if x == nil {
				continue
			}
			for _, a := range x.Actions {
				switch bank, _, ok := a.Slot(); {
				case a.Kind == Bank && a.Value != nil:
					moves = append(moves, move{to: slices.Index(names, a.Value.Word()), by: 0})
				case a.Kind == Bank:
					moves = append(moves, move{by: a.Stride(), wraps: a.Wrap, to: -1})
				case ok && bank != "":
					moves = append(moves, move{to: slices.Index(names, bank), by: 0})
				}
			}
		}
	}
	out := make([][]int, n)
	for from := range out {
		out[from] = slices.Repeat([]int{Far}, n)
		out[from][from] = 0
		for queue := []int{from}; len(queue) > 0; queue = queue[1:] {
			at := queue[0]
			for _, m := range moves {
				to := m.to
				if m.by != 0 {
					if to = at + m.by; m.wraps {
						to = (to%n + n) % n
					}
				}
				if to >= 0 && to < n && out[from][to] == Far {
					out[from][to] = out[from][at] + 1
					queue = append(queue, to)
				}
			}
		}
	}
	return out
}
