package main

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/tidwall/gjson"

	"envex/core/plan"
)

func TestKnobsOfASoundFromAFile(t *testing.T) {
	onItsOwn(t)
	out, err := run_(t, "knobs", smallFile, "--sound", "Lead")
	require.NoError(t, err)
	assert.Contains(t, out, "Amber drive at ")
	assert.Contains(t, out, "Moves Clean too.")
	out, err = run_(t, "knobs", smallFile, "--sound", "Lead", "--json")
	require.NoError(t, err)
	assert.Positive(t, gjson.Get(out, "knobs.0.per_mark").Float())
	for _, args := range [][]string{{"knobs", smallFile}, {"knobs", smallFile, "--sound", "none"}} {
		_, err := run_(t, args...)
		assert.Error(t, err, args)
	}
}

func TestASoundIsDialledInAndFoundAgainFromAFile(t *testing.T) {
	onItsOwn(t)
	out, err := run_(t, "dial", smallFile, "--sound", "Lead")
	require.NoError(t, err)
	assert.Contains(t, out, "1. With every pedal off")
	assert.Contains(t, out, "2. Turn Amber on")
	again, err := run_(t, "dial", smallFile, "--sound", "Lead", "--song", "ct4fjfbkxfjifypm")
	require.NoError(t, err)
	assert.Equal(t, out, again, "the song is played as the rig stands")
	out, err = run_(t, "dial", smallFile, "--json")
	require.NoError(t, err)
	assert.Equal(t, "Clean and loud", gjson.Get(out, "ways.0.name").String())

	out, err = run_(t, "dial", smallFile, "--channels")
	require.NoError(t, err)
	assert.Contains(t, out, "Pier has one channel")
	assert.Contains(t, out, "Lead: ")

	dir := t.TempDir()
	kept, turned, back := filepath.Join(
		dir,
		"kept.json",
	), filepath.Join(
		dir,
		"turned.json",
	), filepath.Join(
		dir,
		"back.json",
	)
	_, err = run_(
		t, "dialled", smallFile, "--keep", "Net loft", "--date", "2027-05-02", "--place", "loft, door shut", "-o", kept,
	)
	require.NoError(t, err)
	out, err = run_(t, "dialled", kept)
	require.NoError(t, err)
	assert.Contains(t, out, "Net loft: 0 stand elsewhere now")
	data, err := os.ReadFile(kept)
	require.NoError(t, err)
	p, err := plan.Decode(data)
	require.NoError(t, err)
	p.Rigs[0].Base = map[plan.Key]plan.Value{"amber/fx/drive": plan.Number(1)}
	data, err = plan.Encode(p)
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(turned, data, 0o600))
	out, err = run_(t, "dialled", turned)
	require.NoError(t, err)
	assert.Contains(t, out, "Amber drive: ")
	_, err = run_(t, "dialled", turned, "--back", "net loft", "-o", back)
	require.NoError(t, err)
	out, err = run_(t, "dialled", back, "--json")
	require.NoError(t, err)
	assert.Empty(t, gjson.Get(out, "sets.0.moved").Array())
	_, err = run_(t, "dialled", turned, "--start", "Pier", "-o", back)
	require.NoError(t, err)
	for _, args := range [][]string{
		{"dialled", smallFile, "--back", "attic"},
		{"dialled", smallFile, "--start", "Pier"},
		{"dialled", kept, "--start", "nothing"},
		{"dialled", smallFile, "--keep", "A", "--date", "May"},
		{"dialled", smallFile, "--keep", "A", "--back", "B"},
		{"dial", smallFile, "--sound", "none"}, {"dial", smallFile, "--sound", "Lead", "--song", "none"},
		{"dial", smallFile, "--channels", "--song", "ct4fjfbkxfjifypm"},
	} {
		_, err := run_(t, args...)
		assert.Error(t, err, args)
	}
}
