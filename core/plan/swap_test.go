package plan_test

import (
	"encoding/json"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"envex/core/plan"
)

// slotted is the rig in which everything names one box, with a slot in which two others can stand.
func slotted() (*plan.Plan, *plan.Rig) {
	p, r := swappable()
	r.Path[2].Split.From, r.PowerPlan[1].Output = "", "another"
	p.Gear = append(p.Gear, pedalWith(
		"vibe",
		plan.Block{
			ID: "mod", Name: "vibe", Effect: plan.EffectVibe, Bypass: plan.TrueBypass,
			Controls: []plan.Control{knobTo("mix", 10, "")},
		},
		plan.Block{
			ID: "lift", Name: "lift", Effect: plan.EffectBoost, Bypass: plan.TrueBypass,
			Controls: []plan.Control{knobTo("level", 10, "")},
		},
	), pedalWith("one", plan.Block{ID: "fx", Effect: plan.EffectDelay}))
	r.Swaps = []plan.Swap{{ID: "slot", Name: "Colour", Boxes: []plan.SwapBox{{Gear: "old"}, {Gear: "vibe"}}}}
	r.Destinations[0].Recipes = []plan.Recipe{{
		ID: "r", Sound: "s", Values: map[plan.Key]plan.Value{"old/fx/on": plan.On(false)},
	}}
	p.Put(*r)
	return p, r
}

// alike is a rig with its lists in one order, to compare.
func alike(t require.TestingT, r plan.Rig) string {
	for i := range r.Swaps {
		for j := range r.Swaps[i].Boxes {
			if r.Swaps[i].Boxes[j].Gear == "vibe" {
				r.Swaps[i].Boxes[j].Kept = nil
			}
		}
	}
	r.Orders, r.Clocks = slices.Clone(r.Orders), slices.Clone(r.Clocks)
	var lists [][]string
	add := func(list any) {
		data, err := json.Marshal(list)
		require.NoError(t, err)
		var items []json.RawMessage
		require.NoError(t, json.Unmarshal(data, &items))
		var words []string
		for _, x := range items {
			words = append(words, string(x))
		}
		slices.Sort(words)
		lists = append(lists, words)
	}
	add(r.Assignments)
	add(r.Leads)
	add(r.Batteries)
	add(r.MIDI)
	add(r.Relays)
	add(r.OwnSwitches)
	add(r.Floor.DoubleStomps)
	for i := range r.Clocks {
		slices.Sort(r.Clocks[i].To)
	}
	add(r.Clocks)
	feeds := slices.Clone(r.PowerPlan)
	for i := range feeds {
		feeds[i].Gear = slices.Clone(feeds[i].Gear)
		slices.Sort(feeds[i].Gear)
	}
	add(feeds)
	r.Assignments, r.Leads, r.Batteries, r.MIDI, r.Relays, r.OwnSwitches = nil, nil, nil, nil, nil, nil
	r.Clocks, r.PowerPlan, r.Floor.DoubleStomps = nil, nil, nil
	whole, err := json.Marshal([]any{r, lists})
	require.NoError(t, err)
	return string(whole)
}

func TestABoxThatNeverStoodThereDoesWhatTheOtherDid(t *testing.T) {
	p, r := slotted()
	next, err := p.Picked(r, "slot", "vibe")
	require.NoError(t, err)
	assert.Equal(t, plan.Node{Stop: "drive/fx", KeyIn: "vibe/mod"}, next.Path[0])
	assert.Equal(t, plan.Key("vibe/mod"), next.Path[1].Stop, "a vibe for a delay: a player may want that")
	assert.Equal(t, plan.Key("vibe/lift"), next.Path[2].Split.Lanes[0].Nodes[0].Stop, "the boost for the boost")
	assert.Equal(t, map[plan.Key]plan.Value{
		"vibe/mod/on": plan.On(true), "vibe/lift/on": plan.On(true),
	}, next.Recipes[0].Values)
	assert.Equal(t, plan.Number(8), next.Base["vibe/mod/mix"])
	assert.Equal(t, 10.0, next.Floor.Places["vibe"].X)
	assert.Contains(t, next.Presets, plan.ID("old"), "its presets are in it wherever it lies")
	assert.Len(t, next.Levels, 2)
	kept, _ := next.Swaps[0].Box("old")
	require.NotNil(t, kept.Kept)
	assert.Len(t, kept.Kept.Assignments, 3)
	p.Put(next)
	assert.Equal(t, plan.ID("vibe"), next.InSlot(&next.Swaps[0]))
}

