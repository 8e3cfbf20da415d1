package estimate

import (
	"context"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"envex/core/plan"
	"envex/core/signal"
)

var kept = signal.NewKept()

// stopped is a performance that ends with a chord which is stopped by hand.
func stopped(r *rand.Rand, style int, seconds, silence float64) []float64 {
	last := make([]float64, rate/2)
	for i, k := range []float64{0, 7, 12, 16} {
		ring(r, last, 0.01*float64(i), 0.5, 110*math.Pow(2, k/12), 0.08)
	}
	return append(append(performance(r, style, seconds), last...), make([]float64, int(silence*rate))...)
}

// through is a recording of a performance through boxes with knobs where they are said to be, and what the meter says of
// the effect that is looked for.
func through(
	t require.TestingT,
	played []float64,
	knobs map[plan.Key]plan.Value,
	s specimen,
) ([]float64, []signal.TimeFigures) {
	s.guitar, s.amp, s.clean = "three-single-coil", "combo-plain", 1
	p := s.plan(t, rand.New(rand.NewPCG(5, 5)))
	rig, _ := p.FindRig("rig")
	rig.Base["combo-plain/reverb/reverb"] = plan.Number(0)
	for k, v := range knobs {
		rig.Base[k] = v
	}
	require.Empty(t, p.Validate())
	m, err := signal.Measure(context.Background(), p, "rig", signal.Options{Kept: kept})
	require.NoError(t, err)
	h, err := signal.Listen(
		context.Background(), p, "rig", []signal.Take{{Sound: "home"}}, false, signal.Options{Kept: kept, Dry: played},
	)
	require.NoError(t, err)
	return doubles(h[0].L), m.Sounds[0].Figures.Times
}

func TestRepeatsOfADelayAreFound(t *testing.T) {
	r := rand.New(rand.NewPCG(7, 7))
	for i, x := range []struct{ ms, repeats, mix float64 }{
		{350, 4, 5}, {180, 2, 4}, {620, 6, 6}, {95, 1, 5}, {250, 2, 1},
	} {
		heard, times := through(t, stopped(r, i%4, 6, 0), map[plan.Key]plan.Value{
			"digital-delay/fx/time": plan.Number(x.ms), "digital-delay/fx/repeats": plan.Number(x.repeats),
			"digital-delay/fx/mix": plan.Number(x.mix),
		}, specimen{delay: true})
		require.Equal(t, plan.Key("digital-delay/fx"), times[0].Stop)
		got := repeatsOf(heard)
		t.Logf("%+v: %+v %+v", x, times[0], got)
		if assert.NotNil(t, got, "%+v", x) {
			assert.InDelta(t, x.ms, got.MS.Is, 1)
			assert.GreaterOrEqual(t, times[0].First, got.LevelDB.Low, "%+v", x)
			assert.LessOrEqual(t, times[0].First, got.LevelDB.High, "%+v", x)
			assert.InDelta(t, times[0].Audible, got.Heard, 1, "%+v", x)
		}
	}
}

func TestPlayingAloneHasNoRepeats(t *testing.T) {
	r := rand.New(rand.NewPCG(8, 8))
	for i, drive := range []string{"", "mid-hump-overdrive", "fuzz", "boost"} {
		heard, _ := through(t, performance(r, i, 6), nil, specimen{drive: drive, gain: 5, wet: i == 3})
		assert.Nil(t, repeatsOf(heard), drive)
	}
}

func TestATailIsMeasuredWhereStringsAreStopped(t *testing.T) {
	r := rand.New(rand.NewPCG(9, 9))
	for size, mix := range map[float64]float64{1: 6, 5: 5, 9: 4} {
		heard, times := through(t, stopped(r, 2, 4, 0), map[plan.Key]plan.Value{
			"hall-reverb/fx/size": plan.Number(size), "hall-reverb/fx/mix": plan.Number(mix),
		}, specimen{wet: true})
		require.Equal(t, plan.Key("hall-reverb/fx"), times[0].Stop)
		got := tailOf(heard)
		t.Logf("%g: %+v %+v", size, times[0], got)
		require.NotNil(t, got)
		if size < 5 { // a tail that is nearly as loud as what it follows hides where that was stopped
			assert.False(t, got.AtMost, "%g", size)
		}
		assert.GreaterOrEqual(t, times[0].Rings, got.S.Low)
		assert.LessOrEqual(t, times[0].Rings, got.S.High)
	}
	dry, _ := through(t, stopped(r, 2, 4, 2), nil, specimen{})
	got := tailOf(dry)
	require.NotNil(t, got)
	assert.True(t, got.AtMost, "%+v", got)
	assert.Less(t, got.S.High, 1.0)
	ends, _ := through(t, performance(r, 2, 4), nil, specimen{})
	assert.Nil(t, tailOf(ends[:3*rate]), "it ends while it is playing")
}

