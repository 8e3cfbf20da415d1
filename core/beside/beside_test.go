package beside_test

import (
	"context"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/beside"
	"envex/core/catalog"
	"envex/core/plan"
	"envex/core/signal"
)

var kept = signal.NewKept()

func ptr[T any](v T) *T { return &v }

// quay is a rig with a chorus and a slot for it or a tremolo, a combo and a destination without an amp.
func quay(t require.TestingT) *plan.Plan {
	p := &plan.Plan{}
	for _, id := range []string{"three-single-coil", "mid-hump-overdrive", "chorus", "tremolo", "combo-plain"} {
		kind, ok := catalog.Find(id)
		require.True(t, ok, id)
		p.Put(kind.In(p, plan.ID(id), kind.Name))
	}
	block := func(gear plan.ID, n int) plan.Key {
		g, _ := p.FindGear(gear)
		return plan.BlockKey(gear, g.Blocks[n].ID)
	}
	on := func(gear plan.ID) plan.Key { return block(gear, 0) + "/on" }
	sound := func(id, name string, role plan.Role, targets plan.Targets) {
		p.Put(plan.Sound{ID: plan.ID(id), Name: name, Short: name[:2], Tape: "bone", Role: role, Targets: targets})
	}
	sound("home", "Home", plan.HomeRole, plan.Targets{DirtMax: ptr(10.0)})
	sound("sway", "Sway", "texture", plan.Targets{
		LoudnessLU: ptr(0.0), ToleranceLU: ptr(3.0), Effects: []plan.Heard{{Effect: plan.EffectTremolo}},
	})
	sound("crunch", "Crunch", "rhythm", plan.Targets{})
	bars := 4.0
	section := func(id string) plan.Section {
		return plan.Section{ID: plan.ID("to-" + id), Label: id, Sound: plan.ID(id), Bars: &bars}
	}
	p.Put(plan.Song{
		ID: "tide", Title: "Tide table", Tempo: plan.Tempo{BPM: 100}, Meter: plan.Meter{Beats: 4, Unit: 4},
		Sections: []plan.Section{section("home"), section("sway"), section("crunch")},
	})
	p.Put(plan.SetList{ID: "night", Name: "Night", Entries: []plan.SetEntry{{ID: "one", Song: "tide"}}})
	amp, _ := p.FindGear("combo-plain")
	path := []plan.Node{{Stop: block("mid-hump-overdrive", 0)}, {Stop: block("chorus", 0)}}
	for i := range amp.Blocks {
		path = append(path, plan.Node{Stop: block("combo-plain", i)})
	}
	p.Put(plan.Rig{
		ID: "rig", Name: "Rig", Guitars: []plan.ID{"three-single-coil"}, Path: path,
		Recipes: []plan.Recipe{
			{ID: "r-home", Sound: "home"},
			{ID: "r-sway", Sound: "sway", Values: map[plan.Key]plan.Value{on("chorus"): plan.On(true)}},
			{ID: "r-crunch", Sound: "crunch", Values: map[plan.Key]plan.Value{on("mid-hump-overdrive"): plan.On(true)}},
		},
		Swaps: []plan.Swap{
			{ID: "slot", Name: "Movement", Boxes: []plan.SwapBox{{Gear: "chorus"}, {Gear: "tremolo"}}},
		},
		Destinations: []plan.Destination{{ID: "house", Name: "House line", Kind: plan.MonoDI}},
	})
	require.Empty(t, p.Validate())
	return p
}

