package plan

import (
	"maps"
	"slices"
)

// KeptBox is everything that a rig says of a box of a swap slot, taken out of the rig while another box stands there. What
// was measured of it and its presets stay in the rig: they say nothing while it is not in the chain.
type KeptBox struct {
	Settings     []KeptSettings `json:"settings,omitempty" doc:"Base settings and recipes."`
	Programs     []KeptProgram  `json:"programs,omitempty"`
	OwnSwitches  []Key          `json:"own_switches,omitempty"`
	MIDI         []MIDILink     `json:"midi,omitempty"`
	Relays       []RelayLink    `json:"relays,omitempty"`
	Assignments  []Assignment   `json:"assignments,omitempty"`
	DoubleStomps []DoubleStomp  `json:"double_stomps,omitempty"`
	Leads        []Lead         `json:"leads,omitempty"`
	Clocks       []Clock        `json:"clocks,omitempty"`
	Feeds        []PowerFeed    `json:"power,omitempty"`
	Batteries    []BatteryUse   `json:"batteries,omitempty"`
}

// KeptSettings are the settings of one box in one place: the base where no recipe is named. A recipe is named where it
// says nothing of the box, too.
type KeptSettings struct {
	Destination ID             `json:"destination,omitempty"`
	Recipe      ID             `json:"recipe,omitempty"`
	Guitar      ID             `json:"guitar,omitempty" doc:"The base while that guitar is played."`
	Values      map[Key]Value  `json:"values,omitempty"`
	Rockers     []Key          `json:"rockers,omitempty"`
	Notes       map[Key]string `json:"notes,omitempty"`
}

// KeptProgram is what a slot of a controller does to one box.
type KeptProgram struct {
	Controller ID            `json:"controller"`
	Bank       string        `json:"bank"`
	Slot       string        `json:"slot"`
	Values     map[Key]Value `json:"values"`
}

// kept checks that what is kept is of the box, and names what there is.
func (v *validator) kept(path string, gear ID, k *KeptBox) {
	for i, s := range k.Settings {
		sp := at(dot(path, "settings"), i)
		v.settings(dot(sp, "values"), s.Values, inRecipe)
		v.keysOf(dot(sp, "values"), gear, s.Values)
		for j, key := range s.Rockers {
			v.block(at(dot(sp, "rockers"), j), key)
		}
	}
	for i, x := range k.Programs {
		pp := at(dot(path, "programs"), i)
		v.settings(dot(pp, "values"), x.Values, inRecipe)
		v.keysOf(dot(pp, "values"), gear, x.Values)
	}
	v.assignments(dot(path, "assignments"), k.Assignments)
	keptReferences(k, func(id ID, _ string, _ ...any) {
		if id != "" && v.gearByID[id] == nil {
			v.problems.add(path, "there is no gear %q", id)
		}
	})
}

func (v *validator) keysOf(path string, gear ID, values map[Key]Value) {
	for _, key := range SortedKeys(values) {
		if key.Gear() != gear {
			v.problems.add(in(path, key), "it is not of %q", gear)
		}
	}
}

// keptReferences are the things that what is kept mentions.
func keptReferences(k *KeptBox, add func(ID, string, ...any)) {
	const where = "a box of a swap slot"
	for _, s := range k.Settings {
		add(s.Guitar, where)
	}
	for _, m := range k.MIDI {
		add(m.Controller, where)
		add(m.Gear, where)
	}
	for _, x := range k.Relays {
		add(x.Controller, where)
	}
	for _, a := range k.Assignments {
		add(a.Gear, where)
		for _, press := range []*Press{a.Press, a.Hold, a.Double} {
			if press == nil {
				continue
			}
			for _, act := range press.Actions {
				add(act.Target.Gear(), where)
			}
		}
	}
	for _, d := range k.DoubleStomps {
		add(d.A.Gear(), where)
		add(d.B.Gear(), where)
	}
	for _, l := range k.Leads {
		add(l.From.Gear(), where)
		add(l.To.Gear(), where)
		add(l.Cable, where)
	}
	for _, c := range k.Clocks {
		add(c.From, where)
		for _, id := range c.To {
			add(id, where)
		}
	}
	for _, f := range k.Feeds {
		add(f.Supply, where)
	}
}

