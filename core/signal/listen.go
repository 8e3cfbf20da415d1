package signal

import (
	"context"
	"fmt"
	"math"

	"envex/core/plan"
	"envex/core/reason"
)

// Take is one thing to be listened to: a sound of a rig, on the chain as it stands or another order
// of it.
type Take struct {
	Name   string
	Sound  plan.ID
	Recipe plan.ID
	Tempo  plan.Tempo              // of the section it is played in; that of the first that asks for the sound when zero
	Path   []plan.Node             // another order; nil for the rig's own
	Over   map[plan.Key]plan.Value // settings laid over the sound's
	On     *plan.Plan              // a plan in which the rig is otherwise; nil for that of the others
	Own    bool                    // they are those of a recipe that is not there yet, in place of the sound's own
}

// Heard is a take rendered at 48 kHz, two sides.
type Heard struct {
	Name string
	L, R []float32 // the same where both sides are
	LUFS float64   // over where the dry phrase plays, as it comes off the speaker
	Gain float64   // dB it was turned up or down by
	Ring float64   // seconds it goes on after the playing ends, until it is 60 dB down or fades
	Fade bool      // it still rang at the end, and was faded out

	peak float64 // dBTP, before the gain
}

// ceiling is the highest true peak that leaves, in dBTP.
const ceiling = -1.0

// Listen renders takes to be compared. Matched, each is brought to the loudness of the softest;
// otherwise they keep their levels among each other. One gain for all of them keeps every true peak
// under -1 dBTP, so that a comparison stays honest. It fails when something named is not there, and
// with the context's error when that is cancelled.
func Listen(ctx context.Context, p *plan.Plan, rig plan.ID, takes []Take, matched bool, o Options) ([]Heard, error) {
	r, err := newRendering(p, rig, o.Kept)
	if err != nil {
		return nil, err
	}
	out := make([]Heard, len(takes))
	err = inParallel(ctx, len(takes), o.Progress, func(i int) error {
		h, err := r.branch().take(ctx, takes[i], o.Dry)
		out[i] = h
		return err
	})
	if err != nil {
		return nil, err
	}
	alongside(out)
	level(out, matched)
	return out, nil
}

// alongside brings takes to one length, so that they can be heard in turn at the same moment.
func alongside(list []Heard) {
	longest := 0
	for _, h := range list {
		longest = max(longest, len(h.L))
	}
	for i := range list {
		h := &list[i]
		mono := h.mono()
		h.L = append(h.L, make([]float32, longest-len(h.L))...)
		if mono {
			h.R = h.L
		} else {
			h.R = append(h.R, make([]float32, longest-len(h.R))...)
		}
	}
}

// mono reports whether both sides are one.
func (h *Heard) mono() bool { return len(h.L) > 0 && len(h.R) > 0 && &h.L[0] == &h.R[0] }

func (r *rendering) take(ctx context.Context, t Take, dry []float64) (Heard, error) {
	if t.On != nil {
		other, err := newRendering(t.On, r.rig.ID, r.kept)
		if err != nil {
			return Heard{}, err
		}
		r = other
	}
	if t.Own {
		return r.proposed(ctx, t, dry)
	}
	m, err := r.madeBy(t.Sound, t.Recipe, t.Tempo)
	if err != nil {
		return Heard{}, err
	}
	if t.Path != nil {
		if r, err = r.on(t.Path); err != nil {
			return Heard{}, err
		}
	}
	s := m.setting
	for key, v := range t.Over {
		s = with(s, key, v)
	}
	in := r.source(s).play(dry)
	h, err := r.ringing(ctx, s, in, mode{fine: true})
	h.Name = t.Name
	return h, err
}

// proposed renders a sound by settings that are no recipe of the rig yet.
func (r *rendering) proposed(ctx context.Context, t Take, dry []float64) (Heard, error) {
	s, err := r.plan.SoundByID(t.Sound)
	if err != nil {
		return Heard{}, fmt.Errorf("%w", err)
	}
	set := r.setFor(&plan.Recipe{Sound: t.Sound, Values: t.Over}, s, r.tempoOf(t.Sound))
	h, err := r.ringing(ctx, set, r.source(set).play(dry), mode{fine: true})
	h.Name = t.Name
	return h, err
}

