package signal

import (
	"math"
	"strings"
	"sync"

	"envex/core/plan"
)

// The test phrase: two seconds of soft single notes, two of the same notes 12 dB harder, two of
// strummed chords. On chords a single coil gives 0.1 V rms; a humbucker 5 dB more and darker.
const (
	phraseS  = 6.0
	chordRMS = 0.10
	hardPeak = 0.35
	strumMS  = 22 // from string to string
)

// pickupKind is what reads the strings.
type pickupKind int

const (
	singleCoil pickupKind = iota
	humbucker
)

// places of a pickup along the string, as a share of its length from the bridge.
var pickupPlaces = map[string]float64{"neck": 0.25, "middle": 0.16, "bridge": 0.07}

// string is a plucked string by K. Karplus and A. Strong, "Digital synthesis of plucked-string and
// drum timbres" (Computer Music Journal 1983): a burst of noise in a delay line whose average dies
// away. What a pickup sees of it is the wave less itself, twice the pickup's distance later.
func pluck(out []float64, hz, level, softness, place float64, seed uint32) {
	period := int(math.Round(Rate / hz))
	line := make([]float64, period)
	noise := newOnePole(9000*math.Pow(0.35, softness), Rate)
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

var (
	melody = []float64{220, 261.63, 293.66, 329.63, 392, 440}
	chords = [][]float64{
		{110, 164.81, 220, 261.63, 329.63}, {146.83, 220, 293.66, 369.99},
		{98, 123.47, 146.83, 196, 246.94, 392}, {130.81, 164.81, 196, 261.63, 329.63},
	}
)

// phraseAt is the phrase as a pickup at one place gives it, before level and colour.
func phraseAt(place float64) []float64 {
	n := int(phraseS * Rate)
	notes, strums := make([]float64, n), make([]float64, n)
	third := Rate / 3
	for half := range 2 {
		for k, hz := range melody {
			from := half*2*Rate + k*third
			single := make([]float64, third)
			pluck(single, hz, 1, 1-float64(half), place, uint32(7+13*k))
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
		for s, hz := range chord {
			delay := s * Rate * strumMS / 1000
			if k%2 == 1 {
				delay = (len(chord) - 1 - s) * Rate * strumMS / 1000
			}
			pluck(one[delay:], hz, 1, 1.6, place, uint32(101+17*k+s))
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

var phrases sync.Map // by pickup kind and places: the phrase is always the same

type phraseKey struct {
	kind   pickupKind
	places string
}

// phrase is the test phrase by a pickup, or several together, in volts.
func phrase(kind pickupKind, places ...string) []float64 {
	key := phraseKey{kind, strings.Join(places, "+")}
	if known, ok := phrases.Load(key); ok {
		return append([]float64(nil), known.([]float64)...)
	}
	var sum []float64
	for _, p := range places {
		one := phraseAt(pickupPlaces[p])
		if sum == nil {
			sum = make([]float64, len(one))
		}
		for i, x := range one {
			sum[i] += x / float64(len(places))
		}
	}
	coil(kind).run(sum)
	k := chordRMS / rms(sum[4*Rate:])
	if kind == humbucker {
		k *= factor(5)
	}
	for i := range sum {
		sum[i] *= k
	}
	phrases.Store(key, sum)
	return append([]float64(nil), sum...)
}

// coil is the resonance of a pickup with its cable: about 4 kHz and marked for a single coil, 2.6
// kHz and flatter for a humbucker.
func coil(kind pickupKind) filters {
	if kind == humbucker {
		return filters{lowPass(2600, 1.1, Rate)}
	}
	return filters{lowPass(4000, 1.8, Rate)}
}

// source is what a guitar plays through: its pickup, its volume and its tone.
type source struct {
	kind   pickupKind
	places []string
	output float64 // of the pickup over the reference's, as a factor
	volume float64 // knob
	tone   float64 // knob
}

// usualSource is a single coil in the middle on full, where no guitar is known.
func usualSource() source { return source{places: []string{"middle"}, output: 1, volume: 10, tone: 10} }

// play is a dry signal as the guitar gives it: the phrase, or a recording, which has its pickup in
// it already.
func (s source) play(dry []float64) []float64 {
	out := dry
	if out == nil {
		out = phrase(s.kind, s.places...)
		for i := range out {
			out[i] *= s.output
		}
	} else {
		out = append([]float64(nil), dry...)
	}
	s.controls().run(out)
	return out
}

// controls are the guitar's own knobs: an audio volume pot as a divider, and a tone capacitor whose
// corner runs from 500 Hz to beyond the band.
func (s source) controls() filters {
	f := filters{}
	if s.tone < 9.99 {
		f = append(f, lowPass(500*math.Pow(30, taper(s.tone/10)), 0.6, Rate))
	}
	level := highShelf(20, 0, Rate)
	level.b0, level.b1, level.b2 = level.b0*taper(s.volume/10), level.b1*taper(s.volume/10), level.b2*taper(s.volume/10)
	return append(f, level)
}

// sourceOf reads a guitar as it is set.
func sourceOf(g *plan.Gear, at func(plan.Key) plan.Value) source {
	s := usualSource()
	if g == nil {
		return s
	}
	knob := func(id string, or float64) float64 {
		if v := at(plan.Key(string(g.ID) + "/" + id)); v.Kind() == plan.NumberValue {
			return v.Float()
		}
		return or
	}
	s.volume, s.tone = knob("volume", 10), knob("tone", 10)
	selected := at(plan.Key(string(g.ID) + "/pickup")).Word()
	var places []string
	for _, p := range []string{"neck", "middle", "bridge"} {
		if strings.Contains(selected, p) {
			places = append(places, p)
		}
	}
	if selected == "both" {
		places = []string{"neck", "bridge"}
	}
	if len(places) > 0 {
		s.places = places
	}
	sum, n := 0.0, 0
	for _, p := range g.Pickups {
		if p.OutputMVRMS != nil && (len(places) == 0 || containsWord(s.places, string(p.ID)) || containsWord(s.places, p.Name)) {
			sum += *p.OutputMVRMS
			n++
		}
	}
	if n > 0 && sum > 0 {
		s.output = sum / float64(n) / (1000 * chordRMS)
		if s.output > 1.4 { // hot pickups are two coils: the phrase has their 5 dB in it
			s.kind = humbucker
			s.output /= factor(5)
		}
	}
	return s
}

func containsWord(list []string, x string) bool {
	for _, y := range list {
		if x == y {
			return true
		}
	}
	return false
}
