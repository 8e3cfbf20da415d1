package dial

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"envex/core/plan"
	"envex/core/signal"
)

// afloat is a guitar, a drive that is always on beside a chorus in one box, and an amp.
func afloat() *stepping {
	knob := plan.Control{ID: "level", Name: "level", Kind: plan.Knob}
	p := &plan.Plan{Gear: []plan.Gear{
		{ID: "guitar", Name: "Guitar", Kind: plan.Guitar},
		{ID: "both", Name: "Both", Kind: plan.Pedal, Blocks: []plan.Block{
			{ID: "drive", Name: "drive", Effect: plan.EffectOverdrive, Bypass: plan.AlwaysOn, Controls: []plan.Control{knob}},
			{ID: "chorus", Name: "chorus", Effect: plan.EffectChorus, Bypass: plan.TrueBypass, Controls: []plan.Control{knob}},
		}},
		{ID: "amp", Name: "Amp", Kind: plan.Amp, Blocks: []plan.Block{{ID: "preamp", Effect: plan.EffectPreamp}}},
	}}
	r := &plan.Rig{Path: []plan.Node{{Stop: "both/drive"}, {Stop: "amp/preamp"}}}
	return &stepping{plan: p, rig: r}
}

func TestWhatIsSetFirst(t *testing.T) {
	x := afloat()
	at := func(keys ...plan.Key) string {
		var list []Place
		for _, key := range keys {
			list = append(list, Place{Key: key})
		}
		return x.first(list)
	}
	assert.Equal(t, "the guitar and the amp", at("amp/preamp/gain", "guitar/volume"))
	assert.Equal(t, "the amp", at("amp/preamp/gain", "both/drive/level"))
	assert.Equal(t, "the guitar", at("guitar/volume"))
	assert.Equal(t, "what is always on", at("both/drive/level", "gone/level"))
}

func TestWhatStandsBeforeAnyPedalIsOn(t *testing.T) {
	x := afloat()
	box := &x.plan.Gear[1]
	assert.True(t, x.before(&x.plan.Gear[0], plan.Variable{}))
	assert.True(t, x.before(&x.plan.Gear[2], plan.Variable{Block: "preamp"}))
	assert.True(t, x.before(box, plan.Variable{Block: "drive"}))
	assert.False(t, x.before(box, plan.Variable{}), "of the box, and of no block that is always on")
	assert.False(t, x.before(box, plan.Variable{Block: "chorus"}))
	assert.False(t, x.before(box, plan.Variable{Block: "gone"}))
	x.rig.Path = x.rig.Path[1:]
	assert.False(t, x.before(box, plan.Variable{Block: "drive"}), "it is not in the chain")
}

func TestWhatIsSetWithABlock(t *testing.T) {
	x := afloat()
	box := &x.plan.Gear[1]
	of := inBlock(stop{key: "both/chorus", block: &box.Blocks[1]})
	assert.True(t, of(box, plan.Variable{Block: "chorus"}))
	assert.False(t, of(box, plan.Variable{Block: "drive"}))
	assert.False(t, of(box, plan.Variable{}), "the box has another block")
	assert.False(t, of(&x.plan.Gear[2], plan.Variable{Block: "chorus"}))
	box.Blocks = box.Blocks[1:]
	assert.True(t, of(box, plan.Variable{}))
}

func TestStepsInWords(t *testing.T) {
	say := func(effect plan.Effect, s Step) string {
		return s.sentence(stop{name: "Box", block: &plan.Block{Effect: effect}})
	}
	wet := "; loudness and dirt are metered without it."
	assert.Equal(t, "Turn Box on: it moves"+wet, say(plan.EffectChorus, Step{}))
	assert.Equal(t, "Turn Box on: it rings"+wet, say(plan.EffectReverb, Step{}))
	assert.Equal(t, "Turn Box on: it adds another pitch"+wet, say(plan.EffectPitch, Step{}))
	assert.Equal(t, "Turn Box on: +1.5 LU, 12 % dirt.", say(plan.EffectOverdrive, Step{Louder: 1.5, Dirt: 12.2}))
	assert.Equal(t, "Turn Box on: -2.0 LU, 3 % dirt. With its level at 6.5 it is as loud on as off.",
		say(plan.EffectCompressor, Step{Louder: -2, Dirt: 3, Matched: &Place{At: 6.5}}))
}

func TestARecipeWithTheFirstBoxesOn(t *testing.T) {
	x := &stepping{rec: plan.Recipe{Values: map[plan.Key]plan.Value{"a/fx/level": plan.Number(3)}}}
	got := x.with([]stop{{key: "a/fx"}, {key: "b/fx"}}, 1)
	assert.Equal(t, map[plan.Key]plan.Value{
		"a/fx/level": plan.Number(3), "a/fx/on": plan.On(true), "b/fx/on": plan.On(false),
	}, got.Values)
	assert.Len(t, x.rec.Values, 1, "its own stay as they are")
}

// A level is a sound's own where every other leaves its block off, or there is no other that is made.
func TestWhichLevelsOnlyOneSoundHears(t *testing.T) {
	a := afloat()
	a.plan.Sounds = []plan.Sound{{ID: "lead"}, {ID: "verse"}, {ID: "idle"}}
	a.rig.Path = append(a.rig.Path, plan.Node{Stop: "both/chorus"})
	a.rig.Recipes = []plan.Recipe{
		{ID: "1", Sound: "lead"},
		{ID: "2", Sound: "verse", Values: map[plan.Key]plan.Value{"both/chorus/on": plan.On(false)}},
	}
	x := &levelling{plan: a.plan, rig: a.rig}
	chorus := signal.KnobOf{Key: "both/chorus/level", Shared: []plan.ID{"idle", "verse"}}
	assert.True(t, x.alone(chorus, a.rig.Recipes[0]))
	assert.True(t, x.alone(signal.KnobOf{Key: "both/drive/level"}, a.rig.Recipes[0]), "no other moves with it")
	assert.False(t, x.alone(signal.KnobOf{Key: "both/drive/level", Shared: []plan.ID{"verse"}}, a.rig.Recipes[0]),
		"it is always on")
	assert.False(t, x.alone(signal.KnobOf{Key: "gone/fx/level"}, a.rig.Recipes[0]))
	a.rig.Recipes[1].Values["both/chorus/on"] = plan.On(true)
	assert.False(t, x.alone(chorus, a.rig.Recipes[0]))
}
