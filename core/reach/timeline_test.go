package reach

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/floor"
	"envex/core/plan"
)

func TestClearTimeKeepsOffTheChangesAtBothEnds(t *testing.T) {
	f := plan.DefaultFootwork()
	song := &plan.Song{}
	at := func(duration float64, rest float64, starts bool) *part {
		return &part{
			song: song, sec: &plan.Section{Rest: rest}, tempo: plan.Tempo{BPM: 60}, duration: duration, starts: starts, gap: 15,
		}
	}
	parts := []*part{at(8, 0, true), at(8, 0, false), at(8, 2, false), at(8, 0, true)}
	assert.InDelta(t, 8-1, clearTime(parts, 0, f, 0), 1e-9, "the first has no change before it; a beat of lead after")
	assert.InDelta(t, 8-0.25-1-2, clearTime(parts, 1, f, 0), 1e-9, "grace, and lead and two beats of rest")
	assert.InDelta(t, 8-0.25, clearTime(parts, 2, f, 0), 1e-9, "a gap follows")
	assert.InDelta(t, 8, clearTime(parts, 3, f, 0), 1e-9, "and the last ends with nothing")
	assert.InDelta(t, 8-3-1-2, clearTime(parts, 1, f, 3), 1e-9, "ringing is waited out")
	parts[1].sec.Grace, parts[2].sec.Lead = ptr(2.0), ptr(0.5)
	assert.InDelta(t, 8-2-0.5-2, clearTime(parts, 1, f, 0), 1e-9)
	parts[1].sec.Grace, parts[2].sec.Lead, parts[2].sec.Rest = nil, nil, 0
	parts[1].duration = 1.9
	assert.Zero(t, clearTime(parts, 1, f, 0), "too short to go anywhere")
	parts[1].duration = math.Inf(1)
	assert.True(t, math.IsInf(clearTime(parts, 1, f, 0), 1), "an open section has all the time there is")
	parts[1].rocker = "wah/b"
	assert.Zero(t, clearTime(parts, 1, f, 0), "the foot is busy")
}

func TestWhatRingsIsCountedThroughTheGap(t *testing.T) {
	s := newStage()
	s.plan.Gear[2].Blocks[0].Trails, s.plan.Gear[2].Blocks[0].RingS = true, ptr(15.0)
	s.rig().Recipes[0].Values = map[plan.Key]plan.Value{"delay/b/on": plan.On(true), "delay/b/preset": plan.Text("A")}
	s.rig().Recipes[2].Values = map[plan.Key]plan.Value{"delay/b/on": plan.On(true), "delay/b/preset": plan.Text("B")}
	s.sections(plan.Section{ID: "1", Label: "Out", Sound: "a", Bars: ptr(8.0)})
	s.plan.Songs = append(s.plan.Songs,
		plan.Song{ID: "next", Title: "Next", Tempo: plan.Tempo{BPM: 120}, Meter: plan.Meter{Beats: 4, Unit: 4},
			Sections: []plan.Section{
				{ID: "1", Label: "In", Sound: "b", Bars: ptr(2.0)}, {ID: "2", Label: "On", Sound: "c", Bars: ptr(2.0)},
			}})
	s.plan.SetLists[0].Entries = append(s.plan.SetLists[0].Entries, plan.SetEntry{ID: "e2", Song: "next"})
	assert.Len(t, s.report(t).Changes[1].Leisure, 1, "15 s of gap and it is still")
	s.plan.SetLists[0].GapS = ptr(1.0)
	assert.Empty(t, s.report(t).Changes[1].Leisure)
}

