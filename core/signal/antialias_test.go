package signal

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"gonum.org/v1/gonum/dsp/fourier"
	"pgregory.net/rapid"

	"envex/core/plan"
)

// aliases are the loudest line under 20 kHz that is no harmonic of a tone, over the tone, in dB.
func aliases(u unit, hz, level float64) float64 {
	const size = 1 << 15
	bin := math.Round(hz * size / Rate) // whole cycles in the frame
	x := make([]float64, 3*size)
	for i := range x {
		x[i] = level * math.Sin(2*math.Pi*bin*float64(i)/size)
	}
	y := u.run(wave{l: x}).l[2*size:]
	bins := fourier.NewFFT(size).Coefficients(nil, y)
	most := 0.0
	for i, c := range bins[:20000*size/Rate] {
		if math.Mod(float64(i), bin) != 0 {
			most = math.Max(most, power(c))
		}
	}
	return 10 * math.Log10((most+1e-30)/power(bins[int(bin)]))
}

// drives are every circuit that is made to clip, by name.
var drives = map[string]func(drive, rate float64) shaper{
	"boost":       func(d, r float64) shaper { return newBoost(factor(2*d), r) },
	"mid-hump":    func(d, r float64) shaper { return midHump(d, 10, 5, r) },
	"transparent": func(d, r float64) shaper { return transparent(d, 10, 5, r) },
	"thinning":    func(d, r float64) shaper { return thinning(d, 10, 5, r) },
	"hard clip":   func(d, r float64) shaper { return hardClip(d, 10, 5, r) },
	"fuzz":        func(d, r float64) shaper { return newFuzz(d, 5, r) },
	"clean":       func(d, r float64) shaper { return newPreamp(cleanVoice, d, r) },
	"edge":        func(d, r float64) shaper { return newPreamp(edgeVoice, d, r) },
	"driven":      func(d, r float64) shaper { return newPreamp(drivenVoice, d, r) },
	"power":       func(d, r float64) shaper { return newPower(d, r) },
}

func TestWhatADriveMakesAboveTheBandDoesNotFoldBack(t *testing.T) {
	for name, build := range drives {
		for _, drive := range []float64{0, 5, 10} {
			if name == "power" && drive == 0 {
				continue // it is silent
			}
			for _, hz := range []float64{5000, 3107} {
				for _, level := range []float64{0.1, 0.5, 2} {
					u := shaped(true, func(rate float64) shaper { return build(drive, rate) })
					assert.Less(t, aliases(u, hz, level), -60.0, "%s at %g, %g Hz of %g V", name, drive, hz, level)
				}
			}
		}
	}
}

func TestACurveInPiecesIsTheCurve(t *testing.T) {
	for name, c := range map[string]*curve{
		"soft": softCurve(), "hard": hardCurve(), "first": firstCurve(), "second": secondCurve(), "fuzz": fuzzCurve(),
	} {
		rapid.Check(t, func(t *rapid.T) {
			x := rapid.Float64Range(-40, 40).Draw(t, "x")
			const h = 1e-3
			assert.InDelta(
				t, c.f(x), (c.once(x+h)-c.once(x-h))/(2*h), 5e-3, "%s: the slope of its first integral at %g", name, x,
			)
			assert.InDelta(
				t,
				c.once(x),
				(c.twice(x+h)-c.twice(x-h))/(2*h),
				1e-5,
				"%s: that of its second at %g",
				name,
				x,
			)
		})
	}
}

func TestEveryCircuitIsLateByTheSame(t *testing.T) {
	for name, build := range drives {
		x := make([]float64, 400)
		for i := range x {
			x[i] = 1e-6 * math.Exp(-float64((i-100)*(i-100))/200)
		}
		fine, plain := append([]float64(nil), x...), append([]float64(nil), x...)
		shaped(true, func(rate float64) shaper { return build(3, rate) }).run(wave{l: fine})
		shaped(false, func(rate float64) shaper { return build(3, rate) }).run(wave{l: plain})
		most := peakOfSamples(plain)
		for i := range 300 {
			assert.InDelta(t, plain[i]/most, fine[i+overLatency]/most, 0.06, "%s at sample %d", name, i)
		}
	}
}

func TestPiecesOfAnyLengthAreTheWhole(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		x := sine(311, 0.3, 0.1)
		whole, parts := append([]float64(nil), x...), append([]float64(nil), x...)
		build := func(rate float64) shaper { return hardClip(7, 5, 5, rate) }
		shaped(true, build).run(wave{l: whole})
		u := shaped(true, build)
		for at := 0; at < len(parts); {
			n := min(rapid.IntRange(1, 700).Draw(t, "n"), len(parts)-at)
			u.run(wave{l: parts[at : at+n]})
			at += n
		}
		assert.InDeltaSlice(t, whole, parts, 1e-8) // rounding, which the quotients of a bend make larger
	})
}

// twelve is a board of twelve blocks, six of which bend.
func twelve(fine bool) inOrder {
	knob := func(plan.Key) plan.Value { return plan.Value{} }
	var row inOrder
	for _, b := range []plan.Block{
		{Effect: plan.EffectWah}, {Effect: plan.EffectCompressor}, {Effect: plan.EffectBoost},
		{Effect: plan.EffectOverdrive}, {Effect: plan.EffectDistortion},
		{Effect: plan.EffectEQ}, {Effect: plan.EffectPhaser}, {Effect: plan.EffectPreamp}, {Effect: plan.EffectDelay},
		{Effect: plan.EffectReverb},
		{Effect: plan.EffectPower}, {Effect: plan.EffectSpeaker},
	} {
		u, _ := settings{gear: &plan.Gear{}, block: &b, at: knob}.model(fine)
		row = append(row, u)
	}
	return row
}

func BenchmarkTwelveBlocks(b *testing.B) {
	x := reference(NewKept())
	for name, fine := range map[string]bool{"figures": false, "listening": true} {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				w := wave{l: append([]float64(nil), x...)}
				u := twelve(fine)
				for from := 0; from < len(x); from += 8192 {
					u.run(wave{l: w.l[from:min(from+8192, len(x))]})
				}
			}
			b.ReportMetric(phraseS*float64(b.N)/b.Elapsed().Seconds(), "times-real-time")
		})
	}
	for i, u := range twelve(true) {
		b.Run(fmt.Sprint("block ", i+1), func(b *testing.B) {
			for b.Loop() {
				w := append([]float64(nil), x...)
				u.run(wave{l: w})
			}
			b.ReportMetric(b.Elapsed().Seconds()/float64(b.N)/float64(len(x))*1e9, "ns/sample")
		})
	}
}
