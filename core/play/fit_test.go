package play

import (
	"math"
	"math/rand"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/demo"
)

func TestNoisyPlayersRecoverTheirConstants(t *testing.T) {
	for seed := range 20 {
		r := rand.New(rand.NewSource(int64(seed)))
		sum, b := 0.15+0.2*r.Float64(), 0.08+0.15*r.Float64()
		var moves []Move
		for range 60 {
			m := Move{Distance: 60 + 640*r.Float64(), Width: 30}
			m.Seconds = sum + b*m.bits() + 0.03*r.NormFloat64()
			if r.Intn(10) == 0 {
				m.Seconds += 0.5 + r.Float64() // a slip
			}
			moves = append(moves, m)
		}
		f, err := FitFeet(moves)
		require.NoError(t, err)
		assert.InDelta(t, sum, f.Sum, 0.06)
		assert.InDelta(t, b, f.B, 0.025)
		assert.True(t, f.Good, f.Words)
		assert.InDelta(t, 0.03, f.Spread, 0.012)
		assert.Greater(t, f.LeftOut, 0)
	}
}

func TestAFitIsRefusedOrCalledUnsteady(t *testing.T) {
	_, err := FitFeet([]Move{{100, 30, 0.4}})
	assert.ErrorIs(t, err, ErrTooFew)
	var same []Move
	for range 30 {
		same = append(same, Move{100, 30, 0.4})
	}
	_, err = FitFeet(same)
	assert.ErrorIs(t, err, ErrTooFew)
	r := rand.New(rand.NewSource(1))
	var wild []Move
	for range 40 {
		wild = append(wild, Move{60 + 640*r.Float64(), 30, 0.3 + 1.5*r.Float64()})
	}
	f, err := FitFeet(wild)
	require.NoError(t, err)
	assert.False(t, f.Good)
	assert.Contains(t, f.Words, "play it again")
	exact := []Move{}
	for d := 50.0; d < 800; d += 50 {
		exact = append(exact, Move{d, 30, 0.2 + 0.14*math.Log2(d/30+1)})
	}
	f, err = FitFeet(exact)
	require.NoError(t, err)
	assert.InDelta(t, 0.2, f.Sum, 1e-9)
	assert.InDelta(t, 0.14, f.B, 1e-9)
	assert.InDelta(t, 1, f.R2, 1e-9)
}

// What a drill on a rig tells is what the distances between its switches tell, less the dwell of the player.
func TestFeetAreFittedToTheSwitchesOfARig(t *testing.T) {
	p := demo.Plan()
	r, _ := p.FindRig("long")
	dwell := 0.1
	r.Profile = plan.FootProfile{Dwell: &dwell, Singing: r.Profile.Singing}
	script, err := Read(p, "long", "", "quay-set")
	require.NoError(t, err)
	var steps []Step
	for i, a := range script.Switches {
		for _, b := range script.Switches[i+1:] {
			d := math.Hypot(a.X-b.X, a.Y-b.Y)
			steps = append(steps, Step{From: a.Key, To: b.Key, Seconds: 0.25 + 0.12*math.Log2(d/b.Width+1)})
		}
	}
	feet, err := Drilled(p, script, steps)
	require.NoError(t, err)
	assert.InDelta(t, 0.25, feet.Sum, 1e-6)
	assert.InDelta(t, 0.15, *feet.Profile.A, 1e-6, "less the dwell")
	assert.InDelta(t, 0.12, *feet.Profile.B, 1e-6)
	assert.Equal(t, r.Profile.Singing, feet.Profile.Singing, "the rest stays")
	assert.Equal(t, &dwell, feet.Profile.Dwell)
	assert.True(t, feet.Measured)
	assert.Empty(t, feet.Why)

	script.Spaced = false
	feet, err = Drilled(p, script, steps)
	require.NoError(t, err)
	assert.False(t, feet.Measured)
	assert.Contains(t, feet.Why, "no places in mm")
	script.Spaced = true
	for i := range steps {
		steps[i].Seconds = 0.3 + float64((i*7919)%13)/8
	}
	feet, err = Drilled(p, script, steps)
	require.NoError(t, err)
	assert.False(t, feet.Measured)
	assert.Contains(t, feet.Why, "not steady")

	_, err = Drilled(p, script, append(steps, Step{From: "nope", To: steps[0].To, Seconds: 1}))
	assert.ErrorContains(t, err, "does not have")
	_, err = Drilled(p, script, steps[:3])
	assert.ErrorIs(t, err, ErrTooFew)
}

// The first of F. J. Anscombe's four sets ("Graphs in Statistical Analysis", The American Statistician 1973): its line
// is y = 3.00 + 0.500 x, R2 0.67, and the standard error of what is left 1.237.
func TestTheLineIsThatOfLeastSquares(t *testing.T) {
	x := []float64{10, 8, 13, 9, 11, 14, 6, 4, 12, 7, 5}
	y := []float64{8.04, 6.95, 7.58, 8.81, 8.33, 9.96, 7.24, 4.26, 10.84, 4.82, 5.68}
	f := line(x, y)
	assert.Equal(t, 11, f.Used)
	assert.InDelta(t, 3.0001, f.Sum, 1e-3)
	assert.InDelta(t, 0.5001, f.B, 1e-4)
	assert.InDelta(t, 1.2366, f.Spread, 1e-4)
	assert.InDelta(t, 0.6665, f.R2, 1e-4)
	assert.InDelta(t, 0, line([]float64{0, 1}, []float64{1, 3}).Spread, 1e-12, "two points leave nothing")
	assert.InDelta(t, 1.5, line([]float64{0, 0, 2, 2}, []float64{1, 2, 1, 2}).Sum, 1e-12)
	assert.Zero(t, line([]float64{0, 1, 2}, []float64{4, 4, 4}).R2, "where nothing varies there is nothing to explain")
}

