package estimate

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/dsp/fourier"

	"envex/core/plan"
	"envex/core/tempo"
)

// Repeats are those of a delay.
type Repeats struct {
	MS      Figure  `json:"ms" doc:"From one to the next."`
	LevelDB Figure  `json:"level_db" doc:"The first, re the note."`
	FallsDB float64 `json:"falls_db" doc:"From one to the next."`
	Heard   int     `json:"heard" doc:"Those above -30 dB."`
}

const (
	shortestMS, longestMS = 60.0, 1600.0
	echoLow, echoHigh     = 200.0, 5000.0 // Hz in which repeats are looked for: where a guitar has partials everywhere
	surely                = 9.0           // times the spread of the cepstrum that a repeat stands out by
	slapMS, surelySlap    = 150, 16.0     // under which notes' own periods reach, and what it takes there
	around                = rate / 50     // samples of the cepstrum on either side of it: 20 ms
	audibleDB             = -30.0         // as the meter counts repeats
)

// repeatsOf finds the repeats of a delay by the cepstrum (B. P. Bogert, M. J. R. Healy and J. W. Tukey, "The quefrency
// alanysis of time series for echoes", 1963). What is played and comes again after T at a factor m, and again at f of
// that each time, is 1 + m z/(1 - f z) of what is played, z the delay: so its cepstrum has m at T and
// (f^2 - (f-m)^2)/2 = m f - m^2/2 at twice that. Notes that are played again are not the same to a wave: only a
// machine repeats so. nil where nothing stands out.
func repeatsOf(x []float64) *Repeats {
	c := cepstrum(x)
	from, to := int(shortestMS*rate/1000), min(int(longestMS*rate/1000), len(c)/3)
	if to <= from {
		return nil
	}
	best, spread := 0, spreadOf(c[from:to])
	for i := from; i < to; i++ {
		// Around the multiples of the notes' own periods the cepstrum is rough: a repeat stands out among its neighbours.
		by := surely
		if i < slapMS*rate/1000 {
			by = surelySlap
		}
		if c[i] > by*spread && (best == 0 || c[i] > c[best]) && c[i] > by*spreadOf(c[i-around:min(i+around, len(c))]) {
			best = i
		}
	}
	if best == 0 {
		return nil
	}
	m := c[best]
	second := 0.0
	for _, v := range c[2*best-2 : min(2*best+3, len(c))] {
		if math.Abs(v) > math.Abs(second) {
			second = v
		}
	}
	f := math.Min(math.Max(second/m+m/2, 0), 0.95)
	out := &Repeats{}
	ms := 1000 * (float64(best) + top(c[best-1], c[best], c[best+1])) / rate
	out.MS = Figure{ms, ms - 0.5, ms + 0.5}
	db := 20 * math.Log10(m)
	off := roughness * spreadOf(c[best-around:min(best+around, len(c))]) / m
	out.LevelDB = Figure{
		db, db - levelWithinDB + 20*math.Log10(math.Max(1-off, 0.1)), db + levelWithinDB + 20*math.Log10(1+off),
	}
	out.FallsDB = -20 * math.Log10(math.Max(f, 0.001))
	for level := db; level > audibleDB && out.Heard < 24; level -= out.FallsDB {
		out.Heard++
	}
	out.Heard = max(out.Heard, 1)
	return out
}

// How far off the level of the first repeat may be: what the tone of its circuit makes of it, in dB, and so many times the
// roughness of the cepstrum around it, which blurs those that are quiet.
const (
	levelWithinDB = 2.0
	roughness     = 3.0
)

// top is where between samples a parabola through three is highest.
func top(a, b, c float64) float64 {
	if bend := a - 2*b + c; bend < 0 {
		return 0.5 * (a - c) / bend
	}
	return 0
}

// cepstrum is that of the power of a recording in a band, so that an echo at a factor m has m at its delay.
func cepstrum(x []float64) []float64 {
	size := 1
	for size < 2*len(x) {
		size *= 2
	}
	padded := make([]float64, size)
	copy(padded, x)
	fft := fourier.NewFFT(size)
	bins := fft.Coefficients(nil, padded)
	most := 0.0
	powers := make([]float64, len(bins))
	for i, c := range bins {
		powers[i] = real(c)*real(c) + imag(c)*imag(c)
		most = math.Max(most, powers[i])
	}
	low, high := int(echoLow*float64(size)/rate), int(echoHigh*float64(size)/rate)
	logs := make([]float64, high-low)
	for i := range logs {
		logs[i] = math.Log(powers[low+i] + 1e-12*most)
	}
	level(logs, max(1, int(15*float64(size)/rate)))
	weights := 0.0
	for i := range bins {
		bins[i] = 0
	}
	for i, v := range logs {
		w := 0.5 - 0.5*math.Cos(2*math.Pi*float64(i)/float64(len(logs)))
		weights += w
		bins[low+i] = complex(v*w, 0)
	}
	// The sum over the bins of log|1 + m z|^2 cos is m for each of them: the transform back has every bin twice.
	out := fft.Sequence(padded, bins)
	for i := range out {
		out[i] /= 2 * weights
	}
	return out[:size/2]
}

// level takes from each value the mean of those around it: what changes slowly over frequency is tone, and no repeat.
func level(x []float64, around int) {
	sums := make([]float64, len(x)+1)
	for i, v := range x {
		sums[i+1] = sums[i] + v
	}
	for i := range x {
		a, b := max(0, i-around), min(len(x), i+around+1)
		x[i] -= (sums[b] - sums[a]) / float64(b-a)
	}
}

// spreadOf is the spread of most values: that of a normal distribution with their median deviation.
func spreadOf(x []float64) float64 {
	y := make([]float64, len(x))
	for i, v := range x {
		y[i] = math.Abs(v)
	}
	slices.Sort(y)
	return y[len(y)/2] / 0.6745
}

// noteOf is the note that repeats are at a tempo, within a twentieth; "" where they are none.
func noteOf(ms float64, t plan.Tempo) string {
	best, away := "", 0.05
	for _, note := range tempo.Notes() {
		if length, ok := t.Milliseconds(note); ok && math.Abs(ms/length-1) < away {
			best, away = note, math.Abs(ms/length-1)
		}
	}
	return best
}
