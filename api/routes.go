package api

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"envex/core/catalog"
	"envex/core/plan"
	"envex/store"
)

// Versioned is an aggregate and its version.
type Versioned[T plan.Aggregate] struct {
	Version int `json:"version" minimum:"0" doc:"The version that was read; 0 for something new."`
	Value   T   `json:"value"`
}

// WholePlan is everything there is, each thing with its version; or where it is partial, what was
// written since the state that the request knew.
type WholePlan struct {
	At       string                    `json:"at" doc:"The state of the plan: what it is called in later requests."`
	Partial  bool                      `json:"partial,omitempty"`
	Order    *PlanOrder                `json:"order,omitempty" doc:"Of a partial answer: everything there is, by id."`
	Gear     []Versioned[plan.Gear]    `json:"gear"`
	Sounds   []Versioned[plan.Sound]   `json:"sounds"`
	Songs    []Versioned[plan.Song]    `json:"songs"`
	Bands    []Versioned[plan.Band]    `json:"bands"`
	SetLists []Versioned[plan.SetList] `json:"set_lists"`
	Rigs     []Versioned[plan.Rig]     `json:"rigs"`
	Shows    []Versioned[plan.Show]    `json:"shows"`
	Undo     *store.Transaction        `json:"undo,omitempty" doc:"What undo would take back."`
	Redo     *store.Transaction        `json:"redo,omitempty" doc:"What redo would do again."`
	Keys     []VariableInfo            `json:"variables" doc:"Everything that recipes can set."`
	Tapes    []string                  `json:"tapes" doc:"The tape colours, in the order they are offered."`
	Answers  []Answer                  `json:"answers,omitempty" doc:"To what a write said that it shows."`
}

// VariableInfo describes a variable to someone who wants to set it.
type VariableInfo struct {
	Key     plan.Key    `json:"key"`
	Gear    plan.ID     `json:"gear"`
	Block   plan.ID     `json:"block,omitempty"`
	Label   string      `json:"label"`
	Switch  bool        `json:"switch" doc:"A block's on and off."`
	Kind    string      `json:"kind,omitempty" enum:"knob,selector,preset,snapshot"`
	Access  plan.Access `json:"access"`
	Min     float64     `json:"min"`
	Max     float64     `json:"max"`
	Unit    string      `json:"unit,omitempty"`
	Timed   bool        `json:"timed" doc:"It holds a time or a rate, and can be bound to a note."`
	Options []string    `json:"options,omitempty"`
	Default plan.Value  `json:"default"`
}

// PlanOrder is everything there is by id, in the player's order.
type PlanOrder struct {
	Gear     []plan.ID `json:"gear"`
	Sounds   []plan.ID `json:"sounds"`
	Songs    []plan.ID `json:"songs"`
	Bands    []plan.ID `json:"bands"`
	SetLists []plan.ID `json:"set_lists"`
	Rigs     []plan.ID `json:"rigs"`
	Shows    []plan.ID `json:"shows"`
}

type planInput struct {
	Since string `query:"since" maxLength:"100" doc:"The state of the plan that is known: only what is new since is given."`
}

type planOutput struct{ Body *WholePlan }

