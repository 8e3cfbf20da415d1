package reach_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/core/reach"
)

// withSlot is a rig in which a chorus or a tremolo stands, played over two songs of one verse each: the second is played
// with the tremolo.
func withSlot(gap float64) *plan.Plan {
	pedal := func(id plan.ID, name string, effect plan.Effect) plan.Gear {
		return plan.Gear{
			ID: id, Name: name, Kind: plan.Pedal,
			Blocks: []plan.Block{{ID: "fx", Name: name, Effect: effect, Bypass: plan.TrueBypass}},
			Footswitches: []plan.Footswitch{{
				ID: "on", Label: "on", Press: &plan.Press{Actions: []plan.Action{{Kind: plan.Toggle, Target: "fx/on"}}},
			}},
			Size: &plan.Size{Width: 70, Depth: 120},
		}
	}
	song := func(id plan.ID) plan.Song {
		bars := 8.0
		return plan.Song{
			ID: id, Title: string(id), Tempo: plan.Tempo{BPM: 120}, Meter: plan.Meter{Beats: 4, Unit: 4},
			Sections: []plan.Section{
				{
					ID:    "v",
					Label: "Verse",
					Sound: "dry",
					Bars:  &bars,
				}, {ID: "c", Label: "Chorus", Sound: "wet", Bars: &bars},
			},
		}
	}
	return &plan.Plan{
		Gear: []plan.Gear{pedal("chorus", "Chorus", plan.EffectChorus), pedal("trem", "Tremolo", plan.EffectTremolo)},
		Sounds: []plan.Sound{
			{ID: "dry", Name: "Dry", Short: "D", Role: plan.HomeRole, Tape: "bone"},
			{ID: "wet", Name: "Wet", Short: "W", Role: plan.TextureRole, Tape: "sky"},
		},
		Songs: []plan.Song{song("one"), song("two")},
		SetLists: []plan.SetList{
			{
				ID:      "set",
				Name:    "Set",
				GapS:    &gap,
				Entries: []plan.SetEntry{{ID: "a", Song: "one"}, {ID: "b", Song: "two"}},
			},
		},
		Rigs: []plan.Rig{{
			ID: "rig", Name: "Rig", Path: []plan.Node{{Stop: "chorus/fx"}},
			Recipes: []plan.Recipe{
				{
					ID:    "r1",
					Sound: "dry",
				}, {ID: "r2", Sound: "wet", Values: map[plan.Key]plan.Value{"chorus/fx/on": plan.On(true)}},
			},
			Floor: plan.Floor{Places: map[plan.ID]plan.Placement{"chorus": {X: 100, Y: 100}}},
			Swaps: []plan.Swap{{
				ID: "slot", Name: "Movement", Boxes: []plan.SwapBox{{Gear: "chorus"}, {Gear: "trem", Songs: []plan.ID{"two"}}},
			}},
		}},
	}
}

func TestASongThatIsPlayedWithAnotherBoxOfASlot(t *testing.T) {
	for name, c := range map[string]struct {
		gap     float64
		verdict reach.Verdict
		reason  string
	}{
		"there is time to change it": {45, reach.InTime, "No press, 30.00 s by hand, 45.00 s free."},
		"there is not":               {20, reach.ByHand, "Put Tremolo in place of Chorus by hand takes 30.00 s; the gap is 20.00 s."},
	} {
		t.Run(name, func(t *testing.T) {
			p := withSlot(c.gap)
			require.Empty(t, p.Validate())
			report, err := reach.Compute(p, "rig", "set")
			require.NoError(t, err)
			require.Len(t, report.Changes, 3)
			first, between, second := report.Changes[0], report.Changes[1], report.Changes[2]
			require.Len(t, first.Presses, 1)
			assert.Equal(t, plan.Key("chorus/on"), first.Presses[0].Switch)
			assert.Equal(t, c.verdict, between.Verdict)
			assert.Equal(t, c.reason, between.Reason)
			require.Len(t, second.Presses, 1)
			assert.Equal(t, plan.Key("trem/on"), second.Presses[0].Switch, "the box that stands there then")
			assert.Equal(t, plan.ID("r2"), report.Sections[3].Recipe)
		})
	}
}
