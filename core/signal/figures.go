package signal

import (
	"context"
	"fmt"
	"math"
	"slices"
	"sync"

	"gonum.org/v1/gonum/dsp/fourier"

	"envex/core/plan"
)

// Figures are what a meter says of one sound of a rig.
type Figures struct {
	Loudness float64    `json:"loudness_lufs" doc:"K-weighted, where the dry phrase plays; 1 V at the microphone is 0 dBFS."`
	Playing  float64    `json:"playing_lufs" doc:"The same with time, modulation and pitch effects bypassed: what targets are held against, so that an echo does not count as a louder note."`
	Dirt     float64    `json:"dirt_pct" doc:"Multitone distortion when played normally."`
	Soft     float64    `json:"dirt_soft_pct" doc:"When played 12 dB softer."`
	Hard     float64    `json:"dirt_hard_pct" doc:"When played 6 dB harder."`
	Squash   float64    `json:"squash" doc:"1 less how much of a dB at the input comes out; 0 leaves the playing alone, 1 levels it."`
	Noise    float64    `json:"noise_db" doc:"Playing over 20 uV of hiss at the input; more is better."`
	Peak     float64    `json:"peak_dbfs"`
	Bands    [4]float64 `json:"bands_db" doc:"80 to 250, 250 to 800, 800 to 3k, 3k to 8k Hz."`

	FoldDown *float64      `json:"fold_down_lu,omitempty" doc:"What a mono sum costs; absent for a mono sound."`
	Lanes    []LaneLevel   `json:"lanes" doc:"How loud each lane is that ends on its own, where there are several."`
	Sums     []MonoSum     `json:"mono_sums" doc:"Where both sides become one on the way, and what each place costs."`
	Sides    *float64      `json:"sides,omitempty" doc:"Correlation of the two sides: 1 the same, -1 upside down."`
	Times    []TimeFigures `json:"times" doc:"Of each delay and reverb that is on."`
	Tremolo  *float64      `json:"tremolo_depth,omitempty" doc:"Depth left at the end of the chain, 0 to 1."`
	Chorus   *float64      `json:"chorus_left,omitempty" doc:"How much of the undistorted comb is left: 1 all of it."`
}

// TimeFigures are what becomes of a delay's or a reverb's wet sound down the chain.
type TimeFigures struct {
	Stop    plan.Key  `json:"stop"`
	Name    string    `json:"name"`
	MS      float64   `json:"ms,omitempty" doc:"Of a delay."`
	First   float64   `json:"first_db" doc:"The first repeat, or the tail, re the dry note."`
	Audible int       `json:"audible,omitempty" doc:"Repeats above -30 dB."`
	Rings   float64   `json:"rings_s,omitempty" doc:"Of a reverb: how long its tail takes to fall by 60 dB, in s."`
	Levels  []float64 `json:"repeats_db,omitempty" doc:"Each repeat above -30 dB, re the dry note."`
	Mud     float64   `json:"mud_db" doc:"What playing both makes that neither alone does, re the whole; -80 is none."`
}

// MonoSum is a place in the chain where both sides become one.
type MonoSum struct {
	Stop plan.Key `json:"stop"`
	Name string   `json:"name"`
	Cost float64  `json:"cost_lu" doc:"Their loudness less that of their sum: 0 where they are the same, more the more they cancel."`
}

// LaneLevel is one lane that ends in an amp, a speaker or a line of its own.
type LaneLevel struct {
	Name     string  `json:"name"`
	Loudness float64 `json:"loudness_lufs"`

	key plan.Key
}

// hiss is the noise at the input of a board nobody plays through.
const hiss = 20e-6

// depth says which figures are wanted.
type depth struct {
	whole  bool // as it is heard, time effects and all
	dirt   bool
	touch  bool // dirt when played soft and hard
	squash bool
	noise  bool
	times  bool
	mud    bool // of those times: what playing both dry and wet makes, three renderings more
	bands  bool
	spread bool // over the processors: nothing else is metered meanwhile
}

