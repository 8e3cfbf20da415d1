package reach

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/floor"
	"envex/core/plan"
)

// stage is a plan that tests change a little each: two pedals 300 mm apart with a switch
// each, a delay with presets, two sounds, one song.
type stage struct {
	plan plan.Plan
}

func newStage() *stage {
	pedal := func(id plan.ID, x float64) plan.Gear {
		return plan.Gear{ID: id, Name: string(id), Kind: plan.Pedal, Size: &plan.Size{Width: 70, Depth: 120},
			Blocks: []plan.Block{{ID: "b", Name: "b", Effect: plan.EffectOverdrive, Bypass: plan.TrueBypass,
				Controls: []plan.Control{
					{ID: "drive", Name: "drive", Kind: plan.Knob, Access: plan.SlowHand},
				}}},
			Footswitches: []plan.Footswitch{
				{
					ID: "s", Label: string(id), X: 35, Y: 100,
					Press: &plan.Press{Actions: []plan.Action{{Kind: plan.Toggle, Target: "b/on"}}},
				},
			},
		}
	}
	delay := pedal("delay", 600)
	delay.Blocks[0].Controls = []plan.Control{
		{ID: "preset", Name: "preset", Kind: plan.Preset, Access: plan.Foot, Options: []string{"A", "B", "C"}},
	}
	delay.Footswitches = append(
		delay.Footswitches,
		plan.Footswitch{
			ID: "p", Label: "preset", X: 65, Y: 100,
			Press: &plan.Press{Actions: []plan.Action{{Kind: plan.Step, Target: "b/preset", Wrap: true}}},
		},
	)
	return &stage{plan: plan.Plan{
		Gear: []plan.Gear{pedal("one", 0), pedal("two", 300), delay},
		Sounds: []plan.Sound{
			{ID: "a", Name: "A", Short: "A", Role: plan.HomeRole, Tape: "bone"},
			{ID: "b", Name: "B", Short: "B", Role: plan.LeadRole, Tape: "sky"},
			{ID: "c", Name: "C", Short: "C", Role: plan.LeadRole, Tape: "teal"},
		},
		Songs: []plan.Song{{ID: "song", Title: "Song", Tempo: plan.Tempo{BPM: 120}, Meter: plan.Meter{Beats: 4, Unit: 4},
			Sections: []plan.Section{
				{ID: "1", Label: "Verse", Sound: "a", Bars: ptr(8.0)}, {ID: "2", Label: "Solo", Sound: "b", Bars: ptr(8.0)},
			}}},
		SetLists: []plan.SetList{{ID: "set", Name: "Set", Entries: []plan.SetEntry{{ID: "e1", Song: "song"}}}},
		Rigs: []plan.Rig{{ID: "rig", Name: "Rig",
			Path: []plan.Node{{Stop: "one/b"}, {Stop: "two/b"}, {Stop: "delay/b"}},
			Recipes: []plan.Recipe{
				{ID: "ra", Sound: "a"}, {ID: "rb", Sound: "b", Values: map[plan.Key]plan.Value{}},
				{ID: "rc", Sound: "c", Values: map[plan.Key]plan.Value{}},
			},
			Floor: plan.Floor{Places: map[plan.ID]plan.Placement{"one": {}, "two": {X: 300}, "delay": {X: 600}}},
		}},
	}}
}

func (s *stage) rig() *plan.Rig { return &s.plan.Rigs[0] }

func (s *stage) sections(list ...plan.Section) *stage {
	s.plan.Songs[0].Sections = list
	return s
}

func (s *stage) report(t *testing.T) *Report {
	t.Helper()
	require.Empty(t, s.plan.Validate())
	r, err := Compute(&s.plan, "rig", "set")
	require.NoError(t, err)
	require.True(t, r.Exact)
	return r
}

