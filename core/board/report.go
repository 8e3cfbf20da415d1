package board

import (
	"context"
	"fmt"
	"maps"
	"math"
	"slices"

	"envex/core/floor"
	"envex/core/plan"
	"envex/core/reach"
)

// Report is a rig on its boards.
type Report struct {
	Rig      plan.ID     `json:"rig"`
	SetList  plan.ID     `json:"set_list,omitempty"`
	Board    plan.ID     `json:"board,omitempty" doc:"The main board; absent where the rig stands on the bare floor."`
	Name     string      `json:"name,omitempty" doc:"Of the board."`
	Width    float64     `json:"width_mm,omitempty"`
	Depth    float64     `json:"depth_mm,omitempty"`
	Fits     bool        `json:"fits" doc:"Everything that belongs on the board stands on it, and nothing is in anything's way."`
	Proven   bool        `json:"proven" doc:"Of a board that was fitted and does not fit: that nothing does."`
	Places   []Placed    `json:"places" doc:"Of the far left corner after turning, from that of the board it is on: x to the right, y towards the player."`
	LeftOut  []plan.ID   `json:"left_out" doc:"What belongs on the board and has no place on it."`
	Findings []Finding   `json:"findings"`
	Footwork *Change     `json:"footwork_s,omitempty" doc:"Of all changes of the set list together; absent without one."`
	Cable    Change      `json:"cable_m" doc:"Of all leads between boxes on the floor."`
	Weight   Weight      `json:"weight_g"`
	Hurried  *float64    `json:"closest_hurried_mm,omitempty" doc:"Between the centres of the two switches closest together that are pressed in a hurry."`
	Assumed  []string    `json:"assumed" doc:"What was assumed, in words."`
	Floor    floor.Plan  `json:"floor" doc:"Everything as it stands then."`
	Leads    []LeadLine  `json:"leads" doc:"Every lead between boxes on the floor, from jack to jack."`
	Plugs    []PlugRoom  `json:"plugs" doc:"The room each plug takes."`
	Owned    []OwnedLead `json:"owned_leads" doc:"Made-up leads that are in no use and fit a run that is to be cut."`
	Taken    *plan.Floor `json:"taken,omitempty" doc:"Of a board that was fitted: the floor of the rig with everything where it was found."`

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

// onBoard is a plan whose rig stands on another main board.
func onBoard(p *plan.Plan, rig, board plan.ID) (*plan.Plan, error) {
	r, ok := p.FindRig(rig)
	if !ok {
		return nil, fmt.Errorf("board: there is no rig %q", rig)
	}
	if board == "" || board == r.Floor.Board {
		return p, nil
	}
	q := *p
	g, ok := p.FindGear(board)
	if !ok {
		i := slices.IndexFunc(Sizes(), func(g plan.Gear) bool { return g.ID == board })
		if i < 0 {
			return nil, fmt.Errorf("board: there is no board %q", board)
		}
		g = &Sizes()[i]
		q.Gear = append(slices.Clone(p.Gear), *g)
	}
	if g.Kind != plan.Board {
		return nil, fmt.Errorf("board: %s is not a board", g.Name)
	}
	with := *r
	with.Floor.Boards = slices.DeleteFunc(slices.Clone(r.Floor.Boards), func(b plan.BoardPlace) bool { return b.Board == board })
	with.Floor.Places = map[plan.ID]plan.Placement{}
	for id, at := range r.Floor.Places {
		if at.Board == r.Floor.Board || at.Board == board {
			at.Board = ""
		}
		with.Floor.Places[id] = at
	}
	with.Floor.Board = board
	aside(&q, r, &with, g)
	q.Put(with)
	return &q, nil
}

// aside keeps beside a board what stood on the bare floor beside another.
func aside(p *plan.Plan, was, is *plan.Rig, board *plan.Gear) {
	if board.Size == nil {
		return
	}
	taken := floor.Rect{W: board.Size.Width, D: board.Size.Depth}
	for _, b := range floor.Lay(p, was).Boxes {
		if !b.Placed || b.Board != "" || b.Off {
			continue
		}
		at := is.Floor.Places[b.Gear]
		at.On = plan.OnGround
		if b.Rect().Meets(taken) {
			at.X = taken.W + besideMM
		}
		is.Floor.Places[b.Gear] = at
	}
}

// besideMM is how far from a board a box is put that stood where the board comes to lie.
const besideMM = 20.0

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
	for _, g := range x.members() {
		if !slices.ContainsFunc(x.lay.Boxes, func(b floor.Box) bool { return b.Gear == g.ID && b.Placed && b.Board != "" }) {
			list = append(list, g.ID)
		}
	}
	return list
}

