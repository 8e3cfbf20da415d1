package hearing

import "math"

// Bands is how many third-octave bands a spectrum has: those of IEC 61260 from 25 Hz to 16 kHz.
const Bands = 29

// Spectrum is the power in each third-octave band, re 20 uPa squared.
type Spectrum [Bands]float64

// Centre is the middle of a band in Hz: 1000 times two to the thirds.
func Centre(band int) float64 { return 1000 * math.Pow(2, float64(band-16)/3) }

// Edges are where a band begins and ends, in Hz.
func Edges(band int) (low, high float64) {
	return Centre(band) * math.Pow(2, -1.0/6), Centre(band) * math.Pow(2, 1.0/6)
}

// FromLevels is the spectrum of levels in dB SPL.
func FromLevels(levels [Bands]float64) Spectrum {
	var s Spectrum
	for i, db := range levels {
		s[i] = power(db)
	}
	return s
}

// Levels are the levels of the bands in dB SPL; -120 where there is nothing.
func (s Spectrum) Levels() [Bands]float64 {
	var out [Bands]float64
	for i, x := range s {
		out[i] = decibels(x)
	}
	return out
}

// Level is the level of all bands together in dB SPL.
func (s Spectrum) Level() float64 {
	sum := 0.0
	for _, x := range s {
		sum += x
	}
	return decibels(sum)
}

// Raised is the spectrum so many dB up.
func (s Spectrum) Raised(db float64) Spectrum {
	for i := range s {
		s[i] *= power(db)
	}
	return s
}

// Tilted is the spectrum with so many dB an octave more above 1 kHz and less below.
func (s Spectrum) Tilted(dbPerOctave float64) Spectrum {
	for i := range s {
		s[i] *= power(dbPerOctave * float64(i-16) / 3)
	}
	return s
}

// Plus is two spectra that do not depend on each other, together.
func (s Spectrum) Plus(other Spectrum) Spectrum {
	for i, x := range other {
		s[i] += x
	}
	return s
}
