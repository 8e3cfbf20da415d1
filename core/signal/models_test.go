package signal

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/dsp/fourier"
	"pgregory.net/rapid"

	"envex/core/plan"
)

// metered is what a row of units does to the reference phrase and tones, some dB up or down.
func metered(build func() unit, db float64) (loudness, dirt, squash float64) {
	dry := reference(NewKept())
	on := mask(dry)
	at := func(d float64) float64 { return maskedLoudness(build().run(wave{l: scaledBy(dry, d)}), on) }
	tones := multitone()
	return at(db), tones.dirt(build().run(wave{l: tones.by(factor(db), tonePeriod)})), 1 - (at(db+1.5)-at(db-1.5))/3
}

func amplifier(v voice, at float64, loop ...unit) func() unit {
	return func() unit {
		row := inOrder{
			shaped(false, func(rate float64) shaper { return newPreamp(v, at, rate) }),
			bothSides(func() interface{ run([]float64) } { return tones(5, 5, 5) }),
		}
		row = append(row, loop...)
		return append(row,
			shaped(false, func(rate float64) shaper { return newPower(2, rate) }),
			bothSides(func() interface{ run([]float64) } { return speaker(false) }))
	}
}

func boostBy(db float64) unit {
	return shaped(false, func(rate float64) shaper { return newBoost(factor(db), rate) })
}

func ahead(u unit, of func() unit) func() unit {
	return func() unit { return inOrder{u, of()} }
}

// The behaviour a player expects, within 1.5 LU and 6 points.
func TestBehaviourToExpect(t *testing.T) {
	const lu, points = 1.5, 6.0
	edge := amplifier(edgeVoice, 6)
	l, d, _ := metered(edge, 0)
	assert.True(t, d >= 5 && d <= 20, "an edge amp is at the edge: %.0f", d)
	l2, d2, _ := metered(ahead(boostBy(6), edge), 0)
	assert.InDelta(t, 3.7, l2-l, lu, "a boost ahead of an edge amp")
	assert.InDelta(t, 15, d2-d, points)
	l2, d2, _ = metered(amplifier(edgeVoice, 6, boostBy(6)), 0)
	assert.InDelta(t, 6, l2-l, lu, "and after it")
	assert.InDelta(t, 0, d2-d, points)

	driven := amplifier(drivenVoice, 7)
	l, d, _ = metered(driven, 0)
	assert.Greater(t, d, 58.0, "a high-gain amp is saturated")
	l2, _, _ = metered(ahead(boostBy(6), driven), 0)
	assert.InDelta(t, 0.4, l2-l, lu, "a boost ahead of a high-gain amp")
	l2, _, _ = metered(amplifier(drivenVoice, 7, boostBy(6)), 0)
	assert.Greater(t, l2-l, 5.0-lu, "and in its loop")

	half := func() unit {
		return shaped(false, func(rate float64) shaper { return transparent(5, 5, 5, rate) })
	}
	l, d, _ = metered(half, 0)
	assert.InDelta(t, 39, d, points, "an overdrive at half")
	l2, d2, _ = metered(ahead(gain(factor(-12)), half), 0)
	assert.InDelta(t, -6.5, l2-l, 0.3, "volume down ahead of it cleans up")
	assert.InDelta(t, 10, d2, 2)
	l2, d2, _ = metered(func() unit { return inOrder{half(), gain(factor(-12))} }, 0)
	assert.InDelta(t, -12, l2-l, 0.01, "and after it is a master")
	assert.InDelta(t, d, d2, 0.1)
}

// monotone checks 12 steps.
func monotone(t *testing.T, name string, up bool, of func(x float64) float64) {
	t.Helper()
	last := 0.0
	for i := range 12 {
		v := of(10 * float64(i) / 11)
		if i > 0 && up {
			assert.GreaterOrEqual(t, v, last-0.02, "%s at step %d", name, i)
		}
		if i > 0 && !up {
			assert.LessOrEqual(t, v, last+0.02, "%s at step %d", name, i)
		}
		last = v
	}
}

