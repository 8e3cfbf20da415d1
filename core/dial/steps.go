package dial

import (
	"context"
	"fmt"
	"math"
	"slices"
	"strings"

	"envex/core/plan"
	"envex/core/reason"
	"envex/core/signal"
)

// Recipe is how a sound is dialled in from nothing: the amp first, then one box after the other.
type Recipe struct {
	Rig    plan.ID        `json:"rig"`
	Sound  plan.ID        `json:"sound"`
	Name   string         `json:"name"`
	Steps  []Step         `json:"steps"`
	Checks []signal.Check `json:"checks" doc:"Of the sound when all are made, against its targets."`
}

// Step is one thing that a hand does, and what is heard then.
type Step struct {
	Box     plan.Key  `json:"box,omitempty" doc:"The block that is turned on; absent for the amp by itself."`
	Words   string    `json:"words"`
	Knobs   []Place   `json:"knobs" doc:"Where they go."`
	Also    []string  `json:"also" doc:"What else is put somewhere: selectors, presets, times and rates, in words."`
	Louder  float64   `json:"louder_lu" doc:"Than before the step."`
	Dirt    float64   `json:"dirt_pct" doc:"After it."`
	Bright  float64   `json:"brighter_db" doc:"Than before the step."`
	Matched *Place    `json:"matched,omitempty" doc:"Of a compressor that is not as loud on as off: where its level makes it so."`
	Rig     *plan.Rig `json:"rig,omitempty" doc:"The whole rig with that level: at the destination it was asked for alone, where it was asked for one."`
}

// Place is a knob and where it goes.
type Place struct {
	Key  plan.Key `json:"key"`
	Name string   `json:"name"`
	At   float64  `json:"at"`
	Low  float64  `json:"low"`
	High float64  `json:"high"`
}

// Steps are how a sound is dialled in, one box at a time in the order of the chain, the amp by itself first; each with
// what the model says is heard then, at a destination where one is named. Delays, reverbs and what moves are set last:
// they change neither loudness nor dirt. Where a song is named they are those of it, and the rigs that they come to have
// the boxes that stand in the chain. It fails when rig, sound, recipe or song are not there, and with the context's
// error when that is cancelled.
func Steps(
	ctx context.Context, own *plan.Plan, rig, destination, sound, recipe plan.ID, o Options,
) (*Recipe, error) {
	if o.Song == "" {
		return steps(ctx, own, rig, destination, sound, recipe, o)
	}
	played, err := own.PlayedIn(rig, o.Song)
	if err != nil {
		return nil, fmt.Errorf("dial: %w", err)
	}
	out, err := steps(ctx, played, rig, destination, sound, recipe, o)
	if err != nil {
		return nil, err
	}
	was, _ := own.FindRig(rig)
	for i := range out.Steps {
		if next := out.Steps[i].Rig; next != nil {
			back, err := played.PutBack(*next, was)
			if err != nil {
				return nil, fmt.Errorf("dial: %w", err)
			}
			out.Steps[i].Rig = &back
		}
	}
	return out, nil
}

func steps(
	ctx context.Context, own *plan.Plan, rig, destination, sound, recipe plan.ID, o Options,
) (*Recipe, error) {
	p, r, kept, err := standing(own, rig, destination)
	if err != nil {
		return nil, err
	}
	s, err := p.SoundByID(sound)
	if err != nil {
		return nil, fmt.Errorf("dial: %w", err)
	}
	rec := r.RecipeFor(plan.Section{Sound: sound, Recipe: recipe})
	if rec == nil {
		return nil, reason.Errorf("%s has no recipe for %s", r.Name, s.Name)
	}
	x := &stepping{
		plan: p, rig: r, kept: kept, destination: destination, rec: *rec, set: p.SetFor(r, rec, s, p.FirstTempo(sound)),
	}
	if x.sketcher, err = signal.NewSketcher(p, rig, o.Kept); err != nil {
		return nil, fmt.Errorf("dial: %w", err)
	}
	knobs, err := signal.Knobs(p, rig, sound, rec.ID)
	if err != nil {
		return nil, fmt.Errorf("dial: %w", err)
	}
	x.knobs = knobs
	out := &Recipe{Rig: rig, Sound: sound, Name: s.Name}
	if out.Steps, err = x.steps(ctx, o); err != nil {
		return nil, err
	}
	got, err := signal.Measure(
		ctx,
		p,
		rig,
		signal.Options{Kept: o.Kept, Only: []plan.ID{sound}, Want: signal.ForTargets},
	)
	if err != nil {
		return nil, fmt.Errorf("dial: %w", err)
	}
	out.Checks = []signal.Check{}
	for _, m := range got.Sounds {
		out.Checks = append(out.Checks, m.Checks...)
	}
	return out, nil
}

