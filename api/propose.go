package api

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"envex/core/plan"
	"envex/core/propose"
)

type proposeInput struct {
	Waiting
	Rig     plan.ID   `query:"rig" required:"true"`
	At      plan.ID   `query:"destination" doc:"Where it plugs in; the rig as it stands when absent."`
	SetList plan.ID   `query:"set_list" doc:"Over which presses are counted."`
	Sounds  []plan.ID `query:"sounds,explode" doc:"All without a recipe when absent."`
}

func (s *Server) proposeRoutes(api huma.API) {
	serve(s, api, job[proposeInput, propose.Proposal]{
		id: "propose-recipes", path: "/api/recipes/proposals",
		summary: "Ways to make sounds that have no recipe: what is on, which presets, and where knobs stand",
		scope: func(p *plan.Plan, in proposeInput) (*plan.Plan, error) {
			missing := missingRig(p, in.Rig, in.At)
			if in.SetList != "" {
				missing = append(missing, missingSet(p, in.SetList)...)
			}
			for _, id := range in.Sounds {
				if _, ok := p.FindSound(id); !ok {
					missing = append(
						missing, &huma.ErrorDetail{Location: "query.sounds", Message: "there is no such sound", Value: id},
					)
				}
			}
			if len(missing) > 0 {
				return nil, huma.Error404NotFound("The plan does not have it.", missing...)
			}
			return p, nil
		},
		run: func(ctx context.Context, p *plan.Plan, in proposeInput, report func(float64)) (*propose.Proposal, error) {
			return propose.For(ctx, p, in.Rig, propose.Options{
				Sounds: in.Sounds, SetList: in.SetList, Destination: in.At, Progress: report, Kept: s.kept,
			})
		},
	})
}