func TestPuttingTheFirstBoxBackGivesTheRigThatThereWas(t *testing.T) {
	p, r := slotted()
	rapid.Check(t, func(t *rapid.T) {
		was := *r
		was.Base = map[plan.Key]plan.Value{"drive/fx/on": plan.On(true)}
		was.Recipes = slices.Clone(r.Recipes)
		values := map[plan.Key]plan.Value{}
		for _, key := range []plan.Key{"old/fx/on", "old/fx/mix", "old/fx/tone", "drive/fx/on", "old/boost/level"} {
			if rapid.Bool().Draw(t, "base "+string(key)) {
				was.Base[key] = plan.Number(float64(rapid.IntRange(0, 10).Draw(t, string(key))))
			}
			if rapid.Bool().Draw(t, "recipe "+string(key)) {
				values[key] = plan.Number(float64(rapid.IntRange(0, 10).Draw(t, string(key))))
			}
		}
		was.Recipes[0].Values = values
		was.PerGuitar = nil
		if rapid.Bool().Draw(t, "per guitar") {
			was.PerGuitar = map[plan.ID]map[plan.Key]plan.Value{
				"guitar": {
					"old/fx/mix":  plan.Number(3),
					"drive/fx/on": plan.On(true),
				}, "other": {"old/fx/tone": plan.Number(2)},
			}
		}
		first, err := p.Picked(&was, "slot", "vibe")
		require.NoError(t, err)
		again, err := p.Picked(&first, "slot", "old")
		require.NoError(t, err)
		require.JSONEq(t, alike(t, was), alike(t, again))

		// What is said of the other box while it stands there is there again when it does.
		first.Recipes = slices.Clone(first.Recipes)
		first.Recipes[0].Values = map[plan.Key]plan.Value{
			"vibe/mod/mix": plan.Number(float64(rapid.IntRange(0, 10).Draw(t, "mix"))), "drive/fx/on": plan.On(true),
		}
		away, err := p.Picked(&first, "slot", "old")
		require.NoError(t, err)
		third, err := p.Picked(&away, "slot", "vibe")
		require.NoError(t, err)
		require.Equal(t, first.Recipes[0].Values["vibe/mod/mix"], third.Recipes[0].Values["vibe/mod/mix"])
		require.NotContains(t, third.Recipes[0].Values, plan.Key("vibe/mod/on"), "it was taken out of the recipe")
	})
}

func TestARecipeMadeSinceHasTheBoxOnWhereTheOtherIs(t *testing.T) {
	p, r := slotted()
	first, err := p.Picked(r, "slot", "vibe")
	require.NoError(t, err)
	first.Recipes = append(slices.Clone(first.Recipes), plan.Recipe{
		ID: "new", Sound: "s", Values: map[plan.Key]plan.Value{"vibe/mod/on": plan.On(true)},
	})
	back, err := p.Picked(&first, "slot", "old")
	require.NoError(t, err)
	assert.Equal(t, plan.On(true), back.Recipes[1].Values["old/fx/on"])
	assert.Equal(t, plan.Sync("1/8."), back.Recipes[0].Values["old/fx/time"])
}

func TestWhatCannotStandInASlot(t *testing.T) {
	p, r := slotted()
	for name, c := range map[string]struct {
		there, other plan.ID
		says         string
	}{
		"too few blocks":     {"old", "one", "old stands in the chain with 2 blocks, and one has 1"},
		"in the chain":       {"old", "drive", "drive is in the chain of Rig already"},
		"not in the chain":   {"vibe", "old", "vibe is not in the chain of Rig"},
		"no pedal":           {"old", "switcher", " is not a pedal: other amps are destinations of the rig"},
		"nothing by that id": {"old", "nope", "nope"},
	} {
		t.Run(name, func(t *testing.T) {
			assert.ErrorContains(t, p.CanShareSlot(r, c.there, c.other), c.says)
		})
	}
	r.Path[2].Split.From = "old/fx"
	assert.ErrorContains(t, p.CanShareSlot(r, "old", "vibe"), "divides the signal")
	_, err := p.Picked(r, "slot", "vibe")
	require.ErrorContains(t, err, "divides the signal")
	_, err = p.Picked(r, "nope", "vibe")
	require.ErrorContains(t, err, `has no swap slot "nope"`)
	_, err = p.Picked(r, "slot", "one")
	require.ErrorContains(t, err, "is no box of the slot Colour")
	same, err := p.Picked(r, "slot", "old")
	require.NoError(t, err)
	assert.Equal(t, *r, same)
}

