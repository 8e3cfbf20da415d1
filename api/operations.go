package api

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"reflect"
	"strconv"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"envex/core/electric"
	"envex/core/operation"
	"envex/core/plan"
	"envex/store"
)

// operationsPath is where edits are sent.
const operationsPath = "/api/operations"

type operationsInput struct {
	Writing
	Body struct {
		Label string                `json:"label" minLength:"1" maxLength:"200" doc:"What was done, in words, for undo and history."`
		Edits []operation.Amendment `json:"edits" minItems:"1" maxItems:"100"`
	}
}

// ConflictProblem is the problem document of an operation that does not fit what is there: it gives
// both values, so that the writer can choose.
type ConflictProblem struct {
	huma.ErrorModel
	Conflict EditConflict `json:"conflict"`
}

// EditConflict is an operation that was refused, what is there, and what was asked for.
type EditConflict struct {
	ID     plan.ID          `json:"id"`
	Path   string           `json:"path"`
	Reason operation.Reason `json:"reason" enum:"changed,gone,exists,shape,unclear"`
	Theirs any              `json:"theirs,omitempty" doc:"What is there; absent where nothing is."`
	Yours  any              `json:"yours,omitempty" doc:"What was asked for; absent where it was to be cleared."`
}

func (s *Server) operationRoutes(api huma.API) {
	refused := &huma.Response{Description: "An operation does not fit what is there.", Content: map[string]*huma.MediaType{
		"application/problem+json": {
			Schema: api.OpenAPI().Components.Schemas.Schema(reflect.TypeFor[ConflictProblem](), true, ""),
		},
	}}
	huma.Register(api, huma.Operation{
		Responses:   map[string]*huma.Response{"409": refused},
		OperationID: "post-operations", Method: http.MethodPost, Path: operationsPath,
		Summary:     "Edit the plan by operations on what is there",
		Description: "One transaction: all of it is done on the newest version of each thing, or nothing. An operation that does not fit what is there is refused with both values.", MaxBodyBytes: MaxBody,
	}, s.operate)
}

func (s *Server) operate(ctx context.Context, in *operationsInput) (*writeOutput, error) {
	about := make([]plan.ID, len(in.Body.Edits))
	for i, e := range in.Body.Edits {
		about[i] = e.ID
	}
	label, who := in.Body.Label, callerOf(ctx)
	done, err := s.change(ctx, in.Writing, about, func(now store.State) (string, []store.Edit, error) {
		edits := make([]store.Edit, len(in.Body.Edits))
		for i, e := range in.Body.Edits {
			edit, err := s.amended(now, e)
			if err == nil {
				before, _ := now.Plan.Find(e.ID)
				err = mayWrite(who, before, edit.Put)
			}
			if err != nil {
				return "", nil, amendmentError(err, label, i, e.ID)
			}
			edits[i] = edit
		}
		return label, edits, nil
	})
	var problems plan.Problems
	if errors.As(err, &problems) {
		err = s.inEdits(problems, in.Body.Edits)
	}
	id := plan.ID("")
	if len(about) == 1 {
		id = about[0]
	}
	return s.written(ctx, in.Writing, id, done, err)
}

// amended is the write that an amendment comes to on the plan as it stands.
func (s *Server) amended(now store.State, e operation.Amendment) (store.Edit, error) {
	put, err := e.On(now.Plan)
	if err != nil {
		return store.Edit{}, err
	}
	read := now.Versions[e.ID]
	switch {
	case put == nil:
		if e.Version != 0 {
			read = e.Version
		}
		return store.Edit{Read: read, Remove: e.ID}, nil
	case e.Add != nil:
		read = 0
	}
	if rig, ok := put.(plan.Rig); ok {
		if harm := electric.Harm(now.Plan, rig); len(harm) > 0 {
			return store.Edit{}, harm
		}
	}
	return store.Edit{Read: read, Put: put}, nil
}

// amendmentError gives a refused amendment its problem document.
func amendmentError(err error, label string, number int, id plan.ID) error {
	var conflict *operation.ConflictError
	var invalid *operation.InvalidError
	var problems plan.Problems
	where := fmt.Sprintf("body.edits[%d].", number)
	switch {
	case errors.As(err, &conflict):
		return &ConflictProblem{
			ErrorModel: huma.ErrorModel{
				Status: http.StatusConflict, Title: "Changed meanwhile", Detail: conflictWords(label, conflict),
			},
			Conflict: EditConflict{
				ID: id, Path: conflict.Path, Reason: conflict.Reason, Theirs: conflict.Theirs, Yours: conflict.Yours,
			},
		}
	case errors.As(err, &invalid):
		return &huma.ErrorModel{Status: http.StatusUnprocessableEntity, Title: "Not an operation",
			Detail: "Nothing was changed.",
			Errors: []*huma.ErrorDetail{{Location: fmt.Sprintf("%sops[%d]", where, invalid.Op), Message: invalid.Message}}}
	case errors.As(err, &problems):
		out := &huma.ErrorModel{Status: http.StatusUnprocessableEntity, Title: "Not valid", Detail: "Nothing was changed."}
		for _, p := range problems {
			out.Errors = append(out.Errors, &huma.ErrorDetail{Location: where + "value." + p.Path, Message: p.Message})
		}
		return out
	}
	return err
}

// conflictWords says what was not done and what stands in the way.
func conflictWords(label string, c *operation.ConflictError) string {
	switch c.Reason {
	case operation.Changed:
		if now := plainly(c.Theirs); now != "" {
			return fmt.Sprintf("Not done: %s. It was changed elsewhere meanwhile, and is %s now.", label, now)
		}
		return fmt.Sprintf("Not done: %s. It was changed elsewhere meanwhile.", label)
	case operation.Gone:
		return fmt.Sprintf("Not done: %s. What it changes was removed elsewhere meanwhile.", label)
	case operation.Exists:
		return fmt.Sprintf("Not done: %s. It was added elsewhere meanwhile, and differs.", label)
	}
	return fmt.Sprintf("Not done: %s. The list it is in was changed elsewhere meanwhile.", label)
}

// plainly is a plain value in words; "" for anything with parts.
func plainly(v any) string {
	switch x := v.(type) {
	case string:
		return strconv.Quote(x)
	case bool:
		if x {
			return "on"
		}
		return "off"
	case float64, json.Number:
		return fmt.Sprint(x)
	}
	return ""
}

// inEdits gives problems with the aggregates being written the path they have in the request. Others, of
// things it would break, keep their path in the plan.
func (s *Server) inEdits(problems plan.Problems, edits []operation.Amendment) plan.Problems {
	p, _ := s.store.Plan()
	out := make(plan.Problems, len(problems))
	for i, x := range problems {
		out[i] = x
		for n, e := range edits {
			own := p.PathOf(e.ID)
			if rest, ok := strings.CutPrefix(x.Path, own+"."); ok && own != "" {
				out[i].Path = fmt.Sprintf("body.edits[%d].value.%s", n, rest)
			}
		}
	}
	return out
}
