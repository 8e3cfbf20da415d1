package reach

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"envex/core/plan"
)

// This file puts words to the figures. Nothing else in the package does.

// phrases keeps what has been put into words: a night says the same few things hundreds of times.
type phrases struct {
	values [][]string        // by variable and value
	still  [][]string        // the same, of what has not moved yet
	states map[[3]int]string // by machine, state before and state after
	acts   map[acted]string
	moved  map[[3]int]map[plan.Key]plan.Value // as the states: what they move, which nobody changes
}

type acted struct {
	op    *op
	moves string
}

func newPhrases(vars []*variable) *phrases {
	w := &phrases{
		values: make([][]string, len(vars)), still: make([][]string, len(vars)),
		states: map[[3]int]string{}, acts: map[acted]string{}, moved: map[[3]int]map[plan.Key]plan.Value{},
	}
	for v, x := range vars {
		w.values[v], w.still[v] = make([]string, len(x.values)), make([]string, len(x.values))
	}
	return w
}

// once gives what was said before, or says it.
func once(list []string, at int, say func() string) string {
	if at >= len(list) {
		return say()
	}
	if list[at] == "" {
		list[at] = say()
	}
	return list[at]
}

// valueWords is a variable's value as a person reads it.
func (s *solver) valueWords(v, value int) string {
	return once(s.said.values[v], value, func() string { return s.worded(v, value) })
}

func (s *solver) worded(v, value int) string {
	x := s.vars[v]
	if value >= len(x.values) {
		return ""
	}
	val := x.values[value]
	if x.Key == GuitarKey {
		h := plan.InHandOf(val)
		return strings.TrimPrefix(s.settings.gearName(h.Guitar)+h.Words(), " ")
	}
	if isSlot(x.Key) {
		return s.settings.gearName(plan.ID(val.Word()))
	}
	if name := s.rig.PresetName(x.Variable, val); name != "" {
		return name
	}
	if val.Kind() == plan.NumberValue && x.Control != nil && x.Control.Unit != "" {
		return strconv.FormatFloat(math.Round(val.Float()), 'f', -1, 64) + " " + x.Control.Unit
	}
	return val.String()
}

// stateWords says what differs after a machine has gone from one state to another: "Amber
// on", "Echo preset B".
func (s *solver) stateWords(mi, from, to int) string {
	key := [3]int{mi, from, to}
	if known, ok := s.said.states[key]; ok {
		return known
	}
	m := s.machines[mi]
	var words []string
	for j, v := range m.vars {
		if b := m.value(to, j); b != m.value(from, j) {
			words = append(words, s.vars[v].Label+" "+s.valueWords(v, b))
		}
	}
	text := plan.Listed(words)
	s.said.states[key] = text
	return text
}

func (s *solver) stillWords(v, value int) string {
	return once(s.said.still[v], value, func() string { return s.vars[v].Label + " still " + s.valueWords(v, value) })
}

func (s *solver) movedWords(v, from, to int, into *part) string {
	if x := s.vars[v]; x.Key == GuitarKey {
		_, words := s.settings.takenUp(x.values[from], x.values[to], into)
		return words
	}
	if isSlot(s.vars[v].Key) {
		return fmt.Sprintf("put %s in place of %s", s.valueWords(v, to), s.valueWords(v, from))
	}
	return fmt.Sprintf("%s from %s to %s", s.vars[v].Label, s.valueWords(v, from), s.valueWords(v, to))
}

func seconds(s float64) string { return strconv.FormatFloat(s, 'f', 2, 64) + " s" }

// reason says in a sentence why a change has its verdict.
func (s *solver) reason(i int, o *outcome, c *Change) string {
	switch {
	case o.verdict == NotSet && !s.parts[i].unset():
		return s.parts[i-1].broken
	case o.verdict == InTime && s.parts[i].unset():
		return "Nothing has to move."
	case s.parts[i].broken != "":
		return s.parts[i].broken
	}
	switch o.verdict {
	case Impossible:
		return s.stuck(o)
	case ByHand:
		return s.byHand(o, c)
	}
	if len(c.Presses) == 0 && len(c.Hands) == 0 {
		return "Nothing has to move."
	}
	what := plan.Counted(len(c.Presses), "press", "presses")
	if len(c.Presses) == 0 {
		what = "No press"
	}
	if o.feet > 0 {
		what += ", " + seconds(o.feet) + " of footwork"
	}
	if o.hands > 0 {
		what += ", " + seconds(o.hands) + " by hand"
	}
	what += ", " + seconds(o.free) + " free."
	switch o.verdict {
	case Late:
		return what + " Late by " + seconds(o.needed-o.free) + "."
	case Tight:
		return what + " " + seconds(math.Max(0, o.free-o.needed)) + " to spare."
	}
	return what
}

func (s *solver) stuck(o *outcome) string {
	var words []string
	for _, m := range o.motions {
		if m.fail != Impossible {
			continue
		}
		for _, h := range m.hands {
			if h.access != plan.SlowHand && h.access != plan.QuickHand {
				words = append(words, fmt.Sprintf("%s to %s", s.vars[h.v].Label, s.valueWords(h.v, h.to)))
			}
		}
	}
	return "No switch takes " + plan.Listed(words) + "."
}

func (s *solver) byHand(o *outcome, c *Change) string {
	var words, slow []string
	for _, h := range c.Hands {
		words = append(words, h.Action)
		if h.Access != plan.QuickHand {
			slow = append(slow, h.Action)
		}
	}
	switch {
	case c.BetweenSet:
		return fmt.Sprintf(
			"%s by hand takes %s; the gap is %s.", capital(plan.Listed(words)), seconds(o.needed), seconds(o.free),
		)
	case len(slow) > 0:
		return capital(plan.Listed(slow)) + " needs a hand, and the song leaves none free."
	}
	return fmt.Sprintf("%s by hand takes %s; %s is free.", capital(plan.Listed(words)), seconds(o.hands), seconds(o.free))
}

func capital(s string) string {
	if s == "" {
		return s
	}
	return strings.ToUpper(s[:1]) + s[1:]
}
