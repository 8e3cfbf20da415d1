package signal

import (
	"context"
	"math"
	"slices"
	"sync"

	"gonum.org/v1/gonum/dsp/fourier"

	"envex/core/hearing"
	"envex/core/plan"
)

// Playing is one thing that is played: a sound, by its recipe, on strings that are tuned so, with settings laid over it.
type Playing struct {
	Sound  plan.ID
	Recipe plan.ID
	Tuned  plan.Strings
	Tempo  plan.Tempo // that of the first song which asks for the sound when zero
	Over   map[plan.Key]plan.Value

	HeardOnly bool // as it is heard, and nothing else
}

// Spectra are what one thing that is played comes to in third octaves, as power re full scale at the microphone.
type Spectra struct {
	Heard hearing.Spectrum // as it is heard, time effects and all
	Dry   hearing.Spectrum // with time, modulation and pitch effects bypassed
	Level float64          // K-weighted, of Dry: the loudness that targets are held against
	Lanes []LaneSpectrum   // of each lane that ends on its own, as it is heard

	Delays []TimeFigures // of each delay that is on: its repeats, without mud
}

// LaneSpectrum is one lane that ends in an amp, a speaker or a line of its own.
type LaneSpectrum struct {
	Key      plan.Key
	Name     string
	Loudness float64
	Heard    hearing.Spectrum
}

// Spread meters how what is played spreads over the third octaves. It fails when rig, sound or recipe are not there,
// and with the context's error when that is cancelled.
func Spread(ctx context.Context, p *plan.Plan, rig plan.ID, list []Playing, o Options) ([]Spectra, error) {
	r, err := newRendering(p, rig, o.Kept)
	if err != nil {
		return nil, err
	}
	out := make([]Spectra, len(list))
	var mu sync.Mutex
	note := func(do func()) {
		mu.Lock()
		defer mu.Unlock()
		do()
	}
	jobs := make([]func(r *rendering) error, 0, 3*len(list))
	for i, x := range list {
		m, err := r.madeBy(x.Sound, x.Recipe, x.Tempo)
		if err != nil {
			return nil, err
		}
		set := m.setting
		set.Tuned = x.Tuned
		for _, key := range plan.SortedKeys(x.Over) {
			set = with(set, key, x.Over[key])
		}
		of := ""
		if o.Dry == nil {
			of = r.identity(set)
		}
		jobs = append(jobs, func(r *rendering) error {
			heard, err := once(r.kept, of, "thirds", func() (Spectra, error) { return r.thirds(ctx, set, o.Dry) })
			note(func() { out[i].Heard, out[i].Lanes = heard.Heard, slices.Clone(heard.Lanes) })
			return err
		})
		if x.HeardOnly {
			continue
		}
		jobs = append(jobs, func(r *rendering) error {
			dry, err := once(r.kept, of, "dry thirds", func() (Spectra, error) { return r.dryThirds(ctx, set, o.Dry) })
			note(func() { out[i].Dry, out[i].Level = dry.Dry, dry.Level })
			return err
		}, func(r *rendering) error {
			delays, err := once(r.kept, of, "delays", func() ([]TimeFigures, error) { return r.delays(ctx, set) })
			note(func() { out[i].Delays = slices.Clone(delays) })
			return err
		})
	}
	err = inParallel(ctx, len(jobs), o.Progress, func(i int) error { return jobs[i](r.branch()) })
	if err != nil {
		return nil, err
	}
	return out, nil
}

// thirds are what a setting comes to as it is heard, and in each lane.
func (r *rendering) thirds(ctx context.Context, set Setting, dry []float64) (Spectra, error) {
	in := r.source(set).play(dry)
	m := &spreading{}
	lanes := &figuring{playing: mask(in)}
	err := r.stream(ctx, set, in, 1, mode{laned: func(key plan.Key, name string, end wave) {
		lanes.laned(key, name, end)
		m.laned(key, name, end)
	}}, m.main.take)
	return Spectra{Heard: m.main.spectrum(), Lanes: m.spectra(lanes.figures().Lanes)}, err
}

// dryThirds are what a setting comes to with time, modulation and pitch effects bypassed, and how loud that is.
func (r *rendering) dryThirds(ctx context.Context, set Setting, dry []float64) (Spectra, error) {
	in := r.source(set).play(dry)
	meter, level := &thirdsMeter{}, &figuring{playing: mask(in)}
	err := r.stream(ctx, set, in, 1, mode{still: true}, func(w wave) {
		meter.take(w)
		level.take(w)
	})
	return Spectra{Dry: meter.spectrum(), Level: level.figures().Loudness}, err
}

