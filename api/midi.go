package api

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"envex/core/midi"
	"envex/core/plan"
)

type midiInput struct {
	Rig plan.ID `query:"rig" required:"true"`
	At  plan.ID `query:"destination"`
}

type midiOutput struct{ Body *midi.Report }

type monitorInput struct {
	Body struct {
		Rig         plan.ID     `json:"rig"`
		Destination plan.ID     `json:"destination,omitempty"`
		Recalls     []midi.Slot `json:"recalls" maxItems:"500" doc:"Programs that are recalled, in order."`
	}
}

type monitorOutput struct{ Body *midi.Monitor }

func (s *Server) midiRoutes(api huma.API) {
	at := func(rig, destination plan.ID) (*plan.Plan, error) {
		p, _ := s.store.Plan()
		if missing := missingRig(p, rig, destination); missing != nil {
			return nil, huma.Error404NotFound("The plan does not have it.", missing...)
		}
		there, err := p.At(rig, destination)
		if err != nil {
			return nil, s.problem(err, "")
		}
		return there, nil
	}
	huma.Register(api, huma.Operation{
		OperationID: "get-midi", Method: http.MethodGet, Path: "/api/midi",
		Summary: "What every program of a rig sends, and to whom",
	},
		func(_ context.Context, in *midiInput) (*midiOutput, error) {
			p, err := at(in.Rig, in.At)
			if err != nil {
				return nil, err
			}
			report, err := midi.Map(p, in.Rig)
			if err != nil {
				return nil, s.problem(err, "")
			}
			return &midiOutput{Body: report}, nil
		})
	huma.Register(api, huma.Operation{OperationID: "post-midi-monitor", Method: http.MethodPost, Path: "/api/midi/monitor",
		Summary:     "Send programs to simulated devices, and see where they stand",
		Description: "Nothing leaves the program and nothing is changed."},
		func(_ context.Context, in *monitorInput) (*monitorOutput, error) {
			p, err := at(in.Body.Rig, in.Body.Destination)
			if err != nil {
				return nil, err
			}
			m, err := midi.Play(p, in.Body.Rig, in.Body.Recalls)
			if err != nil {
				return nil, s.problem(err, "")
			}
			return &monitorOutput{Body: m}, nil
		})
}
