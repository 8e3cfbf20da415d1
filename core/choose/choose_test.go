package choose_test

import (
	"context"
	"os"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/catalog"
	"envex/core/choose"
	"envex/core/path"
	"envex/core/plan"
	"envex/core/reach"
	"envex/core/signal"
	"envex/golden"
)

func ptr[T any](v T) *T { return &v }

// kept is shared by all tests: every rig here is played by the same guitar.
var kept = signal.NewKept()

// quay is a guitar, an amp, a pile of boxes and a night of sounds that nobody has a rig for yet.
func quay(t require.TestingT, kinds ...string) *plan.Plan {
	p := &plan.Plan{}
	for _, id := range append([]string{"three-single-coil", "combo-plain"}, kinds...) {
		kind, ok := catalog.Find(id)
		require.True(t, ok, id)
		p.Put(kind.In(p, plan.ID(id), kind.Name))
	}
	sound := func(id, name string, role plan.Role, targets plan.Targets) {
		p.Put(plan.Sound{ID: plan.ID(id), Name: name, Short: name[:2], Tape: "bone", Role: role, Targets: targets})
	}
	sound("home", "Home", plan.HomeRole, plan.Targets{DirtMax: ptr(10.0)})
	sound("crunch", "Crunch", "rhythm", plan.Targets{
		DirtMin: ptr(20.0), DirtMax: ptr(45.0), LoudnessLU: ptr(1.0), ToleranceLU: ptr(1.0),
	})
	sound("haze", "Haze", "texture", plan.Targets{
		LoudnessLU: ptr(0.0), ToleranceLU: ptr(1.5), Effects: []plan.Heard{{Effect: plan.EffectTremolo}},
	})
	bars := 4.0
	section := func(id string) plan.Section {
		return plan.Section{ID: plan.ID("to-" + id), Label: id, Sound: plan.ID(id), Bars: &bars}
	}
	p.Put(plan.Song{
		ID: "tide", Title: "Tide table", Tempo: plan.Tempo{BPM: 100}, Meter: plan.Meter{Beats: 4, Unit: 4},
		Sections: []plan.Section{section("home"), section("crunch"), section("haze")},
	})
	p.Put(plan.SetList{ID: "night", Name: "Night", Entries: []plan.SetEntry{{ID: "one", Song: "tide"}}})
	require.Empty(t, p.Validate())
	return p
}

// Bands that lie between the places that are looked at are met by turning drive and level to where they are.
func TestAChoiceIsTurnedIntoNarrowBands(t *testing.T) {
	p := quay(t, "mid-hump-overdrive", "tremolo")
	wide, err := choose.For(context.Background(), p, choose.Options{SetList: "night", Kept: kept})
	require.NoError(t, err)
	crunch, _ := p.FindSound("crunch")
	for _, at := range [][2]float64{{1.3, 4.9}, {3.4, 3.1}, {6.6, 3.6}} {
		r := wide.Sets[0].Rig
		r.Base = map[plan.Key]plan.Value{
			"mid-hump-overdrive/fx/drive": plan.Number(at[0]), "mid-hump-overdrive/fx/level": plan.Number(at[1]),
		}
		q := *p
		q.Put(r)
		set, err := signal.Measure(context.Background(), &q, r.ID, signal.Options{Kept: kept, Only: []plan.ID{"crunch"}})
		require.NoError(t, err)
		dirt, louder := set.Sounds[0].Figures.Dirt, set.Sounds[0].OverHome
		crunch.Targets = plan.Targets{
			DirtMin: ptr(dirt - 1), DirtMax: ptr(dirt + 1), LoudnessLU: ptr(louder), ToleranceLU: ptr(0.25),
		}
		found, err := choose.For(context.Background(), p, choose.Options{SetList: "night", Kept: kept})
		require.NoError(t, err)
		require.NotEmpty(t, found.Sets)
		assert.Contains(t, found.Sets[0].Covers, plan.ID("crunch"), "%v: %.1f %%, %.1f LU", at, dirt, louder)
	}
}

