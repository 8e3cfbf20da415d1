package demo_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/core/reach"
	"envex/demo"
	"envex/golden"
)

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
	type stand struct {
		rig, at plan.ID
		name    string
	}
	var stands []stand
	for _, r := range p.Rigs {
		stands = append(stands, stand{r.ID, "", r.Name})
		for _, d := range r.Destinations {
			stands = append(stands, stand{r.ID, d.ID, r.Name + " at " + d.Name})
		}
	}
	for _, r := range stands {
		there, err := p.At(r.rig, r.at)
		require.NoError(t, err)
		report, err := reach.Compute(there, r.rig, "quay-set")
		require.NoError(t, err)
		require.True(t, report.Exact)
		n := report.Reach
		fmt.Fprintf(
			&b,
			"%s: %d of %d; %d in time, %d tight, %d late, %d by hand, %d impossible\n",
			r.name,
			n.Reached,
			n.Total,
			n.InTime,
			n.Tight,
			n.Late,
			n.ByHand,
			n.Impossible,
		)
		for _, c := range report.Changes {
			var presses []string
			for _, x := range c.Presses {
				presses = append(presses, x.Label+" "+x.Gesture)
			}
			fmt.Fprintf(
				&b,
				"%3d %s, %s: %s > %s: %s, needed %.3f, free %.3f [%s] early %d\n",
				c.Position,
				c.Song,
				c.Section,
				c.From.Name,
				c.To.Name,
				c.Verdict,
				c.NeededS,
				c.FreeS,
				strings.Join(presses, ", "),
				len(c.Leisure),
			)
		}
		b.WriteString("\n")
	}
	const file = "testdata/verdicts.golden"
	golden.Hold(t, file, b.String())
}
