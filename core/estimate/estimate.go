package estimate

import (
	"fmt"
	"math"
	"slices"

	"envex/core/hearing"
	"envex/core/plan"
	"envex/core/reason"
	"envex/core/signal"
)

const (
	rate    = signal.Rate
	least   = 2 * rate  // samples that a recording has to have
	longest = 30 * rate // samples that are looked at
)

// Recording is what one recording of a sound shows.
type Recording struct {
	Seconds  float64   `json:"seconds" doc:"Of it that are looked at: its first half minute."`
	Loudness float64   `json:"loudness_lufs" doc:"As it was recorded."`
	OverHome *Figure   `json:"over_home_lu,omitempty" doc:"Over the recording of home, where one was given."`
	Stereo   bool      `json:"stereo" doc:"Its sides are not the same."`
	Bands    []float64 `json:"bands_db" doc:"Levels in the third octaves from 25 Hz to 16 kHz, in dB against the strongest."`
	Dirt     Figure    `json:"dirt_pct"`
	Repeats  *Repeats  `json:"repeats,omitempty"`
	Tail     *Tail     `json:"tail,omitempty" doc:"What rings on where the playing ends."`
	Words    []string  `json:"words" doc:"What could not be told, and what was assumed."`
}

// Figure is an estimate: four of five true values lie between low and high.
type Figure struct {
	Is   float64 `json:"is"`
	Low  float64 `json:"low"`
	High float64 `json:"high"`
}

// Of looks at a recording: one or two channels at 48 kHz; and at one of the home sound, made the same way, where home
// is not nil. It fails where a recording is shorter than two seconds, or nothing is heard in it.
func Of(recording, home [][]float64) (*Recording, error) {
	x, err := usable(recording, "the recording")
	if err != nil {
		return nil, err
	}
	out := &Recording{Seconds: float64(len(x[0])) / rate, Words: []string{}}
	out.Loudness = loudness(x)
	out.Bands = bandsOf(x)
	both := mono(x)
	out.Stereo = len(x) > 1 && apart(x) > -sideDB
	if out.Dirt, err = dirtOf(both); err != nil {
		return nil, err
	}
	out.Words = append(
		out.Words,
		"Dirt is estimated from how notes fall and what lies between partials: it tells clean from "+
			"edge, crunch and lead, and no more. Chords that ring tell most.",
	)
	out.Repeats = repeatsOf(both)
	if out.Repeats == nil {
		out.Tail = tailOf(both)
	}
	switch {
	case out.Repeats != nil:
		out.Words = append(out.Words, "A tail cannot be told from the repeats: record it with the delay off.")
	case out.Tail == nil:
		out.Words = append(
			out.Words,
			"The recording ends before its sound has died away: stop the strings by hand and let it "+
				"ring out, and its tail can be told.",
		)
	case out.Tail.AtMost:
		out.Words = append(
			out.Words,
			"Its end falls as strings do: what rings cannot be told from them, and a tail is no "+
				"longer than that.",
		)
	}
	if home != nil {
		h, err := usable(home, "the recording of home")
		if err != nil {
			return nil, err
		}
		over := out.Loudness - loudness(h)
		out.OverHome = &Figure{Is: over, Low: over - playedLU, High: over + playedLU}
		out.Words = append(out.Words, "Over home holds where both were recorded at one level and played as hard.")
	}
	return out, nil
}

// playedLU is how far apart the same hand plays the same thing twice, in LU: a working figure.
const playedLU = 1.5

// sideDB is how far under both sides together their difference lies where a recording is mono in effect.
const sideDB = 25.0

func usable(x [][]float64, what string) ([][]float64, error) {
	if len(x) == 0 || len(x[0]) < least {
		return nil, reason.Errorf("%s is shorter than two seconds", what)
	}
	out := make([][]float64, min(len(x), 2))
	for i := range out {
		out[i] = x[i][:min(len(x[i]), longest)]
	}
	if signal.ThirdsOf(out...).Level() < -110 {
		return nil, reason.Errorf("nothing is heard in %s", what)
	}
	return out, nil
}

