package main

import (
	"encoding/json"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/night"
)

func TestANightIsPlannedAnew(t *testing.T) {
	onItsOwn(t)
	out, err := run_(
		t,
		"night",
		demoFile,
		"--show",
		"Quay stage",
		"--at",
		"Tin Cabana/Solo",
		"--call",
		"Winch Song",
		"--broke",
		"Rotor",
	)
	require.NoError(t, err)
	assert.Contains(t, out, "Rotor is out: leave it off")
	assert.Less(t, strings.Index(out, "Tin Cabana"), strings.Index(out, "Winch Song"))
	assert.Less(t, strings.Index(out, "Winch Song"), strings.Index(out, "Rope & Lantern"))
	assert.Equal(t, 1, strings.Count(out, "Winch Song"))

	events := filepath.Join(t.TempDir(), "events.json")
	require.NoError(t, os.WriteFile(events, []byte(`[{"id":"a","kind":"called","at_ms":5,"song":"winch"}]`), 0o600))
	out, err = run_(t, "night", demoFile, "--show", "quay-12", "--events", events, "--json")
	require.NoError(t, err)
	var e night.Evening
	require.NoError(t, json.Unmarshal([]byte(out), &e))
	assert.Equal(t, "Winch Song", e.Order[0].Title)

	// What the flags say happens after what is told, whenever that was.
	late := `[{"id":"a","kind":"called","at_ms":1800000000000,"song":"winch"}]`
	require.NoError(t, os.WriteFile(events, []byte(late), 0o600))
	out, err = run_(t, "night", demoFile, "--show", "quay-12", "--events", events, "--call", "Paper Sail", "--json")
	require.NoError(t, err)
	require.NoError(t, json.Unmarshal([]byte(out), &e))
	assert.Equal(t, []string{"Paper Sail", "Winch Song"}, []string{e.Order[0].Title, e.Order[1].Title})

	out, err = run_(t, "night", demoFile, "--show", "quay-12", "--breaks")
	require.NoError(t, err)
	assert.Contains(t, out, "Driftwood\n  1  played on Bulkhead: ")
	out, err = run_(t, "night", demoFile, "--show", "quay-12", "--breaks", "--json")
	require.NoError(t, err)
	var breaks []night.Break
	require.NoError(t, json.Unmarshal([]byte(out), &breaks))
	assert.NotEmpty(t, breaks)
}

func TestANightIsGoneThrough(t *testing.T) {
	onItsOwn(t)
	events := filepath.Join(t.TempDir(), "events.json")
	require.NoError(t, os.WriteFile(events, []byte(`[
		{"id":"a","kind":"at","at_ms":1000,"page":"p","entry":"e1","section":"ferry-lights-1"},
		{"id":"b","kind":"called","at_ms":2000,"entry":"e1","song":"winch"},
		{"id":"c","kind":"at","at_ms":3000,"page":"p","entry":"e9","section":"winch-1"}]`), 0o600))
	out, err := run_(t, "night", demoFile, "--show", "quay-12", "--events", events, "--review")
	require.NoError(t, err)
	assert.Contains(t, out, "Played: Ferry Lights, Winch Song\n")
	assert.Contains(t, out, "0 changes of the night undecided, 0 checks ticked off.")
	out, err = run_(t, "night", demoFile, "--show", "quay-12", "--events", events, "--review", "--json")
	require.NoError(t, err)
	var r night.Review
	require.NoError(t, json.Unmarshal([]byte(out), &r))
	assert.Equal(t, []string{"Winch Song"}, r.Order.Called)
}

func TestWhatDoesNotFitANightIsSaid(t *testing.T) {
	onItsOwn(t)
	bad := filepath.Join(t.TempDir(), "bad.json")
	require.NoError(t, os.WriteFile(bad, []byte(`[{"id":"a","kind":"called","song":"nope"}]`), 0o600))
	none := filepath.Join(t.TempDir(), "none.json")
	require.NoError(t, os.WriteFile(none, []byte(`{"id":1}`), 0o600))
	for want, flags := range map[string][]string{
		"Waltz is not played tonight":              {"--at", "Waltz"},
		`Tin Cabana has no section "Coda"`:         {"--at", "Tin Cabana/Coda"},
		`there is no song "Waltz"`:                 {"--call", "Waltz"},
		"Banjo is not in the rig tonight":          {"--broke", "Banjo"},
		"there are 1 ways round Rotor":             {"--broke", "Rotor", "--way", "7"},
		`there is no rig "nope"`:                   {"--rig", "nope"},
		`event 1: there is no song "nope" to call`: {"--events", bad},
		"holds no list of events":                  {"--events", none},
	} {
		_, err := run_(t, append([]string{"night", demoFile, "--show", "quay-12"}, flags...)...)
		require.Error(t, err, want)
		assert.Contains(t, err.Error(), want)
	}
}

func TestASoundcheckIsPrinted(t *testing.T) {
	onItsOwn(t)
	out, err := run_(t, "soundcheck", demoFile, "--show", "Quay stage", "--minutes", "4")
	require.NoError(t, err)
	assert.Contains(t, out, "of 4 minutes\n  [ ] ")
	assert.Contains(t, out, "No time for:")
	_, err = run_(t, "soundcheck", demoFile, "--show", "Quay stage", "--minutes", "0")
	require.ErrorContains(t, err, "between 0 and 240 minutes")
}
