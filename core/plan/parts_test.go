package plan_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"envex/core/plan"
)

func TestAPotFollowsItsTaper(t *testing.T) {
	for _, x := range []struct {
		taper      string
		turn, want float64
	}{
		{plan.LinearTaper, 0.3, 0.3}, {plan.LinearTaper, 2, 1}, {plan.LinearTaper, -1, 0},
		{plan.AudioTaper, 0.5, 0.15}, {"", 0.5, 0.15}, {plan.AudioTaper, 0.25, 0.075}, {plan.AudioTaper, 0.75, 0.575},
		{plan.AudioTaper, 1, 1},
		{plan.AudioTaper10, 0.5, 0.10}, {plan.AudioTaper10, 1, 1},
	} {
		assert.InDelta(t, x.want, plan.Pot{Ohm: 250e3, Taper: x.taper}.Fraction(x.turn), 1e-9, "%s at %g", x.taper, x.turn)
	}
	rapid.Check(t, func(t *rapid.T) {
		pot := plan.Pot{
			Taper: rapid.SampledFrom([]string{"", plan.LinearTaper, plan.AudioTaper, plan.AudioTaper10}).Draw(t, "taper"),
		}
		a, b := rapid.Float64Range(0, 1).Draw(t, "a"), rapid.Float64Range(0, 1).Draw(t, "b")
		if a <= b {
			assert.LessOrEqual(t, pot.Fraction(a), pot.Fraction(b)+1e-12, "further is never less")
		}
	})
}

func TestSlotsStandInTheOrderTheyAreCounted(t *testing.T) {
	names := []string{"B", "10", "A", "2", "1"}
	slices.SortFunc(names, plan.CompareSlots)
	assert.Equal(t, []string{"1", "2", "10", "A", "B"}, names)
	assert.Zero(t, plan.CompareSlots("3", "3"))
	for word, want := range map[string][]string{"3": {"", "3"}, "B/3": {"B", "3"}} {
		bank, slot, ok := plan.Action{Kind: plan.Recall, Value: ptr(plan.Text(word))}.Slot()
		assert.True(t, ok)
		assert.Equal(t, want, []string{bank, slot})
	}
	for name, a := range map[string]plan.Action{
		"no recall": {Kind: plan.Set, Value: ptr(plan.Text("3"))}, "no value": {Kind: plan.Recall},
		"a number": {Kind: plan.Recall, Value: ptr(plan.Number(3))},
		"no slot":  {Kind: plan.Recall, Value: ptr(plan.Text("B/"))},
		"no bank":  {Kind: plan.Recall, Value: ptr(plan.Text("/3"))},
		"nothing":  {Kind: plan.Recall, Value: ptr(plan.Text(""))},
	} {
		_, _, ok := a.Slot()
		assert.False(t, ok, name)
	}
}

func TestWhatIsHeldOnIsNotSwitched(t *testing.T) {
	r := plan.Rig{
		Path: []plan.Node{
			{Stop: "a/x", Switcher: "sw", Loop: 1}, {Stop: "b/x", Switcher: "sw", Loop: 2}, {Stop: "c/x"},
			{
				Split:    &plan.Split{ID: "s", Kind: plan.SplitCopy, Lanes: []plan.Lane{{Nodes: []plan.Node{{Stop: "d/x"}}}}},
				Switcher: "other", Loop: 1,
			},
		},
		Held: []plan.HeldLoop{{Switcher: "sw", Loop: 2}},
	}
	assert.True(t, r.IsHeld("sw", 2))
	assert.False(t, r.IsHeld("sw", 1))
	assert.False(t, r.IsHeld("other", 2))
	assert.Equal(t, map[plan.Key]int{"a/x": 1, "b/x": 2}, r.LoopsOf("sw"))
	assert.Equal(t, map[plan.Key]int{"a/x": 1, "b/x": 2, "d/x": 1}, r.LoopsOf(""))
	assert.Equal(t, map[plan.Key]int{"a/x": 1}, r.SwitchedLoops("sw"))
	assert.Equal(t, map[plan.Key]bool{"a/x": true, "d/x": true}, r.Looped())
}

