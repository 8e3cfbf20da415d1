package electric

import (
	"fmt"
	"math"
	"slices"

	"envex/core/path"
	"envex/core/plan"
)

// findings are what is wrong with the feeds as they stand.
func (f *feeding) findings() []path.Finding {
	list := []path.Finding{}
	for i := range f.rig.PowerPlan {
		list = append(list, f.feedFindings(&f.rig.PowerPlan[i])...)
	}
	list = append(list, f.supplyFindings()...)
	var unfed []plan.ID
	for i := range f.loads {
		l := &f.loads[i]
		if l.battery != nil {
			list = append(list, f.batteryFindings(l)...)
		} else if !slices.ContainsFunc(
			f.rig.PowerPlan, func(x plan.PowerFeed) bool { return slices.Contains(x.Gear, l.gear.ID) },
		) {
			unfed = append(unfed, l.gear.ID)
		}
	}
	list = append(list, f.unfedFindings(unfed)...)
	path.SortByGravity(list)
	return list
}

func (f *feeding) about(rule string, gravity path.Gravity, title, reason string, ids ...plan.ID) path.Finding {
	x := path.Finding{
		ID: "power:" + rule, Rule: rule, Gravity: gravity, Title: title, Reason: reason, Stops: []plan.Key{},
		Names: []string{}, Repairs: []path.Move{},
	}
	for _, id := range ids {
		x.ID += ":" + string(id)
		if g, ok := f.plan.FindGear(id); ok {
			x.Names = append(x.Names, g.Name)
		}
	}
	return f.named(x, x.ID)
}

// named is a finding by a name, and what the player has said of it.
func (f *feeding) named(x path.Finding, id string) path.Finding {
	x.ID, x.Settled = id, ""
	for _, s := range f.rig.Settled {
		if s.Finding == id && x.Gravity != path.Danger {
			x.Settled = s.Reason
		}
	}
	return x
}

func (f *feeding) feedFindings(feed *plan.PowerFeed) []path.Finding {
	by, ok := f.fedBy(feed)
	if !ok {
		return nil
	}
	var list []path.Finding
	name := by.out.supply.Name + " " + by.out.name()
	if double := feed.Lead == plan.CurrentDoubling || feed.Lead == plan.VoltageDoubling; double &&
		!slices.Contains(by.out.supply.Supply.Doubles, feed.Lead) {
		x := f.about(
			"doubling", path.Danger, fmt.Sprintf("%s takes no %s lead", by.out.supply.Name, feed.Lead),
			"its outputs are not made to be joined", feed.Gear...,
		)
		x.Caution = wrongSupplyCaution
		list = append(list, x)
	}
	for _, t := range f.troubles(by) {
		l := f.load(t.Gear)
		if t.Verdict == Unwise {
			list = append(
				list, f.about("unfit", path.Fault, fmt.Sprintf("%s does not fit %s", l.gear.Name, name), t.Why, t.Gear),
			)
			continue
		}
		x := f.about("harm", path.Danger, fmt.Sprintf("%s would be harmed on %s", l.gear.Name, name), t.Why, t.Gear)
		x.Caution = wrongSupplyCaution
		if by.volts > l.most() {
			x.Figures = []path.Figure{
				{Name: "given", Value: by.volts, Unit: "V"}, {Name: "taken at most", Value: l.most(), Unit: "V"},
			}
		}
		list = append(list, x)
	}
	drawn := f.drawn(feed.Gear)
	if drawn*reserve > by.gives {
		title := fmt.Sprintf("%s has less than 20 %% in reserve", name)
		if drawn > by.gives {
			title = fmt.Sprintf("%s gives %.0f mA, and %.0f mA is drawn", name, by.gives, drawn)
		}
		x := f.about(
			"overdrawn", path.Fault, title, f.drawWords(feed.Gear, by.gives), append([]plan.ID{feed.Supply}, feed.Gear...)...,
		)
		x = f.named(x, "power:overdrawn:"+string(feed.Supply)+":"+string(feed.Output))
		x.Figures = []path.Figure{{Name: "left", Value: math.Round(headroom(by.gives, drawn) * 100), Unit: "%"}}
		list = append(list, x)
	}
	if len(feed.Gear) > 1 {
		list = append(list, f.chainFindings(feed, name)...)
	}
	return list
}