func (r *rendering) madeBy(sound, recipe plan.ID, tempo plan.Tempo) (made, error) {
	s, err := r.plan.SoundByID(sound)
	if err != nil {
		return made{}, fmt.Errorf("%w", err)
	}
	rec := r.rig.RecipeFor(plan.Section{Sound: sound, Recipe: recipe})
	if rec == nil {
		return made{}, reason.Errorf("%s has no recipe for %s", r.rig.Name, s.Name)
	}
	if tempo.BPM == 0 {
		tempo = r.tempoOf(sound)
	}
	return made{s, rec, r.setFor(rec, s, tempo), tempo}, nil
}

// listener takes a rendering in pieces, as it is to be heard, and meters it.
type listener struct {
	heard   Heard
	latency int // samples that are still to be dropped
	meter   *LoudnessMeter
	playing []bool
}

func newListener(samples, latency int, playing []bool) *listener {
	return &listener{
		heard: Heard{L: make([]float32, 0, samples)}, latency: latency, meter: NewLoudnessMeter(Rate, 2), playing: playing,
	}
}

func (h *listener) take(w wave) {
	drop := min(h.latency, len(w.l))
	h.latency -= drop
	l, s := w.l[drop:], w.l[drop:]
	if w.r != nil {
		if s = w.r[drop:]; h.heard.R == nil {
			h.heard.R = append(make([]float32, 0, cap(h.heard.L)), h.heard.L...)
		}
	}
	if h.heard.R != nil {
		h.heard.R = appended(h.heard.R, s)
	}
	h.heard.L = appended(h.heard.L, l)
	h.meter.Push([][]float64{l, s})
}

func appended(x []float32, more []float64) []float32 {
	for _, v := range more {
		x = append(x, float32(v))
	}
	return x
}

// over is what was heard, with its loudness where the dry phrase plays, by both loudspeakers.
func (h *listener) over() Heard {
	out := h.heard
	if out.R == nil {
		out.R = out.L
	}
	out.LUFS = h.meter.masked(h.playing)
	out.peak = h.meter.Measured().TruePeak
	return out
}

// level brings takes to a level they may leave at.
func level(list []Heard, matched bool) {
	softest := math.Inf(1)
	for _, h := range list {
		softest = math.Min(softest, h.LUFS)
	}
	gains := make([]float64, len(list))
	most := math.Inf(-1)
	for i, h := range list {
		if matched && h.LUFS > -100 {
			gains[i] = math.Max(softest, -100) - h.LUFS
		}
		most = math.Max(most, h.peak+gains[i])
	}
	common := math.Min(0, ceiling-most)
	for i := range list {
		h := &list[i]
		h.Gain = gains[i] + common
		by := float32(factor(h.Gain))
		sides := [][]float32{h.L, h.R}
		if h.mono() {
			sides = sides[:1]
		}
		for _, x := range sides {
			for k := range x {
				x[k] *= by
			}
		}
	}
}

// Press is a moment of a change at which settings move.
type Press struct {
	At     float64 // seconds after the change begins
	Values map[plan.Key]plan.Value
}

// Transition is a change between two sounds as it is played: so many seconds of the first, the presses at their times
// with what is heard in between, then the second.
type Transition struct {
	From, To Take
	Presses  []Press
	Before   float64
	After    float64
}

// Change renders a change. The guitar's own controls move with the last press. Delays and reverbs that ring on keep
// ringing where they have trails and are cut where they have none. It fails as [Listen] does.
func Change(ctx context.Context, p *plan.Plan, rig plan.ID, x Transition, o Options) ([]Heard, error) {
	r, err := newRendering(p, rig, o.Kept)
	if err != nil {
		return nil, err
	}
	from, to, presses, before, after := x.From, x.To, x.Presses, x.Before, x.After
	a, err := r.madeBy(from.Sound, from.Recipe, from.Tempo)
	if err != nil {
		return nil, fmt.Errorf("signal: %w", err)
	}
	b, err := r.madeBy(to.Sound, to.Recipe, to.Tempo)
	if err != nil {
		return nil, fmt.Errorf("signal: %w", err)
	}
	last := 0.0
	for _, x := range presses {
		last = math.Max(last, x.At)
	}
	dry := handed(r.chords(a.setting), r.chords(b.setting), int((before+last)*Rate), int((before+last+after)*Rate))
	c := &changing{rendering: r, line: r.line(a.setting), now: a.setting}
	r.trims(c.line, a.setting)
	c.player = newPlayer(ctx, mode{fine: true}, c.line)
	out := newListener(len(dry), 0, mask(dry))
	at := 0
	play := func(until int) error {
		until = min(until, len(dry))
		if until <= at {
			return nil
		}
		w, err := c.player.run(c.line, wave{l: append([]float64(nil), dry[at:until]...)})
		if err != nil {
			return fmt.Errorf("signal: %w", err)
		}
		at = until
		out.take(w)
		return nil
	}
	for _, x := range presses {
		if err := play(int((before + x.At) * Rate)); err != nil {
			return nil, err
		}
		c.move(x.Values)
	}
	if len(presses) == 0 {
		if err := play(int(before * Rate)); err != nil {
			return nil, err
		}
	}
	c.now.Guitar = b.setting.Guitar
	c.move(b.setting.Values)
	if err := play(len(dry)); err != nil {
		return nil, err
	}
	list := []Heard{out.over()}
	list[0].Name = from.Name + " to " + to.Name
	level(list, false)
	return list, nil
}

