package signal

import (
	"math"
	"sync"
)

// This file lets nonlinear circuits be heard without what they make above the band folding back into it:
// they run at four times the rate, and what they bend is the mean over two samples of what a continuous
// signal would be bent to (S. Bilbao, F. Esqueda, J. Parker and V. Valimaki, "Antiderivative antialiasing
// for memoryless nonlinearities", IEEE Signal Processing Letters 2017, second order).

// curve is a memoryless nonlinearity with its first two integrals, in pieces: on each the second integral is
// a polynomial of fifth degree that agrees with it, with the first and with the curve at both ends.
type curve struct {
	f      func(float64) float64
	all    func(x []float64) // bends a signal as f does, without a call for each sample
	pieces *[curvePieces][6]float64
	ends   [2]end // beyond the pieces the curve is flat
}

// end is the curve and its integrals where the pieces end.
type end struct{ x, f, f1, f2 float64 }

// Where a curve is in pieces, and how wide they are. All that bend here are within a thousandth of flat
// at the ends.
const (
	curveReach  = 16.0
	curveStep   = 1.0 / 16
	curvePieces = 2 * curveReach / curveStep
)

func newCurve(f func(float64) float64, all func(x []float64)) *curve {
	c := &curve{f: f, all: all, pieces: new([curvePieces][6]float64)}
	f1, f2 := 0.0, 0.0
	left := end{x: -curveReach, f: f(-curveReach)}
	c.ends[0] = left
	for i := range c.pieces {
		x := -curveReach + float64(i)*curveStep
		// Both integrals over the piece, by Gauss and Legendre with five points.
		a, b := 0.0, 0.0
		for k, at := range gaussAt {
			t := (at + 1) / 2
			v := gaussWeight[k] / 2 * f(x+t*curveStep) * curveStep
			a, b = a+v, b+v*(1-t)*curveStep
		}
		right := end{x: x + curveStep, f: f(x + curveStep), f1: f1 + a, f2: f2 + f1*curveStep + b}
		c.pieces[i] = quintic(left, right)
		left, f1, f2 = right, right.f1, right.f2
	}
	c.ends[1] = left
	return c
}

var (
	gaussAt     = [5]float64{-0.9061798459386640, -0.5384693101056831, 0, 0.5384693101056831, 0.9061798459386640}
	gaussWeight = [5]float64{
		0.2369268850561891, 0.4786286704993665, 0.5688888888888889, 0.4786286704993665, 0.2369268850561891,
	}
)

// quintic is the polynomial over 0 to 1 that has a second integral's value, slope and bend at both ends.
func quintic(a, b end) [6]float64 {
	const h = curveStep
	p0, v0, w0 := a.f2, a.f1*h, a.f*h*h
	p1, v1, w1 := b.f2, b.f1*h, b.f*h*h
	d := p1 - p0
	return [6]float64{
		p0, v0, w0 / 2,
		10*d - 6*v0 - 4*v1 - 1.5*w0 + 0.5*w1,
		-15*d + 8*v0 + 7*v1 + 1.5*w0 - w1,
		6*d - 3*v0 - 3*v1 - 0.5*w0 + 0.5*w1,
	}
}

// twice is the second integral.
func (c *curve) twice(x float64) float64 {
	if at := (x + curveReach) * (1 / curveStep); at >= 0 && at < curvePieces {
		i := int(at)
		t := at - float64(i)
		p := &c.pieces[i]
		return p[0] + t*(p[1]+t*(p[2]+t*(p[3]+t*(p[4]+t*p[5]))))
	}
	e, d := c.beyond(x)
	return e.f2 + d*(e.f1+d*e.f/2)
}

// once is the first integral.
func (c *curve) once(x float64) float64 {
	if at := (x + curveReach) * (1 / curveStep); at >= 0 && at < curvePieces {
		i := int(at)
		t := at - float64(i)
		p := &c.pieces[i]
		return (p[1] + t*(2*p[2]+t*(3*p[3]+t*(4*p[4]+t*5*p[5])))) * (1 / curveStep)
	}
	e, d := c.beyond(x)
	return e.f1 + d*e.f
}

func (c *curve) beyond(x float64) (end, float64) {
	e := c.ends[0]
	if x > 0 {
		e = c.ends[1]
	}
	return e, x - e.x
}

// closeBy is how near two samples are for their quotient to be taken at their middle: nearer, rounding would
// be more than what that leaves out.
const closeBy = 3e-4

// bender is a curve at work on a signal.
type bender struct {
	*curve
	fine bool // its output is the mean that this file is about; otherwise that of the curve itself

	x1, x2 float64 // the samples before
	f1     float64 // the second integral at x1
	d1     float64 // the slope of it between them
	begun  bool
	v1, v2 float64 // the samples before, of what passes beside it
}

