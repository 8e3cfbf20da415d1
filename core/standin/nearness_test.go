package standin

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"

	"envex/core/plan"
	"envex/core/reach"
	"envex/core/signal"
)

func of[T any](x T) *T { return &x }

// echoes is a search for what stands in for an echo, in a sound that had three repeats at 300 ms.
func echoes() (*search, *plan.Plan) {
	echo := func(id plan.ID, model string) plan.Gear {
		return plan.Gear{ID: id, Kind: plan.Pedal, Blocks: []plan.Block{
			{ID: "fx", Effect: plan.EffectDelay, Model: model, Bypass: plan.TrueBypass},
		}}
	}
	models := plan.ModelsOf(plan.EffectDelay)
	p := &plan.Plan{
		Gear:   []plan.Gear{echo("old", models[0].ID), echo("same", models[0].ID), echo("other", models[1].ID)},
		Sounds: []plan.Sound{{ID: "wet", Name: "Wet"}},
		Rigs:   []plan.Rig{{ID: "rig", Recipes: []plan.Recipe{{Sound: "wet"}}}},
	}
	s := &search{plan: p, rig: &p.Rigs[0], box: &p.Gear[0], uses: []plan.ID{"wet"}}
	s.was = map[plan.ID]signal.Sound{"wet": {Sound: "wet", Figures: signal.Figures{
		Sides: of(0.5), Times: []signal.TimeFigures{{Stop: "old/fx", MS: 300, Audible: 3, First: -6}},
	}}}
	return s, p
}

func TestHowFarRepeatsAreFromWhatTheyWere(t *testing.T) {
	s, p := echoes()
	far := func(box plan.Key, f signal.TimeFigures, side float64) float64 {
		f.Stop = box + "/fx"
		now := signal.Sound{Sound: "wet", Figures: signal.Figures{Sides: &side, Times: []signal.TimeFigures{f}}}
		return s.ringing(p, now, map[plan.Key]plan.Key{"old/fx": box + "/fx"})
	}
	was := signal.TimeFigures{MS: 300, Audible: 3, First: -6}
	assert.Zero(t, far("same", was, 0.5))
	assert.InDelta(t, 0.25, far("other", was, 0.5), 1e-12, "another circuit")
	assert.InDelta(t, 0.5, far("same", signal.TimeFigures{MS: 300 * math.Sqrt2, Audible: 3, First: -6}, 0.5), 1e-9)
	assert.InDelta(t, 1, far("same", signal.TimeFigures{MS: 1200, Audible: 3, First: -6}, 0.5), 1e-12,
		"an octave, and no more")
	assert.InDelta(t, 0.5, far("same", signal.TimeFigures{MS: 300, Audible: 1, First: -6}, 0.5), 1e-12)
	assert.InDelta(t, 1, far("same", signal.TimeFigures{MS: 300, Audible: 9, First: -6}, 0.5), 1e-12)
	assert.InDelta(t, 0.5, far("same", signal.TimeFigures{MS: 300, Audible: 3, First: -9}, 0.5), 1e-12)
	assert.InDelta(t, 1, far("same", signal.TimeFigures{MS: 300, Audible: 3, First: -60}, 0.5), 1e-12)
	assert.InDelta(t, 0.25, far("same", was, 0.75), 1e-12, "its two sides")

	// What rings has no time of its own.
	s.was["wet"].Figures.Times[0] = signal.TimeFigures{Stop: "old/fx", Rings: 2}
	assert.InDelta(t, 1, far("same", signal.TimeFigures{Rings: 1}, 0.5), 1e-12)
	assert.InDelta(t, 0.4, far("same", signal.TimeFigures{Rings: 2 * math.Pow(2, 0.4)}, 0.5), 1e-9)
	s.box.Blocks[0].Effect = plan.EffectOverdrive
	assert.Zero(t, far("same", signal.TimeFigures{Rings: 1}, 0.1), "of what does not ring nothing was metered")
}

func TestWhatHasNoRepeatsIsFar(t *testing.T) {
	s, p := echoes()
	now := signal.Sound{Sound: "wet", Figures: signal.Figures{Sides: of(0.5)}}
	assert.InDelta(t, 2, s.ringing(p, now, map[plan.Key]plan.Key{"old/fx": "same/fx"}), 1e-12)
	assert.Zero(t, s.ringing(p, now, map[plan.Key]plan.Key{"same/fx": "old/fx"}), "what did not repeat need not")
	now.Sound = "new"
	assert.Zero(t, s.ringing(p, now, map[plan.Key]plan.Key{"old/fx": "same/fx"}))
}