func TestAMessageSaysAValueAndADeviceReadsItBack(t *testing.T) {
	g := plan.Gear{ID: "echo", Name: "Echo", Kind: plan.Pedal, MIDI: &plan.MIDIPort{Channel: 3},
		Blocks: []plan.Block{{ID: "fx", Name: "fx", Effect: plan.EffectDelay, Bypass: plan.TrueBypass,
			Controls: []plan.Control{
				{ID: "mix", Name: "mix", Kind: plan.Knob, Access: plan.Remote},
				{ID: "type", Name: "type", Kind: plan.Selector, Access: plan.Remote, Options: []string{"tape", "plate", "spring"}},
			}}}}
	by := map[plan.Key]plan.Variable{}
	for _, v := range g.Variables() {
		by[v.Key] = v
	}
	on, mix, kind := by["echo/fx/on"], by["echo/fx/mix"], by["echo/fx/type"]
	plain := plan.MIDIMessage{}
	said := plan.MIDIMessage{Values: map[string]int{"on": 10, "off": 20, "plate": 64}}
	for _, x := range []struct {
		message plan.MIDIMessage
		v       plan.Variable
		value   plan.Value
		number  int
		ok      bool
	}{
		{plain, on, plan.On(true), 127, true}, {plain, on, plan.On(false), 0, true},
		{said, on, plan.On(true), 10, true}, {said, on, plan.On(false), 20, true},
		{plan.MIDIMessage{Values: map[string]int{"on": 1}}, on, plan.On(false), 0, false},
		{plain, mix, plan.Number(5), 64, true}, {plain, mix, plan.Number(0), 0, true},
		{plain, mix, plan.Number(10), 127, true}, {plain, mix, plan.Text("much"), 0, false},
		{plain, kind, plan.Text("spring"), 2, true}, {plain, kind, plan.Text("hall"), -1, false},
		{said, kind, plan.Text("plate"), 64, true}, {said, kind, plan.Text("spring"), 0, false},
	} {
		number, ok := x.message.Number(x.v, x.value)
		assert.Equal(t, x.ok, ok, "%s to %s", x.v.Label, x.value)
		if !ok {
			continue
		}
		assert.Equal(t, x.number, number)
		back, ok := x.message.Reads(x.v, number)
		require.True(t, ok)
		if x.value.Kind() == plan.NumberValue {
			assert.InDelta(t, x.value.Float(), back.Float(), 10.0/127)
			continue
		}
		assert.Equal(t, x.value, back)
	}
	_, ok := said.Reads(on, 11)
	assert.False(t, ok, "a device that was told its numbers reacts to no other")
	_, ok = plain.Reads(kind, 3)
	assert.False(t, ok, "there are three")
	_, ok = plan.MIDIMessage{}.Number(plan.Variable{}, plan.Number(1))
	assert.False(t, ok)
	assert.Equal(t, 8, (&plan.MIDIPort{}).Shown(7))
	assert.Equal(t, 7, (&plan.MIDIPort{CountsFrom: ptr(0)}).Shown(7))
}

