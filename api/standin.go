package api

import (
	"context"
	"encoding/json"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"envex/core/catalog"
	"envex/core/plan"
	"envex/core/reason"
	"envex/core/signal"
	"envex/core/standin"
)

type standInInput struct {
	Waiting
	Rig     plan.ID  `query:"rig" required:"true"`
	Box     plan.ID  `query:"box" required:"true" doc:"The pedal that is not there."`
	SetList plan.ID  `query:"set_list" doc:"Over which presses are counted."`
	At      plan.ID  `query:"destination" doc:"Where the sounds are made; the rig as it stands when absent."`
	Kinds   []string `query:"kinds,explode" maxItems:"32" doc:"Generic kinds that may stand in; those with the same effect when absent."`
}

type readyInput struct {
	Waiting
	Show plan.ID `query:"show" required:"true"`
	Rig  plan.ID `query:"rig" doc:"Another rig at the show than its own."`
}

// ReadyStandIns are what is owned and stands in for each pedal of a show's rig.
type ReadyStandIns struct {
	Boxes []standin.Ready `json:"boxes"`
}

type hearStandInInput struct {
	Waiting
	Rig     plan.ID `query:"rig" required:"true"`
	Box     plan.ID `query:"box" required:"true"`
	Sound   plan.ID `query:"sound" required:"true"`
	At      plan.ID `query:"destination"`
	Gear    plan.ID `query:"gear" required:"true" doc:"What stands in."`
	Kind    string  `query:"kind" doc:"The kind it would be, where it is not owned."`
	Values  string  `query:"values" maxLength:"20000" doc:"Where its knobs stand, as a JSON object by key."`
	Matched bool    `query:"matched" doc:"Bring both to the same loudness."`
}

func (s *Server) standInRoutes(api huma.API) {
	serve(s, api, job[standInInput, standin.Report]{
		id: "stand-ins", path: "/api/stand-ins",
		summary: "What stands in for a box that is not there, set for the sounds that use it, and what else changes",
		scope: func(p *plan.Plan, in standInInput) (*plan.Plan, error) {
			missing := missingRig(p, in.Rig, in.At)
			if in.SetList != "" {
				missing = append(missing, missingSet(p, in.SetList)...)
			}
			if missing = append(missing, missingGear(p, "box", in.Box)...); len(missing) > 0 {
				return nil, huma.Error404NotFound("The plan does not have it.", missing...)
			}
			return p, nil
		},
		run: func(ctx context.Context, p *plan.Plan, in standInInput, report func(float64)) (*standin.Report, error) {
			return standin.For(ctx, p, in.Rig, in.Box, standin.Options{
				SetList: in.SetList, At: in.At, Kinds: in.Kinds, Progress: report, Kept: s.kept,
			})
		},
	})
	serve(s, api, job[readyInput, ReadyStandIns]{
		id: "ready-stand-ins", path: "/api/stand-ins/ready",
		summary: "What of all that is owned stands in for each pedal of a show's rig",
		scope: func(p *plan.Plan, in readyInput) (*plan.Plan, error) {
			on, show, err := s.showIn(p, in.Show, in.Rig)
			if err != nil {
				return nil, err
			}
			return on.AtShow(show)
		},
		run: func(ctx context.Context, p *plan.Plan, in readyInput, report func(float64)) (*ReadyStandIns, error) {
			show, err := p.ShowByID(in.Show)
			if err != nil {
				return nil, err
			}
			list, err := standin.Each(ctx, p, show.Rig, standin.Options{
				SetList: show.SetList, At: show.Destination, Progress: report, Kept: s.kept,
			})
			return &ReadyStandIns{Boxes: list}, err
		},
	})
	serve(s, api, job[hearStandInInput, Listening]{
		id: "hear-stand-in", path: "/api/stand-ins/listen",
		summary: "Render a sound as it is, and with another box in the place of one",
		scope: func(p *plan.Plan, in hearStandInInput) (*plan.Plan, error) {
			missing := append(missingRig(p, in.Rig, in.At), missingGear(p, "box", in.Box)...)
			if _, ok := p.FindSound(in.Sound); !ok {
				missing = append(
					missing, &huma.ErrorDetail{Location: "query.sound", Message: "there is no such sound", Value: in.Sound},
				)
			}
			if in.Kind == "" {
				missing = append(missing, missingGear(p, "gear", in.Gear)...)
			}
			if len(missing) > 0 {
				return nil, huma.Error404NotFound("The plan does not have it.", missing...)
			}
			return p, nil
		},
		run: s.hearStandIn,
		lapsed: func(l *Listening) bool {
			return slices.ContainsFunc(l.Clips, func(c Clip) bool { return !s.clips.has(c.ID) })
		},
	})
}

func missingGear(p *plan.Plan, where string, id plan.ID) []error {
	if _, ok := p.FindGear(id); ok {
		return nil
	}
	return []error{&huma.ErrorDetail{Location: "query." + where, Message: "there is no such gear", Value: id}}
}

// hearStandIn renders a sound as it is and as it would be.
func (s *Server) hearStandIn(
	ctx context.Context, p *plan.Plan, in hearStandInInput, report func(float64),
) (*Listening, error) {
	p, err := p.At(in.Rig, in.At)
	if err != nil {
		return nil, err
	}
	q := *p
	if in.Kind != "" {
		kind, ok := catalog.Find(in.Kind)
		if !ok {
			return nil, reason.Errorf("there is no kind %q", in.Kind)
		}
		if _, taken := p.Find(in.Gear); taken {
			return nil, reason.Errorf("the id %q is taken", in.Gear)
		}
		q.Put(kind.In(&q, in.Gear, kind.Name))
	}
	r, _ := q.FindRig(in.Rig)
	g, _ := q.FindGear(in.Gear)
	next, _, ok := q.Instead(r, in.Box, g)
	if !ok {
		return nil, reason.Errorf("nothing in %s does what is missing", g.Name)
	}
	if in.Values != "" {
		var values map[plan.Key]plan.Value
		if err := json.Unmarshal([]byte(in.Values), &values); err != nil {
			return nil, reason.Errorf("the values are not settings: %w", err)
		}
		next = standin.Set(next, values)
	}
	q.Put(next)
	was, _ := p.FindGear(in.Box)
	heard, err := signal.Listen(ctx, p, in.Rig, []signal.Take{
		{Name: "with " + was.Name, Sound: in.Sound}, {Name: "with " + g.Name, Sound: in.Sound, On: &q},
	}, in.Matched, signal.Options{Progress: report, Kept: s.kept})
	if err != nil {
		return nil, err
	}
	return s.clipped(heard)
}
