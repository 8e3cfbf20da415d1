package electric

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"envex/core/plan"
)

// What is taken of a guitar where nobody has said: a single coil, and the pots that go with it.
const (
	usualCoilOhm   = 6000.0
	usualCoilHenry = 2.5
	usualCoilPF    = 110.0
	usualToneNF    = 22.0
	usualPotOhm    = 250e3
	highPotOhm     = 500e3
	hotHenry       = 3.5 // from here on a pickup is taken to be two coils, which get higher pots
)

// turned is how far a guitar's own knobs are turned, 0 to 1.
type turned struct{ volume, tone float64 }

// fullOn is a guitar with nothing turned down.
var fullOn = turned{1, 1}

// instrument is the source of a chain: the pickups that sound and what they are wired to.
type instrument struct {
	sounding []plan.Pickup
	wiring   plan.Wiring
	knobs    turned
}

// ladder is the circuit from the pickups to the guitar's jack, with its knobs as they are given.
func (g instrument) ladder(at turned) network {
	var c coils
	for _, p := range g.sounding {
		c.list = append(c.list, coil{or(p.ResistanceOhm, usualCoilOhm), or(p.InductanceH, usualCoilHenry)})
		c.farad += or(p.CapacitancePF, usualCoilPF) * 1e-12
	}
	n := network{c}
	tone := func() {
		if t := g.wiring.Tone; t != nil {
			n = append(n, toneStack{t.Pot.Ohm * t.Pot.Fraction(at.tone), t.CapacitorNF * 1e-9})
		}
	}
	vintage := g.wiring.Tone != nil && g.wiring.Tone.Vintage
	if !vintage {
		tone()
	}
	if v := g.wiring.Volume; v != nil {
		n = append(n, divider(*v, at.volume, g.wiring.Bleed)...)
	}
	if vintage {
		tone()
	}
	return n
}

// divider is a volume pot at a turn: what is above its wiper, in line, and what is below, across.
func divider(p plan.Pot, turn float64, bleed *plan.TrebleBleed) network {
	k := p.Fraction(turn)
	top := upper{ohm: (1 - k) * p.Ohm, bleedOhm: math.Inf(1)}
	if bleed != nil {
		top.bleedFarad, top.bleedSeries = bleed.CapacitancePF*1e-12, bleed.Series
		switch {
		case bleed.ResistanceOhm != nil && (bleed.Series || *bleed.ResistanceOhm > 0):
			top.bleedOhm = *bleed.ResistanceOhm
		case bleed.ResistanceOhm != nil:
			top.bleedOhm = leastOhm
		case bleed.Series:
			top.bleedOhm = 0 // a capacitor alone, either way
		}
	}
	return network{top, across{k * p.Ohm, 0}}
}

func or(x *float64, usual float64) float64 {
	if x == nil {
		return usual
	}
	return *x
}

// instrumentOf reads a guitar as a rig is set; nil stands for one that is not known.
func instrumentOf(g *plan.Gear, set plan.Setting, assume func(string, ...any)) instrument {
	if g == nil {
		assume("No guitar is plugged in; a single coil of 2.5 H, 6 kohm and 110 pF with 250 kohm pots is taken.")
		return instrument{sounding: make([]plan.Pickup, 1), wiring: usualWiring(usualPotOhm, true, true), knobs: fullOn}
	}
	out := instrument{sounding: sounding(g, set), knobs: fullOn}
	if len(out.sounding) == 0 {
		out.sounding = make([]plan.Pickup, 1)
		assume("The pickups of %s are not known; a single coil of 2.5 H, 6 kohm and 110 pF is taken.", g.Name)
	}
	pots := usualPotOhm
	for _, p := range out.sounding {
		if p.ID != "" && (p.ResistanceOhm == nil || p.InductanceH == nil || p.CapacitancePF == nil) {
			assume("Not all of the %s pickup of %s is known; 2.5 H, 6 kohm and 110 pF stand in.", p.Name, g.Name)
		}
		if or(p.InductanceH, usualCoilHenry) >= hotHenry {
			pots = highPotOhm
		}
	}
	if g.Wiring != nil {
		out.wiring = *g.Wiring
	} else {
		volume, tone := hasControl(g.Controls, "volume"), hasControl(g.Controls, "tone")
		out.wiring = usualWiring(pots, volume, tone)
		if volume || tone {
			assume("The pots of %s are not known; %.0f kohm, audio taper, and %g nF are taken.", g.Name, pots/1000, usualToneNF)
		}
	}
	if v := out.wiring.Volume; v != nil {
		out.knobs.volume = turnOf(g.Controls, plan.Key(g.ID), v.Control, "volume", set)
	}
	if t := out.wiring.Tone; t != nil {
		out.knobs.tone = turnOf(g.Controls, plan.Key(g.ID), t.Pot.Control, "tone", set)
	}
	return out
}

func usualWiring(ohm float64, volume, tone bool) plan.Wiring {
	var w plan.Wiring
	if volume {
		w.Volume = &plan.Pot{Ohm: ohm}
	}
	if tone {
		w.Tone = &plan.ToneControl{Pot: plan.Pot{Ohm: ohm}, CapacitorNF: usualToneNF}
	}
	return w
}

func hasControl(list []plan.Control, id plan.ID) bool {
	return slices.ContainsFunc(list, func(c plan.Control) bool { return c.ID == id })
}

// turnOf is how far a knob is turned, 0 to 1: all the way where there is none.
func turnOf(list []plan.Control, owner plan.Key, id, usual plan.ID, set plan.Setting) float64 {
	if id == "" {
		id = usual
	}
	for _, c := range list {
		if c.ID != id {
			continue
		}
		if v := set.At(owner + "/" + plan.Key(id)); v.Kind() == plan.NumberValue {
			low, high := c.Range()
			return (v.Float() - low) / (high - low)
		}
	}
	return 1
}

// sounding are the pickups that the guitar's selector has on: those it names, all for "both" or
// "all", the first where it says nothing of any.
func sounding(g *plan.Gear, set plan.Setting) []plan.Pickup {
	word := strings.ToLower(set.At(plan.Key(g.ID) + "/pickup").Word())
	if word == "both" || word == "all" {
		return g.Pickups
	}
	named := strings.FieldsFunc(word, func(r rune) bool { return r == '+' || r == ' ' || r == '&' || r == ',' })
	var list []plan.Pickup
	for _, p := range g.Pickups {
		if slices.Contains(named, strings.ToLower(string(p.ID))) || slices.Contains(named, strings.ToLower(p.Name)) || word != "" && word == strings.ToLower(p.Name) {
			list = append(list, p)
		}
	}
	if len(list) == 0 && len(g.Pickups) > 0 {
		list = g.Pickups[:1]
	}
	return list
}

// name says which pickups sound, for words.
func (g instrument) name() string {
	var words []string
	for _, p := range g.sounding {
		if p.Name != "" {
			words = append(words, p.Name)
		}
	}
	if len(words) == 0 {
		return "a single coil"
	}
	return fmt.Sprintf("%s pickup", strings.Join(words, " and "))
}
