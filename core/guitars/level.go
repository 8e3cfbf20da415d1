package guitars

import (
	"cmp"
	"context"
	"fmt"
	"maps"
	"math"
	"slices"

	"envex/core/plan"
	"envex/core/reason"
	"envex/core/signal"
)

// Report is how far the guitars of a rig are apart, and what levels them.
type Report struct {
	Rig       plan.ID  `json:"rig"`
	Reference plan.ID  `json:"reference" doc:"The guitar that the others are levelled with."`
	Name      string   `json:"name" doc:"Of the reference."`
	Guitars   []Guitar `json:"guitars" doc:"The others."`
}

// Guitar is one that is levelled.
type Guitar struct {
	Guitar plan.ID `json:"guitar"`
	Name   string  `json:"name"`
	Input  float64 `json:"input_lu" doc:"How much louder it comes to the first stage that clips than the reference, in LU; less where it is below 0."`
	Off    float64 `json:"off" doc:"How far its sounds are from those of the reference, as the mean over them: LU, ten per cent of dirt counting as one."`
	Ways   []Way   `json:"ways" doc:"The nearest first. None where nothing ahead of the first stage that clips brings it nearer."`
	Sounds []Sound `json:"sounds" doc:"As they are."`
	Words  string  `json:"words,omitempty" doc:"Where there is no way: what would be needed."`
}

// Way is one setting that levels a guitar.
type Way struct {
	Words  string                  `json:"words"`
	Values map[plan.Key]plan.Value `json:"values" doc:"Made when the guitar is picked up."`
	Off    float64                 `json:"off" doc:"How far its sounds are then, rendered in full."`
	Sounds []Sound                 `json:"sounds"`
	Rig    plan.Rig                `json:"rig" doc:"The rig with it, for that guitar alone."`
}

// Sound is a sound on the reference and on another guitar.
type Sound struct {
	Sound     plan.ID `json:"sound"`
	Name      string  `json:"name"`
	Loudness  float64 `json:"loudness_lu" doc:"Over the same sound on the reference."`
	Dirt      float64 `json:"dirt_pct"`
	Reference float64 `json:"reference_dirt_pct" doc:"Of the same sound on the reference."`
}

// off is how far a sound is from that of the reference.
func (s Sound) off() float64 { return math.Abs(s.Loudness) + math.Abs(s.Dirt-s.Reference)/10 }

// Options say how it is looked for.
type Options struct {
	Reference plan.ID // the rig's first guitar where empty
	Kept      *signal.Kept
	Progress  func(share float64)
}

const (
	coarse   = 0.5  // of a knob from 0 to 10
	finest   = 0.1  // what a hand can set
	mostWays = 3    // that are rendered in full
	noNearer = 0.05 // a way that brings the sounds nearer by less is none
)

// Level looks, for each guitar of a rig but the reference, for the setting of one knob ahead of the first stage that clips
// that brings the sounds of the rig nearest to those on the reference: the guitar's own volume, or a boost, a volume or a
// compressor in front, switched on for it where it is off. It fails when the rig or the reference are not there, when the
// rig has fewer than two guitars or no recipes, and with the context's error when that is cancelled.
func Level(ctx context.Context, p *plan.Plan, rig plan.ID, o Options) (*Report, error) {
	r, err := p.RigByID(rig)
	if err != nil {
		return nil, fmt.Errorf("guitars: %w", err)
	}
	if o.Kept == nil {
		o.Kept = signal.NewKept()
	}
	if o.Reference == "" && len(r.Guitars) > 0 {
		o.Reference = r.Guitars[0]
	}
	switch {
	case len(r.Guitars) < 2:
		return nil, reason.Errorf("%s has one guitar or none: there is nothing to level", r.Name)
	case !slices.Contains(r.Guitars, o.Reference):
		return nil, reason.Errorf("%s has no guitar %q", r.Name, o.Reference)
	}
	w := &work{ctx: ctx, plan: p, rig: r, o: o}
	if w.sounds = w.made(); len(w.sounds) == 0 {
		return nil, reason.Errorf("%s has no recipes: there are no sounds to level", r.Name)
	}
	ref, err := p.GearByID(o.Reference)
	if err != nil {
		return nil, fmt.Errorf("guitars: %w", err)
	}
	if w.of, err = w.measured(r, o.Reference); err != nil {
		return nil, err
	}
	out := &Report{Rig: rig, Reference: ref.ID, Name: ref.Name, Guitars: []Guitar{}}
	for i, id := range r.Guitars {
		if id != o.Reference {
			g, err := w.level(id)
			if err != nil {
				return nil, err
			}
			out.Guitars = append(out.Guitars, *g)
		}
		if o.Progress != nil {
			o.Progress(float64(i+1) / float64(len(r.Guitars)))
		}
	}
	return out, nil
}

