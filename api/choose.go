package api

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"envex/core/board"
	"envex/core/catalog"
	"envex/core/choose"
	"envex/core/plan"
)

type chooseInput struct {
	Waiting
	Rig     plan.ID   `query:"rig" doc:"Whose guitars and amp are played; the first guitar and amp when absent."`
	SetList plan.ID   `query:"set_list" doc:"Whose sounds have to be made; all sounds when absent."`
	Pile    []plan.ID `query:"pile,explode" maxItems:"64" doc:"The pedals that may be taken; all that are owned when absent."`
	Kinds   []string  `query:"kinds,explode" maxItems:"16" doc:"Generic kinds that may be taken besides."`
	Most    int       `query:"most" minimum:"0" maximum:"64" doc:"Boxes; as many as it takes when absent."`
	Board   plan.ID   `query:"board" maxLength:"100" doc:"On which they are to stand, owned or of a plain size."`
	Supply  plan.ID   `query:"supply" doc:"By which they are to be fed."`
}

func (s *Server) chooseRoutes(api huma.API) {
	serve(s, api, job[chooseInput, choose.Report]{
		id: "choose-boxes", path: "/api/choose",
		summary: "The fewest boxes that make every sound of a set, and the rig they come to",
		scope: func(p *plan.Plan, in chooseInput) (*plan.Plan, error) {
			if missing := notThere(p, in); len(missing) > 0 {
				return nil, huma.Error404NotFound("The plan does not have it.", missing...)
			}
			return p, nil
		},
		run: func(ctx context.Context, p *plan.Plan, in chooseInput, report func(float64)) (*choose.Report, error) {
			return choose.For(ctx, p, choose.Options{
				Rig: in.Rig, SetList: in.SetList, Pile: in.Pile, Kinds: in.Kinds, Most: in.Most, Board: in.Board,
				Supply: in.Supply, Progress: report, Kept: s.kept,
			})
		},
	})
}

// notThere is what a choice names and the plan does not have.
func notThere(p *plan.Plan, in chooseInput) []error {
	var missing []error
	no := func(where, what string, value any) {
		missing = append(
			missing, &huma.ErrorDetail{Location: "query." + where, Message: "there is no such " + what, Value: value},
		)
	}
	if in.Rig != "" {
		missing = append(missing, missingRig(p, in.Rig, "")...)
	}
	if in.SetList != "" {
		missing = append(missing, missingSet(p, in.SetList)...)
	}
	for _, id := range in.Pile {
		if g, ok := p.FindGear(id); !ok || g.Kind != plan.Pedal {
			no("pile", "pedal", id)
		}
	}
	for _, id := range in.Kinds {
		if _, ok := catalog.Find(id); !ok {
			no("kinds", "kind", id)
		}
	}
	if in.Board != "" && !hasBoard(p, in.Board) {
		no("board", "board", in.Board)
	}
	if g, ok := p.FindGear(in.Supply); in.Supply != "" && (!ok || g.Kind != plan.Supply) {
		no("supply", "supply", in.Supply)
	}
	return missing
}

// hasBoard reports whether there is a board of an id, owned or of a plain size.
func hasBoard(p *plan.Plan, id plan.ID) bool {
	if g, ok := p.FindGear(id); ok {
		return g.Kind == plan.Board
	}
	for _, g := range board.Sizes() {
		if g.ID == id {
			return true
		}
	}
	return false
}
