package main

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
)

func TestAFileIsEditedByOperations(t *testing.T) {
	dir := t.TempDir()
	write := func(name, text string) string {
		path := filepath.Join(dir, name)
		require.NoError(t, os.WriteFile(path, []byte(text), 0o600))
		return path
	}
	edits := write("edits.json", `[
		{"kind": "song", "id": "ferry-lights", "ops": [{"do": "set", "path": [{"key": "title"}], "was": "Ferry Lights", "to": "Harbour Lights"}]},
		{"kind": "gear", "id": "spare", "add": {"id": "spare", "name": "Spare", "kind": "pedal"}}
	]`)
	out := filepath.Join(dir, "out.json")
	_, err := run_(t, "edit", demoFile, "--operations", edits, "-o", out)
	require.NoError(t, err)
	data, err := os.ReadFile(out)
	require.NoError(t, err)
	p, err := plan.Decode(data)
	require.NoError(t, err)
	song, _ := p.FindSong("ferry-lights")
	assert.Equal(t, "Harbour Lights", song.Title)
	_, there := p.FindGear("spare")
	assert.True(t, there)

	// A second time it does not fit any more, and nothing is written.
	_, err = run_(t, "edit", out, "--operations", edits, "-o", filepath.Join(dir, "again.json"))
	require.ErrorContains(t, err, "spare is there already")
	assert.NoFileExists(t, filepath.Join(dir, "again.json"))
	for text, want := range map[string]string{
		`{"kind": "song"}`: "is not a list of edits",
		`[{"kind": "song", "id": "nowhere", "ops": [{"do": "set", "path": [{"key": "title"}]}]}]`:                                              "nowhere is not there any more",
		`[{"kind": "song", "id": "ferry-lights"}]`:                                                                                             "an edit has one of ops, add and remove",
		`[{"kind": "gear", "id": "amber", "remove": true}]`:                                                                                    "gear amber is still in use",
		`[{"kind": "song", "id": "ferry-lights", "ops": [{"do": "set", "path": [{"key": "tempo"}, {"key": "bpm"}], "was": 104, "to": 9000}]}]`: "tempo.bpm",
	} {
		_, err := run_(t, "edit", demoFile, "--operations", write("bad.json", text))
		require.ErrorContains(t, err, want)
	}
}
