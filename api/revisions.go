package api

import (
	"context"
	"errors"
	"fmt"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"envex/core/plan"
	"envex/core/revision"
	"envex/store"
)

type betweenInput struct {
	ID   plan.ID `path:"id"`
	From int     `query:"from" required:"true" minimum:"1" doc:"A version."`
	To   int     `query:"to" minimum:"0" doc:"Another; as it is now when absent."`
}

type betweenOutput struct {
	Body struct {
		Words []string `json:"words" doc:"What is different, in words; empty where nothing is."`
	}
}

type restoreInput struct {
	Writing
	ID   plan.ID `path:"id"`
	Body struct {
		Version int `json:"version" minimum:"1" doc:"The version to bring back."`
		Read    int `json:"read" minimum:"0" doc:"The version that was read; 0 for something that is not there now."`
	}
}

func (s *Server) revisionRoutes(api huma.API) {
	huma.Register(
		api,
		huma.Operation{
			OperationID: "compare-revisions", Method: http.MethodGet, Path: "/api/revisions/{id}/compare",
			Summary: "What is different between two versions of a thing, in words",
		},
		s.compareRevisions,
	)
	huma.Register(api, huma.Operation{OperationID: "restore-revision", Method: http.MethodPost,
		Path: "/api/revisions/{id}/restore", Summary: "Bring a version of a thing back, as a new one",
		Description: "Refused, with what stands in the way, where the plan would not be valid with it."}, s.restoreRevision)
}

func (s *Server) compareRevisions(ctx context.Context, in *betweenInput) (*betweenOutput, error) {
	p, versions := s.store.Plan()
	to := in.To
	if to == 0 {
		to = versions[in.ID]
	}
	before, err := s.version(ctx, in.ID, in.From, "query.from")
	if err != nil {
		return nil, err
	}
	after, err := s.version(ctx, in.ID, to, "query.to")
	if err != nil {
		return nil, err
	}
	out := &betweenOutput{}
	out.Body.Words = revision.Words(p, before, after)
	return out, nil
}

func (s *Server) version(ctx context.Context, id plan.ID, version int, where string) (plan.Aggregate, error) {
	a, err := s.store.At(ctx, id, version)
	if errors.Is(err, store.ErrNoVersion) {
		return nil, huma.Error404NotFound(
			"The plan does not have it.",
			&huma.ErrorDetail{Location: where, Message: "there is no such version", Value: version},
		)
	}
	if err != nil {
		return nil, s.problem(err, "")
	}
	return a, nil
}

func (s *Server) restoreRevision(ctx context.Context, in *restoreInput) (*writeOutput, error) {
	a, err := s.version(ctx, in.ID, in.Body.Version, "body.version")
	if err != nil {
		return nil, err
	}
	if a == nil {
		return nil, huma.Error422UnprocessableEntity(
			"That version is the one in which it was removed: there is nothing to bring back.",
		)
	}
	if harm := s.harm(a); len(harm) > 0 {
		return nil, s.problem(harm, "")
	}
	done, err := s.store.Apply(
		ctx, fmt.Sprintf("Bring back version %d of %s", in.Body.Version, a.Label()), in.Request,
		store.Edit{Read: in.Body.Read, Put: a},
	)
	return s.written(ctx, in.Writing, in.ID, done, err)
}
