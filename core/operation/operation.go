// Package operation holds edits of aggregates as operations: each names what it changes by id and
// field and says what it expects to find there, so that it can be applied to whatever version is
// there when it arrives. Operations on different things commute; one whose expectation does not
// hold is refused with a [*ConflictError], and nothing is changed.
//
// Operations work on an aggregate as the file format shows it, so that every field that can be
// saved can be edited. They know no rule of the job: what they lead to is validated as any plan is.
package operation

import (
	"bytes"
	"encoding/json"
	"fmt"

	"envex/core/plan"
)

// The acts of an operation.
const (
	Set    = "set"    // give a field or a key a value, or none
	Insert = "insert" // put a new element into a list
	Remove = "remove" // take an element out of a list
	Move   = "move"   // put an element of a list elsewhere in the same list
)

// Step is one step from a value to one inside it. Exactly one of its three forms is used.
type Step struct {
	Key   string `json:"key,omitempty" maxLength:"400" doc:"A field of an object, or a key of a map."`
	Match any    `json:"match,omitempty" doc:"The one element of a list that has these fields; of a list of words, the word itself."`
	Place *int   `json:"place,omitempty" minimum:"0" maximum:"10000" doc:"An element that has no name of its own, by its place from 0."`
	Of    int    `json:"of,omitempty" minimum:"0" maximum:"10000" doc:"With place: how many elements the list had."`
}

// Op is one operation. After and Before name the neighbours that the element was meant to stand
// between, each as Match does; nil is the end of the list.
type Op struct {
	Do      string `json:"do" enum:"set,insert,remove,move"`
	Path    []Step `json:"path" maxItems:"40" doc:"Of set, the way to the field; otherwise to the list."`
	Was     any    `json:"was,omitempty" doc:"What was seen there: of set the value, of remove the element. Absent where nothing was."`
	To      any    `json:"to,omitempty" doc:"Of set: the new value; absent to clear the field."`
	Element any    `json:"element,omitempty" doc:"Which element, as match names it. Of an insert, absent where elements have no name."`
	Value   any    `json:"value,omitempty" doc:"Of insert: the new element."`
	After   any    `json:"after,omitempty" doc:"The element before the new place, as match names it; absent for the beginning."`
	Before  any    `json:"before,omitempty" doc:"The element after the new place; absent for the end."`
	From    *Place `json:"from,omitempty" doc:"Of move: the neighbours it was seen between."`
}

// Place is where an element of a list stands: between which neighbours.
type Place struct {
	After  any `json:"after,omitempty"`
	Before any `json:"before,omitempty"`
}

// Reason says why an operation could not be applied.
type Reason string

// The reasons why an operation cannot be applied.
const (
	Changed Reason = "changed" // another value is there than the one that was seen
	Gone    Reason = "gone"    // what it changes, or where it should go, is not there any more
	Exists  Reason = "exists"  // something else has that name already
	Shape   Reason = "shape"   // the list has another length than the one that was seen
	Unclear Reason = "unclear" // several elements have what was to name one
)

// ConflictError says which operation does not fit what is there.
type ConflictError struct {
	Op     int // which of the operations, from 0
	Path   string
	Reason Reason
	Theirs any // what is there; nil where nothing is
	Yours  any // what was asked for; nil where it was to be cleared
}

// Error says where and why.
func (e *ConflictError) Error() string {
	switch e.Reason {
	case Changed:
		return fmt.Sprintf("%s was changed meanwhile", e.Path)
	case Gone:
		return fmt.Sprintf("%s is not there any more", e.Path)
	case Exists:
		return fmt.Sprintf("%s is there already, and different", e.Path)
	case Shape:
		return fmt.Sprintf("%s has got more or fewer entries meanwhile", e.Path)
	}
	return fmt.Sprintf("several entries of %s fit", e.Path)
}

// Words is what a person reads of it: see [reason.Of].
func (e *ConflictError) Words() string { return e.Error() }

// InvalidError says that an operation is not one: its form is wrong, whatever is there.
type InvalidError struct {
	Op      int
	Message string
}

// Error says what is wrong with the operation.
func (e *InvalidError) Error() string { return fmt.Sprintf("operation %d: %s", e.Op, e.Message) }

// Words is what a person reads of it: see [reason.Of].
func (e *InvalidError) Words() string { return e.Error() }

// Apply carries operations out one after the other on a copy of an aggregate. It fails with a
// [*ConflictError] when one does not fit what is there, with an [*InvalidError] when it is no
// operation at all, and with [plan.Problems] when the result has not the shape of an aggregate.
// What an operation asks for and is so already is no conflict: applying one twice is applying it once.
func Apply(a plan.Aggregate, ops []Op) (plan.Aggregate, error) {
	tree, err := treeOf(a)
	if err != nil {
		return nil, err
	}
	id := a.AggregateID()
	for i, op := range ops {
		if tree, err = step(tree, i, op); err != nil {
			return nil, err
		}
	}
	data, err := json.Marshal(tree)
	if err != nil {
		return nil, fmt.Errorf("operation: write result: %w", err)
	}
	next, err := plan.DecodeAggregate(a.AggregateKind(), data)
	if err != nil {
		return nil, err
	}
	if next.AggregateID() != id {
		return nil, &InvalidError{Message: "an id never changes"}
	}
	return next, nil
}

func treeOf(a any) (any, error) {
	data, err := json.Marshal(a)
	if err != nil {
		return nil, fmt.Errorf("operation: read: %w", err)
	}
	var tree any
	d := json.NewDecoder(bytes.NewReader(data))
	d.UseNumber()
	if err := d.Decode(&tree); err != nil {
		return nil, fmt.Errorf("operation: read: %w", err)
	}
	return tree, nil
}
