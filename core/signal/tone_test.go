package signal

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"envex/core/catalog"
	"envex/core/plan"
)

func combo(t require.TestingT) *plan.Plan {
	p := &plan.Plan{Sounds: []plan.Sound{{ID: "home", Name: "Home", Short: "H", Tape: "bone", Role: plan.HomeRole}}}
	kind, ok := catalog.Find("combo-plain")
	require.True(t, ok)
	g := kind.In(p, "amp", "Combo")
	p.Put(g)
	rig := plan.Rig{
		ID:      "r",
		Name:    "R",
		Base:    map[plan.Key]plan.Value{},
		Recipes: []plan.Recipe{{ID: "made", Sound: "home"}},
	}
	for _, b := range g.Blocks {
		rig.Path = append(rig.Path, plan.Node{Stop: plan.BlockKey(g.ID, b.ID)})
	}
	p.Put(rig)
	require.Empty(t, p.Validate())
	return p
}

// What the curve says at a frequency is what a sine of that frequency comes to through the sections.
func TestTheToneCurveIsWhatASineComesTo(t *testing.T) {
	p := combo(t)
	rapid.Check(t, func(rt *rapid.T) {
		base := p.Rigs[0].Base
		for _, id := range []plan.Key{"bass", "mid", "treble"} {
			base["amp/preamp/"+id] = plan.Number(float64(rapid.IntRange(0, 100).Draw(rt, string(id))) / 10)
		}
		tone, err := ToneOf(p, "r", "amp", &p.Rigs[0].Recipes[0])
		require.NoError(rt, err)
		i := rapid.IntRange(0, len(tone.Hz)-1).Draw(rt, "at")
		x := sine(tone.Hz[i], 1, 1)
		f := tones(base["amp/preamp/bass"].Float(), base["amp/preamp/mid"].Float(), base["amp/preamp/treble"].Float())
		f.run(x)
		assert.InDelta(rt, tone.AsSet[i], decibels(rms(x[Rate/2:])*math.Sqrt2), 0.05)
	})
}

func TestToneKnobsMoveTheirOwnPart(t *testing.T) {
	p := combo(t)
	tone, err := ToneOf(p, "r", "amp", &p.Rigs[0].Recipes[0])
	require.NoError(t, err)
	require.Len(t, tone.Knobs, 3, "gain and master shape nothing")
	at := func(list []float64, hz float64) float64 {
		best := 0
		for i, x := range tone.Hz {
			if math.Abs(math.Log(x/hz)) < math.Abs(math.Log(tone.Hz[best]/hz)) {
				best = i
			}
		}
		return list[best]
	}
	for i, x := range []struct {
		name string
		hz   float64
	}{{"bass", 60}, {"mid", 550}, {"treble", 8000}} {
		k := tone.Knobs[i]
		assert.Equal(t, x.name, k.Name)
		assert.Greater(t, at(k.Highest, x.hz)-at(k.Lowest, x.hz), 15.0)
		assert.InDelta(t, 5, k.At, 0.01)
		assert.Greater(t, at(k.Highest, x.hz), at(tone.AsSet, x.hz))
	}
	_, err = ToneOf(p, "r", "none", &p.Rigs[0].Recipes[0])
	assert.ErrorContains(t, err, "no tone knobs")
	_, err = ToneOf(p, "none", "amp", &p.Rigs[0].Recipes[0])
	assert.Error(t, err)
}
