package api

import (
	"encoding/json"
	"fmt"
	"reflect"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"envex/core/plan"
)

// valueSchema stands for plan.Value in schemas, whose forms reflection cannot see.
type valueSchema struct{}

// Schema puts the JSON forms of a value under one name and refers to it.
func (valueSchema) Schema(r huma.Registry) *huma.Schema {
	if r.Map()["Value"] == nil {
		r.Map()["Value"] = valueForms()
	}
	return &huma.Schema{Ref: "#/components/schemas/Value"}
}

func valueForms() *huma.Schema {
	yes := func(name string) *huma.Schema {
		return &huma.Schema{
			Type: huma.TypeObject, Required: []string{name}, AdditionalProperties: false,
			Properties: map[string]*huma.Schema{name: {Type: huma.TypeBoolean, Enum: []any{true}}},
		}
	}
	return &huma.Schema{
		Description: "A setting: a number, an option, on or off, a length of note, free (in recipes), or unchanged (in presets and programs).",
		OneOf: []*huma.Schema{
			{Type: huma.TypeNumber}, {Type: huma.TypeString}, {Type: huma.TypeBoolean},
			{
				Type: huma.TypeObject, Required: []string{"sync"}, AdditionalProperties: false,
				Properties: map[string]*huma.Schema{"sync": {Type: huma.TypeString}},
			},
			yes("free"), yes("unchanged"),
		},
	}
}

// schemaName names a type's schema. Types of reports carry their package's name, so that
// the press of a plan and the press of a report stay apart.
func schemaName(t reflect.Type, hint string) string {
	name := huma.DefaultSchemaNamer(t, hint)
	for t.Kind() == reflect.Pointer || t.Kind() == reflect.Slice {
		t = t.Elem()
	}
	if strings.HasPrefix(t.Name(), "Work[") {
		if result, ok := t.FieldByName("Result"); ok {
			return "Work" + schemaName(result.Type, hint)
		}
	}
	switch t.PkgPath() {
	case "envex/about/licences":
		return "Licence" + name
	case "envex/core/repair":
		return "Repair" + name
	case "envex/core/signal":
		return "Signal" + name
	case "envex/core/electric":
		return "Electric" + name
	case "envex/core/tempo":
		return "Tempo" + name
	case "envex/core/exchange":
		return "Exchange" + name
	case "envex/core/choose":
		return "Choice" + name
	case "envex/core/beside":
		return "Beside" + name
	case "envex/core/dial":
		return "Dial" + name
	case "envex/core/mix":
		return "Room" + name
	case "envex/core/guitars":
		return "Guitars" + name
	case "envex/core/hire":
		return "Hire" + name
	case "envex/core/standin":
		return "StandIn" + name
	case "envex/core/propose":
		return "Proposed" + name
	case "envex/core/estimate":
		return "Estimated" + name
	case "envex/core/guide":
		return "Guide" + name
	case "envex/core/shorthand":
		return "Typed" + name
	case "envex/core/paper":
		return "Paper" + name
	case "envex/core/journal":
		return "Journal" + name
	case "envex/core/play":
		return "Play" + name
	case "envex/core/layers":
		return "Looper" + name
	case "envex/core/night":
		return "Night" + name
	case "envex/core/soundcheck":
		return "Soundcheck" + name
	case "envex/core/setorder":
		return "SetOrder" + name
	case "envex/core/failure":
		return "Failure" + name
	case "envex/core/midi":
		return "Line" + name
	case "envex/core/reach":
		return "Reach" + name
	case "envex/core/board":
		return "Board" + name
	case "envex/core/floor":
		return "Floor" + name
	case "envex/core/path":
		return "Order" + name
	case "envex/core/switching":
		return "Switch" + name
	}
	return name
}

// enumSchema stands in schemas for a type that lists its own values.
type enumSchema[T interface{ Enum() []string }] struct{}

// Schema lists the values.
func (enumSchema[T]) Schema(huma.Registry) *huma.Schema {
	var of T
	list := []any{}
	for _, e := range of.Enum() {
		list = append(list, e)
	}
	return &huma.Schema{Type: huma.TypeString, Enum: list}
}

func aliasTypes(r huma.Registry) {
	r.RegisterTypeAlias(reflect.TypeFor[plan.Effect](), reflect.TypeFor[enumSchema[plan.Effect]]())
	r.RegisterTypeAlias(reflect.TypeFor[plan.Ask](), reflect.TypeFor[enumSchema[plan.Ask]]())
	r.RegisterTypeAlias(reflect.TypeFor[plan.Mark](), reflect.TypeFor[enumSchema[plan.Mark]]())
	r.RegisterTypeAlias(reflect.TypeFor[plan.Value](), reflect.TypeFor[valueSchema]())
}

// FileSchema is the JSON Schema of the file format, made from the Go types.
func FileSchema() ([]byte, error) {
	r := huma.NewMapRegistry("#/$defs/", schemaName)
	aliasTypes(r)
	root := r.Schema(reflect.TypeFor[plan.File](), true, "File")
	document := map[string]any{
		"$schema":     "https://json-schema.org/draft/2020-12/schema",
		"title":       "Envex file, version 1",
		"description": "A plan: gear, sounds, songs, set lists, rigs and shows. Distances in mm, cable in m, time in s (delay in ms), level in dB, knobs 0 to 10.",
		"$ref":        root.Ref,
		"$defs":       r.Map(),
	}
	data, err := json.MarshalIndent(document, "", "  ")
	if err != nil {
		return nil, fmt.Errorf("api: write schema: %w", err)
	}
	return append([]byte(strings.ReplaceAll(string(data), "#/components/schemas/", "#/$defs/")), '\n'), nil
}
