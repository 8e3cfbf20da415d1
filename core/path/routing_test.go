package path

import (
	"context"
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
)

// fromFile reads one of the chains of real rigs, to be changed.
func fromFile(t *testing.T, name string) *plan.Plan {
	t.Helper()
	data, err := os.ReadFile("testdata/chains/" + name + ".envex.json")
	require.NoError(t, err)
	p, err := plan.Decode(data)
	require.NoError(t, err)
	return p
}

func at(t *testing.T, p *plan.Plan, destination plan.ID) *Report {
	t.Helper()
	require.Empty(t, p.Validate())
	r, err := Judge(context.Background(), p, "rig", destination)
	require.NoError(t, err)
	return r
}

// found is the finding of a rule, which must be there.
func found(t *testing.T, r *Report, rule string) Finding {
	t.Helper()
	for _, f := range r.Findings {
		if f.Rule == rule {
			return f
		}
	}
	t.Fatalf("no finding %q in %v", rule, r.Findings)
	return Finding{}
}

func rulesOf(r *Report) []string {
	list := []string{}
	for _, f := range r.Findings {
		list = append(list, f.Rule)
	}
	return list
}

func block(p *plan.Plan, key plan.Key) *plan.Block {
	g, _ := p.FindGear(key.Gear())
	b, _ := g.FindBlock(plan.ID(key.Rest()))
	return b
}

func figure(t *testing.T, f Finding, name string) float64 {
	t.Helper()
	for _, x := range f.Figures {
		if x.Name == name {
			return x.Value
		}
	}
	t.Fatalf("no figure %q in %v", name, f.Figures)
	return 0
}

func TestLanesThatDoNotFit(t *testing.T) {
	const parallel = "07-two-reverbs-in-parallel"
	t.Run("in step nothing is said", func(t *testing.T) {
		p := fromFile(t, parallel)
		block(p, "room/fx").LatencyMS = ptr(1.5)
		assert.Empty(t, at(t, p, "").Findings)
	})
	t.Run("the first notch is at 1/(2 x difference)", func(t *testing.T) {
		p := fromFile(t, parallel)
		block(p, "room/fx").LatencyMS = ptr(1.0)
		f := found(t, at(t, p, ""), "lane-latency")
		assert.InDelta(t, 0.5, figure(t, f, "apart"), 1e-9)
		assert.InDelta(t, 1000, figure(t, f, "first notch"), 1e-9)
	})
	t.Run("true bypass is not late while it is off", func(t *testing.T) {
		p := fromFile(t, parallel)
		block(p, "vault/fx").Bypass = plan.TrueBypass
		assert.NotContains(t, rulesOf(at(t, p, "")), "lane-latency")
		p.Sounds = []plan.Sound{{ID: "s", Name: "Shimmer", Short: "SH", Role: plan.HomeRole, Tape: "bone"}}
		p.Rigs[0].Recipes = []plan.Recipe{
			{ID: "r", Sound: "s", Values: map[plan.Key]plan.Value{"vault/fx/on": plan.On(true)}},
		}
		assert.Contains(t, found(t, at(t, p, ""), "lane-latency").Reason, "in Shimmer")
	})
	t.Run("one upside down cancels the low end", func(t *testing.T) {
		p := fromFile(t, parallel)
		block(p, "room/fx").Inverts, block(p, "room/fx").Bypass, block(p, "vault/fx").LatencyMS = true, plan.AlwaysOn, nil
		f := found(t, at(t, p, ""), "lane-polarity")
		assert.Equal(t, deepest, figure(t, f, "left at 100 Hz"), "in step and equal nothing is left")
		block(p, "vault/fx").LatencyMS = ptr(1.0)
		f = found(t, at(t, p, ""), "lane-polarity")
		assert.InDelta(t, -10.2, figure(t, f, "left at 100 Hz"), 0.05, "20 log10 sin(0.1 pi)")
	})
	t.Run("lanes that never sound together are let be", func(t *testing.T) {
		p := fromFile(t, parallel)
		p.Rigs[0].Path[2].Split.Kind = plan.SplitAB
		require.Len(t, at(t, p, "").Findings, 1, "only that nothing chooses")
		assert.Equal(t, "nothing-chooses", at(t, p, "").Findings[0].Rule)
	})
	t.Run("two amps in one room, one upside down", func(t *testing.T) {
		p := fromFile(t, "09-a-passive-splitter-into-two-amps")
		block(p, "pier/preamp").Inverts = true
		assert.Contains(t, found(t, at(t, p, ""), "lane-polarity").Reason, "in one room")
	})
	t.Run("the sides of a stereo rig on one mono line", func(t *testing.T) {
		p := fromFile(t, parallel)
		s := p.Rigs[0].Path[2].Split
		s.Join, s.To, p.Rigs[0].Path[3].Takes = plan.JoinStereo, "", "sum"
		assert.NotContains(t, rulesOf(at(t, p, "")), "lane-latency", "apart they do not comb")
		p.Rigs[0].Destinations = []plan.Destination{
			{ID: "house", Name: "House", Kind: plan.MonoDI, MonoLine: plan.ExternalSum},
		}
		assert.Contains(t, rulesOf(at(t, p, "house")), "lane-latency")
		p.Rigs[0].Destinations[0].MonoLine = plan.LeftAlone
		r := at(t, p, "house")
		assert.NotContains(t, rulesOf(r), "lane-latency")
		f := found(t, r, "mono-line")
		assert.Equal(t, Fault, f.Gravity)
		assert.Contains(t, f.Reason, "only the left side")
		p.Rigs[0].Destinations[0].MonoLine = ""
		assert.Contains(t, found(t, at(t, p, "house"), "mono-line").Reason, "nobody has said")
	})
}

