package reach

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
)

// switched puts the pedals of a stage into loops of a controller with two slots and a bank
// switch, and stores programs in it by bank and slot: the blocks that each turns on.
func (s *stage) switched(programs map[string]map[string][]plan.Key) *stage {
	press := func(a plan.Action) *plan.Press { return &plan.Press{Actions: []plan.Action{a}} }
	slot := func(id string, x float64) plan.Footswitch {
		return plan.Footswitch{
			ID: plan.ID("s" + id), Label: id, X: x, Y: 60,
			Press: press(plan.Action{Kind: plan.Recall, Value: ptr(plan.Text(id))}),
		}
	}
	s.plan.Gear = append(s.plan.Gear,
		plan.Gear{ID: "ctrl", Name: "Turntable", Kind: plan.Controller, Size: &plan.Size{Width: 300, Depth: 110},
			Switcher: &plan.Switcher{Loops: make([]plan.SwitcherLoop, 3)},
			Footswitches: []plan.Footswitch{
				slot("1", 40), slot("2", 120),
				{ID: "bank", Label: "bank", X: 200, Y: 60, Press: press(plan.Action{Kind: plan.Bank, Wrap: true})},
			}})
	r := s.rig()
	for i := range r.Path {
		r.Path[i].Switcher, r.Path[i].Loop = "ctrl", i+1
	}
	r.Programs = plan.ProgramMap{"ctrl": {}}
	for bank, slots := range programs {
		r.Programs["ctrl"][bank] = map[string]plan.Program{}
		for name, on := range slots {
			values := map[plan.Key]plan.Value{}
			for _, n := range r.Path {
				values[n.Stop+"/on"] = plan.On(false)
			}
			for _, k := range on {
				values[k+"/on"] = plan.On(true)
			}
			r.Programs["ctrl"][bank][name] = plan.Program{Values: values}
		}
	}
	return s
}

func labels(c Change) []string {
	list := []string{}
	for _, p := range c.Presses {
		list = append(list, p.Label)
	}
	return list
}

func TestARecallMovesEverythingInOnePress(t *testing.T) {
	s := newStage().lead()
	apart := s.report(t).Changes[0]
	assert.Len(t, apart.Presses, 2, "each pedal by its own switch")

	s = newStage().lead().switched(map[string]map[string][]plan.Key{"1": {"1": nil, "2": {"one/b", "two/b"}}})
	c := s.report(t).Changes[0]
	assert.Equal(t, []string{"Turntable 2"}, labels(c))
	assert.Equal(t, "one on and two on", c.Presses[0].Action)
	assert.InDelta(t, plan.DefaultFootwork().Dwell, c.FootworkS, 1e-9, "the foot waits on the slot")
	assert.Empty(t, c.Between, "nothing sounds in between")
}

func TestBankStepsAreCounted(t *testing.T) {
	s := newStage().lead().switched(map[string]map[string][]plan.Key{"1": {"1": nil}, "2": {"2": {"one/b", "two/b"}}})
	verse := func(id plan.ID, sound plan.ID, bars float64) plan.Section {
		return plan.Section{ID: id, Label: "x", Sound: sound, Bars: ptr(bars)}
	}
	s.sections(verse("1", "a", 8), verse("2", "b", 8), verse("3", "a", 8))
	c := s.report(t).Changes[1]
	assert.Equal(t, []string{"Turntable 1"}, labels(c))
	require.Len(t, c.Leisure, 1, "the bank is stepped to early, where nobody hears it")
	assert.Equal(t, []string{"Turntable bank"}, c.Leisure[0].Switches)

	// A section under two seconds leaves no room to do it early.
	s.sections(verse("1", "a", 8), verse("2", "b", 0.5), verse("3", "a", 8))
	r := s.report(t)
	assert.Empty(t, append(r.Changes[0].Leisure, r.Changes[1].Leisure...))
	assert.ElementsMatch(
		t, []string{"Turntable 2", "Turntable bank", "Turntable 1"}, append(labels(r.Changes[0]), labels(r.Changes[1])...),
		"the step is made at one of the changes",
	)
}

func TestASlotNamedWithItsBankGoesThere(t *testing.T) {
	s := newStage().lead().switched(map[string]map[string][]plan.Key{"1": {"1": nil}, "2": {"2": {"one/b", "two/b"}}})
	c, _ := s.plan.FindGear("ctrl")
	c.Footswitches[2].Press.Actions[0] = plan.Action{Kind: plan.Recall, Value: ptr(plan.Text("2/2"))}
	assert.Equal(t, []string{"Turntable bank"}, labels(s.report(t).Changes[0]), "the third switch, whatever its label")
}

func TestABoxInALoopIsLeftOn(t *testing.T) {
	s := newStage().lead().switched(map[string]map[string][]plan.Key{"1": {"1": nil}})
	c := s.report(t).Changes[0]
	assert.Equal(t, Impossible, c.Verdict, "its own switch is not pressed, and no program turns it on")
	s.rig().Path[0].Switcher, s.rig().Path[0].Loop, s.rig().Path[1].Switcher, s.rig().Path[1].Loop = "", 0, "", 0
	s.rig().Programs = nil
	assert.NotEqual(t, Impossible, s.report(t).Changes[0].Verdict, "outside it is")
}

func TestWhatAProgramLeavesIsUnchanged(t *testing.T) {
	s := newStage().lead().switched(map[string]map[string][]plan.Key{"1": {"1": nil, "2": {"one/b", "two/b"}}})
	values := s.rig().Programs["ctrl"]["1"]["2"].Values
	values["two/b/on"] = plan.Unchanged()
	assert.Equal(t, Impossible, s.report(t).Changes[0].Verdict)
}

func TestProgramsThatCannotBeAreRefused(t *testing.T) {
	s := newStage().switched(map[string]map[string][]plan.Key{"1": {"1": nil}})
	s.rig().Programs["ctrl"]["1"]["1"].Values["one/b/drive"] = plan.Number(3)
	assert.Contains(t, s.plan.Validate().Error(), "Turntable cannot move one drive")
	s = newStage().switched(nil)
	c, _ := s.plan.FindGear("ctrl")
	c.Footswitches[0].Press.Actions[0].Value = nil
	assert.Contains(t, s.plan.Validate().Error(), "recall needs a slot")
}

func TestManyBanksAreSaidNotToBeExact(t *testing.T) {
	programs := map[string]map[string][]plan.Key{}
	for b := range manyBanks + 1 {
		programs[fmt.Sprint(b+1)] = map[string][]plan.Key{"1": nil, "2": {"one/b", "two/b"}}
	}
	s := newStage().lead().switched(programs)
	require.Empty(t, s.plan.Validate())
	r, err := Compute(&s.plan, "rig", "set")
	require.NoError(t, err)
	assert.False(t, r.Exact)
	assert.Equal(t, []string{"Turntable 2"}, labels(r.Changes[0]), "and still the right thing is found")
}
