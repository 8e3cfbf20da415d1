package plan_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

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
	echo := plan.Action{Kind: plan.Toggle, Target: "echo/fx/on"}
	r := &plan.Rig{
		ID: "rig", Path: []plan.Node{{Stop: "own/pre"}, {Stop: "own/verb"}},
		Destinations: []plan.Destination{{ID: "there", Amp: "other"}},
		MIDI: []plan.MIDILink{
			{Controller: "box", Gear: "own", Channel: 5}, {Controller: "box", Gear: "echo", Channel: 6},
		},
		Programs: plan.ProgramMap{"box": {"1": {
			"1": {Values: map[plan.Key]plan.Value{"own/preset": two, "echo/fx/on": plan.On(true)}},
			"2": {Values: map[plan.Key]plan.Value{"echo/fx/on": plan.On(false)}},
		}}},
		Assignments: []plan.Assignment{
			{Gear: "box", Switch: "a", Press: press(toggle), Hold: press(plan.Action{Kind: plan.Toggle, Target: "echo/fx/on"})},
			{Gear: "box", Switch: "b", Press: press(plan.Action{Kind: plan.Set, Target: "own/preset", Value: &two})},
			{Gear: "box", Switch: "c", Press: press(plan.Action{Kind: plan.Toggle, Target: "echo/fx/on"})},
			{Gear: "own", Switch: "front", Double: press(toggle, echo)},
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
		r.Assignments[2], r.Assignments[3], r.Assignments[4], {Gear: "other", Switch: "front", Double: press(also, echo)},
	}, got.Assignments, "a switch of its own that the other has does the same")
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

// A relay goes into the jack of the other amp where that has the same to work, and works that there alone.
func TestARelayIsPluggedIntoTheAmpThatIsThere(t *testing.T) {
	own, other := stored("own", "1", "2"), stored("other", "A", "B")
	other.Blocks[1].ID = "spring"
	box := plan.Gear{
		ID: "box", Name: "Box", Kind: plan.Controller,
		Relays: []plan.Relay{{ID: "one"}, {ID: "two"}, {ID: "three"}},
	}
	echo := plan.Gear{ID: "echo", Name: "Echo", Kind: plan.Pedal, Blocks: []plan.Block{
		{ID: "fx", Effect: plan.EffectDelay, Bypass: plan.TrueBypass},
	}}
	p := &plan.Plan{Gear: []plan.Gear{*own, *other, box, echo}}
	link := func(relay plan.ID, target plan.Key) plan.RelayLink {
		return plan.RelayLink{Controller: "box", Relay: relay, Target: target}
	}
	r := plan.Rig{
		ID: "rig", Name: "Rig", Path: []plan.Node{{Stop: "echo/fx"}, {Stop: "own/pre"}, {Stop: "own/verb"}},
		Relays: []plan.RelayLink{
			link("one", "own/pre/channel"), link("two", "own/verb/on"), link("three", "echo/fx/on"),
		},
	}
	alike := p.RelaysAlike(&r, own, other)
	assert.Equal(t, []plan.RelayLink{link("one", "other/pre/channel"), link("two", "other/spring/on")}, alike)

	r.Destinations = []plan.Destination{{ID: "there", Name: "There", Kind: plan.HiredAmp, Amp: "other", Relays: alike[:1]}}
	r.Programs = plan.ProgramMap{"box": {"1": {"1": {Values: map[plan.Key]plan.Value{
		"own/pre/channel": plan.Text("drive"), "other/pre/channel": plan.Text("drive"),
	}}}}}
	p.Put(r)
	problems := func() string { return fmt.Sprint(p.ValidateChange("rig")) }
	assert.NotContains(t, problems(), "relay")
	assert.NotContains(t, problems(), "programs", "the program works the amp there, too")
	there, err := p.At("rig", "there")
	require.NoError(t, err)
	at, _ := there.FindRig("rig")
	assert.Equal(t, []plan.RelayLink{r.Relays[1], r.Relays[2], alike[0]}, at.Relays)
	here, _ := p.FindRig("rig")
	assert.Equal(t, r.Relays, here.Relays)
	assert.NotContains(t, here.GearIn(), plan.ID("other"))
	assert.Contains(t, fmt.Sprint(p.Uses("other")), "relays at There")

	here.Destinations[0].Relays = []plan.RelayLink{alike[0], alike[0]}
	assert.Contains(t, problems(), "plugged in twice")
	here.Destinations[0].Relays = []plan.RelayLink{link("four", "other/pre/channel"), link("one", "other/pre/none")}
	assert.Contains(t, problems(), `no relay "four"`)
	assert.Contains(t, problems(), `no control "other/pre/none"`)
	here.Destinations[0].Relays = []plan.RelayLink{link("one", "echo/fx/on")}
	assert.Contains(t, problems(), "Echo is no amp")
}
