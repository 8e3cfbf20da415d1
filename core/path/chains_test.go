package path_test

import (
	"context"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/path"
	"envex/core/plan"
)

// The chains real rigs use, each a file with the findings a careful tech would expect written
// beside it, by destination.
func TestChainsOfRealRigs(t *testing.T) {
	files, err := filepath.Glob("testdata/chains/*.envex.json")
	require.NoError(t, err)
	require.GreaterOrEqual(t, len(files), 17)
	for _, file := range files {
		name := strings.TrimSuffix(filepath.Base(file), ".envex.json")
		t.Run(name, func(t *testing.T) {
			data, err := os.ReadFile(file)
			require.NoError(t, err)
			p, err := plan.Decode(data)
			require.NoError(t, err)
			want, err := os.ReadFile(filepath.Join("testdata/chains", name+".findings"))
			require.NoError(t, err)
			assert.Equal(t, string(want), said(t, p))
		})
	}
}

// said writes the findings of a rig at each of its destinations as the files beside the
// chains do.
func said(t *testing.T, p *plan.Plan) string {
	var parts []string
	r := &p.Rigs[0]
	for _, d := range append([]plan.Destination{{}}, r.Destinations...) {
		report, err := path.Judge(context.Background(), p, r.ID, d.ID)
		require.NoError(t, err)
		text := "at " + d.Name + "\n"
		if d.ID == "" {
			text = "as it stands\n"
		}
		for _, f := range report.Findings {
			figures := make([]string, len(f.Figures))
			for i, x := range f.Figures {
				figures[i] = fmt.Sprintf(" %g %s", x.Value, x.Unit)
			}
			weight := ""
			if f.Weight > 0 {
				weight = fmt.Sprintf(" %g", f.Weight)
			}
			text += fmt.Sprintf(
				"  %s %s%s%s: %s\n", f.Gravity, f.Rule, weight, strings.Join(figures, ","), strings.Join(f.Names, ", "),
			)
		}
		if len(report.Findings) == 0 {
			text += "  nothing\n"
		}
		parts = append(parts, text)
		holds(t, p, d.ID, report)
	}
	return strings.Join(parts, "\n")
}

// holds checks what is so of every report: repairs and moves lead to paths that can be
// wired, with the cost they promise, and the best order is no worse than this one.
func holds(t *testing.T, p *plan.Plan, destination plan.ID, r *path.Report) {
	assert.LessOrEqual(t, r.Best.Cost, r.Cost)
	assert.LessOrEqual(t, r.Best.Bound, r.Best.Cost)
	moves := append([]path.Move(nil), r.Best.Moves...)
	for _, f := range r.Findings {
		moves = append(moves, f.Repairs...)
	}
	there, err := p.At(p.Rigs[0].ID, destination)
	require.NoError(t, err)
	for _, m := range moves {
		q := *there
		rig := q.Rigs[0]
		rig.Path = m.Path
		rig.Held = append(append([]plan.HeldLoop(nil), rig.Held...), m.Held...)
		q.Put(rig)
		require.Empty(t, q.Validate(), m.Words)
		again, err := path.Judge(context.Background(), &q, rig.ID, "")
		require.NoError(t, err)
		assert.InDelta(t, m.Cost, again.Cost, 1e-9, m.Words)
		assert.Equal(t, m.Order, plan.StopsIn(m.Path))
	}
	if n := len(r.Best.Moves); n > 0 {
		assert.Equal(t, r.Best.Path, r.Best.Moves[n-1].Path, "the moves lead to the best order")
	}
}
