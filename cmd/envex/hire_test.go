package main

import (
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/tidwall/gjson"
)

func TestAnAmpIsAskedForAndTheAnswerPlanned(t *testing.T) {
	onItsOwn(t)
	out, err := run_(
		t,
		"ask",
		demoFile,
		"--rig",
		"long",
		"--setlist",
		"quay-set",
		"--destination",
		"Dance hall, two combos",
	)
	require.NoError(t, err)
	for _, words := range []string{"2 amps side by side", "dirt by itself", "2 mains outlets at the amps", "needs its speaker"} {
		assert.Contains(t, out, words)
	}
	out, err = run_(t, "ask", smallFile, "--setlist", "set", "--json")
	require.NoError(t, err)
	assert.NotEmpty(t, gjson.Get(out, "items.0.need").String())

	made := filepath.Join(t.TempDir(), "hired.json")
	out, err = run_(t, "hired", smallFile, "--setlist", "set", "--without", "reverb", "-o", made)
	require.NoError(t, err)
	assert.Contains(t, out, "Hired amp, no effects of its own: reach ")
	assert.Contains(t, out, "stays at home")
	out, err = run_(t, "check", made)
	require.NoError(t, err, out)
	out, err = run_(
		t,
		"reach",
		made,
		"--rig",
		"small",
		"--setlist",
		"set",
		"--destination",
		"Hired amp, no effects of its own",
	)
	require.NoError(t, err, out)
	out, err = run_(t, "hired", smallFile, "--setlist", "set", "--without", "reverb", "--json")
	require.NoError(t, err)
	assert.Equal(t, int64(2), gjson.Get(out, "columns.#").Int())

	for _, args := range [][]string{
		{"ask", smallFile, "--setlist", "none"}, {"ask", smallFile, "--setlist", "set", "--destination", "none"},
		{"hired", smallFile, "--setlist", "set"}, {"hired", smallFile, "--setlist", "set", "--without", "hum"},
		{"hired", smallFile, "--setlist", "set", "--amp", "none"}, {"hired", smallFile, "--setlist", "none", "--without", "loop"},
		{"hired", demoFile, "--rig", "long", "--setlist", "quay-set", "--destination", "Hired head", "--without", "loop"},
	} {
		_, err := run_(t, args...)
		assert.Error(t, err, args)
	}
}
