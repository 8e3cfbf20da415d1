package signal

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/catalog"
	"envex/core/plan"
)

// keptHere is shared by tests of other things than what is kept.
var keptHere = NewKept()

// singer is a guitar with a piezo on a jack of its own, into a DI, and magnetic pickups into a driven combo.
func singer(t *testing.T) *plan.Plan {
	t.Helper()
	p := &plan.Plan{}
	own := func(kind string, id plan.ID) {
		k, ok := catalog.Find(kind)
		require.True(t, ok, kind)
		p.Gear = append(p.Gear, k.New(id, string(id)))
	}
	own("piezo-guitar", "gull")
	own("acoustic-simulator", "acorn")
	own("di", "line")
	own("mid-hump-overdrive", "amber")
	own("combo-loop", "pier")
	voice := func(name string) plan.Value { return plan.Text(name) }
	tap := plan.Node{Split: &plan.Split{
		ID: "piezo", Kind: plan.SplitTap, From: "gull/piezo", Choice: "gull/voice",
		Main: []plan.Value{voice("magnetic"), voice("both")},
		Lanes: []plan.Lane{
			{
				Name: "piezo", When: []plan.Value{voice("piezo"), voice("both")},
				Nodes: []plan.Node{{Stop: "acorn/fx"}, {Stop: "line/fx"}},
			},
		},
	}}
	path := []plan.Node{tap, {Stop: "amber/fx"}, {Stop: "pier/preamp"}, {Stop: "pier/reverb"}, {Stop: "pier/power"}}
	rig := plan.Rig{
		ID: "rig", Name: "rig", Guitars: []plan.ID{"gull"}, Path: path,
		Base: map[plan.Key]plan.Value{"pier/preamp/gain": plan.Number(7)},
	}
	for _, name := range []string{"magnetic", "piezo", "both"} {
		p.Sounds = append(
			p.Sounds, plan.Sound{ID: plan.ID(name), Name: name, Short: name[:1], Role: plan.RhythmRole, Tape: "bone"},
		)
		rig.Recipes = append(
			rig.Recipes,
			plan.Recipe{
				ID: plan.ID("r-" + name), Sound: plan.ID(name), Values: map[plan.Key]plan.Value{"gull/voice": voice(name)},
			},
		)
	}
	p.Rigs = []plan.Rig{rig}
	require.Empty(t, p.Validate())
	return p
}

func figuresOf(t *testing.T, p *plan.Plan) map[string]Figures {
	t.Helper()
	got, err := Measure(t.Context(), p, "rig", Options{Kept: keptHere})
	require.NoError(t, err)
	out := map[string]Figures{}
	for _, s := range got.Sounds {
		out[s.Name] = s.Figures
	}
	return out
}

func TestALaneThatIsNotChosenIsNotThere(t *testing.T) {
	p := singer(t)
	before := figuresOf(t, p)
	assert.Less(t, before["piezo"].Dirt, 1.0, "a piezo into a DI is clean")
	assert.Greater(t, before["magnetic"].Dirt, 5.0, "the combo is driven")
	sum := 10 * math.Log10(math.Pow(10, before["piezo"].Loudness/10)+math.Pow(10, before["magnetic"].Loudness/10))
	assert.InDelta(t, sum, before["both"].Loudness, 1.0, "both are heard, each by itself")

	t.Run("the amp's gain moves nothing of the piezo", func(t *testing.T) {
		p := singer(t)
		p.Rigs[0].Base["pier/preamp/gain"] = plan.Number(2)
		after := figuresOf(t, p)
		assert.Equal(t, before["piezo"], after["piezo"])
		assert.Less(t, after["magnetic"].Dirt, before["magnetic"].Dirt-3)
	})
	t.Run("what the piezo gives moves nothing of the magnetic sound", func(t *testing.T) {
		p := singer(t)
		pickup, _ := p.Gear[0].FindPickup("piezo")
		*pickup.OutputMVRMS *= 2
		after := figuresOf(t, p)
		assert.Equal(t, before["magnetic"], after["magnetic"])
		assert.InDelta(t, before["piezo"].Loudness+6.02, after["piezo"].Loudness, 0.1)
	})
	t.Run("a gain map tells them apart too", func(t *testing.T) {
		r, err := newRendering(p, "rig", keptHere)
		require.NoError(t, err)
		var settings []Setting
		for _, m := range r.recipes() {
			settings = append(settings, m.setting)
		}
		got, err := r.fan(t.Context(), settings, nil, true, nil)
		require.NoError(t, err)
		for i, m := range r.recipes() {
			assert.InDelta(t, before[m.sound.Name].Playing, got[i].loudness, 0.05, m.sound.Name)
			assert.InDelta(t, before[m.sound.Name].Dirt, got[i].dirt, 0.1, m.sound.Name)
		}
	})
}