// write writes the report of a rig, beside what it was before.
func (x *rigOn) write(o Options, before *rigOn, fitted floor.Fitted) *Report {
	r := &Report{Rig: x.rig.ID, SetList: o.SetList, Board: x.rig.Floor.Board, Places: []Placed{}, LeftOut: x.missing(), Findings: []Finding{}, Assumed: []string{}, Floor: x.lay, Leads: []LeadLine{}, Plugs: []PlugRoom{}}
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
		r.changes = x.report.Changes
		r.Footwork = &Change{round2(before.report.FootworkS()), round2(x.report.FootworkS())}
	}
	r.Cable = Change{before.patchM(), x.patchM()}
	x.assume(r)
	return r
}

// LeadLine is a lead as it lies on the floor.
type LeadLine struct {
	From   plan.ID `json:"from"`
	To     plan.ID `json:"to"`
	FromX  float64 `json:"from_x_mm"`
	FromY  float64 `json:"from_y_mm"`
	ToX    float64 `json:"to_x_mm"`
	ToY    float64 `json:"to_y_mm"`
	Level  string  `json:"level" enum:"instrument,line,speaker"`
	Stereo bool    `json:"stereo,omitempty"`
}

// PlugRoom is the room of a plug on the floor.
type PlugRoom struct {
	Gear    plan.ID `json:"gear"`
	Jack    string  `json:"jack"`
	X       float64 `json:"x_mm"`
	Y       float64 `json:"y_mm"`
	Width   float64 `json:"width_mm"`
	Depth   float64 `json:"depth_mm"`
	Assumed bool    `json:"assumed,omitempty" doc:"Where along its side it is is not known."`
}

// lines adds the leads and plugs of a scene.
func (r *Report) lines(s *floor.Scene) {
	for _, l := range s.Leads {
		ax, ay, bx, by := s.Ends(l)
		r.Leads = append(r.Leads, LeadLine{s.Pieces[l.From].Gear.ID, s.Pieces[l.To].Gear.ID, round2(ax), round2(ay), round2(bx), round2(by), l.Level, l.Count > 1})
	}
	for i := range s.Pieces {
		for k, p := range s.Pieces[i].Plugs {
			room := s.PlugRoom(i, k)
			r.Plugs = append(r.Plugs, PlugRoom{s.Pieces[i].Gear.ID, p.Jack, round2(room.X), round2(room.Y), room.W, room.D, p.Assumed})
		}
	}
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
	return ok && x.belongs(g) || slices.ContainsFunc(x.lay.Boxes, func(b floor.Box) bool { return b.Gear == id && b.Board != "" })
}

// weigh adds up what is lifted with the boards, and holds it against what they and the player carry.
func (x *rigOn) weigh(r *Report) {
	r.Weight.Unknown = []plan.ID{}
	add := func(id plan.ID, to *float64) {
		g, ok := x.plan.FindGear(id)
		switch {
		case !ok:
		case g.WeightG == nil || g.FloorUnit != nil:
			r.Weight.Unknown = append(r.Weight.Unknown, id)
		default:
			*to += *g.WeightG
		}
	}
	for _, board := range x.boards() {
		boxes, own := 0.0, 0.0
		add(board, &own)
		for _, b := range x.on(board) {
			add(b.Gear, &boxes)
		}
		r.Weight.Boxes += boxes
		r.Weight.Board += own
		g, _ := x.plan.FindGear(board)
		if g.Board != nil && g.Board.MostG != nil && boxes > *g.Board.MostG {
			r.find(floor.Finding{Rule: "too_heavy", Gear: []plan.ID{board}, Value: boxes, Limit: *g.Board.MostG,
				Words: fmt.Sprintf("%s carries %.1f kg at the most; what stands on it weighs %.1f.", g.Name, *g.Board.MostG/1000, boxes/1000)})
		}
	}
	for _, run := range x.cables.Runs {
		if x.onBoards(run.From.Gear) && x.onBoards(run.To.Gear) {
			r.Weight.Cables += float64(run.Leads()) * (run.LengthM*cableGPerM + 2*plugG)
		}
	}
	r.Weight.Cables = math.Round(r.Weight.Cables)
	r.Weight.Total = r.Weight.Boxes + r.Weight.Board + r.Weight.Cables
	x.limits(r)
}

