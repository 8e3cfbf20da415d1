package propose

import (
	"context"
	"fmt"
	"math"

	"envex/core/plan"
	"envex/core/signal"
)

// Nearness is how near the spectrum of a way comes to that of a recording. What was played there is not what is played
// here: some decibels lie between the same sound and itself.
type Nearness struct {
	ApartDB  float64 `json:"apart_db" doc:"Between third octaves, root mean square, at the same level: over those within 25 dB of the strongest of the recording."`
	BrightDB float64 `json:"bright_db" doc:"How much more of it lies over 1 kHz against what lies under."`
	Words    string  `json:"words"`
}

// nearWithinDB is how far under the strongest of a recording a band still counts.
const nearWithinDB = 25.0

// near compares levels in third octaves with those of a recording. The middle of the scale is at 1 kHz.
func near(levels, recorded []float64) Nearness {
	const middle = 16 // the band at 1 kHz
	most := math.Inf(-1)
	for _, db := range recorded {
		most = math.Max(most, db)
	}
	var off, weight [2]float64
	squares := 0.0
	for i, db := range recorded {
		if db < most-nearWithinDB {
			continue
		}
		side := 0
		if i > middle {
			side = 1
		}
		off[side] += levels[i] - db
		weight[side]++
		squares += (levels[i] - db) * (levels[i] - db)
	}
	n := weight[0] + weight[1]
	mean := (off[0] + off[1]) / n
	out := Nearness{ApartDB: math.Sqrt(math.Max(squares/n-mean*mean, 0))}
	if weight[0] > 0 && weight[1] > 0 {
		out.BrightDB = off[1]/weight[1] - off[0]/weight[0]
	}
	out.Words = fmt.Sprintf("%.0f dB from the recording", out.ApartDB)
	switch {
	case out.BrightDB > 2:
		out.Words += fmt.Sprintf(", %.0f dB brighter", out.BrightDB)
	case out.BrightDB < -2:
		out.Words += fmt.Sprintf(", %.0f dB darker", -out.BrightDB)
	}
	return out
}

// nearness fills in how near each way comes, where the sound has a recording to come near to.
func nearness(ctx context.Context, here *plan.Plan, taken plan.Rig, s plan.Sound, ways []Way, o Options) error {
	if len(s.Targets.Bands) == 0 {
		return nil
	}
	for i := range ways {
		made := *here
		made.Rigs = append([]plan.Rig(nil), here.Rigs...)
		made.Put(Take(taken, o.Destination, ways[i]))
		there, err := made.At(taken.ID, o.Destination)
		if err != nil {
			return fmt.Errorf("propose: %w", err)
		}
		found, err := signal.Spread(
			ctx, there, taken.ID,
			[]signal.Playing{{Sound: s.ID, Recipe: ways[i].Recipe.ID, HeardOnly: true}}, signal.Options{Kept: o.Kept},
		)
		if err != nil {
			return fmt.Errorf("propose: %w", err)
		}
		levels := found[0].Heard.Levels()
		x := near(levels[:], s.Targets.Bands)
		ways[i].Near = &x
	}
	return nil
}
