package signal

import (
	"math"
	"math/cmplx"

	"gonum.org/v1/gonum/dsp/fourier"

	"envex/core/electric"
)

// This file makes passive runs heard: each is a filter with the size of the circuit's response and the
// least phase that size can have, which is that of a ladder of resistors, coils and capacitors.

const (
	filterTaps  = 1024
	designFrame = 8192 // of a transform in a design
	flatDB      = 0.03 // a response that moves no more than this is a factor
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

// filter is a designed response: a factor, or the bins of its impulse response as shuffled leaves them.
type filter struct {
	k    float64
	bins []complex128
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
	taps := make([]complex128, filterFrame)
	const fade = filterTaps / 4
	for i := range filterTaps {
		tap := impulse[i] / (designFrame * filterFrame) // the transform back multiplies by the length of the frame
		if left := filterTaps - i; left < fade {
			tap *= 0.5 - 0.5*math.Cos(math.Pi*float64(left)/fade)
		}
		taps[i] = complex(tap, 0)
	}
	shuffled(taps)
	return &filter{bins: taps}
}
