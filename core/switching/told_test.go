package switching_test

import (
	"context"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/core/switching"
	"envex/golden"
)

// The programs of every set of the demo and of strangers, by each school: where they stand, what they set, what they
// cost. A song that is gone asks for nothing.
func TestWhatIsToldOfPrograms(t *testing.T) {
	var b strings.Builder
	for _, file := range golden.Plans(t) {
		p, err := plan.Decode(file.Data)
		require.NoError(t, err)
		for i := range p.SetLists {
			l := &p.SetLists[i]
			l.Entries = append([]plan.SetEntry{{ID: "gone", Song: "gone"}}, l.Entries...)
		}
		for _, r := range p.Rigs {
			for _, l := range p.SetLists {
				last := ""
				for _, o := range []switching.Options{
					{School: switching.Page}, {School: switching.Song}, {School: switching.Direct},
					{School: switching.Page, ChooseLoops: true}, {School: switching.Direct, ChooseLoops: true},
				} {
					s, err := switching.Solve(context.Background(), p, r.ID, l.ID, o)
					if err != nil {
						if err.Error() != last {
							fmt.Fprintf(&b, "# %s %s %s %s: %v\n", file.Name, r.ID, l.ID, o.School, err)
						}
						last = err.Error()
						continue
					}
					s.Rig, s.Stored = plan.Rig{}, nil
					fmt.Fprintf(&b, "# %s %s %s %s %t\n%s", file.Name, r.ID, l.ID, o.School, o.ChooseLoops, golden.Lines(t, s))
				}
			}
		}
	}
	golden.Hold(t, "testdata/programs.txt", b.String())
}
