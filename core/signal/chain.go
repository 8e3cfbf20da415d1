package signal

import (
	"context"
	"fmt"
	"slices"

	"envex/core/plan"
)

// stage is one place of a chain that is rendered.
type stage struct {
	key    plan.Key
	name   string
	effect plan.Effect
	amp    bool
	on     bool
	set    settings
	sum    bool // what a mono input takes of a stereo signal: the sum, else the left
	narrow bool // it has one input and one output
	turns  bool // it turns the polarity round while it is on
	late   float64
	trim   float64  // dB, while it is on, to what was measured
	hears  plan.Key // the earlier stop it listens to
}

// fork is where a chain divides.
type fork struct {
	kind  string
	join  string
	lanes []line
	names []string
}

// link is a stage or a fork.
type link struct {
	stage *stage
	fork  *fork
}

type line []link

// Setting is a rig as it is set for one moment: every variable's value, and the guitar.
type Setting struct {
	Values map[plan.Key]plan.Value
	Guitar plan.ID
}

// rendering is a rig that can be rendered: its chain, and what was assumed.
type rendering struct {
	plan    *plan.Plan
	rig     *plan.Rig
	path    []plan.Node
	assumed []string
}

func newRendering(p *plan.Plan, rig plan.ID) (*rendering, error) {
	r, ok := p.FindRig(rig)
	if !ok {
		return nil, fmt.Errorf("signal: there is no rig %q", rig)
	}
	return &rendering{plan: p, rig: r, path: r.Path}, nil
}

// setFor is how a recipe sets the rig, at a tempo for what follows it.
func (r *rendering) setFor(rec *plan.Recipe, sound *plan.Sound, tempo plan.Tempo) Setting {
	s := Setting{Values: map[plan.Key]plan.Value{}}
	for _, id := range r.rig.GearIn() {
		g, ok := r.plan.FindGear(id)
		if !ok {
			continue
		}
		for _, v := range g.Variables() {
			x := r.rig.BaseValue(v)
			if rec != nil {
				if own, ok := rec.Values[v.Key]; ok && own.Kind() != plan.FreeValue {
					x = own
				}
			}
			s.Values[v.Key] = resolved(x, tempo)
		}
	}
	// What a preset holds is what its controls are, unless the recipe insists.
	for _, id := range r.rig.GearIn() {
		g, ok := r.plan.FindGear(id)
		if !ok {
			continue
		}
		preset, ok := g.PresetControl()
		if !ok {
			continue
		}
		shot := ""
		if x, ok := g.SnapshotControl(); ok {
			shot = s.Values[x.Key].Word()
		}
		for _, v := range g.Variables() {
			if v.Access != plan.Memory {
				continue
			}
			if rec != nil {
				if own, named := rec.Values[v.Key]; named && own.Kind() != plan.FreeValue {
					continue
				}
			}
			if held, ok := r.rig.Remembered(id, s.Values[preset.Key].Word(), shot, v.Key); ok {
				s.Values[v.Key] = resolved(held, tempo)
			}
		}
	}
	s.Guitar = r.guitarOf(rec, sound)
	return s
}

func resolved(v plan.Value, tempo plan.Tempo) plan.Value {
	if v.Kind() != plan.SyncValue {
		return v
	}
	ms, ok := tempo.Milliseconds(v.Word())
	if !ok {
		return plan.Value{}
	}
	return plan.Number(ms)
}

func (r *rendering) guitarOf(rec *plan.Recipe, sound *plan.Sound) plan.ID {
	var choices []plan.ID
	if rec != nil {
		choices = append(choices, rec.Guitar)
	}
	if sound != nil {
		choices = append(choices, sound.Targets.Guitar)
	}
	for _, id := range append(choices, r.rig.Guitars...) {
		if id != "" {
			return id
		}
	}
	return ""
}

func (s Setting) at(key plan.Key) plan.Value { return s.Values[key] }

// line reads a path as it is set.
func (r *rendering) line(nodes []plan.Node, s Setting) line {
	var l line
	for i, n := range nodes {
		if n.Split != nil {
			l = append(l, r.divided(n.Split, s)...)
			continue
		}
		x := r.stage(n, s)
		if x == nil {
			continue
		}
		l = append(l, link{stage: x})
		if x.effect == plan.EffectPower && x.amp && !meetsSpeaker(r.plan, nodes[i+1:]) {
			l = append(l, link{stage: r.ownSpeaker(x)})
		}
	}
	return r.parallelLoop(l, nodes)
}