func TestAParallelLoop(t *testing.T) {
	p := fromFile(t, "02-time-effects-in-the-loop-of-a-driven-amp")
	hired, _ := p.FindGear("hired")
	hired.Loop.Kind = "parallel"
	assert.Empty(t, at(t, p, "").Findings, "what is only added belongs there")
	block(p, "echo/fx").LatencyMS = ptr(2.0)
	f := found(t, at(t, p, ""), "loop-latency")
	assert.InDelta(t, 250, figure(t, f, "first notch"), 1e-9)
	room := block(p, "room/fx")
	room.Effect, room.Model, room.ModelAt = plan.EffectTremolo, "", nil
	assert.Equal(t, []string{"Room"}, found(t, at(t, p, ""), "parallel-loop").Names)
}

func TestLevels(t *testing.T) {
	p := fromFile(t, "02-time-effects-in-the-loop-of-a-driven-amp")
	hired, _ := p.FindGear("hired")
	hired.Loop.LevelDB = ptr(4.0)
	r := at(t, p, "")
	f := found(t, r, "line-into-instrument")
	assert.InDelta(t, 24, figure(t, f, "over what it is made for"), 1e-9, "+4 dBu against -20")
	require.NotEmpty(t, f.Repairs)
	assert.Equal(t, "Move Echo in front of Hired head", f.Repairs[0].Words)
	block(p, "echo/fx").Level, block(p, "room/fx").Level = "line", "any"
	assert.Empty(t, at(t, p, "").Findings, "what is made for the level is let be")

	p.Rigs[0].Path[2], p.Rigs[0].Path[3] = p.Rigs[0].Path[3], p.Rigs[0].Path[2]
	p.Rigs[0].Path[1], p.Rigs[0].Path[3] = p.Rigs[0].Path[3], p.Rigs[0].Path[1]
	p.Rigs[0].Path = []plan.Node{
		{Stop: "echo/fx"}, {Stop: "hired/preamp"}, {Stop: "room/fx"}, {Stop: "hired/power"}, {Stop: "crate/fx"},
	}
	f = found(t, at(t, p, ""), "instrument-into-line")
	require.NotEmpty(t, f.Repairs)
	assert.Equal(t, "Move Echo into the loop of Hired head", f.Repairs[0].Words)
}

