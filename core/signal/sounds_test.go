package signal_test

import (
	"context"
	"math"
	"os"
	"path/filepath"
	"slices"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/core/signal"
	"envex/core/wav"
	"envex/demo"
)

func night(t require.TestingT) *plan.Plan {
	p := demo.Plan()
	return p
}

// kept is shared by tests of other things: what it changes is tried by TestWhatIsKeptChangesNoFigure.
var kept = signal.NewKept()

func measure(t *testing.T, p *plan.Plan, rig plan.ID, only ...plan.ID) map[plan.ID]signal.Sound {
	t.Helper()
	r, err := signal.Measure(context.Background(), p, rig, signal.Options{Only: only, Kept: kept})
	require.NoError(t, err)
	out := map[plan.ID]signal.Sound{}
	for _, s := range r.Sounds {
		out[s.Sound] = s
	}
	return out
}

// golden are figures of the demo as they were, to be met within the tolerances of the meter.
func TestTheFiguresOfTheDemoStay(t *testing.T) {
	s := measure(t, night(t), "long")
	assert.Equal(
		t, map[plan.ID]signal.Sound{"lead": s["lead"]}, measure(t, night(t), "long", "lead"), "one sound alone says the same",
	)
	home := night(t)
	home.Sounds = slices.DeleteFunc(home.Sounds, func(x plan.Sound) bool { return x.ID != "home" })
	alone := measure(t, home, "long")["home"]
	assert.Equal(t, s["home"].Figures, alone.Figures, "and so does one whose figures are made side by side")
	for id, want := range map[plan.ID][3]float64{
		"home": {0, 6.0, 0.69}, "crunch": {1.11, 29.3, 0.87}, "lead": {2.01, 35.6, 0.89}, "dust": {3.6, 65.7, 1},
	} {
		assert.InDelta(t, want[0], s[id].OverHome, 0.06, "%s", id)
		assert.InDelta(t, want[1], s[id].Figures.Dirt, 0.6, "%s", id)
		assert.InDelta(t, want[2], s[id].Figures.Squash, 0.01, "%s", id)
	}
	lead := s["lead"]
	assert.False(t, lead.Met())
	assert.Contains(t, lead.Checks[1].Words, "short of 2.7")
	assert.True(t, s["home"].Met())
	assert.True(t, s["crunch"].Met())
	assert.True(t, lead.Modelled)
	assert.Greater(t, lead.Figures.Hard, lead.Figures.Soft)
}

func TestTheSameSamplesEveryTimeConcurrent(t *testing.T) {
	p := night(t)
	var wait sync.WaitGroup
	var got [3][]signal.Heard
	for i := range got {
		wait.Go(func() {
			h, err := signal.Listen(
				context.Background(), p, "long", []signal.Take{{Name: "a", Sound: "lead"}}, false, signal.Options{Kept: kept},
			)
			assert.NoError(t, err)
			got[i] = h
		})
	}
	wait.Wait()
	require.Equal(t, got[0], got[1])
	require.Equal(t, got[0], got[2])
}

func TestMovingTheBoostReachesLead(t *testing.T) {
	p := night(t)
	found, err := signal.PlaceBoost(context.Background(), p, "long", "nudge/fx", signal.Options{Kept: kept})
	require.NoError(t, err)
	here, after := -1, -1
	for i, x := range found.Places {
		if x.Here {
			here = i
		}
		if x.Words == "after Amber" {
			after = i
		}
	}
	require.GreaterOrEqual(t, here, 0)
	require.GreaterOrEqual(t, after, 0)
	assert.Zero(t, found.Places[here].Meets)
	assert.Equal(t, 1, found.Places[after].Meets)
	assert.Equal(t, "after Pier combo preamp", found.Places[found.Louder].Words)
	assert.True(t, found.Places[found.Thicker].Here, "in front it thickens")
	for _, x := range found.Places {
		if x.SameA != nil {
			assert.Equal(t, found.Places[*x.SameA].Does, x.Does)
		}
	}
	r, _ := p.FindRig("long")
	r.Path = found.Places[after].Path
	s := measure(t, p, "long", "lead")["lead"]
	assert.True(t, s.Met(), "%v", s.Checks)
	assert.InDelta(t, found.Places[after].Does[0].OverHome, s.OverHome, 0.05, "and it is what was said")
}

