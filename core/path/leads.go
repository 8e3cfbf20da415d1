package path

import (
	"math"
	"slices"

	"envex/core/plan"
)

// The kinds of lead that carry no sound.
const (
	MIDILead   = "midi"
	RemoteLead = "remote" // from a footswitch to what it works in another box, a tap tempo among them
	RelayLead  = "relay"  // from a relay to a footswitch jack
	ClockLead  = "clock"
	PowerLead  = "power"
)

// ControlLead is a cable that carries no sound.
type ControlLead struct {
	Kind    string  `json:"kind" enum:"midi,remote,relay,clock,power"`
	From    End     `json:"from"`
	To      End     `json:"to"`
	LengthM float64 `json:"length_m"`
	Assumed bool    `json:"assumed,omitempty" doc:"The length is the usual one, because where the ends are is not known."`
	Split   bool    `json:"split,omitempty" doc:"It shares a jack with another by a lead with several plugs."`
}

// controlLeads are the leads of a rig that carry no sound: MIDI from device to device in the order of the
// rig, footswitches that work another box, relays, clocks, and power.
func (w *wiring) controlLeads() {
	r := w.judge.rig
	for _, id := range r.GearIn() {
		if g, ok := w.plan.FindGear(id); ok {
			w.midiFrom(g)
			w.remotesFrom(g)
		}
	}
	for _, l := range r.Relays {
		c, ok := w.plan.FindGear(l.Controller)
		if !ok {
			continue
		}
		name := string(l.Relay)
		for _, x := range c.Relays {
			if x.ID == l.Relay && x.Name != "" {
				name = x.Name
			}
		}
		w.lead(RelayLead, end{gear: c, jack: name}, l.Target.Gear(), "footswitch jack")
	}
	for _, c := range r.Clocks {
		if from, ok := w.plan.FindGear(c.From); ok {
			for _, id := range c.To {
				w.lead(ClockLead, end{gear: from, jack: "clock out"}, id, "clock in")
			}
		}
	}
	for _, f := range r.PowerPlan {
		w.powerFrom(f)
	}
}

// midiFrom chains the devices that a controller sends to: out of each into the next.
func (w *wiring) midiFrom(c *plan.Gear) {
	if !c.SendsMIDI() {
		return
	}
	at := end{gear: c, jack: "MIDI out"}
	for _, id := range w.judge.rig.GearIn() {
		g, ok := w.plan.FindGear(id)
		if !ok || g.ID == c.ID || g.MIDI == nil || !w.sentTo(c, g) {
			continue
		}
		w.lead(MIDILead, at, g.ID, "MIDI in")
		at = end{gear: g, jack: "MIDI thru"}
	}
}

// sentTo reports whether a controller has anything to send to a device: a channel that the rig says, a
// setting in a program, or a footswitch of its own.
func (w *wiring) sentTo(c, g *plan.Gear) bool {
	r := w.judge.rig
	if slices.ContainsFunc(r.MIDI, func(l plan.MIDILink) bool { return l.Controller == c.ID && l.Gear == g.ID }) {
		return true
	}
	moves := func(key plan.Key) bool {
		_, ok := g.Message(key)
		return ok && key.Gear() == g.ID
	}
	for _, slots := range r.Programs[c.ID] {
		for _, program := range slots {
			for key := range program.Values {
				if moves(key) {
					return true
				}
			}
		}
	}
	return slices.ContainsFunc(w.pressedFrom(c), moves)
}

// pressedFrom are the controls that footswitches of a piece of gear work in this rig.
func (w *wiring) pressedFrom(g *plan.Gear) []plan.Key {
	var list []plan.Key
	for i := range g.Footswitches {
		press, hold, double := w.judge.rig.SwitchDoes(g, &g.Footswitches[i])
		for _, x := range []*plan.Press{press, hold, double} {
			if x == nil {
				continue
			}
			for _, a := range x.Actions {
				if a.Target != "" && !slices.Contains(list, a.Target) {
					list = append(list, a.Target)
				}
			}
		}
	}
	return list
}

// remotesFrom are the leads from the footswitches of a box to the boxes they work, where neither a loop, a
// relay nor MIDI does it; and that of an amp's own footswitch.
func (w *wiring) remotesFrom(g *plan.Gear) {
	r := w.judge.rig
	if g.Kind == plan.Amp && g.FloorUnit != nil && len(g.Footswitches) > 0 {
		w.lead(RemoteLead, end{gear: g, jack: "footswitch"}, g.ID, "footswitch jack")
	}
	loops := r.SwitchedLoops(g.ID)
	var to []plan.ID
	for _, key := range w.pressedFrom(g) {
		other, ok := w.plan.FindGear(key.Gear())
		if !ok || other.ID == g.ID || slices.Contains(to, other.ID) || loops[blockOf(key)] > 0 {
			continue
		}
		if _, moves := other.Message(key); moves && g.SendsMIDI() {
			continue
		}
		if slices.ContainsFunc(r.Relays, func(l plan.RelayLink) bool { return l.Controller == g.ID && l.Target == key }) {
			continue
		}
		to = append(to, other.ID)
	}
	for _, id := range to {
		w.lead(RemoteLead, end{gear: g, jack: "remote"}, id, "remote")
	}
}

// blockOf is the block that a variable belongs to.
func blockOf(key plan.Key) plan.Key {
	gear, rest := key.Gear(), key.Rest()
	for i := range rest {
		if rest[i] == '/' {
			return plan.BlockKey(gear, plan.ID(rest[:i]))
		}
	}
	return key
}

func (w *wiring) powerFrom(f plan.PowerFeed) {
	s, ok := w.plan.FindGear(f.Supply)
	if !ok {
		return
	}
	outs := []plan.ID{f.Output}
	if f.Second != "" {
		outs = append(outs, f.Second)
	}
	for _, out := range outs {
		name := "output " + string(out)
		if o, ok := s.Supply.FindOutput(out); ok && o.Name != "" {
			name = o.Name
		}
		for _, id := range f.Gear {
			w.lead(PowerLead, end{gear: s, jack: name}, id, "power")
		}
	}
}

// lead adds one; several out of one jack are one lead with several plugs.
func (w *wiring) lead(kind string, from end, to plan.ID, jack string) {
	g, ok := w.plan.FindGear(to)
	if !ok {
		return
	}
	x := ControlLead{Kind: kind, From: endOf(from), To: endOf(end{gear: g, jack: jack}), LengthM: shortRunM, Assumed: true}
	ax, ay, placed := w.place(from)
	bx, by, placed2 := w.place(end{gear: g})
	switch {
	case g.Kind == plan.Amp || from.gear.Kind == plan.Amp:
		x.LengthM = longRunM
	case placed && placed2:
		x.LengthM, x.Assumed = cut(math.Abs(ax-bx)+math.Abs(ay-by)), false
	}
	for i := range w.out.Control {
		if y := &w.out.Control[i]; y.Kind == kind && y.From.Gear == x.From.Gear && y.From.Jack == x.From.Jack {
			y.Split, x.Split = true, true
		}
	}
	w.out.Control = append(w.out.Control, x)
}
