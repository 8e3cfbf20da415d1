package plan

import (
	"bytes"
	"encoding/json"
	"fmt"
	"reflect"
)

// The name and version of the file format.
const (
	FormatName    = "envex"
	FormatVersion = 2 // from 2 on a block says which circuit it is
)

// File is a plan as it stands in a file.
type File struct {
	Format  string `json:"format" enum:"envex"`
	Version int    `json:"version" minimum:"1" maximum:"2"`
	Plan
}

// Encode writes the plan as a file. Writing, reading and writing again gives the same bytes.
func Encode(p *Plan) ([]byte, error) {
	var out bytes.Buffer
	enc := json.NewEncoder(&out)
	enc.SetEscapeHTML(false)
	enc.SetIndent("", "  ")
	if err := enc.Encode(File{Format: FormatName, Version: FormatVersion, Plan: p.withLists()}); err != nil {
		return nil, fmt.Errorf("plan: write file: %w", err)
	}
	return out.Bytes(), nil
}

// withLists is p with empty lists where it has none, so that files always show the six of them that every plan has.
func (p *Plan) withLists() Plan {
	q := *p
	if q.Gear == nil {
		q.Gear = []Gear{}
	}
	if q.Sounds == nil {
		q.Sounds = []Sound{}
	}
	if q.Songs == nil {
		q.Songs = []Song{}
	}
	if q.SetLists == nil {
		q.SetLists = []SetList{}
	}
	if q.Rigs == nil {
		q.Rigs = []Rig{}
	}
	if q.Shows == nil {
		q.Shows = []Show{}
	}
	return q
}

// Decode reads a file and validates everything in it. On any problem it returns nothing
// but the [Problems], all of them: unknown fields and wrong types each by path, then
// whatever [Plan.Validate] finds.
func Decode(data []byte) (*Plan, error) {
	file, problems := decodeShape(data)
	if len(problems) > 0 {
		return nil, problems
	}
	problems = file.Validate()
	for _, a := range file.All() {
		for _, p := range Untidy(a) {
			problems.add(dot(file.PathOf(a.AggregateID()), p.Path), "%s", p.Message)
		}
	}
	if len(problems) > 0 {
		return nil, problems
	}
	return &file.Plan, nil
}

func decodeShape(data []byte) (*File, Problems) {
	var ps Problems
	if len(data) > MaxFileBytes {
		ps.add("", "the file is %.1f MB; 10 MB is the most", float64(len(data))/(1<<20))
		return nil, ps
	}
	tree, err := parseTree(data)
	if err != nil {
		ps.add("", "this is not a file Envex can read: %v", err)
		return nil, ps
	}
	root, ok := tree.(map[string]any)
	if !ok || root["format"] != FormatName {
		ps.add("format", `this is not an Envex file: "format" must be %q`, FormatName)
		return nil, ps
	}
	number, _ := root["version"].(json.Number)
	version, err := number.Int64()
	switch {
	case err != nil || version < 1:
		ps.add("version", "the version of the file is missing or not a whole number from 1")
	case version > FormatVersion:
		ps.add(
			"version", "the file is version %d and this Envex reads up to version %d: open it with a newer Envex", version,
			FormatVersion,
		)
	}
	if len(ps) > 0 {
		return nil, ps
	}
	checkShape(&ps, "", tree, reflect.TypeFor[File](), false)
	if len(ps) > 0 {
		return nil, ps
	}
	var file File
	if err := json.Unmarshal(data, &file); err != nil {
		ps.add("", "this is not a file Envex can read: %v", err)
		return nil, ps
	}
	if file.Version < 2 {
		for i := range file.Gear {
			TellModels(&file.Gear[i])
		}
	}
	return &file, nil
}

// DecodeAggregate reads one aggregate's JSON strictly, as [Decode] does for a whole file.
func DecodeAggregate(kind AggregateKind, data []byte) (Aggregate, error) {
	var ps Problems
	tree, err := parseTree(data)
	if err != nil {
		ps.add("", "%v", err)
		return nil, ps
	}
	switch kind {
	case KindGear:
		return decodeOne[Gear](tree, data)
	case KindSound:
		return decodeOne[Sound](tree, data)
	case KindSong:
		return decodeOne[Song](tree, data)
	case KindBand:
		return decodeOne[Band](tree, data)
	case KindSetList:
		return decodeOne[SetList](tree, data)
	case KindRig:
		return decodeOne[Rig](tree, data)
	case KindShow:
		return decodeOne[Show](tree, data)
	}
	ps.add("", "there is no kind of thing called %q", kind)
	return nil, ps
}

func decodeOne[T Aggregate](tree any, data []byte) (Aggregate, error) {
	var ps Problems
	checkShape(&ps, "", tree, reflect.TypeFor[T](), false)
	if len(ps) > 0 {
		return nil, ps
	}
	var a T
	if err := json.Unmarshal(data, &a); err != nil {
		ps.add("", "%v", err)
		return nil, ps
	}
	return a, nil
}
