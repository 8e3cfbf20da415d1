package journal

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"envex/core/plan"
	kelp "envex/demo"
)

func demo(require.TestingT) *plan.Plan {
	p := kelp.Plan()
	for i := range p.Shows {
		s := &p.Shows[i]
		s.Notes, s.After, s.Faults, s.Fixes, s.Batteries = "", "", nil, nil, nil
	}
	return p
}

func number(x float64) *plan.Value {
	v := plan.Number(x)
	return &v
}

// written is the demo with a night written down.
func written(t require.TestingT) *plan.Plan {
	p := demo(t)
	s := &p.Shows[0]
	s.Notes, s.After = "Load in over the car deck.", "Too loud by the rail."
	s.Faults = []plan.Fault{
		{Text: "Crackled in song 4", Gear: "amber", Lead: true, Cured: "Other lead"},
		{Text: "Hummed all night", Gear: "silt"},
	}
	s.Fixes = []plan.Fix{
		{Text: "Slower echo for the shed", Key: "echo/fx/time", Value: number(410), Preset: "B"},
		{Text: "More grit", Key: "amber/fx/drive", Value: number(6), Sound: "crunch"},
		{Text: "Master down", Key: "pier/power/master", Value: number(4)},
		{Text: "Stood further left"},
	}
	s.Batteries = []plan.ID{"silt"}
	p.Shows[1].Faults = []plan.Fault{{Text: "Dead battery", Gear: "silt", Cured: "Fresh one"}}
	require.Empty(t, p.Validate())
	return p
}

func texts(lines []Line) []string {
	var list []string
	for _, l := range lines {
		list = append(list, l.Text)
	}
	return list
}

func TestTheLogHasTheLatestShowFirstAndTheNightInOrder(t *testing.T) {
	assert.Equal(t, []string{
		"Dead battery", "Load in over the car deck.", "Crackled in song 4", "Hummed all night", "Slower echo for the shed",
		"More grit", "Master down", "Stood further left", "Fresh battery", "Too loud by the rail.",
	}, texts(Read(written(t), Query{})))
}

func TestABoxHasAHistoryOfItsOwn(t *testing.T) {
	p := written(t)
	assert.Equal(t, []string{"Dead battery", "Hummed all night", "Fresh battery"}, texts(Read(p, Query{Gear: "silt"})))
	assert.Equal(
		t, []string{"Slower echo for the shed"}, texts(Read(p, Query{Gear: "echo"})), "the control says which box",
	)
	assert.Equal(t, "the lead into Amber", Read(p, Query{Gear: "amber"})[0].Where)
}

func TestEveryWordThatIsLookedForIsInTheLine(t *testing.T) {
	p := written(t)
	assert.Equal(t, []string{"Crackled in song 4"}, texts(Read(p, Query{Text: "LEAD amber"})))
	assert.Equal(
		t, []string{"Dead battery"}, texts(Read(p, Query{Text: "fresh deck", Kind: Fault})),
		"the cure and the show's name count",
	)
	assert.Empty(t, Read(p, Query{Text: "amber nowhere"}))
	assert.Equal(t, []string{"Load in over the car deck."}, texts(Read(p, Query{Kind: Before})))
	assert.Len(t, Read(p, Query{Show: "deck-13"}), 1)
}

func TestSearchingIsNarrowing(t *testing.T) {
	p := written(t)
	rapid.Check(t, func(t *rapid.T) {
		words := rapid.SampledFrom([]string{"", "silt", "battery", "lead", "quay", "e", "4"})
		a, b := words.Draw(t, "a"), words.Draw(t, "b")
		all, both := texts(Read(p, Query{Text: a})), texts(Read(p, Query{Text: a + " " + b}))
		for _, x := range both {
			assert.Contains(t, all, x)
		}
	})
}

func TestAChangeSaysWhatKeepingItSets(t *testing.T) {
	lines := Read(written(t), Query{Kind: Change})
	assert.Equal(t, "Echo time to 410 ms in preset B of Echo", lines[0].Carries)
	assert.Equal(t, "Amber drive to 6 for Crunch", lines[1].Carries)
	assert.Equal(t, "Pier combo power master to 4", lines[2].Carries)
	assert.Empty(t, lines[3].Carries)
	p := written(t)
	p.Shows[0].Fixes[0].Sound = "lead"
	require.Empty(t, p.Validate())
	assert.Equal(
		t, "Echo time to 410 ms in preset B of Echo", Read(p, Query{Kind: Change})[0].Carries,
		"a preset is for every sound that is on it",
	)
}

func TestAChangeIsCarriedToWhereItIsSet(t *testing.T) {
	p := written(t)
	before, _ := p.FindRig("long")
	was := before.Presets["echo"]["B"]["echo/fx/time"]
	rig, show, err := CarryOver(p, "quay-12", 0)
	require.NoError(t, err)
	assert.Equal(t, plan.Number(410), rig.Presets["echo"]["B"]["echo/fx/time"])
	assert.Equal(t, before.Presets["echo"]["C"], rig.Presets["echo"]["C"])
	assert.Equal(t, was, before.Presets["echo"]["B"]["echo/fx/time"], "the plan is not changed")
	assert.Equal(t, plan.FixKept, show.Fixes[0].Keep)
	assert.Empty(t, p.Shows[0].Fixes[0].Keep)
	assert.Empty(t, show.Fixes[1].Keep)

	rig, _, err = CarryOver(p, "quay-12", 1)
	require.NoError(t, err)
	for i, rec := range rig.Recipes {
		if rec.Sound == "crunch" {
			assert.Equal(t, plan.Number(6), rec.Values["amber/fx/drive"])
		} else {
			assert.Equal(t, before.Recipes[i], rec)
		}
	}

	rig, _, err = CarryOver(p, "quay-12", 2)
	require.NoError(t, err)
	assert.Equal(t, plan.Number(4), rig.Base["pier/power/master"])
}