// slotPlan is a whole plan with a slot, that is valid.
func slotPlan() *plan.Plan {
	block := func(effect plan.Effect) plan.Block {
		return plan.Block{
			ID: "fx", Name: "fx", Effect: effect, Bypass: plan.TrueBypass, Controls: []plan.Control{knobTo("depth", 10, "")},
		}
	}
	return &plan.Plan{
		Gear: []plan.Gear{
			pedalWith("chorus", block(plan.EffectChorus)), pedalWith("trem", block(plan.EffectTremolo)),
			pedalWith("drive", block(plan.EffectOverdrive)),
		},
		Sounds: []plan.Sound{{ID: "s", Name: "Clean", Short: "C", Role: plan.HomeRole, Tape: "bone"}},
		Songs: []plan.Song{{
			ID: "song", Title: "Low Tide", Tempo: plan.Tempo{BPM: 100}, Meter: plan.Meter{Beats: 4, Unit: 4},
			Sections: []plan.Section{{ID: "v", Label: "Verse", Sound: "s"}},
		}},
		SetLists: []plan.SetList{{ID: "set", Name: "Set", Entries: []plan.SetEntry{{ID: "e", Song: "song"}}}},
		Rigs: []plan.Rig{{
			ID: "rig", Name: "Rig", Path: []plan.Node{{Stop: "drive/fx"}, {Stop: "chorus/fx"}},
			Recipes: []plan.Recipe{
				{ID: "r", Sound: "s", Values: map[plan.Key]plan.Value{"chorus/fx/on": plan.On(true)}},
			},
			Swaps: []plan.Swap{{
				ID: "slot", Name: "Movement",
				Boxes: []plan.SwapBox{{Gear: "chorus"}, {Gear: "trem", Songs: []plan.ID{"song"}}},
			}},
		}},
		Shows: []plan.Show{{
			ID: "show", Name: "Quay", SetList: "set", Rig: "rig", Picks: []plan.Pick{{Swap: "slot", Gear: "trem"}},
		}},
	}
}

func TestASlotIsChecked(t *testing.T) {
	require.Empty(t, slotPlan().Validate())
	slot := func(p *plan.Plan) *plan.Swap { return &p.Rigs[0].Swaps[0] }
	for name, c := range map[string]struct {
		change func(*plan.Plan)
		path   string
		says   string
	}{
		"one box": {func(p *plan.Plan) { slot(p).Boxes = slot(p).Boxes[:1] }, "rigs[0].swaps[0].boxes", "two boxes or more"},
		"no name": {func(p *plan.Plan) { slot(p).Name = " " }, "rigs[0].swaps[0].name", "a name is needed"},
		"no gear": {func(p *plan.Plan) { slot(p).Boxes[1].Gear = "x" }, "rigs[0].swaps[0].boxes[1].gear", "there is no gear"},
		"both in the chain": {
			func(p *plan.Plan) { slot(p).Boxes[1].Gear = "drive" }, "rigs[0].swaps[0].boxes[1].gear",
			"drive is in the chain, and so is chorus",
		},
		"twice": {
			func(p *plan.Plan) { slot(p).Boxes[1].Gear = "chorus" }, "rigs[0].swaps[0].boxes[1].gear",
			"chorus is in the slot Movement already",
		},
		"none in the chain": {
			func(p *plan.Plan) { p.Rigs[0].Path = p.Rigs[0].Path[:1] }, "rigs[0].swaps[0].boxes", "none of them is in the chain",
		},
		"no pedal": {
			func(p *plan.Plan) { p.Gear[1].Kind = plan.Interface }, "rigs[0].swaps[0].boxes[1].gear", "trem is not a pedal",
		},
		"too few blocks": {
			func(p *plan.Plan) { p.Gear[1].Blocks = nil }, "rigs[0].swaps[0].boxes[1].gear",
			"chorus stands in the chain with 1 block, and trem has 0",
		},
		"no song": {
			func(p *plan.Plan) { slot(p).Boxes[1].Songs = []plan.ID{"x"} }, "rigs[0].swaps[0].boxes[1].songs[0]",
			"there is no song",
		},
		"a song with two boxes": {
			func(p *plan.Plan) { slot(p).Boxes[0].Songs = []plan.ID{"song"} }, "rigs[0].swaps[0].boxes[1].songs[0]",
			"played with another box",
		},
		"kept of what stands there": {
			func(p *plan.Plan) { slot(p).Boxes[0].Kept = &plan.KeptBox{} }, "rigs[0].swaps[0].boxes[0].kept",
			"what the rig says of it stands there",
		},
		"kept of another": {
			func(p *plan.Plan) {
				slot(p).Boxes[1].Kept = &plan.KeptBox{Settings: []plan.KeptSettings{
					{Values: map[plan.Key]plan.Value{"drive/fx/on": plan.On(true)}},
				}}
			}, `rigs[0].swaps[0].boxes[1].kept.settings[0].values["drive/fx/on"]`, `it is not of "trem"`,
		},
		"kept of no control": {
			func(p *plan.Plan) {
				slot(p).Boxes[1].Kept = &plan.KeptBox{Programs: []plan.KeptProgram{
					{Values: map[plan.Key]plan.Value{"trem/fx/x": plan.On(true)}},
				}}
			}, `rigs[0].swaps[0].boxes[1].kept.programs[0].values["trem/fx/x"]`, "there is no control",
		},
		"kept of a controller that is none": {
			func(p *plan.Plan) {
				slot(p).Boxes[1].Kept = &plan.KeptBox{MIDI: []plan.MIDILink{{Controller: "none", Gear: "trem", Channel: 1}}}
			}, "rigs[0].swaps[0].boxes[1].kept", `there is no gear "none"`,
		},
		"a show that picks no slot": {
			func(p *plan.Plan) { p.Shows[0].Picks[0].Swap = "x" }, "shows[0].picks[0].swap", `Rig has no swap slot "x"`,
		},
		"a show that picks no box of it": {
			func(p *plan.Plan) { p.Shows[0].Picks[0].Gear = "drive" }, "shows[0].picks[0].gear", "is no box of the slot",
		},
		"a show that picks twice": {
			func(p *plan.Plan) { p.Shows[0].Picks = append(p.Shows[0].Picks, p.Shows[0].Picks[0]) }, "shows[0].picks[1].swap",
			"another pick is for that slot",
		},
	} {
		t.Run(name, func(t *testing.T) {
			p := slotPlan()
			c.change(p)
			problems := p.Validate()
			require.NotEmpty(t, problems)
			assert.Equal(t, c.path, problems[0].Path)
			assert.Contains(t, problems[0].Message, c.says)
		})
	}
}

