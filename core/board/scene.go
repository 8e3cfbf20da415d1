package board

import (
	"fmt"
	"slices"

	"envex/core/floor"
	"envex/core/path"
	"envex/core/plan"
	"envex/core/reach"
)

// rigOn is a rig with what is known of it on the floor.
type rigOn struct {
	plan   *plan.Plan
	rig    *plan.Rig
	lay    floor.Plan
	cables *path.Cables
	report *reach.Report // nil where no set list is given
	night  floor.Night
}

func standOn(p *plan.Plan, rig, setList plan.ID) (*rigOn, error) {
	r, err := p.RigByID(rig)
	if err != nil {
		return nil, fmt.Errorf("board: %w", err)
	}
	x := &rigOn{plan: p, rig: r, lay: floor.Lay(p, r)}
	if x.cables, err = path.DeriveCables(p, rig, ""); err != nil {
		return nil, fmt.Errorf("board: %w", err)
	}
	if setList != "" {
		if x.report, err = reach.Compute(p, rig, setList); err != nil {
			return nil, fmt.Errorf("board: %w", err)
		}
		x.night = x.report.Night()
	}
	return x, nil
}

// belongs reports whether a piece of gear is one that stands on a board: a box, a controller, a supply, something
// small between them. Amps, guitars, speakers and loads do not, and what the player put elsewhere stays there.
func (x *rigOn) belongs(g *plan.Gear) bool {
	at, placed := x.rig.Floor.Places[g.ID]
	if placed && (at.On != "" || at.Board != "" && at.Board != x.rig.Floor.Board) {
		return false
	}
	switch g.Kind {
	case plan.Pedal, plan.Controller, plan.Supply:
		return true
	case plan.Interface:
		return !slices.ContainsFunc(
			g.Blocks, func(b plan.Block) bool { return b.Effect == plan.EffectSpeaker || b.Effect == plan.EffectLoad },
		)
	}
	return false
}

// pieces is everything that belongs on the main board, in chain order, supplies last.
func (x *rigOn) members() []*plan.Gear {
	var list []*plan.Gear
	ids := x.rig.GearIn()
	for _, f := range x.rig.PowerPlan {
		ids = append(ids, f.Supply)
	}
	seen := map[plan.ID]bool{}
	for _, id := range ids {
		g, ok := x.plan.FindGear(id)
		if ok && !seen[id] && x.belongs(g) {
			seen[id] = true
			list = append(list, g)
		}
	}
	return list
}

// scene is a board with the boxes on it; on no board, the bare floor.
func (x *rigOn) scene(board plan.ID, boxes []floor.Box) *floor.Scene {
	s := &floor.Scene{Night: x.night, Foot: x.rig.Profile.Filled()}
	if x.rig.Floor.Limits != nil {
		s.Limits = *x.rig.Floor.Limits
	}
	for i := range x.lay.Boards {
		if x.lay.Boards[i].Board == board {
			s.Board = &x.lay.Boards[i]
			if g, ok := x.plan.FindGear(board); ok && g.Board != nil {
				s.Spec = *g.Board
			}
		}
	}
	at := map[plan.ID]int{}
	for _, b := range boxes {
		if g, ok := x.plan.FindGear(b.Gear); ok {
			at[g.ID] = len(s.Pieces)
			s.Pieces = append(s.Pieces, floor.Piece{Gear: g, Box: b})
		}
	}
	for _, run := range x.cables.Runs {
		x.lead(s, at, run)
	}
	for i := range s.Pieces {
		if inlet, ok := floor.InletOf(s.Pieces[i].Gear); ok {
			s.Pieces[i].Plugs = append(s.Pieces[i].Plugs, floor.PowerPlug(inlet))
		}
	}
	s.Prepare()
	return s
}

// lead plugs a lead in at the ends that are in the scene.
func (x *rigOn) lead(s *floor.Scene, at map[plan.ID]int, run path.Run) {
	length, ok := floor.PlugLengths[run.Plugs]
	if !ok {
		length = floor.PlugLengths["straight"]
	}
	plug := func(e path.End) (int, int) {
		i, ok := at[e.Gear]
		if !ok {
			return -1, -1
		}
		socket, ok := floor.SocketOf(s.Pieces[i].Gear, e.Socket)
		if !ok {
			return i, -1
		}
		for k, p := range s.Pieces[i].Plugs {
			if p.Is == e.Socket {
				return i, k // a Y lead: one plug for both
			}
		}
		s.Pieces[i].Plugs = append(s.Pieces[i].Plugs, floor.Plug{Socket: socket, Is: e.Socket, Jack: e.Jack, Length: length})
		return i, len(s.Pieces[i].Plugs) - 1
	}
	from, fromPlug := plug(run.From)
	to, toPlug := plug(run.To)
	if from < 0 || to < 0 {
		return
	}
	l := floor.Lead{
		From: from, FromPlug: fromPlug, To: to, ToPlug: toPlug, Count: run.Leads(), Level: run.Level,
		Name: fmt.Sprintf("The lead from %s to %s", run.From.Name, run.To.Name),
	}
	if g, ok := x.plan.FindGear(run.Cable); ok && g.Cable != nil && g.Cable.LengthM != nil {
		l.Made = *g.Cable.LengthM * 1000
	}
	s.Leads = append(s.Leads, l)
}
