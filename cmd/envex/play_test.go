package main

import (
	"encoding/json"
	"math"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
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

func TestFeetAreFittedToTheSwitchesOfARig(t *testing.T) {
	data, err := os.ReadFile(demoFile)
	require.NoError(t, err)
	p, err := plan.Decode(data)
	require.NoError(t, err)
	script, err := play.Read(p, "long", "", "quay-set")
	require.NoError(t, err)
	var steps []play.Step
	for i, from := range script.Switches[1:] {
		to := script.Switches[0]
		bits := math.Log2(math.Hypot(from.X-to.X, from.Y-to.Y)/to.Width + 1)
		steps = append(steps, play.Step{From: from.Key, To: to.Key, Seconds: 0.25 + 0.11*bits + 0.001*float64(i%3)})
	}
	file := filepath.Join(t.TempDir(), "steps.json")
	list, err := json.Marshal(steps)
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(file, list, 0o600))
	on := []string{"fit", file, "--plan", demoFile, "--rig", "Long board", "--setlist", "Quay set"}
	var feet play.Feet
	require.NoError(t, json.Unmarshal([]byte(says(t, append(on, "--json")...)), &feet))
	assert.True(t, feet.Measured, feet.Why)
	assert.InDelta(t, 0.11, *feet.Profile.B, 0.01)
	assert.Contains(t, says(t, on...), "moves fitted")
	for i := range steps {
		steps[i].Seconds *= 1 + 0.8*float64(i%2)
	}
	list, err = json.Marshal(steps)
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(file, list, 0o600))
	assert.Contains(t, says(t, on...), "not steady enough to keep")
	require.NoError(t, os.WriteFile(file, []byte(`[{"from":"nope/press","to":"nope/press","seconds":1}]`), 0o600))
	_, err = run_(t, on...)
	assert.ErrorContains(t, err, "switches that this rig does not have")
	_, err = run_(t, "fit", file, "--setlist", "Quay set")
	assert.ErrorContains(t, err, "--setlist is of a plan: say which with --plan")
}
