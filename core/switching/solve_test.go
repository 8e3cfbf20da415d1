package switching_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/core/reach"
	"envex/core/switching"
	"envex/demo"
)

func night(t *testing.T) *plan.Plan {
	t.Helper()
	p := demo.Plan()
	return p
}

func solve(t *testing.T, p *plan.Plan, school switching.School) *switching.Solution {
	t.Helper()
	s, err := switching.Solve(context.Background(), p, "switched", "quay-set", switching.Options{School: school})
	require.NoError(t, err)
	return s
}

// taken is the plan with a solution stored in its rig.
func taken(t *testing.T, p *plan.Plan, s *switching.Solution) *plan.Plan {
	t.Helper()
	q := *p
	r, _ := q.FindRig("switched")
	with := *r
	with.Programs = plan.ProgramMap{s.Controller: s.Stored}
	q.Put(with)
	require.Empty(t, q.Validate(), "what is stored is a sound rig")
	return &q
}

func TestOnePageReachesEverySoundOfTheNight(t *testing.T) {
	p := night(t)
	s := solve(t, p, switching.Page)
	assert.True(t, s.Proven)
	assert.Equal(t, s.Cost, s.LowerBound)
	assert.Less(t, s.Before.Reached, 20, "without programs hardly anything moves")
	assert.Equal(t, s.Reach.Total, s.Reach.Reached)
	assert.Equal(t, []string{"Amber"}, s.Loops[2].Stops)

	seats := map[string]bool{}
	sounds := map[plan.ID]int{}
	for _, x := range s.Programs {
		assert.False(t, seats[x.Bank+"/"+x.Slot], "a slot holds one program")
		seats[x.Bank+"/"+x.Slot] = true
		for _, id := range x.Sounds {
			sounds[id]++
		}
		if x.Sound == "Lead" {
			assert.Equal(t, "4", x.Slot, "a lead stands at the end")
		}
	}
	for _, sound := range p.Sounds {
		assert.Equal(t, 1, sounds[sound.ID], "%s has one slot all night", sound.Name)
	}
	report, err := reach.Compute(taken(t, p, s), "switched", "quay-set")
	require.NoError(t, err)
	assert.Equal(t, s.Reach.Reached, report.Reach.Reached, "taken, it gives what was said")
	for _, c := range report.Changes {
		for _, x := range c.Presses {
			assert.Equal(t, plan.ID("turntable"), x.Switch.Gear(), "%s: only the controller is pressed", c.Section)
		}
	}
	again := solve(t, p, switching.Page)
	assert.Equal(t, s, again)
}

func TestABankPerSongKeepsSlotsFromSongToSong(t *testing.T) {
	p := night(t)
	s := solve(t, p, switching.Song)
	banks := map[string]map[string]string{}
	slots := map[string]map[string]int{}
	for _, x := range s.Programs {
		if banks[x.Bank] == nil {
			banks[x.Bank] = map[string]string{}
		}
		banks[x.Bank][x.Slot] = x.Sound
		if slots[x.Sound] == nil {
			slots[x.Sound] = map[string]int{}
		}
		slots[x.Sound][x.Slot]++
	}
	assert.GreaterOrEqual(t, len(banks), len(p.SetLists[0].Entries))
	for sound, at := range slots {
		most, all := 0, 0
		for _, n := range at {
			most, all = max(most, n), all+n
		}
		assert.GreaterOrEqual(t, 2*most, all, "%s keeps its slot in half the songs or more", sound)
	}
	assert.Equal(t, s.Reach.Total, s.Reach.Reached)
	taken(t, p, s)
}

func TestRecipesThatAskTheSameShareAProgram(t *testing.T) {
	p := night(t)
	r, _ := p.FindRig("switched")
	home := r.RecipeFor(plan.Section{Sound: "home"})
	for i := range r.Recipes {
		if r.Recipes[i].Sound == "crunch" {
			r.Recipes[i].Values = home.Values
		}
	}
	for _, x := range solve(t, p, switching.Page).Programs {
		if len(x.Sounds) == 2 {
			assert.ElementsMatch(t, []plan.ID{"home", "crunch"}, x.Sounds)
			return
		}
	}
	t.Fatal("no program is shared")
}

