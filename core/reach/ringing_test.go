package reach

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
)

// echoing makes the stage's delay ring on, with presets that a program or a switch changes.
func echoing(preset string) *stage {
	s := newStage()
	b := &s.plan.Gear[2].Blocks[0]
	b.Effect, b.Trails = plan.EffectDelay, true
	s.rig().Recipes[0].Values = map[plan.Key]plan.Value{"delay/b/on": plan.On(true), "delay/b/preset": plan.Text("A")}
	s.rig().Recipes[1].Values = map[plan.Key]plan.Value{"delay/b/on": plan.On(preset != ""), "one/b/on": plan.On(true)}
	if preset != "" {
		s.rig().Recipes[1].Values["delay/b/preset"] = plan.Text(preset)
	}
	return s
}

func TestTrailsThatAChangeCutsAreSaid(t *testing.T) {
	assert.Empty(t, echoing("A").report(t).Changes[0].Cuts, "nothing of the delay moves")
	assert.Empty(t, echoing("").report(t).Changes[0].Cuts, "switched off at the box it rings on")

	c := echoing("B").report(t).Changes[0]
	require.Len(t, c.Cuts, 1)
	assert.Contains(t, c.Cuts[0], "changes its preset while it rings")

	s := echoing("B")
	s.plan.Gear[2].Blocks[0].Spills = true
	assert.Empty(t, s.report(t).Changes[0].Cuts, "it rings through a change of preset")

	looped := func() *stage {
		return echoing("").switched(map[string]map[string][]plan.Key{"1": {"1": {"delay/b"}, "2": {"one/b"}}})
	}
	c = looped().report(t).Changes[0]
	require.Len(t, c.Cuts, 1)
	assert.Contains(t, c.Cuts[0], "its loop leaves the chain")

	s = looped()
	s.rig().Held = []plan.HeldLoop{{Switcher: "ctrl", Loop: 3}}
	c = s.report(t).Changes[0]
	assert.Empty(t, c.Cuts, "a loop that is held on does not leave")
	assert.Contains(t, labels(c), "Turntable 2")
}

func TestABoxInAHeldLoopIsPressedAtTheBox(t *testing.T) {
	s := newStage().lead().switched(map[string]map[string][]plan.Key{"1": {"1": nil, "2": {"two/b"}}})
	for _, slot := range []string{"1", "2"} {
		delete(s.rig().Programs["ctrl"]["1"][slot].Values, "one/b/on")
	}
	assert.Equal(t, Impossible, s.report(t).Changes[0].Verdict, "nothing switches loop 1")
	s.rig().Held = []plan.HeldLoop{{Switcher: "ctrl", Loop: 1}}
	assert.ElementsMatch(t, []string{"one", "Turntable 2"}, labels(s.report(t).Changes[0]))
}

func TestGainGoesOffBeforeGainComesOnWhereThatCostsNothing(t *testing.T) {
	s := newStage()
	s.rig().Recipes[0].Values = map[plan.Key]plan.Value{"one/b/on": plan.On(true)}
	s.rig().Recipes[1].Values["two/b/on"] = plan.On(true)
	c := s.report(t).Changes[0]
	assert.Equal(t, []string{"one", "two"}, labels(c), "the way there and back takes the same time")
	assert.False(t, c.Between[0].Loud)
	s.sections(
		plan.Section{ID: "1", Label: "Solo", Sound: "b", Bars: ptr(8.0)},
		plan.Section{ID: "2", Label: "Verse", Sound: "a", Bars: ptr(8.0)},
	)
	c = s.report(t).Changes[0]
	assert.Equal(t, []string{"two", "one"}, labels(c))
	assert.False(t, c.Between[0].Loud)

	// Where it costs time the way that takes least is kept, and the loud moment is said.
	s.sections(plan.Section{ID: "0", Label: "Start", Sound: "c", Bars: ptr(8.0)},
		plan.Section{ID: "1", Label: "Verse", Sound: "a", Bars: ptr(0.5)},
		plan.Section{ID: "2", Label: "Solo", Sound: "b", Bars: ptr(8.0)})
	s.rig().Recipes[2].Values = map[plan.Key]plan.Value{"one/b/on": plan.On(true), "delay/b/on": plan.On(true)}
	c = s.report(t).Changes[1]
	assert.Equal(t, []string{"two", "one"}, labels(c), "the foot comes from the delay, and two is nearer")
	assert.True(t, c.Between[0].Loud)
}

func TestSnapshotsHoldSettingsWithinAPreset(t *testing.T) {
	s := newStage()
	b := &s.plan.Gear[2].Blocks[0]
	b.Controls = append(b.Controls,
		plan.Control{ID: "shot", Name: "snapshot", Kind: plan.Snapshot, Access: plan.Foot, Options: []string{"1", "2"}},
		plan.Control{ID: "mix", Name: "mix", Kind: plan.Knob, Access: plan.Memory})
	s.plan.Gear[2].Footswitches = append(
		s.plan.Gear[2].Footswitches,
		plan.Footswitch{
			ID: "q", Label: "shot", X: 65, Y: 40,
			Press: &plan.Press{Actions: []plan.Action{{Kind: plan.Step, Target: "b/shot", Wrap: true}}},
		},
	)
	mix := func(x float64) map[plan.Key]plan.Value { return map[plan.Key]plan.Value{"delay/b/mix": plan.Number(x)} }
	s.rig().Presets = plan.PresetMap{"delay": {"B": mix(3)}}
	s.rig().Snapshots = plan.SnapshotMap{"delay": {"B": {"2": mix(8)}}}
	for i, x := range []float64{3, 8} {
		s.rig().Recipes[i].Values = map[plan.Key]plan.Value{"delay/b/on": plan.On(true), "delay/b/mix": plan.Number(x)}
	}
	c := s.report(t).Changes[0]
	assert.Equal(t, []string{"delay shot"}, labels(c), "the preset stays, the snapshot moves")
	assert.Equal(t, InTime, c.Verdict)

	s.rig().Recipes[1].Values["delay/b/mix"] = plan.Number(5)
	c = s.report(t).Changes[0]
	assert.Equal(t, Impossible, c.Verdict)
	assert.Contains(t, c.Reason, "No preset of delay holds delay mix at 5")
}
