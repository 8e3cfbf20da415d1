package plan

// Setting is a rig as it is set for one moment: every variable's value, and the guitar.
type Setting struct {
	Values map[Key]Value
	Guitar ID
}

// At is the value of a variable.
func (s Setting) At(key Key) Value { return s.Values[key] }

// Works reports whether a variable does anything as the rig is set: all that it hangs on is as it has to be.
func (s Setting) Works(v Variable) bool {
	for _, c := range v.When {
		if !c.Holds(s.At(c.Key)) {
			return false
		}
	}
	return true
}

// SetFor is how a recipe sets a rig, at a tempo for what follows it: the base settings, what the
// recipe names over them, and what presets hold where the recipe does not insist. What the recipe
// leaves free stands at its base. Without a recipe it is the base.
func (p *Plan) SetFor(r *Rig, rec *Recipe, sound *Sound, tempo Tempo) Setting {
	s := Setting{Values: map[Key]Value{}, Guitar: guitarFor(r, rec, sound)}
	named := func(key Key) (Value, bool) {
		if rec == nil {
			return Value{}, false
		}
		own, ok := rec.Values[key]
		return own, ok && own.Kind() != FreeValue
	}
	gear := r.GearIn()
	for _, id := range gear {
		g, ok := p.FindGear(id)
		if !ok {
			continue
		}
		for _, v := range g.Variables() {
			x, ok := named(v.Key)
			if !ok {
				x = r.BaseValue(v)
			}
			s.Values[v.Key] = v.Control.Synced(x, tempo)
		}
	}
	// What a preset holds is what its controls are, unless the recipe insists.
	for _, id := range gear {
		g, ok := p.FindGear(id)
		if !ok {
			continue
		}
		preset, ok := g.PresetControl()
		if !ok {
			continue
		}
		shot := ""
		if x, ok := g.SnapshotControl(); ok {
			shot = s.Values[x.Key].Word()
		}
		for _, v := range g.Variables() {
			if _, insists := named(v.Key); insists || v.Access != Memory {
				continue
			}
			if held, ok := r.Remembered(id, s.Values[preset.Key].Word(), shot, v.Key); ok {
				s.Values[v.Key] = v.Control.Synced(held, tempo)
			}
		}
	}
	return s
}

// Synced is where a control stands for a note at a tempo: its time, its rate, or where the knob points that
// has that rate. It is no value where the control does not go there, and what is no note stays as it is.
func (c *Control) Synced(v Value, tempo Tempo) Value {
	if v.Kind() != SyncValue || tempo == (Tempo{}) {
		return v
	}
	ms, ok := tempo.Milliseconds(v.Word())
	if !ok {
		return Value{}
	}
	if c == nil || c.Unit == "ms" { // a time that is too long is said elsewhere
		return Number(ms)
	}
	if at, ok := c.PositionOf(ms); ok {
		return Number(at)
	}
	return Value{}
}

func guitarFor(r *Rig, rec *Recipe, sound *Sound) ID {
	var choices []ID
	if rec != nil {
		choices = append(choices, rec.Guitar)
	}
	if sound != nil {
		choices = append(choices, sound.Targets.Guitar)
	}
	for _, id := range append(choices, r.Guitars...) {
		if id != "" {
			return id
		}
	}
	return ""
}
