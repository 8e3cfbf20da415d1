package signal

import (
	"math"
	"math/cmplx"
	"slices"

	"gonum.org/v1/gonum/dsp/fourier"

	"envex/core/electric"
)

// This file makes passive runs heard: each is a filter with the size of the circuit's response and the
// least phase that size can have, which is that of a ladder of resistors, coils and capacitors.

const (
	filterTaps  = 1024
	filterFrame = 4096       // of a transform in a convolution
	designFrame = 8192       // of a transform in a design
	flatDB      = 0.03       // a response that moves no more than this is a factor
	glide       = Rate / 100 // samples from one filter to the next while a signal runs: 10 ms
	stepMost    = filterFrame - filterTaps + 1
)

// passive is a passive run as a stage of a chain.
type passive struct {
	name     string
	first    bool                     // the pickups drive it
	response func(hz float64) float64 // size of the voltage over what enters
	kept     *Kept
}

// passiveOf is a run. What enters the first one is what the pickups give on full through the run that
// everything is compared with.
func (r *rendering) passiveOf(run electric.Run, from source) *passive {
	p := &passive{
		name: run.Name(), first: run.First, response: func(hz float64) float64 { return cmplx.Abs(run.Response(hz)) },
		kept: r.kept,
	}
	if run.First {
		k, own := 1.0, r.sourceOf(run.Source)
		if own.Name() != from.Name() {
			k = own.over(from)
			p.name += own.Name()
		}
		p.name += from.Name()
		p.response = func(hz float64) float64 { return k * cmplx.Abs(run.Response(hz)/from.Reference(hz)) }
	}
	return p
}

// filter is a designed response: a factor, or the transform of its impulse response.
type filter struct {
	k        float64
	spectrum []complex128
}

func (p *passive) filter() *filter {
	if known, ok := p.kept.filters.Get(p.name); ok {
		return known
	}
	f := filterOf(p.response)
	p.kept.filters.Add(p.name, f)
	return f
}

// filterOf designs a filter by its size at every frequency, after A. V. Oppenheim and R. W. Schafer,
// "Discrete-Time Signal Processing", chapter on cepstrum analysis: the folded cepstrum of the size has the
// least phase.
func filterOf(size func(hz float64) float64) *filter {
	low, high := math.Inf(1), math.Inf(-1)
	for hz := 20.0; hz <= 20000; hz *= 1.26 {
		db := decibels(size(hz))
		low, high = math.Min(low, db), math.Max(high, db)
	}
	if high-low < flatDB {
		return &filter{k: factor((low + high) / 2)}
	}
	fft := fourier.NewFFT(designFrame)
	logs := make([]complex128, designFrame/2+1)
	for i := range logs {
		hz := math.Max(1, float64(i)*Rate/designFrame)
		logs[i] = complex(math.Log(math.Min(math.Max(size(hz), 1e-9), 1e9)), 0)
	}
	cepstrum := fft.Sequence(nil, logs)
	for i := range cepstrum {
		cepstrum[i] /= designFrame
		switch {
		case i > 0 && i < designFrame/2:
			cepstrum[i] *= 2
		case i > designFrame/2:
			cepstrum[i] = 0
		}
	}
	spectrum := fft.Coefficients(nil, cepstrum)
	for i := range spectrum {
		spectrum[i] = cmplx.Exp(spectrum[i])
	}
	impulse := fft.Sequence(nil, spectrum)
	taps := make([]float64, filterFrame)
	const fade = filterTaps / 4
	for i := range filterTaps {
		taps[i] = impulse[i] / designFrame
		if left := filterTaps - i; left < fade {
			taps[i] *= 0.5 - 0.5*math.Cos(math.Pi*float64(left)/fade)
		}
	}
	filter := &filter{spectrum: fourier.NewFFT(filterFrame).Coefficients(nil, taps)}
	for i := range filter.spectrum {
		filter.spectrum[i] /= filterFrame // which the transform back multiplies by
	}
	return filter
}

// wires is a passive run at work on both sides.
type wires struct{ l, r *convolver }

func (f *filter) unit() *wires { return &wires{newConvolver(f), newConvolver(f)} }

func (u *wires) run(w wave) wave {
	u.l.run(w.l)
	if w.r == nil {
		copy(u.r.past, u.l.past) // so that a second side, should it come, has a past
		return w
	}
	u.r.run(w.r)
	return w
}

// after makes the wires go on from others while the signal runs.
func (u *wires) after(old *wires) {
	u.l.after(old.l)
	u.r.after(old.r)
}

// convolver filters a signal in pieces of any length, by overlapping and saving.
type convolver struct {
	f       *filter
	from    *filter // what it comes from, while it is gliding
	left    int     // samples until it has come all the way
	past    []float64
	fft     *fourier.FFT
	frame   []float64
	bins    []complex128
	product []complex128
	out     []float64
}

func newConvolver(f *filter) *convolver { return &convolver{f: f, past: make([]float64, filterTaps-1)} }

func (c *convolver) after(old *convolver) {
	copy(c.past, old.past)
	c.from, c.left = old.f, glide
}

func (c *convolver) run(x []float64) {
	for len(x) > 0 {
		n := min(len(x), stepMost)
		c.step(x[:n])
		x = x[n:]
	}
}

func (c *convolver) step(x []float64) {
	n := len(x)
	if c.frame == nil {
		c.frame = make([]float64, filterFrame)
	}
	copy(c.frame, c.past)
	copy(c.frame[filterTaps-1:], x)
	clear(c.frame[filterTaps-1+n:])
	copy(c.past, c.frame[n:n+filterTaps-1])
	if c.left <= 0 && silence(c.frame[:filterTaps-1+n]) {
		return // nothing has come for so long that nothing comes of it
	}
	c.bins = c.bins[:0]
	var old []float64
	if c.left > 0 {
		old = append(old, c.by(c.from, n)...)
	}
	copy(x, c.by(c.f, n))
	for i := range old {
		if c.left <= 0 {
			break
		}
		share := float64(c.left) / glide
		x[i] = (1-share)*x[i] + share*old[i]
		c.left--
	}
}

func silence(x []float64) bool {
	for _, v := range x {
		if v != 0 {
			return false
		}
	}
	return true
}

// by is the frame's new samples through a filter.
func (c *convolver) by(f *filter, n int) []float64 {
	now := c.frame[filterTaps-1 : filterTaps-1+n]
	if f.spectrum == nil {
		c.out = append(c.out[:0], now...)
		for i := range c.out {
			c.out[i] *= f.k
		}
		return c.out
	}
	if c.fft == nil {
		c.fft = fourier.NewFFT(filterFrame)
	}
	if len(c.bins) == 0 {
		c.bins = c.fft.Coefficients(resized(c.bins), c.frame)
	}
	c.product = resized(c.product)
	for i, x := range c.bins {
		c.product[i] = x * f.spectrum[i]
	}
	c.out = slices.Grow(c.out[:0], filterFrame)[:filterFrame]
	return c.fft.Sequence(c.out, c.product)[filterTaps-1 : filterTaps-1+n]
}

func resized(x []complex128) []complex128 {
	if cap(x) < filterFrame/2+1 {
		return make([]complex128, filterFrame/2+1)
	}
	return x[:filterFrame/2+1]
}
