package revision

import (
	"fmt"
	"strings"
	"testing"

	"envex/core/plan"
	"envex/demo"
	"envex/golden"
)

// What is said to be different between things of one kind that stand beside each other in a plan, there and back: as if
// one had become the other.
func TestWhatIsToldOfChanges(t *testing.T) {
	var b strings.Builder
	p := demo.Plan()
	all := p.All()
	for i, x := range all[:len(all)-1] {
		y := all[i+1]
		if x.AggregateKind() != y.AggregateKind() || x.AggregateKind() == plan.KindGear && i%3 > 0 {
			continue
		}
		for _, pair := range [][2]plan.Aggregate{{x, y}, {y, x}} {
			fmt.Fprintf(&b, "# %s %s to %s\n", pair[0].AggregateKind(), pair[0].AggregateID(), pair[1].AggregateID())
			b.WriteString(strings.Join(Words(p, pair[0], pair[1]), "\n") + "\n")
		}
	}
	golden.Hold(t, "testdata/changes.txt", b.String())
}
