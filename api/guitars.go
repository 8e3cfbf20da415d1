package api

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"envex/core/guitars"
	"envex/core/plan"
)

type guitarsInput struct {
	Waiting
	Rig       plan.ID `query:"rig" required:"true"`
	Reference plan.ID `query:"reference" doc:"The guitar to level the others with; the rig's first when absent."`
}

func (s *Server) guitarRoutes(api huma.API) {
	serve(s, api, job[guitarsInput, guitars.Report]{
		id: "level-guitars", path: "/api/guitars", summary: "The setting that makes each guitar of a rig meet the level of another",
		scope: func(p *plan.Plan, in guitarsInput) (*plan.Plan, error) {
			missing := missingRig(p, in.Rig, "")
			if in.Reference != "" {
				missing = append(missing, missingGear(p, "reference", in.Reference)...)
			}
			if len(missing) > 0 {
				return nil, huma.Error404NotFound("The plan does not have it.", missing...)
			}
			return p, nil
		},
		run: func(ctx context.Context, p *plan.Plan, in guitarsInput, report func(float64)) (*guitars.Report, error) {
			return guitars.Level(
				ctx,
				p,
				in.Rig,
				guitars.Options{Reference: in.Reference, Kept: s.kept, Progress: report},
			)
		},
	})
}
