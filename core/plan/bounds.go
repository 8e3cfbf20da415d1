package plan

import (
	"math"
	"reflect"
	"regexp"
	"slices"
	"sort"
	"strconv"
	"strings"
	"sync"
)

// Limits on what one plan may hold. They are far above any real rig and keep a hostile
// file from costing more than it should.
const (
	MaxFileBytes  = 10 << 20
	MaxDepth      = 64
	MaxValues     = 400_000 // of a file: names, numbers, lists and objects
	MaxAggregates = 2000
	MaxItems      = 1000
	MaxName       = 200
	MaxText       = 20000
)

var idForm = regexp.MustCompile(`^[A-Za-z0-9][A-Za-z0-9_.-]{0,63}$`)

// way is a path that is written out only where there is something to say of it.
type way struct {
	up    *way
	field string
	key   *string
	index int
}

func (w *way) String() string {
	switch {
	case w == nil:
		return ""
	case w.field != "":
		return dot(w.up.String(), w.field)
	case w.key != nil:
		return in(w.up.String(), *w.key)
	}
	return at(w.up.String(), w.index)
}

// bound is what the tags of a field allow.
type bound struct {
	index     int
	name      string
	optional  bool // its zero says nothing
	low, high float64
	limits    string // low to high as they stand in the tags
	enum      []string
}

// boundsOf are those of the fields of a type, which are read from their tags once.
func boundsOf(t reflect.Type) []bound {
	if known, ok := allBounds.Load(t); ok {
		return known.([]bound)
	}
	var list []bound
	for i := range t.NumField() {
		f := t.Field(i)
		b := bound{
			index: i, name: jsonName(f), low: math.Inf(-1), high: math.Inf(1),
			limits: f.Tag.Get("minimum") + " to " + f.Tag.Get("maximum"),
		}
		if b.name == "" {
			continue
		}
		b.optional = strings.Contains(f.Tag.Get("json"), "omitempty") && f.Type.Kind() != reflect.Pointer
		if low, err := strconv.ParseFloat(f.Tag.Get("minimum"), 64); err == nil {
			b.low = low
		}
		if high, err := strconv.ParseFloat(f.Tag.Get("maximum"), 64); err == nil {
			b.high = high
		}
		if enum := f.Tag.Get("enum"); enum != "" {
			b.enum = strings.Split(enum, ",")
		} else if e, ok := reflect.Zero(f.Type).Interface().(interface{ Enum() []string }); ok {
			b.enum = e.Enum()
		}
		list = append(list, b)
	}
	allBounds.Store(t, list)
	return list
}

var allBounds sync.Map // of reflect.Type to []bound

// checkBounds walks a value and reports every number outside its minimum and maximum tag,
// every word outside its enum tag, and every list or text that is too long. The tags are
// the same ones the published schema is made from.
func checkBounds(ps *Problems, path *way, v reflect.Value) {
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
		for _, b := range boundsOf(v.Type()) {
			there := &way{up: path, field: b.name}
			b.check(ps, there, v.Field(b.index))
			checkBounds(ps, there, v.Field(b.index))
		}
	case reflect.Slice:
		if v.Len() > MaxItems {
			ps.add(path.String(), "there are %d entries: the limit is %d", v.Len(), MaxItems)
			return
		}
		for i := range v.Len() {
			checkBounds(ps, &way{up: path, index: i}, v.Index(i))
		}
	case reflect.Map:
		if v.Len() > MaxItems {
			ps.add(path.String(), "there are %d entries: the limit is %d", v.Len(), MaxItems)
			return
		}
		for _, k := range sortedKeys(v) {
			key := k.String()
			if len(key) > MaxName {
				ps.add(path.String(), "a key is longer than %d characters", MaxName)
			}
			checkBounds(ps, &way{up: path, key: &key}, v.MapIndex(k))
		}
	case reflect.String:
		if v.Len() > MaxText {
			ps.add(path.String(), "the text is longer than %d characters", MaxText)
		}
	}
}

func checkFinite(ps *Problems, path *way, v Value) {
	if math.IsNaN(v.num) || math.IsInf(v.num, 0) {
		ps.add(path.String(), "a number is not finite")
	}
	if len(v.text) > MaxName {
		ps.add(path.String(), "the text is longer than %d characters", MaxName)
	}
}

// check reports what of a field is outside its bound.
func (b *bound) check(ps *Problems, path *way, v reflect.Value) {
	if v.Kind() == reflect.Pointer {
		if v.IsNil() {
			return
		}
		v = v.Elem()
	}
	if b.optional && v.IsZero() {
		return
	}
	switch v.Kind() {
	case reflect.Float64:
		b.number(ps, path, v.Float())
	case reflect.Int:
		b.number(ps, path, float64(v.Int()))
	case reflect.String:
		if len(b.enum) > 0 && !slices.Contains(b.enum, v.String()) {
			ps.add(path.String(), "%q is not one of %s", v.String(), strings.Join(b.enum, ", "))
		}
	}
}

func (b *bound) number(ps *Problems, path *way, n float64) {
	if math.IsNaN(n) || n < b.low || n > b.high {
		ps.add(path.String(), "%s is outside %s", strconv.FormatFloat(n, 'f', -1, 64), b.limits)
	}
	if len(b.enum) > 0 && !slices.Contains(b.enum, strconv.FormatFloat(n, 'f', -1, 64)) {
		ps.add(path.String(), "%v is not one of %s", n, strings.Join(b.enum, ", "))
	}
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