// delays are the repeats of each delay that a setting has on.
func (r *rendering) delays(ctx context.Context, set Setting) ([]TimeFigures, error) {
	var list []*stage
	r.line(set).each(func(x *stage) {
		if x.on && x.effect == plan.EffectDelay {
			list = append(list, x)
		}
	})
	out := make([]TimeFigures, len(list))
	for i, x := range list {
		out[i] = TimeFigures{Stop: x.key, Name: x.name, MS: x.set.knob(400, "time")}
		if err := r.repeats(ctx, set, x, &out[i]); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// spreading meters all that is heard of a rendering, and each lane.
type spreading struct {
	main  thirdsMeter
	lanes []*laneThirds
}

type laneThirds struct {
	LaneSpectrum
	meter thirdsMeter
}

func (m *spreading) laned(key plan.Key, name string, end wave) {
	i := slices.IndexFunc(m.lanes, func(x *laneThirds) bool { return x.Key == key })
	if i < 0 {
		i = len(m.lanes)
		m.lanes = append(m.lanes, &laneThirds{LaneSpectrum: LaneSpectrum{Key: key, Name: name}})
	}
	m.lanes[i].meter.take(wave{l: end.l, r: end.r})
}

// spectra are those of the lanes, each with its loudness.
func (m *spreading) spectra(levels []LaneLevel) []LaneSpectrum {
	list := []LaneSpectrum{}
	for i, x := range m.lanes {
		x.Heard = x.meter.spectrum()
		if i < len(levels) {
			x.Loudness = levels[i].Loudness
		}
		list = append(list, x.LaneSpectrum)
	}
	return list
}

// thirdsMeter is the power of a sound in third octaves: windowed frames that overlap by half (P. D. Welch, "The use of
// fast Fourier transform for the estimation of power spectra", IEEE Transactions on Audio and Electroacoustics, 1967).
type thirdsMeter struct {
	ahead  [2][]float64 // what has come of a frame that is not full yet
	bins   []float64
	fft    *fourier.FFT
	piece  []float64    // of a frame, by its weights
	coeff  []complex128 // of that
	frames int          // of one side
	sides  int
}

const thirdsFrame = 16384

func (m *thirdsMeter) take(w wave) {
	m.sides = max(m.sides, len(w.channels()))
	for side, x := range w.channels() {
		m.ahead[side] = append(m.ahead[side], x...)
		for len(m.ahead[side]) >= thirdsFrame {
			m.frame(m.ahead[side][:thirdsFrame])
			if side == 0 {
				m.frames++
			}
			m.ahead[side] = m.ahead[side][:copy(m.ahead[side], m.ahead[side][thirdsFrame/2:])]
		}
	}
}

// hann are the weights of a frame, whose squares have a mean of 1.
var hann = func() []float64 {
	w := make([]float64, thirdsFrame)
	for i := range w {
		w[i] = math.Sqrt(8.0/3) * 0.5 * (1 - math.Cos(2*math.Pi*float64(i)/thirdsFrame))
	}
	return w
}()

func (m *thirdsMeter) frame(x []float64) {
	if m.bins == nil {
		m.bins, m.fft = make([]float64, thirdsFrame/2+1), fourier.NewFFT(thirdsFrame)
		m.piece, m.coeff = make([]float64, thirdsFrame), make([]complex128, thirdsFrame/2+1)
	}
	for i, v := range x {
		m.piece[i] = v * hann[i]
	}
	for bin, c := range m.fft.Coefficients(m.coeff, m.piece) {
		m.bins[bin] += 2 * (real(c)*real(c) + imag(c)*imag(c)) / (thirdsFrame * thirdsFrame)
	}
}

// spectrum is the mean power in each band, of both sides together as two loudspeakers give them.
func (m *thirdsMeter) spectrum() hearing.Spectrum {
	var s hearing.Spectrum
	if m.frames == 0 {
		return s
	}
	const width = float64(Rate) / thirdsFrame
	for band := range s {
		low, high := hearing.Edges(band)
		for bin := max(1, int(low/width-0.5)); bin < len(m.bins) && (float64(bin)-0.5)*width < high; bin++ {
			// The share of the bin that lies in the band.
			inside := math.Min(high, (float64(bin)+0.5)*width) - math.Max(low, (float64(bin)-0.5)*width)
			if inside > 0 {
				s[band] += m.bins[bin] * inside / width / float64(m.frames)
			}
		}
	}
	return s
}

// ThirdsOf is how a recording spreads over the third octaves, as power re full scale: channels at 48 kHz.
func ThirdsOf(channels ...[]float64) hearing.Spectrum {
	m := &thirdsMeter{}
	w := wave{l: channels[0]}
	if len(channels) > 1 {
		w.r = channels[1]
	}
	m.take(w)
	if m.frames == 0 { // shorter than a frame
		m.take(wave{l: make([]float64, thirdsFrame)})
	}
	return m.spectrum()
}