// standing is a plan and a rig in it as they stand at a destination, and the rig without it, which is the one that is
// written to.
func standing(own *plan.Plan, rig, destination plan.ID) (p *plan.Plan, there, kept *plan.Rig, err error) {
	if kept, err = own.RigByID(rig); err != nil {
		return nil, nil, nil, fmt.Errorf("dial: %w", err)
	}
	if p, err = own.At(rig, destination); err != nil {
		return nil, nil, nil, fmt.Errorf("dial: %w", err)
	}
	if there, err = p.RigByID(rig); err != nil {
		return nil, nil, nil, fmt.Errorf("dial: %w", err)
	}
	return p, there, kept, nil
}

// stepping makes steps.
type stepping struct {
	plan        *plan.Plan
	rig         *plan.Rig
	kept        *plan.Rig // without the destination
	destination plan.ID
	rec         plan.Recipe
	set         plan.Setting
	knobs       []signal.KnobOf
	sketcher    *signal.Sketcher
}

// stop is a block that the sound turns on.
type stop struct {
	key   plan.Key
	name  string
	block *plan.Block
}

// turnedOn are the blocks that the sound turns on, gain and dynamics before what rings or moves.
func (x *stepping) turnedOn() []stop {
	var first, last []stop
	sounding := x.plan.StopsSounding(x.rig.Path, x.set)
	for _, key := range x.rig.Stops() {
		g, ok := x.plan.FindGear(key.Gear())
		if !ok || !sounding[key] {
			continue
		}
		b, ok := g.FindBlock(plan.ID(key.Rest()))
		if !ok || b.Bypass == plan.AlwaysOn || !x.set.At(plan.OnKey(g.ID, b.ID)).IsOn() {
			continue
		}
		s := stop{key, g.StopName(b), b}
		if b.Effect.Traits().Wet {
			last = append(last, s)
		} else {
			first = append(first, s)
		}
	}
	return append(first, last...)
}

// with is the recipe with some of its blocks on and the others off.
func (x *stepping) with(all []stop, on int) plan.Recipe {
	rec := x.rec
	rec.Values = map[plan.Key]plan.Value{}
	for key, v := range x.rec.Values {
		rec.Values[key] = v
	}
	for i, s := range all {
		rec.Values[s.key+"/on"] = plan.On(i < on)
	}
	return rec
}

func (x *stepping) steps(ctx context.Context, o Options) ([]Step, error) {
	all := x.turnedOn()
	list := make([]plan.Recipe, len(all)+1)
	for i := range list {
		list[i] = x.with(all, i)
	}
	got, err := x.sketcher.Of(ctx, list)
	if err != nil {
		return nil, fmt.Errorf("dial: %w", err)
	}
	steps := []Step{x.begin(all, got[0])}
	for i, s := range all {
		step := Step{
			Box: s.key, Knobs: x.placesOf(s.key), Also: x.also(inBlock(s)), Dirt: got[i+1].Dirt,
			Louder: got[i+1].Loudness - got[i].Loudness, Bright: got[i+1].Bright - got[i].Bright,
		}
		if s.block.Effect == plan.EffectCompressor && math.Abs(step.Louder) > noticedLU {
			if err := x.match(ctx, &step, all, i, got[i].Loudness); err != nil {
				return nil, err
			}
		}
		step.Words = step.sentence(s)
		steps = append(steps, step)
		if o.Progress != nil {
			o.Progress(float64(i+1) / float64(len(all)+1))
		}
	}
	return steps, nil
}

