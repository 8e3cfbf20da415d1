package api

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"envex/core/plan"
	"envex/store"
)

type turnInput struct {
	Writing
	Body struct {
		Transaction int64 `json:"transaction,omitempty" doc:"Which; the latest when absent."`
	}
}

type turnOutput struct {
	Body struct {
		Transaction store.Transaction `json:"transaction"`
		Plan        *WholePlan        `json:"plan,omitempty" doc:"What is new in the plan since the state that the request knew."`
	}
}

type logOutput struct {
	Body struct {
		Transactions []store.Transaction `json:"transactions"`
	}
}

type revisionsInput struct {
	ID plan.ID `path:"id"`
}

type revisionsOutput struct {
	Body struct {
		Revisions []store.Revision `json:"revisions"`
	}
}

func (s *Server) historyRoutes(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "undo", Method: http.MethodPost, Path: "/api/undo",
		Summary:     "Undo a transaction",
		Description: "Refused, with the reason, when anything it touched has been changed since."},
		func(ctx context.Context, in *turnInput) (*turnOutput, error) {
			t, _, err := s.store.Undo(ctx, in.Body.Transaction)
			return s.turned(ctx, in.Writing, t, err)
		})
	huma.Register(api, huma.Operation{
		OperationID: "redo", Method: http.MethodPost, Path: "/api/redo", Summary: "Redo a transaction",
	},
		func(ctx context.Context, in *turnInput) (*turnOutput, error) {
			t, _, err := s.store.Redo(ctx, in.Body.Transaction)
			return s.turned(ctx, in.Writing, t, err)
		})
	huma.Register(api, huma.Operation{
		OperationID: "get-history", Method: http.MethodGet, Path: "/api/history", Summary: "What was done, newest first",
	},
		func(ctx context.Context, _ *struct{}) (*logOutput, error) {
			list, err := s.store.Log(ctx, 200)
			if err != nil {
				return nil, s.problem(err, "")
			}
			out := &logOutput{}
			out.Body.Transactions = list
			return out, nil
		})
	huma.Register(api, huma.Operation{
		OperationID: "get-revisions", Method: http.MethodGet, Path: "/api/revisions/{id}",
		Summary: "Every version of one thing",
	},
		func(ctx context.Context, in *revisionsInput) (*revisionsOutput, error) {
			list, err := s.store.Revisions(ctx, in.ID)
			if err != nil {
				return nil, s.problem(err, "")
			}
			out := &revisionsOutput{}
			out.Body.Revisions = list
			return out, nil
		})
}

func (s *Server) turned(ctx context.Context, w Writing, t store.Transaction, err error) (*turnOutput, error) {
	if err != nil {
		return nil, s.problem(err, "")
	}
	out := &turnOutput{}
	out.Body.Transaction = t
	out.Body.Plan, err = s.news(ctx, w)
	return out, err
}