// run bends a signal.
func (b *bender) run(x []float64) {
	if !b.fine {
		b.all(x)
		return
	}
	if !b.begun { // it stood at rest
		b.begun, b.f1, b.d1 = true, b.twice(b.x1), b.once(b.x1)
	}
	x1, x2, f1, d1, pieces := b.x1, b.x2, b.f1, b.d1, b.pieces
	for i, v := range x {
		var fx float64
		if at := (v + curveReach) * (1 / curveStep); at >= 0 && at < curvePieces {
			t := at - float64(int(at))
			p := &pieces[int(at)]
			tt := t * t // two short sums are sooner done than one long
			fx = p[0] + t*p[1] + tt*(p[2]+t*p[3]+tt*(p[4]+t*p[5]))
		} else {
			fx = b.twice(v)
		}
		d, y := 0.0, 0.0
		if apart := v - x1; math.Abs(apart) > closeBy {
			d = (fx - f1) / apart
		} else {
			d = b.once((v + x1) / 2)
		}
		if apart := v - x2; math.Abs(apart) > closeBy {
			y = 2 * (d - d1) / apart
		} else {
			y = b.near(v, x1, x2, f1)
		}
		x2, x1, f1, d1 = x1, v, fx, d
		x[i] = y
	}
	b.x1, b.x2, b.f1, b.d1 = x1, x2, f1, d1
}

// near is the next sample where it is as the one before the last.
func (b *bender) near(x, x1, x2, f1 float64) float64 {
	middle := (x + x2) / 2
	apart := middle - x1
	if apart > closeBy || apart < -closeBy {
		return 2 / apart * (b.once(middle) + (f1-b.twice(middle))/apart)
	}
	return b.f((middle + x1) / 2)
}

// delayed is what passes a bend unbent, as late and as smooth as what comes out of it.
func (b *bender) delayed(x []float64) {
	if !b.fine {
		return
	}
	v1, v2 := b.v1, b.v2
	for i, v := range x {
		x[i] = (v + v1 + v2) * (1.0 / 3)
		v2, v1 = v1, v
	}
	b.v1, b.v2 = v1, v2
}

// The curves of this package, made when they are first heard.
var (
	softCurve = sync.OnceValue(func() *curve {
		return newCurve(soft, func(x []float64) {
			for i, v := range x {
				x[i] = soft(v)
			}
		})
	})
	hardCurve = sync.OnceValue(func() *curve {
		return newCurve(hard, func(x []float64) {
			for i, v := range x {
				x[i] = hard(v)
			}
		})
	})
	// A single stage leans to one side: by so much in the first stage of a preamp, and in its second.
	firstCurve = sync.OnceValue(func() *curve {
		return newCurve(func(x float64) float64 { return leaning(x, firstLean) }, func(x []float64) {
			for i, v := range x {
				x[i] = leaning(v, firstLean)
			}
		})
	})
	secondCurve = sync.OnceValue(func() *curve {
		return newCurve(func(x float64) float64 { return leaning(x, secondLean) }, func(x []float64) {
			for i, v := range x {
				x[i] = leaning(v, secondLean)
			}
		})
	})
	fuzzCurve = sync.OnceValue(func() *curve {
		return newCurve(fuzzed, func(x []float64) {
			for i, v := range x {
				x[i] = fuzzed(v)
			}
		})
	})
)

func newBend(c func() *curve, fine bool) bender { return bender{curve: c(), fine: fine} }

// half is one step of two between rates: a half-band filter in two branches, of which one only waits.
type half struct {
	of   *halfBand
	in   []float64 // what it has of the branch that is filtered
	wait []float64 // and of the one that waits
	out  []float64
}

// halfBand is a half-band filter of 4m+3 taps: those of the branch that does not wait, folded, since it is
// symmetric.
type halfBand struct {
	taps []float64
	run  func(taps, x, out []float64) // filters len(out) samples, of which x has as many more as the filter is long
}

// newHalfBand designs one by a Kaiser window.
func newHalfBand(m int, beta float64, run func(taps, x, out []float64)) *halfBand {
	h := kaiserLowPass(4*m+3, 0.25, beta)
	folded := make([]float64, m+1)
	sum := 0.0
	for k := range folded {
		folded[k] = h[2*k]
		sum += 2 * folded[k]
	}
	for k := range folded {
		folded[k] /= sum // each branch alone leaves a constant as it is
	}
	return &halfBand{folded, run}
}