func TestLoadsOfPowerSections(t *testing.T) {
	const loop = "02-time-effects-in-the-loop-of-a-driven-amp"
	t.Run("a speaker it is not rated for", func(t *testing.T) {
		p := fromFile(t, loop)
		block(p, "crate/fx").InputOhm = ptr(4.0)
		f := found(t, at(t, p, ""), "load-impedance")
		assert.Equal(t, Danger, f.Gravity)
		assert.Equal(t, 4.0, figure(t, f, "load"))
		assert.NotEmpty(t, f.Caution)
	})
	t.Run("two speakers in parallel", func(t *testing.T) {
		p := fromFile(t, loop)
		p.Gear = append(
			p.Gear,
			plan.Gear{
				ID: "box", Name: "Box", Kind: plan.Interface,
				Blocks: []plan.Block{
					{
						ID: "fx", Name: "speaker", Effect: plan.EffectSpeaker, Bypass: plan.AlwaysOn, Level: "speaker",
						InputOhm: ptr(8.0),
					},
				},
			},
		)
		r := &p.Rigs[0]
		r.Path[6] = plan.Node{
			Split: &plan.Split{
				ID: "pair", Kind: plan.SplitCopy,
				Lanes: []plan.Lane{{Nodes: []plan.Node{{Stop: "crate/fx"}}}, {Nodes: []plan.Node{{Stop: "box/fx"}}}},
			},
		}
		assert.Equal(t, 4.0, figure(t, found(t, at(t, p, ""), "load-impedance"), "load"), "two of 8 ohm are 4")
		block(p, "crate/fx").InputOhm, block(p, "box/fx").InputOhm = ptr(16.0), ptr(16.0)
		assert.Empty(t, at(t, p, "").Findings, "two of 16 are 8, and nothing else is wrong with them")
	})
	t.Run("a speaker output into a pedal", func(t *testing.T) {
		p := fromFile(t, loop)
		p.Rigs[0].Path = []plan.Node{{Stop: "amber/fx"}, {Stop: "hired/preamp"}, {Stop: "hired/power"}, {Stop: "echo/fx"}}
		r := at(t, p, "")
		assert.Equal(t, Danger, found(t, r, "speaker-into-input").Gravity)
		assert.NotEmpty(t, found(t, r, "speaker-into-input").Caution)
	})
	t.Run("only the preamp is used", func(t *testing.T) {
		p := fromFile(t, loop)
		p.Rigs[0].Path = []plan.Node{{Stop: "amber/fx"}, {Stop: "hired/preamp"}, {Stop: "echo/fx"}}
		assert.Equal(t, Danger, found(t, at(t, p, ""), "no-load").Gravity)
		hired, _ := p.FindGear("hired")
		hired.SpeakerOut.Internal = true
		assert.Equal(t, Notice, found(t, at(t, p, ""), "no-load").Gravity)
	})
	t.Run("nobody has said what it drives", func(t *testing.T) {
		p := fromFile(t, loop)
		hired, _ := p.FindGear("hired")
		hired.SpeakerOut = nil
		p.Rigs[0].Path = p.Rigs[0].Path[:6]
		r := at(t, p, "")
		assert.Empty(t, r.Findings)
		assert.Contains(t, r.Estimated, "Hired head is taken to have its speaker; what it may drive is not entered.")
	})
}

