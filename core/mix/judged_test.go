package mix

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"

	"envex/core/hearing"
	"envex/core/plan"
	"envex/core/signal"
)

// quay is a band of a voice, an organ, a drummer and another guitar.
func quay() *room {
	three := 3
	return &room{
		plan: &plan.Plan{Sounds: []plan.Sound{
			{ID: "home", Name: "Home", Role: plan.HomeRole}, {ID: "haze", Name: "Haze", Role: plan.TextureRole},
			{ID: "echo", Name: "Echo", Role: plan.RhythmRole, Targets: plan.Targets{Effects: []plan.Heard{
				{Effect: plan.EffectDelay, Repeats: &three}, {Effect: plan.EffectReverb},
			}}},
		}},
		band: &plan.Band{Parts: []plan.Part{
			{ID: "voice", Kind: plan.Voice}, {ID: "organ", Kind: plan.Organ}, {ID: "drums", Kind: plan.Drums},
			{ID: "guitar", Kind: plan.GuitarMid},
		}},
		out: &Report{},
	}
}

func TestWhatIsLookedAtInAScene(t *testing.T) {
	x := quay()
	limits := func(s Scene) map[string]float64 {
		out := map[string]float64{}
		for _, c := range x.checks(s) {
			out[c.what+string(c.part)] = c.limit
		}
		return out
	}
	apart := 2.0
	parts := []PartHeard{{Part: "voice"}, {Part: "organ"}, {Part: "drums"}, {Part: "guitar", Apart: &apart}}
	assert.Equal(t, map[string]float64{
		"buried": 8, "coversvoice": 40, "coversorgan": 60, "coversdrums": 60, "coversguitar": 60, "alikeguitar": 3,
		"ringsvoice": 12, "ringsorgan": 12,
	}, limits(Scene{Sound: "home", Parts: parts}))
	assert.Equal(t, map[string]float64{"buried": 4, "coversdrums": 60}, limits(Scene{Sound: "haze", Parts: parts[2:3]}))
	assert.Equal(t, map[string]float64{"under": 0, "coversvoice": 40, "ringsvoice": 12, "coversdrums": 80},
		limits(Scene{Sound: "home", Lead: true, Parts: []PartHeard{parts[0], parts[2]}}), "a lead may cover, but no voice")
	assert.Empty(t, limits(Scene{Sound: "home"}), "alone it has nothing to be heard through")
	repeats := []Repeats{{Heard: 1}, {Heard: 2}}
	assert.Equal(t, map[string]float64{"repeats": 2}, limits(Scene{Sound: "echo", Repeats: repeats}), "half of three")
	assert.Empty(t, limits(Scene{Sound: "home", Repeats: repeats}), "none are asked for")
	assert.Empty(t, limits(Scene{Sound: "echo"}), "nothing repeats")
}

func TestALaneIsHeldAgainstWhereItIsWished(t *testing.T) {
	x := quay()
	wished := -3.0
	lanes := func(level float64) check {
		return x.checks(Scene{Sound: "home", Lanes: []Lane{{Key: "di", Level: level, Wished: &wished}, {Key: "amp"}}})[0]
	}
	assert.Len(t, x.checks(Scene{Sound: "home", Lanes: []Lane{{Key: "amp", Level: 9}}}), 0)
	for level, where := range map[float64]string{-1: "loud", -5: "quiet"} {
		got := lanes(level)
		assert.InDelta(t, 2, got.figure, 1e-12)
		assert.InDelta(t, 1, got.off(), 1e-12)
		assert.Equal(t, where, got.where)
	}
	assert.LessOrEqual(t, lanes(-2).off(), 0.0, "as far as it may be")
}

func TestFindingsAreGatheredByTheirWorst(t *testing.T) {
	x := quay()
	x.out.Scenes = []Scene{
		{Sound: "home", Name: "Home", Guitar: GuitarHeard{Share: 6}, Parts: []PartHeard{
			{Part: "organ", Name: "Organ", Loses: 70},
		}},
		{Sound: "home", Name: "Home", Guitar: GuitarHeard{Share: 2}, Parts: []PartHeard{
			{Part: "organ", Name: "Organ", Loses: 60},
		}},
		{Sound: "home", Name: "Home", Guitar: GuitarHeard{Share: 7}, Parts: []PartHeard{
			{Part: "voice", Name: "Voice", Loses: 41, Most: "800 Hz"},
		}},
	}
	x.out.Sections = []Section{
		{Position: 0, Scene: 1}, {Position: 1, Scene: 2}, {Position: 2, Scene: 0}, {Position: 3, Scene: 1},
	}
	x.find()
	var titles []string
	for _, f := range x.out.Findings {
		titles = append(titles, f.Title)
	}
	assert.Equal(t, []string{"Home covers Voice", "Home covers Organ", "Home is buried"}, titles, "a voice before all")
	buried := x.out.Findings[2]
	assert.Equal(t, []int{1, 0, 2}, buried.Scenes, "the worst first")
	assert.Equal(t, []int{0, 1, 2, 3}, buried.Positions)
	assert.Equal(t, "room:buried:home:", buried.ID)
	assert.Equal(t, "2 % of it is heard among the others; 8 % is the least.", buried.Words)
	organ := x.out.Findings[1]
	assert.Equal(t, []int{0}, organ.Scenes, "at its limit it is well")
	assert.Equal(t, []int{2}, organ.Positions)
	assert.Equal(t, [2]float64{70, 60}, [2]float64{organ.Figure, organ.Limit})
	assert.Equal(t, "It takes 41 % of what is heard of Voice, most at 800 Hz.", x.out.Findings[0].Words)
}

