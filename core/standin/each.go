package standin

import (
	"context"
	"slices"

	"envex/core/plan"
	"envex/core/signal"
)

// Ready is what is owned and stands in for a box of a rig, to be had before it is needed.
type Ready struct {
	Box    plan.ID `json:"box"`
	Name   string  `json:"name"`
	Sounds []Sound `json:"sounds" doc:"Those that the rig makes with it on, as they are."`
	By     *Offer  `json:"by,omitempty" doc:"What comes nearest of all that is owned; absent where nothing does its job."`
	Left   []Left  `json:"left,omitempty" doc:"Boxes that could do it and cannot be put in its place, and why."`
}

// Each looks, for every pedal of a rig that some sound has on, for what is owned, is not in the chain and comes nearest
// to it. Kinds and Most of the options count for nothing. It fails as [For] does.
func Each(ctx context.Context, p *plan.Plan, rig plan.ID, o Options) ([]Ready, error) {
	boxes, err := heard(p, rig, o.At)
	if err != nil {
		return nil, err
	}
	o.Kinds, o.Most = []string{}, 1
	if o.Kept == nil {
		o.Kept = signal.NewKept() // one for all of them
	}
	list, report := []Ready{}, o.Progress
	for i, box := range boxes {
		if report != nil {
			o.Progress = func(share float64) { report((float64(i) + share) / float64(len(boxes))) }
		}
		found, err := For(ctx, p, rig, box, o)
		if err != nil {
			return nil, err
		}
		if report != nil {
			report(float64(i+1) / float64(len(boxes)))
		}
		if len(found.Sounds) == 0 {
			continue
		}
		x := Ready{Box: box, Name: found.Name, Sounds: found.Sounds, Left: found.Left}
		if len(found.Offers) > 0 {
			x.By = &found.Offers[0]
		}
		list = append(list, x)
	}
	return list, nil
}

// heard are the pedals of a rig, where it plugs in, of which something is to be heard.
func heard(p *plan.Plan, rig, at plan.ID) ([]plan.ID, error) {
	there, err := p.At(rig, at)
	if err != nil {
		return nil, err
	}
	r, err := there.RigByID(rig)
	if err != nil {
		return nil, err
	}
	return slices.DeleteFunc(r.GearIn(), func(id plan.ID) bool {
		g, ok := p.FindGear(id)
		return !ok || g.Kind != plan.Pedal || !slices.ContainsFunc(g.Blocks, func(b plan.Block) bool {
			return !b.Effect.Traits().Unheard
		})
	}), nil
}
