package api

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"envex/core/layers"
	"envex/core/plan"
	"envex/core/signal"
)

type layersOutput struct{ Body *layers.Report }

// LayersHeard is what becomes of layers under other sounds.
type LayersHeard struct {
	Heard []LayerHeard `json:"heard"`
}

// LayerHeard is a layer in a section where what stands after the looper is set otherwise.
type LayerHeard struct {
	Entry   plan.ID `json:"entry"`
	Section plan.ID `json:"section"`
	Layer   string  `json:"layer"`
	signal.Changed
}

func (s *Server) layerRoutes(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "get-layers", Method: http.MethodGet, Path: "/api/layers",
		Summary: "What a looper records and plays over a set: its presses on the bar, and what changes a layer",
	},
		func(_ context.Context, in *Showing) (*layersOutput, error) {
			p, _ := s.store.Plan()
			if missing := missingShow(p, *in); len(missing) > 0 {
				return nil, huma.Error404NotFound("The plan does not have it.", missing...)
			}
			report, err := layers.Compute(p, in.Rig, in.At, in.SetList)
			if err != nil {
				return nil, s.problem(err, "")
			}
			return &layersOutput{Body: report}, nil
		})
	metered(s, api, "layers-heard", "/api/layers/heard", "How much louder and dirtier each layer is under another sound",
		func(in levelsInput) AsPlayed { return AsPlayed{Rigging: in.Rigging} },
		func(ctx context.Context, p *plan.Plan, in levelsInput, o signal.Options) (*LayersHeard, error) {
			report, err := layers.Compute(p, in.Rig, "", in.SetList)
			if err != nil {
				return nil, err
			}
			out := &LayersHeard{Heard: []LayerHeard{}}
			var laid []signal.Laid
			for _, song := range report.Songs {
				for _, u := range song.Under {
					laid = append(laid, signal.Laid{Sound: u.Recorded, Recipe: u.Recipe, Over: u.Over})
					out.Heard = append(out.Heard, LayerHeard{Entry: song.Entry, Section: u.Section, Layer: u.Layer})
				}
			}
			if len(laid) == 0 {
				return out, nil
			}
			changed, err := signal.Overlaid(ctx, p, in.Rig, laid, o)
			for i := range changed {
				out.Heard[i].Changed = changed[i]
			}
			return out, err
		})
}
