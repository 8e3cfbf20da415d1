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
	hiss   bool                        // it enters where the cable of the guitar is plugged in
	custom func(s *stage) (unit, bool) // another unit for a stage; nil for none

	// laned is told of what comes out at the end of each lane that ends on its own.
	laned func(key plan.Key, name string, end wave)

	// summed is told of both sides where they become one.
	summed func(key plan.Key, name string, sides wave)
}

// player runs a chain and keeps its units, so that a long signal may be run in pieces.
type player struct {
	mode  mode
	units map[*stage]unit
	waits map[laneOf]*fixedDelay
	ends  map[int]*fixedDelay    // what holds back what ends beside the main line, and that
	heard map[plan.Key]bool      // stops that something later listens to
	taps  map[plan.Key][]float64 // what arrived at them
	ctx   context.Context
}

func newPlayer(ctx context.Context, m mode, l line) *player {
	p := &player{
		mode: m, units: map[*stage]unit{}, waits: map[laneOf]*fixedDelay{}, ends: map[int]*fixedDelay{},
		heard: map[plan.Key]bool{},
		taps:  map[plan.Key][]float64{}, ctx: ctx,
	}
	l.each(func(s *stage) { p.heard[s.hears] = s.hears != "" })
	return p
}

// each visits every block of a line, lanes included.
func (l line) each(visit func(*stage)) {
	l.all(func(s *stage) {
		if s.run == nil {
			visit(s)
		}
	})
}

// all visits every stage of a line, passive runs included.
func (l line) all(visit func(*stage)) {
	for _, x := range l {
		if x.stage != nil {
			visit(x.stage)
			continue
		}
		for _, lane := range x.fork.lanes {
			lane.all(visit)
		}
	}
}

// bypassed reports whether a stage does nothing in this rendering.
func (m mode) bypassed(s *stage) bool {
	if !s.on || s.run != nil && s.run.first && m.hiss {
		return true
	}
	return m.still && s.effect.Traits().Wet
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
	if s.run != nil {
		if !p.mode.bypassed(s) {
			u = s.run.filter().unit()
		}
		p.units[s] = u
		return u
	}
	if !p.mode.bypassed(s) {
		if model, _ := s.set.model(p.mode.fine); model != nil && !s.solved {
			row = append(row, model)
		}
		if s.trim != 0 {
			row = append(row, gain(factor(s.trim)))
		}
		if s.turns {
			row = append(row, gain(-1))
		}
	}
	if s.delayMS > 0 {
		row = append(row, newFixedDelay(s.delayMS))
	}
	if len(row) > 0 {
		u = row
	}
	p.units[s] = u
	return u
}

// latency is how late the rendering of a line is, with all that ends beside it.
func (p *player) latency(l line) int {
	most, n := 0, 0
	for _, x := range l {
		if x.fork != nil && (x.fork.kind != plan.SplitTap || x.fork.heard) {
			for _, lane := range x.fork.lanes {
				most = max(most, n+p.latency(lane))
			}
		}
		n += p.mainLatency(line{x})
	}
	return max(most, n)
}

// mainLatency counts the oversampled stages of a line: how late what comes out at its end is.
func (p *player) mainLatency(l line) int {
	if !p.mode.fine {
		return 0
	}
	n := 0
	for _, x := range l {
		switch {
		case x.stage != nil:
			n += p.stageLatency(x.stage)
		case x.fork != nil && x.fork.kind != plan.SplitTap:
			most := 0
			for _, lane := range x.fork.lanes {
				most = max(most, p.mainLatency(lane))
			}
			n += most
		}
	}
	return n
}

func (p *player) stageLatency(s *stage) int {
	if p.mode.bypassed(s) {
		return 0
	}
	if s.effect.IsGain() || s.effect == plan.EffectPower {
		return overLatency
	}
	return 0
}

// run carries a wave along a chain to all that is heard of it. What ends in lanes of its own comes back as
// two sides: the first lane left and the second right.
func (p *player) run(l line, w wave) (wave, error) {
	w, err := p.along(l, w)
	if err != nil {
		return w, err
	}
	return p.gathered(w, p.mainLatency(l), p.latency(l)), nil
}

// gathered is a wave with what has ended beside its line, brought to be as late as the latest of them.
func (p *player) gathered(w wave, latency, most int) wave {
	if len(w.ended) == 0 {
		return w
	}
	ends := append([]ending{{wave{l: w.l, r: w.r}, latency}}, w.ended...)
	waves := make([]wave, len(ends))
	for i, e := range ends {
		waves[i] = held(p.ends, i, most-e.latency).run(e.wave)
	}
	return joined(&fork{}, waves)
}

// along carries a wave along a line. What ends beside it stays apart.
func (p *player) along(l line, w wave) (wave, error) {
	latency := 0
	for _, x := range l {
		if err := p.ctx.Err(); err != nil {
			return w, err
		}
		if x.fork != nil {
			ended := w.ended
			w.ended = nil
			out, err := p.divide(x.fork, w)
			if err != nil {
				return w, err
			}
			for _, e := range out.ended {
				ended = append(ended, ending{e.wave, e.latency + latency})
			}
			w = out
			w.ended = ended
			latency += p.mainLatency(line{x})
			continue
		}
		ended := w.ended
		w.ended = nil
		w = p.pass(x.stage, w)
		w.ended = ended
		latency += p.mainLatency(line{x})
	}
	return w, nil
}

