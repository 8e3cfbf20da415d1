package main

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/tidwall/gjson"
)

func TestASwapSlotFromAFile(t *testing.T) {
	onItsOwn(t)
	made, with := filepath.Join(t.TempDir(), "slot.json"), filepath.Join(t.TempDir(), "with.json")
	out, err := run_(t, "swap", demoFile, "--rig", "Carry-on board")
	require.NoError(t, err)
	assert.Equal(t, "Carry-on board has no swap slots\n", out)
	_, err = run_(t, "swap", demoFile, "--rig", "Carry-on board", "--box", "Slap", "--with", "Flutter", "-o", made)
	require.NoError(t, err)
	_, err = run_(t, "swap", made, "--rig", "carry", "--box", "Slap", "--with", "Echo", "-o", made)
	require.NoError(t, err)
	out, err = run_(t, "swap", made, "--rig", "carry")
	require.NoError(t, err)
	assert.Equal(t, "Slap or Flutter\n  Slap, in the chain\n  Flutter\n  Echo\n", out)

	// What another command is asked for one pick, it says of the rig with that box.
	_, err = run_(t, "swap", made, "--rig", "carry", "--pick", "Slap or Flutter=Flutter", "-o", with)
	require.NoError(t, err)
	out, err = run_(t, "check", with)
	require.NoError(t, err, out)
	for _, command := range []string{"order", "cables", "power"} {
		picked, err := run_(t, command, made, "--rig", "carry", "--pick", "slot-1=flutter", "--json")
		require.NoError(t, err)
		there, err := run_(t, command, with, "--rig", "carry", "--json")
		require.NoError(t, err)
		assert.JSONEq(t, there, picked, command)
		assert.Contains(t, picked, "flutter", command)
	}
	out, err = run_(t, "beside", made, "--rig", "carry", "--setlist", "quay-set", "--slot", "Slap or Flutter", "--json")
	require.NoError(t, err)
	assert.Equal(t, `["Slap","Flutter","Echo"]`, gjson.Get(out, "columns.#.name").Raw)
	out, err = run_(
		t,
		"beside",
		made,
		"--rig",
		"long",
		"--setlist",
		"quay-set",
		"--into",
		"Hired head",
		"--tempo",
		"-4",
	)
	require.NoError(t, err)
	for _, words := range []string{"As it stands: reach ", "Hired head: reach ", "4 % slower: reach ", "LU, ", "mA, "} {
		assert.Contains(t, out, words)
	}

	// A song is played with another box: the chain stays as it is, and the figures of the song are of that box.
	asked := filepath.Join(t.TempDir(), "asked.json")
	whole, err := os.ReadFile(demoFile)
	require.NoError(t, err)
	song := gjson.GetBytes(whole, "songs.0.title").String()
	_, err = run_(t, "swap", made, "--rig", "carry", "--pick", "Slap or Flutter=Flutter", "--song", song, "-o", asked)
	require.NoError(t, err)
	out, err = run_(t, "swap", asked, "--rig", "carry")
	require.NoError(t, err)
	assert.Equal(t, "Slap or Flutter\n  Slap, in the chain\n  Flutter, for "+song+"\n  Echo\n", out)
	sound := gjson.GetBytes(whole, "songs.0.sections.0.sound").String()
	figures := func(args ...string) string {
		out, err := run_(t, append([]string{"signal", "--rig", "carry", "--sound", sound, "--json"}, args...)...)
		require.NoError(t, err)
		return gjson.Get(out, "sounds").Raw
	}
	assert.JSONEq(t, figures(with, "--song", song), figures(asked, "--song", song))
	assert.NotEqual(t, figures(asked), figures(asked, "--song", song))

	for _, args := range [][]string{
		{"swap", made, "--rig", "carry", "--song", song},
		{"swap", made, "--rig", "carry", "--pick", "slot-1=Flutter", "--song", "nothing"},
		{"swap", made, "--rig", "carry", "--pick", "slot-1=Nudge", "--song", song},
		{"signal", made, "--rig", "carry", "--song", "nothing"},
		{"swap", made, "--rig", "carry", "--box", "Slap"},
		{"swap", made, "--rig", "carry", "--box", "Slap", "--with", "Nudge"},
		{"swap", made, "--rig", "carry", "--box", "nothing", "--with", "Room"},
		{"swap", made, "--rig", "carry", "--box", "Slap", "--with", "nothing"},
		{"swap", made, "--rig", "carry", "--pick", "Flutter"},
		{"swap", made, "--rig", "carry", "--pick", "Nothing=Flutter"},
		{"swap", made, "--rig", "carry", "--pick", "slot-1=Nudge"},
		{"swap", made, "--rig", "carry", "--pick", "slot-1=nothing"},
		{"beside", made, "--rig", "carry", "--setlist", "quay-set"},
		{"beside", made, "--rig", "carry", "--setlist", "quay-set", "--slot", "nothing"},
		{"beside", made, "--rig", "long", "--setlist", "quay-set", "--slot", "slot-1"},
		{"beside", made, "--rig", "carry", "--setlist", "quay-set", "--into", "nothing"},
		{"beside", made, "--rig", "carry", "--setlist", "nothing", "--tempo", "4"},
		{"beside", made, "--rig", "carry", "--setlist", "quay-set", "--tempo", "400"},
	} {
		_, err := run_(t, args...)
		assert.Error(t, err, args)
	}
}
