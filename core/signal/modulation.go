package signal

import "math"

// This file holds the models of modulation, pitch and wah.

// lfo is a slow sine from 0 to 1, beginning at its lowest.
type lfo struct{ phase, step float64 }

func newLFO(hz float64) lfo { return lfo{step: hz / Rate} }

func (o *lfo) next() float64 {
	v := 0.5 - 0.5*math.Cos(2*math.Pi*o.phase)
	o.pass()
	return v
}

// pass goes on to the next sample without being read.
func (o *lfo) pass() {
	if o.phase += o.step; o.phase >= 1 {
		o.phase--
	}
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

// slicer is a tremolo that jumps: on for half of each turn and down by its depth for the other, with edges of some
// milliseconds so that they do not click.
type slicer struct {
	tremolo
	now, ease float64
}

// edgeS is the time constant of an edge of a slicer, in seconds.
const edgeS = 0.0015

func newSlicer(t tremolo) *slicer {
	return &slicer{tremolo: t, now: 1, ease: 1 - math.Exp(-1/(edgeS*Rate))}
}

func (s *slicer) run(w wave) wave {
	for i := range w.l {
		to := 1.0
		if s.lfo.phase >= 0.5 {
			to = 1 - s.depth
		}
		s.lfo.pass()
		s.now += s.ease * (to - s.now)
		k := s.level * s.now
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
		if i%every != 0 {
			p.lfo.pass()
		} else {
			v := p.lfo.next()
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
		z[k] = withoutDenormal(y - c*out)
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
	s := &swept{
		lfo: newLFO(hz), base: baseMS * Rate / 1000, depth: depthMS * Rate / 1000, regenerate: regenerate, wet: wet,
	}
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
			line[s.at] = withoutDenormal(x[i] + s.regenerate*old)
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
	return &divider{
		low: [2]biquad{lowPass(330, 0.7, Rate), lowPass(330, 0.7, Rate)}, sign: 1, smooth: lowPass(400, 0.7, Rate),
		down: 1.6 * levelKnob(down), dry: levelKnob(dry),
	}
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
	d.env = withoutDenormal(d.env)
}

// shifter moves the pitch by reading a delay line faster or slower than it is written. Where its head runs
// out of the line, it goes on a whole number of the sound's own periods away, found by correlation, and
// fades across: so that the pitch stays what it is read at (S. Roucos and A. Wilgus, "High quality
// time-scale modification for speech", ICASSP 1985).
type shifter struct {
	ratio, wet float64
	line       []float64
	at         int     // what is written next
	back       float64 // how far behind that the head reads
	from       float64 // how far behind the head it comes from does
	fade       int     // samples until it has come all the way
}

const (
	shiftLine   = 8192
	shiftFade   = 256
	shiftLeast  = 420  // samples of a jump; with the most, every period of a note down to 49 Hz fits
	shiftMost   = 1400 // samples
	shiftLikens = 1024 // samples that are compared
)

func newShifter(semitones, mix float64) *shifter {
	s := &shifter{ratio: math.Exp2(semitones / 12), wet: turnOf(mix), line: make([]float64, shiftLine)}
	s.back = s.nearest()
	return s
}

// nearest is how near the head may come to what is written, since it runs on while it fades.
func (s *shifter) nearest() float64 { return shiftFade*math.Max(s.ratio-1, 0) + 4 }

// read is the line some samples back, by cubic interpolation.
func (s *shifter) read(back float64) float64 {
	whole := math.Ceil(back)
	t := whole - back
	i := s.at - int(whole) + 2*shiftLine
	y0, y1, y2, y3 := s.line[(i-1)%shiftLine], s.line[i%shiftLine], s.line[(i+1)%shiftLine], s.line[(i+2)%shiftLine]
	return y1 + 0.5*t*(y2-y0+t*(2*y0-5*y1+4*y2-y3+t*(3*(y1-y2)+y3-y0)))
}

func (s *shifter) run(x []float64) {
	nearest := s.nearest()
	for i, v := range x {
		s.line[s.at] = withoutDenormal(v)
		s.at = (s.at + 1) % shiftLine
		y := s.read(s.back)
		if s.fade > 0 {
			share := float64(s.fade) / shiftFade
			y = (1-share)*y + share*s.read(s.from)
			s.fade--
		} else if s.ratio > 1 && s.back < nearest+1 {
			s.jump(1)
		} else if s.ratio < 1 && s.back > nearest+shiftMost+1 {
			s.jump(-1)
		}
		s.back, s.from = s.back+1-s.ratio, s.from+1-s.ratio
		x[i] = (1-s.wet)*v + s.wet*y
	}
}

// jump sends the head to where the line is most like where it is: further back, or nearer.
func (s *shifter) jump(way float64) {
	best, most := float64(shiftLeast), math.Inf(-1)
	try := func(by float64, every int) float64 {
		a, b := s.back, s.back+way*by
		xy, yy := 0.0, 0.0
		for k := 0; k < shiftLikens; k += every {
			p, q := s.line[(s.at-int(a)-k+4*shiftLine)%shiftLine], s.line[(s.at-int(b)-k+4*shiftLine)%shiftLine]
			xy, yy = xy+p*q, yy+q*q
		}
		return xy / math.Sqrt(yy+quiet)
	}
	for by := float64(shiftLeast); by <= shiftMost; by += 4 {
		if like := try(by, 4); like > most {
			best, most = by, like
		}
	}
	around := best
	most = math.Inf(-1)
	var likes [11]float64
	for k := range likes {
		by := around + float64(k-5)
		if likes[k] = try(by, 1); likes[k] > most {
			best, most = by, likes[k]
		}
	}
	// Between samples: the top of a parabola through the best three.
	if k := int(best-around) + 5; k > 0 && k < len(likes)-1 {
		if bend := likes[k-1] - 2*likes[k] + likes[k+1]; bend < 0 {
			best += 0.5 * (likes[k-1] - likes[k+1]) / bend
		}
	}
	s.from, s.fade = s.back, shiftFade
	s.back += way * best
}

// wahFilter is a resonant band from 450 Hz heel down to 2.1 kHz toe down.
func wahFilter(position float64) biquad {
	f := bandPass(450*math.Pow(4.7, turnOf(position)), 4, Rate)
	f.b0, f.b2 = 2.6*f.b0, 2.6*f.b2
	return f
}

// filters is a row of sections.
type filters []biquad

// run filters a signal, two sections at a time: the second a sample behind the first, since a section by
// itself mostly waits for its own last output.
func (f filters) run(x []float64) {
	for ; len(f) >= 2; f = f[2:] {
		pair(&f[0], &f[1], x)
	}
	if len(f) == 1 {
		f[0].run(x)
	}
}

// pair runs two sections at once. Their numbers stay in memory, from where the processor takes them as it multiplies:
// its registers are for what each sample waits for.
func pair(f, g *biquad, x []float64) {
	k := &[2]inLoop{f.inLoop(), g.inLoop()}
	fz1, fz2, gz1, gz2 := f.z1, f.z2, g.z1, g.z2
	for len(x) > 0 { // in pieces, so that what has died away does not linger as denormal numbers
		p := x[:min(len(x), 64)]
		y := k[0].b0*p[0] + fz1
		fz1, fz2 = k[0].c1*p[0]+fz2-k[0].a1*fz1, k[0].c2*p[0]-k[0].a2*fz1
		for i := 1; i < len(p); i++ {
			p[i-1] = k[1].b0*y + gz1
			gz1, gz2 = k[1].c1*y+gz2-k[1].a1*gz1, k[1].c2*y-k[1].a2*gz1
			v := p[i]
			y = k[0].b0*v + fz1
			fz1, fz2 = k[0].c1*v+fz2-k[0].a1*fz1, k[0].c2*v-k[0].a2*fz1
		}
		p[len(p)-1] = k[1].b0*y + gz1
		gz1, gz2 = k[1].c1*y+gz2-k[1].a1*gz1, k[1].c2*y-k[1].a2*gz1
		fz1, fz2, gz1, gz2 = withoutDenormal(fz1), withoutDenormal(fz2), withoutDenormal(gz1), withoutDenormal(gz2)
		x = x[len(p):]
	}
	f.z1, f.z2, g.z1, g.z2 = fz1, fz2, gz1, gz2
}
