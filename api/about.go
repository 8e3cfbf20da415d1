package api

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"envex/about"
	"envex/about/licences"
)

type aboutOutput struct{ Body about.Build }

type licencesOutput struct{ Body licences.List }

func (s *Server) aboutRoutes(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "get-about", Method: http.MethodGet, Path: "/api/about", Summary: "Which Envex this is",
	},
		func(context.Context, *struct{}) (*aboutOutput, error) { return &aboutOutput{Body: about.This()}, nil })
	huma.Register(api, huma.Operation{
		OperationID: "get-licences", Method: http.MethodGet, Path: "/api/about/licences",
		Summary: "What ships with Envex, and the licences it is given under",
	},
		func(context.Context, *struct{}) (*licencesOutput, error) {
			list, err := licences.Gathered()
			return &licencesOutput{Body: list}, err
		})
}
