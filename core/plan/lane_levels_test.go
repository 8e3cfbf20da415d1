package plan_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
)

func TestWhatIsSaidOfASongGoesBeforeWhatIsSaidOfAll(t *testing.T) {
	r := plan.Rig{LaneLevels: []plan.LaneLevel{
		{Lane: "s/wet", Sound: "lead", Song: "tide", LU: 3}, {Lane: "s/wet", Sound: "lead", LU: -2},
		{Lane: "s/wet", Sound: "clean", Song: "tide", LU: 1}, {Lane: "s/dry", Sound: "lead", LU: 9},
	}}
	for _, x := range []struct {
		lane        plan.Key
		sound, song plan.ID
		lu          float64
		said        bool
	}{
		{"s/wet", "lead", "tide", 3, true}, {"s/wet", "lead", "quay", -2, true}, {"s/wet", "lead", "", -2, true},
		{"s/wet", "clean", "tide", 1, true}, {"s/wet", "clean", "quay", 0, false}, {"s/dry", "lead", "tide", 9, true},
		{"s/none", "lead", "tide", 0, false},
	} {
		lu, said := r.WishedFor(x.lane, x.sound, x.song)
		assert.Equal(t, x.said, said, "%+v", x)
		assert.InDelta(t, x.lu, lu, 1e-9, "%+v", x)
	}
}

func TestWhatIsWrongWithALaneLevelIsSaid(t *testing.T) {
	for path, list := range map[string][]plan.LaneLevel{
		"rigs[0].lane_levels[0].lane":     {{Sound: "s"}},
		"rigs[0].lane_levels[0].sound":    {{Lane: "a/b"}},
		"rigs[0].lane_levels[1]":          {{Lane: "a/b", Sound: "s", LU: 1}, {Lane: "a/b", Sound: "s", LU: 2}},
		"rigs[0].lane_levels[0].level_lu": {{Lane: "a/b", Sound: "s", LU: 90}},
		"":                                {{Lane: "a/b", Sound: "s"}, {Lane: "a/b", Sound: "s", Song: "gone"}},
	} {
		p := &plan.Plan{Rigs: []plan.Rig{{ID: "r", Name: "R", LaneLevels: list}}}
		problems := p.Validate()
		if path == "" {
			assert.Empty(t, problems)
			continue
		}
		require.Len(t, problems, 1, path)
		assert.Equal(t, path, problems[0].Path)
	}
}
