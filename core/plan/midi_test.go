package plan_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
)

func number(n int) *int { return &n }

// online is the small plan with a controller on a MIDI line with its delay, and a relay.
func online() *plan.Plan {
	whole := small()
	p := &whole
	p.Gear = append(
		p.Gear,
		plan.Gear{
			ID: "ctrl", Name: "Turntable", Kind: plan.Controller, MIDI: &plan.MIDIPort{Channel: 1},
			Relays: []plan.Relay{{ID: "r1"}},
		},
	)
	p.Sounds = append(p.Sounds, plan.Sound{ID: "lead", Name: "Lead", Short: "LD", Role: plan.LeadRole, Tape: "sky"})
	echo, _ := p.FindGear("echo")
	echo.MIDI = &plan.MIDIPort{Channel: 3}
	return p
}

func TestProblemsOfMIDIAndOfWhatIsKept(t *testing.T) {
	cases := map[string]struct {
		change func(*plan.Plan, *plan.Rig)
		path   string
	}{
		"a message to nothing": {
			func(p *plan.Plan, _ *plan.Rig) { p.Gear[2].MIDI.Map = []plan.MIDIMessage{{Target: "delay/nothing"}} },
			"gear[2].midi.map[0].target",
		},
		"two messages to one": {func(p *plan.Plan, _ *plan.Rig) {
			p.Gear[2].MIDI.Map = []plan.MIDIMessage{{Target: "delay/preset"}, {Target: "delay/preset", Control: number(4)}}
		}, "gear[2].midi.map[1].target"},
		"one message to two": {func(p *plan.Plan, _ *plan.Rig) {
			p.Gear[2].MIDI.Map = []plan.MIDIMessage{
				{Target: "delay/on", Control: number(4)}, {Target: "delay/time", Control: number(4)},
			}
		}, "gear[2].midi.map[1].control"},
		"a program change to a knob": {
			func(p *plan.Plan, _ *plan.Rig) { p.Gear[2].MIDI.Map = []plan.MIDIMessage{{Target: "delay/time"}} },
			"gear[2].midi.map[0].control",
		},
		"a value above seven bits": {func(p *plan.Plan, _ *plan.Rig) {
			p.Gear[2].MIDI.Map = []plan.MIDIMessage{{Target: "delay/preset", Values: map[string]int{"A": 128}}}
		}, "gear[2].midi.map[0].values[\"A\"]"},
		"a value of no option": {func(p *plan.Plan, _ *plan.Rig) {
			p.Gear[2].MIDI.Map = []plan.MIDIMessage{{Target: "delay/preset", Values: map[string]int{"Q": 1}}}
		}, "gear[2].midi.map[0].values[\"Q\"]"},
		"relays of a pedal": {
			func(p *plan.Plan, _ *plan.Rig) { p.Gear[2].Relays = []plan.Relay{{ID: "r"}} }, "gear[2].relays",
		},
		"no such relay": {func(_ *plan.Plan, r *plan.Rig) {
			r.Relays = []plan.RelayLink{{Controller: "ctrl", Relay: "r9", Target: "echo/delay/on"}}
		}, "rigs[0].relays[0].relay"},
		"a relay to a knob": {func(_ *plan.Plan, r *plan.Rig) {
			r.Relays = []plan.RelayLink{{Controller: "ctrl", Relay: "r1", Target: "echo/delay/time"}}
		}, "rigs[0].relays[0].target"},
		"a relay to three positions": {func(p *plan.Plan, r *plan.Rig) {
			echo, _ := p.FindGear("echo")
			for i := range echo.Blocks[0].Controls {
				if c := &echo.Blocks[0].Controls[i]; c.ID == "preset" {
					c.Options = append(c.Options, "X")
				}
			}
			r.Relays = []plan.RelayLink{{Controller: "ctrl", Relay: "r1", Target: "echo/delay/preset"}}
		}, "rigs[0].relays[0].target"},
		"a relay plugged in twice": {func(_ *plan.Plan, r *plan.Rig) {
			r.Relays = []plan.RelayLink{
				{Controller: "ctrl", Relay: "r1", Target: "echo/delay/on"},
				{Controller: "ctrl", Relay: "r1", Target: "echo/delay/on"},
			}
		}, "rigs[0].relays[1].relay"},
		"a link from what sends nothing": {func(_ *plan.Plan, r *plan.Rig) {
			r.MIDI = []plan.MIDILink{{Controller: "echo", Gear: "echo", Channel: 1}}
		}, "rigs[0].midi[0].controller"},
		"a link to what is not on MIDI": {func(_ *plan.Plan, r *plan.Rig) {
			r.MIDI = []plan.MIDILink{{Controller: "ctrl", Gear: "combo", Channel: 1}}
		}, "rigs[0].midi[0].gear"},
		"a channel above 16": {func(_ *plan.Plan, r *plan.Rig) {
			r.MIDI = []plan.MIDILink{{Controller: "ctrl", Gear: "echo", Channel: 17}}
		}, "rigs[0].midi[0].channel"},
		"two sounds on one slot": {func(p *plan.Plan, r *plan.Rig) {
			r.SlotPins = []plan.SlotPin{
				{Controller: "ctrl", Slot: "5", Sound: p.Sounds[0].ID}, {Controller: "ctrl", Slot: "5", Sound: p.Sounds[1].ID},
			}
		}, "rigs[0].slot_pins[1].slot"},
		"a slot for no sound": {func(_ *plan.Plan, r *plan.Rig) {
			r.SlotPins = []plan.SlotPin{{Controller: "ctrl", Slot: "5", Sound: "nope"}}
		}, "rigs[0].slot_pins[0].sound"},
		"a switch of no block": {
			func(_ *plan.Plan, r *plan.Rig) { r.OwnSwitches = []plan.Key{"echo/nothing"} }, "rigs[0].own_switches[0]",
		},
		"snapshots of what has none": {
			func(_ *plan.Plan, r *plan.Rig) { r.Snapshots = plan.SnapshotMap{"echo": {"A": {"1": {}}}} },
			"rigs[0].snapshots[\"echo\"]",
		},
	}
	for name, c := range cases {
		t.Run(name, func(t *testing.T) {
			p := online()
			require.Empty(t, p.Validate())
			c.change(p, &p.Rigs[0])
			var paths []string
			for _, x := range p.Validate() {
				paths = append(paths, x.Path)
			}
			assert.Contains(t, paths, c.path)
		})
	}
}

