package signal

import (
	"cmp"
	"context"
	"fmt"
	"math"
	"slices"

	"envex/core/plan"
)

// KnobRepair is moves of knobs that bring a sound into its targets, rendered and found to.
type KnobRepair struct {
	Words    string     `json:"words"`
	Moves    []KnobMove `json:"moves"`
	OverHome float64    `json:"over_home_lu" doc:"Of the sound, with them."`
	Dirt     float64    `json:"dirt_pct"`
	Breaks   []string   `json:"breaks" doc:"Sounds that are in their targets now and would not be."`
	Mends    []string   `json:"mends" doc:"Other sounds that come into theirs."`
	Rig      plan.Rig   `json:"rig" doc:"The whole rig with the knobs turned: at the destination it was asked for alone, where it was asked for one."`
}

// KnobMove is one knob.
type KnobMove struct {
	Key  plan.Key `json:"key"`
	Name string   `json:"name"`
	From float64  `json:"from"`
	To   float64  `json:"to"`
}

// Tuning is what would bring one sound into its targets.
type Tuning struct {
	Sound    plan.ID      `json:"sound"`
	Name     string       `json:"name"`
	OverHome float64      `json:"over_home_lu" doc:"As it is."`
	Dirt     float64      `json:"dirt_pct"`
	Met      bool         `json:"met" doc:"It is in its targets already."`
	Repairs  []KnobRepair `json:"repairs" doc:"Fewest knobs first, then what breaks least, then the shortest way; at most five."`
	Words    string       `json:"words" doc:"That nothing has to be turned, or that nothing helps; empty where there are repairs."`
	Best     int          `json:"best" doc:"The repair to be tried first, by index: one that breaks nothing where there is one; -1 for none."`
}

// maxTunings is how many answers are given.
const maxTunings = 5

// Tune looks for the fewest knob moves (levels, drives, a boost, the gain and level of a channel) that bring a
// sound into its targets of loudness and dirt, at a destination of the rig or as the rig stands when that is "":
// each knob alone over its whole turn, then pairs. What is found is what can be set by hand, to a tenth, and is
// rendered for every sound of the rig, since base settings are shared. It fails when rig, destination, sound or
// recipe are not there, and with the context's error when that is cancelled.
func Tune(ctx context.Context, p *plan.Plan, rig, destination, sound plan.ID, o Options) (*Tuning, error) {
	r, sounds, at, err := recipeOf(p, rig, destination, sound, o.Kept)
	if err != nil {
		return nil, err
	}
	t := &tuner{rendering: r, sounds: sounds, at: at, o: o, home: max(0, homeOf(sounds))}
	out, err := t.run(ctx)
	if err != nil {
		return nil, err
	}
	own, _ := p.FindRig(rig)
	switch {
	case out.Met:
		out.Words = "It is in its targets."
	case len(out.Repairs) == 0:
		out.Words = "No one or two knobs bring it there."
	}
	out.Best = min(0, len(out.Repairs)-1)
	if i := slices.IndexFunc(out.Repairs, func(x KnobRepair) bool { return len(x.Breaks) == 0 }); i >= 0 {
		out.Best = i
	}
	for i := range out.Repairs {
		values := map[plan.Key]plan.Value{}
		for _, m := range out.Repairs[i].Moves {
			values[m.Key] = plan.Number(m.To)
		}
		out.Repairs[i].Rig = own.SetAt(destination, *sounds[at].recipe, values)
	}
	return out, nil
}

type tuner struct {
	*rendering
	sounds []made
	at     int
	home   int
	o      Options
	now    []quick // of every sound, as it is
}

// knobAt is a knob that may be moved.
type knobAt struct {
	key  plan.Key
	name string
	from float64
	low  float64
	high float64

	shared bool // the home sound moves with it
}

