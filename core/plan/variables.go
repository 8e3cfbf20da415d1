package plan

import (
	"slices"
	"strings"
)

// Variable is anything of a piece of gear that can differ between two sounds.
type Variable struct {
	Key     Key
	Gear    ID
	Block   ID       // absent for a control of the whole thing
	Control *Control // nil for a block's on and off
	Label   string
	Access  Access
	Default Value
	When    []KeyCondition // all must hold, else the variable does nothing
}

// KeyCondition holds while the variable at Key has one of the values.
type KeyCondition struct {
	Key Key
	Is  []Value
}

// Holds reports whether v is one of the condition's values.
func (c KeyCondition) Holds(v Value) bool {
	for _, x := range c.Is {
		if x == v {
			return true
		}
	}
	return false
}

// IsOn reports whether the variable is a block's on and off.
func (v Variable) IsOn() bool { return v.Control == nil }

// Variables lists what can differ between two sounds in this gear, blocks in order, then
// the controls of the whole. A control of a block that can be off does nothing while it is.
func (g *Gear) Variables() []Variable {
	var list []Variable
	for i := range g.Blocks {
		b := &g.Blocks[i]
		name := g.StopName(b)
		var on []KeyCondition
		if b.Bypass != AlwaysOn {
			access := b.Access
			if access == "" {
				access = Foot
			}
			key := OnKey(g.ID, b.ID)
			list = append(list, Variable{Key: key, Gear: g.ID, Block: b.ID, Label: name, Access: access, Default: On(false)})
			on = []KeyCondition{{Key: key, Is: []Value{On(true)}}}
		}
		for j := range b.Controls {
			c := &b.Controls[j]
			v := Variable{
				Key: BlockKey(g.ID, b.ID) + "/" + Key(c.ID), Gear: g.ID, Block: b.ID, Control: c,
				Label: name + " " + c.Name, Access: c.Access, Default: c.Initial(), When: g.withCondition(on, c.When),
			}
			list = append(list, v)
		}
	}
	for j := range g.Controls {
		c := &g.Controls[j]
		list = append(list, Variable{
			Key: Key(string(g.ID) + "/" + string(c.ID)), Gear: g.ID, Control: c,
			Label: g.Name + " " + c.Name, Access: c.Access, Default: c.Initial(), When: g.withCondition(nil, c.When),
		})
	}
	return list
}

func (g *Gear) withCondition(have []KeyCondition, when *Condition) []KeyCondition {
	if when == nil {
		return have
	}
	all := append([]KeyCondition(nil), have...)
	return append(all, KeyCondition{Key: Key(string(g.ID) + "/" + when.Variable), Is: when.Is})
}

// PresetControl is the control whose positions are the gear's memories, if it has one.
func (g *Gear) PresetControl() (Variable, bool) { return g.controlOf(Preset) }

// SnapshotControl is the control whose positions are memories within a preset, if it has one.
func (g *Gear) SnapshotControl() (Variable, bool) { return g.controlOf(Snapshot) }

func (g *Gear) controlOf(kind ControlKind) (Variable, bool) {
	if v := ofKind(g.Variables(), kind); v != nil {
		return *v, true
	}
	return Variable{}, false
}

func ofKind(list []Variable, kind ControlKind) *Variable {
	for i, v := range list {
		if v.Control != nil && v.Control.Kind == kind {
			return &list[i]
		}
	}
	return nil
}

// Remembered is what a gear's memory holds of a variable when it stands on a preset and, where
// the gear has them, on a snapshot within it; false where neither says.
func (r *Rig) Remembered(gear ID, preset, snapshot string, key Key) (Value, bool) {
	if x, ok := r.Snapshots[gear][preset][snapshot][key]; ok && x.Kind() != UnchangedValue {
		return x, true
	}
	x, ok := r.Presets[gear][preset][key]
	return x, ok && x.Kind() != UnchangedValue
}

