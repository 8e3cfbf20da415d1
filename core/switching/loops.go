package switching

import (
	"context"
	"fmt"
	"math"
	"math/bits"
	"slices"

	"envex/core/plan"
	"envex/core/reason"
)

// wiring is which blocks stand in which loops of a switcher.
type wiring struct {
	path   []plan.Node
	held   []plan.HeldLoop
	cost   int // presses at the changes: a recall where anything it governs moves, bank steps, own switches
	bound  int // no choice of loops takes fewer
	proven bool
	notes  []string
}

// unit is what goes into a loop, or stays out, as one: neighbours that are on and off together
// in every sound of the show.
type unit struct {
	nodes  []int // places in the path, in signal order
	blocks []plan.Key
	forced bool // it has to have a loop: a split that stands in one
	barred bool // it has to stay out: it keeps its own switch, never moves, or moves otherwise
	now    bool // it stands in a loop of the switcher today
	simple bool // it could stand in a loop that is held on
}

// moves is a set of units that has to move at some changes of the show.
type moves struct {
	units   uint64
	times   int
	recalls bool // a recall is needed at them all the same
}

// maxUnits bounds the units whose loops are chosen; a path has fewer.
const maxUnits = 64

// maxLeaves bounds how many choices have their pages laid out.
const maxLeaves = 3000

// maxNodes bounds the search in steps, not seconds, so that answers repeat.
const maxNodes = 4_000_000

// wire chooses which blocks of a path get loops of a switcher, so that the show takes the fewest
// presses, bank steps included: a change costs one press where anything in a loop moves, and one for every block that
// moves by its own switch. Sets of blocks that move together are merged and counted, then every
// choice is looked at, branches that cannot be better left out (taking the block that moves most
// often first fails: two that always move together are worth more than one that moves often).
//
// Loops are numbered along the path. What stands between two loops is passed at a break point, or
// stands in a loop that is held on. Among equals the choice that changes least wins.
func wire(
	ctx context.Context, p *plan.Plan, r *plan.Rig, l *plan.SetList, g *plan.Gear, m memories,
	steps func(w *wiring, most int) (steps, bound int),
) (*wiring, error) {
	if g.Switcher == nil {
		return nil, reason.Errorf("%s has no loops", g.Name)
	}
	w := &wirer{p: p, rig: r, g: g, memories: m, played: playedOn(p, r, l), steps: steps}
	w.wants = w.wantsOf()
	w.units = w.unitsOf()
	if len(w.units) > maxUnits {
		return nil, reason.Errorf(
			"the chain has %d stops to choose from, and %d are the most", len(w.units), maxUnits,
		)
	}
	w.moves = w.movesOf()
	w.best, w.unsure = math.MaxInt, math.MaxInt
	w.search(ctx, 0, 0, state{})
	if err := ctx.Err(); err != nil {
		return nil, fmt.Errorf("switching: %w", err)
	}
	if w.best == math.MaxInt {
		return nil, reason.Errorf(
			"the loops of %s cannot be wired along this chain: what stands between them finds no break point and no spare loop",
			g.Name,
		)
	}
	out := w.result(w.chosen)
	if w.nodes > maxNodes || w.leaves > maxLeaves {
		out.proven, out.bound = false, w.cost(w.open())
		out.notes = append(out.notes, "Not every choice of loops was looked at.")
	}
	if w.unsure < out.bound {
		out.proven, out.bound = false, w.unsure
		out.notes = append(out.notes, "Not for every choice of loops were the fewest bank steps found.")
	}
	return out, nil
}

type wirer struct {
	p        *plan.Plan
	rig      *plan.Rig
	g        *plan.Gear
	memories memories
	played   []*plan.Recipe            // by section of the show; nil where the rig has none
	wants    map[plan.Key][]plan.Value // by block: on, off or free, by section
	units    []unit
	moves    []moves

	best    int
	chosen  uint64
	changed int
	nodes   int
	leaves  int

	unsure int // the presses that some choice could still take at the least, where its fewest were not found

	steps func(w *wiring, most int) (steps, bound int) // the bank steps of a choice; nil where there are none
}

// state is how far along the path the loops are numbered.
type state struct {
	last   int  // the last loop that is taken
	gap    bool // something stands between it and here
	simple bool // and all of that could stand in a held loop
}

// wantsOf is what each block is asked to be, section by section: on, off, or free where the
// recipe does not mind or there is none.
func (w *wirer) wantsOf() map[plan.Key][]plan.Value {
	wants := map[plan.Key][]plan.Value{}
	lanes := w.p.LaneConditions(w.rig.Path)
	for _, key := range w.rig.Stops() {
		g, ok := w.p.FindGear(key.Gear())
		if !ok {
			continue
		}
		b, ok := g.FindBlock(plan.ID(key.Rest()))
		if !ok || b.Bypass == plan.AlwaysOn {
			continue
		}
		list := make([]plan.Value, len(w.played))
		for i, rec := range w.played {
			list[i] = plan.Free()
			if rec != nil && w.holds(rec, lanes[key]) {
				list[i] = asked(w.rig, rec, key+"/on", plan.On(false))
			}
		}
		wants[key] = list
	}
	return wants
}

