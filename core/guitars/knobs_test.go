package guitars

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"envex/core/plan"
)

// pedal is one box with a level.
func pedal(id plan.ID, effect plan.Effect, bypass plan.Bypass) plan.Gear {
	low, high := -10.0, 10.0
	return plan.Gear{ID: id, Name: string(id), Kind: plan.Pedal, Blocks: []plan.Block{{
		ID: "fx", Effect: effect, Bypass: bypass,
		Controls: []plan.Control{{ID: "level", Name: "level", Kind: plan.Knob, Min: &low, Max: &high}},
	}}}
}

func TestWhichKnobsAreAheadOfTheFirstStageThatClips(t *testing.T) {
	rocker := pedal("volume", plan.EffectVolume, plan.AlwaysOn)
	rocker.Blocks[0].Rocker = true
	bare := pedal("bare", plan.EffectChorus, plan.TrueBypass)
	bare.Blocks[0].Controls = nil
	p := &plan.Plan{
		Gear: []plan.Gear{
			{ID: "guitar", Name: "Guitar", Kind: plan.Guitar, Controls: []plan.Control{
				{ID: "tone", Name: "tone", Kind: plan.Knob}, {ID: "volume", Name: "volume", Kind: plan.Knob},
				{ID: "level", Name: "level", Kind: plan.Selector, Options: []string{"a", "b"}},
			}},
			pedal("boost", plan.EffectBoost, plan.TrueBypass), pedal("squeeze", plan.EffectCompressor, plan.AlwaysOn),
			rocker, bare, pedal("drive", plan.EffectOverdrive, plan.TrueBypass),
			pedal("late", plan.EffectBoost, plan.TrueBypass),
		},
		Sounds: []plan.Sound{{ID: "home"}},
	}
	r := &plan.Rig{ID: "rig", Guitars: []plan.ID{"guitar"}, Recipes: []plan.Recipe{{ID: "1", Sound: "home"}}}
	for _, stop := range []plan.Key{"volume/fx", "bare/fx", "boost/fx", "gone/fx", "squeeze/fx", "drive/fx", "late/fx"} {
		r.Path = append(r.Path, plan.Node{Stop: stop})
	}
	p.Rigs = []plan.Rig{*r}
	w := &work{plan: p, rig: r}
	var keys, on []plan.Key
	list := w.knobs(&p.Gear[0])
	for _, k := range list {
		keys, on = append(keys, k.key), append(on, k.on)
		assert.Equal(t, k.key == "guitar/volume", k.own)
	}
	assert.Equal(t, []plan.Key{"guitar/volume", "boost/fx/level", "squeeze/fx/level"}, keys)
	assert.Equal(t, []plan.Key{"", "boost/fx/on", ""}, on, "what is always on is not switched")
	assert.Equal(t, [2]float64{-10, 10}, [2]float64{list[1].low, list[1].high})
	assert.Equal(t, "Guitar volume", list[0].name)

	// What clips in a branch clips: what is behind is not ahead of it.
	r.Path = []plan.Node{
		{Split: &plan.Split{Lanes: []plan.Lane{{Nodes: []plan.Node{{Stop: "drive/fx"}}}, {}}}}, {Stop: "boost/fx"},
	}
	assert.Len(t, w.knobs(&p.Gear[0]), 1)
}

func TestWhatAKnobSetsForAGuitar(t *testing.T) {
	k := knob{key: "boost/fx/level", on: "boost/fx/on"}
	assert.Equal(t, map[plan.Key]plan.Value{"boost/fx/level": plan.Number(3.4), "boost/fx/on": plan.On(true)},
		k.values(3.4400001), "to what a hand can set")
	k.on = ""
	assert.Equal(t, map[plan.Key]plan.Value{"boost/fx/level": plan.Number(-0.1)}, k.values(-0.06))
	named := map[plan.Key]plan.Value{"boost/fx/level": plan.Number(1), "other": plan.Number(2)}
	assert.Equal(t, named, k.leftOf(named), "what a recipe names goes before the guitar")
	k.own = true
	assert.Equal(t, map[plan.Key]plan.Value{"other": plan.Number(2)}, k.leftOf(named), "but for the guitar's own knob")
	assert.Len(t, named, 2)
}

func TestHowFarASoundIsFromThatOfTheReference(t *testing.T) {
	assert.InDelta(t, 3.5, Sound{Loudness: -2, Dirt: 20, Reference: 35}.off(), 1e-12)
	assert.InDelta(t, 3.5, Sound{Loudness: 2, Dirt: 35, Reference: 20}.off(), 1e-12)
}

// Of two guitars each has its own setting, and what the way of one says of the other is left.
func TestALevelledRigHasTheNearestWayOfEachGuitar(t *testing.T) {
	r := plan.Rig{
		PerGuitar: map[plan.ID]map[plan.Key]plan.Value{"c": {"boost/fx/level": plan.Number(1)}},
		Recipes: []plan.Recipe{{ID: "1", Values: map[plan.Key]plan.Value{
			"a/volume": plan.Number(8), "b/volume": plan.Number(7), "drive/fx/on": plan.On(true),
		}}},
	}
	way := func(guitar plan.ID, level float64) Way {
		next := plan.Rig{
			PerGuitar: map[plan.ID]map[plan.Key]plan.Value{
				guitar: {"boost/fx/level": plan.Number(level)}, "c": {"boost/fx/level": plan.Number(9)},
			},
			Base:    map[plan.Key]plan.Value{plan.Key(guitar) + "/volume": plan.Number(level), "drive/fx/on": plan.On(false)},
			Recipes: []plan.Recipe{{ID: "1", Values: map[plan.Key]plan.Value{}}},
		}
		return Way{Rig: next}
	}
	x := &Report{Guitars: []Guitar{
		{Guitar: "a", Ways: []Way{way("a", 4), way("a", 5)}}, {Guitar: "b", Ways: []Way{way("b", 6)}}, {Guitar: "c"},
	}}
	got := x.Levelled(r)
	assert.Equal(t, map[plan.ID]map[plan.Key]plan.Value{
		"a": {"boost/fx/level": plan.Number(4)}, "b": {"boost/fx/level": plan.Number(6)},
		"c": {"boost/fx/level": plan.Number(1)},
	}, got.PerGuitar)
	assert.Equal(t, map[plan.Key]plan.Value{"a/volume": plan.Number(4), "b/volume": plan.Number(6)}, got.Base)
	assert.Equal(t, map[plan.Key]plan.Value{"drive/fx/on": plan.On(true)}, got.Recipes[0].Values)
	assert.Len(t, r.Recipes[0].Values, 3, "the rig itself stays as it is")
	assert.Len(t, r.PerGuitar, 1)
	assert.Nil(t, (&Report{Guitars: []Guitar{{Guitar: "a"}}}).Levelled(plan.Rig{}).PerGuitar)
}
