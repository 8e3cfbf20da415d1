package api

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"envex/core/plan"
	"envex/core/reach"
)

type reachOutput struct{ Body *reach.Report }

type anyOrderInput struct {
	Showing
	Waiting
}

func (s *Server) reachRoutes(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "get-reach", Method: http.MethodGet, Path: "/api/reach", Summary: "Reach of a rig over a set list",
	}, s.getReach)
	serve(s, api, job[anyOrderInput, reach.AnyOrder]{
		id: "any-order", path: "/api/reach/any-order", summary: "Reach when songs are called in any order",
		scope: func(p *plan.Plan, in anyOrderInput) (*plan.Plan, error) { return showing(p, in.Showing) },
		run: func(ctx context.Context, p *plan.Plan, in anyOrderInput, report func(float64)) (*reach.AnyOrder, error) {
			found, err := reach.ComputeAnyOrder(ctx, p, in.Rig, in.SetList, report)
			return &found, err
		},
	})
}

func (s *Server) getReach(_ context.Context, in *Showing) (*reachOutput, error) {
	p, err := s.has(in)
	if err != nil {
		return nil, err
	}
	report, err := reach.Compute(p, in.Rig, in.SetList)
	if err != nil {
		return nil, s.problem(err, "")
	}
	return &reachOutput{Body: report}, nil
}
