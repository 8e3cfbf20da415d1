package repair

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"envex/core/floor"
	"envex/core/plan"
	"envex/core/reach"
)

// moves stands two boxes that are pressed in turn side by side: within a row the others move up,
// else a box is exchanged with a neighbour of the other.
func (s *scene) moves(c *reach.Change) []Edit {
	var list []Edit
	boxes := s.report.Floor.Boxes
	at := map[plan.ID]int{}
	for i, b := range boxes {
		at[b.Gear] = i
	}
	offer := func(next []floor.Box, words string, args ...any) {
		if places, ok := placesOf(boxes, next); ok {
			list = append(list, Edit{Kind: Place, Places: places, Words: fmt.Sprintf(words, args...)})
		}
	}
	for _, x := range pairsPressed(c) {
		for _, pair := range [][2]plan.ID{{x[0].Gear(), x[1].Gear()}, {x[1].Gear(), x[0].Gear()}} {
			stay, ok := at[pair[0]]
			move, ok2 := at[pair[1]]
			if !ok || !ok2 || stay == move {
				continue
			}
			if row := rowOf(boxes, stay); slices.Contains(row, move) {
				for _, side := range []int{0, 1} {
					where := []string{"left", "right"}[side]
					offer(
						closedUp(boxes, row, move, stay, side), "Move %s to the %s of %s on the floor, the boxes between moving up",
						boxes[move].Name, where, boxes[stay].Name,
					)
				}
			}
			for _, k := range neighbours(boxes, stay) {
				if k != move {
					next := slices.Clone(boxes)
					next[move].X, next[move].Y, next[k].X, next[k].Y = boxes[k].X, boxes[k].Y, boxes[move].X, boxes[move].Y
					offer(
						next, "Exchange %s and %s on the floor, so that it stands beside %s", boxes[move].Name, boxes[k].Name,
						boxes[stay].Name,
					)
				}
			}
		}
	}
	return list
}

// neighbours are the two boxes nearest to one.
func neighbours(boxes []floor.Box, of int) []int {
	middle := func(b floor.Box) (float64, float64) { return b.X + b.Width/2, b.Y + b.Depth/2 }
	x, y := middle(boxes[of])
	var list []int
	for i := range boxes {
		if i != of {
			list = append(list, i)
		}
	}
	slices.SortStableFunc(list, func(a, b int) int {
		ax, ay := middle(boxes[a])
		bx, by := middle(boxes[b])
		return cmp.Compare(math.Hypot(ax-x, ay-y), math.Hypot(bx-x, by-y))
	})
	return list[:min(len(list), 2)]
}

// rowOf are the boxes that stand in a row with one, from the left: those beside it for more than
// half of its depth.
func rowOf(boxes []floor.Box, of int) []int {
	var row []int
	b := boxes[of]
	for i, x := range boxes {
		if math.Min(x.Y+x.Depth, b.Y+b.Depth)-math.Max(x.Y, b.Y) > b.Depth/2 {
			row = append(row, i)
		}
	}
	slices.SortStableFunc(row, func(i, k int) int { return cmp.Compare(boxes[i].X, boxes[k].X) })
	return row
}

// closedUp puts a box of a row beside another, on its left (0) or its right (1). The row begins
// where it did and keeps its gaps.
func closedUp(boxes []floor.Box, row []int, move, stay, side int) []floor.Box {
	order := slices.DeleteFunc(slices.Clone(row), func(i int) bool { return i == move })
	order = slices.Insert(order, slices.Index(order, stay)+side, move)
	next := slices.Clone(boxes)
	x := boxes[row[0]].X
	for n, i := range order {
		next[i].X = x
		if n+1 < len(row) {
			x += boxes[i].Width + math.Max(0, boxes[row[n+1]].X-boxes[row[n]].X-boxes[row[n]].Width)
		}
	}
	return next
}

// placesOf are the places of all boxes, every one put where it is to stand, so that a row nobody
// has placed does not close up. It is false where boxes would overlap that do not today, or where
// nothing moves.
func placesOf(boxes, next []floor.Box) (map[plan.ID]plan.Placement, bool) {
	places := map[plan.ID]plan.Placement{}
	moved := false
	for i, x := range next {
		moved = moved || x.X != boxes[i].X || x.Y != boxes[i].Y
		places[x.Gear] = plan.Placement{X: x.X, Y: x.Y, Rotation: x.Rotation}
		for k := range i {
			if overlap(next[i], next[k]) && !overlap(boxes[i], boxes[k]) {
				return nil, false
			}
		}
	}
	return places, moved
}

func overlap(a, b floor.Box) bool {
	return a.X < b.X+b.Width && b.X < a.X+a.Width && a.Y < b.Y+b.Depth && b.Y < a.Y+a.Depth
}
