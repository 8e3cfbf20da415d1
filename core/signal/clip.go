package signal

import "math"

// soft is a smooth saturation with a slope of 1 at nothing and a limit of 1: x/sqrt(1+x^2), the
// shape of a long-tailed pair and near that of a diode pair in a feedback loop (D. Yeh, "Digital
// implementation of musical distortion circuits by analysis and simulation", Stanford 2009).
func soft(x float64) float64 { return x / math.Sqrt(1+x*x) }

// hard is nearly straight up to its limit of 1 and flat beyond it: diodes to ground, whose corner
// is sharper than that of soft.
func hard(x float64) float64 {
	q := x * x
	q *= q
	return x / math.Sqrt(math.Sqrt(1+q))
}

// leaning saturates one way earlier than the other, as a single valve or transistor stage does: grid
// or base conduction limits one half, cut-off the other.
func leaning(x, lean float64) float64 {
	if x >= 0 {
		return soft(x)
	}
	return soft(x*lean) / lean
}

// shaper is a memoryless nonlinearity with whatever filters belong to it, run at one rate.
type shaper interface{ shape(x []float64) }

// oversampled runs a shaper at four times the rate between two linear-phase filters (Kaiser window,
// 65 taps), so that what it makes above the band does not fold back. It is [overLate] samples late,
// which a chain makes good where lanes meet and at its end.
type oversampled struct {
	inner    shaper
	up, down []float64 // histories of the two filters
}

const (
	over     = 4
	overTaps = 65
	overLate = (overTaps - 1) / over
)

var overFIR = kaiserLowPass(overTaps, 20000.0/(Rate*over), 6)

// kaiserLowPass is a windowed-sinc low pass (J. F. Kaiser 1974); the corner is in cycles a sample.
func kaiserLowPass(taps int, corner, beta float64) []float64 {
	h := make([]float64, taps)
	sum := 0.0
	mid := float64(taps-1) / 2
	for i := range h {
		t := float64(i) - mid
		s := 2 * corner
		if t != 0 {
			s = math.Sin(2*math.Pi*corner*t) / (math.Pi * t)
		}
		r := t / mid
		h[i] = s * bessel(beta*math.Sqrt(1-r*r)) / bessel(beta)
		sum += h[i]
	}
	for i := range h {
		h[i] /= sum
	}
	return h
}

// bessel is the modified Bessel function I0 by its series.
func bessel(x float64) float64 {
	sum, term := 1.0, 1.0
	for k := 1.0; k < 40; k++ {
		term *= (x / (2 * k)) * (x / (2 * k))
		sum += term
	}
	return sum
}

func newOversampled(inner shaper) *oversampled {
	return &oversampled{inner: inner, up: make([]float64, overTaps/over+1), down: make([]float64, overTaps-1)}
}

func (o *oversampled) run(x []float64) {
	wide := make([]float64, len(x)*over)
	history := len(o.up)
	in := append(append(make([]float64, 0, history+len(x)), o.up...), x...)
	for i := range x {
		for phase := range over {
			sum := 0.0
			for k, tap := 0, phase; tap < overTaps; k, tap = k+1, tap+over {
				sum += overFIR[tap] * in[history+i-k]
			}
			wide[i*over+phase] = sum * over
		}
	}
	copy(o.up, in[len(in)-history:])
	o.inner.shape(wide)
	back := append(append(make([]float64, 0, len(o.down)+len(wide)), o.down...), wide...)
	for i := range x {
		at := back[i*over : i*over+overTaps]
		sum := 0.0
		for k, h := range overFIR {
			sum += h * at[k]
		}
		x[i] = sum
	}
	copy(o.down, back[len(back)-len(o.down):])
}