// TestWhatCommutesIsTheSame renders a place that was not rendered, since only linear stops lie
// between, and finds that it is indeed the same.
func TestWhatCommutesIsTheSame(t *testing.T) {
	p := night(t)
	found, err := signal.PlaceBoost(context.Background(), p, "long", "nudge/fx", signal.Options{Kept: kept})
	require.NoError(t, err)
	checked := 0
	for _, x := range found.Places {
		if x.SameA == nil || checked == 2 {
			continue
		}
		checked++
		r, _ := p.FindRig("long")
		r.Path = x.Path
		s := measure(t, p, "long", "lead")["lead"]
		assert.InDelta(t, x.Does[0].OverHome, s.OverHome, 0.15, x.Words)
		assert.InDelta(t, x.Does[0].Dirt, s.Figures.Dirt, 0.5, x.Words)
	}
	assert.Equal(t, 2, checked)
}

func TestTheGainMapFindsWhatNothingReaches(t *testing.T) {
	p := night(t)
	m, err := signal.MapGain(context.Background(), p, "long", signal.Options{Kept: kept})
	require.NoError(t, err)
	assert.True(t, m.Whole)
	assert.Len(t, m.Points, 32, "four stages and two ways to set the guitar: a compressor is no gain stage")
	var lead signal.Target
	for _, x := range m.Targets {
		if x.Sound == "lead" {
			lead = x
		}
	}
	assert.False(t, lead.Reached)
	assert.InDelta(t, -0.7, lead.ShortLU, 0.1)
	require.NotEmpty(t, m.Findings)
	assert.Equal(t, "Nothing reaches Lead", m.Findings[0].Title)
	for i, a := range m.Distinct {
		for _, b := range m.Distinct[:i] {
			x, y := m.Points[a], m.Points[b]
			same := math.Abs(x.OverHome-y.OverHome) < 1 && math.Abs(x.Squash-y.Squash) < 0.08 && math.Abs(x.Dirt-y.Dirt) < 5
			assert.False(t, same, "%s and %s can be told apart", x.Name, y.Name)
		}
	}
	// A point of the map is the sound it belongs to.
	s := measure(t, p, "long")
	for _, x := range m.Points {
		for _, id := range x.Sounds {
			assert.InDelta(t, s[id].OverHome, x.OverHome, 0.05, "%s", id)
			assert.InDelta(t, s[id].Figures.Dirt, x.Dirt, 0.05, "%s", id)
			assert.InDelta(t, s[id].Figures.Squash, x.Squash, 0.01, "%s", id)
		}
	}
}

func TestTwoSoundsThatAreOneAndAStageThatChangesNothing(t *testing.T) {
	p := night(t)
	r, _ := p.FindRig("long")
	for i := range r.Recipes {
		if r.Recipes[i].ID == "long-lead" {
			r.Recipes[i].Values["nudge/fx/on"] = plan.On(true)
			r.Recipes[i].Values["echo/fx/on"] = plan.On(false)
		}
	}
	r.Base["nudge/fx/level"] = plan.Number(0)
	m, err := signal.MapGain(context.Background(), p, "long", signal.Options{Kept: kept})
	require.NoError(t, err)
	titles := map[string]string{}
	for _, f := range m.Findings {
		titles[f.Title] = f.Words
	}
	assert.Contains(t, titles["Two sounds are one"], "Crunch and Lead: 0.0 LU")
	assert.Contains(t, titles, "Nudge changes nothing")
	assert.Equal(t, []string{"Nudge"}, m.Idle)
}

func TestMoreCombinationsThanCanBeMeteredKeepToTheRecipes(t *testing.T) {
	p := night(t)

	for i := range 6 {
		g, _ := p.FindGear("nudge")
		more := *g
		more.ID, more.Name = plan.ID("more"+string(rune('a'+i))), "More"
		p.Gear = append(p.Gear, more)
		r, _ := p.FindRig("long")
		r.Path = append([]plan.Node{{Stop: plan.BlockKey(more.ID, "fx")}}, r.Path...)
	}
	ctx, cancel := context.WithCancel(context.Background())
	var shares []float64
	_, err := signal.MapGain(ctx, p, "long", signal.Options{Progress: func(s float64) {
		if shares = append(shares, s); len(shares) == 3 {
			cancel()
		}
	}})
	assert.ErrorIs(t, err, context.Canceled, "and it is cancelled")
	assert.NotEmpty(t, shares)
}

