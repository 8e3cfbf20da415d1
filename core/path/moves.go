package path

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"envex/core/plan"
)

// moves leads from the path as it stands to an arrangement of it with the fewest moves of one
// item: in each line those on a longest increasing run stay, the others are put in their
// place from the front on.
func (j *judge) moves(to order) []Move {
	moves := []Move{}
	now := order{}
	if j.broken {
		moves = append(moves, j.moved(now, "", "Bring together what cannot be parted"))
	}
	var pending []string // moves after which the path cannot be wired yet
	j.whole.each(func(l *track) {
		if len(l.items) < 2 {
			return
		}
		present := l.problem().present()
		for _, step := range steps(present, to[l]) {
			now = maps.Clone(now)
			now[l] = step.after
			pending = append(pending, j.putWords(l, step.after, step.item))
			m := j.moved(now, l.items[step.item].id(), strings.Join(pending, ", then "))
			if j.wirable(m.Path) {
				moves, pending = append(moves, m), nil
			}
		}
	})
	return moves
}

type step struct {
	item  int
	after []int
}

func steps(from, to []int) []step {
	stay := longestRun(from, to)
	var list []step
	now := slices.Clone(from)
	for x, s := range to {
		if stay[s] {
			continue
		}
		at := slices.Index(now, s)
		now = slices.Delete(slices.Clone(now), at, at+1)
		put := 0
		if x > 0 {
			put = slices.Index(now, to[x-1]) + 1
		}
		now = slices.Insert(now, put, s)
		list = append(list, step{s, now})
		stay[s] = true
	}
	return list
}

func (j *judge) putWords(l *track, arranged []int, moved int) string {
	at := slices.Index(arranged, moved)
	if at+1 < len(arranged) {
		return fmt.Sprintf("Move %s before %s", l.items[moved].name(), l.items[arranged[at+1]].name())
	}
	return "Move " + l.items[moved].name() + " to the end"
}

// moved is a move to an arrangement of the gathered path.
func (j *judge) moved(o order, what plan.Key, words string) Move {
	path := o.nodes(j.whole)
	return Move{Words: words, Stop: what, Cost: j.costOfOrder(o), Order: plan.StopsIn(path), Path: path}
}

// rewired is a move to a path that is no arrangement of the present one.
func (j *judge) rewired(path []plan.Node, what plan.Key, words string) Move {
	return Move{
		Words: words, Stop: what, Cost: newJudge(j.plan, j.rig, j.dest, path, j.driven).cost(), Order: plan.StopsIn(path),
		Path: path,
	}
}

// id names an item in a move: a stop by its key, a split by its id, a run by its first.
func (it *item) id() plan.Key {
	if it.run {
		return it.inner[0].items[0].id()
	}
	return it.node.ID()
}

// name is what an item is called.
func (it *item) name() string {
	switch {
	case it.run && len(it.all) > 2:
		return it.inner[0].items[0].name() + " and what goes with it"
	case it.run:
		first := it.inner[0].items[0]
		if len(it.inner[0].items) > 1 && first.stop != nil && it.inner[0].items[1].stop != nil &&
			first.stop.gear == it.inner[0].items[1].stop.gear {
			return first.stop.gear.Name
		}
		return first.name() + " and what goes with it"
	case it.stop != nil:
		return it.stop.name
	}
	return it.called
}

// longestRun marks the items of a longest common run of two orders of the same items.
func longestRun(from, to []int) map[int]bool {
	at := map[int]int{}
	for x, s := range from {
		at[s] = x
	}
	length, prev := make([]int, len(to)), make([]int, len(to))
	end := -1
	for x := range to {
		length[x], prev[x] = 1, -1
		for y := range x {
			if at[to[y]] < at[to[x]] && length[y]+1 > length[x] {
				length[x], prev[x] = length[y]+1, y
			}
		}
		if end < 0 || length[x] > length[end] {
			end = x
		}
	}
	stay := map[int]bool{}
	for ; end >= 0; end = prev[end] {
		stay[to[end]] = true
	}
	return stay
}
