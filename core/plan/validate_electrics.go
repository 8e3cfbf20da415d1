package plan

import (
	"fmt"
	"slices"
)

// circuit checks the electrical side of a piece of gear.
func (v *validator) circuit(path string, g *Gear) {
	if g.Wiring != nil {
		if g.Kind != Guitar {
			v.problems.add(dot(path, "wiring"), "only a guitar has pots and capacitors of its own here")
		}
		wp := dot(path, "wiring")
		if g.Wiring.Volume != nil {
			v.pot(dot(wp, "volume.control"), g.Controls, g.Wiring.Volume.Control, g.Name)
		}
		if g.Wiring.Tone != nil {
			v.pot(dot(wp, "tone.pot.control"), g.Controls, g.Wiring.Tone.Pot.Control, g.Name)
		}
		if g.Wiring.Bleed != nil && g.Wiring.Volume == nil {
			v.problems.add(dot(wp, "bleed"), "a treble bleed needs a volume pot to bridge")
		}
	}
	v.positions(dot(path, "positions"), g)
	for i, x := range g.Pickups {
		if _, ok := g.FindJack(x.Jack); x.Jack != "" && !ok {
			v.problems.add(dot(at(dot(path, "pickups"), i), "jack"), "%s has no jack %q", g.Name, x.Jack)
		}
	}
	if g.Cable != nil && g.Kind != CableStock {
		v.problems.add(dot(path, "cable"), "only cable has a capacitance a metre")
	}
	for i, b := range g.Blocks {
		v.models(at(dot(path, "blocks"), i), g, &b)
		if b.Pot == nil {
			continue
		}
		bp := dot(at(dot(path, "blocks"), i), "pot")
		if b.Effect != EffectVolume || !b.Passive {
			v.problems.add(bp, "only a passive volume has a pot in the signal")
		}
		v.pot(dot(bp, "control"), b.Controls, b.Pot.Control, g.StopName(&b))
	}
	if g.Supply == nil {
		return
	}
	sp := dot(path, "supply")
	if g.Kind != Supply {
		v.problems.add(sp, "only a supply has outputs")
	}
	localIDs(v, dot(sp, "outputs"), g.Supply.Outputs, func(o PowerOutput) ID { return o.ID })
	for i, o := range g.Supply.Outputs {
		v.voltages(dot(at(dot(sp, "outputs"), i), "voltages_v"), o.Voltages)
	}
	for i, lead := range g.Supply.Doubles {
		if lead != CurrentDoubling && lead != VoltageDoubling {
			v.problems.add(at(dot(sp, "doubles"), i), "%q is not one of %s, %s", lead, CurrentDoubling, VoltageDoubling)
		}
	}
}

// positions checks what a guitar's pickup selector is said to have on.
func (v *validator) positions(path string, g *Gear) {
	var options []string
	for _, c := range g.Controls {
		if c.ID == "pickup" {
			options = c.Options
		}
	}
	for i, x := range g.Positions {
		at := at(path, i)
		switch {
		case !slices.Contains(options, x.Is):
			v.problems.add(dot(at, "is"), "the pickup selector of %s has no position %q", g.Name, x.Is)
		case slices.ContainsFunc(g.Positions[:i], func(y Position) bool { return y.Is == x.Is }):
			v.problems.add(dot(at, "is"), "position %q is described twice", x.Is)
		}
		if len(x.Pickups) == 0 {
			v.problems.add(dot(at, "pickups"), "position %q has no pickup on", x.Is)
		}
		for k, id := range x.Pickups {
			if !slices.ContainsFunc(g.Pickups, func(p Pickup) bool { return p.ID == id }) {
				v.problems.add(fmt.Sprintf("%s[%d]", dot(at, "pickups"), k), "%s has no pickup %q", g.Name, id)
			} else if p, _ := g.FindPickup(id); p.Jack != "" {
				v.problems.add(
					fmt.Sprintf("%s[%d]", dot(at, "pickups"), k),
					"the pickup %q has a jack of its own, which the selector does not reach", id,
				)
			} else if slices.Contains(x.Pickups[:k], id) {
				v.problems.add(fmt.Sprintf("%s[%d]", dot(at, "pickups"), k), "pickup %q stands twice", id)
			}
		}
		for k, id := range x.Reversed {
			if !slices.Contains(x.Pickups, id) {
				v.problems.add(fmt.Sprintf("%s[%d]", dot(at, "reversed"), k), "pickup %q is not on in position %q", id, x.Is)
			}
		}
	}
}

func (v *validator) pot(path string, controls []Control, id ID, owner string) {
	if id == "" {
		return
	}
	i := slices.IndexFunc(controls, func(c Control) bool { return c.ID == id })
	if i < 0 {
		v.problems.add(path, "%s has no control %q", owner, id)
	} else if controls[i].Kind != Knob {
		v.problems.add(path, "%s of %s is not a knob", controls[i].Name, owner)
	}
}

