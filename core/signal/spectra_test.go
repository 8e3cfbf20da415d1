package signal_test

import (
	"context"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/hearing"
	"envex/core/plan"
	"envex/core/signal"
)

func sine(hz, peak float64, samples int) []float64 {
	x := make([]float64, samples)
	for i := range x {
		x[i] = peak * math.Sin(2*math.Pi*hz*float64(i)/signal.Rate)
	}
	return x
}

func TestToneFallsIntoItsBand(t *testing.T) {
	for band := 4; band < hearing.Bands; band++ {
		got := signal.ThirdsOf(sine(hearing.Centre(band), 0.5, 2*signal.Rate))
		assert.InDelta(t, 10*math.Log10(0.125), got.Level(), 0.1, "band %d", band)
		assert.InDelta(t, 0.125, got[band], 0.003, "band %d", band)
	}
	both := signal.ThirdsOf(sine(1000, 0.5, signal.Rate), sine(1000, 0.5, signal.Rate))
	assert.InDelta(t, 10*math.Log10(0.25), both.Level(), 0.1, "two loudspeakers give twice the power")
	assert.Positive(t, signal.ThirdsOf(sine(1000, 0.5, 1000)).Level()+120, "a short one is metered too")
}

// What a rig puts into its bands follows its knobs, its tuning and its lanes.
func TestSpread(t *testing.T) {
	p := night(t)
	rig, home := plan.ID("bare"), plan.ID("home")
	got, err := signal.Spread(context.Background(), p, rig, []signal.Playing{
		{Sound: home}, {Sound: home, Tuned: plan.Strings{}.Up(-12)}, {Sound: home, Tuned: plan.Strings{}.Up(12)},
	}, signal.Options{Kept: kept})
	require.NoError(t, err)
	report, err := signal.Measure(
		context.Background(),
		p,
		rig,
		signal.Options{Only: []plan.ID{home}, Want: signal.ForTargets, Kept: kept},
	)
	require.NoError(t, err)
	assert.InDelta(t, report.Sounds[0].Figures.Playing, got[0].Level, 0.1, "the level is the one that targets know")
	low := func(s hearing.Spectrum) float64 { // energy under 160 Hz over all
		sum := 0.0
		for band := range 9 {
			sum += s[band]
		}
		return 10*math.Log10(sum) - s.Level()
	}
	assert.Greater(t, low(got[1].Dry), low(got[0].Dry)+3, "an octave down has more low end")
	assert.Less(t, low(got[2].Dry), low(got[0].Dry)-3, "an octave up has less")

	_, err = signal.Spread(context.Background(), p, rig, []signal.Playing{{Sound: "nothing"}}, signal.Options{})
	assert.ErrorContains(t, err, "nothing")
}
