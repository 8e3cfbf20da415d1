package electric

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/path"
	"envex/core/plan"
)

// bareBoard is boxes with true bypass between long cables: clean has none on, crunch the second.
func bareBoard() *plan.Plan {
	p := bench(
		box("boost", plan.EffectBoost, plan.TrueBypass), box("drive", plan.EffectOverdrive, plan.TrueBypass),
		box("wobble", plan.EffectTremolo, plan.TrueBypass), box("amp", plan.EffectBuffer, plan.AlwaysOn),
	)
	leads(
		p, "guitar", "boost/fx", 6.0, "boost/fx", "drive/fx", 0.3, "drive/fx", "wobble/fx", 0.3, "wobble/fx", "amp/fx", 9.0,
	)
	p.Sounds = append(p.Sounds, plan.Sound{ID: "crunch", Name: "Crunch", Short: "C", Tape: "sky", Role: plan.RhythmRole})
	p.Rigs[0].Recipes = append(
		p.Rigs[0].Recipes,
		plan.Recipe{ID: "crunch-recipe", Sound: "crunch", Values: map[plan.Key]plan.Value{"drive/fx/on": plan.On(true)}},
	)
	p.Songs = []plan.Song{{ID: "song", Title: "Quay", Tempo: plan.Tempo{BPM: 120}, Meter: plan.Meter{Beats: 4, Unit: 4},
		Sections: []plan.Section{
			{ID: "a", Label: "Verse", Sound: "home", Bars: ptr(8.0)},
			{ID: "b", Label: "Chorus", Sound: "crunch", Bars: ptr(8.0)},
			{ID: "c", Label: "Verse again", Sound: "home", Bars: ptr(8.0)},
		}}}
	p.SetLists = []plan.SetList{{ID: "set", Name: "Set", Entries: []plan.SetEntry{{ID: "e", Song: "song"}}}}
	return p
}

func find(list []path.Finding, rule string) *path.Finding {
	for i := range list {
		if list[i].Rule == rule {
			return &list[i]
		}
	}
	return nil
}

func TestTheBiggestJumpIsWhereAPedalGoesOn(t *testing.T) {
	r := solve(t, bareBoard(), Options{SetList: "set"})
	require.NotNil(t, r.Jump)
	assert.Equal(t, 1, r.Jump.Position)
	assert.Equal(t, "Chorus", r.Jump.Section)
	assert.Equal(t, plan.ID("crunch"), r.Jump.To)
	assert.Greater(t, r.Jump.JumpDB, 6.0, "brighter, with nine metres less to drive")
	require.NotNil(t, find(r.Findings, "jump"))
	assert.Contains(t, find(r.Findings, "jump").Title, "Crunch is ")
	assert.Equal(t, plan.ID("home-recipe"), r.Worst)
	require.Len(t, r.Jumps, 2, "there and back")
}

func TestTheBestBufferCuresTheJump(t *testing.T) {
	p := bareBoard()
	r := solve(t, p, Options{SetList: "set"})
	require.NotNil(t, r.Buffer)
	assert.Equal(t, plan.Key("boost/fx"), r.Buffer.Before)
	assert.Less(t, r.Buffer.JumpDB, 0.5)
	assert.Len(t, r.Places, 4)
	with := solve(t, p, Options{SetList: "set", Buffer: "boost/fx"})
	assert.Nil(t, find(with.Findings, "jump"))
	for _, s := range with.Sounds {
		assert.InDelta(t, r.Buffer.WorstDB, with.Sounds[0].Tone5k, 1e-6)
		assert.Equal(t, plan.Key("buffer"), *s.FirstBuffer)
		assert.InDelta(t, 600, s.BeforePF, 1e-6, "a buffer mends nothing before it")
	}
	// What is tried is what it comes to when it is put in.
	p.Gear = append(p.Gear, box("good", plan.EffectBuffer, plan.AlwaysOn))
	path := p.Rigs[0].Path
	p.Rigs[0].Path = append([]plan.Node{{Stop: "good/fx"}}, path...)
	p.Rigs[0].Leads[0].To = "good/fx"
	p = leads(p, "good/fx", "boost/fx", 0.3)
	in := solve(t, p, Options{SetList: "set"})
	for i := range in.Sounds {
		for k := range in.Sounds[i].Points {
			assert.InDelta(t, with.Sounds[i].Points[k].DB, in.Sounds[i].Points[k].DB, 1e-6)
		}
	}
	assert.Nil(t, in.Buffer, "a second one gains nothing")
}

