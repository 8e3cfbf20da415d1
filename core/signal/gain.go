package signal

import (
	"math"
	"slices"
)

// This file holds the models of boosts and dirt. Volts in, volts out; a pedal runs on 9 V, so its
// stages limit near 4 V.

const rail = 4.0

// knob is a position of 0 to 10 as a fraction of its turn.
func turnOf(position float64) float64 { return math.Min(math.Max(position/10, 0), 1) }

// straight is a circuit with nothing linear beside what bends in it.
type straight struct{}

func (straight) before([]float64) {}
func (straight) after([]float64)  {}

// boostCircuit is a clean boost: 0 to 20 dB, limited by its rails.
type boostCircuit struct {
	k    float64
	rail bender
}

func newBoost(k, rate float64) *boostCircuit {
	return &boostCircuit{k, newBend(hardCurve, rate > Rate)}
}

func (c *boostCircuit) bends() int { return 1 }

func (c *boostCircuit) before(x []float64) { scaleAll(x, c.k/rail) }

func (c *boostCircuit) shape(x []float64) { c.rail.run(x) }

func (c *boostCircuit) after(x []float64) { scaleAll(x, rail) }

func scaleAll(x []float64, k float64) {
	for i := range x {
		x[i] *= k
	}
}

// overdriveCircuit is an op-amp with a diode pair in its feedback: the clean signal passes, and to
// it is added what the diodes let through of the amplified band above its corner. That is why its
// dirt falls back as the clean signal grows over it, and why the bass stays clean (Yeh, Abel and
// Smith, "Simplified, physically-informed models of distortion and overdrive guitar effects
// pedals", DAFx 2007).
type overdriveCircuit struct {
	straight
	bent   []float64
	corner onePole // of the clipped band
	k      float64 // gain of the loop
	knee   float64 // volts of the diodes
	diodes bender
	clean  float64 // how much passes unclipped
	tone   onePole
	level  float64
}

func (c *overdriveCircuit) bends() int { return 1 }

func (c *overdriveCircuit) shape(x []float64) {
	k, level := c.k/c.knee, c.level/rail
	c.bent = append(c.bent[:0], x...)
	c.corner.highs(c.bent)
	scaleAll(c.bent, k)
	c.diodes.run(c.bent)
	c.diodes.delayed(x)
	for i, v := range c.bent {
		x[i] = c.clean*x[i] + c.knee*v
	}
	c.tone.lows(x)
	for i, v := range x {
		x[i] = rail * soft(v*level)
	}
}

// midHump: 720 Hz is where 4.7 kohm and 47 nF turn; the loop runs from 11 to 117 times (51 to 551
// kohm over 4.7), germanium-hard knees at 0.5 V for a pair. The drive pot has a log taper. What comes
// after the loop is set, as in every drive here, so that noon on both knobs is a little over off.
func midHump(drive, tone, level, rate float64) *overdriveCircuit {
	return &overdriveCircuit{
		corner: newOnePole(720, rate), k: (51 + 500*Taper(turnOf(drive))) / 4.7, knee: 0.5,
		diodes: newBend(softCurve, rate > Rate), clean: 1,
		tone: newOnePole(700*math.Pow(10, turnOf(tone)), rate), level: 0.35 * levelKnob(level),
	}
}

// transparent: the same with its corner below the guitar and a loop from 4 to 140 times into wider
// and sharper knees of 1.1 V, so that nothing stands out, and that it is clean when it is played softly.
func transparent(drive, tone, level, rate float64) *overdriveCircuit {
	return &overdriveCircuit{
		corner: newOnePole(
			120,
			rate,
		), k: 4 + 136*Taper(turnOf(drive)), knee: 1.1, diodes: newBend(hardCurve, rate > Rate),
		clean: 0.5,
		tone:  newOnePole(2200*math.Pow(8, turnOf(tone)), rate), level: 0.2 * levelKnob(level),
	}
}

// distortionCircuit is a gain stage into diodes to ground: nothing clean passes.
type distortionCircuit struct {
	corner onePole
	k      float64
	knee   float64
	diodes bender
	tone   onePole
	level  float64
}

func (c *distortionCircuit) bends() int { return 1 }

func (c *distortionCircuit) before(x []float64) {
	c.corner.highs(x)
	scaleAll(x, c.k/c.knee)
}

func (c *distortionCircuit) shape(x []float64) { c.diodes.run(x) }

func (c *distortionCircuit) after(x []float64) {
	c.tone.lows(x)
	scaleAll(x, c.level*c.knee)
}

// hardClip: 5 to 500 times above 160 Hz into 0.6 V of silicon.
func hardClip(drive, tone, level, rate float64) *distortionCircuit {
	return &distortionCircuit{
		corner: newOnePole(160, Rate), k: 5 * math.Pow(100, turnOf(drive)), knee: 0.6,
		diodes: newBend(hardCurve, rate > Rate),
		tone:   newOnePole(900*math.Pow(12, turnOf(tone)), Rate), level: 0.22 * levelKnob(level),
	}
}

