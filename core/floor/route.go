package floor

import "math"

// stubMM is how far a lead leaves its jack straight before it may bend, for drawing.
const stubMM = 10.0

// Route is how a lead is drawn from jack to jack: in straight lines along the edges, out of its jacks as plugs
// stand, round boxes where one bend, two or three do it. It is for the eye; what a lead measures is its run.
func (s *Scene) Route(l Lead) [][2]float64 {
	spots := s.spots()
	a, aOut := s.leaves(l.From, l.FromPlug, spots)
	b, bOut := s.leaves(l.To, l.ToPlug, spots)
	var best []point
	least := math.Inf(1)
	for _, way := range ways(aOut, bOut, s.lanes(l, spots)) {
		line := trimmed(append(append([]point{a}, way...), b))
		if cost := s.routeCost(line, l, spots); cost < least-hair {
			best, least = line, cost
		}
	}
	drawn := make([][2]float64, len(best))
	for i, p := range best {
		drawn[i] = [2]float64{p.x, p.y}
	}
	return drawn
}

// leaves is where a jack is, and where its lead may first bend.
func (s *Scene) leaves(piece, plug int, spots []Spot) (at, out point) {
	at = s.socket(piece, plug, spots)
	if plug < 0 {
		return at, at
	}
	_, _, side := s.Pieces[piece].Plugs[plug].point(sizeOf(s.Pieces[piece].Gear), spots[piece].Rotation)
	switch side {
	case far:
		return at, point{at.x, at.y - stubMM}
	case right:
		return at, point{at.x + stubMM, at.y}
	case front:
		return at, point{at.x, at.y + stubMM}
	}
	return at, point{at.x - stubMM, at.y}
}

// lanes are the lines beside the two boxes of a lead, along which it may go: x, then y.
func (s *Scene) lanes(l Lead, spots []Spot) (lanes [2][]float64) {
	for _, i := range []int{l.From, l.To} {
		r := s.Pieces[i].rect(spots[i])
		lanes[0] = append(lanes[0], r.X-stubMM, r.Right()+stubMM)
		lanes[1] = append(lanes[1], r.Y-stubMM, r.Front()+stubMM)
	}
	return lanes
}

// ways are the ways from a point to another with up to three bends on lanes, and one more at each end.
func ways(a, b point, lanes [2][]float64) [][]point {
	list := [][]point{{a, {b.x, a.y}, b}, {a, {a.x, b.y}, b}}
	for _, x := range append([]float64{(a.x + b.x) / 2}, lanes[0]...) {
		list = append(list, []point{a, {x, a.y}, {x, b.y}, b})
		for _, y := range lanes[1] {
			list = append(list, []point{a, {x, a.y}, {x, y}, {b.x, y}, b}, []point{a, {a.x, y}, {x, y}, {x, b.y}, b})
		}
	}
	for _, y := range append([]float64{(a.y + b.y) / 2}, lanes[1]...) {
		list = append(list, []point{a, {a.x, y}, {b.x, y}, b})
	}
	return list
}

// trimmed leaves out points in the middle of a straight line, and what goes to and fro on one.
func trimmed(line []point) []point {
	var out []point
	for _, p := range line {
		if n := len(out); n > 0 && math.Abs(out[n-1].x-p.x) < hair && math.Abs(out[n-1].y-p.y) < hair {
			continue
		}
		if n := len(out); n > 1 &&
			(out[n-2].x == out[n-1].x && out[n-1].x == p.x || out[n-2].y == out[n-1].y && out[n-1].y == p.y) {
			out = out[:n-1]
			if out[n-2] == p {
				continue
			}
		}
		out = append(out, p)
	}
	return out
}

// routeCost prefers a line that crosses no box, then a short one, then one with few bends.
func (s *Scene) routeCost(line []point, l Lead, spots []Spot) float64 {
	cost := 8 * float64(len(line))
	for i := 1; i < len(line); i++ {
		a, b := line[i-1], line[i]
		length := math.Abs(a.x-b.x) + math.Abs(a.y-b.y)
		cost += length
		seg := Rect{
			math.Min(a.x, b.x), math.Min(a.y, b.y), math.Max(math.Abs(a.x-b.x), 2*hair), math.Max(math.Abs(a.y-b.y), 2*hair),
		}
		for k := range s.Pieces {
			if !s.sameLayer(l.From, k) && k != l.To {
				continue
			}
			// Its ends touch the boxes that it joins; between them it keeps off.
			off := 2.0
			if i == 1 || i == len(line)-1 {
				off = -1
			}
			if r := s.Pieces[k].rect(spots[k]); seg.Meets(Rect{r.X - off, r.Y - off, r.W + 2*off, r.D + 2*off}) {
				w, d := seg.shared(r)
				cost += 60 + 3*math.Max(w, d)
			}
		}
	}
	return cost
}