func (v *validator) voltages(path string, list []float64) {
	if len(list) == 0 || len(list) > 16 {
		v.problems.add(path, "an output has 1 to 16 voltages, not %d", len(list))
	}
	for i, x := range list {
		if !(x > 0 && x <= 250) {
			v.problems.add(at(path, i), "%v V is outside 0 to 250", x)
		}
		if slices.Index(list, x) < i {
			v.problems.add(at(path, i), "%v V is listed twice", x)
		}
	}
}

// electrics checks cables, power and batteries of a rig.
func (v *validator) electrics(path string, r *Rig) {
	if r.PatchCable != "" {
		v.cable(dot(path, "patch_cable"), r.PatchCable)
	}
	for i, l := range r.Leads {
		lp := at(dot(path, "leads"), i)
		v.gearExists(dot(lp, "from"), l.From.Gear())
		v.gearExists(dot(lp, "to"), l.To.Gear())
		if l.Cable != "" {
			v.cable(dot(lp, "cable"), l.Cable)
		}
		for _, other := range r.Leads[:i] {
			if other.From == l.From && other.To == l.To {
				v.problems.add(lp, "this cable is described twice")
			}
		}
	}
	for i, lead := range r.PowerLeads {
		if !slices.Contains([]string{DaisyChain, CurrentDoubling, VoltageDoubling, Reversing}, lead) {
			v.problems.add(at(dot(path, "power_leads"), i), "%q is no lead that power can take", lead)
		}
	}
	v.clocks(dot(path, "clocks"), r.Clocks)
	v.batteries(dot(path, "batteries"), r.Batteries)
	v.feeds(dot(path, "power"), r)
}

func (v *validator) cable(path string, id ID) {
	if v.gearExists(path, id) && v.gearByID[id].Kind != CableStock {
		v.problems.add(path, "%s is not a cable", v.gearByID[id].Name)
	}
}

// clocks checks who follows whose tempo.
func (v *validator) clocks(path string, list []Clock) {
	follows := map[ID]bool{}
	for i, c := range list {
		v.gearExists(dot(at(path, i), "from"), c.From)
		for k, id := range c.To {
			tp := at(dot(at(path, i), "to"), k)
			switch {
			case !v.gearExists(tp, id):
			case id == c.From:
				v.problems.add(tp, "%s cannot follow its own clock", v.gearByID[id].Name)
			case follows[id]:
				v.problems.add(tp, "%s follows a clock already", v.gearByID[id].Name)
			}
			follows[id] = true
		}
	}
}

func (v *validator) batteries(path string, list []BatteryUse) {
	for i, b := range list {
		bp := dot(at(path, i), "gear")
		if !v.gearExists(bp, b.Gear) {
			continue
		}
		if g := v.gearByID[b.Gear]; g.Power == nil || !g.Power.Battery {
			v.problems.add(bp, "%s takes no battery", g.Name)
		}
		for _, other := range list[:i] {
			if other.Gear == b.Gear {
				v.problems.add(bp, "this battery is listed twice")
			}
		}
	}
}

// feeds checks that what feeds what can be plugged at all; whether it is wise is judged
// elsewhere.
func (v *validator) feeds(path string, r *Rig) {
	fed := map[ID]bool{}
	used := map[[2]ID]bool{}
	for i, f := range r.PowerPlan {
		fp := at(path, i)
		for j, id := range f.Gear {
			gp := at(dot(fp, "gear"), j)
			if !v.gearExists(gp, id) {
				continue
			}
			if v.gearByID[id].Power == nil {
				v.problems.add(gp, "%s takes no power from a supply", v.gearByID[id].Name)
			}
			if fed[id] {
				v.problems.add(gp, "%s is fed twice", v.gearByID[id].Name)
			}
			fed[id] = true
		}
		if !v.gearExists(dot(fp, "supply"), f.Supply) {
			continue
		}
		supply := v.gearByID[f.Supply]
		outputs := map[string]ID{"output": f.Output}
		doubling := f.Lead == CurrentDoubling || f.Lead == VoltageDoubling
		if doubling {
			outputs["second"] = f.Second
			if f.Second == f.Output {
				v.problems.add(dot(fp, "second"), "a doubling lead takes two outputs")
				continue
			}
		} else if f.Second != "" {
			v.problems.add(dot(fp, "second"), "only a doubling lead takes a second output")
		}
		for _, field := range SortedKeys(outputs) {
			id := outputs[field]
			o, ok := supply.Supply.FindOutput(id)
			if !ok {
				v.problems.add(dot(fp, field), "%s has no output %q", supply.Name, id)
				continue
			}
			if used[[2]ID{f.Supply, id}] {
				v.problems.add(dot(fp, field), "this output is listed twice")
			}
			used[[2]ID{f.Supply, id}] = true
			if f.Voltage != nil && !slices.Contains(o.Voltages, *f.Voltage) {
				v.problems.add(dot(fp, "voltage_v"), "%s of %s cannot be switched to %v V", id, supply.Name, *f.Voltage)
			}
		}
	}
}