func TestLanesOfASwitch(t *testing.T) {
	p := singer(t)
	for kind, id := range map[string]plan.ID{"amp-selector": "fork", "combo-plain": "quay", "mute": "hush"} {
		k, ok := catalog.Find(kind)
		require.True(t, ok)
		p.Gear = append(p.Gear, k.New(id, string(id)))
	}
	fork, _ := p.FindGear("fork")
	fork.Blocks[0].Passive = false // so that one amp does not load the other's signal
	lane := func(amp plan.ID) plan.Lane {
		return plan.Lane{
			Nodes: []plan.Node{
				{Stop: plan.BlockKey(amp, "preamp")}, {Stop: plan.BlockKey(amp, "reverb")}, {Stop: plan.BlockKey(amp, "power")},
			},
		}
	}
	r := &p.Rigs[0]
	r.Path = []plan.Node{
		{Stop: "amber/fx"}, {Stop: "hush/fx"},
		{Split: &plan.Split{ID: "amps", Kind: plan.SplitAB, From: "fork/fx", Lanes: []plan.Lane{lane("pier"), lane("quay")}}},
	}
	r.Base["quay/preamp/gain"] = plan.Number(1)
	r.Recipes = []plan.Recipe{
		{ID: "r-1", Sound: "magnetic", Values: map[plan.Key]plan.Value{"fork/fx/way": plan.Text("amp 1")}},
		{ID: "r-2", Sound: "piezo", Values: map[plan.Key]plan.Value{"fork/fx/way": plan.Text("amp 2")}},
		{ID: "r-3", Sound: "both", Values: map[plan.Key]plan.Value{"fork/fx/way": plan.Text("both")}},
	}
	require.Empty(t, p.Validate())
	before := figuresOf(t, p)
	one, two, both := before["magnetic"], before["piezo"], before["both"]
	assert.Greater(t, one.Dirt, two.Dirt+3, "only the amp that is chosen is heard")
	sum := 10 * math.Log10(math.Pow(10, one.Loudness/10)+math.Pow(10, two.Loudness/10))
	assert.InDelta(t, sum, both.Loudness, 0.5)

	r.Recipes[0].Values["hush/fx/on"] = plan.On(true)
	assert.Less(t, figuresOf(t, p)["magnetic"].Loudness, -90.0, "a mute is silent")
}

// A junction box before one amp sums what comes in, and what cancels there is lost: computed by hand for two
// sides of which one is upside down.
func TestMonoSumLossIsMeteredWhereTheSumIs(t *testing.T) {
	p := singer(t)
	for _, x := range [][2]string{{"ping-pong-delay", "pong"}, {"junction", "knot"}} {
		k, ok := catalog.Find(x[0])
		require.True(t, ok)
		p.Gear = append(p.Gear, k.New(plan.ID(x[1]), x[1]))
	}
	r := &p.Rigs[0]
	r.Path = []plan.Node{
		{Stop: "pong/fx"}, {Stop: "knot/fx"}, {Stop: "pier/preamp"}, {Stop: "pier/reverb"}, {Stop: "pier/power"},
	}
	r.Base["pong/fx/on"], r.Base["pong/fx/mix"], r.Base["pong/fx/time"] = plan.On(true), plan.Number(8), plan.Number(350)
	r.Recipes = r.Recipes[:1]
	require.Empty(t, p.Validate())
	f := figuresOf(t, p)["magnetic"]
	require.Len(t, f.Sums, 1)
	assert.Equal(t, plan.Key("knot/fx"), f.Sums[0].Stop)
	assert.Greater(t, f.Sums[0].Cost, 0.3, "repeats that come from one side only are halved in a sum")
	assert.Nil(t, f.FoldDown, "one amp plays it: nothing is left to fold down")

	r.Base["pong/fx/on"] = plan.On(false)
	f = figuresOf(t, p)["magnetic"]
	for _, s := range f.Sums {
		assert.InDelta(t, 0, s.Cost, 0.01, "equal sides lose nothing")
	}
}

