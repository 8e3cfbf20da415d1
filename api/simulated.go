package api

import (
	"context"
	"encoding/hex"
	"fmt"
	"strings"
	"sync"

	"github.com/danielgtaylor/huma/v2"
	"github.com/hashicorp/golang-lru/v2/simplelru"

	"envex/core/midi"
	"envex/core/night"
	"envex/core/plan"
)

// simulatedPath is where bytes go to simulated devices.
const simulatedPath = "/api/night/simulated"

// keptDesks is how many sets of simulated devices are kept.
const keptDesks = 16

// desks are simulated devices of shows, which stand where what was sent has them.
type desks struct {
	mu  sync.Mutex
	all *simplelru.LRU[string, *midi.Desk]
}

func newDesks() *desks {
	all, _ := simplelru.NewLRU[string, *midi.Desk](keptDesks, nil) // it fails on a size of 0 only
	return &desks{all: all}
}

type cuesOutput struct {
	Body struct {
		Cues []night.Cue `json:"cues"`
	}
}

type simulatedInput struct {
	Body struct {
		Show  plan.ID `json:"show"`
		Rig   plan.ID `json:"rig,omitempty"`
		Fresh bool    `json:"fresh,omitempty" doc:"The devices are switched off and on first."`
		Bytes string  `json:"bytes" maxLength:"6000" doc:"In hexadecimal, parted by spaces or not."`
		Wrong int     `json:"wrong,omitempty" minimum:"0" maximum:"16" doc:"The channel on which a device answers wrongly, to try that out."`
	}
}

// SimulatedAnswer is what a simulated device says to a message.
type SimulatedAnswer struct {
	Bytes  string   `json:"bytes" doc:"That it heard."`
	Answer string   `json:"answer" doc:"That it says; empty where no device obeys."`
	Words  []string `json:"words" doc:"What moved."`
}

type simulatedOutput struct {
	Body struct {
		Answers []SimulatedAnswer `json:"answers"`
		Shown   []midi.Shown      `json:"shown" doc:"Where every control that listens stands now."`
	}
}

// eveningOf is a show as it goes, as one of its rigs plays it.
func (s *Server) eveningOf(ctx context.Context, in OfShow) (*night.Evening, error) {
	p, _ := s.store.Plan()
	if missing := missingNight(p, in); len(missing) > 0 {
		return nil, huma.Error404NotFound("The plan does not have it.", missing...)
	}
	events, _, err := s.nightOf(ctx, in.Show)
	if err != nil {
		return nil, s.problem(err, "")
	}
	e, err := night.On(p, in.Show, in.Rig, events)
	if err != nil {
		return nil, s.problem(err, "")
	}
	return e, nil
}

func (s *Server) getCues(ctx context.Context, in *OfShow) (*cuesOutput, error) {
	e, err := s.eveningOf(ctx, *in)
	if err != nil {
		return nil, err
	}
	out := &cuesOutput{}
	if out.Body.Cues, err = e.Cues(); err != nil {
		return nil, s.problem(err, "")
	}
	return out, nil
}

func (s *Server) sendSimulated(ctx context.Context, in *simulatedInput) (*simulatedOutput, error) {
	data, err := hex.DecodeString(strings.ReplaceAll(in.Body.Bytes, " ", ""))
	if err != nil {
		return nil, huma.Error422UnprocessableEntity(
			"Bytes are written in hexadecimal.",
			&huma.ErrorDetail{
				Location: "body.bytes",
				Message:  "these are no bytes in hexadecimal",
				Value:    in.Body.Bytes,
			},
		)
	}
	e, err := s.eveningOf(ctx, OfShow{Show: in.Body.Show, Rig: in.Body.Rig})
	if err != nil {
		return nil, err
	}
	s.desks.mu.Lock()
	defer s.desks.mu.Unlock()
	key := string(in.Body.Show) + " " + string(e.Rig.ID)
	desk, ok := s.desks.all.Get(key)
	if !ok || in.Body.Fresh {
		if desk, err = e.Desk(); err != nil {
			return nil, s.problem(err, "")
		}
		s.desks.all.Add(key, desk)
	}
	out := &simulatedOutput{}
	out.Body.Answers = []SimulatedAnswer{}
	for _, h := range desk.Receive(data) {
		x := SimulatedAnswer{Bytes: h.Bytes, Words: h.Words}
		if len(h.Words) > 0 {
			x.Answer = fmt.Sprintf("% X", midi.Answer(h.Message, in.Body.Wrong == h.Channel))
		}
		out.Body.Answers = append(out.Body.Answers, x)
	}
	out.Body.Shown = desk.States()
	return out, nil
}
