package api

import (
	"context"
	"encoding/json"
	"math"
	"net/http"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"envex/core/plan"
	"envex/core/reach"
	"envex/core/reason"
	"envex/core/signal"
	"envex/core/wav"
)

// Rigging names a rig, where it plugs in, and a recording to play instead of the test phrase.
type Rigging struct {
	Rig plan.ID `query:"rig" required:"true"`
	At  plan.ID `query:"destination" doc:"A destination of the rig; the rig as it stands when absent."`
	Dry string  `query:"dry" maxLength:"100" doc:"A recording that was brought; the test phrase when absent."`
}

// AsPlayed is a rig as it sounds somewhere, or as one song is played on it there.
type AsPlayed struct {
	Rigging
	Song plan.ID `query:"song" doc:"As this song is played: with the boxes of swap slots that it picks, the recipes that it names, at its tempo."`
}

type signalInput struct {
	AsPlayed
	Waiting
}

type boostInput struct {
	AsPlayed
	Waiting
	Block plan.Key `query:"block" required:"true" maxLength:"200"`
}

type levelsInput struct {
	Rigging
	Waiting
	SetList plan.ID `query:"set_list" required:"true"`
}

type balanceInput struct {
	Rigging
	Waiting
	SetList plan.ID `query:"set_list" doc:"Whose levels are looked at too."`
}

type tuneInput struct {
	Rigging
	Waiting
	Sound plan.ID `query:"sound" required:"true"`
}

type differInput struct {
	Rigging
	Waiting
	Order string `query:"order" required:"true" maxLength:"20000" doc:"The other order of the main line: its stops and splits by their ids, as a JSON list."`
	Stops string `query:"stops" maxLength:"2000" doc:"The stops it is about, as a JSON list; every sound when absent."`
}

type listenInput struct {
	AsPlayed
	Waiting
	Sound    plan.ID `query:"sound" required:"true"`
	Recipe   plan.ID `query:"recipe" doc:"A recipe of the sound, where the rig's first is not meant."`
	With     plan.ID `query:"with" doc:"Another sound to compare it with."`
	Order    string  `query:"order" maxLength:"20000" doc:"Another order of the chain to compare it on: ids of its nodes, as a JSON list."`
	About    string  `query:"about" maxLength:"2000" doc:"Stops that are to be heard, as a JSON list: a sound that has them on is chosen, the one that is named where it can be, else they are turned on in it."`
	Values   string  `query:"values" maxLength:"20000" doc:"Settings to compare it with, as a JSON object by key."`
	Proposed bool    `query:"proposed" doc:"The values are those of a recipe that is not there yet: it is heard beside home, where home has one."`
	Matched  bool    `query:"matched" doc:"Bring both to the same loudness."`
	SetList  plan.ID `query:"set_list" doc:"With position: the change into that section, as it is played."`
	Position int     `query:"position" minimum:"0" maximum:"100000" doc:"Of the section the change leads to; 0 for none."`
}

// Listening is what was rendered to be heard.
type Listening struct {
	Clips []Clip `json:"clips"`
}

// Clip is one thing to be heard.
type Clip struct {
	ID   string  `json:"id" doc:"It is at /api/clips/ID for a while."`
	Name string  `json:"name"`
	LUFS float64 `json:"lufs" doc:"Off the speaker."`
	Gain float64 `json:"gain_db" doc:"What it was turned up or down by, so that nothing leaves above -1 dBTP."`
	Ring float64 `json:"ring_s,omitempty" doc:"How long it rings on after the playing."`
	Fade bool    `json:"faded,omitempty" doc:"It still rang then, and was faded out."`
}

