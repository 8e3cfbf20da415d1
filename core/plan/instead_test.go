package plan_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
)

func knobTo(id plan.ID, high float64, unit string) plan.Control {
	return plan.Control{ID: id, Name: string(id), Kind: plan.Knob, Access: plan.SlowHand, Max: &high, Unit: unit}
}

func pedalWith(id plan.ID, blocks ...plan.Block) plan.Gear {
	return plan.Gear{ID: id, Name: string(id), Kind: plan.Pedal, Blocks: blocks, Power: &plan.PowerDraw{Voltage: 9}}
}

func does(kind plan.ActionKind, target plan.Key) *plan.Press {
	return &plan.Press{Actions: []plan.Action{{Kind: kind, Target: target}}}
}

// swappable is a rig in which everything names one delay, and what may take its place.
func swappable() (*plan.Plan, *plan.Rig) {
	delay := plan.Block{
		ID: "fx", Name: "delay", Effect: plan.EffectDelay, Bypass: plan.TrueBypass,
		Controls: []plan.Control{knobTo("time", 1000, "ms"), knobTo("mix", 10, ""), knobTo("tone", 10, "")},
	}
	boost := plan.Block{
		ID: "boost", Name: "boost", Effect: plan.EffectBoost, Bypass: plan.TrueBypass, Rocker: true,
		Controls: []plan.Control{knobTo("level", 10, "")},
	}
	p := &plan.Plan{Gear: []plan.Gear{
		pedalWith("old", delay, boost), pedalWith("drive", plan.Block{ID: "fx", Effect: plan.EffectOverdrive}),
		{ID: "switcher", Kind: plan.Controller, Switcher: &plan.Switcher{Loops: make([]plan.SwitcherLoop, 2)}},
	}}
	feed := func(ids ...plan.ID) plan.PowerFeed { return plan.PowerFeed{Supply: "mains", Output: ids[0], Gear: ids} }
	r := &plan.Rig{
		ID: "rig", Name: "Rig",
		Path: []plan.Node{
			{Stop: "drive/fx", KeyIn: "old/fx"},
			{Stop: "old/fx", Switcher: "switcher", Loop: 2},
			{Split: &plan.Split{ID: "two", Kind: plan.SplitCopy, From: "old/fx", Lanes: []plan.Lane{
				{Nodes: []plan.Node{{Stop: "old/boost"}}},
			}}},
		},
		Base: map[plan.Key]plan.Value{
			"old/fx/time": plan.Number(900), "old/fx/mix": plan.Number(8), "old/fx/tone": plan.Number(3),
			"drive/fx/on": plan.On(true),
		},
		Recipes: []plan.Recipe{{
			ID: "r", Sound: "s", Values: map[plan.Key]plan.Value{
				"old/fx/on": plan.On(true), "old/fx/time": plan.Sync("1/8."), "old/boost/on": plan.On(true),
			},
			Rockers: []plan.Key{"old/boost"}, Notes: map[plan.Key]string{"old/fx": "1/8."},
		}},
		Programs: plan.ProgramMap{
			"switcher": {"1": {"A": {Values: map[plan.Key]plan.Value{"old/fx/on": plan.On(true)}}}},
		},
		Presets: plan.PresetMap{"old": {"1": nil}, "drive": {"1": nil}},
		Levels:  []plan.Level{{Block: "old/fx"}, {Block: "drive/fx"}},
		MIDI:    []plan.MIDILink{{Controller: "switcher", Gear: "old"}, {Controller: "switcher", Gear: "drive"}},
		Relays:  []plan.RelayLink{{Controller: "switcher", Target: "old/fx/on"}},
		Batteries: []plan.BatteryUse{
			{Gear: "old"}, {Gear: "drive"},
		},
		Leads:  []plan.Lead{{From: "drive/fx", To: "old/fx"}, {From: "guitar", To: "drive/fx"}},
		Clocks: []plan.Clock{{From: "switcher", To: []plan.ID{"old", "drive"}}, {From: "old", To: []plan.ID{"drive"}}},
		Assignments: []plan.Assignment{
			{Gear: "old", Switch: "1"},
			{Gear: "switcher", Switch: "1", Press: does(plan.Toggle, "old/fx/on")},
			{Gear: "switcher", Switch: "2", Hold: does(plan.Set, "old/fx/tone")},
		},
		Floor: plan.Floor{
			Places:       map[plan.ID]plan.Placement{"old": {X: 10, Y: 20}, "drive": {X: 90}},
			DoubleStomps: []plan.DoubleStomp{{A: "old/1", B: "drive/1"}, {A: "drive/1", B: "switcher/1"}},
		},
		PowerPlan:    []plan.PowerFeed{feed("old", "drive"), feed("old")},
		Orders:       []plan.KeptOrder{{Name: "other", Path: []plan.Node{{Stop: "old/fx"}, {Stop: "drive/fx"}}}},
		OwnSwitches:  []plan.Key{"old/fx", "drive/fx"},
		Destinations: []plan.Destination{{ID: "d", Base: map[plan.Key]plan.Value{"old/fx/mix": plan.Number(2)}}},
	}
	return p, r
}

