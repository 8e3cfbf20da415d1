package api

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"envex/core/plan"
	"envex/core/tempo"
)

type tempoInput struct {
	SetList plan.ID `query:"set_list" required:"true"`
	Rig     plan.ID `query:"rig" doc:"What its delays are asked and set to; the lengths of notes alone when absent."`
	At      plan.ID `query:"destination" doc:"A destination of the rig; the rig as it stands when absent."`
}

type nightOutput struct{ Body *tempo.Night }

type notesInput struct {
	BPM  float64 `query:"bpm" required:"true" minimum:"20" maximum:"400"`
	Beat string  `query:"beat" maxLength:"10" doc:"The note that gets the beat; a quarter note when absent."`
	MS   float64 `query:"ms" minimum:"0" maximum:"100000" doc:"A time, to find the note it is nearest to."`
}

// Notes are the lengths of notes at a tempo.
type Notes struct {
	Table   []tempo.Length `json:"table"`
	Nearest *tempo.Near    `json:"nearest,omitempty"`
}

type notesOutput struct{ Body Notes }

func (s *Server) tempoRoutes(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "get-tempo", Method: http.MethodGet, Path: "/api/tempo", Summary: "The lengths of notes in every song of a set, and what the delays of a rig are asked and set to"},
		func(_ context.Context, in *tempoInput) (*nightOutput, error) {
			p, _ := s.store.Plan()
			var missing []error
			if in.Rig != "" {
				missing = missingRig(p, in.Rig, in.At)
			}
			if _, ok := p.FindSetList(in.SetList); !ok {
				missing = append(missing, &huma.ErrorDetail{Location: "query.set_list", Message: "there is no such set list", Value: in.SetList})
			}
			if missing != nil {
				return nil, huma.Error404NotFound("The plan does not have it.", missing...)
			}
			night, err := tempo.Plan(p, in.Rig, in.At, in.SetList)
			if err != nil {
				return nil, huma.Error422UnprocessableEntity(sentence(err.Error()))
			}
			return &nightOutput{Body: night}, nil
		})
	huma.Register(api, huma.Operation{OperationID: "get-notes", Method: http.MethodGet, Path: "/api/tempo/notes", Summary: "The lengths of notes at a tempo"},
		func(_ context.Context, in *notesInput) (*notesOutput, error) {
			t := plan.Tempo{BPM: in.BPM, Beat: in.Beat}
			if in.Beat != "" {
				if _, ok := plan.NoteFraction(in.Beat); !ok {
					return nil, huma.Error422UnprocessableEntity("The beat is no note.", &huma.ErrorDetail{Location: "query.beat", Message: "write a note such as 1/4 or 1/4.", Value: in.Beat})
				}
			}
			out := Notes{Table: tempo.Table(t)}
			if near, ok := tempo.Nearest(t, in.MS); ok {
				out.Nearest = &near
			}
			return &notesOutput{Body: out}, nil
		})
}
