package reach

import (
	"cmp"
	"slices"

	"envex/core/floor"
	"envex/core/plan"
)

// hurrySlackS is how much slack a change needs for nobody to call it hurried, in seconds.
const hurrySlackS = 0.5

// Night is how the switches are used over the show: from where the foot goes where, how often, and where it has
// hardly time.
func (r *Report) Night() floor.Night {
	out := floor.Night{Presses: map[plan.Key]int{}}
	times := map[floor.Step]int{}
	for i := range r.Changes {
		c := &r.Changes[i]
		hurried := c.Verdict == Tight || c.Verdict == Late || c.SlackS < hurrySlackS
		from := r.rockerBefore(c)
		for _, p := range c.Presses {
			out.Presses[p.Switch]++
			if from != "" && from != p.Switch {
				times[floor.Step{From: from, To: p.Switch, Hurried: hurried}]++
			}
			from = p.Switch
		}
		for _, l := range c.Leisure {
			for _, step := range l.Steps {
				out.Presses[step.Switch]++
			}
		}
	}
	for step, n := range times {
		step.Times = n
		out.Steps = append(out.Steps, step)
	}
	slices.SortFunc(out.Steps, func(a, b floor.Step) int {
		return cmp.Or(cmp.Compare(a.From, b.From), cmp.Compare(a.To, b.To), compareBool(a.Hurried, b.Hurried))
	})
	return out
}

// rockerBefore is the box whose rocker the foot is on before a change, where it is on one.
func (r *Report) rockerBefore(c *Change) plan.Key {
	for i := 1; i < len(r.Sections); i++ {
		if r.Sections[i].Place == c.Place {
			return plan.Key(r.Sections[i-1].RockerBlock.Gear())
		}
	}
	return ""
}

func compareBool(a, b bool) int {
	switch {
	case a == b:
		return 0
	case b:
		return -1
	}
	return 1
}

// FootworkS is what the presses of all changes take together, in seconds.
func (r *Report) FootworkS() float64 {
	sum := 0.0
	for i := range r.Changes {
		sum += r.Changes[i].FootworkS
	}
	return sum
}
