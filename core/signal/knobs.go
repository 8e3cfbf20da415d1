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
}

// maxTunings is how many answers are given.
const maxTunings = 5

// Tune looks for the fewest knob moves (levels, drives, a boost) that bring a sound into its targets
// of loudness and dirt: each knob alone over its whole turn, then pairs. What is found is rendered
// for every sound of the rig, since base settings are shared. It fails when rig, sound or recipe are
// not there, and with the context's error when that is cancelled.
func Tune(ctx context.Context, p *plan.Plan, rig, sound plan.ID, o Options) (*Tuning, error) {
	r, err := newRendering(p, rig)
	if err != nil {
		return nil, err
	}
	sounds := r.recipes()
	at := slices.IndexFunc(sounds, func(m made) bool { return m.sound.ID == sound })
	if at < 0 {
		return nil, fmt.Errorf("signal: %s has no recipe for the sound %q", r.rig.Name, sound)
	}
	t := &tuner{rendering: r, sounds: sounds, at: at, o: o, home: max(0, homeOf(sounds))}
	return t.run(ctx)
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
	out := &Tuning{Sound: m.sound.ID, Name: m.sound.Name, OverHome: t.now[t.at].loudness - t.now[t.home].loudness, Dirt: t.now[t.at].dirt, Repairs: []KnobRepair{}}
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
	ll, lh, _ := loudnessBand(targets)
	dl, dh, _ := dirtBand(targets)
	return off(f.loudness-home.loudness, ll, lh) == 0 && off(f.dirt, dl, dh) == 0
}

// knobs are those of the gain stages that the sound has on: nothing of the amp, which every sound
// shares, and nothing that is not a plain knob.
func (t *tuner) knobs() []knobAt {
	var list []knobAt
	s := t.sounds[t.at].setting
	t.line(t.path, s).each(func(x *stage) {
		if !x.on || x.amp || !IsGain(x.effect) {
			return
		}
		for _, c := range x.set.block.Controls {
			key := x.key + "/" + plan.Key(c.ID)
			v := s.At(key)
			if c.Kind != plan.Knob || c.Unit != "" || v.Kind() != plan.NumberValue || c.ID == "tone" || c.ID == "bass" || c.ID == "mid" || c.ID == "treble" {
				continue
			}
			low, high := c.Range()
			list = append(list, knobAt{key, x.name + " " + c.Name, v.Float(), low, high})
		}
	})
	return list
}

// tuned is one way that brings the sound into its targets before it is verified.
type tuned struct {
	moves []KnobMove
	away  float64 // how far knobs are turned
}

// singles tries every knob over its turn, then half a step nearer to where it stands.
func (t *tuner) singles(ctx context.Context, knobs []knobAt) ([]tuned, error) {
	var found []tuned
	for i, k := range knobs {
		step := (k.high - k.low) / 10
		var positions []float64
		for n := range 11 {
			positions = append(positions, k.low+step*float64(n))
		}
		best, ok, err := t.nearest(ctx, k, positions)
		if err != nil {
			return nil, err
		}
		if ok {
			closer := best - math.Copysign(step/2, best-k.from)
			if at, better, err := t.nearest(ctx, k, []float64{closer}); err != nil {
				return nil, err
			} else if better && math.Abs(at-k.from) < math.Abs(best-k.from) {
				best = at
			}
			found = append(found, tuned{[]KnobMove{{k.key, k.name, k.from, best}}, math.Abs(best - k.from)})
		}
		if t.o.Progress != nil {
			t.o.Progress(0.5 * float64(i+1) / float64(len(knobs)))
		}
	}
	slices.SortStableFunc(found, func(a, b tuned) int { return cmp.Compare(a.away, b.away) })
	return found[:min(len(found), maxTunings)], nil
}

// nearest is the position of a knob, of some, that brings the sound in and is least turned.
func (t *tuner) nearest(ctx context.Context, k knobAt, positions []float64) (float64, bool, error) {
	var settings []Setting
	for _, x := range positions {
		settings = append(settings, with(t.sounds[t.at].setting, k.key, plan.Number(math.Round(x*100)/100)))
	}
	figures, err := t.fan(ctx, settings, t.o.Dry, false, nil)
	if err != nil {
		return 0, false, err
	}
	best, found := 0.0, false
	for n, f := range figures {
		x := math.Round(positions[n]*100) / 100
		if t.meets(t.at, f, t.now[t.home]) && (!found || math.Abs(x-k.from) < math.Abs(best-k.from)) {
			best, found = x, true
		}
	}
	return best, found, nil
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
			figures, err := t.fan(ctx, settings, t.o.Dry, false, nil)
			if err != nil {
				return nil, err
			}
			best, away := -1, 0.0
			for n, f := range figures {
				d := math.Abs(at[n][0]-a.from) + math.Abs(at[n][1]-b.from)
				if t.meets(t.at, f, t.now[t.home]) && (best < 0 || d < away) {
					best, away = n, d
				}
			}
			if best >= 0 {
				found = append(found, tuned{[]KnobMove{{a.key, a.name, a.from, at[best][0]}, {b.key, b.name, b.from, at[best][1]}}, away})
			}
		}
	}
	slices.SortStableFunc(found, func(a, b tuned) int { return cmp.Compare(a.away, b.away) })
	return found[:min(len(found), maxTunings)], nil
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
	out := KnobRepair{Moves: c.moves, OverHome: figures[t.at].loudness - figures[t.home].loudness, Dirt: figures[t.at].dirt, Breaks: []string{}, Mends: []string{}}
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
