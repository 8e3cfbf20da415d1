package electric

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"envex/core/plan"
)

// match is how one load goes with an output at a voltage, with a lead.
func (f *feeding) match(l *load, o *output, volts float64, lead string) (Verdict, string) {
	polarity := o.polarity()
	if lead == plan.Reversing {
		polarity = reversed(polarity)
	}
	wants := polarityOr(l.draw.Polarity, l.draw.AC)
	switch {
	case o.AC && !l.draw.AC:
		return Harmful, fmt.Sprintf("AC into a DC box: %s wants %g V DC", l.gear.Name, l.draw.Voltage)
	case volts > l.most()*(1+tolerance):
		return Harmful, fmt.Sprintf("%g V into %s, which takes %s", volts, l.gear.Name, voltsWords(l))
	case !l.draw.AC && wants != "none" && polarity != wants:
		return Harmful, fmt.Sprintf("wrong polarity: %s is %s, the output %s", l.gear.Name, wants, polarity)
	case !o.AC && l.draw.AC:
		return Unwise, fmt.Sprintf("%s wants AC, the output gives DC", l.gear.Name)
	case volts < l.draw.Voltage*(1-tolerance):
		return Unwise, fmt.Sprintf("%g V is too little for %s, which wants %g V", volts, l.gear.Name, l.draw.Voltage)
	case plug(o.Connector) != plug(l.draw.Connector):
		return Unwise, fmt.Sprintf("%s has a %s, the output a %s", l.gear.Name, plug(l.draw.Connector), plug(o.Connector))
	case lead == plan.Reversing && o.Shared:
		return Harmful, fmt.Sprintf(
			"a reversing lead from an output that is not isolated shorts the supply through %s", l.gear.Name,
		)
	}
	return Fits, ""
}

func reversed(polarity string) string {
	switch polarity {
	case "centre-negative":
		return "centre-positive"
	case "centre-positive":
		return "centre-negative"
	}
	return polarity
}

func voltsWords(l *load) string {
	if l.most() > l.draw.Voltage {
		return fmt.Sprintf("%g to %g V", l.draw.Voltage, l.most())
	}
	return fmt.Sprintf("%g V", l.draw.Voltage)
}

func plug(connector string) string {
	if connector = strings.TrimSpace(strings.ToLower(connector)); connector == "" {
		return usualPlug
	}
	return connector
}

// fed are the outputs a feed takes, what they give together, and at what voltage.
type fed struct {
	feed  *plan.PowerFeed
	out   *output
	other *output // of a doubling lead
	volts float64
	gives float64
}

func (f *feeding) fedBy(feed *plan.PowerFeed) (fed, bool) {
	x := fed{feed: feed, out: f.output(feed.Supply, feed.Output)}
	if x.out == nil {
		return x, false
	}
	x.volts, x.gives = or(feed.Voltage, x.out.Voltages[0]), x.out.CurrentMA
	switch feed.Lead {
	case plan.CurrentDoubling:
		if x.other = f.output(feed.Supply, feed.Second); x.other != nil {
			x.gives += x.other.CurrentMA
		}
	case plan.VoltageDoubling:
		if x.other = f.output(feed.Supply, feed.Second); x.other != nil {
			x.gives = math.Min(x.gives, x.other.CurrentMA)
			x.volts *= 2
		}
	}
	return x, true
}

func (f *feeding) drawn(ids []plan.ID) float64 {
	sum := 0.0
	for _, id := range ids {
		if l := f.load(id); l != nil && l.battery == nil {
			sum += l.ma
		}
	}
	return sum
}

// headroom is the share of a current that is left.
func headroom(gives, drawn float64) float64 {
	if gives <= 0 {
		if drawn > 0 {
			return -1
		}
		return 0
	}
	return 1 - drawn/gives
}