func (s *Server) routes(api huma.API) {
	huma.Register(
		api, huma.Operation{OperationID: "get-plan", Method: http.MethodGet, Path: planPath, Summary: "Everything there is"},
		s.getPlan,
	)
	aggregate[plan.Gear](s, api, "gear", "gear")
	aggregate[plan.Sound](s, api, "sounds", "sound")
	aggregate[plan.Song](s, api, "songs", "song")
	aggregate[plan.Band](s, api, "bands", "band")
	aggregate[plan.SetList](s, api, "set-lists", "set-list")
	aggregate[plan.Rig](s, api, "rigs", "rig")
	aggregate[plan.Show](s, api, "shows", "show")
	s.operationRoutes(api)
	s.historyRoutes(api)
	s.fileRoutes(api)
	s.orderRoutes(api)
	s.switchRoutes(api)
	s.repairRoutes(api)
	s.midiRoutes(api)
	s.signalRoutes(api)
	s.electricRoutes(api)
	s.tempoRoutes(api)
	s.sectionRoutes(api)
	s.playRoutes(api)
	s.layerRoutes(api)
	s.floorRoutes(api)
	s.exchangeRoutes(api)
	s.shorthandRoutes(api)
	s.proposeRoutes(api)
	s.chooseRoutes(api)
	s.standInRoutes(api)
	s.slotRoutes(api)
	s.hireRoutes(api)
	s.guitarRoutes(api)
	s.setOrderRoutes(api)
	s.roomRoutes(api)
	s.estimateRoutes(api)
	s.dialRoutes(api)
	s.guideRoutes(api)
	s.aboutRoutes(api)
	s.exampleRoutes(api)
	s.soundWordRoutes(api)
	s.paperRoutes(api)
	s.journalRoutes(api)
	s.nightRoutes(api)
	s.revisionRoutes(api)
	s.copyRoutes(api)
	s.conditionRoutes(api)
	s.sessionRoutes(api)
	s.deviceRoutes(api)
	huma.Register(
		api,
		huma.Operation{
			OperationID: "get-kinds", Method: http.MethodGet, Path: "/api/kinds", Summary: "Generic kinds of gear to start from",
		},
		s.getKinds,
	)
	huma.Register(
		api,
		huma.Operation{
			OperationID: "get-effects", Method: http.MethodGet, Path: "/api/effects",
			Summary: "What the rules go by in each effect",
		},
		s.getEffects,
	)
	huma.Register(
		api,
		huma.Operation{
			OperationID: "get-new-of-kind", Method: http.MethodGet, Path: "/api/kinds/{kind}/new",
			Summary: "A piece of gear of a kind, under a name and on a MIDI channel that are free; nothing is changed",
		},
		s.getNewOfKind,
	)
	s.reachRoutes(api)
	huma.Register(
		api,
		huma.Operation{
			OperationID: "get-uses", Method: http.MethodGet, Path: usesPath + "{id}", Summary: "What mentions a thing",
		},
		s.getUses,
	)
}

func (s *Server) getPlan(ctx context.Context, in *planInput) (*planOutput, error) {
	w, err := s.since(ctx, in.Since)
	return &planOutput{Body: w}, err
}

func info(v plan.Variable) VariableInfo {
	out := VariableInfo{
		Key: v.Key, Gear: v.Gear, Block: v.Block, Label: v.Label, Switch: v.IsOn(), Access: v.Access, Default: v.Default,
	}
	if c := v.Control; c != nil {
		out.Kind, out.Unit, out.Options = string(c.Kind), c.Unit, c.Options
		out.Min, out.Max = c.Range()
		out.Timed = c.Timed()
	}
	return out
}

type putInput[T plan.Aggregate] struct {
	Writing
	ID    plan.ID `path:"id"`
	Label string  `query:"label" maxLength:"200" doc:"What was done, in words, for undo and history."`
	Body  Versioned[T]
}

type deleteInput struct {
	Writing
	ID      plan.ID `path:"id"`
	Version int     `query:"version" minimum:"1" doc:"The version that was read."`
}

// aggregate registers writing and removing one kind of aggregate.
func aggregate[T plan.Aggregate](s *Server, api huma.API, path, name string) {
	put := huma.Operation{
		OperationID: "put-" + name, Method: http.MethodPut, Path: "/api/" + path + "/{id}", Summary: "Write one " + name,
		Description: "Names the version that was read; a stale write is refused with both versions.", MaxBodyBytes: MaxBody,
	}
	huma.Register(api, put, func(ctx context.Context, in *putInput[T]) (*writeOutput, error) {
		if in.Body.Value.AggregateID() != in.ID {
			return nil, s.problem(
				plan.Problems{{Path: "id", Message: fmt.Sprintf("the id is not %q, which the address names", in.ID)}},
				"body.value.",
			)
		}
		if harm := s.harm(in.Body.Value); len(harm) > 0 {
			return nil, s.problem(harm, "body.value.")
		}
		label := in.Label
		if label == "" {
			label = "Change " + in.Body.Value.Label()
		}
		done, err := s.store.Apply(ctx, label, in.Request, store.Edit{Read: in.Body.Version, Put: in.Body.Value})
		var problems plan.Problems
		if errors.As(err, &problems) {
			err = s.inBody(problems, in.Body.Value)
		}
		return s.written(ctx, in.Writing, in.ID, done, err)
	})
	remove := huma.Operation{
		OperationID: "delete-" + name, Method: http.MethodDelete, Path: "/api/" + path + "/{id}",
		Summary: "Remove one " + name, Description: "Refused with the list of uses while something refers to it.",
	}
	huma.Register(api, remove, func(ctx context.Context, in *deleteInput) (*writeOutput, error) {
		p, _ := s.store.Plan()
		label := "Remove " + name
		for _, a := range p.All() {
			if a.AggregateID() == in.ID {
				label = "Remove " + a.Label()
			}
		}
		done, err := s.store.Apply(ctx, label, in.Request, store.Edit{Read: in.Version, Remove: in.ID})
		return s.written(ctx, in.Writing, in.ID, done, err)
	})
}

