package catalog_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/catalog"
	"envex/core/plan"
)

func TestEveryKindIsGearThatNeedsNoMending(t *testing.T) {
	seen := map[string]bool{}
	for _, k := range catalog.All() {
		p := plan.Plan{Gear: []plan.Gear{k.New("x", "")}}
		assert.Empty(t, p.Validate(), k.ID)
		assert.False(t, seen[k.ID], "%s stands twice", k.ID)
		seen[k.ID] = true
		assert.NotEmpty(t, k.Description)
	}
	assert.GreaterOrEqual(t, len(seen), 100)
}

func TestAMidHumpOverdriveArrivesComplete(t *testing.T) {
	k, ok := catalog.Find("mid-hump-overdrive")
	require.True(t, ok)
	g := k.New("amber", "Amber")
	assert.Equal(t, "Amber", g.Name)
	require.Len(t, g.Blocks, 1)
	var names []string
	for _, c := range g.Blocks[0].Controls {
		names = append(names, c.Name)
	}
	assert.Equal(t, []string{"drive", "tone", "level"}, names)
	assert.Equal(t, plan.TrueBypass, g.Blocks[0].Bypass)
	assert.Len(t, g.Footswitches, 1)
	assert.Equal(t, 9.0, g.Power.Voltage)
	assert.Equal(t, 20.0, *g.Power.Current)
}

func TestGearThatIsAddedGetsAFreeNameAndChannel(t *testing.T) {
	p := &plan.Plan{}
	k, _ := catalog.Find("memory-head")
	for i, want := range []string{"Head with a memory", "Head with a memory 2", "Head with a memory 3"} {
		g := k.In(p, plan.ID(want[len(want)-1:]), "")
		assert.Equal(t, want, g.Name)
		assert.Equal(t, i+1, g.MIDI.Channel)
		p.Put(g)
	}
	assert.Equal(
		t, "pier 2", k.In(&plan.Plan{Gear: []plan.Gear{{ID: "x", Name: "Pier"}}}, "y", "pier").Name, "whatever its letters",
	)
}

func TestACabinetWeighsWhatOneDoes(t *testing.T) {
	k, _ := catalog.Find("speaker")
	assert.Equal(t, 15000.0, *k.Gear.WeightG)
}