// holds reports whether a recipe sets what has to hold for a lane to sound, as far as it says.
func (w *wirer) holds(rec *plan.Recipe, lane []plan.KeyCondition) bool {
	for _, c := range lane {
		v, ok := w.p.VariableOf(c.Key)
		if !ok {
			continue
		}
		if at := asked(w.rig, rec, c.Key, v.Default); at.Kind() != plan.FreeValue && !c.Holds(at) {
			return false
		}
	}
	return true
}

// unitsOf reads the units off the main line of the path.
func (w *wirer) unitsOf() []unit {
	var units []unit
	for i := range w.rig.Path {
		n := &w.rig.Path[i]
		u := unit{nodes: []int{i}, now: n.Switcher == w.g.ID && !w.rig.IsHeld(n.Switcher, n.Loop), barred: true}
		if n.Split != nil {
			u.forced, u.barred = n.Switcher == w.g.ID, n.Switcher != w.g.ID
			u.blocks = plan.StopsIn(w.rig.Path[i : i+1])
			units = append(units, u)
			continue
		}
		u.blocks = []plan.Key{n.Stop}
		box, ok := w.p.FindGear(n.Stop.Gear())
		if ok {
			u.simple = box.Kind == plan.Pedal && (n.Switcher == "" || n.Switcher == w.g.ID)
			u.barred = !w.loopable(box, n)
		}
		if last := len(units) - 1; last >= 0 && !u.barred && !units[last].barred && !units[last].forced &&
			w.alike(units[last].blocks[0], n.Stop) {
			units[last].nodes = append(units[last].nodes, i)
			units[last].blocks = append(units[last].blocks, n.Stop)
			units[last].now = units[last].now && u.now
			continue
		}
		units = append(units, u)
	}
	return units
}

// loopable reports whether a loop would do anything for a stop.
func (w *wirer) loopable(box *plan.Gear, n *plan.Node) bool {
	b, ok := box.FindBlock(plan.ID(n.Stop.Rest()))
	if !ok || box.Kind != plan.Pedal || b.Bypass == plan.AlwaysOn || b.Rocker ||
		(n.Switcher != "" && n.Switcher != w.g.ID) {
		return false
	}
	if slices.Contains(w.rig.OwnSwitches, n.Stop) || w.sent(n.Stop) {
		return false
	}
	if len(box.Blocks) > 1 && !slices.ContainsFunc(box.Jacks, func(j plan.Jack) bool { return j.Block == b.ID }) {
		return false // its blocks have no jacks between them
	}
	on, off := false, false
	for _, x := range w.wants[n.Stop] {
		on, off = on || x == plan.On(true), off || x == plan.On(false)
	}
	return on && off
}

// sent reports whether a message of the controller turns a block on and off, so that it needs no
// loop.
func (w *wirer) sent(block plan.Key) bool {
	box, ok := w.p.FindGear(block.Gear())
	if !ok || !w.g.SendsMIDI() || box.MIDI == nil || w.rig.SendsOn(w.g.ID, box) != box.MIDI.Channel {
		return false
	}
	_, moves := box.Message(block + "/on")
	return moves
}

// alike reports whether two blocks are on and off together all night.
func (w *wirer) alike(a, b plan.Key) bool { return slices.Equal(w.wants[a], w.wants[b]) }

// movesOf gathers which units move at each change, equal sets counted once. A block that a recipe
// does not mind stays as it is.
func (w *wirer) movesOf() []moves {
	recalled := w.recalls(len(w.played))
	at := map[moves]int{}
	var list []moves
	stands := make([]plan.Value, len(w.units))
	for i := range w.played {
		m := moves{recalls: recalled[i]}
		for u := range w.units {
			x, known := w.wants[w.units[u].blocks[0]]
			if !known || w.units[u].forced || x[i].Kind() != plan.SwitchValue || w.sent(w.units[u].blocks[0]) {
				continue
			}
			if !stands[u].IsZero() && stands[u] != x[i] {
				m.units |= 1 << u
			}
			stands[u] = x[i]
		}
		if m.units == 0 && !m.recalls {
			continue
		}
		k, seen := at[m]
		if !seen {
			k = len(list)
			at[m] = k
			list = append(list, m)
		}
		list[k].times++
	}
	return list
}

