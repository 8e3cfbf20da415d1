package signal

import (
	"context"
	"fmt"
	"math"
)

// How what rings on is waited for: in pieces, until a piece is 60 dB under the loudest moment, and no longer
// than it is of use to anybody; then it fades.
const (
	ringPiece   = Rate / 2
	ringDown    = 1e-3
	longestRing = 20 * Rate
	ringFade    = Rate / 4
)

// renderPiece is how much of a recording runs along a chain at a time.
const renderPiece = Rate / 4

// ringing renders a signal to be heard, piece by piece, and on until what rings has died away.
func (r *rendering) ringing(ctx context.Context, s Setting, dry []float64, m mode) (Heard, error) {
	l := r.line(s)
	r.trims(l, s)
	p := newPlayer(ctx, m, l)
	latency := p.latency(l)
	out := newListener(len(dry)+4*ringPiece, latency, mask(dry))
	run := func(x []float64) (wave, error) {
		w, err := p.run(l, wave{l: x})
		if err != nil {
			return w, fmt.Errorf("signal: %w", err)
		}
		out.take(w)
		return w, nil
	}
	loudest := 0.0
	piece := make([]float64, renderPiece)
	for from := 0; from < len(dry); from += renderPiece {
		w, err := run(piece[:copy(piece, dry[from:])])
		if err != nil {
			return Heard{}, err
		}
		loudest = math.Max(loudest, w.peak())
	}
	rung, quiet := 0, false
	piece = make([]float64, ringPiece)
	for !quiet && rung < longestRing {
		clear(piece)
		w, err := run(piece)
		if err != nil {
			return Heard{}, err
		}
		rung += ringPiece
		loudest = math.Max(loudest, w.peak())
		quiet = rung > latency && w.peak() <= ringDown*loudest
	}
	h := out.over()
	h.Ring, h.Fade = float64(rung)/Rate, !quiet
	if h.Fade {
		h.fade(ringFade)
	}
	return h, nil
}

// peak is the highest sample of either side.
func (w wave) peak() float64 { return max(highest(w.l), highest(w.r)) }

// fade takes the last samples of what is heard down to nothing.
func (h *Heard) fade(n int) {
	sides := [][]float32{h.L, h.R}
	if h.mono() {
		sides = sides[:1]
	}
	for _, side := range sides {
		n := min(n, len(side))
		for i := range n {
			side[len(side)-n+i] *= 1 - float32(i+1)/float32(n)
		}
	}
}
