package revision

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"envex/core/plan"
)

// destinations says what is different where the rig plugs in.
func (w *rigs) destinations() {
	find := func(list []plan.Destination, id plan.ID) int {
		return slices.IndexFunc(list, func(d plan.Destination) bool { return d.ID == id })
	}
	var orderA, orderB []plan.ID
	for _, x := range w.before.Destinations {
		if find(w.after.Destinations, x.ID) < 0 {
			w.say("Destination %s removed", x.Name)
		} else {
			orderA = append(orderA, x.ID)
		}
	}
	for _, y := range w.after.Destinations {
		i := find(w.before.Destinations, y.ID)
		if i < 0 {
			w.say("Destination %s added", y.Name)
			continue
		}
		orderB = append(orderB, y.ID)
		x := w.before.Destinations[i]
		where := y.Name + ": "
		w.chain(where, x.Path, y.Path)
		w.values(where, x.Base, y.Base)
		w.recipes(where, x.Recipes, y.Recipes)
		x.Path, x.Base, x.Recipes, y.Path, y.Base, y.Recipes = nil, nil, nil, nil, nil, nil
		for _, words := range fieldWords(w.plan, "", x, y) {
			w.say("%s%s", where, words)
		}
	}
	if !slices.Equal(orderA, orderB) {
		w.say("Destinations stand in another order")
	}
}

// floor says which boxes stand elsewhere.
func (w *rigs) floor() {
	a, b := w.before.Floor, w.after.Floor
	for _, id := range keysOf(a.Places, b.Places) {
		x, had := a.Places[id]
		y, has := b.Places[id]
		switch {
		case !had:
			w.say("%s put on the floor", w.gear(id))
		case !has:
			w.say("%s taken off the floor", w.gear(id))
		case x != y:
			w.say("%s %s", w.gear(id), shifted(x, y))
		}
	}
	a.Places, b.Places = nil, nil
	w.list = append(w.list, fieldWords(w.plan, "floor", a, b)...)
}

func shifted(x, y plan.Placement) string {
	var list []string
	if d := y.X - x.X; d != 0 {
		list = append(list, fmt.Sprintf("%s mm to the %s", trimmed(math.Abs(d)), pick(d > 0, "right", "left")))
	}
	if d := y.Y - x.Y; d != 0 {
		list = append(list, fmt.Sprintf("%s mm %s", trimmed(math.Abs(d)), pick(d > 0, "towards you", "away from you")))
	}
	words := "turned"
	if len(list) > 0 {
		words = "moved " + strings.Join(list, " and ")
	}
	if x.Rotation != y.Rotation {
		if len(list) > 0 {
			words += ", turned"
		}
		words += fmt.Sprintf(" from %d to %d degrees", x.Rotation, y.Rotation)
	} else if len(list) == 0 {
		words = ""
	}
	said := func(yes bool, text string) {
		if yes && words != "" {
			words += ", "
		}
		if yes {
			words += text
		}
	}
	said(
		y.Board != x.Board || y.On != x.On,
		"put "+map[string]string{"": "on a board", plan.OnGround: "on the bare floor", plan.OffFloor: "off the floor"}[y.On],
	)
	said(y.Under && !x.Under, "hung beneath")
	said(x.Under && !y.Under, "put on top")
	said(y.Pinned && !x.Pinned, "pinned")
	said(x.Pinned && !y.Pinned, "no longer pinned")
	return words
}

func trimmed(x float64) string { return plan.Number(math.Round(x*10) / 10).String() }

func pick(yes bool, a, b string) string {
	if yes {
		return a
	}
	return b
}

// power says which box is fed otherwise.
func (w *rigs) power() {
	said := len(w.list)
	a, b := fed(w.before.PowerPlan), fed(w.after.PowerPlan)
	for _, id := range keysOf(a, b) {
		switch x, y := w.feeds(a[id]), w.feeds(b[id]); {
		case x == y:
		case y == "":
			w.say("%s no more fed by %s", w.gear(id), x)
		case x == "":
			w.say("%s fed by %s", w.gear(id), y)
		default:
			w.say("%s fed by %s, before by %s", w.gear(id), y, x)
		}
	}
	if len(w.list) == said { // feeds of nothing, or in another order
		w.list = append(w.list, fieldWords(w.plan, "power", w.before.PowerPlan, w.after.PowerPlan)...)
	}
}

func fed(feeds []plan.PowerFeed) map[plan.ID][]plan.PowerFeed {
	out := map[plan.ID][]plan.PowerFeed{}
	for _, f := range feeds {
		for _, id := range f.Gear {
			out[id] = append(out[id], f)
		}
	}
	return out
}

func (w *rigs) feeds(list []plan.PowerFeed) string {
	var words []string
	for _, f := range list {
		x := fmt.Sprintf("%s output %s", w.gear(f.Supply), f.Output)
		if f.Voltage != nil {
			x += fmt.Sprintf(" at %s V", trimmed(*f.Voltage))
		}
		if f.Lead != "" {
			x += " by a " + f.Lead + " lead"
		}
		if f.Second != "" {
			x += " with output " + string(f.Second)
		}
		if f.Pinned {
			x += ", pinned"
		}
		words = append(words, x)
	}
	return strings.Join(words, " and ")
}
