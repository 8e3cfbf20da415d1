package api

import (
	"context"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"envex/core/plan"
	"envex/core/tempo"
	"envex/store"
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

type storeInput struct {
	Request string `header:"Idempotency-Key" maxLength:"100"`
	Body    struct {
		Rig     plan.ID `json:"rig"`
		SetList plan.ID `json:"set_list"`
	}
}

// StoredTimes is what was stored.
type StoredTimes struct {
	Words       []string `json:"words"`
	Transaction int64    `json:"transaction"`
}

type storedOutput struct{ Body StoredTimes }

// storeTimes puts the times of a set into presets, as one transaction.
func (s *Server) storeTimes(ctx context.Context, in *storeInput) (*storedOutput, error) {
	p, versions := s.store.Plan()
	if missing := missingShow(p, Showing{Rig: in.Body.Rig, SetList: in.Body.SetList}); len(missing) > 0 {
		return nil, huma.Error404NotFound("The plan does not have it.", missing...)
	}
	done, err := tempo.Store(p, in.Body.Rig, in.Body.SetList)
	if err != nil {
		return nil, huma.Error422UnprocessableEntity(sentence(strings.TrimPrefix(err.Error(), "tempo: ")))
	}
	edits := []store.Edit{{Put: done.Rig, Read: versions[done.Rig.ID]}}
	for _, song := range done.Songs {
		edits = append(edits, store.Edit{Put: song, Read: versions[song.ID]})
	}
	written, err := s.store.Apply(ctx, "Store the times of the set", in.Request, edits...)
	if err != nil {
		return nil, s.problem(err, "")
	}
	return &storedOutput{Body: StoredTimes{Words: done.Words, Transaction: written.Tx}}, nil
}

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
	huma.Register(api, huma.Operation{OperationID: "store-times", Method: http.MethodPost, Path: "/api/tempo/store", Summary: "Put the fewest times that serve the set into the presets of its devices"}, s.storeTimes)
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
