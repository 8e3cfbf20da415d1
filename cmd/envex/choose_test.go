package main

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/tidwall/gjson"

	"envex/core/catalog"
	"envex/core/plan"
)

// The shape that scripts read.
func TestBoxesAreChosenFromAFile(t *testing.T) {
	onItsOwn(t)
	out, err := run_(t, "choose", smallFile, "--setlist", "set", "--max", "2", "--json")
	require.NoError(t, err)
	for _, key := range []string{
		"sets.0.boxes", "sets.0.covers", "sets.0.misses", "sets.0.proven", "sets.0.presses", "sets.0.weight_g", "bound",
	} {
		assert.True(t, gjson.Get(out, key).Exists(), key)
	}
	assert.False(t, gjson.Get(out, "sets.0.fits").Exists(), "no board was named")

	made := filepath.Join(t.TempDir(), "tonight.json")
	out, err = run_(t, "choose", smallFile, "-o", made)
	require.NoError(t, err)
	assert.Contains(t, out, "proven")
	assert.Contains(t, out, "no fewer than")
	out, err = run_(t, "check", made)
	require.NoError(t, err, out)

	for _, args := range [][]string{
		{"choose", smallFile, "--setlist", "none"}, {"choose", smallFile, "--rig", "none"},
		{"choose", smallFile, "--board", "none"}, {"choose", smallFile, "--supply", "none"},
		{"choose", smallFile, "--box", "none"}, {"choose", smallFile, "--kind", "none"}, {"choose", smallFile, "--max", "-1"},
	} {
		_, err := run_(t, args...)
		assert.Error(t, err, args)
	}
}

func TestABoxIsStoodInForFromAFile(t *testing.T) {
	onItsOwn(t)
	made := filepath.Join(t.TempDir(), "other.json")
	out, err := run_(t, "standin", smallFile, "--box", "Amber", "--kind", "transparent-overdrive", "-o", made)
	require.NoError(t, err)
	assert.Contains(t, out, "1. Transparent overdrive, not owned")
	assert.Contains(t, out, "drive at ")
	out, err = run_(t, "check", made)
	require.NoError(t, err, out)
	out, err = run_(t, "standin", smallFile, "--box", "Amber", "--kind", "boost", "--json")
	require.NoError(t, err)
	assert.Equal(t, "Clean boost", gjson.Get(out, "offers.0.name").String())
	assert.True(t, gjson.Get(out, "offers.0.sounds.0.loudness_lu").Exists())

	out, err = run_(t, "standin", smallFile)
	require.NoError(t, err)
	assert.Contains(t, out, "Amber: nothing that is owned and not in the chain does its job")
	out, err = run_(t, "standin", spareFile(t))
	require.NoError(t, err)
	assert.Contains(t, out, "Amber\n1. Clean boost, owned: ")

	for _, args := range [][]string{
		{"standin", smallFile, "-o", made}, {"standin", smallFile, "--kind", "boost"}, {"standin", smallFile, "--box", "none"},
		{"standin", smallFile, "--box", "Amber", "--setlist", "none"},
		{"standin", smallFile, "--box", "Amber", "--kind", "chorus", "-o", made},
	} {
		_, err := run_(t, args...)
		assert.Error(t, err, args)
	}
}

// spareFile is the small file with a boost in the pile.
func spareFile(t *testing.T) string {
	data, err := os.ReadFile(smallFile)
	require.NoError(t, err)
	p, err := plan.Decode(data)
	require.NoError(t, err)
	kind, ok := catalog.Find("boost")
	require.True(t, ok)
	p.Put(kind.In(p, "boost", kind.Name))
	data, err = plan.Encode(p)
	require.NoError(t, err)
	name := filepath.Join(t.TempDir(), "spare.json")
	require.NoError(t, os.WriteFile(name, data, 0o600))
	return name
}
