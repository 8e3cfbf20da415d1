package main

import (
	"encoding/json"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/play"
)

func TestASongIsRehearsedFromAFileOfPresses(t *testing.T) {
	out, err := run_(t, "rehearse", demoFile, "--rig", "bare", "--song", "Tin Cabana")
	require.NoError(t, err)
	assert.Contains(t, out, "Tin Cabana, 126 bpm, 4 in a bar")
	out, err = run_(t, "rehearse", demoFile, "--rig", "bare", "--json")
	require.NoError(t, err)
	var song play.Song
	require.NoError(t, json.Unmarshal([]byte(out), &song))
	var presses []play.Press
	for _, x := range song.Sections[:3] {
		for _, p := range x.Presses {
			presses = append(presses, play.Press{AtS: p.AtS, Switch: p.Switch})
		}
	}
	data, err := json.Marshal(presses)
	require.NoError(t, err)
	file := filepath.Join(t.TempDir(), "presses.json")
	require.NoError(t, os.WriteFile(file, data, 0o600))
	out, err = run_(t, "rehearse", demoFile, "--rig", "bare", "--presses", file)
	require.NoError(t, err)
	assert.Contains(t, out, "Ferry Lights: 3 of 5 made")
	assert.Contains(t, out, "Home > Lead: missed, Nudge")
	with, err := run_(t, "rehearse", demoFile, "--rig", "bare", "--presses", file, "--hands")
	require.NoError(t, err)
	assert.NotEqual(t, out, with, "nobody said when a hand moved")
	require.NoError(t, os.WriteFile(file, []byte(`[{"at": 1}]`), 0o600))
	_, err = run_(t, "rehearse", demoFile, "--rig", "bare", "--presses", file)
	assert.ErrorContains(t, err, "unknown field")
	_, err = run_(t, "rehearse", demoFile, "--rig", "bare", "--song", "Nope")
	assert.ErrorContains(t, err, "it has Ferry Lights")
}

func TestFeetAreFittedFromAFile(t *testing.T) {
	var moves []play.Move
	for d := 60.0; d < 700; d += 40 {
		moves = append(moves, play.Move{Distance: d, Width: 30, Seconds: 0.3 + d/2000})
	}
	data, err := json.Marshal(moves)
	require.NoError(t, err)
	file := filepath.Join(t.TempDir(), "moves.json")
	require.NoError(t, os.WriteFile(file, data, 0o600))
	out, err := run_(t, "fit", file)
	require.NoError(t, err)
	assert.Contains(t, out, "moves fitted")
	require.NoError(t, os.WriteFile(file, []byte(`[]`), 0o600))
	_, err = run_(t, "fit", file)
	assert.ErrorIs(t, err, play.ErrTooFew)
}