// rigScope is the part of a plan that a rig's sound depends on: nothing of its floor, its switches or
// its programs, so that moving a box does not render anew.
func (s *Server) rigScope(p *plan.Plan, in Rigging) (*plan.Plan, error) {
	if missing := missingRig(p, in.Rig, in.At); missing != nil {
		return nil, huma.Error404NotFound("The plan does not have it.", missing...)
	}
	q, err := p.Bundle(in.Rig)
	if err != nil {
		return nil, err
	}
	for _, r := range q.Rigs {
		r.Floor, r.Profile = plan.Floor{}, plan.FootProfile{}
		r.Programs, r.Assignments, r.Settled, r.SlotPins, r.Orders = nil, nil, nil, nil, nil
		q.Put(r)
	}
	q.Sounds, q.Songs = p.Sounds, p.Songs
	return q, nil
}

// playedScope is rigScope once the song is known to be there.
func (s *Server) playedScope(p *plan.Plan, in AsPlayed) (*plan.Plan, error) {
	if _, ok := p.FindSong(in.Song); !ok && in.Song != "" {
		return nil, huma.Error404NotFound("The plan does not have it.", &huma.ErrorDetail{
			Location: "query.song", Message: "there is no such song", Value: in.Song,
		})
	}
	return s.rigScope(p, in.Rigging)
}

// of is the plan as the rig stands there.
func (in AsPlayed) of(p *plan.Plan) (*plan.Plan, error) {
	there, err := p.At(in.Rig, in.At)
	if err != nil || in.Song == "" {
		return there, err
	}
	return there.PlayedIn(in.Rig, in.Song)
}

// dry is the recording a request names, brought to the level of the phrase; nil for the phrase.
func (s *Server) dry(id string) ([]float64, error) {
	if id == "" {
		return nil, nil
	}
	channels, ok := s.clips.recording(id)
	if !ok {
		return nil, reason.Errorf("that recording has expired: upload it again")
	}
	return signal.Calibrated(channels[0]), nil
}

// metered registers a calculation on a rig's sound, as the rig stands where it plugs in, and as a song is played there
// where one is named.
func metered[In waits, T any](
	s *Server, api huma.API, id, path, summary string, played func(In) AsPlayed,
	run func(ctx context.Context, p *plan.Plan, in In, o signal.Options) (*T, error), lapsed ...func(*T) bool,
) job[In, T] {
	return meteredAt(s, api, id, path, summary, played,
		func(ctx context.Context, p *plan.Plan, in In, o signal.Options) (*T, error) {
			there, err := played(in).of(p)
			if err != nil {
				return nil, err
			}
			return run(ctx, there, in, o)
		}, lapsed...)
}

// meteredAt is metered for what looks for the destination itself, because it changes the rig.
func meteredAt[In waits, T any](
	s *Server, api huma.API, id, path, summary string, played func(In) AsPlayed,
	run func(ctx context.Context, p *plan.Plan, in In, o signal.Options) (*T, error), lapsed ...func(*T) bool,
) job[In, T] {
	j := job[In, T]{
		id: id, path: path, summary: summary,
		scope: func(p *plan.Plan, in In) (*plan.Plan, error) { return s.playedScope(p, played(in)) },
		run: func(ctx context.Context, p *plan.Plan, in In, report func(float64)) (*T, error) {
			r := played(in)
			dry, err := s.dry(r.Dry)
			if err != nil {
				return nil, err
			}
			return run(ctx, p, in, signal.Options{Dry: dry, Progress: report, Kept: s.kept})
		},
	}
	if len(lapsed) > 0 {
		j.lapsed = lapsed[0]
	}
	serve(s, api, j)
	return j
}

