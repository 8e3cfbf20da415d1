package api

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"envex/core/plan"
	"envex/core/play"
)

type scriptOutput struct{ Body *play.Script }

// Played is a song as it was played: what of it, and the presses.
type Played struct {
	Rig     plan.ID      `json:"rig"`
	SetList plan.ID      `json:"set_list"`
	At      plan.ID      `json:"destination,omitempty"`
	Entry   plan.ID      `json:"entry"`
	UntilS  float64      `json:"until_s" minimum:"-3600" maximum:"86400" doc:"How far it was played, from the first downbeat."`
	Presses []play.Press `json:"presses" maxItems:"5000"`
	Hands   bool         `json:"hands,omitempty" doc:"What hands move is judged too, from the presses that say so."`
}

type playedInput struct {
	Request string `header:"Idempotency-Key" maxLength:"100" doc:"A rehearsal sent again under the same key is kept once."`
	Body    Played
}

type resultOutput struct{ Body *play.Result }

type feetInput struct {
	Body struct {
		Rig     plan.ID     `json:"rig"`
		SetList plan.ID     `json:"set_list"`
		At      plan.ID     `json:"destination,omitempty"`
		Steps   []play.Step `json:"steps" maxItems:"2000"`
	}
}

type feetOutput struct{ Body *play.Feet }

// Rehearsals are what was rehearsed of a set on a rig, and what it tells.
type Rehearsals struct {
	Kept     []play.Kept     `json:"kept" doc:"The last 50."`
	Progress []play.Progress `json:"progress" doc:"By change, those that fail most first."`
	Drill    []play.Progress `json:"drill" doc:"What is worth practising."`
}

type rehearsalsOutput struct{ Body Rehearsals }

type keptOutput struct{ Body play.Kept }

func (s *Server) playRoutes(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "get-script", Method: http.MethodGet, Path: "/api/play/script",
		Summary: "A set as it is rehearsed: sections in time, and what is pressed",
	},
		func(_ context.Context, in *Showing) (*scriptOutput, error) {
			p, _ := s.store.Plan()
			if missing := missingShow(p, *in); len(missing) > 0 {
				return nil, huma.Error404NotFound("The plan does not have it.", missing...)
			}
			script, err := play.Read(p, in.Rig, in.At, in.SetList)
			if err != nil {
				return nil, s.problem(err, "")
			}
			return &scriptOutput{Body: script}, nil
		})
	huma.Register(api, huma.Operation{
		OperationID: "judge-song", Method: http.MethodPost, Path: "/api/play/judge",
		Summary: "Where the devices stand after some presses, and how each change of a song was made",
	},
		func(_ context.Context, in *playedInput) (*resultOutput, error) {
			r, err := s.judged(in.Body)
			return &resultOutput{Body: r}, err
		})
	huma.Register(api, huma.Operation{
		OperationID: "fit-feet", Method: http.MethodPost, Path: "/api/play/fit",
		Summary: "A player's feet, fitted to timed moves between switches of a rig",
	},
		func(_ context.Context, in *feetInput) (*feetOutput, error) {
			p, _ := s.store.Plan()
			x := in.Body
			if missing := missingShow(p, Showing{Rig: x.Rig, SetList: x.SetList, At: x.At}); len(missing) > 0 {
				return nil, huma.Error404NotFound("The plan does not have it.", missing...)
			}
			script, err := play.Read(p, x.Rig, x.At, x.SetList)
			if err != nil {
				return nil, s.problem(err, "")
			}
			feet, err := play.Drilled(p, script, x.Steps)
			if err != nil {
				return nil, s.problem(err, "")
			}
			return &feetOutput{Body: feet}, nil
		})
	huma.Register(
		api,
		huma.Operation{
			OperationID: "keep-rehearsal", Method: http.MethodPost, Path: "/api/rehearsals",
			Summary: "Keep a song that was rehearsed; it is judged anew from its presses",
		},
		s.keepRehearsal,
	)
	huma.Register(
		api,
		huma.Operation{
			OperationID: "get-rehearsals", Method: http.MethodGet, Path: "/api/rehearsals",
			Summary: "What was rehearsed of a set on a rig, and what it tells",
		},
		s.getRehearsals,
	)
}

func (s *Server) judged(x Played) (*play.Result, error) {
	p, _ := s.store.Plan()
	if missing := missingShow(p, Showing{Rig: x.Rig, SetList: x.SetList, At: x.At}); len(missing) > 0 {
		return nil, huma.Error404NotFound("The plan does not have it.", missing...)
	}
	r, err := play.Judge(
		p, x.Rig, x.At, x.SetList, play.Take{Entry: x.Entry, Presses: x.Presses, UntilS: x.UntilS, Hands: x.Hands},
	)
	if err != nil {
		return nil, s.problem(err, "")
	}
	return r, nil
}

func (s *Server) keepRehearsal(ctx context.Context, in *playedInput) (*keptOutput, error) {
	r, err := s.judged(in.Body)
	if err != nil {
		return nil, err
	}
	if r.Total == 0 {
		return nil, huma.Error422UnprocessableEntity("No change of the song was over, so there is nothing to keep.")
	}
	k := play.Kept{
		Rig: in.Body.Rig, SetList: in.Body.SetList, Entry: r.Entry, Song: r.Song, Title: r.Title, Scores: r.Scores,
		Made: r.Made, Total: r.Total,
	}
	doc, err := json.Marshal(k)
	if err != nil {
		return nil, fmt.Errorf("api: write a rehearsal: %w", err)
	}
	if k.ID, k.Day, err = s.store.KeepRehearsal(ctx, k.Rig, k.SetList, in.Request, doc); err != nil {
		return nil, s.problem(err, "")
	}
	return &keptOutput{Body: k}, nil
}

type rehearsalsInput struct {
	Rig     plan.ID `query:"rig" required:"true"`
	SetList plan.ID `query:"set_list" required:"true"`
}

// shownRehearsals is how many are listed.
const shownRehearsals = 50

func (s *Server) getRehearsals(ctx context.Context, in *rehearsalsInput) (*rehearsalsOutput, error) {
	list, err := s.store.Rehearsals(ctx, in.Rig, in.SetList)
	if err != nil {
		return nil, s.problem(err, "")
	}
	kept := []play.Kept{}
	for _, x := range list {
		var k play.Kept
		if err := json.Unmarshal(x.Doc, &k); err != nil {
			return nil, s.problem(fmt.Errorf("api: read rehearsal %d: %w", x.ID, err), "")
		}
		k.ID, k.Day = x.ID, x.At[:min(len(x.At), len("2006-01-02"))]
		kept = append(kept, k)
	}
	out := Rehearsals{Kept: kept[max(0, len(kept)-shownRehearsals):], Progress: play.Over(kept), Drill: play.Drill(kept)}
	return &rehearsalsOutput{Body: out}, nil
}
