package signal_test

import (
	"context"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/core/signal"
)

func TestListeningKeepsItsCeilingAndMatches(t *testing.T) {
	p := night(t)
	r, _ := p.FindRig("long")
	r.Base["pier/power/master"] = plan.Number(10)
	takes := []signal.Take{{Name: "Home", Sound: "home"}, {Name: "Lead", Sound: "lead"}}
	plain, err := signal.Listen(context.Background(), p, "long", takes, false, signal.Options{Kept: kept})
	require.NoError(t, err)
	assert.Equal(t, plain[0].Gain, plain[1].Gain, "unmatched, both by the same")
	matched, err := signal.Listen(context.Background(), p, "long", takes, true, signal.Options{Kept: kept})
	require.NoError(t, err)
	assert.InDelta(t, matched[0].LUFS+matched[0].Gain, matched[1].LUFS+matched[1].Gain, 1e-9, "matched, both as loud")
	for _, list := range [][]signal.Heard{plain, matched} {
		for _, h := range list {
			assert.LessOrEqual(t, signal.Meter(h.L, h.R).TruePeak, -1+0.01)
			assert.Len(t, h.L, len(h.R))
		}
	}
	other := p.Rigs[0].Path
	orders, err := signal.Listen(
		context.Background(), p, "long",
		[]signal.Take{
			{Name: "a", Sound: "lead"},
			{Name: "b", Sound: "lead", Path: append(other[5:6:6], append(other[:5:5], other[6:]...)...)},
		},
		false, signal.Options{Kept: kept},
	)
	require.NoError(t, err)
	assert.NotEqual(t, orders[0].L, orders[1].L, "another order is heard")
	_, err = signal.Listen(
		context.Background(), p, "carry", []signal.Take{{Sound: "shimmer"}}, false, signal.Options{Kept: kept},
	)
	assert.ErrorContains(t, err, "no recipe")
}

func TestAChangeIsHeardAsItIsPlayed(t *testing.T) {
	p := night(t)
	from, to := signal.Take{Name: "Lead", Sound: "lead"}, signal.Take{Name: "Home", Sound: "home"}
	late := []signal.Press{
		{At: 0.4, Values: map[plan.Key]plan.Value{"nudge/fx/on": plan.On(false), "amber/fx/on": plan.On(false)}},
		{At: 0.8, Values: map[plan.Key]plan.Value{"echo/fx/on": plan.On(false)}},
	}
	h, err := signal.Change(
		context.Background(), p, "long", signal.Transition{From: from, To: to, Presses: late, Before: 1, After: 1},
		signal.Options{Kept: kept},
	)
	require.NoError(t, err)
	at, err := signal.Change(
		context.Background(), p, "long", signal.Transition{From: from, To: to, Presses: nil, Before: 1, After: 1.8},
		signal.Options{Kept: kept},
	)
	require.NoError(t, err)
	require.Len(t, h[0].L, len(at[0].L))
	assert.Equal(t, h[0].L[:40000], at[0].L[:40000], "the same until the change begins")
	assert.NotEqual(t, h[0].L[50000:60000], at[0].L[50000:60000], "then the sounds in between")

	// Trails ring on; where they are cut, what is left is softer just after.
	r, _ := p.FindRig("long")
	g, _ := p.FindGear("echo")
	g.Blocks[0].Trails = false
	cut, err := signal.Change(
		context.Background(), p, "long", signal.Transition{From: from, To: to, Presses: nil, Before: 1, After: 1.8},
		signal.Options{Kept: kept},
	)
	require.NoError(t, err)
	assert.NotEqual(t, at[0].L[49000:60000], cut[0].L[49000:60000])
	_ = r
}

func TestARecordingIsPlayedInstead(t *testing.T) {
	p := night(t)
	x := make([]float64, 3*48000)
	for i := range x {
		x[i] = 0.01 * math.Sin(2*math.Pi*220*float64(i)/48000)
	}
	dry := signal.Calibrated(x)
	sum := 0.0
	for _, v := range dry {
		sum += v * v
	}
	assert.InDelta(t, 0.1, math.Sqrt(sum/float64(len(dry))), 1e-3, "brought to the level of a pickup")
	a, err := signal.Measure(context.Background(), p, "carry", signal.Options{Dry: dry, Kept: kept})
	require.NoError(t, err)
	b, err := signal.Measure(context.Background(), p, "carry", signal.Options{Kept: kept})
	require.NoError(t, err)
	assert.NotEqual(t, a.Sounds[0].Figures.Loudness, b.Sounds[0].Figures.Loudness)
	assert.InDelta(t, a.Sounds[0].Figures.Dirt, b.Sounds[0].Figures.Dirt, 1e-9, "dirt is of the tones, whatever is played")
	silent := signal.Calibrated(make([]float64, 48000))
	assert.Zero(t, silent[100])
}

func TestListeningToAFindingPlaysWhatItIsAbout(t *testing.T) {
	p := night(t)
	r, _ := p.FindRig("long")
	about := func(prefer plan.ID, stops ...plan.Key) signal.Take {
		take, err := signal.About(p, "long", stops, prefer)
		require.NoError(t, err)
		return take
	}
	take := about("home", "echo/fx")
	rec := r.Recipes[0]
	for _, x := range r.Recipes {
		if x.ID == take.Recipe {
			rec = x
		}
	}
	assert.True(t, rec.Values["echo/fx/on"].IsOn() && len(take.Over) == 0, "a sound that has the delay on, not Home")
	assert.Equal(t, plan.ID("shimmer"), about("shimmer", "echo/fx").Sound, "the one that is asked where it has")
	both := about("home", "undertow/fx", "echo/fx")
	assert.Equal(t, plan.ID("home"), both.Sound, "no sound has both on")
	assert.Len(t, both.Over, 2, "they are turned on in it")
	_, err := signal.About(p, "long", []plan.Key{"nothing/fx"}, "home")
	assert.Error(t, err)

	// A looper has a layer under what is played on.
	p.Gear = append(
		p.Gear,
		plan.Gear{
			ID: "loop", Name: "Loop", Kind: plan.Pedal,
			Blocks: []plan.Block{{ID: "fx", Name: "looper", Effect: plan.EffectLooper, Bypass: plan.BufferedBypass}},
		},
	)
	r, _ = p.FindRig("long")
	r.Path = append([]plan.Node{{Stop: "loop/fx"}}, r.Path...)
	take = about("home", "loop/fx")
	require.Contains(t, take.Over, plan.Key("loop/fx/on"))
	heard, err := signal.Listen(
		context.Background(), p, "long", []signal.Take{{Sound: take.Sound}, take}, false, signal.Options{Kept: kept},
	)
	require.NoError(t, err)
	energy := func(x []float32) float64 {
		sum := 0.0
		for _, v := range x {
			sum += float64(v) * float64(v)
		}
		return sum
	}
	assert.InEpsilon(t, energy(heard[0].L[:90000]), energy(heard[1].L[:90000]), 0.02, "while it is recorded")
	assert.Greater(
		t, energy(heard[1].L[400000:450000]), 10*energy(heard[0].L[400000:450000]), "and it goes on when nobody plays",
	)
}
