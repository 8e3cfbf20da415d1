package main

import (
	"bytes"
	"encoding/json"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/paper"
	"envex/core/plan"
	"envex/page"
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
		{
			[]string{"--show", "quay-12", "--kind", "poem"},
			"set, patch, settings, floor, power, midi, foh, load, failure, faults, walk, standins and ask",
		},
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

// Every sheet of every show is written in every form it has, on stdout alone, and the same twice.
func TestEverySheetOfEveryShowIsWritten(t *testing.T) {
	onItsOwn(t)
	data, err := os.ReadFile(demoFile)
	require.NoError(t, err)
	p, err := plan.Decode(data)
	require.NoError(t, err)
	begins := map[string]string{"html": "<!doctype html>", "csv": "part,", "md": "# ", "json": "{", "svg": "<svg "}
	for i, show := range p.Shows {
		for _, kind := range paper.Kinds() {
			for format, head := range begins {
				if i > 0 && format != "html" { // a format is the same for every show
					continue
				}
				args := []string{"sheet", demoFile, "--show", string(show.ID), "--kind", string(kind), "--format", format}
				out, err := run_(t, args...)
				if format == "svg" && !page.IsDrawn(kind) {
					require.ErrorContains(t, err, "nothing is drawn")
					assert.Empty(t, out)
					continue
				}
				require.NoError(t, err, "%s %s %s", show.ID, kind, format)
				assert.True(t, strings.HasPrefix(strings.TrimSpace(out), head), "%s %s %s: %.40q", show.ID, kind, format, out)
				if format == "html" || format == "md" {
					assert.Contains(t, out, kind.Title())
				}
			}
		}
	}
}

func TestAShowIsFoundByItsNameOrItsID(t *testing.T) {
	one, err := run_(t, "sheet", demoFile, "--show", "NET LOFT", "--kind", "load")
	require.NoError(t, err)
	other, err := run_(t, "sheet", demoFile, "--show", "loft-7", "--kind", "load")
	require.NoError(t, err)
	assert.Equal(t, one, other)
	_, err = run_(t, "sheet", demoFile, "--kind", "load")
	require.ErrorContains(t, err, "there are several: say which with --show")
	_, err = run_(t, "page", demoFile)
	require.ErrorContains(t, err, "there are several: say which with --show")
}

func TestASheetIsReadFromWhatIsPipedIn(t *testing.T) {
	data, err := os.ReadFile(demoFile)
	require.NoError(t, err)
	c := root()
	var out bytes.Buffer
	c.SetIn(bytes.NewReader(data))
	c.SetOut(&out)
	c.SetErr(&bytes.Buffer{})
	c.SetArgs([]string{"sheet", "-", "--show", "quay-12", "--kind", "power"})
	require.NoError(t, c.ExecuteContext(t.Context()))
	assert.Contains(t, out.String(), "# Power plan")
}
