package api

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"envex/core/plan"
	"envex/core/setorder"
)

type songOrderInput struct {
	Waiting
	Showing
}

func (s *Server) setOrderRoutes(api huma.API) {
	serve(s, api, job[songOrderInput, setorder.Report]{
		id: "song-order", path: "/api/set-order",
		summary: "The changes of guitar, tuning and capo of a set, and the order of its songs that has the fewest",
		scope:   func(p *plan.Plan, in songOrderInput) (*plan.Plan, error) { return showing(p, in.Showing) },
		run: func(ctx context.Context, p *plan.Plan, in songOrderInput, _ func(float64)) (*setorder.Report, error) {
			return setorder.Find(ctx, p, in.Rig, in.SetList)
		},
	})
}
