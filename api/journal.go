package api

import (
	"context"
	"fmt"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"envex/core/journal"
	"envex/core/plan"
	"envex/store"
)

type journalInput struct {
	Text string  `query:"text" maxLength:"200" doc:"Words that must all be in the line."`
	Gear plan.ID `query:"gear" doc:"The box it is about."`
	Show plan.ID `query:"show"`
	Kind string  `query:"kind" enum:"before,fault,change,battery,after"`
}

type journalOutput struct {
	Body struct {
		Lines []journal.Line `json:"lines"`
	}
}

type fixInput struct {
	Writing
	Show plan.ID `path:"id"`
	Fix  int     `path:"fix" minimum:"0" maximum:"999" doc:"Which change of the night, from 0."`
	Body struct {
		Text string `json:"text,omitempty" doc:"What the change is called: refused when another stands there by now."`
	}
}

type batteryInput struct {
	Writing
	Show plan.ID `path:"id"`
	Gear plan.ID `path:"gear"`
}

func (s *Server) journalRoutes(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "get-journal", Method: http.MethodGet, Path: "/api/journal",
		Summary: "What was written down of shows, the latest first",
	},
		func(_ context.Context, in *journalInput) (*journalOutput, error) {
			p, _ := s.store.Plan()
			out := &journalOutput{}
			out.Body.Lines = journal.Read(
				p, journal.Query{Text: in.Text, Gear: in.Gear, Show: in.Show, Kind: journal.Kind(in.Kind)},
			)
			return out, nil
		})
	huma.Register(api, huma.Operation{OperationID: "keep-fix", Method: http.MethodPost,
		Path: "/api/shows/{id}/fixes/{fix}/keep", Summary: "Carry a change of the night over to the rig",
		Description: "The rig and the show are written as one transaction, and undone as one."}, s.keepFix)
	huma.Register(
		api,
		huma.Operation{
			OperationID: "leave-fix", Method: http.MethodPost, Path: "/api/shows/{id}/fixes/{fix}/leave",
			Summary: "Say that a change was for that night alone",
		},
		s.leaveFix,
	)
	huma.Register(
		api,
		huma.Operation{
			OperationID: "fresh-battery", Method: http.MethodPost, Path: "/api/shows/{id}/batteries/{gear}",
			Summary: "Write a fresh battery down, and set its hours to nothing",
		},
		s.freshBattery,
	)
}

// nightWork is a write about a show, worked out from the plan as it stands.
func (s *Server) nightWork(
	ctx context.Context, w Writing, show plan.ID, work func(p *plan.Plan) (label string, put []plan.Aggregate, err error),
) (*writeOutput, error) {
	done, err := s.change(ctx, w, []plan.ID{show}, func(now store.State) (string, []store.Edit, error) {
		if _, ok := now.Plan.FindShow(show); !ok {
			return "", nil, huma.Error404NotFound(
				"The plan does not have it.", &huma.ErrorDetail{Location: "path.id", Message: "there is no such show", Value: show},
			)
		}
		label, put, err := work(now.Plan)
		if err != nil {
			return "", nil, err
		}
		edits := make([]store.Edit, len(put))
		for i, a := range put {
			edits[i] = store.Edit{Read: now.Versions[a.AggregateID()], Put: a}
		}
		return label, edits, nil
	})
	return s.written(ctx, w, show, done, err)
}

// sameFix fails when another change stands where the one that was seen stood.
func sameFix(p *plan.Plan, in *fixInput) error {
	show, _ := p.FindShow(in.Show)
	if in.Body.Text != "" && (in.Fix >= len(show.Fixes) || show.Fixes[in.Fix].Text != in.Body.Text) {
		return huma.Error409Conflict(
			fmt.Sprintf("Not done: the changes of %s were edited elsewhere meanwhile. Look again.", show.Name),
		)
	}
	return nil
}

func (s *Server) keepFix(ctx context.Context, in *fixInput) (*writeOutput, error) {
	return s.nightWork(ctx, in.Writing, in.Show, func(p *plan.Plan) (string, []plan.Aggregate, error) {
		if err := sameFix(p, in); err != nil {
			return "", nil, err
		}
		rig, show, err := journal.CarryOver(p, in.Show, in.Fix)
		if err != nil {
			return "", nil, s.problem(err, "")
		}
		return fmt.Sprintf("Keep for %s: %s", rig.Name, show.Fixes[in.Fix].Text), []plan.Aggregate{rig, show}, nil
	})
}

func (s *Server) leaveFix(ctx context.Context, in *fixInput) (*writeOutput, error) {
	return s.nightWork(ctx, in.Writing, in.Show, func(p *plan.Plan) (string, []plan.Aggregate, error) {
		if err := sameFix(p, in); err != nil {
			return "", nil, err
		}
		show, err := journal.Leave(p, in.Show, in.Fix)
		if err != nil {
			return "", nil, s.problem(err, "")
		}
		return "That night alone: " + show.Fixes[in.Fix].Text, []plan.Aggregate{show}, nil
	})
}

func (s *Server) freshBattery(ctx context.Context, in *batteryInput) (*writeOutput, error) {
	return s.nightWork(ctx, in.Writing, in.Show, func(p *plan.Plan) (string, []plan.Aggregate, error) {
		rig, show, err := journal.Freshen(p, in.Show, in.Gear)
		if err != nil {
			return "", nil, s.problem(err, "")
		}
		g, _ := p.FindGear(in.Gear)
		return "Fresh battery in " + g.Name, []plan.Aggregate{rig, show}, nil
	})
}
