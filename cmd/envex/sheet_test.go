package main

import (
	"encoding/json"
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
		{[]string{"--show", "quay-12", "--kind", "poem"}, "load, patch, walk and set"},
		{[]string{"--show", "quay-12", "--format", "rtf"}, "there are csv, json and md"},
		{[]string{"--show", "nowhere"}, "nowhere"},
		{nil, "say which with --show"},
	} {
		_, err := run_(t, append([]string{"sheet", demoFile}, c.args...)...)
		assert.ErrorContains(t, err, c.says)
	}
}
