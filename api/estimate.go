package api

import (
	"context"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"envex/core/estimate"
	"envex/core/plan"
	"envex/core/shorthand"
)

type estimateInput struct {
	Recording string  `query:"recording" required:"true" maxLength:"100" doc:"A recording of a sound, that was brought."`
	Home      string  `query:"home" maxLength:"100" doc:"A recording of home, made the same way."`
	Name      string  `query:"name" maxLength:"200" doc:"What a sound like it is to be called."`
	BPM       float64 `query:"bpm" minimum:"0" maximum:"400" doc:"Of the song that was played: repeats are written as a note; 0 where there is none."`
}

type estimateOutput struct {
	Body struct {
		Recording *estimate.Recording `json:"recording"`
		Sound     plan.Sound          `json:"sound" doc:"One that is like it, with letters and a tape that no other sound has. It is not in the plan yet."`
	}
}

// estimateRoutes registers what a recording of a sound shows.
func (s *Server) estimateRoutes(api huma.API) {
	huma.Register(
		api,
		huma.Operation{
			OperationID: "estimate-sound", Method: http.MethodGet, Path: "/api/recordings/estimate",
			Summary: "What a recording of a sound shows, as the targets of a sound",
		},
		s.estimate,
	)
	huma.Register(
		api,
		huma.Operation{
			OperationID: "check-step", Method: http.MethodGet, Path: "/api/recordings/step",
			Summary: "What a recording shows of a step of dialling in, against the model",
		},
		s.checkStep,
	)
}

type stepInput struct {
	After  string  `query:"after" required:"true" maxLength:"100" doc:"A recording that was made after the step."`
	Before string  `query:"before" maxLength:"100" doc:"One that was made before it, the same way."`
	Dirt   float64 `query:"dirt" minimum:"0" maximum:"100" doc:"That the model says, in percent."`
	Louder float64 `query:"louder" minimum:"-60" maximum:"60" doc:"That the model says, in LU."`
}

type stepOutput struct{ Body estimate.Against }

func (s *Server) checkStep(_ context.Context, in *stepInput) (*stepOutput, error) {
	after, err := s.estimated(in.After)
	if err != nil {
		return nil, err
	}
	var before *estimate.Recording
	if in.Before != "" {
		if before, err = s.estimated(in.Before); err != nil {
			return nil, err
		}
	}
	return &stepOutput{estimate.Step(after, before, in.Dirt, in.Louder)}, nil
}

// estimated is what a recording that was brought shows.
func (s *Server) estimated(id string) (*estimate.Recording, error) {
	x, ok := s.clips.recording(id)
	if !ok {
		return nil, huma.Error404NotFound("The recording has expired: upload it again.")
	}
	r, err := estimate.Of(x, nil)
	if err != nil {
		return nil, s.problem(err, "")
	}
	return r, nil
}

func (s *Server) estimate(_ context.Context, in *estimateInput) (*estimateOutput, error) {
	x, ok := s.clips.recording(in.Recording)
	var home [][]float64
	if in.Home != "" && ok {
		home, ok = s.clips.recording(in.Home)
	}
	if !ok {
		return nil, huma.Error404NotFound("The recording has expired: upload it again.")
	}
	r, err := estimate.Of(x, home)
	if err != nil {
		return nil, s.problem(err, "")
	}
	p, _ := s.store.Plan()
	out := &estimateOutput{}
	name := strings.TrimSpace(in.Name)
	if name == "" {
		name = "Recorded"
	}
	out.Body.Sound = shorthand.SoundOf(name, p.Sounds)
	out.Body.Sound.ID, out.Body.Sound.Targets = s.newID(), r.Targets(plan.Tempo{BPM: in.BPM})
	out.Body.Recording = r
	return out, nil
}
