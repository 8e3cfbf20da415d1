package electric

import (
	"slices"

	"envex/core/plan"
)

// taps hang on the line what is plugged into other jacks of a box that has no buffer there: a tuner
// on a volume pedal's tap loads what feeds the pedal, wherever the pedal stands. An output with pickups of
// its own is no tap of what is played on the others.
func (x *walker) taps(g *plan.Gear) {
	for _, s := range x.tapped[g.ID] {
		sounds, _ := x.plan.Sounding(s, x.set)
		if _, own := x.outputOf(s); own {
			continue
		}
		for k, lane := range s.Lanes {
			if sounds[k] {
				side := x.aside(s.From, lane.Nodes)
				x.add(branch(side.now().parts))
			}
		}
	}
}

// outputOf is the instrument at a tap that is taken from an output of the guitar with pickups of its own.
func (x *walker) outputOf(s *plan.Split) (instrument, bool) {
	g, ok := x.plan.FindGear(s.From.Gear())
	if !ok || g.ID != x.set.Guitar {
		return instrument{}, false
	}
	return outputOf(g, plan.ID(s.From.Rest()), x.assume)
}

func (w *wiring) findTaps(nodes []plan.Node) {
	for _, n := range nodes {
		if n.Split == nil {
			continue
		}
		if from := n.Split.From.Gear(); n.Split.Kind == plan.SplitTap {
			w.tapped[from] = append(w.tapped[from], n.Split)
		}
		for _, lane := range n.Split.Lanes {
			w.findTaps(lane.Nodes)
		}
	}
}

// aside follows a lane that is not the one the report is of, to its first active input; where there
// is none it is open at its end.
func (x *walker) aside(from plan.Key, nodes []plan.Node) *walker {
	y := &walker{
		wiring: x.wiring, set: x.set, try: trial{without: x.try.without}, tail: from, segs: []segment{{first: x.now().first}},
	}
	y.follows(nodes)
	y.segs = y.segs[:1]
	return y
}

// split follows the signal into the first lane that sounds. What else sounds and hangs on an unbuffered
// split loads it; a lane that is not chosen is not there.
func (x *walker) split(n plan.Node) {
	s := n.Split
	sounds, main := x.plan.Sounding(s, x.set)
	if s.Kind == plan.SplitTap {
		x.tap(s, sounds[0], main)
		return
	}
	buffered := s.Kind == plan.SplitLeftRight
	if g, b, ok := x.block(s.Divider()); ok {
		x.cable(s.Divider())
		if b.Passive {
			if b.InputOhm != nil {
				x.add(across{*b.InputOhm, or(b.InputPF, 0) * 1e-12})
			}
		} else {
			x.active(s.Divider(), x.inputOhm(g, b), or(b.InputPF, 0)*1e-12, x.outputOhm(g, b))
			buffered = true
		}
		x.tail = s.Divider()
	}
	from, first := x.tail, slices.Index(sounds, true)
	if first < 0 {
		x.ended = true // muted
		return
	}
	if !buffered && x.rejoins(n, from, sounds) {
		return
	}
	x.otherLanes(s, from, buffered, sounds, first)
	if !buffered {
		x.hang(s, from, first, sounds)
	}
	x.follows(s.Lanes[first].Nodes)
	if s.Join == "" {
		x.open(LaneEnd(s.ID, first))
		x.ended = true
	}
	x.joined(s)
}

// tap follows what is taken from another jack, where it has a source of its own or is all that sounds; else
// it hangs on the box it is taken from.
func (x *walker) tap(s *plan.Split, sounds, main bool) {
	own, apart := x.outputOf(s)
	switch {
	case sounds && apart && (x.all != nil || !main):
		y := &walker{
			wiring: x.wiring, set: x.set, try: x.try, tail: s.From, node: x.node, all: x.all, source: own,
			segs: []segment{{from: s.From, first: true, parts: own.ladder(own.knobs)}},
		}
		y.follows(s.Lanes[0].Nodes)
		y.open(LaneEnd(s.ID, 0))
		if !main {
			x.segs, x.source = y.segs, own
		}
	case sounds && !main:
		x.tail = s.From
		x.follows(s.Lanes[0].Nodes)
		x.open(LaneEnd(s.ID, 0))
	}
	x.ended = x.ended || !main
}

// hang puts every lane of an unbuffered split that sounds, but one, on the line: what hangs there loads it.
func (x *walker) hang(s *plan.Split, from plan.Key, but int, sounds []bool) {
	for k, lane := range s.Lanes {
		if k != but && sounds[k] {
			x.add(branch(x.aside(from, lane.Nodes).now().parts))
		}
	}
}

// otherLanes follows the lanes besides the first that sounds, where every run is asked for, to where they end
// or meet it again.
func (x *walker) otherLanes(s *plan.Split, from plan.Key, buffered bool, sounds []bool, first int) {
	if x.all == nil {
		return
	}
	for k := first + 1; k < len(s.Lanes); k++ {
		if !sounds[k] {
			continue
		}
		y := &walker{
			wiring: x.wiring, set: x.set, tail: from, node: x.node, segs: []segment{x.now().copy()}, all: x.all,
			source: x.source,
		}
		if !buffered {
			y.hang(s, from, k, sounds)
		}
		y.follows(s.Lanes[k].Nodes)
		if s.Join == "" {
			y.open(LaneEnd(s.ID, k))
		}
	}
}

// rejoins takes lanes that have nothing active in them, and come together again, as they are: side
// by side, the cable out of each on where they meet.
func (x *walker) rejoins(n plan.Node, from plan.Key, sounds []bool) bool {
	s := n.Split
	if s.Join == "" {
		return false
	}
	var sides []*walker
	var passive []plan.Key
	for k, lane := range s.Lanes {
		if !sounds[k] {
			continue
		}
		side := x.aside(from, lane.Nodes)
		if side.now().ended {
			return false
		}
		sides = append(sides, side)
		passive = append(passive, plan.StopsIn(lane.Nodes)...)
	}
	for _, key := range passive {
		x.solved(key)
	}
	var lanes parallel
	x.meet = nil
	for k, side := range sides {
		lanes = append(lanes, side.now().parts)
		x.now().cables = append(x.now().cables, side.now().cables...)
		if k > 0 && !slices.Contains(append(x.meet, sides[0].tail), side.tail) {
			x.meet = append(x.meet, side.tail)
		}
	}
	x.add(lanes)
	x.tail = sides[0].tail
	x.joined(s)
	return true
}

// joined goes through the mixer that joins lanes, where there is one.
func (x *walker) joined(s *plan.Split) {
	if x.ended || s.To == "" {
		return
	}
	if s.To != s.Divider() {
		x.stop(plan.Node{Stop: s.To})
		return
	}
	if g, b, ok := x.block(s.To); ok && !b.Passive { // a line mixer: its return, after its send
		x.cable(s.To)
		x.active(s.To, x.inputOhm(g, b), 0, x.outputOhm(g, b))
		x.tail = s.To
	}
}