// thinning: the gain is a feedback of 1 Mohm over what the drive pot leaves, from 100 down to 4.7 kohm, in
// series with 47 nF: as the gain goes up from 10 to 213 times, the corner under which it is 1 goes up from
// 34 to 720 Hz. Diodes to earth clip at 0.6 V what comes of it.
func thinning(drive, tone, level, rate float64) *thinningCircuit {
	ohm := 100e3 * math.Pow(0.047, turnOf(drive))
	return &thinningCircuit{distortionCircuit{
		corner: newOnePole(
			1/(2*math.Pi*ohm*47e-9),
			Rate,
		), k: 1e6 / ohm, knee: 0.6, diodes: newBend(hardCurve, rate > Rate),
		tone: newOnePole(900*math.Pow(12, turnOf(tone)), Rate), level: 0.25 * levelKnob(level),
	}}
}

// thinningCircuit is a distortion whose whole signal passes beside what is amplified.
type thinningCircuit struct{ distortionCircuit }

func (c *thinningCircuit) before(x []float64) {
	for i, v := range x {
		x[i] = (v + c.corner.high(v)*c.k) / c.knee
	}
	c.corner.rest()
}

// fuzzCircuit is two transistors in a loop of very high gain, biased off the middle, so that one
// half of the wave is cut long before the other.
type fuzzCircuit struct {
	block onePole
	k     float64
	both  bender // what both transistors do to a signal
	out   onePole
	level float64
}

// fuzzed is the two transistors, one after the other.
func fuzzed(x float64) float64 {
	return hard((leaning(x+0.25, 0.45) - leaning(0.25, 0.45)) * 2.2)
}

func (c *fuzzCircuit) bends() int { return 1 }

func (c *fuzzCircuit) before(x []float64) { scaleAll(x, c.k) }

func (c *fuzzCircuit) shape(x []float64) { c.both.run(x) }

func (c *fuzzCircuit) after(x []float64) {
	c.block.highs(x)
	c.out.lows(x)
	scaleAll(x, c.level)
}

func newFuzz(amount, volume, rate float64) *fuzzCircuit {
	return &fuzzCircuit{
		block: newOnePole(60, Rate), k: 8 * math.Pow(80, turnOf(amount)), both: newBend(fuzzCurve, rate > Rate),
		out: newOnePole(5500, Rate), level: 0.13 * levelKnob(volume),
	}
}

// compressor is an optical one: the level of the last tens of milliseconds, above a threshold that
// the squeeze knob lowers, is brought down four to one; a cell lets go slowly (U. Zoelzer, "DAFX",
// 2nd ed., chapter 4). It makes up for what it takes of a strummed chord, so that on and off are
// alike at noon.
type compressor struct {
	env, attack, release float64
	threshold, slope     float64
	level                float64
}

// chordLevel is the envelope of a strummed chord of the reference pickup, in dB re 1 V: what
// compressors are set up against.
const chordLevel = -16.0

func newCompressor(squeeze, level float64) *compressor {
	threshold := -24 - 24*turnOf(squeeze)
	slope := 0.75
	makeup := math.Max(0, chordLevel-threshold) * slope
	return &compressor{
		attack: 1 - math.Exp(
			-1/(0.008*Rate),
		), release: 1 - math.Exp(-1/(0.18*Rate)), threshold: threshold, slope: slope,
		level: factor(makeup) * levelKnob(level),
	}
}

func (c *compressor) run(x []float64) {
	const every = 8 // the cell is far slower than that
	k := 1.0
	for i, v := range x {
		p := 2 * v * v // a sine's peak squared, so that the envelope is a peak's
		if p > c.env {
			c.env += c.attack * (p - c.env)
		} else {
			c.env += c.release * (p - c.env)
		}
		if i%every == 0 {
			k = c.level
			if db := 10*math.Log10(c.env+1e-12) - 3; db > c.threshold {
				k *= factor(-(db - c.threshold) * c.slope)
			}
		}
		x[i] = rail * hard(v*k/rail)
	}
	c.env = withoutDenormal(c.env)
}

// gate lets through what is above its threshold, opening at once and closing over 60 ms.
type gate struct {
	env, open float64
	threshold float64
}

func newGate(position float64) *gate { return &gate{threshold: factor(-80 + 45*turnOf(position))} }

// listen runs the gate on x by the level of key.
func (g *gate) listen(x, key []float64) {
	fall := math.Exp(-1 / (0.02 * Rate))
	shut := math.Exp(-1 / (0.06 * Rate))
	for i := range x {
		g.env = math.Max(math.Abs(key[i]), g.env*fall)
		if g.env > g.threshold {
			g.open += 0.02 * (1 - g.open)
		} else {
			g.open *= shut
		}
		x[i] *= g.open
	}
	g.env, g.open = withoutDenormal(g.env), withoutDenormal(g.open)
}

func (g *gate) run(x []float64) { g.listen(x, x) }

// shaped makes a unit of a nonlinear circuit, oversampled where it is to be heard.
func shaped(fine bool, build func(rate float64) shaper) unit {
	return bothSides(func() interface{ run([]float64) } {
		if fine {
			return newOversampled(build(Rate * over))
		}
		return plainShaper{build(Rate)}
	})
}

type plainShaper struct{ shaper }

// plainPiece is how many samples go through a circuit at a time, so that they stay near the processor.
const plainPiece = 1024

func (s plainShaper) run(x []float64) {
	for piece := range slices.Chunk(x, plainPiece) {
		s.before(piece)
		s.shape(piece)
		s.after(piece)
	}
}
