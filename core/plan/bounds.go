package plan

import (
	"math"
	"reflect"
	"regexp"
	"sort"
	"strconv"
	"strings"
)

// Limits on what one plan may hold. They are far above any real rig and keep a hostile
// file from costing more than it should.
const (
	MaxFileBytes  = 10 << 20
	MaxDepth      = 64
	MaxAggregates = 2000
	MaxItems      = 1000
	MaxName       = 200
	MaxText       = 20000
)

var idForm = regexp.MustCompile(`^[A-Za-z0-9][A-Za-z0-9_.-]{0,63}$`)

// checkBounds walks a value and reports every number outside its minimum and maximum tag,
// every word outside its enum tag, and every list or text that is too long. The tags are
// the same ones the published schema is made from.
func checkBounds(ps *Problems, path string, v reflect.Value) {
	switch v.Kind() {
	case reflect.Pointer:
		if !v.IsNil() {
			checkBounds(ps, path, v.Elem())
		}
	case reflect.Struct:
		if v.Type() == reflect.TypeFor[Value]() {
			checkFinite(ps, path, v.Interface().(Value))
			return
		}
		for i := range v.NumField() {
			f := v.Type().Field(i)
			name := jsonName(f)
			if name == "" {
				continue
			}
			checkField(ps, dot(path, name), f, v.Field(i))
			checkBounds(ps, dot(path, name), v.Field(i))
		}
	case reflect.Slice:
		if v.Len() > MaxItems {
			ps.add(path, "there are %d entries; %d is the most", v.Len(), MaxItems)
			return
		}
		for i := range v.Len() {
			checkBounds(ps, at(path, i), v.Index(i))
		}
	case reflect.Map:
		if v.Len() > MaxItems {
			ps.add(path, "there are %d entries; %d is the most", v.Len(), MaxItems)
			return
		}
		for _, k := range sortedKeys(v) {
			if len(k.String()) > MaxName {
				ps.add(path, "a key is longer than %d characters", MaxName)
			}
			checkBounds(ps, in(path, k.String()), v.MapIndex(k))
		}
	case reflect.String:
		if v.Len() > MaxText {
			ps.add(path, "the text is longer than %d characters", MaxText)
		}
	}
}

func checkFinite(ps *Problems, path string, v Value) {
	if math.IsNaN(v.num) || math.IsInf(v.num, 0) {
		ps.add(path, "a number is not finite")
	}
	if len(v.text) > MaxName {
		ps.add(path, "the text is longer than %d characters", MaxName)
	}
}

func checkField(ps *Problems, path string, f reflect.StructField, v reflect.Value) {
	if v.Kind() == reflect.Pointer {
		if v.IsNil() {
			return
		}
		v = v.Elem()
	}
	optional := strings.Contains(f.Tag.Get("json"), "omitempty")
	switch v.Kind() {
	case reflect.Float64, reflect.Int:
		n := 0.0
		if v.Kind() == reflect.Int {
			n = float64(v.Int())
		} else {
			n = v.Float()
		}
		if optional && f.Type.Kind() != reflect.Pointer && n == 0 {
			return
		}
		low, high := math.Inf(-1), math.Inf(1)
		if t := f.Tag.Get("minimum"); t != "" {
			low, _ = strconv.ParseFloat(t, 64)
		}
		if t := f.Tag.Get("maximum"); t != "" {
			high, _ = strconv.ParseFloat(t, 64)
		}
		if math.IsNaN(n) || n < low || n > high {
			ps.add(path, "%s is outside %s to %s", strconv.FormatFloat(n, 'f', -1, 64), f.Tag.Get("minimum"), f.Tag.Get("maximum"))
		}
		if enum := f.Tag.Get("enum"); enum != "" && !oneOf(enum, strconv.FormatFloat(n, 'f', -1, 64)) {
			ps.add(path, "%v is not one of %s", n, strings.ReplaceAll(enum, ",", ", "))
		}
	case reflect.String:
		enum := f.Tag.Get("enum")
		if enum == "" || (optional && v.String() == "") {
			return
		}
		if !oneOf(enum, v.String()) {
			ps.add(path, "%q is not one of %s", v.String(), strings.ReplaceAll(enum, ",", ", "))
		}
	}
}

func oneOf(enum, word string) bool {
	for _, e := range strings.Split(enum, ",") {
		if e == word {
			return true
		}
	}
	return false
}

func jsonName(f reflect.StructField) string {
	name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
	if name == "-" {
		return ""
	}
	return name
}

func sortedKeys(m reflect.Value) []reflect.Value {
	keys := m.MapKeys()
	sort.Slice(keys, func(i, j int) bool { return keys[i].String() < keys[j].String() })
	return keys
}