func (t *tuner) run(ctx context.Context) (*Tuning, error) {
	var all []Setting
	for _, s := range t.sounds {
		all = append(all, s.setting)
	}
	var err error
	if t.now, err = t.fan(ctx, all, t.o.Dry, false, nil); err != nil {
		return nil, err
	}
	m := t.sounds[t.at]
	out := &Tuning{
		Sound: m.sound.ID, Name: m.sound.Name, OverHome: t.now[t.at].loudness - t.now[t.home].loudness,
		Dirt: t.now[t.at].dirt, Repairs: []KnobRepair{},
	}
	if out.Met = t.meets(t.at, t.now[t.at], t.now[t.home]); out.Met {
		return out, nil
	}
	knobs := t.knobs()
	candidates, err := t.singles(ctx, knobs)
	if err != nil {
		return nil, err
	}
	if len(candidates) == 0 {
		if candidates, err = t.pairs(ctx, knobs); err != nil {
			return nil, err
		}
	}
	for i, c := range candidates {
		repair, ok, err := t.verify(ctx, c)
		if err != nil {
			return nil, err
		}
		if ok {
			out.Repairs = append(out.Repairs, repair)
		}
		if t.o.Progress != nil {
			t.o.Progress(0.5 + 0.5*float64(i+1)/float64(len(candidates)))
		}
	}
	slices.SortStableFunc(out.Repairs, func(a, b KnobRepair) int {
		if len(a.Moves) != len(b.Moves) {
			return len(a.Moves) - len(b.Moves)
		}
		return len(a.Breaks) - len(b.Breaks)
	})
	out.Repairs = out.Repairs[:min(len(out.Repairs), maxTunings)]
	return out, nil
}

func (t *tuner) meets(i int, f, home quick) bool {
	targets := t.sounds[i].sound.Targets
	ll, lh, _ := LoudnessBand(targets)
	dl, dh, _ := DirtBand(targets)
	return off(f.loudness-home.loudness, ll, lh) == 0 && off(f.dirt, dl, dh) == 0
}

// toneKnobs shape a sound and are not turned to bring its level or its dirt about.
var toneKnobs = []plan.ID{"tone", "bass", "mid", "middle", "treble", "presence", "cut", "reverb"}

// knobs are those of the gain stages that the sound has on, the channel and the power section of an amp among
// them. What does nothing as the sound is set changes nothing when it is tried.
func (t *tuner) knobs() []knobAt {
	var list []knobAt
	s := t.sounds[t.at].setting
	t.line(s).each(func(x *stage) {
		if !x.on || !x.effect.IsGain() && x.effect != plan.EffectCompressor && !(x.amp && x.effect == plan.EffectPower) {
			return
		}
		for _, c := range x.set.block.Controls {
			key := x.key + "/" + plan.Key(c.ID)
			v := s.At(key)
			if c.Kind != plan.Knob || c.Unit != "" || v.Kind() != plan.NumberValue || slices.Contains(toneKnobs, c.ID) ||
				!t.moved(key) {
				continue
			}
			low, high := c.Range()
			list = append(list, knobAt{key, x.name + " " + c.Name, v.Float(), low, high, t.shared(key)})
		}
	})
	return list
}

// moved reports whether a knob does anything as the sound is set.
func (t *tuner) moved(key plan.Key) bool {
	v, ok := t.plan.VariableOf(key)
	return ok && t.sounds[t.at].setting.Works(v)
}

// shared reports whether the home sound moves with a knob: neither recipe names it.
func (t *tuner) shared(key plan.Key) bool {
	_, own := t.sounds[t.at].recipe.Values[key]
	_, homes := t.sounds[t.home].recipe.Values[key]
	return !own && !homes
}

// tuned is one way that brings the sound into its targets before it is verified.
type tuned struct {
	moves []KnobMove
	away  float64 // how far knobs are turned
}

// tried is a knob at a position, and how far off the sound is there.
type tried struct {
	at       float64
	loudness float64 // outside its band: negative below it
	dirt     float64
}

func (x tried) met() bool { return x.loudness == 0 && x.dirt == 0 }

