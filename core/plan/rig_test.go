package plan_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
)

func keysOf(list []plan.Variable) []plan.Key {
	keys := make([]plan.Key, len(list))
	for i, v := range list {
		keys[i] = v.Key
	}
	return keys
}

func TestVariablesOfGear(t *testing.T) {
	p := small()
	echo, _ := p.FindGear("echo")
	list := echo.Variables()
	assert.Equal(t, []plan.Key{"echo/delay/on", "echo/delay/time", "echo/delay/preset"}, keysOf(list))
	assert.True(t, list[0].IsOn())
	assert.Equal(t, plan.On(false), list[0].Default)
	require.Len(t, list[1].When, 1, "a control of a block that is off does nothing")
	assert.True(t, list[1].When[0].Holds(plan.On(true)))
	assert.False(t, list[1].When[0].Holds(plan.On(false)))
	assert.Equal(t, plan.Number(610), list[1].Default, "the middle of its range")
	assert.Equal(t, plan.Text("A"), list[2].Default)
	preset, ok := echo.PresetControl()
	require.True(t, ok)
	assert.Equal(t, plan.Key("echo/delay/preset"), preset.Key)

	combo, _ := p.FindGear("combo")
	assert.Empty(t, combo.Variables(), "what is always on has no switch")
	guitar, _ := p.FindGear("gtr")
	assert.Equal(t, []plan.Key{"gtr/pickup"}, keysOf(guitar.Variables()))
	_, ok = guitar.PresetControl()
	assert.False(t, ok)
}

func TestConditionsOfControls(t *testing.T) {
	p := small()
	g := &p.Gear[2]
	g.Blocks[0].Controls[0].When = &plan.Condition{Variable: "delay/preset", Is: []plan.Value{plan.Text("B")}}
	require.Empty(t, p.Validate())
	time := g.Variables()[1]
	require.Len(t, time.When, 2)
	assert.Equal(t, plan.Key("echo/delay/preset"), time.When[1].Key)
	g.Blocks[0].Controls[0].When.Is = []plan.Value{plan.Text("Z")}
	assert.Contains(t, p.Validate().Error(), "no option")
	g.Blocks[0].Controls[0].When = &plan.Condition{Variable: "delay/nothing"}
	said := p.Validate().Error()
	assert.Contains(t, said, "no control")
	assert.Contains(t, said, "at least one value")
}

func TestWhatASwitchDoes(t *testing.T) {
	p := small()
	r, amber := &p.Rigs[0], &p.Gear[1]
	press, hold, double := r.SwitchDoes(amber, &amber.Footswitches[0])
	require.NotNil(t, press)
	assert.Equal(t, plan.Key("amber/drive/on"), press.Actions[0].Target, "the gear's target made whole")
	assert.Nil(t, hold)
	assert.Nil(t, double)
	assert.Equal(t, plan.Key("drive/on"), amber.Footswitches[0].Press.Actions[0].Target, "the gear is left as it is")

	r.Assignments = []plan.Assignment{
		{
			Gear: "amber", Switch: "s",
			Hold: &plan.Press{Actions: []plan.Action{{Kind: plan.Step, Target: "echo/delay/preset"}}},
		},
	}
	require.Empty(t, p.Validate())
	press, hold, _ = r.SwitchDoes(amber, &amber.Footswitches[0])
	assert.Nil(t, press, "the rig's word replaces the gear's")
	assert.Equal(t, plan.Key("echo/delay/preset"), hold.Actions[0].Target)
	assert.Equal(t, 1, hold.Actions[0].Stride())
	assert.Equal(t, -2, plan.Action{By: -2}.Stride())
}

func TestSettingsAndRecipes(t *testing.T) {
	p := small()
	r := &p.Rigs[0]
	gain := p.Gear[1].Variables()[1]
	assert.Equal(t, plan.Number(4), r.BaseValue(gain))
	delete(r.Base, gain.Key)
	assert.Equal(t, plan.Number(5), r.BaseValue(gain), "the control's own default")

	r.Recipes = append(r.Recipes, plan.Recipe{ID: "r2", Sound: "home"})
	assert.Equal(t, plan.ID("r1"), r.RecipeFor(plan.Section{Sound: "home"}).ID, "the first is the usual one")
	assert.Equal(t, plan.ID("r2"), r.RecipeFor(plan.Section{Sound: "home", Recipe: "r2"}).ID)
	assert.Equal(t, plan.ID("r1"), r.RecipeFor(plan.Section{Sound: "home", Recipe: "of another rig"}).ID)
	assert.Nil(t, r.RecipeFor(plan.Section{Sound: "other"}))
	assert.Equal(t, []plan.ID{"gtr", "amber", "echo", "combo"}, r.GearIn())
	assert.Equal(t, plan.ID("amber"), plan.Key("amber/drive/on").Gear())
	assert.Equal(t, "drive/on", plan.Key("amber/drive/on").Rest())
}