func TestABufferIsNotPutBetweenThePickupAndAFuzz(t *testing.T) {
	p := bareBoard()
	fuzz := box("fuzz", plan.EffectFuzz, plan.TrueBypass, input(8e3))
	p.Gear = append(p.Gear, fuzz)
	p.Rigs[0].Path = append([]plan.Node{{Stop: "fuzz/fx"}}, p.Rigs[0].Path...)
	p.Rigs[0].Leads[0].To = "fuzz/fx"
	leads(p, "fuzz/fx", "boost/fx", 0.3)
	p.Rigs[0].Recipes[1].Values["fuzz/fx/on"] = plan.On(true)
	r := solve(t, p, Options{SetList: "set"})
	require.NotNil(t, r.Buffer)
	assert.Equal(t, plan.Key("boost/fx"), r.Buffer.Before)
	assert.Equal(t, "fuzz", r.Places[0].BeforeFuzz)
	low := find(r.Findings, "low-input")
	require.NotNil(t, low)
	assert.Equal(t, path.Notice, low.Gravity)
	require.Len(t, r.Fuzzes, 1)
	assert.False(t, r.Fuzzes[0].Buffered)
	assert.Less(
		t, r.Fuzzes[0].As[80].DB, r.Fuzzes[0].Other[80].DB-10, "8 kohm on the pickup takes far more than on a buffer",
	)

	p.Rigs[0].Path[0], p.Rigs[0].Path[1] = p.Rigs[0].Path[1], p.Rigs[0].Path[0]
	p.Rigs[0].Recipes[1].Values["boost/fx/on"] = plan.On(true)
	r = solve(t, p, Options{SetList: "set"})
	behind := find(r.Findings, "fuzz-after-buffer")
	require.NotNil(t, behind)
	assert.Equal(t, path.Preference, behind.Gravity)
	assert.True(t, r.Fuzzes[0].Buffered)
	assert.Less(t, r.Fuzzes[0].Other[80].DB, r.Fuzzes[0].As[80].DB-10)
	p.Rigs[0].Settled = []plan.IgnoredFinding{{Finding: behind.ID, Reason: "meant"}}
	assert.Equal(t, "meant", find(solve(t, p, Options{}).Findings, "fuzz-after-buffer").Settled)
}

func TestGuitarVolumeIsTried(t *testing.T) {
	p := bareBoard()
	r := solve(t, p, Options{SetList: "set", Volume: ptr(6.0)})
	full := solve(t, p, Options{SetList: "set"})
	assert.Less(t, r.Sounds[0].LevelDB, full.Sounds[0].LevelDB-6)
	assert.Nil(t, r.Sounds[0].PeakHz)
	p.Rigs[0].Base["guitar/volume"] = plan.Number(6)
	assert.Equal(t, solve(t, p, Options{SetList: "set"}).Sounds[0].Points, r.Sounds[0].Points)
}

func TestOneSoundAlone(t *testing.T) {
	r := solve(t, bareBoard(), Options{SetList: "set", Only: "crunch"})
	require.Len(t, r.Sounds, 1)
	assert.Equal(t, plan.ID("crunch"), r.Sounds[0].Sound)
	assert.Nil(t, r.Jump)
}