func (s *Server) signalRoutes(api huma.API) {
	metered(s, api, "signal", "/api/signal", "Figures of every sound of a rig, against its targets",
		func(in signalInput) AsPlayed { return in.AsPlayed },
		func(ctx context.Context, p *plan.Plan, in signalInput, o signal.Options) (*signal.Report, error) {
			return signal.Measure(ctx, p, in.Rig, o)
		})
	gainMap := metered(s, api, "gain-map", "/api/gainmap", "Every combination of a rig's gain stages",
		func(in signalInput) AsPlayed { return in.AsPlayed },
		func(ctx context.Context, p *plan.Plan, in signalInput, o signal.Options) (*signal.GainMap, error) {
			return signal.MapGain(ctx, p, in.Rig, o)
		})
	meteredAt(s, api, "boost", "/api/boost", "What a boost does at every place of the chain",
		func(in boostInput) AsPlayed { return in.AsPlayed }, placeBoost)
	levels := metered(s, api, "levels", "/api/levels", "The sounds of a set in order of loudness",
		func(in levelsInput) AsPlayed { return AsPlayed{Rigging: in.Rigging} },
		func(ctx context.Context, p *plan.Plan, in levelsInput, o signal.Options) (*signal.Ladder, error) {
			return signal.Level(ctx, p, in.Rig, in.SetList, o)
		})
	s.balance(api, gainMap, levels)
	meteredAt(s, api, "move-boost", "/api/boost/move",
		"Whether another place of its boost brings a sound into its targets",
		func(in tuneInput) AsPlayed { return AsPlayed{Rigging: in.Rigging} },
		func(ctx context.Context, p *plan.Plan, in tuneInput, o signal.Options) (*signal.BoostMove, error) {
			return signal.MoveBoost(ctx, p, in.Rig, in.At, in.Sound, o)
		})
	meteredAt(s, api, "tune", "/api/tune", "The fewest knob moves that bring a sound into its targets",
		func(in tuneInput) AsPlayed { return AsPlayed{Rigging: in.Rigging} },
		func(ctx context.Context, p *plan.Plan, in tuneInput, o signal.Options) (*signal.Tuning, error) {
			return signal.Tune(ctx, p, in.Rig, in.At, in.Sound, o)
		})
	metered(s, api, "differ", "/api/differ", "What another order of the chain does to the sounds of this rig",
		func(in differInput) AsPlayed { return AsPlayed{Rigging: in.Rigging} },
		func(ctx context.Context, p *plan.Plan, in differInput, o signal.Options) (*signal.Difference, error) {
			other, err := reordered(p, in.Rig, in.Order)
			if err != nil {
				return nil, err
			}
			var stops []plan.Key
			if in.Stops != "" {
				if err := json.Unmarshal([]byte(in.Stops), &stops); err != nil {
					return nil, reason.Errorf("the stops are not a list of keys: %w", err)
				}
			}
			return signal.Differ(ctx, p, in.Rig, other, stops, o)
		})
	metered(s, api, "listen", "/api/listen", "Render sounds to be listened to",
		func(in listenInput) AsPlayed { return in.AsPlayed }, s.listen,
		func(l *Listening) bool {
			return slices.ContainsFunc(l.Clips, func(c Clip) bool { return !s.clips.has(c.ID) })
		})
	huma.Register(
		api,
		huma.Operation{
			OperationID: "get-on-over-off", Method: http.MethodGet, Path: "/api/recordings/compare",
			Summary: "How much louder one recording is than another of the same playing",
		},
		s.compareRecordings,
	)
}

// balance registers what is to be said of levels and dirt: from the gain map and the ladder, which whoever asks
// for them finds too.
func (s *Server) balance(
	api huma.API, gainMap job[signalInput, signal.GainMap], levels job[levelsInput, signal.Ladder],
) {
	const path, summary = "/api/balance", "What is to be said of the levels and the dirt of a set on a rig"
	huma.Register(api, huma.Operation{OperationID: "get-balance", Method: http.MethodGet, Path: path, Summary: summary},
		func(ctx context.Context, in *balanceInput) (*workOutput[signal.Balance], error) {
			a, err := begin(ctx, s, gainMap, signalInput{AsPlayed{Rigging: in.Rigging}, in.Waiting})
			if err != nil {
				return nil, err
			}
			tasks := []*task{a}
			if in.SetList != "" {
				b, err := begin(ctx, s, levels, levelsInput(*in))
				if err != nil {
					return nil, err
				}
				tasks = append(tasks, b)
			}
			waitFor(ctx, in.wait(), tasks...)
			return s.balanceFrom(tasks)
		})
	huma.Register(api, huma.Operation{
		OperationID: "cancel-balance", Method: http.MethodDelete, Path: path, Summary: "Cancel: " + summary,
	},
		func(_ context.Context, in *balanceInput) (*workOutput[signal.Balance], error) {
			if err := cancel(s, gainMap, signalInput{AsPlayed{Rigging: in.Rigging}, in.Waiting}); err != nil {
				return nil, err
			}
			if in.SetList != "" {
				if err := cancel(s, levels, levelsInput(*in)); err != nil {
					return nil, err
				}
			}
			return &workOutput[signal.Balance]{Body: Work[signal.Balance]{State: "cancelled"}}, nil
		})
}