// Two devices want a press each in a section that has room for one.
func TestRoomAtLeisureIsShared(t *testing.T) {
	s := newStage()
	second := s.plan.Gear[2]
	second.ID, second.Name = "echo", "echo"
	s.plan.Gear = append(s.plan.Gear, second)
	s.rig().Path = append(s.rig().Path, plan.Node{Stop: "echo/b"})
	s.rig().Floor.Places["echo"] = plan.Placement{X: 900}
	for i, preset := range map[int]string{0: "A", 2: "B"} {
		s.rig().Recipes[i].Values = map[plan.Key]plan.Value{
			"delay/b/on": plan.On(true), "delay/b/preset": plan.Text(preset), "echo/b/on": plan.On(true),
			"echo/b/preset": plan.Text(preset),
		}
	}
	s.sections(
		plan.Section{ID: "1", Label: "Verse", Sound: "a", Bars: ptr(8.0)},
		plan.Section{ID: "2", Label: "Break", Sound: "b", Bars: ptr(1.0)}, // 2 s, 1.375 s of them clear
		plan.Section{ID: "3", Label: "Solo", Sound: "c", Bars: ptr(8.0)},
	)
	r := s.report(t)
	assert.Len(t, r.Changes[1].Leisure, 1)
	assert.Equal(
		t, 5, len(r.Changes[0].Presses)+len(r.Changes[1].Presses), "both off, both on, and one preset at a change",
	)
	s.plan.Songs[0].Sections[1].Bars = ptr(2.0)
	assert.Len(t, s.report(t).Changes[1].Leisure, 2)
}

func TestAShoeCoversTwoSwitchesAndNoMore(t *testing.T) {
	s := newStage().lead()
	s.rig().Recipes[1].Values["delay/b/on"] = plan.On(true)
	s.rig().Floor.DoubleStomps = []plan.DoubleStomp{{A: "one/s", B: "two/s"}, {A: "two/s", B: "delay/s"}}
	c := s.report(t).Changes[0]
	require.Len(t, c.Presses, 3)
	assert.InDelta(t, floor.MoveSeconds(plan.DefaultFootwork(), 300, 30)+0.08, c.NeededS, 1e-3, "one move is left")
}

func TestNothingIsMovedBeforeAnythingAsksForIt(t *testing.T) {
	s := newStage()
	s.rig().Recipes[0].Values = map[plan.Key]plan.Value{"one/b/on": plan.Free()}
	s.rig().Recipes[1].Values = map[plan.Key]plan.Value{"one/b/on": plan.On(true)}
	r := s.report(t)
	assert.Empty(t, r.Changes[0].Presses, "it is set up on")
	assert.True(t, r.Rows[0].Cells[0].On)
	assert.True(t, r.Rows[0].Cells[0].Free)
}

// tapped is a delay with a switch for on and one to tap, 50 mm apart.
func tapped(id plan.ID) plan.Gear {
	return plan.Gear{ID: id, Name: string(id), Kind: plan.Pedal, Size: &plan.Size{Width: 100, Depth: 120},
		Blocks: []plan.Block{{ID: "b", Name: "b", Effect: plan.EffectDelay, Bypass: plan.TrueBypass, Controls: []plan.Control{
			{ID: "t", Name: "t", Kind: plan.Knob, Access: plan.Foot, Unit: "ms", Max: ptr(4000.0)},
		}}},
		Footswitches: []plan.Footswitch{
			{
				ID: "on", Label: "on", X: 20, Y: 60,
				Press: &plan.Press{Actions: []plan.Action{{Kind: plan.Toggle, Target: "b/on"}}},
			},
			{ID: "tap", Label: "tap", X: 70, Y: 60, Press: &plan.Press{Actions: []plan.Action{{Kind: plan.Tap, Target: "b/t"}}}},
		},
	}
}

// tapStage plays one section for each set of values, the bars and bpm given beside it; a
// tempo other than the one before begins a new song.
func tapStage(pedals []plan.Gear, values []map[plan.Key]plan.Value, bars, bpm []float64) *stage {
	s := newStage()
	s.plan.Gear, s.plan.Sounds, s.plan.Songs = pedals, nil, nil
	r := s.rig()
	r.Path, r.Recipes, r.Floor, r.Profile.Taps = nil, nil, plan.Floor{Places: map[plan.ID]plan.Placement{}}, ptr(2)
	for _, g := range pedals {
		r.Path = append(r.Path, plan.Node{Stop: plan.BlockKey(g.ID, "b")})
		r.Floor.Places[g.ID] = plan.Placement{}
	}
	s.plan.SetLists[0].Entries = nil
	for i, v := range values {
		id := plan.ID(rune('a' + i))
		s.plan.Sounds = append(
			s.plan.Sounds, plan.Sound{ID: id, Name: string(id), Short: string(id), Role: plan.RhythmRole, Tape: "bone"},
		)
		r.Recipes = append(r.Recipes, plan.Recipe{ID: "r" + id, Sound: id, Values: v})
		if i == 0 || bpm[i] != bpm[i-1] {
			s.plan.Songs = append(
				s.plan.Songs,
				plan.Song{ID: "t" + id, Title: "t", Tempo: plan.Tempo{BPM: bpm[i]}, Meter: plan.Meter{Beats: 4, Unit: 4}},
			)
			s.plan.SetLists[0].Entries = append(s.plan.SetLists[0].Entries, plan.SetEntry{ID: "e" + id, Song: "t" + id})
		}
		song := &s.plan.Songs[len(s.plan.Songs)-1]
		song.Sections = append(song.Sections, plan.Section{ID: id, Label: string(id), Sound: id, Bars: ptr(bars[i])})
	}
	return s
}