func TestABoxTakesThePlaceOfAnother(t *testing.T) {
	p, r := swappable()
	in := pedalWith("new", plan.Block{
		ID: "echo", Name: "echo", Effect: plan.EffectDelay, Bypass: plan.TrueBypass,
		Controls: []plan.Control{knobTo("delay", 600, "ms"), knobTo("mix", 5, "")},
	})
	next, blocks, ok := p.Instead(r, "old", &in)
	require.True(t, ok)
	assert.Equal(t, map[plan.Key]plan.Key{"old/fx": "new/echo"}, blocks, "it has no boost")

	assert.Equal(t, plan.Node{Stop: "drive/fx", KeyIn: "new/echo"}, next.Path[0])
	assert.Equal(t, plan.Node{Stop: "new/echo", Switcher: "switcher", Loop: 2}, next.Path[1], "in the same loop")
	assert.Equal(t, plan.Key("new/echo"), next.Path[2].Split.From)
	assert.Empty(t, next.Path[2].Split.Lanes[0].Nodes)
	assert.Equal(t, map[plan.Key]plan.Value{
		"new/echo/delay": plan.Number(600), "new/echo/mix": plan.Number(5), "drive/fx/on": plan.On(true),
	}, next.Base, "the time for the time, within its range; it has no tone")
	assert.Equal(t, map[plan.Key]plan.Value{
		"new/echo/on": plan.On(true), "new/echo/delay": plan.Sync("1/8."),
	}, next.Recipes[0].Values)
	assert.Empty(t, next.Recipes[0].Rockers)
	assert.Equal(t, map[plan.Key]string{"new/echo": "1/8."}, next.Recipes[0].Notes)
	assert.True(t, next.Programs["switcher"]["1"]["A"].Values["new/echo/on"].IsOn())
	assert.Equal(t, plan.PresetMap{"drive": {"1": nil}}, next.Presets)
	assert.Equal(t, []plan.Level{{Block: "drive/fx"}}, next.Levels)
	assert.Equal(t, []plan.MIDILink{{Controller: "switcher", Gear: "drive"}}, next.MIDI)
	assert.Empty(t, next.Relays)
	assert.Equal(t, []plan.BatteryUse{{Gear: "drive"}}, next.Batteries)
	assert.Equal(t, []plan.Lead{{From: "guitar", To: "drive/fx"}}, next.Leads)
	assert.Equal(t, []plan.Clock{{From: "switcher", To: []plan.ID{"drive"}}}, next.Clocks)
	require.Len(t, next.Assignments, 1, "its own switches go, and what did something that is not there any more")
	assert.Equal(t, plan.Key("new/echo/on"), next.Assignments[0].Press.Actions[0].Target)
	assert.Equal(t, map[plan.ID]plan.Placement{"new": {X: 10, Y: 20}, "drive": {X: 90}}, next.Floor.Places)
	assert.Equal(t, []plan.DoubleStomp{{A: "drive/1", B: "switcher/1"}}, next.Floor.DoubleStomps)
	assert.Equal(t, []plan.ID{"new", "drive"}, next.PowerPlan[0].Gear)
	assert.Equal(t, plan.Key("new/echo"), next.Orders[0].Path[0].Stop)
	assert.Equal(t, []plan.Key{"new/echo", "drive/fx"}, next.OwnSwitches)
	assert.Equal(t, map[plan.Key]plan.Value{"new/echo/mix": plan.Number(2)}, next.Destinations[0].Base)

	// The rig that was given is as it was.
	_, again := swappable()
	assert.Equal(t, again, r)
}

