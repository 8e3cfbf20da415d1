package signal

import (
	"context"
	"math"

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
	Sides    *float64      `json:"sides,omitempty" doc:"Correlation of the two sides: 1 the same, -1 upside down."`
	Times    []TimeFigures `json:"times" doc:"Of each delay and reverb that is on."`
	Tremolo  *float64      `json:"tremolo_depth,omitempty" doc:"Depth left at the end of the chain, 0 to 1."`
	Chorus   *float64      `json:"chorus_left,omitempty" doc:"How much of the undistorted comb is left: 1 all of it."`
}

// TimeFigures are what becomes of a delay's or a reverb's wet sound down the chain.
type TimeFigures struct {
	Stop    plan.Key `json:"stop"`
	Name    string   `json:"name"`
	MS      float64  `json:"ms,omitempty" doc:"Of a delay."`
	First   float64  `json:"first_db" doc:"The first repeat, or the tail, re the dry note."`
	Audible int      `json:"audible,omitempty" doc:"Repeats above -30 dB."`
	Mud     float64  `json:"mud_db" doc:"What playing both makes that neither alone does, re the whole; -80 is none."`
}

// hiss is the noise at the input of a board nobody plays through.
const hiss = 20e-6

// depth says which figures are wanted.
type depth struct {
	touch  bool // dirt when played soft and hard
	squash bool
	noise  bool
	times  bool
	bands  bool
}

var everything = depth{true, true, true, true, true}

// figures meters one sound. dry is a recording to play instead of the phrase, or nil.
func (r *rendering) figures(ctx context.Context, s Setting, dry []float64, want depth) (*Figures, error) {
	guitar, _ := r.plan.FindGear(s.Guitar)
	from := sourceOf(guitar, s.At)
	in := from.play(dry)
	playing := mask(in)
	w, err := r.render(ctx, s, in, mode{})
	if err != nil {
		return nil, err
	}
	f := &Figures{Loudness: maskedLoudness(w, playing), Peak: peakOf(w), Times: []TimeFigures{}}
	r.fold(w, playing, f)
	if want.bands {
		f.Bands = bandsOf(w)
	}
	if f.Dirt, err = r.dirtAt(ctx, s, from, 0); err != nil {
		return nil, err
	}
	if want.touch {
		if f.Soft, err = r.dirtAt(ctx, s, from, -12); err != nil {
			return nil, err
		}
		if f.Hard, err = r.dirtAt(ctx, s, from, 6); err != nil {
			return nil, err
		}
	}
	if want.squash {
		if f.Squash, f.Playing, err = r.squash(ctx, s, in, playing); err != nil {
			return nil, err
		}
	}
	if want.noise {
		if f.Noise, err = r.noise(ctx, s, f.Loudness); err != nil {
			return nil, err
		}
	}
	if want.times {
		if err = r.times(ctx, s, in, f); err != nil {
			return nil, err
		}
	}
	return f, nil
}

func peakOf(w wave) float64 {
	most := 0.0
	for _, x := range w.channels() {
		for _, v := range x {
			most = math.Max(most, math.Abs(v))
		}
	}
	return math.Max(decibels(most), -240)
}

// fold says what a mono sum of two sides costs: their loudness less that of (L+R)/2, less what the
// meter adds for a second channel.
func (r *rendering) fold(w wave, playing []bool, f *Figures) {
	if !w.stereo() {
		return
	}
	cost := maskedLoudness(w, playing) - maskedLoudness(w.mono(true), playing) - 10*math.Log10(2)
	ll, rr, lr := 0.0, 0.0, 0.0
	for i := range w.l {
		ll, rr, lr = ll+w.l[i]*w.l[i], rr+w.r[i]*w.r[i], lr+w.l[i]*w.r[i]
	}
	sides := 0.0
	if ll > quiet && rr > quiet {
		sides = lr / math.Sqrt(ll*rr)
	}
	f.FoldDown, f.Sides = &cost, &sides
}

// squash is 1 less the slope of loudness over input level at 1.5 dB up and down; level is the
// loudness between the two.
func (r *rendering) squash(ctx context.Context, s Setting, in []float64, playing []bool) (squash, level float64, err error) {
	var out [2]float64
	for i, db := range []float64{-1.5, 1.5} {
		x := append([]float64(nil), in...)
		k := factor(db)
		for n := range x {
			x[n] *= k
		}
		w, err := r.render(ctx, s, x, mode{still: true})
		if err != nil {
			return 0, 0, err
		}
		out[i] = maskedLoudness(w, playing)
	}
	return math.Min(math.Max(1-(out[1]-out[0])/3, 0), 1), (out[0] + out[1]) / 2, nil
}

// noise is how far playing stands over the hiss of the input with nobody playing.
func (r *rendering) noise(ctx context.Context, s Setting, loudness float64) (float64, error) {
	w, err := r.render(ctx, s, hissing(), mode{})
	if err != nil {
		return 0, err
	}
	return loudness - lufs(mean(blocks(w.channels()...)[2:])), nil
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

// bandsOf is the energy of a sound in four bands, in dB.
func bandsOf(w wave) [4]float64 {
	edges := [5]float64{80, 250, 800, 3000, 8000}
	var sums [4]float64
	const size = 65536
	fft := fourier.NewFFT(size)
	for _, x := range w.channels() {
		for from := 0; from+size <= len(x); from += size {
			for bin, c := range fft.Coefficients(nil, x[from:from+size]) {
				hz := float64(bin) * Rate / size
				for b := range sums {
					if hz >= edges[b] && hz < edges[b+1] {
						sums[b] += (real(c)*real(c) + imag(c)*imag(c)) / (size * size)
					}
				}
			}
		}
	}
	var out [4]float64
	for b, v := range sums {
		out[b] = 10 * math.Log10(math.Max(v, 1e-20))
	}
	return out
}
