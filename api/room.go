package api

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"envex/core/mix"
	"envex/core/plan"
)

type roomInput struct {
	Rigging
	Waiting
	SetList plan.ID `query:"set_list" required:"true"`
	HallS   float64 `query:"hall_s" minimum:"0" maximum:"20" doc:"How long the hall rings, in s; 0 is the open air."`
}

type hallsInput struct {
	Rigging
	Waiting
	SetList plan.ID `query:"set_list" required:"true"`
}

type roomMendInput struct {
	Rigging
	Waiting
	SetList plan.ID `query:"set_list" required:"true"`
	HallS   float64 `query:"hall_s" minimum:"0" maximum:"20" doc:"How long the hall rings, in s; 0 is the open air."`
	Finding string  `query:"finding" required:"true" maxLength:"300" doc:"A finding of the room, by its id."`
}

type partKindsOutput struct {
	Body struct {
		Kinds []plan.PartTraits `json:"kinds"`
	}
}

type partMeasureInput struct {
	Recording string `query:"recording" required:"true" maxLength:"100" doc:"A recording of the part alone, that was brought."`
}

type partMeasureOutput struct {
	Body struct {
		Bands []float64 `json:"bands_db" doc:"Levels in the third octaves from 25 Hz to 16 kHz, in dB against the strongest."`
	}
}

type playingInput struct {
	Band plan.ID `query:"band" required:"true"`
	Song plan.ID `query:"song" required:"true"`
}

// SectionPlaying is who plays in a section of a song.
type SectionPlaying struct {
	Section plan.ID       `json:"section"`
	Label   string        `json:"label"`
	Parts   []PartPlaying `json:"parts" doc:"All of the band, in its order."`
}

// PartPlaying is how a part plays in a section.
type PartPlaying struct {
	Part    plan.ID `json:"part"`
	Rests   bool    `json:"rests"`
	Assumed bool    `json:"assumed" doc:"Nobody has said so: a voice is taken to rest where the guitar leads."`
	LevelDB float64 `json:"level_db" doc:"Over how it usually plays."`
}

type playingOutput struct {
	Body struct {
		Sections []SectionPlaying `json:"sections"`
	}
}

func (s *Server) getPlaying(_ context.Context, in *playingInput) (*playingOutput, error) {
	p, _ := s.store.Plan()
	b, err := p.BandByID(in.Band)
	if err != nil {
		return nil, s.problem(err, "")
	}
	song, err := p.SongByID(in.Song)
	if err != nil {
		return nil, s.problem(err, "")
	}
	out := &playingOutput{}
	out.Body.Sections = []SectionPlaying{}
	for _, sec := range song.Sections {
		sound, _ := p.FindSound(sec.Sound)
		row := SectionPlaying{Section: sec.ID, Label: sec.Label, Parts: []PartPlaying{}}
		for i := range b.Parts {
			how, assumed := b.HowPlays(&b.Parts[i], song.ID, sec.ID, sound)
			x := PartPlaying{Part: b.Parts[i].ID, Rests: how.Rests, Assumed: assumed}
			if how.LevelDB != nil {
				x.LevelDB = *how.LevelDB
			}
			row.Parts = append(row.Parts, x)
		}
		out.Body.Sections = append(out.Body.Sections, row)
	}
	return out, nil
}

// roomScope is the part of a plan that what is heard among a band depends on.
func (s *Server) roomScope(p *plan.Plan, in Rigging, setList plan.ID) (*plan.Plan, error) {
	q, err := s.rigScope(p, in)
	if err != nil {
		return nil, err
	}
	if _, ok := p.FindSetList(setList); !ok {
		return nil, huma.Error404NotFound("The plan does not have it.", &huma.ErrorDetail{
			Location: "query.set_list", Message: "there is no such set list", Value: setList,
		})
	}
	q.SetLists, q.Bands = p.SetLists, p.Bands
	return q, nil
}

func (s *Server) roomRoutes(api huma.API) {
	options := func(in Rigging, hallS float64, report func(float64)) (mix.Options, error) {
		dry, err := s.dry(in.Dry)
		return mix.Options{Dry: dry, Kept: s.kept, Progress: report, HallS: hallS}, err
	}
	serve(s, api, job[roomInput, mix.Report]{
		id: "room", path: "/api/room", summary: "What is heard of the guitar among the band",
		scope: func(p *plan.Plan, in roomInput) (*plan.Plan, error) { return s.roomScope(p, in.Rigging, in.SetList) },
		run: func(ctx context.Context, p *plan.Plan, in roomInput, report func(float64)) (*mix.Report, error) {
			o, err := options(in.Rigging, in.HallS, report)
			if err != nil {
				return nil, err
			}
			there, err := p.At(in.Rig, in.At)
			if err != nil {
				return nil, err
			}
			return mix.Room(ctx, there, in.Rig, in.SetList, o)
		},
	})
	serve(s, api, job[hallsInput, mix.Beside]{
		id: "halls", path: "/api/room/halls", summary: "A set among its band in several halls, side by side",
		scope: func(p *plan.Plan, in hallsInput) (*plan.Plan, error) { return s.roomScope(p, in.Rigging, in.SetList) },
		run: func(ctx context.Context, p *plan.Plan, in hallsInput, report func(float64)) (*mix.Beside, error) {
			o, err := options(in.Rigging, 0, report)
			if err != nil {
				return nil, err
			}
			there, err := p.At(in.Rig, in.At)
			if err != nil {
				return nil, err
			}
			return mix.Halls(ctx, there, in.Rig, in.SetList, mix.UsualHalls(), o)
		},
	})
	serve(s, api, job[roomMendInput, mix.Mending]{
		id: "mend-room", path: "/api/room/mend", summary: "The least move that makes room",
		scope: func(p *plan.Plan, in roomMendInput) (*plan.Plan, error) {
			return s.roomScope(p, in.Rigging, in.SetList)
		},
		run: func(ctx context.Context, p *plan.Plan, in roomMendInput, report func(float64)) (*mix.Mending, error) {
			o, err := options(in.Rigging, in.HallS, report)
			if err != nil {
				return nil, err
			}
			return mix.Mend(ctx, p, in.Rig, in.At, in.SetList, in.Finding, o)
		},
	})
	huma.Register(
		api,
		huma.Operation{
			OperationID: "get-part-kinds", Method: http.MethodGet, Path: "/api/parts/kinds",
			Summary: "The kinds of parts a band can have",
		},
		func(context.Context, *struct{}) (*partKindsOutput, error) {
			out := &partKindsOutput{}
			out.Body.Kinds = plan.PartKinds()
			return out, nil
		},
	)
	huma.Register(
		api,
		huma.Operation{
			OperationID: "get-playing", Method: http.MethodGet, Path: "/api/parts/playing",
			Summary: "Who plays in the sections of a song",
		},
		s.getPlaying,
	)
	huma.Register(
		api,
		huma.Operation{
			OperationID: "measure-part", Method: http.MethodGet, Path: "/api/parts/measured",
			Summary: "The levels of a part by a recording of it",
		},
		func(_ context.Context, in *partMeasureInput) (*partMeasureOutput, error) {
			x, ok := s.clips.recording(in.Recording)
			if !ok {
				return nil, huma.Error404NotFound("The recording has expired: upload it again.")
			}
			levels, err := mix.Measured(x...)
			if err != nil {
				return nil, huma.Error422UnprocessableEntity("Nothing is heard in the recording.")
			}
			out := &partMeasureOutput{}
			out.Body.Bands = levels
			return out, nil
		},
	)
}
