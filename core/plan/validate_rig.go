package plan

import "slices"

func (v *validator) rig(path string, r *Rig) {
	v.name(dot(path, "name"), r.Name)
	if r.Player != nil {
		v.partIs(dot(path, "player"), *r.Player)
	}
	for i, id := range r.Guitars {
		v.guitar(at(dot(path, "guitars"), i), id)
		if slices.Index(r.Guitars, id) < i {
			v.problems.add(at(dot(path, "guitars"), i), "this guitar is plugged in twice")
		}
	}
	v.path(dot(path, "path"), r.Path)
	v.settings(dot(path, "base"), r.Base, resolvable)
	for _, id := range SortedKeys(r.PerGuitar) {
		gp := in(dot(path, "per_guitar"), id)
		v.guitar(gp, id)
		v.settings(gp, r.PerGuitar[id], resolvable)
	}
	for i := range r.Recipes {
		v.recipe(at(dot(path, "recipes"), i), &r.Recipes[i])
	}
	v.presets(dot(path, "presets"), r.Presets)
	v.presetNames(dot(path, "preset_names"), r.PresetNames)
	v.snapshots(dot(path, "snapshots"), r.Snapshots)
	v.wiring(path, r)
	v.programs(dot(path, "programs"), r)
	v.assignments(dot(path, "assignments"), r.Assignments)
	v.floor(dot(path, "floor"), &r.Floor)
	v.electrics(path, r)
	for i, s := range r.Settled {
		v.name(dot(at(dot(path, "settled"), i), "finding"), s.Finding)
		v.name(dot(at(dot(path, "settled"), i), "reason"), s.Reason)
	}
	for i, h := range r.Held {
		v.switcherLoop(at(dot(path, "held"), i), h.Switcher, h.Loop)
	}
	names := map[string]bool{}
	for i, o := range r.Orders {
		op := at(dot(path, "orders"), i)
		v.name(dot(op, "name"), o.Name)
		if names[o.Name] {
			v.problems.add(dot(op, "name"), "another order is kept under that name")
		}
		names[o.Name] = true
		v.path(dot(op, "path"), o.Path)
	}
	for i := range r.Destinations {
		v.destination(at(dot(path, "destinations"), i), &r.Destinations[i])
	}
	v.swaps(dot(path, "swaps"), r)
}

func (v *validator) destination(path string, d *Destination) {
	v.name(dot(path, "name"), d.Name)
	if d.Amp != "" && v.gearExists(dot(path, "amp"), d.Amp) && v.gearByID[d.Amp].Kind != Amp {
		v.problems.add(dot(path, "amp"), "%s is not an amp", v.gearByID[d.Amp].Name)
	}
	there := v
	if d.Kind == AnyAmp {
		there = newValidator(v.plan.withAnyAmp())
	}
	there.path(dot(path, "path"), d.Path)
	there.settings(dot(path, "base"), d.Base, resolvable)
	there.relays(dot(path, "relays"), d.Relays)
	for i, l := range d.Relays {
		if g := there.gearByID[l.Target.Gear()]; g != nil && g.Kind != Amp {
			there.problems.add(
				dot(at(dot(path, "relays"), i), "target"),
				"%s is no amp: what a relay works of it, it works wherever the rig plugs in", g.Name,
			)
		}
	}
	for i := range d.Recipes {
		there.recipe(at(dot(path, "recipes"), i), &d.Recipes[i])
	}
	if there != v {
		v.problems = append(v.problems, there.problems...)
	}
}

func (v *validator) gearExists(path string, id ID) bool {
	if v.gearByID[id] == nil {
		v.problems.add(path, "there is no gear %q", id)
		return false
	}
	return true
}

func (v *validator) block(path string, key Key) (*Gear, *Block) {
	g := v.gearByID[key.Gear()]
	if g == nil {
		v.problems.add(path, "there is no gear %q", key.Gear())
		return nil, nil
	}
	b, ok := g.FindBlock(ID(key.Rest()))
	if !ok {
		v.problems.add(path, "%s has no block %q", g.Name, key.Rest())
		return nil, nil
	}
	return g, b
}

func (v *validator) settings(path string, values map[Key]Value, use settingUse) {
	for _, key := range SortedKeys(values) {
		target, ok := v.variables[key]
		if !ok {
			v.problems.add(in(path, key), "there is no control %q", key)
			continue
		}
		v.setting(in(path, key), values[key], target, use)
	}
}

