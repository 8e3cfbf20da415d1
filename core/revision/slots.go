package revision

import (
	"reflect"
	"slices"

	"envex/core/plan"
)

// swaps says what is different of the places where one of several boxes stands.
func (w *rigs) swaps() {
	for i := range w.before.Swaps {
		x := &w.before.Swaps[i]
		if _, there := w.after.FindSwap(x.ID); !there {
			w.say("Swap slot %s removed", x.Name)
		}
	}
	for i := range w.after.Swaps {
		y := &w.after.Swaps[i]
		x, had := w.before.FindSwap(y.ID)
		if !had {
			w.say("Swap slot %s added, for %s", y.Name, w.boxes(y.Boxes))
			continue
		}
		w.swap(x, y)
	}
	id := func(s plan.Swap) plan.ID { return s.ID }
	if reordered(w.before.Swaps, w.after.Swaps, id) {
		w.say("Swap slots stand in another order")
	}
}

// reordered reports whether two lists hold the same in another order.
func reordered[T any](a, b []T, id func(T) plan.ID) bool {
	ids := func(list []T) (out []plan.ID) {
		for _, x := range list {
			out = append(out, id(x))
		}
		return out
	}
	x, y := ids(a), ids(b)
	return !slices.Equal(x, y) && slices.Equal(slices.Sorted(slices.Values(x)), slices.Sorted(slices.Values(y)))
}

func (w *rigs) boxes(list []plan.SwapBox) string {
	var names []string
	for _, b := range list {
		names = append(names, w.gear(b.Gear))
	}
	return plan.Listed(names)
}

func (w *rigs) swap(x, y *plan.Swap) {
	if x.Name != y.Name {
		w.say("Swap slot %s is called %s", x.Name, y.Name)
	}
	was, is := w.before.InSlot(x), w.after.InSlot(y)
	if was != is {
		w.say("%s stands in %s in place of %s", w.gear(is), y.Name, w.gear(was))
	}
	for _, b := range x.Boxes {
		if _, there := y.Box(b.Gear); !there {
			w.say("%s taken out of %s", w.gear(b.Gear), y.Name)
		}
	}
	if reordered(x.Boxes, y.Boxes, func(b plan.SwapBox) plan.ID { return b.Gear }) {
		w.say("Boxes of %s stand in another order", y.Name)
	}
	for _, b := range y.Boxes {
		before, had := x.Box(b.Gear)
		switch {
		case !had:
			w.say("%s can stand in %s", w.gear(b.Gear), y.Name)
			continue
		case was == is && !reflect.DeepEqual(before.Kept, b.Kept):
			w.say("%s is set otherwise in %s, where it does not stand", w.gear(b.Gear), y.Name)
		}
		for _, id := range b.Songs {
			if !slices.Contains(before.Songs, id) {
				w.say("%s is played with %s", w.song(id), w.gear(b.Gear))
			}
		}
		for _, id := range before.Songs {
			if !slices.Contains(b.Songs, id) {
				w.say("%s is no more played with %s", w.song(id), w.gear(b.Gear))
			}
		}
	}
}

func (w *rigs) song(id plan.ID) string {
	if s, ok := w.plan.FindSong(id); ok {
		return s.Title
	}
	return string(id)
}