func TestSweepsAreMonotoneWhereTheorySaysSo(t *testing.T) {
	drives := map[string]func(drive, level float64) unit{
		"mid hump": func(d, l float64) unit {
			return shaped(false, func(r float64) shaper { return midHump(d, 5, l, r) })
		},
		"transparent": func(d, l float64) unit {
			return shaped(false, func(r float64) shaper { return transparent(d, 5, l, r) })
		},
		"hard clip": func(d, l float64) unit {
			return shaped(false, func(r float64) shaper { return hardClip(d, 5, l, r) })
		},
		"fuzz": func(d, l float64) unit { return shaped(false, func(r float64) shaper { return newFuzz(d, l, r) }) },
	}
	dry := reference(NewKept())[3*Rate : 5*Rate]
	on := mask(dry)
	loudnessOf := func(u unit, db float64) float64 { return maskedLoudness(u.run(wave{l: scaledBy(dry, db)}), on) }
	for name, build := range drives {
		monotone(t, name+": loudness in level", true, func(x float64) float64 { return loudnessOf(build(5, x), 0) })
		monotone(t, name+": squash in drive", true, func(x float64) float64 {
			return 1 - (loudnessOf(build(x, 5), 1.5)-loudnessOf(build(x, 5), -1.5))/3
		})
	}
}

// A drive that mixes in clean is dirtiest somewhere in the middle of its input: its shape is recorded.
func TestDirtOfADriveThatMixesInCleanFallsBack(t *testing.T) {
	var shape []string
	most, at := 0.0, 0
	for i := range 12 {
		_, d, _ := metered(func() unit {
			return shaped(false, func(r float64) shaper { return midHump(5, 5, 5, r) })
		}, float64(i)*4-18)
		shape = append(shape, fmt.Sprintf("%+d dB %.0f", i*4-18, d))
		if d > most {
			most, at = d, i
		}
	}
	t.Log(shape)
	assert.True(t, at > 3 && at < 10, "dirtiest in the middle: %v", shape)
}

func TestATremoloIsAsDeepAsItsKnob(t *testing.T) {
	for _, depth := range []float64{0, 3, 7, 10} {
		x := sine(1000, 0.5, 6)
		w := (&tremolo{lfo: newLFO(2), depth: turnOf(depth), level: 1}).run(wave{l: x})
		low, high := math.Inf(1), 0.0
		for from := 0; from+240 <= len(w.l); from += 240 {
			v := rms(w.l[from : from+240])
			low, high = math.Min(low, v), math.Max(high, v)
		}
		assert.InDelta(t, depth/10, 1-low/high, 0.02)
	}
}

func TestASlicerIsOnForHalfTheTimeAndOffForTheOther(t *testing.T) {
	for _, depth := range []float64{0, 5, 10} {
		w := newSlicer(tremolo{lfo: newLFO(4), depth: turnOf(depth), level: 1}).run(wave{l: sine(1000, 0.5, 2)})
		low := 1 - depth/10
		assert.InDelta(t, math.Sqrt((1+low*low)/2)*0.5/math.Sqrt2, rms(w.l[:2*Rate]), 0.004, "depth %g", depth)
		on, off := w.l[Rate/40:Rate/8], w.l[Rate/8+Rate/40:Rate/4]
		assert.InDelta(t, 0.5/math.Sqrt2, rms(on), 0.001)
		assert.InDelta(t, low*0.5/math.Sqrt2, rms(off), 0.001)
		for i := 1; i < len(w.l); i++ {
			require.Less(t, math.Abs(w.l[i]-w.l[i-1]), 0.08, "no click at %d", i)
		}
	}
}

