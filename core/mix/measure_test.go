package mix_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/mix"
	"envex/core/plan"
	"envex/core/signal"
)

func TestAPartIsMeasuredFromARecording(t *testing.T) {
	x := make([]float64, 2*signal.Rate)
	for i := range x {
		at := 2 * math.Pi * float64(i) / signal.Rate
		x[i] = 0.2*math.Sin(1000*at) + 0.02*math.Sin(250*at)
	}
	levels, err := mix.Measured(x)
	require.NoError(t, err)
	require.Len(t, levels, plan.PartBands)
	assert.Zero(t, levels[16], "the strongest, at 1 kHz")
	assert.InDelta(t, -20, levels[10], 0.2, "250 Hz")
	assert.Less(t, levels[22], -60.0)
	for _, db := range levels {
		assert.GreaterOrEqual(t, db, -80.0)
	}
	_, err = mix.Measured(make([]float64, signal.Rate))
	assert.ErrorContains(t, err, "nothing is heard")
}
