package api

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"envex/core/hire"
	"envex/core/plan"
)

type askInput struct {
	Showing
	Waiting
}

type hiredInput struct {
	Waiting
	Rig     plan.ID  `query:"rig" required:"true"`
	SetList plan.ID  `query:"set_list" required:"true"`
	Without []string `query:"without,explode" maxItems:"4" enum:"loop,channels,reverb,second-amp" doc:"What is not there; the amp is else taken to be like the rig's own."`
	Amp     plan.ID  `query:"amp" doc:"An amp of the pile that stands there, instead."`
}

func (s *Server) hireRoutes(api huma.API) {
	serve(s, api, job[askInput, hire.Ask]{
		id: "ask", path: "/api/ask", summary: "What to ask those for who hire out amps, and the house",
		scope: func(p *plan.Plan, in askInput) (*plan.Plan, error) { return s.wholeFor(p, in.Showing) },
		run: func(ctx context.Context, p *plan.Plan, in askInput, _ func(float64)) (*hire.Ask, error) {
			return hire.AskFor(ctx, p, in.Rig, in.At, in.SetList, s.kept)
		},
	})
	serve(s, api, job[hiredInput, hire.Answer]{
		id: "hired", path: "/api/hired",
		summary: "The plan for an amp that lacks something, or is another: what moves, what is set otherwise, what is lost",
		scope: func(p *plan.Plan, in hiredInput) (*plan.Plan, error) {
			whole, err := s.wholeFor(p, Showing{Rig: in.Rig, SetList: in.SetList})
			if err != nil {
				return nil, err
			}
			if in.Amp != "" {
				if missing := missingGear(p, "amp", in.Amp); len(missing) > 0 {
					return nil, huma.Error404NotFound("The plan does not have it.", missing...)
				}
			}
			if (in.Amp == "") == (len(in.Without) == 0) {
				return nil, huma.Error422UnprocessableEntity("Say what is not there, or which amp stands there.")
			}
			return whole, nil
		},
		run: func(ctx context.Context, p *plan.Plan, in hiredInput, report func(float64)) (*hire.Answer, error) {
			return hire.Plan(ctx, p, in.Rig, in.SetList, hire.Options{
				Without: in.Without, Amp: in.Amp, NewID: s.newID, Progress: report, Kept: s.kept,
			})
		},
	})
}
