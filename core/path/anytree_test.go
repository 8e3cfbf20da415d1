package path_test

import (
	"context"
	"fmt"
	"os"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"envex/core/path"
	"envex/core/plan"
)

// anyTree draws a path of any shape from blocks that are each used once.
func anyTree(t *rapid.T, pool *[]plan.Node, depth int) []plan.Node {
	var nodes []plan.Node
	for range rapid.IntRange(0, 4).Draw(t, "nodes") {
		if depth < 3 && rapid.IntRange(0, 3).Draw(t, "split") == 0 {
			kind := rapid.SampledFrom(
				[]string{plan.SplitCopy, plan.SplitLeftRight, plan.SplitAB, plan.SplitCrossfade, plan.SplitTap},
			).Draw(t, "kind")
			s := &plan.Split{
				ID: plan.ID(fmt.Sprintf("split%d", rapid.IntRange(0, 1<<20).Draw(t, "id"))), Kind: kind,
				Lanes: make([]plan.Lane, 2),
			}
			s.Join = rapid.SampledFrom([]string{plan.JoinSum, plan.JoinStereo, plan.JoinCrossfade, ""}).Draw(t, "join")
			switch {
			case kind == plan.SplitTap:
				s.Lanes, s.Join, s.From = s.Lanes[:1], "", "driftwood/piezo"
			case s.Join != "" && rapid.IntRange(0, 4).Draw(t, "raft") == 0:
				s.From, s.To = "raft/in", "raft/out"
			}
			for i := range s.Lanes {
				s.Lanes[i].Nodes = anyTree(t, pool, depth+1)
			}
			nodes = append(nodes, plan.Node{Split: s, Pinned: rapid.IntRange(0, 9).Draw(t, "pinned") == 0})
			continue
		}
		if len(*pool) == 0 {
			continue
		}
		n := (*pool)[0]
		*pool = (*pool)[1:]
		n.Takes = rapid.SampledFrom([]string{"", "", "sum", "left"}).Draw(t, "takes")
		if rapid.IntRange(0, 4).Draw(t, "loop") == 0 {
			n.Switcher, n.Loop = "turntable", rapid.IntRange(1, 6).Draw(t, "which")
		}
		nodes = append(nodes, n)
	}
	return nodes
}

// Whatever path is valid is judged, wired and repaired, and what is offered keeps its promise.
func TestAnyPathThatIsValidIsJudged(t *testing.T) {
	gear := map[plan.ID]plan.Gear{}
	for _, name := range []string{
		"01-all-in-front-of-a-clean-amp", "06-a-loop-switcher", "07-two-reverbs-in-parallel",
		"10-mono-until-a-ping-pong-delay-then-two-amps",
		"02-time-effects-in-the-loop-of-a-driven-amp", "05-a-dual-drive-torn-apart", "13-a-piezo-on-a-path-of-its-own",
		"14-a-looper-that-keeps-its-layers",
	} {
		data, err := os.ReadFile("testdata/chains/" + name + ".envex.json")
		require.NoError(t, err)
		p, err := plan.Decode(data)
		require.NoError(t, err)
		for _, g := range p.Gear {
			gear[g.ID] = g
		}
	}
	order := []plan.ID{
		"plumb", "squeeze", "twin", "amber", "rust", "echo", "pong", "grotto", "room", "vault", "hired", "pier", "crate",
		"layer", "line",
	}
	rapid.Check(t, func(t *rapid.T) {
		p := plan.Plan{
			Gear: []plan.Gear{gear["driftwood"], gear["turntable"], gear["raft"]},
			Rigs: []plan.Rig{{ID: "rig", Name: "Rig", Guitars: []plan.ID{"driftwood"}}},
		}
		var pool []plan.Node
		for _, id := range order {
			g := gear[id]
			p.Gear = append(p.Gear, g)
			for _, b := range g.Blocks {
				pool = append(pool, plan.Node{Stop: plan.BlockKey(id, b.ID)})
			}
		}
		skip := rapid.IntRange(0, 8).Draw(t, "skip")
		pool = pool[skip:]
		p.Rigs[0].Path = anyTree(t, &pool, 0)
		if len(p.Validate()) > 0 {
			t.Skip("cannot be wired")
		}
		r, err := path.Judge(context.Background(), &p, "rig", "")
		require.NoError(t, err)
		wired := true
		for _, f := range r.Findings {
			wired = wired && f.Rule != "loop-order" && f.Rule != "between-loops" && f.Rule != "one-box"
		}
		if wired { // else this order costs less only because it cannot be
			require.LessOrEqual(t, r.Best.Cost, r.Cost+1e-9)
		}
		_, err = path.DeriveCables(&p, "rig", "")
		require.NoError(t, err)
		moves := append([]path.Move(nil), r.Best.Moves...)
		for _, f := range r.Findings {
			moves = append(moves, f.Repairs...)
		}
		for _, m := range moves {
			q := p
			rig := q.Rigs[0]
			rig.Path = m.Path
			q.Put(rig)
			require.Empty(t, q.Validate(), m.Words)
			again, err := path.Judge(context.Background(), &q, "rig", "")
			require.NoError(t, err)
			require.InDelta(t, m.Cost, again.Cost, 1e-9, m.Words)
		}
	})
}
