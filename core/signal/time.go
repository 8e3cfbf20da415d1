package signal

import "math"

// This file holds the models of delays and reverbs. The mix knob is a crossfade: at m the wet stands
// to the dry as m to 1 - m.

// delayLine is a delay with feedback. A tape darkens and rounds every pass; other kinds are linear.
type delayLine struct {
	wet, dry float64
	feedback float64
	line     [2][]float64
	at       int
	dark     [2]onePole
	tape     bool
	cross    bool // repeats go from side to side
	fed      float64
}

// feedbackOf is the share that comes round again: 0.95 at most, so that it dies away.
func feedbackOf(position float64) float64 { return 0.95 * turnOf(position) }

func newDelay(ms, repeats, mix float64, tape, cross bool) *delayLine {
	m := turnOf(mix)
	size := max(1, int(math.Round(ms*Rate/1000)))
	d := &delayLine{wet: m, dry: 1 - m, feedback: feedbackOf(repeats), tape: tape, cross: cross, fed: 1}
	// A crossfade that is even in power at its ends would dip; this one keeps the dry at unity below noon.
	if k := math.Max(d.dry, d.wet); k > 0 {
		d.wet, d.dry = d.wet/k, d.dry/k
	}
	for i := range d.line {
		d.line[i] = make([]float64, size)
		d.dark[i] = newOnePole(3200, Rate)
	}
	return d
}

func (d *delayLine) run(w wave) wave {
	if d.cross {
		w = w.widened()
	}
	size := len(d.line[0])
	for i := range w.l {
		l := d.turned(0, d.line[0][d.at])
		r := 0.0
		if w.r != nil {
			r = d.turned(1, d.line[1][d.at])
		}
		switch {
		case d.cross: // the input goes to the left line, and each line feeds the other
			d.line[0][d.at] = settled(d.fed*(w.l[i]+w.r[i])/2 + d.feedback*r)
			d.line[1][d.at] = settled(d.feedback * l)
			w.l[i] = d.dry*w.l[i] + d.wet*l
			w.r[i] = d.dry*w.r[i] + d.wet*r
		default:
			d.line[0][d.at] = settled(d.fed*w.l[i] + d.feedback*l)
			w.l[i] = d.dry*w.l[i] + d.wet*l
			if w.r != nil {
				d.line[1][d.at] = settled(d.fed*w.r[i] + d.feedback*r)
				w.r[i] = d.dry*w.r[i] + d.wet*r
			}
		}
		if d.at++; d.at == size {
			d.at = 0
		}
	}
	return w
}

// turned is what a pass round the tape does.
func (d *delayLine) turned(side int, x float64) float64 {
	if !d.tape {
		return x
	}
	return soft(d.dark[side].low(x)/1.5) * 1.5
}

// reverbNet is a feedback delay network of eight lines mixed by a Householder matrix, each losing
// what its length takes of the decay, high notes sooner (J.-M. Jot and A. Chaigne, "Digital delay
// networks for designing artificial reverberators", AES 90, 1991). A spring has fewer highs and
// lows and a chirp of all-pass stages before it.
type reverbNet struct {
	wet, dry float64
	lines    [8][]float64
	at       [8]int
	loss     [8]float64
	damp     [8]onePole
	tone     [2]filters
	spring   []biquad
	spread   bool // gives two sides from one
}

var reverbLengths = [8]int{1433, 1601, 1867, 2053, 2251, 2399, 2617, 2797}

func newReverb(size, mix float64, spring, spread bool) *reverbNet {
	m := turnOf(mix)
	r := &reverbNet{wet: m, dry: 1 - m, spread: spread}
	if k := math.Max(r.dry, r.wet); k > 0 {
		r.wet, r.dry = r.wet/k, r.dry/k
	}
	decay := 0.4 * math.Pow(10, turnOf(size)) // seconds to -60 dB
	scale := 0.5 + turnOf(size)
	for i, n := range reverbLengths {
		length := int(float64(n) * scale)
		r.lines[i] = make([]float64, length)
		r.loss[i] = math.Pow(10, -3*float64(length)/(decay*Rate))
		r.damp[i] = newOnePole(4500, Rate)
	}
	for i := range r.tone {
		r.tone[i] = filters{highPass(120, 0.7, Rate)}
		if spring {
			r.tone[i] = filters{highPass(180, 0.7, Rate), lowPass(3800, 0.7, Rate)}
		}
	}
	if spring {
		for k := range 6 {
			r.spring = append(r.spring, allPass(700+400*float64(k), 0.8, Rate))
		}
	}
	return r
}

// allPass is the cookbook's all-pass section.
func allPass(hz, q, rate float64) biquad {
	c, alpha := bend(hz, q, rate)
	return section(1-alpha, -2*c, 1+alpha, 1+alpha, -2*c, 1-alpha)
}

func (r *reverbNet) run(w wave) wave {
	if r.spread {
		w = w.widened()
	}
	for i := range w.l {
		in := w.l[i]
		if w.r != nil {
			in = (in + w.r[i]) / 2
		}
		for k := range r.spring {
			in = r.spring[k].step(in)
		}
		var out [8]float64
		sum, l, s := 0.0, 0.0, 0.0
		for k := range r.lines {
			out[k] = r.damp[k].low(r.lines[k][r.at[k]]) * r.loss[k]
			sum += out[k]
			if k%2 == 0 {
				l += out[k]
			} else {
				s += out[k]
			}
		}
		for k := range r.lines {
			r.lines[k][r.at[k]] = settled(in + out[k] - sum/4)
			if r.at[k]++; r.at[k] == len(r.lines[k]) {
				r.at[k] = 0
			}
		}
		// A quarter is the sum of four lines of equal power, at the level of the dry note.
		if w.r == nil {
			w.l[i] = r.dry*w.l[i] + r.wet*r.toned(0, (l+s)*0.35)
			continue
		}
		w.l[i] = r.dry*w.l[i] + r.wet*r.toned(0, l*0.5)
		w.r[i] = r.dry*w.r[i] + r.wet*r.toned(1, s*0.5)
	}
	for k := range r.damp {
		r.damp[k].rest()
	}
	return w
}

func (r *reverbNet) toned(side int, x float64) float64 {
	for k := range r.tone[side] {
		x = r.tone[side][k].step(x)
	}
	return x
}

// late is a whole number of samples of latency.
type late struct {
	line [2][]float64
	at   int
}

func newLate(ms float64) *late {
	n := int(math.Round(ms * Rate / 1000))
	return &late{line: [2][]float64{make([]float64, n), make([]float64, n)}}
}

func (d *late) run(w wave) wave {
	n := len(d.line[0])
	if n == 0 {
		return w
	}
	for i := range w.l {
		w.l[i], d.line[0][d.at] = d.line[0][d.at], w.l[i]
		if w.r != nil {
			w.r[i], d.line[1][d.at] = d.line[1][d.at], w.r[i]
		}
		d.at = (d.at + 1) % n
	}
	return w
}