func (r *Report) find(f floor.Finding) {
	r.Findings = append(r.Findings, Finding{Finding: f})
}

// limits holds the main board against what the player carries.
func (x *rigOn) limits(r *Report) {
	l := x.rig.Floor.Limits
	if l == nil || r.Board == "" {
		return
	}
	if l.WeightG != nil && r.Weight.Total > *l.WeightG {
		r.find(floor.Finding{Rule: "too_heavy", Gear: []plan.ID{r.Board}, Value: r.Weight.Total, Limit: *l.WeightG,
			Words: fmt.Sprintf("Boxes, board and leads weigh %.1f kg; you carry %.1f at the most.", r.Weight.Total/1000, *l.WeightG/1000)})
	}
	height := x.height(r.Board)
	for _, m := range []struct {
		what  string
		is    float64
		limit *float64
	}{{"wide", r.Width, l.Width}, {"deep", r.Depth, l.Depth}, {"high with its boxes", height, l.Height}} {
		if m.limit != nil && m.is > *m.limit {
			r.find(floor.Finding{Rule: "too_large", Gear: []plan.ID{r.Board}, Value: m.is, Limit: *m.limit,
				Words: fmt.Sprintf("%s is %.0f mm %s; %.0f is the most you carry.", r.Name, m.is, m.what, *m.limit)})
		}
	}
}

// height is how high a board is with the tallest box on it, as far as heights are known.
func (x *rigOn) height(board plan.ID) float64 {
	own := 0.0
	if g, ok := x.plan.FindGear(board); ok && g.Size != nil && g.Size.Height != nil {
		own = *g.Size.Height
	}
	most := 0.0
	for _, b := range x.on(board) {
		if g, ok := x.plan.FindGear(b.Gear); ok && !b.Under && g.Size != nil && g.Size.Height != nil {
			most = math.Max(most, *g.Size.Height)
		}
	}
	return own + most
}

// assume says what was taken to be so.
func (x *rigOn) assume(r *Report) {
	said := func(words string, names []string) {
		if len(names) > 0 {
			r.Assumed = append(r.Assumed, fmt.Sprintf(words, listed(names)))
		}
	}
	var sizes, sockets, inlets, heights, weights []string
	for _, b := range x.lay.Boxes {
		g, ok := x.plan.FindGear(b.Gear)
		if !ok || b.Board == "" {
			continue
		}
		switch {
		case g.Size == nil && g.FloorUnit == nil:
			sizes = append(sizes, g.Name)
		case g.Size != nil && g.Size.Height == nil:
			heights = append(heights, g.Name)
		}
		if slices.ContainsFunc(g.Jacks, func(j plan.Jack) bool { return j.Side != "" && j.At == nil }) {
			sockets = append(sockets, g.Name)
		}
		if g.Power != nil && g.Power.Side == "" {
			inlets = append(inlets, g.Name)
		}
	}
	for _, id := range r.Weight.Unknown {
		if g, ok := x.plan.FindGear(id); ok {
			weights = append(weights, g.Name)
		}
	}
	said("The size of %s is not known: a small box of 70 by 120 mm is taken.", sizes)
	said("The height of %s is not known, so no lid is judged over it.", heights)
	said("Where along their sides the jacks of %s are is not known: any place with room for the plug is taken.", sockets)
	said("Where the power goes into %s is not known, so room for its plug is not judged.", inlets)
	said("The weight of %s is not known and not in the total.", weights)
	if r.Weight.Cables > 0 {
		r.Assumed = append(r.Assumed, fmt.Sprintf("Leads are taken to weigh %.0f g a metre and %.0f g a plug.", cableGPerM, plugG))
	}
	if g, ok := x.plan.FindGear(r.Board); ok && g.Size == nil {
		r.Assumed = append(r.Assumed, fmt.Sprintf("The size of %s is not known, so what stands on it is not judged.", g.Name))
	}
}

