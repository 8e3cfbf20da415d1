package signal

import (
	"math"
	"slices"
)

// This file runs a designed filter over a signal, by overlapping and saving. It has a transform of its own: a
// convolution needs no order in its bins, and two real signals go through one complex transform as its two parts,
// which together is four times as quick as one ordered real transform after another.

const (
	filterFrame = 4096       // samples of a transform: a power of four
	glide       = Rate / 100 // samples from one filter to the next while a signal runs: 10 ms
	stepMost    = filterFrame - filterTaps + 1
)

// turns has the factors of each stage of the transform: for each butterfly the first, second and third power.
var turns = func() (all [][]complex128) {
	for size := filterFrame; size >= 4; size /= 4 {
		stage := make([]complex128, 0, 3*size/4)
		for k := range size / 4 {
			for power := 1; power <= 3; power++ {
				sin, cos := math.Sincos(-2 * math.Pi * float64(power*k) / float64(size))
				stage = append(stage, complex(cos, sin))
			}
		}
		all = append(all, stage)
	}
	return all
}()

// shuffled transforms a frame in place, by butterflies of four decimated in frequency (Oppenheim and Schafer,
// "Discrete-Time Signal Processing", chapter on the computation of the discrete Fourier transform). Its bins stay in
// the order that the butterflies leave: unshuffled brings them back, times the length of the frame.
func shuffled(x []complex128) {
	size := len(x)
	for _, stage := range turns {
		quarter := size / 4
		for from := 0; from < len(x); from += size {
			a := x[from : from+quarter]
			b := x[from+quarter : from+2*quarter][:len(a)]
			c := x[from+2*quarter : from+3*quarter][:len(a)]
			d := x[from+3*quarter : from+size][:len(a)]
			for k := range a {
				w := stage[3*k : 3*k+3 : 3*k+3]
				p, q := a[k]+c[k], a[k]-c[k]
				r, s := b[k]+d[k], b[k]-d[k]
				a[k] = p + r
				b[k] = complex(real(q)+imag(s), imag(q)-real(s)) * w[0]
				c[k] = (p - r) * w[1]
				d[k] = complex(real(q)-imag(s), imag(q)+real(s)) * w[2]
			}
		}
		size = quarter
	}
}

func unshuffled(x []complex128) {
	size := 4
	for i := len(turns) - 1; i >= 0; i-- {
		stage, quarter := turns[i], size/4
		for from := 0; from < len(x); from += size {
			a := x[from : from+quarter]
			b := x[from+quarter : from+2*quarter][:len(a)]
			c := x[from+2*quarter : from+3*quarter][:len(a)]
			d := x[from+3*quarter : from+size][:len(a)]
			for k := range a {
				w := stage[3*k : 3*k+3 : 3*k+3]
				u, v, t := b[k]*conjugate(w[0]), c[k]*conjugate(w[1]), d[k]*conjugate(w[2])
				p, q := a[k]+v, a[k]-v
				r, s := u+t, u-t
				a[k], c[k] = p+r, p-r
				b[k] = complex(real(q)-imag(s), imag(q)+real(s))
				d[k] = complex(real(q)+imag(s), imag(q)-real(s))
			}
		}
		size *= 4
	}
}

func conjugate(x complex128) complex128 { return complex(real(x), -imag(x)) }

// wires is a passive run at work on both sides.
type wires struct {
	f    *filter
	from *filter // what it comes from, while it is gliding
	left int     // samples until it has come all the way
	past [2][]float64

	bins, out, old []complex128
}

func (f *filter) unit() *wires {
	return &wires{f: f, past: [2][]float64{make([]float64, filterTaps-1), make([]float64, filterTaps-1)}}
}

// after makes the wires go on from others while the signal runs.
func (u *wires) after(before *wires) {
	copy(u.past[0], before.past[0])
	copy(u.past[1], before.past[1])
	u.from, u.left = before.f, glide
}

func (u *wires) run(w wave) wave {
	if w.r == nil {
		for x := w.l; len(x) > 0; {
			n := min(len(x), 2*stepMost)
			half := (n + 1) / 2
			u.step(u.past[0], u.past[0], x[:half], x[half:n])
			x = x[n:]
		}
		copy(u.past[1], u.past[0]) // so that a second side, should it come, has a past
		return w
	}
	if slices.Equal(u.past[0], u.past[1]) && slices.Equal(w.l, w.r) { // equal sides stay it to the last bit
		u.run(wave{l: w.l})
		copy(w.r, w.l)
		return w
	}
	for l, r := w.l, w.r; len(l) > 0; {
		n := min(len(l), stepMost)
		u.step(u.past[0], u.past[1], l[:n], r[:n])
		l, r = l[n:], r[n:]
	}
	return w
}

// step filters two pieces of a signal at once, each with the past it goes on from: two sides, or with one past two
// pieces of one side of which the second goes on from the first.
func (u *wires) step(pastA, pastB, a, b []float64) {
	const before = filterTaps - 1
	if u.left <= 0 && u.f.bins == nil {
		next(pastA, a)
		next(pastB, b)
		scaleAll(a, u.f.k)
		scaleAll(b, u.f.k)
		return
	}
	one := &pastA[0] == &pastB[0]
	frame := resized(&u.bins)
	for i, v := range pastA {
		frame[i] = complex(v, 0)
	}
	for i, v := range a {
		frame[before+i] = complex(v, 0)
	}
	clear(frame[before+len(a):])
	silentA := silence(pastA) && silence(a)
	next(pastA, a)
	silentB := silence(pastB) && silence(b)
	for i, v := range pastB {
		frame[i] += complex(0, v)
	}
	for i, v := range b {
		frame[before+i] += complex(0, v)
	}
	next(pastB, b)
	if u.left <= 0 && silentA && silentB {
		return // nothing has come for so long that nothing comes of it
	}
	var old []complex128
	if u.left > 0 {
		old = through(u.from, frame, &u.old)
	}
	out := through(u.f, frame, &u.out)
	left := u.left
	for i := range a {
		a[i] = real(out[i])
		if left > i {
			share := float64(left-i) / glide
			a[i] = (1-share)*a[i] + share*real(old[i])
		}
	}
	if one {
		left -= len(a)
	}
	for i := range b {
		b[i] = imag(out[i])
		if left > i {
			share := float64(left-i) / glide
			b[i] = (1-share)*b[i] + share*imag(old[i])
		}
	}
	// The two parts of a transform touch each other by its rounding: what was silent stays it.
	if silentA {
		clear(a)
	}
	if silentB {
		clear(b)
	}
	if u.left -= len(a); one {
		u.left -= len(b)
	}
}

// next is the past of what comes after a piece.
func next(past, piece []float64) {
	if n := len(piece); n < len(past) {
		copy(past, past[n:])
		copy(past[len(past)-n:], piece)
	} else {
		copy(past, piece[n-len(past):])
	}
}

func silence(x []float64) bool {
	for _, v := range x {
		if v != 0 {
			return false
		}
	}
	return true
}

// through is the frame's new samples through a filter. The frame stays as it is.
func through(f *filter, frame []complex128, room *[]complex128) []complex128 {
	out := resized(room)
	copy(out, frame)
	if f.bins == nil {
		k := complex(f.k, 0)
		for i := range out {
			out[i] *= k
		}
		return out[filterTaps-1:]
	}
	shuffled(out)
	for i, x := range f.bins {
		out[i] *= x
	}
	unshuffled(out)
	return out[filterTaps-1:]
}

func resized(x *[]complex128) []complex128 {
	if *x == nil {
		*x = make([]complex128, filterFrame)
	}
	return *x
}