// drawWords are what boxes draw from an output, one by one, against what it gives.
func (f *feeding) drawWords(ids []plan.ID, gives float64) string {
	var words []string
	sum := 0.0
	for _, id := range ids {
		l := f.load(id)
		if l == nil || l.battery != nil {
			continue
		}
		sum += l.ma
		if l.draw.Current == nil {
			words = append(words, fmt.Sprintf("%s an unknown current, for which %.0f mA is taken", l.gear.Name, l.ma))
		} else {
			words = append(words, fmt.Sprintf("%s %.0f mA", l.gear.Name, l.ma))
		}
	}
	return fmt.Sprintf(
		"%s of %.0f mA: keep 20 %% in reserve, so %.0f mA is needed", plan.Listed(words), gives, sum*reserve,
	)
}

// unfedFindings are of boxes that nothing feeds: each by itself, unless they are many.
func (f *feeding) unfedFindings(ids []plan.ID) []path.Finding {
	if len(f.outputs) == 0 {
		return nil
	}
	if len(ids) > 3 {
		x := f.about(
			"unfed", path.Fault, fmt.Sprintf("%d boxes have no power", len(ids)), fmt.Sprintf("nothing feeds %s", f.names(ids)),
			ids...,
		)
		x = f.named(x, "power:unfed")
		return []path.Finding{x}
	}
	var list []path.Finding
	for _, id := range ids {
		l := f.load(id)
		list = append(
			list,
			f.about(
				"unfed", path.Fault, fmt.Sprintf("%s has no power", l.gear.Name),
				fmt.Sprintf("it wants %g V and %.0f mA, and nothing feeds it", l.draw.Voltage, l.ma), id,
			),
		)
	}
	return list
}

// chainFindings are of several boxes on one output.
func (f *feeding) chainFindings(feed *plan.PowerFeed, name string) []path.Finding {
	if why := f.clash(feed.Gear); why != "" {
		gravity := path.Fault
		if f.mixed(feed.Gear) {
			gravity = path.Danger
		}
		x := f.about("daisy-clash", gravity, fmt.Sprintf("%s cannot share %s", f.names(feed.Gear), name), why, feed.Gear...)
		if gravity == path.Danger {
			x.Caution = wrongSupplyCaution
		}
		return []path.Finding{x}
	}
	if !f.allows(plan.DaisyChain) {
		return []path.Finding{
			f.about(
				"daisy", path.Notice, fmt.Sprintf("%s share %s", f.names(feed.Gear), name),
				"a daisy chain joins their grounds, and each hears the noise of the others", feed.Gear...,
			),
		}
	}
	return nil
}

// mixed reports whether boxes are of different polarity, so that a chain of them is a short.
func (f *feeding) mixed(ids []plan.ID) bool {
	seen := ""
	for _, id := range ids {
		l := f.load(id)
		if l == nil || l.battery != nil {
			continue
		}
		p := polarityOr(l.draw.Polarity, l.draw.AC)
		if seen != "" && p != seen {
			return true
		}
		seen = p
	}
	return false
}