// divided is a split: what divides the signal, its lanes, and what joins them.
func (r *rendering) divided(sp *plan.Split, s Setting) line {
	f := &fork{kind: sp.Kind, join: sp.Join}
	for i, lane := range sp.Lanes {
		f.lanes = append(f.lanes, r.line(lane.Nodes, s))
		name := lane.Name
		if name == "" {
			name = fmt.Sprintf("lane %d", i+1)
		}
		f.names = append(f.names, name)
	}
	var l line
	if x := r.stage(plan.Node{Stop: sp.Divider()}, s); x != nil {
		l = append(l, link{stage: x})
	}
	l = append(l, link{fork: f})
	if x := r.stage(plan.Node{Stop: sp.To}, s); x != nil && sp.To != sp.Divider() {
		l = append(l, link{stage: x})
	}
	return l
}

func (r *rendering) stage(n plan.Node, s Setting) *stage {
	g, ok := r.plan.FindGear(n.Stop.Gear())
	if !ok {
		return nil
	}
	b, ok := g.FindBlock(plan.ID(n.Stop.Rest()))
	if !ok {
		return nil
	}
	x := &stage{
		key: n.Stop, name: g.StopName(b), effect: b.Effect, amp: g.Kind == plan.Amp, set: settings{g, b, s.at},
		on: b.Bypass == plan.AlwaysOn || s.at(plan.OnKey(g.ID, b.ID)).IsOn(), turns: b.Inverts, sum: n.Takes == "sum",
		narrow: b.Inputs != "stereo" && b.Outputs != "stereo" && natureOf(b.Effect) != wire || b.Inputs != "stereo" && (b.Effect == plan.EffectPreamp || b.Effect == plan.EffectPower),
		hears:  n.KeyIn,
	}
	if b.LatencyMS != nil && (x.on || b.Bypass != plan.TrueBypass) {
		x.late = *b.LatencyMS
	}
	return x
}

// meetsSpeaker reports whether a speaker, a load or a simulator of one comes after.
func meetsSpeaker(p *plan.Plan, nodes []plan.Node) bool {
	for _, key := range plan.StopsIn(nodes) {
		if g, ok := p.FindGear(key.Gear()); ok {
			if b, ok := g.FindBlock(plan.ID(key.Rest())); ok && (b.Effect == plan.EffectSpeaker || b.Effect == plan.EffectCab || b.Effect == plan.EffectLoad) {
				return true
			}
		}
	}
	return false
}

// ownSpeaker is the speaker of an amp's own, which stands in no path.
func (r *rendering) ownSpeaker(power *stage) *stage {
	block := plan.Block{ID: "speaker", Name: "speaker", Effect: plan.EffectSpeaker, Bypass: plan.AlwaysOn}
	if g := power.set.gear; g.SpeakerOut == nil || !g.SpeakerOut.Internal {
		words := g.Name + " has no speaker in the chain; an open-backed one is taken."
		if !slices.Contains(r.assumed, words) {
			r.assumed = append(r.assumed, words)
		}
	}
	return &stage{key: power.key + "/speaker", name: power.set.gear.Name + " speaker", effect: plan.EffectSpeaker, on: true, set: settings{power.set.gear, &block, power.set.at}}
}

// parallelLoop makes the stops between an amp's sections a lane beside the dry signal, where its
// loop is parallel.
func (r *rendering) parallelLoop(l line, nodes []plan.Node) line {
	pre := slices.IndexFunc(l, func(x link) bool { return x.stage != nil && x.stage.amp && x.stage.effect == plan.EffectPreamp })
	if pre < 0 || l[pre].stage.set.gear.Loop == nil || l[pre].stage.set.gear.Loop.Kind != "parallel" {
		return l
	}
	power := slices.IndexFunc(l, func(x link) bool {
		return x.stage != nil && x.stage.effect == plan.EffectPower && x.stage.set.gear == l[pre].stage.set.gear
	})
	if power < pre+2 {
		return l
	}
	f := &fork{kind: plan.SplitCopy, join: plan.JoinSum, lanes: []line{nil, slices.Clone(l[pre+1 : power])}, names: []string{"dry", "loop"}}
	return slices.Concat(l[:pre+1], line{{fork: f}}, l[power:])
}

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