// lead makes sound B turn both pedals on.
func (s *stage) lead() *stage {
	s.rig().Recipes[1].Values["one/b/on"] = plan.On(true)
	s.rig().Recipes[1].Values["two/b/on"] = plan.On(true)
	return s
}

func TestAMoveFollowsFittsLaw(t *testing.T) {
	f := plan.DefaultFootwork()
	assert.InDelta(t, 0.12, floor.MoveSeconds(f, 0, 30), 1e-12, "no distance, no difficulty")
	assert.InDelta(t, 0.26, floor.MoveSeconds(f, 30, 30), 1e-12, "one bit")
	assert.InDelta(t, 0.12+0.14*3.4594316186372973, floor.MoveSeconds(f, 300, 30), 1e-9)
}

func TestFootworkIsFromTheFirstPressToTheLastAndADwell(t *testing.T) {
	r := newStage().lead().report(t)
	c := r.Changes[0]
	move := floor.MoveSeconds(plan.DefaultFootwork(), 300, 30)
	assert.InDelta(t, move+0.08, c.NeededS, 1e-3)
	assert.InDelta(t, 1.25*0.5, c.FreeS, 1e-9, "one beat of lead and a quarter of grace at 120")
	assert.InDelta(t, c.FreeS-c.NeededS, c.SlackS, 1e-3)
	assert.Equal(t, Late, c.Verdict)
	require.Len(t, c.Presses, 2)
	assert.Equal(t, 0.0, c.Presses[0].AtS)
	assert.InDelta(t, move, c.Presses[1].AtS, 1e-3)
	assert.Equal(t, "2 presses, 0.68 s of footwork, 0.62 s free. Late by 0.06 s.", c.Reason)
	require.Len(t, c.Between, 1)
	assert.InDelta(t, move, c.Between[0].ForS, 1e-3)
	assert.Contains(t, c.Between[0].Words, "still off")
}

func TestWhatGivesOrTakesTime(t *testing.T) {
	move := floor.MoveSeconds(plan.DefaultFootwork(), 300, 30)
	cases := map[string]struct {
		change       func(*stage)
		needed, free float64
		verdict      Verdict
	}{
		"as it is":       {func(*stage) {}, move + 0.08, 0.625, Late},
		"a beat of rest": {func(s *stage) { s.plan.Songs[0].Sections[1].Rest = 1 }, move + 0.08, 1.125, InTime},
		"slower":         {func(s *stage) { s.plan.Songs[0].Tempo.BPM = 100 }, move + 0.08, 0.75, Tight},
		"its own lead":   {func(s *stage) { s.plan.Songs[0].Sections[1].Lead = ptr(2.0) }, move + 0.08, 1.125, InTime},
		"no grace":       {func(s *stage) { s.plan.Songs[0].Sections[1].Grace = ptr(0.0) }, move + 0.08, 0.5, Late},
		"singing":        {func(s *stage) { s.plan.Songs[0].Sections[0].Singing = true }, 1.3*move + 0.08, 0.625, Late},
		"a quicker foot": {func(s *stage) { s.rig().Profile.B = ptr(0.07) }, 0.12 + (move-0.12)/2 + 0.08, 0.625, InTime},
		"a wider switch": {func(s *stage) {
			s.plan.Gear[0].Footswitches[0].Width = ptr(300.0)
			s.plan.Gear[1].Footswitches[0].Width = ptr(300.0)
		}, 0.12 + 0.14 + 0.08, 0.625, InTime},
		"nearer": {
			func(s *stage) { s.rig().Floor.Places["two"] = plan.Placement{X: 30} }, 0.26 + 0.08, 0.625, InTime,
		},
		"both under one shoe": {
			func(s *stage) { s.rig().Floor.DoubleStomps = []plan.DoubleStomp{{A: "one/s", B: "two/s"}} }, 0.08, 0.625, InTime,
		},
		"a change of tempo": {
			func(s *stage) { s.plan.Songs[0].Sections[1].Tempo = &plan.Tempo{BPM: 60} }, move + 0.08, 0.5 + 0.25, Tight,
		},
		"dotted beats": {func(s *stage) { s.plan.Songs[0].Tempo.Beat = "1/4." }, move + 0.08, 0.625, Late},
		"a hold on the first": {
			func(s *stage) { sw := &s.plan.Gear[0].Footswitches[0]; sw.Hold, sw.Press = sw.Press, nil }, move + 0.6 + 0.08,
			0.625, Late,
		},
		"a double on the first": {
			func(s *stage) { sw := &s.plan.Gear[0].Footswitches[0]; sw.Double, sw.Press = sw.Press, nil }, move + 0.3 + 0.08,
			0.625, Late,
		},
	}
	for name, c := range cases {
		t.Run(name, func(t *testing.T) {
			s := newStage().lead()
			c.change(s)
			got := s.report(t).Changes[0]
			assert.InDelta(t, c.needed, got.NeededS, 1e-3)
			assert.InDelta(t, c.free, got.FreeS, 1e-3)
			assert.Equal(t, c.verdict, got.Verdict)
		})
	}
}

