package api

import (
	"context"
	"fmt"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"envex/core/paper"
	"envex/core/plan"
	"envex/page"
)

// SheetInfo is a sheet there is.
type SheetInfo struct {
	Kind  paper.Kind `json:"kind"`
	Title string     `json:"title"`
	Drawn bool       `json:"drawn" doc:"It has a drawing, to be saved as SVG."`
}

type sheetsOutput struct {
	Body struct {
		Sheets []SheetInfo `json:"sheets"`
	}
}

type sheetInput struct {
	Show plan.ID `query:"show" required:"true"`
	Rig  plan.ID `query:"rig" doc:"Another rig at the show than its own."`
	Kind string  `query:"kind" required:"true" enum:"set,patch,settings,floor,power,midi,foh,load,failure,faults,walk,standins,ask"`
}

type sheetOutput struct{ Body *paper.Sheet }

type sheetFileInput struct {
	Show   plan.ID `query:"show" required:"true"`
	Rig    plan.ID `query:"rig" doc:"Another rig at the show than its own."`
	Kind   string  `query:"kind" required:"true" enum:"set,patch,settings,floor,power,midi,foh,load,failure,faults,walk,standins,ask,all" doc:"All is html alone."`
	Format string  `query:"format" required:"true" enum:"html,csv,md,svg"`
	Paper  string  `query:"paper" enum:"a4,letter" default:"a4" doc:"Of html."`
	Save   bool    `query:"save" doc:"As a file to keep, not to be shown."`
}

type pageInput struct {
	Show plan.ID `query:"show" required:"true"`
	Rig  plan.ID `query:"rig" doc:"Another rig at the show than its own."`
	Save bool    `query:"save" doc:"As a file to keep, not to be shown."`
}

// fileOutput is a file. One that is shown in a frame of our own pages says what it may do there.
type fileOutput struct {
	ContentType string `header:"Content-Type"`
	Disposition string `header:"Content-Disposition"`
	Policy      string `header:"Content-Security-Policy"`
	Body        []byte
}

// fileResponses are those of an operation that answers with a file.
func fileResponses(types ...string) map[string]*huma.Response {
	content := map[string]*huma.MediaType{}
	for _, t := range types {
		content[t] = &huma.MediaType{Schema: &huma.Schema{Type: huma.TypeString}}
	}
	return map[string]*huma.Response{"200": {Description: "A file.", Content: content}}
}

func (s *Server) paperRoutes(api huma.API) {
	huma.Register(
		api,
		huma.Operation{
			OperationID: "get-sheets", Method: http.MethodGet, Path: "/api/sheets", Summary: "The sheets there are",
		},
		s.getSheets,
	)
	huma.Register(
		api,
		huma.Operation{
			OperationID: "get-sheet", Method: http.MethodGet, Path: "/api/sheet", Summary: "A sheet of a show, as data",
		},
		s.getSheet,
	)
	huma.Register(
		api,
		huma.Operation{
			OperationID: "get-sheet-file", Method: http.MethodGet, Path: "/api/sheet/file",
			Summary:   "A sheet of a show, or all, as a file",
			Responses: fileResponses("text/html", "text/csv", "text/markdown", "image/svg+xml"),
		},
		s.getSheetFile,
	)
	huma.Register(
		api,
		huma.Operation{
			OperationID: "get-page", Method: http.MethodGet, Path: "/api/page",
			Summary: "A show as one page for the night, which needs no network", Responses: fileResponses("text/html"),
		},
		s.getPage,
	)
}

// planWith is the plan, where it has the show.
func (s *Server) planWith(show, rig plan.ID) (*plan.Plan, *plan.Show, error) {
	p, _ := s.store.Plan()
	return s.showIn(p, show, rig)
}

// showIn is a plan as a show has it, with another rig where one is named.
func (s *Server) showIn(p *plan.Plan, show, rig plan.ID) (*plan.Plan, *plan.Show, error) {
	x, ok := p.FindShow(show)
	if !ok {
		return nil, nil, huma.Error404NotFound(
			"The plan does not have it.",
			&huma.ErrorDetail{Location: "query.show", Message: "there is no such show", Value: show},
		)
	}
	if rig != "" {
		if missing := missingRig(p, rig, ""); len(missing) > 0 {
			return nil, nil, huma.Error404NotFound("The plan does not have it.", missing...)
		}
		on, err := p.ShowOn(show, rig)
		if err != nil {
			return nil, nil, s.problem(err, "")
		}
		return on, x, nil
	}
	return p, x, nil
}

