package api

import (
	"context"
	"encoding/json"
	"errors"
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
	Writing
	Body struct {
		Rig         plan.ID       `json:"rig"`
		Destination plan.ID       `json:"destination,omitempty"`
		Label       string        `json:"label" minLength:"1" maxLength:"200"`
		Edits       []repair.Edit `json:"edits" minItems:"1" maxItems:"50"`
		Gear        *plan.Gear    `json:"gear,omitempty" doc:"A box to be added to the pile first."`
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
			return repair.Compare(
				ctx, p, repair.Site{Rig: in.Rig, Destination: in.At}, repair.Site{Rig: in.With, Destination: in.WithAt}, in.SetList,
			)
		},
	})
	serve(s, api, job[whatIfInput, repair.WhatIf]{
		id: "what-if", path: "/api/what-if", summary: "What adding a pedal would gain",
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

// carryOut applies edits to the plan and writes everything they changed as one transaction. They may
// take their time to work out, so that is done on a plan that others go on writing; where one of them
// changed what it depends on, it is done anew.
func (s *Server) carryOut(ctx context.Context, in *editsInput) (*writeOutput, error) {
	if done, ok, err := s.store.Already(ctx, asked(ctx, in.Request)); ok || err != nil {
		return s.written(ctx, in.Writing, "", done, err)
	}
	for tries := 3; ; tries-- {
		seen := s.store.State()
		if err := s.current(seen, in.From, in.Body.Rig); err != nil {
			return nil, s.problem(err, "")
		}
		edits, err := s.repaired(ctx, seen, in)
		if err != nil {
			return nil, err
		}
		still := in.Writing
		still.From = s.stateOf(seen.Seq)
		done, err := s.change(
			ctx, still, []plan.ID{in.Body.Rig},
			func(store.State) (string, []store.Edit, error) { return in.Body.Label, edits, nil },
		)
		var older *MovedError
		if errors.As(err, &older) && tries > 1 {
			continue
		}
		return s.written(ctx, in.Writing, "", done, err)
	}
}

// repaired are the writes that the edits of a repair come to on the plan as it stands.
func (s *Server) repaired(ctx context.Context, now store.State, in *editsInput) ([]store.Edit, error) {
	if missing := missingRig(now.Plan, in.Body.Rig, in.Body.Destination); missing != nil {
		return nil, huma.Error404NotFound("The plan does not have it.", missing...)
	}
	before := *now.Plan
	if g := in.Body.Gear; g != nil {
		if _, there := before.FindGear(g.ID); !there {
			before.Put(*g)
		}
	}
	after, err := repair.Apply(
		ctx, &before, repair.Site{Rig: in.Body.Rig, Destination: in.Body.Destination}, in.Body.Edits...,
	)
	if err != nil {
		return nil, s.refusal(err)
	}
	had := map[plan.ID]string{}
	for _, a := range now.Plan.All() {
		had[a.AggregateID()] = written(a)
	}
	var edits []store.Edit
	for _, a := range after.All() {
		id := a.AggregateID()
		if was, there := had[id]; written(a) != was {
			read := now.Versions[id]
			if !there {
				read = 0
			}
			edits = append(edits, store.Edit{Read: read, Put: a})
		}
	}
	if len(edits) == 0 {
		return nil, huma.Error409Conflict("The plan is that way already; nothing was changed.")
	}
	return edits, nil
}

func written(a plan.Aggregate) string {
	data, err := json.Marshal(a)
	if err != nil {
		return ""
	}
	return string(data)
}
