package signal_test

import (
	"context"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/path"
	"envex/core/plan"
	"envex/core/signal"
)

const pier plan.Key = "pier/preamp"

func TestHowMuchDirtRecipesTakeFromAPreamp(t *testing.T) {
	p := night(t)
	r, _ := p.FindRig("long")
	before := -1.0
	for _, gain := range []float64{0, 2, 4, 5.5, 7, 8.5, 10} {
		r.Base[pier+"/gain"] = plan.Number(gain)
		driven, err := signal.Driven(context.Background(), p, "long", signal.NewKept())
		require.NoError(t, err)
		require.Contains(t, driven, pier)
		assert.GreaterOrEqual(t, driven[pier], before, "gain %g", gain)
		before = driven[pier]
		if gain == 0 {
			assert.Zero(t, driven[pier], "clean")
		}
	}
	assert.Greater(t, before, 0.8, "driven")

	one := r.Recipes[0]
	for i := range r.Recipes {
		r.Recipes[i].Values = map[plan.Key]plan.Value{pier + "/gain": plan.Number(0)}
	}
	r.Recipes[3].Values = map[plan.Key]plan.Value{pier + "/gain": plan.Number(9)}
	driven, err := signal.Driven(context.Background(), p, "long", signal.NewKept())
	require.NoError(t, err)
	assert.Greater(t, driven[pier], 0.6, "the dirtiest recipe counts")
	r.Recipes = append(r.Recipes[:0:0], one)
	r.Recipes[0].Values = map[plan.Key]plan.Value{pier + "/gain": plan.Number(0)}
	driven, err = signal.Driven(context.Background(), p, "long", signal.NewKept())
	require.NoError(t, err)
	assert.Zero(t, driven[pier], "not the base")

	_, err = signal.Driven(context.Background(), p, "nope", signal.NewKept())
	assert.ErrorContains(t, err, `no rig "nope"`)
	cancelled, cancel := context.WithCancel(context.Background())
	cancel()
	_, err = signal.Driven(cancelled, p, "long", nil)
	assert.ErrorIs(t, err, context.Canceled)
}

func TestAnOrderIsWeighedByTheDirtOfTheAmp(t *testing.T) {
	p := night(t)
	r, _ := p.FindRig("long")
	at := slices.IndexFunc(r.Path, func(n plan.Node) bool { return n.Stop == pier })
	front := []plan.Node{{Stop: "slap/fx"}, {Stop: pier}}
	for _, n := range r.Path[at+1:] {
		if n.Stop != "slap/fx" {
			front = append(front, n)
		}
	}
	r.Path = append(slices.Clone(r.Path[:at]), front...) // a delay in front of the amp
	cost := func(driven path.Driven) float64 {
		report, err := path.JudgeDriven(context.Background(), p, "long", "", driven)
		require.NoError(t, err)
		return report.Cost
	}
	assert.Less(t, cost(path.Driven{pier: 0}), cost(path.Driven{pier: 0.5}))
	assert.Less(t, cost(path.Driven{pier: 0.5}), cost(path.Driven{pier: 1}))
	report, err := path.JudgeDriven(context.Background(), p, "long", "", path.Driven{pier: 0.5})
	require.NoError(t, err)
	assert.Contains(
		t, report.Estimated,
		"Pier combo preamp is taken to be driven 50 %, by the dirt its model makes as the recipes set it.",
	)
}
