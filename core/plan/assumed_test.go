package plan

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestAFigureIsAssumedUntilItIsSaid(t *testing.T) {
	ma, ohm := 20.0, 1e6
	g := Gear{
		Power:   &PowerDraw{Voltage: 9, Current: &ma},
		Blocks:  []Block{{ID: "drive", InputOhm: &ohm}},
		Pickups: []Pickup{{ID: "neck"}},
	}.Assuming()
	want := map[string]float64{"power/voltage_v": 9, "power/current_ma": 20, "blocks/drive/input_ohm": 1e6}
	assert.Equal(t, want, g.Assumed)
	for path := range g.Assumed {
		assert.True(t, g.IsAssumed(path), path)
	}
	assert.False(t, g.IsAssumed("weight_g"), "it has none")
	measured := 31.0
	g.Power.Current = &measured
	assert.False(t, g.IsAssumed("power/current_ma"), "it is another now")
	g.Power.Current = nil
	assert.False(t, g.IsAssumed("power/current_ma"), "it is not known")
	g.Blocks = nil
	assert.False(t, g.IsAssumed("blocks/drive/input_ohm"), "its block has gone")
	g.Assumed["size/width_mm"] = 70
	assert.False(t, g.IsAssumed("size/width_mm"), "it has no size")
	assert.Nil(t, Gear{Assumed: map[string]float64{"weight_g": 1}}.Assuming().Assumed)
}
