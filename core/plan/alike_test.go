package plan_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"envex/core/plan"
)

// stored is an amp with a memory: its channel is in presets, and its reverb is switched.
func stored(id plan.ID, presets ...string) *plan.Gear {
	return &plan.Gear{
		ID: id, Name: string(id), Kind: plan.Amp, MIDI: &plan.MIDIPort{Channel: 3},
		Controls: []plan.Control{{ID: "preset", Kind: plan.Preset, Access: plan.Remote, Options: presets}},
		Blocks: []plan.Block{
			{
				ID: "pre", Effect: plan.EffectPreamp, Bypass: plan.AlwaysOn, Controls: []plan.Control{{
					ID: "channel", Kind: plan.Selector, Access: plan.Memory, Options: []string{"clean", "drive"},
				}},
			},
			{ID: "verb", Effect: plan.EffectReverb, Bypass: plan.TrueBypass},
		},
		Footswitches: []plan.Footswitch{{ID: "front"}},
	}
}

func press(actions ...plan.Action) *plan.Press { return &plan.Press{Actions: actions} }

func TestAnotherAmpIsSwitchedAsTheFirstIs(t *testing.T) {
	own, other := stored("own", "1", "2"), stored("other", "A", "B")
	p := &plan.Plan{Gear: []plan.Gear{*own, *other}}
	two, verb := plan.Text("2"), plan.Key("own/verb/on")
	toggle := plan.Action{Kind: plan.Toggle, Target: verb}
	r := &plan.Rig{
		ID: "rig", Path: []plan.Node{{Stop: "own/pre"}, {Stop: "own/verb"}},
		MIDI: []plan.MIDILink{{Controller: "box", Gear: "own", Channel: 5}, {Controller: "box", Gear: "echo", Channel: 6}},
		Programs: plan.ProgramMap{"box": {"1": {
			"1": {Values: map[plan.Key]plan.Value{"own/preset": two, "echo/fx/on": plan.On(true)}},
			"2": {Values: map[plan.Key]plan.Value{"echo/fx/on": plan.On(false)}},
		}}},
		Assignments: []plan.Assignment{
			{Gear: "box", Switch: "a", Press: press(toggle), Hold: press(plan.Action{Kind: plan.Toggle, Target: "echo/fx/on"})},
			{Gear: "box", Switch: "b", Press: press(plan.Action{Kind: plan.Set, Target: "own/preset", Value: &two})},
			{Gear: "box", Switch: "c", Press: press(plan.Action{Kind: plan.Toggle, Target: "echo/fx/on"})},
			{Gear: "own", Switch: "front", Double: press(toggle)},
			{Gear: "own", Switch: "gone", Press: press(toggle)},
		},
	}
	got := p.SwitchedAlike(r, own, other)
	b := plan.Text("B")
	also := plan.Action{Kind: plan.Toggle, Target: "other/verb/on"}
	assert.Equal(t, []plan.MIDILink{r.MIDI[0], r.MIDI[1], {Controller: "box", Gear: "other", Channel: 5}}, got.MIDI)
	assert.Equal(t, map[plan.Key]plan.Value{
		"own/preset": two, "other/preset": b, "echo/fx/on": plan.On(true),
	}, got.Programs["box"]["1"]["1"].Values)
	assert.Equal(t, r.Programs["box"]["1"]["2"], got.Programs["box"]["1"]["2"])
	assert.Equal(t, []plan.Assignment{
		{Gear: "box", Switch: "a", Press: press(toggle, also), Hold: r.Assignments[0].Hold},
		{Gear: "box", Switch: "b", Press: press(
			r.Assignments[1].Press.Actions[0], plan.Action{Kind: plan.Set, Target: "other/preset", Value: &b},
		)},
		r.Assignments[2], r.Assignments[3], r.Assignments[4],
	}, got.Assignments)
	assert.NotContains(t, got.GearIn(), plan.ID("other"), "it is not in the rig where it does not stand")
	assert.Len(t, r.Programs["box"]["1"]["1"].Values, 2, "the rig stays")
	assert.Len(t, r.Assignments[0].Press.Actions, 1)

	other.MIDI = nil
	assert.Equal(t, r.MIDI, p.SwitchedAlike(r, own, other).MIDI)
}

// What presets of an amp hold is held by those of one that remembers it too, and asked by recipes of one that does not.
// An amp that holds something of its own keeps that.
func TestWhatAnAmpRemembersIsRememberedByAnother(t *testing.T) {
	own, other := stored("own", "1", "2"), stored("other", "A", "B")
	p := &plan.Plan{Gear: []plan.Gear{*own, *other}}
	drive := map[plan.Key]plan.Value{"own/pre/channel": plan.Text("drive")}
	r := &plan.Rig{
		ID: "rig", Path: []plan.Node{{Stop: "own/pre"}, {Stop: "own/verb"}},
		Presets: plan.PresetMap{"own": {"2": drive}},
		Recipes: []plan.Recipe{{ID: "r", Values: map[plan.Key]plan.Value{"own/preset": plan.Text("2")}}},
	}
	_, recipes, held := p.SetAs(r, own, other)
	assert.Equal(t, map[string]map[plan.Key]plan.Value{
		"B": {"other/pre/channel": plan.Text("drive")},
	}, held)
	assert.Equal(t, map[plan.Key]plan.Value{"other/preset": plan.Text("B")}, recipes[0].Values)

	r.Presets["other"] = map[string]map[plan.Key]plan.Value{"A": {"other/pre/channel": plan.Text("clean")}}
	_, recipes, held = p.SetAs(r, own, other)
	assert.Empty(t, held)
	assert.Equal(t, map[plan.Key]plan.Value{"other/pre/channel": plan.Text("drive")}, recipes[0].Values)
	delete(r.Presets, "other")

	other.Controls = nil
	other.Blocks[0].Controls[0].Access = plan.Foot
	_, recipes, held = p.SetAs(r, own, other)
	assert.Empty(t, held)
	assert.Equal(t, map[plan.Key]plan.Value{"other/pre/channel": plan.Text("drive")}, recipes[0].Values)
}