// A tap that could be made at leisure is better made at the change before a short section:
// the foot is then on the switch that the next change needs.
func TestAPressIsMadeWhereItLeavesTheFootWell(t *testing.T) {
	on, off := plan.On(true), plan.On(false)
	s := tapStage([]plan.Gear{tapped("g")}, []map[plan.Key]plan.Value{
		{"g/b/on": plan.Free(), "g/b/t": plan.Sync("1/4")},
		{"g/b/on": off},
		{"g/b/on": on, "g/b/t": plan.Sync("1/8")},
		{"g/b/on": on, "g/b/t": plan.Sync("1/4")},
	}, []float64{0.5, 2, 0.5, 0.5}, []float64{70, 70, 70, 100})
	s.plan.Songs[0].Sections[2].Rest = 1
	s.plan.Songs[1].Sections[0].Singing = true
	s.plan.SetLists[0].Entries[1].Segue = true
	r := s.report(t)
	assert.Equal(t, 3, r.Reach.Reached)
	require.Len(t, r.Changes[1].Presses, 3, "on, and two taps")
	assert.Equal(t, plan.Key("g/tap"), r.Changes[1].Presses[2].Switch)
}

// One device can only be tapped in the one section where another could be, but need not.
func TestWhoCanWaitMakesRoom(t *testing.T) {
	on, off, beat := plan.On(true), plan.On(false), plan.Sync("1/4")
	set := func(a, b plan.Value) map[plan.Key]plan.Value {
		return map[plan.Key]plan.Value{"g/b/on": a, "g/b/t": beat, "h/b/on": b, "h/b/t": beat}
	}
	s := tapStage([]plan.Gear{tapped("g"), tapped("h")}, []map[plan.Key]plan.Value{
		set(on, on), set(on, off), set(on, off), set(off, off), set(off, on), set(on, on),
	}, []float64{0.5, 0.5, 0.5, 1, 1, 0.5}, []float64{100, 100, 100, 70, 70, 70})
	s.plan.SetLists[0].GapS = ptr(1.0)
	early := 0
	for _, x := range s.report(t).Sections {
		for _, l := range x.ReadyEarly {
			early += l.Presses
		}
	}
	assert.Equal(t, 4, early, "two taps each, one device in each section")
}

// Two knobs, two gaps, and room for one knob in each.
func TestKnobsAreSpreadOverTheGaps(t *testing.T) {
	s := newStage()
	for i, drive := range map[int]float64{0: 2, 2: 8} {
		s.rig().Recipes[i].Values = map[plan.Key]plan.Value{
			"one/b/on": plan.On(true), "one/b/drive": plan.Number(drive), "two/b/on": plan.On(true),
			"two/b/drive": plan.Number(drive),
		}
	}
	s.plan.Songs, s.plan.SetLists[0].Entries = nil, nil
	for _, id := range []plan.ID{"a", "b", "c"} {
		s.plan.Songs = append(s.plan.Songs,
			plan.Song{ID: "t" + id, Title: "t", Tempo: plan.Tempo{BPM: 100}, Meter: plan.Meter{Beats: 4, Unit: 4},
				Sections: []plan.Section{{ID: "1", Label: "1", Sound: id, Bars: ptr(8.0)}}})
		s.plan.SetLists[0].Entries = append(s.plan.SetLists[0].Entries, plan.SetEntry{ID: "e" + id, Song: "t" + id})
	}
	s.plan.SetLists[0].GapS = ptr(6.0)
	r := s.report(t)
	assert.Equal(t, 2, r.Reach.Reached)
	assert.Len(t, r.Changes[0].Hands, 1)
	assert.Len(t, r.Changes[1].Hands, 1)
}