func TestMatching(t *testing.T) {
	p := bench(
		box("pedal", plan.EffectBuffer, plan.AlwaysOn), box("heavy", plan.EffectChorus, plan.AlwaysOn, input(4e3)),
		box("far", plan.EffectChorus, plan.AlwaysOn),
	)
	leads(p, "guitar", "pedal/fx", 3.0, "pedal/fx", "heavy/fx", 0.3, "heavy/fx", "far/fx", 12.0)
	p.Rigs[0].Destinations = []plan.Destination{{ID: "house", Name: "House", Kind: plan.MonoDI}}
	r := solve(t, p, Options{})
	bridge := find(r.Findings, "bridging")
	require.NotNil(t, bridge)
	assert.InDelta(t, -1.9, bridge.Figures[0].Value, 1e-9, "4 kohm behind 1 kohm")
	run := find(r.Findings, "long-run")
	require.NotNil(t, run)
	assert.InDelta(t, 132.45, run.Figures[0].Value, 0.1, "1/(2 pi 1200 pF) of 1 kohm beside 1 Mohm")
	assert.NotEmpty(t, run.Caution)
	assert.Nil(t, find(r.Findings, "no-di"))
	there, err := Solve(p, "rig", "house", Options{})
	require.NoError(t, err)
	require.NotNil(t, find(there.Findings, "no-di"))
	assert.Contains(t, find(there.Findings, "no-di").Caution, "Phantom")

	di := box("di", plan.EffectDI, plan.AlwaysOn, input(140e3), func(b *plan.Block) { b.Passive, b.Isolated = true, true })
	p = bench(di)
	p.Rigs[0].Destinations = []plan.Destination{{ID: "house", Name: "House", Kind: plan.MonoDI}}
	there, err = Solve(leads(p, "guitar", "di/fx", 3.0), "rig", "house", Options{})
	require.NoError(t, err)
	assert.Equal(t, "di needs no phantom power", find(there.Findings, "phantom").Title)
	assert.Equal(t, plan.Key("di/fx"), *there.Sounds[0].FirstBuffer)
	assert.Greater(t, there.Sounds[0].Tone5k, 1.0, "140 kohm damps the pickup")

	p = bench(box("low", plan.EffectChorus, plan.AlwaysOn, input(50e3)))
	assert.Equal(t, path.Fault, find(solve(t, p, Options{}).Findings, "low-input").Gravity)
}

// big is a rig of so many boxes with true bypass and eight sounds.
func big(stops int) *plan.Plan {
	var boxes []plan.Gear
	for i := range stops - 1 {
		boxes = append(boxes, box(plan.ID(fmt.Sprintf("box%d", i)), plan.EffectOverdrive, plan.TrueBypass))
	}
	p := bench(append(boxes, box("amp", plan.EffectBuffer, plan.AlwaysOn))...)
	for i := range 7 {
		id := plan.ID(fmt.Sprintf("sound%d", i))
		p.Sounds = append(
			p.Sounds, plan.Sound{ID: id, Name: string(id), Short: fmt.Sprintf("S%d", i), Tape: "sky", Role: plan.RhythmRole},
		)
		p.Rigs[0].Recipes = append(
			p.Rigs[0].Recipes,
			plan.Recipe{
				ID: id + "-recipe", Sound: id,
				Values: map[plan.Key]plan.Value{plan.Key(fmt.Sprintf("box%d/fx/on", min(stops-2, i*4))): plan.On(true)},
			},
		)
	}
	return p
}

func TestSixtyElementsAreSolved(t *testing.T) {
	r := solve(t, big(60), Options{})
	last := r.Sounds[0]
	assert.InDelta(t, 600+59*(30+30), last.BeforePF, 1e-6)
	for _, p := range last.Points {
		assert.False(t, math.IsNaN(p.DB))
	}
}

func BenchmarkSolveThirtyStops(b *testing.B) {
	p := big(30)
	for b.Loop() {
		if _, err := Solve(p, "rig", "", Options{}); err != nil {
			b.Fatal(err)
		}
	}
}

func BenchmarkFeedThirtyLoads(b *testing.B) {
	p := big(30)
	var outs []plan.PowerOutput
	for i := range 20 {
		outs = append(
			outs, plan.PowerOutput{ID: plan.ID(fmt.Sprint(i)), Voltages: []float64{9}, CurrentMA: []float64{100, 300, 500}[i%3]},
		)
	}
	for i := range p.Gear {
		if p.Gear[i].Kind == plan.Pedal {
			p.Gear[i].Power = &plan.PowerDraw{Voltage: 9, Current: ptr(float64(10 * (i%20 + 1)))}
		}
	}
	p.Gear = append(
		p.Gear, plan.Gear{ID: "supply", Name: "Supply", Kind: plan.Supply, Supply: &plan.PowerSupply{Outputs: outs}},
	)
	for b.Loop() {
		if _, err := FeedRig(p, "rig", ""); err != nil {
			b.Fatal(err)
		}
	}
}

