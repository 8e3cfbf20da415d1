package plan

import (
	"bytes"
	"encoding/json"
	"errors"
	"io"
	"maps"
	"reflect"
	"strings"
	"sync"

	"envex/core/reason"
)

// parseTree reads JSON into maps, slices, strings, bools, nil and json.Numbers. It refuses
// what encoding/json lets pass: a field that stands twice, nesting deeper than MaxDepth,
// and anything after the end.
func parseTree(data []byte) (any, error) {
	dec := json.NewDecoder(bytes.NewReader(data))
	dec.UseNumber()
	tree, err := (&treeParser{Decoder: dec}).value(0)
	if errors.Is(err, io.EOF) || errors.Is(err, io.ErrUnexpectedEOF) {
		return nil, reason.Errorf("the JSON ends too early")
	}
	if err != nil {
		return nil, err
	}
	if _, err := dec.Token(); !errors.Is(err, io.EOF) {
		return nil, reason.Errorf("there is something after the end of the JSON")
	}
	return tree, nil
}

// treeParser counts the values it reads: each takes many times the memory of its text.
type treeParser struct {
	*json.Decoder
	values int
}

func (dec *treeParser) value(depth int) (any, error) {
	if depth >= MaxDepth {
		return nil, reason.Errorf("it is nested deeper than %d levels", MaxDepth)
	}
	if dec.values++; dec.values > MaxValues {
		return nil, reason.Errorf("it has more than %d values", MaxValues)
	}
	token, err := dec.Token()
	if err != nil {
		return nil, err
	}
	switch token {
	case json.Delim('{'):
		return dec.object(depth)
	case json.Delim('['):
		list := []any{}
		for dec.More() {
			x, err := dec.value(depth + 1)
			if err != nil {
				return nil, err
			}
			list = append(list, x)
		}
		_, err := dec.Token()
		return list, err
	}
	return token, nil
}

func (dec *treeParser) object(depth int) (any, error) {
	object := map[string]any{}
	for dec.More() {
		token, err := dec.Token()
		if err != nil {
			return nil, err
		}
		name, ok := token.(string)
		if !ok {
			return nil, reason.Errorf("a field has no name")
		}
		if _, twice := object[name]; twice {
			return nil, reason.Errorf("the field %q appears twice in one object", name)
		}
		if object[name], err = dec.value(depth + 1); err != nil {
			return nil, err
		}
	}
	_, err := dec.Token()
	return object, err
}

// checkShape reports every place where decoded JSON does not have the form of a Go type:
// unknown fields, wrong types, missing required fields.
func checkShape(ps *Problems, path string, tree any, t reflect.Type, optional bool) {
	if t.Kind() == reflect.Pointer {
		t, optional = t.Elem(), true
	}
	if tree == nil {
		if !optional {
			ps.add(path, "null cannot stand here")
		}
		return
	}
	if t == reflect.TypeFor[Value]() {
		if _, problem := valueFromAny(tree); problem != "" {
			ps.add(path, "%s", problem)
		}
		return
	}
	switch t.Kind() {
	case reflect.Struct:
		checkObject(ps, path, tree, t)
	case reflect.Slice:
		list, ok := tree.([]any)
		if !ok {
			ps.add(path, "a list is expected, not %s", jsonWord(tree))
			return
		}
		for i, x := range list {
			checkShape(ps, at(path, i), x, t.Elem(), false)
		}
	case reflect.Map:
		object, ok := tree.(map[string]any)
		if !ok {
			ps.add(path, "an object is expected, not %s", jsonWord(tree))
			return
		}
		for _, name := range SortedKeys(object) {
			checkShape(ps, in(path, name), object[name], t.Elem(), false)
		}
	default:
		checkScalar(ps, path, tree, t)
	}
}

func checkScalar(ps *Problems, path string, tree any, t reflect.Type) {
	switch t.Kind() {
	case reflect.String:
		if _, ok := tree.(string); !ok {
			ps.add(path, "text is expected, not %s", jsonWord(tree))
		}
	case reflect.Bool:
		if _, ok := tree.(bool); !ok {
			ps.add(path, "true or false is expected, not %s", jsonWord(tree))
		}
	case reflect.Int:
		n, ok := tree.(json.Number)
		if !ok {
			ps.add(path, "a whole number is expected, not %s", jsonWord(tree))
		} else if i, err := n.Int64(); err != nil || i > 1<<31 || i < -(1<<31) {
			ps.add(path, "a whole number is expected, not %s", n)
		}
	case reflect.Float64:
		n, ok := tree.(json.Number)
		if !ok {
			ps.add(path, "a number is expected, not %s", jsonWord(tree))
		} else if _, err := n.Float64(); err != nil {
			ps.add(path, "the number %s is too large", n)
		}
	}
}

func checkObject(ps *Problems, path string, tree any, t reflect.Type) {
	object, ok := tree.(map[string]any)
	if !ok {
		ps.add(path, "an object is expected, not %s", jsonWord(tree))
		return
	}
	fields := fieldsOf(t)
	for _, name := range SortedKeys(object) {
		f, ok := fields.by[name]
		if !ok {
			ps.add(dot(path, name), "there is no field called %q here", name)
			continue
		}
		checkShape(ps, dot(path, name), object[name], f.of, f.optional)
	}
	for _, name := range fields.required {
		if _, have := object[name]; !have {
			ps.add(dot(path, name), "the field %q is missing", name)
		}
	}
}

// shapeFields are the fields of a struct by JSON name, those of embedded structs among them.
type shapeFields struct {
	by       map[string]shapeField
	required []string // by name
}

type shapeField struct {
	of       reflect.Type
	optional bool
}

// required reports whether it has to be there: every field without omitempty, but for structs, which may stay away
// whole where all they hold is optional.
func (f shapeField) required() bool { return !f.optional && f.of.Kind() != reflect.Struct }

var allFields sync.Map // of reflect.Type to shapeFields: read once for each type of the program

func fieldsOf(t reflect.Type) shapeFields {
	if known, ok := allFields.Load(t); ok {
		return known.(shapeFields)
	}
	fields := shapeFields{by: map[string]shapeField{}}
	for i := range t.NumField() {
		f := t.Field(i)
		if f.Anonymous {
			maps.Copy(fields.by, fieldsOf(f.Type).by)
			continue
		}
		if name := jsonName(f); name != "" {
			fields.by[name] = shapeField{f.Type, strings.Contains(f.Tag.Get("json"), "omitempty")}
		}
	}
	for _, name := range SortedKeys(fields.by) {
		if fields.by[name].required() {
			fields.required = append(fields.required, name)
		}
	}
	allFields.Store(t, fields)
	return fields
}

func jsonWord(tree any) string {
	switch tree.(type) {
	case map[string]any:
		return "an object"
	case []any:
		return "a list"
	case string:
		return "text"
	case bool:
		return "true or false"
	case json.Number:
		return "a number"
	}
	return "null"
}