func TestWhatTakesNoPowerIsFedByNothing(t *testing.T) {
	p, r := swappable()
	in := pedalWith("new", plan.Block{ID: "echo", Effect: plan.EffectDelay, Bypass: plan.AlwaysOn})
	in.Power = nil
	next, _, ok := p.Instead(r, "old", &in)
	require.True(t, ok)
	assert.Equal(t, []plan.ID{"drive"}, next.PowerPlan[0].Gear)
	assert.Len(t, next.PowerPlan, 1)
	_, named := next.Recipes[0].Values["new/echo/on"]
	assert.False(t, named, "what cannot be off has no switch")
}

func TestWhatCannotDoItsJobTakesNoPlace(t *testing.T) {
	p, r := swappable()
	tuner := pedalWith("new", plan.Block{ID: "fx", Effect: plan.EffectTuner})
	_, _, ok := p.Instead(r, "old", &tuner)
	assert.False(t, ok)
	_, _, ok = p.Instead(r, "nope", &tuner)
	assert.False(t, ok)
}

func TestWhatCanStandForWhat(t *testing.T) {
	for _, c := range []struct {
		a, b plan.Effect
		can  bool
	}{
		{plan.EffectDelay, plan.EffectDelay, true},
		{plan.EffectOverdrive, plan.EffectFuzz, true},
		{plan.EffectOverdrive, plan.EffectPreamp, true},
		{plan.EffectBoost, plan.EffectCompressor, true},
		{plan.EffectCompressor, plan.EffectOverdrive, false},
		{plan.EffectVibe, plan.EffectPhaser, true},
		{plan.EffectChorus, plan.EffectTremolo, true},
		{plan.EffectChorus, plan.EffectPhaser, true},
		{plan.EffectDelay, plan.EffectReverb, false},
		{plan.EffectTremolo, plan.EffectDelay, false},
		{plan.EffectOverdrive, plan.EffectChorus, false},
		{plan.EffectTuner, plan.EffectBuffer, false},
	} {
		assert.Equal(t, c.can, plan.CanStandFor(c.a, c.b), "%s for %s", c.b, c.a)
	}
}

