package signal

import (
	"context"
	"fmt"
	"math"

	"envex/core/path"
	"envex/core/plan"
)

// A preamp with less dirt than clean dirt has no share in what the order of gain stages is weighed by;
// one with lead dirt has all of it: the bands in which players name what they hear.
const (
	cleanDirt = 3.0
	leadDirt  = 40.0
)

// Driven is how much dirt the recipes take from every preamp of a rig, 0 to 1, for the weights of
// the order. The multitone is played through the preamp alone, with the guitar's volume full, as each
// recipe sets it, or as the rig stands where there is none; the dirtiest counts, in steps of 0.05.
// What pedals ahead push it to is not counted: they have weights of their own. It fails when there
// is no such rig, and ends early with the context's error.
func Driven(ctx context.Context, p *plan.Plan, rig plan.ID, kept *Kept) (path.Driven, error) {
	list, err := PreampDirts(ctx, p, rig, kept)
	if err != nil {
		return nil, err
	}
	most := map[plan.Key]float64{}
	for _, x := range list {
		most[x.Stop] = math.Max(most[x.Stop], x.Dirt)
	}
	driven := path.Driven{}
	for stop, dirt := range most {
		share := (dirt - cleanDirt) / (leadDirt - cleanDirt)
		driven[stop] = math.Round(20*math.Min(1, math.Max(0, share))) / 20
	}
	return driven, nil
}

// PreampDirt is what one preamp makes of the multitone by itself, in per cent, as a recipe sets it.
type PreampDirt struct {
	Stop   plan.Key
	Recipe plan.ID // of the rig; "" for the rig as it stands
	Dirt   float64
}

// Clean reports whether it is what players call clean.
func (d PreampDirt) Clean() bool { return d.Dirt < cleanDirt }

// PreampDirts meters every preamp of a rig alone, with the guitar's volume full, as each recipe sets it, or as the rig
// stands where there is none. It fails when there is no such rig, and ends early with the context's error.
func PreampDirts(ctx context.Context, p *plan.Plan, rig plan.ID, kept *Kept) ([]PreampDirt, error) {
	r, err := newRendering(p, rig, kept)
	if err != nil {
		return nil, err
	}
	type state struct {
		recipe plan.ID
		set    Setting
	}
	var states []state
	for i := range r.rig.Recipes {
		rec := &r.rig.Recipes[i]
		states = append(states, state{rec.ID, r.setFor(rec, nil, r.tempoOf(rec.Sound))})
	}
	if states == nil {
		states = append(states, state{"", r.setFor(nil, nil, plan.Tempo{BPM: 120})})
	}
	var list []PreampDirt
	for _, key := range r.rig.Stops() {
		g, ok := p.FindGear(key.Gear())
		if !ok {
			continue
		}
		b, ok := g.FindBlock(plan.ID(key.Rest()))
		if !ok || b.Effect != plan.EffectPreamp {
			continue
		}
		for _, s := range states {
			if err := ctx.Err(); err != nil {
				return nil, fmt.Errorf("signal: %w", err)
			}
			dirt := r.kept.dirtAlone(settings{gear: g, block: b, at: s.set.At})
			list = append(list, PreampDirt{Stop: key, Recipe: s.recipe, Dirt: dirt})
		}
	}
	return list, nil
}

// dirtAlone is what a block makes of the multitone with nothing before or after it.
func (k *Kept) dirtAlone(s settings) float64 {
	dirt, _ := once(k, s.identity(), "dirt", func() (float64, error) { // nothing fails that runs to its end
		model, _ := s.model(true)
		if model == nil {
			return 0, nil
		}
		return multitone().dirt(model.run(wave{l: multitone().by(1, toneSettling)})), nil
	})
	return dirt
}