func TestAChangeAtADestinationGoesWhereTheDestinationSaysOtherwise(t *testing.T) {
	p := demo(t)
	i := 2
	require.Equal(t, plan.ID("pilot-19"), p.Shows[i].ID)
	p.Shows[i].Fixes = []plan.Fix{
		{Text: "More", Key: "hired/preamp/drive", Value: number(7)},
		{Text: "Bite", Key: "driftwood/tone", Value: number(9), Sound: "crunch"},
		{Text: "Room", Key: "room/fx/mix", Value: number(1)},
		{Text: "Slap", Key: "slap/fx/mix", Value: number(1), Sound: "skank"},
	}
	require.Empty(t, p.Validate())
	before, _ := p.FindRig("long")
	rig, _, err := CarryOver(p, "pilot-19", 0)
	require.NoError(t, err)
	d, _ := rig.FindDestination("long-hired")
	assert.Equal(t, plan.Number(7), d.Base["hired/preamp/drive"])
	assert.Equal(t, before.Base, rig.Base)
	rig, _, err = CarryOver(p, "pilot-19", 1)
	require.NoError(t, err)
	d, _ = rig.FindDestination("long-hired")
	assert.Equal(t, plan.Number(9), d.Recipes[0].Values["driftwood/tone"])
	assert.Equal(t, before.Recipes, rig.Recipes)
	rig, _, err = CarryOver(p, "pilot-19", 2)
	require.NoError(t, err)
	assert.Equal(t, plan.Number(1), rig.Base["room/fx/mix"])
	assert.Equal(t, before.Destinations, rig.Destinations)
	rig, _, err = CarryOver(p, "pilot-19", 3)
	require.NoError(t, err)
	assert.Equal(t, before.Destinations, rig.Destinations, "the destination has no recipe of its own for it")
	assert.NotEqual(t, before.Recipes, rig.Recipes)
}

func TestWhatCannotBeCarriedOverIsSaid(t *testing.T) {
	p := written(t)
	for _, x := range []struct {
		show plan.ID
		fix  int
		says string
	}{
		{"nowhere", 0, "no show"}, {"quay-12", 9, "no change 10"}, {"quay-12", -1, "no change 0"},
		{"quay-12", 3, "nothing to carry over"},
	} {
		_, _, err := CarryOver(p, x.show, x.fix)
		require.ErrorContains(t, err, x.says)
	}
	p.Shows[1].Fixes = []plan.Fix{{Text: "x", Key: "amber/fx/drive", Value: number(1), Sound: "shimmer"}}
	_, _, err := CarryOver(p, "deck-13", 0)
	require.ErrorContains(t, err, "has no recipe for that sound")
	_, err = Leave(p, "nowhere", 0)
	require.ErrorContains(t, err, "no show")
	_, err = Leave(p, "deck-13", 1)
	require.ErrorContains(t, err, "no change 2")
	left, err := Leave(p, "deck-13", 0)
	require.NoError(t, err)
	assert.Equal(t, plan.FixLeft, left.Fixes[0].Keep)
}

func TestAFreshBatteryHasRunForNoTime(t *testing.T) {
	p := demo(t)
	rig, show, err := Freshen(p, "quay-12", "silt")
	require.NoError(t, err)
	assert.Equal(t, []plan.ID{"silt"}, show.Batteries)
	assert.Zero(t, *rig.Batteries[0].UsedH)
	old, _ := p.FindRig("long")
	assert.NotZero(t, *old.Batteries[0].UsedH)
	p.Put(show)
	_, show, err = Freshen(p, "quay-12", "silt")
	require.NoError(t, err)
	assert.Len(t, show.Batteries, 1, "once a show")
	_, _, err = Freshen(p, "quay-12", "amber")
	require.ErrorContains(t, err, "Amber does not run on a battery in Long board")
	_, _, err = Freshen(p, "nowhere", "silt")
	require.ErrorContains(t, err, "no show")
}

func TestWhereNothingWasWrittenThereIsAnEmptyLog(t *testing.T) {
	for _, q := range []Query{{}, {Text: "x"}, {Gear: "amber"}, {Kind: Fault}, {Show: "nowhere"}} {
		lines := Read(&plan.Plan{}, q)
		assert.NotNil(t, lines, "an empty list is a list")
		assert.Empty(t, lines)
	}
	p := demo(t)
	p.Shows[0].Faults = []plan.Fault{{Text: "x", Gear: "gone"}}
	assert.Equal(t, "gone", Read(p, Query{Kind: Fault})[0].Where, "what is no more goes by its id")
}

func TestAShowWithoutADateStandsLast(t *testing.T) {
	p := written(t)
	p.Shows[1].Date = ""
	all := texts(Read(p, Query{}))
	assert.Equal(t, "Dead battery", all[len(all)-1])
}