func TestPresetsOfABoxGoOverToTheOther(t *testing.T) {
	remembering := func(id plan.ID, options ...string) plan.Gear {
		held := knobTo("time", 2000, "ms")
		held.Access = plan.Memory
		return pedalWith(id, plan.Block{ID: "fx", Effect: plan.EffectDelay, Controls: []plan.Control{
			{ID: "preset", Kind: plan.Preset, Access: plan.Foot, Options: options}, held,
		}})
	}
	on := func(preset string) map[plan.Key]plan.Value {
		return map[plan.Key]plan.Value{"old/fx/on": plan.On(true), "old/fx/preset": plan.Text(preset)}
	}
	times := map[string]map[plan.Key]plan.Value{
		"A": {"old/fx/time": plan.Number(100)}, "B": {"old/fx/time": plan.Number(200)},
	}
	rig := func() (*plan.Plan, *plan.Rig) {
		p := &plan.Plan{}
		p.Put(remembering("old", "A", "B", "C"))
		insists := on("B")
		insists["old/fx/time"] = plan.Number(555)
		return p, &plan.Rig{
			ID: "r", Path: []plan.Node{{Stop: "old/fx"}}, Presets: plan.PresetMap{"old": times, "drive": {"1": nil}},
			Recipes: []plan.Recipe{
				{
					ID:     "1",
					Sound:  "lead",
					Values: on("B"),
				}, {ID: "2", Sound: "home", Values: map[plan.Key]plan.Value{"old/fx/on": plan.On(false)}},
				{ID: "3", Sound: "swell", Values: insists},
			},
			Destinations: []plan.Destination{
				{ID: "d", Recipes: []plan.Recipe{{ID: "1", Sound: "lead", Values: on("A")}}},
			},
			Swaps: []plan.Swap{{ID: "slot", Name: "Echo", Boxes: []plan.SwapBox{{Gear: "old"}, {Gear: "new"}}}},
		}
	}
	instead := func(in plan.Gear) plan.Rig {
		p, r := rig()
		next, _, ok := p.Instead(r, "old", &in)
		require.True(t, ok)
		_, again := rig()
		assert.Equal(t, again, r, "the rig that was given is as it was")
		return next
	}

	next := instead(remembering("new", "1", "2"))
	assert.Equal(t, plan.PresetMap{"drive": {"1": nil}, "new": {
		"1": {"new/fx/time": plan.Number(100)}, "2": {"new/fx/time": plan.Number(200)},
	}}, next.Presets, "the first for the first")
	assert.Equal(t, map[plan.Key]plan.Value{
		"new/fx/on": plan.On(true), "new/fx/preset": plan.Text("2"),
	}, next.Recipes[0].Values)
	assert.Equal(t, plan.Number(555), next.Recipes[2].Values["new/fx/time"], "what a recipe insists on stays its own")

	// A box of a slot that never stood there has presets that hold the same, and the first keeps its own.
	p, r := rig()
	p.Put(remembering("new", "1", "2"))
	p.Put(*r)
	picked, err := p.Picked(r, "slot", "new")
	require.NoError(t, err)
	assert.Equal(t, next.Recipes, picked.Recipes)
	assert.Equal(t, next.Presets["new"], picked.Presets["new"])
	assert.Equal(t, plan.PresetMap{"old": times, "drive": {"1": nil}}, r.Presets)
	assert.Equal(t, times, picked.Presets["old"])

	for name, in := range map[string]plan.Gear{
		"fewer presets than are in use": remembering("new", "1"),
		"no presets": pedalWith("new", plan.Block{
			ID: "fx", Effect: plan.EffectDelay, Controls: []plan.Control{knobTo("time", 2000, "ms")},
		}),
	} {
		next := instead(in)
		assert.NotContains(t, next.Presets, plan.ID("new"), name)
		assert.Equal(t, map[plan.Key]plan.Value{
			"new/fx/on": plan.On(true), "new/fx/time": plan.Number(200),
		}, next.Recipes[0].Values, name)
		assert.Equal(t, map[plan.Key]plan.Value{"new/fx/on": plan.On(false)}, next.Recipes[1].Values,
			"%s: nothing is asked of what is off", name)
		assert.Equal(t, plan.Number(100), next.Destinations[0].Recipes[0].Values["new/fx/time"], name)

		// A box of a slot that never stood there takes over as much.
		p, r := rig()
		p.Put(in)
		p.Put(*r)
		picked, err := p.Picked(r, "slot", "new")
		require.NoError(t, err)
		assert.Equal(t, next.Recipes[0].Values, picked.Recipes[0].Values, name)
		back, err := p.Picked(&picked, "slot", "old")
		require.NoError(t, err)
		assert.Equal(t, r.Recipes, back.Recipes, "%s: and the first gets back what it had", name)
	}
}
