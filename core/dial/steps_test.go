package dial_test

import (
	"context"
	"os"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/dial"
	"envex/core/plan"
	"envex/core/signal"
	"envex/demo"
	"envex/golden"
)

func night(t require.TestingT) *plan.Plan {
	p := demo.Plan()
	return p
}

// The steps come to the sound as it is, and each says what the meter says.
func TestStepsComeToTheSound(t *testing.T) {
	p := night(t)
	got, err := dial.Steps(
		context.Background(), p, "long", "", "lead", "", dial.Options{Kept: kept, Progress: golden.Progress(t, 5.0/6)},
	)
	require.NoError(t, err)
	var boxes []plan.Key
	for _, s := range got.Steps {
		boxes = append(boxes, s.Box)
		assert.NotEmpty(t, s.Words)
	}
	assert.Equal(
		t,
		[]plan.Key{"", "squeeze/fx", "nudge/fx", "amber/fx", "echo/fx", "room/fx"},
		boxes,
		"what rings comes last",
	)
	full, err := signal.Measure(
		context.Background(), p, "long", signal.Options{Only: []plan.ID{"lead"}, Want: signal.ForTargets, Kept: kept},
	)
	require.NoError(t, err)
	assert.InDelta(t, full.Sounds[0].Figures.Dirt, got.Steps[3].Dirt, 0.6)
	assert.Equal(t, full.Sounds[0].Checks, got.Checks)
	begin := got.Steps[0]
	assert.True(t, slices.ContainsFunc(begin.Knobs, func(x dial.Place) bool { return x.Key == "pier/preamp/gain" }))
	assert.False(t, slices.ContainsFunc(begin.Knobs, func(x dial.Place) bool { return x.Key == "amber/fx/drive" }))

	assert.Contains(t, begin.Also, "Driftwood pickup bridge", "what is no knob stands somewhere, too")
	assert.Equal(t, []string{"Echo preset B", "Echo time 380 ms"}, got.Steps[4].Also)
	assert.Empty(t, got.Steps[3].Also)

	// Where the compressor is said to be as loud on as off, it is.
	squeeze := got.Steps[1]
	require.NotNil(t, squeeze.Matched)
	p.Put(*squeeze.Rig)
	again, err := dial.Steps(context.Background(), p, "long", "", "lead", "", dial.Options{Kept: kept})
	require.NoError(t, err)
	assert.InDelta(t, 0, again.Steps[1].Louder, 0.5)
	assert.Nil(t, again.Steps[1].Matched)

	_, err = dial.Steps(context.Background(), p, "carry", "", "shimmer", "", dial.Options{Kept: kept})
	assert.ErrorContains(t, err, "has no recipe")
	_, err = dial.Steps(context.Background(), p, "none", "", "lead", "", dial.Options{Kept: kept})
	assert.ErrorContains(t, err, "no rig")
}

// Each way is what it is called when it is set, at a destination as on the rig.
func TestStartPointsAreWhatTheyAreCalled(t *testing.T) {
	p := small(t)
	got, err := dial.StartPoints(context.Background(), p, "small", "", dial.Options{Kept: kept})
	require.NoError(t, err)
	require.Len(t, got.Ways, 3)
	bands := map[string][2]float64{"Clean and loud": {0, 3}, "Edge": {6, 14}, "Pushed": {22, 38}}
	for _, w := range got.Ways {
		q := *p
		q.Put(w.Rig)
		require.Empty(t, q.Validate())
		x, err := signal.Measure(
			context.Background(),
			&q,
			"small",
			signal.Options{Only: []plan.ID{"clean"}, Want: signal.ForTargets, Kept: kept},
		)
		require.NoError(t, err)
		assert.InDelta(t, w.Dirt, x.Sounds[0].Figures.Dirt, 0.6, w.Name)
		assert.GreaterOrEqual(t, w.Dirt, bands[w.Name][0])
		assert.LessOrEqual(t, w.Dirt, bands[w.Name][1])
	}
	assert.GreaterOrEqual(t, got.Ways[0].Over, got.Ways[1].Over, "clean and loud is as loud as it goes")

	p.Rigs[0].Path = p.Rigs[0].Path[:1]
	_, err = dial.StartPoints(context.Background(), p, "small", "", dial.Options{Kept: kept})
	assert.ErrorContains(t, err, "no amp")
	p.Rigs[0].Recipes = nil
	_, err = dial.StartPoints(context.Background(), p, "small", "", dial.Options{Kept: kept})
	assert.ErrorContains(t, err, "makes no sound")
}

