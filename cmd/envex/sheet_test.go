package main

import (
	"encoding/json"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/paper"
)

func TestSheetsAreWrittenFromAFile(t *testing.T) {
	out, err := run_(t, "sheet", demoFile, "--show", "quay stage", "--kind", "set")
	require.NoError(t, err)
	assert.Contains(t, out, "# Set sheet")
	assert.Contains(t, out, "Ferry Lights")
	out, err = run_(t, "sheet", demoFile, "--show", "quay-12", "--kind", "load", "--format", "csv")
	require.NoError(t, err)
	assert.Contains(t, out, "part,thing,kind,colour,weight kg,note\nTo carry,Driftwood,")
	out, err = run_(t, "sheet", demoFile, "--show", "quay-12", "--format", "json")
	require.NoError(t, err)
	var s paper.Sheet
	require.NoError(t, json.Unmarshal([]byte(out), &s))
	assert.Equal(t, paper.PatchList, s.Kind)
	assert.NotEmpty(t, s.Parts[0].Rows)
}

func TestSheetsThatAreNotThereAreRefused(t *testing.T) {
	for _, c := range []struct {
		args []string
		says string
	}{
		{[]string{"--show", "quay-12", "--kind", "poem"}, "set, patch, settings, floor, power, midi, foh, load, failure, faults and walk"},
		{[]string{"--show", "quay-12", "--format", "rtf"}, "there are csv, html, json, md and svg"},
		{[]string{"--show", "quay-12", "--kind", "set", "--format", "svg"}, "nothing is drawn on the sheet"},
		{[]string{"--show", "quay-12", "--kind", "all"}, "written as html alone"},
		{[]string{"--show", "quay-12", "--format", "html", "--paper", "a3"}, "there are a4 and letter"},
		{[]string{"--show", "nowhere"}, "nowhere"},
		{nil, "say which with --show"},
	} {
		_, err := run_(t, append([]string{"sheet", demoFile}, c.args...)...)
		assert.ErrorContains(t, err, c.says)
	}
}

func TestSheetsAreWrittenAsPagesAndDrawings(t *testing.T) {
	out, err := run_(t, "sheet", demoFile, "--show", "quay-12", "--kind", "all", "--format", "html", "--paper", "letter")
	require.NoError(t, err)
	assert.Contains(t, out, "<h1>Set sheet</h1>")
	assert.Contains(t, out, "<h1>Fault finding</h1>")
	assert.Contains(t, out, "size: letter")
	out, err = run_(t, "sheet", demoFile, "--show", "quay-12", "--kind", "floor", "--format", "svg")
	require.NoError(t, err)
	assert.Contains(t, out, "<svg ")
	assert.Contains(t, out, ">Sluice</text>")
}

func TestAShowIsWrittenAsOnePage(t *testing.T) {
	file := filepath.Join(t.TempDir(), "gig.html")
	_, err := run_(t, "page", demoFile, "--show", "Quay stage", "-o", file)
	require.NoError(t, err)
	data, err := os.ReadFile(file)
	require.NoError(t, err)
	assert.Contains(t, string(data), "Ferry Lights")
	assert.Contains(t, string(data), "<script>")
	printed, err := run_(t, "page", demoFile, "--show", "quay-12")
	require.NoError(t, err)
	assert.Equal(t, string(data), printed)
	_, err = run_(t, "page", demoFile, "--show", "nowhere")
	require.ErrorContains(t, err, "nowhere")
	_, err = run_(t, "page", demoFile, "--show", "quay-12", "-o", filepath.Join(t.TempDir(), "no", "gig.html"))
	require.Error(t, err)
}