// Levelled is a rig with the nearest way of each guitar taken. The rig itself stays as it is.
func (x *Report) Levelled(r plan.Rig) plan.Rig {
	r.PerGuitar = maps.Clone(r.PerGuitar)
	r.Recipes = slices.Clone(r.Recipes)
	for _, g := range x.Guitars {
		if len(g.Ways) == 0 {
			continue
		}
		if r.PerGuitar == nil {
			r.PerGuitar = map[plan.ID]map[plan.Key]plan.Value{}
		}
		way := g.Ways[0]
		r.PerGuitar[g.Guitar] = way.Rig.PerGuitar[g.Guitar]
		for key, v := range way.Rig.Base {
			if key.Gear() == g.Guitar {
				r.Base = maps.Clone(r.Base)
				if r.Base == nil {
					r.Base = map[plan.Key]plan.Value{}
				}
				r.Base[key] = v
			}
		}
		for i := range r.Recipes {
			r.Recipes[i].Values = maps.Clone(r.Recipes[i].Values)
			maps.DeleteFunc(r.Recipes[i].Values, func(key plan.Key, _ plan.Value) bool {
				_, left := way.Rig.Recipes[i].Values[key]
				return !left && key.Gear() == g.Guitar
			})
		}
	}
	return r
}

type work struct {
	ctx    context.Context
	plan   *plan.Plan
	rig    *plan.Rig
	o      Options
	sounds []plan.Sound
	of     map[plan.ID]signal.Sound // the sounds on the reference
	meters map[metering]*signal.Sketcher
}

// metering is a guitar, and whether it is metered by tones of half the length.
type metering struct {
	guitar plan.ID
	quick  bool
}

// made are the sounds that the rig has recipes for.
func (w *work) made() []plan.Sound {
	var list []plan.Sound
	for _, s := range w.plan.Sounds {
		if w.rig.RecipeFor(plan.Section{Sound: s.ID}) != nil {
			list = append(list, s)
		}
	}
	return list
}

// on is a rig of which every sound is played on one guitar.
func (w *work) on(r *plan.Rig, guitar plan.ID) *plan.Plan {
	q, played := *w.plan, *r
	played.Recipes = nil
	for _, s := range w.sounds {
		rec := *r.RecipeFor(plan.Section{Sound: s.ID})
		rec.Guitar = guitar
		played.Recipes = append(played.Recipes, rec)
	}
	q.Put(played)
	return &q
}

func (w *work) ids() (list []plan.ID) {
	for _, s := range w.sounds {
		list = append(list, s.ID)
	}
	return list
}

// measured renders every sound on a guitar in full.
func (w *work) measured(r *plan.Rig, guitar plan.ID) (map[plan.ID]signal.Sound, error) {
	report, err := signal.Measure(w.ctx, w.on(r, guitar), r.ID, signal.Options{
		Kept: w.o.Kept, Only: w.ids(), Want: signal.ForTargets,
	})
	if err != nil {
		return nil, fmt.Errorf("guitars: %w", err)
	}
	out := map[plan.ID]signal.Sound{}
	for _, s := range report.Sounds {
		out[s.Sound] = s
	}
	return out, nil
}

// against puts sounds beside those of the reference.
func (w *work) against(got map[plan.ID]signal.Sound) ([]Sound, float64) {
	list, off := []Sound{}, 0.0
	for _, s := range w.sounds {
		a, b := got[s.ID].Figures, w.of[s.ID].Figures
		x := Sound{Sound: s.ID, Name: s.Name, Loudness: a.Playing - b.Playing, Dirt: a.Dirt, Reference: b.Dirt}
		off += x.off()
		list = append(list, x)
	}
	return list, off / float64(len(w.sounds))
}

