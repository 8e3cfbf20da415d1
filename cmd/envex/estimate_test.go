package main

import (
	"math"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/tidwall/gjson"

	"envex/core/wav"
)

func TestASoundIsMadeOfARecording(t *testing.T) {
	onItsOwn(t)
	dir := t.TempDir()
	record := func(name string, level float64, seconds int) string {
		x := make([]float64, seconds*wav.Rate)
		for i := range x {
			at := math.Mod(float64(i)/wav.Rate, 0.5)
			x[i] = level * math.Exp(-5*at) * math.Sin(2*math.Pi*220*at)
		}
		data, err := wav.Encode(x)
		require.NoError(t, err)
		path := filepath.Join(dir, name)
		require.NoError(t, os.WriteFile(path, data, 0o600))
		return path
	}
	lead, home, made := record("lead.wav", 0.4, 4), record("home.wav", 0.2, 4), filepath.Join(dir, "made.json")
	out, err := run_(t, "estimate", lead, "--home", home, "--plan", smallFile, "--name", "Night lead", "-o", made)
	require.NoError(t, err)
	assert.Contains(t, out, "Dirt ")
	assert.Contains(t, out, "+6.0 LU over home")
	out, err = run_(t, "check", made)
	require.NoError(t, err, out)
	data, err := os.ReadFile(made)
	require.NoError(t, err)
	sound := gjson.GetBytes(data, `sounds.#(name=="Night lead")`)
	assert.InDelta(t, 6, sound.Get("targets.loudness_lu").Float(), 0.1)
	assert.Equal(t, int64(29), sound.Get("targets.bands_db.#").Int())
	out, err = run_(t, "propose", made, "--sound", "Night lead")
	require.NoError(t, err)
	assert.Regexp(t, `its spectrum is \d+ dB from the recording`, out)
	out, err = run_(t, "dial", smallFile, "--sound", "Lead", "--heard", home+","+lead)
	require.NoError(t, err)
	assert.Regexp(t, `Recorded: \d+ % dirt`, out)
	assert.Contains(t, out, "; +6.0 LU, modelled: ")
	out, err = run_(t, "dial", smallFile, "--sound", "Lead", "--heard", home, "--json")
	require.NoError(t, err)
	assert.Equal(t, int64(1), gjson.Get(out, "heard.#").Int())
	assert.NotEmpty(t, gjson.Get(out, "steps.0.words").String())
	out, err = run_(t, "estimate", lead, "--json")
	require.NoError(t, err)
	assert.Less(t, gjson.Get(out, "dirt_pct.low").Float(), gjson.Get(out, "dirt_pct.high").Float())

	for _, args := range [][]string{
		{"estimate", filepath.Join(dir, "none.wav")}, {"estimate", smallFile}, {"estimate", record("brief.wav", 0.4, 1)},
		{"estimate", lead, "--home", record("silent.wav", 0, 4)}, {"estimate", lead, "--bpm", "-1"},
		{"estimate", lead, "--plan", smallFile, "--name", "Night"}, {"estimate", lead, "--name", "Night", "-o", made},
		{"estimate", lead, "--plan", lead, "--name", "Night", "-o", made}, {"dial", smallFile, "--heard", lead},
		{"dial", smallFile, "--sound", "Lead", "--heard", smallFile}, {"dial", smallFile, "--channels", "--heard", lead},
		{"dial", smallFile, "--sound", "Lead", "--heard", strings.Repeat(lead+",", 30) + lead},
	} {
		_, err := run_(t, args...)
		assert.Error(t, err, args)
	}
}
