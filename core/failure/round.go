package failure

import (
	"fmt"
	"slices"
	"strings"

	"envex/core/path"
	"envex/core/plan"
	"envex/core/reach"
)

// wayRound is the least that gets the signal past a box.
func (f *Rig) wayRound(g *plan.Gear, out map[plan.ID]bool) (string, error) {
	switch {
	case g.Kind == plan.Guitar:
		if id := f.otherGuitar(g.ID); id != "" {
			return "take " + f.name(id), nil
		}
		return "none in this rig: have a guitar to spare", nil
	case g.Kind == plan.Amp && !f.otherAmp(g.ID):
		for _, d := range f.given.Rigs[f.rigAt()].Destinations {
			if d.TakesNoAmp() && d.Kind != plan.Headphones {
				return "to the house, as at " + d.Name, nil
			}
		}
		return "none in this rig: have an amp or a DI to spare", nil
	}
	leads, err := f.leadsPast(out)
	if err != nil {
		return "", err
	}
	switch {
	case g.Kind == plan.Supply:
		return f.pastSupply(out, leads)
	case f.rig.Programs[g.ID] != nil || g.LoopCount() > 0 || g.Kind == plan.Controller:
		return f.pastController(g, leads)
	case g.Kind == plan.Amp:
		return "play on over the other amp, turned up", nil
	case f.loopOf(g.ID) != "":
		return f.loopOf(g.ID), nil
	case f.leavesByItself(g):
		return "leave it off: true bypass passes the signal; if it does not, " + leads, nil
	}
	return leads, nil
}

// loopOf is leaving off the loops of a switcher that a box stands in; "" where it also stands
// elsewhere, or a loop cannot be left off.
func (f *Rig) loopOf(id plan.ID) string {
	var list []string
	loops := f.rig.SwitchedLoops("")
	for _, key := range f.rig.Stops() {
		if key.Gear() != id {
			continue
		}
		loop, ok := loops[key]
		if !ok {
			return ""
		}
		list = appendNew(list, fmt.Sprint(loop))
	}
	if len(list) == 0 {
		return ""
	}
	return "leave loop " + plan.Listed(list) + " off"
}

func (f *Rig) rigAt() int {
	return slices.IndexFunc(f.given.Rigs, func(r plan.Rig) bool { return r.ID == f.rig.ID })
}

func (f *Rig) otherAmp(id plan.ID) bool {
	return slices.ContainsFunc(f.rig.Stops(), func(k plan.Key) bool { return k.Gear() != id && f.isAmp(k) })
}

// leavesByItself reports whether every block of the box in the chain passes the signal by a plain
// contact while it is off, power or not.
func (f *Rig) leavesByItself(g *plan.Gear) bool {
	stands := false
	for _, b := range g.Blocks {
		if f.stops[plan.BlockKey(g.ID, b.ID)] {
			stands = true
			if b.Bypass != plan.TrueBypass {
				return false
			}
		}
	}
	return stands
}

// leadsPast is what is plugged otherwise when boxes are out: what the rig's cables and outputs without
// them have that they do not have now.
func (f *Rig) leadsPast(out map[plan.ID]bool) (string, error) {
	cables, err := f.cablesWithout(out)
	if err != nil {
		return "", err
	}
	var list []string
	for _, r := range cables.Runs {
		if !slices.ContainsFunc(f.cables.Runs, func(x path.Run) bool { return sameJacks(x, r) }) {
			list = append(list, fmt.Sprintf("from %s %s to %s %s", r.From.Name, r.From.Jack, r.To.Name, r.To.Jack))
		}
	}
	for _, s := range cables.Sends {
		if !slices.ContainsFunc(
			f.cables.Sends,
			func(x path.Send) bool { return x.Gear == s.Gear && x.Jack == s.Jack },
		) {
			list = append(list, fmt.Sprintf("from %s %s to the house, by a DI of its own", s.Name, s.Jack))
		}
	}
	if len(list) > 0 {
		return "lead " + strings.Join(list, ", and "), nil
	}
	for _, r := range f.cables.Runs {
		if out[r.From.Gear] && !out[r.To.Gear] {
			return fmt.Sprintf("pull both its leads: %s passes the signal by itself", r.To.Name), nil
		}
	}
	return "unplug it: nothing comes after it", nil
}

func (f *Rig) cablesWithout(out map[plan.ID]bool) (*path.Cables, error) {
	r := *f.rig
	r.Path = without(f.plan, f.rig.Path, out)
	p := *f.plan
	p.Put(r)
	return path.DeriveCables(&p, r.ID, "")
}

func sameJacks(a, b path.Run) bool {
	return a.From.Gear == b.From.Gear && a.From.Jack == b.From.Jack && a.To.Gear == b.To.Gear && a.To.Jack == b.To.Jack
}

func (f *Rig) pastSupply(out map[plan.ID]bool, leads string) (string, error) {
	var cells []string
	for _, id := range f.rig.GearIn() {
		if g, ok := f.plan.FindGear(id); ok && out[id] && g.Power != nil && g.Power.Battery {
			cells = append(cells, g.Name)
		}
	}
	words := leads
	if len(cells) > 0 {
		words = "batteries into " + plan.Listed(cells) + "; past all it feeds, " + leads
	}
	for _, id := range f.rig.GearIn() {
		g, ok := f.plan.FindGear(id)
		if !ok || !out[id] || f.rig.Programs[id] == nil {
			continue
		}
		way, err := f.pastController(g, "")
		if err != nil {
			return "", err
		}
		words += "; without " + g.Name + ", " + way
	}
	return words, nil
}

// pastController is how a set is played without what switches it: on the boxes' own switches.
func (f *Rig) pastController(g *plan.Gear, leads string) (string, error) {
	before, err := reach.Compute(f.plan, f.rig.ID, f.set)
	if err != nil {
		return "", err
	}
	after, err := reach.Compute(Taken(f.plan, f.rig, map[plan.ID]bool{g.ID: true}), f.rig.ID, f.set)
	if err != nil {
		return "", err
	}
	words := fmt.Sprintf(
		"each box by its own switch: %d of %d changes in time, with it %d", after.Reach.Reached, after.Reach.Total,
		before.Reach.Reached,
	)
	if g.LoopCount() > 0 && leads != "" {
		words += "; " + leads
	}
	return words, nil
}
