package page

import (
	"math"

	"envex/core/floor"
	"envex/core/plan"
)

// drawFloor draws the boxes as they stand in front of the player, and every switch where the foot
// finds it.
func drawFloor(p *plan.Plan, r *plan.Rig, s *plan.Show) (*svg, error) {
	lay := floor.Lay(p, r)
	left, top, right, bottom := math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)
	grow := func(x, y, w, h float64) {
		left, top = min(left, x), min(top, y)
		right, bottom = max(right, x+w), max(bottom, y+h)
	}
	board, hasBoard := p.FindGear(r.Floor.Board)
	hasBoard = hasBoard && board.Size != nil
	if hasBoard {
		grow(0, 0, board.Size.Width, board.Size.Depth)
	}
	for _, b := range lay.Boxes {
		grow(b.X, b.Y, b.Width, b.Depth)
	}
	d := &svg{title: "Floor of " + r.Name + " at " + s.Name, width: pageWidth}
	if math.IsInf(left, 1) {
		d.height = 40
		d.text("small", 12, 24, 0, false, "Nothing stands on the floor yet.")
		return d, nil
	}
	const margin = 14.0
	scale := min((pageWidth-2*margin)/max(right-left, 1), 1.6)
	x := func(mm float64) float64 { return margin + (mm-left)*scale }
	y := func(mm float64) float64 { return margin + (mm-top)*scale }
	if hasBoard {
		d.rect("board", x(0), y(0), board.Size.Width*scale, board.Size.Depth*scale, 4)
	}
	for _, b := range lay.Boxes {
		d.rect("box", x(b.X), y(b.Y), b.Width*scale, b.Depth*scale, 3)
		d.text("name", x(b.X+b.Width/2), y(b.Y)+20, b.Width*scale-4, true, b.Name)
	}
	for _, w := range lay.Switches {
		radius := max(6, min(w.Width/2*scale, 12))
		d.circle("round", x(w.X), y(w.Y), radius)
		room := 90.0
		for _, b := range lay.Boxes {
			if b.Gear == w.Key.Gear() {
				room = b.Width * scale
				if b.Name == w.Label {
					room = 0
				}
			}
		}
		if room > 0 {
			d.text("small", x(w.X), y(w.Y)-radius-4, room, true, w.Label)
		}
	}
	d.text("small", margin, y(bottom)+20, 0, false, "You stand on this side.")
	d.height = y(bottom) + 30
	return d, nil
}
