package revision

import (
	"fmt"
	"slices"
	"strings"

	"envex/core/plan"
)

// place is where a node stands: its neighbour, its zone, and what else is said of it.
type place struct {
	at     int
	next   plan.Key
	zone   plan.Zone
	lane   string
	loop   string
	others []string // pinned, key, what it takes, how a split is made
}

// chain says what came into a path, what went, and what moved: the fewest that account for the new order.
func (w *rigs) chain(where string, before, after []plan.Node) {
	a, b := w.places(before), w.places(after)
	var keysA, keysB []plan.Key
	for _, key := range inOrder(a) {
		if _, stays := b[key]; stays {
			keysA = append(keysA, key)
		} else {
			w.say("%s%s taken out of the chain%s", where, w.node(key), fromLoop(a[key]))
		}
	}
	for _, key := range inOrder(b) {
		if _, was := a[key]; was {
			keysB = append(keysB, key)
		} else {
			w.say("%s%s added %s", where, w.node(key), w.standing(b[key]))
		}
	}
	stay := longestKept(keysA, keysB)
	for _, key := range keysB {
		x, y := a[key], b[key]
		switch {
		case !stay[key] || x.lane != y.lane:
			w.say("%s%s moved from %s to %s", where, w.node(key), w.was(x, y), w.comes(x, y))
		case x.zone != y.zone:
			w.say("%s%s is now %s", where, w.node(key), zoneWords[y.zone])
		}
		if x.loop != y.loop {
			w.say("%s%s", where, loopWords(w.node(key), x.loop, y.loop))
		}
		for i, name := range []string{"pinned", "key", "takes", "kind of split", "divided by", "join", "joined by", "lanes"} {
			if x.others[i] != y.others[i] {
				w.say("%s%s, %s: %s to %s", where, w.node(key), name, short(x.others[i]), short(y.others[i]))
			}
		}
	}
}

var zoneWords = map[plan.Zone]string{
	plan.FrontOfAmp: "ahead of the amp", plan.InTheLoop: "in the loop", plan.Out: "after the amp",
}

// node names a stop, or a split by its lanes.
func (w *rigs) node(key plan.Key) string {
	if key.Rest() != "" {
		return w.stop(key)
	}
	return "the split " + string(key)
}

func (w *rigs) standing(x place) string {
	words := "at the end of the chain"
	if x.next != "" {
		words = "before " + w.node(x.next)
	}
	if x.lane != "" {
		words += ", in the lane " + x.lane
	}
	if x.loop != "" {
		words += ", in " + x.loop
	}
	return words
}

// was is where a node stood before it moved: by its neighbour.
func (w *rigs) was(x, y place) string {
	switch {
	case x.lane != "" && x.lane != y.lane:
		return "the lane " + x.lane
	case x.next == "":
		return "the end"
	}
	return "before " + w.node(x.next)
}

// comes is where it has come to: by the zone where that is another, else by its neighbour.
func (w *rigs) comes(x, y place) string {
	switch {
	case y.lane != "" && x.lane != y.lane:
		return "the lane " + y.lane
	case x.zone != y.zone && y.zone == plan.InTheLoop:
		return "the loop"
	case x.zone != y.zone:
		return zoneWords[y.zone]
	case y.next == "":
		return "the end"
	}
	return "before " + w.node(y.next)
}

func fromLoop(x place) string {
	if x.loop == "" {
		return ""
	}
	return ", and of " + x.loop
}

func loopWords(name, before, after string) string {
	switch {
	case before == "":
		return fmt.Sprintf("%s put into %s", name, after)
	case after == "":
		return fmt.Sprintf("%s taken out of %s", name, before)
	}
	return fmt.Sprintf("%s moved from %s to %s", name, before, after)
}

// places are the nodes of a path and its lanes, each with where it stands.
func (w *rigs) places(path []plan.Node) map[plan.Key]place {
	zones := w.plan.Zones(path)
	out := map[plan.Key]place{}
	var visit func(nodes []plan.Node, lane string)
	visit = func(nodes []plan.Node, lane string) {
		for i, n := range nodes {
			x := place{at: len(out), zone: zones[n.ID()], lane: lane}
			if i+1 < len(nodes) {
				x.next = nodes[i+1].ID()
			}
			if n.Switcher != "" {
				x.loop = fmt.Sprintf("loop %d of %s", n.Loop, w.gear(n.Switcher))
			}
			x.others = []string{fmt.Sprint(n.Pinned), string(n.KeyIn), n.Takes, "", "", "", "", ""}
			if s := n.Split; s != nil {
				var lanes []string
				for _, l := range s.Lanes {
					lanes = append(lanes, laneName(l, len(lanes)))
				}
				copy(x.others[3:], []string{s.Kind, string(s.From), s.Join, string(s.To), strings.Join(lanes, ", ")})
			}
			out[n.ID()] = x
			if n.Split == nil {
				continue
			}
			for k, l := range n.Split.Lanes {
				visit(l.Nodes, laneName(l, k))
			}
		}
	}
	visit(path, "")
	return out
}

func laneName(l plan.Lane, i int) string {
	if l.Name == "" {
		return fmt.Sprint(i + 1)
	}
	return l.Name
}

func inOrder(places map[plan.Key]place) []plan.Key {
	keys := make([]plan.Key, 0, len(places))
	for key := range places {
		keys = append(keys, key)
	}
	slices.SortFunc(keys, func(a, b plan.Key) int { return places[a].at - places[b].at })
	return keys
}

// longestKept are the keys of a longest common subsequence of two orders of the same keys: those that
// can be said to have stayed where they were.
func longestKept(a, b []plan.Key) map[plan.Key]bool {
	at := map[plan.Key]int{}
	for i, key := range a {
		at[key] = i
	}
	length, from := make([]int, len(b)), make([]int, len(b))
	last := -1
	for i, key := range b {
		length[i], from[i] = 1, -1
		for k := range i {
			if at[b[k]] < at[key] && length[k]+1 > length[i] {
				length[i], from[i] = length[k]+1, k
			}
		}
		if last < 0 || length[i] > length[last] {
			last = i
		}
	}
	kept := map[plan.Key]bool{}
	for i := last; i >= 0; i = from[i] {
		kept[b[i]] = true
	}
	return kept
}