// inBody gives problems with the aggregate being written the path they have in the request.
// Others, of things it would break, keep their path in the plan.
func (s *Server) inBody(problems plan.Problems, a plan.Aggregate) plan.Problems {
	p, _ := s.store.Plan()
	next := *p
	next.Put(a)
	own := next.PathOf(a.AggregateID()) + "."
	out := make(plan.Problems, len(problems))
	for i, x := range problems {
		if rest, ok := strings.CutPrefix(x.Path, own); ok {
			x.Path = "body.value." + rest
		}
		out[i] = x
	}
	return out
}

type kindsOutput struct {
	Body struct {
		Kinds    []catalog.Kind               `json:"kinds"`
		Circuits map[plan.Effect][]plan.Model `json:"circuits" doc:"Those a block can be, of each effect that has a choice; the first is taken where it does not say."`
	}
}

type newOfKindInput struct {
	Kind string  `path:"kind"`
	ID   plan.ID `query:"id" required:"true" doc:"Of the gear."`
	Name string  `query:"name" maxLength:"200" doc:"That of the kind when absent."`
}

type newOfKindOutput struct{ Body plan.Gear }

func (s *Server) getNewOfKind(_ context.Context, in *newOfKindInput) (*newOfKindOutput, error) {
	k, ok := catalog.Find(in.Kind)
	if !ok {
		return nil, huma.Error404NotFound(
			"There is no such kind.", &huma.ErrorDetail{Location: "path.kind", Message: "there is no such kind", Value: in.Kind},
		)
	}
	p, _ := s.store.Plan()
	return &newOfKindOutput{Body: k.In(p, in.ID, in.Name)}, nil
}

type effectsOutput struct {
	Body struct {
		Effects []plan.Traits `json:"effects" doc:"In the order in which they are offered."`
	}
}

func (s *Server) getEffects(context.Context, *struct{}) (*effectsOutput, error) {
	out := &effectsOutput{}
	out.Body.Effects = plan.Effects()
	return out, nil
}

func (s *Server) getKinds(context.Context, *struct{}) (*kindsOutput, error) {
	out := &kindsOutput{}
	out.Body.Kinds, out.Body.Circuits = catalog.All(), plan.Models()
	return out, nil
}

func (s *Server) has(in *Showing) (*plan.Plan, error) {
	p, _ := s.store.Plan()
	return showing(p, *in)
}

// showing is the plan where a rig plugs in, once it is known to have what is asked for.
func showing(p *plan.Plan, in Showing) (*plan.Plan, error) {
	if missing := missingShow(p, in); len(missing) > 0 {
		return nil, huma.Error404NotFound("The plan does not have it.", missing...)
	}
	return p.At(in.Rig, in.At)
}

// missingShow says what of a rig, its destination and a set list the plan does not have.
func missingShow(p *plan.Plan, in Showing) []error {
	return append(missingRig(p, in.Rig, in.At), missingSet(p, in.SetList)...)
}

// missingSet says that the plan does not have a set list.
func missingSet(p *plan.Plan, id plan.ID) []error {
	if _, ok := p.FindSetList(id); ok {
		return nil
	}
	return []error{&huma.ErrorDetail{Location: "query.set_list", Message: "there is no such set list", Value: id}}
}

// missingRig says which of a rig and its destination the plan does not have.
func missingRig(p *plan.Plan, rig, destination plan.ID) []error {
	r, ok := p.FindRig(rig)
	if !ok {
		return []error{&huma.ErrorDetail{Location: "query.rig", Message: "there is no such rig", Value: rig}}
	}
	if _, ok := r.FindDestination(destination); destination != "" && !ok {
		return []error{
			&huma.ErrorDetail{Location: "query.destination", Message: "the rig has no such destination", Value: destination},
		}
	}
	return nil
}

type usesInput struct {
	ID plan.ID `path:"id"`
}

type usesOutput struct {
	Body struct {
		Uses []plan.Use `json:"uses"`
	}
}

func (s *Server) getUses(_ context.Context, in *usesInput) (*usesOutput, error) {
	p, _ := s.store.Plan()
	out := &usesOutput{}
	out.Body.Uses = append([]plan.Use{}, p.Uses(in.ID)...)
	return out, nil
}