// A plain press of a switch that also has a double press is felt only after the window, so
// it is better pressed first.
func TestAPressThatWaitsOutADoubleGoesFirst(t *testing.T) {
	s := newStage().lead()
	s.plan.Gear[1].Footswitches[0].Double = &plan.Press{Actions: []plan.Action{{Kind: plan.Toggle, Target: "b/on"}}}
	c := s.report(t).Changes[0]
	assert.Equal(t, plan.Key("two/s"), c.Presses[0].Switch)
	assert.InDelta(t, floor.MoveSeconds(plan.DefaultFootwork(), 300, 30)+0.08, c.NeededS, 1e-3)
}

func TestAfterAShortSectionTheFootStartsFromWhereItWas(t *testing.T) {
	s := newStage()
	s.rig().Recipes[1].Values["one/b/on"] = plan.On(true)
	s.rig().Recipes[2].Values["one/b/on"] = plan.On(true)
	s.rig().Recipes[2].Values["two/b/on"] = plan.On(true)
	bars := 0.5 // one second
	s.sections(
		plan.Section{ID: "1", Label: "A", Sound: "a", Bars: ptr(8.0)},
		plan.Section{ID: "2", Label: "B", Sound: "b", Bars: &bars},
		plan.Section{ID: "3", Label: "C", Sound: "c", Bars: ptr(8.0)},
	)
	move := floor.MoveSeconds(plan.DefaultFootwork(), 300, 30)
	r := s.report(t)
	assert.InDelta(t, 0.08, r.Changes[0].NeededS, 1e-3)
	assert.InDelta(t, move+0.08, r.Changes[1].NeededS, 1e-3)
	bars = 4
	assert.InDelta(t, 0.08, s.report(t).Changes[1].NeededS, 1e-3, "there is time to go and wait")
}

func TestARockerHoldsTheFoot(t *testing.T) {
	s := newStage()
	s.plan.Gear = append(s.plan.Gear,
		plan.Gear{ID: "wah", Name: "wah", Kind: plan.Pedal, Size: &plan.Size{Width: 100, Depth: 200},
			Blocks: []plan.Block{{ID: "b", Name: "b", Effect: plan.EffectWah, Bypass: plan.AlwaysOn, Rocker: true}}})
	s.rig().Path = append(s.rig().Path, plan.Node{Stop: "wah/b"})
	s.rig().Floor.Places["wah"] = plan.Placement{X: -15, Y: 300} // its middle is 300 mm in front of the first switch
	s.rig().Recipes[0].Rockers = []plan.Key{"wah/b"}
	s.rig().Recipes[1].Values["one/b/on"] = plan.On(true)
	assert.InDelta(t, floor.MoveSeconds(plan.DefaultFootwork(), 300, 30)+0.08, s.report(t).Changes[0].NeededS, 1e-3)
}

