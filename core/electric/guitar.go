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
	hotMV          = 140 // from here on one of which nothing else is known is taken to be two coils

	usualPairOhm   = 8000.0
	usualPairHenry = 4.2
	usualPairPF    = 130.0

	// UsualOutputMV is what a pickup gives on strummed chords through the reference run, in mV rms,
	// where nobody has said.
	UsualOutputMV = 100.0
)

// turned is how far a guitar's own knobs are turned, 0 to 1.
type turned struct{ volume, tone float64 }

// fullOn is a guitar with nothing turned down.
var fullOn = turned{1, 1}

// instrument is the source of a chain: the pickups that sound and what they are wired to.
type instrument struct {
	sounding []plan.Pickup
	reversed []bool // of each, whether it is wired the other way round
	series   bool
	wiring   plan.Wiring
	knobs    turned
}

// What is taken of a pickup with a jack of its own, such as a piezo: it is buffered in the guitar.
const usualOutputJackOhm = 1e3

// hot reports whether a pickup is taken to be two coils.
func hot(p plan.Pickup) bool {
	if p.Jack != "" {
		return false
	}
	if p.InductanceH != nil {
		return *p.InductanceH >= hotHenry
	}
	return or(p.OutputMVRMS, 0) >= hotMV
}

// coilOf is a pickup as a source, with what is usual where nobody has said.
func coilOf(p plan.Pickup) coil {
	if p.Jack != "" {
		return coil{or(p.ResistanceOhm, usualOutputJackOhm), or(p.InductanceH, 0), or(p.CapacitancePF, 0) * 1e-12}
	}
	if hot(p) {
		return coil{
			or(p.ResistanceOhm, usualPairOhm), or(p.InductanceH, usualPairHenry), or(p.CapacitancePF, usualPairPF) * 1e-12,
		}
	}
	return coil{
		or(p.ResistanceOhm, usualCoilOhm), or(p.InductanceH, usualCoilHenry), or(p.CapacitancePF, usualCoilPF) * 1e-12,
	}
}

func (g instrument) coils() coils {
	c := coils{series: g.series}
	for _, p := range g.sounding {
		c.list = append(c.list, coilOf(p))
	}
	return c
}

// ladder is the circuit from the pickups to the guitar's jack, with its knobs as they are given.
func (g instrument) ladder(at turned) network {
	n := network{g.coils()}
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
		return instrument{
			sounding: make([]plan.Pickup, 1), reversed: make([]bool, 1), wiring: usualWiring(usualPotOhm, true, true),
			knobs: fullOn,
		}
	}
	out := sounding(g, set)
	out.knobs = fullOn
	if len(out.sounding) == 0 {
		out.sounding, out.reversed = make([]plan.Pickup, 1), make([]bool, 1)
		assume(
			"The pickups of %s are not known; a single coil of %g H, %g kohm and %g pF is taken.", g.Name, usualCoilHenry,
			usualCoilOhm/1e3, usualCoilPF,
		)
	}
	pots := usualPotOhm
	for _, p := range out.sounding {
		if p.ID != "" {
			assumePickup(g, p, assume)
		}
		if hot(p) {
			pots = highPotOhm
		}
	}
	if g.Wiring != nil {
		out.wiring = *g.Wiring
		assumeTapers(g, assume)
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

// assumeTapers says what is taken of pots whose taper nobody has said.
func assumeTapers(g *plan.Gear, assume func(string, ...any)) {
	var pots []string
	if v := g.Wiring.Volume; v != nil && v.Taper == "" {
		pots = append(pots, "volume")
	}
	if t := g.Wiring.Tone; t != nil && t.Pot.Taper == "" {
		pots = append(pots, "tone")
	}
	if len(pots) > 0 {
		assume("The taper of the %s of %s is not known; audio, 15 %% at half turn, is taken.", plan.Listed(pots), g.Name)
	}
}

// assumePickup says what is taken of a pickup where nobody has said.
func assumePickup(g *plan.Gear, p plan.Pickup, assume func(string, ...any)) {
	c := coilOf(p)
	var taken []string
	if p.InductanceH == nil {
		taken = append(taken, fmt.Sprintf("%g H", c.henry))
	}
	if p.ResistanceOhm == nil {
		taken = append(taken, fmt.Sprintf("%g kohm", c.ohm/1e3))
	}
	if p.CapacitancePF == nil {
		taken = append(taken, fmt.Sprintf("%g pF", math.Round(c.farad*1e12)))
	}
	if len(taken) > 0 {
		assume("Of the %s pickup of %s not all is known; %s: taken.", p.Name, g.Name, plan.Listed(taken))
	}
}

// sounding are the pickups that the guitar's selector has on, and how: as its positions say; where they
// do not, those whose name it names, all for "both" or "all", the first where it says nothing of any.
func sounding(g *plan.Gear, set plan.Setting) instrument {
	selected := set.At(plan.Key(g.ID) + "/pickup").Word()
	if at, ok := g.FindPosition(selected); ok {
		out := instrument{series: at.Series}
		for _, p := range onSelector(g) {
			if slices.Contains(at.Pickups, p.ID) {
				out.sounding = append(out.sounding, p)
				out.reversed = append(out.reversed, slices.Contains(at.Reversed, p.ID))
			}
		}
		if len(out.sounding) > 0 {
			return out
		}
	}
	word := strings.ToLower(selected)
	named := strings.FieldsFunc(word, func(r rune) bool { return r == '+' || r == ' ' || r == '&' || r == ',' })
	var list []plan.Pickup
	for _, p := range onSelector(g) {
		if slices.Contains(named, strings.ToLower(string(p.ID))) || slices.Contains(named, strings.ToLower(p.Name)) ||
			word != "" && word == strings.ToLower(p.Name) {
			list = append(list, p)
		}
	}
	if word == "both" || word == "all" {
		list = onSelector(g)
	}
	if all := onSelector(g); len(list) == 0 && len(all) > 0 {
		list = all[:1]
	}
	return instrument{sounding: list, reversed: make([]bool, len(list))}
}

// outputOf reads the pickups that come out of a jack of a guitar by themselves. Its knobs do not reach them.
func outputOf(g *plan.Gear, jack plan.ID, assume func(string, ...any)) (instrument, bool) {
	out := instrument{knobs: fullOn}
	for _, p := range g.Pickups {
		if p.Jack == jack && jack != "" {
			out.sounding, out.reversed = append(out.sounding, p), append(out.reversed, false)
			if p.ResistanceOhm == nil && p.InductanceH == nil {
				assume("The %s of %s is taken to have a buffer in the guitar, of %g kohm.", p.Name, g.Name, usualOutputJackOhm/1e3)
			}
		}
	}
	return out, len(out.sounding) > 0
}

// onSelector are the pickups of the main output.
func onSelector(g *plan.Gear) []plan.Pickup {
	var list []plan.Pickup
	for _, p := range g.Pickups {
		if p.Jack == "" {
			list = append(list, p)
		}
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
