package mix

import (
	"math"

	"envex/core/hearing"
	"envex/core/reason"
	"envex/core/signal"
)

// quietest is how far under the strongest a band of a measured part is written at the least, in dB.
const quietest = -80.0

// Measured are the levels of a part by a recording of it alone, in the third octaves, in dB against the strongest:
// what [plan.Part] keeps. Channels are at 48 kHz. It fails where nothing is heard.
func Measured(channels ...[]float64) ([]float64, error) {
	s := signal.ThirdsOf(channels...)
	if s.Level() < -110 {
		return nil, reason.Errorf("nothing is heard in the recording")
	}
	most := math.Inf(-1)
	for _, db := range s.Levels() {
		most = math.Max(most, db)
	}
	out := make([]float64, hearing.Bands)
	for band, db := range s.Levels() {
		out[band] = math.Round(10*math.Max(db-most, quietest)) / 10
	}
	return out, nil
}
