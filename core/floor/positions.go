// Package floor knows where boxes stand in front of the player and where that puts every
// switch. Distances are in mm; x runs to the player's right and y towards the player.
package floor

import (
	"math"
	"slices"

	"envex/core/plan"
)

// Box is a piece of gear as it stands on the floor.
type Box struct {
	Gear     plan.ID `json:"gear"`
	Name     string  `json:"name"`
	X        float64 `json:"x_mm"`
	Y        float64 `json:"y_mm"`
	Width    float64 `json:"width_mm"`
	Depth    float64 `json:"depth_mm"`
	Rotation int     `json:"rotation_deg"`
	Placed   bool    `json:"placed" doc:"False for a box standing in the row of those not placed yet."`
	Board    plan.ID `json:"board,omitempty" doc:"The board it stands on; absent on the bare floor and off it."`
	Off      bool    `json:"off,omitempty" doc:"It stands off the floor, in a rack or on an amp."`
	Under    bool    `json:"under,omitempty" doc:"It hangs beneath its board."`
	Pinned   bool    `json:"pinned,omitempty"`
	Colour   string  `json:"colour" doc:"What colour it is, as #rrggbb; a grey where nobody says, or what is said is not understood."`
	Knobs    int     `json:"knobs" doc:"How many knobs it has that fingers turn."`
}

// Rect is the outside of the box.
func (b Box) Rect() Rect { return Rect{b.X, b.Y, b.Width, b.Depth} }

// BoardAt is a board as it stands on the floor.
type BoardAt struct {
	Board plan.ID `json:"board"`
	Name  string  `json:"name"`
	X     float64 `json:"x_mm"`
	Y     float64 `json:"y_mm"`
	Width float64 `json:"width_mm"`
	Depth float64 `json:"depth_mm"`
	Area  Rect    `json:"-"` // where boxes may stand, as it lies on the floor
}

// Rect is the outside of the board.
func (b BoardAt) Rect() Rect { return Rect{b.X, b.Y, b.Width, b.Depth} }

// Switch is the centre of a footswitch on the floor.
type Switch struct {
	Key   plan.Key `json:"key" doc:"gear/switch"`
	Label string   `json:"label" doc:"What is written on it."`
	Name  string   `json:"name" doc:"What it is called on this rig."`
	X     float64  `json:"x_mm"`
	Y     float64  `json:"y_mm"`
	Width float64  `json:"width_mm" doc:"Effective width for the foot."`
}

// Plan is everything of a rig that stands on the floor.
type Plan struct {
	Boards   []BoardAt `json:"boards" doc:"Those whose size is known; the main one first."`
	Boxes    []Box     `json:"boxes"`
	Switches []Switch  `json:"switches"`
}

// The row in which boxes stand that nobody has placed: this far apart, and this far in
// front of the ones that are placed.
const (
	rowGap    = 30.0
	rowMargin = 60.0
)

// Lay puts every piece of the rig that stands on the floor in its place: where the player
// put it, else in a plain row in chain order in front of the rest. Guitars and boxes that
// have neither a switch nor a rocker are left out unless they were placed. Places are from the far left corner of
// the main board.
func Lay(p *plan.Plan, r *plan.Rig) Plan {
	out := Plan{Boards: boardsOf(p, r), Boxes: []Box{}, Switches: []Switch{}}
	width := r.Profile.Filled().Width
	var row []*plan.Gear
	front := math.Inf(-1)
	for _, id := range standing(p, r) {
		g, ok := p.FindGear(id)
		if !ok || g.Kind == plan.Guitar {
			continue
		}
		place, placed := r.Floor.Places[id]
		if !placed {
			if len(g.Footswitches) > 0 || hasRocker(g) {
				row = append(row, g)
			}
			continue
		}
		box := out.stand(BoxOf(g, place, true), place)
		front = math.Max(front, box.Y+box.Depth)
		out.put(p, r, g, box, width)
	}
	x, y := 0.0, 0.0
	if !math.IsInf(front, -1) {
		y = front + rowMargin
	}
	for _, g := range row {
		box := BoxOf(g, plan.Placement{X: x, Y: y}, false)
		x += box.Width + rowGap
		out.put(p, r, g, box, width)
	}
	return out
}

// standing is what of a rig may stand somewhere: all that is played, and the supplies that feed it or were placed.
func standing(p *plan.Plan, r *plan.Rig) []plan.ID {
	ids := r.GearIn()
	add := func(id plan.ID) {
		if !slices.Contains(ids, id) {
			ids = append(ids, id)
		}
	}
	for _, f := range r.PowerPlan {
		add(f.Supply)
	}
	for _, id := range plan.SortedKeys(r.Floor.Places) {
		if g, ok := p.FindGear(id); ok && g.Kind == plan.Supply {
			add(id)
		}
	}
	return ids
}

