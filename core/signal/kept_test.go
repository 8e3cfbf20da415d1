package signal_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/core/signal"
)

// What an earlier question left, of this rig or another, is the same as what is worked out anew, however little is
// kept.
func TestWhatIsKeptChangesNoFigure(t *testing.T) {
	own := signal.NewKept()
	for _, ask := range [][2]plan.ID{{"long", "crunch"}, {"bare", "crunch"}, {"long", "crunch"}} {
		p := night(t)
		r, err := signal.Measure(
			context.Background(), p, ask[0], signal.Options{Only: []plan.ID{ask[1]}, Want: signal.ForTargets, Kept: own},
		)
		require.NoError(t, err)
		anew, err := signal.Measure(
			context.Background(), p, ask[0], signal.Options{Only: []plan.ID{ask[1]}, Want: signal.ForTargets},
		)
		require.NoError(t, err)
		assert.Equal(t, anew, r)
		kept, err := signal.Driven(context.Background(), p, ask[0], own)
		require.NoError(t, err)
		driven, err := signal.Driven(context.Background(), p, ask[0], nil)
		require.NoError(t, err)
		assert.Equal(t, driven, kept)
	}
}

// Whatever is changed of a rig, what was metered before the change is not taken for what it is after.
func TestWhatWasMeteredBeforeAChangeIsNotTakenAfterIt(t *testing.T) {
	own := signal.NewKept()
	figures := func(p *plan.Plan, kept *signal.Kept) signal.Figures {
		r, err := signal.Measure(
			context.Background(), p, "long", signal.Options{Only: []plan.ID{"home"}, Want: signal.ForTargets, Kept: kept},
		)
		require.NoError(t, err)
		return r.Sounds[0].Figures
	}
	driven := func() (*plan.Plan, *plan.Rig) {
		p := night(t)
		r, ok := p.FindRig("long")
		require.True(t, ok)
		values := r.Recipes[0].Values
		values["amber/fx/on"], values["nudge/fx/on"] = plan.On(true), plan.On(true)
		return p, r
	}
	same, _ := driven()
	before := figures(same, own)
	block := func(p *plan.Plan, gear plan.ID) *plan.Block {
		g, ok := p.FindGear(gear)
		require.True(t, ok)
		return &g.Blocks[0]
	}
	value := func(key plan.Key, v plan.Value) func(*plan.Plan, *plan.Rig) {
		return func(_ *plan.Plan, r *plan.Rig) { r.Recipes[0].Values[key] = v }
	}
	for what, change := range map[string]func(p *plan.Plan, r *plan.Rig){
		"a knob":             value("amber/fx/drive", plan.Number(9)),
		"the guitar's knob":  value("driftwood/volume", plan.Number(4)),
		"its pickup":         value("driftwood/pickup", plan.Text("bridge")),
		"a pedal that is on": value("rust/fx/on", plan.On(true)),
		"one that is off":    value("nudge/fx/on", plan.On(false)),
		"a stop moved":       func(_ *plan.Plan, r *plan.Rig) { r.Path[4], r.Path[5] = r.Path[5], r.Path[4] },
		"a level measured": func(_ *plan.Plan, r *plan.Rig) {
			r.Levels = append(r.Levels, plan.Level{Block: "amber/fx", OnOver: 12})
		},
		"another circuit": func(p *plan.Plan, _ *plan.Rig) { block(p, "amber").Effect = plan.EffectFuzz },
		"the range of a knob": func(p *plan.Plan, _ *plan.Rig) {
			for i := range block(p, "amber").Controls {
				most := 40.0
				block(p, "amber").Controls[i].Max = &most
			}
		},
	} {
		p, r := driven()
		change(p, r)
		after := figures(p, own)
		assert.Equal(t, figures(p, nil), after, what)
		assert.NotEqual(t, before, after, "%s is heard", what)
	}
	assert.Equal(t, before, figures(same, own), "and what it was before is there again")
}
