package api

import (
	"cmp"
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"strconv"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/gin-gonic/gin"

	"envex/core/night"
	"envex/core/plan"
	"envex/core/reason"
	"envex/core/signal"
	"envex/core/soundcheck"
	"envex/store"
)

// nightEventsPath is where a page sends what happened at a show, and hears what did.
const nightEventsPath = "/api/night/events"

// Night is a show as it goes, for a page that may lose the network.
type Night struct {
	Evening night.Evening `json:"evening"`
	Events  []night.Event `json:"events" doc:"What happened, in that order; of the places of a page the latest."`
	Seq     int64         `json:"seq" doc:"The last event that is in it."`
	Plan    string        `json:"plan" doc:"The state of the plan that it was worked out from."`
	NowMS   int64         `json:"now_ms" doc:"The clock of the server, in milliseconds since 1970."`
}

// OfShow names a show and a rig that plays it.
type OfShow struct {
	Show plan.ID `query:"show" required:"true"`
	Rig  plan.ID `query:"rig" doc:"That of the show when absent."`
}

type eveningOutput struct{ Body *Night }

type breaksInput struct {
	OfShow
	Entry   plan.ID `query:"entry" doc:"Where the show stands; before its first song when absent."`
	Section plan.ID `query:"section"`
}

type breaksOutput struct {
	Body struct {
		Breaks []night.Break `json:"breaks"`
	}
}

type happenedInput struct {
	Body struct {
		Show   plan.ID       `json:"show"`
		NowMS  int64         `json:"now_ms" doc:"The clock of the page as it sends this: with it, times that the page noted are put right."`
		Events []night.Event `json:"events" maxItems:"500" doc:"With the times that the clock of the page showed."`
	}
}

// RefusedEvent is an event that was not taken, and why.
type RefusedEvent struct {
	ID     plan.ID `json:"id"`
	Reason string  `json:"reason"`
}

type happenedOutput struct {
	Body struct {
		NowMS   int64          `json:"now_ms"`
		Seq     int64          `json:"seq" doc:"The last event of the show."`
		Refused []RefusedEvent `json:"refused" doc:"What is not kept, and need not be sent again."`
	}
}

type soundcheckInput struct {
	Waiting
	OfShow
	Minutes float64 `query:"minutes" minimum:"0.5" maximum:"240" default:"10" doc:"That there are."`
}

func (s *Server) nightRoutes(api huma.API) {
	serve(s, api, job[soundcheckInput, soundcheck.Report]{
		id: "soundcheck", path: "/api/night/soundcheck", summary: "What is checked before a show in the minutes there are, in which order",
		scope: func(p *plan.Plan, in soundcheckInput) (*plan.Plan, error) {
			if missing := missingNight(p, in.OfShow); len(missing) > 0 {
				return nil, huma.Error404NotFound("The plan does not have it.", missing...)
			}
			return p, nil
		},
		run: func(ctx context.Context, p *plan.Plan, in soundcheckInput, report func(float64)) (*soundcheck.Report, error) {
			return soundcheck.For(ctx, p, in.Show, in.Rig, in.Minutes, signal.Options{Kept: s.kept, Progress: report})
		},
	})
	huma.Register(api, huma.Operation{
		OperationID: "get-night", Method: http.MethodGet, Path: "/api/night",
		Summary: "A show as it goes: every section in the order it is played, what is pressed, and the ways to every song",
	}, s.getNight)
	huma.Register(api, huma.Operation{
		OperationID: "get-breaks", Method: http.MethodGet, Path: "/api/night/breaks",
		Summary: "What can break from a place of a show on, and the ways round it",
	}, s.getBreaks)
	huma.Register(api, huma.Operation{
		OperationID: "get-cues", Method: http.MethodGet, Path: "/api/night/cues",
		Summary: "What is sent to the devices of a rig for each section of a show",
	}, s.getCues)
	huma.Register(api, huma.Operation{
		OperationID: "send-simulated", Method: http.MethodPost, Path: simulatedPath,
		Summary:     "Send bytes to simulated devices of a show, and hear what they answer",
		Description: "Nothing leaves the program and nothing of the plan is changed.",
	}, s.sendSimulated)
	huma.Register(api, huma.Operation{
		OperationID: "get-night-review", Method: http.MethodGet, Path: "/api/night/review",
		Summary: "What a show tells after it: the order, tempos and gaps as they were, what broke, and the next show",
	}, s.getReview)
	huma.Register(api, huma.Operation{
		OperationID: "send-night-events", Method: http.MethodPost, Path: nightEventsPath,
		Summary:     "Keep what happened at a show",
		Description: "An event that is sent again counts once. What broke, and notes, are written into the log of the show.",
	}, s.happened)
}

