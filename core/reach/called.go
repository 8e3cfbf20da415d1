package reach

import (
	"context"
	"encoding/binary"
	"fmt"
	"math"

	"envex/core/plan"
)

// ComputeAnyOrder is, for songs called in any order, from how many to how many the first
// sound of the next can be had within the usual gap. It tells report which share is done,
// from 0 to 1; report may be nil. It fails as [Compute] does, and when ctx ends.
func ComputeAnyOrder(ctx context.Context, p *plan.Plan, rig, setList plan.ID, report func(float64)) (AnyOrder, error) {
	r, l, err := lookUp(p, rig, setList)
	if err != nil {
		return AnyOrder{}, err
	}
	s, err := prepare(p, r, l, Start{})
	if err != nil || len(s.parts) == 0 {
		return AnyOrder{}, err
	}
	s.solve()
	return s.anyOrder(ctx, l, report)
}

// likeness counts the songs that leave, or begin, the rig alike: one answer holds for all.
type likeness struct {
	part  int // of one of them
	songs int
}

// anyOrder counts, over every pair of different songs of the set, whether the first sound
// of the second can be had within the usual gap after the last of the first. What is the same
// for two pairs is worked out once.
func (s *solver) anyOrder(ctx context.Context, l *plan.SetList, report func(float64)) (AnyOrder, error) {
	var ends, starts []likeness
	endOf, startOf := map[string]int{}, map[string]int{}
	group := func(list *[]likeness, by map[string]int, key string, part int) int {
		at, ok := by[key]
		if !ok {
			at = len(*list)
			by[key] = at
			*list = append(*list, likeness{part: part})
		}
		(*list)[at].songs++
		return at
	}
	own := map[[2]int]int{} // songs by how they end and begin: none is called after itself
	seen := map[plan.ID]bool{}
	for i, x := range s.parts {
		if !x.starts || seen[x.song.ID] {
			continue
		}
		seen[x.song.ID] = true
		last := i + len(x.song.Sections) - 1
		var pair [2]int
		ending, beginning := !s.parts[last].unset(), !x.unset()
		if ending {
			pair[0] = group(&ends, endOf, s.leaving(last), last)
		}
		if beginning {
			pair[1] = group(&starts, startOf, s.arriving(i), i)
		}
		if ending && beginning {
			own[pair]++
		}
	}
	gap := plan.SetList{GapS: l.GapS}.GapBefore(plan.SetEntry{})
	var count AnyOrder
	for a, end := range ends {
		if err := ctx.Err(); err != nil {
			return AnyOrder{}, fmt.Errorf("reach in any order: %w", err)
		}
		for b, start := range starts {
			pairs := end.songs*start.songs - own[[2]int{a, b}]
			count.Total += pairs
			if pairs > 0 && s.called(end.part, start.part, gap) {
				count.Reached += pairs
			}
		}
		if report != nil {
			report(float64(a+1) / float64(len(ends)))
		}
	}
	return count, nil
}

// leaving tells apart where the rig stands after two parts.
func (s *solver) leaving(part int) string {
	var key []byte
	for mi := range s.machines {
		key = binary.AppendUvarint(key, uint64(s.courses[mi].leave[part]))
	}
	return string(key)
}

// arriving tells apart what two parts ask of the rig when they begin a song.
func (s *solver) arriving(part int) string {
	x := s.parts[part]
	key := fmt.Appendf(nil, "%p %v ", x.wants, x.beat())
	for mi, m := range s.machines {
		key = binary.AppendUvarint(key, uint64(s.courses[mi].arrive[part]))
		list := m.allowed[part]
		key = binary.AppendUvarint(key, uint64(len(list)))
		for _, state := range list {
			key = binary.AppendUvarint(key, uint64(state))
		}
	}
	return string(key)
}

// called reports whether part to can follow part from within a gap, from the states planned
// there. One plain way through settles nearly every pair without a search.
func (s *solver) called(from, to int, gap float64) bool {
	b := *s.parts[to]
	if b.broken != "" {
		return false
	}
	b.starts, b.segue, b.gap = true, false, gap
	was := s.parts[to]
	s.parts[to] = &b
	defer func() { s.parts[to] = was }()
	var motions []motion
	for mi, m := range s.machines {
		now := s.courses[mi].leave[from]
		if m.allows(to, now) {
			continue
		}
		mo, ok := s.motion(mi, now, s.courses[mi].arrive[to], to)
		if !ok || mo.fail != "" {
			return false
		}
		motions = append(motions, mo)
	}
	if len(motions) == 0 {
		return true
	}
	pair := &solver{foot: s.foot, feet: s.feet, vars: s.vars, machines: s.machines, parts: []*part{s.parts[from], &b}}
	if pair.quickly(motions) <= gap {
		return true
	}
	best := math.Inf(1)
	for _, o := range pair.through(1, motions, nil, false) {
		best = math.Min(best, o.needed)
	}
	return best <= gap+eps
}

// quickly is the time one plain way through the change takes: the first way of each
// machine, always the nearest switch next.
func (s *solver) quickly(motions []motion) float64 {
	c := &changeSearch{solver: s, i: 1, motions: motions, pace: pace{1, s.parts[1].beat()}}
	var tasks []task
	for _, m := range motions {
		before := -1
		if len(m.ways) > 0 {
			for _, g := range m.ways[0] {
				tasks = append(tasks, task{group: g, after: before})
				before = len(tasks) - 1
			}
		}
	}
	return c.judge(tasks, nil, c.nearest(tasks)).needed
}