func TestWhatIsOffIsMadeReadyEarly(t *testing.T) {
	s := newStage()
	s.rig().Recipes[0].Values = map[plan.Key]plan.Value{"delay/b/on": plan.On(true), "delay/b/preset": plan.Text("A")}
	s.rig().Recipes[2].Values = map[plan.Key]plan.Value{"delay/b/on": plan.On(true), "delay/b/preset": plan.Text("C")}
	s.sections(
		plan.Section{ID: "1", Label: "Verse", Sound: "a", Bars: ptr(8.0)},
		plan.Section{ID: "2", Label: "Break", Sound: "b", Bars: ptr(8.0)},
		plan.Section{ID: "3", Label: "Solo", Sound: "c", Bars: ptr(8.0)},
	)
	r := s.report(t)
	assert.Len(t, r.Changes[0].Presses, 1, "the delay goes off")
	assert.Len(t, r.Changes[1].Presses, 1, "and on again, its preset long chosen")
	require.Len(t, r.Changes[1].Leisure, 1)
	early := r.Changes[1].Leisure[0]
	assert.Equal(t, "Break", early.During.Section)
	assert.Equal(t, "Solo", early.For.Section)
	assert.Equal(t, "delay preset C", early.Action)
	assert.Equal(t, []string{"delay preset", "delay preset"}, early.Switches, "two steps")
	assert.Equal(t, r.Sections[1].ReadyEarly, r.Changes[1].Leisure)

	t.Run("not while it rings", func(t *testing.T) {
		s.plan.Gear[2].Blocks[0].Trails, s.plan.Gear[2].Blocks[0].RingS = true, ptr(15.0)
		r := s.report(t)
		assert.Empty(t, r.Changes[1].Leisure)
		assert.Equal(t, 4, len(r.Changes[0].Presses)+len(r.Changes[1].Presses))
	})
	t.Run("not in a section without room", func(t *testing.T) {
		s.plan.Gear[2].Blocks[0].Trails = false
		s.plan.Songs[0].Sections[1].Bars = ptr(1.0) // 2 s, of which 1.375 s are clear
		early := s.report(t).Changes[1].Leisure
		require.Len(t, early, 1)
		assert.Equal(t, 1, early[0].Presses, "one of the two steps fits")
		s.rig().Profile.LeisureS = ptr(1.4)
		assert.Empty(t, s.report(t).Changes[1].Leisure)
	})
	t.Run("not with a foot on a rocker", func(t *testing.T) {
		s.rig().Profile.LeisureS = nil
		s.plan.Songs[0].Sections[1].Bars = ptr(8.0)
		s.plan.Gear[0].Blocks[0].Rocker = true
		s.rig().Recipes[1].Rockers = []plan.Key{"one/b"}
		assert.Empty(t, s.report(t).Changes[1].Leisure)
	})
}

func driven() *stage {
	s := newStage()
	for i, drive := range []float64{3, 6} {
		s.rig().Recipes[i].Values = map[plan.Key]plan.Value{"one/b/on": plan.On(true), "one/b/drive": plan.Number(drive)}
	}
	return s
}

