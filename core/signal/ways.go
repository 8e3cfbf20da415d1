package signal

import (
	"cmp"
	"context"
	"fmt"
	"maps"
	"math"
	"slices"

	"envex/core/plan"
)

// Way is settings of a rig that make a sound, or come near it.
type Way struct {
	Recipe   plan.Recipe             `json:"recipe" doc:"Without an id."`
	Base     map[plan.Key]plan.Value `json:"base,omitempty" doc:"Knobs that are turned in the rig's base, since no other sound hears them."`
	Dirt     float64                 `json:"dirt_pct"`
	OverHome float64                 `json:"loudness_lu" doc:"Over home."`
	Within   bool                    `json:"within" doc:"Every target of the sound is met."`
	Checks   []Check                 `json:"checks"`
	Words    string                  `json:"words" doc:"What is on, and what is turned to where."`
	On       []plan.Key              `json:"on" doc:"The blocks it turns on (gear/block)."`
	Turned   int                     `json:"turned" doc:"Knobs it turns away from where they stand."`

	byHand int     // knobs that are turned at each change, since other sounds hear them where they stood
	away   float64 // how far knobs are turned
	off    float64
}

// The grid that [Search.Ways] looks through, where no combination of switches is enough: a drive in steps of 2, a
// level in steps of 1, of knobs from 0 to 10.
const (
	driveSteps = 5
	levelSteps = 10
	mostOn     = 2    // gain stages at once
	mostTurned = 1200 // settings with something turned that are metered for one sound, the nearest first
	mostFound  = 4    // ways that are within, after which nobody looks on
)

// Search looks for ways to make sounds. What it metered once it keeps, for as long as it lives: it is for one
// question, over several sounds. It is not for use by several at once.
type Search struct {
	o      Options
	metred map[string]quick
	rough  map[string]Sketch
	homes  map[string]float64 // how loud home is, rendered in full
	Tried  int                // settings that were metered

	// Partial is whether the last sound that was asked for had more settings on the grid than were metered.
	Partial bool
}

// NewSearch is a search that has metered nothing yet.
func NewSearch(o Options) *Search {
	o.Kept = o.Kept.orNew()
	return &Search{o: o, metred: map[string]quick{}, rough: map[string]Sketch{}, homes: map[string]float64{}}
}

// try is one setting on the grid.
type attempt struct {
	values map[plan.Key]plan.Value
	turned map[plan.Key]float64
	on     []plan.Key
	set    Setting
	got    quick
	byHand int
	away   float64
}

// Ways looks for settings of a rig that make a sound: every choice of at most two gain stages that are on, with every
// channel, and one block for each effect that the sound asks, knobs as they stand. Where none of these is within the
// targets of dirt and loudness, one stage of each choice is turned too: its drive in steps of 2, its level in steps
// of 1. What is found is rendered in full and checked against every target. The best comes first; what is not within
// is told as the nearest there is. It fails when rig or sound are not there, and with the context's error when that
// is cancelled.
func (x *Search) Ways(ctx context.Context, p *plan.Plan, rig, sound plan.ID) ([]Way, error) {
	r, err := newRendering(p, rig, x.o.Kept)
	if err != nil {
		return nil, err
	}
	s, err := p.SoundByID(sound)
	if err != nil {
		return nil, fmt.Errorf("signal: %w", err)
	}
	w := &wayfinder{Search: x, rendering: r, sound: s, tempo: r.tempoOf(sound), blocks: r.gainBlocks()}
	return w.run(ctx)
}

// EffectsOf is what a recipe sets for the effects that a sound asks, gain apart, made by some stops of a rig: each on,
// with its time bound to the note or at the preset nearest to it, the pickup, and off what nobody asked for. It fails
// when rig or sound are not there.
func EffectsOf(
	p *plan.Plan, rig, sound plan.ID, by func(stop plan.Key) bool,
) (values map[plan.Key]plan.Value, on []plan.Key, err error) {
	r, err := p.RigByID(rig)
	if err != nil {
		return nil, nil, fmt.Errorf("signal: %w", err)
	}
	s, err := p.SoundByID(sound)
	if err != nil {
		return nil, nil, fmt.Errorf("signal: %w", err)
	}
	w := &wayfinder{
		rendering: &rendering{plan: p, rig: r, path: p.FromTheGuitar(r.Path)}, sound: s, tempo: p.FirstTempo(sound),
	}
	values, on = w.effects(by)
	return values, on, nil
}

