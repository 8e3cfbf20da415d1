package operation

import (
	"slices"
	"strconv"
)

// cursor is an operation on its way to what it changes.
type cursor struct {
	number int
	op     Op
	shown  string // the way so far, for messages
}

// step applies one operation to a tree of maps, slices and plain values, and gives the new tree.
func step(tree any, number int, op Op) (any, error) {
	c := &cursor{number: number, op: op}
	switch op.Do {
	case Set:
		if len(op.Path) == 0 {
			return nil, c.invalid("set needs a path")
		}
	case Insert, Remove, Move:
		if op.Do != Insert && op.Element == nil {
			return nil, c.invalid(op.Do + " needs an element")
		}
	default:
		return nil, c.invalid("there is no act " + strconv.Quote(op.Do))
	}
	return c.descend(tree, op.Path)
}

func (c *cursor) invalid(message string) error { return &InvalidError{Op: c.number, Message: message} }

func (c *cursor) conflict(reason Reason, theirs, yours any) error {
	return &ConflictError{Op: c.number, Path: c.shown, Reason: reason, Theirs: theirs, Yours: yours}
}

// descend changes the value at the end of a path and gives what it is in changed.
func (c *cursor) descend(at any, path []Step) (any, error) {
	if len(path) == 0 {
		return c.inList(at)
	}
	s := path[0]
	switch {
	case s.Key != "" && s.Match == nil && s.Place == nil:
		return c.field(at, s.Key, path[1:])
	case s.Match != nil && s.Key == "" && s.Place == nil:
		return c.element(at, s, path[1:])
	case s.Place != nil && s.Key == "" && s.Match == nil:
		return c.element(at, s, path[1:])
	}
	return nil, c.invalid("a step has one of key, match and place")
}

func (c *cursor) field(at any, key string, rest []Step) (any, error) {
	c.see(key)
	object, ok := at.(map[string]any)
	if !ok {
		if at != nil {
			return nil, c.conflict(Gone, nil, c.op.To)
		}
		object = map[string]any{} // an empty object is not written down
	}
	if len(rest) == 0 && c.op.Do == Set {
		return c.set(object, key)
	}
	if object[key] == nil && !c.makesWay(rest) {
		return nil, c.conflict(Gone, nil, c.yours())
	}
	next, err := c.descend(object[key], rest)
	if err != nil {
		return nil, err
	}
	if object[key] == nil && c.op.Do == Remove {
		return object, nil // nothing to take out of a list that is not there
	}
	return with(object, key, next), nil
}

// makesWay reports whether what is not there may be made on the way: objects, and the list that an
// element goes into. An element that should be there is not.
func (c *cursor) makesWay(rest []Step) bool {
	if len(rest) == 0 {
		return c.op.Do == Insert || c.op.Do == Remove
	}
	return rest[0].Key != ""
}

func (c *cursor) set(object map[string]any, key string) (any, error) {
	now := object[key]
	switch {
	case exact(now, c.op.To):
		return object, nil
	case !exact(now, c.op.Was) && (isEntry(key) || !alike(now, c.op.Was)):
		return nil, c.conflict(Changed, now, c.op.To)
	}
	return with(object, key, c.op.To), nil
}

func (c *cursor) element(at any, s Step, rest []Step) (any, error) {
	list, ok := at.([]any)
	if !ok && at != nil {
		return nil, c.invalid("there is no list at " + c.shown)
	}
	i, err := c.find(list, s)
	if err != nil {
		return nil, err
	}
	if len(rest) == 0 && c.op.Do == Set {
		return nil, c.invalid("set names a field")
	}
	next, err := c.descend(list[i], rest)
	if err != nil {
		return nil, err
	}
	list = slices.Clone(list)
	list[i] = next
	return list, nil
}

func (c *cursor) find(list []any, s Step) (int, error) {
	if s.Place != nil {
		c.see(strconv.Itoa(*s.Place + 1))
		if len(list) != s.Of || *s.Place >= len(list) || *s.Place < 0 {
			return 0, c.conflict(Shape, nil, c.yours())
		}
		return *s.Place, nil
	}
	c.see(word(s.Match))
	i, several := index(list, s.Match)
	switch {
	case several:
		return 0, c.conflict(Unclear, nil, c.yours())
	case i < 0:
		return 0, c.conflict(Gone, nil, c.yours())
	}
	return i, nil
}

