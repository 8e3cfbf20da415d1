package path

import (
	"context"
	"fmt"
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"envex/core/plan"
)

// randomRig draws a small rig with lanes, switcher loops, a dual drive, an amp and pinned
// stops, wired as it can be.
func randomRig(t *rapid.T) *plan.Plan {
	names := []string{
		"tuner", "volume", "overdrive", "distortion", "delay", "reverb", "chorus", "octave", "fuzz", "looper", "buffer",
	}
	p := &plan.Plan{Rigs: []plan.Rig{{ID: "rig", Name: "rig", Base: map[plan.Key]plan.Value{}}}}
	p.Gear = append(p.Gear,
		plan.Gear{ID: "sw", Name: "Turntable", Kind: plan.Controller, Switcher: &plan.Switcher{
			Reorders: rapid.IntRange(0, 3).Draw(t, "reorders") == 0,
			Loops:    []plan.SwitcherLoop{{}, {Break: rapid.Bool().Draw(t, "break")}, {}}}},
		plan.Gear{ID: "twin", Name: "Twin", Kind: plan.Pedal, Blocks: []plan.Block{
			{ID: "a", Name: "a", Effect: plan.EffectOverdrive, Bypass: plan.TrueBypass},
			{ID: "b", Name: "b", Effect: plan.EffectDistortion, Bypass: plan.TrueBypass}}},
		plan.Gear{ID: "amp", Name: "Amp", Kind: plan.Amp, Loop: &plan.AmpLoop{Kind: "series"}, Blocks: []plan.Block{
			{
				ID: "preamp", Name: "preamp", Effect: plan.EffectPreamp, Bypass: plan.AlwaysOn,
				Controls: []plan.Control{{ID: "gain", Name: "gain", Kind: plan.Knob, Access: plan.SlowHand}},
			},
			{ID: "power", Name: "power", Effect: plan.EffectPower, Bypass: plan.AlwaysOn}}},
	)
	p.Rigs[0].Base["amp/preamp/gain"] = plan.Number(float64(rapid.IntRange(3, 9).Draw(t, "gain")))
	if rapid.IntRange(0, 3).Draw(t, "no loop") == 0 {
		p.Gear[2].Loop = nil
	}
	count := 0
	pedal := func() plan.Node {
		b := kinds[rapid.SampledFrom(names).Draw(t, "kind")]
		b.ID, b.Name = "b", string(b.Effect)
		id := plan.ID(fmt.Sprint("p", count))
		count++
		p.Gear = append(p.Gear, plan.Gear{ID: id, Name: string(id), Kind: plan.Pedal, Blocks: []plan.Block{b}})
		return plan.Node{Stop: plan.BlockKey(id, "b"), Pinned: rapid.IntRange(0, 9).Draw(t, "pinned") == 0}
	}
	var path []plan.Node
	for range rapid.IntRange(1, 2).Draw(t, "pedals") {
		path = append(path, pedal())
	}
	if rapid.Bool().Draw(t, "loops") {
		for k := 1; k <= rapid.IntRange(1, 2).Draw(t, "last loop"); k++ {
			n := pedal()
			n.Switcher, n.Loop = "sw", k
			path = append(path, n)
		}
	} else if rapid.Bool().Draw(t, "twin") {
		path = append(path, plan.Node{Stop: "twin/a"}, plan.Node{Stop: "twin/b"})
	}
	if rapid.Bool().Draw(t, "split") {
		lanes := []plan.Lane{{Nodes: []plan.Node{pedal(), pedal()}}, {}}
		path = append(
			path, plan.Node{Split: &plan.Split{ID: "split", Kind: plan.SplitCopy, Join: plan.JoinSum, Lanes: lanes}},
		)
	}
	if len(path) < 5 && rapid.Bool().Draw(t, "amp") {
		path = append(path, plan.Node{Stop: "amp/preamp"})
		if p.Gear[2].Loop != nil && rapid.Bool().Draw(t, "in the loop") {
			path = append(path, pedal())
		}
		path = append(path, plan.Node{Stop: "amp/power"})
	}
	p.Rigs[0].Path = path
	return p
}

