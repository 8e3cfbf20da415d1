package signal

import "math"

// Rate is the sample rate of everything that is rendered, in Hz.
const Rate = 48000

// quiet is below anything a converter could tell from silence; what is smaller is taken as nothing,
// so that no recursion ends in denormal numbers.
const quiet = 1e-20

// biquad is a second-order section in transposed direct form II.
type biquad struct {
	b0, b1, b2, a1, a2 float64
	z1, z2             float64
}

func (f *biquad) step(x float64) float64 {
	y := f.b0*x + f.z1
	f.z1 = f.b1*x + f.z2 - f.a1*y
	f.z2 = f.b2*x - f.a2*y
	return y
}

func (f *biquad) run(x []float64) {
	b0, a1, a2, z1, z2 := f.b0, f.a1, f.a2, f.z1, f.z2
	c1, c2 := f.ahead()
	for len(x) > 0 { // in pieces, so that what has died away does not linger as denormal numbers
		n := min(len(x), 64)
		for i, v := range x[:n] {
			x[i] = b0*v + z1
			z1, z2 = c1*v+z2-a1*z1, c2*v-a2*z1
		}
		z1, z2 = withoutDenormal(z1), withoutDenormal(z2)
		x = x[n:]
	}
	f.z1, f.z2 = z1, z2
}

// ahead is what of a sample goes to the state at once, where the state does not wait for what comes out: with
// y = b0*x + z1 put in, z1 becomes (b1 - a1*b0)*x + z2 - a1*z1, two operations after the last and not three.
func (f *biquad) ahead() (c1, c2 float64) { return f.b1 - f.a1*f.b0, f.b2 - f.a2*f.b0 }

// inLoop are the numbers of a section as a loop over samples takes them.
type inLoop struct{ b0, c1, c2, a1, a2 float64 }

func (f *biquad) inLoop() inLoop {
	c1, c2 := f.ahead()
	return inLoop{f.b0, c1, c2, f.a1, f.a2}
}

// withoutDenormal drops what is too small to matter.
func withoutDenormal(x float64) float64 {
	if math.Abs(x) < quiet {
		return 0
	}
	return x
}

// The shapes of section below are those of R. Bristow-Johnson, "Cookbook formulae for audio
// equalizer biquad filter coefficients" (W3C note 2021).

func lowPass(hz, q, rate float64) biquad {
	c, alpha := bend(hz, q, rate)
	return section((1-c)/2, 1-c, (1-c)/2, 1+alpha, -2*c, 1-alpha)
}

func highPass(hz, q, rate float64) biquad {
	c, alpha := bend(hz, q, rate)
	return section((1+c)/2, -(1 + c), (1+c)/2, 1+alpha, -2*c, 1-alpha)
}

// bandPass has a gain of 1 at its middle.
func bandPass(hz, q, rate float64) biquad {
	c, alpha := bend(hz, q, rate)
	return section(alpha, 0, -alpha, 1+alpha, -2*c, 1-alpha)
}

func peaking(hz, q, db, rate float64) biquad {
	c, alpha := bend(hz, q, rate)
	a := math.Pow(10, db/40)
	return section(1+alpha*a, -2*c, 1-alpha*a, 1+alpha/a, -2*c, 1-alpha/a)
}

func lowShelf(hz, db, rate float64) biquad {
	c, alpha := bend(hz, math.Sqrt2/2, rate)
	a := math.Pow(10, db/40)
	s := 2 * math.Sqrt(a) * alpha
	return section(a*((a+1)-(a-1)*c+s), 2*a*((a-1)-(a+1)*c), a*((a+1)-(a-1)*c-s),
		(a+1)+(a-1)*c+s, -2*((a-1)+(a+1)*c), (a+1)+(a-1)*c-s)
}

func highShelf(hz, db, rate float64) biquad {
	c, alpha := bend(hz, math.Sqrt2/2, rate)
	a := math.Pow(10, db/40)
	s := 2 * math.Sqrt(a) * alpha
	return section(a*((a+1)+(a-1)*c+s), -2*a*((a-1)+(a+1)*c), a*((a+1)+(a-1)*c-s),
		(a+1)-(a-1)*c+s, 2*((a-1)-(a+1)*c), (a+1)-(a-1)*c-s)
}

func bend(hz, q, rate float64) (cos, alpha float64) {
	w := 2 * math.Pi * math.Min(hz, 0.49*rate) / rate
	return math.Cos(w), math.Sin(w) / (2 * q)
}

func section(b0, b1, b2, a0, a1, a2 float64) biquad {
	return biquad{b0: b0 / a0, b1: b1 / a0, b2: b2 / a0, a1: a1 / a0, a2: a2 / a0}
}

// onePole is a first-order low pass.
type onePole struct{ k, y float64 }

func newOnePole(hz, rate float64) onePole { return onePole{k: 1 - math.Exp(-2*math.Pi*hz/rate)} }

func (f *onePole) low(x float64) float64 {
	f.y = (1-f.k)*f.y + f.k*x
	return f.y
}

func (f *onePole) high(x float64) float64 { return x - f.low(x) }

// lows leaves what is under its corner of a signal.
func (f *onePole) lows(x []float64) {
	k, keep, y := f.k, 1-f.k, f.y
	i := 0
	for ; i+1 < len(x); i += 2 { // two at a time: the second need not wait for the first
		a, b := k*x[i], k*x[i+1]
		x[i], x[i+1] = keep*y+a, keep*keep*y+(keep*a+b)
		y = x[i+1]
	}
	if i < len(x) {
		y = keep*y + k*x[i]
		x[i] = y
	}
	f.y = withoutDenormal(y)
}

// highs leaves what is over it.
func (f *onePole) highs(x []float64) {
	k, keep, y := f.k, 1-f.k, f.y
	i := 0
	for ; i+1 < len(x); i += 2 { // two at a time, as in lows
		v, w := x[i], x[i+1]
		a, b := k*v, k*w
		x[i] = v - (keep*y + a)
		y = keep*keep*y + (keep*a + b)
		x[i+1] = w - y
	}
	if i < len(x) {
		y = keep*y + k*x[i]
		x[i] -= y
	}
	f.y = withoutDenormal(y)
}

func (f *onePole) rest() { f.y = withoutDenormal(f.y) }

// decibels as a factor, and back.
func factor(db float64) float64 { return math.Pow(10, db/20) }

func decibels(x float64) float64 { return 20 * math.Log10(math.Max(x, 1e-12)) }

// Taper is the electrical fraction of an audio pot at a share of its turn: two straight slopes through 15 per cent at
// half turn, as such pots are made.
func Taper(turn float64) float64 {
	turn = math.Min(math.Max(turn, 0), 1)
	if turn < 0.5 {
		return 0.3 * turn
	}
	return 0.15 + 1.7*(turn-0.5)
}

// levelKnob is the factor of a pedal's level knob: unity at noon, through an audio taper, so that
// full is 16.5 dB up.
func levelKnob(position float64) float64 { return Taper(position/10) / Taper(0.5) }
