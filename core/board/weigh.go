package board

import (
	"fmt"
	"math"

	"envex/core/floor"
	"envex/core/plan"
)

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
				Words: fmt.Sprintf(
					"%s carries %.1f kg at the most; what stands on it weighs %.1f.", g.Name, *g.Board.MostG/1000, boxes/1000,
				)})
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
			Words: fmt.Sprintf(
				"Boxes, board and leads weigh %.1f kg; you carry %.1f at the most.", r.Weight.Total/1000, *l.WeightG/1000,
			)})
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
