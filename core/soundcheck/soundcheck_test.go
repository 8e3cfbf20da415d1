package soundcheck

import (
	"context"
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/core/signal"
	"envex/demo"
)

func theDemo(t *testing.T) *plan.Plan {
	p, err := plan.Decode(demo.File)
	require.NoError(t, err)
	return p
}

func kinds(list []Check) []Kind {
	var out []Kind
	for _, c := range list {
		out = append(out, c.Kind)
	}
	return out
}

func TestASoundcheckFitsIntoItsMinutes(t *testing.T) {
	p := theDemo(t)
	kept := signal.NewKept()
	all, err := For(t.Context(), p, "quay-20", "", 60, signal.Options{Kept: kept})
	require.NoError(t, err)
	assert.Empty(t, all.Left)
	sorted := slices.Clone(all.Checks)
	slices.SortStableFunc(
		sorted,
		func(a, b Check) int { return slices.Index(order, a.Kind) - slices.Index(order, b.Kind) },
	)
	assert.Equal(t, sorted, all.Checks, "in the order of a stage")
	ids := map[string]bool{}
	for _, c := range all.Checks {
		assert.False(t, ids[c.ID], c.ID)
		ids[c.ID] = true
		assert.NotEmpty(t, c.Do)
		assert.NotEmpty(t, c.Why)
	}
	for _, k := range []Kind{Lines, Levels, Jump, Mono, Change, Guitar, Box} {
		assert.Contains(t, kinds(all.Checks), k)
	}
	before := 0
	for _, minutes := range []float64{1, 4, 8} {
		r, err := For(t.Context(), p, "quay-20", "", minutes, signal.Options{Kept: kept})
		require.NoError(t, err)
		assert.LessOrEqual(t, r.Takes, minutes)
		assert.Len(t, append(slices.Clone(r.Checks), r.Left...), len(all.Checks))
		assert.GreaterOrEqual(t, len(r.Checks), before)
		before = len(r.Checks)
		for _, left := range r.Left {
			assert.Greater(t, r.Takes+left.Minutes, minutes, "what is left out does not fit")
		}
	}
}

func TestTheFiguresAreThoseOfTheRig(t *testing.T) {
	p := theDemo(t)
	r, err := For(t.Context(), p, "quay-12", "", 60, signal.Options{})
	require.NoError(t, err)
	say := map[Kind]Check{}
	for _, c := range r.Checks {
		if _, known := say[c.Kind]; !known {
			say[c.Kind] = c
		}
	}
	assert.Equal(t, "Fastest change: Tin Cabana, Solo", say[Change].Title)
	assert.Equal(t, "Late by 0.3 s.", say[Change].Why)
	assert.Contains(t, say[Guitar].Do, "tune 1 string to standard")
	assert.Contains(t, say[Levels].Title, "Loudest and quietest: ")
	p.Shows[2].Faults = append(
		p.Shows[2].Faults,
		plan.Fault{Text: "Went dark", Gear: "nudge"},
		plan.Fault{Text: "And again", Gear: "nudge"},
		plan.Fault{
			Text: "a",
			Gear: "nudge",
		},
		plan.Fault{Text: "b", Gear: "nudge"},
		plan.Fault{Text: "c", Gear: "nudge"},
		plan.Fault{
			Text: "d",
			Gear: "nudge",
		},
		plan.Fault{Text: "e", Gear: "nudge"},
		plan.Fault{Text: "f", Gear: "nudge"},
	)
	r, err = For(t.Context(), p, "quay-12", "", 60, signal.Options{})
	require.NoError(t, err)
	last := r.Checks[len(r.Checks)-1]
	assert.Equal(t, "Riskiest box: Nudge", last.Title)
	assert.Contains(t, last.Why, "it has failed 8 times before")
}

func TestWhatIsNotThereIsNotChecked(t *testing.T) {
	p := theDemo(t)
	for _, minutes := range []float64{0, -1, 1000, math.NaN()} {
		_, err := For(t.Context(), p, "quay-12", "", minutes, signal.Options{})
		require.ErrorContains(t, err, "between 0 and 240 minutes")
	}
	_, err := For(t.Context(), p, "nope", "", 5, signal.Options{})
	require.Error(t, err)
	_, err = For(t.Context(), p, "quay-12", "nope", 5, signal.Options{})
	require.Error(t, err)
	ctx, cancel := context.WithCancel(t.Context())
	cancel()
	_, err = For(ctx, p, "quay-12", "", 5, signal.Options{})
	require.ErrorIs(t, err, context.Canceled)
}
