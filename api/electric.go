package api

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"envex/core/electric"
	"envex/core/plan"
)

type electricInput struct {
	Rig     plan.ID  `query:"rig" required:"true"`
	At      plan.ID  `query:"destination" doc:"A destination of the rig; the rig as it stands when absent."`
	SetList plan.ID  `query:"set_list" doc:"Jumps are looked for in it; between all sounds when absent."`
	Buffer  plan.Key `query:"buffer_before" doc:"A buffer is tried before this stop, or the split of this id."`
	Volume  float64  `query:"volume" default:"-1" minimum:"-1" maximum:"10" doc:"The guitar's volume, 0 to 10, in place of what recipes say; -1 for what they say."`
}

type electricOutput struct{ Body *electric.Report }

type powerOutput struct{ Body *electric.Power }

func (s *Server) electricRoutes(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "get-electric", Method: http.MethodGet, Path: "/api/electric",
		Summary: "The treble each sound of a rig loses, and whether levels fit",
	},
		func(_ context.Context, in *electricInput) (*electricOutput, error) {
			p, _ := s.store.Plan()
			missing := missingRig(p, in.Rig, in.At)
			if in.SetList != "" {
				missing = append(missing, missingSet(p, in.SetList)...)
			}
			if missing != nil {
				return nil, huma.Error404NotFound("The plan does not have it.", missing...)
			}
			o := electric.Options{SetList: in.SetList, Buffer: in.Buffer}
			if in.Volume >= 0 {
				o.Volume = &in.Volume
			}
			report, err := electric.Solve(p, in.Rig, in.At, o)
			if err != nil {
				return nil, s.problem(err, "")
			}
			return &electricOutput{Body: report}, nil
		})
	huma.Register(api, huma.Operation{
		OperationID: "get-power", Method: http.MethodGet, Path: "/api/power",
		Summary: "What feeds each box of a rig, what is wrong with it, and the best assignment",
	},
		func(_ context.Context, in *orderInput) (*powerOutput, error) {
			p, _ := s.store.Plan()
			if missing := missingRig(p, in.Rig, in.At); missing != nil {
				return nil, huma.Error404NotFound("The plan does not have it.", missing...)
			}
			report, err := electric.FeedRig(p, in.Rig, in.At)
			if err != nil {
				return nil, s.problem(err, "")
			}
			return &powerOutput{Body: report}, nil
		})
}

// harm is what a write would plug that kills pedals, and that is not plugged so already.
func (s *Server) harm(a plan.Aggregate) plan.Problems {
	r, ok := a.(plan.Rig)
	if !ok {
		return nil
	}
	p, _ := s.store.Plan()
	return electric.Harm(p, r)
}
