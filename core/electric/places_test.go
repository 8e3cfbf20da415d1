package electric

import (
	"math"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
)

// What a buffer does is the same whether the whole chain is walked with it or only the run it stands in: on chains in
// every shape, at every place, at every destination.
func TestABufferPartsOneRunOnly(t *testing.T) {
	tried := 0
	for _, pattern := range []string{
		"../path/testdata/chains/*.json", "../../examples/*.json", "../../demo/*.json", "../../testdata/rigs/*/rig.envex.json",
	} {
		files, err := filepath.Glob(pattern)
		require.NoError(t, err)
		require.NotEmpty(t, files)
		for _, name := range files {
			data, err := os.ReadFile(name)
			require.NoError(t, err)
			p, err := plan.Decode(data)
			require.NoError(t, err)
			for i := range p.Rigs {
				for _, at := range append([]plan.Destination{{}}, p.Rigs[i].Destinations...) {
					r, err := Solve(p, p.Rigs[i].ID, at.ID, Options{})
					require.NoError(t, err)
					for _, place := range r.Places {
						tried++
						assertAsWalked(t, p, p.Rigs[i].ID, at.ID, place)
					}
				}
			}
		}
	}
	assert.Greater(t, tried, 200)
}

// assertAsWalked holds what a place comes to against a report of the rig with a buffer there.
func assertAsWalked(t *testing.T, p *plan.Plan, rig, at plan.ID, place Buffer) {
	t.Helper()
	with, err := Solve(p, rig, at, Options{Buffer: place.Before})
	require.NoError(t, err)
	for k := range with.Places {
		if with.Places[k].Before == place.Before {
			assert.Equal(t, place, with.Places[k], "of the rig as it stands, whatever is tried")
		}
	}
	worst, jump, lost := 0.0, 0.0, 0
	for _, s := range with.Sounds {
		for _, other := range with.Sounds {
			if alone(p, s) == alone(p, other) {
				jump = math.Max(jump, s.Treble5k-other.Treble5k)
			}
		}
		if alone(p, s) {
			continue
		}
		if lost++; lost == 1 || s.Tone5k > worst {
			worst = s.Tone5k
		}
	}
	assert.InDelta(t, worst, place.WorstDB, 1e-9, "%s of %s", place.Before, rig)
	assert.InDelta(t, jump, place.JumpDB, 1e-9, "%s of %s", place.Before, rig)
}

// alone reports whether a fuzz of low input resistance has the pickup to itself in a sound.
func alone(p *plan.Plan, s Sound) bool {
	if s.FirstBuffer == nil {
		return false
	}
	g, ok := p.FindGear(s.FirstBuffer.Gear())
	if !ok {
		return false
	}
	b, ok := g.FindBlock(plan.ID(s.FirstBuffer.Rest()))
	return ok && b.Effect == plan.EffectFuzz && or(b.InputOhm, usualInputOhm) < lowOhm
}