func TestADelayRepeatsInTimeAndAtItsRatio(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		ms := rapid.Float64Range(40, 500).Draw(t, "ms")
		repeats, mix := rapid.Float64Range(1, 8).Draw(t, "repeats"), rapid.Float64Range(1, 5).Draw(t, "mix")
		x := make([]float64, 3*Rate)
		x[0] = 1
		w := newDelay(ms, repeats, mix, false, false).run(wave{l: x})
		n := int(math.Round(ms * Rate / 1000))
		m := mix / 10
		for k := 1; k*n < len(x) && k < 6; k++ {
			want := m / (1 - m) * math.Pow(0.95*repeats/10, float64(k-1))
			require.InDelta(t, want, w.l[k*n], 1e-9, "repeat %d", k)
			require.InDelta(t, 0, w.l[k*n-1], 1e-12)
		}
		require.Equal(t, 1.0, w.l[0], "the dry note is left alone below noon")
	})
	cross := newDelay(100, 5, 5, false, true).run(wave{l: append([]float64{1}, make([]float64, Rate)...)})
	assert.InDelta(t, 1, cross.l[4800], 1e-9, "the first repeat is on the left")
	assert.InDelta(t, 0, cross.r[4800], 1e-9)
	assert.InDelta(t, 0.475, cross.r[9600], 1e-9, "the second on the right")
}

func TestAReverbDiesAwayInItsTime(t *testing.T) {
	for _, size := range []float64{2, 5, 8} {
		x := make([]float64, 6*Rate)
		x[0] = 1
		w := newReverb(size, 5, false, true).run(wave{l: x})
		level := func(at float64) float64 {
			from := int(at * Rate)
			return decibels(rms(w.l[from : from+Rate/5]))
		}
		decay := 0.4 * math.Pow(10, size/10)
		slope := (level(0.2) - level(0.2+decay/3)) / (decay / 3)
		assert.InDelta(t, 60/decay, slope, 0.4*60/decay, "size %g", size)
		assert.NotEqual(t, w.l[Rate/2], w.r[Rate/2], "two sides")
	}
}

func TestNotchesOfAFlangerLieWhereItsDelaySays(t *testing.T) {
	s := newSwept(0.0001, 1, 0, 0, 0.5) // 1 ms, standing still
	response := func(hz float64) float64 {
		x := sine(hz, 1, 1)
		s := newSwept(0.0001, 1, 0, 0, 0.5)
		w := s.run(wave{l: x})
		return rms(w.l[Rate/2:]) * math.Sqrt2
	}
	_ = s
	assert.InDelta(t, 0, response(500), 0.01, "half a wave late: nothing is left")
	assert.InDelta(t, 1, response(1000), 0.01)
	assert.InDelta(t, 0, response(1500), 0.01)
}

func TestFoldDownOfKnownSignals(t *testing.T) {
	l, q := sine(1000, 0.5, 2), make([]float64, 2*Rate)
	for i := range q {
		q[i] = 0.5 * math.Cos(2*math.Pi*1000*float64(i)/Rate)
	}
	minus := scaledBy(l, 0)
	for i := range minus {
		minus[i] = -l[i]
	}
	playing := mask(l)
	cost := func(right []float64) (float64, float64) {
		m := &figuring{playing: playing}
		m.take(wave{l: l, r: right})
		f := m.figures()
		return *f.FoldDown, *f.Sides
	}
	c, s := cost(append([]float64(nil), l...))
	assert.InDelta(t, 0, c, 0.01, "the same on both sides costs nothing")
	assert.InDelta(t, 1, s, 1e-9)
	c, s = cost(q)
	assert.InDelta(t, 3.01, c, 0.02, "a quarter wave apart")
	assert.InDelta(t, 0, s, 1e-3)
	c, s = cost(minus)
	assert.Greater(t, c, 60.0, "upside down: nothing is left")
	assert.InDelta(t, -1, s, 1e-9)
	c, _ = cost(make([]float64, 2*Rate))
	assert.InDelta(t, 3.01, c, 0.02, "one side alone")
	m := &figuring{playing: playing}
	m.take(wave{l: l})
	assert.Nil(t, m.figures().FoldDown)
}

