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
	assert.Equal(t, floor.Switch{Key: "b/s", Label: "b", Name: "b", X: 50, Y: 100, Width: 30}, f.Switches[0])
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

func TestABoxOfUnknownSizeIsWideEnoughForItsSwitches(t *testing.T) {
	g := box("a", 70, 120, 35, 100)
	g.Size = nil
	g.Footswitches = append(g.Footswitches, plan.Footswitch{ID: "t", Label: "t", X: 180, Y: 140})
	f := floor.Lay(&plan.Plan{Gear: []plan.Gear{g}}, rigOf(nil, "a/b"))
	assert.Equal(t, 215.0, f.Boxes[0].Width)
	assert.Equal(t, 160.0, f.Boxes[0].Depth)
	assert.False(t, f.Boxes[0].Placed)
}

func TestAnAmpStandsOnTheFloorWithItsFootswitchAlone(t *testing.T) {
	amp := box("amp", 600, 250, 40, 60)
	amp.Kind = plan.Amp
	f := floor.Lay(&plan.Plan{Gear: []plan.Gear{amp}}, rigOf(nil, "amp/b"))
	assert.Equal(t, 75.0, f.Boxes[0].Width, "its own enclosure is not on the floor")
	amp.FloorUnit = &plan.Size{Width: 140, Depth: 90}
	f = floor.Lay(&plan.Plan{Gear: []plan.Gear{amp}}, rigOf(nil, "amp/b"))
	assert.Equal(t, 140.0, f.Boxes[0].Width)
}

func TestWhatTheFootDoesNotTouchIsLeftOutUnlessItWasPlaced(t *testing.T) {
	still := box("still", 70, 120, 35, 100)
	still.Footswitches = nil
	pedal := box("pedal", 100, 260, 0, 0)
	pedal.Footswitches, pedal.Blocks[0].Rocker = nil, true
	guitar := box("gtr", 70, 120, 35, 100)
	guitar.Kind = plan.Guitar
	p := &plan.Plan{Gear: []plan.Gear{still, pedal, guitar}}
	r := rigOf(nil, "still/b", "pedal/b")
	r.Guitars = []plan.ID{"gtr"}
	f := floor.Lay(p, r)
	require.Len(t, f.Boxes, 1)
	assert.Equal(t, plan.ID("pedal"), f.Boxes[0].Gear)
	x, y, ok := f.Rocker("pedal")
	assert.True(t, ok)
	assert.Equal(t, [2]float64{50, 130}, [2]float64{x, y}, "the middle of its box")
	_, _, ok = f.Rocker("still")
	assert.False(t, ok)
	_, ok = f.Find("still/s")
	assert.False(t, ok)
	r.Floor.Places = map[plan.ID]plan.Placement{"still": {X: 10, Y: 20}}
	assert.Len(t, floor.Lay(p, r).Boxes, 2)
	r.Path = append(r.Path, plan.Node{Stop: "gone/b"})
	assert.Len(t, floor.Lay(p, r).Boxes, 2, "what is not there stands nowhere")
}

func TestASwitchIsAsWideAsItSaysElseAsTheFootTakesIt(t *testing.T) {
	g := box("a", 70, 120, 35, 100)
	wide := 45.0
	g.Footswitches[0].Width = &wide
	r := rigOf(nil, "a/b")
	assert.Equal(t, 45.0, floor.Lay(&plan.Plan{Gear: []plan.Gear{g}}, r).Switches[0].Width)
	g.Footswitches[0].Width = nil
	assert.Equal(t, r.Profile.Filled().Width, floor.Lay(&plan.Plan{Gear: []plan.Gear{g}}, r).Switches[0].Width)
}

func TestWhatTouchesTheMainBoardStandsOnItAndWhatDoesNotStandsBesideIt(t *testing.T) {
	plank := plan.Gear{ID: "plank", Name: "Plank", Kind: plan.Board, Size: &plan.Size{Width: 460, Depth: 300}}
	p := &plan.Plan{
		Gear: []plan.Gear{box("a", 70, 120, 35, 100), box("b", 70, 120, 35, 100), box("c", 70, 120, 35, 100), plank},
	}
	r := rigOf(
		map[plan.ID]plan.Placement{"a": {X: 400, Y: 10}, "b": {X: 460, Y: 10}, "c": {X: 10, Y: 10, On: plan.OffFloor}}, "a/b",
		"b/b", "c/b",
	)
	r.Floor.Board = "plank"
	lay := floor.Lay(p, r)
	require.Len(t, lay.Boxes, 3)
	assert.Equal(t, plan.ID("plank"), lay.Boxes[0].Board, "it hangs over the edge")
	assert.Empty(t, lay.Boxes[1].Board, "it stands beside it")
	assert.True(t, lay.Boxes[2].Off)
	assert.Empty(t, lay.Boxes[2].Board)
}
