package signal

import (
	"math"

	"envex/core/plan"
)

// The test phrase: two seconds of soft single notes, two of the same notes 12 dB harder, two of
// strummed chords. On chords the pickup that everything is compared with gives 0.1 V rms.
const (
	phraseS  = 6.0
	chordRMS = 0.10
	hardPeak = 0.35
	strumMS  = 22 // from string to string
)

// places of a pickup along the string, as a share of its length from the bridge.
var pickupPlaces = map[string]float64{"neck": 0.25, "middle": 0.16, "bridge": 0.07}

// string is a plucked string by K. Karplus and A. Strong, "Digital synthesis of plucked-string and
// drum timbres" (Computer Music Journal 1983): a burst of noise in a delay line whose average dies
// away. What a pickup sees of it is the wave less itself, twice the pickup's distance later.
func pluck(out []float64, hz, level, softness, place float64, seed uint32) {
	period := int(math.Round(Rate / hz))
	line := make([]float64, period)
	noise := newOnePole(6500*math.Pow(0.35, softness), Rate)
	mean := 0.0
	for i := range line {
		seed = seed*1664525 + 1013904223 // Numerical Recipes' generator: the same burst every time
		line[i] = noise.low(float64(seed)/float64(1<<31) - 1)
		mean += line[i] / float64(period)
	}
	shift := max(1, int(place*float64(period)))
	ring := make([]float64, shift)
	at, read := 0, 0
	decay := math.Pow(0.9985, 110/hz)
	for i := range out {
		x := line[at] - mean
		next := (at + 1) % period
		line[at] = mean + decay*(0.5*(line[at]-mean)+0.5*(line[next]-mean))
		at = next
		out[i] += level * (x - ring[read])
		ring[read] = x
		read = (read + 1) % shift
	}
}

// fretted is what a string sounds where it is held in the standard tuning; the lowest string is 0.
type fretted struct {
	hz float64
	on int
}

// in is the frequency of a note in another tuning, held where it is.
func (n fretted) in(tuned plan.Strings) float64 {
	if tuned[n.on] == 0 {
		return n.hz
	}
	return n.hz * math.Pow(2, float64(tuned[n.on])/12)
}

var (
	melody = []fretted{{220, 3}, {261.63, 4}, {293.66, 4}, {329.63, 5}, {392, 5}, {440, 5}}
	chords = [][]fretted{
		{{110, 1}, {164.81, 2}, {220, 3}, {261.63, 4}, {329.63, 5}}, {{146.83, 2}, {220, 3}, {293.66, 4}, {369.99, 5}},
		{{98, 0}, {123.47, 1}, {146.83, 2}, {196, 3}, {246.94, 4}, {392, 5}},
		{{130.81, 1}, {164.81, 2}, {196, 3}, {261.63, 4}, {329.63, 5}},
	}
)

// phraseAt is the phrase as a coil at one place reads it, before level and colour, on strings that are tuned so.
func phraseAt(place float64, tuned plan.Strings) []float64 {
	n := int(phraseS * Rate)
	notes, strums := make([]float64, n), make([]float64, n)
	third := Rate / 3
	for half := range 2 {
		for k, held := range melody {
			from := half*2*Rate + k*third
			single := make([]float64, third)
			pluck(single, held.in(tuned), 1, 1-float64(half), place, uint32(7+13*k))
			release(single)
			level := 1.0
			if half == 0 {
				level = factor(-12)
			}
			single = scaledTo(single, level*hardPeak)
			for i, x := range single {
				notes[from+i] += x
			}
		}
	}
	for k, chord := range chords {
		from := 4*Rate + k*Rate/2
		one := make([]float64, Rate/2)
		for s, held := range chord {
			delay := s * Rate * strumMS / 1000
			if k%2 == 1 {
				delay = (len(chord) - 1 - s) * Rate * strumMS / 1000
			}
			pluck(one[delay:], held.in(tuned), 1, 1.6, place, uint32(101+17*k+s))
		}
		release(one)
		for i, x := range one {
			strums[from+i] += x
		}
	}
	k := chordRMS / rms(strums[4*Rate:])
	for i := range strums {
		notes[i] += k * strums[i]
	}
	return notes
}

// release lets the end of a note go over 10 ms.
func release(x []float64) {
	n := Rate / 100
	for i := range n {
		x[len(x)-1-i] *= float64(i) / float64(n)
	}
}

func scaledTo(x []float64, peak float64) []float64 {
	most := 0.0
	for _, v := range x {
		most = math.Max(most, math.Abs(v))
	}
	for i := range x {
		x[i] *= peak / most
	}
	return x
}

func rms(x []float64) float64 {
	sum := 0.0
	for _, v := range x {
		sum += v * v
	}
	return math.Sqrt(sum / float64(max(1, len(x))))
}