func TestHumIsCuredByWhatIsOwned(t *testing.T) {
	p := fromFile(t, "10-mono-until-a-ping-pong-delay-then-two-amps")
	assert.Empty(t, found(t, at(t, p, ""), "hum-loop").Repairs)
	p.Gear = append(
		p.Gear,
		plan.Gear{
			ID: "moat", Name: "Moat", Kind: plan.Interface,
			Blocks: []plan.Block{
				{
					ID: "fx", Name: "isolator", Effect: plan.EffectBuffer, Bypass: plan.AlwaysOn, Passive: true, Isolated: true,
					Level: "any",
				},
			},
		},
	)
	f := found(t, at(t, p, ""), "hum-loop")
	require.Len(t, f.Repairs, 1)
	assert.Contains(t, f.Caution, "Never lift the mains safety earth")
	p.Rigs[0].Path = f.Repairs[0].Path
	assert.NotContains(t, rulesOf(at(t, p, "")), "hum-loop", "it does what it says")

	p = fromFile(t, "09-a-passive-splitter-into-two-amps")
	p.Rigs[0].Path[2].Split.From = ""
	p.Gear = append(
		p.Gear,
		plan.Gear{
			ID: "moat", Name: "Moat", Kind: plan.Interface,
			Blocks: []plan.Block{
				{ID: "fx", Name: "splitter", Effect: plan.EffectSplitter, Bypass: plan.AlwaysOn, Isolated: true},
			},
		},
	)
	f = found(t, at(t, p, ""), "hum-loop")
	require.NotEmpty(t, f.Repairs)
	p.Rigs[0].Path = f.Repairs[0].Path
	assert.Empty(t, at(t, p, "").Findings, "buffered and isolated, the split is neither a hum loop nor a load")
}

func TestLoopsOfASwitcher(t *testing.T) {
	t.Run("a box between two loops goes after them, or into a spare one", func(t *testing.T) {
		p := fromFile(t, "06-a-box-between-two-loops-without-a-break")
		f := found(t, at(t, p, ""), "between-loops")
		var words []string
		for _, m := range f.Repairs {
			words = append(words, m.Words)
		}
		assert.Equal(t, []string{"Move Squeeze after loop 3", "Put Squeeze into spare loop 2 and hold it on"}, words)
		p.Rigs[0].Path, p.Rigs[0].Held = f.Repairs[1].Path, f.Repairs[1].Held
		assert.NotContains(t, rulesOf(at(t, p, "")), "between-loops")
		assert.True(t, p.Rigs[0].IsHeld("turntable", 2))
	})
	t.Run("a break point lets it stand there", func(t *testing.T) {
		p := fromFile(t, "06-a-box-between-two-loops-without-a-break")
		g, _ := p.FindGear("turntable")
		g.Switcher.Loops[2].Break = true
		assert.Empty(t, at(t, p, "").Findings)
	})
	t.Run("what stands between two stops of a loop is in it", func(t *testing.T) {
		p := fromFile(t, "06-a-box-between-two-loops-without-a-break")
		p.Rigs[0].Path[2].Loop = 1
		f := found(t, at(t, p, ""), "between-loops")
		require.NotEmpty(t, f.Repairs)
		assert.Equal(t, "Put Squeeze into loop 1", f.Repairs[0].Words)
	})
	t.Run("stops in the wrong loops change their plugs", func(t *testing.T) {
		p := fromFile(t, "06-loops-out-of-number-order")
		p.Rigs[0].Path[0].Loop, p.Rigs[0].Path[1].Loop = 1, 2 // Amber in 1, Undertow in 2
		r := at(t, p, "")
		f := found(t, r, "pitch-before-gain")
		require.Len(t, f.Repairs, 1)
		assert.Equal(t, "Exchange the plugs of loops 1 and 2", f.Repairs[0].Words)
		assert.Zero(t, f.Repairs[0].Cost)
		assert.Equal(t, r.Cost, r.Best.Cost, "the order itself cannot be better: loops run in number order")
		p.Rigs[0].Path = f.Repairs[0].Path
		assert.Empty(t, at(t, p, "").Findings)
	})
	t.Run("one that reorders is free", func(t *testing.T) {
		p := fromFile(t, "06-loops-out-of-number-order")
		g, _ := p.FindGear("turntable")
		g.Switcher.Reorders = true
		r := at(t, p, "")
		assert.Equal(t, []string{"pitch-before-gain"}, rulesOf(r))
		assert.Zero(t, r.Best.Cost)
	})
}

