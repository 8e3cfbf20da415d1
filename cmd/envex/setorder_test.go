package main

import (
	"encoding/json"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/core/setorder"
)

func TestASetIsPutInAnOrderWithFewerGuitars(t *testing.T) {
	onItsOwn(t)
	out := filepath.Join(t.TempDir(), "ordered.json")
	said, err := run_(t, "setorder", demoFile, "--rig", "Long board", "--setlist", "quay-set", "-o", out)
	require.NoError(t, err)
	assert.Contains(t, said, "as it is: 3 changes, 32 s, 0 without the time; 71 of 76 changes of sound in time")
	assert.Contains(t, said, "Offered: 2 changes, 20 s")
	data, err := os.ReadFile(out)
	require.NoError(t, err)
	_, err = plan.Decode(data)
	require.NoError(t, err)
	said, err = run_(t, "setorder", out, "--rig", "Long board", "--setlist", "quay-set")
	require.NoError(t, err)
	assert.Contains(t, said, "No order has fewer.")
	said, err = run_(t, "setorder", demoFile, "--rig", "Long board", "--setlist", "quay-set", "--json")
	require.NoError(t, err)
	var r setorder.Report
	require.NoError(t, json.Unmarshal([]byte(said), &r))
	assert.True(t, r.Exact)
}
