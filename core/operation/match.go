package operation

import (
	"encoding/json"
	"fmt"
	"maps"
	"strconv"
	"strings"

	"envex/core/plan"
)

// index is the place of the element that a match names, -1 where there is none; several is true
// where more than one fits.
func index(list []any, match any) (at int, several bool) {
	at = -1
	for i := range list {
		if !matches(list[i], match) {
			continue
		}
		if at >= 0 {
			return at, true
		}
		at = i
	}
	return at, false
}

// matches reports whether a value has all that a match says: the fields of an object, and those of
// objects in it; the value itself otherwise.
func matches(value, match any) bool {
	want, ok := match.(map[string]any)
	if !ok {
		return exact(value, match)
	}
	have, ok := value.(map[string]any)
	if !ok {
		return false
	}
	for key, x := range want {
		if x == nil {
			if have[key] != nil {
				return false
			}
			continue
		}
		if !matches(have[key], x) {
			return false
		}
	}
	return len(want) > 0
}

// with is an object with one field set, or without it when the value is nil. The object itself is
// left as it is.
func with(object map[string]any, key string, value any) map[string]any {
	next := maps.Clone(object)
	if value == nil {
		delete(next, key)
	} else {
		next[key] = value
	}
	return next
}

// isEntry reports whether a key is that of a variable: an entry of a map, which is there or is not,
// whatever it holds. Fields of objects are left out of a file where they hold nothing.
func isEntry(key string) bool { return strings.Contains(key, "/") }

// exact reports whether two values are the same, numbers by what they come to.
func exact(a, b any) bool { return same(a, b, false) }

// alike reports whether two values are the same to a reader of the file, where what is empty may as
// well be absent: false, 0, "", [] and {}.
func alike(a, b any) bool { return same(a, b, true) }

func same(a, b any, loose bool) bool {
	if loose && isEmpty(a) && isEmpty(b) {
		return true
	}
	switch x := a.(type) {
	case map[string]any:
		y, ok := b.(map[string]any)
		if !ok {
			return false
		}
		for _, key := range plan.SortedKeys(union(x, y)) {
			if !same(x[key], y[key], loose && !isEntry(key)) {
				return false
			}
		}
		return true
	case []any:
		y, ok := b.([]any)
		if !ok || len(x) != len(y) {
			return false
		}
		for i := range x {
			if !same(x[i], y[i], loose) {
				return false
			}
		}
		return true
	}
	if x, ok := number(a); ok {
		y, ok := number(b)
		return ok && x == y
	}
	switch b.(type) {
	case map[string]any, []any:
		return false
	}
	return a == b
}

func union(a, b map[string]any) map[string]bool {
	keys := map[string]bool{}
	for k := range a {
		keys[k] = true
	}
	for k := range b {
		keys[k] = true
	}
	return keys
}

func isEmpty(v any) bool {
	switch x := v.(type) {
	case nil:
		return true
	case bool:
		return !x
	case string:
		return x == ""
	case []any:
		return len(x) == 0
	case map[string]any:
		for key, inner := range x {
			if isEntry(key) || !isEmpty(inner) {
				return false
			}
		}
		return true
	}
	n, ok := number(v)
	return ok && n == 0
}

func number(v any) (float64, bool) {
	switch x := v.(type) {
	case float64:
		return x, true
	case int:
		return float64(x), true
	case json.Number:
		f, err := strconv.ParseFloat(x.String(), 64)
		return f, err == nil
	}
	return 0, false
}

// word is what a match is called in a message: the words of the name it gives.
func word(match any) string {
	object, ok := match.(map[string]any)
	if !ok {
		return fmt.Sprint(match)
	}
	text := ""
	for _, key := range plan.SortedKeys(object) {
		if text != "" {
			text += " "
		}
		text += word(object[key])
	}
	return text
}
