package api

import (
	"context"
	"encoding/json"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"envex/core/plan"
	"envex/core/repair"
	"envex/store"
)

type repairsInput struct {
	Showing
	Waiting
	Position int `query:"position" minimum:"-1" maximum:"100000" default:"-1" doc:"Only the change into this section; all when -1."`
}

type compareInput struct {
	Showing
	Waiting
	With   plan.ID `query:"with" required:"true" doc:"The other rig."`
	WithAt plan.ID `query:"with_destination" doc:"Where the other plugs in."`
}

type whatIfInput struct {
	Showing
	Waiting
	Gear plan.ID `query:"gear" doc:"A box of the gear pile."`
	Kind string  `query:"kind" maxLength:"100" doc:"Or a generic kind."`
}

type editsInput struct {
	Request string `header:"Idempotency-Key" maxLength:"100"`
	Body    struct {
		Rig         plan.ID       `json:"rig"`
		Destination plan.ID       `json:"destination,omitempty"`
		Label       string        `json:"label" minLength:"1" maxLength:"200"`
		Edits       []repair.Edit `json:"edits" minItems:"1" maxItems:"50"`
		Gear        *plan.Gear    `json:"gear,omitempty" doc:"A box to be added to the pile first."`
	}
}

type editsOutput struct {
	Body struct {
		Transaction int64     `json:"transaction"`
		Changed     []plan.ID `json:"changed"`
	}
}

func (s *Server) repairRoutes(api huma.API) {
	serve(s, api, job[repairsInput, repair.Report]{
		id: "repairs", path: "/api/repairs", summary: "The smallest edits that mend each change that fails",
		scope: func(p *plan.Plan, in repairsInput) (*plan.Plan, error) { return s.wholeFor(p, in.Showing) },
		run: func(ctx context.Context, p *plan.Plan, in repairsInput, report func(float64)) (*repair.Report, error) {
			o := repair.Options{Progress: report}
			if in.Position >= 0 {
				o.Position = &in.Position
			}
			return repair.Find(ctx, p, repair.Site{Rig: in.Rig, Destination: in.At}, in.SetList, o)
		},
	})
	serve(s, api, job[compareInput, repair.Comparison]{
		id: "compare", path: "/api/compare", summary: "The same set on another rig",
		scope: func(p *plan.Plan, in compareInput) (*plan.Plan, error) {
			if _, err := s.wholeFor(p, Showing{Rig: in.With, SetList: in.SetList, At: in.WithAt}); err != nil {
				return nil, err
			}
			return s.wholeFor(p, in.Showing)
		},
		run: func(ctx context.Context, p *plan.Plan, in compareInput, _ func(float64)) (*repair.Comparison, error) {
			return repair.Compare(ctx, p, repair.Site{Rig: in.Rig, Destination: in.At}, repair.Site{Rig: in.With, Destination: in.WithAt}, in.SetList)
		},
	})
	serve(s, api, job[whatIfInput, repair.WhatIf]{
		id: "what-if", path: "/api/what-if", summary: "What a box more would bring",
		scope: func(p *plan.Plan, in whatIfInput) (*plan.Plan, error) {
			if (in.Gear == "") == (in.Kind == "") {
				return nil, huma.Error422UnprocessableEntity("Name a box of the gear pile, or a generic kind.")
			}
			return s.wholeFor(p, in.Showing)
		},
		run: func(ctx context.Context, p *plan.Plan, in whatIfInput, _ func(float64)) (*repair.WhatIf, error) {
			box := repair.Box{Gear: in.Gear, Kind: in.Kind}
			if box.Kind != "" {
				box.Gear = s.newID()
			}
			return repair.Consider(ctx, p, repair.Site{Rig: in.Rig, Destination: in.At}, in.SetList, box)
		},
	})
	huma.Register(api, huma.Operation{
		OperationID: "post-edits", Method: http.MethodPost, Path: "/api/edits", Summary: "Carry out the edits of a repair",
		Description: "One transaction: all of it is done, or nothing, and undo takes all of it back.", MaxBodyBytes: MaxBody,
	}, s.carryOut)
}

// carryOut applies edits to the plan and writes everything they changed as one transaction.
func (s *Server) carryOut(ctx context.Context, in *editsInput) (*editsOutput, error) {
	p, versions := s.store.Plan()
	if missing := missingRig(p, in.Body.Rig, in.Body.Destination); missing != nil {
		return nil, huma.Error404NotFound("The plan does not have it.", missing...)
	}
	before := *p
	if in.Body.Gear != nil {
		if _, taken := versions[in.Body.Gear.ID]; !taken {
			before.Put(*in.Body.Gear)
		}
	}
	after, err := repair.Apply(ctx, &before, repair.Site{Rig: in.Body.Rig, Destination: in.Body.Destination}, in.Body.Edits...)
	if err != nil {
		return nil, s.refused(err)
	}
	had := map[plan.ID]string{}
	for _, a := range p.All() {
		had[a.AggregateID()] = written(a)
	}
	var edits []store.Edit
	for _, a := range after.All() {
		if written(a) != had[a.AggregateID()] {
			edits = append(edits, store.Edit{Read: versions[a.AggregateID()], Put: a})
		}
	}
	out := &editsOutput{}
	out.Body.Changed = []plan.ID{}
	if len(edits) == 0 {
		return nil, huma.Error409Conflict("The plan is that way already; nothing was changed.")
	}
	done, err := s.store.Apply(ctx, in.Body.Label, in.Request, edits...)
	if err != nil {
		return nil, s.problem(err, "")
	}
	out.Body.Transaction = done.Tx
	for _, e := range edits {
		out.Body.Changed = append(out.Body.Changed, e.Put.AggregateID())
	}
	return out, nil
}

// refused says why edits were not carried out.
func (s *Server) refused(err error) error {
	if problems, ok := err.(plan.Problems); ok {
		return s.problem(problems, "")
	}
	return huma.Error422UnprocessableEntity(sentence(err.Error()) + " Nothing was changed.")
}

func written(a plan.Aggregate) string {
	data, err := json.Marshal(a)
	if err != nil {
		return ""
	}
	return string(data)
}
