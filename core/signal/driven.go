package signal

import (
	"context"
	"fmt"
	"math"
	"strings"

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
	r, err := newRendering(p, rig, kept)
	if err != nil {
		return nil, err
	}
	var set []Setting
	for i := range r.rig.Recipes {
		sound := r.rig.Recipes[i].Sound
		set = append(set, r.setFor(&r.rig.Recipes[i], nil, r.tempoOf(sound)))
	}
	if set == nil {
		set = append(set, r.setFor(nil, nil, plan.Tempo{BPM: 120}))
	}
	driven := path.Driven{}
	for _, key := range r.rig.Stops() {
		g, ok := p.FindGear(key.Gear())
		if !ok {
			continue
		}
		b, ok := g.FindBlock(plan.ID(key.Rest()))
		if !ok || b.Effect != plan.EffectPreamp {
			continue
		}
		most := 0.0
		for _, s := range set {
			if err := ctx.Err(); err != nil {
				return nil, fmt.Errorf("signal: %w", err)
			}
			most = math.Max(most, r.kept.dirtAlone(settings{gear: g, block: b, at: s.At}))
		}
		share := (most - cleanDirt) / (leadDirt - cleanDirt)
		driven[key] = math.Round(20*math.Min(1, math.Max(0, share))) / 20
	}
	return driven, nil
}

// dirtAlone is what a block makes of the multitone with nothing before or after it.
func (k *Kept) dirtAlone(s settings) float64 {
	var name strings.Builder
	fmt.Fprintf(&name, "%q %q %+v", s.gear.ID, s.block.Model, s.block.ModelAt)
	for _, v := range s.gear.Variables() {
		fmt.Fprintf(&name, " %q", fmt.Sprint(v.Key, "=", s.at(v.Key)))
		if v.Control != nil {
			low, high := v.Control.Range()
			fmt.Fprint(&name, low, high, v.Control.Unit)
		}
	}
	if held, ok := k.dirt.Get(name.String()); ok {
		return held
	}
	x, _ := multitone()
	model, _ := s.model(true)
	if model == nil {
		return 0
	}
	made := dirtOf(model.run(wave{l: append(append(make([]float64, 0, 2*tonePeriod), x...), x...)}))
	k.dirt.Add(name.String(), made)
	return made
}
