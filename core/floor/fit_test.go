package floor

import (
	"context"
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"envex/core/plan"
)

// stage is a board with boxes of some sizes, each with a switch at its near edge, none of them placed, and a night
// on them that goes by chance.
func stage(c *chance, w, d float64, size [][2]float64) *Scene {
	s := &Scene{
		Board: &BoardAt{Name: "board", Width: w, Depth: d, Area: Rect{0, 0, w, d}}, Foot: plan.DefaultFootwork(),
		Night: Night{Presses: map[plan.Key]int{}},
	}
	for i, z := range size {
		g := &plan.Gear{ID: plan.ID(fmt.Sprint("g", i)), Name: fmt.Sprint("g", i), Kind: plan.Pedal,
			Size:         &plan.Size{Width: z[0], Depth: z[1]},
			Footswitches: []plan.Footswitch{{ID: "s", X: z[0] / 2, Y: z[1] - 20}}}
		s.Pieces = append(s.Pieces, Piece{Gear: g, Box: BoxOf(g, plan.Placement{}, false)})
	}
	for range 3 * len(size) {
		step := Step{
			From: plan.Key(fmt.Sprintf("g%d/s", c.below(len(size)))), To: plan.Key(fmt.Sprintf("g%d/s", c.below(len(size)))),
			Times: 1 + c.below(5),
		}
		s.Night.Steps = append(s.Night.Steps, step)
		s.Night.Presses[step.To] += step.Times
	}
	s.Prepare()
	return s
}

// plugIn gives every box an input on its right and an output on its left, and leads along the row.
func plugIn(s *Scene, known bool) {
	for i := range s.Pieces {
		g := s.Pieces[i].Gear
		at := func(x float64) *float64 {
			if known {
				return &x
			}
			return nil
		}
		g.Jacks = []plan.Jack{{ID: "in", Side: "right", At: at(30)}, {ID: "out", Side: "left", At: at(60)}}
		in, _ := SocketOf(g, "in")
		out, _ := SocketOf(g, "out")
		s.Pieces[i].Plugs = []Plug{
			{Socket: in, Is: "in", Jack: "input", Length: 15}, {Socket: out, Is: "out", Jack: "output", Length: 15},
		}
		if i > 0 {
			s.Leads = append(s.Leads, Lead{From: i - 1, FromPlug: 1, To: i, ToPlug: 0, Count: 1, Name: "The lead"})
		}
	}
	s.Prepare()
}

func TestFitKeepsItsPromises(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		c := &chance{rapid.Uint64().Draw(t, "night")}
		n := rapid.IntRange(1, 4).Draw(t, "boxes")
		size := make([][2]float64, n)
		for i := range size {
			size[i] = [2]float64{float64(rapid.IntRange(50, 140).Draw(t, "w")), float64(rapid.IntRange(80, 150).Draw(t, "d"))}
		}
		w, d := float64(rapid.IntRange(200, 700).Draw(t, "width")), float64(rapid.IntRange(130, 400).Draw(t, "depth"))
		s := stage(c, w, d, size)
		plugIn(s, rapid.Bool().Draw(t, "known"))
		s.Board.X, s.Board.Y = 1000, -50
		s.Board.Area = Rect{1000, -50, w, d}
		pinned := rapid.Bool().Draw(t, "pinned")
		if pinned {
			b := &s.Pieces[0].Box
			b.Pinned, b.Placed, b.X, b.Y = true, true, 1000, -50
		}
		got, err := s.Fit(context.Background(), 3, nil)
		require.NoError(t, err)
		if c.state%5 == 0 {
			again, err := s.Fit(context.Background(), 3, nil)
			require.NoError(t, err)
			require.Equal(t, got, again, "the same answer again")
		}
		out := map[int]bool{}
		for _, i := range got.LeftOut {
			out[i] = true
		}
		if pinned {
			require.Equal(t, Spot{1000, -50, 0}, got.Spots[0])
		}
		in := make([]bool, n)
		for i := range in {
			in[i] = !out[i]
		}
		if in[0] && pinned && !s.Pieces[0].rect(got.Spots[0]).Within(s.Board.Area) {
			return // the player pinned it over the edge
		}
		for i := range in {
			if in[i] {
				require.True(t, s.legal(i, got.Spots, in), "%d stands in its way at %v", i, got.Spots)
			}
		}
		for _, l := range s.Leads {
			a, b := s.socket(l.From, l.FromPlug, got.Spots), s.socket(l.To, l.ToPlug, got.Spots)
			require.GreaterOrEqual(t, s.run(l, got.Spots), distance(a, b)-1e-9, "no lead is shorter than the straight line")
		}
		if len(got.LeftOut) > 0 && got.Proven {
			_, found := pack(context.Background(), w, d, size, true, 20_000, nil)
			require.NotEqual(t, fits, found, "what is proven not to fit does not")
		}
		// From what was found, nothing gets worse.
		if len(got.LeftOut) == 0 {
			for i, at := range got.Spots {
				b := &s.Pieces[i].Box
				b.X, b.Y, b.Rotation, b.Placed = at.X, at.Y, at.Rotation, true
			}
			was := s.Cost(got.Spots).sum()
			more, err := s.Fit(context.Background(), 9, nil)
			require.NoError(t, err)
			require.LessOrEqual(t, more.Cost.sum(), was+1e-9)
		}
	})
}

