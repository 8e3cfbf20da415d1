package plan

// Setting is a rig as it is set for one moment: every variable's value, and the guitar with how its
// strings are tuned.
type Setting struct {
	Values map[Key]Value
	Guitar ID
	Tuned  Strings
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

// Settings are the variables of a rig, read once for the settings of many recipes.
type Settings struct {
	rig  *Rig
	gear []ofGear
}

// ofGear are the variables of one piece of gear, and where it stands on its memories.
type ofGear struct {
	id        ID
	variables []Variable
	preset    *Variable
	snapshot  *Variable
}

// SettingsOf reads the variables of a rig. What is written to the plan afterwards is not seen.
func (p *Plan) SettingsOf(r *Rig) *Settings {
	s := &Settings{rig: r}
	for _, id := range r.GearIn() {
		g, ok := p.FindGear(id)
		if !ok {
			continue
		}
		one := ofGear{id: id, variables: g.Variables()}
		one.preset, one.snapshot = ofKind(one.variables, Preset), ofKind(one.variables, Snapshot)
		s.gear = append(s.gear, one)
	}
	return s
}

// SetFor is how a recipe sets a rig; see [Settings.For], which is quicker for many recipes.
func (p *Plan) SetFor(r *Rig, rec *Recipe, sound *Sound, tempo Tempo) Setting {
	return p.SettingsOf(r).For(rec, sound, tempo)
}

// For is how a recipe sets the rig, at a tempo for what follows it: the base settings, those of the guitar over
// them, what the recipe names over these, and what presets hold where the recipe does not insist. What the recipe
// leaves free stands at its base. Without a recipe it is the base.
func (s *Settings) For(rec *Recipe, sound *Sound, tempo Tempo) Setting {
	set := Setting{Values: map[Key]Value{}, Guitar: guitarFor(s.rig, rec, sound)}
	named := func(key Key) (Value, bool) {
		if rec == nil {
			return Value{}, false
		}
		own, ok := rec.Values[key]
		return own, ok && own.Kind() != FreeValue
	}
	for _, g := range s.gear {
		for _, v := range g.variables {
			x, ok := named(v.Key)
			if !ok {
				x = s.rig.BaseFor(v, set.Guitar)
			}
			set.Values[v.Key] = v.Control.Synced(x, tempo)
		}
	}
	// What a preset holds is what its controls are, unless the recipe insists.
	for _, g := range s.gear {
		if g.preset == nil {
			continue
		}
		shot := ""
		if g.snapshot != nil {
			shot = set.Values[g.snapshot.Key].Word()
		}
		for _, v := range g.variables {
			if _, insists := named(v.Key); insists || v.Access != Memory {
				continue
			}
			if held, ok := s.rig.Remembered(g.id, set.Values[g.preset.Key].Word(), shot, v.Key); ok {
				set.Values[v.Key] = v.Control.Synced(held, tempo)
			}
		}
	}
	return set
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