func TestWhatCannotBeLaidOutIsSaid(t *testing.T) {
	cases := map[string]struct {
		change     func(*plan.Plan)
		rig, set   plan.ID
		controller plan.ID
		school     switching.School
		says       string
	}{
		"no such rig":      {nil, "nope", "quay-set", "", switching.Page, "no rig"},
		"no such set":      {nil, "switched", "nope", "", switching.Page, "no set list"},
		"no controller":    {nil, "long", "quay-set", "", switching.Page, "no controller with slots"},
		"not a controller": {nil, "switched", "quay-set", "amber", switching.Page, "not a controller of this rig"},
		"no such school":   {nil, "switched", "quay-set", "", "both", "no school"},
		"too few banks": {
			func(p *plan.Plan) { g, _ := p.FindGear("turntable"); g.Banks = 1 }, "switched", "quay-set", "", switching.Page,
			"hold 4",
		},
		"a bank for no song": {
			func(p *plan.Plan) { g, _ := p.FindGear("turntable"); g.Banks = 1 }, "switched", "quay-set", "", switching.Song,
			"a bank for each song",
		},
	}
	for name, c := range cases {
		t.Run(name, func(t *testing.T) {
			p := night(t)
			if c.change != nil {
				c.change(p)
			}
			_, err := switching.Solve(
				context.Background(), p, c.rig, c.set, switching.Options{Controller: c.controller, School: c.school},
			)
			assert.ErrorContains(t, err, c.says)
		})
	}
	ctx, cancel := context.WithCancel(context.Background())
	cancel()
	_, err := switching.Solve(ctx, night(t), "switched", "quay-set", switching.Options{School: switching.Page})
	assert.ErrorIs(t, err, context.Canceled)
}

func TestASoundThatIsPinnedStaysOnItsSlot(t *testing.T) {
	p := night(t)
	r, _ := p.FindRig("switched")
	r.SlotPins = []plan.SlotPin{
		{Controller: "turntable", Slot: "1", Sound: "lead"}, {Controller: "turntable", Slot: "3", Bank: "2", Sound: "home"},
	}
	require.Empty(t, p.Validate())
	free := solve(t, night(t), switching.Page)
	s := solve(t, p, switching.Page)
	at := map[string]string{}
	for _, x := range s.Programs {
		at[x.Sound] = x.Bank + "/" + x.Slot
	}
	assert.Equal(t, "1", at["Lead"][2:])
	assert.Equal(t, "2/3", at["Home"])
	assert.True(t, s.Proven)
	assert.GreaterOrEqual(t, s.Cost, free.Cost, "a pin never makes it cheaper")
	for _, x := range solve(t, p, switching.Song).Programs {
		if x.Sound == "Lead" {
			assert.Equal(t, "1", x.Slot, "bank %s", x.Bank)
		}
	}
}

func TestASwitchForEveryLoop(t *testing.T) {
	p := night(t)
	s := solve(t, p, switching.Direct)
	assert.Empty(t, s.Programs)
	assert.Contains(t, s.Notes[0], "has 4 switches")
	require.Len(t, s.Rig.Assignments, 4)
	assert.Equal(t, plan.Key("undertow/fx/on"), s.Rig.Assignments[0].Press.Actions[0].Target)
	q := *p
	q.Put(s.Rig)
	require.Empty(t, q.Validate())
	report, err := reach.Compute(&q, "switched", "quay-set")
	require.NoError(t, err)
	assert.Equal(t, s.Reach.Reached, report.Reach.Reached)
}

func TestLoopsAreChosenForAControllerThatIsNotInTheRigYet(t *testing.T) {
	p := night(t)
	s, err := switching.Solve(
		context.Background(), p, "long", "quay-set",
		switching.Options{Controller: "turntable", School: switching.Page, ChooseLoops: true},
	)
	require.NoError(t, err)
	assert.True(t, s.Proven)
	assert.Greater(t, s.Reach.Reached, s.Before.Reached)
	q := *p
	q.Put(s.Rig)
	require.Empty(t, q.Validate())
	again, err := switching.Solve(
		context.Background(), &q, "long", "quay-set", switching.Options{School: switching.Page, ChooseLoops: true},
	)
	require.NoError(t, err)
	assert.Equal(t, s.Rig.Path, again.Rig.Path, "what is the least already is left as it is")
}