// supplyFindings are of a whole supply: what it gives in all, and outputs that share a ground.
func (f *feeding) supplyFindings() []path.Finding {
	var list []path.Finding
	drawn := map[plan.ID]float64{}
	grounds := map[plan.ID][]plan.ID{}
	for _, feed := range f.rig.PowerPlan {
		drawn[feed.Supply] += f.drawn(feed.Gear)
		if o := f.output(feed.Supply, feed.Output); o != nil && o.Shared {
			grounds[feed.Supply] = append(grounds[feed.Supply], feed.Gear...)
		}
	}
	for _, id := range plan.SortedKeys(drawn) {
		g, ok := f.plan.FindGear(id)
		if !ok || g.Supply == nil {
			continue
		}
		if most := totalOf(g.Supply); drawn[id]*reserve > most {
			title := fmt.Sprintf("%s has less than 20 %% in reserve over all its outputs", g.Name)
			if drawn[id] > most {
				title = fmt.Sprintf("%s gives %.0f mA over all its outputs, and %.0f mA is drawn", g.Name, most, drawn[id])
			}
			x := f.about(
				"supply-overdrawn", path.Fault, title,
				fmt.Sprintf(
					"%.0f mA is drawn of %.0f mA; keep 20 %% in reserve, so %.0f mA is needed", drawn[id], most, drawn[id]*reserve,
				),
				id,
			)
			x.Figures = []path.Figure{{Name: "left", Value: math.Round(headroom(most, drawn[id]) * 100), Unit: "%"}}
			list = append(list, x)
		}
		if why := f.clash(grounds[id]); why != "" {
			gravity, caution := path.Fault, ""
			if f.mixed(grounds[id]) {
				gravity, caution = path.Danger, wrongSupplyCaution
			}
			x := f.about("shared-ground", gravity, fmt.Sprintf("Outputs of %s that are not isolated", g.Name), why, id)
			x.Caution = caution
			list = append(list, x)
		}
	}
	return list
}

// leastHours is how long a battery is to last: a show, with its sound check.
const leastHours = 6.0

func (f *feeding) batteryFindings(l *load) []path.Finding {
	hours := or(l.battery.CapacityMAH, usualBattery)/math.Max(l.ma, 1e-3) - or(l.battery.UsedH, 0)
	if hours >= leastHours {
		return nil
	}
	x := f.about(
		"battery", path.Fault, fmt.Sprintf("The battery of %s is low", l.gear.Name),
		"it may not last a sound check and a show: put in a fresh one", l.gear.ID,
	)
	x.Figures = []path.Figure{{Name: "left", Value: tenth(math.Max(0, hours)), Unit: "h"}}
	return []path.Finding{x}
}

// Harm is what is plugged in a rig, as it is to be written into a plan, that would harm a box, and is
// not plugged so in the plan already: each problem by its path in the rig. What cannot be judged since
// it is not valid is left to validation.
func Harm(p *plan.Plan, next plan.Rig) plan.Problems {
	before := map[string]bool{}
	if r, ok := p.FindRig(next.ID); ok {
		for _, h := range harmful(p, r) {
			before[h.what] = true
		}
	}
	var problems plan.Problems
	for _, h := range harmful(p, &next) {
		if !before[h.what] {
			problems = append(
				problems, plan.Problem{Path: fmt.Sprintf("power[%d]", h.feed), Message: h.why + ": it is not plugged"},
			)
		}
	}
	return problems
}

// harmed is one box on what would harm it.
type harmed struct {
	feed      int
	what, why string
}

func harmful(p *plan.Plan, r *plan.Rig) []harmed {
	f := &feeding{plan: p, rig: r}
	f.read()
	var list []harmed
	for i := range r.PowerPlan {
		feed := &r.PowerPlan[i]
		by, ok := f.fedBy(feed)
		if !ok {
			continue
		}
		for _, t := range f.troubles(by) {
			if t.Verdict == Harmful {
				list = append(list, harmed{i, fmt.Sprint(feed.Supply, feed.Output, t.Gear, by.volts, feed.Lead), t.Why})
			}
		}
		if f.mixed(feed.Gear) {
			list = append(list, harmed{i, fmt.Sprint(feed.Supply, feed.Output, feed.Gear), f.clash(feed.Gear)})
		}
	}
	return list
}
