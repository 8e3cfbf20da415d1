package dial

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"envex/core/plan"
	"envex/core/signal"
)

// also is what else has to stand somewhere for the sound, in words: selectors, presets, times and rates, of the gear or
// block that is asked for. Knobs whose turn changes loudness and dirt are told as places.
func (x *stepping) also(of func(*plan.Gear, plan.Variable) bool) []string {
	list := []string{}
	for _, id := range x.rig.GearIn() {
		g, ok := x.plan.FindGear(id)
		if !ok || g.Kind == plan.Guitar && id != x.set.Guitar {
			continue
		}
		for _, v := range g.Variables() {
			told := slices.ContainsFunc(x.knobs, func(k signal.KnobOf) bool { return k.Key == v.Key })
			if v.Control == nil || told || !of(g, v) || !x.set.Works(v) {
				continue
			}
			if words := standsAt(v, x.set.At(v.Key)); words != "" {
				list = append(list, words)
			}
		}
	}
	return list
}

// standsAt is a control and where it stands; "" where there is nothing to choose, or nothing is said.
func standsAt(v plan.Variable, at plan.Value) string {
	switch {
	case at.Kind() == plan.NumberValue:
		return strings.TrimSpace(fmt.Sprintf("%s %g %s", v.Label, math.Round(10*at.Float())/10, v.Control.Unit))
	case at.Kind() == plan.TextValue && len(v.Control.Options) > 1:
		return v.Label + " " + at.Word()
	}
	return ""
}

// inBlock is what is set of a block that a step turns on, and of the whole box where it has one block.
func inBlock(at stop) func(*plan.Gear, plan.Variable) bool {
	return func(g *plan.Gear, v plan.Variable) bool {
		return g.ID == at.key.Gear() && (v.Block == at.block.ID || v.Block == "" && len(g.Blocks) == 1)
	}
}

// before is what is set before any pedal is on: the guitar, the amps, and what cannot be off.
func (x *stepping) before(g *plan.Gear, v plan.Variable) bool {
	switch {
	case g.Kind == plan.Guitar, g.Kind == plan.Amp:
		return true
	case v.Block == "":
		return false
	}
	b, ok := g.FindBlock(v.Block)
	return ok && b.Bypass == plan.AlwaysOn && slices.Contains(x.rig.Stops(), plan.BlockKey(g.ID, b.ID))
}
