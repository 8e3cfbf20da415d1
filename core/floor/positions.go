// Package floor knows where boxes stand in front of the player and where that puts every
// switch. Distances are in mm; x runs to the player's right and y towards the player.
package floor

import (
	"math"

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
}

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
	Boxes    []Box    `json:"boxes"`
	Switches []Switch `json:"switches"`
}

// The row in which boxes stand that nobody has placed: this far apart, and this far in
// front of the ones that are placed.
const (
	rowGap    = 30.0
	rowMargin = 60.0
)

// Lay puts every piece of the rig that stands on the floor in its place: where the player
// put it, else in a plain row in chain order in front of the rest. Guitars and boxes that
// have neither a switch nor a rocker are left out unless they were placed.
func Lay(p *plan.Plan, r *plan.Rig) Plan {
	out := Plan{Boxes: []Box{}, Switches: []Switch{}}
	width := r.Profile.Filled().Width
	var row []*plan.Gear
	front := math.Inf(-1)
	for _, id := range r.GearIn() {
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
		box := boxOf(g, place, true)
		front = math.Max(front, box.Y+box.Depth)
		out.put(p, r, g, box, width)
	}
	x, y := 0.0, 0.0
	if !math.IsInf(front, -1) {
		y = front + rowMargin
	}
	for _, g := range row {
		box := boxOf(g, plan.Placement{X: x, Y: y}, false)
		x += box.Width + rowGap
		out.put(p, r, g, box, width)
	}
	return out
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

func boxOf(g *plan.Gear, at plan.Placement, placed bool) Box {
	size := sizeOf(g)
	w, d := size.Width, size.Depth
	if at.Rotation == 90 || at.Rotation == 270 {
		w, d = d, w
	}
	return Box{Gear: g.ID, Name: g.Name, X: at.X, Y: at.Y, Width: w, Depth: d, Rotation: at.Rotation, Placed: placed}
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
