package reach

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
)

// twoSongs is a stage of two songs: the second, after a gap of one second, plays sounds B and A for so many bars of 1.5
// seconds. What B and C ask is each case's own.
func twoSongs(bars ...float64) *stage {
	s := newStage()
	s.sections(plan.Section{ID: "1", Label: "Verse", Sound: "a", Bars: ptr(8.0)})
	other := plan.Song{ID: "other", Title: "Other", Tempo: plan.Tempo{BPM: 160}, Meter: plan.Meter{Beats: 4, Unit: 4}}
	for i, n := range bars {
		id := []plan.ID{"2", "3", "4"}[i]
		other.Sections = append(other.Sections, plan.Section{
			ID: id, Label: string(id), Sound: []plan.ID{"b", "c", "a"}[i], Bars: ptr(n),
		})
	}
	s.plan.Songs = append(s.plan.Songs, other)
	l := &s.plan.SetLists[0]
	l.GapS = ptr(1.0)
	l.Entries = append(l.Entries, plan.SetEntry{ID: "e2", Song: "other"})
	return s
}

func (s *stage) asks(recipe int, values map[plan.Key]plan.Value) {
	for key, value := range values {
		if s.rig().Recipes[recipe].Values == nil {
			s.rig().Recipes[recipe].Values = map[plan.Key]plan.Value{}
		}
		s.rig().Recipes[recipe].Values[key] = value
	}
}

func stepping(by int) *plan.Press {
	return &plan.Press{Actions: []plan.Action{{Kind: plan.Step, Target: "b/preset", By: by}}}
}

// A press that is made early can leave the foot on the switch that is wanted next, by a way that goes past where the
// next sound is: down to A and up to B by the switch that then goes on to C, in no time.
func TestAWayPastWhatIsWantedLeavesTheFootWhereItIsWanted(t *testing.T) {
	s := twoSongs(0.5, 0.5, 0.5)
	delay := &s.plan.Gear[2]
	s.plan.Songs[1].Sections[2].Singing = true // which makes the foot slower
	delay.Footswitches[0] = plan.Footswitch{ID: "s", Label: "down", X: 15, Y: 100, Press: stepping(-1)}
	delay.Footswitches[1].Press = stepping(1)
	s.rig().Base = map[plan.Key]plan.Value{"delay/b/on": plan.On(true)}
	s.asks(0, map[plan.Key]plan.Value{"delay/b/preset": plan.Text("C")})
	s.asks(1, map[plan.Key]plan.Value{"delay/b/preset": plan.Free()})
	s.asks(2, map[plan.Key]plan.Value{"delay/b/preset": plan.Text("B")})
	assert.True(t, isTheBest(t, &s.plan))
	r := s.report(t)
	assert.Len(t, r.Changes[0].Presses, 2)
	require.Len(t, r.Changes, 3)
	assert.Equal(t, []plan.Key{"delay/p", "delay/p"},
		[]plan.Key{r.Changes[1].Presses[0].Switch, r.Changes[2].Presses[0].Switch})
	for _, c := range r.Changes {
		assert.False(t, c.Fails)
	}
}

// The one press at leisure that there is room for is better kept for the pedal that it spares a hold.
func TestRoomForOnePressGoesWhereItSparesMost(t *testing.T) {
	s := twoSongs(1.4, 0.8)
	s.plan.Gear[1].Blocks[0].Controls = s.plan.Gear[2].Blocks[0].Controls
	s.plan.Gear[1].Footswitches[0].Hold = stepping(1)
	s.rig().Base = map[plan.Key]plan.Value{"two/b/on": plan.On(true), "delay/b/on": plan.On(true)}
	s.asks(1, map[plan.Key]plan.Value{"two/b/on": plan.On(false), "delay/b/on": plan.On(false)})
	s.asks(2, map[plan.Key]plan.Value{"two/b/preset": plan.Text("C"), "delay/b/preset": plan.Text("B")})
	assert.True(t, isTheBest(t, &s.plan))
}

// Between songs the foot goes where it is wanted, also for the change after the next.
func TestAfterAGapTheFootIsWhereItIsWanted(t *testing.T) {
	s := twoSongs(0.5, 0.5)
	s.plan.Songs[0].Sections = append(s.plan.Songs[0].Sections,
		plan.Section{ID: "1b", Label: "End", Sound: "b", Bars: ptr(0.5)})
	s.asks(1, map[plan.Key]plan.Value{"one/b/on": plan.On(true)})
	s.asks(2, map[plan.Key]plan.Value{"one/b/on": plan.On(true), "two/b/on": plan.On(true)})
	assert.True(t, isTheBest(t, &s.plan))
	r := s.report(t)
	assert.Empty(t, r.Changes[1].Presses, "across the gap")
	assert.InDelta(t, 0.08, r.Changes[2].NeededS, 1e-3)
}

// Nothing is pressed that leaves the rig where no foot can get it out, not round a sound that is not set either.
func TestASoundThatIsNotSetIsNoWayRoundAPress(t *testing.T) {
	s := twoSongs(0.5, 0.5)
	delay := &s.plan.Gear[2]
	delay.Blocks = append(delay.Blocks, delay.Blocks[0])
	delay.Blocks[1].ID = "other"
	s.rig().Path = append(s.rig().Path, plan.Node{Stop: "delay/other"})
	delay.Footswitches[0].Press = &plan.Press{Actions: []plan.Action{
		{Kind: plan.Set, Target: "b/on", Value: ptr(plan.On(false))},
		{Kind: plan.Set, Target: "other/on", Value: ptr(plan.On(false))},
	}}
	delay.Footswitches[0].Hold = &plan.Press{Actions: []plan.Action{{Kind: plan.Toggle, Target: "b/on"}}}
	delay.Footswitches = delay.Footswitches[:1]
	s.asks(0, map[plan.Key]plan.Value{"delay/other/on": plan.On(true)})
	s.asks(2, map[plan.Key]plan.Value{"delay/other/on": plan.On(true), "delay/b/on": plan.On(true)})
	s.rig().Recipes = append(s.rig().Recipes[:1], s.rig().Recipes[2])
	assert.True(t, isTheBest(t, &s.plan))
}