// choice is whether an output could feed a load as things stand: by itself, or beside what hangs on
// it already.
func (f *feeding) choice(l *load, o *output) Choice {
	at := slices.IndexFunc(f.rig.PowerPlan, func(feed plan.PowerFeed) bool {
		return feed.Supply == o.supply.ID && (feed.Output == o.ID || feed.Second == o.ID)
	})
	if at < 0 || f.drawn(without(f.rig.PowerPlan[at].Gear, l.gear.ID)) == 0 &&
		len(without(f.rig.PowerPlan[at].Gear, l.gear.ID)) == 0 {
		return f.alone(l, o)
	}
	by, ok := f.fedBy(&f.rig.PowerPlan[at])
	c := Choice{Supply: o.supply.ID, Output: o.ID, Voltage: or(by.feed.Voltage, o.Voltages[0]), Lead: by.feed.Lead}
	if !ok {
		c.Verdict, c.Why = Unwise, "it is not there"
		return c
	}
	if c.Verdict, c.Why = f.match(l, o, by.volts, by.feed.Lead); c.Verdict != Fits {
		return c
	}
	others := without(by.feed.Gear, l.gear.ID)
	if !f.allows(plan.DaisyChain) {
		c.Verdict, c.Why = Unwise, fmt.Sprintf("%s on it already, and no daisy chains are allowed", f.names(others))
		return c
	}
	if why := f.clash(append(others, l.gear.ID)); why != "" {
		c.Verdict, c.Why = Unwise, why
		return c
	}
	if drawn := f.drawn(others) + l.ma; drawn*reserve > by.gives {
		c.Verdict, c.Why = Unwise, fmt.Sprintf(
			"%.0f mA with %s is more than %.0f mA with 20 %% in reserve", drawn, f.names(others), by.gives,
		)
	}
	return c
}

func without(ids []plan.ID, id plan.ID) []plan.ID {
	return slices.DeleteFunc(slices.Clone(ids), func(x plan.ID) bool { return x == id })
}

func (f *feeding) names(ids []plan.ID) string {
	var words []string
	for _, id := range ids {
		if g, ok := f.plan.FindGear(id); ok {
			words = append(words, g.Name)
		}
	}
	return plan.Listed(words)
}

// alone is the best way an output by itself could feed a load.
func (f *feeding) alone(l *load, o *output) Choice {
	best := Choice{Supply: o.supply.ID, Output: o.ID, Verdict: Harmful, Voltage: o.Voltages[0]}
	rank := map[Verdict]int{Fits: 0, Unwise: 1, Harmful: 2}
	first := true
	for _, lead := range []string{"", plan.Reversing} {
		if lead != "" && !f.allows(lead) {
			continue
		}
		for _, volts := range o.Voltages {
			c := Choice{Supply: o.supply.ID, Output: o.ID, Voltage: volts, Lead: lead}
			c.Verdict, c.Why = f.match(l, o, volts, lead)
			if c.Verdict == Fits && l.ma*reserve > o.CurrentMA {
				c.Verdict, c.Why = Unwise, fmt.Sprintf("%.0f mA is more than %.0f mA with 20 %% in reserve", l.ma, o.CurrentMA)
			}
			if first || rank[c.Verdict] < rank[best.Verdict] {
				best, first = c, false
			}
		}
	}
	return best
}

// clash is why boxes cannot hang on one ground, "" where they can.
func (f *feeding) clash(ids []plan.ID) string {
	digital, gain := "", ""
	polarity, first := "", ""
	for _, id := range ids {
		l := f.load(id)
		if l == nil || l.battery != nil {
			continue
		}
		if l.draw.Digital {
			digital = l.gear.Name
		}
		if l.gain && !l.draw.Digital {
			gain = l.gear.Name
		}
		p := polarityOr(l.draw.Polarity, l.draw.AC)
		if first != "" && p != polarity {
			return fmt.Sprintf(
				"%s and %s are of different polarity: a positive-ground pedal never shares a daisy chain", first, l.gear.Name,
			)
		}
		polarity, first = p, l.gear.Name
	}
	if digital != "" && gain != "" {
		return fmt.Sprintf("%s is digital and %s has gain: its noise would be heard", digital, gain)
	}
	return ""
}
