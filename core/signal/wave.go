package signal

import "math"

// wave is one signal as it runs along a chain: mono, or two sides. R is nil while it is mono.
type wave struct {
	l, r  []float64
	ended []ending // what has left the line on its way and is heard beside it
}

// ending is what came out at the end of a lane that is heard beside the line it left.
type ending struct {
	wave    wave
	latency int // samples that it comes late, for having been oversampled
}

func (w wave) stereo() bool { return w.r != nil }

func (w wave) clone() wave {
	c := wave{l: append([]float64(nil), w.l...)}
	if w.r != nil {
		c.r = append([]float64(nil), w.r...)
	}
	for _, e := range w.ended {
		c.ended = append(c.ended, ending{e.wave.clone(), e.latency})
	}
	return c
}

// widened is the wave with two sides, equal where it was mono.
func (w wave) widened() wave {
	if w.r == nil {
		w.r = append([]float64(nil), w.l...)
	}
	return w
}

// mono is what a mono input takes of it: both sides summed, or the left alone.
func (w wave) mono(sum bool) wave {
	if w.r == nil {
		return w
	}
	l := append([]float64(nil), w.l...)
	if sum {
		for i, x := range w.r {
			l[i] = (l[i] + x) / 2
		}
	}
	return wave{l: l}
}

func (w wave) scale(k float64) {
	for i := range w.l {
		w.l[i] *= k
	}
	for i := range w.r {
		w.r[i] *= k
	}
}

// add adds another wave; both become stereo where one is.
func (w wave) add(x wave) wave {
	if w.stereo() || x.stereo() {
		w, x = w.widened(), x.widened()
	}
	for i := range w.l {
		w.l[i] += x.l[i]
	}
	for i := range w.r {
		w.r[i] += x.r[i]
	}
	return w
}

// flushed is the wave without what is too small to matter.
func (w wave) flushed() wave {
	for _, x := range w.channels() {
		if n := len(x); n > 0 && math.Abs(x[n/2]) >= quiet && math.Abs(x[n-1]) >= quiet {
			continue // it does not die away
		}
		for i, v := range x {
			if math.Abs(v) < quiet { // one comparison, which the processor foresees
				x[i] = 0
			}
		}
	}
	return w
}

// unit is one circuit at work. It keeps its state from one run to the next, so that a long signal
// may be run in pieces. It works in place, and may make a mono wave stereo.
type unit interface{ run(w wave) wave }

// each is a unit that treats both sides alike and apart.
type each struct{ l, r interface{ run([]float64) } }

func (e each) run(w wave) wave {
	e.l.run(w.l)
	if w.r != nil {
		e.r.run(w.r)
	}
	return w
}

// bothSides makes a unit of a one-sided circuit, one for each side.
func bothSides(build func() interface{ run([]float64) }) unit { return each{build(), build()} }

// gain is a factor.
type gain float64

func (g gain) run(w wave) wave {
	w.scale(float64(g))
	return w
}

// inOrder runs units one after the other.
type inOrder []unit

func (s inOrder) run(w wave) wave {
	for _, u := range s {
		w = u.run(w)
	}
	return w
}

// summing makes both sides their sum, at half: what one line would carry of them.
type summing struct{}

func (summing) run(w wave) wave {
	for i, x := range w.r {
		m := (w.l[i] + x) / 2
		w.l[i], w.r[i] = m, m
	}
	return w
}