// chords are those of the phrase, as the guitar of a setting plays them.
func (r *rendering) chords(set Setting) []float64 {
	return r.source(set).phrase()[4*Rate:]
}

// handOver is how long the guitar's controls take to move, in samples: 10 ms, so that the hand makes no step.
const handOver = Rate / 100

// handed is one source over and over, and from a moment on another in its place.
func handed(from, to []float64, at, n int) []float64 {
	dry := make([]float64, n)
	for i := range dry {
		share := math.Min(math.Max(float64(i-at)/handOver, 0), 1)
		dry[i] = (1-share)*from[i%len(from)] + share*to[i%len(to)]
	}
	return dry
}

// changing is a chain whose settings move while it plays.
type changing struct {
	*rendering
	line   line
	player *player
	now    Setting
}

// move sets the chain anew. Stages that stay as they are keep their state; a delay or a reverb with
// trails that goes off is fed no more and rings on.
func (c *changing) move(values map[plan.Key]plan.Value) {
	next := Setting{Values: map[plan.Key]plan.Value{}, Guitar: c.now.Guitar, Tuned: c.now.Tuned}
	for key, x := range c.now.Values {
		next.Values[key] = x
	}
	for key, x := range values {
		next.Values[key] = x
	}
	to := c.rendering.line(next)
	c.trims(to, next)
	player := newPlayer(c.player.ctx, c.player.mode, to)
	old := map[plan.Key]*stage{}
	c.line.all(func(s *stage) { old[s.key] = s })
	to.all(func(s *stage) {
		was, ok := old[s.key]
		if !ok {
			return
		}
		u, played := c.player.units[was]
		switch {
		case !played: // it is made when it plays
		case s.run != nil && was.run != nil && s.run.name != was.run.name:
			next := s.run.filter().unit()
			if from, ok := u.(*wires); ok {
				next.after(from)
			}
			player.units[s] = next
		case was.on == s.on && (link{stage: was}).state() == (link{stage: s}).state():
			player.units[s] = u
		case was.on && !s.on && s.set.block.Trails && s.effect.Traits().Nature == plan.NatureTime && !c.rig.Looped()[s.key]:
			player.units[s] = &ringing{u}
		default:
			player.units[s] = &crossing{from: u, to: player.unitOf(s), left: handOver}
		}
	})
	c.line, c.player, c.now = to, player, next
}

// state is what a stage does, time effects included.
func (x link) state() string {
	s := *x.stage
	s.effect = plan.EffectEQ // so that nothing counts as bypassed for its nature
	return link{stage: &s}.signature()
}

// ringing is a unit that is fed nothing more and rings on beside the dry signal.
type ringing struct{ inner unit }

func (r *ringing) run(w wave) wave {
	silent := wave{l: make([]float64, len(w.l))}
	if w.r != nil {
		silent.r = make([]float64, len(w.l))
	}
	return w.add(r.inner.run(silent))
}

// crossing goes from one unit to another over 10 ms, so that a switch makes no step; nil is a wire.
type crossing struct {
	from, to unit
	left     int
}

func (c *crossing) run(w wave) wave {
	if c.left <= 0 {
		if c.to == nil {
			return w
		}
		return c.to.run(w)
	}
	old, now := w.clone(), w
	if c.from != nil {
		old = c.from.run(old)
	}
	if c.to != nil {
		now = c.to.run(now)
	}
	if old.stereo() != now.stereo() {
		old, now = old.widened(), now.widened()
	}
	for side, x := range now.channels() {
		was := old.channels()[side]
		for i := range min(c.left, len(x)) {
			share := float64(c.left-i) / handOver
			x[i] = (1-share)*x[i] + share*was[i]
		}
	}
	c.left -= len(now.l)
	return now
}