func TestNothingThatIsNoNumberLeavesABlock(t *testing.T) {
	effects := []plan.Effect{
		plan.EffectVolume, plan.EffectWah, plan.EffectPitch, plan.EffectOctave, plan.EffectCompressor, plan.EffectGate,
		plan.EffectBoost, plan.EffectOverdrive, plan.EffectDistortion, plan.EffectFuzz, plan.EffectEQ, plan.EffectVibe,
		plan.EffectPhaser, plan.EffectChorus, plan.EffectFlanger, plan.EffectTremolo, plan.EffectRotary, plan.EffectDelay,
		plan.EffectReverb, plan.EffectPreamp, plan.EffectPower, plan.EffectCab, plan.EffectSpeaker, plan.EffectAcoustic,
	}
	ids := []string{
		"position", "level", "drive", "tone", "fuzz", "volume", "squeeze", "threshold", "gain", "bass", "mid", "treble",
		"master", "speed", "depth", "regeneration", "time", "repeats", "mix", "size", "octave", "dry", "100", "6400",
		"reverb",
	}
	rapid.Check(t, func(t *rapid.T) {
		b := &plan.Block{
			ID: "b", Name: "b", Effect: rapid.SampledFrom(effects).Draw(t, "effect"),
			Outputs: rapid.SampledFrom([]string{"", "stereo"}).Draw(t, "outputs"),
		}
		values := map[plan.Key]plan.Value{}
		for _, id := range ids {
			c := plan.Control{ID: plan.ID(id), Kind: plan.Knob}
			if id == "time" {
				c.Unit = "ms"
			}
			b.Controls = append(b.Controls, c)
			values[plan.Key("g/b/"+id)] = plan.Number(rapid.SampledFrom([]float64{0, 0.01, 5, 9.99, 10}).Draw(t, id))
		}
		if list := plan.ModelsOf(b.Effect); len(list) > 0 {
			b.Model = rapid.SampledFrom(list).Draw(t, "circuit").ID
		}
		g := &plan.Gear{ID: "g", Blocks: []plan.Block{*b}}
		model, _ := settings{
			gear: g, block: b, at: func(k plan.Key) plan.Value { return values[k] },
		}.model(rapid.Bool().Draw(t, "fine"))
		level := rapid.SampledFrom([]float64{0, 1e-18, 1e-3, 0.5, 100}).Draw(t, "level")
		x := sine(330, level, 0.2)
		for range 2 {
			w := wave{l: append(append([]float64(nil), x...), make([]float64, Rate/5)...)}
			if rapid.Bool().Draw(t, "stereo") {
				w = w.widened()
			}
			if model != nil {
				w = model.run(w).flushed()
			}
			for _, c := range w.channels() {
				for _, v := range c {
					require.False(t, math.IsNaN(v) || math.IsInf(v, 0))
					require.False(t, v != 0 && math.Abs(v) < 1e-300, "a denormal number")
				}
			}
		}
	})
}

func TestOversamplingChangesFiguresByLittle(t *testing.T) {
	dry := reference(NewKept())
	on := mask(dry)
	tones := multitone()
	x := tones.by(1, tonePeriod)
	for name, build := range map[string]func(rate float64) shaper{
		"mid hump":    func(r float64) shaper { return midHump(5, 5, 5, r) },
		"transparent": func(r float64) shaper { return transparent(5, 5, 5, r) },
		"hard clip":   func(r float64) shaper { return hardClip(5, 5, 5, r) },
		"edge":        func(r float64) shaper { return newPreamp(edgeVoice, 5, r) },
		"driven":      func(r float64) shaper { return newPreamp(drivenVoice, 5, r) },
		"power":       func(r float64) shaper { return newPower(5, r) },
	} {
		run := func(fine bool, x []float64) wave {
			row := inOrder{shaped(fine, build), bothSides(func() interface{ run([]float64) } { return speaker(false) })}
			return row.run(wave{l: append([]float64(nil), x...)})
		}
		assert.InDelta(t, maskedLoudness(run(false, dry), on), maskedLoudness(run(true, dry), on), 0.05, name)
		assert.InDelta(t, tones.dirt(run(false, x)), tones.dirt(run(true, x)), 0.5, name)
	}
}

