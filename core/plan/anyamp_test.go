package plan_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/demo"
)

func TestAnyAmpStandsInForTheRigsOwn(t *testing.T) {
	p := demo.Plan()
	r, _ := p.FindRig("long")
	r.Destinations = append(r.Destinations, plan.Destination{ID: "any", Name: "Any amp", Kind: plan.AnyAmp})
	require.Empty(t, p.Validate())
	there, err := p.At("long", "any")
	require.NoError(t, err)
	_, known := p.FindGear(plan.AnyAmpID)
	assert.False(t, known, "it stands in no file")
	at, _ := there.FindRig("long")
	assert.Empty(t, there.Validate(), "and in a sound rig there")
	amps := 0
	for _, key := range at.Stops() {
		g, ok := there.FindGear(key.Gear())
		require.True(t, ok)
		if g.Kind == plan.Amp {
			amps++
			assert.Equal(t, plan.AnyAmpID, g.ID)
		}
	}
	assert.Equal(t, 2, amps)
	// A chain of its own there keeps it, in a file too.
	r.Destinations[len(r.Destinations)-1].Path = at.Path
	require.Empty(t, p.Validate())
	data, err := plan.Encode(p)
	require.NoError(t, err)
	again, err := plan.Decode(data)
	require.NoError(t, err)
	_, err = again.At("long", "any")
	require.NoError(t, err)
	r.Destinations[len(r.Destinations)-1].Kind = plan.HiredAmp
	assert.NotEmpty(t, p.Validate(), "elsewhere it is no gear")
}

func TestAHiredComboBringsItsOwnSpeaker(t *testing.T) {
	p := &plan.Plan{}
	amp := func(id plan.ID, internal bool) plan.Gear {
		return plan.Gear{ID: id, Name: string(id), Kind: plan.Amp, SpeakerOut: &plan.SpeakerOut{Internal: internal},
			Blocks: []plan.Block{
				{ID: "preamp", Name: "preamp", Effect: plan.EffectPreamp, Bypass: plan.AlwaysOn},
				{ID: "power", Name: "power", Effect: plan.EffectPower, Bypass: plan.AlwaysOn},
			}}
	}
	cab := plan.Gear{
		ID: "cab", Name: "cab", Kind: plan.Interface,
		Blocks: []plan.Block{
			{ID: "fx", Name: "speaker", Effect: plan.EffectSpeaker, Bypass: plan.AlwaysOn, Level: "speaker"},
		},
	}
	p.Gear = []plan.Gear{amp("own", false), amp("combo", true), amp("head", false), cab}
	p.Rigs = []plan.Rig{{ID: "rig", Name: "rig",
		Path: []plan.Node{{Stop: "own/preamp"}, {Stop: "own/power"}, {Stop: "cab/fx"}}, Destinations: []plan.Destination{
			{ID: "at-combo", Name: "combo", Kind: plan.HiredAmp, Amp: "combo"},
			{ID: "at-head", Name: "head", Kind: plan.HiredAmp, Amp: "head"},
		}}}
	require.Empty(t, p.Validate())
	for id, want := range map[plan.ID]int{"at-combo": 2, "at-head": 3} {
		there, err := p.At("rig", id)
		require.NoError(t, err)
		r, _ := there.FindRig("rig")
		assert.Len(t, r.Path, want, "%s", id)
	}
}