var everything = depth{
	whole:  true,
	dirt:   true,
	touch:  true,
	squash: true,
	noise:  true,
	times:  true,
	mud:    true,
	bands:  true,
}

// depthFor is what a sound's targets are held against, and nothing else.
func depthFor(t plan.Targets, want Want) depth {
	d := depth{
		squash: want == ForTargets || want == WithTimes, dirt: want == ForTargets || want == WithTimes,
		whole: t.Width == "stereo" || want == AsHeard || want == WithTimes, times: want == WithTimes,
	}
	for _, h := range t.Effects {
		d.times = d.times || want != AsHeard && (h.Repeats != nil || h.LevelDB != nil || h.Size != "")
	}
	return d
}

// figures meters one sound: each part of it once for a chain as it is set. dry is a recording to play instead of the
// phrase, or nil; what is metered of one is not kept.
func (r *rendering) figures(ctx context.Context, s Setting, dry []float64, want depth) (*Figures, error) {
	of := ""
	if dry == nil {
		of = r.identity(s)
	}
	played := sync.OnceValue(func() played {
		in := r.source(s).play(dry)
		return played{in, mask(in)}
	})
	// Each is a rendering of its own, put together at the end.
	var f, timed Figures
	var loudness squashed
	var hissed float64
	parts := []part{
		{want.whole, func(r *rendering) (err error) {
			f, err = once(r.kept, of, fmt.Sprint("whole ", want.bands), func() (Figures, error) {
				return r.whole(ctx, s, played(), want.bands)
			})
			return err
		}},
		{want.times, func(r *rendering) (err error) {
			timed, err = once(r.kept, of, fmt.Sprint("times ", want.mud), func() (f Figures, err error) {
				return f, r.times(ctx, s, played().in, want.mud, &f)
			})
			return err
		}},
		{want.squash, func(r *rendering) (err error) {
			loudness, err = once(r.kept, of, "squash", func() (squashed, error) { return r.squash(ctx, s, played()) })
			return err
		}},
		{want.noise, func(r *rendering) (err error) {
			hissed, err = once(r.kept, of, "noise", func() (float64, error) { return r.noise(ctx, s) })
			return err
		}},
	}
	var dirt [3]float64
	for i, db := range []float64{0, -12, 6} {
		parts = append(parts, part{i == 0 && want.dirt || i > 0 && want.touch, func(r *rendering) (err error) {
			dirt[i], err = once(r.kept, of, fmt.Sprint("dirt ", db), func() (float64, error) {
				return r.dirtAt(ctx, s, db)
			})
			return err
		}})
	}
	if err := r.all(ctx, parts, want.spread); err != nil {
		return nil, err
	}
	if !want.whole {
		f = *(&figuring{}).figures()
	}
	f.Dirt, f.Soft, f.Hard = dirt[0], dirt[1], dirt[2]
	f.Squash, f.Playing = loudness.by, loudness.level
	f.Sums, f.Lanes = slices.Clone(f.Sums), slices.Clone(f.Lanes)
	f.Times = append([]TimeFigures{}, timed.Times...) // an empty list where nothing rings
	f.Tremolo, f.Chorus = timed.Tremolo, timed.Chorus
	if want.noise {
		f.Noise = f.Loudness - hissed
	}
	return &f, nil
}

// played is a dry signal and where it plays.
type played struct {
	in   []float64
	mask []bool
}

// part is a rendering that gives some figures, and whether they are wanted.
type part struct {
	wanted bool
	meter  func(r *rendering) error
}

// all meters what is wanted, one part after the other or all at once.
func (r *rendering) all(ctx context.Context, parts []part, spread bool) error {
	parts = slices.DeleteFunc(parts, func(x part) bool { return !x.wanted })
	if spread {
		return inParallel(ctx, len(parts), nil, func(i int) error { return parts[i].meter(r.branch()) })
	}
	for _, x := range parts {
		if err := x.meter(r); err != nil {
			return err
		}
	}
	return nil
}