type wayfinder struct {
	*Search
	*rendering
	sound  *plan.Sound
	tempo  plan.Tempo
	blocks []gainBlock
	made   []made // sounds that have a recipe
	home   *made  // with its recipe; nil while it has none, or is the sound itself
	homeAt float64
}

func (w *wayfinder) run(ctx context.Context) ([]Way, error) {
	list := w.recipes()
	w.made = list
	if at := homeOf(list); at >= 0 && list[at].sound.Role == plan.HomeRole && list[at].sound.ID != w.sound.ID {
		w.home = &list[at]
		got, err := w.meter(ctx, []Setting{w.home.setting})
		if err != nil {
			return nil, err
		}
		w.homeAt = got[0].loudness
	}
	w.Partial = false
	tries := w.switches()
	if len(tries) == 0 {
		return nil, nil // a gain effect is asked that the rig does not have
	}
	if err := w.meterAll(ctx, tries); err != nil {
		return nil, err
	}
	found, err := w.verified(ctx, tries)
	if err != nil || w.lacking() || anyDoes(found) {
		return found, err
	}
	// Stages alone come before two together: fewer things on are easier to keep in mind.
	spent := 0
	for on := 0; on <= mostOn; on++ {
		turned := w.turnsOf(tries, on, mostTurned-spent)
		spent += len(turned)
		if len(turned) == 0 {
			continue
		}
		near, err := w.nearest(ctx, turned)
		if err != nil {
			return nil, err
		}
		if err := w.meterAll(ctx, near); err != nil {
			return nil, err
		}
		more, err := w.verified(ctx, near)
		if err != nil {
			return nil, err
		}
		found = append(found, more...)
		if anyDoes(more) {
			break
		}
	}
	slices.SortStableFunc(found, wayOrder)
	return found[:min(len(found), mostFound)], nil
}

// turnsOf are the attempts with so many stages on, turned: those that are nearest without first, and no more than a
// search may take. What is left out makes it partial.
func (w *wayfinder) turnsOf(tries []attempt, on, most int) []attempt {
	var near []attempt
	for _, t := range tries {
		if len(w.gainsOn(t)) == on {
			near = append(near, t)
		}
	}
	slices.SortStableFunc(near, func(a, b attempt) int { return cmp.Compare(w.score(a.got), w.score(b.got)) })
	var turned []attempt
	for _, t := range near {
		more := w.turns(t)
		if len(turned)+len(more) > most {
			w.Partial = true
			break
		}
		turned = append(turned, more...)
	}
	return turned
}

// wayOrder puts what is within first, then what turns fewest knobs, then what is nearest.
func wayOrder(a, b Way) int {
	if a.Within != b.Within {
		if a.Within {
			return -1
		}
		return 1
	}
	if !a.Within {
		if c := cmp.Compare(a.off, b.off); c != 0 {
			return c
		}
	}
	return cmp.Or(
		cmp.Compare(a.byHand, b.byHand), cmp.Compare(a.Turned, b.Turned), cmp.Compare(len(a.On), len(b.On)),
		cmp.Compare(a.away, b.away),
	)
}

// anyDoes reports whether one of some ways is within and needs no hand at a change: nobody looks on then.
func anyDoes(ways []Way) bool {
	return slices.ContainsFunc(ways, func(f Way) bool { return f.Within && f.byHand == 0 })
}

