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
			t,
			out(plan.Gear{ID: "g"}),
			out(
				plan.Gear{
					ID:      "g",
					Name:    "spring",
					Circuit: "high-gain transparent tape ping-pong closed",
					Notes:   "clean",
				},
			),
			"%s",
			effect,
		)
	}
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
