package standin_test

import (
	"context"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/core/standin"
	"envex/demo"
	"envex/golden"
)

// What stands in for boxes of two rigs: how near each comes, where its knobs stand, and what else changes.
func TestWhatIsToldOfStandIns(t *testing.T) {
	var b strings.Builder
	for _, ask := range []struct {
		plan     *plan.Plan
		rig, box plan.ID
		o        standin.Options
	}{
		{pier(t, "transparent-overdrive", "sustaining-fuzz"), "rig", "mid-hump-overdrive", standin.Options{
			SetList: "night", Kinds: []string{"mid-hump-overdrive", "dual-drive", "multi-effect"},
		}},
		{pier(t), "rig", "tremolo", standin.Options{SetList: "night", Most: 2}},
		{demo.Plan(), "carry", "slap", standin.Options{SetList: "quay-set", Most: 2}},
	} {
		ask.o.Kept = kept
		found, err := standin.For(context.Background(), ask.plan, ask.rig, ask.box, ask.o)
		if err != nil {
			fmt.Fprintf(&b, "# %s: %v\n", ask.box, err)
			continue
		}
		for i := range found.Offers {
			found.Offers[i].Rig, found.Offers[i].New = plan.Rig{}, nil
		}
		fmt.Fprintf(&b, "# %s\n%s", ask.box, golden.Lines(t, found))
	}
	golden.Hold(t, "testdata/standin.txt", b.String())
	require.NotContains(t, b.String(), "NaN")
}
