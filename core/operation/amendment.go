package operation

import (
	"encoding/json"
	"fmt"

	"envex/core/plan"
	"envex/core/reason"
)

// Amendment is what is done to one aggregate: operations on it, or it is added, or removed.
type Amendment struct {
	Kind    plan.AggregateKind `json:"kind" enum:"gear,sound,song,band,set_list,rig,show"`
	ID      plan.ID            `json:"id" minLength:"1" maxLength:"200"`
	Ops     []Op               `json:"ops,omitempty" maxItems:"5000" doc:"Carried out one after the other on what is there."`
	Add     any                `json:"add,omitempty" doc:"A new aggregate of that kind and id."`
	Remove  bool               `json:"remove,omitempty"`
	Version int                `json:"version,omitempty" minimum:"0" doc:"With remove: the version that was seen."`
}

// On is the aggregate as an amendment leaves it, given the plan as it stands; nil where it is removed.
// It fails as [Apply] does, and with a [*ConflictError] where what it is about is not there, or is
// there already.
func (e Amendment) On(p *plan.Plan) (plan.Aggregate, error) {
	have, there := find(p, e.Kind, e.ID)
	switch {
	case e.Remove && e.Add == nil && len(e.Ops) == 0:
		return nil, nil
	case e.Add != nil && len(e.Ops) == 0 && !e.Remove:
		data, err := json.Marshal(e.Add)
		if err != nil {
			return nil, fmt.Errorf("operation: read what is added: %w", err)
		}
		put, err := plan.DecodeAggregate(e.Kind, data)
		if err != nil {
			return nil, err
		}
		if put.AggregateID() != e.ID {
			return nil, plan.Problems{{Path: "id", Message: fmt.Sprintf("the id is not %q, which the edit names", e.ID)}}
		}
		return put, nil
	case len(e.Ops) > 0 && e.Add == nil && !e.Remove:
		if !there {
			return nil, &ConflictError{Reason: Gone, Path: string(e.ID)}
		}
		return Apply(have, e.Ops)
	}
	return nil, &InvalidError{Message: "an edit has one of ops, add and remove"}
}

func find(p *plan.Plan, kind plan.AggregateKind, id plan.ID) (plan.Aggregate, bool) {
	for _, a := range p.All() {
		if a.AggregateKind() == kind && a.AggregateID() == id {
			return a, true
		}
	}
	return nil, false
}

// Amend carries amendments out on a copy of a plan, whole or not at all. It fails as [Amendment.On] does,
// saying which amendment, and with [plan.Problems] where the plan would not be valid.
func Amend(p *plan.Plan, edits []Amendment) (*plan.Plan, error) {
	next := *p
	for i, e := range edits {
		put, err := e.On(&next)
		switch {
		case err != nil:
			return nil, reason.Errorf("edit %d, %s %s: %w", i+1, e.Kind, e.ID, err)
		case put == nil:
			if err := drop(&next, e); err != nil {
				return nil, reason.Errorf("edit %d: %w", i+1, err)
			}
		default:
			if _, there := find(&next, e.Kind, e.ID); there && e.Add != nil {
				return nil, reason.Errorf(
					"edit %d, %s %s: %w", i+1, e.Kind, e.ID, &ConflictError{Path: string(e.ID), Reason: Exists},
				)
			}
			next.Put(put)
		}
	}
	if problems := next.Validate(); len(problems) > 0 {
		return nil, problems
	}
	return &next, nil
}

func drop(p *plan.Plan, e Amendment) error {
	if _, there := find(p, e.Kind, e.ID); !there {
		return nil // what was asked for is so
	}
	p.Drop(e.Kind, e.ID)
	if uses := p.Uses(e.ID); len(uses) > 0 {
		return reason.Errorf("%s", string(e.Kind)+" "+string(e.ID)+" is still in use: "+uses[0].String())
	}
	return nil
}
