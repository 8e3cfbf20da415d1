package api

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"envex/core/plan"
	"envex/examples"
)

// ExampleRig is a rig to start from, and what stands in it.
type ExampleRig struct {
	examples.Example
	Stops   []ExampleStop `json:"stops"`
	Sounds  []string      `json:"sounds"`
	Rig     plan.ID       `json:"rig"`
	SetList plan.ID       `json:"set_list"`
}

// ExampleStop is a box of it, in the order of the signal.
type ExampleStop struct {
	Name   string      `json:"name"`
	IsA    string      `json:"is_a"`
	Effect plan.Effect `json:"effect"`
	Colour string      `json:"colour" doc:"As #rrggbb."`
}

type examplesOutput struct {
	Body struct {
		Examples []ExampleRig `json:"examples"`
	}
}

type exampleInput struct {
	ID string `path:"id"`
}

func (s *Server) exampleRoutes(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "get-examples", Method: http.MethodGet, Path: "/api/examples", Summary: "Rigs to start from",
	},
		func(context.Context, *struct{}) (*examplesOutput, error) {
			out := &examplesOutput{}
			for _, e := range examples.All() {
				rig, err := exampleRig(e)
				if err != nil {
					return nil, err
				}
				out.Body.Examples = append(out.Body.Examples, rig)
			}
			return out, nil
		})
	huma.Register(api, huma.Operation{OperationID: "get-example", Method: http.MethodGet, Path: "/api/examples/{id}",
		Summary: "The Envex file of a rig to start from, to be imported",
		Responses: map[string]*huma.Response{
			"200": {
				Description: "An Envex file.",
				Content:     map[string]*huma.MediaType{"application/json": {Schema: &huma.Schema{Type: huma.TypeObject}}},
			},
		}},
		func(_ context.Context, in *exampleInput) (*exportOutput, error) {
			now, _ := s.store.Plan()
			p, err := examples.For(now, in.ID)
			if err != nil {
				return nil, huma.Error404NotFound(
					"There is no such example.",
					&huma.ErrorDetail{Location: "path.id", Message: "there is no such example", Value: in.ID},
				)
			}
			data, err := plan.Encode(p)
			if err != nil {
				return nil, err
			}
			return &exportOutput{
				ContentType: "application/json", Disposition: `attachment; filename="` + in.ID + `.envex.json"`, Body: data,
			}, nil
		})
}

func exampleRig(e examples.Example) (ExampleRig, error) {
	p, err := examples.Plan(e.ID)
	if err != nil {
		return ExampleRig{}, err
	}
	r := &p.Rigs[0]
	out := ExampleRig{Example: e, Stops: []ExampleStop{}, Sounds: []string{}, Rig: r.ID, SetList: p.SetLists[0].ID}
	for _, id := range r.GearIn() {
		g, ok := p.FindGear(id)
		if !ok {
			continue
		}
		stop := ExampleStop{Name: g.Name, IsA: g.Circuit}
		if len(g.Blocks) > 0 {
			stop.Effect = g.Blocks[0].Effect
		}
		if g.Kind == plan.Guitar {
			stop.Effect = "guitar"
		}
		stop.Colour, _ = plan.ColourOf(g.Colour)
		out.Stops = append(out.Stops, stop)
	}
	for _, s := range p.Sounds {
		out.Sounds = append(out.Sounds, s.Name)
	}
	return out, nil
}
