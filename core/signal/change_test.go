package signal_test

import (
	"context"
	"math"
	"runtime"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/core/reach"
	"envex/core/signal"
	"envex/core/wav"
)

// A change begins as the first sound and ends as the second, whatever its last press does, with the guitar
// and the tempo of each.
func TestEveryChangeBeginsAsOneSoundAndEndsAsTheOther(t *testing.T) {
	if testing.Short() {
		t.Skip("renders for a while")
	}
	p := night(t)
	report, err := reach.Compute(p, "long", "quay-set")
	require.NoError(t, err)
	tempo := func(x reach.Section) plan.Tempo {
		song, _ := p.FindSong(x.SongID)
		for _, sec := range song.Sections {
			if sec.ID == x.SectionID {
				return sec.TempoIn(*song)
			}
		}
		return song.Tempo
	}
	change := func(from, to signal.Take, presses []signal.Press, before, after float64) signal.Heard {
		h, err := signal.Change(
			context.Background(), p, "long",
			signal.Transition{From: from, To: to, Presses: presses, Before: before, After: after}, signal.Options{Kept: kept},
		)
		require.NoError(t, err)
		return h[0]
	}
	loudness := func(h signal.Heard, from, to int) float64 {
		m := signal.Meter(h.L[from:to], h.R[from:to])
		require.NotNil(t, m.LUFS)
		return *m.LUFS - h.Gain
	}
	const piece = 2 * signal.Rate // the chords once
	seen := map[[2]plan.ID]bool{}
	for i := 1; i < len(report.Sections); i++ {
		c, was, is := report.Changes[i-1], report.Sections[i-1], report.Sections[i]
		pair := [2]plan.ID{was.Sound, is.Sound}
		if len(c.Moves) == 0 || seen[pair] || len(seen) >= 3 {
			continue
		}
		seen[pair] = true
		var presses []signal.Press
		for _, m := range c.Moves {
			presses = append(presses, signal.Press{At: m.AtS, Values: m.Values})
		}
		from := signal.Take{Name: "from", Sound: was.Sound, Recipe: was.Recipe, Tempo: tempo(was)}
		to := signal.Take{Name: "to", Sound: is.Sound, Recipe: is.Recipe, Tempo: tempo(is)}
		h := change(from, to, presses, 4, 8)
		one, two := change(from, from, nil, 4, 0), change(to, to, nil, 8, 4)
		at := len(h.L) - piece
		assert.InDelta(t, loudness(one, piece, 2*piece), loudness(h, piece, 2*piece), 0.2, "%s begins", pair)
		assert.InDelta(t, loudness(two, at%piece+3*piece, at%piece+4*piece), loudness(h, at, len(h.L)), 0.2, "%s ends", pair)
	}
	assert.Len(t, seen, 3)
}

func TestNoCutIsASteeperStepThanTheSignalsOwn(t *testing.T) {
	p := night(t)
	steepest := func(x []float32) float64 {
		most := 0.0
		for i := 1; i < len(x); i++ {
			most = max(most, abs(x[i]-x[i-1]))
		}
		return most
	}
	for _, pair := range [][2]plan.ID{
		{"lead", "home"}, {"home", "lead"}, {"dust", "home"}, {"home", "dust"}, {"crunch", "skank"}, {"shimmer", "home"},
	} {
		for _, cut := range []bool{false, true} {
			for i := range p.Gear {
				for k := range p.Gear[i].Blocks {
					p.Gear[i].Blocks[k].Trails = !cut
				}
			}
			h, err := signal.Change(
				context.Background(), p, "long",
				signal.Transition{
					From: signal.Take{Sound: pair[0]}, To: signal.Take{Sound: pair[1]},
					Presses: []signal.Press{{At: 0.05, Values: nil}}, Before: 1.13, After: 1.5,
				},
				signal.Options{Kept: kept},
			)
			require.NoError(t, err)
			at := int(1.18 * signal.Rate)
			own := max(steepest(h[0].L[:at-100]), steepest(h[0].L[at+4000:]))
			assert.LessOrEqual(t, steepest(h[0].L[at-100:at+4000]), 1.1*own, "%v, cut %v", pair, cut)
		}
	}
}

