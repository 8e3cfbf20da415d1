package signal_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/signal"
)

// That a sound is not at its level is said once; what the ladder alone knows is said too.
func TestBalanceSaysEachThingOnce(t *testing.T) {
	m := &signal.GainMap{Findings: []signal.Finding{
		{ID: "gain:unreached:lead", Sound: "lead", Title: "Nothing reaches Lead", Tunes: true},
		{ID: "gain:missed:crunch", Sound: "crunch", Title: "Crunch is set beside its target", Tunes: true},
		{ID: "gain:idle:nudge/fx", Block: "nudge/fx"},
	}}
	l := &signal.Ladder{Findings: []signal.Finding{
		{ID: "level:target:lead", Sound: "lead"}, {ID: "level:target:crunch", Sound: "crunch"},
		{ID: "level:unity:squeeze/fx", Block: "squeeze/fx"}, {ID: "level:headroom", Sound: "lead"},
	}}
	var ids []string
	for _, f := range signal.BalanceOf(m, l).Findings {
		ids = append(ids, f.ID)
	}
	assert.Equal(
		t,
		[]string{
			"gain:unreached:lead", "gain:missed:crunch", "gain:idle:nudge/fx", "level:target:crunch", "level:unity:squeeze/fx",
			"level:headroom",
		},
		ids,
	)
	assert.Len(t, m.Findings, 3, "what was given is left alone")
	none := signal.BalanceOf(&signal.GainMap{}, &signal.Ladder{})
	assert.NotNil(t, none.Findings)
	assert.Contains(t, none.Words, "Every target is met")
}

// Where a sound misses its target, another place of its boost is offered with the rig that has it there, and
// there the sound is in its target.
func TestAnotherPlaceOfTheBoostIsOffered(t *testing.T) {
	p := night(t)
	found, err := signal.MoveBoost(context.Background(), p, "long", "", "lead", signal.Options{Kept: kept})
	require.NoError(t, err)
	require.True(t, found.Found)
	assert.Equal(t, "Nudge after Amber", found.Words)
	q := night(t)
	q.Put(*found.Rig)
	require.Empty(t, q.Validate())
	s := measure(t, q, "long", "lead")["lead"]
	for _, c := range s.Checks {
		if c.What == "loudness" || c.What == "dirt" {
			assert.True(t, c.Met, c.Words)
		}
	}
	none, err := signal.MoveBoost(context.Background(), p, "long", "", "home", signal.Options{Kept: kept})
	require.NoError(t, err)
	assert.False(t, none.Found, "no boost is on")
	_, err = signal.MoveBoost(context.Background(), p, "long", "", "nope", signal.Options{Kept: kept})
	assert.ErrorContains(t, err, "no recipe")
}
