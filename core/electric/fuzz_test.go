package electric

import (
	"encoding/json"
	"math"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
)

// assertSolved solves every rig of a plan at each of its destinations, and looks for what is no number.
func assertSolved(t *testing.T, p *plan.Plan) {
	for i := range p.Rigs {
		r := &p.Rigs[i]
		places := []plan.ID{""}
		for _, d := range r.Destinations {
			places = append(places, d.ID)
		}
		for _, at := range places {
			report, err := Solve(p, r.ID, at, Options{})
			require.NoError(t, err)
			for _, s := range report.Sounds {
				for _, x := range append(s.Points, s.Reference...) {
					require.False(t, math.IsNaN(x.DB) || math.IsInf(x.DB, 0), "%s at %g Hz", s.Name, x.Hz)
				}
			}
			for _, b := range report.Places {
				_, err := Solve(p, r.ID, at, Options{Buffer: b.Before})
				require.NoError(t, err)
			}
			_, err = json.Marshal(report)
			require.NoError(t, err)
			fed, err := FeedRig(p, r.ID, at)
			require.NoError(t, err)
			_, err = json.Marshal(fed)
			require.NoError(t, err)
		}
	}
}

func FuzzSolve(f *testing.F) {
	files, err := filepath.Glob("../path/testdata/chains/*.json")
	require.NoError(f, err)
	require.NotEmpty(f, files)
	for _, name := range append(files, "../../demo/kelp-street-nine.envex.json") {
		data, err := os.ReadFile(name)
		require.NoError(f, err)
		f.Add(data)
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		p, err := plan.Decode(data)
		if err != nil {
			return
		}
		assertSolved(t, p)
	})
}

// Odd inputs are legal: nothing of a guitar, cables of no length, pots of no resistance.
func TestOddCircuits(t *testing.T) {
	zero := func(p *plan.Plan) {
		p.Gear[0].Pickups[0] = plan.Pickup{
			ID: "bridge", Name: "bridge", ResistanceOhm: ptr(0.0), InductanceH: ptr(0.0), CapacitancePF: ptr(0.0),
		}
		p.Gear[0].Wiring = &plan.Wiring{
			Volume: &plan.Pot{}, Tone: &plan.ToneControl{}, Bleed: &plan.TrebleBleed{ResistanceOhm: ptr(0.0)},
		}
	}
	for name, change := range map[string]func(*plan.Plan){
		"nothing known": func(p *plan.Plan) { p.Gear[0].Pickups, p.Gear[0].Wiring, p.Gear[0].Controls = nil, nil, nil },
		"no guitar":     func(p *plan.Plan) { p.Rigs[0].Guitars = nil },
		"all zero":      zero,
		"series bleed": func(p *plan.Plan) {
			p.Gear[0].Wiring.Bleed = &plan.TrebleBleed{Series: true}
			p.Rigs[0].Base["guitar/volume"] = plan.Number(5)
		},
		"no pots":   func(p *plan.Plan) { p.Gear[0].Wiring = &plan.Wiring{} },
		"no path":   func(p *plan.Plan) { p.Rigs[0].Path = nil },
		"no recipe": func(p *plan.Plan) { p.Rigs[0].Recipes = nil },
		"shorted input": func(p *plan.Plan) {
			p.Gear[1].Blocks[0].InputOhm, p.Gear[1].Blocks[0].OutOhm = ptr(0.0), ptr(0.0)
		},
		"no cable": func(p *plan.Plan) { leads(p, "guitar", "a/fx", 0.0, "a/fx", "b/fx", 0.0) },
	} {
		t.Run(name, func(t *testing.T) {
			p := bench(box("a", plan.EffectBuffer, plan.AlwaysOn), box("b", plan.EffectBuffer, plan.AlwaysOn))
			change(p)
			require.Empty(t, p.Validate())
			assertSolved(t, p)
		})
	}
	silent := bench(box("a", plan.EffectBuffer, plan.AlwaysOn))
	silent.Gear[0].Wiring = &plan.Wiring{Volume: &plan.Pot{}}
	assert.LessOrEqual(
		t, solve(t, silent, Options{}).Sounds[0].LevelDB, -100.0, "a pot of no resistance shorts the guitar",
	)
}
