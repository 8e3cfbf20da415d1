package signal

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
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
		u, _ := settings{
			gear:  &plan.Gear{ID: "g"},
			block: b,
			at:    func(k plan.Key) plan.Value { return at[k] },
		}.model(
			false,
		)
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
