package api

import (
	"context"
	"fmt"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"envex/core/plan"
	"envex/store"
)

type sectionsInput struct {
	SetList plan.ID `query:"set_list" doc:"Whose songs; all songs when absent."`
}

type sectionsOutput struct{ Body []plan.SectionGroup }

type markInput struct {
	Writing
	Body struct {
		SetList plan.ID `json:"set_list,omitempty" doc:"Whose songs; all songs when absent."`
		Label   string  `json:"label" minLength:"1" maxLength:"200" doc:"Their name; a number behind it does not matter."`
		plan.Marking
	}
}

func noSetList(where string, id plan.ID) error {
	none := &huma.ErrorDetail{Location: where, Message: "there is no such set list", Value: id}
	return huma.Error404NotFound("The plan does not have it.", none)
}

func (s *Server) sectionRoutes(api huma.API) {
	list := huma.Operation{
		OperationID: "get-sections", Method: http.MethodGet, Path: "/api/sections",
		Summary: "The sections of many songs by name",
	}
	huma.Register(api, list,
		func(_ context.Context, in *sectionsInput) (*sectionsOutput, error) {
			p, _ := s.store.Plan()
			if _, ok := p.FindSetList(in.SetList); !ok && in.SetList != "" {
				return nil, noSetList("query.set_list", in.SetList)
			}
			return &sectionsOutput{Body: p.SectionGroups(in.SetList)}, nil
		})
	mark := huma.Operation{
		OperationID: "mark-sections", Method: http.MethodPost, Path: "/api/sections",
		Summary: "Say of every section of a name whether the player sings there, its bars, or the rest before it",
	}
	huma.Register(api, mark,
		func(ctx context.Context, in *markInput) (*writeOutput, error) {
			done, err := s.change(ctx, in.Writing, nil, func(now store.State) (string, []store.Edit, error) {
				if _, ok := now.Plan.FindSetList(in.Body.SetList); !ok && in.Body.SetList != "" {
					return "", nil, noSetList("body.set_list", in.Body.SetList)
				}
				var edits []store.Edit
				for _, song := range now.Plan.MarkSections(in.Body.SetList, in.Body.Label, in.Body.Marking) {
					edits = append(edits, store.Edit{Put: song, Read: now.Versions[song.ID]})
				}
				return fmt.Sprintf("Mark every %s", plan.SectionName(in.Body.Label)), edits, nil
			})
			return s.written(ctx, in.Writing, "", done, err)
		})
}
