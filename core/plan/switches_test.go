package plan

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestASwitchIsCalledByWhatItDoesOnThisRig(t *testing.T) {
	box := func(id ID, name string, switches ...Footswitch) Gear {
		return Gear{
			ID: id, Name: name, Kind: Pedal, Blocks: []Block{{ID: "fx", Name: "fx", Effect: EffectBoost, Bypass: TrueBypass}},
			Footswitches: switches,
		}
	}
	toggle := func(target Key) *Press { return &Press{Actions: []Action{{Kind: Toggle, Target: target}}} }
	p := &Plan{Gear: []Gear{
		box("mid", "Mid", Footswitch{ID: "on", Label: "on", Press: toggle("fx/on")}),
		box("ebb", "Ebb", Footswitch{ID: "on", Label: "on", Press: toggle("fx/on")}, Footswitch{ID: "tap", Label: "tap"}),
		box("wheel", "Wheel", Footswitch{ID: "1", Label: "1"}, Footswitch{ID: "2", Label: "Wheel two"}),
		box("remote", "Remote", Footswitch{ID: "1", Label: "switch"}),
	}}
	r := &Rig{Assignments: []Assignment{{Gear: "remote", Switch: "1", Press: toggle("mid/fx/on")}}}
	want := map[ID][]string{
		"mid": {"Mid"}, "ebb": {"Ebb", "Ebb tap"}, "wheel": {"Wheel 1", "Wheel two"}, "remote": {"Remote for Mid"},
	}
	for i := range p.Gear {
		g := &p.Gear[i]
		for k := range g.Footswitches {
			assert.Equal(t, want[g.ID][k], p.SwitchName(r, g, &g.Footswitches[k]))
		}
	}
}
