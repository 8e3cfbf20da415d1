package failure

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/demo"
	"envex/golden"
)

func fatesOf(t *testing.T, p *plan.Plan, rig, destination plan.ID) string {
	t.Helper()
	var b strings.Builder
	f, err := On(p, rig, destination, "quay-set")
	require.NoError(t, err)
	fmt.Fprintf(&b, "# %s %s\n", rig, destination)
	for _, id := range f.Boxes() {
		x, err := f.Without(id)
		require.NoError(t, err)
		fmt.Fprintf(&b, "%s, out %v: %s\n", x.Name, x.Out, x.Round)
		for _, s := range x.Sounds {
			if s.State == Here {
				continue
			}
			fmt.Fprintf(&b, "  %s %s, %d of %d", s.Name, s.State, s.Hit, s.Sections)
			if s.By != "" {
				fmt.Fprintf(&b, ", by %s (%s)", s.By, s.ByRecipe)
			}
			if s.Without != "" {
				fmt.Fprintf(&b, ", %s", s.Without)
			}
			for _, i := range s.Instead {
				fmt.Fprintf(&b, "; %s by %s", i.Name, i.Recipe)
				if i.Same {
					b.WriteString(", the same")
				}
			}
			b.WriteString("\n")
		}
		if len(x.Spares) > 0 {
			fmt.Fprintf(&b, "  to spare: %s\n", strings.Join(x.Spares, ", "))
		}
	}
	return b.String()
}

// Every box of every rig of the demo, and where rigs plug in, as a reader of the sheet has checked them.
func TestTheFatesOfTheDemo(t *testing.T) {
	p := demo.Plan()
	var all strings.Builder
	for i := range p.Rigs {
		all.WriteString(fatesOf(t, p, p.Rigs[i].ID, ""))
		for _, d := range p.Rigs[i].Destinations {
			all.WriteString(fatesOf(t, p, p.Rigs[i].ID, d.ID))
		}
	}
	const file = "testdata/fates.txt"
	golden.Hold(t, file, all.String())
}
