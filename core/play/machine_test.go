package play

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"

	"envex/core/midi"
	"envex/core/plan"
	"envex/demo"
)

func TestTheDevicesAreWhatThePressesMadeThem(t *testing.T) {
	p := demo.Plan()
	s := songOf(t, p, "bare", "Ferry Lights")
	r := judge(
		t,
		p,
		"bare",
		s,
		[]Press{
			{AtS: 1, Switch: "rust/on"},
			{AtS: 1.5, Switch: "nope/on"},
			{AtS: 2, Switch: "rust/on", Gesture: "hold"},
		},
		3,
	)
	on := map[string]bool{}
	for _, d := range r.Now {
		on[d.Label] = d.On
		if d.Label == "Rust" {
			assert.True(t, d.Wrong)
		}
	}
	assert.True(t, on["Rust"])
	assert.Equal(t, []string{"Rust"}, r.Pending)
	assert.Equal(
		t, []string{"moved", "nothing", "nothing"}, []string{r.Events[0].Kind, r.Events[1].Kind, r.Events[2].Kind},
	)
	again := judge(t, p, "bare", s, []Press{{AtS: 1, Switch: "rust/on"}, {AtS: 9, Switch: "rust/on"}}, 3)
	assert.Len(t, again.Events, 1, "what comes after the moment is not there yet")
}

func TestProgramsBanksAndPresets(t *testing.T) {
	p := programmed(t)
	s := songOf(t, p, "switched", "Ferry Lights")
	r := judge(
		t, p, "switched", s,
		[]Press{
			{AtS: 1, Switch: "turntable/2"}, {AtS: 2, Switch: "turntable/bank"}, {AtS: 3, Switch: "turntable/1"},
			{AtS: 4, Switch: "turntable/3"},
		},
		5,
	)
	var kinds []string
	for _, e := range r.Events {
		if e.Kind != "moved" && e.Kind != "sent" {
			kinds = append(kinds, e.Kind+" "+e.Words)
		}
	}
	assert.Equal(
		t,
		[]string{
			"recalled Turntable 1/2, amber", "bank Turntable bank 2, waiting for a slot", "recalled Turntable 2/1, echo",
			"nothing Turntable 2/3 is empty",
		},
		kinds,
	)
	value := map[plan.Key]plan.Value{}
	for _, d := range r.Now {
		value[d.Variable] = d.Value
	}
	assert.True(t, value["echo/fx/on"].IsOn())
	assert.False(t, value["amber/fx/on"].IsOn())
	assert.Equal(t, "B", value["echo/fx/preset"].Word())
	moved := slices.ContainsFunc(
		r.Events, func(e Event) bool { return e.Variable == "echo/fx/time" && e.Value.Float() == 380 },
	)
	assert.True(t, moved, "the preset brings its time")
}

func TestARecallThatNamesItsBankStaysThere(t *testing.T) {
	p := programmed(t)
	r, _ := p.FindRig("switched")
	r.Assignments = append(
		r.Assignments,
		plan.Assignment{
			Gear: "turntable", Switch: "4",
			Press: &plan.Press{Actions: []plan.Action{{Kind: plan.Recall, Value: ptr(plan.Text("2/1"))}}},
		},
	)
	s := songOf(t, p, "switched", "Ferry Lights")
	e := judge(t, p, "switched", s, []Press{{AtS: 1, Switch: "turntable/4"}, {AtS: 2, Switch: "turntable/1"}}, 3).Events
	assert.Equal(t, "Turntable 2/1, echo", e[0].Words)
	var last Event
	for _, x := range e {
		if x.Kind == e[0].Kind {
			last = x
		}
	}
	assert.Equal(t, 2.0, last.AtS)
	assert.Equal(t, "Turntable 2/1, echo", last.Words, "slot 1 of the bank it is in now")
}

func TestATapIsTheMeanOfItsIntervals(t *testing.T) {
	p := demo.Plan()
	g, _ := p.FindGear("slap")
	g.Footswitches = append(
		g.Footswitches,
		plan.Footswitch{
			ID: "tap", Label: "tap", X: 10, Y: 10,
			Press: &plan.Press{Actions: []plan.Action{{Kind: plan.Tap, Target: "fx/time"}}},
		},
	)
	s := songOf(t, p, "bare", "Ferry Lights")
	r := judge(
		t, p, "bare", s,
		[]Press{
			{AtS: 0, Switch: "slap/tap"}, {AtS: 0.26, Switch: "slap/tap"}, {AtS: 0.5, Switch: "slap/tap"},
			{AtS: 8, Switch: "slap/tap"},
		},
		9,
	)
	assert.InDelta(t, 260, r.Events[1].Value.Float(), 1e-6)
	assert.InDelta(t, 250, r.Events[2].Value.Float(), 1e-6)
	assert.Nil(t, r.Events[3].Value, "a new run of taps")
}

// An option after the last is the first where the switch goes round, and none where it does not.
func TestASwitchStepsThroughOptions(t *testing.T) {
	step := func(by int, wrap bool, from string) (string, []string) {
		p := demo.Plan()
		g, _ := p.FindGear("room")
		g.Footswitches = append(g.Footswitches, plan.Footswitch{
			ID: "next", Label: "next", X: 10, Y: 10,
			Press: &plan.Press{Actions: []plan.Action{{Kind: plan.Step, Target: "fx/type", By: by, Wrap: wrap}}},
		})
		r, _ := p.FindRig("long")
		m := newMachine(p, r, plan.Setting{}, &midi.Report{})
		m.values["room/fx/type"] = plan.Text(from)
		events := m.press(Press{AtS: 1, Switch: "room/next"})
		var kinds []string
		for _, e := range events {
			kinds = append(kinds, e.Kind)
		}
		return m.values["room/fx/type"].Word(), kinds
	}
	for _, x := range []struct {
		by   int
		wrap bool
		from string
		to   string
		kind string
	}{
		{1, false, "spring", "room", "moved"}, {1, false, "hall", "hall", "nothing"}, {-1, false, "room", "spring", "moved"},
		{-1, false, "spring", "spring", "nothing"},
		{2, false, "spring", "hall", "moved"}, {1, true, "hall", "spring", "moved"},
		{-1, true, "spring", "hall", "moved"}, {-2, true, "spring", "room", "moved"},
	} {
		to, kinds := step(x.by, x.wrap, x.from)
		assert.Equal(t, x.to, to, "%+v", x)
		assert.Contains(t, kinds, x.kind, "%+v", x)
	}
}

func TestWhenARunOfTapsIsOver(t *testing.T) {
	p := demo.Plan()
	g, _ := p.FindGear("slap")
	g.Footswitches = append(g.Footswitches, plan.Footswitch{
		ID: "tap", Label: "tap", X: 10, Y: 10,
		Press: &plan.Press{Actions: []plan.Action{{Kind: plan.Tap, Target: "fx/time"}}},
	})
	s := songOf(t, p, "bare", "Ferry Lights")
	tapped := func(times ...float64) *plan.Value {
		var presses []Press
		for _, at := range times {
			presses = append(presses, Press{AtS: at, Switch: "slap/tap"})
		}
		events := judge(t, p, "bare", s, presses, 20).Events
		return events[len(events)-1].Value
	}
	assert.Nil(t, tapped(1), "one tap is no tempo")
	assert.NotNil(t, tapped(1, 4), "three seconds are a beat")
	assert.Nil(t, tapped(1, 4.001), "and more begin anew")
	assert.InDelta(t, 250, tapped(0, 8, 8.3, 8.5).Float(), 1e-6, "of the new run alone")
}