func TestGapsAndTempi(t *testing.T) {
	l := plan.SetList{}
	assert.Equal(t, 15.0, l.GapBefore(plan.SetEntry{}))
	l.GapS = ptr(20.0)
	assert.Equal(t, 20.0, l.GapBefore(plan.SetEntry{}))
	assert.Equal(t, 5.0, l.GapBefore(plan.SetEntry{GapS: ptr(5.0)}))
	assert.Zero(t, l.GapBefore(plan.SetEntry{GapS: ptr(5.0), Segue: true}), "a segue has none")
	song := plan.Song{Tempo: plan.Tempo{BPM: 100}}
	assert.Equal(t, 100.0, plan.Section{}.TempoIn(song).BPM)
	assert.Equal(t, 80.0, plan.Section{Tempo: &plan.Tempo{BPM: 80}}.TempoIn(song).BPM)
}

func TestTheProfileFillsInWhatIsNotSaid(t *testing.T) {
	assert.Equal(t, plan.DefaultFootwork(), plan.FootProfile{}.Filled())
	f := plan.FootProfile{A: ptr(0.0), Width: ptr(40.0), Taps: ptr(3)}.Filled()
	assert.Zero(t, f.A, "nought is a value")
	assert.Equal(t, 40.0, f.Width)
	assert.Equal(t, 3, f.Taps)
	assert.Equal(t, plan.DefaultFootwork().B, f.B)
}

func TestRinging(t *testing.T) {
	assert.Zero(t, plan.Block{RingS: ptr(5.0)}.Ring(), "without trails nothing rings")
	assert.Equal(t, 3.0, plan.Block{Trails: true}.Ring())
	assert.Equal(t, 0.5, plan.Block{Trails: true, RingS: ptr(0.5)}.Ring())
}

func TestOneAggregateIsReadStrictly(t *testing.T) {
	p := small()
	for _, a := range p.All() {
		data, err := json.Marshal(a)
		require.NoError(t, err)
		back, err := plan.DecodeAggregate(a.AggregateKind(), data)
		require.NoError(t, err)
		assert.Equal(t, a.AggregateID(), back.AggregateID())
		again, err := json.Marshal(back)
		require.NoError(t, err)
		assert.Equal(t, string(data), string(again))
	}
	for _, bad := range []string{`{`, `[]`, `{"id":"a","colour":"red"}`, `{"id":1}`} {
		_, err := plan.DecodeAggregate(plan.KindSound, []byte(bad))
		assert.Error(t, err, bad)
	}
	_, err := plan.DecodeAggregate("amplifier", []byte(`{}`))
	assert.ErrorContains(t, err, "no kind of thing")
}

func TestPathsOfAggregates(t *testing.T) {
	p := small()
	assert.Equal(t, "gear[1]", p.PathOf("amber"))
	assert.Equal(t, "rigs[0]", p.PathOf("rig"))
	assert.Empty(t, p.PathOf("nope"))
}

func TestPutAndDropLeaveOthersAlone(t *testing.T) {
	p := small()
	before := p
	for _, a := range before.All() {
		p.Put(a)
	}
	assert.Equal(t, len(before.All()), len(p.All()), "putting what is there replaces it")
	p.Drop(plan.KindGear, "amber")
	assert.Len(t, p.Gear, 3)
	assert.Len(t, before.Gear, 4, "the plan it came from is as it was")
	for _, kind := range plan.Kinds() {
		p.Drop(kind, "nope")
	}
	assert.Len(t, p.All(), len(before.All())-1)
}

func FuzzValue(f *testing.F) {
	for _, seed := range []string{
		`1`, `"A"`, `true`, `{"sync":"1/8."}`, `{"free":true}`, `{"unchanged":true}`, `null`, `[]`,
	} {
		f.Add([]byte(seed))
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		var v plan.Value
		if json.Unmarshal(data, &v) != nil {
			return
		}
		out, err := json.Marshal(v)
		require.NoError(t, err)
		var back plan.Value
		require.NoError(t, json.Unmarshal(out, &back))
		assert.Equal(t, v, back)
	})
}

func FuzzNoteFraction(f *testing.F) {
	for _, seed := range []string{"1/4", "1/8.", "1/8t", "1/", "/4", "1/04"} {
		f.Add(seed)
	}
	f.Fuzz(func(t *testing.T, note string) {
		if x, ok := plan.NoteFraction(note); ok {
			assert.Greater(t, x, 0.0)
			assert.LessOrEqual(t, x, 1.5)
		}
	})
}

func TestAPathIsChangedWhereItWasAsked(t *testing.T) {
	r := plan.Rig{Path: []plan.Node{{Stop: "a/b"}}, Destinations: []plan.Destination{{ID: "hall"}, {ID: "quay"}}}
	path := []plan.Node{{Stop: "c/d"}}
	at := r.WithPathAt("quay", path)
	assert.Equal(t, path, at.Destinations[1].Path)
	assert.Empty(t, at.Destinations[0].Path)
	assert.Equal(t, r.Path, at.Path)
	assert.Empty(t, r.Destinations[1].Path, "the rig is left alone")
	own := r.WithPathAt("", path)
	assert.Equal(t, path, own.Path)
}