func TestWhatIsWorseComesFirst(t *testing.T) {
	order := []check{
		{what: "under", figure: -3, more: true}, {what: "covers", figure: 60, limit: voicePct},
		{what: "buried", figure: 0, limit: buriedPct, more: true}, {what: "covers", figure: 61, limit: partPct},
		{what: "rings", figure: 20, limit: ringsPct}, {what: "alike", figure: 1, limit: alikeDB, more: true},
		{what: "repeats", figure: 0, limit: 2, more: true}, {what: "lane", figure: 2, limit: laneLU},
	}
	// A voice that is covered by twenty is worse than a lead that is three under: both begin at 300.
	assert.Greater(t, gravityOf(order[1]), gravityOf(order[0]))
	for i := 2; i < len(order); i++ {
		assert.Greater(t, gravityOf(order[i-1]), gravityOf(order[i]), order[i].what)
	}
	assert.InDelta(t, 399, gravityOf(check{what: "under", figure: -400, more: true}), 1e-9, "no more than a class")
}

func TestAKnobIsTurnedAsFarAsItGoes(t *testing.T) {
	k := knob{signal.KnobOf{Key: "a", At: 9, Low: 0, High: 10}}
	list := k.turns(nil, -3.5, 3.5)
	assert.Equal(t, []turn{{knob: k.KnobOf, to: 5.5}, {knob: k.KnobOf, to: 10}}, list)
	assert.Len(t, k.turns(list, 1, -3.5), 2, "these are there already")
	assert.Len(t, k.turns(list, -1), 3)
	other := knob{signal.KnobOf{Key: "b", At: 9, Low: 0, High: 10}}
	assert.Len(t, other.turns(list, 1), 3, "of another knob it is another turn")
	end := knob{signal.KnobOf{Key: "c", At: 10, Low: 0, High: 10}}
	assert.Empty(t, end.turns(nil, 1), "it stands at its end")
	wide := knob{signal.KnobOf{Key: "d", At: -2, Low: -12, High: 12}}
	got := wide.turns(nil, 1)[0]
	assert.InDelta(t, 0.4, got.to, 1e-12)
	assert.InDelta(t, 1, got.size(), 1e-12, "a tenth of its turn")
	assert.InDelta(t, 3.5, list[0].size(), 1e-12)
}

func TestAShapeFallsBeyondItsPoints(t *testing.T) {
	s := shape{points: []point{{100, -4}, {400, 0}, {1600, -8}}}
	assert.InDelta(t, -4-18, s.at(50), 1e-9)
	assert.InDelta(t, -8-36, s.at(6400), 1e-9)
	assert.InDelta(t, -2, s.at(200), 1e-9, "halfway on a scale of octaves")
	assert.InDelta(t, -4, s.at(800), 1e-9)
	for _, p := range s.points {
		assert.InDelta(t, p.db, s.at(p.hz), 1e-9)
	}
	assert.Equal(t, shapes[plan.OtherPart], shapeOf("saw"), "of a kind that is not known")
}

// What is played in one moment of a second's hall falls by 15 dB each quarter of it.
func TestWhatRingsFallsBySixtyDecibelsInTheTimeOfTheHall(t *testing.T) {
	var list [moments]hearing.Spectrum
	list[moments-1][7] = 1 // the moment before the first
	got := ringing(list, 1)
	levels := func(m int) float64 { return 10 * math.Log10(got[m][7]) }
	for m := 1; m < 5; m++ {
		assert.InDelta(t, -15, levels(m)-levels(m-1), 1e-6)
	}
	fall := math.Pow(10, -1.5)
	assert.InDelta(t, 1.2*(1-fall), got[0][7]/got[moments-1][7], 1e-9, "beside what comes from the stage itself")
	assert.Zero(t, got[0][8])
	assert.Equal(t, list, ringing(list, 0), "in the open air nothing rings")
}

func TestMomentsLieEvenlyInTheirRange(t *testing.T) {
	assert.InDelta(t, -15, place(32, 0), 1e-12)
	assert.InDelta(t, 15, place(32, moments-1), 1e-12)
	assert.InDelta(t, 2, place(32, 5)-place(32, 4), 1e-12)
	assert.NotEqual(t, shuffled(seedOf("a", 3)), shuffled(seedOf("a", 4)), "in each band another order")
	assert.NotEqual(t, shuffled(seedOf("a", 3)), shuffled(seedOf("b", 3)))
}

func TestOnlyWhatIsWithinTwentyDecibelsTellsSpectraApart(t *testing.T) {
	a := hearing.FromLevels([hearing.Bands]float64{10: 60, 11: 60})
	b := hearing.FromLevels([hearing.Bands]float64{10: 63, 11: 57})
	assert.InDelta(t, 3, apartDB(a, b), 1e-9)
	weak := hearing.FromLevels([hearing.Bands]float64{10: 60, 11: 60, 12: 39})
	assert.InDelta(t, 0, apartDB(a, weak), 1e-9)
	counted := hearing.FromLevels([hearing.Bands]float64{10: 60, 11: 60, 12: 41})
	// 30 dB under the strongest is taken for nothing: 0, 0 and -11, about their mean.
	assert.InDelta(t, math.Sqrt(2*121.0/9), apartDB(a, counted), 1e-9)
}