func TestOctavesApart(t *testing.T) {
	assert.InDelta(t, 0.5, octaves(1, math.Sqrt2), 1e-12)
	assert.InDelta(t, 0.5, octaves(math.Sqrt2, 1), 1e-12)
	assert.InDelta(t, 1, octaves(100, 1), 1e-12)
	assert.InDelta(t, 0.3, octaves(0, 0.3), 1e-12)
	assert.InDelta(t, 1, octaves(7, 0), 1e-12)
	assert.Zero(t, octaves(0, 0))
}

func TestSoundsThatLoseTheirTwoSidesAreNamed(t *testing.T) {
	s, _ := echoes()
	now := func(side *float64) []signal.Sound {
		return []signal.Sound{{Sound: "wet", Name: "Wet", Figures: signal.Figures{Sides: side}}, {Sound: "new", Name: "New"}}
	}
	assert.Equal(t, []string{"Wet had two sides, and both are the same now."}, s.oneSide(now(nil)))
	assert.Equal(t, []string{"Wet had two sides, and both are the same now."}, s.oneSide(now(of(1.0))))
	assert.Empty(t, s.oneSide(now(of(0.98))))
	s.was["wet"] = signal.Sound{Figures: signal.Figures{Sides: of(0.96)}}
	assert.Empty(t, s.oneSide(now(nil)), "they were alike")
}

func TestHowFarASoundIsOut(t *testing.T) {
	sound := &plan.Sound{ID: "lead", Targets: plan.Targets{
		LoudnessLU: of(4.0), ToleranceLU: of(1.0), DirtMin: of(20.0), DirtMax: of(40.0),
	}}
	s := &search{was: map[plan.ID]signal.Sound{"lead": {OverHome: 4, Figures: signal.Figures{Dirt: 30}}}}
	off := func(loudness, dirt float64) float64 {
		return s.off(sound, signal.Sketch{Loudness: loudness, Dirt: dirt})
	}
	assert.Zero(t, off(4, 30))
	assert.InDelta(t, 0.1+0.1, off(5, 40), 1e-9, "within, a tenth of how far it is from what it was")
	assert.InDelta(t, 1+outAtAll+0.2, off(6, 30), 1e-9)
	assert.InDelta(t, 1+outAtAll+0.2, off(2, 30), 1e-9)
	assert.InDelta(t, 1+outAtAll+0.2, off(4, 50), 1e-9)
	assert.InDelta(t, 1+outAtAll+0.2, off(4, 10), 1e-9)
	near := func(margin float64) float64 { return s.offBy(sound, signal.Sketch{Loudness: 4.9, Dirt: 30}, margin) }
	assert.InDelta(t, 0.09, near(0.1), 1e-9)
	assert.InDelta(t, 0.1+outAtAll+0.09, near(0.2), 1e-9)
	assert.InDelta(t, 0.9+outAtAll+0.09, near(9), 1e-9, "no narrower than nothing")
}

func TestTheNearestSettingIsChosenByWhatWasHeard(t *testing.T) {
	sound := &plan.Sound{ID: "lead", Targets: plan.Targets{LoudnessLU: of(4.0), ToleranceLU: of(1.0)}}
	s := &search{was: map[plan.ID]signal.Sound{"lead": {OverHome: 4}}}
	level := plan.Key("box/fx/level")
	tuned := &tuning{sounds: []*plan.Sound{sound}}
	for i, loudness := range []float64{1, 3.6, 4.4, 7} {
		tuned.points = append(tuned.points, point{
			values: map[plan.Key]plan.Value{level: plan.Number(float64(i))}, got: []signal.Sketch{{Loudness: loudness}},
		})
	}
	tuned.points = append(tuned.points, point{got: []signal.Sketch{{Loudness: 3.6}}})
	assert.Equal(t, 1, s.nearest(tuned, nil), "the first of those that are as near")
	tuned.at = 1
	r := plan.Rig{}
	assert.False(t, s.corrected(&r, []*tuning{tuned}, []Near{{Sound: "lead", OverHome: 3.8}}))
	assert.Nil(t, r.Base)
	assert.True(t, s.corrected(&r, []*tuning{tuned}, []Near{{Sound: "other"}, {Sound: "lead", OverHome: 0.9}}),
		"it was 2.7 softer")
	assert.Equal(t, 3, tuned.at)
	assert.Equal(t, map[plan.Key]plan.Value{level: plan.Number(3)}, r.Base)
}