// boardsOf are the boards of a rig whose size is known.
func boardsOf(p *plan.Plan, r *plan.Rig) []BoardAt {
	list := []BoardAt{}
	add := func(id plan.ID, x, y float64) {
		g, ok := p.FindGear(id)
		if !ok || g.Size == nil {
			return
		}
		a, _ := g.StandingArea()
		list = append(list, BoardAt{id, g.Name, x, y, g.Size.Width, g.Size.Depth, Rect{x + a.X, y + a.Y, a.Width, a.Depth}})
	}
	add(r.Floor.Board, 0, 0)
	for _, b := range r.Floor.Boards {
		add(b.Board, b.X, b.Y)
	}
	return list
}

// stand puts a box that was placed on its board, or beside it. What nobody says stands on the main board where
// it touches it.
func (f *Plan) stand(box Box, at plan.Placement) Box {
	box.Pinned, box.Off = at.Pinned, at.On == plan.OffFloor
	if at.On != "" {
		return box
	}
	for i, b := range f.Boards {
		if at.Board == b.Board {
			box.X, box.Y = box.X+b.X, box.Y+b.Y
			box.Board, box.Under = b.Board, at.Under
			return box
		}
		if i == 0 && b.X == 0 && b.Y == 0 && at.Board == "" && (at.Under || box.Rect().Meets(b.Rect())) {
			box.Board, box.Under = b.Board, at.Under
			return box
		}
	}
	return box
}

func (f *Plan) put(p *plan.Plan, r *plan.Rig, g *plan.Gear, box Box, width float64) {
	f.Boxes = append(f.Boxes, box)
	for i := range g.Footswitches {
		s := &g.Footswitches[i]
		x, y := turned(s.X, s.Y, sizeOf(g), box.Rotation)
		w := width
		if s.Width != nil {
			w = *s.Width
		}
		f.Switches = append(f.Switches, Switch{
			Key: plan.BlockKey(g.ID, s.ID), Label: s.Label, Name: p.SwitchName(r, g, s), X: box.X + x, Y: box.Y + y, Width: w,
		})
	}
}

func hasRocker(g *plan.Gear) bool {
	for _, b := range g.Blocks {
		if b.Rocker {
			return true
		}
	}
	return false
}

// sizeOf is the outside of what stands on the floor; a box of unknown size is taken to be
// a common small enclosure, 70 by 120 mm, wide enough for its switches.
func sizeOf(g *plan.Gear) plan.Size {
	switch {
	case g.FloorUnit != nil:
		return *g.FloorUnit
	case g.Size != nil && g.Kind != plan.Amp:
		return *g.Size
	}
	size := plan.Size{Width: 70, Depth: 120}
	for _, s := range g.Footswitches {
		size.Width = math.Max(size.Width, s.X+35)
		size.Depth = math.Max(size.Depth, s.Y+20)
	}
	return size
}

// plainColour is that of a box nobody has said the colour of.
const plainColour = "#4d5657"

// BoxOf is a box at a place.
func BoxOf(g *plan.Gear, at plan.Placement, placed bool) Box {
	size := sizeOf(g)
	w, d := size.Width, size.Depth
	if at.Rotation == 90 || at.Rotation == 270 {
		w, d = d, w
	}
	b := Box{
		Gear: g.ID, Name: g.Name, X: at.X, Y: at.Y, Width: w, Depth: d, Rotation: at.Rotation, Placed: placed,
		Colour: plainColour,
	}
	if colour, ok := plan.ColourOf(g.Colour); ok {
		b.Colour = colour
	}
	count := func(list []plan.Control) {
		for _, c := range list {
			if c.Kind == plan.Knob && c.Access != plan.Memory && c.Access != plan.Remote {
				b.Knobs++
			}
		}
	}
	if g.FloorUnit != nil {
		return b // its knobs are on what stands elsewhere
	}
	count(g.Controls)
	for i := range g.Blocks {
		count(g.Blocks[i].Controls)
	}
	return b
}

// turned is where a point of an enclosure comes to lie, from the far left corner of the
// turned enclosure. Turns are clockwise as the player sees it.
func turned(x, y float64, size plan.Size, degrees int) (float64, float64) {
	switch degrees {
	case 90:
		return size.Depth - y, x
	case 180:
		return size.Width - x, size.Depth - y
	case 270:
		return y, size.Width - x
	}
	return x, y
}

// Find looks a switch up by its key.
func (f *Plan) Find(key plan.Key) (Switch, bool) {
	for _, s := range f.Switches {
		if s.Key == key {
			return s, true
		}
	}
	return Switch{}, false
}

// Rocker is where the foot is while it works a rocker: the middle of its box.
func (f *Plan) Rocker(gear plan.ID) (x, y float64, ok bool) {
	for _, b := range f.Boxes {
		if b.Gear == gear {
			return b.X + b.Width/2, b.Y + b.Depth/2, true
		}
	}
	return 0, 0, false
}