func (s *Server) getSheets(context.Context, *struct{}) (*sheetsOutput, error) {
	out := &sheetsOutput{}
	for _, kind := range paper.AllKinds() {
		out.Body.Sheets = append(out.Body.Sheets, SheetInfo{Kind: kind, Title: kind.Title(), Drawn: page.IsDrawn(kind)})
	}
	return out, nil
}

func (s *Server) getSheet(ctx context.Context, in *sheetInput) (*sheetOutput, error) {
	p, show, err := s.planWith(in.Show, in.Rig)
	if err != nil {
		return nil, err
	}
	sheet, err := paper.MakeWith(ctx, p, show.ID, paper.Kind(in.Kind), s.kept)
	if err != nil {
		return nil, s.problem(err, "")
	}
	return &sheetOutput{Body: sheet}, nil
}

func (s *Server) getSheetFile(ctx context.Context, in *sheetFileInput) (*fileOutput, error) {
	p, show, err := s.planWith(in.Show, in.Rig)
	if err != nil {
		return nil, err
	}
	kinds := []paper.Kind{paper.Kind(in.Kind)}
	if in.Kind == "all" {
		if in.Format != "html" {
			return nil, huma.Error422UnprocessableEntity(
				"All sheets in one file are written as html alone.",
				&huma.ErrorDetail{Location: "query.format", Message: "html, for all", Value: in.Format},
			)
		}
		kinds = paper.Kinds()
	}
	out := &fileOutput{Policy: "default-src 'none'"}
	switch in.Format {
	case "html":
		out.ContentType, out.Policy = "text/html; charset=utf-8", page.SheetPolicy+"; frame-ancestors 'self'"
		out.Body, err = page.Sheets(ctx, p, show.ID, kinds, page.Size(in.Paper), s.kept)
	case "svg":
		out.ContentType, out.Policy = "image/svg+xml", page.SheetPolicy
		out.Body, err = page.Drawing(p, show.ID, kinds[0])
	default:
		out.ContentType = map[string]string{"csv": "text/csv; charset=utf-8", "md": "text/markdown; charset=utf-8"}[in.Format]
		out.Body, err = s.asText(ctx, p, show.ID, kinds[0], in.Format)
	}
	if err != nil {
		return nil, s.problem(err, "")
	}
	out.Disposition = disposition(
		in.Save || in.Format == "csv" || in.Format == "md", fmt.Sprintf("%s-%s.%s", show.ID, in.Kind, in.Format),
	)
	return out, nil
}

func (s *Server) asText(
	ctx context.Context, p *plan.Plan, show plan.ID, kind paper.Kind, format string,
) ([]byte, error) {
	sheet, err := paper.MakeWith(ctx, p, show, kind, s.kept)
	if err != nil {
		return nil, err
	}
	if format == "csv" {
		return paper.CSV(sheet)
	}
	return paper.Markdown(sheet), nil
}

// disposition names a file. An id holds no sign that would mean anything in a header.
func disposition(save bool, name string) string {
	how := "inline"
	if save {
		how = "attachment"
	}
	return how + `; filename="` + name + `"`
}

func (s *Server) getPage(_ context.Context, in *pageInput) (*fileOutput, error) {
	p, show, err := s.planWith(in.Show, in.Rig)
	if err != nil {
		return nil, err
	}
	data, err := page.Gig(p, show.ID)
	if err != nil {
		return nil, s.problem(err, "")
	}
	policy, err := page.GigPolicy()
	if err != nil {
		return nil, s.problem(err, "")
	}
	return &fileOutput{
		ContentType: "text/html; charset=utf-8", Policy: policy + "; frame-ancestors 'self'",
		Disposition: disposition(in.Save, string(show.ID)+"-gig.html"), Body: data,
	}, nil
}