func (v *validator) recipe(path string, rec *Recipe) {
	if !v.soundByID[rec.Sound] {
		v.problems.add(dot(path, "sound"), "there is no sound %q", rec.Sound)
	}
	if rec.Guitar != "" {
		v.guitar(dot(path, "guitar"), rec.Guitar)
	}
	v.settings(dot(path, "values"), rec.Values, inRecipe)
	for i, key := range rec.Rockers {
		if g, b := v.block(at(dot(path, "rockers"), i), key); b != nil && !b.Rocker {
			v.problems.add(at(dot(path, "rockers"), i), "%s is not played with the foot", g.StopName(b))
		}
	}
	for _, key := range SortedKeys(rec.Notes) {
		v.block(in(dot(path, "notes"), key), key)
		v.note(in(dot(path, "notes"), key), rec.Notes[key])
	}
}

func (v *validator) presets(path string, presets PresetMap) {
	for _, id := range SortedKeys(presets) {
		gp := in(path, id)
		if !v.gearExists(gp, id) {
			continue
		}
		preset, ok := v.gearByID[id].PresetControl()
		if !ok {
			v.problems.add(gp, "%s has no presets", v.gearByID[id].Name)
			continue
		}
		for _, n := range SortedKeys(presets[id]) {
			if !slices.Contains(preset.Control.Options, n) {
				v.problems.add(in(gp, n), "%s has no preset %q", v.gearByID[id].Name, n)
			}
			v.settings(in(gp, n), presets[id][n], inPreset)
			for _, key := range SortedKeys(presets[id][n]) {
				if key.Gear() != id {
					v.problems.add(in(in(gp, n), key), "a preset of %s can only set its own controls", v.gearByID[id].Name)
				}
			}
		}
	}
}

func (v *validator) presetNames(path string, names map[ID]map[string]string) {
	for _, id := range SortedKeys(names) {
		gp := in(path, id)
		if !v.gearExists(gp, id) {
			continue
		}
		preset, ok := v.gearByID[id].PresetControl()
		if !ok {
			v.problems.add(gp, "%s has no presets", v.gearByID[id].Name)
			continue
		}
		for _, n := range SortedKeys(names[id]) {
			if !slices.Contains(preset.Control.Options, n) {
				v.problems.add(in(gp, n), "%s has no preset %q", v.gearByID[id].Name, n)
			}
			v.name(in(gp, n), names[id][n])
		}
	}
}

func (v *validator) snapshots(path string, snapshots SnapshotMap) {
	for _, id := range SortedKeys(snapshots) {
		gp := in(path, id)
		if !v.gearExists(gp, id) {
			continue
		}
		g := v.gearByID[id]
		preset, ok := g.PresetControl()
		shot, ok2 := g.SnapshotControl()
		if !ok || !ok2 {
			v.problems.add(gp, "%s has no snapshots within presets", g.Name)
			continue
		}
		for _, n := range SortedKeys(snapshots[id]) {
			if !slices.Contains(preset.Control.Options, n) {
				v.problems.add(in(gp, n), "%s has no preset %q", g.Name, n)
			}
			for _, k := range SortedKeys(snapshots[id][n]) {
				sp := in(in(gp, n), k)
				if !slices.Contains(shot.Control.Options, k) {
					v.problems.add(sp, "%s has no snapshot %q", g.Name, k)
				}
				v.settings(sp, snapshots[id][n][k], inPreset)
				for _, key := range SortedKeys(snapshots[id][n][k]) {
					if key.Gear() != id {
						v.problems.add(in(sp, key), "a snapshot of %s can only set its own controls", g.Name)
					}
				}
			}
		}
	}
}