// singles tries every knob: over its turn in ten steps, then by tenths between two steps where the sound could
// be in its targets.
func (t *tuner) singles(ctx context.Context, knobs []knobAt) ([]tuned, error) {
	var found []tuned
	for i, k := range knobs {
		at, ok, err := t.turn(ctx, k)
		if err != nil {
			return nil, err
		}
		if ok {
			found = append(found, tuned{[]KnobMove{{k.key, k.name, k.from, at}}, math.Abs(at - k.from)})
		}
		if t.o.Progress != nil {
			t.o.Progress(0.5 * float64(i+1) / float64(len(knobs)))
		}
	}
	slices.SortStableFunc(found, func(a, b tuned) int { return cmp.Compare(a.away, b.away) })
	return found[:min(len(found), maxTunings)], nil
}

// turn is where a knob brings the sound in, as near to where it stands as it can be set.
func (t *tuner) turn(ctx context.Context, k knobAt) (float64, bool, error) {
	step := (k.high - k.low) / 10
	var positions []float64
	for n := range 11 {
		positions = append(positions, k.low+step*float64(n))
	}
	list, err := t.try(ctx, k, positions)
	if err != nil {
		return 0, false, err
	}
	away := func(x float64) float64 { return math.Abs(x - k.from) }
	between := make([]int, 10) // each stretch by the number of the step it begins at, the nearest first
	for n := range between {
		between[n] = n
	}
	slices.SortStableFunc(between, func(a, b int) int {
		return cmp.Compare(away(k.low+step*(float64(a)+0.5)), away(k.low+step*(float64(b)+0.5)))
	})
	for _, n := range between {
		if !couldMeet(list[n], list[n+1]) {
			continue
		}
		var tenths []float64
		for i := range 9 {
			tenths = append(tenths, k.low+step*(float64(n)+float64(i+1)/10))
		}
		inner, err := t.try(ctx, k, tenths)
		if err != nil {
			return 0, false, err
		}
		best, found := 0.0, false
		for _, x := range append(inner, list[n], list[n+1]) {
			if at := math.Round(x.at*1000) / 1000; x.met() && at != k.from && (!found || away(at) < away(best)) {
				best, found = at, true
			}
		}
		if found {
			return best, true, nil
		}
	}
	return 0, false, nil
}

// couldMeet reports whether a sound could be in its targets between two positions of a knob: it is at one end,
// what is too little at one is too much at the other, or one target is met at each.
func couldMeet(a, b tried) bool {
	return a.met() || b.met() || a.loudness*b.loudness < 0 || a.dirt*b.dirt < 0 ||
		a.loudness == 0 && b.dirt == 0 || a.dirt == 0 && b.loudness == 0
}

// try is how far off the sound is with a knob at some positions. The home sound moves with a knob that both
// share.
func (t *tuner) try(ctx context.Context, k knobAt, positions []float64) ([]tried, error) {
	var settings []Setting
	for _, x := range positions {
		settings = append(settings, with(t.sounds[t.at].setting, k.key, plan.Number(x)))
	}
	if k.shared {
		for _, x := range positions {
			settings = append(settings, with(t.sounds[t.home].setting, k.key, plan.Number(x)))
		}
	}
	figures, err := t.fan(ctx, settings, t.o.Dry, false, nil)
	if err != nil {
		return nil, err
	}
	targets := t.sounds[t.at].sound.Targets
	ll, lh, _ := LoudnessBand(targets)
	dl, dh, _ := DirtBand(targets)
	list := make([]tried, len(positions))
	for i, x := range positions {
		home := t.now[t.home]
		if k.shared {
			home = figures[len(positions)+i]
		}
		if t.at == t.home {
			home = figures[i]
		}
		list[i] = tried{x, off(figures[i].loudness-home.loudness, ll, lh), off(figures[i].dirt, dl, dh)}
	}
	return list, nil
}

