package signal

import "math"

// This file holds the models of amps, speakers and equalisers.

// Voice is what kind of preamp a channel is.
type voice int

const (
	cleanVoice  voice = iota // stays clean until it is pushed
	edgeVoice                // breaks up when dug into
	drivenVoice              // made to distort: two stages in a row
)

// preampCircuit is one or two leaning valve stages with a coupling corner between them. Gain is the
// drive of the first; a driven voice has a second with fixed gain (after the cascades analysed in
// Yeh 2009; the stages here are static).
type preampCircuit struct {
	first, second float64
	stages        int
	couple        [2]onePole
	miller        onePole // what a stage's own capacitance leaves of the one before
	bent          [2]bender
	level         float64
}

// How far a stage leans to one side.
const (
	firstLean  = 0.7
	secondLean = 0.8
)

func (c *preampCircuit) bends() int { return c.stages }

func (c *preampCircuit) before(x []float64) { scaleAll(x, c.first) }

func (c *preampCircuit) shape(x []float64) {
	c.bent[0].run(x)
	if c.stages == 2 {
		c.couple[0].highs(x)
		c.miller.lows(x)
		scaleAll(x, c.second)
		c.bent[1].run(x)
	}
}

func (c *preampCircuit) after(x []float64) {
	c.couple[c.stages-1].highs(x)
	scaleAll(x, c.level)
}

// newPreamp: a clean voice runs from 0.4 to 6 times, an edge voice from 0.8 to 18, a driven one from
// 2 to 60 and then 4 times again; at the middle of the knob the reference chord leaves a clean voice
// alone, brings an edge voice to the start of its bend, and a driven one well over it.
func newPreamp(v voice, gain, rate float64) *preampCircuit {
	t := turnOf(gain)
	fine := rate > Rate
	c := &preampCircuit{
		stages: 1, couple: [2]onePole{newOnePole(30, Rate), newOnePole(90, Rate)},
		bent: [2]bender{newBend(firstCurve, fine), newBend(secondCurve, fine)},
	}
	switch v {
	case cleanVoice:
		c.first, c.level = 0.4*math.Pow(15, t), 0.9
	case edgeVoice:
		c.first, c.level = 0.8*math.Pow(22, t), 0.6
	case drivenVoice:
		c.first, c.second, c.stages, c.level = 2*math.Pow(30, t), 4, 2, 0.35
		c.couple[0], c.miller = newOnePole(30, rate), newOnePole(14000, rate)
	}
	return c
}

// tones are bass, middle and treble about their noon: shelves at 120 Hz and 2.5 kHz and a bell at
// 550 Hz, 12 dB each way, over the dip that passive tone stacks have at noon.
func tones(bass, mid, treble float64) filters {
	db := func(p float64) float64 { return (p - 5) * 2.4 }
	return filters{lowShelf(120, db(bass), Rate), peaking(550, 0.7, db(mid)-4, Rate), highShelf(2500, db(treble), Rate)}
}

// brightness is what else is turned about the top of an amp: a bright capacitor across its volume, which
// does less the further that is up; presence, which takes the top out of what a power section feeds back,
// 6 dB each way about its noon; and a cut, which shunts the top between its valves, 12 dB at full.
func brightness(bright bool, presence, cut, gainAt float64) filters {
	var f filters
	if bright {
		f = append(f, highShelf(1500, 8*(1-turnOf(gainAt)), Rate))
	}
	if presence != 5 {
		f = append(f, highShelf(2800, (presence-5)*1.2, Rate))
	}
	if cut > 0 {
		f = append(f, highShelf(1800, -1.2*cut, Rate))
	}
	return f
}

// powerCircuit is a power section: straight, then softly limited, with what its transformer loses
// below 70 Hz. Its volts are those at the speaker's microphone.
type powerCircuit struct {
	k, limit float64
	low      onePole
	valves   bender
}

func (c *powerCircuit) bends() int { return 1 }

func (c *powerCircuit) before(x []float64) {
	c.low.highs(x)
	scaleAll(x, c.k/c.limit)
}

func (c *powerCircuit) shape(x []float64) { c.valves.run(x) }

func (c *powerCircuit) after(x []float64) { scaleAll(x, c.limit) }

// newPower: the master from silence to 4 times through an audio taper; it limits at 0.9 V at the
// microphone, so that a hard chord on a clean amp is near full.
func newPower(master, rate float64) *powerCircuit {
	return &powerCircuit{
		k: 4 * Taper(turnOf(master)), limit: 0.9, low: newOnePole(70, Rate), valves: newBend(softCurve, rate > Rate),
	}
}

// speaker is a twelve-inch one by its shape: no lows below its resonance, a rise before its top, and
// a steep fall (after published curves of such speakers; closed at the back it has more lows).
func speaker(closed bool) filters {
	low, bump := 95.0, 2.0
	if closed {
		low, bump = 75, 4
	}
	return filters{
		highPass(low, 0.9, Rate), peaking(120, 1, bump, Rate), peaking(400, 0.7, -3, Rate), peaking(2600, 0.9, 5, Rate),
		lowPass(4800, 0.8, Rate), lowPass(5200, 0.7, Rate),
	}
}

// graphic is seven bells an octave apart, 12 dB each way, and a level.
func graphic(position func(id string) float64) filters {
	var f filters
	for _, b := range []struct {
		id string
		hz float64
	}{{"100", 100}, {"200", 200}, {"400", 400}, {"800", 800}, {"1600", 1600}, {"3200", 3200}, {"6400", 6400}} {
		f = append(f, peaking(b.hz, 1.4, (position(b.id)-5)*2.4, Rate))
	}
	return f
}
