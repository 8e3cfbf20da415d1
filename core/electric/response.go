package electric

import "math"

// The band a response is solved in, and where its level is read.
const (
	lowestHz  = 20.0
	highestHz = 20000.0
	points    = 121
	levelHz   = 100.0  // level is read here: under every resonance, over what couplings take
	trebleHz  = 5000.0 // treble is compared here
)

// silentDB is what no signal is stated as.
const silentDB = -200.0

// leastRise is how far a peak has to rise to be one, in dB.
const leastRise = 0.01

// grid are the frequencies of a response, log-spaced.
var grid = func() (hz [points]float64) {
	for i := range hz {
		hz[i] = lowestHz * math.Pow(highestHz/lowestHz, float64(i)/(points-1))
	}
	return hz
}()

// response is a level in dB at a frequency in Hz.
type response func(hz float64) float64

// Shape is what a response looks like.
type Shape struct {
	Points  []Point  `json:"points" doc:"121 frequencies, log-spaced from 20 Hz to 20 kHz; dB re the pickup's ideal source."`
	LevelDB float64  `json:"level_db" doc:"At 100 Hz, re the pickup's ideal source: what is lost of level."`
	PeakHz  *float64 `json:"peak_hz" doc:"Of the highest resonance; absent where there is no peak."`
	PeakDB  *float64 `json:"peak_db" doc:"Its height over the level at 100 Hz."`
	Minus3  *float64 `json:"minus3_hz" doc:"Where it falls 3 dB under the level at 100 Hz; absent where it does not before 20 kHz."`
}

// Point is a response at one frequency.
type Point struct {
	Hz float64 `json:"f_hz"`
	DB float64 `json:"db"`
}

// shape reads a response off at the grid, and refines its peak and its -3 dB point between.
func (r response) shape() Shape {
	s := Shape{Points: make([]Point, points), LevelDB: r(levelHz)}
	for i, hz := range grid {
		s.Points[i] = Point{hz, r(hz)}
	}
	if hz, ok := r.peak(s.Points, s.LevelDB); ok {
		db := r(hz) - s.LevelDB
		s.PeakHz, s.PeakDB = &hz, &db
	}
	if hz, ok := r.falls(s.Points, s.LevelDB-3); ok {
		s.Minus3 = &hz
	}
	return s
}

// peak is the highest local maximum above 100 Hz, by golden-section search between the points beside
// the highest of the grid.
func (r response) peak(list []Point, level float64) (float64, bool) {
	best, lowest := -1, level
	for i := 1; i < len(list)-1; i++ {
		if list[i].Hz <= levelHz {
			continue
		}
		lowest = math.Min(lowest, list[i].DB)
		if list[i].DB > list[i-1].DB && list[i].DB >= list[i+1].DB && list[i].DB > lowest+leastRise &&
			(best < 0 || list[i].DB > list[best].DB) {
			best = i
		}
	}
	if best < 0 {
		return 0, false
	}
	low, high := math.Log(list[best-1].Hz), math.Log(list[best+1].Hz)
	golden := (math.Sqrt(5) - 1) / 2
	a, b := high-golden*(high-low), low+golden*(high-low)
	atA, atB := r(math.Exp(a)), r(math.Exp(b))
	for range 40 {
		if atA > atB {
			high, b, atB = b, a, atA
			a = high - golden*(high-low)
			atA = r(math.Exp(a))
		} else {
			low, a, atA = a, b, atB
			b = low + golden*(high-low)
			atB = r(math.Exp(b))
		}
	}
	return math.Exp((low + high) / 2), true
}

// falls is the first frequency above 100 Hz where a response passes under a level, by bisection.
func (r response) falls(list []Point, under float64) (float64, bool) {
	for i := 1; i < len(list); i++ {
		if list[i].Hz <= levelHz || list[i].DB > under {
			continue
		}
		low, high := math.Log(math.Max(levelHz, list[i-1].Hz)), math.Log(list[i].Hz)
		for range 40 {
			middle := (low + high) / 2
			if r(math.Exp(middle)) > under {
				low = middle
			} else {
				high = middle
			}
		}
		return math.Exp((low + high) / 2), true
	}
	return 0, false
}

// treble is the level at 5 kHz over that at 100 Hz.
func (r response) treble() float64 { return r(trebleHz) - r(levelHz) }

// decibels of a voltage ratio; silence has a floor.
func decibels(ratio complex128) float64 {
	size := math.Hypot(real(ratio), imag(ratio))
	switch {
	case !(size > 1e-10): // nothing, or no number
		return silentDB
	case size > 1e10: // a lossless resonance with nothing on it
		return -silentDB
	}
	return 20 * math.Log10(size)
}

func angular(hz float64) float64 { return 2 * math.Pi * hz }