// nightOf is what happened at a show, in that order, and the number of the last event.
func (s *Server) nightOf(ctx context.Context, show plan.ID) ([]night.Event, int64, error) {
	rows, err := s.store.Night(ctx, show, 0)
	if err != nil {
		return nil, 0, err
	}
	events, seq := make([]night.Event, 0, len(rows)), int64(0)
	for _, row := range rows {
		var e night.Event
		if err := json.Unmarshal(row.Doc, &e); err != nil {
			return nil, 0, fmt.Errorf("api: read event %s of show %s: %w", row.Event, show, err)
		}
		events = append(events, e)
		seq = row.Seq
	}
	return night.InOrder(events), seq, nil
}

func missingNight(p *plan.Plan, in OfShow) []error {
	var missing []error
	if _, ok := p.FindShow(in.Show); !ok {
		missing = append(
			missing, &huma.ErrorDetail{Location: "query.show", Message: "there is no such show", Value: in.Show},
		)
	}
	if in.Rig != "" {
		missing = append(missing, missingRig(p, in.Rig, "")...)
	}
	return missing
}

func (s *Server) getNight(ctx context.Context, in *OfShow) (*eveningOutput, error) {
	now := s.store.State()
	if missing := missingNight(now.Plan, *in); len(missing) > 0 {
		return nil, huma.Error404NotFound("The plan does not have it.", missing...)
	}
	events, seq, err := s.nightOf(ctx, in.Show)
	if err != nil {
		return nil, s.problem(err, "")
	}
	e, err := night.On(now.Plan, in.Show, in.Rig, events)
	if err == nil {
		err = e.WithCalls(ctx)
	}
	if err != nil {
		return nil, s.problem(err, "")
	}
	return &eveningOutput{Body: &Night{
		Evening: *e, Events: night.Latest(events), Seq: seq, Plan: s.stateOf(now.Seq), NowMS: time.Now().UnixMilli(),
	}}, nil
}

func (s *Server) getBreaks(ctx context.Context, in *breaksInput) (*breaksOutput, error) {
	p, _ := s.store.Plan()
	if missing := missingNight(p, in.OfShow); len(missing) > 0 {
		return nil, huma.Error404NotFound("The plan does not have it.", missing...)
	}
	events, _, err := s.nightOf(ctx, in.Show)
	if err != nil {
		return nil, s.problem(err, "")
	}
	here := night.Event{AtMS: time.Now().UnixMilli(), Entry: in.Entry, Section: in.Section}
	list, err := night.Breaks(ctx, p, in.Show, in.Rig, events, here, nil)
	if err != nil {
		return nil, s.problem(err, "")
	}
	out := &breaksOutput{}
	out.Body.Breaks = list
	return out, nil
}

type reviewInput struct {
	Show plan.ID `query:"show" required:"true"`
}

type reviewOutput struct{ Body *night.Review }

func (s *Server) getReview(ctx context.Context, in *reviewInput) (*reviewOutput, error) {
	p, _ := s.store.Plan()
	if missing := missingNight(p, OfShow{Show: in.Show}); len(missing) > 0 {
		return nil, huma.Error404NotFound("The plan does not have it.", missing...)
	}
	events, _, err := s.nightOf(ctx, in.Show)
	if err != nil {
		return nil, s.problem(err, "")
	}
	r, err := night.AfterShow(p, in.Show, events)
	if err != nil {
		return nil, s.problem(err, "")
	}
	return &reviewOutput{Body: r}, nil
}