func TestTheLadderIsInOrderAndSaysWhatIsNotLevel(t *testing.T) {
	p := night(t)
	l, err := signal.Level(context.Background(), p, "long", "quay-set", signal.Options{Kept: kept})
	require.NoError(t, err)
	for i := 1; i < len(l.Rungs); i++ {
		assert.LessOrEqual(t, l.Rungs[i].OverHome, l.Rungs[i-1].OverHome)
	}
	titles := map[string]bool{}
	for _, f := range l.Findings {
		titles[f.Title] = true
	}
	assert.True(t, titles["Lead is not at its level"])
	assert.True(t, titles["Squeeze is not level"])
	for _, s := range l.Steps {
		assert.Greater(t, math.Abs(s.Jump), 3.0)
	}
	r, _ := p.FindRig("long")
	r.Base["pier/power/master"] = plan.Number(10)
	loud, err := signal.Level(context.Background(), p, "long", "quay-set", signal.Options{Kept: kept})
	require.NoError(t, err)
	assert.Less(t, loud.Headroom, l.Headroom)
	_, err = signal.Level(context.Background(), p, "long", "nope", signal.Options{Kept: kept})
	assert.ErrorContains(t, err, "no set list")
}

func TestWhatWasMeasuredGoesBeforeTheModel(t *testing.T) {
	p := night(t)
	before := measure(t, p, "long", "crunch")["crunch"]
	on, off := record(t, p, true), record(t, p, false)
	modelled := signal.OnOverOff(on, off)
	r, _ := p.FindRig("long")
	r.Levels = []plan.Level{
		{
			Block: "amber/fx", OnOver: 0,
			At: map[plan.Key]plan.Value{
				"amber/fx/drive": plan.Number(4), "amber/fx/level": plan.Number(2.3), "amber/fx/tone": plan.Number(5),
			},
		},
	}
	require.Empty(t, p.Validate())
	s := measure(t, p, "long", "crunch")["crunch"]
	assert.False(t, s.Modelled)
	assert.Equal(t, modelled > 0, s.Figures.Loudness < before.Figures.Loudness, "the trim goes the way it was measured")
	r.Levels[0].OnOver = 6
	louder := measure(t, p, "long", "crunch")["crunch"]
	assert.Greater(t, louder.Figures.Loudness, s.Figures.Loudness)
	assert.True(t, math.IsNaN(signal.OnOverOff(make([]float64, 48000), make([]float64, 48000))))
}

// record plays amber alone, as a player would record it.
func record(t *testing.T, p *plan.Plan, on bool) []float64 {
	t.Helper()
	q := *p
	q.Rigs = []plan.Rig{{ID: "bench", Name: "bench", Guitars: []plan.ID{"driftwood"},
		Path:    []plan.Node{{Stop: "amber/fx"}},
		Base:    map[plan.Key]plan.Value{"amber/fx/drive": plan.Number(4), "amber/fx/level": plan.Number(2.3)},
		Recipes: []plan.Recipe{{ID: "x", Sound: "crunch", Values: map[plan.Key]plan.Value{"amber/fx/on": plan.On(on)}}}}}
	h, err := signal.Listen(
		context.Background(), &q, "bench", []signal.Take{{Name: "x", Sound: "crunch"}}, false, signal.Options{Kept: kept},
	)
	require.NoError(t, err)
	x := make([]float64, len(h[0].L))
	for i, v := range h[0].L {
		x[i] = float64(v)
	}
	return x
}

