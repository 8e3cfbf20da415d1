package path

import (
	"context"
	"fmt"
	"math"
	"slices"

	"envex/core/plan"
	"envex/core/reason"
)

// Placing is where a box that is not in the chain would best stand among those that are.
type Placing struct {
	Gear   plan.ID `json:"gear"`
	Name   string  `json:"name"`
	Now    float64 `json:"now" doc:"What the order costs without it."`
	Places []Berth `json:"places" doc:"The best first; places that are as good stand together."`
}

// Berth is one place on the main line, or several in a row that are as good.
type Berth struct {
	At      int         `json:"at" doc:"Its number on the main line."`
	Words   string      `json:"words" doc:"Where that is."`
	Cost    float64     `json:"cost" doc:"Of the whole order with it."`
	Against []string    `json:"against" doc:"What is to be said against it there."`
	Path    []plan.Node `json:"path"`
}

// faultWeight is what a new fault counts beside preferences: more than all of them.
const faultWeight = 1000

// Place finds where a box of the pile would best stand on the main line of a rig's chain, at one of its
// destinations or as it stands when that is "": every place is judged as the whole chain is. Preamps are taken to
// be driven as in [JudgeDriven]. It fails when rig, destination or box are not there, when the box stands in the
// chain already or has nothing to place, and with the context's error when that is cancelled.
func Place(ctx context.Context, p *plan.Plan, rig, destination, gear plan.ID, driven Driven) (*Placing, error) {
	there, err := p.At(rig, destination)
	if err != nil {
		return nil, fmt.Errorf("path: %w", err)
	}
	r, _ := there.FindRig(rig)
	d, _ := r.FindDestination(destination)
	g, err := p.GearByID(gear)
	if err != nil {
		return nil, fmt.Errorf("path: %w", err)
	}
	if slices.ContainsFunc(r.Stops(), func(k plan.Key) bool { return k.Gear() == gear }) {
		return nil, reason.Errorf("%s is in the chain already", g.Name)
	}
	var nodes []plan.Node
	for _, b := range g.Blocks {
		nodes = append(nodes, plan.Node{Stop: plan.BlockKey(g.ID, b.ID)})
	}
	if len(nodes) == 0 || g.Kind == plan.Guitar {
		return nil, reason.Errorf("%s has nothing that goes into a chain", g.Name)
	}
	now := newJudge(there, r, d, r.Path, driven)
	had := map[string]bool{}
	for _, f := range now.findings() {
		had[f.ID] = true
	}
	out := &Placing{Gear: gear, Name: g.Name, Now: now.cost(), Places: []Berth{}}
	type scored struct {
		Berth
		score float64
	}
	var all []scored
	for at := range len(r.Path) + 1 {
		if err := ctx.Err(); err != nil {
			return nil, fmt.Errorf("path: %w", err)
		}
		path := slices.Insert(slices.Clone(r.Path), at, nodes...)
		if len(there.PathProblems(path)) > 0 {
			continue
		}
		j := newJudge(there, r, d, path, driven)
		b := scored{Berth: Berth{At: at, Cost: j.cost(), Against: []string{}, Path: path, Words: "at the end"}}
		if at < len(r.Path) {
			b.Words = "before " + nodeName(there, r.Path[at])
		}
		b.score = b.Cost
		for _, f := range j.findings() {
			if had[f.ID] {
				continue
			}
			if f.Gravity == Danger || f.Gravity == Fault {
				b.score += faultWeight
			}
			if f.Gravity != Notice {
				b.Against = append(b.Against, f.Title+": "+f.Reason)
			}
		}
		if last := len(all) - 1; last >= 0 && math.Abs(all[last].score-b.score) < 1e-9 && all[last].At == at-1 &&
			slices.Equal(all[last].Against, b.Against) {
			all[last].Words += ", " + b.Words // one is as good as the other
			all[last].At, all[last].Path = at, path
			continue
		}
		all = append(all, b)
	}
	slices.SortStableFunc(all, func(a, b scored) int {
		switch {
		case a.score < b.score-1e-9:
			return -1
		case a.score > b.score+1e-9:
			return 1
		}
		return 0
	})
	for _, b := range all {
		out.Places = append(out.Places, b.Berth)
	}
	return out, nil
}

// nodeName is a place of a path as a person would say it.
func nodeName(p *plan.Plan, n plan.Node) string {
	if n.Split != nil {
		return p.SplitName(n.Split)
	}
	g, ok := p.FindGear(n.Stop.Gear())
	if !ok {
		return string(n.Stop)
	}
	if b, ok := g.FindBlock(plan.ID(n.Stop.Rest())); ok {
		return g.StopName(b)
	}
	return g.Name
}
