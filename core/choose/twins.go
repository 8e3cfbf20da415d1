package choose

import (
	"context"
	"slices"

	"envex/core/signal"
)

// Choices with the same stages differ in what gives effects beside gain alone, and what gives these changes neither
// loudness nor dirt. What was found of one holds for the others: twins.

// toned are the boxes that have a say in loudness and dirt.
func (m *metering) toned() boxes {
	list := m.always
	for _, s := range m.stages {
		list |= 1 << s.box
	}
	return list
}

// twinOf reports whether choices have the same stages, and were taken to make the same sounds.
func (c *choosing) twinOf(x cover) func(cover) bool {
	toned := c.toned()
	return func(y cover) bool {
		return x.taken&toned == y.taken&toned && slices.EqualFunc(x.made, y.made, func(a, b int) bool {
			return (a < 0) == (b < 0)
		})
	}
}

// twin is a choice that was tried and is like another; nil where none is.
func (c *choosing) twin(x cover) *tried {
	is := c.twinOf(x)
	var best *tried
	for _, y := range c.done {
		if is(y.said) && (best == nil || y.said.taken < best.said.taken) {
			best = y
		}
	}
	return best
}

// short is how many of the sounds that a choice was taken to make are out by their loudness or dirt, or not made at all.
func (x *tried) short() int {
	if x.set.Rig.ID == "" {
		return x.said.count
	}
	n := 0
	for sound, way := range x.said.made {
		if way >= 0 && x.as.made[sound] < 0 {
			n++
		}
	}
	for _, made := range x.set.Made {
		if slices.ContainsFunc(made.Checks, func(k signal.Check) bool {
			return !k.Met && (k.What == "loudness" || k.What == "dirt")
		}) {
			n++
		}
	}
	return n
}

// likeTwin holds a choice to what it makes with its stages set as those of its twin are, and its effects given as it was
// chosen.
func (c *choosing) likeTwin(ctx context.Context, x cover, other *tried) (*tried, error) {
	own, as := c.fixed(x, other.by, other.as)
	out := &tried{set: &Set{}, said: x, as: x, by: c.metering}
	return out, c.held(ctx, own, as, out)
}

// fixed is a metering of a choice by itself in which each sound has one way: on is what another choice has on for it, as
// that stands, and effects are given as the choice has them.
func (c *choosing) fixed(x cover, by *metering, like cover) (*metering, cover) {
	own := c.alone(x.taken)
	own.places = make([][]place, len(by.places))
	for i := range by.places {
		own.places[i] = slices.Clone(by.places[i])
	}
	w, as := world{ways: make([][]way, len(c.sounds))}, x
	recipes := make([][]recipe, len(c.sounds))
	as.made = slices.Clone(x.made)
	as.world, as.count = 0, 0
	for sound := range c.sounds {
		set := like.made[sound]
		if set < 0 || x.made[sound] < 0 {
			as.made[sound] = -1
			continue
		}
		so := by.recipes[like.world][sound][set].config
		given := c.recipes[x.world][sound][x.made[sound]].given
		stands := by.worlds[like.world].ways[sound][set].stations
		w.ways[sound] = []way{{needs: x.taken, stations: own.stationsOf(stands, given)}}
		recipes[sound] = []recipe{{so, given}}
		as.made[sound] = 0
		as.count++
	}
	own.worlds, own.recipes = []world{w}, [][][]recipe{recipes}
	return own, as
}

// stationsOf are where stages stand, and what gives effects.
func (m *metering) stationsOf(stages []station, given []giving) []station {
	var list []station
	for _, s := range stages {
		if s.stage < len(m.stages) {
			list = append(list, s)
		}
	}
	for _, by := range given {
		if by.at >= 0 {
			list = append(list, station{m.stageOf(by.key), by.at})
		}
	}
	return list
}