// arrangements are all paths with the same nodes in other orders, within each line.
func arrangements(nodes []plan.Node, yield func([]plan.Node)) {
	permutations(len(nodes), func(order []int) {
		path := make([]plan.Node, len(nodes))
		for x, i := range order {
			path[x] = nodes[i]
		}
		lanes(path, 0, yield)
	})
}

// lanes arranges the first lanes of the splits of a path from one place on.
func lanes(path []plan.Node, from int, yield func([]plan.Node)) {
	for i := from; i < len(path); i++ {
		if path[i].Split == nil {
			continue
		}
		was := path[i].Split
		arrangements(was.Lanes[0].Nodes, func(inner []plan.Node) {
			s := *was
			s.Lanes = append([]plan.Lane{{Nodes: slices.Clone(inner)}}, was.Lanes[1:]...)
			path[i].Split = &s
			lanes(path, i+1, yield)
		})
		path[i].Split = was
		return
	}
	yield(path)
}

// wirable reports, without the machinery of the search, whether a path can be wired and
// leaves alone what must be: it is valid, has no wiring finding, and nothing has crossed a
// pinned stop or entered or left the zone behind the power section.
func wirable(p *plan.Plan, was, path []plan.Node) bool {
	place := map[plan.Key]int{}
	for i, n := range was {
		place[n.ID()] = i
	}
	for i, a := range path {
		for _, b := range path[i+1:] {
			if (a.Pinned || b.Pinned) && place[a.ID()] > place[b.ID()] {
				return false
			}
		}
		if i < len(path)-1 && a.Stop == "amp/power" {
			return false
		}
		if s := a.Split; s != nil {
			before := was[place[a.ID()]].Split.Lanes[0].Nodes
			if before[0].ID() != s.Lanes[0].Nodes[0].ID() && (before[0].Pinned || before[1].Pinned) {
				return false
			}
		}
	}
	q := *p
	r := q.Rigs[0]
	r.Path = path
	q.Put(r)
	return len(newJudge(&q, &r, nil, path, nil).wiringFindings()) == 0 && len(q.Validate()) == 0
}

// Of everything that can be wired with the same stops nothing costs less than the best order,
// lanes, loops and all.
func TestNoArrangementOfLanesAndLoopsIsBetter(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := randomRig(t)
		require.Empty(t, p.Validate())
		r := &p.Rigs[0]
		if !wirable(p, r.Path, r.Path) {
			t.Skip("not wired as it can be to begin with")
		}
		report, err := Judge(context.Background(), p, "rig", "")
		require.NoError(t, err)
		require.True(t, report.Best.Proven)
		require.True(t, wirable(p, r.Path, report.Best.Path), "the best order can be wired")
		least := math.Inf(1)
		arrangements(r.Path, func(path []plan.Node) {
			if !wirable(p, r.Path, path) {
				return
			}
			least = min(least, newJudge(p, r, nil, path, nil).cost())
		})
		require.InDelta(t, least, report.Best.Cost, 1e-9)
		require.InDelta(t, newJudge(p, r, nil, report.Best.Path, nil).cost(), report.Best.Cost, 1e-9)
	})
}

func TestKnotsAreSolvedOneAfterTheOther(t *testing.T) {
	p := &problem{cost: make([][]int64, 40), precedes: make([]uint64, 40)}
	for i := range p.cost {
		p.cost[i] = make([]int64, 40)
		for k := range p.cost[i] {
			switch {
			case i == k:
			case i/8 != k/8 && i < k: // knots of eight, later ones had better come first
				p.cost[i][k] = units(3)
			case i/8 == k/8 && (k-i+8)%8 < 4: // and within them a ring
				p.cost[i][k] = units(1)
			}
		}
	}
	p.breakTies()
	assert.Len(t, p.knots(), 5)
	got, proven, err := p.solve(context.Background())
	require.NoError(t, err)
	assert.True(t, proven, "40 stops, but no knot of more than 20")
	assert.Equal(t, 4, got[0]/8)
	assert.Equal(t, 0, got[39]/8)
}
