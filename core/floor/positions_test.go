package floor_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/floor"
	"envex/core/plan"
)

func box(id plan.ID, w, d, x, y float64) plan.Gear {
	return plan.Gear{
		ID: id, Name: string(id), Kind: plan.Pedal, Size: &plan.Size{Width: w, Depth: d},
		Blocks:       []plan.Block{{ID: "b", Name: "b", Effect: plan.EffectBoost, Bypass: plan.TrueBypass}},
		Footswitches: []plan.Footswitch{{ID: "s", Label: string(id), X: x, Y: y}},
	}
}

func rigOf(places map[plan.ID]plan.Placement, stops ...plan.Key) *plan.Rig {
	r := &plan.Rig{ID: "r", Name: "r", Floor: plan.Floor{Places: places}}
	for _, s := range stops {
		r.Path = append(r.Path, plan.Node{Stop: s})
	}
	return r
}

func TestUnplacedBoxesStandInARowInChainOrder(t *testing.T) {
	p := &plan.Plan{Gear: []plan.Gear{box("a", 70, 120, 35, 100), box("b", 100, 120, 50, 100)}}
	f := floor.Lay(p, rigOf(nil, "b/b", "a/b"))
	require.Len(t, f.Switches, 2)
	assert.Equal(t, floor.Switch{Key: "b/s", Label: "b", X: 50, Y: 100, Width: 30}, f.Switches[0])
	assert.Equal(t, 100+30+35.0, f.Switches[1].X)
}

func TestTurningABoxCarriesItsSwitch(t *testing.T) {
	p := &plan.Plan{Gear: []plan.Gear{box("a", 70, 120, 20, 100)}}
	want := map[int][2]float64{0: {120, 200}, 90: {100 + 20, 120}, 180: {150, 120}, 270: {200, 150}}
	for degrees, at := range want {
		f := floor.Lay(p, rigOf(map[plan.ID]plan.Placement{"a": {X: 100, Y: 100, Rotation: degrees}}, "a/b"))
		assert.Equal(t, at, [2]float64{f.Switches[0].X, f.Switches[0].Y}, "%d degrees", degrees)
	}
}

func TestPlacedBoxesStayAndTheRowStandsInFront(t *testing.T) {
	p := &plan.Plan{Gear: []plan.Gear{box("a", 70, 120, 35, 100), box("b", 70, 120, 35, 100)}}
	f := floor.Lay(p, rigOf(map[plan.ID]plan.Placement{"b": {X: 500, Y: 40}}, "a/b", "b/b"))
	a, _ := f.Find("a/s")
	b, _ := f.Find("b/s")
	assert.Equal(t, 535.0, b.X)
	assert.Greater(t, a.Y, 40+120.0)
}