func TestAShowFindsTheRigWithWhatItPicks(t *testing.T) {
	p := slotPlan()
	there, err := p.AtShow(&p.Shows[0])
	require.NoError(t, err)
	r, _ := there.FindRig("rig")
	assert.Equal(t, plan.Key("trem/fx"), r.Path[1].Stop)
	assert.Equal(t, plan.On(true), r.Recipes[0].Values["trem/fx/on"])
	assert.Empty(t, there.Validate())
	assert.Equal(t, plan.Key("chorus/fx"), p.Rigs[0].Path[1].Stop, "the plan stays as it is")
	p.Shows[0].Picks = nil
	there, err = p.AtShow(&p.Shows[0])
	require.NoError(t, err)
	assert.Same(t, p, there)
}

func TestWhatASlotNamesIsInUse(t *testing.T) {
	p := slotPlan()
	words := func(id plan.ID) (list []string) {
		for _, u := range p.Uses(id) {
			list = append(list, u.String())
		}
		return list
	}
	assert.Contains(t, words("trem"), "Rig: in the swap slot Movement")
	assert.Contains(t, words("song"), "Rig: in the swap slot Movement")
	p.Rigs[0].Swaps[0].Boxes[1].Kept = &plan.KeptBox{MIDI: []plan.MIDILink{{Controller: "drive", Gear: "trem"}}}
	assert.Contains(t, words("drive"), "Rig: a box of a swap slot")
}

func TestWhatIsKeptIsOfTheDestination(t *testing.T) {
	p := slotPlan()
	r := &p.Rigs[0]
	r.Destinations = []plan.Destination{{ID: "house", Name: "House", Kind: plan.OwnAmp}}
	value := func(x float64) map[plan.Key]plan.Value {
		return map[plan.Key]plan.Value{"trem/fx/depth": plan.Number(x)}
	}
	r.Swaps[0].Boxes[1].Kept = &plan.KeptBox{Settings: []plan.KeptSettings{
		{Values: value(1)}, {Recipe: "r", Values: value(2)},
		{Destination: "house", Values: value(3)}, {Destination: "house", Recipe: "r", Values: value(4)},
	}}
	for destination, want := range map[plan.ID][2]float64{"": {1, 2}, "house": {3, 4}} {
		there, err := p.At("rig", destination)
		require.NoError(t, err)
		at, _ := there.FindRig("rig")
		next, err := there.Picked(at, "slot", "trem")
		require.NoError(t, err)
		assert.Equal(t, plan.Number(want[0]), next.Base["trem/fx/depth"], destination)
		assert.Equal(t, plan.Number(want[1]), next.Recipes[0].Values["trem/fx/depth"], destination)
	}
}