func parted[T any](list []T, of func(T) bool) (those, others []T) {
	for _, x := range list {
		if of(x) {
			those = append(those, x)
		} else {
			others = append(others, x)
		}
	}
	return those, others
}

func valuesOf(m map[Key]Value, id ID) map[Key]Value {
	var out map[Key]Value
	for k, x := range m {
		if k.Gear() == id {
			if out == nil {
				out = map[Key]Value{}
			}
			out[k] = x
		}
	}
	return out
}

// about is everything that a rig says of a box.
func (r *Rig) about(id ID) *KeptBox {
	is := func(k Key) bool { return k.Gear() == id }
	presses := func(a Assignment) bool {
		return slices.ContainsFunc([]*Press{a.Press, a.Hold, a.Double}, func(p *Press) bool {
			return p != nil && slices.ContainsFunc(p.Actions, func(x Action) bool { return is(x.Target) })
		})
	}
	k := &KeptBox{}
	settings := func(destination ID, base map[Key]Value, recipes []Recipe) {
		if values := valuesOf(base, id); values != nil {
			k.Settings = append(k.Settings, KeptSettings{Destination: destination, Values: values})
		}
		for _, rec := range recipes {
			x := KeptSettings{Destination: destination, Recipe: rec.ID, Values: valuesOf(rec.Values, id)}
			x.Rockers, _ = parted(rec.Rockers, is)
			for key, note := range rec.Notes {
				if is(key) {
					if x.Notes == nil {
						x.Notes = map[Key]string{}
					}
					x.Notes[key] = note
				}
			}
			k.Settings = append(k.Settings, x)
		}
	}
	settings("", r.Base, r.Recipes)
	for _, guitar := range SortedKeys(r.PerGuitar) {
		if values := valuesOf(r.PerGuitar[guitar], id); values != nil {
			k.Settings = append(k.Settings, KeptSettings{Guitar: guitar, Values: values})
		}
	}
	for _, d := range r.Destinations {
		settings(d.ID, d.Base, d.Recipes)
	}
	for _, c := range SortedKeys(r.Programs) {
		for _, bank := range SortedKeys(r.Programs[c]) {
			for _, slot := range SortedKeys(r.Programs[c][bank]) {
				if values := valuesOf(r.Programs[c][bank][slot].Values, id); values != nil {
					k.Programs = append(k.Programs, KeptProgram{Controller: c, Bank: bank, Slot: slot, Values: values})
				}
			}
		}
	}
	k.OwnSwitches, _ = parted(r.OwnSwitches, is)
	k.MIDI, _ = parted(r.MIDI, func(l MIDILink) bool { return l.Gear == id || l.Controller == id })
	k.Relays, _ = parted(r.Relays, func(l RelayLink) bool { return is(l.Target) || l.Controller == id })
	k.Assignments, _ = parted(r.Assignments, func(a Assignment) bool { return a.Gear == id || presses(a) })
	k.DoubleStomps, _ = parted(r.Floor.DoubleStomps, func(d DoubleStomp) bool { return is(d.A) || is(d.B) })
	k.Leads, _ = parted(r.Leads, func(l Lead) bool { return is(l.From) || is(l.To) })
	k.Batteries, _ = parted(r.Batteries, func(b BatteryUse) bool { return b.Gear == id })
	for _, c := range r.Clocks {
		switch {
		case c.From == id:
			k.Clocks = append(k.Clocks, c)
		case slices.Contains(c.To, id):
			k.Clocks = append(k.Clocks, Clock{From: c.From, To: []ID{id}})
		}
	}
	for _, f := range r.PowerPlan {
		if slices.Contains(f.Gear, id) {
			f.Gear = []ID{id}
			k.Feeds = append(k.Feeds, f)
		}
	}
	return k
}

