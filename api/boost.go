package api

import (
	"context"

	"envex/core/plan"
	"envex/core/signal"
)

// placeBoost meters a boost where a song is played, and gives each place as the main line of the rig as it stands.
func placeBoost(ctx context.Context, p *plan.Plan, in boostInput, o signal.Options) (*signal.Placement, error) {
	there, err := in.of(p)
	if err != nil {
		return nil, err
	}
	out, err := signal.PlaceBoost(ctx, there, in.Rig, in.Block, o)
	if err != nil || in.Song == "" {
		return out, err
	}
	stands, err := p.At(in.Rig, in.At)
	if err != nil {
		return nil, err
	}
	was, _ := stands.FindRig(in.Rig)
	played, _ := there.FindRig(in.Rig)
	for i := range out.Places {
		moved := *played
		moved.Path = out.Places[i].Path
		back, err := there.PutBack(moved, was)
		if err != nil {
			return nil, err
		}
		out.Places[i].Path = back.Path
	}
	return out, nil
}
