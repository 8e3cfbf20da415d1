package plan

import "slices"

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
	if g.Cable != nil && g.Kind != CableStock {
		v.problems.add(dot(path, "cable"), "only cable has a capacitance a metre")
	}
	for i, b := range g.Blocks {
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

func (v *validator) pot(path string, controls []Control, id ID, owner string) {
	if id == "" {
		return
	}
	i := slices.IndexFunc(controls, func(c Control) bool { return c.ID == id })
	if i < 0 {
		v.problems.add(path, "%s has no control %q", owner, id)
	} else if controls[i].Kind != Knob {
		v.problems.add(path, "%s of %s is no knob", controls[i].Name, owner)
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
			v.problems.add(at(path, i), "%v V stands twice", x)
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
	v.batteries(dot(path, "batteries"), r.Batteries)
	v.feeds(dot(path, "power"), r)
}

func (v *validator) cable(path string, id ID) {
	if v.gearExists(path, id) && v.gearByID[id].Kind != CableStock {
		v.problems.add(path, "%s is no cable", v.gearByID[id].Name)
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
