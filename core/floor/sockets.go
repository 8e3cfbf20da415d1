package floor

import (
	"slices"

	"envex/core/plan"
)

// PlugWidth is how wide a plug is taken to be along the side it is in, in mm.
const PlugWidth = 20.0

// PlugLengths are how far plugs stand out of the side of a box, in mm, where nobody says.
var PlugLengths = map[string]float64{"flat": 15, "angled": 25, "straight": 40, "power": 25}

// Sides of a box as they lie, clockwise from the far one.
const (
	far = iota
	right
	front
	left
)

var sides = map[string]int{"top": far, "back": far, "right": right, "front": front, "left": left}

// Socket is where a jack or a power inlet is: on a side of its box, so far along it.
type Socket struct {
	side    int // of the box unturned
	at      float64
	Assumed bool `json:"assumed"` // how far along is not known
}

// SocketOf is where a jack of a box is. Jacks whose place along a side nobody has said are spread evenly along it.
// A jack whose side is not known is nowhere.
func SocketOf(g *plan.Gear, jack plan.ID) (Socket, bool) {
	j, ok := g.FindJack(jack)
	if !ok || j.Side == "" {
		return Socket{}, false
	}
	if j.At != nil {
		return Socket{side: sides[j.Side], at: *j.At}, true
	}
	var list []plan.ID
	for _, x := range g.Jacks {
		if x.At == nil && x.Side != "" && sides[x.Side] == sides[j.Side] {
			list = append(list, x.ID)
		}
	}
	share := float64(slices.Index(list, jack)+1) / float64(len(list)+1)
	return Socket{side: sides[j.Side], at: sizeOf(g).Side(j.Side) * share, Assumed: true}, true
}

// InletOf is where power goes into a box. Where its side is not known, it is nowhere.
func InletOf(g *plan.Gear) (Socket, bool) {
	if g.Power == nil || g.Power.Side == "" {
		return Socket{}, false
	}
	if g.Power.At != nil {
		return Socket{side: sides[g.Power.Side], at: *g.Power.At}, true
	}
	return Socket{side: sides[g.Power.Side], at: sizeOf(g).Side(g.Power.Side) / 2, Assumed: true}, true
}

// point is where a socket of a box of a size comes to lie, from the far left corner of the turned box, and the
// side it then faces.
func (s Socket) point(size plan.Size, degrees int) (x, y float64, side int) {
	switch s.side {
	case far:
		x, y = s.at, 0
	case front:
		x, y = s.at, size.Depth
	case left:
		x, y = 0, s.at
	default:
		x, y = size.Width, s.at
	}
	x, y = turned(x, y, size, degrees)
	return x, y, (s.side + degrees/90) % 4
}

// JackAt is where a jack of the box is, on the floor; the middle of the box where its side is not known.
func (b Box) JackAt(g *plan.Gear, jack plan.ID) (x, y float64) {
	s, ok := SocketOf(g, jack)
	if !ok {
		return b.X + b.Width/2, b.Y + b.Depth/2
	}
	x, y, _ = s.point(sizeOf(g), b.Rotation)
	return b.X + x, b.Y + y
}

// plugAt is the room a plug takes that stands so far out of a side at a point.
func plugAt(x, y float64, side int, length float64) Rect {
	switch side {
	case far:
		return Rect{x - PlugWidth/2, y - length, PlugWidth, length}
	case right:
		return Rect{x, y - PlugWidth/2, length, PlugWidth}
	case front:
		return Rect{x - PlugWidth/2, y, PlugWidth, length}
	}
	return Rect{x - length, y - PlugWidth/2, length, PlugWidth}
}

// stripAlong is the strip along a side of a box that is so deep.
func stripAlong(b Rect, side int, depth float64) Rect {
	switch side {
	case far:
		return Rect{b.X, b.Y - depth, b.W, depth}
	case right:
		return Rect{b.Right(), b.Y, depth, b.D}
	case front:
		return Rect{b.X, b.Front(), b.W, depth}
	}
	return Rect{b.X - depth, b.Y, depth, b.D}
}