func TestBoardsKnownToHaveASolutionAreFitted(t *testing.T) {
	for n, boards := range map[int]int{12: 6, 20: 3} {
		for seed := range uint64(boards) {
			c := &chance{seed + 100}
			s := stage(c, 650, 356, planted(c, n, 650, 356, 0.1))
			got, err := s.Fit(context.Background(), 1, nil)
			require.NoError(t, err)
			assert.Empty(t, got.LeftOut, "%d boxes, board %d", n, seed)
			assert.True(t, s.Legal(got.Spots))
		}
	}
}

func TestNoLayoutByChanceHasLessFootwork(t *testing.T) {
	for seed := range uint64(2) {
		c := &chance{seed}
		var size [][2]float64
		for range 8 {
			size = append(size, [2]float64{70, 120})
		}
		s := stage(c, 650, 356, size)
		plugIn(s, true)
		got, err := s.Fit(context.Background(), 1, nil)
		require.NoError(t, err)
		paces := s.paces()
		least := math.Inf(1)
		for range 3000 {
			spots := s.spots()
			placed := make([]bool, len(spots))
			for i := range spots {
				for range 200 {
					spots[i] = Spot{math.Round(c.share() * (650 - 70)), math.Round(c.share() * (356 - 120)), 0}
					placed[i] = true
					if s.legal(i, spots, placed) {
						break
					}
					placed[i] = false
				}
			}
			if s.Legal(spots) {
				least = math.Min(least, paces.seconds(s, spots))
			}
		}
		require.False(t, math.IsInf(least, 1), "some layout by chance is legal")
		assert.LessOrEqual(t, got.Cost.Seconds, least)
	}
}

func TestWhatDoesNotFitIsSaidWithProofOrWithout(t *testing.T) {
	c := &chance{1}
	s := stage(c, 200, 130, [][2]float64{{70, 120}, {70, 120}, {70, 120}})
	for i := range s.Pieces {
		s.Pieces[i].Need = float64(i)
	}
	got, err := s.Fit(context.Background(), 0, nil)
	require.NoError(t, err)
	assert.Equal(t, []int{0}, got.LeftOut, "the one needed least")
	assert.True(t, got.Proven, "210 mm do not stand on 200 either way")

	// Bare boxes would fit; their plugs do not, and that is not proven.
	s = stage(c, 150, 130, [][2]float64{{70, 120}, {70, 120}})
	plugIn(s, true)
	got, err = s.Fit(context.Background(), 0, nil)
	require.NoError(t, err)
	assert.Len(t, got.LeftOut, 1)
	assert.False(t, got.Proven)
}

func TestFitIsCancelledAndSaysHowFarItIs(t *testing.T) {
	c := &chance{5}
	s := stage(c, 650, 356, planted(c, 12, 650, 356, 0.2))
	ctx, cancel := context.WithCancel(context.Background())
	last := 0.0
	_, err := s.Fit(ctx, 1, func(share float64) {
		assert.GreaterOrEqual(t, share, last)
		if last = share; share > 0.4 {
			cancel()
		}
	})
	assert.ErrorIs(t, err, context.Canceled)
	assert.Less(t, last, 1.0)
}

func BenchmarkFit(b *testing.B) {
	for _, n := range []int{12, 20} {
		b.Run(fmt.Sprint(n, " boxes"), func(b *testing.B) {
			c := &chance{3}
			s := stage(c, 650, 356, planted(c, n, 650, 356, 0.1))
			for b.Loop() {
				if got, err := s.Fit(context.Background(), 1, nil); err != nil || len(got.LeftOut) > 0 {
					b.Fatal(got.LeftOut, err)
				}
			}
		})
	}
}

func TestFittedSwitchesAreComfortableAndBoxesFaceThePlayer(t *testing.T) {
	s := stage(&chance{4}, 700, 500, [][2]float64{{45, 100}, {45, 100}, {45, 100}, {45, 100}})
	for i := range s.Night.Steps {
		s.Night.Steps[i].Hurried = true
	}
	for key := range s.Night.Presses {
		s.Night.Presses[key] = oftenPressed
	}
	got, err := s.Fit(context.Background(), 1, nil)
	require.NoError(t, err)
	for i, at := range got.Spots {
		put(s, i, at.X, at.Y)
		assert.Zero(t, at.Rotation, "there is room to stand straight")
	}
	assert.Empty(t, s.Findings(), "no switches too close, none out of reach")
}

func TestWhatIsVitalIsLeftOutLast(t *testing.T) {
	s := stage(&chance{1}, 200, 130, [][2]float64{{150, 120}, {70, 120}, {70, 120}})
	s.Pieces[0].Need = Vital
	got, err := s.Fit(context.Background(), 0, nil)
	require.NoError(t, err)
	assert.Equal(t, []int{1, 2}, got.LeftOut, "though without it alone the two others would fit")
}

func TestASwitchPressedOftenComesWithinReachThoughTheWayIsLonger(t *testing.T) {
	s := stage(&chance{4}, 300, 500, [][2]float64{{70, 120}, {70, 120}})
	s.Night = Night{Steps: []Step{{From: "g0/s", To: "g1/s", Times: 2}}, Presses: map[plan.Key]int{"g1/s": oftenPressed}}
	s.Pieces[0].Box.Pinned = true
	put(s, 0, 100, 0)
	got, err := s.Fit(context.Background(), 1, nil)
	require.NoError(t, err)
	assert.GreaterOrEqual(t, got.Spots[1].Y+100, 500-nearReach, "at most 280 mm from the near edge")
}