// balanceFrom joins the gain map and, where a set was named, the ladder, as far as they are.
func (s *Server) balanceFrom(tasks []*task) (*workOutput[signal.Balance], error) {
	m, err := answerOf[signal.GainMap](s, tasks[0])
	if err != nil {
		return nil, err
	}
	out := Work[signal.Balance]{State: m.Body.State, Progress: m.Body.Progress}
	ladder := &signal.Ladder{}
	if len(tasks) > 1 {
		l, err := answerOf[signal.Ladder](s, tasks[1])
		if err != nil {
			return nil, err
		}
		out.Progress = (out.Progress + l.Body.Progress) / 2
		if out.State == "done" {
			out.State = l.Body.State
		}
		ladder = l.Body.Result
	}
	if out.State == "done" {
		out.Result = signal.BalanceOf(m.Body.Result, ladder)
	}
	return &workOutput[signal.Balance]{Body: out}, nil
}

// reordered is the main line of a rig in another order, given by the ids of its nodes.
func reordered(p *plan.Plan, rig plan.ID, order string) ([]plan.Node, error) {
	var ids []plan.Key
	if err := json.Unmarshal([]byte(order), &ids); err != nil {
		return nil, reason.Errorf("the order is not a list of ids: %w", err)
	}
	r, _ := p.FindRig(rig)
	at := map[plan.Key]plan.Node{}
	for _, n := range r.Path {
		at[n.ID()] = n
	}
	var path []plan.Node
	for _, id := range ids {
		n, ok := at[id]
		if !ok {
			return nil, reason.Errorf("%s is not on the main line, or appears twice in the order", id)
		}
		delete(at, id)
		path = append(path, n)
	}
	if len(at) > 0 {
		return nil, reason.Errorf("the order leaves out %d stops of the main line", len(at))
	}
	return path, nil
}

// listen renders what is asked for and keeps it as clips.
func (s *Server) listen(ctx context.Context, p *plan.Plan, in listenInput, o signal.Options) (*Listening, error) {
	name := func(id plan.ID) string {
		if x, ok := p.FindSound(id); ok {
			return x.Name
		}
		return string(id)
	}
	takes := []signal.Take{{Name: name(in.Sound), Sound: in.Sound, Recipe: in.Recipe}}
	if in.About != "" {
		var stops []plan.Key
		if bad := json.Unmarshal([]byte(in.About), &stops); bad != nil {
			return nil, reason.Errorf("what it is about is not a list of stops: %w", bad)
		}
		about, err := signal.About(p, in.Rig, stops, in.Sound)
		if err != nil {
			return nil, err
		}
		takes[0] = about
	}
	var heard []signal.Heard
	var err error
	switch {
	case in.Position > 0:
		heard, err = s.listenToChange(ctx, p, in, o)
	default:
		switch {
		case in.With != "":
			takes = append(takes, signal.Take{Name: name(in.With), Sound: in.With})
		case in.Order != "":
			other, bad := reordered(p, in.Rig, in.Order)
			if bad != nil {
				return nil, bad
			}
			moved := takes[0]
			takes[0].Name, moved.Name, moved.Path = takes[0].Name+" as it stands", "the other order", other
			takes = append(takes, moved)
		case in.Values != "":
			var values map[plan.Key]plan.Value
			if bad := json.Unmarshal([]byte(in.Values), &values); bad != nil {
				return nil, reason.Errorf("the values are not settings: %w", bad)
			}
			if in.Proposed {
				takes = proposedTakes(p, in.Rig, signal.Take{Name: name(in.Sound), Sound: in.Sound, Over: values, Own: true})
				break
			}
			takes = append(takes, signal.Take{Name: "as set", Sound: in.Sound, Recipe: in.Recipe, Over: values})
		}
		heard, err = signal.Listen(ctx, p, in.Rig, takes, in.Matched, o)
	}
	if err != nil {
		return nil, err
	}
	return s.clipped(heard)
}

