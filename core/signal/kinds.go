package signal

import (
	"fmt"
	"slices"
	"strings"

	"envex/core/plan"
)

// settings are the positions of one block's controls.
type settings struct {
	gear  *plan.Gear
	block *plan.Block
	at    func(plan.Key) plan.Value
	acts  map[plan.ID]bool // controls that were asked for, where somebody wants to know
}

// knob is the position of the first control there is by one of some names; or where there is none.
func (s settings) knob(or float64, ids ...string) float64 {
	for _, id := range ids {
		c, ok := s.control(id)
		if !ok {
			continue
		}
		if v := s.at(plan.BlockKey(s.gear.ID, s.block.ID) + "/" + plan.Key(c.ID)); v.Kind() == plan.NumberValue {
			low, high := c.Range()
			if c.Unit != "" {
				return v.Float()
			}
			return 10 * (v.Float() - low) / (high - low)
		}
	}
	return or
}

// control is the block's by an id; where there is none, by that name, as players write it.
func (s settings) control(id string) (*plan.Control, bool) {
	for _, same := range []func(plan.Control) bool{
		func(c plan.Control) bool { return string(c.ID) == id },
		func(c plan.Control) bool { return strings.EqualFold(strings.TrimSpace(c.Name), id) },
	} {
		if i := slices.IndexFunc(s.block.Controls, same); i >= 0 {
			if s.acts != nil {
				s.acts[s.block.Controls[i].ID] = true
			}
			return &s.block.Controls[i], true
		}
	}
	return nil, false
}

// rate is how fast the block moves, in Hz: as its control says or somebody has measured, else by the usual
// range of such a knob, of which it stands somewhere.
func (s settings) rate(or float64) float64 {
	for _, id := range []string{"speed", "rate"} {
		if c, ok := s.control(id); ok && c.Timed() {
			if ms, ok := c.TimeMS(s.at(plan.BlockKey(s.gear.ID, s.block.ID) + "/" + plan.Key(c.ID))); ok {
				return 1000 / ms
			}
		}
	}
	return speedOf(s.knob(or, "speed", "rate"))
}

func (s settings) word(id string) string {
	if c, ok := s.control(id); ok {
		return s.at(plan.BlockKey(s.gear.ID, s.block.ID) + "/" + plan.Key(c.ID)).Word()
	}
	return ""
}

// is is the circuit of the block as it is set.
func (s settings) is() plan.ModelAt {
	m, _ := s.gear.ModelIn(s.block, s.at)
	if s.acts != nil {
		for _, x := range s.block.ModelAt {
			s.acts[x.Control], s.acts[x.Gain], s.acts[x.Level] = true, true, true
		}
	}
	return m
}

// silent are the controls of a block that its model does not have, by name. What stores or shows other
// controls is none.
func (s settings) silent() []string {
	s.acts = map[plan.ID]bool{}
	if model, _ := s.model(false); model == nil {
		return nil
	}
	var names []string
	for _, c := range s.block.Controls {
		if (c.Kind == plan.Knob || c.Kind == plan.Selector) && !s.acts[c.ID] {
			names = append(names, c.Name)
		}
	}
	if s.block.Effect == plan.EffectPreamp {
		for _, c := range s.gear.Controls {
			if c.Kind == plan.Selector && !s.acts[c.ID] {
				names = append(names, c.Name)
			}
		}
	}
	return names
}

// circuit makes the model of a block at its settings; fine asks for oversampling. The words say what stands in for a
// block that has no model of its own.
type circuit func(s settings, fine bool) (unit, string)

