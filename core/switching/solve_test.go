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
	p, err := plan.Decode(demo.File)
	require.NoError(t, err)
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
		"no such rig":        {nil, "nope", "quay-set", "", switching.Page, "no rig"},
		"no such set":        {nil, "switched", "nope", "", switching.Page, "no set list"},
		"no controller":      {nil, "long", "quay-set", "", switching.Page, "no controller with slots"},
		"not a controller":   {nil, "switched", "quay-set", "amber", switching.Page, "no controller of this rig"},
		"no such school":     {nil, "switched", "quay-set", "", "both", "no school"},
		"too few banks":      {func(p *plan.Plan) { g, _ := p.FindGear("turntable"); g.Banks = 1 }, "switched", "quay-set", "", switching.Page, "hold 4"},
		"a bank for no song": {func(p *plan.Plan) { g, _ := p.FindGear("turntable"); g.Banks = 3 }, "switched", "quay-set", "", switching.Song, "one for each song"},
	}
	for name, c := range cases {
		t.Run(name, func(t *testing.T) {
			p := night(t)
			if c.change != nil {
				c.change(p)
			}
			_, err := switching.Solve(context.Background(), p, c.rig, c.set, switching.Options{Controller: c.controller, School: c.school})
			assert.ErrorContains(t, err, c.says)
		})
	}
	ctx, cancel := context.WithCancel(context.Background())
	cancel()
	_, err := switching.Solve(ctx, night(t), "switched", "quay-set", switching.Options{School: switching.Page})
	assert.ErrorIs(t, err, context.Canceled)
}