// pairs tries two knobs of different kinds together, on a coarser turn.
func (t *tuner) pairs(ctx context.Context, knobs []knobAt) ([]tuned, error) {
	var found []tuned
	s := t.sounds[t.at].setting
	for i := range knobs {
		for k := i + 1; k < len(knobs); k++ {
			a, b := knobs[i], knobs[k]
			var settings []Setting
			var at [][2]float64
			for x := range 6 {
				for y := range 6 {
					p := [2]float64{a.low + (a.high-a.low)*float64(x)/5, b.low + (b.high-b.low)*float64(y)/5}
					at = append(at, p)
					settings = append(settings, with(with(s, a.key, plan.Number(p[0])), b.key, plan.Number(p[1])))
				}
			}
			away := func(n int) float64 { return math.Abs(at[n][0]-a.from) + math.Abs(at[n][1]-b.from) }
			best, err := t.leastAway(ctx, settings, away)
			if err != nil {
				return nil, err
			}
			if best >= 0 {
				found = append(found, tuned{
					[]KnobMove{{a.key, a.name, a.from, at[best][0]}, {b.key, b.name, b.from, at[best][1]}}, away(best),
				})
			}
		}
	}
	slices.SortStableFunc(found, func(a, b tuned) int { return cmp.Compare(a.away, b.away) })
	return found[:min(len(found), maxTunings)], nil
}

// leastAway is the setting nearest to where knobs stand that brings the sound in; -1 where none does. Those that a
// sketch says are far off are not metered.
func (t *tuner) leastAway(ctx context.Context, settings []Setting, away func(n int) float64) (int, error) {
	near, err := t.promising(ctx, settings)
	if err != nil {
		return -1, err
	}
	list := make([]Setting, len(near))
	for i, n := range near {
		list[i] = settings[n]
	}
	figures, err := t.fan(ctx, list, t.o.Dry, false, nil)
	if err != nil {
		return -1, err
	}
	best := -1
	for i, n := range near {
		if t.meets(t.at, figures[i], t.now[t.home]) && (best < 0 || away(n) < away(best)) {
			best = n
		}
	}
	return best, nil
}

// promising are those of some settings that may bring the sound in, as far as a sketch tells: all, where a recording of
// the player's own is played.
func (t *tuner) promising(ctx context.Context, settings []Setting) ([]int, error) {
	var list []int
	if t.o.Dry != nil {
		for n := range settings {
			list = append(list, n)
		}
		return list, nil
	}
	x := Sketcher{rendering: t.rendering, Quick: true}
	got, err := x.sketch(ctx, append(slices.Clone(settings), t.sounds[t.home].setting))
	if err != nil {
		return nil, err
	}
	targets := t.sounds[t.at].sound.Targets
	ll, lh, _ := LoudnessBand(targets)
	dl, dh, _ := DirtBand(targets)
	for n := range settings {
		if math.Abs(off(got[n].Loudness-got[len(settings)].Loudness, ll, lh)) <= sketchLU &&
			math.Abs(off(got[n].Dirt, dl, dh)) <= sketchDirt {
			list = append(list, n)
		}
	}
	return list, nil
}

// verify renders every sound with the moves made where they are kept: in the recipe where that names
// the knob, else in the base, which other sounds share.
func (t *tuner) verify(ctx context.Context, c tuned) (KnobRepair, bool, error) {
	rec := t.sounds[t.at].recipe
	var all []Setting
	for i, s := range t.sounds {
		x := s.setting
		for _, m := range c.moves {
			_, own := s.recipe.Values[m.Key]
			_, named := rec.Values[m.Key]
			if i == t.at || (!named && !own) {
				x = with(x, m.Key, plan.Number(m.To))
			}
		}
		all = append(all, x)
	}
	figures, err := t.fan(ctx, all, t.o.Dry, false, nil)
	if err != nil {
		return KnobRepair{}, false, err
	}
	out := KnobRepair{
		Moves: c.moves, OverHome: figures[t.at].loudness - figures[t.home].loudness, Dirt: figures[t.at].dirt,
		Breaks: []string{}, Mends: []string{},
	}
	for i, m := range c.moves {
		if i > 0 {
			out.Words += ", "
		}
		out.Words += fmt.Sprintf("%s from %g to %g", m.Name, m.From, m.To)
	}
	for i, s := range t.sounds {
		was, is := t.meets(i, t.now[i], t.now[t.home]), t.meets(i, figures[i], figures[t.home])
		switch {
		case i == t.at:
		case was && !is:
			out.Breaks = append(out.Breaks, s.sound.Name)
		case is && !was:
			out.Mends = append(out.Mends, s.sound.Name)
		}
	}
	return out, t.meets(t.at, figures[t.at], figures[t.home]), nil
}
