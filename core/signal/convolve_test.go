package signal

import (
	"math"
	"math/cmplx"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/dsp/fourier"
	"pgregory.net/rapid"
)

// shelf is a response that falls by 12 dB about a kilohertz.
func shelf(hz float64) float64 { return cmplx.Abs(complex(1, hz/2000) / complex(1, hz/500)) }

func noiseOf(rt *rapid.T, name string, most int) []float64 {
	seed := rapid.Uint32().Draw(rt, name+" seed")
	x := make([]float64, rapid.IntRange(1, most).Draw(rt, name+" samples"))
	for i := range x {
		seed = seed*1664525 + 1013904223
		x[i] = float64(seed)/(1<<31) - 1
	}
	return x
}

func convolved(x, taps []float64) []float64 {
	y := make([]float64, len(x))
	for i := range y {
		for k := 0; k <= i && k < len(taps); k++ {
			y[i] += taps[k] * x[i-k]
		}
	}
	return y
}

func impulseOf(f *filter) []float64 {
	x := make([]float64, filterTaps)
	x[0] = 1
	f.unit().run(wave{l: x})
	return x
}

func TestADesignedFilterHasTheSizeOfItsResponse(t *testing.T) {
	taps := append(impulseOf(filterOf(shelf)), make([]float64, 3*filterTaps)...)
	bins := fourier.NewFFT(len(taps)).Coefficients(nil, taps)
	for i := 4; i < len(bins)*4/5; i++ {
		hz := float64(i) * Rate / float64(len(taps))
		require.InDelta(t, decibels(shelf(hz)), decibels(cmplx.Abs(bins[i])), 0.05, "%.0f Hz", hz)
	}
}

func TestWiresConvolveInPiecesOfAnyLengthOnOneSideAndOnTwo(t *testing.T) {
	f := filterOf(shelf)
	taps := impulseOf(f)
	rapid.Check(t, func(rt *rapid.T) {
		l := noiseOf(rt, "left", 7000)
		r := slices.Clone(l)
		slices.Reverse(r)
		wantL, wantR := convolved(l, taps), convolved(r, taps)
		u, from := f.unit(), rapid.IntRange(0, len(l)).Draw(rt, "second side from")
		for at := 0; at < len(l); {
			end := min(at+rapid.IntRange(1, 7000).Draw(rt, "piece"), len(l))
			w := wave{l: l[at:end]}
			if at >= from {
				w.r = r[at:end]
			}
			u.run(w)
			if at == 0 && from == 0 {
				require.InDeltaSlice(rt, wantR[:end], r[:end], 1e-12)
			}
			require.InDeltaSlice(rt, wantL[at:end], l[at:end], 1e-12)
			at = end
		}
	})
}

func TestASilentSideStaysSilent(t *testing.T) {
	x := wave{l: make([]float64, 20000), r: make([]float64, 20000)}
	x.l[0] = 1
	filterOf(shelf).unit().run(x)
	require.True(t, silence(x.r))
	require.True(t, silence(x.l[filterTaps+stepMost:]), "what has died away is silent")
	require.False(t, silence(x.l[:100]))
}

func TestWiresGlideFromOneFilterToTheNext(t *testing.T) {
	for name, sides := range map[string]int{"one side": 1, "two sides": 2} {
		t.Run(name, func(t *testing.T) {
			loud, quiet := (&filter{k: 1}).unit(), filterOf(func(hz float64) float64 { return shelf(hz) / 4 })
			one := func() wave {
				w := wave{l: slices.Repeat([]float64{1}, 3000)}
				if sides == 2 {
					w.r = slices.Clone(w.l)
				}
				return w
			}
			loud.run(one())
			u := quiet.unit()
			u.after(loud)
			for round := range 3 {
				w := u.run(one())
				if sides == 2 {
					require.Equal(t, w.l, w.r)
				}
				for i, y := range w.l {
					share := math.Max(0, 1-float64(3000*round+i)/glide)
					require.InDelta(t, share+(1-share)*shelf(0)/4, y, 2e-3, "sample %d", 3000*round+i)
				}
			}
		})
	}
}