// valve gives the switched rig an amp with a memory of channel and gain, recalled by message.
func valve(t *testing.T) *plan.Plan {
	p := night(t)
	amp, _ := p.FindGear("pier")
	amp.MIDI = &plan.MIDIPort{Channel: 5}
	selector := func(id plan.ID, options ...string) plan.Control {
		return plan.Control{ID: id, Name: string(id), Kind: plan.Selector, Access: plan.Memory, Options: options}
	}
	amp.Controls = append(amp.Controls,
		plan.Control{
			ID: "memory", Name: "memory", Kind: plan.Preset, Access: plan.Remote, Options: []string{"1", "2", "3", "4"},
		},
		selector("channel", "clean", "drive"), selector("mode", "low", "high"))
	r, _ := p.FindRig("switched")
	r.Presets = plan.PresetMap{"pier": {"2": {"pier/channel": plan.Text("drive"), "pier/mode": plan.Text("high")}}}
	for i := range r.Recipes {
		channel, mode := "clean", "low"
		switch r.Recipes[i].Sound {
		case "lead", "dust":
			channel, mode = "drive", "high"
		case "crunch":
			channel = "drive"
		}
		r.Recipes[i].Values["pier/channel"], r.Recipes[i].Values["pier/mode"] = plan.Text(channel), plan.Text(mode)
	}
	require.Empty(t, p.Validate())
	return p
}

func TestAnAmpsMemoryIsLaidOut(t *testing.T) {
	p := valve(t)
	s := solve(t, p, switching.Page)
	assert.Less(t, s.Before.Reached, 20)
	assert.Equal(t, s.Reach.Total, s.Reach.Reached, "every combination has a preset and every program recalls it")
	held := s.Rig.Presets["pier"]
	require.Len(t, held, 3, "one that was there and two that are written")
	assert.Equal(t, plan.Text("drive"), held["2"]["pier/channel"], "what was there stays")
	for _, x := range s.Programs {
		n := x.Pins["pier/memory"].Word()
		want := "clean"
		if x.Sound == "Lead" || x.Sound == "Crunch" || x.Sound == "Dust" {
			want = "drive"
		}
		assert.Equal(t, plan.Text(want), held[n]["pier/channel"], x.Sound)
	}
	assert.Len(t, s.Notes, 2)

	amp, _ := p.FindGear("pier")
	amp.Controls[len(amp.Controls)-3].Options = []string{"1", "2"}
	s = solve(t, p, switching.Page)
	assert.Contains(t, s.Notes[len(s.Notes)-1], "has no preset left")
}

func TestSeatsSayWhatMovingAProgramComesTo(t *testing.T) {
	p := taken(t, night(t), solve(t, night(t), switching.Page))
	r, _ := p.FindRig("switched")
	seats, err := switching.Seats(
		context.Background(), p, "switched", "quay-set", "turntable", switching.Seat{Bank: "1", Slot: "4"}, nil,
	)
	require.NoError(t, err)
	require.Len(t, seats, 8)
	for _, s := range seats[1:] {
		moved, err := switching.Exchanged(r, "turntable", seats[0], s)
		require.NoError(t, err)
		assert.Equal(t, r.Programs["turntable"]["1"]["4"], moved.Programs["turntable"][s.Bank][s.Slot])
		assert.Equal(t, s.Holds, moved.Programs["turntable"]["1"]["4"].Label)
		back, err := switching.Exchanged(moved, "turntable", s, seats[0])
		require.NoError(t, err)
		assert.Equal(t, r.Programs, back.Programs)
		q := *p
		q.Put(*moved)
		report, err := reach.Compute(&q, "switched", "quay-set")
		require.NoError(t, err)
		assert.Equal(t, switching.OutcomeOf(report), s.Reach)
	}
	_, err = switching.Seats(
		context.Background(), p, "switched", "quay-set", "turntable", switching.Seat{Bank: "7", Slot: "4"}, nil,
	)
	assert.ErrorContains(t, err, "no program in bank 7")
	_, err = switching.Exchanged(
		r, "turntable", switching.Seat{Bank: "8", Slot: "1"}, switching.Seat{Bank: "9", Slot: "1"},
	)
	assert.Error(t, err)
}
