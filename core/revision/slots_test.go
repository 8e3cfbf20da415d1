package revision_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"envex/core/plan"
	"envex/core/revision"
)

func TestSwapSlotsAreSaid(t *testing.T) {
	p := &plan.Plan{
		Gear:  []plan.Gear{{ID: "chorus", Name: "Chorus"}, {ID: "trem", Name: "Tremolo"}, {ID: "vibe", Name: "Vibe"}},
		Songs: []plan.Song{{ID: "tide", Title: "Low Tide"}},
	}
	rig := func(in plan.Key, boxes ...plan.SwapBox) plan.Rig {
		return plan.Rig{
			ID: "r", Path: []plan.Node{{Stop: in}}, Swaps: []plan.Swap{{ID: "s", Name: "Movement", Boxes: boxes}, {ID: "t", Name: "Other"}},
		}
	}
	before := rig("chorus/fx", plan.SwapBox{Gear: "chorus"}, plan.SwapBox{Gear: "trem"})
	with := func(change func(*plan.Rig)) plan.Rig {
		r := rig("chorus/fx", plan.SwapBox{Gear: "chorus"}, plan.SwapBox{Gear: "trem"})
		change(&r)
		return r
	}
	for words, after := range map[string]plan.Rig{
		"Swap slot Movement is called Sway": with(func(r *plan.Rig) { r.Swaps[0].Name = "Sway" }),
		"Swap slot Other removed":           with(func(r *plan.Rig) { r.Swaps = r.Swaps[:1] }),
		"Swap slot Third added, for Chorus and Vibe": with(func(r *plan.Rig) {
			r.Swaps = append(r.Swaps, plan.Swap{ID: "u", Name: "Third", Boxes: []plan.SwapBox{{Gear: "chorus"}, {Gear: "vibe"}}})
		}),
		"Vibe can stand in Movement": with(func(r *plan.Rig) {
			r.Swaps[0].Boxes = append(r.Swaps[0].Boxes, plan.SwapBox{Gear: "vibe"})
		}),
		"Tremolo taken out of Movement":     with(func(r *plan.Rig) { r.Swaps[0].Boxes = r.Swaps[0].Boxes[:1] }),
		"Low Tide is played with Tremolo":   with(func(r *plan.Rig) { r.Swaps[0].Boxes[1].Songs = []plan.ID{"tide"} }),
		"Swap slots stand in another order": with(func(r *plan.Rig) { r.Swaps[0], r.Swaps[1] = r.Swaps[1], r.Swaps[0] }),
		"Boxes of Movement stand in another order": with(func(r *plan.Rig) {
			b := r.Swaps[0].Boxes
			b[0], b[1] = b[1], b[0]
		}),
		"Tremolo is set otherwise in Movement, where it does not stand": with(func(r *plan.Rig) {
			r.Swaps[0].Boxes[1].Kept = &plan.KeptBox{OwnSwitches: []plan.Key{"trem/fx"}}
		}),
	} {
		assert.Equal(t, []string{words}, revision.Words(p, before, after))
	}
	asks := with(func(r *plan.Rig) { r.Swaps[0].Boxes[1].Songs = []plan.ID{"tide"} })
	assert.Equal(t, []string{"Low Tide is no more played with Tremolo"}, revision.Words(p, asks, before))
	picked := rig("trem/fx", plan.SwapBox{Gear: "chorus", Kept: &plan.KeptBox{}}, plan.SwapBox{Gear: "trem"})
	assert.Contains(t, revision.Words(p, before, picked), "Tremolo stands in Movement in place of Chorus")
	assert.NotContains(
		t,
		revision.Words(p, before, picked),
		"Chorus is set otherwise in Movement, where it does not stand",
	)
}
