package setorder_test

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/core/setorder"
	"envex/golden"
)

// The sets of the demo and of strangers, as they are and turned round: their changes, and the order that is offered.
func TestWhatIsToldOfOrdersOfSets(t *testing.T) {
	var b strings.Builder
	for _, file := range golden.Plans(t) {
		p, err := plan.Decode(file.Data)
		require.NoError(t, err)
		for _, r := range p.Rigs {
			for _, l := range p.SetLists {
				for _, turned := range []bool{false, true} {
					q, set := *p, l
					set.Entries = slices.Clone(l.Entries)
					words := "as it is"
					if turned {
						words = "turned round"
						slices.Reverse(set.Entries)
					}
					q.Put(set)
					found, err := setorder.Find(context.Background(), &q, r.ID, l.ID)
					if err != nil {
						fmt.Fprintf(&b, "# %s %s %s %s: %v\n", file.Name, r.ID, l.ID, words, err)
						continue
					}
					fmt.Fprintf(&b, "# %s %s %s %s\n%s", file.Name, r.ID, l.ID, words, golden.Lines(t, found))
				}
			}
		}
	}
	golden.Hold(t, "testdata/orders.txt", b.String())
}
