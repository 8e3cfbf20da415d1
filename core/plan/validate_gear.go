package plan

import (
	"slices"
	"strings"
)

func (v *validator) gear(path string, g *Gear) {
	v.name(dot(path, "name"), g.Name)
	localIDs(v, dot(path, "blocks"), g.Blocks, func(b Block) ID { return b.ID })
	localIDs(v, dot(path, "footswitches"), g.Footswitches, func(s Footswitch) ID { return s.ID })
	localIDs(v, dot(path, "jacks"), g.Jacks, func(j Jack) ID { return j.ID })
	localIDs(v, dot(path, "pickups"), g.Pickups, func(p Pickup) ID { return p.ID })
	for i := range g.Blocks {
		bp := at(dot(path, "blocks"), i)
		v.name(dot(bp, "name"), g.Blocks[i].Name)
		v.controls(dot(bp, "controls"), g, g.Blocks[i].Controls)
	}
	v.controls(dot(path, "controls"), g, g.Controls)
	for i, c := range g.Controls {
		if _, clash := g.FindBlock(c.ID); clash {
			v.problems.add(dot(at(dot(path, "controls"), i), "id"), "a block has the id %q already", c.ID)
		}
	}
	if g.Kind == Amp {
		v.ampSections(path, g)
	} else {
		if g.Loop != nil {
			v.problems.add(dot(path, "loop"), "only an amp has an effects loop")
		}
		if g.SpeakerOut != nil {
			v.problems.add(dot(path, "speaker_out"), "only an amp has a speaker output")
		}
	}
	if g.SpeakerOut != nil {
		for i, ohm := range g.SpeakerOut.Ohms {
			if !(ohm > 0 && ohm <= 100) {
				v.problems.add(at(dot(path, "speaker_out.ohms"), i), "%v ohm is no speaker; more than 0 and at most 100 is", ohm)
			}
		}
	}
	v.boardSpec(path, g)
	for i, j := range g.Jacks {
		v.along(dot(at(dot(path, "jacks"), i), "at_mm"), g, j.Side, j.At)
		if j.Block == "" {
			continue
		}
		if _, ok := g.FindBlock(j.Block); !ok {
			v.problems.add(dot(at(dot(path, "jacks"), i), "block"), "%s has no block %q", g.Name, j.Block)
		}
	}
	if g.Power != nil {
		v.along(dot(dot(path, "power"), "at_mm"), g, g.Power.Side, g.Power.At)
	}
	if g.Switcher != nil && (len(g.Switcher.Loops) == 0 || len(g.Switcher.Loops) > 64) {
		v.problems.add(dot(path, "switcher.loops"), "a switcher has 1 to 64 loops, not %d", len(g.Switcher.Loops))
	}
	localIDs(v, dot(path, "relays"), g.Relays, func(r Relay) ID { return r.ID })
	if len(g.Relays) > 0 && g.Kind != Controller {
		v.problems.add(dot(path, "relays"), "only a controller has relays")
	}
	v.circuit(path, g)
	if g.MIDI != nil {
		v.midi(dot(path, "midi"), g)
	}
	for i := range g.Footswitches {
		s := &g.Footswitches[i]
		sp := at(dot(path, "footswitches"), i)
		v.name(dot(sp, "label"), s.Label)
		for name, press := range map[string]*Press{"press": s.Press, "hold": s.Hold, "double": s.Double} {
			v.press(dot(sp, name), wholePress(g.ID, press))
		}
	}
}

