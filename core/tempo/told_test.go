package tempo_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/core/tempo"
	"envex/golden"
)

// What is timed in every set of the demo and of strangers, and the presets that would hold it.
func TestWhatIsToldOfTimes(t *testing.T) {
	var b strings.Builder
	for _, file := range golden.Plans(t) {
		p, err := plan.Decode(file.Data)
		require.NoError(t, err)
		for _, r := range p.Rigs {
			for _, l := range p.SetLists {
				night, err := tempo.Plan(p, r.ID, "", l.ID)
				require.NoError(t, err)
				fmt.Fprintf(&b, "# %s %s %s\n%s", file.Name, r.ID, l.ID, golden.Lines(t, night))
				for _, id := range r.GearIn() {
					if len(r.Presets[id]) == 0 {
						continue
					}
					if order, err := tempo.InSetOrder(p, r.ID, l.ID, id); err == nil {
						fmt.Fprintf(&b, "in the order of the set, %s\n%s", id, golden.Lines(t, order))
					} else {
						fmt.Fprintf(&b, "in the order of the set, %s: %v\n", id, err)
					}
				}
				if stored, err := tempo.Store(p, r.ID, l.ID); err == nil {
					stored.Rig, stored.Songs = plan.Rig{}, nil
					fmt.Fprintf(&b, "stored\n%s", golden.Lines(t, stored))
				} else {
					fmt.Fprintf(&b, "stored: %v\n", err)
				}
			}
		}
	}
	golden.Hold(t, "testdata/times.txt", b.String())
}