// A hand turns a knob to where the sound is right, also where the steps that were tried lie around it.
func TestAKnobIsFoundBetweenItsSteps(t *testing.T) {
	p := singer(t)
	k, _ := catalog.Find("compressor")
	p.Gear = append(p.Gear, k.New("squeeze", "squeeze"))
	r := &p.Rigs[0]
	r.Path = append([]plan.Node{{Stop: "squeeze/fx"}}, r.Path...)
	r.Base["pier/preamp/gain"] = plan.Number(2)
	home, lead := &p.Sounds[0], &p.Sounds[1]
	home.Role = plan.HomeRole
	r.Recipes = []plan.Recipe{
		{ID: "home", Sound: home.ID, Values: map[plan.Key]plan.Value{"gull/voice": plan.Text("magnetic")}},
		{
			ID: "lead", Sound: lead.ID,
			Values: map[plan.Key]plan.Value{"gull/voice": plan.Text("magnetic"), "squeeze/fx/on": plan.On(true)},
		},
	}
	r.Destinations = []plan.Destination{{ID: "far", Name: "far", Kind: plan.HiredAmp}}
	require.Empty(t, p.Validate())
	got, err := Measure(t.Context(), p, "rig", Options{Kept: keptHere})
	require.NoError(t, err)
	over := got.Sounds[1].OverHome
	want, narrow := over+0.7, 0.2
	lead.Targets.LoudnessLU, lead.Targets.ToleranceLU = &want, &narrow
	tuned, err := Tune(t.Context(), p, "rig", "far", lead.ID, Options{Kept: keptHere})
	require.NoError(t, err)
	i := -1
	for k, x := range tuned.Repairs {
		if len(x.Moves) == 1 && x.Moves[0].Key == "squeeze/fx/level" {
			i = k
		}
	}
	require.GreaterOrEqual(t, i, 0, "its level brings it there: %v", tuned.Repairs)
	move := tuned.Repairs[i].Moves[0]
	assert.Greater(t, move.To, 5.0)
	assert.Less(t, move.To, 6.0)
	assert.InDelta(t, move.To*10, math.Round(move.To*10), 1e-9, "to a tenth, as a hand sets it")
	assert.InDelta(t, want, tuned.Repairs[i].OverHome, narrow)
	assert.NotContains(t, tuned.Repairs[i].Rig.Base, plan.Key("squeeze/fx/level"), "the rig at home stays as it is")
	assert.Equal(t, plan.Number(move.To), tuned.Repairs[i].Rig.Destinations[0].Base["squeeze/fx/level"])
}

func TestEachAmpOnOneSignalHasItsOwnLevel(t *testing.T) {
	p := singer(t)
	for kind, id := range map[string]plan.ID{"splitter": "fork", "combo-plain": "quay"} {
		k, ok := catalog.Find(kind)
		require.True(t, ok)
		p.Gear = append(p.Gear, k.New(id, string(id)))
	}
	lane := func(amp plan.ID) plan.Lane {
		return plan.Lane{
			Nodes: []plan.Node{
				{Stop: plan.BlockKey(amp, "preamp")}, {Stop: plan.BlockKey(amp, "reverb")}, {Stop: plan.BlockKey(amp, "power")},
			},
		}
	}
	r := &p.Rigs[0]
	r.Path = []plan.Node{
		{
			Split: &plan.Split{
				ID: "amps", Kind: plan.SplitCopy, From: "fork/fx", Lanes: []plan.Lane{lane("pier"), lane("quay")},
			},
		},
	}
	r.Base["pier/power/master"], r.Base["quay/power/master"] = plan.Number(4), plan.Number(4)
	r.Recipes = r.Recipes[:1]
	require.Empty(t, p.Validate())
	before := figuresOf(t, p)["magnetic"]
	require.Len(t, before.Lanes, 2)
	assert.Equal(t, []string{"pier", "quay"}, []string{before.Lanes[0].Name, before.Lanes[1].Name})
	sum := 10 * math.Log10(math.Pow(10, before.Lanes[0].Loudness/10)+math.Pow(10, before.Lanes[1].Loudness/10))
	assert.InDelta(t, before.Loudness, sum, 0.1, "together they are what is heard")
	r.Base["quay/power/master"] = plan.Number(2)
	after := figuresOf(t, p)["magnetic"]
	assert.InDelta(t, before.Lanes[0].Loudness, after.Lanes[0].Loudness, 1e-9, "one amp's level is its own")
	assert.Less(t, after.Lanes[1].Loudness, before.Lanes[1].Loudness-3)
}

func TestHowLoudARepeatIsIsChecked(t *testing.T) {
	p := singer(t)
	k, _ := catalog.Find("tap-delay")
	p.Gear = append(p.Gear, k.New("ebb", "ebb"))
	r := &p.Rigs[0]
	r.Path = append(r.Path[:2:2], append([]plan.Node{{Stop: "ebb/fx"}}, r.Path[2:]...)...)
	r.Base["pier/preamp/gain"] = plan.Number(1)
	r.Recipes = r.Recipes[:1]
	r.Recipes[0].Values["ebb/fx/on"] = plan.On(true)
	met := func(level float64) bool {
		p.Sounds[0].Targets.Effects = []plan.Heard{{Effect: plan.EffectDelay, LevelDB: &level}}
		require.Empty(t, p.Validate())
		got, err := Measure(t.Context(), p, "rig", Options{Kept: keptHere})
		require.NoError(t, err)
		require.Len(t, got.Sounds[0].Checks, 2, "that there is one, and how loud it is")
		return got.Sounds[0].Checks[1].Met
	}
	first := 0.0
	got, err := Measure(t.Context(), p, "rig", Options{Kept: keptHere})
	require.NoError(t, err)
	for _, x := range got.Sounds[0].Figures.Times {
		if x.Stop == "ebb/fx" {
			first = x.First
		}
	}
	assert.True(t, met(first))
	assert.False(t, met(first-5))
}

