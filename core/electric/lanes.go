package electric

import (
	"envex/core/plan"
)

// taps hang on the line what is plugged into other jacks of a box that has no buffer there: a tuner
// on a volume pedal's tap loads what feeds the pedal, wherever the pedal stands.
func (x *walker) taps(g *plan.Gear) {
	for _, s := range x.tapped[g.ID] {
		for _, lane := range s.Lanes {
			side, _ := x.aside(s.From, lane.Nodes)
			x.add(branch(side))
		}
	}
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
// is none it is open at its end, and says so.
func (x *walker) aside(from plan.Key, nodes []plan.Node) (n network, open bool) {
	y := &walker{wiring: x.wiring, set: x.set, tail: from, segs: make([]segment, 1)}
	y.line(nodes)
	return y.segs[0].parts, !y.segs[0].ended
}

// split follows the signal into the first lane. What else hangs on an unbuffered split loads it.
func (x *walker) split(n plan.Node) {
	s := n.Split
	if s.Kind == plan.SplitTap {
		return // it hangs on the box it is taken from
	}
	buffered := s.Kind == plan.SplitLeftRight || s.Kind == plan.SplitAB
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
	from := x.tail
	if !buffered && x.rejoins(n, from) {
		return
	}
	if !buffered {
		for _, lane := range s.Lanes[min(1, len(s.Lanes)):] {
			side, _ := x.aside(from, lane.Nodes)
			x.add(branch(side))
		}
	}
	if len(s.Lanes) > 0 {
		x.line(s.Lanes[0].Nodes)
	}
	if s.Join == "" {
		x.ended = true
	}
	x.joined(s)
}

// rejoins takes lanes that have nothing active in them, and come together again, as they are: side
// by side.
func (x *walker) rejoins(n plan.Node, from plan.Key) bool {
	if n.Split.Join == "" || len(n.Split.Lanes) == 0 {
		return false
	}
	var lanes beside
	for _, lane := range n.Split.Lanes {
		side, open := x.aside(from, lane.Nodes)
		if !open {
			return false
		}
		lanes = append(lanes, side)
	}
	x.add(lanes)
	if stops := plan.StopsIn(n.Split.Lanes[0].Nodes); len(stops) > 0 {
		x.tail = stops[len(stops)-1]
	}
	x.joined(n.Split)
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
