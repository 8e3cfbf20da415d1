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
		assert.NotEmpty(t, k.Says)
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
