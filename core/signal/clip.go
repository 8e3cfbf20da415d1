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

// shaper is a circuit that bends a signal. Only what bends, and what stands between two bends, need run
// faster than the rest.
type shaper interface {
	before(x []float64) // what is linear before it
	shape(x []float64)  // what bends, at the rate the circuit was built for
	after(x []float64)  // what is linear after it
	bends() int         // how many bends a signal passes, each of which makes it a sample late where it is fine
}

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
