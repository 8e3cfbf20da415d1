package signal_test

import (
	"context"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/core/signal"
)

// A sketch need not be right to a hair, but what is within by the one must be near by the other: the difference of two
// sounds of the demo, and the dirt of each.
func TestASketchIsNearWhatIsRenderedInFull(t *testing.T) {
	p := night(t)
	rig := p.Rigs[0].ID
	full, err := signal.Measure(context.Background(), p, rig, signal.Options{Kept: kept})
	require.NoError(t, err)
	x, err := signal.NewSketcher(p, rig, kept)
	require.NoError(t, err)
	quick, err := signal.NewSketcher(p, rig, kept)
	require.NoError(t, err)
	quick.Quick = true
	var list []plan.Recipe
	for _, s := range full.Sounds {
		rec := p.Rigs[0].RecipeFor(plan.Section{Sound: s.Sound})
		require.NotNil(t, rec)
		list = append(list, *rec)
	}
	got, err := x.Of(context.Background(), list)
	require.NoError(t, err)
	rough, err := quick.Of(context.Background(), list)
	require.NoError(t, err)
	home := 0
	for i, s := range full.Sounds {
		if s.Sound == full.Home {
			home = i
		}
	}
	for i, s := range full.Sounds {
		assert.Less(t, math.Abs(got[i].Loudness-got[home].Loudness-s.OverHome), 0.25, s.Name)
		assert.InDelta(t, s.Figures.Dirt, got[i].Dirt, 0.05, s.Name)
		assert.InDelta(t, s.Figures.Dirt, rough[i].Dirt, 0.7, s.Name)
		assert.Equal(t, got[i].Loudness, rough[i].Loudness, s.Name)
	}
	tried := x.Tried
	again, err := x.Of(context.Background(), list)
	require.NoError(t, err)
	assert.Equal(t, got, again)
	assert.Equal(t, tried, x.Tried, "what was metered is kept")
}

func BenchmarkSketch(b *testing.B) {
	p := night(b)
	r := p.Rigs[0]
	for b.Loop() {
		x, err := signal.NewSketcher(p, r.ID, kept)
		require.NoError(b, err)
		var list []plan.Recipe
		for i := range 40 {
			list = append(list, plan.Recipe{Sound: p.Sounds[0].ID, Values: map[plan.Key]plan.Value{
				"amber/fx/on": plan.On(true), "amber/fx/drive": plan.Number(float64(i) / 4),
			}})
		}
		_, err = x.Of(context.Background(), list)
		require.NoError(b, err)
	}
}
