package revision

import (
	"fmt"
	"maps"
	"reflect"
	"slices"
	"strings"

	"envex/core/plan"
)

// keysOf are the keys of two maps, each once and in order.
func keysOf[K ~string, V any](a, b map[K]V) []K {
	keys := slices.AppendSeq(slices.Collect(maps.Keys(a)), maps.Keys(b))
	slices.Sort(keys)
	return slices.Compact(keys)
}

// values says which settings differ. Where is said ahead of each.
func (w *rigs) values(where string, a, b map[plan.Key]plan.Value) {
	for _, key := range keysOf(a, b) {
		x, had := a[key]
		y, has := b[key]
		if x == y && had == has {
			continue
		}
		label, unit := w.label(key)
		switch {
		case !had:
			w.say("%s%s %s", where, label, valued(y, unit))
		case !has:
			w.say("%s%s no more %s", where, label, valued(x, unit))
		case x.Kind() == plan.NumberValue && y.Kind() == plan.NumberValue:
			w.say("%s%s %s to %s", where, label, x, valued(y, unit))
		default:
			w.say("%s%s %s to %s", where, label, valued(x, unit), valued(y, unit))
		}
	}
}

func valued(v plan.Value, unit string) string {
	if v.Kind() == plan.NumberValue && unit != "" {
		return v.String() + " " + unit
	}
	return v.String()
}

// label is what a variable is called, and its unit.
func (w *rigs) label(key plan.Key) (label, unit string) {
	g, ok := w.plan.FindGear(key.Gear())
	if !ok {
		return string(key), ""
	}
	for _, v := range g.Variables() {
		if v.Key == key {
			if v.Control != nil {
				unit = v.Control.Unit
			}
			return v.Label, unit
		}
	}
	return string(key), ""
}

func (w *rigs) recipes(where string, a, b []plan.Recipe) {
	find := func(list []plan.Recipe, id plan.ID) int {
		return slices.IndexFunc(list, func(r plan.Recipe) bool { return r.ID == id })
	}
	var orderA, orderB []plan.ID
	for _, x := range a {
		if find(b, x.ID) < 0 {
			w.say("%sRecipe for %s%s removed", where, w.sound(x.Sound), named(x.Name))
		} else {
			orderA = append(orderA, x.ID)
		}
	}
	for _, y := range b {
		i := find(a, y.ID)
		if i < 0 {
			w.say("%sRecipe for %s%s added", where, w.sound(y.Sound), named(y.Name))
			continue
		}
		orderB = append(orderB, y.ID)
		x := a[i]
		of := where + w.sound(y.Sound) + named(y.Name) + ": "
		if x.Sound != y.Sound {
			w.say("%sRecipe%s is for %s, before for %s", where, named(y.Name), w.sound(y.Sound), w.sound(x.Sound))
		}
		if x.Name != y.Name {
			w.say("%sRecipe for %s renamed from %q to %q", where, w.sound(y.Sound), x.Name, y.Name)
		}
		if x.Guitar != y.Guitar {
			w.say("%son %s, before %s", of, w.gears(some(y.Guitar)), w.gears(some(x.Guitar)))
		}
		w.values(of, x.Values, y.Values)
		if !reflect.DeepEqual(x.Rockers, y.Rockers) {
			w.say("%sfoot on %s, before %s", of, w.stops(y.Rockers), w.stops(x.Rockers))
		}
	}
	if !slices.Equal(orderA, orderB) {
		w.say("%sRecipes stand in another order: the first for a sound is its default", where)
	}
}

func some(id plan.ID) []plan.ID {
	if id == "" {
		return nil
	}
	return []plan.ID{id}
}

func (w *rigs) stops(keys []plan.Key) string {
	if len(keys) == 0 {
		return "nothing"
	}
	var names []string
	for _, key := range keys {
		names = append(names, w.stop(key))
	}
	return plan.Listed(names)
}

func named(name string) string {
	if name == "" {
		return ""
	}
	return " (" + name + ")"
}

// memories are the presets of boxes and the snapshots in them: Echo preset B time 357 to 380 ms.
func (w *rigs) memories() {
	for _, id := range keysOf(w.before.Presets, w.after.Presets) {
		for _, n := range keysOf(w.before.Presets[id], w.after.Presets[id]) {
			w.inMemory(id, "preset "+n, w.before.Presets[id][n], w.after.Presets[id][n])
		}
	}
	for _, id := range keysOf(w.before.Snapshots, w.after.Snapshots) {
		for _, n := range keysOf(w.before.Snapshots[id], w.after.Snapshots[id]) {
			for _, shot := range keysOf(w.before.Snapshots[id][n], w.after.Snapshots[id][n]) {
				w.inMemory(id, "preset "+n+" snapshot "+shot, w.before.Snapshots[id][n][shot], w.after.Snapshots[id][n][shot])
			}
		}
	}
	w.emptied("presets", w.before.Presets, w.after.Presets)
	w.emptied("snapshots", w.before.Snapshots, w.after.Snapshots)
}

// inMemory puts the name of a memory behind that of its box.
func (w *rigs) inMemory(id plan.ID, memory string, a, b map[plan.Key]plan.Value) {
	inner := &rigs{plan: w.plan}
	inner.values("", a, b)
	for _, words := range inner.list {
		rest, own := strings.CutPrefix(words, w.gear(id)+" ")
		if !own {
			rest = words
		}
		w.say("%s %s %s", w.gear(id), memory, rest)
	}
	if (a == nil) != (b == nil) && len(a)+len(b) == 0 {
		w.say("%s %s: an empty one came or went", w.gear(id), memory)
	}
}

// emptied says what only came or went as an empty entry, which moves no setting.
func (w *rigs) emptied(what string, a, b any) {
	x, y := reflect.ValueOf(a), reflect.ValueOf(b)
	for _, pair := range [][2]reflect.Value{{x, y}, {y, x}} {
		for _, key := range pair[0].MapKeys() {
			if pair[0].MapIndex(key).Len() == 0 && !pair[1].MapIndex(key).IsValid() {
				w.say("%s: an empty list of %s came or went", w.gear(plan.ID(key.String())), what)
			}
		}
	}
}

func (w *rigs) programs() {
	a, b := w.before.Programs, w.after.Programs
	for _, id := range keysOf(a, b) {
		for _, bank := range keysOf(a[id], b[id]) {
			for _, slot := range keysOf(a[id][bank], b[id][bank]) {
				x, had := a[id][bank][slot]
				y, has := b[id][bank][slot]
				where := fmt.Sprintf("%s program %s/%s", w.gear(id), bank, slot)
				switch {
				case !had:
					w.say("%s stored: %s", where, short(y.Label))
				case !has:
					w.say("%s cleared: it was %s", where, short(x.Label))
				default:
					if x.Label != y.Label {
						w.say("%s is called %s, before %s", where, short(y.Label), short(x.Label))
					}
					if x.Sound != y.Sound {
						w.say("%s serves %s, before %s", where, short(w.sound(y.Sound)), short(w.sound(x.Sound)))
					}
					w.values(where+": ", x.Values, y.Values)
				}
			}
		}
	}
	w.emptied("programs", a, b)
}
