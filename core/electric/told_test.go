package electric_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"envex/core/electric"
	"envex/core/plan"
	"envex/golden"
)

// What is said of the power and of the signal of every rig, wherever it plugs in.
func TestWhatIsToldOfRigs(t *testing.T) {
	var power, signal strings.Builder
	for _, file := range golden.Plans(t) {
		p, err := plan.Decode(file.Data)
		require.NoError(t, err)
		for _, r := range p.Rigs {
			places := []plan.ID{""}
			for _, d := range r.Destinations {
				places = append(places, d.ID)
			}
			for _, place := range places {
				fed, err := electric.FeedRig(p, r.ID, place)
				require.NoError(t, err)
				fmt.Fprintf(&power, "# %s %s %s\n%s", file.Name, r.ID, place, golden.Lines(t, fed))
				solved, err := electric.Solve(p, r.ID, place, electric.Options{})
				require.NoError(t, err)
				fmt.Fprintf(&signal, "# %s %s %s\n%s", file.Name, r.ID, place, golden.Lines(t, solved))
			}
		}
	}
	golden.Hold(t, "testdata/power.txt", power.String())
	golden.Hold(t, "testdata/signal.txt", signal.String())
}
