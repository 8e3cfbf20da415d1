package api

import (
	"context"
	"net/http"

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
	Writing
	Body struct {
		Rig     plan.ID `json:"rig"`
		SetList plan.ID `json:"set_list"`
		Sound   plan.ID `json:"sound,omitempty" doc:"The one whose times are stored; all when absent."`
	}
}

type storingInput struct {
	Rig     plan.ID `query:"rig" required:"true"`
	SetList plan.ID `query:"set_list" required:"true"`
	Sound   plan.ID `query:"sound" doc:"The one whose times are stored; all when absent."`
}

// onlyFor is a sound as a list, none where there is none.
func onlyFor(sound plan.ID) []plan.ID {
	if sound == "" {
		return nil
	}
	return []plan.ID{sound}
}

// Storing is what storing would do.
type Storing struct {
	Words      []string          `json:"words"`
	Overwrites []tempo.Overwrite `json:"overwrites" doc:"Presets that hold another time now."`
}

type storingOutput struct{ Body Storing }

type meaningsInput struct {
	Rig     plan.ID  `query:"rig" required:"true"`
	SetList plan.ID  `query:"set_list" required:"true"`
	Gear    plan.ID  `query:"gear" required:"true"`
	Notes   []string `query:"notes,explode" maxItems:"8" doc:"Of a delay; an eighth and a dotted eighth when absent."`
	Repeats []int    `query:"repeats,explode" maxItems:"3" doc:"Of a long, a medium and a short one; 6, 3 and 1 when absent."`
}

type meaningsOutput struct{ Body *tempo.Memories }

// meanings says what the presets of a device by meaning would be, and changes nothing.
func (s *Server) meanings(_ context.Context, in *meaningsInput) (*meaningsOutput, error) {
	p, _ := s.store.Plan()
	if missing := missingShow(p, Showing{Rig: in.Rig, SetList: in.SetList}); len(missing) > 0 {
		return nil, huma.Error404NotFound("The plan does not have it.", missing...)
	}
	found, err := tempo.MeaningsOf(p, in.Rig, in.SetList, in.Gear, tempo.Grid{Notes: in.Notes, Repeats: in.Repeats})
	if err != nil {
		return nil, s.problem(err, "")
	}
	return &meaningsOutput{Body: found}, nil
}

type setOrderInput struct {
	Rig     plan.ID `query:"rig" required:"true"`
	SetList plan.ID `query:"set_list" required:"true"`
	Gear    plan.ID `query:"gear" required:"true"`
}

type setOrderOutput struct{ Body *tempo.SetOrder }

// setOrder says what the presets of a device in the order of a set would be, and changes nothing.
func (s *Server) setOrder(_ context.Context, in *setOrderInput) (*setOrderOutput, error) {
	p, _ := s.store.Plan()
	if missing := missingShow(p, Showing{Rig: in.Rig, SetList: in.SetList}); len(missing) > 0 {
		return nil, huma.Error404NotFound("The plan does not have it.", missing...)
	}
	found, err := tempo.InSetOrder(p, in.Rig, in.SetList, in.Gear)
	if err != nil {
		return nil, s.problem(err, "")
	}
	return &setOrderOutput{Body: found}, nil
}

// storing says what storing the times of a set would do, and does nothing.
func (s *Server) storing(_ context.Context, in *storingInput) (*storingOutput, error) {
	p, _ := s.store.Plan()
	if missing := missingShow(p, Showing{Rig: in.Rig, SetList: in.SetList}); len(missing) > 0 {
		return nil, huma.Error404NotFound("The plan does not have it.", missing...)
	}
	done, err := tempo.Store(p, in.Rig, in.SetList, onlyFor(in.Sound)...)
	if err != nil {
		return nil, s.problem(err, "")
	}
	return &storingOutput{Body: Storing{Words: done.Words, Overwrites: done.Overwrites}}, nil
}

// StoredTimes is what was stored.
type StoredTimes struct {
	Words       []string   `json:"words"`
	Transaction int64      `json:"transaction"`
	Plan        *WholePlan `json:"plan,omitempty" doc:"What is new in the plan since the state that the request knew."`
}

