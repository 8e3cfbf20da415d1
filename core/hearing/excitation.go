package hearing

import (
	"math"
	"slices"
	"sync"
)

// Component is a part of a sound in a narrow band.
type Component struct {
	Hz    float64
	Power float64 // re 20 uPa squared: 10 log10 of it is the level in dB SPL
}

// Excitation is the power that reaches each place along the ear.
type Excitation [Places]float64

// lines are frequencies at which sounds have components, with what does not depend on their levels.
type lines struct {
	hz   []float64
	in   []float64   // what gets through to the inner ear, as a factor
	near [][]float64 // how much of each line falls into the filter at each
}

// tooFar is the exponent of a skirt from which on it is left out: 100 dB down.
const tooFar = 26

func linesAt(hz []float64) *lines {
	l := &lines{hz: hz, in: make([]float64, len(hz)), near: make([][]float64, len(hz))}
	for i, at := range hz {
		l.in[i] = power(along(transfer, at))
		slope := 4 * at / ERB(at)
		l.near[i] = make([]float64, len(hz))
		for k, other := range hz {
			if g := slope * math.Abs(other-at) / at; g < tooFar {
				l.near[i][k] = (1 + g) * math.Exp(-g)
			}
		}
	}
	return l
}

// skirts are how much of each line reaches each place when all that is heard has the powers that are given:
// rounded-exponential filters, whose lower skirt is shallower the higher the level.
func (l *lines) skirts(all []float64) [][]float64 {
	out := make([][]float64, Places)
	for i := range out {
		out[i] = make([]float64, len(l.hz))
	}
	for k, hz := range l.hz {
		inside := 0.0
		for n, x := range all {
			inside += l.near[k][n] * x * l.in[n]
		}
		level := decibels(inside)
		for i := range places() {
			p := &places()[i]
			g := (hz - p.hz) / p.hz
			slope := p.slope
			if g < 0 {
				slope = math.Max(slope-0.35*slope/slope1k*(level-51), 0.1*slope)
				g = -g
			}
			if x := slope * g; x < tooFar {
				out[i][k] = (1 + x) * math.Exp(-x) * l.in[k]
			}
		}
	}
	return out
}

// excite is the excitation of each of several sounds that reach the ear together. The filters are as wide as the
// level of all of them makes them, so that their excitations add up.
func (l *lines) excite(sounds [][]float64) []Excitation {
	return through(l.skirts(sumOf(sounds, len(l.hz))), sounds)
}

// sumOf is what several sounds have in each of some lines, together.
func sumOf(sounds [][]float64, lines int) []float64 {
	all := make([]float64, lines)
	for _, s := range sounds {
		for k, x := range s {
			all[k] += x
		}
	}
	return all
}

// through is the excitation of each of some sounds by filters that are given.
func through(skirts [][]float64, sounds [][]float64) []Excitation {
	out := make([]Excitation, len(sounds))
	for n, s := range sounds {
		for i, row := range skirts {
			for k, x := range s {
				out[n][i] += row[k] * x
			}
		}
	}
	return out
}

// excited is the excitation of each of several sounds by their components.
func excited(sounds [][]Component) []Excitation {
	var hz []float64
	for _, s := range sounds {
		for _, c := range s {
			hz = append(hz, c.Hz)
		}
	}
	slices.Sort(hz)
	hz = slices.Compact(hz)
	powers := make([][]float64, len(sounds))
	for n, s := range sounds {
		powers[n] = make([]float64, len(hz))
		for _, c := range s {
			k, _ := slices.BinarySearch(hz, c.Hz)
			powers[n][k] += math.Max(c.Power, 0)
		}
	}
	return linesAt(hz).excite(powers)
}

// linesABand is how many components stand for a third-octave band: under half a Cam apart everywhere.
const linesABand = 5

// ofBands are the lines that stand for third-octave bands.
var ofBands = sync.OnceValue(func() *lines {
	hz := make([]float64, 0, Bands*linesABand)
	for band := range Bands {
		low, high := Edges(band)
		for k := range linesABand {
			hz = append(hz, low+(high-low)*(float64(k)+0.5)/linesABand)
		}
	}
	return linesAt(hz)
})

// excitedBy is the excitation of each of several sounds by their third-octave bands, each evenly filled, as ANSI
// S3.4 reads them.
func excitedBy(sounds []Spectrum) []Excitation { return ofBands().excite(powersOf(sounds)) }

// powersOf are what spectra have in each of the lines that stand for bands.
func powersOf(sounds []Spectrum) [][]float64 {
	powers := make([][]float64, len(sounds))
	for n, s := range sounds {
		powers[n] = make([]float64, 0, Bands*linesABand)
		for _, x := range s {
			for range linesABand {
				powers[n] = append(powers[n], x/linesABand)
			}
		}
	}
	return powers
}