// Of an amp with channels the gain is that of the channel it stands on: the other's does nothing.
func TestStartPointsTurnTheGainOfTheChannel(t *testing.T) {
	data, err := os.ReadFile("../../examples/four-cables.envex.json")
	require.NoError(t, err)
	p, err := plan.Decode(data)
	require.NoError(t, err)
	got, err := dial.StartPoints(context.Background(), p, p.Rigs[0].ID, "", dial.Options{Kept: kept})
	require.NoError(t, err)
	require.Len(t, got.Ways, 3, got.Words)
	for _, w := range got.Ways {
		assert.Contains(t, w.Knobs[0].Name, "clean volume", w.Name)
	}
	two, err := os.ReadFile("../../examples/two-amps.envex.json")
	require.NoError(t, err)
	p, err = plan.Decode(two)
	require.NoError(t, err)
	got, err = dial.StartPoints(context.Background(), p, p.Rigs[0].ID, "", dial.Options{Kept: kept})
	require.NoError(t, err)
	assert.Contains(t, got.Words, "All amps play: Pier and Quay.")
}

// An amp with two inputs is tried at both: what is found says which, and the low one takes half of what comes in.
func TestStartPointsSayWhichInput(t *testing.T) {
	p := small(t)
	r := &p.Rigs[0]
	var amp *plan.Gear
	for i := range p.Gear {
		if p.Gear[i].Kind == plan.Amp {
			amp = &p.Gear[i]
		}
	}
	input := plan.Control{
		ID: "input", Name: "input", Kind: plan.Selector, Access: plan.SlowHand, Options: []string{"high", "low"},
	}
	amp.Blocks[0].Controls = append(amp.Blocks[0].Controls, input)
	key := plan.BlockKey(amp.ID, amp.Blocks[0].ID) + "/input"
	r.Base = map[plan.Key]plan.Value{key: plan.Text("high")}
	require.Empty(t, p.Validate())
	got, err := dial.StartPoints(context.Background(), p, "small", "", dial.Options{Kept: kept})
	require.NoError(t, err)
	require.NotEmpty(t, got.Ways)
	for _, w := range got.Ways {
		assert.Contains(t, input.Options, w.Input)
		assert.Equal(t, plan.Text(w.Input), w.Rig.Base[key])
	}
	plain, err := dial.StartPoints(context.Background(), small(t), "small", "", dial.Options{Kept: kept})
	require.NoError(t, err)
	assert.Empty(t, plain.Ways[0].Input)
	assert.GreaterOrEqual(t, got.Ways[0].Over, plain.Ways[0].Over, "with more to choose from it is no quieter")
	require.NotNil(t, got.Tone)
	assert.Len(t, got.Tone.AsSet, len(got.Tone.Hz))
}

// A song that is played with another box of a slot is dialled in with that, and what is taken up is of the rig as it
// stands.
func TestStepsAreOfTheSongAsItIsPlayed(t *testing.T) {
	p := night(t)
	r, _ := p.FindRig("carry")
	r.Swaps = []plan.Swap{{ID: "slot", Name: "Colour", Boxes: []plan.SwapBox{
		{Gear: "slap"}, {Gear: "flutter", Songs: []plan.ID{"ferry-lights"}},
	}}}
	require.Empty(t, p.Validate())
	stands := r.Stops()
	boxes := func(song plan.ID) (list []plan.Key, rigs []*plan.Rig) {
		got, err := dial.Steps(context.Background(), p, "carry", "", "skank", "", dial.Options{Song: song, Kept: kept})
		require.NoError(t, err)
		for _, s := range got.Steps {
			list = append(list, s.Box)
			if s.Rig != nil {
				rigs = append(rigs, s.Rig)
			}
		}
		return list, rigs
	}
	chain, _ := boxes("")
	assert.Contains(t, chain, plan.Key("slap/fx"))
	song, rigs := boxes("ferry-lights")
	assert.NotContains(t, song, plan.Key("slap/fx"))
	assert.Contains(t, song, plan.Key("flutter/fx"))
	require.NotEmpty(t, rigs, "a compressor is brought level")
	for _, x := range rigs {
		assert.Equal(t, stands, x.Stops())
		assert.NotEqual(t, r.Base, x.Base)
	}
	_, err := dial.Steps(context.Background(), p, "carry", "", "skank", "", dial.Options{Song: "moon", Kept: kept})
	require.ErrorContains(t, err, "moon")
}
