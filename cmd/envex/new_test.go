package main

import (
	"os"
	"path/filepath"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/tidwall/gjson"

	"envex/core/plan"
)

func TestAPlanIsMadeOfALineAndASet(t *testing.T) {
	onItsOwn(t)
	dir := t.TempDir()
	write := func(name, text string) string {
		path := filepath.Join(dir, name)
		require.NoError(t, os.WriteFile(path, []byte(text), 0o600))
		return path
	}
	rig := write("rig.txt", "tuner, Amber = mid-hump drive, zorbulator, tap delay > combo")
	set := write("Quay.txt", "Ferry Lights 104: verse clean 16 (sing), chorus crunch 8\nNine Gulls")
	made := filepath.Join(dir, "plan.json")
	_, err := run_(t, "new", rig, "--set", set, "--pattern", "verse clean, solo lead 8", "--name", "Small", "-o", made)
	require.NoError(t, err)
	data, err := os.ReadFile(made)
	require.NoError(t, err)
	p, err := plan.Decode(data)
	require.NoError(t, err)
	assert.Equal(t, "Small", p.Rigs[0].Name)
	assert.Equal(t, "Quay", p.SetLists[0].Name)
	assert.Len(t, p.Sounds, 3)
	assert.Len(t, p.Songs[1].Sections, 2)

	out, err := run_(t, "new", rig, "--json")
	require.NoError(t, err)
	assert.Equal(t, "unknown", gjson.Get(out, "chips.2.place").String())
	assert.Equal(t, "tap-delay", gjson.Get(out, "chips.3.kind").String())
	assert.Contains(t, out, "not understood")

	out, err = run_(t, "propose", made, "--sound", "Clean", "--json")
	require.NoError(t, err)
	assert.Equal(t, "Clean", gjson.Get(out, "sounds.0.name").String())
	assert.True(t, gjson.Get(out, "sounds.0.ways.0.within").Bool())
	for _, key := range []string{"sound", "ways.0.values", "ways.0.dirt_pct", "ways.0.loudness_lu", "ways.0.presses"} {
		assert.True(t, gjson.Get(out, "sounds.0."+key).Exists(), key)
	}
	taken := filepath.Join(dir, "taken.json")
	out, err = run_(t, "propose", made, "--sound", "clean", "-o", taken)
	require.NoError(t, err)
	assert.Contains(t, out, "within")
	_, err = run_(t, "check", taken)
	require.NoError(t, err)

	for _, args := range [][]string{
		{"new", filepath.Join(dir, "none.txt")}, {"new", write("empty.txt", " # nothing\n")},
		{"new", rig, "--set", write("noset.txt", "\n")},
		{"new", rig, "--set", write("bad.csv", "title,bpm\nOne,loud\n")}, {"propose", made, "--sound", "none"},
		{"propose", made, "--setlist", "none"},
		{"examples", "none"},
	} {
		_, err := run_(t, args...)
		assert.Error(t, err, args)
	}
}

func TestExamplesArePrinted(t *testing.T) {
	out, err := run_(t, "examples")
	require.NoError(t, err)
	assert.Contains(t, out, "four-cables")
	out, err = run_(t, "examples", "--json")
	require.NoError(t, err)
	assert.Len(t, gjson.Parse(out).Array(), 8)
	out, err = run_(t, "examples", "travelling")
	require.NoError(t, err)
	_, err = plan.Decode([]byte(out))
	require.NoError(t, err)
}

func TestOneIsNotSaidAsMany(t *testing.T) {
	data, err := os.ReadFile("../../testdata/rigs/traveller/rig.envex.json")
	require.NoError(t, err)
	p, err := plan.Decode(data)
	require.NoError(t, err)
	open := p.Rigs[0]
	open.Recipes = slices.DeleteFunc(open.Recipes, func(r plan.Recipe) bool { return r.Sound != p.Sounds[0].ID })
	p.Put(open)
	data, err = plan.Encode(p)
	require.NoError(t, err)
	file := filepath.Join(t.TempDir(), "open.json")
	require.NoError(t, os.WriteFile(file, data, 0o600))
	out, err := run_(t, "propose", file)
	require.NoError(t, err)
	assert.Contains(t, out, " 1 press, ")
	assert.Contains(t, out, " 2 presses, ")
	out, err = run_(t, "check", file)
	require.NoError(t, err)
	assert.Contains(t, out, ", 1 rig, ")
}
