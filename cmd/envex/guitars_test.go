package main

import (
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/tidwall/gjson"
)

func TestGuitarsAreLevelledFromAFile(t *testing.T) {
	onItsOwn(t)
	made := filepath.Join(t.TempDir(), "level.json")
	out, err := run_(t, "guitars", demoFile, "--rig", "carry", "-o", made)
	require.NoError(t, err)
	assert.Contains(t, out, "Bulkhead against Driftwood: +1.2 LU at the first stage that clips")
	out, err = run_(t, "check", made)
	require.NoError(t, err, out)
	out, err = run_(t, "differences", demoFile, made, "--rig", "carry")
	require.NoError(t, err)
	assert.Contains(t, out, "With Bulkhead: ")
	out, err = run_(t, "guitars", demoFile, "--rig", "carry", "--reference", "Bulkhead", "--json")
	require.NoError(t, err)
	assert.Equal(t, "driftwood", gjson.Get(out, "guitars.0.guitar").String())

	for _, args := range [][]string{
		{"guitars", smallFile}, {"guitars", demoFile, "--rig", "none"},
		{"guitars", demoFile, "--rig", "carry", "--reference", "none"},
		{"guitars", demoFile, "--rig", "carry", "--reference", "Amber"},
		{"guitars", demoFile, "--rig", "long", "--destination", "Hired head"},
	} {
		_, err := run_(t, args...)
		assert.Error(t, err, args)
	}
}
