package signal

import (
	"maps"
	"slices"

	"envex/core/plan"
)

// KnobOf is a knob that does something in a sound.
type KnobOf struct {
	Key    plan.Key    `json:"key"`
	Name   string      `json:"name"`
	At     float64     `json:"at" doc:"Where it stands."`
	Low    float64     `json:"low"`
	High   float64     `json:"high"`
	Access plan.Access `json:"access" doc:"How it is moved."`
	Guitar bool        `json:"guitar" doc:"It is on the guitar."`
	Preset string      `json:"preset,omitempty" doc:"The preset of its box that holds it."`
	Shared []plan.ID   `json:"shared" doc:"Other sounds that move with it, since no recipe says where it stands in them, or they recall the same preset."`
}

// Knobs are those that do something in a sound as a rig makes it: of the blocks that are on, in the order of the chain,
// after those of the guitar. Times and other figures with a unit are none. It fails when rig, sound or recipe are not
// there.
func Knobs(p *plan.Plan, rig, sound, recipe plan.ID) ([]KnobOf, error) {
	r, err := newRendering(p, rig, nil)
	if err != nil {
		return nil, err
	}
	m, err := r.madeBy(sound, recipe, plan.Tempo{})
	if err != nil {
		return nil, err
	}
	list := []KnobOf{}
	add := func(v plan.Variable) {
		x := m.setting.At(v.Key)
		if v.Control == nil || v.Control.Kind != plan.Knob || v.Control.Unit != "" || v.Control.Timed() ||
			x.Kind() != plan.NumberValue || !m.setting.Works(v) {
			return
		}
		low, high := v.Control.Range()
		k := KnobOf{
			Key: v.Key, Name: v.Label, At: x.Float(), Low: low, High: high, Access: v.Access, Guitar: v.Gear == m.setting.Guitar,
		}
		k.Preset, _ = r.presetOf(m, v)
		k.Shared = r.sharing(m, v, k.Preset)
		list = append(list, k)
	}
	if g, ok := p.FindGear(m.setting.Guitar); ok {
		for _, v := range g.Variables() {
			add(v)
		}
	}
	var on []plan.Key
	r.line(m.setting).each(func(x *stage) {
		if x.on {
			on = append(on, x.key)
		}
	})
	for _, key := range on {
		g, ok := p.FindGear(key.Gear())
		if !ok {
			continue
		}
		for _, v := range g.Variables() {
			if v.Block != "" && plan.BlockKey(g.ID, v.Block) == key {
				add(v)
			}
		}
	}
	return list, nil
}

// presetOf is the preset that holds a control in a sound; false where none does, or the recipe insists on its own.
func (r *rendering) presetOf(m made, v plan.Variable) (string, bool) {
	g, ok := r.plan.FindGear(v.Gear)
	if _, insists := m.recipe.Values[v.Key]; !ok || insists || v.Access != plan.Memory {
		return "", false
	}
	control, ok := g.PresetControl()
	if !ok {
		return "", false
	}
	name := m.setting.At(control.Key).Word()
	_, held := r.rig.Presets[g.ID][name][v.Key]
	return name, held
}

// sharing are the other sounds that move with a knob: none where the recipe of the sound says where it stands.
func (r *rendering) sharing(m made, v plan.Variable, preset string) []plan.ID {
	list := []plan.ID{}
	if _, own := m.recipe.Values[v.Key]; own {
		return list
	}
	for _, other := range r.recipes() {
		_, own := other.recipe.Values[v.Key]
		if held, ok := r.presetOf(other, v); own || ok != (preset != "") || held != preset {
			continue
		}
		if other.sound.ID != m.sound.ID && !slices.Contains(list, other.sound.ID) {
			list = append(list, other.sound.ID)
		}
	}
	return list
}

// Turned is a rig with a knob of a sound moved: in the preset that holds it, in the recipe where that names it or a hand
// moves it from sound to sound, else in the base settings that sounds share; at a destination where one is named, but
// for presets, which are the rig's. The rig is not changed.
func (k KnobOf) Turned(r *plan.Rig, destination plan.ID, rec plan.Recipe, to float64) plan.Rig {
	value := plan.Number(to)
	if k.Preset != "" {
		out := *r
		out.Presets = maps.Clone(r.Presets)
		box := k.Key.Gear()
		out.Presets[box] = maps.Clone(r.Presets[box])
		out.Presets[box][k.Preset] = maps.Clone(r.Presets[box][k.Preset])
		out.Presets[box][k.Preset][k.Key] = value
		return out
	}
	if _, named := rec.Values[k.Key]; !named && k.Access == plan.QuickHand {
		if rec.Values = maps.Clone(rec.Values); rec.Values == nil {
			rec.Values = map[plan.Key]plan.Value{}
		}
		rec.Values[k.Key] = value
	}
	return r.SetAt(destination, rec, map[plan.Key]plan.Value{k.Key: value})
}
