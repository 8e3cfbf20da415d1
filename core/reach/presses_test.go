package reach

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

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

// Where there are too many ways to keep, what comes out is a whole plan of presses, no better than the best, and said
// not to be the best where fewer ways were looked at.
func TestWithFewerWaysAPlanOfPressesIsWhole(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := randomPlan(t)
		solved := func(few bool) (*solver, cost) {
			s, err := prepare(p, &p.Rigs[0], &p.SetLists[0], Start{})
			require.NoError(t, err)
			if few {
				s.labels = 1 + len(s.feet.floor.Switches) // where the foot can be
			}
			s.solve()
			var c cost
			require.Len(t, s.outcomes, len(s.parts))
			for i, o := range s.outcomes[1:] {
				c = c.plus(o.cost)
				for mi, m := range s.machines {
					at := s.courses[mi].arrive[i+1]
					require.True(t, m.allows(i+1, at) || s.frozen(i+1), "%d in %v", at, m.allowed[i+1])
				}
			}
			for _, r := range s.rests {
				require.LessOrEqual(t, r.way.presses(), s.capacity(r.part))
				c.presses += r.way.presses()
			}
			return s, c
		}
		_, best := solved(false)
		few, some := solved(true)
		require.False(t, some.less(best), "%+v %+v", some, best)
		if best.less(some) {
			require.False(t, few.exact)
		}
	})
}

// A machine that goes on its own moves where what it stands at does not suit, and begins where it is first wanted.
func TestAMachineOnItsOwnMovesWhereItHasTo(t *testing.T) {
	for _, x := range []struct {
		g       segment
		allowed [][]int
		want    []int
	}{
		{segment{p: -1, q: 3, u: -1, v: -1}, [][]int{{0, 2}, {0, 2}, {1, 3}}, []int{0, 0, 1}},
		{segment{p: -1, q: 3, u: -1, v: -1}, [][]int{nil, {2}, nil}, []int{2, 2, 2}},
		{segment{p: 0, q: 3, u: 2, v: -1}, [][]int{{2}, nil, {1, 3}}, []int{2, 2, 1}},
		{segment{p: 0, q: 2, u: 2, v: 1}, [][]int{{2}, {0, 2}, {1}}, []int{2, 2, 1}},
	} {
		s := &solver{machines: []*machine{{allowed: x.allowed}}, parts: make([]*part, 3)}
		c := course{make([]int, 3), make([]int, 3)}
		s.courses = []course{c}
		if x.g.p >= 0 {
			c.fill(0, x.g.p, x.g.u)
		}
		s.giveUp(x.g)
		assert.Equal(t, x.want, c.arrive, "%v", x.allowed)
	}
}