// switches are the choices of what is on, knobs as they stand.
func (w *wayfinder) switches() []attempt {
	most := mostOn
	if w.rig.MostGains != nil {
		most = min(most, *w.rig.MostGains)
	}
	base, extra := w.effects(func(plan.Key) bool { return true })
	var list []attempt
	at := make([]int, len(w.blocks))
	for {
		var on []plan.Key
		for i, b := range w.blocks {
			if !b.channel && at[i] > 0 {
				on = append(on, b.block)
			}
		}
		if len(on) <= most && w.hasAsked(on) {
			values := maps.Clone(base)
			for i, b := range w.blocks {
				values[b.key] = b.values[at[i]]
			}
			list = append(list, w.attempt(values, append(on, extra...), nil))
		}
		i := 0
		for ; i < len(at); i++ {
			if at[i]++; at[i] < len(w.blocks[i].values) {
				break
			}
			at[i] = 0
		}
		if i == len(at) {
			return list
		}
	}
}

// hasAsked reports whether every gain effect that the sound asks by name, such as a fuzz, is on.
func (w *wayfinder) hasAsked(on []plan.Key) bool {
	for _, h := range w.sound.Targets.Effects {
		if h.Effect.IsGain() && !slices.ContainsFunc(on, func(key plan.Key) bool {
			_, b, ok := w.block(key)
			return ok && b.Effect == h.Effect
		}) {
			return false
		}
	}
	return true
}

func (w *wayfinder) attempt(values map[plan.Key]plan.Value, on []plan.Key, turned map[plan.Key]float64) attempt {
	rec := plan.Recipe{Sound: w.sound.ID, Values: values, Guitar: w.sound.Targets.Guitar}
	a := attempt{values: values, on: on, turned: turned, set: w.setFor(&rec, w.sound, w.tempo)}
	for key, at := range turned {
		if v, ok := w.plan.VariableOf(key); ok {
			if now := w.rig.BaseValue(v); now.Kind() == plan.NumberValue {
				a.away += math.Abs(now.Float() - at)
			}
		}
		if !w.unheard(key) {
			a.byHand++
		}
	}
	return a
}

// effects turns on one block for each effect that is asked, and off what nobody asked for and a foot can turn off. A
// block with presets stands at one whose stored time is nearest to the note; one with a time of its own is bound to
// the note. An effect is made by one of some stops.
func (w *wayfinder) effects(by func(stop plan.Key) bool) (values map[plan.Key]plan.Value, on []plan.Key) {
	values = map[plan.Key]plan.Value{}
	used := map[plan.Key]bool{}
	if g, ok := w.plan.FindGear(w.guitar()); ok && w.sound.Targets.Pickup != "" {
		values[plan.Key(g.ID)+"/pickup"] = plan.Text(w.sound.Targets.Pickup)
	}
	for _, h := range w.sound.Targets.Effects {
		for _, key := range plan.StopsIn(w.path) {
			g, b, ok := w.block(key)
			if !ok || used[key] || b.Effect != h.Effect || h.Effect.IsGain() || !by(key) {
				continue
			}
			used[key] = true
			on = append(on, key)
			if b.Bypass != plan.AlwaysOn {
				values[plan.OnKey(g.ID, b.ID)] = plan.On(true)
			}
			w.note(values, g, b, h.Note)
			break
		}
	}
	for _, key := range plan.StopsIn(w.path) {
		g, b, ok := w.block(key)
		if !ok || used[key] || b.Bypass == plan.AlwaysOn || b.Effect.IsGain() || !b.Effect.Traits().Apart {
			continue
		}
		values[plan.OnKey(g.ID, b.ID)] = plan.On(false)
	}
	return values, on
}

// lacking reports whether the sound asks for an effect that the rig does not have, so that no knob brings it about.
func (w *wayfinder) lacking() bool {
	have := map[plan.Effect]int{}
	for _, key := range plan.StopsIn(w.path) {
		if _, b, ok := w.block(key); ok {
			have[b.Effect]++
		}
	}
	for _, h := range w.sound.Targets.Effects {
		if have[h.Effect]--; have[h.Effect] < 0 {
			return true
		}
	}
	return false
}

func (w *wayfinder) guitar() plan.ID {
	if w.sound.Targets.Guitar != "" || len(w.rig.Guitars) == 0 {
		return w.sound.Targets.Guitar
	}
	return w.rig.Guitars[0]
}