// The first step is steep, from 20 to 28 kHz; the second has all the room from 20 to 76. Their sums are
// written out: as loops they take twice as long, and they are half of all that listening takes.
var (
	steepBand = newHalfBand(12, 6.6, func(taps, x, out []float64) {
		t := (*[13]float64)(taps)
		for i := range out {
			x := (*[26]float64)(x[i : i+26])
			out[i] = t[0]*(x[0]+x[25]) + t[1]*(x[1]+x[24]) + t[2]*(x[2]+x[23]) + t[3]*(x[3]+x[22]) +
				(t[4]*(x[4]+x[21]) + t[5]*(x[5]+x[20]) + t[6]*(x[6]+x[19]) + t[7]*(x[7]+x[18])) +
				(t[8]*(x[8]+x[17]) + t[9]*(x[9]+x[16]) + t[10]*(x[10]+x[15]) + t[11]*(x[11]+x[14]) + t[12]*(x[12]+x[13]))
		}
	})
	gentleBand = newHalfBand(3, 6.6, func(taps, x, out []float64) {
		t := (*[4]float64)(taps)
		for i := range out {
			x := (*[8]float64)(x[i : i+8])
			out[i] = t[0]*(x[0]+x[7]) + t[1]*(x[1]+x[6]) + (t[2]*(x[2]+x[5]) + t[3]*(x[3]+x[4]))
		}
	})
)

func newHalf(of *halfBand) *half {
	n := len(of.taps)
	return &half{
		of: of, in: make([]float64, 2*n-1, 2*n-1+2*overPiece), wait: make([]float64, n, n+2*overPiece),
		out: make([]float64, 2*overPiece),
	}
}

// latency is how late a step makes a signal, in samples of its faster rate.
func (b *halfBand) latency() int { return 2*len(b.taps) - 1 }

// up doubles the rate.
func (h *half) up(x, out []float64) {
	past := len(h.in)
	h.in = append(h.in, x...)
	even := h.out[:len(x)]
	h.of.run(h.of.taps, h.in, even)
	waits := h.in[past-len(h.of.taps)+1:]
	for i := range x {
		out[2*i], out[2*i+1] = even[i], waits[i]
	}
	h.in = h.in[:copy(h.in, h.in[len(x):])]
}

// down halves the rate.
func (h *half) down(x, out []float64) {
	n := len(x) / 2
	past, waits := len(h.in), len(h.wait)
	h.in, h.wait = h.in[:past+n], h.wait[:waits+n]
	even, odd := h.in[past:], h.wait[waits:]
	for i := range n {
		even[i], odd[i] = x[2*i], x[2*i+1]
	}
	h.of.run(h.of.taps, h.in, out[:n])
	for i := range n {
		out[i] = 0.5 * (out[i] + h.wait[i])
	}
	h.in, h.wait = h.in[:copy(h.in, h.in[n:])], h.wait[:copy(h.wait, h.wait[n:])]
}

// over is how much faster a circuit runs that is to be heard, and overLatency how many samples later what
// comes out of it is, whatever it has in it: its chain makes that good where lanes meet and at its end.
const (
	over        = 4
	overLatency = 30
	overPiece   = 256
)

// oversampled runs what bends in a circuit at four times the rate.
type oversampled struct {
	inner    shaper
	up, down [2]*half
	wide     []float64
	middle   []float64
	hold     []float64 // what makes the delay whole
	held     []float64
}

func newOversampled(inner shaper) *oversampled {
	o := &oversampled{
		inner: inner, up: [2]*half{newHalf(steepBand), newHalf(gentleBand)},
		down: [2]*half{newHalf(gentleBand), newHalf(steepBand)},
	}
	o.wide, o.middle = make([]float64, over*overPiece), make([]float64, over/2*overPiece)
	filters := 2 * (2*steepBand.latency() + gentleBand.latency())
	o.hold = make([]float64, overLatency*over-filters-inner.bends())
	return o
}

func (o *oversampled) run(x []float64) {
	for len(x) > 0 {
		n := min(len(x), overPiece)
		o.piece(x[:n])
		x = x[n:]
	}
}

func (o *oversampled) piece(x []float64) {
	n := len(x)
	middle, wide := o.middle[:2*n], o.wide[:over*n]
	o.inner.before(x)
	o.up[0].up(x, middle)
	o.up[1].up(middle, wide)
	o.inner.shape(wide)
	o.delayed(wide)
	o.down[0].down(wide, middle)
	o.down[1].down(middle, x)
	o.inner.after(x)
}

// delayed holds the signal back by what makes its delay whole.
func (o *oversampled) delayed(wide []float64) {
	o.held = append(append(o.held[:0], o.hold...), wide...)
	copy(wide, o.held)
	copy(o.hold, o.held[len(wide):])
}
