package path

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
)

func wired(t *testing.T, p *plan.Plan) []string {
	t.Helper()
	require.Empty(t, p.Validate())
	c, err := DeriveCables(p, "rig", "")
	require.NoError(t, err)
	list := []string{}
	for _, r := range c.Runs {
		list = append(list, fmt.Sprintf("%s %s > %s %s", r.From.Name, r.From.Jack, r.To.Name, r.To.Jack))
	}
	return list
}

func TestCablesFollowThePath(t *testing.T) {
	p := chain(3, "overdrive", "preamp", "delay", "power")
	p.Gear = append(p.Gear, plan.Gear{ID: "g", Name: "Plank", Kind: plan.Guitar})
	p.Rigs[0].Guitars = []plan.ID{"g"}
	assert.Equal(t, []string{
		"Plank output > overdrive input", "overdrive output > Amp input", "Amp send > delay input",
		"delay output > Amp return",
	}, wired(t, p))
	assert.Equal(t, []string{
		"Plank output > overdrive input", "overdrive output > delay input", "delay output > Amp input",
	},
		wired(t, func() *plan.Plan {
			q := chain(3, "overdrive", "delay", "preamp", "power")
			q.Gear = append(q.Gear, plan.Gear{ID: "g", Name: "Plank", Kind: plan.Guitar})
			q.Rigs[0].Guitars = []plan.ID{"g"}
			return q
		}()), "preamp and power are joined inside")
	assert.Empty(t, wired(t, chain(3)))
	_, err := DeriveCables(p, "nope", "")
	assert.ErrorContains(t, err, "no rig")
}

func TestTwoBlocksOfOneBoxNeedNoCable(t *testing.T) {
	p := chain(3, "overdrive", "delay")
	p.Gear[1].Blocks = append(
		p.Gear[1].Blocks, plan.Block{ID: "c", Name: "second", Effect: plan.EffectOverdrive, Bypass: plan.TrueBypass},
	)
	path := p.Rigs[0].Path
	p.Rigs[0].Path = []plan.Node{path[0], {Stop: "overdrive0/c"}, path[1]}
	assert.Len(t, wired(t, p), 1)
}

func TestLengthsFollowTheFloor(t *testing.T) {
	assert.InDelta(t, 0.05, cut(0), 1e-9)
	assert.InDelta(t, 0.20, cut(100), 1e-9, "140 mm and a tenth is 154, rounded up to 20 cm")
	p := chain(3, "overdrive", "delay")
	for i := range 2 {
		p.Gear[i+1].Size = &plan.Size{Width: 100, Depth: 100}
		p.Gear[i+1].Jacks = []plan.Jack{{ID: "in", Name: "input", Side: "right"}, {ID: "out", Name: "output", Side: "left"}}
	}
	p.Rigs[0].Floor.Places = map[plan.ID]plan.Placement{"overdrive0": {X: 400}, "delay1": {X: 100}}
	length := func() float64 {
		c, err := DeriveCables(p, "rig", "")
		require.NoError(t, err)
		return c.Runs[0].LengthM
	}
	assert.InDelta(t, cut(200), length(), 1e-9, "left of one to the right of the other")
	p.Rigs[0].Floor.Places["overdrive0"] = plan.Placement{X: 400, Rotation: 180}
	assert.InDelta(t, cut(300), length(), 1e-9, "turned round, its output is on the right")
	p.Rigs[0].Floor.Places["overdrive0"] = plan.Placement{X: 400, Rotation: 90}
	assert.InDelta(t, cut(250+50), length(), 1e-9, "turned a quarter, it is at the back")
	p.Rigs[0].Floor.Places = nil
	c, err := DeriveCables(p, "rig", "")
	require.NoError(t, err)
	assert.True(t, c.Runs[0].Assumed)
}

func TestLevelAndStereo(t *testing.T) {
	p := chain(3, "preamp", "pingpong", "reverb", "power")
	p.Gear[0].Loop.LevelDB = ptr(4.0)
	p.Gear[2].Blocks[0].Inputs, p.Gear[2].Blocks[0].Outputs = "stereo", "stereo"
	c, err := DeriveCables(p, "rig", "")
	require.NoError(t, err)
	assert.Equal(
		t, []string{"line", "line", "line"}, []string{c.Runs[0].Level, c.Runs[1].Level, c.Runs[2].Level},
		"what a box is fed it passes on",
	)
	assert.Equal(t, []bool{false, true, false}, []bool{c.Runs[0].Stereo, c.Runs[1].Stereo, c.Runs[2].Stereo})
	p.Gear[0].Loop.LevelDB = nil
	c, err = DeriveCables(p, "rig", "")
	require.NoError(t, err)
	require.Len(t, c.Assumed, 1)
	assert.Contains(t, c.Assumed[0], "not known")
}
