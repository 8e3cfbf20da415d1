package board

import (
	"context"
	"fmt"
	"maps"
	"slices"

	"envex/core/floor"
	"envex/core/plan"
	"envex/core/reason"
)

// onBoard is a plan whose rig stands on another main board.
func onBoard(p *plan.Plan, rig, board plan.ID) (*plan.Plan, error) {
	r, err := p.RigByID(rig)
	if err != nil {
		return nil, fmt.Errorf("board: %w", err)
	}
	if board == "" || board == r.Floor.Board {
		return p, nil
	}
	q := *p
	g, ok := p.FindGear(board)
	if !ok {
		i := slices.IndexFunc(Sizes(), func(g plan.Gear) bool { return g.ID == board })
		if i < 0 {
			return nil, reason.Errorf("there is no board %q", board)
		}
		g = &Sizes()[i]
		q.Gear = append(slices.Clone(p.Gear), *g)
	}
	if g.Kind != plan.Board {
		return nil, reason.Errorf("%s is not a board", g.Name)
	}
	with := *r
	with.Floor.Boards = slices.DeleteFunc(
		slices.Clone(r.Floor.Boards), func(b plan.BoardPlace) bool { return b.Board == board },
	)
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

// aside keeps beside a board what stood on the bare floor and does not belong on a board: side by side where the
// board comes to lie. What belongs on it is free to stand on it.
func aside(p *plan.Plan, was, is *plan.Rig, board *plan.Gear) {
	if board.Size == nil {
		return
	}
	taken := floor.Rect{W: board.Size.Width, D: board.Size.Depth}
	next := taken.W + besideMM
	x := &rigOn{plan: p, rig: was}
	for _, b := range floor.Lay(p, was).Boxes {
		g, ok := p.FindGear(b.Gear)
		if !ok || !b.Placed || b.Board != "" || b.Off || x.belongs(g) {
			continue
		}
		at := is.Floor.Places[b.Gear]
		at.On = plan.OnGround
		if b.Rect().Meets(taken) {
			at.X = next
			next += b.Width + besideMM
		}
		is.Floor.Places[b.Gear] = at
	}
}

// besideMM is how far from a board a box is put that stood where the board comes to lie.
const besideMM = 20.0

// fit finds a place for everything that belongs on the main board, and gives the rig with it.
func (x *rigOn) fit(ctx context.Context, o Options) (floor.Fitted, plan.Rig, error) {
	board, ok := x.plan.FindGear(x.rig.Floor.Board)
	if !ok {
		return floor.Fitted{}, plan.Rig{}, reason.Errorf("%s is on no board: say which", x.rig.Name)
	}
	if board.Size == nil {
		return floor.Fitted{}, plan.Rig{}, reason.Errorf("the size of %s is not known", board.Name)
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

// soundNeed is for how many presses a sound counts that would be lost.
const soundNeed = 1000

// needs says how badly each box is needed: for the sounds of the set that use it, and as often as it is pressed.
func (x *rigOn) needs(s *floor.Scene, setList plan.ID) {
	var sounds []plan.ID
	if l, ok := x.plan.FindSetList(setList); ok {
		sounds = needed(x.plan, x.rig, l)
	}
	for i := range s.Pieces {
		p := &s.Pieces[i]
		if p.Gear.Kind == plan.Supply {
			p.Need = floor.Vital
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
	if g.Kind == plan.Supply && board.Board != nil && board.Board.Beneath != nil && g.Size != nil &&
		g.Size.Height != nil && *g.Size.Height <= *board.Board.Beneath {
		b.Under = true
	}
	return b
}
