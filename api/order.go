package api

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"envex/core/path"
	"envex/core/plan"
	"envex/core/signal"
)

type orderInput struct {
	Rig plan.ID `query:"rig" required:"true"`
	At  plan.ID `query:"destination" doc:"A destination of the rig; the rig as it stands when absent."`
}

type placeInput struct {
	Rig  plan.ID `query:"rig" required:"true"`
	At   plan.ID `query:"destination" doc:"A destination of the rig; the rig as it stands when absent."`
	Gear plan.ID `query:"gear" required:"true" doc:"A box that does not stand in the chain."`
}

type placeOutput struct{ Body *path.Placing }

type orderOutput struct{ Body *path.Report }

type lessonsOutput struct {
	Body struct {
		Lessons []path.Lesson `json:"lessons"`
	}
}

type cablesOutput struct{ Body *path.Cables }

// driven is the plan, and how much dirt the recipes of a rig take from its preamps.
func (s *Server) driven(ctx context.Context, in orderInput) (*plan.Plan, path.Driven, error) {
	p, _ := s.store.Plan()
	if missing := missingRig(p, in.Rig, in.At); missing != nil {
		return nil, nil, huma.Error404NotFound("The plan does not have it.", missing...)
	}
	there, err := p.At(in.Rig, in.At)
	if err != nil {
		return nil, nil, s.problem(err, "")
	}
	driven, err := signal.Driven(ctx, there, in.Rig, s.kept)
	if err != nil {
		return nil, nil, s.problem(err, "")
	}
	return p, driven, nil
}

func (s *Server) orderRoutes(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "get-order", Method: http.MethodGet, Path: "/api/order",
		Summary: "What is wrong with a rig's order, and the best one",
	},
		func(ctx context.Context, in *orderInput) (*orderOutput, error) {
			p, driven, err := s.driven(ctx, *in)
			if err != nil {
				return nil, err
			}
			report, err := path.JudgeDriven(ctx, p, in.Rig, in.At, driven)
			if err != nil {
				return nil, s.problem(err, "")
			}
			return &orderOutput{Body: report}, nil
		})
	huma.Register(api, huma.Operation{
		OperationID: "get-lessons", Method: http.MethodGet, Path: "/api/order/lessons",
		Summary: "Every rule of order: why, who sees it otherwise, what to listen for, and how it stands on a rig",
	},
		func(ctx context.Context, in *orderInput) (*lessonsOutput, error) {
			p, driven, err := s.driven(ctx, *in)
			if err != nil {
				return nil, err
			}
			out := &lessonsOutput{}
			if out.Body.Lessons, err = path.Lessons(p, in.Rig, in.At, driven); err != nil {
				return nil, s.problem(err, "")
			}
			return out, nil
		})
	huma.Register(api, huma.Operation{
		OperationID: "get-place", Method: http.MethodGet, Path: "/api/place",
		Summary: "Where a box that is owned would best stand in a rig's chain",
	},
		func(ctx context.Context, in *placeInput) (*placeOutput, error) {
			p, _ := s.store.Plan()
			if missing := missingRig(p, in.Rig, in.At); missing != nil {
				return nil, huma.Error404NotFound("The plan does not have it.", missing...)
			}
			there, err := p.At(in.Rig, in.At)
			if err != nil {
				return nil, s.problem(err, "")
			}
			driven, err := signal.Driven(ctx, there, in.Rig, s.kept)
			if err != nil {
				return nil, s.problem(err, "")
			}
			found, err := path.Place(ctx, p, in.Rig, in.At, in.Gear, driven)
			if err != nil {
				return nil, s.problem(err, "")
			}
			return &placeOutput{Body: found}, nil
		})
	huma.Register(api, huma.Operation{
		OperationID: "get-cables", Method: http.MethodGet, Path: "/api/cables",
		Summary: "Every cable of a rig, derived from its path",
	},
		func(_ context.Context, in *orderInput) (*cablesOutput, error) {
			p, _ := s.store.Plan()
			if missing := missingRig(p, in.Rig, in.At); missing != nil {
				return nil, huma.Error404NotFound("The plan does not have it.", missing...)
			}
			cables, err := path.DeriveCables(p, in.Rig, in.At)
			if err != nil {
				return nil, s.problem(err, "")
			}
			return &cablesOutput{Body: cables}, nil
		})
}
