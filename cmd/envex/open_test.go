package main

import (
	"bufio"
	"bytes"
	"context"
	"io"
	"net"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestAPlayersPlanIsInTheirDataFolder(t *testing.T) {
	env := func(pairs ...string) func(string) string {
		return func(name string) string {
			for i := 0; i < len(pairs); i += 2 {
				if pairs[i] == name {
					return pairs[i+1]
				}
			}
			return ""
		}
	}
	for _, c := range []struct {
		system string
		env    func(string) string
		want   string
	}{
		{"linux", env("HOME", "/home/kelp"), "/home/kelp/.local/share/envex"},
		{"linux", env("HOME", "/home/kelp", "XDG_DATA_HOME", "/data"), "/data/envex"},
		{"linux", env("HOME", "/home/kelp", "XDG_DATA_HOME", "data"), "/home/kelp/.local/share/envex"},
		{"darwin", env("HOME", "/Users/kelp"), "/Users/kelp/Library/Application Support/Envex"},
		{"windows", env("LocalAppData", "/c/kelp"), "/c/kelp/Envex"},
	} {
		got, err := dataFolder(c.system, c.env)
		require.NoError(t, err)
		assert.Equal(t, c.want, filepath.ToSlash(got))
	}
	for _, system := range []string{"linux", "darwin", "windows"} {
		_, err := dataFolder(system, env())
		assert.ErrorContains(t, err, "no folder for data")
	}
}

// Envex alone opens the plan of the player and the browser, steps over a port that is taken, and a second start shows the
// first.
func TestEnvexAloneNeedsNoKnowledge(t *testing.T) {
	home := t.TempDir()
	seen := filepath.Join(home, "seen")
	browser := filepath.Join(home, "browser")
	require.NoError(t, os.WriteFile(browser, []byte("#!/bin/sh\necho \"$1\" >> "+seen+"\n"), 0o755))
	t.Setenv("XDG_DATA_HOME", home)
	t.Setenv("BROWSER", browser)
	if taken, err := net.Listen("tcp", defaultAddr); err == nil {
		defer taken.Close()
	}
	ctx, cancel := context.WithCancel(t.Context())
	defer cancel()
	read, write := io.Pipe()
	var errors bytes.Buffer
	c := root()
	c.SetOut(write)
	c.SetErr(&errors)
	c.SetArgs(nil)
	ended := make(chan error, 1)
	go func() { ended <- c.ExecuteContext(ctx) }()
	line, err := bufio.NewReader(read).ReadString('\n')
	require.NoError(t, err)
	address, ok := strings.CutPrefix(strings.TrimSpace(line), "Envex is at ")
	require.True(t, ok, line)
	assert.NotContains(t, address, defaultAddr)
	assert.FileExists(t, filepath.Join(home, "envex", "plan.db"))
	shown := func(want int) {
		require.Eventually(t, func() bool {
			text, _ := os.ReadFile(seen)
			return strings.Count(string(text), address) == want
		}, 10*time.Second, 20*time.Millisecond)
	}
	shown(1)
	out, err := run_(t)
	require.NoError(t, err)
	assert.Equal(t, "Envex is running already, at "+address+"\n", out)
	shown(2)
	out, err = run_(t, "--no-browser")
	require.NoError(t, err)
	assert.Contains(t, out, address)
	shown(2)
	cancel()
	require.NoError(t, <-ended)
	assert.Contains(t, errors.String(), "Port 8420 is taken by another program")
}

func TestTheVersionIsSaid(t *testing.T) {
	out, err := run_(t, "version")
	require.NoError(t, err)
	assert.Contains(t, out, "envex development")
	out, err = run_(t, "version", "--json")
	require.NoError(t, err)
	assert.Contains(t, out, `"version": "development"`)
	_, err = run_(t, "nonsense")
	assert.Error(t, err)
}

func TestWhatShipsIsListedWithItsLicences(t *testing.T) {
	out, err := run_(t, "licences")
	require.NoError(t, err)
	assert.Contains(t, out, "MIT\tgithub.com/gin-gonic/gin v")
	assert.NotContains(t, out, "Permission is hereby granted")
	out, err = run_(t, "licences", "--texts")
	require.NoError(t, err)
	assert.Contains(t, out, "Permission is hereby granted")
}