// wiring checks what keeps its own switch or its slot, and what controllers are plugged into.
func (v *validator) wiring(path string, r *Rig) {
	for i, key := range r.OwnSwitches {
		v.block(at(dot(path, "own_switches"), i), key)
	}
	for i, pin := range r.SlotPins {
		pp := at(dot(path, "slot_pins"), i)
		v.gearExists(dot(pp, "controller"), pin.Controller)
		v.name(dot(pp, "slot"), pin.Slot)
		if !v.soundByID[pin.Sound] {
			v.problems.add(dot(pp, "sound"), "there is no sound %q", pin.Sound)
		}
		for _, other := range r.SlotPins[:i] {
			if other.Controller == pin.Controller && other.Slot == pin.Slot && other.Bank == pin.Bank {
				v.problems.add(dot(pp, "slot"), "another sound is to stay on this slot")
			}
			if other.Controller == pin.Controller && other.Sound == pin.Sound {
				v.problems.add(dot(pp, "sound"), "this sound is to stay on another slot already")
			}
		}
	}
	v.dialled(dot(path, "dialled"), r.Dialled)
	v.laneLevels(dot(path, "lane_levels"), r.LaneLevels)
	for i, l := range r.Levels {
		lp := at(dot(path, "levels"), i)
		if g, b := v.block(dot(lp, "block"), l.Block); b != nil && b.Bypass == AlwaysOn {
			v.problems.add(dot(lp, "block"), "%s cannot be off, so that on over off says nothing", g.StopName(b))
		}
		v.settings(dot(lp, "at"), l.At, literal)
		for _, other := range r.Levels[:i] {
			if other.Block == l.Block {
				v.problems.add(dot(lp, "block"), "its level is listed twice")
			}
		}
	}
	for i, l := range r.MIDI {
		lp := at(dot(path, "midi"), i)
		if v.gearExists(dot(lp, "controller"), l.Controller) && !v.gearByID[l.Controller].SendsMIDI() {
			v.problems.add(dot(lp, "controller"), "%s sends no MIDI", v.gearByID[l.Controller].Name)
		}
		if v.gearExists(dot(lp, "gear"), l.Gear) && v.gearByID[l.Gear].MIDI == nil {
			v.problems.add(dot(lp, "gear"), "%s is not on MIDI", v.gearByID[l.Gear].Name)
		}
		for _, other := range r.MIDI[:i] {
			if other.Controller == l.Controller && other.Gear == l.Gear {
				v.problems.add(lp, "the channel from this controller to this device is listed twice")
			}
		}
	}
	v.relays(dot(path, "relays"), r.Relays)
}

// relays checks what relays are plugged into at one place.
func (v *validator) relays(path string, list []RelayLink) {
	for i, l := range list {
		lp := at(path, i)
		if v.gearExists(dot(lp, "controller"), l.Controller) {
			c := v.gearByID[l.Controller]
			if !slices.ContainsFunc(c.Relays, func(x Relay) bool { return x.ID == l.Relay }) {
				v.problems.add(dot(lp, "relay"), "%s has no relay %q", c.Name, l.Relay)
			}
		}
		target, ok := v.variables[l.Target]
		switch {
		case !ok:
			v.problems.add(dot(lp, "target"), "there is no control %q", l.Target)
		case !target.IsOn() && (target.Control.Kind == Knob || len(target.Control.Options) != 2):
			v.problems.add(dot(lp, "target"), "a relay works something with two positions; %s has others", target.Label)
		}
		for _, other := range list[:i] {
			if other.Controller == l.Controller && other.Relay == l.Relay {
				v.problems.add(dot(lp, "relay"), "this relay is plugged in twice")
			}
		}
	}
}

func (v *validator) programs(path string, r *Rig) {
	programs := r.Programs
	for _, id := range SortedKeys(programs) {
		if !v.gearExists(in(path, id), id) {
			continue
		}
		loops := r.LoopsOf(id)
		for _, bank := range SortedKeys(programs[id]) {
			for _, slot := range SortedKeys(programs[id][bank]) {
				pp := in(in(in(path, id), bank), slot)
				program := programs[id][bank][slot]
				if program.Sound != "" && !v.soundByID[program.Sound] {
					v.problems.add(dot(pp, "sound"), "there is no sound %q", program.Sound)
				}
				v.settings(dot(pp, "values"), program.Values, inPreset)
				for _, key := range SortedKeys(program.Values) {
					if x, ok := v.variables[key]; ok && !v.plan.Governs(r, id, loops, x) {
						v.problems.add(
							in(dot(pp, "values"), key),
							"%s cannot move %s: it stands in none of its loops, and no message or relay reaches it", v.gearByID[id].Name,
							x.Label,
						)
					}
				}
			}
		}
	}
}

func (v *validator) assignments(path string, list []Assignment) {
	seen := map[Key]bool{}
	for i, a := range list {
		ap := at(path, i)
		key := BlockKey(a.Gear, a.Switch)
		v.footswitch(dot(ap, "switch"), key)
		if seen[key] {
			v.problems.add(dot(ap, "switch"), "this switch is assigned twice")
		}
		seen[key] = true
		for name, press := range map[string]*Press{"press": a.Press, "hold": a.Hold, "double": a.Double} {
			v.press(dot(ap, name), press)
		}
	}
}

func (v *validator) footswitch(path string, key Key) {
	if !v.gearExists(path, key.Gear()) {
		return
	}
	if _, ok := v.gearByID[key.Gear()].FindSwitch(ID(key.Rest())); !ok {
		v.problems.add(path, "%s has no footswitch %q", v.gearByID[key.Gear()].Name, key.Rest())
	}
}

// SortedKeys are the keys of a map in order, so that what is made from it is always the same.
func SortedKeys[K ~string, V any](m map[K]V) []K {
	keys := make([]K, 0, len(m))
	for k := range m {
		keys = append(keys, k)
	}
	slices.Sort(keys)
	return keys
}
