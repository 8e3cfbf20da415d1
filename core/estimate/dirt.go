package estimate

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/dsp/fourier"

	"envex/core/reason"
)

const (
	frame = 8192 // samples of a spectrum: 171 ms
	hop   = frame / 2
)

// features are what a recording shows of how bent its sound is. None hangs on how loud it was recorded: what clips
// falls more slowly than strings do, has lower peaks over its mean, and more between its partials, where chords beat
// against themselves.
type features [9]float64

// fit is a dirt by features: a polynomial of the second order, fitted to recordings rendered from rigs whose dirt the
// meter knows. Its scale is the square root of the dirt in percent.
type fit struct {
	Means   features
	Spreads features
	Weights []float64
	Within  float64 // which the distance to four of five rendered recordings is, of circuits not fitted to
}

// terms are the features, their squares and products, each over its spread.
func (f *fit) terms(x features) []float64 {
	out := []float64{1}
	for i := range x {
		// A recording of another world is taken for the outermost that was fitted to.
		out = append(out, math.Min(math.Max((x[i]-f.Means[i])/f.Spreads[i], -2.5), 2.5))
	}
	for i := 1; i <= len(x); i++ {
		for k := i; k <= len(x); k++ {
			out = append(out, out[i]*out[k])
		}
	}
	return out
}

func (f *fit) at(x features) float64 {
	sum := 0.0
	for i, t := range f.terms(x) {
		sum += f.Weights[i] * t
	}
	return sum
}

// dirtOf is the dirt of a recording in percent. It fails where nothing is heard.
func dirtOf(x []float64) (Figure, error) {
	seen, ok := featuresOf(x)
	if !ok {
		return Figure{}, reason.Errorf("nothing is heard in the recording")
	}
	y := fitted.at(seen)
	pct := func(root float64) float64 {
		root = math.Max(root, 0)
		return math.Min(root*root, 100)
	}
	return Figure{pct(y), pct(y - fitted.Within), pct(y + fitted.Within)}, nil
}

// quantiles are which of the frames stands for a feature: octaves of flatness from 250, 500 and 2000 Hz, the highest
// peaks, the brightest, the falls, and the levels under the loudest.
var quantiles = [...]struct {
	of int
	at float64
}{{0, 0.25}, {1, 0.75}, {2, 0.75}, {3, 0.9}, {4, 0.9}, {5, 0.5}, {5, 0.75}, {6, 0.5}, {6, 0.9}}

// featuresOf looks at the frames within 20 dB of the loudest; not ok where there is nothing to be heard.
func featuresOf(x []float64) (f features, ok bool) {
	var powers []float64
	for from := 0; from+frame <= len(x); from += hop {
		powers = append(powers, meanSquare(x[from:from+frame]))
	}
	if len(powers) == 0 || slices.Max(powers) < 1e-11 {
		return f, false
	}
	most := slices.Max(powers)
	fft := fourier.NewFFT(frame)
	windowed := make([]float64, frame)
	var bins []complex128
	var all [7][]float64
	for i, power := range powers {
		if power < most/100 {
			continue
		}
		now := x[i*hop : i*hop+frame]
		peak := 0.0
		for k, v := range now {
			peak = math.Max(peak, math.Abs(v))
			windowed[k] = v * (0.5 - 0.5*math.Cos(2*math.Pi*float64(k)/frame))
		}
		bins = fft.Coefficients(bins, windowed)
		for k, v := range [...]float64{
			flatness(bins, 250), flatness(bins, 500), flatness(bins, 2000), decibels(peak * peak / power),
			decibels((within(bins, 2000, 5000) + 1e-15) / (within(bins, 150, 800) + 1e-15)),
			decibels((meanSquare(now[hop:]) + 1e-15) / (meanSquare(now[:hop]) + 1e-15)), decibels(power / most),
		} {
			all[k] = append(all[k], v)
		}
	}
	for i := range all {
		slices.Sort(all[i])
	}
	for i, q := range quantiles {
		f[i] = all[q.of][int(q.at*float64(len(all[q.of])-1))]
	}
	return f, true
}

func decibels(power float64) float64 { return 10 * math.Log10(power) }

func meanSquare(x []float64) float64 {
	sum := 0.0
	for _, v := range x {
		sum += v * v
	}
	return sum / float64(len(x))
}

// flatness is the geometric mean of the power in an octave over the mean, in dB: 0 for noise, far less for strings.
func flatness(bins []complex128, hz float64) float64 {
	logs, sum := 0.0, 0.0
	from := int(hz * frame / rate)
	for _, c := range bins[from : 2*from] {
		p := real(c)*real(c) + imag(c)*imag(c) + 1e-18
		logs += math.Log10(p)
		sum += p
	}
	return 10 * (logs/float64(from) - math.Log10(sum/float64(from)))
}

func within(bins []complex128, low, high float64) float64 {
	sum := 0.0
	for _, c := range bins[int(low*frame/rate):int(high*frame/rate)] {
		sum += real(c)*real(c) + imag(c)*imag(c)
	}
	return sum
}
