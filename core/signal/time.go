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
			d.line[0][d.at] = withoutDenormal(d.fed*(w.l[i]+w.r[i])/2 + d.feedback*r)
			d.line[1][d.at] = withoutDenormal(d.feedback * l)
			w.l[i] = d.dry*w.l[i] + d.wet*l
			w.r[i] = d.dry*w.r[i] + d.wet*r
		default:
			d.line[0][d.at] = withoutDenormal(d.fed*w.l[i] + d.feedback*l)
			w.l[i] = d.dry*w.l[i] + d.wet*l
			if w.r != nil {
				d.line[1][d.at] = withoutDenormal(d.fed*w.r[i] + d.feedback*r)
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
	spring   filters
	spread   bool // gives two sides from one
}

// decaySeconds is how long a reverb of a size from 0 to 10 takes to fall by 60 dB.
func decaySeconds(size float64) float64 { return 0.4 * math.Pow(10, turnOf(size)) }

var reverbLengths = [8]int{1433, 1601, 1867, 2053, 2251, 2399, 2617, 2797}

func newReverb(size, mix float64, spring, spread bool) *reverbNet {
	m := turnOf(mix)
	r := &reverbNet{wet: m, dry: 1 - m, spread: spread}
	if k := math.Max(r.dry, r.wet); k > 0 {
		r.wet, r.dry = r.wet/k, r.dry/k
	}
	decay := decaySeconds(size)
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

// reverbPiece is how much of a signal the lines take at a time: less than the shortest is long, so that none
// hears of what it is fed in the same piece.
const reverbPiece = 256

func (r *reverbNet) run(w wave) wave {
	if r.spread {
		w = w.widened()
	}
	for from := 0; from < len(w.l); from += reverbPiece {
		to := min(from+reverbPiece, len(w.l))
		if w.r != nil {
			r.piece(w.l[from:to], w.r[from:to])
		} else {
			r.piece(w.l[from:to], nil)
		}
	}
	return w
}

// piece adds to a piece of a signal what rings of it.
func (r *reverbNet) piece(l, s []float64) {
	n := len(l)
	var room [3 + len(r.lines)][reverbPiece]float64
	in, even, odd := room[0][:n], room[1][:n], room[2][:n]
	copy(in, l)
	for i := range s {
		in[i] = (in[i] + s[i]) / 2
	}
	r.spring.run(in)
	for k := range r.lines {
		out := room[3+k][:n]
		at := r.at[k]
		copy(out[copy(out, r.lines[k][at:]):], r.lines[k])
		r.damp[k].lows(out)
		side := even
		if k%2 == 1 {
			side = odd
		}
		loss := r.loss[k]
		for i, v := range out {
			v *= loss
			out[i] = v
			side[i] += v
		}
	}
	for i := range in {
		in[i] -= (even[i] + odd[i]) / 4
	}
	for k := range r.lines {
		out := room[3+k][:n]
		for i, v := range in {
			out[i] = withoutDenormal(out[i] + v)
		}
		line, at := r.lines[k], r.at[k]
		copy(line, out[copy(line[at:], out):])
		r.at[k] = (at + n) % len(line)
	}
	// A quarter is the sum of four lines of equal power, at the level of the dry note.
	if s == nil {
		for i, v := range odd {
			even[i] = (even[i] + v) * 0.35
		}
		r.mixed(0, l, even)
		return
	}
	scaleAll(even, 0.5)
	scaleAll(odd, 0.5)
	r.mixed(0, l, even)
	r.mixed(1, s, odd)
}

// mixed puts what rings beside the dry signal of a side.
func (r *reverbNet) mixed(side int, x, ring []float64) {
	r.tone[side].run(ring)
	for i, v := range ring {
		x[i] = r.dry*x[i] + r.wet*v
	}
}

// fixedDelay is a whole number of samples of latency.
type fixedDelay struct {
	line [2][]float64
	at   int
}

func newFixedDelay(ms float64) *fixedDelay {
	n := int(math.Round(ms * Rate / 1000))
	return &fixedDelay{line: [2][]float64{make([]float64, n), make([]float64, n)}}
}

func (d *fixedDelay) run(w wave) wave {
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
