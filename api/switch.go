package api

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"envex/core/plan"
	"envex/core/switching"
)

// Showing names a rig, where it plugs in, and the set it plays.
type Showing struct {
	Rig     plan.ID `query:"rig" required:"true"`
	SetList plan.ID `query:"set_list" required:"true"`
	At      plan.ID `query:"destination" doc:"A destination of the rig; the rig as it stands when absent."`
}

// bundleOf is the part of a plan that a rig and a set list need.
func (s *Server) bundleOf(p *plan.Plan, in Showing) (*plan.Plan, error) {
	if missing := missingShow(p, in); len(missing) > 0 {
		return nil, huma.Error404NotFound("The plan does not have it.", missing...)
	}
	return p.Bundle(in.Rig, in.SetList)
}

// wholeFor is the whole plan, once it is known to have what is asked for.
func (s *Server) wholeFor(p *plan.Plan, in Showing) (*plan.Plan, error) {
	_, err := s.bundleOf(p, in)
	return p, err
}

type switchInput struct {
	Showing
	Waiting
	Controller plan.ID          `query:"controller" doc:"Where the rig has several."`
	School     switching.School `query:"school" enum:"page,song,direct" default:"page"`
	Loops      bool             `query:"loops" doc:"Choose which blocks get loops too."`
}

type seatsInput struct {
	Showing
	Waiting
	Controller plan.ID `query:"controller" required:"true"`
	Bank       string  `query:"bank" required:"true" maxLength:"200"`
	Slot       string  `query:"slot" required:"true" maxLength:"200"`
}

// Seats are the slots a program could be moved to.
type Seats struct {
	Seats []switching.Seat `json:"seats" doc:"The first is where it stands."`
}

func (s *Server) switchRoutes(api huma.API) {
	serve(s, api, job[switchInput, switching.Solution]{
		id: "switch", path: "/api/switch", summary: "Which programs a controller needs for a set, and the slot of each",
		scope: func(p *plan.Plan, in switchInput) (*plan.Plan, error) { return s.wholeFor(p, in.Showing) },
		run: func(ctx context.Context, p *plan.Plan, in switchInput, report func(float64)) (*switching.Solution, error) {
			there, err := p.At(in.Rig, in.At)
			if err != nil {
				return nil, err
			}
			return switching.Solve(ctx, there, in.Rig, in.SetList, switching.Options{
				Controller: in.Controller, School: in.School, ChooseLoops: in.Loops, Progress: report,
			})
		},
	})
	serve(s, api, job[seatsInput, Seats]{
		id: "seats", path: "/api/switch/seats", summary: "What moving a program to each other slot would come to",
		scope: func(p *plan.Plan, in seatsInput) (*plan.Plan, error) { return s.bundleOf(p, in.Showing) },
		run: func(ctx context.Context, p *plan.Plan, in seatsInput, report func(float64)) (*Seats, error) {
			there, err := p.At(in.Rig, in.At)
			if err != nil {
				return nil, err
			}
			list, err := switching.Seats(
				ctx, there, in.Rig, in.SetList, in.Controller, switching.Seat{Bank: in.Bank, Slot: in.Slot}, report,
			)
			return &Seats{Seats: list}, err
		},
	})
}