func TestWhatAControllerGoverns(t *testing.T) {
	p := online()
	echo, _ := p.FindGear("echo")
	r := &p.Rigs[0]
	vars := map[plan.Key]plan.Variable{}
	for _, v := range echo.Variables() {
		vars[v.Key] = v
	}
	governs := func(key plan.Key) bool { return p.Governs(r, "ctrl", r.SwitchedLoops("ctrl"), vars[key]) }
	assert.True(t, governs("echo/delay/preset"))
	assert.False(t, governs("echo/delay/time"), "its memory holds it")

	echo.MIDI.Map = []plan.MIDIMessage{{Target: "delay/time", Control: number(12)}}
	assert.True(t, governs("echo/delay/time"), "its map says a message does")
	assert.False(t, governs("echo/delay/preset"), "and none moves the preset")

	r.MIDI = []plan.MIDILink{{Controller: "ctrl", Gear: "echo", Channel: 9}}
	assert.False(t, governs("echo/delay/time"), "nobody listens on that channel")
	r.Relays = []plan.RelayLink{{Controller: "ctrl", Relay: "r1", Target: "echo/delay/on"}}
	assert.True(t, governs("echo/delay/on"))
	r.MIDI = nil
	ctrl, _ := p.FindGear("ctrl")
	ctrl.MIDI = nil
	assert.False(t, governs("echo/delay/time"), "a controller without a port sends nothing")
}

func TestMIDIAndPinsAreMentionsAndAreRenamed(t *testing.T) {
	p := online()
	r := &p.Rigs[0]
	r.MIDI = []plan.MIDILink{{Controller: "ctrl", Gear: "echo", Channel: 4}}
	r.Relays = []plan.RelayLink{{Controller: "ctrl", Relay: "r1", Target: "echo/delay/on"}}
	r.SlotPins = []plan.SlotPin{{Controller: "ctrl", Slot: "5", Sound: p.Sounds[0].ID}}
	r.OwnSwitches = []plan.Key{"echo/delay"}
	require.Empty(t, p.Validate())
	where := map[string]bool{}
	for _, u := range p.Uses("ctrl") {
		where[u.Where] = true
	}
	assert.Subset(t, where, map[string]bool{"MIDI": true, "relays": true, "a slot that is kept": true})
	data, err := plan.Encode(p)
	require.NoError(t, err)
	again, err := plan.Decode(data)
	require.NoError(t, err)
	assert.Equal(t, r.SlotPins, again.Rigs[0].SlotPins)

	mine := small()
	mine.Gear[2].Name = "Another echo"
	for i := range again.Gear {
		if again.Gear[i].ID == "ctrl" {
			mine.Gear = append(mine.Gear, plan.Gear{ID: "ctrl", Name: "Mine", Kind: plan.Controller})
		}
	}
	n := 0
	merged, err := mine.Merge(
		again, map[plan.ID]plan.Resolution{"ctrl": plan.Copy, "echo": plan.Copy, "rig": plan.Replace},
		func() plan.ID { n++; return plan.ID([]string{"", "new1", "new2", "new3", "new4"}[n]) },
	)
	require.NoError(t, err)
	for _, a := range append(merged.Replaced, merged.Added...) {
		if rig, ok := a.(plan.Rig); ok {
			assert.NotEqual(t, plan.ID("ctrl"), rig.MIDI[0].Controller)
			assert.Equal(t, rig.MIDI[0].Controller, rig.Relays[0].Controller)
			assert.Equal(t, plan.ID("r1"), rig.Relays[0].Relay, "a relay's name means something only in its controller")
			assert.Equal(t, rig.MIDI[0].Gear, rig.OwnSwitches[0].Gear())
		}
	}
}
