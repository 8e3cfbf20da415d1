package play

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/core/reach"
	"envex/demo"
)

func TestTheScriptHasEverySectionInItsPlace(t *testing.T) {
	s, err := Read(demo.Plan(), "bare", "", "quay-set")
	require.NoError(t, err)
	require.Len(t, s.Songs, 14)
	n := 0
	for _, song := range s.Songs {
		at := 0.0
		for _, x := range song.Sections {
			assert.Equal(t, n, x.Position)
			assert.InDelta(t, at, x.AtS, 1e-9)
			assert.LessOrEqual(t, x.FromS, x.UntilS)
			at += x.LengthS
			n++
		}
		assert.InDelta(t, at, song.LengthS, 1e-9)
	}
	report, err := reach.Compute(demo.Plan(), "bare", "quay-set")
	require.NoError(t, err)
	for _, song := range s.Songs {
		for _, x := range song.Sections[1:] {
			assert.InDelta(
				t,
				report.Changes[x.Position-1].FreeS,
				x.UntilS-x.FromS,
				1e-9,
				"the time there is, as reach has it",
			)
		}
	}
	waltz := songOf(t, demo.Plan(), "bare", "Lamp Room Waltz")
	assert.Equal(t, 3, waltz.Beats)
	assert.NotEmpty(t, s.Switches)
	assert.False(t, s.Spaced, "nobody has placed the bare board")
	long, err := Read(demo.Plan(), "long", "", "quay-set")
	require.NoError(t, err)
	assert.True(t, long.Spaced)
	_, err = Read(demo.Plan(), "bare", "", "nope")
	assert.Error(t, err)
	_, err = Judge(demo.Plan(), "bare", "", "quay-set", Take{Entry: "nope", UntilS: 10})
	assert.Error(t, err)
}

func TestKeysStandInForTheSwitchesThatTheSetPresses(t *testing.T) {
	p := demo.Plan()
	s, err := Read(p, "long", "", "quay-set")
	require.NoError(t, err)
	report, err := reach.Compute(p, "long", "quay-set")
	require.NoError(t, err)
	pressed := map[plan.Key]bool{}
	for _, c := range report.Changes {
		for _, x := range c.Presses {
			pressed[x.Switch] = true
		}
	}
	keys := map[string]Switch{}
	for _, x := range s.Switches {
		if x.Keyboard == "" {
			assert.False(t, pressed[x.Key], "%s is pressed and has no key", x.Label)
			continue
		}
		assert.Empty(t, keys[x.Keyboard].Key, "a key stands for one switch")
		keys[x.Keyboard] = x
	}
	require.NotEmpty(t, keys["1"].Key)
	for i := 1; i < len(keys); i++ { // in floor order: never back by a whole row, and to the right within one
		a, b := keys[keyboard[i-1:i]], keys[keyboard[i:i+1]]
		assert.True(t, b.X >= a.X || b.Y > a.Y, "%s, then %s", a.Label, b.Label)
	}
}

// Presses at leisure come evenly over what of a section is free: from a second after its change to a second before the
// next, or before the end of the song.
func TestPressesAtLeisureAreSpreadOverWhatIsFree(t *testing.T) {
	s := Song{Sections: []Section{
		{AtS: 0, LengthS: 10, Ready: make([]Todo, 1)},
		{AtS: 10, LengthS: 20, FromS: 9, UntilS: 11, Ready: make([]Todo, 3)},
		{AtS: 30, LengthS: 10, FromS: 28, UntilS: 31, Ready: make([]Todo, 2)},
		{AtS: 40, LengthS: 10, FromS: 39, UntilS: 41},
	}}
	s.spread()
	var at [][]float64
	for _, x := range s.Sections {
		var list []float64
		for _, r := range x.Ready {
			list = append(list, r.AtS)
		}
		at = append(at, list)
	}
	assert.InDeltaSlice(t, []float64{4.5}, at[0], 1e-9, "from 1 to 8")
	assert.InDeltaSlice(t, []float64{15.75, 19.5, 23.25}, at[1], 1e-9, "from 12 to 27")
	assert.InDeltaSlice(t, []float64{34, 36}, at[2], 1e-9, "from 32 to 38")
	last := Song{Sections: []Section{{AtS: 0, LengthS: 10, Ready: make([]Todo, 1)}}}
	last.spread()
	assert.InDelta(t, 5, last.Sections[0].Ready[0].AtS, 1e-9)
}
