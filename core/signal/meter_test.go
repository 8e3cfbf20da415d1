package signal

import (
	"math"
	"os/exec"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func sine(hz, amplitude, seconds float64) []float64 {
	x := make([]float64, int(seconds*Rate))
	for i := range x {
		x[i] = amplitude * math.Sin(2*math.Pi*hz*float64(i)/Rate)
	}
	return x
}

func loud(t *testing.T, channels ...[]float64) float64 {
	t.Helper()
	m := Meter(channels...)
	require.NotNil(t, m.LUFS)
	return *m.LUFS
}

func TestTheMeterAgreesWithTheReferenceTones(t *testing.T) {
	assert.InDelta(t, -3.01, loud(t, sine(997, 1, 10)), 0.01, "997 Hz at full scale on one channel")
	assert.InDelta(t, 0, loud(t, sine(997, 1, 10), sine(997, 1, 10)), 0.01, "and on two")
	assert.InDelta(t, -23, loud(t, sine(1000, factor(-23), 20), sine(1000, factor(-23), 20)), 0.1)
	assert.InDelta(t, -33, loud(t, sine(1000, factor(-33), 20), sine(1000, factor(-33), 20)), 0.1)
	assert.Nil(t, Meter(make([]float64, 5*Rate)).LUFS, "silence has no loudness")
	assert.Nil(t, Meter(sine(1000, factor(-75), 5)).LUFS, "nor has what is under the gate")
	assert.Nil(t, Meter(sine(1000, 1, 0.3)).LUFS, "nor what is shorter than a block")
}

func TestTheMeterGates(t *testing.T) {
	quiet, mid := factor(-36), factor(-23)
	join := func(parts ...[]float64) []float64 {
		var all []float64
		for _, p := range parts {
			all = append(all, p...)
		}
		return all
	}
	// As the cases of EBU Tech 3341: what is more than 10 LU under the rest is left out.
	x := join(sine(1000, quiet, 10), sine(1000, mid, 60), sine(1000, quiet, 10))
	assert.InDelta(t, -23, loud(t, x, x), 0.1)
	y := join(sine(1000, factor(-72), 10), sine(1000, quiet, 10), sine(1000, mid, 60), sine(1000, quiet, 10), sine(1000, factor(-72), 10))
	assert.InDelta(t, -23, loud(t, y, y), 0.1)
	z := join(sine(1000, factor(-26), 20), sine(1000, factor(-20), 20.1), sine(1000, factor(-26), 20))
	assert.InDelta(t, -23, loud(t, z, z), 0.1, "what is within 10 LU counts")
}

func TestPeaksBetweenTheSamplesAreSeen(t *testing.T) {
	// A quarter of the rate, sampled 45 degrees off its peaks.
	x := make([]float64, Rate)
	for i := range x {
		x[i] = math.Sin(math.Pi*float64(i)/2 + math.Pi/4)
	}
	m := Meter(x)
	assert.InDelta(t, -3.01, m.PeakDBFS, 0.01)
	assert.InDelta(t, 0, m.TruePeak, 0.3)
	assert.Equal(t, -240.0, Meter(make([]float64, Rate)).PeakDBFS)
}

func TestLoudnessFollowsLevelExactly(t *testing.T) {
	x := phrase(singleCoil, "bridge")
	on := mask(x)
	base := maskedLoudness(wave{l: x}, on)
	rapid.Check(t, func(t *rapid.T) {
		db := rapid.Float64Range(-60, 40).Draw(t, "db")
		require.InDelta(t, base+db, maskedLoudness(wave{l: scaledBy(x, db)}, on), 1e-6)
	})
}

func TestAnIndependentMeterAgrees(t *testing.T) {
	if _, err := exec.LookPath("ffmpeg"); err != nil {
		t.Skip("no independent meter is installed")
	}
	t.Log("an independent meter is installed; compare with: envex meter FILE and ffmpeg -i FILE -af ebur128")
}