// pass carries a wave through one stage.
func (p *player) pass(s *stage, w wave) wave {
	if p.heard[s.key] {
		p.taps[s.key] = append([]float64(nil), w.l...)
	}
	if s.narrow && w.stereo() {
		if s.sum {
			p.summed(s.key, s.name, w)
		}
		w = w.mono(s.sum)
	}
	if s.effect == plan.EffectSum && s.on && w.stereo() {
		p.summed(s.key, s.name, w)
	}
	if u := p.unitOf(s); u != nil {
		w = p.through(s, u, w).flushed()
	}
	if s.sums && w.stereo() {
		p.summed(s.key, s.name, w)
		w = w.mono(true)
	}
	return w
}

// through carries a wave through the circuit of a stage.
func (p *player) through(s *stage, u unit, w wave) wave {
	if k, ok := u.(*keyed); ok {
		if key := p.taps[s.hears]; len(key) == len(w.l) {
			return k.listen(w, key)
		}
	}
	return u.run(w)
}

// summed tells whoever asks of a place where both sides become one.
func (p *player) summed(key plan.Key, name string, sides wave) {
	if p.mode.summed != nil {
		p.mode.summed(key, name, sides)
	}
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
		return p.tap(f, w)
	}
	if len(f.lanes) == 0 {
		w.scale(0) // no lane is chosen
		return w, nil
	}
	most := 0
	for _, lane := range f.lanes {
		most = max(most, p.mainLatency(lane))
	}
	var ends []wave
	var ended []ending
	for i, lane := range f.lanes {
		in := w.clone()
		switch {
		case f.kind == plan.SplitLeftRight && w.stereo() && f.sides[i] == 1:
			in = wave{l: in.r}
		case f.kind == plan.SplitLeftRight && w.stereo():
			in = wave{l: in.l}
		case f.kind == plan.SplitCrossfade:
			in.scale(1 / float64(len(f.lanes)))
		}
		out, err := p.along(lane, in)
		if err != nil {
			return w, err
		}
		ended = append(ended, out.ended...)
		out.ended = nil
		if f.join == "" && p.mode.laned != nil && !lane.parts() {
			p.mode.laned(f.key+plan.Key("/"+f.names[i]), f.names[i], out)
		}
		if behind := most - p.mainLatency(lane); behind > 0 {
			out = p.wait(f, i, behind).run(out)
		}
		ends = append(ends, out)
	}
	if f.kind == plan.SplitLeftRight && f.join == plan.JoinSum && len(ends) == 2 {
		p.summed(f.key, f.name, wave{l: ends[0].mono(true).l, r: ends[1].mono(true).l})
	}
	out := joined(f, ends)
	out.ended = ended
	return out, nil
}

// parts reports whether a line ends in lanes of its own.
func (l line) parts() bool {
	if len(l) == 0 {
		return false
	}
	f := l[len(l)-1].fork
	return f != nil && f.join == "" && f.kind != plan.SplitTap
}

// tap runs the lane of a tap beside the main path, where it is heard; else it ends in a tuner.
func (p *player) tap(f *fork, w wave) (wave, error) {
	if f.heard {
		for i, lane := range f.lanes {
			out, err := p.along(lane, w.clone())
			if err != nil {
				return w, err
			}
			if p.mode.laned != nil {
				p.mode.laned(f.key+plan.Key("/"+f.names[i]), f.names[i], wave{l: out.l, r: out.r})
			}
			w.ended = append(append(w.ended, out.ended...), ending{wave{l: out.l, r: out.r}, p.mainLatency(lane)})
		}
	}
	if f.muted {
		w.scale(0)
	}
	return w, nil
}

// wait is what holds a lane back until the others have come, made once.
func (p *player) wait(f *fork, lane, samples int) *fixedDelay {
	return held(p.waits, laneOf{f, lane}, samples)
}

func held[K comparable](waits map[K]*fixedDelay, at K, samples int) *fixedDelay {
	if waits[at] == nil {
		waits[at] = &fixedDelay{line: [2][]float64{make([]float64, samples), make([]float64, samples)}}
	}
	return waits[at]
}

// laneOf is one lane of a fork.
type laneOf struct {
	fork *fork
	lane int
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
	l := r.line(s)
	r.trims(l, s)
	p := newPlayer(ctx, m, l)
	latency := p.latency(l)
	var in []float64
	if latency > 0 {
		in = append(append([]float64(nil), dry...), make([]float64, latency)...)
	} else {
		in = append([]float64(nil), dry...)
	}
	w, err := p.run(l, wave{l: in})
	if err != nil {
		return w, fmt.Errorf("signal: %w", err)
	}
	w.l = w.l[latency:]
	if w.r != nil {
		w.r = w.r[latency:]
	}
	return w, nil
}
