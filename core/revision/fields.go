package revision

import (
	"bytes"
	"encoding/json"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"envex/core/plan"
)

// longest is how much of a value is said.
const longest = 60

// fieldWords are the differences of two values by the names of their fields, as a file names them. A value
// that is the id of a thing goes by that thing's name.
func fieldWords(p *plan.Plan, name string, before, after any) []string {
	a, b := leaves(name, before), leaves(name, after)
	called := func(x string) string {
		for _, thing := range p.All() {
			if string(thing.AggregateID()) == x {
				return thing.Label()
			}
		}
		return short(x)
	}
	var paths []string
	for path := range a {
		paths = append(paths, path)
	}
	for path := range b {
		if _, ok := a[path]; !ok {
			paths = append(paths, path)
		}
	}
	slices.Sort(paths)
	list := []string{}
	for _, path := range paths {
		x, had := a[path]
		y, has := b[path]
		switch {
		case had && has && x != y:
			x, y = apart(x, y)
			list = append(list, fmt.Sprintf("%s: %s to %s", readable(path), called(x), called(y)))
		case !had:
			list = append(list, fmt.Sprintf("%s: now %s", readable(path), called(y)))
		case !has:
			list = append(list, fmt.Sprintf("%s: no more %s", readable(path), called(x)))
		}
	}
	return list
}

// leaves are the values in a value by their paths, parts joined by a sign no name holds. What can be
// written is read back as it stands in a file.
func leaves(name string, v any) map[string]string {
	out := map[string]string{}
	data, err := json.Marshal(v)
	if err != nil {
		out[name] = err.Error()
		return out
	}
	d := json.NewDecoder(bytes.NewReader(data))
	d.UseNumber()
	var any any
	if err := d.Decode(&any); err != nil {
		out[name] = err.Error()
		return out
	}
	walk(out, name, any)
	return out
}

const joint = "\x1f"

func walk(out map[string]string, path string, v any) {
	under := func(name string) string {
		if path == "" {
			return name
		}
		return path + joint + name
	}
	switch v := v.(type) {
	case nil:
	case map[string]any:
		for name, x := range v {
			walk(out, under(name), x)
		}
	case []any:
		for i, x := range v {
			walk(out, under(placeOf(i, x)), x)
		}
	default:
		out[path] = fmt.Sprint(v)
	}
}

// placeOf names an entry of a list: by its id where it has one, so that what moved up a place is not taken
// for another thing, else by its place, from 1.
func placeOf(i int, x any) string {
	if m, ok := x.(map[string]any); ok {
		if id, ok := m["id"].(string); ok {
			return id
		}
	}
	return fmt.Sprintf("%04d", i+1)
}

func readable(path string) string {
	var words []string
	for _, part := range strings.Split(path, joint) {
		if n, err := strconv.Atoi(part); err == nil {
			part = strconv.Itoa(n)
		}
		words = append(words, strings.ReplaceAll(part, "_", " "))
	}
	return strings.Join(words, " ")
}

// apart leaves out most of what two long texts begin with alike, so that what differs is in what is said.
func apart(x, y string) (string, string) {
	a, b := []rune(x), []rune(y)
	n := 0
	for n < len(a) && n < len(b) && a[n] == b[n] {
		n++
	}
	if from := n - longest/3; from > 0 && max(len(a), len(b)) > longest {
		return "…" + string(a[from:]), "…" + string(b[from:])
	}
	return x, y
}

func short(s string) string {
	letters := []rune(strings.Join(strings.Fields(s), " "))
	switch {
	case len(letters) == 0:
		return "nothing"
	case len(letters) > longest:
		return string(letters[:longest-1]) + "…"
	}
	return string(letters)
}