func TestThePhraseIsWhatItIsSaidToBe(t *testing.T) {
	for _, place := range []string{"neck", "middle", "bridge"} {
		x := phraseOf(t, plan.Pickup{ID: plan.ID(place), Name: place})
		require.Len(t, x, 6*Rate)
		assert.InDelta(t, 0.10, rms(x[4*Rate:]), 1e-9)
		assert.InDelta(t, 0.45, peakOfSamples(x[4*Rate:]), 0.1)
		hotter := 178.0
		h := phraseOf(t, plan.Pickup{ID: plan.ID(place), Name: place, OutputMVRMS: &hotter})
		assert.InDelta(t, 5, decibels(rms(h[4*Rate:])/rms(x[4*Rate:])), 0.01)
		single, pair := bandsOf(x), bandsOf(h)
		assert.Less(t, pair[3]-pair[2], single[3]-single[2]-0.5, "and darker")
		assert.InDelta(t, 12, decibels(rms(x[2*Rate:4*Rate])/rms(x[:2*Rate])), 2.5, "hard over soft")
	}
	for _, tones := range []*toneSignal{multitone(), quickTones()} {
		assert.Len(t, tones.bins, 24)
		assert.InDelta(t, 0.1, rms(tones.x), 1e-9)
		for bin := range tones.bins {
			assert.True(t, isPrime(bin))
		}
		assert.InDelta(t, 0, tones.dirt(wave{l: tones.by(1, len(tones.x))}), 1e-6, "the tones alone are clean")
	}
	assert.InDelta(t, 12, decibels(peakOfSamples(multitone().x)/rms(multitone().x)), 0.7)
}

func bandsOf(x []float64) [4]float64 {
	var m bandMeter
	m.take(wave{l: x})
	return m.bands()
}

// phraseOf is the phrase by a guitar of some pickups, all of which are on.
func phraseOf(t *testing.T, pickups ...plan.Pickup) []float64 {
	t.Helper()
	all := plan.Text("all")
	guitar := plan.Gear{
		ID: "guitar", Name: "Guitar", Kind: plan.Guitar, Pickups: pickups,
		Controls: []plan.Control{
			{ID: "pickup", Name: "Pickup", Kind: plan.Selector, Options: []string{"all"}, Default: &all},
		},
	}
	p := &plan.Plan{Gear: []plan.Gear{guitar}, Rigs: []plan.Rig{{ID: "rig", Guitars: []plan.ID{"guitar"}}}}
	r, err := newRendering(p, "rig", keptHere)
	require.NoError(t, err)
	return r.source(r.setFor(nil, nil, plan.Tempo{})).phrase()
}

func peakOfSamples(x []float64) float64 {
	most := 0.0
	for _, v := range x {
		most = math.Max(most, math.Abs(v))
	}
	return most
}

// pitchOf is the frequency of a note at the end of a circuit, in Hz: that of the highest line of its
// spectrum, between bins.
func pitchOf(x []float64, near float64) float64 {
	const size = 1 << 17
	y := make([]float64, size)
	copy(y, windowed(x[:min(len(x), size)]))
	bins := fourier.NewFFT(size).Coefficients(nil, y)
	best := int(near * 0.94 * size / Rate)
	for i := best; float64(i) < near*1.06*size/Rate; i++ {
		if power(bins[i]) > power(bins[best]) {
			best = i
		}
	}
	a, b, c := math.Log(power(bins[best-1])), math.Log(power(bins[best])), math.Log(power(bins[best+1]))
	return (float64(best) + 0.5*(a-c)/(a-2*b+c)) * Rate / size
}