// curve is a sound's own curve at a frequency over its level.
func curve(s Sound, hz float64) float64 {
	best := s.Points[0]
	for _, x := range s.Points {
		if math.Abs(x.Hz-hz) < math.Abs(best.Hz-hz) {
			best = x
		}
	}
	return best.DB - s.LevelDB
}

func TestAJumpIsWhatIsHeardWhateverPickupIsOn(t *testing.T) {
	p := bareBoard()
	g := &p.Gear[0]
	g.Pickups = append(
		g.Pickups,
		plan.Pickup{ID: "neck", Name: "neck", ResistanceOhm: ptr(9000.0), InductanceH: ptr(6.0), CapacitancePF: ptr(150.0)},
	)
	g.Controls = append(
		g.Controls,
		plan.Control{
			ID: "pickup", Name: "pickup", Kind: plan.Selector, Access: plan.QuickHand, Options: []string{"bridge", "neck"},
		},
	)
	p.Rigs[0].Recipes[0].Values = map[plan.Key]plan.Value{"guitar/pickup": plan.Text("neck")}
	r := solve(t, p, Options{SetList: "set"})
	require.NotNil(t, r.Jump)
	home, crunch := r.Sounds[0], r.Sounds[1]
	assert.InDelta(t, curve(crunch, 5000)-curve(home, 5000), r.Jump.JumpDB, 1.5, "the nearest point of the curves")
	assert.Greater(t, math.Abs(r.Jump.JumpDB-(home.Tone5k-crunch.Tone5k)), 2.0, "and not each against its own pickup")
	most := 0.0
	for i, x := range crunch.Points {
		if d := x.DB - crunch.LevelDB - home.Points[i].DB + home.LevelDB; x.Hz >= 100 && x.Hz <= 10000 &&
			math.Abs(d) > math.Abs(most) {
			most = d
		}
	}
	assert.InDelta(t, most, r.Jump.MostDB, 1e-9)
	require.NotNil(t, r.Buffer)
	assert.InDelta(t, math.Abs(r.Jump.JumpDB), r.Buffer.JumpWas, 1e-9, "the buffer is weighed by the same figure")
}

func TestAFuzzThatIsMeantToLoadThePickupIsNoFault(t *testing.T) {
	p := bareBoard()
	p.Gear = append(p.Gear, box("fuzz", plan.EffectFuzz, plan.TrueBypass, input(8e3)))
	p.Rigs[0].Path = append([]plan.Node{{Stop: "fuzz/fx"}}, p.Rigs[0].Path...)
	p.Rigs[0].Leads[0].To = "fuzz/fx"
	leads(p, "fuzz/fx", "boost/fx", 0.3)
	p.Rigs[0].Recipes[1].Values = map[plan.Key]plan.Value{"fuzz/fx/on": plan.On(true)}
	r := solve(t, p, Options{SetList: "set"})
	assert.Nil(t, r.Jump)
	require.NotEmpty(t, r.Jumps)
	assert.True(t, r.Jumps[0].Intended)
	assert.Nil(t, find(r.Findings, "jump"))
}

func TestALongRunFallsWithWhatDrivesIt(t *testing.T) {
	off := box("drive", plan.EffectOverdrive, plan.TrueBypass)
	p := leads(
		bench(off, box("amp", plan.EffectBuffer, plan.AlwaysOn)), "guitar", "drive/fx", 6.0, "drive/fx", "amp/fx", 12.0,
	)
	run := find(solve(t, p, Options{}).Findings, "long-run")
	require.NotNil(t, run)
	s := homeOf(t, p)
	require.NotNil(t, s.Minus3)
	assert.InDelta(t, *s.Minus3/1000, run.Figures[0].Value, 0.006, "the pickup drives it through the switched-off box")
	assert.Contains(t, run.Reason, "Guitar drives it")
	p.Rigs[0].Recipes[0].Values = map[plan.Key]plan.Value{"drive/fx/on": plan.On(true)}
	run = find(solve(t, p, Options{}).Findings, "long-run")
	assert.InDelta(t, 132.45, run.Figures[0].Value, 0.1, "and once it is on, its 1 kohm does")
	assert.Contains(t, run.Reason, "drive drives it")
}