// circuits are the models of every effect there is.
var circuits = map[plan.Effect]circuit{
	plan.EffectVolume: func(s settings, _ bool) (unit, string) {
		return gain(Taper(s.knob(10, "position", "volume") / 10)), ""
	},
	plan.EffectBoost: func(s settings, fine bool) (unit, string) {
		c := factor(2 * s.knob(5, "level", "boost", "gain"))
		return shaped(fine, func(rate float64) shaper { return newBoost(c, rate) }), ""
	},
	plan.EffectOverdrive: func(s settings, fine bool) (unit, string) {
		drive, tone, level := s.drive()
		switch s.is().Model {
		case plan.Transparent:
			return shaped(fine, func(rate float64) shaper { return transparent(drive, tone, level, rate) }), ""
		case plan.Thinning:
			return shaped(fine, func(rate float64) shaper { return thinning(drive, tone, level, rate) }), ""
		}
		return shaped(fine, func(rate float64) shaper { return midHump(drive, tone, level, rate) }), ""
	},
	plan.EffectDistortion: func(s settings, fine bool) (unit, string) {
		drive, tone, level := s.drive()
		return shaped(fine, func(rate float64) shaper { return hardClip(drive, tone, level, rate) }), ""
	},
	plan.EffectFuzz: func(s settings, fine bool) (unit, string) {
		amount, volume := s.knob(5, "fuzz", "drive"), s.knob(5, "volume", "level")
		return shaped(fine, func(rate float64) shaper { return newFuzz(amount, volume, rate) }), ""
	},
	plan.EffectCompressor: plainly(func(s settings) unit {
		squeeze, level := s.knob(5, "squeeze", "sustain"), s.knob(5, "level", "volume")
		return bothSides(func() interface{ run([]float64) } { return newCompressor(squeeze, level) })
	}),
	plan.EffectGate: plainly(func(s settings) unit {
		threshold := s.knob(5, "threshold")
		return bothSides(func() interface{ run([]float64) } { return newGate(threshold) })
	}),
	plan.EffectEQ: plainly(func(s settings) unit {
		bands := bothSides(
			func() interface{ run([]float64) } { return graphic(func(id string) float64 { return s.knob(5, id) }) },
		)
		return inOrder{bands, gain(levelKnob(s.knob(5, "level")))}
	}),
	plan.EffectPreamp:   func(s settings, fine bool) (unit, string) { return s.preampModel(fine), "" },
	plan.EffectPower:    func(s settings, fine bool) (unit, string) { return s.powerModel(fine), "" },
	plan.EffectSpeaker:  plainly(settings.speakerModel),
	plan.EffectCab:      plainly(settings.speakerModel),
	plan.EffectAcoustic: plainly(func(settings) unit { return acousticModel() }),
	plan.EffectDelay:    plainly(settings.delayModel),
	plan.EffectReverb:   plainly(settings.reverbModel),
	plan.EffectLooper: func(s settings, fine bool) (unit, string) {
		if fine { // what is metered is what is played; what is heard has a layer under it
			return newLayer(levelKnob(s.knob(5, "level"))), ""
		}
		return nil, "nothing is looped"
	},
	plan.EffectWah: plainly(func(s settings) unit {
		position := s.knob(5, "position")
		return bothSides(func() interface{ run([]float64) } { return filters{wahFilter(position)} })
	}),
	plan.EffectOctave: plainly(func(s settings) unit {
		return bothSides(func() interface{ run([]float64) } { return newDivider(s.knob(5, "octave"), s.knob(5, "dry")) })
	}),
	plan.EffectPitch: plainly(func(s settings) unit {
		return bothSides(func() interface{ run([]float64) } { return newShifter(semitones[s.is().Model], s.knob(5, "mix")) })
	}),
	plan.EffectVibe:   plainly(settings.turning),
	plan.EffectRotary: plainly(settings.turning),
	plan.EffectPhaser: plainly(func(s settings) unit { return newPhasing(s.rate(3), 300, 3, 0.5, 1.15, 1, 1, 1, 1) }),
	plan.EffectChorus: plainly(func(s settings) unit {
		return newSwept(s.rate(4), 7, 6*turnOf(s.knob(5, "depth")), 0, turnOf(s.knob(5, "mix")))
	}),
	plan.EffectFlanger: plainly(func(s settings) unit {
		return newSwept(s.rate(2), 0.6, 5*turnOf(s.knob(5, "depth")), 0.7*turnOf(s.knob(5, "regeneration")), 0.5)
	}),
	plan.EffectTremolo: plainly(settings.tremoloModel),
	plan.EffectMute:    plainly(func(settings) unit { return gain(0) }),
	plan.EffectSum:     plainly(func(settings) unit { return summing{} }),

	plan.EffectTuner: wire, plan.EffectBuffer: wire, plan.EffectDI: wire, plan.EffectSplitter: wire,
	plan.EffectMixer: wire,
	plan.EffectRadio: wire, plan.EffectLoad: wire,
}

// plainly is a circuit that is the same oversampled or not.
func plainly(make func(settings) unit) circuit {
	return func(s settings, _ bool) (unit, string) { return make(s), "" }
}

// wire passes the signal through.
func wire(settings, bool) (unit, string) { return nil, "" }

// semitones are the intervals of the pitch models.
var semitones = map[string]float64{
	plan.OctaveUp: 12, plan.FifthUp: 7, plan.FourthUp: 5, plan.FourthDown: -5, plan.FifthDown: -7, plan.OctaveDown: -12,
}

// model is the circuit of a block at its settings. The words say what stands in for a block that has
// no model of its own. fine asks for oversampling.
func (s settings) model(fine bool) (unit, string) {
	make, ok := circuits[s.block.Effect]
	if !ok {
		return nil, fmt.Sprintf("there is no model of a %s: the signal is taken to pass it unchanged", s.block.Effect)
	}
	return make(s, fine)
}

// drive are the knobs of an overdrive or a distortion.
func (s settings) drive() (drive, tone, level float64) {
	return s.knob(5, "drive", "gain"), s.knob(5, "tone"), s.knob(5, "level", "volume")
}

