// Package catalog is the generic kinds of gear a player can start from. Each kind is a
// template: a full, valid piece of gear with the controls, switches, bypass and power that
// boxes of its kind commonly have, to be named and corrected by whoever owns the real one.
package catalog

import (
	"fmt"
	"slices"
	"strings"

	"envex/core/plan"
)

// Kind is a generic kind of gear.
type Kind struct {
	ID          string    `json:"id"`
	Name        string    `json:"name"`
	Family      string    `json:"family" doc:"Heading it is listed under."`
	Description string    `json:"description" doc:"One line on what it is for."`
	Gear        plan.Gear `json:"gear" doc:"The template, without an id."`
	Also        []string  `json:"also" doc:"What else it is called."`
}

// All lists every kind, in the order a player would look for it.
func All() []Kind {
	var kinds []Kind
	for _, group := range []func() []Kind{
		guitars, furtherGuitars, utilities, furtherUtilities, gain, furtherGain, modulation, furtherModulation, timeEffects,
		several, furtherTime,
		amps, furtherAmps, routing, furtherRouting, controllers, switchers, rest, furtherRest,
	} {
		for _, k := range group() {
			k.Also = append([]string{}, also[k.ID]...)
			kinds = append(kinds, withCircuits(k))
		}
	}
	return kinds
}

// Find looks a kind up by its id.
func Find(id string) (Kind, bool) {
	for _, k := range All() {
		if k.ID == id {
			return k, true
		}
	}
	return Kind{}, false
}

// In is a piece of gear of the kind that can be added to a plan: under a name that nothing else there has, and where it
// listens to MIDI, on the lowest channel that nothing there has.
func (k Kind) In(p *plan.Plan, id plan.ID, name string) plan.Gear {
	g := k.New(id, name)
	base := g.Name
	taken := func(name string) bool {
		return slices.ContainsFunc(p.Gear, func(o plan.Gear) bool { return strings.EqualFold(o.Name, name) })
	}
	for n := 2; taken(g.Name); n++ {
		g.Name = fmt.Sprintf("%s %d", base, n)
	}
	if g.MIDI == nil {
		return g
	}
	port := *g.MIDI
	for c := 1; c <= 16; c++ {
		if !slices.ContainsFunc(p.Gear, func(o plan.Gear) bool { return o.MIDI != nil && o.MIDI.Channel == c }) {
			port.Channel = c
			break
		}
	}
	g.MIDI = &port
	return g
}

// New is a piece of gear of a kind under an id and a name of its own; its figures are remembered as assumed.
func (k Kind) New(id plan.ID, name string) plan.Gear {
	g := k.Gear
	g.ID, g.Name, g.Circuit = id, name, k.Name
	if name == "" {
		g.Name = k.Name
	}
	return g.Assuming()
}

func ptr[T any](v T) *T { return &v }

// knob is a plain 0 to 10 knob that takes a hand away from the guitar.
func knob(id, name string, at float64) plan.Control {
	return plan.Control{ID: plan.ID(id), Name: name, Kind: plan.Knob, Access: plan.SlowHand, Default: ptr(plan.Number(at))}
}

// knobs are several at noon.
func knobs(names ...string) []plan.Control {
	var list []plan.Control
	for _, n := range names {
		list = append(list, knob(n, n, 5))
	}
	return list
}

func selector(id, name string, access plan.Access, options ...string) plan.Control {
	return plan.Control{
		ID: plan.ID(id), Name: name, Kind: plan.Selector, Access: access, Options: options,
		Default: ptr(plan.Text(options[0])),
	}
}

func presets(access plan.Access, options ...string) plan.Control {
	c := selector("preset", "preset", access, options...)
	c.Kind = plan.Preset
	return c
}

// delayTime is a time in ms.
func delayTime(access plan.Access, at, longest float64) plan.Control {
	return plan.Control{
		ID: "time", Name: "time", Kind: plan.Knob, Access: access, Unit: "ms", Min: ptr(20.0), Max: ptr(longest),
		Default: ptr(plan.Number(at)),
	}
}

// stomp is a footswitch that turns a block on and off.
func stomp(id, label string, x, y float64, block plan.ID) plan.Footswitch {
	return plan.Footswitch{ID: plan.ID(id), Label: label, X: x, Y: y, Press: does(plan.Toggle, plan.Key(block)+"/on", 0)}
}

// does is a press with one action.
func does(kind plan.ActionKind, target plan.Key, by int) *plan.Press {
	return &plan.Press{
		Actions: []plan.Action{{Kind: kind, Target: target, By: by, Wrap: kind == plan.Step || kind == plan.Bank}},
	}
}

// power is a 9 V centre-negative draw, with a battery where the kind commonly takes one.
func power(ma float64, battery bool) *plan.PowerDraw {
	return &plan.PowerDraw{
		Voltage: 9, Current: ptr(ma), Polarity: "centre-negative", Connector: "2.1 mm barrel", Battery: battery,
	}
}

// digital is a kind with a processor in it, whose noise is heard in what shares its supply.
func digital(k Kind) Kind {
	draw := *k.Gear.Power
	draw.Digital = true
	k.Gear.Power = &draw
	return k
}

func size(w, d, h float64) *plan.Size { return &plan.Size{Width: w, Depth: d, Height: ptr(h)} }

func sideJacks() []plan.Jack {
	return []plan.Jack{{ID: "in", Name: "input", Side: "right"}, {ID: "out", Name: "output", Side: "left"}}
}

func stereoJacks() []plan.Jack {
	return []plan.Jack{
		{ID: "in-l", Name: "input left", Side: "right"}, {ID: "in-r", Name: "input right", Side: "right"},
		{ID: "out-l", Name: "output left", Side: "left"}, {ID: "out-r", Name: "output right", Side: "left"},
	}
}

// single is a pedal of one block with one footswitch.
func single(
	id, family, name, description string, effect plan.Effect, bypass plan.Bypass, ma float64, controls ...plan.Control,
) Kind {
	return Kind{ID: id, Family: family, Name: name, Description: description, Gear: plan.Gear{
		Kind: plan.Pedal, Size: size(70, 120, 55), WeightG: ptr(380.0), Power: power(ma, ma <= 20), Jacks: sideJacks(),
		Blocks: []plan.Block{
			{ID: "fx", Name: name, Effect: effect, Bypass: bypass, InputOhm: ptr(1e6), OutOhm: ptr(1e3), Controls: controls},
		},
		Footswitches: []plan.Footswitch{stomp("on", "on", 35, 100, "fx")},
	}}
}
