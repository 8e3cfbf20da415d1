package signal

import (
	"context"
	"fmt"

	"envex/core/plan"
)

// This file runs a chain: it gives every stage its unit, parts lanes, and brings them together in time.

// mode is how a chain is rendered.
type mode struct {
	fine   bool                        // oversampled, to be listened to
	still  bool                        // time, modulation and pitch effects bypassed
	custom func(s *stage) (unit, bool) // another unit for a stage; nil for none
}

// player runs a chain and keeps its units, so that a long signal may be run in pieces.
type player struct {
	mode  mode
	units map[*stage]unit
	heard map[plan.Key]bool      // stops that something later listens to
	taps  map[plan.Key][]float64 // what arrived at them
	ctx   context.Context
}

func newPlayer(ctx context.Context, m mode, l line) *player {
	p := &player{mode: m, units: map[*stage]unit{}, heard: map[plan.Key]bool{}, taps: map[plan.Key][]float64{}, ctx: ctx}
	l.each(func(s *stage) { p.heard[s.hears] = s.hears != "" })
	return p
}

// each visits every stage of a line, lanes included.
func (l line) each(visit func(*stage)) {
	for _, x := range l {
		if x.stage != nil {
			visit(x.stage)
			continue
		}
		for _, lane := range x.fork.lanes {
			lane.each(visit)
		}
	}
}

// bypassed reports whether a stage does nothing in this rendering.
func (m mode) bypassed(s *stage) bool {
	if !s.on {
		return true
	}
	n := natureOf(s.effect)
	return m.still && (n == space || n == motion || s.effect == plan.EffectWah)
}

// unitOf is the circuit of a stage, made once.
func (p *player) unitOf(s *stage) unit {
	u, ok := p.units[s]
	if ok {
		return u
	}
	var row inOrder
	if p.mode.custom != nil {
		if own, is := p.mode.custom(s); is {
			p.units[s] = own
			return own
		}
	}
	if s.effect == plan.EffectGate && s.hears != "" && !p.mode.bypassed(s) {
		threshold := s.set.knob(5, "threshold")
		p.units[s] = &keyed{newGate(threshold), newGate(threshold)}
		return p.units[s]
	}
	if !p.mode.bypassed(s) {
		if model, _ := s.set.model(p.mode.fine); model != nil {
			row = append(row, model)
		}
		if s.trim != 0 {
			row = append(row, gain(factor(s.trim)))
		}
		if s.turns {
			row = append(row, gain(-1))
		}
	}
	if s.late > 0 {
		row = append(row, newLate(s.late))
	}
	if len(row) > 0 {
		u = row
	}
	p.units[s] = u
	return u
}

// oversampledIn counts the oversampled stages of a line: how late its rendering is.
func (p *player) oversampledIn(l line) int {
	if !p.mode.fine {
		return 0
	}
	n := 0
	for _, x := range l {
		switch {
		case x.stage != nil:
			n += p.lateOf(x.stage)
		case x.fork != nil && x.fork.kind != plan.SplitTap:
			most := 0
			for _, lane := range x.fork.lanes {
				most = max(most, p.oversampledIn(lane))
			}
			n += most
		}
	}
	return n
}

func (p *player) lateOf(s *stage) int {
	if p.mode.bypassed(s) {
		return 0
	}
	switch s.effect {
	case plan.EffectBoost, plan.EffectOverdrive, plan.EffectDistortion, plan.EffectFuzz, plan.EffectPreamp, plan.EffectPower:
		return overLate
	}
	return 0
}

// run carries a wave along a line. What ends in lanes of its own comes back as two sides: the first
// lane left and the second right.
func (p *player) run(l line, w wave) (wave, error) {
	for _, x := range l {
		if err := p.ctx.Err(); err != nil {
			return w, err
		}
		if x.fork != nil {
			joined, err := p.divide(x.fork, w)
			if err != nil {
				return w, err
			}
			w = joined
			continue
		}
		w = p.pass(x.stage, w)
	}
	return w, nil
}

// pass carries a wave through one stage.
func (p *player) pass(s *stage, w wave) wave {
	if p.heard[s.key] {
		p.taps[s.key] = append([]float64(nil), w.l...)
	}
	if s.narrow && w.stereo() {
		w = w.mono(s.sum)
	}
	u := p.unitOf(s)
	if u == nil {
		return w
	}
	if k, ok := u.(*keyed); ok {
		if key := p.taps[s.hears]; len(key) == len(w.l) {
			return k.listen(w, key).flushed()
		}
	}
	return u.run(w).flushed()
}

// keyed is a gate that listens to an earlier stop.
type keyed struct{ l, r *gate }

func (k *keyed) run(w wave) wave { return k.listen(w, w.l) }

func (k *keyed) listen(w wave, key []float64) wave {
	k.l.listen(w.l, key)
	if w.r != nil {
		k.r.listen(w.r, key)
	}
	return w
}

// divide runs the lanes of a fork and brings them together again.
func (p *player) divide(f *fork, w wave) (wave, error) {
	if f.kind == plan.SplitTap {
		return w, nil // the lane ends in a tuner or a line of its own; the main path goes on
	}
	most := 0
	for _, lane := range f.lanes {
		most = max(most, p.oversampledIn(lane))
	}
	var ends []wave
	for i, lane := range f.lanes {
		in := w.clone()
		switch {
		case f.kind == plan.SplitLeftRight && w.stereo() && i == 1:
			in = wave{l: in.r}
		case f.kind == plan.SplitLeftRight && w.stereo():
			in = wave{l: in.l}
		case f.kind == plan.SplitCrossfade:
			in.scale(1 / float64(len(f.lanes)))
		case f.kind == plan.SplitAB && i > 0:
			in.scale(0) // the first lane is chosen where nothing says otherwise
		}
		out, err := p.run(lane, in)
		if err != nil {
			return w, err
		}
		if behind := most - p.oversampledIn(lane); behind > 0 {
			out = (&late{line: [2][]float64{make([]float64, behind), make([]float64, behind)}}).run(out)
		}
		ends = append(ends, out)
	}
	return joined(f, ends), nil
}

func joined(f *fork, ends []wave) wave {
	if len(ends) == 1 {
		return ends[0]
	}
	if f.join == plan.JoinSum || f.join == plan.JoinCrossfade {
		sum := ends[0]
		for _, e := range ends[1:] {
			sum = sum.add(e)
		}
		if f.kind == plan.SplitCopy { // a mixer at unity for equal lanes
			sum.scale(1 / float64(len(ends)))
		}
		return sum
	}
	// Two sides; further lanes are in the middle.
	out := wave{l: ends[0].l, r: ends[1].mono(true).l}
	if ends[0].stereo() {
		out.l = ends[0].mono(true).l
	}
	for _, e := range ends[2:] {
		e.scale(0.5)
		out = out.add(e)
	}
	return out
}

// render runs a signal through a rig as it is set, from the guitar's jack to the end of the chain.
func (r *rendering) render(ctx context.Context, s Setting, dry []float64, m mode) (wave, error) {
	l := r.line(r.path, s)
	r.trims(l, s)
	p := newPlayer(ctx, m, l)
	late := p.oversampledIn(l)
	var in []float64
	if late > 0 {
		in = append(append([]float64(nil), dry...), make([]float64, late)...)
	} else {
		in = append([]float64(nil), dry...)
	}
	w, err := p.run(l, wave{l: in})
	if err != nil {
		return w, fmt.Errorf("signal: %w", err)
	}
	w.l = w.l[late:]
	if w.r != nil {
		w.r = w.r[late:]
	}
	return w, nil
}
