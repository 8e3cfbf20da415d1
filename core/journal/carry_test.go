package journal

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"envex/core/plan"
)

// anyValue is a value that a control can stand at.
func anyValue(t *rapid.T, v plan.Variable) plan.Value {
	switch {
	case v.IsOn():
		return plan.On(rapid.Bool().Draw(t, "on"))
	case v.Control.Kind == plan.Knob:
		low, high := v.Control.Range()
		return plan.Number(low + (high-low)*float64(rapid.IntRange(0, 20).Draw(t, "turn"))/20)
	}
	return plan.Text(rapid.SampledFrom(v.Control.Options).Draw(t, "option"))
}

// Whatever is kept, the rig is sound with it and stands so where it was said: in that sound, that preset,
// or wherever no recipe says otherwise; and nothing else of the rig is touched.
func TestWhatIsKeptIsHowTheRigStands(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := demo(t)
		show := &p.Shows[rapid.IntRange(0, len(p.Shows)-1).Draw(t, "show")]
		there, err := p.At(show.Rig, show.Destination)
		require.NoError(t, err)
		here, _ := there.FindRig(show.Rig)
		var list []plan.Variable
		for _, id := range here.GearIn() {
			g, _ := p.FindGear(id)
			list = append(list, g.Variables()...)
		}
		v := rapid.SampledFrom(list).Draw(t, "variable")
		value := anyValue(t, v)
		fix := plan.Fix{Text: "x", Key: v.Key, Value: &value}
		g, _ := p.FindGear(v.Gear)
		preset, hasPresets := g.PresetControl()
		switch {
		case hasPresets && v.Access == plan.Memory && rapid.Bool().Draw(t, "in a preset"):
			fix.Preset = rapid.SampledFrom(preset.Control.Options).Draw(t, "preset")
		case len(here.Recipes) > 0 && rapid.Bool().Draw(t, "for a sound"):
			fix.Sound = rapid.SampledFrom(here.Recipes).Draw(t, "recipe").Sound
		}
		show.Fixes = []plan.Fix{{Text: "before"}, fix}
		if len(p.Validate()) > 0 {
			t.Skip("it cannot stand there")
		}
		before, _ := p.FindRig(show.Rig)
		rig, next, err := CarryOver(p, show.ID, 1)
		require.NoError(t, err)
		q := *p
		q.Put(rig)
		q.Put(next)
		require.Empty(t, q.Validate())
		assert.Equal(t, []string{"", plan.FixKept}, []string{next.Fixes[0].Keep, next.Fixes[1].Keep})

		after, err := q.At(rig.ID, show.Destination)
		require.NoError(t, err)
		now, _ := after.FindRig(rig.ID)
		switch {
		case fix.Preset != "":
			held, ok := now.Remembered(v.Gear, fix.Preset, "", v.Key)
			assert.True(t, ok)
			assert.Equal(t, value, held)
		case fix.Sound != "":
			sound, _ := q.FindSound(fix.Sound)
			rec := now.RecipeFor(plan.Section{Sound: fix.Sound})
			assert.Equal(t, value, after.SetFor(now, rec, sound, plan.Tempo{}).At(v.Key))
		default:
			assert.Equal(t, value, now.BaseValue(v))
		}
		// Taken back by hand it is the rig it was.
		rig.Base, rig.Presets, rig.Recipes, rig.Destinations = before.Base, before.Presets, before.Recipes, before.Destinations
		assert.Equal(t, *before, rig)
	})
}

// A box's history is what the log says of it, and the histories of all boxes with the lines about none are the log.
func TestTheHistoriesOfTheBoxesAreTheLog(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := demo(t)
		ids := []plan.ID{"", "amber", "silt", "echo"}
		for i := range p.Shows {
			s := &p.Shows[i]
			for n := range rapid.IntRange(0, 3).Draw(t, "faults") {
				s.Faults = append(
					s.Faults,
					plan.Fault{
						Text: "f", Gear: ids[rapid.IntRange(0, 3).Draw(t, "where")],
						Cured: rapid.SampledFrom([]string{"", "c"}).Draw(t, "cured"),
					},
				)
				_ = n
			}
			for range rapid.IntRange(0, 2).Draw(t, "batteries") {
				s.Batteries = append(s.Batteries, ids[rapid.IntRange(1, 3).Draw(t, "battery")])
			}
			s.After = rapid.SampledFrom([]string{"", "loud"}).Draw(t, "after")
		}
		all := Read(p, Query{})
		parts := 0
		for _, id := range ids[1:] {
			mine := Read(p, Query{Gear: id})
			parts += len(mine)
			for _, l := range mine {
				assert.Equal(t, id, l.Gear)
				assert.True(t, slices.Contains(all, l))
			}
		}
		for _, l := range all {
			if l.Gear == "" {
				parts++
			}
		}
		assert.Len(t, all, parts)
		for i := 1; i < len(all); i++ {
			assert.GreaterOrEqual(t, all[i-1].Date, all[i].Date, "the latest first")
		}
		kinds := 0
		for _, k := range []Kind{Before, Fault, Change, Battery, After} {
			kinds += len(Read(p, Query{Kind: k}))
		}
		assert.Len(t, all, kinds)
	})
}
