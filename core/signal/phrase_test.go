package signal

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
)

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

func bandsOf(x []float64) [4]float64 {
	var m bandMeter
	m.take(wave{l: x})
	return m.bands()
}

func peakOfSamples(x []float64) float64 {
	most := 0.0
	for _, v := range x {
		most = math.Max(most, math.Abs(v))
	}
	return most
}
