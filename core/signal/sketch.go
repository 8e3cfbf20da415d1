package signal

import (
	"context"
	"fmt"
	"math"
	"slices"
	"sync"

	"envex/core/plan"
)

// Sketch is how loud and how dirty a setting is by an excerpt of the phrase and less time to settle: near enough to
// tell which of many settings are worth rendering in full, at a quarter of the time.
type Sketch struct {
	Loudness float64 // LUFS, over the excerpt, time, modulation and pitch effects bypassed
	Dirt     float64 // per cent
	Bright   float64 // dB of what lies over 2 kHz, by a first-order filter, over all
	Deep     float64 // dB of what lies under 200 Hz, over all
}

// Sketcher meters many settings of one rig. What it metered once it keeps. It is not for use by several at once.
type Sketcher struct {
	*rendering
	metred map[string]Sketch
	Tried  int // settings that were metered

	// Quick takes dirt by half the period of tones, within 0.7 per cent of the whole: for looking through many settings
	// of which none is told as it is. It is set before anything is metered.
	Quick bool
}

// NewSketcher reads a rig. It fails when the rig is not there.
func NewSketcher(p *plan.Plan, rig plan.ID, kept *Kept) (*Sketcher, error) {
	r, err := newRendering(p, rig, kept)
	if err != nil {
		return nil, err
	}
	return &Sketcher{rendering: r, metred: map[string]Sketch{}}, nil
}

// settlesIn is how many samples of the tones go ahead of those that are measured.
const settlesIn = 8192

// quickTones are a multitone of half the period. Of some hundred phases those were taken by which the dirt of drives,
// fuzzes, preamps and compressors, turned all the way, is nearest to that by the whole one: within 0.7 of a per cent,
// by 0.3 at the root of the mean square.
var quickTones = sync.OnceValue(func() *toneSignal { return newTones(tonePeriod/2, 318) })

// excerpts are where the excerpt of the phrase is taken, from and to so many seconds, and how much each part counts:
// two of the soft notes, two of the same hard, and two pieces of chords. The weights are those of least squares, by
// which the loudness over that of the rig with nothing on is nearest to that of the whole phrase, over 511 settings of
// thirteen rigs with drives, fuzzes, compressors and preamps turned all the way: within a quarter of an LU, 0.05 LU at
// the root of the mean square.
var excerpts = []struct{ from, to, weight float64 }{
	{1.0 / 3, 2.0 / 3, 0.067}, {4.0 / 3, 5.0 / 3, 0.282}, {7.0 / 3, 8.0 / 3, 0.199}, {10.0 / 3, 11.0 / 3, 0.082},
	{4, 4.25, 0.031}, {5.25, 5.5, 0.308},
}

// samples is how long a part of the excerpt is.
func samples(from, to float64) int { return int(to*Rate) - int(from*Rate) }

// excerptLoudness is how loud the excerpt is, in LUFS, its parts by their weights.
func excerptLoudness(w wave) float64 {
	sum := 0.0
	for _, x := range w.channels() {
		y := append([]float64(nil), x...)
		kWeighting().run(y)
		for _, e := range excerpts {
			n := samples(e.from, e.to)
			part := 0.0
			for _, v := range y[:n] {
				part += v * v
			}
			sum += e.weight * part / float64(n)
			y = y[n:]
		}
	}
	return lufs(sum)
}

// Of meters recipes of the rig, in their order; each names its sound, whose guitar and tempo count. It ends early with
// the context's error.
func (x *Sketcher) Of(ctx context.Context, list []plan.Recipe) ([]Sketch, error) {
	settings := make([]Setting, len(list))
	for i := range list {
		sound, _ := x.plan.FindSound(list[i].Sound)
		settings[i] = x.setFor(&list[i], sound, x.tempoOf(list[i].Sound))
	}
	names, missing, called := unmetered(x.rendering, settings, x.metred)
	got, err := x.sketch(ctx, missing)
	if err != nil {
		return nil, err
	}
	x.Tried += len(missing)
	for i, name := range called {
		x.metred[name] = got[i]
	}
	out := make([]Sketch, len(list))
	for i, name := range names {
		out[i] = x.metred[name]
	}
	return out, nil
}

// sketch meters settings: chains that begin alike are rendered once as far as they are alike, in as many parts as there
// are to be work for.
func (x *Sketcher) sketch(ctx context.Context, settings []Setting) ([]Sketch, error) {
	out := make([]Sketch, len(settings))
	lines := make([]line, len(settings))
	names := make([]string, len(settings))
	what := fmt.Sprint("sketch ", x.Quick)
	sources := map[string][]int{}
	for i, s := range settings {
		lines[i] = x.line(s)
		x.trims(lines[i], s)
		names[i] = x.identityOf(lines[i], s)
		if known, ok := before[Sketch](x.kept, names[i], what); ok {
			out[i] = known
			continue
		}
		key := x.source(s).name()
		sources[key] = append(sources[key], i)
	}
	var jobs []func() error
	for _, key := range plan.SortedKeys(sources) {
		from := x.source(settings[sources[key][0]])
		in := excerptOf(from.phrase())
		tones := multitone()
		if x.Quick {
			tones = quickTones()
		}
		played := tones.by(from.level(), settlesIn)
		for group := range slices.Chunk(sources[key], max(8, (len(settings)+3)/4)) {
			jobs = append(jobs, func() error {
				return x.along(ctx, lines, group, slices.Clone(in), mode{still: true}, func(i int, w wave) {
					out[i].Loudness = excerptLoudness(w)
					out[i].Bright, out[i].Deep = endsOf(w)
				})
			}, func() error {
				return x.along(ctx, lines, group, slices.Clone(played), mode{still: true}, func(i int, w wave) {
					out[i].Dirt = tones.dirt(w)
				})
			})
		}
	}
	if err := inParallel(ctx, len(jobs), nil, func(i int) error { return jobs[i]() }); err != nil {
		return nil, fmt.Errorf("signal: %w", err)
	}
	for i, name := range names {
		x.kept.keep(name, what, out[i])
	}
	return out, nil
}

// Brightness begins over the notes of a guitar, in Hz, and depth lies under most of them.
const (
	brightFrom = 2000
	deepTo     = 200
)

// endsOf are how much of a wave lies over [brightFrom] and under [deepTo], in dB under all of it.
func endsOf(w wave) (bright, deep float64) {
	high, low, all := 0.0, 0.0, 0.0
	for _, x := range w.channels() {
		over, under := newOnePole(brightFrom, Rate), newOnePole(deepTo, Rate)
		for _, v := range x {
			h, l := over.high(v), under.low(v)
			high += h * h
			low += l * l
			all += v * v
		}
	}
	level := func(x float64) float64 { return 10 * math.Log10(math.Max(x, 1e-20)/math.Max(all, 1e-20)) }
	return level(high), level(low)
}

func excerptOf(phrase []float64) []float64 {
	var out []float64
	for _, e := range excerpts {
		from := int(e.from * Rate)
		out = append(out, phrase[from:from+samples(e.from, e.to)]...)
	}
	return out
}
