package api

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"envex/core/beside"
	"envex/core/plan"
)

type slotsInput struct {
	Rig plan.ID `query:"rig" required:"true"`
	Box plan.ID `query:"box" required:"true" doc:"A pedal in the chain."`
}

type slotsOutput struct {
	Body struct {
		Choices []plan.SlotChoice `json:"choices" doc:"Pedals that are not in the chain, and why one cannot stand there."`
	}
}

type pickInput struct {
	Rig  plan.ID `query:"rig" required:"true"`
	Swap plan.ID `query:"swap" required:"true"`
	Gear plan.ID `query:"gear" required:"true" doc:"A box of the slot."`
}

type pickOutput struct{ Body plan.Rig }

type otherwiseOutput struct {
	Body struct {
		Ways []plan.Otherwise `json:"ways"`
	}
}

type besideInput struct {
	Showing
	Waiting
	Slot  plan.ID   `query:"slot" doc:"A swap slot: each of its boxes is a column."`
	Into  []plan.ID `query:"into,explode" maxItems:"8" doc:"Destinations; each is a column."`
	Own   bool      `query:"own" doc:"The rig as it stands is a column, where a destination is looked at."`
	Tempo []float64 `query:"tempo,explode" maxItems:"8" doc:"How much faster all songs are, in per cent; each is a column."`
}

func (s *Server) slotRoutes(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "slot-choices", Method: http.MethodGet, Path: "/api/slots",
		Summary: "Which boxes could stand where one does, in a swap slot",
	}, s.slotChoices)
	huma.Register(api, huma.Operation{
		OperationID: "picked", Method: http.MethodGet, Path: "/api/slots/picked",
		Summary: "The rig with another box of a swap slot in the chain",
	}, s.picked)
	huma.Register(api, huma.Operation{
		OperationID: "played-otherwise", Method: http.MethodGet, Path: "/api/slots/otherwise",
		Summary: "Songs of a set that are played with other boxes than are in the chain, or by other recipes than the first",
	}, s.playedOtherwise)
	serve(s, api, job[besideInput, beside.Report]{
		id: "beside", path: "/api/beside",
		summary: "One set side by side: with the boxes of a swap slot, at destinations, faster or slower",
		scope: func(p *plan.Plan, in besideInput) (*plan.Plan, error) {
			whole, err := s.wholeFor(p, in.Showing)
			if err != nil {
				return nil, err
			}
			if _, err = besideWays(whole, in); err != nil {
				return nil, s.problem(err, "")
			}
			return whole, nil
		},
		run: func(ctx context.Context, p *plan.Plan, in besideInput, report func(float64)) (*beside.Report, error) {
			ways, err := besideWays(p, in)
			if err != nil {
				return nil, err
			}
			return beside.For(ctx, p, in.Rig, in.SetList, ways, beside.Options{Kept: s.kept, Progress: report})
		},
	})
}

// besideWays are the ways that are asked for.
func besideWays(p *plan.Plan, in besideInput) ([]beside.Way, error) {
	r, err := p.RigByID(in.Rig)
	if err != nil {
		return nil, err
	}
	asked := beside.Asked{Into: in.Into, TempoPct: in.Tempo}
	if in.Own {
		asked.Into = append([]plan.ID{""}, asked.Into...)
	}
	if in.Slot != "" {
		slot, ok := r.FindSwap(in.Slot)
		if !ok {
			return nil, huma.Error404NotFound("The plan does not have it.", &huma.ErrorDetail{
				Location: "query.slot", Message: "the rig has no such swap slot", Value: in.Slot,
			})
		}
		asked.Slot = slot
	}
	return beside.Ways(p, r, in.At, asked)
}

func (s *Server) slotChoices(_ context.Context, in *slotsInput) (*slotsOutput, error) {
	p, _ := s.store.Plan()
	if missing := append(missingRig(p, in.Rig, ""), missingGear(p, "box", in.Box)...); len(missing) > 0 {
		return nil, huma.Error404NotFound("The plan does not have it.", missing...)
	}
	r, _ := p.FindRig(in.Rig)
	out := &slotsOutput{}
	out.Body.Choices = p.SlotChoices(r, in.Box)
	return out, nil
}

func (s *Server) playedOtherwise(_ context.Context, in *Showing) (*otherwiseOutput, error) {
	p, _ := s.store.Plan()
	if missing := missingShow(p, *in); len(missing) > 0 {
		return nil, huma.Error404NotFound("The plan does not have it.", missing...)
	}
	there, err := p.At(in.Rig, in.At)
	if err != nil {
		return nil, s.problem(err, "")
	}
	out := &otherwiseOutput{}
	if out.Body.Ways, err = there.PlayedOtherwise(in.Rig, in.SetList); err != nil {
		return nil, s.problem(err, "")
	}
	return out, nil
}

func (s *Server) picked(_ context.Context, in *pickInput) (*pickOutput, error) {
	p, _ := s.store.Plan()
	if missing := append(missingRig(p, in.Rig, ""), missingGear(p, "gear", in.Gear)...); len(missing) > 0 {
		return nil, huma.Error404NotFound("The plan does not have it.", missing...)
	}
	r, _ := p.FindRig(in.Rig)
	next, err := p.Picked(r, in.Swap, in.Gear)
	if err != nil {
		return nil, s.problem(err, "")
	}
	return &pickOutput{Body: next}, nil
}