// inList inserts, removes or moves an element of the list that was reached.
func (c *cursor) inList(at any) (any, error) {
	list, ok := at.([]any)
	if !ok && at != nil {
		return nil, c.invalid("there is no list at " + c.shown)
	}
	switch c.op.Do {
	case Insert:
		return c.insert(list)
	case Remove:
		return c.remove(list)
	case Move:
		return c.move(list)
	}
	return nil, c.invalid("set names a field")
}

func (c *cursor) insert(list []any) (any, error) {
	if c.op.Value == nil {
		return nil, c.invalid("insert needs a value")
	}
	if c.op.Element != nil {
		if !matches(c.op.Value, c.op.Element) {
			return nil, c.invalid("the new element is not the one that is named")
		}
		if i, _ := index(list, c.op.Element); i >= 0 {
			if alike(list[i], c.op.Value) {
				return list, nil
			}
			c.see(word(c.op.Element))
			return nil, c.conflict(Exists, list[i], c.op.Value)
		}
	}
	at, ok := between(list, c.op.After, c.op.Before)
	if !ok {
		return nil, c.conflict(Gone, nil, c.op.Value)
	}
	return slices.Insert(slices.Clone(list), at, c.op.Value), nil
}

func (c *cursor) remove(list []any) (any, error) {
	i, several := index(list, c.op.Element)
	c.see(word(c.op.Element))
	switch {
	case several:
		return nil, c.conflict(Unclear, nil, nil)
	case i < 0:
		return list, nil // what was asked for is so
	case c.op.Was != nil && !alike(list[i], c.op.Was):
		return nil, c.conflict(Changed, list[i], nil)
	}
	return slices.Delete(slices.Clone(list), i, i+1), nil
}

func (c *cursor) move(list []any) (any, error) {
	i, several := index(list, c.op.Element)
	c.see(word(c.op.Element))
	switch {
	case several:
		return nil, c.conflict(Unclear, nil, nil)
	case i < 0:
		return nil, c.conflict(Gone, nil, nil)
	}
	moved := list[i]
	rest := slices.Delete(slices.Clone(list), i, i+1)
	if stands(rest, i, c.op.After, c.op.Before) {
		return list, nil
	}
	if c.op.From != nil && !stillThere(rest, i, *c.op.From) {
		return nil, c.conflict(Changed, nil, nil)
	}
	at, ok := between(rest, c.op.After, c.op.Before)
	if !ok {
		return nil, c.conflict(Gone, nil, nil)
	}
	return slices.Insert(rest, at, moved), nil
}

// between is where an element goes that was meant for a place between two neighbours: the end or the
// beginning where it was meant for that, else right after the one, else right before the other. It is
// false when neither is there any more.
func between(list []any, after, before any) (int, bool) {
	switch {
	case before == nil:
		return len(list), true
	case after == nil:
		return 0, true
	}
	if i, several := index(list, after); i >= 0 && !several {
		return i + 1, true
	}
	if i, several := index(list, before); i >= 0 && !several {
		return i, true
	}
	return 0, false
}

// stands reports whether place i of a list is between two neighbours.
func stands(rest []any, i int, after, before any) bool {
	return neighbour(rest, i-1, after) && neighbour(rest, i, before)
}

func neighbour(list []any, i int, match any) bool {
	if i < 0 || i >= len(list) {
		return match == nil
	}
	return match != nil && matches(list[i], match)
}

// stillThere reports whether an element stands where it was seen. Something may have come or gone on
// one side of it; when both neighbours are others, it is the element that was moved.
func stillThere(rest []any, i int, from Place) bool {
	return neighbour(rest, i-1, from.After) || neighbour(rest, i, from.Before)
}

func (c *cursor) yours() any {
	if c.op.Do == Insert {
		return c.op.Value
	}
	return c.op.To
}

func (c *cursor) see(name string) {
	if c.shown != "" {
		c.shown += "."
	}
	c.shown += name
}