// saying is a rig that says of a box what is kept of it, and nothing else. Recipes that were not there when it was put
// by, programs and switches that have gone since, stay as they are. The rig is not changed.
func (r *Rig) saying(id ID, k *KeptBox) Rig {
	out := *r
	not := func(key Key) bool { return key.Gear() != id }
	of := func(destination, recipe ID) *KeptSettings {
		i := slices.IndexFunc(
			k.Settings, func(s KeptSettings) bool {
				return s.Destination == destination && s.Recipe == recipe && s.Guitar == ""
			},
		)
		if i < 0 {
			return nil
		}
		return &k.Settings[i]
	}
	base := func(destination ID, m map[Key]Value) map[Key]Value {
		values := map[Key]Value(nil)
		if s := of(destination, ""); s != nil {
			values = s.Values
		}
		return replaced(m, id, values)
	}
	recipes := func(destination ID, list []Recipe) []Recipe {
		list = slices.Clone(list)
		for i := range list {
			s, rec := of(destination, list[i].ID), &list[i]
			if s == nil {
				continue
			}
			rec.Values = replaced(rec.Values, id, s.Values)
			rec.Rockers, _ = parted(rec.Rockers, not)
			rec.Rockers = append(rec.Rockers, s.Rockers...)
			notes := maps.Clone(rec.Notes)
			maps.DeleteFunc(notes, func(key Key, _ string) bool { return !not(key) })
			if notes == nil && len(s.Notes) > 0 {
				notes = map[Key]string{}
			}
			maps.Copy(notes, s.Notes)
			if rec.Notes = notes; len(notes) == 0 {
				rec.Notes = nil
			}
		}
		return list
	}
	out.Base, out.Recipes = base("", r.Base), recipes("", r.Recipes)
	out.PerGuitar = k.perGuitar(r.PerGuitar, id)
	out.Destinations = slices.Clone(r.Destinations)
	for i := range out.Destinations {
		d := &out.Destinations[i]
		d.Base, d.Recipes = base(d.ID, d.Base), recipes(d.ID, d.Recipes)
	}
	out.Programs = k.inPrograms(r.Programs, id)
	out.OwnSwitches, _ = parted(r.OwnSwitches, not)
	out.OwnSwitches = append(out.OwnSwitches, k.OwnSwitches...)
	out.MIDI = append(slices.Clone(r.MIDI), k.MIDI...)
	out.Relays = append(slices.DeleteFunc(slices.Clone(r.Relays), func(l RelayLink) bool {
		return !not(l.Target) || slices.ContainsFunc(
			k.Relays, func(x RelayLink) bool { return x.Controller == l.Controller && x.Relay == l.Relay },
		)
	}), k.Relays...)
	out.Assignments = append(slices.DeleteFunc(slices.Clone(r.Assignments), func(a Assignment) bool {
		return slices.ContainsFunc(
			k.Assignments,
			func(b Assignment) bool { return a.Gear == b.Gear && a.Switch == b.Switch },
		)
	}), k.Assignments...)
	out.Floor.DoubleStomps = append(slices.Clone(r.Floor.DoubleStomps), k.DoubleStomps...)
	out.Leads = append(slices.Clone(r.Leads), k.Leads...)
	out.Batteries = append(slices.Clone(r.Batteries), k.Batteries...)
	out.Clocks = k.inClocks(r.Clocks)
	out.PowerPlan = k.inFeeds(r.PowerPlan, id)
	return out
}

// perGuitar are settings for guitars in which those of a box are as they were.
func (k *KeptBox) perGuitar(m map[ID]map[Key]Value, id ID) map[ID]map[Key]Value {
	out := map[ID]map[Key]Value{}
	for guitar, values := range m {
		if own := replaced(values, id, nil); len(own) > 0 {
			out[guitar] = own
		}
	}
	for _, s := range k.Settings {
		if s.Guitar != "" {
			out[s.Guitar] = replaced(out[s.Guitar], id, s.Values)
		}
	}
	if len(out) == 0 {
		return nil
	}
	return out
}