// midi checks what the messages of a device do.
func (v *validator) midi(path string, g *Gear) {
	for i, m := range g.MIDI.Map {
		mp := at(dot(path, "map"), i)
		target, ok := v.variables[Key(g.ID)+"/"+m.Target]
		if !ok {
			v.problems.add(dot(mp, "target"), "there is no control %q in %s", m.Target, g.Name)
			continue
		}
		for _, other := range g.MIDI.Map[:i] {
			if other.Target == m.Target {
				v.problems.add(dot(mp, "target"), "two messages move %s", target.Label)
			}
			if (other.Control == nil) == (m.Control == nil) && (m.Control == nil || *m.Control == *other.Control) {
				v.problems.add(dot(mp, "control"), "this message moves something else already")
			}
		}
		if m.Control == nil && (target.IsOn() || target.Control.Kind == Knob) {
			v.problems.add(dot(mp, "control"), "%s takes a control change: give its number", target.Label)
		}
		for _, word := range SortedKeys(m.Values) {
			n := m.Values[word]
			if n < 0 || n > 127 {
				v.problems.add(in(dot(mp, "values"), word), "%d is outside 0 to 127", n)
			}
			fits := word == "on" || word == "off"
			if !target.IsOn() {
				fits = slices.Contains(target.Control.Options, word)
			}
			if !fits {
				v.problems.add(in(dot(mp, "values"), word), "%s has no option %q", target.Label, word)
			}
		}
	}
}

// ampSections checks that an amp has one preamp and one power section.
func (v *validator) ampSections(path string, g *Gear) {
	count := map[Effect]int{}
	for _, b := range g.Blocks {
		count[b.Effect]++
	}
	for _, e := range []Effect{EffectPreamp, EffectPower} {
		if count[e] != 1 {
			v.problems.add(dot(path, "blocks"), "an amp has one %s block; this one has %d", e, count[e])
		}
	}
}

func (v *validator) controls(path string, g *Gear, list []Control) {
	localIDs(v, path, list, func(c Control) ID { return c.ID })
	for i := range list {
		c := &list[i]
		cp := at(path, i)
		v.name(dot(cp, "name"), c.Name)
		if c.ID == "on" {
			v.problems.add(dot(cp, "id"), `"on" is kept for a block's own on and off`)
		}
		if c.Kind == Knob {
			if low, high := c.Range(); !(low < high) {
				v.problems.add(dot(cp, "max"), "the greatest position must be above the least")
			}
			v.measured(dot(cp, "measured"), c)
		} else {
			v.options(dot(cp, "options"), c.Options)
		}
		if c.Default != nil {
			v.setting(dot(cp, "default"), *c.Default, Variable{Control: c, Label: c.Name}, literal)
		}
		if c.When != nil {
			key := Key(string(g.ID) + "/" + c.When.Variable)
			on, ok := v.variables[key]
			if !ok {
				v.problems.add(dot(cp, "when.variable"), "there is no control %q in %s", c.When.Variable, g.Name)
			}
			if len(c.When.Is) == 0 {
				v.problems.add(dot(cp, "when.is"), "a condition needs at least one value")
			}
			for j, x := range c.When.Is {
				if ok {
					v.setting(at(dot(cp, "when.is"), j), x, on, literal)
				}
			}
		}
	}
}

// measured checks what was measured of a rate knob.
func (v *validator) measured(path string, c *Control) {
	low, high := c.Range()
	if len(c.Measured) > 0 && c.Unit != "" {
		v.problems.add(path, "a knob in %s needs no measuring", c.Unit)
	}
	if len(c.Measured) == 1 || len(c.Measured) > 16 {
		v.problems.add(path, "a rate is measured at 2 to 16 positions, not %d", len(c.Measured))
	}
	for i, m := range c.Measured {
		mp := at(path, i)
		if !(m.At >= low && m.At <= high) {
			v.problems.add(dot(mp, "at"), "%g is outside %g to %g", m.At, low, high)
		}
		if i == 0 {
			continue
		}
		last := c.Measured[i-1]
		if !(m.At > last.At) {
			v.problems.add(dot(mp, "at"), "positions go up; %g follows %g", m.At, last.At)
		}
		if rising := c.Measured[1].Hz > c.Measured[0].Hz; m.Hz == last.Hz || (m.Hz > last.Hz) != rising {
			v.problems.add(dot(mp, "hz"), "a rate goes one way with its knob; %g follows %g", m.Hz, last.Hz)
		}
	}
}

