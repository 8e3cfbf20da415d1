package board

import (
	"context"
	"math"
	"slices"

	"envex/core/floor"
	"envex/core/plan"
	"envex/core/reach"
)

// Report is a rig on its boards.
type Report struct {
	Rig      plan.ID          `json:"rig"`
	SetList  plan.ID          `json:"set_list,omitempty"`
	Board    plan.ID          `json:"board,omitempty" doc:"The main board; absent where the rig stands on the bare floor."`
	Name     string           `json:"name,omitempty" doc:"Of the board."`
	Width    float64          `json:"width_mm,omitempty"`
	Depth    float64          `json:"depth_mm,omitempty"`
	Fits     bool             `json:"fits" doc:"Everything that belongs on the board stands on it, and nothing is in anything's way."`
	Proven   bool             `json:"proven" doc:"Of a board that was fitted and does not fit: that nothing does."`
	Places   []Placed         `json:"places" doc:"Of the far left corner after turning, from that of the board it is on: x to the right, y towards the player."`
	LeftOut  []plan.ID        `json:"left_out" doc:"What belongs on the board and has no place on it."`
	Findings []Finding        `json:"findings"`
	Footwork *Change          `json:"footwork_s,omitempty" doc:"Of all changes of the set list together; absent without one."`
	Cable    Change           `json:"cable_m" doc:"Of all leads between boxes on the floor."`
	Weight   Weight           `json:"weight_g"`
	Hurried  *float64         `json:"closest_hurried_mm,omitempty" doc:"Between the centres of the two switches closest together that are pressed in a hurry."`
	Presses  map[plan.Key]int `json:"presses" doc:"How often each switch is pressed in the set list, at its changes and at leisure."`
	Assumed  []string         `json:"assumed" doc:"What was assumed, in words."`
	Floor    floor.Plan       `json:"floor" doc:"Everything as it stands then."`
	Leads    []LeadLine       `json:"leads" doc:"Every lead between boxes on the floor, from jack to jack."`
	Plugs    []PlugRoom       `json:"plugs" doc:"The room each plug takes."`
	Owned    []OwnedLead      `json:"owned_leads" doc:"Made-up leads that are in no use and fit a run that is to be cut."`
	Taken    *plan.Floor      `json:"taken,omitempty" doc:"Of a board that was fitted: the floor of the rig with everything where it was found."`

	changes []reach.Change
}

// Finding is something that is not as it should be, with what mends it.
type Finding struct {
	floor.Finding
	Moves map[plan.ID]plan.Placement `json:"moves,omitempty" doc:"The places that mend it."`
}

// Placed is where a box stands.
type Placed struct {
	Gear     plan.ID `json:"gear"`
	Board    plan.ID `json:"board,omitempty"`
	X        float64 `json:"x_mm"`
	Y        float64 `json:"y_mm"`
	Rotation int     `json:"rotation_deg"`
	Under    bool    `json:"under,omitempty"`
	Pinned   bool    `json:"pinned,omitempty"`
}

// Change is a figure before and after fitting; both are the same where nothing was fitted.
type Change struct {
	Before float64 `json:"before"`
	After  float64 `json:"after"`
}

// Weight is what is carried, in g. What nobody has said is in none of it, and is listed as unknown.
type Weight struct {
	Boxes   float64   `json:"boxes"`
	Board   float64   `json:"board"`
	Cables  float64   `json:"cables"`
	Total   float64   `json:"total"`
	Unknown []plan.ID `json:"unknown" doc:"What stands on the board and whose weight is not known."`
}

// What leads weigh where nobody says: a patch or instrument lead of 6 mm with two plugs, weighed as a rough rule.
const (
	cableGPerM = 45.0
	plugG      = 22.0
)

// Options say on what a rig is to be judged or fitted.
type Options struct {
	SetList  plan.ID // whose presses count; none when empty
	Board    plan.ID // of what is owned or of [Sizes], in place of the rig's main board; that when empty
	Fit      bool    // find a place for everything that is not pinned
	Seed     uint64
	Progress func(share float64)
}

// Judge says how a rig stands on its boards, or fits it onto the main one first. The plan must be valid. It fails
// when there is no such rig, set list or board, when a board is to be fitted whose size is not known, and with the
// context's error when that is cancelled.
func Judge(ctx context.Context, p *plan.Plan, rig plan.ID, o Options) (*Report, error) {
	given, err := onBoard(p, rig, o.Board)
	if err != nil {
		return nil, err
	}
	was, err := standOn(given, rig, o.SetList)
	if err != nil {
		return nil, err
	}
	if !o.Fit {
		return was.write(o, was, floor.Fitted{}), nil
	}
	fitted, with, err := was.fit(ctx, o)
	if err != nil {
		return nil, err
	}
	q := *given
	q.Put(with)
	is, err := standOn(&q, rig, o.SetList)
	if err != nil {
		return nil, err
	}
	// The feet decide: what was found counts their ways one by one, the report whole changes.
	if was.stands() && was.report != nil && is.report.FootworkS() > was.report.FootworkS()+1e-9 {
		return was.write(o, was, floor.Fitted{}), nil
	}
	out := is.write(o, was, fitted)
	out.Taken = &with.Floor
	return out, nil
}

