package api

import (
	"bytes"
	"context"
	"net/http"
	"path/filepath"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"envex/core/exchange"
	"envex/core/plan"
	"envex/core/reason"
)

// readPath is where files of other programs are read.
const readPath = "/api/read"

type readInput struct {
	Name    string `query:"name" required:"true" maxLength:"200" doc:"The file's name: its ending says what it is."`
	RawBody []byte `contentType:"application/octet-stream"`
}

// Understood is what was understood of a file of another program, and what it would bring.
type Understood struct {
	Draft *exchange.Draft `json:"draft"`
	Said  []string        `json:"said" doc:"What stands in for what the plan does not have."`
	File  string          `json:"file" doc:"An Envex file of it, to be imported."`
}

type understoodOutput struct{ Body Understood }

type columnsOutput struct {
	Body struct {
		Columns []exchange.Column `json:"columns"`
	}
}

type songsOutInput struct {
	Format  string  `query:"format" enum:"smf,csv" required:"true"`
	SetList plan.ID `query:"set_list" required:"true"`
	Song    plan.ID `query:"song" doc:"One song alone, as a MIDI file."`
	Rig     plan.ID `query:"rig" doc:"Whose programs are sent at the changes."`
}

func (s *Server) exchangeRoutes(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "read-songs", Method: http.MethodPost, Path: readPath,
		Summary:      "What a CSV set list, a Standard MIDI File or a ChordPro song holds; nothing is changed",
		MaxBodyBytes: exchange.MaxBytes, SkipValidateBody: true,
	},
		func(_ context.Context, in *readInput) (*understoodOutput, error) {
			p, _ := s.store.Plan()
			u, err := Read(p, s.newID, in.Name, in.RawBody)
			if err != nil {
				return nil, s.problem(err, "")
			}
			return &understoodOutput{Body: *u}, nil
		})
	huma.Register(api, huma.Operation{
		OperationID: "get-columns", Method: http.MethodGet, Path: "/api/read/columns",
		Summary: "What the columns of a set list as CSV may hold",
	},
		func(context.Context, *struct{}) (*columnsOutput, error) {
			out := &columnsOutput{}
			out.Body.Columns = exchange.Columns()
			return out, nil
		})
	huma.Register(api, huma.Operation{OperationID: "get-template", Method: http.MethodGet, Path: "/api/read/template",
		Summary: "A set list of one song as CSV, to be filled in",
		Responses: map[string]*huma.Response{
			"200": {
				Description: "A CSV file.",
				Content:     map[string]*huma.MediaType{"text/csv": {Schema: &huma.Schema{Type: huma.TypeString}}},
			},
		}},
		func(context.Context, *struct{}) (*exportOutput, error) {
			return &exportOutput{
				ContentType: "text/csv; charset=utf-8", Disposition: `attachment; filename="set-list.csv"`,
				Body: exchange.Template(),
			}, nil
		})
	file := map[string]*huma.Response{
		"200": {
			Description: "A file.",
			Content: map[string]*huma.MediaType{
				"audio/midi": {Schema: &huma.Schema{Type: huma.TypeString, Format: "binary"}},
				"text/csv":   {Schema: &huma.Schema{Type: huma.TypeString}},
			},
		},
	}
	huma.Register(
		api,
		huma.Operation{
			OperationID: "export-songs", Method: http.MethodGet, Path: "/api/export/songs",
			Summary: "A set list as CSV, or a set or a song as a Standard MIDI File", Responses: file,
		},
		s.exportSongs,
	)
}

// readers are what reads a file of another program, by its name's ending.
var readers = map[string]func(data []byte, name string) (*exchange.Draft, error){
	".csv": exchange.ReadCSV, ".txt": exchange.ReadCSV, ".mid": exchange.ReadSMF, ".midi": exchange.ReadSMF,
	".cho": exchange.ReadChordPro, ".chopro": exchange.ReadChordPro, ".chordpro": exchange.ReadChordPro,
	".crd": exchange.ReadChordPro, ".pro": exchange.ReadChordPro,
}

// Reads reports whether a file is one of another program that can be read, by its name's ending.
func Reads(name string) bool { return readers[strings.ToLower(filepath.Ext(name))] != nil }

// Read reads a file of another program by its name's ending, and makes an Envex file of it. It fails on
// nonsense, in a text with the line.
func Read(p *plan.Plan, newID func() plan.ID, name string, data []byte) (*Understood, error) {
	ending := filepath.Ext(name)
	reader := readers[strings.ToLower(ending)]
	if reader == nil {
		return nil, reason.Errorf("%q is not supported: only .csv, .mid and .cho are", ending)
	}
	draft, err := reader(data, strings.TrimSuffix(name, ending))
	if err != nil {
		return nil, err
	}
	file, said := draft.Into(p, newID)
	encoded, err := plan.Encode(file)
	if err != nil {
		return nil, err
	}
	return &Understood{Draft: draft, Said: append(append([]string{}, draft.Said...), said...), File: string(encoded)}, nil
}

func (s *Server) exportSongs(_ context.Context, in *songsOutInput) (*exportOutput, error) {
	p, _ := s.store.Plan()
	var out bytes.Buffer
	kind, ending := "text/csv; charset=utf-8", ".csv"
	var err error
	if in.Format == "smf" {
		kind, ending = "audio/midi", ".mid"
		_, err = exchange.WriteSMF(&out, p, in.Rig, in.SetList, in.Song)
	} else {
		err = exchange.WriteCSV(&out, p, in.SetList)
	}
	if err != nil {
		return nil, s.problem(err, "")
	}
	name := in.SetList
	if in.Song != "" {
		name = in.Song
	}
	return &exportOutput{
		ContentType: kind, Disposition: `attachment; filename="` + string(name) + ending + `"`, Body: out.Bytes(),
	}, nil
}
