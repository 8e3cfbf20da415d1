package signal

import (
	"context"
	"fmt"
	"math"

	"envex/core/plan"
)

// Take is one thing to be listened to: a sound of a rig, on the chain as it stands or another order
// of it.
type Take struct {
	Name   string
	Sound  plan.ID
	Recipe plan.ID
	Path   []plan.Node             // another order; nil for the rig's own
	Over   map[plan.Key]plan.Value // settings laid over the sound's
}

// Heard is a take rendered at 48 kHz, two sides.
type Heard struct {
	Name string
	L, R []float64
	LUFS float64 // over where the dry phrase plays, as it comes off the speaker
	Gain float64 // dB it was turned up or down by
}

// ceiling is the highest true peak that leaves, in dBTP.
const ceiling = -1.0

// Listen renders takes to be compared. Matched, each is brought to the loudness of the softest;
// otherwise they keep their levels among each other. One gain for all of them keeps every true peak
// under -1 dBTP, so that a comparison stays honest. It fails when something named is not there, and
// with the context's error when that is cancelled.
func Listen(ctx context.Context, p *plan.Plan, rig plan.ID, takes []Take, matched bool, o Options) ([]Heard, error) {
	r, err := newRendering(p, rig)
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
	level(out, matched)
	return out, nil
}

func (r *rendering) take(ctx context.Context, t Take, dry []float64) (Heard, error) {
	m, err := r.madeBy(t.Sound, t.Recipe)
	if err != nil {
		return Heard{}, err
	}
	if t.Path != nil {
		r.path = t.Path
	}
	s := m.setting
	for key, v := range t.Over {
		s = with(s, key, v)
	}
	guitar, _ := r.plan.FindGear(s.Guitar)
	in := sourceOf(guitar, s.At).play(dry)
	playing := mask(in)
	w, err := r.render(ctx, s, append(in, make([]float64, Rate)...), mode{fine: true}) // a second for what rings
	if err != nil {
		return Heard{}, err
	}
	return heardOf(t.Name, w, playing), nil
}

func (r *rendering) madeBy(sound, recipe plan.ID) (made, error) {
	s, ok := r.plan.FindSound(sound)
	if !ok {
		return made{}, fmt.Errorf("there is no sound %q", sound)
	}
	rec := r.rig.RecipeFor(plan.Section{Sound: sound, Recipe: recipe})
	if rec == nil {
		return made{}, fmt.Errorf("%s has no recipe for %s", r.rig.Name, s.Name)
	}
	tempo := r.tempoOf(sound)
	return made{s, rec, r.setFor(rec, s, tempo), tempo}, nil
}

func heardOf(name string, w wave, playing []bool) Heard {
	h := Heard{Name: name, L: w.l, R: w.r, LUFS: maskedLoudness(w, playing)}
	if h.R == nil {
		h.R = h.L
		h.LUFS += 10 * math.Log10(2) // both loudspeakers play it
	}
	return h
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
		if peak := decibels(truePeak(h.L, h.R)) + gains[i]; peak > most {
			most = peak
		}
	}
	common := math.Min(0, ceiling-most)
	for i := range list {
		list[i].Gain = gains[i] + common
		list[i].L = scaledBy(list[i].L, list[i].Gain)
		list[i].R = scaledBy(list[i].R, list[i].Gain)
	}
}

// Press is a moment of a change at which settings move.
type Press struct {
	At     float64 // seconds after the change begins
	Values map[plan.Key]plan.Value
}

// Change renders a change between two sounds as it is played: so many seconds of the first, the
// presses at their times with what is heard in between, then the second. Delays and reverbs that ring
// on keep ringing where they have trails and are cut where they have none. It fails as [Listen] does.
func Change(ctx context.Context, p *plan.Plan, rig plan.ID, from, to Take, presses []Press, before, after float64) ([]Heard, error) {
	r, err := newRendering(p, rig)
	if err != nil {
		return nil, err
	}
	a, err := r.madeBy(from.Sound, from.Recipe)
	if err != nil {
		return nil, fmt.Errorf("signal: %w", err)
	}
	b, err := r.madeBy(to.Sound, to.Recipe)
	if err != nil {
		return nil, fmt.Errorf("signal: %w", err)
	}
	guitar, _ := p.FindGear(a.setting.Guitar)
	in := sourceOf(guitar, a.setting.At).play(nil)[4*Rate:]
	total := before + after
	for _, x := range presses {
		total = math.Max(total, before+x.At+after)
	}
	dry := make([]float64, int(total*Rate))
	for i := range dry {
		dry[i] = in[i%len(in)] // chords, over and over
	}
	c := &changing{rendering: r, line: r.line(r.path, a.setting), now: a.setting}
	r.trims(c.line, a.setting)
	c.player = newPlayer(ctx, mode{fine: true}, c.line)
	var out wave
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
		w = w.widened()
		out.l, out.r = append(out.l, w.l...), append(out.r, w.r...)
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
	c.move(b.setting.Values)
	if err := play(len(dry)); err != nil {
		return nil, err
	}
	list := []Heard{heardOf(from.Name+" to "+to.Name, out, mask(dry))}
	level(list, false)
	return list, nil
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
	next := Setting{Values: map[plan.Key]plan.Value{}, Guitar: c.now.Guitar}
	for key, x := range c.now.Values {
		next.Values[key] = x
	}
	for key, x := range values {
		next.Values[key] = x
	}
	to := c.rendering.line(c.path, next)
	c.trims(to, next)
	player := newPlayer(c.player.ctx, c.player.mode, to)
	old := map[plan.Key]*stage{}
	c.line.each(func(s *stage) { old[s.key] = s })
	to.each(func(s *stage) {
		was, ok := old[s.key]
		if !ok {
			return
		}
		u := c.player.units[was]
		switch {
		case was.on == s.on && (link{stage: was}).settled() == (link{stage: s}).settled():
			player.units[s] = u
		case was.on && !s.on && s.set.block.Trails && natureOf(s.effect) == space && u != nil && !c.rig.Looped()[s.key]:
			player.units[s] = &ringing{u}
		}
	})
	c.line, c.player, c.now = to, player, next
}

// settled is what a stage does, time effects included.
func (x link) settled() string {
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