func TestTheBoxesOfASlotSideBySide(t *testing.T) {
	p := quay(t)
	r, _ := p.FindRig("rig")
	ways, err := beside.Ways(p, r, "", beside.Asked{Slot: &r.Swaps[0]})
	require.NoError(t, err)
	var shares []float64
	got, err := beside.For(context.Background(), p, "rig", "night", ways, beside.Options{
		Kept: kept, Progress: func(x float64) { shares = append(shares, x) },
	})
	require.NoError(t, err)
	require.Len(t, got.Columns, 2)
	chorus, tremolo := got.Columns[0], got.Columns[1]
	assert.Equal(t, []string{"Chorus", "Tremolo"}, []string{chorus.Name, tremolo.Name})
	assert.Equal(t, []float64{0.5, 1}, shares)

	// The sound asks for a tremolo: the chorus does not make it, the tremolo does where the chorus was on.
	require.Len(t, chorus.Sounds, 3)
	assert.False(t, chorus.Sounds[1].Within)
	assert.True(t, tremolo.Sounds[1].Within, "%+v", tremolo.Sounds[1].Checks)
	assert.Equal(t, 2, chorus.Outcome.Total)
	assert.Equal(t, chorus.Leads, tremolo.Leads)
	assert.Equal(t, 40.0, tremolo.DrawnMA)
	// The chorus has a buffer, the tremolo has none: what it costs when both are off is seen.
	assert.Greater(t, tremolo.Sounds[0].TrebleDB, chorus.Sounds[0].TrebleDB+3)
	// A sound that says nothing is held against what the first makes of it, which the other leaves alone.
	assert.True(t, chorus.Sounds[2].AsFirst)
	assert.True(t, chorus.Sounds[2].Within)
	assert.InDelta(t, chorus.Sounds[2].Dirt, tremolo.Sounds[2].Dirt, 1)

	// Each column is the rig with that box in its place, by every other reckoning too.
	q, err := p.WithPicks("rig", []plan.Pick{{Swap: "slot", Gear: "tremolo"}})
	require.NoError(t, err)
	full, err := signal.Measure(context.Background(), q, "rig", signal.Options{Kept: kept})
	require.NoError(t, err)
	i := slices.IndexFunc(full.Sounds, func(s signal.Sound) bool { return s.Sound == "sway" })
	assert.InDelta(t, full.Sounds[i].OverHome, tremolo.Sounds[1].OverHome, 0.01)
}

func TestDestinationsAndTempiSideBySide(t *testing.T) {
	p := quay(t)
	r, _ := p.FindRig("rig")
	ways, err := beside.Ways(
		p,
		r,
		"",
		beside.Asked{Into: []plan.ID{"", "house"}, TempoPct: []float64{-4, 0, 60.5 - 20.5}},
	)
	require.NoError(t, err)
	names := []string{}
	for _, w := range ways {
		names = append(names, w.Name)
	}
	assert.Equal(t, []string{"As it stands", "House line", "4 % slower", "40 % faster"}, names)
	got, err := beside.For(context.Background(), p, "rig", "night", ways, beside.Options{Kept: kept})
	require.NoError(t, err)
	here, house, slower, faster := got.Columns[0], got.Columns[1], got.Columns[2], got.Columns[3]
	assert.NotEqual(t, here.Leads, house.Leads, "no lead to an amp")
	assert.Less(t, house.Sounds[2].Dirt, here.Sounds[2].Dirt-1, "the amp adds to it")
	assert.False(t, house.Sounds[2].Within)
	assert.Equal(t, here.Sounds, slower.Sounds, "nothing follows the tempo")
	assert.Less(t, faster.Outcome.Reached, slower.Outcome.Reached+1)
	assert.Equal(t, 100.0, p.Songs[0].Tempo.BPM, "the plan stays as it is")

	// From a destination on, the rig as it stands is another way.
	ways, err = beside.Ways(p, r, "house", beside.Asked{Into: []plan.ID{""}})
	require.NoError(t, err)
	assert.Equal(t, []beside.Way{{Name: "House line", Destination: "house"}, {Name: "As it stands"}}, ways)
}

