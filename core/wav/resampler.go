package wav

import (
	"math"

	"gonum.org/v1/gonum/dsp/fourier"
)

// resampler brings a signal to 48 kHz as it comes.
type resampler interface {
	push(x []float64)
	end() []float64
}

// spectral brings a signal to 48 kHz by way of its spectrum, in pieces that overlap by half under a
// window whose halves add up to one, so that a long file takes no more than a short one at a time.
type spectral struct {
	rate     int
	step, to int // half of a piece, at the one rate and at the other
	in, out  *fourier.FFT
	window   []float64
	frame    []float64
	pending  []float64 // what has come since the last piece began
	count    int       // samples that have come
	pieces   int
	y        []float64
}

// largestPrime is the largest prime factor of a transform's length that is quick.
const largestPrime = 13

// newResampler is for a signal of some length.
func newResampler(rate, frames int) resampler {
	if rate == Rate {
		return &spectral{rate: rate, y: make([]float64, 0, frames)}
	}
	// A whole number of samples at both rates: 1/50 s is one at every common rate.
	step := rate / 50 * 8
	if step*Rate%rate != 0 || !smooth(step) {
		return newSinc(rate, frames)
	}
	r := &spectral{rate: rate, step: step, to: step * Rate / rate}
	r.in, r.out = fourier.NewFFT(2*r.step), fourier.NewFFT(2*r.to)
	r.frame, r.window = make([]float64, 2*r.step), make([]float64, 2*r.step)
	for i := range r.window {
		w := math.Sin(math.Pi * (float64(i) + 0.5) / float64(2*r.step))
		r.window[i] = w * w
	}
	r.pending = make([]float64, r.step, 4*r.step)
	r.y = make([]float64, 0, (frames/r.step+5)*r.to)
	return r
}

// push takes the next samples.
func (r *spectral) push(x []float64) {
	if r.rate == Rate {
		r.y = append(r.y, x...)
		return
	}
	r.count += len(x)
	r.pending = append(r.pending, x...)
	for len(r.pending) >= 2*r.step {
		r.piece()
	}
}

// piece brings one piece over.
func (r *spectral) piece() {
	for i := range r.frame {
		r.frame[i] = r.pending[i] * r.window[i]
	}
	spectrum := r.in.Coefficients(nil, r.frame)
	other := make([]complex128, r.to+1)
	copy(other, spectrum[:min(len(spectrum), len(other))])
	at := r.pieces * r.to
	for len(r.y) < at+2*r.to {
		r.y = append(r.y, 0)
	}
	for i, v := range r.out.Sequence(nil, other) {
		r.y[at+i] += v / float64(2*r.step)
	}
	r.pieces++
	r.pending = append(r.pending[:0], r.pending[r.step:]...)
}

// end is the signal at 48 kHz.
func (r *spectral) end() []float64 {
	if r.rate == Rate {
		return r.y
	}
	n := r.count
	r.push(make([]float64, 2*r.step))
	length := int(math.Ceil(float64(n) * Rate / float64(r.rate)))
	for len(r.y) < r.to+length {
		r.y = append(r.y, 0)
	}
	return r.y[r.to : r.to+length]
}

// smooth reports whether a number has small prime factors alone.
func smooth(n int) bool {
	for p := 2; p <= largestPrime; p++ {
		for n%p == 0 {
			n /= p
		}
	}
	return n == 1
}
