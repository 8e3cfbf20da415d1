package signal

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"envex/core/plan"
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
	y := join(
		sine(1000, factor(-72), 10), sine(1000, quiet, 10), sine(1000, mid, 60), sine(1000, quiet, 10),
		sine(1000, factor(-72), 10),
	)
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
	x := phraseOf(t, plan.Pickup{ID: "bridge", Name: "bridge"})
	on := mask(x)
	base := maskedLoudness(wave{l: x}, on)
	rapid.Check(t, func(t *rapid.T) {
		db := rapid.Float64Range(-60, 40).Draw(t, "db")
		require.InDelta(t, base+db, maskedLoudness(wave{l: scaledBy(x, db)}, on), 1e-6)
	})
}

// At its own rate a signal is as loud as it is: white noise has as much above 24 kHz as below at 96 kHz.
func TestTheMeterMeasuresAtAnyRate(t *testing.T) {
	at := func(rate int, x []float64) Measured {
		m := NewLoudnessMeter(rate, 1)
		for len(x) > 0 { // however it comes
			n := min(len(x), 1013)
			m.Push([][]float64{x[:n]})
			x = x[n:]
		}
		return m.Measured()
	}
	for _, rate := range []int{8000, 22050, 44100, 47999, 48000, 88200, 96000, 192000} {
		x := make([]float64, 5*rate)
		for i := range x {
			x[i] = math.Sin(2 * math.Pi * 997 * float64(i) / float64(rate))
		}
		m := at(rate, x)
		require.NotNil(t, m.LUFS)
		assert.InDelta(t, -3.01, *m.LUFS, 0.05, "at %d Hz", rate)
		assert.InDelta(t, 0, m.TruePeak, 0.25, "at %d Hz", rate)
		assert.InDelta(t, 5, m.Seconds, 1e-9)
	}
	noise := make([]float64, 5*96000)
	state := uint64(1)
	for i := range noise {
		state = state*6364136223846793005 + 1442695040888963407
		noise[i] = (float64(state>>11)/(1<<53) - 0.5) * 0.2
	}
	// K-weighting lifts all of white noise above some hundred hertz: its mean square by nearly 4 dB.
	m := at(96000, noise)
	assert.InDelta(t, 10*math.Log10(0.2*0.2/12)-0.691+3.85, *m.LUFS, 0.15)
}

// Its sections at 48 kHz are those of the annex, however they are made.
func TestTheSectionsAtOtherRatesAreThoseOfTheAnnex(t *testing.T) {
	want := kWeighting()
	got := kWeightingAt(Rate * (1 + 1e-12))
	for i := range want {
		assert.InDelta(t, want[i].b0, got[i].b0, 1e-6)
		assert.InDelta(t, want[i].b1, got[i].b1, 1e-6)
		assert.InDelta(t, want[i].b2, got[i].b2, 1e-6)
		assert.InDelta(t, want[i].a1, got[i].a1, 1e-6)
		assert.InDelta(t, want[i].a2, got[i].a2, 1e-6)
	}
}

func TestATruePeakIsNeverBelowASample(t *testing.T) {
	rapid.Check(t, func(r *rapid.T) {
		rate := rapid.SampledFrom([]int{8000, 44100, 48000, 96000, 192000}).Draw(r, "rate")
		x := rapid.SliceOfN(rapid.Float64Range(-1, 1), 1, 300).Draw(r, "samples")
		m := NewLoudnessMeter(rate, 1)
		m.Push([][]float64{x})
		got := m.Measured()
		assert.GreaterOrEqual(r, got.TruePeak, got.PeakDBFS)
	})
}