// stands reports whether everything that belongs on the main board stands on it without anything in its way.
func (x *rigOn) stands() bool {
	boxes := x.on(x.rig.Floor.Board)
	return len(x.missing()) == 0 && len(boxes) > 0 && x.scene(x.rig.Floor.Board, boxes).Stands()
}

// on is the boxes on a board, or on the bare floor.
func (x *rigOn) on(board plan.ID) []floor.Box {
	var list []floor.Box
	for _, b := range x.lay.Boxes {
		if b.Placed && !b.Off && b.Board == board {
			list = append(list, b)
		}
	}
	return list
}

// missing is what belongs on the main board and is not on it.
func (x *rigOn) missing() []plan.ID {
	list := []plan.ID{}
	if x.rig.Floor.Board == "" {
		return list
	}
	for _, g := range x.members() {
		if !slices.ContainsFunc(x.lay.Boxes, func(b floor.Box) bool { return b.Gear == g.ID && b.Placed && b.Board != "" }) {
			list = append(list, g.ID)
		}
	}
	return list
}

// write writes the report of a rig, beside what it was before.
func (x *rigOn) write(o Options, before *rigOn, fitted floor.Fitted) *Report {
	r := &Report{
		Rig: x.rig.ID, SetList: o.SetList, Board: x.rig.Floor.Board, Places: []Placed{}, LeftOut: x.missing(),
		Findings: []Finding{}, Assumed: []string{}, Floor: x.lay, Presses: map[plan.Key]int{}, Leads: []LeadLine{},
		Plugs: []PlugRoom{},
	}
	r.Proven = fitted.Proven
	if g, ok := x.plan.FindGear(r.Board); ok {
		r.Name = g.Name
		if g.Size != nil {
			r.Width, r.Depth = g.Size.Width, g.Size.Depth
		}
	}
	offsets := map[plan.ID]floor.BoardAt{}
	for _, b := range x.lay.Boards {
		offsets[b.Board] = b
	}
	for _, b := range x.lay.Boxes {
		if b.Placed && !b.Off {
			at := offsets[b.Board]
			r.Places = append(r.Places, Placed{b.Gear, b.Board, b.X - at.X, b.Y - at.Y, b.Rotation, b.Under, b.Pinned})
		}
	}
	hard := true
	for _, board := range append(x.boards(), "") {
		boxes := x.on(board)
		if len(boxes) == 0 {
			continue
		}
		s := x.scene(board, boxes)
		for _, f := range s.Findings() {
			hard = hard && !f.Hard()
			r.Findings = append(r.Findings, Finding{f, x.placements(board, f.Moves)})
		}
		r.lines(s)
		if d, ok := s.ClosestHurried(); ok && (r.Hurried == nil || d < *r.Hurried) {
			r.Hurried = &d
		}
	}
	for _, b := range x.on("") {
		for _, at := range x.lay.Boards {
			if f, ok := floor.Aside(b, at); ok {
				hard = false
				r.Findings = append(r.Findings, Finding{f, x.placements("", f.Moves)})
			}
		}
	}
	r.Owned = x.owned()
	x.weigh(r)
	r.Fits = hard && len(r.LeftOut) == 0 && r.Board != "" && r.Width > 0 && len(x.on(r.Board)) > 0
	if x.report != nil {
		r.changes, r.Presses = x.report.Changes, x.night.Presses
		r.Footwork = &Change{round2(before.report.FootworkS()), round2(x.report.FootworkS())}
	}
	r.Cable = Change{before.patchM(), x.patchM()}
	x.assume(r)
	return r
}

// boards are those of the rig that are known.
func (x *rigOn) boards() []plan.ID {
	var list []plan.ID
	for _, b := range x.lay.Boards {
		list = append(list, b.Board)
	}
	return list
}

// placements are spots on the floor as places on a board.
func (x *rigOn) placements(board plan.ID, spots map[plan.ID]floor.Spot) map[plan.ID]plan.Placement {
	if spots == nil {
		return nil
	}
	var off floor.BoardAt
	for _, b := range x.lay.Boards {
		if b.Board == board {
			off = b
		}
	}
	out := map[plan.ID]plan.Placement{}
	for id, at := range spots {
		to := x.rig.Floor.Places[id]
		to.X, to.Y, to.Rotation = at.X-off.X, at.Y-off.Y, at.Rotation
		out[id] = to
	}
	return out
}

// patchM is the length of all leads between boxes on the floor, in m.
func (x *rigOn) patchM() float64 {
	sum := 0.0
	for _, run := range x.cables.Runs {
		if x.onBoards(run.From.Gear) && x.onBoards(run.To.Gear) {
			sum += run.LengthM * float64(run.Leads())
		}
	}
	return round2(sum)
}

func (x *rigOn) onBoards(id plan.ID) bool {
	g, ok := x.plan.FindGear(id)
	return ok && x.belongs(g) ||
		slices.ContainsFunc(x.lay.Boxes, func(b floor.Box) bool { return b.Gear == id && b.Board != "" })
}

func round2(x float64) float64 { return math.Round(x*100) / 100 }
