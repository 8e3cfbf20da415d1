package main

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
)

// nightFile is the demo with a night written down.
func nightFile(t *testing.T) string {
	data, err := os.ReadFile(demoFile)
	require.NoError(t, err)
	p, err := plan.Decode(data)
	require.NoError(t, err)
	value := plan.Number(410)
	p.Shows[0].Faults = []plan.Fault{{Text: "Crackled", Gear: "amber", Lead: true, Cured: "other lead"}}
	p.Shows[0].Fixes = []plan.Fix{{Text: "Slower echo", Key: "echo/fx/time", Value: &value, Preset: "B"}}
	file := filepath.Join(t.TempDir(), "night.envex.json")
	data, err = plan.Encode(p)
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(file, data, 0o600))
	return file
}

func TestTheLogIsReadAndSearched(t *testing.T) {
	file := nightFile(t)
	out, err := run_(t, "log", file, "--gear", "Amber", "--show", "quay-12")
	require.NoError(t, err)
	assert.Equal(t, "2027-06-12 Quay stage | fault | the lead into Amber | Crackled | cured: other lead\n", out)
	out, err = run_(t, "log", file, "--search", "slower ECHO")
	require.NoError(t, err)
	assert.Equal(t, "2027-06-12 Quay stage | change | Echo | Slower echo | Echo time to 410 ms in preset B of Echo\n", out)
	out, err = run_(t, "log", file, "--kind", "fault", "--show", "quay-12", "--json")
	require.NoError(t, err)
	assert.Contains(t, out, `"cured": "other lead"`)
	_, err = run_(t, "log", file, "--kind", "gossip")
	require.ErrorContains(t, err, "before, fault, change, battery and after")
	_, err = run_(t, "log", file, "--gear", "nothing")
	require.ErrorContains(t, err, "nothing")
}

func TestAChangeIsKeptInAFileAndSaidInWords(t *testing.T) {
	file := nightFile(t)
	kept := filepath.Join(t.TempDir(), "kept.envex.json")
	_, err := run_(t, "keep", file, "--show", "quay-12", "--change", "1", "-o", kept)
	require.NoError(t, err)
	out, err := run_(t, "differences", file, kept, "--rig", "long board")
	require.NoError(t, err)
	assert.Equal(t, "Echo preset B time 380 to 410 ms\n", out)
	out, err = run_(t, "keep", kept, "--show", "quay-12", "--leave")
	require.NoError(t, err)
	assert.Contains(t, out, `"keep": "left"`)
	_, err = run_(t, "keep", file, "--show", "quay-12", "--change", "2")
	require.ErrorContains(t, err, "no change 2")
	out, err = run_(t, "differences", file, file, "--rig", "long", "--json")
	require.NoError(t, err)
	assert.Equal(t, "[]", strings.TrimSpace(out))
	_, err = run_(t, "differences", file, filepath.Join(t.TempDir(), "gone.json"), "--rig", "long")
	require.Error(t, err)
}

func TestASongAsChordProComesIn(t *testing.T) {
	song := filepath.Join(t.TempDir(), "windlass.cho")
	require.NoError(t, os.WriteFile(song, []byte("{t: Windlass}\n{tempo: 96}\n{sov}\n{eov}\n"), 0o600))
	db := filepath.Join(t.TempDir(), "plan.db")
	_, err := run_(t, "import", song, "--db", db)
	require.NoError(t, err)
	out, err := run_(t, "export", "--db", db)
	require.NoError(t, err)
	assert.Contains(t, out, `"title": "Windlass"`)
	require.NoError(t, os.WriteFile(song, []byte("{t: Windlass}\n{capo: 40}\n"), 0o600))
	out, err = run_(t, "import", song, "--db", db)
	require.NoError(t, err)
	assert.Contains(t, out, `Line 2 is left out: "40" is no capo from 0 to 24.`)
	assert.Contains(t, out, "Windlass is the song that is here already.")
	require.NoError(t, os.WriteFile(song, []byte("{t: Windlass}\n{tempo: 99}\n"), 0o600))
	out, err = run_(t, "import", song, "--db", db)
	require.ErrorContains(t, err, "say --on-conflict", "which tempo holds is asked")
	assert.Contains(t, out, "the tempo is 96 here and 99 there")
}
