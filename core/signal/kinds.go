package signal

import (
	"strings"

	"envex/core/plan"
)

// nature is what sort of thing a block does, for the figures that leave some sorts out.
type nature int

const (
	wire   nature = iota // nothing, or only a filter or a level
	dirt                 // boosts and everything that clips or squashes
	motion               // modulation and pitch
	space                // delays and reverbs
)

// natureOf sorts effects.
func natureOf(e plan.Effect) nature {
	switch e {
	case plan.EffectBoost, plan.EffectOverdrive, plan.EffectDistortion, plan.EffectFuzz, plan.EffectCompressor, plan.EffectPreamp, plan.EffectPower:
		return dirt
	case plan.EffectVibe, plan.EffectPhaser, plan.EffectChorus, plan.EffectFlanger, plan.EffectTremolo, plan.EffectRotary, plan.EffectPitch, plan.EffectOctave:
		return motion
	case plan.EffectDelay, plan.EffectReverb, plan.EffectLooper:
		return space
	}
	return wire
}

// IsGain reports whether a block is a gain stage of the player's: what the gain map combines.
func IsGain(e plan.Effect) bool {
	switch e {
	case plan.EffectBoost, plan.EffectOverdrive, plan.EffectDistortion, plan.EffectFuzz, plan.EffectCompressor:
		return true
	}
	return e == plan.EffectPreamp
}

// settings are the positions of one block's controls.
type settings struct {
	gear  *plan.Gear
	block *plan.Block
	at    func(plan.Key) plan.Value
}

// knob is the position of the first control there is by one of some names; or where there is none.
func (s settings) knob(or float64, ids ...string) float64 {
	for _, id := range ids {
		for _, c := range s.block.Controls {
			if string(c.ID) != id {
				continue
			}
			if v := s.at(plan.BlockKey(s.gear.ID, s.block.ID) + "/" + plan.Key(id)); v.Kind() == plan.NumberValue {
				low, high := c.Range()
				if c.Unit != "" {
					return v.Float()
				}
				return 10 * (v.Float() - low) / (high - low)
			}
		}
	}
	return or
}

func (s settings) word(id string) string {
	for _, c := range s.block.Controls {
		if string(c.ID) == id {
			return s.at(plan.BlockKey(s.gear.ID, s.block.ID) + "/" + plan.Key(id)).Word()
		}
	}
	return ""
}

// says reports whether the kind of circuit, or what the block is called, has a word in it.
func (s settings) says(word string) bool {
	return strings.Contains(strings.ToLower(s.gear.Circuit+" "+s.block.Name+" "+s.gear.Notes), word)
}

// model is the circuit of a block at its settings. The words say what stands in for a block that has
// no model of its own. fine asks for oversampling.
func (s settings) model(fine bool) (unit, string) {
	k := s.knob
	switch s.block.Effect {
	case plan.EffectVolume:
		return gain(taper(k(10, "position", "volume") / 10)), ""
	case plan.EffectBoost:
		c := factor(2 * k(5, "level", "boost", "gain"))
		return shaped(fine, func(float64) shaper { return &boostCircuit{c} }), ""
	case plan.EffectOverdrive:
		drive, tone, level := k(5, "drive", "gain"), k(5, "tone"), k(5, "level", "volume")
		if s.says("transparent") {
			return shaped(fine, func(rate float64) shaper { return transparent(drive, tone, level, rate) }), ""
		}
		return shaped(fine, func(rate float64) shaper { return midHump(drive, tone, level, rate) }), ""
	case plan.EffectDistortion:
		drive, tone, level := k(5, "drive", "gain"), k(5, "tone"), k(5, "level", "volume")
		return shaped(fine, func(rate float64) shaper { return hardClip(drive, tone, level, rate) }), ""
	case plan.EffectFuzz:
		amount, volume := k(5, "fuzz", "drive"), k(5, "volume", "level")
		return shaped(fine, func(rate float64) shaper { return newFuzz(amount, volume, rate) }), ""
	case plan.EffectCompressor:
		squeeze, level := k(5, "squeeze", "sustain"), k(5, "level", "volume")
		return bothSides(func() interface{ run([]float64) } { return newCompressor(squeeze, level) }), ""
	case plan.EffectGate:
		threshold := k(5, "threshold")
		return bothSides(func() interface{ run([]float64) } { return newGate(threshold) }), ""
	case plan.EffectEQ:
		return inOrder{bothSides(func() interface{ run([]float64) } { return graphic(func(id string) float64 { return k(5, id) }) }), gain(levelKnob(k(5, "level")))}, ""
	case plan.EffectPreamp, plan.EffectPower, plan.EffectSpeaker, plan.EffectCab, plan.EffectAcoustic:
		return s.ampModel(fine), ""
	case plan.EffectDelay, plan.EffectReverb:
		return s.spaceModel(), ""
	case plan.EffectLooper:
		return nil, "nothing is looped"
	}
	return s.motionModel()
}

