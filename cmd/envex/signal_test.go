package main

import (
	"encoding/json"
	"math"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/signal"
	"envex/core/wav"
)

// recording writes a sine of an amplitude to a file.
func recording(t *testing.T, amplitude, seconds float64) string {
	t.Helper()
	x := make([]float64, int(seconds*wav.Rate))
	for i := range x {
		x[i] = amplitude * math.Sin(2*math.Pi*997*float64(i)/wav.Rate)
	}
	data, err := wav.Encode(x)
	require.NoError(t, err)
	file := filepath.Join(t.TempDir(), "tone.wav")
	require.NoError(t, os.WriteFile(file, data, 0o600))
	return file
}

func TestASoundIsMeteredAndWrittenToAFile(t *testing.T) {
	onItsOwn(t)
	out := filepath.Join(t.TempDir(), "crunch.wav")
	var phrase, own signal.Report
	require.NoError(
		t,
		json.Unmarshal(
			[]byte(says(t, "signal", demoFile, "--rig", "Long board", "--sound", "Crunch", "--json", "-o", out)), &phrase,
		),
	)
	require.Len(t, phrase.Sounds, 1, "the figures are there as well")
	assert.Equal(t, "Crunch", phrase.Sounds[0].Name)

	var m signal.Measured
	require.NoError(t, json.Unmarshal([]byte(says(t, "meter", out, "--json")), &m))
	require.NotNil(t, m.LUFS)
	assert.LessOrEqual(t, m.TruePeak, -0.99)
	assert.Contains(t, says(t, "meter", out), "LUFS, peak")

	require.NoError(
		t,
		json.Unmarshal(
			[]byte(
				says(t, "signal", demoFile, "--rig", "Long board", "--sound", "Crunch", "--json", "--di", recording(t, 0.9, 2)),
			),
			&own,
		),
	)
	assert.NotEqual(t, phrase.Sounds[0].Figures.Loudness, own.Sounds[0].Figures.Loudness, "a recording of one's own")

	assert.Contains(t, says(t, "signal", smallFile), "Clean: ")
	for want, args := range map[string][]string{
		"say which sound to write":    {"signal", demoFile, "--rig", "Long board", "-o", out},
		`there is no sound "Nothing"`: {"signal", demoFile, "--rig", "Long board", "--sound", "Nothing"},
		"no recipe for Shimmer":       {"signal", demoFile, "--rig", "Carry-on board", "--sound", "Shimmer"},
		"no such file":                {"signal", demoFile, "--rig", "Long board", "--di", "nowhere.wav"},
		"kelp-street-nine.envex.json": {"meter", demoFile},
	} {
		_, err := run_(t, args...)
		assert.ErrorContains(t, err, want)
	}
}

func TestAMeterReadsReferenceTones(t *testing.T) {
	full, half := recording(t, 1-1.0/32768, 3), recording(t, 0.5, 3)
	var m struct {
		LUFS float64 `json:"lufs"`
		Peak float64 `json:"peak_dbfs"`
	}
	require.NoError(t, json.Unmarshal([]byte(says(t, "meter", full, "--json")), &m))
	assert.InDelta(t, -3.01, m.LUFS, 0.02)
	assert.InDelta(t, 0, m.Peak, 0.01)
	assert.Contains(t, says(t, "meter", full, "--off", half), "on is +6.0 dB over off")
	assert.JSONEq(
		t, `{"lufs":null,"peak_dbfs":-240,"true_peak_dbtp":-240,"seconds":1}`, says(t, "meter", recording(t, 0, 1), "--json"),
	)
	_, err := run_(t, "meter", full, "--off", recording(t, 0, 3))
	assert.ErrorContains(t, err, "never play at the same time")
}

func TestGainIsMappedAndABoostIsPlaced(t *testing.T) {
	onItsOwn(t)
	var m signal.GainMap
	require.NoError(t, json.Unmarshal([]byte(says(t, "gainmap", smallFile, "--json")), &m))
	assert.NotEmpty(t, m.Points)
	out := says(t, "gainmap", smallFile)
	assert.Contains(t, out, "Nothing reaches Lead: ")
	assert.Contains(t, out, "you could tell apart")

	out = says(t, "boost", smallFile, "--block", "amber/fx")
	assert.Contains(t, out, "best for louder")
	assert.Contains(t, out, "best for thicker")
	_, err := run_(t, "boost", smallFile, "--block", "Nothing")
	assert.ErrorContains(t, err, `there is no stop "Nothing"; there are Amber`)
}

func TestLevelsStepAndASoundInItsTargetsNeedsNoKnob(t *testing.T) {
	onItsOwn(t)
	out := says(t, "levels", smallFile, "--setlist", "set")
	assert.Contains(t, out, "dB of headroom")
	assert.Contains(t, out, "Lead is not at its level: ")
	var tuned signal.Tuning
	require.NoError(t, json.Unmarshal([]byte(says(t, "tune", smallFile, "--sound", "Clean", "--json")), &tuned))
	assert.True(t, tuned.Met)
	assert.Contains(t, says(t, "tune", smallFile, "--sound", "Clean"), "It is in its targets.")
}
