package plan

import (
	"maps"
	"slices"
)

// SwitchedAlike is a rig in which whatever switches one piece of gear switches another as well: assigned switches of
// other boxes, messages of controllers, and the programs that send them. It is for an amp that stands in the place of
// another somewhere, to which the same cables go. What the rig assigns to a switch of the one does the same on the other,
// where that has the switch. The rig is not changed. What relays work there is said by [Plan.RelaysAlike].
func (p *Plan) SwitchedAlike(r *Rig, was, is *Gear) Rig {
	x := &standingIn{was: was, is: is, blocks: map[Key]Key{}}
	x.match(r)
	x.option = x.options(r)
	next := *r
	for _, a := range r.Assignments {
		if a.Gear == was.ID {
			next.Assignments = x.ownSwitch(next.Assignments, a)
			continue
		}
		a.Press, a.Hold, a.Double = x.also(a.Press), x.also(a.Hold), x.also(a.Double)
		if a.Press != nil || a.Hold != nil || a.Double != nil {
			next.Assignments = bothPresses(next.Assignments, []Assignment{a})
		}
	}
	next.MIDI = slices.Clone(r.MIDI)
	for _, l := range r.MIDI {
		if l.Gear != was.ID || is.MIDI == nil {
			continue
		}
		next.MIDI = append(next.MIDI, MIDILink{Controller: l.Controller, Gear: is.ID, Channel: l.Channel})
	}
	next.Programs = maps.Clone(r.Programs)
	for controller, banks := range r.Programs {
		next.Programs[controller] = x.alsoIn(banks)
	}
	return next
}

// RelaysAlike are the relays of a rig that work one piece of gear, plugged into another where that has the same to work.
func (p *Plan) RelaysAlike(r *Rig, was, is *Gear) []RelayLink {
	x := &standingIn{was: was, is: is, blocks: map[Key]Key{}}
	x.match(r)
	var list []RelayLink
	for _, l := range r.Relays {
		if to, ok := x.switched(l.Target); ok {
			list = append(list, RelayLink{Controller: l.Controller, Relay: l.Relay, Target: to})
		}
	}
	return list
}

// ownSwitch are assignments with what a switch of the one does on the same switch of the other, where that has it and
// nothing is assigned to it yet. What is said of other gear stays.
func (x *standingIn) ownSwitch(list []Assignment, a Assignment) []Assignment {
	has := slices.ContainsFunc(x.is.Footswitches, func(s Footswitch) bool { return s.ID == a.Switch })
	taken := slices.ContainsFunc(list, func(b Assignment) bool { return b.Gear == x.is.ID && b.Switch == a.Switch })
	b := Assignment{
		Gear: x.is.ID, Switch: a.Switch, Press: x.instead(a.Press), Hold: x.instead(a.Hold), Double: x.instead(a.Double),
	}
	if !has || taken || b.Press == nil && b.Hold == nil && b.Double == nil {
		return list
	}
	return append(slices.Clone(list), b)
}

// instead is what a press does with the other box in the place of the one; nil where nothing is left of it.
func (x *standingIn) instead(p *Press) *Press {
	if p == nil {
		return nil
	}
	q := Press{Momentary: p.Momentary}
	for _, a := range p.Actions {
		if a.Target.Gear() != x.was.ID {
			q.Actions = append(q.Actions, a)
		} else if one := x.also(&Press{Actions: []Action{a}}); one != nil {
			q.Actions = append(q.Actions, one.Actions...)
		}
	}
	if len(q.Actions) == 0 {
		return nil
	}
	return &q
}

// switched is what a key of the one box is on the other; false for keys of other boxes, and where it has nothing of it.
func (x *standingIn) switched(k Key) (Key, bool) {
	switch {
	case k.Gear() != x.was.ID:
		return "", false
	case k == x.presetWas:
		return x.presetIs, true
	}
	return x.key(k)
}

// also is what a press that does something to the one box does to the other; nil where that is nothing.
func (x *standingIn) also(p *Press) *Press {
	if p == nil {
		return nil
	}
	q := Press{Momentary: p.Momentary}
	for _, a := range p.Actions {
		to, ok := x.switched(a.Target)
		if !ok {
			continue
		}
		if a.Value != nil && a.Target == x.presetWas {
			if name, ok := x.option[a.Value.Word()]; ok {
				v := Text(name)
				a.Value = &v
			}
		}
		a.Target = to
		q.Actions = append(q.Actions, a)
	}
	if len(q.Actions) == 0 {
		return nil
	}
	return &q
}

// alsoIn are programs that set the other box as they set the one.
func (x *standingIn) alsoIn(banks map[string]map[string]Program) map[string]map[string]Program {
	out := map[string]map[string]Program{}
	for bank, slots := range banks {
		out[bank] = map[string]Program{}
		for slot, program := range slots {
			if own := valuesOf(program.Values, x.was.ID); len(own) > 0 {
				program.Values = maps.Clone(program.Values)
				maps.Copy(program.Values, x.values(own))
			}
			out[bank][slot] = program
		}
	}
	return out
}
