package switching

import (
	"maps"
	"slices"

	"envex/core/plan"
)

// fit reports whether one program can serve two: no setting is asked to be two things.
func fit(a, b map[plan.Key]plan.Value) bool {
	for key, x := range a {
		if y, ok := b[key]; ok && x != y {
			return false
		}
	}
	return true
}

// anyFit reports whether any two programs could be one, or either sound on what the other has set.
func anyFit(list []need) bool {
	for i := range list {
		for k := range i {
			if fit(list[i].values, list[k].values) {
				return true
			}
		}
	}
	return false
}

// leastRecalls is how many recalls a night takes at least, whatever programs there are: a stretch of it needs
// none as long as no setting is asked to be two things in it, and longest stretches are fewest. How the night
// begins is set up before it.
func leastRecalls(list []need, played []int) int {
	recalls := 0
	asked := map[plan.Key]plan.Value{}
	for _, at := range played {
		if !fit(asked, list[at].values) {
			recalls++
			asked = map[plan.Key]plan.Value{}
		}
		maps.Copy(asked, list[at].values)
	}
	return recalls
}

// recalled is the night as it is played on its programs: a program is recalled only where what stands does not
// serve. What a program does not set stays as it stands.
func recalled(list []need, played []int) []int {
	var order []int
	stands := map[plan.Key]plan.Value{}
	serves := func(want map[plan.Key]plan.Value) bool {
		for key, x := range want {
			if stands[key] != x {
				return false
			}
		}
		return true
	}
	for i, at := range played {
		if i > 0 && serves(list[at].values) {
			continue
		}
		order = append(order, at)
		maps.Copy(stands, list[at].values)
	}
	return order
}

// merge makes one program of two that fit together, as long as that saves recalls, or programs at no more
// recalls.
func (n *needs) merge() {
	now := len(recalled(n.list, n.played))
	for improved := true; improved; {
		improved = false
		best, at := now, [2]int{-1, -1}
		for i := range n.list {
			for k := range i {
				if !fit(n.list[i].values, n.list[k].values) {
					continue
				}
				if recalls := len(recalled(n.without(i, k))); recalls < best || recalls == best && at[0] < 0 {
					best, at = recalls, [2]int{i, k}
				}
			}
		}
		if at[0] >= 0 {
			list, played := n.without(at[0], at[1])
			songs := make([][]int, len(n.songs))
			for s, song := range n.songs {
				for _, x := range song {
					if x = moved(x, at[0], at[1]); !slices.Contains(songs[s], x) {
						songs[s] = append(songs[s], x)
					}
				}
			}
			n.list, n.played, n.songs = list, played, songs
			now, improved = best, true
		}
	}
}

// moved is the number of a program once program i has become part of program k, which is before it.
func moved(x, i, k int) int {
	switch {
	case x == i:
		return k
	case x > i:
		return x - 1
	}
	return x
}

// without are the programs with the i-th made part of the k-th, which is before it, and the night played on
// them.
func (n *needs) without(i, k int) ([]need, []int) {
	list := slices.Clone(n.list)
	x, y := list[k], list[i]
	x.values = maps.Clone(x.values)
	if x.values == nil {
		x.values = map[plan.Key]plan.Value{}
	}
	maps.Copy(x.values, y.values)
	x.uses, x.lead = x.uses+y.uses, x.lead || y.lead
	x.sounds = slices.Clone(x.sounds)
	for _, id := range y.sounds {
		if !slices.Contains(x.sounds, id) {
			x.sounds = append(x.sounds, id)
		}
	}
	list[k] = x
	list = slices.Delete(list, i, i+1)
	played := make([]int, len(n.played))
	for p, at := range n.played {
		played[p] = moved(at, i, k)
	}
	return list, played
}

// count works out how the night goes from program to program.
func (n *needs) count() {
	n.weight, n.toward = make([][]int, len(n.list)), make([][]int, len(n.list))
	for i := range n.weight {
		n.weight[i], n.toward[i] = make([]int, len(n.list)), make([]int, len(n.list))
	}
	n.order = recalled(n.list, n.played)
	n.moves = max(0, len(n.order)-1)
	// The bank of the first recall is stepped to before the night begins, as is the program it begins on.
	for i := 2; i < len(n.order); i++ {
		a, b := n.order[i-1], n.order[i]
		n.toward[a][b]++
		if a != b {
			n.weight[a][b]++
			n.weight[b][a]++
		}
	}
}
