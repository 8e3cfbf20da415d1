package hearing

import "math"

// Constants of the model: C scales to sones, and from highest on loudness grows with the root of the power.
const (
	scale   = 0.046871
	highest = 1e10
)

// rootScale is what the law above highest is scaled by: both laws meet there.
var rootScale = scale * math.Pow(highest, 0.2) / math.Sqrt(highest)

// specific is the loudness at a place in quiet, in sones per Cam and ear (equations 4 to 6 of the paper).
func (p *place) specific(e float64) float64 {
	if e <= 0 {
		return 0
	}
	if e > highest {
		return rootScale * math.Sqrt(e) * p.above()
	}
	n := scale * p.compressed(e)
	if e < p.threshold {
		x := 2 * e / (e + p.threshold)
		n *= x * math.Sqrt(x)
	}
	return n
}

// above has both laws meet where the exponent or the gain are not those of 500 Hz.
func (p *place) above() float64 {
	return p.compressed(highest) / math.Pow(highest, 0.2)
}

// compressed is (GE + A)^a - A^a.
func (p *place) compressed(e float64) float64 {
	return p.grown(e) - p.floor
}

// grown is (GE + A)^a, and goes on with the root of the power where levels are very high.
func (p *place) grown(e float64) float64 {
	if e > highest {
		return p.floor + p.compressed(highest)*math.Sqrt(e/highest)
	}
	return raised(p.gain*e+p.constant, p.alpha)
}

// raised is a power of a positive number, in half the time of [math.Pow], which looks at cases that are none here.
func raised(x, to float64) float64 { return math.Exp(to * math.Log(x)) }

// partial is the loudness at a place of a signal beside a masker (equations 17 to 20 of the paper): nothing is lost
// of a signal far over the masker, one at its masked threshold is as loud as one at the threshold in quiet, and below
// it falls away.
func (p *place) partial(signal, masker float64) float64 {
	if signal <= 0 {
		return 0
	}
	if masker <= 0 {
		return p.specific(signal)
	}
	masked := p.ratio*masker + p.threshold // excitation of a signal at its masked threshold
	atMasked := p.grown(masker*(1+p.ratio) + p.threshold)
	together := p.grown(signal + masker)
	if signal >= masked {
		n := together - p.floor - (atMasked-p.floor-p.atQuiet)*raised(masked/signal, 0.3)
		return scale * math.Max(n, 0)
	}
	alone := p.grown(masker)
	if atMasked <= alone {
		return 0
	}
	x := 2 * signal / (signal + masked)
	return scale * x * math.Sqrt(x) * p.atQuiet / (atMasked - alone) * (together - alone)
}

// Loudness is a loudness in sones, for both ears, and where along the ear it is.
type Loudness struct {
	Sones   float64
	Pattern [Places]float64 // sones per Cam
}

func (l *Loudness) sum() {
	l.Sones = 0
	for _, n := range l.Pattern {
		l.Sones += n * CamStep
	}
}

// Between is the part of a loudness that lies between two frequencies, in sones.
func (l *Loudness) Between(lowHz, highHz float64) float64 {
	sum := 0.0
	for i, p := range places() {
		if p.hz >= lowHz && p.hz < highHz {
			sum += l.Pattern[i] * CamStep
		}
	}
	return sum
}

// Alone is how loud a sound is with nothing beside it.
func Alone(sound Spectrum) Loudness { return alone(excitedBy([]Spectrum{sound})[0]) }

// AloneOf is [Alone] for a sound by its components.
func AloneOf(sound []Component) Loudness { return alone(excited([][]Component{sound})[0]) }

func alone(e Excitation) Loudness {
	var out Loudness
	for i, x := range e {
		out.Pattern[i] = 2 * places()[i].specific(x)
	}
	out.sum()
	return out
}

// Together is how loud each of several sounds is beside all others.
func Together(sounds ...Spectrum) []Loudness { return together(excitedBy(sounds)) }

// TogetherOf is [Together] for sounds by their components.
func TogetherOf(sounds ...[]Component) []Loudness { return together(excited(sounds)) }

func together(made []Excitation) []Loudness {
	var all Excitation
	for _, e := range made {
		for i, x := range e {
			all[i] += x
		}
	}
	out := make([]Loudness, len(made))
	for k, e := range made {
		for i, x := range e {
			out[k].Pattern[i] = 2 * places()[i].partial(x, all[i]-x)
		}
		out[k].sum()
	}
	return out
}

// tone is a 1 kHz tone at a level.
func tone(db float64) []Component { return []Component{{Hz: 1000, Power: power(db)}} }

// Phon is the loudness level of so many sones: the level of a 1 kHz tone that is as loud, in dB SPL; 0 for what is
// softer than such a tone at 0 dB.
func Phon(sones float64) float64 {
	low, high := 0.0, 130.0
	if sones <= AloneOf(tone(low)).Sones {
		return low
	}
	for high-low > 0.01 {
		mid := (low + high) / 2
		if AloneOf(tone(mid)).Sones < sones {
			low = mid
		} else {
			high = mid
		}
	}
	return (low + high) / 2
}

// At is how loud a sound is at a frequency, in sones a Cam.
func (l *Loudness) At(hz float64) float64 {
	x := math.Min(math.Max((Cam(hz)-firstCam)/CamStep, 0), float64(Places-1))
	i := min(int(x), Places-2)
	return l.Pattern[i] + (x-float64(i))*(l.Pattern[i+1]-l.Pattern[i])
}