// With two drives and one tremolo, two boxes make the night, whichever drive it is, and the fuzz is of no use.
func TestTheFewestBoxesThatMakeANight(t *testing.T) {
	p := quay(t, "mid-hump-overdrive", "tremolo", "chorus", "digital-delay")
	r, err := choose.For(
		context.Background(), p, choose.Options{SetList: "night", Kept: kept, Progress: golden.Progress(t, 1)},
	)
	require.NoError(t, err)
	require.NotEmpty(t, r.Sets)
	assert.Equal(t, 2, r.Bound)
	best := r.Sets[0]
	assert.True(t, best.Proven)
	assert.ElementsMatch(t, []plan.ID{"mid-hump-overdrive", "tremolo"}, best.Boxes)
	assert.ElementsMatch(t, []plan.ID{"home", "crunch", "haze"}, best.Covers)
	assert.Empty(t, best.Misses)
	assert.Equal(t, []choose.Step{{Boxes: 0, Covers: 1}, {Boxes: 1, Covers: 2}, {Boxes: 2, Covers: 3}}, r.Further)
	assert.Positive(t, best.WeightG)
	assert.Positive(t, best.AreaCM2)
	assert.True(t, best.Ordered)

	// It is a rig that stands by itself: what it says of each sound, the meter says of the rig.
	p.Put(best.Rig)
	require.Empty(t, p.Validate())
	full, err := signal.Measure(context.Background(), p, best.Rig.ID, signal.Options{Kept: kept})
	require.NoError(t, err)
	require.Len(t, full.Sounds, 3)
	for _, s := range full.Sounds {
		at := slices.IndexFunc(best.Made, func(m choose.Made) bool { return m.Sound == s.Sound })
		assert.True(t, s.Met(), s.Name)
		assert.InDelta(t, s.Figures.Dirt, best.Made[at].Dirt, 0.01)
		assert.InDelta(t, s.OverHome, best.Made[at].OverHome, 0.01)
		if made := best.Made[at]; made.LoudMin != nil {
			assert.Less(t, *made.LoudMin, made.OverHome, "within what is drawn around it")
			assert.Greater(t, *made.LoudMax, made.OverHome)
		}
		assert.LessOrEqual(t, best.Made[at].DirtMin, s.Figures.Dirt)
		assert.GreaterOrEqual(t, best.Made[at].DirtMax, s.Figures.Dirt)
	}
	judged, err := path.Judge(context.Background(), p, best.Rig.ID, "")
	require.NoError(t, err)
	assert.InDelta(t, judged.Best.Cost, judged.Cost, 1e-9, "its order is the best")
	night, err := reach.Compute(p, best.Rig.ID, "night")
	require.NoError(t, err)
	presses := 0
	for _, c := range night.Changes {
		presses += len(c.Presses)
	}
	assert.Equal(t, presses, best.Presses)
}

func TestWithTooFewBoxesTheMostSoundsAreMade(t *testing.T) {
	p := quay(t, "mid-hump-overdrive", "tremolo")
	r, err := choose.For(context.Background(), p, choose.Options{SetList: "night", Most: 1, Kept: kept})
	require.NoError(t, err)
	require.NotEmpty(t, r.Sets)
	for _, s := range r.Sets {
		require.Len(t, s.Boxes, 1)
		assert.Len(t, s.Covers, 2)
		assert.True(t, s.Proven)
		require.Len(t, s.Misses, 1)
		require.Len(t, s.Adds, 1, "the other box brings what is missed")
		assert.Equal(t, s.Misses, s.Adds[0].Sounds)
	}
	assert.Equal(t, 3, r.Further[2].Covers)
}

// What nothing owned makes, a kind makes that is allowed besides; it is said that it is not owned.
func TestAKindThatIsNotOwnedMayBeTaken(t *testing.T) {
	p := quay(t, "mid-hump-overdrive")
	r, err := choose.For(context.Background(), p, choose.Options{SetList: "night", Kept: kept})
	require.NoError(t, err)
	at := slices.IndexFunc(r.Sounds, func(s choose.Sound) bool { return s.Sound == "haze" })
	assert.Equal(t, "The pile has no tremolo.", r.Sounds[at].WhyNot)
	assert.Equal(t, []plan.ID{"haze"}, r.Sets[0].Misses)

	r, err = choose.For(
		context.Background(), p, choose.Options{SetList: "night", Kinds: []string{"tremolo"}, Kept: kept},
	)
	require.NoError(t, err)
	best := r.Sets[0]
	assert.Empty(t, best.Misses)
	require.Len(t, best.New, 1)
	box := slices.IndexFunc(r.Pile, func(b choose.Box) bool { return b.Gear == best.New[0].ID })
	assert.Equal(t, "tremolo", r.Pile[box].Kind)
	_, there := p.FindGear(best.New[0].ID)
	assert.False(t, there, "the plan is left as it was")
	p.Put(best.New[0])
	p.Put(best.Rig)
	assert.Empty(t, p.Validate())
}

// A sound that asks for so many repeats is not made by a delay as it stands, and is with its knob turned.
func TestADelayIsTurnedToTheRepeatsThatAreAsked(t *testing.T) {
	p := quay(t, "digital-delay")
	s, _ := p.FindSound("haze")
	asks := *s
	asks.Targets.Effects = []plan.Heard{{Effect: plan.EffectDelay, Note: "1/4", Repeats: ptr(9)}}
	p.Put(asks)
	r, err := choose.For(context.Background(), p, choose.Options{Sounds: []plan.ID{"home", "haze"}, Kept: kept})
	require.NoError(t, err)
	require.NotEmpty(t, r.Sets)
	assert.Equal(t, []plan.ID{"home", "haze"}, r.Sets[0].Covers)
	key := plan.Key("digital-delay/fx/repeats")
	_, turned := r.Sets[0].Rig.Base[key]
	assert.True(t, turned)
}