func TestIntervalsAreInTune(t *testing.T) {
	within := func(t *testing.T, want float64, x []float64) {
		t.Helper()
		got := pitchOf(x[Rate/2:], want)
		assert.InDelta(t, 0, 1200*math.Log2(got/want), 2, "%g Hz, in cents", want)
	}
	for _, model := range plan.ModelsOf(plan.EffectPitch) {
		semitones := map[string]float64{
			plan.OctaveUp: 12, plan.FifthUp: 7, plan.FourthUp: 5, plan.FourthDown: -5, plan.FifthDown: -7, plan.OctaveDown: -12,
		}[model.ID]
		for _, hz := range []float64{82.41, 110, 196, 329.63, 587.33, 987.77} {
			t.Run(fmt.Sprint(model.ID, hz), func(t *testing.T) {
				b := &plan.Block{
					ID: "b", Effect: plan.EffectPitch, Model: model.ID, Controls: []plan.Control{{ID: "mix", Kind: plan.Knob}},
				}
				full := func(plan.Key) plan.Value { return plan.Number(10) }
				u, _ := settings{gear: &plan.Gear{ID: "g"}, block: b, at: full}.model(true)
				within(t, hz*math.Exp2(semitones/12), u.run(wave{l: sine(hz, 0.1, 4)}).l)
			})
		}
	}
	for _, hz := range []float64{82.41, 110, 196, 329.63} {
		u := newDivider(5, 0)
		x := sine(hz, 0.1, 4)
		u.run(x)
		within(t, hz/2, x)
	}
}

func TestWhatIsWrittenInNotesIsNotHeard(t *testing.T) {
	for _, effect := range []plan.Effect{
		plan.EffectOverdrive, plan.EffectPreamp, plan.EffectDelay, plan.EffectReverb, plan.EffectCab,
	} {
		out := func(g plan.Gear) []float64 {
			b := &plan.Block{ID: "b", Name: g.Name, Effect: effect, Outputs: "stereo"}
			u, _ := settings{gear: &g, block: b, at: func(plan.Key) plan.Value { return plan.Value{} }}.model(false)
			return u.run(wave{l: sine(300, 0.1, 0.5)}).l
		}
		assert.Equal(
			t, out(plan.Gear{ID: "g"}),
			out(plan.Gear{ID: "g", Name: "spring", Circuit: "high-gain transparent tape ping-pong closed", Notes: "clean"}),
			"%s", effect,
		)
	}
}

func TestARateIsHeardAsItIsSaid(t *testing.T) {
	turns := func(c plan.Control, at float64) float64 {
		c.ID, c.Name, c.Kind = "speed", "speed", plan.Knob
		b := &plan.Block{ID: "b", Effect: plan.EffectTremolo, Controls: []plan.Control{c}}
		u, _ := settings{
			gear: &plan.Gear{ID: "g"}, block: b, at: func(plan.Key) plan.Value { return plan.Number(at) },
		}.model(false)
		x := make([]float64, 10*Rate)
		for i := range x {
			x[i] = 1
		}
		y := u.run(wave{l: x}).l
		n := 0
		for i := 1; i < len(y)-1; i++ {
			if y[i] > y[i-1] && y[i] >= y[i+1] {
				n++
			}
		}
		return float64(n) / 10
	}
	assert.InDelta(t, 5, turns(plan.Control{Unit: "Hz"}, 5), 0.11)
	assert.InDelta(t, 4, turns(plan.Control{Unit: "ms"}, 250), 0.11)
	measured := []plan.Rate{{At: 0, Hz: 1}, {At: 10, Hz: 9}}
	assert.InDelta(t, 3, turns(plan.Control{Measured: measured}, 5), 0.11)
	assert.InDelta(t, speedOf(5), turns(plan.Control{}, 5), 0.11, "and the usual range where nobody has said")
}

func TestAVibeWithoutDepthIsStill(t *testing.T) {
	swings := func(depth float64) float64 {
		b := &plan.Block{ID: "b", Effect: plan.EffectVibe, Controls: []plan.Control{{ID: "depth", Kind: plan.Knob}}}
		u, _ := settings{
			gear: &plan.Gear{ID: "g"}, block: b, at: func(plan.Key) plan.Value { return plan.Number(depth) },
		}.model(false)
		x := u.run(wave{l: sine(500, 0.1, 4)}).l[Rate:]
		low, high := math.Inf(1), 0.0
		for from := 0; from+4800 <= len(x); from += 4800 {
			low, high = math.Min(low, rms(x[from:from+4800])), math.Max(high, rms(x[from:from+4800]))
		}
		return decibels(high / low)
	}
	assert.Less(t, swings(0), 0.01)
	assert.Greater(t, swings(6), 1.0)
}

