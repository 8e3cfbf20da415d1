package standin_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/core/standin"
	"envex/golden"
)

func TestEachPedalThatIsHeardHasTheNearestOfWhatIsOwned(t *testing.T) {
	p := pier(t, "transparent-overdrive", "fuzz", "tuner")
	r, _ := p.FindRig("rig")
	r.Path = append([]plan.Node{{Stop: "tuner/fx"}}, r.Path...)
	require.Empty(t, p.Validate())
	o := standin.Options{SetList: "night", Kept: kept, Progress: golden.Progress(t, 1)}
	list, err := standin.Each(context.Background(), p, "rig", o)
	require.NoError(t, err)
	require.Len(t, list, 2, "nobody misses a tuner in a sound")
	assert.Equal(t, plan.ID("mid-hump-overdrive"), list[0].Box, "as the chain has them")
	assert.Equal(t, plan.ID("tremolo"), list[1].Box)
	assert.Nil(t, list[1].By, "nothing that is owned trembles: no kind is offered")

	o.Kinds, o.Progress = []string{}, nil
	alone, err := standin.For(context.Background(), p, "rig", "mid-hump-overdrive", o)
	require.NoError(t, err)
	require.NotNil(t, list[0].By)
	assert.Equal(t, alone.Offers[0].Gear, list[0].By.Gear)
	assert.Equal(t, alone.Offers[0].Knobs, list[0].By.Knobs)
	assert.Equal(t, alone.Sounds, list[0].Sounds)
	for _, k := range list[0].By.Knobs {
		require.NotNil(t, k.Turn, k.Name)
		assert.InDelta(t, k.At/10, *k.Turn, 1e-9, "it turns from 0 to 10")
	}

	r.Recipes = r.Recipes[:1]
	list, err = standin.Each(context.Background(), p, "rig", o)
	require.NoError(t, err)
	assert.Empty(t, list, "no sound has a pedal on")

	_, err = standin.Each(context.Background(), p, "none", o)
	require.ErrorContains(t, err, "none")
	o.At = "nowhere"
	_, err = standin.Each(context.Background(), p, "rig", o)
	require.ErrorContains(t, err, "nowhere")
	ended, end := context.WithCancel(context.Background())
	end()
	_, err = standin.Each(ended, pier(t, "fuzz"), "rig", standin.Options{})
	require.ErrorIs(t, err, context.Canceled)
}

func TestWhereAKnobStands(t *testing.T) {
	assert.Equal(t, "110 ms", standin.Knob{At: 110, Unit: "ms"}.Where())
	assert.Equal(t, "5, 12 o'clock", standin.Knob{At: 5, Clock: "12 o'clock"}.Where())
}
