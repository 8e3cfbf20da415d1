package propose_test

import (
	"context"
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/core/propose"
	"envex/core/reach"
	"envex/core/signal"
	"envex/demo"
)

// without is the demo with some sounds of the carry-on board without a recipe.
func without(t *testing.T, sounds ...plan.ID) *plan.Plan {
	t.Helper()
	p := demo.Plan()
	r, _ := p.FindRig("carry")
	bare := *r
	bare.Recipes = slices.DeleteFunc(
		slices.Clone(r.Recipes), func(x plan.Recipe) bool { return slices.Contains(sounds, x.Sound) },
	)
	p.Put(bare)
	return p
}

func ids() func() plan.ID {
	n := 0
	return func() plan.ID { n++; return plan.ID(fmt.Sprintf("proposed-%d", n)) }
}

func TestProposedRecipesAreWithinTargetsWhenTaken(t *testing.T) {
	p := without(t, "home", "crunch")
	found, err := propose.For(
		context.Background(), p, "carry",
		propose.Options{SetList: "quay-set", NewID: ids(), Sounds: []plan.ID{"crunch", "home"}},
	)
	require.NoError(t, err)
	require.Len(t, found.Sounds, 2)
	assert.Equal(t, plan.ID("home"), found.Sounds[0].Sound, "home comes first: others are measured against it")
	p.Put(found.Taken)
	require.Empty(t, p.Validate())
	report, err := signal.Measure(context.Background(), p, "carry", signal.Options{Only: []plan.ID{"crunch", "home"}})
	require.NoError(t, err)
	for _, s := range found.Sounds {
		require.NotEmpty(t, s.Ways)
		assert.LessOrEqual(t, len(s.Ways), 3)
		at := slices.IndexFunc(report.Sounds, func(x signal.Sound) bool { return x.Sound == s.Sound })
		assert.Equal(t, s.Ways[0].Within, report.Sounds[at].Met(), s.Name)
		assert.InDelta(t, s.Ways[0].Dirt, report.Sounds[at].Figures.Dirt, 0.01)
		assert.InDelta(t, s.Ways[0].OverHome, report.Sounds[at].OverHome, 0.01)
		for k := 1; k < len(s.Ways); k++ {
			a, b := s.Ways[k-1], s.Ways[k]
			assert.True(t, a.Within || !b.Within, "what is within comes first")
			if a.Within && b.Within && a.ByHand == b.ByHand {
				assert.LessOrEqual(t, a.Presses, b.Presses)
			}
		}
	}
	assert.True(t, found.Sounds[1].Ways[0].Within)
	assert.Positive(t, found.Tried)

	// The presses are those of the set.
	night, err := reach.Compute(p, "carry", "quay-set")
	require.NoError(t, err)
	presses := 0
	for _, c := range night.Changes {
		if c.From.ID == "crunch" || c.To.ID == "crunch" {
			presses += len(c.Presses)
		}
	}
	assert.Equal(t, presses, found.Sounds[1].Ways[0].Presses)
}

func TestWithoutASetPressesAreThoseFromHome(t *testing.T) {
	p := without(t, "swell")
	found, err := propose.For(context.Background(), p, "carry", propose.Options{Sounds: []plan.ID{"home"}})
	require.NoError(t, err)
	require.NotEmpty(t, found.Sounds[0].Ways)
	assert.Zero(t, found.Sounds[0].Ways[0].Presses)
	assert.Equal(t, plan.ID("carry"), found.Taken.ID)
}

func TestWhatIsNotThereIsSaid(t *testing.T) {
	p := without(t)
	for _, ask := range []struct {
		rig plan.ID
		o   propose.Options
	}{
		{"none", propose.Options{}}, {"carry", propose.Options{Sounds: []plan.ID{"none"}}},
		{"carry", propose.Options{SetList: "none"}},
		{"carry", propose.Options{Sounds: []plan.ID{"home"}, Destination: "none"}},
	} {
		_, err := propose.For(context.Background(), p, ask.rig, ask.o)
		assert.Error(t, err)
	}
}