// A preamp pedal that cannot be off colours every sound: it is taken along only where every sound bears it.
func TestWhatCannotBeOffCounts(t *testing.T) {
	p := quay(t, "mid-hump-overdrive")
	g, _ := p.FindGear("mid-hump-overdrive")
	always := *g
	always.Blocks = slices.Clone(g.Blocks)
	always.Blocks[0].Bypass, always.Footswitches = plan.AlwaysOn, nil
	p.Put(always)
	r, err := choose.For(context.Background(), p, choose.Options{Sounds: []plan.ID{"home", "crunch"}, Kept: kept})
	require.NoError(t, err)
	assert.True(t, r.Pile[0].Always)
	require.NotEmpty(t, r.Sets)
	assert.Equal(t, []plan.ID{"home"}, r.Sets[0].Covers, "home is clean, and this is on in it")
	assert.Empty(t, r.Sets[0].Boxes)
}

func TestTheBoardAndTheSupplyAreAsked(t *testing.T) {
	p := quay(t, "mid-hump-overdrive", "tremolo")
	tiny := plan.Gear{ID: "plank", Name: "Plank", Kind: plan.Board, Size: &plan.Size{Width: 100, Depth: 150}}
	p.Put(tiny)
	outputs := []plan.PowerOutput{{ID: "1", Voltages: []float64{9}, CurrentMA: 100}}
	p.Put(plan.Gear{ID: "weak", Name: "Weak supply", Kind: plan.Supply, Supply: &plan.PowerSupply{Outputs: outputs}})
	require.Empty(t, p.Validate())
	r, err := choose.For(
		context.Background(), p, choose.Options{SetList: "night", Board: "plank", Supply: "weak", Kept: kept},
	)
	require.NoError(t, err)
	best := r.Sets[0]
	require.NotNil(t, best.Fits)
	assert.False(t, *best.Fits, "two boxes and their plugs on ten centimetres")
	assert.NotEmpty(t, best.LeftOut)
	require.NotNil(t, best.Fed)
	assert.Equal(t, *best.Fed, len(best.Unfed) == 0)
	assert.Equal(t, best.Outputs, len(best.Rig.PowerPlan))
	for _, id := range best.LeftOut {
		_, placed := best.Rig.Floor.Places[id]
		assert.False(t, placed)
	}
}

// A sound that says nothing has to be as a rig makes it, and one that no rig makes either is left out: with nothing on
// it would be made by anything.
func TestASoundThatSaysNothingIsAsARigMakesIt(t *testing.T) {
	for rig, boxes := range map[string][]plan.ID{
		"looper": {"deep", "sand"}, "two-amps": {"grit"}, "four-cables": {"raft"}, "fuzz-night": {"cry", "moss", "amble"},
	} {
		data, err := os.ReadFile("../../testdata/rigs/" + rig + "/rig.envex.json")
		require.NoError(t, err)
		p, err := plan.Decode(data)
		require.NoError(t, err)
		p.Put(plan.Sound{ID: "moon", Name: "Moon", Short: "MO", Tape: "bone", Role: "texture"})
		r, err := choose.For(context.Background(), p, choose.Options{Rig: p.Rigs[0].ID, Kept: kept})
		require.NoError(t, err)
		require.NotEmpty(t, r.Sets, rig)
		assert.ElementsMatch(t, boxes, r.Sets[0].Boxes, rig)
		assert.Equal(t, []plan.ID{"moon"}, r.Unsaid, rig)
		for _, s := range r.Sounds {
			assert.Equal(t, p.Rigs[0].Name, s.AsMadeBy, "%s of %s", s.Name, rig)
		}
		for _, m := range r.Sets[0].Made {
			assert.Positive(t, m.Dirt, "%s of %s is metered", m.Name, rig)
		}
		s, _ := p.FindSound(r.Sounds[0].Sound)
		assert.Nil(t, s.Targets.DirtMin, "the plan is left as it was")
	}
}

func TestWhatIsNotThereIsRefused(t *testing.T) {
	p := quay(t, "tremolo")
	for words, o := range map[string]choose.Options{
		`there is no sound "nope"`:                 {Sounds: []plan.ID{"nope"}},
		`there is no set list "nope"`:              {SetList: "nope"},
		`there is no kind "nope"`:                  {Kinds: []string{"nope"}},
		`there is no board "nope"`:                 {Board: "nope"},
		"Tremolo is not a board":                   {Board: "tremolo"},
		"Tremolo is not a supply":                  {Supply: "tremolo"},
		"the most boxes must be 1 or more, not -1": {Most: -1},
	} {
		_, err := choose.For(context.Background(), p, o)
		assert.ErrorContains(t, err, words)
	}
	none := quay(t)
	none.Drop(plan.KindGear, "combo-plain")
	_, err := choose.For(context.Background(), none, choose.Options{})
	assert.ErrorContains(t, err, "there is no amp to play through")
	_, err = choose.For(context.Background(), &plan.Plan{}, choose.Options{})
	assert.ErrorContains(t, err, "there is no sound to make")

	ctx, cancel := context.WithCancel(context.Background())
	cancel()
	_, err = choose.For(ctx, p, choose.Options{Kept: kept})
	assert.ErrorIs(t, err, context.Canceled)
}
