package hearing

import (
	"math"
	"sync"
)

// CamStep is how far apart the places are at which excitation is worked out, in Cams (ERB numbers).
const CamStep = 0.25

// The range of places, in Cams: 50 Hz to 15 kHz, as in the standard.
const (
	firstCam = 1.75
	lastCam  = 39.0
)

// Places is how many places there are.
const Places = int((lastCam-firstCam)/CamStep) + 1

// ERB is the equivalent rectangular bandwidth of the auditory filter at a frequency, in Hz (Glasberg and Moore
// 1990).
func ERB(hz float64) float64 { return 24.673 * (0.004368*hz + 1) }

// Cam is the ERB number of a frequency: how many filters lie below it (Glasberg and Moore 1990).
func Cam(hz float64) float64 { return 21.366 * math.Log10(0.004368*hz+1) }

// HzAt is the frequency of an ERB number.
func HzAt(cam float64) float64 { return (math.Pow(10, cam/21.366) - 1) / 0.004368 }

// place is one place along the ear, with what the model knows of it.
type place struct {
	hz        float64
	slope     float64 // p of the rounded exponential at 51 dB, both skirts
	threshold float64 // excitation at the threshold in quiet, as power
	gain      float64 // of the cochlea's amplifier, re that at 500 Hz and above
	alpha     float64 // exponent of compression
	constant  float64 // A of the model
	ratio     float64 // K: signal over noise at the filter's output at the masked threshold
	floor     float64 // A to the exponent
	atQuiet   float64 // (GE + A)^a - A^a at the threshold in quiet
}

// level500 is the excitation at threshold from 500 Hz up, in dB, and slope1k the filter's slope at 1 kHz.
const level500 = 3.63

var slope1k = 4 * 1000 / ERB(1000)

var places = sync.OnceValue(func() []place {
	list := make([]place, Places)
	for i := range list {
		hz := HzAt(firstCam + float64(i)*CamStep)
		atThreshold := along(thresholds, hz)
		p := place{hz: hz, slope: 4 * hz / ERB(hz), threshold: power(atThreshold)}
		p.gain = power(level500 - atThreshold)
		p.alpha = alphaAt(level500 - atThreshold)
		p.constant = constantFor(p.alpha)
		p.ratio = power(along(ratios, hz))
		p.floor = raised(p.constant, p.alpha)
		p.atQuiet = p.compressed(p.threshold)
		list[i] = p
	}
	return list
})

func power(db float64) float64 { return math.Pow(10, db/10) }

func decibels(x float64) float64 { return 10 * math.Log10(math.Max(x, 1e-12)) }

// alphaAt is the exponent for a gain in dB, after the table of the standard: 0.2 at none, 0.26692 at -25 dB.
func alphaAt(gainDB float64) float64 {
	table := [...]float64{0.20000, 0.21055, 0.22228, 0.23679, 0.25016, 0.26692}
	x := math.Min(math.Max(-gainDB/5, 0), 5)
	i := min(int(x), 4)
	return table[i] + (x-float64(i))*(table[i+1]-table[i])
}

// constantFor is A, such that a sound at its threshold in quiet is as loud at every place: 4.62 where the exponent
// is 0.2. It agrees with the table of the standard (8.80 at a gain of -25 dB).
func constantFor(alpha float64) float64 {
	at := power(level500)
	a500 := 2 * at
	want := math.Pow(at+a500, 0.2) - math.Pow(a500, 0.2)
	low, high := a500/4, 8*a500
	for range 60 {
		mid := (low + high) / 2
		// A larger constant lies where the curve is flatter.
		if math.Pow(at+mid, alpha)-math.Pow(mid, alpha) > want {
			low = mid
		} else {
			high = mid
		}
	}
	return (low + high) / 2
}

// point is a value at a frequency; values between two are read along the logarithm of the frequency.
type point struct{ hz, value float64 }

func along(table []point, hz float64) float64 {
	if hz <= table[0].hz {
		return table[0].value
	}
	for i := 1; i < len(table); i++ {
		a, b := table[i-1], table[i]
		if hz <= b.hz {
			return a.value + (b.value-a.value)*math.Log(hz/a.hz)/math.Log(b.hz/a.hz)
		}
	}
	return table[len(table)-1].value
}

// thresholds are the excitation at the threshold in quiet, in dB (ANSI S3.4-2007).
var thresholds = []point{
	{50, 28.18}, {63, 23.90}, {80, 19.20}, {100, 15.68}, {125, 12.67}, {160, 10.09}, {200, 8.08}, {250, 6.30},
	{315, 5.30}, {400, 4.50}, {500, level500},
}

// ratios are K in dB: -3 from 1 kHz up (Moore, Glasberg and Baer 1997). Below, what is left of the critical ratios
// of J. E. Hawkins and S. S. Stevens, "The masking of pure tones and of speech by white noise" (Journal of the
// Acoustical Society of America 22, 1950), when the filter's bandwidth is taken off.
var ratios = []point{{50, 9}, {100, 3.5}, {200, 0.8}, {500, -2}, {1000, -3}}

// transfer is what the outer ear, in front of a loudspeaker, and the middle ear make of a sound on its way to the
// inner, in dB: none at 1 kHz (ANSI S3.4-2007, free field).
var transfer = []point{
	{20, -39.6}, {25, -32}, {31.5, -25.85}, {40, -21.4}, {50, -18.5}, {63, -15.9}, {80, -14.1}, {100, -12.4},
	{
		125,
		-10.9,
	}, {160, -9.3}, {200, -7.8}, {250, -6.5}, {315, -4.8}, {400, -3.2}, {500, -2.1}, {630, -0.8}, {750, -0.2},
	{800, 0}, {1000, 0}, {1250, -1.3}, {1500, -0.2}, {1600, 0.5}, {2000, 3.5}, {2500, 6.4}, {3000, 8}, {3150, 8.2},
	{4000, 7.6}, {5000, 3.7}, {6000, -2.1}, {6300, -3.8}, {8000, -10.4}, {9000, -11.7}, {10000, -11.7}, {11200, -10.8},
	{12500, -10.1}, {14000, -16.2}, {15000, -25.8}, {16000, -29.8}, {20000, -43},
}