// GearIn lists the gear a rig puts on the floor and in the chain, each once: its guitars,
// then its path in signal order, then its loop switchers, and the
// controllers whose switches are assigned, that are wired to something, or that hold programs.
func (r *Rig) GearIn() []ID {
	var ids []ID
	seen := map[ID]bool{}
	add := func(id ID) {
		if id != "" && !seen[id] {
			seen[id] = true
			ids = append(ids, id)
		}
	}
	for _, id := range r.Guitars {
		add(id)
	}
	for _, k := range r.Stops() {
		add(k.Gear())
	}
	walkNodes(r.Path, func(n *Node) {
		add(n.Switcher)
		if n.Split != nil {
			add(n.Split.Choice.Gear())
		}
	})
	for _, a := range r.Assignments {
		// What switches of an amp do that stands somewhere else does not bring it here.
		if !slices.ContainsFunc(r.Destinations, func(d Destination) bool { return d.Amp == a.Gear }) {
			add(a.Gear)
		}
	}
	for _, l := range r.Relays {
		add(l.Controller)
	}
	for _, l := range r.MIDI {
		add(l.Controller)
	}
	for _, id := range SortedKeys(r.Programs) {
		add(id)
	}
	return ids
}

// SwitchDoes is what a footswitch does in this rig: the rig's assignment where there is
// one, else what the gear says with its targets made whole.
func (r *Rig) SwitchDoes(g *Gear, s *Footswitch) (press, hold, double *Press) {
	for i := range r.Assignments {
		if a := &r.Assignments[i]; a.Gear == g.ID && a.Switch == s.ID {
			return a.Press, a.Hold, a.Double
		}
	}
	return wholePress(g.ID, s.Press), wholePress(g.ID, s.Hold), wholePress(g.ID, s.Double)
}

func wholePress(gear ID, p *Press) *Press {
	if p == nil {
		return nil
	}
	whole := Press{Momentary: p.Momentary, Actions: make([]Action, len(p.Actions))}
	for i, a := range p.Actions {
		if a.Target != "" {
			a.Target = Key(gear) + "/" + a.Target
		}
		whole.Actions[i] = a
	}
	return &whole
}

// BaseValue is what a variable stands at in this rig where no recipe names it: the base
// setting, else the control's own default.
func (r *Rig) BaseValue(v Variable) Value {
	if x, ok := r.Base[v.Key]; ok && !x.IsZero() {
		return x
	}
	return v.Default
}

// BaseFor is what a variable stands at while a guitar is played, where no recipe names it.
func (r *Rig) BaseFor(v Variable, guitar ID) Value {
	if x, ok := r.PerGuitar[guitar][v.Key]; ok && !x.IsZero() {
		return x
	}
	return r.BaseValue(v)
}

// PresetName is what a preset is called in words: its own name, and the player's beside it; "" for what is no
// preset, or has no name of the player's.
func (r *Rig) PresetName(v Variable, value Value) string {
	if v.Control == nil || v.Control.Kind != Preset || value.Kind() != TextValue {
		return ""
	}
	if name := r.PresetNames[v.Key.Gear()][value.Word()]; name != "" {
		return value.Word() + ", " + name
	}
	return ""
}

// Lacks are the blocks that a recipe turns on and that are not in the chain.
func (r *Rig) Lacks(rec *Recipe) []Key {
	var list []Key
	stops := r.Stops()
	for _, key := range SortedKeys(rec.Values) {
		block, ok := strings.CutSuffix(string(key), "/on")
		if ok && strings.Contains(block, "/") && rec.Values[key].IsOn() && !slices.Contains(stops, Key(block)) {
			list = append(list, Key(block))
		}
	}
	return list
}

// RecipeFor is the recipe a section uses: the one it names, else the rig's first for the
// sound. It is nil when the rig has none.
func (r *Rig) RecipeFor(s Section) *Recipe {
	var first *Recipe
	for i := range r.Recipes {
		rec := &r.Recipes[i]
		if rec.Sound != s.Sound {
			continue
		}
		if s.Recipe != "" && rec.ID == s.Recipe {
			return rec
		}
		if first == nil {
			first = rec
		}
	}
	return first
}