// listed is names in a row: all of a few, else how many.
func listed(names []string) string {
	if len(names) > 4 {
		names = append(slices.Clone(names[:2]), fmt.Sprintf("%d others", len(names)-2))
	}
	return plan.Listed(names)
}

func round2(x float64) float64 { return math.Round(x*100) / 100 }

// fit finds a place for everything that belongs on the main board, and gives the rig with it.
func (x *rigOn) fit(ctx context.Context, o Options) (floor.Fitted, plan.Rig, error) {
	board, ok := x.plan.FindGear(x.rig.Floor.Board)
	if !ok {
		return floor.Fitted{}, plan.Rig{}, fmt.Errorf("board: %s stands on no board: say which", x.rig.Name)
	}
	if board.Size == nil {
		return floor.Fitted{}, plan.Rig{}, fmt.Errorf("board: the size of %s is not known", board.Name)
	}
	var boxes []floor.Box
	for _, g := range x.members() {
		boxes = append(boxes, x.boxFor(g, board))
	}
	s := x.scene(board.ID, boxes)
	x.needs(s, o.SetList)
	fitted, err := s.Fit(ctx, o.Seed, o.Progress)
	if err != nil {
		return floor.Fitted{}, plan.Rig{}, fmt.Errorf("board: %w", err)
	}
	with := *x.rig
	with.Floor.Places = maps.Clone(with.Floor.Places)
	if with.Floor.Places == nil {
		with.Floor.Places = map[plan.ID]plan.Placement{}
	}
	for i, at := range fitted.Spots {
		id := s.Pieces[i].Gear.ID
		if slices.Contains(fitted.LeftOut, i) {
			delete(with.Floor.Places, id)
			continue
		}
		to := with.Floor.Places[id]
		to.X, to.Y, to.Rotation, to.Under, to.Board, to.On = at.X, at.Y, at.Rotation, s.Pieces[i].Box.Under, "", ""
		with.Floor.Places[id] = to
	}
	return fitted, with, nil
}

// A sound that would be lost counts for so many presses, and a supply for more than any box.
const (
	soundNeed  = 1000
	supplyNeed = 1e9
)

// needs says how badly each box is needed: for the sounds of the set that use it, and as often as it is pressed.
func (x *rigOn) needs(s *floor.Scene, setList plan.ID) {
	var sounds []plan.ID
	if l, ok := x.plan.FindSetList(setList); ok {
		sounds = needed(x.plan, x.rig, l)
	}
	for i := range s.Pieces {
		p := &s.Pieces[i]
		if p.Gear.Kind == plan.Supply {
			p.Need = supplyNeed
			continue
		}
		p.Need = soundNeed * float64(len(lost(x.rig, sounds, []plan.ID{p.Gear.ID})))
		for key, n := range x.night.Presses {
			if key.Gear() == p.Gear.ID {
				p.Need += float64(n)
			}
		}
	}
}

// boxFor is a box to be fitted: where it stands, or anywhere. A supply goes beneath where it fits there.
func (x *rigOn) boxFor(g, board *plan.Gear) floor.Box {
	for _, b := range x.lay.Boxes {
		if b.Gear == g.ID && b.Placed && b.Board == board.ID {
			return b
		}
	}
	b := floor.BoxOf(g, plan.Placement{}, false)
	if g.Kind == plan.Supply && board.Board != nil && board.Board.Beneath != nil && g.Size != nil && g.Size.Height != nil && *g.Size.Height <= *board.Board.Beneath {
		b.Under = true
	}
	return b
}
