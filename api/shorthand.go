package api

import (
	"context"
	"errors"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"envex/core/exchange"
	"envex/core/plan"
	"envex/core/shorthand"
)

type typedChainInput struct {
	Body struct {
		Text string `json:"text" maxLength:"20000" doc:"The chain as it was typed."`
		Name string `json:"name,omitempty" maxLength:"200" doc:"What the rig is to be called."`
	}
}

// TypedChain is what was understood of a chain, and what it would bring.
type TypedChain struct {
	Chips []shorthand.Chip `json:"chips"`
	Said  []string         `json:"said" doc:"How it was taken where the text does not say, in words."`
	Rig   plan.ID          `json:"rig"`
	Name  string           `json:"name" doc:"What the rig will be called."`
	File  string           `json:"file" doc:"An Envex file of it, to be imported."`
}

type typedSetInput struct {
	Body struct {
		Text    string `json:"text" maxLength:"2000000" doc:"The set as it was typed or pasted."`
		Name    string `json:"name,omitempty" maxLength:"200" doc:"What the set list is to be called."`
		Pattern string `json:"pattern,omitempty" maxLength:"2000" doc:"The sections of songs that name none."`
	}
}

// TypedSet is what was understood of a set, and what it would bring.
type TypedSet struct {
	Draft   *exchange.Draft `json:"draft"`
	Said    []string        `json:"said"`
	Sounds  []string        `json:"sounds" doc:"Those that are new, by name."`
	SetList plan.ID         `json:"set_list"`
	File    string          `json:"file" doc:"An Envex file of it, to be imported."`
}

type typedChainOutput struct{ Body TypedChain }

type typedSetOutput struct{ Body TypedSet }

func (s *Server) shorthandRoutes(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "read-typed-chain", Method: http.MethodPost, Path: "/api/typed/chain",
		Summary: "What a chain that somebody typed means, and the gear and rig it makes; nothing is changed",
	},
		func(_ context.Context, in *typedChainInput) (*typedChainOutput, error) {
			p, _ := s.store.Plan()
			reading, err := shorthand.ReadChain(in.Body.Text, p)
			if err != nil {
				return nil, s.typedError("body.text", err)
			}
			made := reading.Build(p, s.newID, in.Body.Name)
			file, err := plan.Encode(made.File(p))
			if err != nil {
				return nil, err
			}
			return &typedChainOutput{
				Body: TypedChain{Chips: reading.Chips, Said: made.Said, Rig: made.Rig.ID, Name: made.Rig.Name, File: string(file)},
			}, nil
		})
	huma.Register(api, huma.Operation{
		OperationID: "read-typed-set", Method: http.MethodPost, Path: "/api/typed/set",
		Summary:      "What a set that somebody typed or pasted means, and the songs, sounds and set list it makes; nothing is changed",
		MaxBodyBytes: 2 * exchange.MaxBytes,
	},
		func(_ context.Context, in *typedSetInput) (*typedSetOutput, error) {
			p, _ := s.store.Plan()
			draft, err := shorthand.ReadSet(in.Body.Text, in.Body.Name, in.Body.Pattern)
			if err != nil {
				return nil, s.typedError("body.text", err)
			}
			made, said := shorthand.Songs(draft, p, s.newID)
			out := TypedSet{Draft: draft, Said: append([]string{}, said...), Sounds: []string{}}
			for _, x := range made.Sounds {
				if _, there := p.FindSound(x.ID); !there {
					out.Sounds = append(out.Sounds, x.Name)
				}
			}
			if len(made.SetLists) > 0 {
				out.SetList = made.SetLists[0].ID
			}
			file, err := plan.Encode(made)
			if err != nil {
				return nil, err
			}
			out.File = string(file)
			return &typedSetOutput{Body: out}, nil
		})
}

// typedError is the problem document of a text that cannot be read.
func (s *Server) typedError(where string, err error) error {
	problem := s.problem(err, "")
	var model *huma.ErrorModel
	if errors.As(problem, &model) && model.Status == http.StatusUnprocessableEntity {
		model.Errors = append(model.Errors, &huma.ErrorDetail{Location: where, Message: model.Detail})
	}
	return problem
}

type soundWordsOutput struct {
	Body struct {
		Dirt     []plan.DirtWord     `json:"dirt"`
		Loudness []plan.LoudnessWord `json:"loudness"`
	}
}

type usualFeetOutput struct {
	Body struct {
		Usual plan.FootProfile `json:"usual" doc:"The value of everything that a profile does not give."`
	}
}

func (s *Server) soundWordRoutes(api huma.API) {
	feet := huma.Operation{
		OperationID: "get-feet", Method: http.MethodGet, Path: "/api/feet",
		Summary: "The starting values of how a player moves",
	}
	huma.Register(api, feet, func(context.Context, *struct{}) (*usualFeetOutput, error) {
		out := &usualFeetOutput{}
		out.Body.Usual = plan.UsualFeet()
		return out, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "get-sound-words", Method: http.MethodGet, Path: "/api/sound-words",
		Summary: "Words for how dirty and how loud a sound is, and the figures they stand for",
	},
		func(context.Context, *struct{}) (*soundWordsOutput, error) {
			out := &soundWordsOutput{}
			out.Body.Dirt, out.Body.Loudness = plan.DirtWords(), plan.LoudnessWords()
			return out, nil
		})
}
