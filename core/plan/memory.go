package plan

import (
	"maps"
	"slices"
)

// memoryOf is where a piece of gear remembers settings: its presets and, within them, its snapshots.
type memoryOf struct {
	variables        []Variable
	preset, snapshot *Variable
}

func memory(g *Gear) memoryOf {
	m := memoryOf{variables: g.Variables()}
	m.preset, m.snapshot = ofKind(m.variables, Preset), ofKind(m.variables, Snapshot)
	return m
}

// holds are the controls that presets set.
func (m memoryOf) holds() []Variable {
	return slices.DeleteFunc(slices.Clone(m.variables), func(v Variable) bool { return v.Access != Memory })
}

// options are which preset of the one box each preset of the other becomes, by its place among them; none where either
// has none, where the one has fewer than are in use, or where snapshots say more than a preset can.
func (x *standingIn) options(r *Rig) map[string]string {
	a, b := memory(x.was), memory(x.is)
	if a.preset == nil || b.preset == nil || a.snapshot != nil {
		return nil
	}
	list := map[string]string{}
	for i, name := range a.preset.Control.Options {
		if i < len(b.preset.Control.Options) {
			list[name] = b.preset.Control.Options[i]
		} else if r.Presets[x.was.ID][name] != nil {
			return nil
		}
	}
	x.presetWas, x.presetIs = a.preset.Key, b.preset.Key
	return list
}

// presets are some that stay, and those of the box that takes the place, with what the same presets of the other held.
func (x *standingIn) presets(r *Rig, stay PresetMap) PresetMap {
	if len(x.option) == 0 || len(r.Presets[x.was.ID]) == 0 {
		return stay
	}
	list := maps.Clone(stay)
	held := map[string]map[Key]Value{}
	for name, values := range r.Presets[x.was.ID] {
		values = x.values(values)
		maps.DeleteFunc(values, func(k Key, _ Value) bool { return !x.remembers(k) })
		if to, ok := x.option[name]; ok {
			held[to] = values
		}
	}
	list[x.is.ID] = held
	return list
}

// remembers reports whether presets of the box that takes the place set a control.
func (x *standingIn) remembers(k Key) bool {
	return slices.ContainsFunc(memory(x.is).holds(), func(v Variable) bool { return v.Key == k })
}

// asked is a rig that asks in its recipes, at destinations too, what presets of the box held for them.
func (x *standingIn) asked(p *Plan, r *Rig) *Rig {
	of := func(at *Rig, list []Recipe) []Recipe {
		settings := p.SettingsOf(at)
		return x.written(list, func(rec *Recipe) Setting { return settings.For(rec, nil, Tempo{}) })
	}
	next := *r
	next.Recipes = of(r, r.Recipes)
	next.Destinations = slices.Clone(r.Destinations)
	for i := range next.Destinations {
		d := &next.Destinations[i]
		if len(d.Recipes) == 0 {
			continue
		}
		there := *r
		there.Base = maps.Clone(r.Base)
		if there.Base == nil {
			there.Base = map[Key]Value{}
		}
		maps.Copy(there.Base, d.Base)
		d.Recipes = of(&there, d.Recipes)
	}
	return &next
}

// written are recipes with what the presets of the box held for them, where the box that takes its place does not
// remember it itself. What a block is set to that is off in a recipe is not asked there. Set are the settings of a
// recipe.
func (x *standingIn) written(list []Recipe, set func(*Recipe) Setting) []Recipe {
	m := memory(x.was)
	if m.preset == nil {
		return list
	}
	list = slices.Clone(list)
	for i := range list {
		rec := &list[i]
		at := set(rec)
		values := maps.Clone(rec.Values)
		for _, v := range m.holds() {
			if own, named := rec.Values[v.Key]; named && own.Kind() != FreeValue || !x.asks(v, at) {
				continue
			}
			to, ok := x.key(v.Key)
			if !ok || len(x.option) > 0 && x.remembers(to) {
				continue
			}
			if values == nil {
				values = map[Key]Value{}
			}
			values[v.Key] = at.At(v.Key)
		}
		rec.Values = values
	}
	return list
}

// asks reports whether a control does something in a setting: the switch of a block always, the rest where it is on.
func (x *standingIn) asks(v Variable, at Setting) bool {
	b, ok := x.was.FindBlock(v.Block)
	return !ok || v.Control == nil || b.Bypass == AlwaysOn || at.At(BlockKey(x.was.ID, b.ID)+"/on").IsOn()
}
