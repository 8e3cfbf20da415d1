package main

import (
	"math"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/tidwall/gjson"

	"envex/core/plan"
	"envex/core/wav"
)

func TestRoomIsMadeFromAFile(t *testing.T) {
	onItsOwn(t)
	dir := t.TempDir()
	data, err := os.ReadFile(smallFile)
	require.NoError(t, err)
	p, err := plan.Decode(data)
	require.NoError(t, err)
	loud := 20.0
	p.Put(plan.Band{ID: "quay", Name: "Quay hands", Parts: []plan.Part{
		{ID: "voice", Name: "Voice", Kind: plan.Voice}, {ID: "organ", Name: "Organ", Kind: plan.Organ, LevelDB: &loud},
	}})
	with, err := plan.Encode(p)
	require.NoError(t, err)
	file, mended := filepath.Join(dir, "band.json"), filepath.Join(dir, "mended.json")
	require.NoError(t, os.WriteFile(file, with, 0o600))

	out, err := run_(t, "mix", file)
	require.NoError(t, err)
	assert.Contains(t, out, "! Lead is not over the band: Organ is ")
	assert.Contains(t, out, "assumed: Voice is taken to rest where the guitar leads")
	out, err = run_(t, "mix", file, "--band", "Quay hands", "--json")
	require.NoError(t, err)
	assert.Equal(t, "under", gjson.Get(out, "findings.0.what").String())

	out, err = run_(t, "mix", file, "--mend", "lead is not over the band", "-o", mended)
	require.NoError(t, err)
	assert.Contains(t, out, "  1. ")
	out, err = run_(t, "mix", mended, "--json")
	require.NoError(t, err)
	assert.NotContains(t, out, "Lead is not over the band")

	out, err = run_(t, "mix", file, "--halls")
	require.NoError(t, err)
	assert.Contains(t, out, "open air ")
	assert.Contains(t, out, "church ")
	out, err = run_(t, "mix", file, "--hall", "1.2", "--json")
	require.NoError(t, err)
	assert.InDelta(t, 1.2, gjson.Get(out, "hall_s").Float(), 1e-9)

	x := make([]float64, wav.Rate)
	for i := range x {
		x[i] = 0.3 * math.Sin(2*math.Pi*1000*float64(i)/wav.Rate)
	}
	sound, err := wav.Encode(x)
	require.NoError(t, err)
	recording, measured := filepath.Join(dir, "organ.wav"), filepath.Join(dir, "measured.json")
	require.NoError(t, os.WriteFile(recording, sound, 0o600))
	_, err = run_(t, "part", file, "--part", "Organ", "--wav", recording, "-o", measured)
	require.NoError(t, err)
	kept, err := os.ReadFile(measured)
	require.NoError(t, err)
	assert.Zero(t, gjson.GetBytes(kept, "bands.0.parts.1.bands_db.16").Float())
	assert.Equal(t, int64(29), gjson.GetBytes(kept, "bands.0.parts.1.bands_db.#").Int())

	for _, args := range [][]string{
		{"mix", smallFile},
		{"mix", file, "--band", "nobody"},
		{"mix", file, "-o", mended},
		{"mix", file, "--hall", "-1"},
		{"mix", file, "--hall", "1", "--halls"},
		{"mix", file, "--mend", "nothing of the kind"},
		{"part", file, "--part", "Tuba", "--wav", recording},
		{"part", file, "--part", "Organ", "--wav", file},
		{"part", smallFile, "--part", "Organ", "--wav", recording},
	} {
		_, err := run_(t, args...)
		assert.Error(t, err, args)
	}
}

func TestALaneIsWishedFromAFile(t *testing.T) {
	onItsOwn(t)
	const two = "../../examples/two-amps.envex.json"
	data, err := os.ReadFile(two)
	require.NoError(t, err)
	p, err := plan.Decode(data)
	require.NoError(t, err)
	p.Put(plan.Band{ID: "band", Name: "Quay hands", Parts: []plan.Part{{ID: "v", Name: "Voice", Kind: plan.Voice}}})
	p.SetLists[0].Entries = p.SetLists[0].Entries[:1]
	dir := t.TempDir()
	file, made := filepath.Join(dir, "two.json"), filepath.Join(dir, "made.json")
	text, err := plan.Encode(p)
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(file, text, 0o600))
	out, err := run_(t, "mix", file, "--json")
	require.NoError(t, err)
	lane, sound := gjson.Get(out, "scenes.0.lanes.1.name").String(), gjson.Get(out, "scenes.#(home==false).name").String()
	home := gjson.Get(out, "scenes.#(home==true).name").String()
	require.NotEmpty(t, lane)
	_, err = run_(t, "mix", file, "--lane", lane+"=9", "--sound", sound, "-o", made)
	require.NoError(t, err)
	out, err = run_(t, "mix", made)
	require.NoError(t, err)
	assert.Contains(t, out, ", wished +9.0 LU")
	assert.Contains(t, out, lane+" is too quiet in "+sound)
	for _, args := range [][]string{
		{"mix", file, "--lane", lane, "--sound", sound, "-o", made}, {"mix", file, "--lane", lane + "=1"},
		{"mix", file, "--lane", lane + "=90", "--sound", sound}, {"mix", file, "--lane", "none=1", "--sound", sound},
		{"mix", file, "--lane", lane + "=1", "--sound", "none"}, {"mix", file, "--lane", lane + "=1", "--sound", home},
		{"mix", file, "--lane", lane + "=1", "--sound", sound, "--song", "none"},
	} {
		_, err := run_(t, args...)
		assert.Error(t, err, args)
	}
}
