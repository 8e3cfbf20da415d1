package api

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"envex/about"
)

type aboutOutput struct{ Body about.Build }

func (s *Server) aboutRoutes(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "get-about", Method: http.MethodGet, Path: "/api/about", Summary: "Which Envex this is"},
		func(context.Context, *struct{}) (*aboutOutput, error) { return &aboutOutput{Body: about.This()}, nil })
}
