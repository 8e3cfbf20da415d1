package reach

import (
	"fmt"
	"math"

	"envex/core/floor"
	"envex/core/plan"
)

// Compute is the reach of a rig over a set list. The plan must be valid. Same input, same
// answer. It fails when the rig or the set list is not in the plan, or when one footswitch
// moves more controls at once than any footswitch does.
func Compute(p *plan.Plan, rig, setList plan.ID) (*Report, error) {
	r, l, err := lookUp(p, rig, setList)
	if err != nil {
		return nil, err
	}
	s, err := prepare(p, r, l)
	if err != nil {
		return nil, err
	}
	report := &Report{
		Rig: Named{r.ID, r.Name}, SetList: Named{l.ID, l.Name}, Exact: true,
		Floor: *s.feet.floor, Findings: []Finding{}, Changes: []Change{}, Sections: []Section{}, Rows: []Row{},
	}
	if len(s.parts) == 0 {
		return report, nil
	}
	s.solve()
	report.Exact = s.exact
	for _, m := range s.machines {
		report.Exact = report.Exact && !m.curtailed
	}
	s.describe(report)
	return report, nil
}

// ComputeAnyOrder is, for songs called in any order, from how many to how many the first
// sound of the next can be had within the usual gap. It fails as [Compute] does.
func ComputeAnyOrder(p *plan.Plan, rig, setList plan.ID) (AnyOrder, error) {
	r, l, err := lookUp(p, rig, setList)
	if err != nil {
		return AnyOrder{}, err
	}
	s, err := prepare(p, r, l)
	if err != nil || len(s.parts) == 0 {
		return AnyOrder{}, err
	}
	s.solve()
	return s.anyOrder(l), nil
}

func lookUp(p *plan.Plan, rig, setList plan.ID) (*plan.Rig, *plan.SetList, error) {
	r, ok := p.FindRig(rig)
	if !ok {
		return nil, nil, fmt.Errorf("reach: there is no rig %q", rig)
	}
	l, ok := p.FindSetList(setList)
	if !ok {
		return nil, nil, fmt.Errorf("reach: there is no set list %q", setList)
	}
	return r, l, nil
}

func prepare(p *plan.Plan, r *plan.Rig, l *plan.SetList) (*solver, error) {
	fl := floor.Lay(p, r)
	foot := r.Profile.Filled()
	s := &solver{plan: p, rig: r, foot: foot, feet: newFeet(foot, &fl, r.Floor.DoubleStomps), unheard: map[*plan.Recipe][]plan.Key{}}
	s.lanes = len(p.LaneConditions(r.Path)) > 0
	s.parts = layOut(p, l)
	s.settings = newSettings(p, r)
	ops, touched := buildOps(s.settings, &fl)
	s.settings.resolve(s.parts)
	s.vars = s.settings.vars
	var err error
	if s.machines, s.fixed, err = buildMachines(s.settings, s.parts, ops, touched); err != nil {
		return nil, err
	}
	return s, nil
}

// anyOrder counts, over every pair of different songs of the set, whether the first sound
// of the second can be had within the usual gap after the last of the first.
func (s *solver) anyOrder(l *plan.SetList) AnyOrder {
	type ends struct{ first, last int }
	var songs []ends
	seen := map[plan.ID]bool{}
	for i, x := range s.parts {
		if x.starts && !seen[x.song.ID] {
			seen[x.song.ID] = true
			songs = append(songs, ends{i, i + len(x.song.Sections) - 1})
		}
	}
	gap := plan.SetList{GapS: l.GapS}.GapBefore(plan.SetEntry{})
	var count AnyOrder
	for _, a := range songs {
		for _, b := range songs {
			if a == b || s.parts[a.last].unset() || s.parts[b.first].unset() {
				continue
			}
			count.Total++
			if s.called(a.last, b.first, gap) {
				count.Reached++
			}
		}
	}
	return count
}

// called reports whether part to can follow part from within a gap, from the states planned
// there. One plain way through settles nearly every pair without a search.
func (s *solver) called(from, to int, gap float64) bool {
	b := *s.parts[to]
	if b.broken != "" {
		return false
	}
	b.starts, b.segue, b.gap = true, false, gap
	parts := []*part{s.parts[from], &b}
	pair := &solver{foot: s.foot, feet: s.feet, vars: s.vars, machines: s.machines, parts: parts}
	var motions []motion
	for mi, m := range s.machines {
		now := s.courses[mi].leave[from]
		if m.allows(to, now) {
			continue
		}
		mo, ok := s.motionInGap(mi, now, s.courses[mi].arrive[to], to)
		if !ok {
			return false
		}
		motions = append(motions, mo)
	}
	if len(motions) == 0 {
		return true
	}
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

// motionInGap is a motion between songs, wherever part i stands in the written order.
func (s *solver) motionInGap(mi, from, to, i int) (motion, bool) {
	was := s.parts[i]
	gap := *was
	gap.starts, gap.segue = true, false
	s.parts[i] = &gap
	defer func() { s.parts[i] = was }()
	mo, ok := s.motion(mi, from, to, i)
	return mo, ok && mo.fail == ""
}
