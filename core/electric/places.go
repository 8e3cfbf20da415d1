package electric

import (
	"maps"
	"slices"

	"envex/core/plan"
)

// This file tries a buffer at every place of a chain in one walk. A buffer changes nothing before its place and
// nothing after the next active input: only the run that it stands in is walked once more, from the place on.

// progress is where a walk of a line has come to: the node it is at, and the loop of a switcher it stands in.
type progress struct {
	at      int
	in      loopPlace
	engaged bool
	visited map[plan.ID]bool
}

// parted is a run of a chain with a buffer in it: the runs that stand in its stead, and in that of all that
// follow where no active input ends them.
type parted struct {
	run  int // which of the chain's
	runs []segment
	last bool // nothing of the chain as it stands follows
}

// partings walks a chain as it is set and gives, by place, what a buffer there makes of it. A place whose buffer
// would change nothing is not among them.
func (w *wiring) partings(set plan.Setting, try trial, places []Buffer) ([]segment, instrument, map[plan.Key]parted) {
	x := &walker{wiring: w, set: set, try: try, places: map[plan.Key]bool{}, parted: map[plan.Key]parted{}}
	for _, p := range places {
		x.places[p.Before] = true
	}
	segs, source := x.follow(w.instrument(set, try))
	return segs, source, x.parted
}

// part walks on beside the chain as it stands, with a buffer before the node that the walk has come to, as far as
// the next active input.
func (x *walker) part(nodes []plan.Node, now progress) {
	key := nodes[now.at].ID()
	if !x.places[key] {
		return
	}
	y := *x
	y.places, y.parted = nil, nil
	y.try.buffer, y.once = key, true
	y.segs = []segment{x.now().copy()}
	y.meet = slices.Clone(x.meet)
	now.visited = maps.Clone(now.visited)
	y.goOn(nodes, now)
	if y.segs[0].to != tried {
		return
	}
	runs := y.segs
	if y.over {
		runs = runs[:2]
	} else {
		runs = unplugged(runs)
	}
	x.parted[key] = parted{len(x.segs) - 1, runs, !y.over}
}

// unplugged leaves out an output with nothing plugged in, which loses nothing.
func unplugged(segs []segment) []segment {
	if last := len(segs) - 1; last > 0 && !segs[last].ended {
		return segs[:last]
	}
	return segs
}

// with is what there is of each run of a chain, with the run that a buffer stands in parted by it.
func with[T any](p parted, parts, chain []T) []T {
	if p.last {
		return slices.Concat(chain[:p.run], parts)
	}
	return slices.Concat(chain[:p.run], parts, chain[p.run+1:])
}
