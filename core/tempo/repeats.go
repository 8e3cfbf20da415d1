package tempo

import (
	"math"

	"envex/core/plan"
)

// Limits of what is heard.
const (
	audibleDB = -30.0 // under the dry note a repeat is lost
	clutterDB = -3.0  // of wet to dry energy, where repeats are close
	apartMS   = 30.0  // further off a repeat is heard as out of time
	togetherS = 0.010 // hits of two delays that are closer fall together
)

// Echo is a delay as it is set.
type Echo struct {
	MS       float64 `json:"ms"`
	Ratio    float64 `json:"ratio" doc:"Wet over dry, of the first repeat."`
	Feedback float64 `json:"feedback" doc:"What comes round again, 0 to under 1."`
}

// RatioOfMix is the ratio of wet to dry of a crossfade knob at m, 0 to under 1: m / (1 - m).
func RatioOfMix(m float64) float64 {
	m = math.Min(math.Max(m, 0), 0.999)
	return m / (1 - m)
}

func (e Echo) feedback() float64 { return math.Min(math.Max(e.Feedback, 0), 0.999) }

// RepeatDB is the level of repeat n, from 1, under the dry note: 20 log10(ratio x feedback^(n-1)).
func (e Echo) RepeatDB(n int) float64 {
	x := e.Ratio * math.Pow(e.feedback(), float64(n-1))
	if !(x > 1e-10) {
		return math.Inf(-1)
	}
	return 20 * math.Log10(x)
}

// maxRepeats is how many are counted at most.
const maxRepeats = 1000

// Audible is how many repeats are within 30 dB of the dry note.
func (e Echo) Audible() int {
	n := 0
	for n < maxRepeats && e.RepeatDB(n+1) >= audibleDB-1e-9 {
		n++
	}
	return n
}

// TailMS is how long repeats are heard: that many times the delay.
func (e Echo) TailMS() float64 { return float64(e.Audible()) * e.MS }

// EnergyDB is the energy of all repeats over that of the dry note: 10 log10(ratio^2 / (1 - feedback^2)).
func (e Echo) EnergyDB() float64 {
	if !(e.Ratio > 1e-10) {
		return math.Inf(-1)
	}
	f := e.feedback()
	return 10 * math.Log10(e.Ratio*e.Ratio/(1-f*f))
}

// Clutters reports whether the repeats crowd the playing: over -3 dB of energy, and closer than an
// eighth.
func (e Echo) Clutters(t plan.Tempo) bool {
	eighth, ok := t.Milliseconds("1/8")
	return ok && e.EnergyDB() > clutterDB && e.MS < eighth-1e-9
}

// IsSlapback reports whether the delay is one short repeat a little under the note: 80 to 140 ms, one
// repeat that counts (the second 10 dB under the first), 4 to 6 dB under.
func (e Echo) IsSlapback() bool {
	first := e.RepeatDB(1)
	return e.MS >= 80 && e.MS <= 140 && first <= -4 && first >= -6 && e.RepeatDB(2) <= first-10
}

// Hit is when a repeat falls, from the note on.
type Hit struct {
	AtMS  float64 `json:"at_ms"`
	Beat  float64 `json:"beat" doc:"In beats from the note on."`
	Delay int     `json:"delay" doc:"Which delay, from 0."`
	N     int     `json:"n" doc:"Which repeat, from 1."`
	With  []int   `json:"with,omitempty" doc:"Other delays with a repeat at the same time."`
}

// Interlock lays the audible repeats of several delays over a bar, and says which fall together,
// within 10 ms.
func Interlock(t plan.Tempo, m plan.Meter, echoes []Echo) []Hit {
	bar := t.BarSeconds(m) * 1000
	beat := t.BeatSeconds() * 1000
	hits := []Hit{}
	for d, e := range echoes {
		if !(e.MS > 0) {
			continue
		}
		for n := 1; n <= e.Audible() && float64(n)*e.MS <= bar+1e-6; n++ {
			hits = append(hits, Hit{AtMS: float64(n) * e.MS, Beat: float64(n) * e.MS / beat, Delay: d, N: n})
		}
	}
	for i := range hits {
		for k := range hits {
			if hits[k].Delay != hits[i].Delay && math.Abs(hits[k].AtMS-hits[i].AtMS) <= togetherS*1000 {
				hits[i].With = append(hits[i].With, hits[k].Delay)
			}
		}
	}
	return hits
}

// TapPct is how far a tapped tempo is off, in per cent: so many ms over the beat.
func TapPct(t plan.Tempo, tapMS float64) float64 { return 100 * tapMS / (t.BeatSeconds() * 1000) }

// Drift is what a tempo that is off does to repeats.
type Drift struct {
	Pct    float64 `json:"pct"`
	LastMS float64 `json:"last_ms" doc:"How far off the last audible repeat is: n x ms x pct / 100."`
	First  int     `json:"first" doc:"The first repeat over 30 ms off, which is heard; 0 where none is."`
}

// DriftOf is what a tempo off by so many per cent does to the audible repeats of a delay.
func DriftOf(e Echo, pct float64) Drift {
	n := e.Audible()
	each := e.MS * math.Abs(pct) / 100
	d := Drift{Pct: pct, LastMS: float64(n) * each}
	for k := 1; k <= n; k++ {
		if float64(k)*each > apartMS {
			d.First = k
			break
		}
	}
	return d
}