// tilt is how much more of 1 kHz than of 110 Hz, at a whisper, comes out of a drive, in dB.
func tilt(model string, drive float64) float64 {
	b := &plan.Block{
		ID: "b", Effect: plan.EffectOverdrive, Model: model, Controls: []plan.Control{{ID: "drive", Kind: plan.Knob}},
	}
	out := func(hz float64) float64 {
		u, _ := settings{
			gear: &plan.Gear{ID: "g"}, block: b, at: func(plan.Key) plan.Value { return plan.Number(drive) },
		}.model(false)
		return rms(u.run(wave{l: sine(hz, 1e-5, 1)}).l[Rate/2:])
	}
	return decibels(out(1000) / out(110))
}

func TestADriveThinsItsBassAsItsGainRises(t *testing.T) {
	assert.Less(t, tilt(plan.Thinning, 0), 2.0)
	assert.Greater(t, tilt(plan.Thinning, 10), tilt(plan.Thinning, 0)+8)
	assert.InDelta(t, tilt(plan.Transparent, 0), tilt(plan.Transparent, 10), 3, "and others do not")
}

func TestWhatAnAmpHasBesidesActs(t *testing.T) {
	out := func(effect plan.Effect, hz float64, at map[plan.Key]plan.Value) float64 {
		b := &plan.Block{ID: "b", Effect: effect}
		for _, id := range []plan.ID{"gain", "master", "presence", "cut"} {
			b.Controls = append(b.Controls, plan.Control{ID: id, Kind: plan.Knob})
		}
		b.Controls = append(
			b.Controls, plan.Control{ID: "x1", Name: "Bright", Kind: plan.Selector, Options: []string{"off", "on"}},
			plan.Control{ID: "x2", Name: "Input", Kind: plan.Selector, Options: []string{"high", "low"}},
		)
		u, _ := settings{gear: &plan.Gear{ID: "g"}, block: b, at: func(k plan.Key) plan.Value { return at[k] }}.model(false)
		return decibels(rms(u.run(wave{l: sine(hz, 1e-4, 1)}).l[Rate/2:]))
	}
	set := func(key string, v plan.Value) map[plan.Key]plan.Value {
		return map[plan.Key]plan.Value{plan.Key("g/b/" + key): v, "g/b/gain": plan.Number(3)}
	}
	pre, power := plan.EffectPreamp, plan.EffectPower
	assert.InDelta(
		t, -6.02, out(pre, 500, set("x2", plan.Text("low")))-out(pre, 500, set("x2", plan.Text("high"))), 0.05,
		"the low input",
	)
	assert.Greater(
		t, out(pre, 5000, set("x1", plan.Text("on")))-out(pre, 5000, set("x1", plan.Text("off"))), 4.0,
		"a control that is called bright is",
	)
	assert.Greater(
		t, out(power, 6000, set("presence", plan.Number(10)))-out(power, 6000, set("presence", plan.Number(0))), 10.0,
	)
	assert.Less(t, out(power, 6000, set("cut", plan.Number(10)))-out(power, 6000, set("cut", plan.Number(0))), -9.0)
}

func TestEveryEffectHasACircuit(t *testing.T) {
	for _, e := range plan.Effects() {
		make, ok := circuits[e.Effect]
		require.True(t, ok, "%s is computed by something, if only by wire", e.Name)
		block := plan.Block{ID: "fx", Effect: e.Effect}
		s := settings{
			gear: &plan.Gear{ID: "box", Blocks: []plan.Block{block}}, block: &block,
			at: func(plan.Key) plan.Value { return plan.Value{} },
		}
		model, _ := make(s, true)
		assert.Equal(
			t, e.Nature == plan.NatureRouting && e.Effect != plan.EffectSum, model == nil,
			"%s does something, or passes the signal on", e.Name,
		)
	}
	assert.Len(t, circuits, len(plan.Effects()))
}
