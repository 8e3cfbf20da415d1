package soundcheck

import (
	"context"
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/core/signal"
	"envex/demo"
	"envex/golden"
)

var (
	kept = signal.NewKept()
)

func theDemo(t *testing.T) *plan.Plan {
	p := demo.Plan()
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
	r, err := For(t.Context(), p, "quay-12", "", 60, signal.Options{Kept: kept})
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
	r, err = For(t.Context(), p, "quay-12", "", 60, signal.Options{Kept: kept})
	require.NoError(t, err)
	last := r.Checks[len(r.Checks)-1]
	assert.Equal(t, "Riskiest box: Nudge", last.Title)
	assert.Contains(t, last.Why, "it has failed 8 times before")
}

func TestWhatIsNotThereIsNotChecked(t *testing.T) {
	p := theDemo(t)
	for _, minutes := range []float64{0, -1, 1000, math.NaN()} {
		_, err := For(t.Context(), p, "quay-12", "", minutes, signal.Options{Kept: kept})
		require.ErrorContains(t, err, "between 0 and 240 minutes")
	}
	_, err := For(t.Context(), p, "nope", "", 5, signal.Options{Kept: kept})
	require.Error(t, err)
	_, err = For(t.Context(), p, "quay-12", "nope", 5, signal.Options{Kept: kept})
	require.Error(t, err)
	ctx, cancel := context.WithCancel(t.Context())
	cancel()
	_, err = For(ctx, p, "quay-12", "", 5, signal.Options{Kept: kept})
	require.ErrorIs(t, err, context.Canceled)
}

// Every check of every show of the demo, in a long soundcheck and in a short one, as a reader has looked them through.
func TestTheChecksOfTheDemo(t *testing.T) {
	p := theDemo(t)
	var all strings.Builder
	for _, show := range p.Shows[:4] { // each plugs in elsewhere
		for _, minutes := range []float64{60, 5} {
			if minutes < 60 && show.ID != "quay-20" {
				continue
			}
			r, err := For(t.Context(), p, show.ID, "", minutes, signal.Options{Kept: kept})
			require.NoError(t, err)
			fmt.Fprintf(&all, "# %s, %g of %g minutes\n", show.ID, r.Takes, minutes)
			for i, c := range append(slices.Clone(r.Checks), r.Left...) {
				if minutes > 5 {
					fmt.Fprintf(&all, "%s, %g min: %s\n  %s %s\n", c.ID, c.Minutes, c.Title, c.Do, c.Why)
				} else if i < len(r.Checks) {
					fmt.Fprintln(&all, c.ID)
				} else {
					fmt.Fprintln(&all, "left:", c.ID)
				}
			}
		}
	}
	const file = "testdata/checks.txt"
	golden.Hold(t, file, all.String())
}

// What a mono sum takes most from is what has to be heard in mono.
func TestTheWorstMonoSumIsTheOneThatCostsMost(t *testing.T) {
	p := theDemo(t)
	r, err := For(t.Context(), p, "quay-20", "", 60, signal.Options{Kept: kept})
	require.NoError(t, err)
	show, err := p.ShowByID("quay-20")
	require.NoError(t, err)
	there, err := p.At(show.Rig, show.Destination)
	require.NoError(t, err)
	heard, err := signal.Measure(t.Context(), there, show.Rig, signal.Options{Kept: kept, Want: signal.AsHeard})
	require.NoError(t, err)
	i := slices.IndexFunc(r.Checks, func(c Check) bool { return c.Kind == Mono })
	require.GreaterOrEqual(t, i, 0)
	costs := map[string]float64{}
	for _, s := range heard.Sounds {
		if s.Figures.FoldDown != nil {
			costs["mono:"+string(s.Sound)] = *s.Figures.FoldDown
		}
	}
	require.Greater(t, len(costs), 1)
	for id, cost := range costs {
		assert.LessOrEqual(t, cost, costs[r.Checks[i].ID], id)
	}
}