// recalls reports, section by section, whether something moves that messages or relays move, so
// that a program is recalled there whatever the loops are.
func (w *wirer) recalls(sections int) []bool {
	out := make([]bool, sections)
	loops := w.rig.SwitchedLoops(w.g.ID)
	governed := slices.DeleteFunc(governedBy(w.p, w.rig, w.g.ID, w.played), func(v plan.Variable) bool {
		block := plan.BlockKey(v.Gear, v.Block)
		return v.IsOn() && loops[block] > 0 && !w.sent(block)
	})
	stands := map[plan.Key]plan.Value{}
	for i, rec := range w.played {
		if rec == nil {
			continue
		}
		for key, x := range stored(w.rig, rec, governed, w.memories[rec.ID]) {
			if was, known := stands[key]; known && was != x {
				out[i] = true
			}
			stands[key] = x
		}
	}
	return out
}

// cost is the presses of the show with the units of a set in loops and the others out.
func (w *wirer) cost(in uint64) int {
	sum := 0
	for _, m := range w.moves {
		each := 0
		if m.units&in != 0 || m.recalls {
			each = 1
		}
		for out := m.units &^ in; out != 0; out &= out - 1 {
			each += len(w.units[bits.TrailingZeros64(out)].blocks)
		}
		sum += each * m.times
	}
	return sum
}

// open is every unit that could have a loop.
func (w *wirer) open() uint64 {
	var set uint64
	for u := range w.units {
		if !w.units[u].barred {
			set |= 1 << u
		}
	}
	return set
}

// search decides unit u and those after it.
func (w *wirer) search(ctx context.Context, u int, in uint64, at state) {
	if w.nodes++; w.nodes > maxNodes || (w.nodes%1024 == 0 && ctx.Err() != nil) {
		return
	}
	undecided := w.open() &^ (1<<u - 1)
	least := w.cost(in | undecided)
	if least > w.best {
		return
	}
	if u == len(w.units) {
		w.leaf(in, least)
		return
	}
	x := &w.units[u]
	if !x.barred || x.forced {
		if loop, _ := w.next(at); loop > 0 {
			w.search(ctx, u+1, in|1<<u, state{last: loop})
		}
	}
	if !x.forced {
		out := at
		if at.last > 0 {
			out.simple = x.simple && (at.simple || !at.gap)
			out.gap = true
		}
		w.search(ctx, u+1, in, out)
	}
}

// leaf weighs a whole choice: its presses and, where programs stand on pages, the bank steps
// between them.
func (w *wirer) leaf(in uint64, presses int) {
	total := presses
	if w.steps != nil {
		if w.leaves++; w.leaves > maxLeaves {
			return
		}
		steps, bound := w.steps(w.result(in), w.best-presses)
		if total += steps; total > w.best || bound < steps {
			w.unsure = min(w.unsure, presses+bound)
		}
	}
	if changed := w.turned(in); total < w.best || (total == w.best && changed < w.changed) {
		w.best, w.chosen, w.changed = total, in, changed
	}
}

// next is the lowest loop that what comes next can have, 0 when none is left, and the loop that is
// held on for what stands between.
func (w *wirer) next(at state) (loop, held int) {
	count := w.g.LoopCount()
	if !at.gap {
		if at.last+1 > count {
			return 0, 0
		}
		return at.last + 1, 0
	}
	for k := at.last + 1; k <= count; k++ {
		if w.g.Switcher.Loops[k-1].Break && (!at.simple || k <= at.last+2) {
			return k, 0
		}
	}
	if at.simple && at.last+2 <= count {
		return at.last + 2, at.last + 1
	}
	return 0, 0
}

// turned counts the blocks that have a loop and had none, or the other way round.
func (w *wirer) turned(in uint64) int {
	n := 0
	for u := range w.units {
		if w.units[u].now != (in&(1<<u) != 0) {
			n += len(w.units[u].blocks)
		}
	}
	return n
}

// result writes a choice into a path.
func (w *wirer) result(chosen uint64) *wiring {
	out := &wiring{path: slices.Clone(w.rig.Path), cost: w.best, bound: w.best, proven: true}
	for _, h := range w.rig.Held {
		if h.Switcher != w.g.ID {
			out.held = append(out.held, h)
		}
	}
	for i := range out.path {
		if out.path[i].Switcher == w.g.ID {
			out.path[i].Switcher, out.path[i].Loop = "", 0
		}
	}
	at := state{}
	var between []int
	put := func(nodes []int, loop int) {
		for _, i := range nodes {
			out.path[i].Switcher, out.path[i].Loop = w.g.ID, loop
		}
	}
	for u := range w.units {
		x := &w.units[u]
		if chosen&(1<<u) == 0 {
			if at.last > 0 {
				at.simple = x.simple && (at.simple || !at.gap)
				at.gap = true
				between = append(between, x.nodes...)
			}
			continue
		}
		loop, held := w.next(at)
		if held > 0 {
			put(between, held)
			out.held = append(out.held, plan.HeldLoop{Switcher: w.g.ID, Loop: held})
		}
		put(x.nodes, loop)
		at, between = state{last: loop}, nil
	}
	return out
}
