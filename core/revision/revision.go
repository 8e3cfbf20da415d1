// Package revision says in words what is different between two versions of a thing: of a rig in the
// player's terms, what moved in the chain and which knob stands otherwise; of anything else by the names
// of its fields. Where two versions differ there is always something said.
package revision

import (
	"fmt"
	"reflect"
	"strings"

	"envex/core/plan"
)

// Words are the differences from one version of a thing to another, in words. Names are those the plan has now;
// what it has no more goes by its id. A version that is nil is one in which the thing was not there.
func Words(p *plan.Plan, before, after plan.Aggregate) []string {
	switch {
	case before == nil && after == nil:
		return []string{}
	case before == nil:
		return []string{after.Label() + " was added"}
	case after == nil:
		return []string{before.Label() + " was removed"}
	}
	a, ok := before.(plan.Rig)
	b, ok2 := after.(plan.Rig)
	if ok && ok2 {
		return rigWords(p, a, b)
	}
	return fieldWords(p, "", before, after)
}

// rigWords are the differences of two versions of a rig, in the order its parts are planned.
func rigWords(p *plan.Plan, a, b plan.Rig) []string {
	w := &rigs{plan: p, before: a, after: b, list: []string{}}
	w.names()
	w.chain("", a.Path, b.Path)
	w.values("", a.Base, b.Base)
	for _, guitar := range keysOf(a.PerGuitar, b.PerGuitar) {
		w.values("With "+w.gear(guitar)+": ", a.PerGuitar[guitar], b.PerGuitar[guitar])
	}
	w.recipes("", a.Recipes, b.Recipes)
	w.memories()
	w.programs()
	w.destinations()
	w.swaps()
	w.floor()
	w.power()
	w.rest()
	return w.list
}

type rigs struct {
	plan          *plan.Plan
	before, after plan.Rig
	list          []string
}

func (w *rigs) say(format string, args ...any) {
	w.list = append(w.list, strings.TrimSpace(fmt.Sprintf(format, args...)))
}

func (w *rigs) gear(id plan.ID) string {
	if g, ok := w.plan.FindGear(id); ok {
		return g.Name
	}
	return string(id)
}

func (w *rigs) sound(id plan.ID) string {
	if s, ok := w.plan.FindSound(id); ok {
		return s.Name
	}
	return string(id)
}

// stop is what a block is called in a chain.
func (w *rigs) stop(key plan.Key) string {
	if g, ok := w.plan.FindGear(key.Gear()); ok {
		if b, ok := g.FindBlock(plan.ID(key.Rest())); ok {
			return g.StopName(b)
		}
		return g.Name
	}
	return string(key)
}

func (w *rigs) names() {
	if w.before.Name != w.after.Name {
		w.say("Renamed from %s to %s", short(w.before.Name), short(w.after.Name))
	}
	if !reflect.DeepEqual(w.before.Guitars, w.after.Guitars) {
		w.say("Guitars: %s, before %s", w.gears(w.after.Guitars), w.gears(w.before.Guitars))
	}
}

func (w *rigs) gears(ids []plan.ID) string {
	if len(ids) == 0 {
		return "none"
	}
	var names []string
	for _, id := range ids {
		names = append(names, w.gear(id))
	}
	return plan.Listed(names)
}

// rest are the parts of a rig that have no words of their own, by the names of their fields.
func (w *rigs) rest() {
	said := map[string]bool{
		"ID": true, "Name": true, "Guitars": true, "Path": true, "Base": true, "Recipes": true, "Presets": true,
		"Snapshots": true, "Programs": true, "Destinations": true, "Floor": true, "PowerPlan": true,
		"Swaps": true, "PerGuitar": true,
	}
	a, b := reflect.ValueOf(w.before), reflect.ValueOf(w.after)
	for i := range a.NumField() {
		f := a.Type().Field(i)
		if said[f.Name] {
			continue
		}
		name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
		w.list = append(w.list, fieldWords(w.plan, name, a.Field(i).Interface(), b.Field(i).Interface())...)
	}
}