// What is estimated holds on recordings that nothing was fitted to, as often as it says.
func TestDirtIsWithinWhatIsSaid(t *testing.T) {
	f := fitted
	rows := specimens(t, 20, 15)
	in := 0
	for _, r := range rows {
		if math.Abs(f.at(r.seen)-r.root) <= f.Within {
			in++
		} else {
			t.Logf("%s: %.0f %% taken for %.0f %%", r.box, r.root*r.root, f.at(r.seen)*f.at(r.seen))
		}
	}
	assert.GreaterOrEqual(t, in, 9, "of 15, where 12 are to be expected")
	assert.Less(t, f.Within, 2.0)
}

func TestTheSamePlayedThroughMoreDriveIsDirtier(t *testing.T) {
	r := rand.New(rand.NewPCG(11, 11))
	played := performance(r, 2, 4)
	last := -1.0
	for _, gain := range []float64{0, 4, 10} {
		heard, _ := through(t, played, nil, specimen{drive: "light-overdrive", gain: gain})
		got, err := dirtOf(heard)
		require.NoError(t, err)
		assert.Greater(t, got.Is, last)
		last = got.Is
	}
}

func TestARecordingIsTheSoundOfItsTargets(t *testing.T) {
	r := rand.New(rand.NewPCG(12, 12))
	played := stopped(r, 2, 5, 0)
	heard, _ := through(t, played, map[plan.Key]plan.Value{
		"digital-delay/fx/time": plan.Number(
			375,
		), "digital-delay/fx/repeats": plan.Number(3), "digital-delay/fx/mix": plan.Number(5),
	}, specimen{delay: true})
	louder := make([]float64, len(heard))
	for i, v := range heard {
		louder[i] = v * math.Pow(10, 4.0/20)
	}
	got, err := Of([][]float64{louder}, [][]float64{heard})
	require.NoError(t, err)
	require.NotNil(t, got.OverHome)
	assert.InDelta(t, 4, got.OverHome.Is, 0.1)
	assert.Less(t, got.Dirt.Low, got.Dirt.Is)
	assert.Less(t, got.Dirt.Is, got.Dirt.High)
	assert.False(t, got.Stereo)
	targets := got.Targets(plan.Tempo{BPM: 120})
	require.Len(t, targets.Effects, 1)
	assert.Equal(t, plan.EffectDelay, targets.Effects[0].Effect)
	assert.Equal(t, "1/8.", targets.Effects[0].Note)
	assert.InDelta(t, 4, *targets.LoudnessLU, 0.1)
	p := &plan.Plan{
		Sounds: []plan.Sound{{ID: "s", Name: "S", Short: "S", Tape: "bone", Role: "lead", Targets: targets}},
	}
	assert.Empty(t, p.Validate())
	assert.Empty(t, got.Targets(plan.Tempo{}).Effects[0].Note)
	assert.Contains(t, got.Said()[2], "Repeats every 375 ms")

	wide, err := Of([][]float64{played, append(make([]float64, 700), played[:len(played)-700]...)}, nil)
	require.NoError(t, err)
	assert.True(t, wide.Stereo)
	assert.Equal(t, "stereo", wide.Targets(plan.Tempo{}).Width)
}

func TestLoudnessOfARecordingChangesNothingButIts(t *testing.T) {
	played := performance(rand.New(rand.NewPCG(13, 13)), 3, 3)
	one, err := Of([][]float64{played}, nil)
	require.NoError(t, err)
	rapid.Check(t, func(rt *rapid.T) {
		by := rapid.Float64Range(-40, 10).Draw(rt, "dB")
		x := make([]float64, len(played))
		for i, v := range played {
			x[i] = v * math.Pow(10, by/20)
		}
		f, ok := featuresOf(x)
		require.True(rt, ok)
		g, _ := featuresOf(played)
		for i := range f {
			require.InDelta(rt, g[i], f[i], 0.01)
		}
	})
	assert.Len(t, one.Bands, 29)
}

func TestARecordingOfNothingIsRefused(t *testing.T) {
	_, err := Of([][]float64{make([]float64, rate)}, nil)
	assert.ErrorContains(t, err, "the recording is shorter than two seconds")
	_, err = Of(nil, nil)
	assert.Error(t, err)
	_, err = Of([][]float64{make([]float64, 5*rate)}, nil)
	assert.ErrorContains(t, err, "nothing is heard in the recording")
	x := performance(rand.New(rand.NewPCG(1, 1)), 0, 3)
	_, err = Of([][]float64{x}, [][]float64{make([]float64, 5*rate)})
	assert.ErrorContains(t, err, "nothing is heard in the recording of home")
}
