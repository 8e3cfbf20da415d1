package dial_test

import (
	"context"
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/dial"
	"envex/core/plan"
)

func channels(t *testing.T, p *plan.Plan, rig, destination plan.ID) *dial.Channels {
	t.Helper()
	got, err := dial.LevelChannels(context.Background(), p, rig, destination, dial.Options{Kept: kept})
	require.NoError(t, err)
	return got
}

// An amp with stored channels: what makes each level makes it level, and its gain in reserve is what is left of it.
func TestChannelsAreMadeLevel(t *testing.T) {
	data, err := os.ReadFile("../../examples/stored-amp.envex.json")
	require.NoError(t, err)
	p, err := plan.Decode(data)
	require.NoError(t, err)
	rig := p.Rigs[0].ID
	got := channels(t, p, rig, "")
	require.Greater(t, len(got.Channels), 1)
	assert.Equal(t, got.Reference, got.Channels[0].Name, "the reference comes first")
	assert.Zero(t, got.Channels[0].Over)
	for i, c := range got.Channels {
		assert.NotEmpty(t, c.Words)
		assert.GreaterOrEqual(t, c.Reserve, 0.0)
		if c.Level == nil {
			continue
		}
		q := *p
		q.Put(*c.Rig)
		require.Empty(t, q.Validate())
		again := channels(t, &q, rig, "")
		assert.InDelta(t, 0, again.Channels[i].Over, 1.0, c.Words)
		assert.Nil(t, again.Channels[i].Level)
	}
}

func TestAtADestinationItsOwnAmpIsLevelled(t *testing.T) {
	p := night(t)
	r, _ := p.FindRig("long")
	var hired plan.ID
	for _, d := range r.Destinations {
		if d.Amp == "hired" {
			hired = d.ID
		}
	}
	require.NotEmpty(t, hired)
	got := channels(t, p, "long", hired)
	assert.Equal(t, plan.ID("hired"), got.Amp)
	require.Len(t, got.Channels, 2)
	for _, c := range got.Channels {
		if c.Rig != nil {
			assert.Equal(t, r.Base, c.Rig.Base, "the rig elsewhere stays as it is")
		}
	}
}

// A lead that is too soft is brought over the others by a level that no other sound hears.
func TestALeadIsBroughtOverTheOthers(t *testing.T) {
	p := small(t)
	p.Rigs[0].Base = map[plan.Key]plan.Value{"amber/fx/level": plan.Number(1)}
	got := channels(t, p, "small", "")
	assert.Contains(t, got.Words, "one channel")
	require.Len(t, got.Leads, 1)
	l := got.Leads[0]
	assert.Less(t, l.Over, l.Wanted)
	assert.InDelta(t, 5, l.Wanted, 0.1, "its target, since home is the loudest other")
	require.NotNil(t, l.Level)
	assert.Equal(t, plan.Key("amber/fx/level"), l.Level.Key)
	q := *p
	q.Put(*l.Rig)
	again := channels(t, &q, "small", "")
	assert.InDelta(t, l.Wanted, again.Leads[0].Over, 1)
	assert.Nil(t, again.Leads[0].Level)
	assert.Equal(t, "It stands above the others.", again.Leads[0].Words)

	for i := range p.Sounds { // with nothing to be louder than, a target says nothing
		if p.Sounds[i].Role == plan.HomeRole {
			p.Sounds[i].Role = plan.RhythmRole
		}
	}
	assert.InDelta(t, 2, channels(t, p, "small", "").Leads[0].Wanted, 1e-9)
}

func TestWhatHasNoChannels(t *testing.T) {
	p := small(t)
	p.Rigs[0].Path = p.Rigs[0].Path[:1]
	_, err := dial.LevelChannels(context.Background(), p, "small", "", dial.Options{Kept: kept})
	assert.ErrorContains(t, err, "no amp")
	p.Rigs[0].Recipes = nil
	_, err = dial.LevelChannels(context.Background(), p, "small", "", dial.Options{Kept: kept})
	assert.ErrorContains(t, err, "makes no sound")
	_, err = dial.LevelChannels(context.Background(), p, "none", "", dial.Options{Kept: kept})
	assert.Error(t, err)
}