// begin is the first step: what is on whatever is pressed, which is the amp, with the guitar as the sound has it.
func (x *stepping) begin(all []stop, got signal.Sketch) Step {
	s := Step{Knobs: []Place{}, Also: x.also(x.before), Dirt: got.Dirt}
	for _, k := range x.knobs {
		inside := slices.ContainsFunc(
			all,
			func(s stop) bool { return strings.HasPrefix(string(k.Key), string(s.key)+"/") },
		)
		if !inside {
			s.Knobs = append(s.Knobs, placeOf(k, k.At))
		}
	}
	s.Words = fmt.Sprintf("With every pedal off, set %s: %.0f %% dirt.", x.first(s.Knobs), got.Dirt)
	return s
}

// first is what is set before any pedal: the guitar, the amp, or what else is always on.
func (x *stepping) first(knobs []Place) string {
	guitar, amp := false, false
	for _, k := range knobs {
		g, ok := x.plan.FindGear(k.Key.Gear())
		guitar = guitar || ok && g.Kind == plan.Guitar
		amp = amp || ok && g.Kind == plan.Amp
	}
	switch {
	case amp && guitar:
		return "the guitar and the amp"
	case amp:
		return "the amp"
	case guitar:
		return "the guitar"
	}
	return "what is always on"
}

func (x *stepping) placesOf(key plan.Key) []Place {
	list := []Place{}
	for _, k := range x.knobs {
		if strings.HasPrefix(string(k.Key), string(key)+"/") {
			list = append(list, placeOf(k, k.At))
		}
	}
	return list
}

// match looks for where the level of a compressor makes it as loud on as off: halves between two ends, to a tenth.
func (x *stepping) match(ctx context.Context, step *Step, all []stop, i int, off float64) error {
	at := slices.IndexFunc(x.knobs, func(k signal.KnobOf) bool { return k.Key == all[i].key+"/level" })
	if at < 0 {
		return nil
	}
	k := x.knobs[at]
	low, high := k.Low, k.High
	for high-low > 0.05 {
		mid := (low + high) / 2
		rec := x.with(all, i+1)
		rec.Values[k.Key] = plan.Number(mid)
		got, err := x.sketcher.Of(ctx, []plan.Recipe{rec})
		if err != nil {
			return fmt.Errorf("dial: %w", err)
		}
		if got[0].Loudness < off {
			low = mid
		} else {
			high = mid
		}
	}
	matched := placeOf(k, math.Round(10*(low+high)/2)/10)
	rig := k.Turned(x.kept, x.destination, x.rec, matched.At)
	step.Matched, step.Rig = &matched, &rig
	return nil
}

func placeOf(k signal.KnobOf, at float64) Place {
	return Place{Key: k.Key, Name: k.Name, At: at, Low: k.Low, High: k.High}
}

// sentence says what is done and heard.
func (s Step) sentence(at stop) string {
	switch {
	case at.block.Effect.Traits().Wet:
		does := "moves"
		switch at.block.Effect.Traits().Nature {
		case plan.NatureTime:
			does = "rings"
		case plan.NaturePitch:
			does = "adds another pitch"
		}
		return fmt.Sprintf("Turn %s on: it %s; loudness and dirt are metered without it.", at.name, does)
	case s.Matched != nil:
		return fmt.Sprintf(
			"Turn %s on: %+.1f LU, %.0f %% dirt. With its level at %g it is as loud on as off.",
			at.name,
			plan.Tenth(s.Louder),
			s.Dirt,
			s.Matched.At,
		)
	}
	return fmt.Sprintf("Turn %s on: %+.1f LU, %.0f %% dirt.", at.name, plan.Tenth(s.Louder), s.Dirt)
}
