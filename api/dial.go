package api

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"envex/core/dial"
	"envex/core/plan"
)

// MadeBy is a sound, and the recipe that makes it.
type MadeBy struct {
	Sound  plan.ID `query:"sound" required:"true"`
	Recipe plan.ID `query:"recipe" doc:"A recipe of the sound, where the rig's first is not meant."`
}

type knobsInput struct {
	AsPlayed
	Waiting
	MadeBy
}

type startsInput struct {
	Rigging
	Waiting
}

type dialledInput struct {
	Rig plan.ID `query:"rig" required:"true"`
	At  plan.ID `query:"destination" doc:"A destination of the rig; the rig as it stands when absent."`
}

type dialledOutput struct{ Body *dial.Found }

type dialledRigInput struct {
	Rig plan.ID `query:"rig" required:"true"`
	At  plan.ID `query:"destination" doc:"A destination of the rig; the rig as it stands when absent."`
	Set plan.ID `query:"set" doc:"A set of positions that was kept on the rig, to go back to."`
	Amp plan.ID `query:"amp" doc:"Or an amp of the rig, to start from the average of those of its family."`
}

type dialledRigOutput struct {
	Body struct {
		Rig plan.Rig `json:"rig" doc:"The whole rig with its knobs there."`
	}
}

func (s *Server) getDialled(_ context.Context, in *dialledInput) (*dialledOutput, error) {
	p, _ := s.store.Plan()
	if missing := missingRig(p, in.Rig, in.At); missing != nil {
		return nil, huma.Error404NotFound("The plan does not have it.", missing...)
	}
	found, err := dial.FoundOn(p, in.Rig, in.At)
	if err != nil {
		return nil, s.problem(err, "")
	}
	return &dialledOutput{Body: found}, nil
}

// getDialledRig is a rig with its knobs where they were found good.
func (s *Server) getDialledRig(_ context.Context, in *dialledRigInput) (*dialledRigOutput, error) {
	p, _ := s.store.Plan()
	if missing := missingRig(p, in.Rig, in.At); missing != nil {
		return nil, huma.Error404NotFound("The plan does not have it.", missing...)
	}
	var err error
	out := &dialledRigOutput{}
	switch {
	case (in.Set == "") == (in.Amp == ""):
		return nil, huma.Error422UnprocessableEntity("Say which set to go back to, or which amp to start on.")
	case in.Set != "":
		out.Body.Rig, err = dial.Back(p, in.Rig, in.At, in.Set)
	default:
		out.Body.Rig, err = dial.Start(p, in.Rig, in.At, in.Amp)
	}
	if err != nil {
		return nil, s.problem(err, "")
	}
	return out, nil
}

func (s *Server) dialRoutes(api huma.API) {
	huma.Register(
		api,
		huma.Operation{
			OperationID: "get-dialled", Method: http.MethodGet, Path: "/api/dialled",
			Summary: "Where the knobs of a rig stand, and where they were found good",
		},
		s.getDialled,
	)
	huma.Register(
		api,
		huma.Operation{
			OperationID: "get-dialled-rig", Method: http.MethodGet, Path: "/api/dialled/rig",
			Summary: "A rig with its knobs where they were found good",
		},
		s.getDialledRig,
	)
	serve(s, api, job[knobsInput, dial.Recipe]{
		id: "dial-steps", path: "/api/dial/steps", summary: "How a sound is dialled in, one box at a time",
		scope: func(p *plan.Plan, in knobsInput) (*plan.Plan, error) { return s.playedScope(p, in.AsPlayed) },
		run: func(ctx context.Context, p *plan.Plan, in knobsInput, report func(float64)) (*dial.Recipe, error) {
			return dial.Steps(ctx, p, in.Rig, in.At, in.Sound, in.Recipe, dial.Options{
				Song: in.Song, Kept: s.kept, Progress: report,
			})
		},
	})
	serve(s, api, job[startsInput, dial.Channels]{
		id: "dial-channels", path: "/api/dial/channels", summary: "The channels of an amp made level, and the leads above them",
		scope: func(p *plan.Plan, in startsInput) (*plan.Plan, error) { return s.rigScope(p, in.Rigging) },
		run: func(ctx context.Context, p *plan.Plan, in startsInput, report func(float64)) (*dial.Channels, error) {
			return dial.LevelChannels(ctx, p, in.Rig, in.At, dial.Options{Kept: s.kept, Progress: report})
		},
	})
	serve(s, api, job[startsInput, dial.Starts]{
		id: "dial-starts", path: "/api/dial/starts", summary: "Where to begin on the amp of a rig",
		scope: func(p *plan.Plan, in startsInput) (*plan.Plan, error) { return s.rigScope(p, in.Rigging) },
		run: func(ctx context.Context, p *plan.Plan, in startsInput, report func(float64)) (*dial.Starts, error) {
			return dial.StartPoints(ctx, p, in.Rig, in.At, dial.Options{Kept: s.kept, Progress: report})
		},
	})
	serve(s, api, job[knobsInput, dial.Travels]{
		id: "knobs", path: "/api/knobs", summary: "What each knob of a sound does over its travel",
		scope: func(p *plan.Plan, in knobsInput) (*plan.Plan, error) { return s.playedScope(p, in.AsPlayed) },
		run: func(ctx context.Context, p *plan.Plan, in knobsInput, report func(float64)) (*dial.Travels, error) {
			there, err := in.of(p)
			if err != nil {
				return nil, err
			}
			return dial.Knobs(ctx, there, in.Rig, in.Sound, in.Recipe, dial.Options{Kept: s.kept, Progress: report})
		},
	})
}