func (v *validator) options(path string, options []string) {
	if len(options) < 2 {
		v.problems.add(path, "a selector or preset needs two options or more")
	}
	for i, o := range options {
		if strings.TrimSpace(o) == "" || len(o) > MaxName {
			v.problems.add(at(path, i), "an option needs a name of %d characters or less", MaxName)
		}
		if slices.Index(options, o) < i {
			v.problems.add(at(path, i), "the option %q is listed twice", o)
		}
	}
}

// press checks what a press does; its targets are whole keys.
func (v *validator) press(path string, p *Press) {
	if p == nil {
		return
	}
	if len(p.Actions) == 0 {
		v.problems.add(dot(path, "actions"), "a press needs something to do")
	}
	for i, a := range p.Actions {
		v.action(at(dot(path, "actions"), i), a)
	}
}

func (v *validator) action(path string, a Action) {
	switch a.Kind {
	case Recall:
		if _, _, ok := a.Slot(); !ok {
			v.problems.add(dot(path, "value"), `recall needs a slot, such as "3", or a bank and a slot, such as "B/3"`)
		}
		return
	case Bank:
		if a.Value != nil && (a.Value.Kind() != TextValue || a.Value.Word() == "") {
			v.problems.add(dot(path, "value"), `a bank is named in words, such as "B"`)
		}
		return
	case Mute:
		return
	}
	target, ok := v.variables[a.Target]
	if !ok {
		v.problems.add(dot(path, "target"), "there is no control %q to %s", a.Target, a.Kind)
		return
	}
	switch a.Kind {
	case Toggle:
		if !target.IsOn() {
			v.problems.add(dot(path, "target"), "%s cannot be toggled; a block's on can", target.Label)
		}
	case Set:
		if a.Value == nil {
			v.problems.add(dot(path, "value"), "set needs a value")
			return
		}
		v.setting(dot(path, "value"), *a.Value, target, literal)
	case Step:
		if target.IsOn() || target.Control.Kind == Knob {
			v.problems.add(dot(path, "target"), "%s has no options to step through", target.Label)
		}
	case Tap:
		if target.IsOn() || target.Control.Kind != Knob {
			v.problems.add(dot(path, "target"), "%s is no time that can be tapped", target.Label)
		}
	}
}

// settingUse says which forms of value are welcome where.
type settingUse int

const (
	literal    settingUse = iota // a position
	resolvable                   // or a length of note
	inRecipe                     // or free
	inPreset                     // or unchanged
)

// setting checks one value against the variable it is for.
func (v *validator) setting(path string, x Value, target Variable, use settingUse) {
	switch x.Kind() {
	case FreeValue:
		if use != inRecipe {
			v.problems.add(path, "only a recipe can leave a setting free")
		}
		return
	case UnchangedValue:
		if use != inPreset {
			v.problems.add(path, "only a preset or a program can leave a setting unchanged")
		}
		return
	case NoValue:
		v.problems.add(path, "a value is needed")
		return
	case SyncValue:
		v.note(path, x.Word())
		if use == literal || target.IsOn() || target.Control.Kind != Knob {
			v.problems.add(path, "%s cannot follow the tempo", target.Label)
		}
		return
	}
	switch {
	case target.IsOn():
		if x.Kind() != SwitchValue {
			v.problems.add(path, "%s is on or off, not %s", target.Label, x)
		}
	case target.Control.Kind == Knob:
		low, high := target.Control.Range()
		if x.Kind() != NumberValue {
			v.problems.add(path, "%s is a number, not %s", target.Label, x)
		} else if !(x.Float() >= low && x.Float() <= high) {
			v.problems.add(path, "%s goes from %s to %s: %s is outside", target.Label, Number(low), Number(high), x)
		}
	default:
		if x.Kind() != TextValue || !slices.Contains(target.Control.Options, x.Word()) {
			v.problems.add(
				path, "%s has no option %q; it has %s", target.Label, x.String(), strings.Join(target.Control.Options, ", "),
			)
		}
	}
}