func TestADelayAheadOfDirt(t *testing.T) {
	p := night(t)
	p.Gear = append(p.Gear,
		plan.Gear{ID: "dly", Name: "Plain delay", Kind: plan.Pedal,
			Blocks: []plan.Block{{ID: "fx", Name: "delay", Effect: plan.EffectDelay, Bypass: plan.BufferedBypass,
				Controls: []plan.Control{
					{ID: "time", Name: "time", Kind: plan.Knob, Access: plan.SlowHand, Unit: "ms", Min: ptr(20.0), Max: ptr(1000.0)},
					{ID: "repeats", Name: "repeats", Kind: plan.Knob, Access: plan.SlowHand},
					{ID: "mix", Name: "mix", Kind: plan.Knob, Access: plan.SlowHand}}}}},
		plan.Gear{ID: "high", Name: "High", Circuit: "High-gain head", Kind: plan.Amp, Loop: &plan.AmpLoop{Kind: "series"},
			SpeakerOut: &plan.SpeakerOut{Internal: true}, Blocks: []plan.Block{
				{
					ID: "preamp", Name: "preamp", Effect: plan.EffectPreamp, Model: plan.DrivenVoice, Bypass: plan.AlwaysOn,
					Controls: []plan.Control{{ID: "gain", Name: "gain", Kind: plan.Knob, Access: plan.SlowHand}},
				},
				{
					ID: "power", Name: "power", Effect: plan.EffectPower, Bypass: plan.AlwaysOn,
					Controls: []plan.Control{{ID: "master", Name: "master", Kind: plan.Knob, Access: plan.SlowHand}},
				}}})
	// -6.6 dB wet over dry, and 9.1 dB less at every pass: three repeats above -30 dB.
	base := map[plan.Key]plan.Value{
		"dly/fx/time": plan.Number(300), "dly/fx/mix": plan.Number(3.187), "dly/fx/repeats": plan.Number(3.69),
		"high/preamp/gain": plan.Number(8), "high/power/master": plan.Number(2),
	}
	times := func(path ...plan.Key) signal.TimeFigures {
		q := *p
		r := plan.Rig{
			ID: "r", Name: "r", Guitars: []plan.ID{"driftwood"}, Base: base,
			Recipes: []plan.Recipe{{ID: "x", Sound: "lead", Values: map[plan.Key]plan.Value{"dly/fx/on": plan.On(true)}}},
		}
		for _, k := range path {
			r.Path = append(r.Path, plan.Node{Stop: k})
		}
		q.Rigs = []plan.Rig{r}
		return measure(t, &q, "r")["lead"].Figures.Times[0]
	}
	alone := times("dly/fx")
	assert.InDelta(t, -6.6, alone.First, 0.2)
	assert.Equal(t, 3, alone.Audible)
	behind := times("high/preamp", "dly/fx", "high/power")
	assert.InDelta(t, -6.6, behind.First, 0.7, "behind it, unchanged")
	assert.Equal(t, 3, behind.Audible)
	front := times("dly/fx", "high/preamp", "high/power")
	assert.InDelta(t, -0.6, front.First, 1.5)
	assert.InDelta(t, 6, front.Audible, 1)
	assert.Greater(t, front.Mud, behind.Mud+15, "and it smears")
}

func ptr[T any](v T) *T { return &v }

func TestMudAndTheFirstRepeatGrowWithTheDriveBehindADelay(t *testing.T) {
	p := night(t)
	last := signal.TimeFigures{First: -100, Mud: -100}
	for i := range 12 {
		q := *p
		r, _ := p.FindRig("long")
		rig := *r
		rig.Path = []plan.Node{{Stop: "slap/fx"}, {Stop: "rust/fx"}}
		rig.Base = map[plan.Key]plan.Value{
			"slap/fx/time": plan.Number(120), "slap/fx/mix": plan.Number(3), "slap/fx/repeats": plan.Number(2),
			"rust/fx/drive": plan.Number(10 * float64(i) / 11), "rust/fx/level": plan.Number(3),
		}
		rig.Recipes = []plan.Recipe{
			{ID: "x", Sound: "skank", Values: map[plan.Key]plan.Value{"slap/fx/on": plan.On(true), "rust/fx/on": plan.On(true)}},
		}
		rig.Destinations, rig.Presets = nil, nil
		q.Put(rig)
		f := measure(t, &q, "long")["skank"].Figures.Times[0]
		assert.GreaterOrEqual(t, f.First, last.First-0.05, "step %d", i)
		assert.GreaterOrEqual(t, f.Mud, last.Mud-0.5, "step %d", i)
		last = f
	}
}