func loudness(x [][]float64) float64 {
	if m := signal.Meter(x...); m.LUFS != nil {
		return *m.LUFS
	}
	return signal.ThirdsOf(x...).Level()
}

// quietest is how far under the strongest a band is written at the least, in dB.
const quietest = -80.0

func bandsOf(x [][]float64) []float64 {
	levels := signal.ThirdsOf(x...).Levels()
	most := slices.Max(levels[:])
	out := make([]float64, hearing.Bands)
	for i, db := range levels {
		out[i] = math.Round(10*math.Max(db-most, quietest)) / 10
	}
	return out
}

func mono(x [][]float64) []float64 {
	if len(x) == 1 {
		return x[0]
	}
	y := make([]float64, len(x[0]))
	for i := range y {
		y[i] = (x[0][i] + x[1][i]) / 2
	}
	return y
}

// apart is the energy of the difference of two sides re both, in dB.
func apart(x [][]float64) float64 {
	side, all := 0.0, 1e-30
	for i := range x[0] {
		d := x[0][i] - x[1][i]
		side += d * d / 2
		all += x[0][i]*x[0][i] + x[1][i]*x[1][i]
	}
	return 10 * math.Log10(side/all+1e-30)
}

// Targets are those of a sound that is like the recording, for songs at a tempo: its repeats are written as a note where
// they are one within a twentieth; without a tempo they are not.
func (r *Recording) Targets(song plan.Tempo) plan.Targets {
	low, high := math.Floor(r.Dirt.Low), math.Ceil(r.Dirt.High)
	t := plan.Targets{DirtMin: &low, DirtMax: &high, Bands: r.Bands}
	if low <= 0 {
		t.DirtMin = nil
	}
	if r.OverHome != nil {
		over, tolerance := math.Round(10*r.OverHome.Is)/10, playedLU
		t.LoudnessLU, t.ToleranceLU = &over, &tolerance
	}
	if r.Stereo {
		t.Width = "stereo"
	}
	if x := r.Repeats; x != nil {
		n, level := x.Heard, math.Round(x.LevelDB.Is)
		t.Effects = append(t.Effects, plan.Heard{
			Effect: plan.EffectDelay, Repeats: &n, LevelDB: &level, Note: noteOf(x.MS.Is, song),
		})
	}
	if x := r.Tail; x != nil && !x.AtMost {
		t.Effects = append(t.Effects, plan.Heard{Effect: plan.EffectReverb, Size: x.Size()})
	}
	return t
}

// Said is a recording in words, a line each.
func (r *Recording) Said() []string {
	out := []string{fmt.Sprintf("Dirt %.0f %%, %.0f to %.0f %%", r.Dirt.Is, r.Dirt.Low, r.Dirt.High)}
	if x := r.OverHome; x != nil {
		out = append(
			out,
			fmt.Sprintf(
				"%+.1f LU over home, %+.1f to %+.1f LU",
				plan.Tenth(x.Is),
				plan.Tenth(x.Low),
				plan.Tenth(x.High),
			),
		)
	}
	if x := r.Repeats; x != nil {
		out = append(out, fmt.Sprintf(
			"Repeats every %.0f ms, the first at %.0f dB, %d heard", x.MS.Is, math.Round(x.LevelDB.Is)+0, x.Heard,
		))
	}
	if x := r.Tail; x != nil {
		if x.AtMost {
			out = append(out, fmt.Sprintf("A tail of at most %.1f s", x.S.High))
		} else {
			out = append(out, fmt.Sprintf("A tail of %.1f s, %.1f to %.1f s", x.S.Is, x.S.Low, x.S.High))
		}
	}
	if r.Stereo {
		out = append(out, "Stereo")
	}
	return append(out, r.Words...)
}