func TestAKnobStandsForAllSounds(t *testing.T) {
	key, other := plan.Key("box/fx/level"), plan.Key("box/fx/tone")
	values := func(level, tone float64) map[plan.Key]plan.Value {
		return map[plan.Key]plan.Value{key: plan.Number(level), other: plan.Number(tone)}
	}
	r := plan.Rig{
		Base: values(1, 2), Recipes: []plan.Recipe{{Values: values(3, 4)}},
		Destinations: []plan.Destination{{Base: values(5, 6), Recipes: []plan.Recipe{{Values: values(7, 8)}}}},
	}
	got := Set(r, map[plan.Key]plan.Value{key: plan.Number(9)})
	tone := func(x float64) map[plan.Key]plan.Value { return map[plan.Key]plan.Value{other: plan.Number(x)} }
	assert.Equal(t, values(9, 2), got.Base)
	assert.Equal(t, tone(4), got.Recipes[0].Values)
	assert.Equal(t, tone(6), got.Destinations[0].Base)
	assert.Equal(t, tone(8), got.Destinations[0].Recipes[0].Values)
	assert.Equal(t, []map[plan.Key]plan.Value{values(1, 2), values(3, 4), values(5, 6), values(7, 8)},
		[]map[plan.Key]plan.Value{
			r.Base, r.Recipes[0].Values, r.Destinations[0].Base, r.Destinations[0].Recipes[0].Values,
		}, "the rig is not changed")
}

func TestWhereKnobsAreMetered(t *testing.T) {
	c := &plan.Control{ID: "level", Min: of(-10.0), Max: of(10.0)}
	numbers := func(list []map[plan.Key]plan.Value) (out []float64) {
		for _, x := range list {
			out = append(out, x["box/fx/level"].Float())
		}
		return out
	}
	assert.Equal(t, []float64{-7, -3, 1, 5, 9}, numbers(places("box/fx", c)))
	near := map[plan.Key]plan.Value{"box/fx/level": plan.Number(8.5)}
	assert.Equal(t, []float64{6.1, 6.9, 7.7, 8.5, 9.3, 10, 10}, numbers(around("box/fx", c, near, 0.4)), "to its end")
	none := []map[plan.Key]plan.Value{{}}
	assert.Equal(t, none, places("box/fx", nil))
	assert.Equal(t, none, around("box/fx", nil, near, 0.4))
	assert.Len(t, product(places("box/fx", c), places("box/fx", nil)), 5)
	both := product(
		[]map[plan.Key]plan.Value{{"a": plan.Number(1)}, {"a": plan.Number(2)}},
		[]map[plan.Key]plan.Value{{"b": plan.Number(3)}},
	)
	assert.Equal(t, map[plan.Key]plan.Value{"a": plan.Number(2), "b": plan.Number(3)}, both[1])
}

func TestWhatOthersAreMeasuredAgainst(t *testing.T) {
	s := &search{}
	p := &plan.Plan{Sounds: []plan.Sound{
		{ID: "idle", Role: plan.HomeRole}, {ID: "verse", Role: plan.RhythmRole}, {ID: "home", Role: plan.HomeRole},
	}}
	r := &plan.Rig{Recipes: []plan.Recipe{{Sound: "home"}, {Sound: "verse"}}}
	assert.Equal(t, plan.ID("home"), s.home(p, r).ID)
	r.Recipes = r.Recipes[1:]
	assert.Equal(t, plan.ID("verse"), s.home(p, r).ID, "else the first that is made")
	assert.Nil(t, s.home(p, &plan.Rig{}))
}

func TestHowManySectionsHaveASound(t *testing.T) {
	s := &search{}
	assert.Equal(t, 1, s.sections("a"), "without a set")
	s.before = &reach.Report{Sections: []reach.Section{{Sound: "a"}, {Sound: "b"}, {Sound: "a"}}}
	assert.Equal(t, []int{2, 1, 0}, []int{s.sections("a"), s.sections("b"), s.sections("c")})
}

func TestAKnobWithoutAUnitHasAClockFace(t *testing.T) {
	k := knob("box/fx/level", &plan.Control{Name: "level", Min: of(0.0), Max: of(20.0)}, 5)
	assert.InDelta(t, 0.25, *k.Turn, 1e-12)
	assert.Equal(t, plan.ClockFace(0.25), k.Clock)
	timed := knob("box/fx/time", &plan.Control{Name: "time", Unit: "ms"}, 380)
	assert.Nil(t, timed.Turn)
	assert.Empty(t, timed.Clock)
	assert.Equal(t, "380 ms", timed.Where())
}
