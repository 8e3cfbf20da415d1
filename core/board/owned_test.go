package board

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"envex/core/plan"
	"envex/demo"
)

func TestOwnedLeadsAreMatchedSoThatTheLeastIsCut(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		length := rapid.Map(rapid.IntRange(2, 12), func(n int) float64 { return float64(n) * 0.05 })
		needs, leads := rapid.SliceOfN(length, 0, 5).Draw(t, "needs"), rapid.SliceOfN(length, 0, 5).Draw(t, "leads")
		got := matched(needs, leads)
		covered, used := 0.0, map[int]bool{}
		for i, k := range got {
			if k < 0 {
				continue
			}
			require.False(t, used[k], "a lead is in one place")
			used[k] = true
			require.GreaterOrEqual(t, leads[k], needs[i]-1e-9, "none is too short")
			covered += needs[i]
		}
		var best func(i int, left int) float64
		best = func(i, left int) float64 {
			if i == len(needs) {
				return 0
			}
			most := best(i+1, left)
			for k := range leads {
				if left>>k&1 == 1 && leads[k] >= needs[i]-1e-9 {
					most = max(most, needs[i]+best(i+1, left&^(1<<k)))
				}
			}
			return most
		}
		require.InDelta(t, best(0, 1<<len(leads)-1), covered, 1e-9)
	})
}

func TestOwnedPatchLeadsAreOffered(t *testing.T) {
	p := demo.Plan()
	lead := func(id plan.ID, m float64) {
		p.Gear = append(
			p.Gear, plan.Gear{ID: id, Name: string(id), Kind: plan.CableStock, Cable: &plan.CableSpec{LengthM: &m}},
		)
	}
	lead("short", 0.05)
	lead("fits", 0.2)
	lead("huge", 4)
	r, err := Judge(context.Background(), p, "carry", Options{})
	require.NoError(t, err)
	require.Len(t, r.Owned, 1)
	x := r.Owned[0]
	assert.Equal(t, plan.ID("fits"), x.Cable)
	assert.GreaterOrEqual(t, x.LengthM, x.NeedsM)

	rig, _ := p.FindRig("carry")
	with := *rig
	with.Leads = append(append([]plan.Lead{}, rig.Leads...), plan.Lead{From: x.From, To: x.To, Cable: x.Cable})
	p.Put(with)
	require.Empty(t, p.Validate())
	r, err = Judge(context.Background(), p, "carry", Options{})
	require.NoError(t, err)
	assert.Empty(t, r.Owned, "it is in use")
}

func TestWhatASupplyFeedsIsLostWithIt(t *testing.T) {
	r := &plan.Rig{
		Recipes: []plan.Recipe{
			{ID: "r", Sound: "lead", Values: map[plan.Key]plan.Value{"amber/fx/on": plan.On(true)}}, {ID: "q", Sound: "home"},
		},
		PowerPlan: []plan.PowerFeed{{Supply: "brick", Gear: []plan.ID{"amber"}}},
	}
	assert.Equal(t, []plan.ID{"lead"}, lost(r, []plan.ID{"lead", "home"}, []plan.ID{"brick"}))
	assert.Empty(t, lost(r, []plan.ID{"lead", "home"}, []plan.ID{"room"}))
}

func TestAnAmpBesideItsSwitchIsNotCarriedOnTheBoard(t *testing.T) {
	p := demo.Plan()
	rig, _ := p.FindRig("carry")
	with := *rig
	with.Path = append(append([]plan.Node{}, rig.Path...), plan.Node{Stop: "hired/preamp"}, plan.Node{Stop: "hired/power"})
	with.Floor.Places = map[plan.ID]plan.Placement{"hired": {X: 10, Y: 10}}
	p.Put(with)
	r, err := Judge(context.Background(), p, "carry", Options{})
	require.NoError(t, err)
	assert.Zero(t, r.Weight.Boxes, "its switch stands on the board, and nobody has weighed that")
	assert.Contains(t, r.Weight.Unknown, plan.ID("hired"))
}