func TestAnEveningHasTheBoxesThatItsSongsAskFor(t *testing.T) {
	p := slotPlan()
	e, err := p.EveningOf("rig", "set")
	require.NoError(t, err)
	require.Len(t, e.Swaps, 1)
	assert.Equal(t, []plan.Pick{{Swap: "slot", Gear: "trem"}}, e.Songs["song"])
	r, _ := e.Plan.FindRig("rig")
	assert.Equal(t, []plan.Key{"drive/fx", "chorus/fx", "trem/fx"}, r.Stops())
	song, _ := e.Plan.FindSong("song")
	own := r.RecipeFor(song.Sections[0])
	assert.Equal(t, plan.ID("r"), plan.OwnRecipe(own.ID))
	assert.Equal(t, plan.On(true), own.Values["trem/fx/on"])
	assert.Equal(t, plan.Free(), own.Values["chorus/fx/on"], "nothing is asked of what is not there")
	other := r.RecipeFor(plan.Section{Sound: "s"})
	assert.Equal(t, plan.On(true), other.Values["chorus/fx/on"])
	assert.Equal(t, plan.Free(), other.Values["trem/fx/on"])

	p.Rigs[0].Swaps[0].Boxes[1].Songs = nil
	e, err = p.EveningOf("rig", "set")
	require.NoError(t, err)
	assert.Same(t, p, e.Plan, "no song asks for another")
	_, err = p.EveningOf("rig", "nope")
	require.Error(t, err)
	_, err = p.EveningOf("nope", "set")
	require.Error(t, err)
}

func TestABoxStandsInForOneOfASlot(t *testing.T) {
	p := slotPlan()
	p.Gear = append(
		p.Gear,
		pedalWith("vibe", plan.Block{ID: "fx", Name: "fx", Effect: plan.EffectVibe, Bypass: plan.TrueBypass}),
	)
	r := &p.Rigs[0]
	g, _ := p.FindGear("vibe")
	next, _, ok := p.Instead(r, "chorus", g)
	require.True(t, ok)
	assert.Equal(t, []plan.SwapBox{{Gear: "vibe"}, {Gear: "trem", Songs: []plan.ID{"song"}}}, next.Swaps[0].Boxes)
	p.Put(next)
	require.Empty(t, p.Validate())
	assert.Equal(t, plan.ID("chorus"), r.Swaps[0].Boxes[0].Gear, "the rig that was given stays as it is")

	p = slotPlan()
	p.Shows = nil
	trem, _ := p.FindGear("trem")
	next, _, ok = p.Instead(&p.Rigs[0], "chorus", trem)
	require.True(t, ok)
	assert.Empty(t, next.Swaps, "one box is no choice")
	p.Put(next)
	require.Empty(t, p.Validate())
}

func TestWhichBoxesCouldStandInASlot(t *testing.T) {
	p, r := slotted()
	assert.Equal(t, []plan.SlotChoice{
		{
			Gear: "vibe",
			Name: "vibe",
		}, {Gear: "one", Name: "one", Why: "old stands in the chain with 2 blocks, and one has 1"},
	}, p.SlotChoices(r, "old"))

	p = slotPlan()
	r = &p.Rigs[0]
	p.Gear = append(p.Gear, pedalWith("vibe", plan.Block{ID: "fx", Name: "fx", Effect: plan.EffectVibe}))
	next, err := p.WithSlot(r, "new", "Any", "chorus", "vibe")
	require.NoError(t, err)
	require.Len(t, next.Swaps, 1, "it stands in a slot already")
	assert.Equal(t, plan.SwapBox{Gear: "vibe"}, next.Swaps[0].Boxes[2])
	_, err = p.WithSlot(r, "new", "Any", "drive", "trem")
	require.ErrorContains(t, err, "trem is in the slot Movement already")
	next, err = p.WithSlot(r, "new", "Dirt", "drive", "vibe")
	require.NoError(t, err)
	assert.Equal(t, plan.Swap{
		ID: "new", Name: "Dirt", Boxes: []plan.SwapBox{{Gear: "drive"}, {Gear: "vibe"}},
	}, next.Swaps[1])
	_, err = p.WithSlot(r, "new", "Any", "chorus", "drive")
	require.ErrorContains(t, err, "in the chain of Rig already")
}
