package electric

import (
	"math/cmplx"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
)

// A pickup alone is the same whether it has company in the guitar or not.
func TestAPickupAloneIsThatPickup(t *testing.T) {
	both := bench()
	g, _ := both.FindGear("guitar")
	g.Pickups = append(
		g.Pickups,
		plan.Pickup{
			ID:            "neck",
			Name:          "neck",
			ResistanceOhm: ptr(9000.0),
			InductanceH:   ptr(5.0),
			CapacitancePF: ptr(90.0),
		},
	)
	g.Controls = append(
		g.Controls,
		plan.Control{
			ID:      "pickup",
			Name:    "pickup",
			Kind:    plan.Selector,
			Access:  plan.QuickHand,
			Options: []string{"bridge+neck"},
		},
	)
	both.Rigs[0].Base["guitar/pickup"] = plan.Text("bridge+neck")
	one := bench()
	source := func(p *plan.Plan) Source {
		w, err := Wire(p, "rig")
		require.NoError(t, err)
		r, _ := p.FindRig("rig")
		return w.Circuit(p.SetFor(r, &r.Recipes[0], nil, plan.Tempo{})).Source
	}
	together, alone := source(both), source(one)
	require.Len(t, together.Pickups(), 2)
	for _, hz := range []float64{100, 1000, 5000} {
		assert.InDelta(t, 0, cmplx.Abs(together.Alone(0, hz)-alone.Reference(hz)), 1e-12, "at %g Hz", hz)
		assert.Greater(t, cmplx.Abs(together.Reference(hz)-alone.Reference(hz)), 1e-3, "the other one loads it")
	}
}

func TestAFuzzOfTwoSoundsIsDrawnOnce(t *testing.T) {
	p := bench(box("fuzz", plan.EffectFuzz, plan.TrueBypass, input(8e3)))
	p.Sounds = append(p.Sounds, plan.Sound{ID: "more", Name: "More", Short: "M", Tape: "bone", Role: plan.LeadRole})
	r := &p.Rigs[0]
	r.Base["fuzz/fx/on"] = plan.On(true)
	r.Recipes = append(r.Recipes, plan.Recipe{ID: "more-recipe", Sound: "more"})
	assert.Len(t, solve(t, p, Options{}).Fuzzes, 1)
}

func TestAJackOfItsOwnIsTakenToBeBuffered(t *testing.T) {
	said := func(change func(*plan.Pickup)) bool {
		p := bench(box("boost", plan.EffectBoost, plan.TrueBypass), box("clean", plan.EffectBoost, plan.TrueBypass))
		g, _ := p.FindGear("guitar")
		piezo := plan.Pickup{ID: "piezo", Name: "piezo", Jack: "piezo"}
		change(&piezo)
		g.Pickups = append(g.Pickups, piezo)
		p.Rigs[0].Path = []plan.Node{
			{
				Split: &plan.Split{
					ID: "own", Kind: plan.SplitTap, From: "guitar/piezo",
					Lanes: []plan.Lane{{Nodes: []plan.Node{{Stop: "clean/fx"}}}},
				},
			},
			{Stop: "boost/fx"},
		}
		w, err := Wire(p, "rig")
		require.NoError(t, err)
		r, _ := p.FindRig("rig")
		c := w.Circuit(p.SetFor(r, &r.Recipes[0], nil, plan.Tempo{}))
		return slices.ContainsFunc(
			c.Assumed,
			func(s string) bool { return strings.Contains(s, "a buffer in the guitar") },
		)
	}
	assert.True(t, said(func(*plan.Pickup) {}))
	assert.False(t, said(func(p *plan.Pickup) { p.ResistanceOhm, p.InductanceH = ptr(6000.0), ptr(2.0) }))
}

// An output that feeds the box already is judged as if it fed nothing; one that feeds another is judged with it.
func TestAnOutputIsJudgedWithWhatElseHangsOnIt(t *testing.T) {
	p := fedBoard([]plan.PowerOutput{gives(150, 9)}, wants("a", 9, 100), wants("b", 9, 100))
	p.Rigs[0].PowerPlan = []plan.PowerFeed{{Supply: "supply", Output: "1", Gear: []plan.ID{"a"}}}
	r := feedRig(t, p)
	about := func(id plan.ID) Choice {
		for _, l := range r.Loads {
			if l.Gear == id {
				return l.Choices[0]
			}
		}
		t.Fatal("no load ", id)
		return Choice{}
	}
	assert.Equal(t, Fits, about("a").Verdict)
	assert.NotEqual(t, Fits, about("b").Verdict, "200 mA of 150")
}
