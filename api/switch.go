package api

import (
	"context"
	"errors"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"envex/core/plan"
	"envex/core/switching"
)

type switchInput struct {
	Rig        plan.ID          `query:"rig" required:"true"`
	SetList    plan.ID          `query:"set_list" required:"true"`
	At         plan.ID          `query:"destination" doc:"A destination of the rig; the rig as it stands when absent."`
	Controller plan.ID          `query:"controller" doc:"Where the rig has several."`
	School     switching.School `query:"school" enum:"page,song" default:"page"`
}

type switchOutput struct{ Body *switching.Solution }

func (s *Server) switchRoutes(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "get-switch", Method: http.MethodGet, Path: "/api/switch", Summary: "Which programs a controller needs for a set, and the slot of each",
		Description: "Nothing is changed. It takes up to some seconds and ends when the request is cancelled.",
	}, func(ctx context.Context, in *switchInput) (*switchOutput, error) {
		p, err := s.has(&reachInput{Rig: in.Rig, SetList: in.SetList, At: in.At})
		if err != nil {
			return nil, err
		}
		found, err := switching.Solve(ctx, p, in.Rig, in.SetList, in.Controller, in.School, nil)
		switch {
		case errors.Is(err, context.Canceled):
			return nil, huma.NewError(499, "The request was cancelled; nothing was changed.")
		case err != nil:
			return nil, huma.Error422UnprocessableEntity(sentence(err.Error()))
		}
		return &switchOutput{Body: found}, nil
	})
}
