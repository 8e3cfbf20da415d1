package path

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/catalog"
	"envex/core/plan"
)

// A finding that follows from a school is mended by the other side too; one that does not, but whose move goes
// against a school, says so, and offers that side.
func TestBothWaysOutAreOffered(t *testing.T) {
	p := &plan.Plan{}
	for _, x := range [][2]string{
		{"two-humbucker", "Slab"}, {"compressor", "Squeeze"}, {"fuzz", "Silt"}, {"combo-plain", "Pier"},
	} {
		k, ok := catalog.Find(x[0])
		require.True(t, ok)
		p.Gear = append(p.Gear, k.New(plan.ID(strings.ToLower(x[1])), x[1]))
	}
	for i := range p.Gear {
		if p.Gear[i].ID == "squeeze" {
			p.Gear[i].Blocks[0].Bypass = plan.BufferedBypass
		}
	}
	rig := plan.Rig{ID: "rig", Name: "Rig", Guitars: []plan.ID{"slab"}}
	for _, id := range []plan.Key{"squeeze/fx", "silt/fx"} {
		rig.Path = append(rig.Path, plan.Node{Stop: id})
	}
	for _, b := range p.Gear[3].Blocks {
		rig.Path = append(rig.Path, plan.Node{Stop: plan.BlockKey("pier", b.ID)})
	}
	p.Rigs = []plan.Rig{rig}
	find := func(rule string) *Finding {
		for _, f := range at(t, p, "").Findings {
			if f.Rule == rule {
				return &f
			}
		}
		return nil
	}
	hard := find("fuzz-before-buffer")
	require.NotNil(t, hard)
	require.Len(t, hard.Ways, 1)
	assert.Equal(t, "Choose Compressor: after the drives", hard.Ways[0].Words)
	assert.Contains(t, hard.Ways[0].Why, "Move Silt before Squeeze goes against your side there")

	p.Rigs[0].Path[0], p.Rigs[0].Path[1] = p.Rigs[0].Path[1], p.Rigs[0].Path[0]
	school := find("compressor-first")
	require.NotNil(t, school)
	assert.Equal(
		t, []Way{{"compressor", "after", "Choose Compressor: after the drives", "it does not push the drives harder"}},
		school.Ways,
	)
	p.Rigs[0].Schools = []plan.School{{Question: "compressor", Side: "after"}}
	assert.Nil(t, find("compressor-first"))
	assert.False(
		t, slices.ContainsFunc(at(t, p, "").Findings, func(f Finding) bool { return len(f.Ways) > 0 }),
		"nothing stands against anything now",
	)
}
