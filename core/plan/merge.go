package plan

import (
	"encoding/json"
	"fmt"
	"reflect"
	"slices"
	"strings"
)

// Resolution says what to do with something that is in the plan already, with other content.
type Resolution string

// What to do with a conflict.
const (
	Replace Resolution = "replace" // the file's version takes the place of the plan's
	Copy    Resolution = "copy"    // the file's version comes in beside it under a new id
	KeepOwn Resolution = "keep"    // the plan's version stays
)

// Conflict is something a file brings that is in the plan already, with other content.
type Conflict struct {
	Kind AggregateKind `json:"kind"`
	ID   ID            `json:"id"`
	Mine string        `json:"mine" doc:"Its name in the plan."`
	File string        `json:"file" doc:"Its name in the file."`
}

// MergePlan is what an import would do to a plan.
type MergePlan struct {
	Added     []Aggregate
	Replaced  []Aggregate
	Same      []Aggregate
	Conflicts []Conflict // with no resolution yet
}

// Merge works out what importing a file into the plan does. Neither is changed. While
// conflicts remain that resolve does not answer, they are listed and nothing else counts.
// newID must give an id that is free; it is called once for each copy.
func (p *Plan) Merge(file *Plan, resolve map[ID]Resolution, newID func() ID) (*MergePlan, error) {
	mine := map[ID]Aggregate{}
	for _, a := range p.All() {
		mine[a.AggregateID()] = a
	}
	m := &MergePlan{}
	rename := map[ID]ID{}
	for _, a := range file.All() {
		own, have := mine[a.AggregateID()]
		if !have || same(own, a) {
			continue
		}
		if own.AggregateKind() != a.AggregateKind() || resolve[a.AggregateID()] == Copy {
			rename[a.AggregateID()] = newID()
			if r, ok := a.(Rig); ok {
				for _, id := range r.innerIDs() {
					rename[id] = newID()
				}
			}
			continue
		}
		if r := resolve[a.AggregateID()]; r != Replace && r != KeepOwn {
			m.Conflicts = append(
				m.Conflicts, Conflict{Kind: a.AggregateKind(), ID: a.AggregateID(), Mine: own.Label(), File: a.Label()},
			)
		}
	}
	if len(m.Conflicts) > 0 {
		return m, nil
	}
	incoming, err := file.renamed(rename)
	if err != nil {
		return nil, err
	}
	for _, a := range incoming.All() {
		own, have := mine[a.AggregateID()]
		switch {
		case !have:
			m.Added = append(m.Added, a)
		case same(own, a) || resolve[a.AggregateID()] == KeepOwn:
			m.Same = append(m.Same, a)
		default:
			m.Replaced = append(m.Replaced, a)
		}
	}
	return m, nil
}

// innerIDs are the ids within a rig that are unique in the whole file: its recipes and its
// destinations with theirs.
func (r *Rig) innerIDs() []ID {
	var ids []ID
	for _, rec := range r.Recipes {
		ids = append(ids, rec.ID)
	}
	for _, d := range r.Destinations {
		ids = append(ids, d.ID)
		for _, rec := range d.Recipes {
			if !slices.Contains(ids, rec.ID) {
				ids = append(ids, rec.ID)
			}
		}
	}
	return ids
}

// same reports whether two aggregates would be written alike.
func same(a, b Aggregate) bool {
	x, err1 := json.Marshal(a)
	y, err2 := json.Marshal(b)
	return err1 == nil && err2 == nil && a.AggregateKind() == b.AggregateKind() && string(x) == string(y)
}

// renamed is a copy of the plan with ids replaced wherever they stand, keys included.
func (p *Plan) renamed(ids map[ID]ID) (*Plan, error) {
	data, err := json.Marshal(p)
	if err != nil {
		return nil, fmt.Errorf("plan: copy: %w", err)
	}
	var q Plan
	if err := json.Unmarshal(data, &q); err != nil {
		return nil, fmt.Errorf("plan: copy: %w", err)
	}
	if len(ids) > 0 {
		renameIn(reflect.ValueOf(&q).Elem(), ids)
	}
	return &q, nil
}

func renameIn(v reflect.Value, ids map[ID]ID) {
	switch v.Kind() {
	case reflect.Pointer:
		if !v.IsNil() {
			renameIn(v.Elem(), ids)
		}
	case reflect.Slice:
		for i := range v.Len() {
			renameIn(v.Index(i), ids)
		}
	case reflect.Map:
		renameMap(v, ids)
	case reflect.Struct:
		if v.Type() == reflect.TypeFor[Value]() {
			return
		}
		for i := range v.NumField() {
			if !isLocal(v.Type(), v.Type().Field(i).Name) {
				renameIn(v.Field(i), ids)
			}
		}
	case reflect.String:
		v.SetString(renameWord(v.Type(), v.String(), ids))
	}
}

func renameMap(m reflect.Value, ids map[ID]ID) {
	for _, k := range sortedKeys(m) {
		x := reflect.New(m.Type().Elem()).Elem()
		x.Set(m.MapIndex(k))
		renameIn(x, ids)
		word := renameWord(k.Type(), k.String(), ids)
		if word != k.String() {
			m.SetMapIndex(k, reflect.Value{})
		}
		m.SetMapIndex(reflect.ValueOf(word).Convert(k.Type()), x)
	}
}

// isLocal reports whether a field holds ids that mean something only inside their owner: a
// block's, a section's, everything within gear. They are not renamed even where one happens
// to read like the id of an aggregate.
func isLocal(t reflect.Type, field string) bool {
	switch t {
	case reflect.TypeFor[Gear]():
		return field != "ID"
	case reflect.TypeFor[Sound](), reflect.TypeFor[Song](), reflect.TypeFor[Band](), reflect.TypeFor[SetList](),
		reflect.TypeFor[Rig](), reflect.TypeFor[Show](), reflect.TypeFor[Recipe](), reflect.TypeFor[Destination]():
		return false
	}
	return field == "ID" || field == "Switch" || field == "Relay" || field == "Swap" || field == "Part" || field == "Section"
}

// renameWord renames an id, or the gear that a key begins with.
func renameWord(t reflect.Type, word string, ids map[ID]ID) string {
	switch t {
	case reflect.TypeFor[ID]():
		if to, ok := ids[ID(word)]; ok {
			return string(to)
		}
	case reflect.TypeFor[Key]():
		if to, ok := ids[Key(word).Gear()]; ok && strings.Contains(word, "/") {
			return string(to) + "/" + Key(word).Rest()
		}
	}
	return word
}
