package plan

import (
	"math"
	"slices"
)

// MIDIPort is how a piece of gear takes part on a MIDI line: the channel it listens on, 1 to
// 16, and what each message does to it. A controller sends; other gear sends where it says so.
type MIDIPort struct {
	Channel    int           `json:"channel" minimum:"1" maximum:"16"`
	Sends      bool          `json:"sends,omitempty" doc:"It sends program and control changes of its own, as every controller with a MIDI port does."`
	CountsFrom *int          `json:"counts_from,omitempty" minimum:"0" maximum:"1" doc:"What its display calls program change 0: 0 or 1; 1 when absent."`
	Map        []MIDIMessage `json:"map,omitempty" doc:"What its messages do. Without one, a preset is recalled by program change in the order of its presets, and everything else that can be moved from afar takes control changes numbered from 20."`
}

// MIDIMessage is one kind of message a device listens to and the control it moves: a program
// change where it has no control number, else a control change.
type MIDIMessage struct {
	Target  Key            `json:"target" doc:"Within the gear: block/on, block/control or control."`
	Control *int           `json:"control,omitempty" minimum:"0" maximum:"127" doc:"Number of the control change; absent for a program change."`
	Values  map[string]int `json:"values,omitempty" doc:"By option, or on and off: the program as sent, from 0, or the value of the control change. Absent: options in order from 0, 127 for on and 0 for off, and a knob over 0 to 127."`
}

// MIDILink says on which channel a controller sends to a device, where that is not simply the
// device's own.
type MIDILink struct {
	Controller ID  `json:"controller"`
	Gear       ID  `json:"gear"`
	Channel    int `json:"channel" minimum:"1" maximum:"16"`
}

// Relay is a switch contact of a controller, for the footswitch jack of something else.
type Relay struct {
	ID   ID     `json:"id"`
	Name string `json:"name,omitempty"`
}

// RelayLink is what a relay of a controller is plugged into: the control that it works.
type RelayLink struct {
	Controller ID  `json:"controller"`
	Relay      ID  `json:"relay"`
	Target     Key `json:"target" doc:"The control it works: gear/block/on, gear/block/control or gear/control."`
}

// SendsMIDI reports whether the gear sends program and control changes.
func (g *Gear) SendsMIDI() bool { return g.MIDI != nil && (g.Kind == Controller || g.MIDI.Sends) }

// firstControl is the number of the first control change a device without a map is taken to use.
const firstControl = 20

// Messages are the messages the gear listens to: those of its map, else the usual ones. The
// targets are whole keys.
func (g *Gear) Messages() []MIDIMessage {
	if g.MIDI == nil || g.Kind == Controller {
		return nil
	}
	if len(g.MIDI.Map) > 0 {
		list := slices.Clone(g.MIDI.Map)
		for i := range list {
			list[i].Target = Key(g.ID) + "/" + list[i].Target
		}
		return list
	}
	var list []MIDIMessage
	next := firstControl
	for _, v := range g.Variables() {
		if v.Access == SlowHand || v.Access == QuickHand || v.Access == Memory {
			continue
		}
		m := MIDIMessage{Target: v.Key}
		if v.Control == nil || v.Control.Kind != Preset {
			number := next
			m.Control = &number
			next++
		}
		list = append(list, m)
	}
	return list
}

// Message is the message that moves a variable of the gear, if one does.
func (g *Gear) Message(key Key) (MIDIMessage, bool) {
	for _, m := range g.Messages() {
		if m.Target == key {
			return m, true
		}
	}
	return MIDIMessage{}, false
}

// Number is what a message carries to set its variable to x: a program as sent, from 0, or the
// value of a control change. It is false where the message cannot say x.
func (m MIDIMessage) Number(v Variable, x Value) (int, bool) {
	word := x.String()
	if n, ok := m.Values[word]; ok {
		return n, true
	}
	switch {
	case x.Kind() == SwitchValue:
		if len(m.Values) > 0 {
			return 0, false
		}
		if x.IsOn() {
			return 127, true
		}
		return 0, true
	case v.Control == nil:
		return 0, false
	case v.Control.Kind == Knob:
		if x.Kind() != NumberValue {
			return 0, false
		}
		low, high := v.Control.Range()
		return int(math.Round(127 * (x.Float() - low) / (high - low))), true
	case len(m.Values) > 0:
		return 0, false
	}
	at := slices.Index(v.Control.Options, x.Word())
	return at, at >= 0 && at <= 127
}

// Reads is what the message sets its variable to when it carries a number: the inverse of
// [MIDIMessage.Number] as a device does it. It is false where the device does not react.
func (m MIDIMessage) Reads(v Variable, number int) (Value, bool) {
	for _, word := range SortedKeys(m.Values) {
		if m.Values[word] != number {
			continue
		}
		if v.IsOn() {
			return On(word == "on"), true
		}
		return Text(word), true
	}
	switch {
	case v.IsOn():
		return On(number >= 64), len(m.Values) == 0
	case v.Control.Kind == Knob:
		low, high := v.Control.Range()
		return Number(low + (high-low)*float64(number)/127), true
	case len(m.Values) > 0 || number >= len(v.Control.Options):
		return Value{}, false
	}
	return Text(v.Control.Options[number]), true
}

// Shown is the number a device's own display gives a program that is sent as n.
func (p *MIDIPort) Shown(n int) int {
	if p.CountsFrom != nil {
		return n + *p.CountsFrom
	}
	return n + 1
}

// SendsOn is the channel a controller sends on to a device of the rig: the link's where there
// is one, else the device's own.
func (r *Rig) SendsOn(controller ID, g *Gear) int {
	for _, l := range r.MIDI {
		if l.Controller == controller && l.Gear == g.ID {
			return l.Channel
		}
	}
	return g.MIDI.Channel
}

// Governs reports whether a program of a controller can move a variable in a rig: the on and
// off of what stands in its loops, its own controls, what its relays work, and what it has a
// message for. loops are those of the controller, as [Rig.LoopsOf] gives them.
func (p *Plan) Governs(r *Rig, controller ID, loops map[Key]int, x Variable) bool {
	if x.IsOn() && loops[BlockKey(x.Gear, x.Block)] > 0 {
		return true
	}
	if x.Gear == controller {
		return true
	}
	for _, l := range r.everyRelay() {
		if l.Controller == controller && l.Target == x.Key {
			return true
		}
	}
	c, ok := p.FindGear(controller)
	if !ok || !c.SendsMIDI() {
		return false
	}
	g, ok := p.FindGear(x.Gear)
	if !ok || g.MIDI == nil || r.SendsOn(controller, g) != g.MIDI.Channel {
		return false
	}
	_, moves := g.Message(x.Key)
	return moves
}

// everyRelay is what relays work wherever the rig plugs in.
func (r *Rig) everyRelay() []RelayLink {
	list := slices.Clone(r.Relays)
	for _, d := range r.Destinations {
		list = append(list, d.Relays...)
	}
	return list
}