func (w *wayfinder) block(key plan.Key) (*plan.Gear, *plan.Block, bool) {
	g, ok := w.plan.FindGear(key.Gear())
	if !ok {
		return nil, nil, false
	}
	b, ok := g.FindBlock(plan.ID(key.Rest()))
	return g, b, ok
}

// note sets the time of a block for a note.
func (w *wayfinder) note(values map[plan.Key]plan.Value, g *plan.Gear, b *plan.Block, note string) {
	c := b.TimeControl()
	want, ok := w.tempo.Milliseconds(note)
	if c == nil || !ok {
		return
	}
	key := plan.BlockKey(g.ID, b.ID) + "/" + plan.Key(c.ID)
	preset, has := g.PresetControl()
	if !has || c.Access != plan.Memory {
		values[key] = plan.Sync(note)
		return
	}
	best, near := "", math.Inf(1)
	for _, o := range preset.Control.Options {
		v, ok := w.rig.Remembered(g.ID, o, "", key)
		if !ok {
			continue
		}
		if ms, ok := c.TimeMS(c.Synced(v, w.tempo)); ok && ms > 0 && math.Abs(math.Log(ms/want)) < near {
			best, near = o, math.Abs(math.Log(ms/want))
		}
	}
	if best != "" {
		values[preset.Key] = plan.Text(best)
	}
}

func (w *wayfinder) gainsOn(t attempt) []plan.Key {
	var on []plan.Key
	for _, b := range w.blocks {
		if !b.channel && t.values[b.key].IsOn() {
			on = append(on, b.block)
		}
	}
	return on
}

// StageKnobs are the knobs of a gain stage that set how much it clips and how loud it is; nil where it has none. What
// has one knob for both, such as a boost, has a level alone.
func StageKnobs(b *plan.Block) (drive, level *plan.Control) {
	first := func(names ...plan.ID) *plan.Control {
		for _, name := range names {
			i := slices.IndexFunc(
				b.Controls, func(c plan.Control) bool { return c.ID == name && c.Kind == plan.Knob && c.Unit == "" },
			)
			if i >= 0 {
				return &b.Controls[i]
			}
		}
		return nil
	}
	drive, level = first("drive", "gain", "fuzz", "squeeze", "sustain"), first("level", "volume", "master", "boost")
	if level == nil && b.Effect == plan.EffectBoost {
		return nil, drive
	}
	return drive, level
}

// turns are an attempt with the knobs of one of its stages turned: of each pedal that is on, or of the amp where none
// is.
func (w *wayfinder) turns(t attempt) []attempt {
	stages := w.gainsOn(t)
	if len(stages) == 0 {
		for _, key := range plan.StopsIn(w.path) {
			if g, b, ok := w.block(key); ok && g.Kind == plan.Amp && b.Effect == plan.EffectPreamp {
				stages = append(stages, key)
			}
		}
	}
	var list []attempt
	for _, key := range stages {
		_, b, ok := w.block(key)
		if !ok {
			continue
		}
		drive, level := StageKnobs(b)
		drives, levels := w.positions(key, drive, t, driveSteps), w.positions(key, level, t, levelSteps)
		for _, d := range drives {
			for _, l := range levels {
				if len(d)+len(l) == 0 {
					continue
				}
				values, turned := maps.Clone(t.values), map[plan.Key]float64{}
				for _, set := range []map[plan.Key]float64{d, l} {
					for k, at := range set {
						values[k], turned[k] = plan.Number(at), at
					}
				}
				list = append(list, w.attempt(values, t.on, turned))
			}
		}
	}
	return list
}

// positions are where a knob can be put, and as it stands.
func (w *wayfinder) positions(key plan.Key, c *plan.Control, t attempt, steps int) []map[plan.Key]float64 {
	list := []map[plan.Key]float64{{}}
	if c == nil {
		return list
	}
	low, high := c.Range()
	k := key + "/" + plan.Key(c.ID)
	now := t.set.At(k)
	for n := 0; n <= steps; n++ {
		at := low + (high-low)*float64(n)/float64(steps)
		if now.Kind() != plan.NumberValue || now.Float() != at {
			list = append(list, map[plan.Key]float64{k: at})
		}
	}
	return list
}
