package signal

import (
	"fmt"
	"math"
	"slices"

	"envex/core/plan"
)

// This file says which combinations and sounds of a gain map cannot be told apart.

// alike reports whether two points are the same to the ear.
func alike(a, b Point) bool {
	return math.Abs(a.OverHome-b.OverHome) < sameLU && math.Abs(a.Squash-b.Squash) < sameSquash &&
		math.Abs(a.Dirt-b.Dirt) < sameDirt
}

// distinct is a large set of points no two of which are the same: sounds that are used first, then
// in order of loudness, each that can be told from all that were kept.
func distinct(points []Point) []int {
	order := make([]int, len(points))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int {
		if x, y := min(1, len(points[b].Sounds)), min(1, len(points[a].Sounds)); x != y {
			return x - y
		}
		switch x, y := points[a].OverHome, points[b].OverHome; {
		case x < y:
			return -1
		case x > y:
			return 1
		}
		return 0
	})
	kept := []int{}
	for _, i := range order {
		if !slices.ContainsFunc(kept, func(k int) bool { return alike(points[i], points[k]) }) {
			kept = append(kept, i)
		}
	}
	slices.Sort(kept)
	return kept
}

// idle finds the stages whose on and off make no difference anywhere on the map.
func (m *mapping) idle(out *GainMap) {
	for k, b := range m.blocks {
		if b.channel {
			continue
		}
		pairs, alikes := 0, 0
		for i, c := range m.combos {
			if c[k] != 0 {
				continue
			}
			with := slices.Clone(c)
			with[k] = 1
			if other := m.find(with); other >= 0 {
				pairs++
				if alike(out.Points[i], out.Points[other]) {
					alikes++
				}
			}
		}
		if pairs > 0 && pairs == alikes {
			out.Idle = append(out.Idle, b.name)
			out.Findings = append(out.Findings,
				Finding{ID: "gain:idle:" + string(b.block), Block: b.block, Title: b.name + " changes nothing",
					Words: "Wherever it is added, loudness, dirt and squash stay within what can be told apart."})
		}
	}
}

// twice finds sounds of the rig that are the same.
func (m *mapping) twice(out *GainMap) {
	for i := range m.sounds {
		for k := range i {
			a, b := m.find(m.of(m.sounds[k].setting)), m.find(m.of(m.sounds[i].setting))
			if !alike(out.Points[a], out.Points[b]) || m.differInEffects(m.sounds[i], m.sounds[k]) {
				continue
			}
			out.Same = append(out.Same, [2]int{a, b})
			x, y := m.sounds[k].sound, m.sounds[i].sound
			out.Findings = append(out.Findings,
				Finding{ID: fmt.Sprintf("gain:same:%s:%s", x.ID, y.ID), Title: "Two sounds are one", Pair: []plan.ID{x.ID, y.ID},
					Words: fmt.Sprintf(
						"%s and %s: %.1f LU and %.0f points of dirt apart.", x.Name, y.Name,
						math.Abs(out.Points[a].OverHome-out.Points[b].OverHome), math.Abs(out.Points[a].Dirt-out.Points[b].Dirt),
					)})
		}
	}
}

// differInEffects reports whether one of two sounds has a time or modulation effect that the other
// has not, or has it set otherwise.
func (m *mapping) differInEffects(a, b made) bool {
	state := func(s made) string {
		out := ""
		m.line(s.setting).each(func(x *stage) {
			if x.on && x.effect.Traits().Wet {
				out += link{stage: &stage{key: x.key, effect: plan.EffectEQ, on: true, set: x.set}}.signature() + ";"
			}
		})
		for _, k := range s.recipe.Rockers {
			out += string(k)
		}
		return out
	}
	return state(a) != state(b)
}