func TestHands(t *testing.T) {
	r := driven().report(t)
	assert.Equal(t, ByHand, r.Changes[0].Verdict)
	assert.Equal(t, "One drive from 3 to 6 needs a hand, and the song leaves none free.", r.Changes[0].Reason)

	t.Run("between songs there is time", func(t *testing.T) {
		s := driven()
		s.plan.Songs = []plan.Song{
			s.plan.Songs[0],
			{
				ID: "next", Title: "Next", Tempo: plan.Tempo{BPM: 90}, Meter: plan.Meter{Beats: 4, Unit: 4},
				Sections: []plan.Section{{ID: "1", Label: "In", Sound: "b"}},
			},
		}
		s.plan.Songs[0].Sections = s.plan.Songs[0].Sections[:1]
		s.plan.SetLists[0].Entries = []plan.SetEntry{{ID: "e1", Song: "song"}, {ID: "e2", Song: "next"}}
		c := s.report(t).Changes[0]
		assert.Equal(t, InTime, c.Verdict)
		assert.InDelta(t, 4.0, c.NeededS, 1e-9)
		assert.InDelta(t, 15.0, c.FreeS, 1e-9)
		s.plan.SetLists[0].GapS = ptr(3.0)
		assert.Equal(t, ByHand, s.report(t).Changes[0].Verdict, "too short a gap for a knob")
		s.plan.SetLists[0].Entries[1].Segue = true
		assert.Equal(t, ByHand, s.report(t).Changes[0].Verdict, "a segue is no gap")
	})
	t.Run("a quick hand runs beside the feet", func(t *testing.T) {
		s := driven()
		s.plan.Gear[0].Blocks[0].Controls[0].Access = plan.QuickHand
		c := s.report(t).Changes[0]
		assert.Equal(t, InTime, c.Verdict)
		assert.InDelta(t, 0.4, c.NeededS, 1e-9)
		s.plan.Songs[0].Tempo.BPM = 200
		c = s.report(t).Changes[0]
		assert.Equal(t, ByHand, c.Verdict, "%s", c.Reason)
	})
}

func TestGuitars(t *testing.T) {
	s := newStage()
	s.plan.Gear = append(
		s.plan.Gear, plan.Gear{ID: "g1", Name: "Plank", Kind: plan.Guitar},
		plan.Gear{ID: "g2", Name: "Slab", Kind: plan.Guitar},
	)
	s.rig().Guitars = []plan.ID{"g1", "g2"}
	s.plan.Songs = append(
		s.plan.Songs,
		plan.Song{
			ID: "next", Title: "Next", Guitar: "g2", Tempo: plan.Tempo{BPM: 90}, Meter: plan.Meter{Beats: 4, Unit: 4},
			Sections: []plan.Section{{ID: "1", Label: "In", Sound: "a"}},
		},
	)
	s.plan.SetLists[0].Entries = append(s.plan.SetLists[0].Entries, plan.SetEntry{ID: "e2", Song: "next"})
	c := s.report(t).Changes[1]
	assert.InDelta(t, 12, c.NeededS, 1e-9)
	assert.Equal(t, "change guitar to Slab", c.Hands[0].Action)
	s.rig().Guitars = []plan.ID{"g1"}
	c = s.report(t).Changes[1]
	assert.Equal(t, Impossible, c.Verdict)
	assert.Equal(t, "Next is played on Slab, which Rig does not have.", c.Reason)
}

