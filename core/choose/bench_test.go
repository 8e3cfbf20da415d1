package choose_test

import (
	"context"
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"

	"envex/core/choose"
	"envex/core/plan"
	"envex/core/signal"
)

// BenchmarkPiles chooses of sixteen boxes for ten sounds, from nothing: of a pile with few gain boxes, and of one with
// eight.
func BenchmarkPiles(b *testing.B) {
	if testing.Short() {
		b.Skip("takes some tens of seconds")
	}
	others := []string{"chorus", "phaser", "vibe", "flanger", "tremolo", "digital-delay", "tape-echo", "reverb"}
	gains := []string{
		"boost", "mid-hump-overdrive", "transparent-overdrive", "hard-clip-distortion", "fuzz", "compressor",
		"light-overdrive", "amp-in-a-box",
	}
	for _, n := range []int{4, 8} {
		kinds := append(append([]string{}, gains[:n]...), others...)
		for i := 0; len(kinds) < 16; i++ {
			kinds = append(kinds, []string{"tuner", "volume", "buffer", "ping-pong-delay"}[i])
		}
		b.Run(fmt.Sprintf("%d gain boxes", n), func(b *testing.B) {
			p := tenSounds(b, kinds)
			for b.Loop() {
				r, err := choose.For(context.Background(), p, choose.Options{SetList: "night", Kept: signal.NewKept()})
				require.NoError(b, err)
				b.ReportMetric(float64(len(r.Sets[0].Covers)), "sounds")
				b.ReportMetric(float64(len(r.Sets[0].Boxes)), "boxes")
			}
		})
	}
}

// tenSounds is a pile with ten sounds that ask for what a night asks for: dirt in bands, levels, effects.
func tenSounds(t require.TestingT, kinds []string) *plan.Plan {
	p := quay(t, kinds...)
	random := rand.New(rand.NewPCG(16, 10))
	effects := []plan.Effect{plan.EffectTremolo, plan.EffectChorus, plan.EffectDelay, plan.EffectReverb, plan.EffectPhaser}
	song, _ := p.FindSong("tide")
	for i := range 7 {
		id := plan.ID(fmt.Sprintf("sound-%d", i))
		low := float64(random.IntN(50))
		targets := plan.Targets{
			DirtMin: ptr(low), DirtMax: ptr(low + 20), LoudnessLU: ptr(float64(random.IntN(4))), ToleranceLU: ptr(1.0),
		}
		if i%2 == 0 {
			targets.Effects = []plan.Heard{{Effect: effects[random.IntN(len(effects))]}}
		}
		p.Put(plan.Sound{
			ID: id, Name: string(id), Short: fmt.Sprint("S", i), Tape: "bone", Role: "rhythm", Targets: targets,
		})
		section := song.Sections[0]
		section.ID, section.Label, section.Sound = id, string(id), id
		song.Sections = append(song.Sections, section)
	}
	require.Empty(t, p.Validate())
	return p
}