// happened keeps events. Their times are taken over by how long ago they were by the clock of the page: however wrong
// that goes, the difference is right.
func (s *Server) happened(ctx context.Context, in *happenedInput) (*happenedOutput, error) {
	p, _ := s.store.Plan()
	show := in.Body.Show
	if _, ok := p.FindShow(show); !ok {
		return nil, huma.Error404NotFound(
			"The plan does not have it.",
			&huma.ErrorDetail{Location: "body.show", Message: "there is no such show", Value: show},
		)
	}
	out := &happenedOutput{}
	out.Body.NowMS, out.Body.Refused = time.Now().UnixMilli(), []RefusedEvent{}
	var rows []store.NightEvent
	var taken []night.Event
	for _, e := range in.Body.Events {
		if err := night.Valid(p, show, e); err != nil {
			words, ok := reason.Of(err)
			if !ok {
				return nil, s.problem(err, "")
			}
			out.Body.Refused = append(out.Body.Refused, RefusedEvent{e.ID, words})
			continue
		}
		e.AtMS = out.Body.NowMS - max(0, in.Body.NowMS-e.AtMS)
		doc, err := json.Marshal(e)
		if err != nil {
			return nil, fmt.Errorf("api: write an event: %w", err)
		}
		rows, taken = append(rows, store.NightEvent{Event: e.ID, Doc: doc}), append(taken, e)
	}
	if _, err := s.store.Happened(ctx, show, rows); err != nil {
		return nil, s.problem(err, "")
	}
	events, seq, err := s.nightOf(ctx, show)
	if err != nil {
		return nil, s.problem(err, "")
	}
	out.Body.Seq = seq
	for _, e := range taken {
		if err := s.logged(ctx, show, e, events); err != nil {
			return nil, s.problem(err, "")
		}
	}
	return out, nil
}

// logged writes an event into the log of its show, where that has a line for it. It is written once.
func (s *Server) logged(ctx context.Context, show plan.ID, e night.Event, events []night.Event) error {
	_, err := s.store.Change(
		ctx, store.Request{Key: "night " + string(show) + " " + string(e.ID)},
		func(now store.State) (string, []store.Edit, error) {
			words := ""
			if e.Kind == night.Broke {
				evening, err := night.On(now.Plan, show, e.Rig, events)
				if err != nil {
					return "", nil, err
				}
				words = evening.WordsOf(e.ID)
			}
			next, label, ok := night.Logged(now.Plan, show, e, words)
			if !ok {
				return "", nil, nil
			}
			return label, []store.Edit{{Read: now.Versions[show], Put: next}}, nil
		},
	)
	return err
}

// nightEvents is a stream of what happens at a show, as server-sent events, each under its number: those after the one
// that the page has heard last, and then every one as it comes in. A change of the plan is told too, with its state.
func (s *Server) nightEvents(c *gin.Context) {
	show := plan.ID(c.Query("show"))
	p, _ := s.store.Plan()
	if _, ok := p.FindShow(show); !ok {
		refuse(c, http.StatusNotFound, "There is no such show.")
		return
	}
	after, err := strconv.ParseInt(cmp.Or(c.GetHeader("Last-Event-ID"), c.Query("after"), "0"), 10, 64)
	if err != nil || after < 0 {
		refuse(c, http.StatusUnprocessableEntity, "After which event is said by its number.")
		return
	}
	happens, stop := s.store.WatchNights()
	defer stop()
	changes, stopPlan := s.store.Watch()
	defer stopPlan()
	state := func(send func(string) bool) bool {
		return send(fmt.Sprintf("event: plan\ndata: %s\n\n", s.stateOf(s.store.State().Seq)))
	}
	news := func(send func(string) bool) bool {
		rows, err := s.store.Night(c.Request.Context(), show, after)
		if err != nil {
			return false // the page asks anew
		}
		for _, row := range rows {
			after = row.Seq
			if !send(fmt.Sprintf("id: %d\ndata: %s\n\n", row.Seq, row.Doc)) {
				return false
			}
		}
		return true
	}
	s.stream(c, told{changes, state}, told{happens, news})
}