// A sound that asks for a small reverb is not made by a large one, by a figure that is the tail's own.
func TestTheSizeOfAReverbIsChecked(t *testing.T) {
	p := singer(t)
	k, _ := catalog.Find("reverb")
	p.Gear = append(p.Gear, k.New("room", "room"))
	r := &p.Rigs[0]
	r.Path = append(r.Path[:2:2], append([]plan.Node{{Stop: "room/fx"}}, r.Path[2:]...)...)
	r.Recipes = r.Recipes[:1]
	r.Recipes[0].Values["room/fx/on"] = plan.On(true)
	size := plan.Key("room/fx/size")
	if _, ok := p.VariableOf(size); !ok {
		size = "room/fx/decay"
	}
	met := func(turn float64, asked string) bool {
		r.Recipes[0].Values[size] = plan.Number(turn)
		p.Sounds[0].Targets.Effects = []plan.Heard{{Effect: plan.EffectReverb, Size: asked}}
		require.Empty(t, p.Validate())
		got, err := Measure(t.Context(), p, "rig", Options{Kept: keptHere})
		require.NoError(t, err)
		require.Len(t, got.Sounds[0].Checks, 2, "that there is one, and its size")
		return got.Sounds[0].Checks[1].Met
	}
	assert.True(t, met(1, "small"))
	assert.False(t, met(1, "large"))
	assert.True(t, met(5, "medium"))
	assert.False(t, met(9, "medium"))
	assert.True(t, met(9, "large"))
	for _, turn := range []float64{2, 5, 8} {
		assert.InDelta(
			t, decaySeconds(turn), fallsBy60(newReverb(turn, 10, false, false)), 0.2*decaySeconds(turn), "size %g", turn,
		)
	}
}

// fallsBy60 is how long what a reverb gives for a low knock takes to fall by 60 dB: the slope of what is still to
// come between -5 and -35 dB, after M. R. Schroeder, "New method of measuring reverberation time", JASA 37, 1965.
func fallsBy60(r *reverbNet) float64 {
	w := wave{l: make([]float64, 8*Rate)}
	for i := range Rate / 100 { // low, where nothing is damped
		w.l[i] = math.Sin(2 * math.Pi * 200 * float64(i) / Rate)
	}
	w = r.run(w)
	left := make([]float64, len(w.l)+1)
	for i := len(w.l) - 1; i >= 0; i-- {
		left[i] = left[i+1] + w.l[i]*w.l[i]
	}
	at := func(db float64) float64 {
		for i := range left {
			if left[i] <= left[0]*math.Pow(10, db/10) {
				return float64(i) / Rate
			}
		}
		return math.Inf(1)
	}
	return 2 * (at(-35) - at(-5))
}

// Of several places that bring a sound in, the one that is nearest to where the knobs stand is taken; of none, none.
func TestOfPlacesThatDoTheNearestIsTaken(t *testing.T) {
	p := typed(t, "mid-hump-overdrive")
	ask(p, 0, 100, 0, 40)
	rig := p.Rigs[0]
	rig.Recipes = append(rig.Recipes, plan.Recipe{
		ID: "asked", Sound: "asked", Values: map[plan.Key]plan.Value{"mid-hump-overdrive/fx/on": plan.On(true)},
	})
	p.Put(rig)
	r, err := newRendering(p, "r", keptHere)
	require.NoError(t, err)
	tuning := &tuner{rendering: r, sounds: r.recipes(), at: 1}
	require.EqualValues(t, "asked", tuning.sounds[1].sound.ID)
	tuning.now, err = r.fan(t.Context(), []Setting{tuning.sounds[0].setting, tuning.sounds[1].setting}, nil, false, nil)
	require.NoError(t, err)
	var places []Setting
	for level := range 5 {
		places = append(
			places, with(tuning.sounds[1].setting, "mid-hump-overdrive/fx/level", plan.Number(float64(level+3))),
		)
	}
	best, err := tuning.leastAway(t.Context(), places, func(n int) float64 { return math.Abs(float64(n - 2)) })
	require.NoError(t, err)
	assert.Equal(t, 2, best)

	tuning.sounds[1].sound.Targets.LoudnessLU = new(60.0)
	best, err = tuning.leastAway(t.Context(), places, func(int) float64 { return 0 })
	require.NoError(t, err)
	assert.Equal(t, -1, best)
}