func TestAnOrderIsComparedWithAnother(t *testing.T) {
	p := fromFile(t, "01-all-in-front-of-a-clean-amp")
	r := &p.Rigs[0]
	kept := append([]plan.Node(nil), r.Path...)
	kept[2], kept[4] = kept[4], kept[2] // delay before the drive
	r.Orders = []plan.KeptOrder{{Name: "smeared", Path: kept[:len(kept)-3]}}
	k := at(t, p, "").Kept
	require.Len(t, k, 1)
	assert.Positive(t, k[0].Cost)
	assert.Empty(t, k[0].Mends)
	assert.Contains(t, k[0].Brings, "Move Amber before Echo")
	assert.Contains(t, k[0].Moves, "Room is not in it")
	assert.Contains(t, k[0].Moves, "Amber goes to the end")
	assert.Positive(t, k[0].Cables)
}

func TestWhatDiffersAtADestinationIsSaid(t *testing.T) {
	p := fromFile(t, "11-a-cab-simulator-before-the-time-effects-and-a-stereo-di")
	r := at(t, p, "two")
	assert.Contains(t, r.Differs, "without Hull")
	assert.Contains(t, r.Differs, "with Pier combo preamp")
	_, err := Judge(context.Background(), p, "rig", "nowhere")
	assert.ErrorContains(t, err, "no destination")
}

func TestTheSignalIsFollowed(t *testing.T) {
	p := fromFile(t, "17-wet-dry-wet-with-three-amps")
	by := map[plan.Key]Traced{}
	for _, s := range at(t, p, "").Stops {
		by[s.Stop] = s
	}
	assert.Equal(
		t, Traced{Stop: "amber/fx", Zone: plan.FrontOfAmp, In: 1, Out: 1, LevelIn: instrument, LevelOut: instrument},
		by["amber/fx"],
	)
	assert.Equal(t, speaker, by["mole/power"].LevelOut)
	assert.Equal(t, 2, by["pong/fx"].Out, "stereo from the first box with one input and two outputs")
	assert.Equal(t, line, by["pong/fx"].LevelIn, "an amp's line out")
	assert.Equal(t, 1, by["jetty/preamp"].In)
	assert.Len(t, by, 12)
}

func TestARadioIsTheFirstBuffer(t *testing.T) {
	kinds["radio"] = plan.Block{Effect: plan.EffectRadio, Bypass: plan.AlwaysOn}
	defer delete(kinds, "radio")
	r := judged(t, chain(3, "radio", "fuzz"))
	f := found(t, r, "fuzz-before-buffer")
	assert.Empty(t, f.Repairs, "nothing comes before a radio")
	assert.Equal(t, []string{"radio", "fuzz"}, words(r.Best.Order))
}

func TestWhatNothingCanMoveIsNotAskedToMove(t *testing.T) {
	p := fromFile(t, "02-time-effects-in-the-loop-of-a-driven-amp")
	hired, _ := p.FindGear("hired")
	hired.Loop = nil
	p.Rigs[0].Path = []plan.Node{
		{Stop: "plumb/fx"}, {Stop: "amber/fx"}, {Stop: "echo/fx"}, {Stop: "room/fx"}, {Stop: "hired/preamp"},
		{Stop: "hired/power"}, {Stop: "crate/fx"},
	}
	said := map[string]bool{}
	for _, f := range at(t, p, "").Findings {
		said[f.Title] = true
		if f.Gravity == Preference && len(f.Repairs) == 0 {
			assert.NotContains(t, f.Title, "Move ", "the amp has no loop: it cannot come before what is in front of it")
		}
	}
	assert.True(t, said["Echo stands before Hired head preamp"], "%v", said)
}