type storedOutput struct{ Body StoredTimes }

// storeTimes puts the times of a set into presets, as one transaction.
func (s *Server) storeTimes(ctx context.Context, in *storeInput) (*storedOutput, error) {
	var words []string
	written, err := s.change(ctx, in.Writing, []plan.ID{in.Body.Rig, in.Body.SetList},
		func(now store.State) (string, []store.Edit, error) {
			if missing := missingShow(now.Plan, Showing{Rig: in.Body.Rig, SetList: in.Body.SetList}); len(missing) > 0 {
				return "", nil, huma.Error404NotFound("The plan does not have it.", missing...)
			}
			done, err := tempo.Store(now.Plan, in.Body.Rig, in.Body.SetList, onlyFor(in.Body.Sound)...)
			if err != nil {
				return "", nil, s.problem(err, "")
			}
			words = done.Words
			edits := []store.Edit{{Put: done.Rig, Read: now.Versions[done.Rig.ID]}}
			for _, song := range done.Songs {
				edits = append(edits, store.Edit{Put: song, Read: now.Versions[song.ID]})
			}
			return "Store the times of the set", edits, nil
		})
	if err != nil {
		return nil, s.problem(err, "")
	}
	news, err := s.news(ctx, in.Writing)
	return &storedOutput{Body: StoredTimes{Words: words, Transaction: written.Tx, Plan: news}}, err
}

func (s *Server) tempoRoutes(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "get-tempo", Method: http.MethodGet, Path: "/api/tempo",
		Summary: "The lengths of notes in every song of a set, and what the delays of a rig are asked and set to",
	},
		func(_ context.Context, in *tempoInput) (*nightOutput, error) {
			p, _ := s.store.Plan()
			var missing []error
			if in.Rig != "" {
				missing = missingRig(p, in.Rig, in.At)
			}
			missing = append(missing, missingSet(p, in.SetList)...)
			if missing != nil {
				return nil, huma.Error404NotFound("The plan does not have it.", missing...)
			}
			night, err := tempo.Plan(p, in.Rig, in.At, in.SetList)
			if err != nil {
				return nil, s.problem(err, "")
			}
			return &nightOutput{Body: night}, nil
		})
	huma.Register(
		api,
		huma.Operation{
			OperationID: "get-meanings", Method: http.MethodGet, Path: "/api/tempo/meanings",
			Summary: "The presets of a delay or reverb by what they mean, beside other ways of using them",
		},
		s.meanings,
	)
	inOrder := huma.Operation{
		OperationID: "get-set-order", Method: http.MethodGet, Path: "/api/tempo/set-order",
		Summary: "The presets of a device in the order in which a set first calls for them",
	}
	huma.Register(api, inOrder, s.setOrder)
	huma.Register(
		api,
		huma.Operation{
			OperationID: "get-storing", Method: http.MethodGet, Path: "/api/tempo/store",
			Summary: "What putting the times of a set into presets would do",
		},
		s.storing,
	)
	huma.Register(
		api,
		huma.Operation{
			OperationID: "store-times", Method: http.MethodPost, Path: "/api/tempo/store",
			Summary: "Put the fewest times that serve the set into the presets of its devices",
		},
		s.storeTimes,
	)
	huma.Register(api, huma.Operation{
		OperationID: "get-notes", Method: http.MethodGet, Path: "/api/tempo/notes",
		Summary: "The lengths of notes at a tempo",
	},
		func(_ context.Context, in *notesInput) (*notesOutput, error) {
			t := plan.Tempo{BPM: in.BPM, Beat: in.Beat}
			if in.Beat != "" {
				if _, ok := plan.NoteFraction(in.Beat); !ok {
					return nil, huma.Error422UnprocessableEntity(
						"The beat is no note.",
						&huma.ErrorDetail{Location: "query.beat", Message: "write a note such as 1/4 or 1/4.", Value: in.Beat},
					)
				}
			}
			out := Notes{Table: tempo.Table(t)}
			if near, ok := tempo.Nearest(t, in.MS); ok {
				out.Nearest = &near
			}
			return &notesOutput{Body: out}, nil
		})
}
