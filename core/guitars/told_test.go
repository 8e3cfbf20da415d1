package guitars_test

import (
	"context"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"envex/core/guitars"
	"envex/core/plan"
	"envex/golden"
)

// The guitars of strangers against each other, with every way to level them; where a rig has one, why not.
func TestWhatIsToldOfGuitars(t *testing.T) {
	var b strings.Builder
	for _, file := range golden.Plans(t) {
		p, err := plan.Decode(file.Data)
		require.NoError(t, err)
		for _, r := range p.Rigs {
			if r.ID == "carry" || r.ID == "switched" {
				continue // they begin as the long board does
			}
			found, err := guitars.Level(context.Background(), p, r.ID, guitars.Options{Kept: kept})
			if err != nil {
				fmt.Fprintf(&b, "# %s %s: %v\n", file.Name, r.ID, err)
				continue
			}
			for _, g := range found.Guitars {
				for i := range g.Ways {
					g.Ways[i].Rig = plan.Rig{}
				}
			}
			fmt.Fprintf(&b, "# %s %s\n%s", file.Name, r.ID, golden.Lines(t, found))
		}
	}
	golden.Hold(t, "testdata/guitars.txt", b.String())
}
