package plan_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
)

// told is a plan that says of a guitar's selector, of circuits, of clocks and of rates what can be said.
func told() *plan.Plan {
	return &plan.Plan{
		Gear: []plan.Gear{
			{
				ID: "guitar", Name: "Guitar", Kind: plan.Guitar,
				Pickups: []plan.Pickup{{ID: "neck", Name: "neck"}, {ID: "bridge", Name: "bridge"}},
				Controls: []plan.Control{
					{ID: "pickup", Name: "pickup", Kind: plan.Selector, Access: plan.QuickHand, Options: []string{"neck", "both"}},
				},
				Positions: []plan.Position{
					{Is: "both", Pickups: []plan.ID{"neck", "bridge"}, Series: true, Reversed: []plan.ID{"neck"}},
				},
			},
			{
				ID: "drive", Name: "Drive", Kind: plan.Pedal,
				Blocks: []plan.Block{
					{ID: "fx", Name: "drive", Effect: plan.EffectOverdrive, Bypass: plan.TrueBypass, Model: plan.Thinning},
				},
			},
			{ID: "room", Name: "Room", Kind: plan.Pedal, Blocks: []plan.Block{{
				ID: "fx", Name: "room", Effect: plan.EffectReverb, Bypass: plan.TrueBypass,
				ModelAt: []plan.ModelAt{{Control: "type", Is: "wide", Model: plan.Hall}},
				Controls: []plan.Control{
					{ID: "type", Name: "type", Kind: plan.Selector, Access: plan.SlowHand, Options: []string{"wide", "dry"}},
				},
			}}},
			{ID: "throb", Name: "Throb", Kind: plan.Pedal, Blocks: []plan.Block{{
				ID: "fx", Name: "throb", Effect: plan.EffectTremolo, Bypass: plan.TrueBypass,
				Controls: []plan.Control{
					{
						ID: "speed", Name: "speed", Kind: plan.Knob, Access: plan.SlowHand,
						Measured: []plan.Rate{{At: 0, Hz: 1}, {At: 10, Hz: 8}},
					},
				},
			}}},
		},
		Rigs: []plan.Rig{
			{ID: "rig", Name: "Rig", Guitars: []plan.ID{"guitar"}, Clocks: []plan.Clock{{From: "room", To: []plan.ID{"throb"}}}},
		},
	}
}

func TestWhatIsToldHasToFit(t *testing.T) {
	require.Empty(t, told().Validate())
	for _, x := range []struct {
		path, says string
		spoil      func(p *plan.Plan)
	}{
		{"gear[0].positions[0].is", "has no position", func(p *plan.Plan) { p.Gear[0].Positions[0].Is = "middle" }},
		{
			"gear[0].positions[1].is", "described twice",
			func(p *plan.Plan) { p.Gear[0].Positions = append(p.Gear[0].Positions, p.Gear[0].Positions[0]) },
		},
		{
			"gear[0].positions[0].pickups", "has no pickup on",
			func(p *plan.Plan) { p.Gear[0].Positions[0].Pickups, p.Gear[0].Positions[0].Reversed = nil, nil },
		},
		{
			"gear[0].positions[0].pickups[0]", "has no pickup",
			func(p *plan.Plan) { p.Gear[0].Positions[0].Pickups[0], p.Gear[0].Positions[0].Reversed = "piezo", nil },
		},
		{
			"gear[0].positions[0].reversed[0]", "is not on",
			func(p *plan.Plan) { p.Gear[0].Positions[0].Pickups = []plan.ID{"bridge"} },
		},
		{"gear[1].blocks[0].model", "is not one of mid-hump", func(p *plan.Plan) { p.Gear[1].Blocks[0].Model = plan.Tape }},
		{
			"gear[1].blocks[0].model", "no choice of circuits",
			func(p *plan.Plan) { p.Gear[1].Blocks[0].Effect = plan.EffectBoost },
		},
		{
			"gear[2].blocks[0].model_at[0].model", "is not one of room",
			func(p *plan.Plan) { p.Gear[2].Blocks[0].ModelAt[0].Model = plan.Tape },
		},
		{
			"gear[2].blocks[0].model_at[0].control", "has no control",
			func(p *plan.Plan) { p.Gear[2].Blocks[0].ModelAt[0].Control = "size" },
		},
		{
			"gear[2].blocks[0].model_at[0].is", "has no position",
			func(p *plan.Plan) { p.Gear[2].Blocks[0].ModelAt[0].Is = "tall" },
		},
		{
			"gear[3].blocks[0].controls[0].measured", "needs no measuring",
			func(p *plan.Plan) { p.Gear[3].Blocks[0].Controls[0].Unit = "Hz" },
		},
		{
			"gear[3].blocks[0].controls[0].measured[1].at", "outside",
			func(p *plan.Plan) { p.Gear[3].Blocks[0].Controls[0].Measured[1].At = 11 },
		},
		{
			"gear[3].blocks[0].controls[0].measured[1].at", "positions go up",
			func(p *plan.Plan) { p.Gear[3].Blocks[0].Controls[0].Measured[1].At = 0 },
		},
		{"rigs[0].clocks[0].to[0]", "its own clock", func(p *plan.Plan) { p.Rigs[0].Clocks[0].From = "throb" }},
		{"rigs[0].clocks[0].to[0]", "there is no gear", func(p *plan.Plan) { p.Rigs[0].Clocks[0].To[0] = "nothing" }},
		{"rigs[0].clocks[1].to[0]", "follows a clock already", func(p *plan.Plan) {
			p.Rigs[0].Clocks = append(p.Rigs[0].Clocks, plan.Clock{From: "drive", To: []plan.ID{"throb"}})
		}},
	} {
		p := told()
		x.spoil(p)
		found := false
		for _, problem := range p.Validate() {
			found = found || problem.Path == x.path && assert.Contains(t, problem.Message, x.says)
		}
		assert.True(t, found, "%s: %s, but %v", x.path, x.says, p.Validate())
	}
}

func TestACircuitIsThatOfTheSelectorThenItsOwnThenTheFirst(t *testing.T) {
	g := &told().Gear[2]
	at := func(word string) func(plan.Key) plan.Value {
		return func(plan.Key) plan.Value { return plan.Text(word) }
	}
	m, said := g.ModelIn(&g.Blocks[0], at("wide"))
	assert.Equal(t, plan.Hall, m.Model)
	assert.True(t, said)
	m, said = g.ModelIn(&g.Blocks[0], at("dry"))
	assert.Equal(t, plan.Room, m.Model)
	assert.False(t, said)
	g.Blocks[0].Model = plan.Spring
	m, said = g.ModelIn(&g.Blocks[0], at("dry"))
	assert.Equal(t, plan.Spring, m.Model)
	assert.True(t, said)
}
