package signal

import "math"

// This file holds the models of modulation, pitch and wah.

// lfo is a slow sine from 0 to 1, beginning at its lowest.
type lfo struct{ phase, step float64 }

func newLFO(hz float64) lfo { return lfo{step: hz / Rate} }

func (o *lfo) next() float64 {
	v := 0.5 - 0.5*math.Cos(2*math.Pi*o.phase)
	if o.phase += o.step; o.phase >= 1 {
		o.phase--
	}
	return v
}

// speedOf is the rate of a speed knob in Hz: 0.2 to 8, even to the ear.
func speedOf(position float64) float64 { return 0.2 * math.Pow(40, turnOf(position)) }

// tremolo turns the level down and up again: at its deepest to 1 - depth.
type tremolo struct {
	lfo   lfo
	depth float64
	level float64
}

func (t *tremolo) run(w wave) wave {
	for i := range w.l {
		k := t.level * (1 - t.depth*(1-t.lfo.next()))
		w.l[i] *= k
		if w.r != nil {
			w.r[i] *= k
		}
	}
	return w
}

// phasing is a row of first-order all-pass stages whose corner an LFO sweeps, mixed half and half
// with the dry signal: two stages to a notch (Smith, "An allpass approach to digital phasing and
// flanging", ICMC 1984). Corners that are not all alike throb more than they whistle: a vibe.
type phasing struct {
	lfo       lfo
	low, span float64   // of the sweep: Hz and octaves
	spread    []float64 // of the stages' corners
	z         [2][]float64
	wet       float64
	level     float64
}

func newPhasing(hz, low, octaves, wet, level float64, spread ...float64) *phasing {
	p := &phasing{lfo: newLFO(hz), low: low, span: octaves, spread: spread, wet: wet, level: level}
	for i := range p.z {
		p.z[i] = make([]float64, len(spread))
	}
	return p
}

func (p *phasing) run(w wave) wave {
	const every = 16
	a := make([]float64, len(p.spread))
	for i := range w.l {
		v := p.lfo.next()
		if i%every == 0 {
			for k, s := range p.spread {
				t := math.Tan(math.Pi * math.Min(p.low*s*math.Exp2(p.span*v), 15000) / Rate)
				a[k] = (t - 1) / (t + 1)
			}
		}
		w.l[i] = p.side(0, w.l[i], a)
		if w.r != nil {
			w.r[i] = p.side(1, w.r[i], a)
		}
	}
	return w
}

func (p *phasing) side(side int, x float64, a []float64) float64 {
	y := x
	z := p.z[side]
	for k, c := range a {
		out := c*y + z[k]
		z[k] = settled(y - c*out)
		y = out
	}
	return p.level * ((1-p.wet)*x + p.wet*y)
}

// swept is a delay line read at a moving place, mixed with the dry signal: a chorus, or with
// regeneration a flanger.
type swept struct {
	lfo         lfo
	base, depth float64 // samples
	regenerate  float64
	wet         float64
	line        [2][]float64
	at          int
}

func newSwept(hz, baseMS, depthMS, regenerate, wet float64) *swept {
	s := &swept{lfo: newLFO(hz), base: baseMS * Rate / 1000, depth: depthMS * Rate / 1000, regenerate: regenerate, wet: wet}
	size := int(s.base+s.depth) + 4
	s.line = [2][]float64{make([]float64, size), make([]float64, size)}
	return s
}

func (s *swept) run(w wave) wave {
	size := len(s.line[0])
	for i := range w.l {
		back := s.base + s.depth*s.lfo.next()
		whole := int(back)
		part := back - float64(whole)
		a := (s.at - whole + 2*size) % size
		b := (a - 1 + size) % size
		for side, x := range [2][]float64{w.l, w.r} {
			if x == nil {
				continue
			}
			line := s.line[side]
			old := line[a]*(1-part) + line[b]*part
			line[s.at] = settled(x[i] + s.regenerate*old)
			x[i] = (1-s.wet)*x[i] + s.wet*old
		}
		s.at = (s.at + 1) % size
	}
	return w
}

// divider is an octave below by counting: the sign of a low-passed note turns at every second
// crossing and carries its own level, as analogue dividers do.
type divider struct {
	low         [2]biquad
	sign, count float64
	was         bool
	env         float64
	smooth      biquad
	down, dry   float64
}

func newDivider(down, dry float64) *divider {
	return &divider{low: [2]biquad{lowPass(330, 0.7, Rate), lowPass(330, 0.7, Rate)}, sign: 1, smooth: lowPass(400, 0.7, Rate), down: 1.6 * levelKnob(down), dry: levelKnob(dry)}
}

func (d *divider) run(x []float64) {
	fall := math.Exp(-1 / (0.05 * Rate))
	for i, v := range x {
		n := d.low[1].step(d.low[0].step(v))
		d.env = math.Max(math.Abs(n), d.env*fall)
		if up := n > 0.05*d.env; up != d.was && math.Abs(n) > 0.05*d.env {
			d.was = up
			if d.count++; d.count == 2 {
				d.count, d.sign = 0, -d.sign
			}
		}
		x[i] = d.dry*v + d.down*d.smooth.step(d.sign*d.env)
	}
	d.env = settled(d.env)
}

// shifter moves the pitch by reading a delay line faster or slower than it is written, with two
// heads that fade into each other (Zoelzer, "DAFX", chapter 6).
type shifter struct {
	ratio, wet float64
	line       []float64
	at         int
	head       float64
}

const shiftWindow = 0.045 * Rate

func newShifter(semitones, mix float64) *shifter {
	return &shifter{ratio: math.Exp2(semitones / 12), wet: turnOf(mix), line: make([]float64, int(shiftWindow)+4)}
}

func (s *shifter) run(x []float64) {
	size := len(s.line)
	for i, v := range x {
		s.line[s.at] = v
		y := 0.0
		for k := range 2 {
			pos := math.Mod(s.head+float64(k)*shiftWindow/2, shiftWindow)
			back := pos
			fade := math.Sin(math.Pi * pos / shiftWindow)
			whole := int(back)
			a := (s.at - whole + 2*size) % size
			b := (a - 1 + size) % size
			y += fade * fade * (s.line[a]*(1-back+float64(whole)) + s.line[b]*(back-float64(whole)))
		}
		if s.head = math.Mod(s.head+1-s.ratio+shiftWindow, shiftWindow); s.head < 0 {
			s.head += shiftWindow
		}
		s.at = (s.at + 1) % size
		x[i] = (1-s.wet)*v + s.wet*y
	}
}

// wahFilter is a resonant band from 450 Hz heel down to 2.1 kHz toe down.
func wahFilter(position float64) biquad {
	f := bandPass(450*math.Pow(4.7, turnOf(position)), 4, Rate)
	f.b0, f.b2 = 2.6*f.b0, 2.6*f.b2
	return f
}

// filters is a row of sections.
type filters []biquad

func (f filters) run(x []float64) {
	for i := range f {
		f[i].run(x)
	}
}
