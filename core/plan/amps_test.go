package plan_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
)

// twoAmps is a drive into two combos side by side, the first with a delay in its loop, and a head that may be hired.
func twoAmps() (*plan.Plan, []plan.Node) {
	amp := func(id plan.ID, loop bool) plan.Gear {
		g := plan.Gear{ID: id, Name: string(id), Kind: plan.Amp, Blocks: []plan.Block{
			{
				ID:       "pre",
				Name:     "pre",
				Effect:   plan.EffectPreamp,
				Bypass:   plan.AlwaysOn,
				Controls: []plan.Control{knobTo("gain", 10, "")},
			},
			{ID: "power", Name: "power", Effect: plan.EffectPower, Bypass: plan.AlwaysOn},
		}}
		if loop {
			g.Loop = &plan.AmpLoop{Kind: "series"}
		}
		return g
	}
	p := &plan.Plan{Gear: []plan.Gear{
		amp("pier", true), amp("jetty", false), amp("hired", false),
		pedalWith("drive", plan.Block{ID: "fx", Name: "fx", Effect: plan.EffectOverdrive, Bypass: plan.TrueBypass}),
		pedalWith("echo", plan.Block{ID: "fx", Name: "fx", Effect: plan.EffectDelay, Bypass: plan.TrueBypass}),
	}}
	stops := func(keys ...plan.Key) (nodes []plan.Node) {
		for _, k := range keys {
			nodes = append(nodes, plan.Node{Stop: k})
		}
		return nodes
	}
	return p, append(
		stops("drive/fx"),
		plan.Node{Split: &plan.Split{ID: "two", Kind: plan.SplitCopy, Lanes: []plan.Lane{
			{Nodes: stops("pier/pre", "echo/fx", "pier/power")}, {Nodes: stops("jetty/pre", "jetty/power")},
		}}},
	)
}

func TestAmpsOfAChain(t *testing.T) {
	p, path := twoAmps()
	assert.Equal(t, []plan.ID{"pier", "jetty"}, p.AmpsIn(path))
	assert.Equal(t, []plan.Key{"drive/fx"}, plan.StopsIn(p.FrontOfAmp(path)))
	assert.Equal(t, []plan.Key{"echo/fx"}, p.InLoopOf(path, "pier"))
	assert.Empty(t, p.InLoopOf(path, "jetty"))
	assert.Empty(t, p.AmpsIn(path[:1]))
	assert.Equal(t, []plan.Key{"drive/fx"}, plan.StopsIn(p.FrontOfAmp(path[:1])), "all of it where there is no amp")

	one := p.OneAmp(path)[0]
	assert.Equal(t, []plan.Key{"drive/fx", "pier/pre", "echo/fx", "pier/power"}, plan.StopsIn(one))
	assert.Len(t, one, 4, "in one line")
	assert.Equal(t, []plan.Key{"echo/fx"}, p.InLoopOf(one, "pier"))
	assert.Equal(t, [][]plan.Node{one}, p.OneAmp(one))
	require.Len(t, p.OneAmp(path), 2)
	assert.Equal(t, []plan.Key{"drive/fx", "jetty/pre", "jetty/power"}, plan.StopsIn(p.OneAmp(path)[1]))
	assert.NotNil(t, path[1].Split, "the path that was given stays")
}

func TestAHiredAmpStandsInTheLaneOfTheFirst(t *testing.T) {
	p, path := twoAmps()
	hired, _ := p.FindGear("hired")
	there := p.WithAmp(path, hired)
	require.NotNil(t, there[1].Split)
	assert.Equal(
		t,
		[]plan.Key{"echo/fx", "hired/pre", "hired/power"},
		plan.StopsIn(there[1].Split.Lanes[0].Nodes),
		"it has no loop",
	)
	assert.Equal(t, []plan.Key{"jetty/pre", "jetty/power"}, plan.StopsIn(there[1].Split.Lanes[1].Nodes))
	assert.Equal(t, []plan.Key{"pier/pre", "echo/fx", "pier/power"}, plan.StopsIn(path[1].Split.Lanes[0].Nodes))
	p.Put(plan.Rig{ID: "rig", Name: "Rig", Path: there})
	assert.Empty(t, p.PathProblems(there))
}

func TestWhatIsSaidOfOneAmpIsSaidOfAnother(t *testing.T) {
	p, path := twoAmps()
	pier, _ := p.FindGear("pier")
	hired, _ := p.FindGear("hired")
	r := &plan.Rig{
		ID: "rig", Path: path,
		Base: map[plan.Key]plan.Value{"pier/pre/gain": plan.Number(4), "drive/fx/on": plan.On(true)},
		Recipes: []plan.Recipe{
			{ID: "one", Values: map[plan.Key]plan.Value{"pier/pre/gain": plan.Number(7), "drive/fx/on": plan.On(true)}},
			{ID: "two", Values: map[plan.Key]plan.Value{"drive/fx/on": plan.On(true)}},
		},
	}
	base, recipes, held := p.SetAs(r, pier, hired)
	assert.Empty(t, held)
	assert.Equal(t, map[plan.Key]plan.Value{"hired/pre/gain": plan.Number(4)}, base)
	require.Len(t, recipes, 1, "only what names the amp")
	assert.Equal(t, map[plan.Key]plan.Value{
		"hired/pre/gain": plan.Number(7), "drive/fx/on": plan.On(true),
	}, recipes[0].Values)

	// A position that the other does not have is left out.
	selector := func(options ...string) plan.Control {
		return plan.Control{ID: "voice", Kind: plan.Selector, Options: options}
	}
	pier.Controls, hired.Controls = []plan.Control{selector("a", "b")}, []plan.Control{selector("a", "c")}
	r.Base = map[plan.Key]plan.Value{"pier/voice": plan.Text("a")}
	r.Recipes[0].Values = map[plan.Key]plan.Value{"pier/voice": plan.Text("b")}
	base, recipes, _ = p.SetAs(r, pier, hired)
	assert.Equal(t, map[plan.Key]plan.Value{"hired/voice": plan.Text("a")}, base)
	assert.Empty(t, recipes[0].Values)
}
