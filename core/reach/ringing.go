package reach

import (
	"slices"

	"envex/core/plan"
)

// owned says which machine moves a variable, and as which of its own.
type owned struct {
	machine int // -1 where none has to
	slot    int
}

func (s *solver) owner() []owned {
	if s.owners == nil {
		s.owners = slices.Repeat([]owned{{-1, 0}}, len(s.vars))
		for mi, m := range s.machines {
			for j, v := range m.vars {
				s.owners[v] = owned{mi, j}
			}
		}
	}
	return s.owners
}

// stands is what a variable is on arrival in a part and on leaving it.
func (s *solver) stands(v, i int) (arrive, leave int) {
	o := s.owner()[v]
	if o.machine < 0 {
		return s.fixed[v], s.fixed[v]
	}
	m, c := s.machines[o.machine], s.courses[o.machine]
	return m.value(c.arrive[i], o.slot), m.value(c.leave[i], o.slot)
}

// cuts says what rings when part i begins and is cut off by the change: a box whose loop is taken
// out of the chain, trails and all, and one that changes its preset. Between songs only what
// rings longer than the gap is worth saying.
func (s *solver) cuts(i int) []string {
	var words []string
	for v, x := range s.vars {
		if x.ring == 0 || !x.IsOn() || (s.parts[i].afterGap() && s.parts[i].gap >= x.ring) {
			continue
		}
		_, before := s.stands(v, i-1)
		after, _ := s.stands(v, i)
		if !x.values[before].IsOn() {
			continue
		}
		switch {
		case s.settings.looped[plan.BlockKey(x.Gear, x.Block)] && !x.values[after].IsOn():
			words = append(words, x.Label+" is cut off: its loop leaves the chain, and what rings with it")
		case x.values[after].IsOn() && s.presetMoves(x, i):
			words = append(words, x.Label+" is cut off: it changes its preset while it rings")
		}
	}
	return words
}

// presetMoves reports whether the gear of a block that does not ring through changes of preset
// changes its preset, or its snapshot, on the way into part i.
func (s *solver) presetMoves(x *variable, i int) bool {
	g, ok := s.plan.FindGear(x.Gear)
	if !ok {
		return false
	}
	if b, ok := g.FindBlock(x.Block); !ok || b.Spills {
		return false
	}
	for _, find := range []func() (plan.Variable, bool){g.PresetControl, g.SnapshotControl} {
		if v, ok := s.settings.memoryOf(find()); ok {
			_, before := s.stands(v, i-1)
			if after, _ := s.stands(v, i); after != before {
				return true
			}
		}
	}
	return false
}

// gainTurns reports whether a machine turns a gain stage on, and one off, between two states.
func (s *solver) gainTurns(mi, from, to int) (up, down bool) {
	m := s.machines[mi]
	if !m.gains {
		return false, false
	}
	for j, v := range m.vars {
		if !s.vars[v].gain {
			continue
		}
		was, is := s.vars[v].values[m.value(from, j)].IsOn(), s.vars[v].values[m.value(to, j)].IsOn()
		up, down = up || (is && !was), down || (was && !is)
	}
	return up, down
}

// loudBetween reports whether, with the motions of a change at certain states, a gain stage of the
// new sound is on and one of the old still is.
func (s *solver) loudBetween(o *outcome, states []int) bool {
	up, down := false, false
	for k, mo := range o.motions {
		if len(mo.ways) == 0 {
			continue
		}
		u, _ := s.gainTurns(mo.machine, mo.from, states[k])
		_, d := s.gainTurns(mo.machine, states[k], mo.to)
		up, down = up || u, down || d
	}
	return up && down
}
