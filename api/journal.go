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

// ShowEdit says which version of a show was read.
type ShowEdit struct {
	Version int `json:"version" minimum:"1" doc:"The version of the show that was read."`
}

type fixInput struct {
	Show    plan.ID `path:"id"`
	Fix     int     `path:"fix" minimum:"0" maximum:"999" doc:"Which change of the night, from 0."`
	Request string  `header:"Idempotency-Key" maxLength:"100"`
	Body    ShowEdit
}

type batteryInput struct {
	Show    plan.ID `path:"id"`
	Gear    plan.ID `path:"gear"`
	Request string  `header:"Idempotency-Key" maxLength:"100"`
	Body    ShowEdit
}

func (s *Server) journalRoutes(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "get-journal", Method: http.MethodGet, Path: "/api/journal", Summary: "What was written down of shows, the latest first"},
		func(_ context.Context, in *journalInput) (*journalOutput, error) {
			p, _ := s.store.Plan()
			out := &journalOutput{}
			out.Body.Lines = journal.Read(p, journal.Query{Text: in.Text, Gear: in.Gear, Show: in.Show, Kind: journal.Kind(in.Kind)})
			return out, nil
		})
	huma.Register(api, huma.Operation{OperationID: "keep-fix", Method: http.MethodPost, Path: "/api/shows/{id}/fixes/{fix}/keep", Summary: "Carry a change of the night over to the rig",
		Description: "The rig and the show are written as one transaction, and undone as one."}, s.keepFix)
	huma.Register(api, huma.Operation{OperationID: "leave-fix", Method: http.MethodPost, Path: "/api/shows/{id}/fixes/{fix}/leave", Summary: "Say that a change was for that night alone"}, s.leaveFix)
	huma.Register(api, huma.Operation{OperationID: "fresh-battery", Method: http.MethodPost, Path: "/api/shows/{id}/batteries/{gear}", Summary: "Write a fresh battery down, and set its hours to nothing"}, s.freshBattery)
}

func (s *Server) keepFix(ctx context.Context, in *fixInput) (*writeOutput, error) {
	p, versions := s.store.Plan()
	if _, ok := p.FindShow(in.Show); !ok {
		return nil, noShow(in.Show)
	}
	rig, show, err := journal.CarryOver(p, in.Show, in.Fix)
	if err != nil {
		return nil, refused(err)
	}
	done, err := s.store.Apply(ctx, fmt.Sprintf("Keep for %s: %s", rig.Name, show.Fixes[in.Fix].Text), in.Request,
		store.Edit{Read: versions[rig.ID], Put: rig}, store.Edit{Read: in.Body.Version, Put: show})
	return s.written(in.Show, done, err)
}

func noShow(id plan.ID) error {
	return huma.Error404NotFound("The plan does not have it.", &huma.ErrorDetail{Location: "path.id", Message: "there is no such show", Value: id})
}

func (s *Server) leaveFix(ctx context.Context, in *fixInput) (*writeOutput, error) {
	p, _ := s.store.Plan()
	if _, ok := p.FindShow(in.Show); !ok {
		return nil, noShow(in.Show)
	}
	show, err := journal.Leave(p, in.Show, in.Fix)
	if err != nil {
		return nil, refused(err)
	}
	done, err := s.store.Apply(ctx, "That night alone: "+show.Fixes[in.Fix].Text, in.Request, store.Edit{Read: in.Body.Version, Put: show})
	return s.written(in.Show, done, err)
}

func (s *Server) freshBattery(ctx context.Context, in *batteryInput) (*writeOutput, error) {
	p, versions := s.store.Plan()
	if _, ok := p.FindShow(in.Show); !ok {
		return nil, noShow(in.Show)
	}
	rig, show, err := journal.Freshen(p, in.Show, in.Gear)
	if err != nil {
		return nil, refused(err)
	}
	g, _ := p.FindGear(in.Gear)
	done, err := s.store.Apply(ctx, "Fresh battery in "+g.Name, in.Request,
		store.Edit{Read: versions[rig.ID], Put: rig}, store.Edit{Read: in.Body.Version, Put: show})
	return s.written(in.Show, done, err)
}