// replaced is settings with those of a box replaced.
func replaced(m map[Key]Value, id ID, values map[Key]Value) map[Key]Value {
	if m == nil && len(values) == 0 {
		return nil
	}
	out := make(map[Key]Value, len(m)+len(values))
	for key, x := range m {
		if key.Gear() != id {
			out[key] = x
		}
	}
	maps.Copy(out, values)
	return out
}

func (k *KeptBox) inPrograms(m ProgramMap, id ID) ProgramMap {
	out := ProgramMap{}
	for c, banks := range m {
		out[c] = map[string]map[string]Program{}
		for bank, slots := range banks {
			out[c][bank] = map[string]Program{}
			for slot, program := range slots {
				i := slices.IndexFunc(
					k.Programs,
					func(x KeptProgram) bool { return x.Controller == c && x.Bank == bank && x.Slot == slot },
				)
				values := map[Key]Value(nil)
				if i >= 0 {
					values = k.Programs[i].Values
				}
				program.Values = replaced(program.Values, id, values)
				out[c][bank][slot] = program
			}
		}
	}
	if m == nil {
		return nil
	}
	return out
}

func (k *KeptBox) inClocks(list []Clock) []Clock {
	out := slices.Clone(list)
	for _, c := range k.Clocks {
		i := slices.IndexFunc(out, func(x Clock) bool { return x.From == c.From })
		if i < 0 {
			out = append(out, c)
			continue
		}
		to := slices.Clone(out[i].To)
		for _, id := range c.To {
			if !slices.Contains(to, id) {
				to = append(to, id)
			}
		}
		out[i].To = to
	}
	return out
}

// inFeeds feeds a box as it was: from the output that it has, beside what is fed from it now.
func (k *KeptBox) inFeeds(list []PowerFeed, id ID) []PowerFeed {
	out := slices.Clone(list)
	for i := range out {
		out[i].Gear = slices.DeleteFunc(slices.Clone(out[i].Gear), func(x ID) bool { return x == id })
	}
	for _, f := range k.Feeds {
		i := slices.IndexFunc(out, func(x PowerFeed) bool { return x.Supply == f.Supply && x.Output == f.Output })
		if i < 0 {
			out = append(out, f)
			continue
		}
		out[i].Gear = append(out[i].Gear, f.Gear...)
	}
	return slices.DeleteFunc(out, func(f PowerFeed) bool { return len(f.Gear) == 0 })
}

// swapsAt are slots in which what is kept of boxes stands as it does at a destination.
func swapsAt(list []Swap, d *Destination) []Swap {
	list = slices.Clone(list)
	for i := range list {
		list[i].Boxes = slices.Clone(list[i].Boxes)
		for j := range list[i].Boxes {
			b := &list[i].Boxes[j]
			if b.Kept == nil {
				continue
			}
			kept := *b.Kept
			over, own := parted(kept.Settings, func(s KeptSettings) bool { return s.Destination == d.ID })
			own, _ = parted(own, func(s KeptSettings) bool { return s.Destination == "" })
			kept.Settings = slices.Clone(own)
			for _, s := range over {
				s.Destination = ""
				k := slices.IndexFunc(
					kept.Settings,
					func(x KeptSettings) bool { return x.Recipe == s.Recipe && x.Guitar == "" },
				)
				switch {
				case k < 0:
					kept.Settings = append(kept.Settings, s)
				case s.Recipe == "":
					values := maps.Clone(s.Values)
					for key, v := range kept.Settings[k].Values {
						if _, ok := values[key]; !ok {
							values[key] = v
						}
					}
					kept.Settings[k].Values = values
				default:
					kept.Settings[k] = s
				}
			}
			b.Kept = &kept
		}
	}
	return list
}