// whole is the figures of a sound as it is heard, time effects and all.
func (r *rendering) whole(ctx context.Context, s Setting, x played, bands bool) (Figures, error) {
	m := &figuring{playing: x.mask, bands: bands}
	if err := r.stream(ctx, s, x.in, 1, mode{summed: m.summed, laned: m.laned}, m.take); err != nil {
		return Figures{}, err
	}
	return *m.figures(), nil
}

// figuring meters a rendering as it comes, so that a long recording is never held as a whole.
type figuring struct {
	playing []bool
	bands   bool

	both, sum  *LoudnessMeter // of what is heard, and of both sides as one
	peak       float64
	ll, rr, lr float64
	stereo     bool
	tones      bandMeter
	sums       []*sumMeter
	lanes      []*laneMeter
}

// laneMeter meters one lane that ends on its own.
type laneMeter struct {
	LaneLevel
	meter *LoudnessMeter
}

// laned meters what comes out of a lane.
func (m *figuring) laned(key plan.Key, name string, end wave) {
	i := slices.IndexFunc(m.lanes, func(x *laneMeter) bool { return x.key == key })
	if i < 0 {
		i = len(m.lanes)
		m.lanes = append(m.lanes, &laneMeter{LaneLevel{Name: name, key: key}, newBlockMeter(len(end.channels()))})
	}
	m.lanes[i].meter.Push(end.channels())
}

// sumMeter meters one place where both sides become one.
type sumMeter struct {
	MonoSum
	both, sum *LoudnessMeter
}

// summed meters both sides where they become one.
func (m *figuring) summed(key plan.Key, name string, sides wave) {
	i := slices.IndexFunc(m.sums, func(x *sumMeter) bool { return x.Stop == key })
	if i < 0 {
		i = len(m.sums)
		m.sums = append(m.sums, &sumMeter{MonoSum{Stop: key, Name: name}, newBlockMeter(2), newBlockMeter(1)})
	}
	m.sums[i].both.Push(sides.channels())
	m.sums[i].sum.Push([][]float64{sides.mono(true).l})
}

// foldCost is what a mono sum of two sides costs: their loudness less that of (L+R)/2, less what the meter
// adds for a second channel.
func foldCost(both, sum *LoudnessMeter, playing []bool) float64 {
	return both.masked(playing) - sum.masked(playing) - 10*math.Log10(2)
}

func (m *figuring) take(w wave) {
	if m.both == nil {
		m.stereo = w.stereo()
		m.both, m.sum = newBlockMeter(len(w.channels())), newBlockMeter(1)
	}
	m.both.Push(w.channels())
	m.peak = math.Max(m.peak, w.peak())
	if m.bands {
		m.tones.take(w)
	}
	if !m.stereo {
		return
	}
	m.sum.Push([][]float64{w.mono(true).l})
	for i := range w.l {
		m.ll, m.rr, m.lr = m.ll+w.l[i]*w.l[i], m.rr+w.r[i]*w.r[i], m.lr+w.l[i]*w.r[i]
	}
}

func (m *figuring) figures() *Figures {
	f := &Figures{Loudness: lufs(0), Peak: -240, Times: []TimeFigures{}, Sums: []MonoSum{}, Lanes: []LaneLevel{}}
	for _, x := range m.lanes {
		x.Loudness = x.meter.masked(m.playing)
		f.Lanes = append(f.Lanes, x.LaneLevel)
	}
	for _, x := range m.sums {
		x.Cost = foldCost(x.both, x.sum, m.playing)
		f.Sums = append(f.Sums, x.MonoSum)
	}
	if m.both == nil {
		return f
	}
	f.Loudness, f.Peak = m.both.masked(m.playing), math.Max(decibels(m.peak), -240)
	if m.bands {
		f.Bands = m.tones.bands()
	}
	if m.stereo {
		cost, sides := foldCost(m.both, m.sum, m.playing), 0.0
		if m.ll > quiet && m.rr > quiet {
			sides = m.lr / math.Sqrt(m.ll*m.rr)
		}
		f.FoldDown, f.Sides = &cost, &sides
	}
	return f
}