func TestASettingIsTheBaseTheRecipeAndThePreset(t *testing.T) {
	p := small()
	r := &p.Rigs[0]
	r.Recipes[0].Values["echo/delay/on"] = plan.On(true)
	r.Recipes[0].Values["echo/delay/preset"] = plan.Text("A")
	r.Presets["echo"]["A"]["echo/delay/time"] = plan.Sync("1/4")
	sound := &p.Sounds[0]
	set := p.SetFor(r, &r.Recipes[0], sound, plan.Tempo{BPM: 120})
	assert.Equal(t, plan.Number(500), set.At("echo/delay/time"), "what a preset holds, at the tempo")
	assert.Equal(t, plan.Number(4), set.At("amber/drive/gain"), "the base")
	assert.Equal(t, plan.On(true), set.At("amber/drive/on"))
	assert.Equal(t, plan.ID("gtr"), set.Guitar)
	asWritten := p.SetFor(r, &r.Recipes[0], sound, plan.Tempo{})
	assert.Equal(t, plan.Sync("1/4"), asWritten.At("echo/delay/time"), "at no tempo it stays a length of note")
	r.Recipes[0].Values["echo/delay/time"] = plan.Number(90)
	assert.Equal(
		t, plan.Number(90), p.SetFor(r, &r.Recipes[0], sound, plan.Tempo{BPM: 120}).At("echo/delay/time"),
		"the recipe insists",
	)
	assert.Equal(
		t, plan.On(false), p.SetFor(r, nil, nil, plan.Tempo{BPM: 120}).At("amber/drive/on"),
		"without a recipe it is the base",
	)
	sound.Targets.Guitar = "other"
	assert.Equal(t, plan.ID("other"), p.SetFor(r, &r.Recipes[0], sound, plan.Tempo{}).Guitar)
	r.Recipes[0].Guitar = "mine"
	assert.Equal(t, plan.ID("mine"), p.SetFor(r, &r.Recipes[0], sound, plan.Tempo{}).Guitar)
}

func TestValuesReadAsAPersonWouldSayThem(t *testing.T) {
	for want, v := range map[string]plan.Value{
		"4.5": plan.Number(4.5), "plate": plan.Text("plate"), "on": plan.On(true), "off": plan.On(false),
		"1/8. note": plan.Sync("1/8."), "any": plan.Free(), "unchanged": plan.Unchanged(), "": {},
	} {
		assert.Equal(t, want, v.String())
	}
}

func TestEveryTapeIsOfferedOnceAndNoneIsRed(t *testing.T) {
	tapes := plan.Tapes()
	assert.Len(t, tapes, 12)
	slices.Sort(tapes)
	assert.Len(t, slices.Compact(tapes), 12)
	assert.NotContains(t, tapes, "red")
}

func TestWithoutAmpsTheLanesStay(t *testing.T) {
	p := small()
	r := &p.Rigs[0]
	r.Path = []plan.Node{{Stop: "amber/drive"}, {Split: &plan.Split{ID: "s", Kind: plan.SplitCopy, Lanes: []plan.Lane{
		{Name: "left", Nodes: []plan.Node{{Stop: "echo/delay"}, {Stop: "combo/preamp"}, {Stop: "combo/power"}}},
		{Name: "right"},
	}}}}
	r.Destinations = []plan.Destination{{ID: "di", Name: "Line", Kind: plan.StereoDI}}
	there, err := p.At("rig", "di")
	require.NoError(t, err)
	at, _ := there.FindRig("rig")
	assert.Equal(t, []plan.Key{"amber/drive", "echo/delay"}, at.Stops())
	assert.Equal(t, "right", at.Path[1].Split.Lanes[1].Name)
	assert.Len(t, r.Path[1].Split.Lanes[0].Nodes, 3, "the rig itself is not changed")
	_, err = p.At("rig", "moon")
	require.ErrorContains(t, err, `no destination "moon"`)
	_, err = p.At("gone", "di")
	require.ErrorContains(t, err, `no rig "gone"`)
}

func TestWhatASupplyHasIsFound(t *testing.T) {
	var none *plan.PowerSupply
	_, ok := none.FindOutput("1")
	assert.False(t, ok, "a supply nobody knows")
	s := &plan.PowerSupply{Outputs: []plan.PowerOutput{{ID: "1"}, {ID: "2", CurrentMA: 500}}}
	out, ok := s.FindOutput("2")
	require.True(t, ok)
	assert.Equal(t, 500.0, out.CurrentMA)
	_, ok = s.FindOutput("3")
	assert.False(t, ok)
	sw := plan.Gear{Switcher: &plan.Switcher{Loops: make([]plan.SwitcherLoop, 3)}}
	assert.Equal(t, 3, sw.LoopCount())
	assert.True(t, sw.HasLoop(3))
	assert.False(t, sw.HasLoop(0))
	assert.False(t, sw.HasLoop(4))
	assert.Zero(t, (&plan.Gear{}).LoopCount())
}