func (s settings) turning() unit {
	return newPhasing(
		s.rate(4), 200, 3.67*turnOf(s.knob(6, "depth")), 0.5, 1.25*levelKnob(s.knob(5, "volume")), 0.4, 1, 2.5, 6,
	)
}

func (s settings) tremoloModel() unit {
	t := tremolo{lfo: newLFO(s.rate(6)), depth: turnOf(s.knob(5, "depth")), level: levelKnob(s.knob(5, "level"))}
	if s.is().Model == plan.Slicing {
		return newSlicer(t)
	}
	return &t
}

func (s settings) preampModel(fine bool) unit {
	v, gainAt, level := s.voice()
	return inOrder{
		gain(s.input()), shaped(fine, func(rate float64) shaper { return newPreamp(v, gainAt, rate) }),
		bothSides(func() interface{ run([]float64) } { return s.toneStack() }), gain(level),
	}
}

// toneStack is what the tone knobs of a preamp or a power section make of what goes through.
func (s settings) toneStack() filters {
	k := s.knob
	presence, cut := k(5, "presence"), k(0, "cut")
	if s.block.Effect == plan.EffectPower {
		return brightness(false, presence, cut, 0)
	}
	_, gainAt, _ := s.voice()
	return append(
		tones(k(5, "bass"), k(5, "mid", "middle"), k(5, "treble")),
		brightness(s.switched("bright"), presence, cut, gainAt)...,
	)
}

func (s settings) powerModel(fine bool) unit {
	master := s.knob(5, "master", "volume")
	return inOrder{
		bothSides(func() interface{ run([]float64) } { return s.toneStack() }),
		shaped(fine, func(rate float64) shaper { return newPower(master, rate) }),
	}
}

func acousticModel() unit {
	return bothSides(func() interface{ run([]float64) } {
		return filters{
			highPass(70, 0.7, Rate), peaking(180, 1, 4, Rate), peaking(900, 0.8, -6, Rate), highShelf(4000, 5, Rate),
		}
	})
}

func (s settings) speakerModel() unit {
	closed := s.is().Model == plan.ClosedBack
	return bothSides(func() interface{ run([]float64) } { return speaker(closed) })
}

// voice is the kind of preamp that the channel it is on is, where the gain of that channel stands, and the
// factor of its level.
func (s settings) voice() (v voice, gainAt, level float64) {
	m := s.is()
	v = map[string]voice{plan.CleanVoice: cleanVoice, plan.DrivenVoice: drivenVoice}[m.Model]
	if m.Model == plan.EdgeVoice {
		v = edgeVoice
	}
	names := map[voice][]string{
		cleanVoice: {"gain", "volume", "clean"}, edgeVoice: {"gain", "volume", "drive"}, drivenVoice: {"gain", "drive"},
	}[v]
	if m.Gain != "" {
		names = []string{string(m.Gain)}
	}
	gainAt = s.knob(5, names...)
	switch {
	case m.Level != "":
		level = levelKnob(s.knob(5, string(m.Level)))
	case m.Control != "":
		level = 1 // a channel without a level of its own
	default:
		level = levelKnob(s.knob(5, "level"))
	}
	return v, gainAt, level
}

// lowInput is what the second input jack of an amp leaves: its two 68 kohm resistors halve what is plugged
// in there.
const lowInput = 0.5

// input is the factor of the input an amp is plugged into, where it has a choice.
func (s settings) input() float64 {
	if strings.EqualFold(s.word("input"), "low") {
		return lowInput
	}
	return 1
}

// switched reports whether a selector of two positions is on.
func (s settings) switched(id string) bool { return strings.EqualFold(s.word(id), "on") }

func (s settings) reverbModel() unit {
	spring, size := s.is().Model == plan.Spring, s.reverbSize()
	// An amp's own reverb mixes in little: its full is half wet.
	if s.gear.Kind == plan.Amp {
		return newReverb(size, s.knob(3, "reverb", "mix", "level")*0.5, spring, false)
	}
	return newReverb(size, s.knob(3, "mix", "level"), spring, s.block.Outputs == "stereo")
}

func (s settings) delayModel() unit {
	k, m := s.knob, s.is().Model
	return newDelay(
		k(400, "time"), k(4, "repeats", "feedback"), k(4, "mix", "level"), m == plan.Tape,
		m == plan.PingPong && s.block.Outputs == "stereo",
	)
}

// reverbSize is the size of a reverb's room, 0 to 10: an amp's own tank has one, a hall is larger than a room
// with the same knob.
func (s settings) reverbSize() float64 {
	if s.gear.Kind == plan.Amp {
		return 4
	}
	size := s.knob(5, "size", "decay")
	if s.is().Model == plan.Hall {
		size += 2
	}
	return size
}

// reverbSeconds is how long a reverb takes to fall by 60 dB as it is set.
func (s settings) reverbSeconds() float64 { return decaySeconds(s.reverbSize()) }