func TestWhatIsTakenOfAPickupIsSaid(t *testing.T) {
	p := bench(box("amp", plan.EffectBuffer, plan.AlwaysOn))
	p.Gear[0].Pickups[0].InductanceH, p.Gear[0].Pickups[0].CapacitancePF = nil, nil
	assert.Contains(
		t, solve(t, p, Options{}).Assumed, "Of the bridge pickup of Guitar not all is known; 2.5 H and 110 pF: taken.",
	)
	p.Gear[0].Pickups[0].OutputMVRMS = ptr(200.0)
	assert.Contains(
		t, solve(t, p, Options{}).Assumed, "Of the bridge pickup of Guitar not all is known; 4.2 H and 130 pF: taken.",
		"a hot one is two coils",
	)
}

func TestEveryDefaultThatIsUsedIsSaid(t *testing.T) {
	p := bench(
		box("drive", plan.EffectOverdrive, plan.TrueBypass),
		box("amp", plan.EffectPreamp, plan.AlwaysOn, func(b *plan.Block) { b.InputOhm, b.OutOhm = nil, nil }),
		box("next", plan.EffectTremolo, plan.AlwaysOn),
	)
	said := fmt.Sprint(solve(t, p, Options{}).Assumed)
	for _, words := range []string{
		"usual length", "100 pF a metre", "are taken to have 30 pF", "The taper of the volume and tone of Guitar",
		"The input of amp is not known", "The output resistance of amp is not known",
	} {
		assert.Contains(t, said, words)
	}
	farad, ohm := 20.0, 1e6
	p.Gear[1].Blocks[0].BypassPF = &farad
	p.Gear[2].Blocks[0].InputOhm, p.Gear[2].Blocks[0].OutOhm = &ohm, &ohm
	p.Gear[0].Wiring.Volume.Taper, p.Gear[0].Wiring.Tone.Pot.Taper = plan.AudioTaper, plan.AudioTaper
	leads(p, "guitar", "drive/fx", 3.0, "drive/fx", "amp/fx", 3.0, "amp/fx", "next/fx", 3.0)
	p.Gear = append(
		p.Gear, plan.Gear{ID: "stock", Name: "Stock", Kind: plan.CableStock, Cable: &plan.CableSpec{PFPerM: ptr(90.0)}},
	)
	for i := range p.Rigs[0].Leads {
		p.Rigs[0].Leads[i].Cable = "stock"
	}
	assert.Empty(t, solve(t, p, Options{}).Assumed, "and what is known is not")
}

func TestASelectorPutsPickupsInSeries(t *testing.T) {
	p := bench(box("amp", plan.EffectBuffer, plan.AlwaysOn))
	g := &p.Gear[0]
	g.Pickups = append(
		g.Pickups,
		plan.Pickup{ID: "neck", Name: "neck", ResistanceOhm: ptr(6000.0), InductanceH: ptr(2.5), CapacitancePF: ptr(110.0)},
	)
	g.Controls = append(
		g.Controls,
		plan.Control{
			ID: "pickup", Name: "pickup", Kind: plan.Selector, Access: plan.QuickHand, Options: []string{"both", "bridge"},
		},
	)
	beside := homeOf(t, p)
	g.Positions = []plan.Position{{Is: "both", Pickups: []plan.ID{"bridge", "neck"}, Series: true}}
	assert.Less(t, homeOf(t, p).Treble5k, beside.Treble5k-3, "four times the inductance")
}

// The low input of an amp loads a guitar with 136 kohm: its resonance is damped and some of its level goes.
func TestTheLowInputOfAnAmpLoadsMore(t *testing.T) {
	sound := func(input string) Sound {
		amp := box("amp", plan.EffectPreamp, plan.AlwaysOn)
		amp.Blocks[0].Controls = append(amp.Blocks[0].Controls, plan.Control{
			ID: "input", Name: "input", Kind: plan.Selector, Access: plan.SlowHand, Options: []string{"high", "low"},
		})
		p := bench(amp)
		p.Rigs[0].Base = map[plan.Key]plan.Value{"amp/fx/input": plan.Text(input)}
		leads(p, "guitar", "amp/fx", 3.0)
		return solve(t, p, Options{}).Sounds[0]
	}
	high, low := sound("high"), sound("low")
	assert.Greater(t, low.Loss5k, high.Loss5k+0.5)
}