func TestImpossible(t *testing.T) {
	t.Run("no recipe", func(t *testing.T) {
		s := newStage()
		s.rig().Recipes = s.rig().Recipes[:1]
		r := s.report(t)
		assert.Equal(t, NotSet, r.Changes[0].Verdict, "nothing can be said before there is one")
		assert.Equal(t, "Rig has no recipe for B.", r.Changes[0].Reason)
		assert.Equal(t, Totals{NotSet: len(r.Changes)}, r.Reach, "counted apart")
		require.Len(t, r.Findings, 1)
		assert.Contains(t, r.Findings[0].Title, "B is not set yet")
	})
	t.Run("nothing moves it", func(t *testing.T) {
		s := newStage().lead()
		s.plan.Gear[0].Footswitches = nil
		c := s.report(t).Changes[0]
		assert.Equal(t, Impossible, c.Verdict)
		assert.Equal(t, "No switch takes one to on.", c.Reason)
	})
	t.Run("only while held", func(t *testing.T) {
		s := newStage().lead()
		s.plan.Gear[0].Footswitches[0].Press.Momentary = true
		assert.Equal(t, Impossible, s.report(t).Changes[0].Verdict)
	})
	t.Run("not in the chain", func(t *testing.T) {
		s := newStage().lead()
		s.rig().Path = s.rig().Path[1:]
		c := s.report(t).Changes[0]
		assert.Equal(t, Impossible, c.Verdict)
		assert.Contains(t, c.Reason, "needs one, which is not in the chain")
	})
	t.Run("no preset holds it", func(t *testing.T) {
		s := newStage()
		s.plan.Gear[2].Blocks[0].Controls = append(
			s.plan.Gear[2].Blocks[0].Controls,
			plan.Control{ID: "time", Name: "time", Kind: plan.Knob, Access: plan.Memory, Unit: "ms", Max: ptr(2000.0)},
		)
		s.rig().Presets = plan.PresetMap{
			"delay": {"A": {"delay/b/time": plan.Number(300)}, "B": {"delay/b/time": plan.Sync("1/4")}},
		}
		s.rig().Recipes[1].Values = map[plan.Key]plan.Value{"delay/b/on": plan.On(true), "delay/b/time": plan.Number(777)}
		c := s.report(t).Changes[0]
		assert.Equal(t, Impossible, c.Verdict)
		assert.True(t, strings.HasPrefix(c.Reason, "No preset of delay holds"), c.Reason)
		s.rig().Recipes[1].Values["delay/b/time"] = plan.Number(500)
		c = s.report(t).Changes[0]
		assert.Equal(t, InTime, c.Verdict, "preset B is a quarter note, 500 ms at 120; %s", c.Reason)
	})
}

func TestATempoIsTapped(t *testing.T) {
	s := newStage()
	s.plan.Gear[2].Blocks[0].Controls = []plan.Control{
		{ID: "time", Name: "time", Kind: plan.Knob, Access: plan.Foot, Unit: "ms", Max: ptr(2000.0)},
	}
	s.plan.Gear[2].Footswitches[1] = plan.Footswitch{
		ID: "tap", Label: "tap", X: 65, Y: 100,
		Press: &plan.Press{Actions: []plan.Action{{Kind: plan.Tap, Target: "b/time"}}},
	}
	for i := range 2 {
		s.rig().Recipes[i].Values = map[plan.Key]plan.Value{"delay/b/on": plan.On(true), "delay/b/time": plan.Sync("1/4")}
	}
	s.plan.Songs[0].Sections[1].Tempo = &plan.Tempo{BPM: 60}
	c := s.report(t).Changes[0]
	assert.Len(t, c.Presses, 4)
	assert.InDelta(t, 3*1.0+0.08, c.NeededS, 1e-9, "three beats of the new tempo and a dwell")
	assert.Equal(t, Late, c.Verdict)
	assert.InDelta(t, 2.0, c.Presses[2].AtS, 1e-9)
}

func TestASongPlayedTwiceStaysApart(t *testing.T) {
	s := newStage().lead()
	s.plan.SetLists[0].Entries = []plan.SetEntry{{ID: "e1", Song: "song"}, {ID: "e2", Song: "song"}}
	r := s.report(t)
	require.Len(t, r.Changes, 3)
	assert.Equal(t, [2]plan.ID{"e1", "e2"}, [2]plan.ID{r.Changes[0].Entry, r.Changes[2].Entry})
	assert.NotEqual(t, r.Changes[0].Finding, r.Changes[2].Finding)
	assert.Equal(t, 3, r.Reach.Total)
	assert.Equal(t, 1, r.Reach.Reached)
}

func TestASettledFindingSaysWhy(t *testing.T) {
	s := newStage().lead()
	finding := s.report(t).Changes[0].Finding
	require.NotEmpty(t, finding)
	s.rig().Settled = []plan.IgnoredFinding{{Finding: finding, Reason: "nobody hears it"}}
	assert.Equal(t, "nobody hears it", s.report(t).Changes[0].Settled)
}