// stream renders a signal, by a factor, piece by piece.
func (r *rendering) stream(ctx context.Context, s Setting, dry []float64, k float64, m mode, take func(wave)) error {
	l := r.line(s)
	r.trims(l, s)
	p := newPlayer(ctx, m, l)
	piece := make([]float64, renderPiece)
	for from := 0; from < len(dry); from += renderPiece {
		x := piece[:copy(piece, dry[from:])]
		scaleAll(x, k)
		w, err := p.run(l, wave{l: x})
		if err != nil {
			return fmt.Errorf("signal: %w", err)
		}
		take(w)
	}
	return nil
}

// squashed is how much a chain levels, and how loud it is.
type squashed struct{ by, level float64 }

// squash is 1 less the slope of loudness over input level at 1.5 dB up and down; the level is the loudness between
// the two.
func (r *rendering) squash(ctx context.Context, s Setting, x played) (squashed, error) {
	var out [2]float64
	for i, db := range []float64{-1.5, 1.5} {
		m := &figuring{playing: x.mask}
		if err := r.stream(ctx, s, x.in, factor(db), mode{still: true}, m.take); err != nil {
			return squashed{}, err
		}
		out[i] = m.figures().Loudness
	}
	return squashed{by: math.Min(math.Max(1-(out[1]-out[0])/3, 0), 1), level: (out[0] + out[1]) / 2}, nil
}

// noise is the loudness of the hiss of the input with nobody playing.
func (r *rendering) noise(ctx context.Context, s Setting) (float64, error) {
	w, err := r.render(ctx, s, hissing(), mode{hiss: true})
	if err != nil {
		return 0, err
	}
	return lufs(mean(blocks(w.channels()...)[2:])), nil
}

// hissing is a second and a half of white hiss: always the same.
func hissing() []float64 {
	x := make([]float64, 3*Rate/2)
	seed := uint32(99)
	for i := range x {
		seed = seed*1664525 + 1013904223
		x[i] = hiss * math.Sqrt(3) * (float64(seed)/float64(1<<31) - 1)
	}
	return x
}

// bandMeter is the energy of a sound in four bands, frame by frame.
type bandMeter struct {
	frames [2][]float64 // what has come of a frame that is not full yet
	sums   [4]float64
	fft    *fourier.FFT
}

const bandFrame = 65536

func (m *bandMeter) take(w wave) {
	for side, x := range w.channels() {
		m.frames[side] = append(m.frames[side], x...)
		for len(m.frames[side]) >= bandFrame {
			m.frame(m.frames[side][:bandFrame])
			m.frames[side] = m.frames[side][:copy(m.frames[side], m.frames[side][bandFrame:])]
		}
	}
}

func (m *bandMeter) frame(x []float64) {
	if m.fft == nil {
		m.fft = fourier.NewFFT(bandFrame)
	}
	edges := [5]float64{80, 250, 800, 3000, 8000}
	for bin, c := range m.fft.Coefficients(nil, x) {
		hz := float64(bin) * Rate / bandFrame
		for b := range m.sums {
			if hz >= edges[b] && hz < edges[b+1] {
				m.sums[b] += (real(c)*real(c) + imag(c)*imag(c)) / (bandFrame * bandFrame)
			}
		}
	}
}

// bands are the four in dB.
func (m *bandMeter) bands() [4]float64 {
	var out [4]float64
	for b, v := range m.sums {
		out[b] = 10 * math.Log10(math.Max(v, 1e-20))
	}
	return out
}
