package api

import (
	"cmp"
	"context"
	"fmt"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"envex/core/plan"
	"envex/store"
)

type importInput struct {
	Resolve string `query:"resolve" enum:"replace,copy,keep" doc:"What to do with everything that is there already with other content; asked when absent."`
	DryRun  bool   `query:"dry_run" doc:"Say what would be done and do nothing."`
	Label   string `query:"label" maxLength:"200" doc:"What was done, in words, for undo and history."`
	RawBody []byte `contentType:"application/json"`
}

// ImportResult says what an import did, or with conflicts or a dry run would do.
type ImportResult struct {
	Added       []string        `json:"added"`
	Replaced    []string        `json:"replaced"`
	Same        int             `json:"same" doc:"Things that were there already just so."`
	Conflicts   []plan.Conflict `json:"conflicts" doc:"Where any stand here, nothing was done."`
	Done        bool            `json:"done"`
	Transaction int64           `json:"transaction,omitempty"`
}

type importOutput struct{ Body ImportResult }

type exportInput struct {
	ID string `query:"id" doc:"A rig, a show, anything; everything when absent."`
}

type exportOutput struct {
	ContentType string `header:"Content-Type"`
	Disposition string `header:"Content-Disposition"`
	Body        []byte
}

func (s *Server) fileRoutes(api huma.API) {
	huma.Register(
		api,
		huma.Operation{
			OperationID: "import-file", Method: http.MethodPost, Path: "/api/import",
			Summary: "Take a file in, whole or not at all", MaxBodyBytes: MaxBody, SkipValidateBody: true,
		},
		s.importFile,
	)
	huma.Register(api, huma.Operation{
		OperationID: "load-demo", Method: http.MethodPost, Path: "/api/demo", Summary: "Take the demo data in",
	},
		func(ctx context.Context, _ *struct{}) (*importOutput, error) {
			return s.take(ctx, "Load the demo", s.demo, plan.KeepOwn, false)
		})
	huma.Register(api, huma.Operation{OperationID: "export-file", Method: http.MethodGet, Path: "/api/export",
		Summary: "A self-contained file",
		Responses: map[string]*huma.Response{
			"200": {
				Description: "An Envex file.",
				Content:     map[string]*huma.MediaType{"application/json": {Schema: &huma.Schema{Type: huma.TypeObject}}},
			},
		}},
		s.exportFile)
}

func (s *Server) importFile(ctx context.Context, in *importInput) (*importOutput, error) {
	return s.take(ctx, cmp.Or(in.Label, "Import a file"), in.RawBody, plan.Resolution(in.Resolve), in.DryRun)
}

func (s *Server) take(
	ctx context.Context, label string, data []byte, resolve plan.Resolution, dry bool,
) (*importOutput, error) {
	file, err := plan.Decode(data)
	if err != nil {
		return nil, s.problem(err, "")
	}
	done, err := Import(ctx, s.store, s.newID, file, label, resolve, dry)
	if err != nil {
		return nil, s.problem(err, "")
	}
	return &importOutput{Body: done}, nil
}

// Import takes a decoded file into a store as one transaction. Everything that is there
// already with other content is resolved alike; with no resolution given, the conflicts
// are listed and nothing is done.
func Import(
	ctx context.Context, st *store.Store, newID func() plan.ID, file *plan.Plan, label string, resolve plan.Resolution,
	dry bool,
) (ImportResult, error) {
	current, versions := st.Plan()
	answers := map[plan.ID]plan.Resolution{}
	if resolve != "" {
		for _, a := range file.All() {
			answers[a.AggregateID()] = resolve
		}
	}
	m, err := current.Merge(file, answers, newID)
	if err != nil {
		return ImportResult{}, fmt.Errorf("api: import: %w", err)
	}
	out := ImportResult{
		Added: []string{}, Replaced: []string{}, Same: len(m.Same), Conflicts: append([]plan.Conflict{}, m.Conflicts...),
	}
	var edits []store.Edit
	for _, a := range m.Added {
		out.Added = append(out.Added, a.Label())
		// Something with this id may have been there and been removed; its versions go on.
		edits = append(edits, store.Edit{Put: a})
	}
	for _, a := range m.Replaced {
		out.Replaced = append(out.Replaced, a.Label())
		edits = append(edits, store.Edit{Put: a, Read: versions[a.AggregateID()]})
	}
	if dry || len(m.Conflicts) > 0 {
		return out, nil
	}
	out.Done = true
	if len(edits) == 0 {
		return out, nil
	}
	done, err := st.Apply(ctx, label, "", edits...)
	out.Transaction = done.Tx
	return out, err
}

func (s *Server) exportFile(_ context.Context, in *exportInput) (*exportOutput, error) {
	p, _ := s.store.Plan()
	name := "everything"
	if in.ID != "" {
		bundle, err := p.Bundle(plan.ID(in.ID))
		if err != nil {
			return nil, huma.Error404NotFound("There is nothing with that id in the plan.")
		}
		p, name = bundle, in.ID
	}
	data, err := plan.Encode(p)
	if err != nil {
		return nil, s.problem(err, "")
	}
	return &exportOutput{
		ContentType: "application/json", Disposition: `attachment; filename="` + name + `.envex.json"`, Body: data,
	}, nil
}