func (w *work) level(id plan.ID) (*Guitar, error) {
	g, err := w.plan.GearByID(id)
	if err != nil {
		return nil, fmt.Errorf("guitars: %w", err)
	}
	out := &Guitar{Guitar: id, Name: g.Name, Ways: []Way{}}
	got, err := w.measured(w.rig, id)
	if err != nil {
		return nil, err
	}
	out.Sounds, out.Off = w.against(got)
	if out.Input, err = w.input(id); err != nil {
		return nil, err
	}
	knobs := w.knobs(g)
	type found struct {
		knob
		at, off float64
	}
	var best []found
	for _, k := range knobs {
		at, off, err := w.nearest(id, k)
		if err != nil {
			return nil, err
		}
		if off < out.Off-noNearer {
			best = append(best, found{k, at, off})
		}
	}
	slices.SortStableFunc(best, func(a, b found) int { return cmp.Compare(a.off, b.off) })
	for _, b := range best[:min(len(best), mostWays)] {
		way, err := w.way(id, b.knob, b.at)
		if err != nil {
			return nil, err
		}
		if way.Off < out.Off-noNearer {
			out.Ways = append(out.Ways, *way)
		}
	}
	slices.SortStableFunc(out.Ways, func(a, b Way) int { return cmp.Compare(a.Off, b.Off) })
	switch {
	case len(out.Ways) > 0:
	case out.Off < 0.5:
		out.Words = "It is level already."
	case out.Input < 0:
		out.Words = fmt.Sprintf(
			"Nothing ahead of the first stage that clips lifts it: a boost first in the chain would, by %.1f dB.",
			-out.Input,
		)
	default:
		out.Words = "No knob ahead of the first stage that clips brings it nearer."
	}
	return out, nil
}

// input is how much louder a guitar comes to the first stage that clips than the reference, in the first sound that has
// a recipe: home, where the rig has one.
func (w *work) input(id plan.ID) (float64, error) {
	front := *w.rig
	front.Path = nil
	for _, n := range w.rig.Path {
		if w.clips(n) {
			break
		}
		front.Path = append(front.Path, n)
	}
	sound := w.sounds[0]
	if i := slices.IndexFunc(w.sounds, func(s plan.Sound) bool { return s.Role == plan.HomeRole }); i >= 0 {
		sound = w.sounds[i]
	}
	loud := func(guitar plan.ID) (float64, error) {
		report, err := signal.Measure(w.ctx, w.on(&front, guitar), front.ID, signal.Options{
			Kept: w.o.Kept, Only: []plan.ID{sound.ID}, Want: signal.ForTargets,
		})
		if err != nil {
			return 0, fmt.Errorf("guitars: %w", err)
		}
		if len(report.Sounds) == 0 {
			return 0, nil
		}
		return report.Sounds[0].Figures.Playing, nil
	}
	a, err := loud(id)
	if err != nil {
		return 0, err
	}
	b, err := loud(w.o.Reference)
	return a - b, err
}

// clips reports whether a node is, or holds, a stage that clips.
func (w *work) clips(n plan.Node) bool {
	return slices.ContainsFunc(plan.StopsIn([]plan.Node{n}), func(key plan.Key) bool {
		b := w.block(key)
		return b != nil && (b.Effect == plan.EffectPreamp || b.Effect.IsGain() && b.Effect != plan.EffectBoost)
	})
}

func (w *work) block(key plan.Key) *plan.Block {
	g, ok := w.plan.FindGear(key.Gear())
	if !ok {
		return nil
	}
	b, _ := g.FindBlock(plan.ID(key.Rest()))
	return b
}

// with is the rig with settings of a knob for a guitar, over those it has for it. What its recipes say of the guitar's
// own knob becomes the base, since they all say the same: there it stands again when the setting is taken away.
func (w *work) with(id plan.ID, k knob, values map[plan.Key]plan.Value) plan.Rig {
	r := *w.rig
	r.Recipes = slices.Clone(w.rig.Recipes)
	for i, rec := range w.rig.Recipes {
		if v, named := rec.Values[k.key]; named && k.own {
			r.Base = maps.Clone(r.Base)
			if r.Base == nil {
				r.Base = map[plan.Key]plan.Value{}
			}
			r.Base[k.key] = v
		}
		r.Recipes[i].Values = k.leftOf(rec.Values)
	}
	r.PerGuitar = maps.Clone(w.rig.PerGuitar)
	if r.PerGuitar == nil {
		r.PerGuitar = map[plan.ID]map[plan.Key]plan.Value{}
	}
	own := maps.Clone(r.PerGuitar[id])
	if own == nil {
		own = map[plan.Key]plan.Value{}
	}
	maps.Copy(own, values)
	r.PerGuitar[id] = own
	return r
}

// way renders a setting in full.
func (w *work) way(id plan.ID, k knob, at float64) (*Way, error) {
	out := &Way{Values: k.values(at)}
	out.Rig = w.with(id, k, out.Values)
	got, err := w.measured(&out.Rig, id)
	if err != nil {
		return nil, err
	}
	out.Sounds, out.Off = w.against(got)
	out.Words = fmt.Sprintf("%s at %s", k.name, out.Values[k.key])
	if k.on != "" {
		out.Words += ", on"
	}
	return out, nil
}
