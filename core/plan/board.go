package plan

// BoardSpec is what a board is besides its outer size and weight. What nobody has said is absent.
type BoardSpec struct {
	Standing *Area    `json:"standing,omitempty" doc:"Where boxes may stand, from its far left corner; all of it when absent."`
	Slats    []Slat   `json:"slats,omitempty" doc:"What boxes stand on, from the far one to the near one; the board is solid when absent."`
	SlopeDeg *float64 `json:"slope_deg,omitempty" minimum:"0" maximum:"45" doc:"How far it leans towards the player; flat when absent."`
	Beneath  *float64 `json:"beneath_mm,omitempty" minimum:"0" maximum:"500" doc:"Clear height beneath it, for a supply."`
	Lid      *float64 `json:"lid_mm,omitempty" minimum:"0" maximum:"1000" doc:"Clear height above it under its lid; it has no lid when absent."`
	MostG    *float64 `json:"most_g,omitempty" minimum:"0" maximum:"200000" doc:"What it may carry."`
}

// Area is a rectangle on a board, in mm from its far left corner.
type Area struct {
	X     float64 `json:"x_mm" minimum:"0" maximum:"3000"`
	Y     float64 `json:"y_mm" minimum:"0" maximum:"3000"`
	Width float64 `json:"width_mm" minimum:"1" maximum:"3000"`
	Depth float64 `json:"depth_mm" minimum:"1" maximum:"3000"`
}

// Slat is a bar across a board.
type Slat struct {
	Y     float64 `json:"y_mm" minimum:"0" maximum:"3000" doc:"Of its far edge."`
	Depth float64 `json:"depth_mm" minimum:"1" maximum:"3000"`
}

// StandingArea is where boxes may stand on a board: the area it gives, else all of it. A board whose size is not
// known has none.
func (g *Gear) StandingArea() (Area, bool) {
	switch {
	case g.Board != nil && g.Board.Standing != nil:
		return *g.Board.Standing, true
	case g.Size != nil:
		return Area{Width: g.Size.Width, Depth: g.Size.Depth}, true
	}
	return Area{}, false
}

// BoardPlace is where a board stands besides the main one: its far left corner, from that of the main board.
type BoardPlace struct {
	Board ID      `json:"board"`
	X     float64 `json:"x_mm" minimum:"-10000" maximum:"10000"`
	Y     float64 `json:"y_mm" minimum:"-10000" maximum:"10000"`
}

// CarryLimits are the most that the player carries with the boxes on it: what goes into a case or a rack overhead.
type CarryLimits struct {
	Width   *float64 `json:"width_mm,omitempty" minimum:"1" maximum:"3000"`
	Depth   *float64 `json:"depth_mm,omitempty" minimum:"1" maximum:"3000"`
	Height  *float64 `json:"height_mm,omitempty" minimum:"1" maximum:"3000"`
	WeightG *float64 `json:"weight_g,omitempty" minimum:"1" maximum:"200000"`
}

// Where a box of a rig stands when it is not on a board.
const (
	OnGround = "ground" // on the bare floor
	OffFloor = "off"    // in a rack or on an amp
)

// boardSpec checks what a board says of itself.
func (v *validator) boardSpec(path string, g *Gear) {
	if g.Board == nil {
		return
	}
	if g.Kind != Board {
		v.problems.add(dot(path, "board"), "%s is not a board", g.Name)
		return
	}
	fits := func(p string, x, y, w, d float64) {
		if g.Size != nil && (x+w > g.Size.Width || y+d > g.Size.Depth) {
			v.problems.add(p, "it reaches past the board, which is %g by %g mm", g.Size.Width, g.Size.Depth)
		}
	}
	if a := g.Board.Standing; a != nil {
		fits(dot(dot(path, "board"), "standing"), a.X, a.Y, a.Width, a.Depth)
	}
	end := 0.0
	for i, s := range g.Board.Slats {
		p := at(dot(dot(path, "board"), "slats"), i)
		fits(p, 0, s.Y, 0, s.Depth)
		if s.Y < end {
			v.problems.add(dot(p, "y_mm"), "it lies on the slat before it, which ends at %g mm", end)
		}
		end = s.Y + s.Depth
	}
}

// along checks that a socket lies on the side of the box it is said to be on.
func (v *validator) along(path string, g *Gear, side string, at *float64) {
	switch {
	case at == nil:
	case side == "":
		v.problems.add(path, "say which side it is along")
	case g.Size != nil && *at > g.Size.Side(side):
		v.problems.add(path, "the side is %g mm long", g.Size.Side(side))
	}
}

// Side is how long a side is: left, right, top, front or back.
func (s Size) Side(side string) float64 {
	if side == "left" || side == "right" {
		return s.Depth
	}
	return s.Width
}

// floor checks where things stand.
func (v *validator) floor(path string, f *Floor) {
	board := func(p string, id ID) {
		if id != "" && v.gearExists(p, id) && v.gearByID[id].Kind != Board {
			v.problems.add(p, "%s is not a board", v.gearByID[id].Name)
		}
	}
	board(dot(path, "board"), f.Board)
	boards := map[ID]bool{f.Board: true}
	for i, b := range f.Boards {
		p := dot(at(dot(path, "boards"), i), "board")
		board(p, b.Board)
		if boards[b.Board] {
			v.problems.add(p, "this board is there already")
		}
		boards[b.Board] = true
	}
	for _, id := range SortedKeys(f.Places) {
		p := in(dot(path, "places"), id)
		v.gearExists(p, id)
		at := f.Places[id]
		switch {
		case at.Board != "" && !boards[at.Board]:
			v.problems.add(dot(p, "board"), "this rig has no board %q", at.Board)
		case at.Board != "" && at.On != "":
			v.problems.add(dot(p, "on"), "it stands on a board or not, not both")
		case at.On != "" && at.Under:
			v.problems.add(dot(p, "under"), "there is nothing above it to be beneath")
		case at.Under && at.Board == "" && f.Board == "":
			v.problems.add(dot(p, "under"), "this rig has no board to be beneath")
		}
	}
	for i, s := range f.DoubleStomps {
		v.footswitch(dot(at(dot(path, "double_stomps"), i), "a"), s.A)
		v.footswitch(dot(at(dot(path, "double_stomps"), i), "b"), s.B)
	}
}