// A list in a report may be empty; whoever reads it need not ask whether it is there.
func TestReportsHaveNoNulls(t *testing.T) {
	bare := newStage()
	bare.rig().Path, bare.rig().Recipes, bare.rig().Floor = nil, nil, plan.Floor{}
	for _, s := range []*stage{bare, newStage().lead()} {
		data, err := json.Marshal(s.report(t))
		require.NoError(t, err)
		assert.NotContains(t, string(data), "null")
	}
}

func TestAnEmptySetHasNothingToReach(t *testing.T) {
	s := newStage()
	s.plan.SetLists[0].Entries = nil
	r := s.report(t)
	assert.Zero(t, r.Reach.Total)
	assert.Empty(t, r.Changes)
	_, err := Compute(&s.plan, "nope", "set")
	assert.ErrorContains(t, err, "no rig")
	_, err = Compute(&s.plan, "rig", "nope")
	assert.ErrorContains(t, err, "no set list")
}

func TestMovingSomethingThatMovesTooMuchIsRefused(t *testing.T) {
	s := newStage()
	g := &s.plan.Gear[0]
	press := g.Footswitches[0].Press
	for i := range 17 {
		id := plan.ID(strings.Repeat("x", i+1))
		g.Blocks = append(g.Blocks, plan.Block{ID: id, Name: "x", Effect: plan.EffectBoost, Bypass: plan.TrueBypass})
		press.Actions = append(press.Actions, plan.Action{Kind: plan.Toggle, Target: plan.Key(id) + "/on"})
		s.rig().Path = append(s.rig().Path, plan.Node{Stop: plan.BlockKey("one", id)})
	}
	require.Empty(t, s.plan.Validate())
	_, err := Compute(&s.plan, "rig", "set")
	assert.ErrorContains(t, err, "too many controls at once")
}

func TestAnyOrder(t *testing.T) {
	s := newStage()
	s.rig().Recipes[1].Values = map[plan.Key]plan.Value{"one/b/on": plan.On(true), "one/b/drive": plan.Number(9)}
	s.rig().Recipes[0].Values = map[plan.Key]plan.Value{"one/b/on": plan.On(true), "one/b/drive": plan.Number(1)}
	s.plan.Songs = []plan.Song{
		s.plan.Songs[0],
		{
			ID: "next", Title: "Next", Tempo: plan.Tempo{BPM: 90}, Meter: plan.Meter{Beats: 4, Unit: 4},
			Sections: []plan.Section{{ID: "1", Label: "In", Sound: "b"}},
		},
	}
	s.plan.SetLists[0].Entries = []plan.SetEntry{{ID: "e1", Song: "song"}, {ID: "e2", Song: "next"}}
	require.Empty(t, s.plan.Validate())
	any, err := ComputeAnyOrder(t.Context(), &s.plan, "rig", "set", nil)
	require.NoError(t, err)
	assert.Equal(t, AnyOrder{Total: 2, Reached: 2}, any)
	s.plan.SetLists[0].GapS = ptr(2.0)
	any, err = ComputeAnyOrder(t.Context(), &s.plan, "rig", "set", nil)
	require.NoError(t, err)
	assert.Equal(
		t, AnyOrder{Total: 2, Reached: 1}, any, "a knob takes longer than the gap one way; the other way nothing moves",
	)
}

func TestWhatNoSwitchMovesIsNamedBehindWhatAHandMoves(t *testing.T) {
	s := newStage()
	s.rig().Recipes[1].Values = map[plan.Key]plan.Value{
		"one/b/on": plan.On(true), "one/b/drive": plan.Number(9), "two/b/on": plan.On(true),
		"delay/b/on": plan.On(true),
	}
	s.plan.Gear[1].Footswitches, s.plan.Gear[2].Footswitches = nil, nil
	c := s.report(t).Changes[0]
	assert.Equal(t, Impossible, c.Verdict)
	assert.Equal(t, "No switch takes two to on and delay to on.", c.Reason)
}
