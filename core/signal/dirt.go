package signal

import (
	"math"
	"sync"

	"gonum.org/v1/gonum/dsp/fourier"
)

// The multitone of the dirt figure: 24 tones, even to the ear from 82 to 5000 Hz, on prime bins of a
// period of 65536 samples, so that what they make among each other falls beside them; 3 dB an octave
// down, 0.1 V rms, with phases that give a crest of 12 dB. One period settles, the next is measured.
const (
	tonePeriod = 65536
	toneCount  = 24
	toneLow    = 82.0
	toneHigh   = 5000.0
	toneRMS    = 0.1
	toneSeed   = 3
)

var multitone = sync.OnceValues(func() ([]float64, map[int]bool) {
	bins := map[int]bool{}
	spectrum := make([]complex128, tonePeriod/2+1)
	seed := uint32(toneSeed)
	for i := range toneCount {
		hz := toneLow * math.Pow(toneHigh/toneLow, float64(i)/(toneCount-1))
		bin := nearestPrime(int(math.Round(hz*tonePeriod/Rate)), bins)
		bins[bin] = true
		seed = seed*1664525 + 1013904223
		phase := 2 * math.Pi * float64(seed) / (1 << 32)
		level := math.Pow(float64(bin), -0.5) // 3 dB an octave
		spectrum[bin] = complex(level*math.Cos(phase), level*math.Sin(phase))
	}
	x := fourier.NewFFT(tonePeriod).Sequence(nil, spectrum)
	k := toneRMS / rms(x)
	for i := range x {
		x[i] *= k
	}
	return x, bins
})

// nearestPrime is the prime nearest to a bin that is not taken.
func nearestPrime(n int, taken map[int]bool) int {
	for d := 0; ; d++ {
		for _, m := range [2]int{n - d, n + d} {
			if isPrime(m) && !taken[m] {
				return m
			}
		}
	}
}

func isPrime(n int) bool {
	if n < 2 {
		return false
	}
	for d := 2; d*d <= n; d++ {
		if n%d == 0 {
			return false
		}
	}
	return true
}

// dirtOf is how much of the K-weighted output is what the tones were not, in per cent rms.
func dirtOf(w wave) float64 {
	_, bins := multitone()
	made, all := 0.0, 0.0
	fft := fourier.NewFFT(tonePeriod)
	for _, x := range w.channels() {
		y := append([]float64(nil), x...)
		kWeighting().run(y)
		for bin, c := range fft.Coefficients(nil, y[len(y)-tonePeriod:]) {
			if bin == 0 {
				continue
			}
			p := real(c)*real(c) + imag(c)*imag(c)
			all += p
			if !bins[bin] {
				made += p
			}
		}
	}
	if all <= quiet {
		return 0
	}
	return 100 * math.Sqrt(made/all)
}

// tonesBy is two periods of the multitone by a factor: one settles, one is measured.
func tonesBy(k float64) []float64 {
	x, _ := multitone()
	in := append(append(make([]float64, 0, 2*tonePeriod), x...), x...)
	for i := range in {
		in[i] *= k
	}
	return in
}