func TestWhatIsWrongInOneWayAlone(t *testing.T) {
	p := quay(t)
	for i := range p.Gear {
		if p.Gear[i].ID == "tremolo" {
			p.Gear[i].Power.Voltage = 18
		}
	}
	p.Put(
		plan.Gear{ID: "brick", Name: "Brick", Kind: plan.Supply, Supply: &plan.PowerSupply{Outputs: []plan.PowerOutput{
			{ID: "1", Name: "1", Voltages: []float64{9}, CurrentMA: 100},
			{ID: "2", Name: "2", Voltages: []float64{12}, CurrentMA: 100},
		}}},
	)
	r, _ := p.FindRig("rig")
	r.PowerPlan = []plan.PowerFeed{
		{
			Supply: "brick",
			Output: "1",
			Gear:   []plan.ID{"chorus"},
		}, {Supply: "brick", Output: "2", Gear: []plan.ID{"mid-hump-overdrive"}},
	}
	ways, err := beside.Ways(p, r, "", beside.Asked{Slot: &r.Swaps[0]})
	require.NoError(t, err)
	got, err := beside.For(context.Background(), p, "rig", "night", ways, beside.Options{Kept: kept})
	require.NoError(t, err)
	titles := func(c beside.Column, about string) (n int) {
		for _, f := range c.Findings {
			if strings.Contains(f.Title, about) {
				n++
			}
		}
		return n
	}
	assert.Equal(t, 1, titles(got.Columns[0], "Mid-hump overdrive"), "12 V into a box of 9 V is a danger")
	assert.Zero(t, titles(got.Columns[1], "Mid-hump overdrive"), "it is said once, of the first")
	assert.Zero(t, titles(got.Columns[0], "Tremolo"))
	assert.Equal(t, 1, titles(got.Columns[1], "Tremolo"), "%v", got.Columns[1].Findings)
}

func TestASoundThatIsNotMadeIsNotMeasured(t *testing.T) {
	p := quay(t)
	r, _ := p.FindRig("rig")
	r.Recipes = r.Recipes[:2]
	got, err := beside.For(context.Background(), p, "rig", "night", []beside.Way{{Name: "here"}}, beside.Options{})
	require.NoError(t, err)
	crunch := got.Columns[0].Sounds[2]
	assert.False(t, crunch.Made)
	assert.False(t, crunch.Within)
	assert.Zero(t, crunch.Dirt)
}

func TestWhatCannotStandSideBySide(t *testing.T) {
	p := quay(t)
	r, _ := p.FindRig("rig")
	_, err := beside.Ways(p, r, "", beside.Asked{})
	require.ErrorContains(t, err, "nothing stands beside As it stands: name a swap slot, a destination or a tempo")
	_, err = beside.Ways(p, r, "", beside.Asked{Into: []plan.ID{"nope"}})
	require.ErrorContains(t, err, `Rig has no destination "nope"`)
	_, err = beside.Ways(p, r, "nope", beside.Asked{})
	require.ErrorContains(t, err, `Rig has no destination "nope"`)
	_, err = beside.Ways(p, r, "", beside.Asked{TempoPct: []float64{51}})
	require.ErrorContains(t, err, "50 % at most")
	_, err = beside.Ways(p, r, "", beside.Asked{TempoPct: []float64{1, 2, 3, 4, 5, 6, 7, 8}})
	require.ErrorContains(t, err, "1 to 8 ways")
	most, err := beside.Ways(p, r, "", beside.Asked{TempoPct: []float64{-50, 2, 3, 4, 5, 6, 50}})
	require.NoError(t, err)
	assert.Len(t, most, beside.MostWays)
	ask := func(ways ...beside.Way) error {
		_, err := beside.For(context.Background(), p, "rig", "night", ways, beside.Options{Kept: kept})
		return err
	}
	require.ErrorContains(t, ask(), "1 to 8 ways")
	require.ErrorContains(t, ask(make([]beside.Way, 9)...), "1 to 8 ways")
	require.ErrorContains(t, ask(beside.Way{TempoPct: 51}), "50 % at most")
	require.ErrorContains(t, ask(beside.Way{Destination: "nope"}), `no destination "nope"`)
	require.ErrorContains(t, ask(beside.Way{Picks: []plan.Pick{{Swap: "x"}}}), `no swap slot "x"`)
	ctx, stop := context.WithCancel(context.Background())
	stop()
	_, err = beside.For(ctx, p, "rig", "night", []beside.Way{{}}, beside.Options{Kept: kept})
	require.ErrorIs(t, err, context.Canceled)
}