// TestEveryChainIsRendered plays the whole library of chains: lanes, loops, two amps, four cables.
func TestEveryChainIsRendered(t *testing.T) {
	files, err := filepath.Glob("../path/testdata/chains/*.envex.json")
	require.NoError(t, err)
	require.Len(t, files, 22)
	short := make([]float64, signal.Rate) // a second is enough to see that something comes out
	for i := range short {
		short[i] = 0.2 * math.Sin(2*math.Pi*220*float64(i)/signal.Rate) * math.Exp(-float64(i)/signal.Rate)
	}
	for _, name := range files {
		data, err := os.ReadFile(name)
		require.NoError(t, err)
		p, err := plan.Decode(data)
		require.NoError(t, err)
		for i := range p.Rigs {
			rig := &p.Rigs[i]
			if len(p.Sounds) == 0 {
				p.Sounds = []plan.Sound{{ID: "s", Name: "s", Short: "S", Role: plan.HomeRole, Tape: "bone"}}
			}
			if len(rig.Recipes) == 0 {
				rec := plan.Recipe{ID: rig.ID + "-all", Sound: p.Sounds[0].ID, Values: map[plan.Key]plan.Value{}}
				for _, k := range rig.Stops() {
					if g, ok := p.FindGear(k.Gear()); ok {
						if b, ok := g.FindBlock(plan.ID(k.Rest())); ok && b.Bypass != plan.AlwaysOn {
							rec.Values[k+"/on"] = plan.On(true)
						}
					}
				}
				rig.Recipes = []plan.Recipe{rec}
			}
			p.Sounds = p.Sounds[:1]
			r, err := signal.Measure(context.Background(), p, rig.ID, signal.Options{Dry: short, Kept: kept})
			require.NoError(t, err, name)
			for _, s := range r.Sounds {
				f := s.Figures
				for _, v := range []float64{f.Loudness, f.Dirt, f.Squash, f.Noise, f.Peak} {
					assert.False(t, math.IsNaN(v) || math.IsInf(v, 0), "%s: %+v", name, f)
				}
				assert.Greater(t, f.Loudness, -60.0, "%s: something comes out", name)
			}
			h, err := signal.Listen(
				context.Background(), p, rig.ID, []signal.Take{{Sound: rig.Recipes[0].Sound}}, false,
				signal.Options{Dry: short, Kept: kept},
			)
			require.NoError(t, err)
			_, err = wav.Encode(h[0].L, h[0].R)
			require.NoError(t, err)
		}
	}
}

func TestAnotherOrderIsMeteredForTheSoundsItChanges(t *testing.T) {
	p := night(t)
	r, _ := p.FindRig("long")
	path := append([]plan.Node(nil), r.Path...)
	path[4], path[5] = path[5], path[4] // Nudge after Amber
	d, err := signal.Differ(
		context.Background(), p, "long", path, []plan.Key{"nudge/fx", "amber/fx"}, signal.Options{Kept: kept},
	)
	require.NoError(t, err)
	require.Len(t, d.Sounds, 1)
	assert.Equal(t, plan.ID("lead"), d.Sounds[0].Sound)
	assert.InDelta(t, 1.9, d.Sounds[0].Louder, 0.2)
	assert.Contains(t, d.Words, "Lead: +1.")
	none, err := signal.Differ(
		context.Background(), p, "long", path, []plan.Key{"silt/fx", "rust/fx"}, signal.Options{Kept: kept},
	)
	require.NoError(t, err)
	assert.Empty(t, none.Sounds)
}

func BenchmarkSignal(b *testing.B) {
	p := night(b)
	one := *p
	one.Sounds = one.Sounds[2:3]
	b.Run("all figures of Lead", func(b *testing.B) {
		for b.Loop() {
			if _, err := signal.Measure(context.Background(), &one, "long", signal.Options{}); err != nil {
				b.Fatal(err)
			}
		}
	})
	b.Run("all figures of every sound after an edit of one", func(b *testing.B) {
		edited, kept := night(b), signal.NewKept()
		rig, ok := edited.FindRig("long")
		require.True(b, ok)
		at := 0.0
		for b.Loop() {
			at = math.Mod(at+0.01, 10) // a knob where it has not stood
			rig.Recipes[2].Values["amber/fx/drive"] = plan.Number(at)
			if _, err := signal.Measure(context.Background(), edited, "long", signal.Options{Kept: kept}); err != nil {
				b.Fatal(err)
			}
		}
	})
	b.Run("a gain map of 64 points", func(b *testing.B) {
		for b.Loop() {
			if _, err := signal.MapGain(context.Background(), p, "long", signal.Options{}); err != nil {
				b.Fatal(err)
			}
		}
	})
	b.Run("Lead to listen to, seven seconds", func(b *testing.B) {
		for b.Loop() {
			if _, err := signal.Listen(
				context.Background(), p, "long", []signal.Take{{Sound: "lead"}}, false, signal.Options{},
			); err != nil {
				b.Fatal(err)
			}
		}
	})
}