// clipped keeps what was rendered as clips.
func (s *Server) clipped(heard []signal.Heard) (*Listening, error) {
	out := &Listening{Clips: []Clip{}}
	for _, h := range heard {
		data, err := wav.Encode(h.L, h.R)
		if err != nil {
			return nil, err
		}
		id, err := s.clips.addAudio(data)
		if err != nil {
			return nil, err
		}
		out.Clips = append(out.Clips, Clip{ID: id, Name: h.Name, LUFS: h.LUFS, Gain: h.Gain, Ring: h.Ring, Fade: h.Fade})
	}
	return out, nil
}

// proposedTakes are a proposed recipe, after the home sound where the rig has one.
func proposedTakes(p *plan.Plan, rig plan.ID, proposed signal.Take) []signal.Take {
	r, ok := p.FindRig(rig)
	for _, s := range p.Sounds {
		if ok && s.Role == plan.HomeRole && s.ID != proposed.Sound && r.RecipeFor(plan.Section{Sound: s.ID}) != nil {
			return []signal.Take{{Name: s.Name, Sound: s.ID}, proposed}
		}
	}
	return []signal.Take{proposed}
}

// listenToChange renders the change into a section with the presses of the show, at their times.
func (s *Server) listenToChange(
	ctx context.Context, p *plan.Plan, in listenInput, o signal.Options,
) ([]signal.Heard, error) {
	report, err := reach.Compute(p, in.Rig, in.SetList)
	if err != nil {
		return nil, err
	}
	if in.Position >= len(report.Sections) {
		return nil, reason.Errorf("the set has no section %d", in.Position)
	}
	c := report.Changes[in.Position-1]
	from, to := report.Sections[in.Position-1], report.Sections[in.Position]
	take := func(x reach.Section, name string) signal.Take {
		return signal.Take{Name: name, Sound: x.Sound, Recipe: x.Recipe, Tempo: tempoOf(p, x.Place)}
	}
	var presses []signal.Press
	for _, b := range c.Moves {
		presses = append(presses, signal.Press{At: b.AtS, Values: b.Values})
	}
	return signal.Change(ctx, p, in.Rig, signal.Transition{
		From: take(from, c.From.Name), To: take(to, c.To.Name), Presses: presses, Before: 2, After: 3,
	}, o)
}

// tempoOf is the tempo of a section.
func tempoOf(p *plan.Plan, at reach.Place) plan.Tempo {
	song, ok := p.FindSong(at.SongID)
	if !ok {
		return plan.Tempo{}
	}
	for _, sec := range song.Sections {
		if sec.ID == at.SectionID {
			return sec.TempoIn(*song)
		}
	}
	return song.Tempo
}

type pairInput struct {
	On  string `query:"on" required:"true" maxLength:"100"`
	Off string `query:"off" required:"true" maxLength:"100"`
}

type pairOutput struct {
	Body struct {
		DB float64 `json:"on_over_off_db"`
	}
}

func (s *Server) compareRecordings(_ context.Context, in *pairInput) (*pairOutput, error) {
	on, ok := s.clips.recording(in.On)
	off, ok2 := s.clips.recording(in.Off)
	if !ok || !ok2 {
		return nil, huma.Error404NotFound("A recording has expired: upload it again.")
	}
	db := signal.OnOverOff(on[0], off[0])
	if math.IsNaN(db) {
		return nil, huma.Error422UnprocessableEntity("The two recordings never play at the same time.")
	}
	out := &pairOutput{}
	out.Body.DB = math.Round(db*10) / 10
	return out, nil
}
