package reach_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/core/reach"
	"envex/golden"
)

// What is reached in the sets of strangers' rigs, in full: every change with its presses, hands and reasons.
func TestWhatIsToldOfSets(t *testing.T) {
	var b strings.Builder
	for _, file := range golden.Plans(t) {
		p, err := plan.Decode(file.Data)
		require.NoError(t, err)
		for _, r := range p.Rigs {
			for _, l := range p.SetLists {
				found, err := reach.Compute(p, r.ID, l.ID)
				require.NoError(t, err)
				if len(found.Changes) > 30 { // the demo has its own golden file
					found.Changes, found.Sections = found.Changes[:12], found.Sections[:12]
				}
				fmt.Fprintf(&b, "# %s %s %s\n%s", file.Name, r.ID, l.ID, golden.Lines(t, found))
			}
		}
	}
	golden.Hold(t, "testdata/sets.txt", b.String())
}
