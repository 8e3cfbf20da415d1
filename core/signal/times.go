package signal

import (
	"context"
	"maps"
	"math"
	"slices"

	"gonum.org/v1/gonum/dsp/fourier"

	"envex/core/plan"
)

// halfOf is a delay or a reverb that gives only its dry or only its wet sound.
func halfOf(s *stage, wet bool) unit {
	model, _ := s.set.model(false)
	switch u := model.(type) {
	case *delayLine:
		if wet {
			u.dry = 0
		} else {
			u.wet = 0
		}
		return u
	case *reverbNet:
		if wet {
			u.dry = 0
		} else {
			u.wet = 0
		}
		return u
	}
	return model
}

// times fills in what becomes of each delay, reverb, tremolo and chorus that is on; mud where it is wanted.
func (r *rendering) times(ctx context.Context, s Setting, in []float64, muddy bool, f *Figures) error {
	var err error
	r.line(s).each(func(x *stage) {
		if err != nil || !x.on {
			return
		}
		switch x.effect {
		case plan.EffectDelay, plan.EffectReverb:
			if x.amp && x.set.knob(3, "reverb", "mix", "level") < 0.05 {
				return
			}
			var t TimeFigures
			if t, err = r.timeFigures(ctx, s, x, in, muddy); err == nil {
				f.Times = append(f.Times, t)
			}
		case plan.EffectTremolo:
			var left float64
			if left, err = r.tremoloLeft(ctx, s, x); err == nil {
				f.Tremolo = &left
			}
		case plan.EffectChorus:
			var left float64
			if left, err = r.chorusLeft(ctx, s, x); err == nil {
				f.Chorus = &left
			}
		}
	})
	return err
}

// alone renders with one time or modulation effect in and the others bypassed, its unit replaced
// where one is given. Stages are made anew for each rendering, so that they are known by their key.
func alone(key plan.Key, with func(*stage) unit) mode {
	return mode{custom: func(s *stage) (unit, bool) {
		switch {
		case s.key == key && with != nil:
			return with(s), true
		case s.key != key && s.effect.Traits().Wet:
			return nil, true
		}
		return nil, false
	}}
}

func (r *rendering) timeFigures(
	ctx context.Context, s Setting, x *stage, in []float64, muddy bool,
) (t TimeFigures, err error) {
	t = TimeFigures{Stop: x.key, Name: x.name}
	if muddy {
		if t.Mud, err = r.mud(ctx, s, x, in); err != nil {
			return t, err
		}
	}
	if x.effect == plan.EffectReverb {
		t.Rings = x.set.reverbSeconds()
		return t, r.tail(ctx, s, x, &t)
	}
	t.MS = x.set.knob(400, "time")
	return t, r.repeats(ctx, s, x, &t)
}

// mud is what a delay or a reverb makes with the dry sound that neither alone does.
func (r *rendering) mud(ctx context.Context, s Setting, x *stage, in []float64) (float64, error) {
	if len(in) > int(phraseS)*Rate-1 {
		in = in[3*Rate : 5*Rate] // hard notes and chords are where mud is
	}
	var parts [3]wave // dry, wet, both
	for i, with := range []func(*stage) unit{
		func(s *stage) unit { return halfOf(s, false) }, func(s *stage) unit { return halfOf(s, true) }, nil,
	} {
		w, err := r.render(ctx, s, in, alone(x.key, with))
		if err != nil {
			return 0, err
		}
		parts[i] = w
	}
	return mudOf(parts[0].mono(true).l, parts[1].mono(true).l, parts[2].mono(true).l), nil
}

// note is a single hard note of some milliseconds, as a single coil gives it.
func note(ms float64) []float64 {
	x := make([]float64, int(ms*Rate/1000))
	pluck(x, 329.63, 1, 0, pickupPlaces["middle"], 31)
	scaledTo(x, hardPeak)
	fade := min(len(x)/4, Rate/200)
	for i := range fade {
		x[len(x)-1-i] *= float64(i) / float64(fade)
	}
	return x
}

// audibleDB is how far under the dry note a repeat is still heard.
const audibleDB = -30.0

// repeats measures each repeat of a short note against the note itself.
func (r *rendering) repeats(ctx context.Context, s Setting, x *stage, t *TimeFigures) error {
	length := math.Min(60, 0.8*t.MS)
	period := int(math.Round(t.MS * Rate / 1000))
	const most = 24
	// Few repeats are heard: no more is rendered than it takes to know how many.
	for _, upTo := range []int{3, 8, most} {
		in := make([]float64, min(period*(upTo+1)+Rate/10, 12*Rate))
		copy(in, note(length))
		w, err := r.render(ctx, s, in, alone(x.key, nil))
		if err != nil {
			return err
		}
		if t.countRepeats(w, period, int(length*Rate/1000)) || len(in) == 12*Rate {
			return nil
		}
	}
	return nil
}

// countRepeats compares each repeat of a note with the note; it reports whether one was too quiet to be heard, so
// that those after it need not be looked at.
func (t *TimeFigures) countRepeats(w wave, period, window int) bool {
	var weighted [][]float64
	for _, c := range w.channels() {
		y := append([]float64(nil), c...)
		kWeighting().run(y)
		weighted = append(weighted, y)
	}
	energy := func(from int) float64 {
		sum := 0.0
		for _, y := range weighted {
			for i := from; i < min(from+window, len(y)); i++ {
				sum += y[i] * y[i]
			}
		}
		return sum
	}
	t.Levels = nil
	dry := energy(0)
	for n := 1; n*period+window <= len(w.l); n++ {
		db := -240.0
		if dry > quiet {
			db = 10 * math.Log10(math.Max(energy(n*period)/dry, 1e-24))
		}
		if n == 1 {
			t.First = db
		}
		if db <= audibleDB {
			return true
		}
		t.Audible, t.Levels = n, append(t.Levels, db)
	}
	return false
}