// ampModel is that of an amp's sections, of preamp pedals, speakers and their simulators.
func (s settings) ampModel(fine bool) unit {
	k := s.knob
	switch s.block.Effect {
	case plan.EffectPreamp:
		v, gainAt := s.voice()
		level := levelKnob(k(5, "level"))
		if v == cleanVoice {
			level = 1 // the level of a two-channel amp is that of its drive
		}
		bass, mid, treble := k(5, "bass"), k(5, "mid"), k(5, "treble")
		return inOrder{
			shaped(fine, func(rate float64) shaper { return newPreamp(v, gainAt, rate) }),
			bothSides(func() interface{ run([]float64) } { return tones(bass, mid, treble) }), gain(level),
		}
	case plan.EffectPower:
		master := k(5, "master", "volume")
		return shaped(fine, func(rate float64) shaper { return newPower(master, rate) })
	case plan.EffectAcoustic:
		return bothSides(func() interface{ run([]float64) } {
			return filters{highPass(70, 0.7, Rate), peaking(180, 1, 4, Rate), peaking(900, 0.8, -6, Rate), highShelf(4000, 5, Rate)}
		})
	}
	closed := s.word("cab") == "closed back" || s.says("closed")
	return bothSides(func() interface{ run([]float64) } { return speaker(closed) })
}

// voice is the channel a preamp is on and where the gain of that channel stands.
func (s settings) voice() (voice, float64) {
	channel := strings.ToLower(s.word("channel"))
	if channel == "" {
		channel = strings.ToLower(s.at(plan.Key(s.gear.ID) + "/channel").Word())
	}
	for _, w := range []string{"drive", "lead", "high", "dirty", "crunch", "overdrive"} {
		if strings.Contains(channel, w) {
			return drivenVoice, s.knob(5, "drive", "gain")
		}
	}
	switch {
	case strings.Contains(channel, "clean"):
		return cleanVoice, s.knob(5, "clean", "gain", "volume")
	case s.says("high-gain"), s.says("high gain"):
		return drivenVoice, s.knob(5, "gain", "drive")
	case s.says("clean"):
		return cleanVoice, s.knob(5, "gain", "volume")
	}
	return edgeVoice, s.knob(5, "gain", "volume", "drive")
}

// spaceModel is that of a delay or a reverb.
func (s settings) spaceModel() unit {
	k := s.knob
	if s.block.Effect == plan.EffectReverb {
		spring := s.word("type") == "spring" || s.says("spring") || s.gear.Kind == plan.Amp
		// An amp's own reverb mixes in little: its full is half wet.
		if s.gear.Kind == plan.Amp {
			return newReverb(4, k(3, "reverb", "mix", "level")*0.5, spring, false)
		}
		size := k(5, "size", "decay")
		if s.word("type") == "hall" {
			size += 2
		}
		return newReverb(size, k(3, "mix", "level"), spring, s.block.Outputs == "stereo")
	}
	cross := s.says("ping-pong") && s.block.Outputs == "stereo"
	return newDelay(k(400, "time"), k(4, "repeats", "feedback"), k(4, "mix", "level"), s.says("tape"), cross)
}

// motionModel is that of modulation and pitch, and of what passes a signal through.
func (s settings) motionModel() (unit, string) {
	k := s.knob
	switch s.block.Effect {
	case plan.EffectWah:
		position := k(5, "position")
		return bothSides(func() interface{ run([]float64) } { return filters{wahFilter(position)} }), ""
	case plan.EffectOctave:
		return bothSides(func() interface{ run([]float64) } { return newDivider(k(5, "octave"), k(5, "dry")) }), ""
	case plan.EffectPitch:
		semitones := map[string]float64{"octave up": 12, "fifth up": 7, "fourth down": -5, "octave down": -12}[s.word("interval")]
		return bothSides(func() interface{ run([]float64) } { return newShifter(semitones, k(5, "mix")) }), ""
	case plan.EffectVibe, plan.EffectRotary:
		return newPhasing(speedOf(k(4, "speed")), 200, 1+2*turnOf(k(6, "depth")), 0.5, 1.25*levelKnob(k(5, "volume")), 0.4, 1, 2.5, 6), ""
	case plan.EffectPhaser:
		return newPhasing(speedOf(k(3, "speed")), 300, 3, 0.5, 1.15, 1, 1, 1, 1), ""
	case plan.EffectChorus:
		return newSwept(speedOf(k(4, "speed")), 7, 6*turnOf(k(5, "depth")), 0, 0.5), ""
	case plan.EffectFlanger:
		return newSwept(speedOf(k(2, "speed")), 0.6, 5*turnOf(k(5, "depth")), 0.7*turnOf(k(5, "regeneration")), 0.5), ""
	case plan.EffectTremolo:
		return &tremolo{lfo: newLFO(speedOf(k(6, "speed"))), depth: turnOf(k(5, "depth")), level: levelKnob(k(5, "level"))}, ""
	}
	return nil, "" // wire: a tuner, a buffer, a DI, a splitter, a mixer, a radio, a load
}
