package play

import (
	"math"

	"envex/core/plan"
)

// score judges every change that is over.
func (g *judging) score(out *Result, states []state, first int) {
	before := first // the section whose sound the rig has
	for i := first + 1; i < len(g.script.Sections); i++ {
		x := g.script.Sections[i]
		if !g.want[i].known {
			continue // the rig cannot make it, so nobody is to blame
		}
		if x.UntilS > g.until {
			break
		}
		out.Total++
		s := g.change(states, before, i)
		if s.Outcome == Made {
			out.Made++
		}
		out.Scores = append(out.Scores, s)
		before = i
	}
}

// change scores the change into a section.
func (g *judging) change(states []state, before, i int) Score {
	x := g.script.Sections[i]
	s := Score{
		Position: x.Position, Section: x.ID, Label: x.Label, From: g.script.Sections[before].Name, To: x.Name, Outcome: Made,
		Pending: []string{},
	}
	end := x.AtS + x.LengthS
	if i+1 < len(g.script.Sections) {
		end = math.Max(x.UntilS, math.Min(end, g.script.Sections[i+1].FromS))
	}
	stood := func(at float64) []plan.Key { return g.pending(i, g.valuesAt(states, at)) }
	switch missing := stood(x.UntilS); {
	case len(missing) == 0:
		s.early(g, states, before, i)
	default:
		s.Outcome, s.Pending = Missed, g.labels(missing)
		for _, st := range states {
			if st.at > x.UntilS && st.at <= math.Min(end, g.until) && len(g.pending(i, st.values)) == 0 {
				s.Outcome, s.ByS = Late, st.at-x.UntilS
				break
			}
		}
		if s.Outcome == Missed {
			s.Pending = g.labels(stood(math.Min(end, g.until) - 2e-9)) // a press of the next change may come just then
			if len(
				s.Pending,
			) == 0 { // right at the end, and not before: it stood in the next window only
				s.Pending = g.labels(missing)
			}
		}
	}
	s.Wrong = g.wrong(states, i, x.FromS, end)
	s.Recovered = s.Wrong > 0 && s.Outcome != Missed
	return s
}

// early finds whether the sound before was left before it might be: something that it needs, and that
// the change moves, stood otherwise.
func (s *Score) early(g *judging, states []state, before, i int) {
	x, was := g.script.Sections[i], g.script.Sections[before]
	moves := map[plan.Key]bool{}
	for key, v := range g.want[before].values {
		if to, ok := g.want[i].values[key]; ok && to != v {
			moves[key] = true
		}
	}
	for _, st := range states {
		if st.at <= was.UntilS || st.at >= x.FromS-earlyTolerance {
			continue
		}
		for _, key := range g.pending(before, st.values) {
			if moves[key] && st.values[key] == g.want[i].values[key] {
				s.Outcome, s.ByS = Early, x.FromS-st.at
				return
			}
		}
	}
}

// wrong counts the presses of a change after which more was wrong than before.
func (g *judging) wrong(states []state, i int, from, to float64) int {
	n := 0
	for k := 1; k < len(states); k++ {
		if st := states[k]; st.at >= from-1e-9 && st.at < to-1e-9 &&
			len(g.pending(i, st.values)) > len(g.pending(i, states[k-1].values)) {
			n++
		}
	}
	return n
}

func (g *judging) valuesAt(states []state, at float64) map[plan.Key]plan.Value {
	values := states[0].values
	for _, st := range states {
		if st.at <= at+1e-9 {
			values = st.values
		}
	}
	return values
}

func (g *judging) labels(keys []plan.Key) []string {
	list := []string{}
	for _, key := range keys {
		if x, ok := g.plan.FindGear(key.Gear()); ok {
			for _, v := range x.Variables() {
				if v.Key == key {
					list = append(list, v.Label)
				}
			}
		}
	}
	return list
}

// stands says how the devices stand, against what the moment's sound needs.
func (g *judging) stands(out *Result, m *machine) {
	i := g.sectionAt(g.until)
	wrong := map[plan.Key]bool{}
	if g.want[i].known {
		for _, key := range g.pending(i, m.values) {
			wrong[key] = true
		}
	}
	movable := g.movable()
	for _, id := range g.rig.GearIn() {
		x, ok := g.plan.FindGear(id)
		if !ok {
			continue
		}
		for _, v := range x.Variables() {
			if _, ok := movable[v.Key]; !ok {
				continue
			}
			out.Now = append(
				out.Now,
				Device{
					Variable: v.Key, Label: v.Label, Value: m.values[v.Key], On: m.values[v.Key].IsOn(), Switch: v.IsOn(),
					Wrong: wrong[v.Key],
				},
			)
			if wrong[v.Key] {
				out.Pending = append(out.Pending, v.Label)
			}
		}
	}
}
