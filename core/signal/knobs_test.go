package signal_test

import (
	"context"
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/core/signal"
	"envex/golden"
)

func TestKnobsAreFoundThatBringASoundIn(t *testing.T) {
	p := night(t)
	found, err := signal.Tune(
		context.Background(), p, "long", "", "lead", signal.Options{Kept: kept, Progress: golden.Progress(t, 1)},
	)
	require.NoError(t, err)
	require.NotEmpty(t, found.Repairs)
	best := found.Repairs[0]
	require.Len(t, best.Moves, 1, "one knob does")
	assert.Empty(t, best.Breaks)
	assert.Empty(t, found.Repairs[found.Best].Breaks, "the one to be tried first breaks nothing, where there is one")
	boost := slices.IndexFunc(found.Repairs, func(x signal.KnobRepair) bool { return x.Moves[0].Key == "nudge/fx/level" })
	require.GreaterOrEqual(t, boost, 0, "the boost does too")
	r, _ := p.FindRig("long")
	r.Base[best.Moves[0].Key] = plan.Number(best.Moves[0].To)
	s := measure(t, p, "long")
	assert.True(t, s["lead"].Met(), "%v", s["lead"].Checks)
	assert.True(t, s["crunch"].Met())
	again, err := signal.Tune(context.Background(), p, "long", "", "lead", signal.Options{Kept: kept})
	require.NoError(t, err)
	assert.True(t, again.Met)
	assert.Equal(t, -1, again.Best)
	_, err = signal.Tune(context.Background(), p, "carry", "", "shimmer", signal.Options{Kept: kept})
	assert.ErrorContains(t, err, "no recipe")
}

// Where no knob does it alone, two do together: those of a place that is known to, or two that are turned less.
func TestTwoKnobsBringASoundInWhereNoneDoesAlone(t *testing.T) {
	p := night(t)
	r, _ := p.FindRig("bare")
	crunch, _ := p.FindSound("crunch")
	drive, level := plan.Key("amber/fx/drive"), plan.Key("amber/fx/level")
	standing := p.SettingsOf(r).For(r.RecipeFor(plan.Section{Sound: "crunch"}), crunch, plan.Tempo{})
	was := map[plan.Key]plan.Value{drive: standing.At(drive), level: standing.At(level)}
	turned := *p
	known := r.SetAt("", *r.RecipeFor(plan.Section{Sound: "crunch"}), map[plan.Key]plan.Value{
		drive: plan.Number(10), level: plan.Number(2),
	})
	turned.Put(known)
	there := measure(t, &turned, "bare")["crunch"]
	crunch.Targets = plan.Targets{
		LoudnessLU: ptr(there.OverHome), ToleranceLU: ptr(0.5),
		DirtMin: ptr(there.Figures.Dirt - 1), DirtMax: ptr(there.Figures.Dirt + 1),
	}
	p.Put(*crunch)
	found, err := signal.Tune(context.Background(), p, "bare", "", "crunch", signal.Options{Kept: kept})
	require.NoError(t, err)
	require.False(t, found.Met)
	require.NotEmpty(t, found.Repairs)
	i := slices.IndexFunc(found.Repairs, func(x signal.KnobRepair) bool {
		return slices.ContainsFunc(x.Moves, func(m signal.KnobMove) bool { return m.Key == drive }) &&
			slices.ContainsFunc(x.Moves, func(m signal.KnobMove) bool { return m.Key == level })
	})
	require.GreaterOrEqual(t, i, 0, "%v", found.Repairs)
	least := 0.0
	for _, m := range found.Repairs[i].Moves {
		least += math.Abs(m.To - m.From)
	}
	assert.LessOrEqual(t, least, math.Abs(10-was[drive].Float())+math.Abs(2-was[level].Float()))
	for _, x := range found.Repairs {
		require.Len(t, x.Moves, 2)
		q := *p
		q.Put(x.Rig)
		assert.True(t, measure(t, &q, "bare")["crunch"].Met(), x.Words)
	}
}