func TestMiddles(t *testing.T) {
	for want, list := range map[float64][]float64{
		0: nil, 3: {3}, 2.5: {4, 1}, 5: {9, 5, 1}, 4.5: {9, 1, 5, 4}, 7: {8, 7, 100, 7, -9},
	} {
		given := slices.Clone(list)
		assert.InDelta(t, want, median(list), 1e-12, "%v", list)
		assert.Equal(t, given, list, "what it was given stays in its order")
	}
	// Of H. Theil's and P. K. Sen's slopes the middle one: 1 of three of a line, whatever the fourth point does.
	slope, at := theilSen([]float64{0, 1, 2, 3, 3}, []float64{1, 2, 3, 4, 90})
	assert.InDelta(t, 1, slope, 1e-12)
	assert.InDelta(t, 1, at, 1e-12)
	slope, at = theilSen([]float64{0, 2, 4}, []float64{0, 6, 8}) // slopes 3, 2 and 1
	assert.InDelta(t, 2, slope, 1e-12)
	assert.InDelta(t, 0, at, 1e-12)
}

// steady are so many moves of a player whose feet are exact, over so many bits.
func steady(n int, bits float64) []Move {
	var moves []Move
	for i := range n {
		share := float64(i) / float64(n-1)
		x := 1 + bits*share
		moves = append(moves, Move{Distance: 30 * (math.Exp2(x) - 1), Width: 30, Seconds: 0.2 + 0.1*x})
	}
	return moves
}

func TestWhatAFitNeeds(t *testing.T) {
	_, err := FitFeet(steady(11, 3))
	require.ErrorIs(t, err, ErrTooFew)
	assert.ErrorContains(t, err, "at least 12 moves over different distances are needed, and there are 11")
	f, err := FitFeet(steady(12, 3))
	require.NoError(t, err)
	assert.True(t, f.Good)
	assert.Equal(t, "12 moves fitted, 0 left out; they scatter by 0 ms around it.", f.Words)
	_, err = FitFeet(steady(12, 0.45))
	assert.ErrorIs(t, err, ErrTooFew, "all of nearly one difficulty")
	_, err = FitFeet(steady(12, 0.55))
	assert.NoError(t, err)

	// What is no move does not count.
	for name, no := range map[string]Move{
		"no width": {100, 0, 1}, "no way": {0, 30, 1}, "no time": {100, 30, 0}, "for ever": {100, 30, math.Inf(1)},
	} {
		_, err = FitFeet(append(steady(11, 3), no))
		assert.ErrorIs(t, err, ErrTooFew, name)
	}

	// One move of twelve that is left out leaves eleven: too few to keep.
	slip := steady(12, 3)
	slip[5].Seconds += 0.5
	f, err = FitFeet(slip)
	require.NoError(t, err)
	assert.Equal(t, []int{11, 1}, []int{f.Used, f.LeftOut})
	assert.False(t, f.Good)
	slip = append(slip, steady(12, 3)...)
	f, err = FitFeet(slip)
	require.NoError(t, err)
	assert.Equal(t, []int{23, 1}, []int{f.Used, f.LeftOut})
	assert.True(t, f.Good)

	// A fiftieth of a second off is left in, however exact the others are.
	near := steady(24, 3)
	near[3].Seconds += 0.019
	near[7].Seconds += 0.021
	f, err = FitFeet(near)
	require.NoError(t, err)
	assert.Equal(t, 1, f.LeftOut)

	// Feet that take longer for shorter ways, or no time at all, are none.
	back := steady(24, 3)
	for i := range back {
		back[i].Seconds = 1 - back[i].Seconds
	}
	f, err = FitFeet(back)
	require.NoError(t, err)
	assert.False(t, f.Good)
	for i := range back {
		back[i].Seconds = 0.3 * (back[i].bits() - 0.9)
	}
	f, err = FitFeet(back)
	require.NoError(t, err)
	assert.Less(t, f.Sum, 0.0)
	assert.False(t, f.Good)
}

// Moves that scatter by more than 150 ms are not steady.
func TestHowSteadyAFitHasToBe(t *testing.T) {
	scattered := func(by float64) *Fit {
		moves := steady(40, 3)
		for i := range moves {
			moves[i].Seconds += 1 + by*[]float64{1, -1, -1, 1}[i%4]
		}
		f, err := FitFeet(moves)
		require.NoError(t, err)
		return f
	}
	for by, good := range map[float64]bool{0.14: true, 0.16: false} {
		f := scattered(by)
		assert.InDelta(t, by*math.Sqrt(40.0/38), f.Spread, 0.002)
		assert.Equal(t, good, f.Good, f.Words)
		assert.Equal(t, good, !strings.Contains(f.Words, "not steady enough"), f.Words)
	}
}
