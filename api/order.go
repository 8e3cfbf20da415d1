package api

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"envex/core/path"
	"envex/core/plan"
)

type orderInput struct {
	Rig plan.ID `query:"rig" required:"true"`
}

type orderOutput struct{ Body *path.Report }

type cablesOutput struct{ Body *path.Cables }

func (s *Server) orderRoutes(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "get-order", Method: http.MethodGet, Path: "/api/order", Summary: "What is wrong with a rig's order, and the best one"},
		func(ctx context.Context, in *orderInput) (*orderOutput, error) {
			p, _ := s.store.Plan()
			if _, ok := p.FindRig(in.Rig); !ok {
				return nil, huma.Error404NotFound("The plan does not have it.", &huma.ErrorDetail{Location: "query.rig", Message: "there is no such rig", Value: in.Rig})
			}
			report, err := path.Judge(ctx, p, in.Rig)
			if err != nil {
				return nil, huma.Error422UnprocessableEntity(sentence(err.Error()))
			}
			return &orderOutput{Body: report}, nil
		})
	huma.Register(api, huma.Operation{OperationID: "get-cables", Method: http.MethodGet, Path: "/api/cables", Summary: "Every cable of a rig, derived from its path"},
		func(_ context.Context, in *orderInput) (*cablesOutput, error) {
			p, _ := s.store.Plan()
			cables, err := path.DeriveCables(p, in.Rig)
			if err != nil {
				return nil, huma.Error404NotFound("The plan does not have it.", &huma.ErrorDetail{Location: "query.rig", Message: "there is no such rig", Value: in.Rig})
			}
			return &cablesOutput{Body: cables}, nil
		})
}
