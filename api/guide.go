package api

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"envex/core/guide"
	"envex/core/plan"
)

type nextInput struct {
	Rig     plan.ID `query:"rig" doc:"None yet when absent."`
	SetList plan.ID `query:"set_list" doc:"None yet when absent."`
}

type nextOutput struct {
	Body struct {
		Steps []guide.Step `json:"steps" doc:"What makes the biggest difference first."`
	}
}

func (s *Server) guideRoutes(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "get-next", Method: http.MethodGet, Path: "/api/next",
		Summary: "What of a plan is not said yet that its answers hang on",
	},
		func(_ context.Context, in *nextInput) (*nextOutput, error) {
			p, _ := s.store.Plan()
			out := &nextOutput{}
			out.Body.Steps = guide.Next(p, in.Rig, in.SetList)
			return out, nil
		})
}