func TestAMinuteIsRenderedInLittleMemory(t *testing.T) {
	p := night(t)
	dry := make([]float64, 60*signal.Rate)
	for i := range dry {
		dry[i] = 0.1 * math.Sin(float64(i)/20)
	}
	var before, after runtime.MemStats
	runtime.ReadMemStats(&before)
	h, err := signal.Listen(
		context.Background(), p, "long", []signal.Take{{Name: "Shimmer", Sound: "shimmer"}}, false,
		signal.Options{Dry: dry, Kept: kept},
	)
	require.NoError(t, err)
	data, err := wav.Encode(h[0].L, h[0].R)
	require.NoError(t, err)
	runtime.ReadMemStats(&after)
	all := float64(after.TotalAlloc-before.TotalAlloc)/(1<<20) + float64(8*len(dry))/(1<<20)
	assert.Less(
		t, all, 160.0, "MB in all, half of which is gone again: the recording and the file of %d bytes included", len(data),
	)
}

func TestTheGuitarMovesWithTheLastPressAndMakesNoStep(t *testing.T) {
	p := night(t)
	home, lead := signal.Take{Name: "a", Sound: "home"}, signal.Take{Name: "b", Sound: "home", Over: nil}
	same, err := signal.Change(
		context.Background(), p, "bare", signal.Transition{From: home, To: lead, Presses: nil, Before: 1, After: 1},
		signal.Options{Kept: kept},
	)
	require.NoError(t, err)
	most := 0.0
	for i := signal.Rate - 100; i < signal.Rate+1000; i++ {
		most = max(most, abs(same[0].L[i]-same[0].L[i-1]))
	}
	whole := 0.0
	for i := 1; i < signal.Rate/2; i++ {
		whole = max(whole, abs(same[0].L[i]-same[0].L[i-1]))
	}
	assert.LessOrEqual(t, most, 1.5*whole, "no step at the change is larger than the signal's own")
}

func abs(x float32) float64 { return math.Abs(float64(x)) }

// What is written ends when it has died away, or says that it was faded.
func TestWhatRingsIsHeardOut(t *testing.T) {
	p := night(t)
	take := []signal.Take{{Name: "Shimmer", Sound: "shimmer"}}
	dry := make([]float64, signal.Rate)
	for i := range dry {
		dry[i] = 0.1
		if i/50%2 == 0 {
			dry[i] = -0.1
		}
	}
	heard, err := signal.Listen(context.Background(), p, "long", take, false, signal.Options{Dry: dry, Kept: kept})
	require.NoError(t, err)
	h := heard[0]
	assert.Greater(t, h.Ring, 1.0, "its echo goes on")
	loudest, last := 0.0, 0.0
	for i, v := range h.L {
		loudest = max(loudest, abs(v))
		if i >= len(h.L)-signal.Rate/4 {
			last = max(last, abs(v))
		}
	}
	assert.LessOrEqual(t, last, 1e-3*loudest, "60 dB down")
	assert.False(t, h.Fade)

	// An echo that feeds on itself never ends: it is faded, to nothing.
	r, _ := p.FindRig("long")
	recipe := r.Recipes[0]
	for _, x := range r.Recipes {
		if x.Sound == "shimmer" {
			recipe = x
		}
	}
	over := map[plan.Key]plan.Value{"echo/fx/repeats": plan.Number(10), "echo/fx/mix": plan.Number(10)}
	heard, err = signal.Listen(
		context.Background(), p, "long",
		[]signal.Take{{Name: "x", Sound: "shimmer", Recipe: recipe.ID, Over: over}, {Name: "dry", Sound: "home"}}, false,
		signal.Options{Dry: dry, Kept: kept},
	)
	require.NoError(t, err)
	assert.Len(t, heard[1].L, len(heard[0].L), "takes are heard side by side")
	if heard[0].Fade {
		assert.InDelta(t, 20, heard[0].Ring, 0.5)
	}
	assert.Zero(t, heard[0].L[len(heard[0].L)-1])
	assert.LessOrEqual(t, heard[0].Ring, 20.0)
}
