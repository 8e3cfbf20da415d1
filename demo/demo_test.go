package demo_test

import (
	"flag"
	"fmt"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/core/reach"
	"envex/demo"
)

var update = flag.Bool("update", false, "write the golden file anew")

func TestTheDemoIsSound(t *testing.T) {
	p, err := plan.Decode(demo.File)
	require.NoError(t, err)
	again, err := plan.Encode(p)
	require.NoError(t, err)
	assert.Equal(t, string(demo.File), string(again), "the file is written as Envex writes it")
	assert.Len(t, p.Songs, 14)
	assert.Len(t, p.Sounds, 7)
}

// The verdicts of every change on every rig of the demo, exactly.
func TestVerdictsOfTheDemo(t *testing.T) {
	p, err := plan.Decode(demo.File)
	require.NoError(t, err)
	var b strings.Builder
	for _, r := range p.Rigs {
		report, err := reach.Compute(p, r.ID, "quay-set")
		require.NoError(t, err)
		require.True(t, report.Exact)
		n := report.Reach
		fmt.Fprintf(&b, "%s: %d of %d; %d in time, %d tight, %d late, %d by hand, %d impossible\n", r.Name, n.Reached, n.Total, n.InTime, n.Tight, n.Late, n.ByHand, n.Impossible)
		for _, c := range report.Changes {
			var presses []string
			for _, x := range c.Presses {
				presses = append(presses, x.Label+" "+x.Gesture)
			}
			fmt.Fprintf(&b, "%3d %s, %s: %s > %s: %s, needed %.3f, free %.3f [%s] early %d\n",
				c.Position, c.Song, c.Section, c.From.Name, c.To.Name, c.Verdict, c.NeededS, c.FreeS, strings.Join(presses, ", "), len(c.Leisure))
		}
		b.WriteString("\n")
	}
	const golden = "testdata/verdicts.golden"
	if *update {
		require.NoError(t, os.WriteFile(golden, []byte(b.String()), 0o644))
	}
	want, err := os.ReadFile(golden)
	require.NoError(t, err)
	assert.Equal(t, string(want), b.String())
}
