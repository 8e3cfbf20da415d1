package main

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/google/licenseclassifier/v2/assets"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/about/licences"
)

func TestNothingShipsWithoutBeingListed(t *testing.T) {
	list, err := licences.Gathered()
	require.NoError(t, err)
	listed := map[string]string{}
	for _, p := range list.Parts {
		listed[p.Name] = p.Version
	}
	parts, err := modulesOf("../..")
	require.NoError(t, err)
	packages, err := packagesOf("../..")
	require.NoError(t, err)
	require.Greater(t, len(parts), 20)
	require.Greater(t, len(packages), 20)
	for _, p := range append(parts, packages...) {
		assert.Equal(t, p.version, listed[p.name], "%s: run make generate", p.name)
		delete(listed, p.name)
	}
	assert.Empty(t, listed, "what is listed ships")
}

func TestALicenceIsFoundOrMissed(t *testing.T) {
	knows, err := assets.DefaultClassifier()
	require.NoError(t, err)
	write := func(name, text string) string {
		folder := t.TempDir()
		require.NoError(t, os.WriteFile(filepath.Join(folder, name), []byte(text), 0o600))
		return folder
	}
	mit, err := os.ReadFile("testdata/mit.txt")
	require.NoError(t, err)
	id, text, err := licenceIn(knows, write("LICENSE.md", string(mit)))
	require.NoError(t, err)
	assert.Equal(t, "MIT", id)
	assert.Contains(t, text, "Permission is hereby granted")
	id, _, err = licenceIn(knows, write("package.json", `{"license":"ISC"}`))
	require.NoError(t, err)
	assert.Equal(t, "ISC", id)
	for name, text := range map[string]string{
		"LICENSE": "All rights reserved.", "package.json": `{"name":"x"}`, "README": "MIT",
	} {
		_, _, err = licenceIn(knows, write(name, text))
		assert.ErrorContains(t, err, "no licence that is known lies in its folder", name)
	}
}
