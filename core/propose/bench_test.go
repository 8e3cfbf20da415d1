package propose_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/core/propose"
	"envex/demo"
)

// BenchmarkLead proposes recipes for a lead sound that no pedal makes as it stands, on boards of the demo.
func BenchmarkLead(b *testing.B) {
	if testing.Short() {
		b.Skip("takes some tens of seconds")
	}
	for _, rig := range []plan.ID{"long", "carry", "bare"} {
		b.Run(string(rig), func(b *testing.B) {
			p := demo.Plan()
			r, _ := p.FindRig(rig)
			open := *r
			open.Recipes = nil
			for _, rec := range r.Recipes {
				if rec.Sound != "lead" {
					open.Recipes = append(open.Recipes, rec)
				}
			}
			p.Put(open)
			for b.Loop() {
				found, err := propose.For(context.Background(), p, rig, propose.Options{Sounds: []plan.ID{"lead"}})
				require.NoError(b, err)
				b.ReportMetric(float64(found.Tried), "settings")
			}
		})
	}
}