// tail measures a reverb's sound from 100 to 400 ms after a short note, against the note.
func (r *rendering) tail(ctx context.Context, s Setting, x *stage, t *TimeFigures) error {
	in := make([]float64, Rate)
	copy(in, note(60))
	w, err := r.render(ctx, s, in, alone(x.key, nil))
	if err != nil {
		return err
	}
	dry, wet := 0.0, 0.0
	for _, c := range w.channels() {
		y := append([]float64(nil), c...)
		kWeighting().run(y)
		for i, v := range y {
			switch ms := i * 1000 / Rate; {
			case ms < 60:
				dry += v * v / 60
			case ms >= 100 && ms < 400:
				wet += v * v / 300
			}
		}
	}
	t.First = -240
	if dry > quiet {
		t.First = 10 * math.Log10(math.Max(wet/dry, 1e-24))
	}
	return nil
}

// mudOf is the energy of what both parts together give that no mixture of the two apart does, by a
// least-squares fit in every frame of 50 ms, re the whole, in dB; -80 at the least.
func mudOf(dry, wet, both []float64) float64 {
	const frame = Rate / 20
	left, all := 0.0, 0.0
	for from := 0; from+frame <= len(both); from += frame {
		a, b, y := dry[from:from+frame], wet[from:from+frame], both[from:from+frame]
		aa, ab, bb, ay, by, yy := 0.0, 0.0, 0.0, 0.0, 0.0, 0.0
		for i := range y {
			aa, ab, bb = aa+a[i]*a[i], ab+a[i]*b[i], bb+b[i]*b[i]
			ay, by, yy = ay+a[i]*y[i], by+b[i]*y[i], yy+y[i]*y[i]
		}
		fit := 0.0
		if det := aa*bb - ab*ab; det > 1e-9*aa*bb && det > 0 {
			p, q := (ay*bb-by*ab)/det, (by*aa-ay*ab)/det
			fit = p*ay + q*by
		} else if aa > quiet {
			fit = ay * ay / aa
		} else if bb > quiet {
			fit = by * by / bb
		}
		left += math.Max(yy-fit, 0)
		all += yy
	}
	if all <= quiet {
		return -80
	}
	return math.Max(10*math.Log10(math.Max(left/all, 1e-12)), -80)
}

// tremoloLeft is how deep a tremolo still is at the end of the chain, on a steady sound.
func (r *rendering) tremoloLeft(ctx context.Context, s Setting, x *stage) (float64, error) {
	in := make([]float64, 6*Rate)
	for i := range in {
		in[i] = 0.1 * math.Sqrt2 * math.Sin(2*math.Pi*330*float64(i)/Rate)
	}
	w, err := r.render(ctx, s, in, alone(x.key, nil))
	if err != nil {
		return 0, err
	}
	const frame = Rate * 12 / 330 // whole cycles
	low, high := math.Inf(1), 0.0
	for from := Rate / 2; from+frame <= len(w.l); from += frame / 4 {
		v := rms(w.l[from : from+frame])
		low, high = math.Min(low, v), math.Max(high, v)
	}
	if high <= quiet {
		return 0, nil
	}
	return 1 - low/high, nil
}

// chorusLeft is the correlation, over tones and frames, between how a chorus moves the level of each
// tone at the end of the chain and how it does alone.
func (r *rendering) chorusLeft(ctx context.Context, s Setting, x *stage) (float64, error) {
	tones := multitone()
	in := tones.by(1, tonePeriod)
	on, err := r.render(ctx, s, in, alone(x.key, nil))
	if err != nil {
		return 0, err
	}
	off, err := r.render(ctx, s, in, alone(x.key, func(*stage) unit { return nil }))
	if err != nil {
		return 0, err
	}
	model, _ := x.set.model(false)
	ideal := model.run(wave{l: append([]float64(nil), in...)})
	return correlation(moved(on, off, tones.bins), moved(ideal, wave{l: in}, tones.bins)), nil
}

// moved is how far apart two waves are at the multitone's tones, in dB, frame by frame.
func moved(a, b wave, bins map[int]bool) []float64 {
	const size = 8192
	fft := fourier.NewFFT(size)
	var out []float64
	x, y := a.mono(true).l, b.mono(true).l
	for from := tonePeriod / 2; from+size <= min(len(x), len(y)); from += size {
		p, q := fft.Coefficients(nil, windowed(x[from:from+size])), fft.Coefficients(nil, windowed(y[from:from+size]))
		for _, tone := range slices.Sorted(maps.Keys(bins)) {
			bin := (tone*size + tonePeriod/2) / tonePeriod
			out = append(out, 10*math.Log10((power(p[bin])+quiet)/(power(q[bin])+quiet)))
		}
	}
	return out
}

func power(c complex128) float64 { return real(c)*real(c) + imag(c)*imag(c) }

// windowed is a frame under a Hann window.
func windowed(x []float64) []float64 {
	y := make([]float64, len(x))
	for i, v := range x {
		y[i] = v * (0.5 - 0.5*math.Cos(2*math.Pi*float64(i)/float64(len(x))))
	}
	return y
}

func correlation(a, b []float64) float64 {
	n := min(len(a), len(b))
	ma, mb := mean(a[:n]), mean(b[:n])
	aa, bb, ab := 0.0, 0.0, 0.0
	for i := range n {
		x, y := a[i]-ma, b[i]-mb
		aa, bb, ab = aa+x*x, bb+y*y, ab+x*y
	}
	if aa <= quiet || bb <= quiet {
		return 0
	}
	return ab / math.Sqrt(aa*bb)
}
