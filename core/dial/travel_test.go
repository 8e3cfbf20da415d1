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

var kept = signal.NewKept()

func small(t require.TestingT) *plan.Plan {
	data, err := os.ReadFile("../../demo/testdata/small.envex.json")
	require.NoError(t, err)
	p, err := plan.Decode(data)
	require.NoError(t, err)
	return p
}

func travels(t *testing.T, p *plan.Plan, rig, sound plan.ID) *dial.Travels {
	t.Helper()
	got, err := dial.Knobs(
		context.Background(), p, rig, sound, "", dial.Options{Kept: kept, Progress: golden.Progress(t, 1)},
	)
	require.NoError(t, err)
	return got
}

func knob(t *testing.T, list *dial.Travels, key plan.Key) dial.Travel {
	t.Helper()
	i := slices.IndexFunc(list.Knobs, func(k dial.Travel) bool { return k.Key == key })
	require.GreaterOrEqual(t, i, 0, key)
	return list.Knobs[i]
}

func TestWhatKnobsDoOverTheirTravel(t *testing.T) {
	p := small(t)
	got := travels(t, p, "small", "lead")
	for i, k := range got.Knobs {
		if i > 0 {
			assert.LessOrEqual(t, k.Mark, got.Knobs[i-1].Mark, "what does most comes first")
		}
		at := slices.IndexFunc(k.Points, func(x dial.Point) bool { return x.At == k.At })
		require.GreaterOrEqual(t, at, 0, "where it stands is one of the places")
		assert.InDelta(t, 0, k.Points[at].Louder, 0.02, k.Name)
		assert.Equal(t, k.Low, k.Points[0].At)
		assert.Equal(t, k.High, k.Points[len(k.Points)-1].At)
		assert.NotEmpty(t, k.Words)
	}
	drive := knob(t, got, "amber/fx/drive")
	for i := 1; i < len(drive.Points); i++ {
		assert.Greater(t, drive.Points[i].Dirt, drive.Points[i-1].Dirt, "more drive is more dirt")
	}
	treble := knob(t, got, "pier/preamp/treble")
	assert.Greater(t, treble.Points[len(treble.Points)-1].Bright, treble.Points[0].Bright+0.5)
	bass := knob(t, got, "pier/preamp/bass")
	assert.Greater(t, bass.Points[len(bass.Points)-1].Deep, bass.Points[0].Deep+0.5)
	level := knob(t, got, "amber/fx/level")
	assert.InDelta(t, -60, level.Points[0].Louder, 0.01, "silence is said as such")
	assert.Greater(t, level.Steep.From, 0.0, "nobody asks how steep it is at silence")
	assert.Equal(t, "Clean", drive.Shares, "the pedal stands there in the other sound too")

	// What a tenth up is said to do is what it does.
	r, _ := p.FindRig("small")
	rec := r.RecipeFor(plan.Section{Sound: "lead"})
	turned := drive.Turned(r, "", *rec, drive.At+1)
	q := *p
	q.Put(turned)
	now := travels(t, &q, "small", "lead")
	assert.InDelta(t, knob(t, now, "amber/fx/drive").At, drive.At+1, 1e-9)
	assert.Greater(t, knob(t, now, "amber/fx/drive").Points[0].Dirt, -1.0)
}

// A knob of a delay is metered with the delay on, and the guitar's own knobs count.
func TestKnobsOfWhatRingsAndOfTheGuitar(t *testing.T) {
	p := demo.Plan()
	got := travels(t, p, "carry", "skank")
	room := knob(t, got, "slap/fx/mix")
	assert.Greater(t, room.Points[3].Louder, room.Points[0].Louder, "more of the wet is louder in all")
	assert.Equal(t, room.Points[0].Dirt, room.Points[1].Dirt, "and no dirtier")
	volume := knob(t, got, "driftwood/volume")
	assert.True(t, volume.Guitar)
	assert.Less(t, volume.Points[1].Dirt, volume.Points[len(volume.Points)-1].Dirt, "turned down it cleans up")
	tone := knob(t, got, "driftwood/tone")
	assert.Less(t, tone.Points[0].Bright, tone.Points[len(tone.Points)-1].Bright-1)
}

func TestWhatIsNotThereHasNoKnobs(t *testing.T) {
	for _, ask := range [][2]plan.ID{{"none", "lead"}, {"small", "none"}} {
		_, err := dial.Knobs(context.Background(), small(t), ask[0], ask[1], "", dial.Options{Kept: kept})
		assert.Error(t, err)
	}
	ctx, cancel := context.WithCancel(context.Background())
	cancel()
	_, err := dial.Knobs(ctx, small(t), "small", "lead", "", dial.Options{Kept: kept})
	assert.ErrorIs(t, err, context.Canceled)
}
