package path

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
)

// remoteBoard is a drive and a delay 300 mm apart, a pedal whose switch works the delay, and a supply.
func remoteBoard() *plan.Plan {
	p := chain(3, "overdrive", "delay")
	p.Gear = append(
		p.Gear,
		plan.Gear{
			ID: "foot", Name: "foot", Kind: plan.Pedal, Size: &plan.Size{Width: 60, Depth: 60},
			Footswitches: []plan.Footswitch{{ID: "s", Label: "s", X: 30, Y: 30}},
			Blocks:       []plan.Block{{ID: "b", Name: "b", Effect: plan.EffectBoost, Bypass: plan.TrueBypass}},
		},
		plan.Gear{
			ID: "supply", Name: "supply", Kind: plan.Supply,
			Supply: &plan.PowerSupply{Outputs: []plan.PowerOutput{
				{ID: "1", Name: "left", Voltages: []float64{9}, CurrentMA: 500}, {ID: "2", Voltages: []float64{9}, CurrentMA: 500},
			}},
		},
	)
	for i := range p.Gear {
		if p.Gear[i].Kind == plan.Pedal {
			p.Gear[i].Size = &plan.Size{Width: 60, Depth: 60}
		}
	}
	r := &p.Rigs[0]
	r.Path = append(r.Path, plan.Node{Stop: "foot/b"})
	r.Assignments = []plan.Assignment{{
		Gear: "foot", Switch: "s", Press: &plan.Press{Actions: []plan.Action{{Kind: plan.Toggle, Target: "delay1/b/on"}}},
	}}
	r.Floor.Places = map[plan.ID]plan.Placement{"delay1": {X: 100, Y: 40}, "foot": {X: 400, Y: 240}}
	return p
}

func control(t *testing.T, p *plan.Plan) []ControlLead {
	t.Helper()
	c, err := DeriveCables(p, "rig", "")
	require.NoError(t, err)
	return c.Control
}

func TestASwitchThatWorksAnotherBoxHasALeadToIt(t *testing.T) {
	p := remoteBoard()
	require.Empty(t, p.Validate())
	list := control(t, p)
	require.Len(t, list, 1)
	assert.Equal(t, RemoteLead, list[0].Kind)
	assert.Equal(t, []plan.ID{"foot", "delay1"}, []plan.ID{list[0].From.Gear, list[0].To.Gear})
	assert.InDelta(t, cut(300+200), list[0].LengthM, 1e-9, "along the board and across it")
	assert.False(t, list[0].Assumed)
	p.Rigs[0].Floor.Places["delay1"] = plan.Placement{X: 700, Y: 440}
	assert.InDelta(t, cut(300+200), control(t, p)[0].LengthM, 1e-9, "whichever stands first")
	delete(p.Rigs[0].Floor.Places, "delay1")
	assert.True(t, control(t, p)[0].Assumed)

	p.Rigs[0].Assignments[0].Press.Actions[0].Target = "foot/b/on"
	assert.Empty(t, control(t, p), "its own box needs none")
}

func TestARelayTakesTheLeadOfARemoteSwitch(t *testing.T) {
	p := remoteBoard()
	foot, _ := p.FindGear("foot")
	foot.Kind, foot.Blocks, foot.Relays = plan.Controller, nil, []plan.Relay{{ID: "r", Name: "left relay"}}
	r := &p.Rigs[0]
	r.Path = r.Path[:2]
	r.Relays = []plan.RelayLink{{Controller: "foot", Relay: "r", Target: "delay1/b/on"}}
	r.Assignments[0].Hold = &plan.Press{Actions: []plan.Action{{Kind: plan.Toggle, Target: "overdrive0/b/on"}}}
	list := control(t, p)
	require.Len(t, list, 2)
	assert.Equal(t, RemoteLead, list[0].Kind)
	assert.Equal(t, plan.ID("overdrive0"), list[0].To.Gear, "what the relay does not work has a lead of its own")
	assert.Equal(t, RelayLead, list[1].Kind)
	assert.Equal(t, "left relay", list[1].From.Jack)
	assert.Equal(t, plan.ID("delay1"), list[1].To.Gear)
}

func TestPowerOutOfOneJackIsOneLeadWithSeveralPlugs(t *testing.T) {
	p := remoteBoard()
	r := &p.Rigs[0]
	r.Assignments = nil
	r.PowerPlan = []plan.PowerFeed{
		{Supply: "supply", Output: "1", Gear: []plan.ID{"overdrive0", "delay1"}},
		{Supply: "supply", Output: "2", Gear: []plan.ID{"foot"}},
	}
	list := control(t, p)
	require.Len(t, list, 3)
	for i, want := range []struct {
		to, jack string
		split    bool
	}{{"overdrive0", "left", true}, {"delay1", "left", true}, {"foot", "output 2", false}} {
		assert.Equal(t, PowerLead, list[i].Kind)
		assert.Equal(t, plan.ID(want.to), list[i].To.Gear)
		assert.Equal(t, want.jack, list[i].From.Jack)
		assert.Equal(t, want.split, list[i].Split, want.to)
	}
}
