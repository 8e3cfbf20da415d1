package api

import (
	"bytes"
	"context"
	"fmt"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"envex/core/board"
	"envex/core/plan"
	"envex/page"
)

// Boarding is a rig on a board.
type Boarding struct {
	Rig     plan.ID `query:"rig" required:"true"`
	At      plan.ID `query:"destination" doc:"A destination of the rig; the rig as it stands when absent."`
	SetList plan.ID `query:"set_list" doc:"Whose presses count; none when absent."`
	Board   plan.ID `query:"board" maxLength:"100" doc:"Another board, owned or of a plain size; the rig's own when absent."`
}

type fitInput struct {
	Boarding
	Waiting
	Seed uint64 `query:"seed" doc:"Where the search for places begins."`
}

type boardsInput struct {
	Showing
	Waiting
}

type floorOutput struct{ Body *board.Report }

type drawingInput struct {
	Boarding
	Format string `query:"format" enum:"svg,html" default:"html" doc:"One picture, or sheets of paper."`
	Paper  string `query:"paper" enum:"a4,letter" default:"a4"`
	Save   bool   `query:"save" doc:"To be saved rather than shown."`
}

type sizesOutput struct{ Body []plan.Gear }

// boarding is the plan where a rig plugs in, once it is known to have what is asked for.
func boarding(p *plan.Plan, in Boarding) (*plan.Plan, error) {
	missing := missingRig(p, in.Rig, in.At)
	if in.SetList != "" {
		missing = append(missing, missingSet(p, in.SetList)...)
	}
	if len(missing) > 0 {
		return nil, huma.Error404NotFound("The plan does not have it.", missing...)
	}
	return p.At(in.Rig, in.At)
}

func (s *Server) floorRoutes(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "get-floor", Method: http.MethodGet, Path: "/api/floor",
		Summary: "How a rig stands on its boards: places, leads, plugs, weight, and what does not fit",
	},
		func(ctx context.Context, in *Boarding) (*floorOutput, error) {
			p, _ := s.store.Plan()
			there, err := boarding(p, *in)
			if err != nil {
				return nil, err
			}
			report, err := board.Judge(ctx, there, in.Rig, board.Options{SetList: in.SetList, Board: in.Board})
			if err != nil {
				return nil, s.problem(err, "")
			}
			return &floorOutput{Body: report}, nil
		})
	huma.Register(api, huma.Operation{
		OperationID: "get-plain-boards", Method: http.MethodGet, Path: "/api/floor/sizes",
		Summary: "Boards of plain sizes, to compare with or to own",
	},
		func(context.Context, *struct{}) (*sizesOutput, error) { return &sizesOutput{Body: board.Sizes()}, nil })
	huma.Register(
		api,
		huma.Operation{
			OperationID: "get-floor-drawing", Method: http.MethodGet, Path: "/api/floor/drawing",
			Summary:   "The board at 1:1, over sheets of paper or as one picture",
			Responses: fileResponses("text/html", "image/svg+xml"),
		},
		s.getFloorDrawing,
	)
	serve(s, api, job[fitInput, board.Report]{
		id: "fit", path: "/api/floor/fit",
		summary: "A place on the board for everything that is not pinned, with the least footwork",
		scope:   func(p *plan.Plan, in fitInput) (*plan.Plan, error) { return boarding(p, in.Boarding) },
		run: func(ctx context.Context, p *plan.Plan, in fitInput, report func(float64)) (*board.Report, error) {
			return board.Judge(
				ctx, p, in.Rig, board.Options{SetList: in.SetList, Board: in.Board, Fit: true, Seed: in.Seed, Progress: report},
			)
		},
	})
	serve(s, api, job[boardsInput, board.Comparison]{
		id: "boards", path: "/api/floor/boards", summary: "A rig on every board that is owned and of every plain size",
		scope: func(p *plan.Plan, in boardsInput) (*plan.Plan, error) {
			return boarding(p, Boarding{Rig: in.Rig, At: in.At, SetList: in.SetList})
		},
		run: func(ctx context.Context, p *plan.Plan, in boardsInput, report func(float64)) (*board.Comparison, error) {
			return board.Compare(ctx, p, in.Rig, in.SetList, report)
		},
	})
}

func (s *Server) getFloorDrawing(ctx context.Context, in *drawingInput) (*fileOutput, error) {
	p, _ := s.store.Plan()
	there, err := boarding(p, in.Boarding)
	if err != nil {
		return nil, err
	}
	report, err := board.Judge(ctx, there, in.Rig, board.Options{SetList: in.SetList, Board: in.Board})
	if err != nil {
		return nil, s.problem(err, "")
	}
	out := &fileOutput{ContentType: "text/html; charset=utf-8", Policy: page.SheetPolicy + "; frame-ancestors 'self'"}
	if in.Format == "svg" {
		var b bytes.Buffer
		out.ContentType, out.Policy = "image/svg+xml", page.SheetPolicy
		err = board.Draw(&b, there, report)
		out.Body = b.Bytes()
	} else {
		out.Body, err = page.Board(there, report, page.Size(in.Paper))
	}
	if err != nil {
		return nil, s.problem(err, "")
	}
	out.Disposition = disposition(in.Save, fmt.Sprintf("%s-board.%s", in.Rig, in.Format))
	return out, nil
}
