package signal

import (
	"math"
	"sync"

	"gonum.org/v1/gonum/dsp/fourier"
)

// The multitone of the dirt figure: 24 tones, even to the ear from 82 to 5000 Hz, on prime bins of its period, so that
// what they make among each other falls beside them; 3 dB an octave down, 0.1 V rms, with phases that give a crest of
// 12 dB. Some of it settles, the next whole period is measured.
const (
	tonePeriod = 65536
	toneCount  = 24
	toneLow    = 82.0
	toneHigh   = 5000.0
	toneRMS    = 0.1
	toneSeed   = 3

	// So many samples settle: a third of a second. With a whole period no drive, fuzz or compressor of the catalog comes
	// out another by more than a twentieth of a per cent.
	toneSettling = tonePeriod / 4
)

// toneSignal is a multitone: one period of it, and the bins that it is on.
type toneSignal struct {
	x       []float64
	bins    map[int]bool
	spectra sync.Pool // of *spectrum: their tables are a tenth of the work of metering dirt
}

// spectrum is what it takes to look at a period of a multitone.
type spectrum struct {
	fft *fourier.FFT
	in  []float64
	out []complex128
}

func newTones(period int, seed uint32) *toneSignal {
	t := &toneSignal{bins: map[int]bool{}}
	t.spectra.New = func() any {
		return &spectrum{fft: fourier.NewFFT(period), out: make([]complex128, period/2+1)}
	}
	bins := make([]complex128, period/2+1)
	for i := range toneCount {
		hz := toneLow * math.Pow(toneHigh/toneLow, float64(i)/(toneCount-1))
		bin := nearestPrime(int(math.Round(hz*float64(period)/Rate)), t.bins)
		t.bins[bin] = true
		seed = seed*1664525 + 1013904223
		phase := 2 * math.Pi * float64(seed) / (1 << 32)
		level := math.Pow(float64(bin), -0.5) // 3 dB an octave
		bins[bin] = complex(level*math.Cos(phase), level*math.Sin(phase))
	}
	t.x = fourier.NewFFT(period).Sequence(nil, bins)
	scaleAll(t.x, toneRMS/rms(t.x))
	return t
}

var multitone = sync.OnceValue(func() *toneSignal { return newTones(tonePeriod, toneSeed) })

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

// dirt is how much of the K-weighted output is what the tones were not, in per cent rms, over the last period.
func (t *toneSignal) dirt(w wave) float64 {
	made, all := 0.0, 0.0
	s := t.spectra.Get().(*spectrum)
	defer t.spectra.Put(s)
	for _, side := range w.channels() {
		s.in = append(s.in[:0], side...)
		kWeighting().run(s.in)
		for bin, c := range s.fft.Coefficients(s.out, s.in[len(s.in)-len(t.x):]) {
			if bin == 0 {
				continue
			}
			p := real(c)*real(c) + imag(c)*imag(c)
			all += p
			if !t.bins[bin] {
				made += p
			}
		}
	}
	if all <= quiet {
		return 0
	}
	return 100 * math.Sqrt(made/all)
}

// by is a period of the tones by a factor, and so many samples ahead of it in which a chain settles, at most a period.
func (t *toneSignal) by(k float64, settling int) []float64 {
	in := make([]float64, 0, settling+len(t.x))
	in = append(append(in, t.x[len(t.x)-settling:]...), t.x...)
	scaleAll(in, k)
	return in
}
