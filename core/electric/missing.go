package electric

import (
	"fmt"
	"math"
	"slices"

	"envex/core/plan"
)

// Missing is a load that cannot be served, why, and what would serve it.
type Missing struct {
	Gear  plan.ID  `json:"gear"`
	Name  string   `json:"name"`
	Why   string   `json:"why"`
	Would []string `json:"would_serve"`
}

// missing explains a load that the best assignment leaves.
func (a *assigning) missing(l *load) Missing {
	m := Missing{Gear: l.gear.ID, Name: l.gear.Name, Would: []string{}}
	if ways := a.ways(l); len(ways) > 0 {
		m.Why = a.contested(ways)
	} else {
		m.Why = a.unfit(l)
	}
	needs := math.Ceil(l.ma*reserve/10) * 10
	kind := fmt.Sprintf("%g V %s", l.draw.Voltage, polarityOr(l.draw.Polarity, false))
	if l.draw.AC {
		kind = fmt.Sprintf("%g V AC", l.draw.Voltage)
	}
	m.Would = append(
		m.Would,
		fmt.Sprintf("one more isolated output of %s, %.0f mA or more, with a %s", kind, needs, plug(l.draw.Connector)),
	)
	for _, lead := range []string{plan.DaisyChain, plan.CurrentDoubling, plan.VoltageDoubling, plan.Reversing} {
		if a.allows(lead) {
			continue
		}
		if left := a.leftWith(lead); len(left) < len(a.left) && !slices.Contains(left, l.gear.ID) {
			m.Would = append(m.Would, leadWords[lead])
		}
	}
	if l.draw.Battery {
		m.Would = append(m.Would, fmt.Sprintf("its battery: about %.0f hours", usualBattery/math.Max(l.ma, 1)))
	}
	return m
}

var leadWords = map[string]string{
	plan.DaisyChain:      "allowing daisy chains",
	plan.CurrentDoubling: "a current-doubling lead",
	plan.VoltageDoubling: "a voltage-doubling lead",
	plan.Reversing:       "a polarity-reversing lead, from an isolated output",
}

// leftWith are the loads that would be left were one more kind of lead allowed.
func (a *assigning) leftWith(lead string) []plan.ID {
	if ids, ok := a.with[lead]; ok {
		return ids
	}
	rig := *a.rig
	rig.PowerLeads = append(slices.Clone(rig.PowerLeads), lead)
	f := *a.feeding
	f.rig = &rig
	b := &assigning{feeding: &f, drawn: map[plan.ID]float64{}}
	b.solve()
	ids := []plan.ID{}
	for _, i := range b.left {
		ids = append(ids, b.loads[i].gear.ID)
	}
	if a.with == nil {
		a.with = map[string][]plan.ID{}
	}
	a.with[lead] = ids
	return ids
}

// contested says who has the outputs that could feed a load.
func (a *assigning) contested(ways []seat) string {
	var outs, takers []string
	for _, w := range ways {
		for _, i := range []int{w.out, w.second} {
			if i < 0 {
				continue
			}
			o := &a.outs[i]
			if name := o.supply.Name + " " + o.name(); !slices.Contains(outs, name) {
				outs = append(outs, name)
			}
			for k := range a.found {
				s := &a.found[k]
				if s.out != i && s.second != i {
					continue
				}
				for _, id := range a.on(s) {
					if g, ok := a.plan.FindGear(id); ok && !slices.Contains(takers, g.Name) {
						takers = append(takers, g.Name)
					}
				}
			}
		}
	}
	if len(takers) == 0 {
		return a.tooMuch(ways)
	}
	what := "the one output that could feed it feeds"
	if len(outs) > 1 {
		what = fmt.Sprintf("the %d outputs that could feed it feed", len(outs))
	}
	return fmt.Sprintf("%s %s", what, plan.Listed(takers))
}

// tooMuch says which limit stands in the way where an output that would fit is free: what a supply gives over
// all its outputs, or a ground that some of them share.
func (a *assigning) tooMuch(ways []seat) string {
	for _, w := range ways {
		o := &a.outs[w.out]
		if total := totalOf(o.supply.Supply); (a.drawn[o.supply.ID])*reserve <= total {
			if o.Shared {
				return fmt.Sprintf("%s %s is free, and its ground is that of others that it cannot share", o.supply.Name, o.name())
			}
			return fmt.Sprintf(
				"%s gives %.0f mA over all its outputs, %.0f mA of it is drawn, and 20 %% stays in reserve", o.supply.Name, total,
				a.drawn[o.supply.ID],
			)
		}
	}
	o := &a.outs[ways[0].out]
	return fmt.Sprintf(
		"%s gives %.0f mA over all its outputs, which the others draw", o.supply.Name, totalOf(o.supply.Supply),
	)
}

// unfit says what no output gives.
func (a *assigning) unfit(l *load) string {
	if len(a.outs) == 0 {
		return "no supply with outputs is owned"
	}
	kinds, volts, strongest := 0, 0, 0.0
	why := ""
	for i := range a.outs {
		o := &a.outs[i]
		if o.AC == l.draw.AC {
			kinds++
		}
		for _, v := range o.Voltages {
			if o.AC == l.draw.AC && v >= l.draw.Voltage*(1-tolerance) && v <= l.most()*(1+tolerance) {
				volts++
				if verdict, words := a.match(l, o, v, ""); verdict == Fits {
					strongest = math.Max(strongest, o.CurrentMA)
				} else if why == "" {
					why = words
				}
			}
		}
	}
	switch {
	case kinds == 0 && l.draw.AC:
		return "no output gives AC"
	case kinds == 0:
		return "no output gives DC"
	case volts == 0:
		return fmt.Sprintf("no output gives %s", voltsWords(l))
	case strongest > 0:
		return fmt.Sprintf(
			"it draws %.0f mA, and with 20 %% in reserve the strongest output that fits gives %.0f mA", l.ma, strongest/reserve,
		)
	}
	return why
}
