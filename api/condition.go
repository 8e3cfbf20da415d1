package api

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"envex/store/doctor"
)

// Rescue is what is offered while a damaged database is looked at: what is wrong with it, and writing what
// is sound of it into a new file, whose path it gives.
type Rescue struct {
	Report *doctor.Report
	Repair func(ctx context.Context) (path string, err error)
}

// DatabaseCondition says whether the plan can be written to.
type DatabaseCondition struct {
	Database string         `json:"database,omitempty" doc:"The path of a database that can only be looked at."`
	ReadOnly string         `json:"read_only,omitempty" doc:"Why nothing is written; absent where the plan can be written to."`
	Report   *doctor.Report `json:"report,omitempty" doc:"What is wrong with a damaged database; what is shown is what is sound of it."`
}

type conditionOutput struct{ Body DatabaseCondition }

type repairedOutput struct {
	Body struct {
		Path string `json:"path" doc:"The new database."`
	}
}

func (s *Server) conditionRoutes(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "get-condition", Method: http.MethodGet, Path: "/api/condition",
		Summary: "Whether the plan can be written to",
	},
		func(context.Context, *struct{}) (*conditionOutput, error) {
			out := &conditionOutput{}
			if why := s.store.ReadOnly(); why != nil {
				out.Body.Database, out.Body.ReadOnly = why.Of, why.Why
			}
			if s.rescue != nil {
				out.Body.Report = s.rescue.Report
			}
			return out, nil
		})
	huma.Register(api, huma.Operation{
		OperationID: "repair-database", Method: http.MethodPost, Path: "/api/repair",
		Summary: "Write what is sound of a damaged database into a new file",
	},
		func(ctx context.Context, _ *struct{}) (*repairedOutput, error) {
			if s.rescue == nil {
				return nil, huma.Error409Conflict("Nothing is wrong with this database.")
			}
			path, err := s.rescue.Repair(ctx)
			if err != nil {
				return nil, s.problem(err, "")
			}
			out := &repairedOutput{}
			out.Body.Path = path
			return out, nil
		})
}
