package main

import (
	"bytes"
	"encoding/csv"
	"encoding/json"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/path"
	"envex/core/plan"
	"envex/core/reach"
	"envex/demo"
)

const (
	demoFile  = "../../demo/kelp-street-nine.envex.json"
	smallFile = "../../demo/testdata/small.envex.json" // a pedal and an amp: rendered in a moment
)

func run_(t *testing.T, args ...string) (string, error) {
	t.Helper()
	c := root()
	var out bytes.Buffer
	c.SetOut(&out)
	c.SetErr(&bytes.Buffer{})
	c.SetArgs(args)
	err := c.ExecuteContext(t.Context())
	return out.String(), err
}

// onItsOwn skips what runs one thing at a time where the run is to be short: the race detector would find nothing.
func onItsOwn(t *testing.T) {
	t.Helper()
	if testing.Short() {
		t.Skip("nothing in it is concurrent")
	}
}

func TestReachCommand(t *testing.T) {
	out, err := run_(t, "reach", demoFile, "--rig", "Long board", "--setlist", "Quay set", "--json")
	require.NoError(t, err)
	var r reach.Report
	require.NoError(t, json.Unmarshal([]byte(out), &r))
	assert.Equal(t, 76, r.Reach.Total)
	assert.Equal(t, r.Reach.Total, len(r.Changes))
	assert.Equal(t, r.Reach.Reached, r.Reach.InTime+r.Reach.Tight)

	out, err = run_(t, "reach", demoFile, "--rig", "carry")
	require.NoError(t, err, "the only set list need not be named")
	assert.Contains(t, out, "Carry-on board has no recipe for Shimmer.")
	out, err = run_(t, "reach", demoFile, "--rig", "long", "--any-order")
	require.NoError(t, err)
	assert.Contains(t, out, "songs in any order: 163 of 182 changes possible")
	out, err = run_(t, "reach", smallFile, "--setlist", "set", "--any-order")
	require.NoError(t, err)
	assert.Equal(t, "Small rig, set: no two songs to go between\n", out)
}

func TestOrderCommand(t *testing.T) {
	out, err := run_(t, "order", demoFile, "--rig", "long", "--json")
	require.NoError(t, err)
	var r path.Report
	require.NoError(t, json.Unmarshal([]byte(out), &r))
	assert.Equal(t, [2]float64{15, 4}, [2]float64{r.Cost, r.Best.Cost})
	assert.True(t, r.Best.Proven)
	out, err = run_(t, "order", demoFile, "--rig", "long")
	require.NoError(t, err)
	assert.Contains(t, out, "best order costs 4, proven the least")
	_, err = run_(t, "order", demoFile)
	assert.ErrorContains(t, err, "--rig")
}

func TestADestinationIsNamed(t *testing.T) {
	out, err := run_(t, "order", demoFile, "--rig", "long", "--destination", "dance hall, two combos")
	require.NoError(t, err)
	assert.Contains(t, out, "Long board at Dance hall, two combos")
	assert.Contains(t, out, "Caution: Never lift the mains safety earth")
	assert.Contains(t, out, "repair: Put Moat at the head of the last lane")
	out, err = run_(t, "reach", demoFile, "--rig", "long", "--setlist", "quay-set", "--destination", "long-hired")
	require.NoError(t, err)
	assert.Contains(t, out, "reach 67 of 76")
	out, err = run_(t, "cables", demoFile, "--rig", "long", "--destination", "long-two")
	require.NoError(t, err)
	assert.Contains(t, out, "Room output right > Jetty combo input")
	_, err = run_(t, "order", demoFile, "--rig", "long", "--destination", "moon")
	assert.ErrorContains(t, err, "it has Hired head, Dance hall")
	_, err = run_(t, "order", demoFile, "--rig", "carry", "--destination", "moon")
	assert.ErrorContains(t, err, "no destinations")
}

func TestCablesCommand(t *testing.T) {
	out, err := run_(t, "cables", demoFile, "--rig", "carry", "--csv")
	require.NoError(t, err)
	lines, err := csv.NewReader(strings.NewReader(out)).ReadAll()
	require.NoError(t, err)
	assert.Equal(t, []string{"from", "jack", "to", "jack", "length m", "plugs", "channels", "level", "y lead"}, lines[0])
	assert.Equal(
		t, []string{"Driftwood", "output", "Plumb", "input", "6.00", "straight", "mono", "instrument", "no"}, lines[1],
	)
	sound, power := 0, 0
	for _, l := range lines[1:] {
		if l[7] == "power" {
			power++
		} else {
			sound++
		}
	}
	assert.Equal(t, 7, sound, "seven cables")
	assert.Equal(t, 5, power, "and a lead to each box that a supply feeds")
	out, err = run_(t, "cables", demoFile, "--rig", "carry", "--json")
	require.NoError(t, err)
	assert.True(t, json.Valid([]byte(out)))
	_, err = run_(t, "cables", demoFile, "--rig", "carry", "--json", "--csv")
	assert.Error(t, err)
}

func TestBadInputIsRefused(t *testing.T) {
	_, err := run_(t, "reach", demoFile)
	assert.ErrorContains(t, err, "say which with --rig")
	_, err = run_(t, "reach", demoFile, "--rig", "Short board")
	assert.ErrorContains(t, err, `there is no rig "Short board"; there are Long board`)
	_, err = run_(t, "reach", "nowhere.json")
	assert.ErrorIs(t, err, os.ErrNotExist)

	bad := filepath.Join(t.TempDir(), "bad.json")
	data, err := os.ReadFile(demoFile)
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(bad, bytes.Replace(data, []byte(`"bpm": 104`), []byte(`"bpm": 1`), 1), 0o600))
	_, err = run_(t, "check", bad)
	var problems plan.Problems
	require.ErrorAs(t, err, &problems)
	assert.Equal(t, "songs[0].tempo.bpm", problems[0].Path)
}

func TestElectricCommand(t *testing.T) {
	out, err := run_(t, "electric", demoFile, "--rig", "bare", "--json")
	require.NoError(t, err)
	var r map[string]any
	require.NoError(t, json.Unmarshal([]byte(out), &r))
	sounds := r["sounds"].([]any)
	require.Len(t, sounds, 5)
	home := sounds[0].(map[string]any)
	assert.Equal(t, "home", home["sound"])
	assert.Len(t, home["points"], 121)
	assert.Equal(t, "pier/preamp", home["first_buffer"])
	assert.Nil(t, home["peak_hz"])
	assert.InDelta(t, -5.5, r["jump"].(map[string]any)["jump_db"], 0.05)
	assert.Equal(t, "nudge/fx", r["buffer"].(map[string]any)["before"])

	out, err = run_(
		t, "electric", demoFile, "--rig", "bare", "--sound", "Crunch", "--buffer-before", "nudge/fx", "--volume", "10",
	)
	require.NoError(t, err)
	assert.Contains(t, out, "to the buffer")
	assert.NotContains(t, out, "Home")
	for _, bad := range [][]string{
		{"--volume", "11"}, {"--sound", "Nope"}, {"--setlist", "Nope"}, {"--buffer-before", "pier/power"},
		{"--destination", "Nope"},
	} {
		_, err = run_(t, append([]string{"electric", demoFile, "--rig", "bare"}, bad...)...)
		assert.Error(t, err, bad[0])
	}
}

func TestPowerCommand(t *testing.T) {
	out, err := run_(t, "power", demoFile, "--rig", "long")
	require.NoError(t, err)
	assert.Contains(t, out, "Lantern 10 has less than 20 % in reserve")
	assert.Contains(
		t, out, "best assignment feeds 11, 0 of them beside another, the least headroom is 50 %; proven the best",
	)
	assert.Contains(t, out, "Lantern 12 at 9 V: Echo")
	assert.Contains(t, out, "licensed electrician")
	out, err = run_(t, "power", demoFile, "--rig", "bare", "--json")
	require.NoError(t, err)
	var r map[string]any
	require.NoError(t, json.Unmarshal([]byte(out), &r))
	assert.Empty(t, r["findings"])
	assert.Len(t, r["loads"], 6)
	_, err = run_(t, "power", demoFile)
	assert.ErrorContains(t, err, "say which with --rig")
}

func TestTempoCommand(t *testing.T) {
	out, err := run_(t, "tempo", "--bpm", "126", "--delay", "dotted 1/8", "--json")
	require.NoError(t, err)
	var one struct {
		Table []any
		Delay struct{ MS float64 }
	}
	require.NoError(t, json.Unmarshal([]byte(out), &one))
	assert.InDelta(t, 357.143, one.Delay.MS, 1e-3)
	assert.Len(t, one.Table, 14)
	out, err = run_(t, "tempo", "--bpm", "126", "--ms", "350")
	require.NoError(t, err)
	assert.Contains(t, out, "350 ms is nearest to dotted 1/8, -7.1 ms (-2.0 %)")
	out, err = run_(t, "tempo", demoFile, "--setlist", "Quay set", "--rig", "long")
	require.NoError(t, err)
	assert.Contains(t, out, "dotted 1/8 357 ms, set to 380 ms, stored, 3 repeats")
	assert.Contains(t, out, "Echo for Lead: 4 times serve every song, and no fewer would")
	_, err = run_(
		t, "tempo", demoFile, "--setlist", "Quay set", "--rig", "long", "--store", filepath.Join(t.TempDir(), "x.json"),
	)
	assert.ErrorContains(t, err, "Echo has 3 presets")
	_, err = run_(t, "tempo", demoFile, "--setlist", "Quay set", "--store", filepath.Join(t.TempDir(), "x.json"))
	assert.ErrorContains(t, err, "--rig")
	out, err = run_(t, "tempo", demoFile, "--json")
	require.NoError(t, err)
	assert.Contains(t, out, `"title": "Ferry Lights"`)
	for _, bad := range [][]string{
		nil, {"--bpm", "10"}, {"--bpm", "100", "--delay", "1/3"}, {"--bpm", "100", "--ms", "0"}, {demoFile, "--setlist", "x"},
		{demoFile, "--rig", "x"},
	} {
		_, err = run_(t, append([]string{"tempo"}, bad...)...)
		assert.Error(t, err, "%v", bad)
	}
}

func TestImportAndExport(t *testing.T) {
	db := filepath.Join(t.TempDir(), "plan.db")
	out, err := run_(t, "import", demoFile, "--db", db)
	require.NoError(t, err)
	assert.Contains(t, out, "added, 0 replaced")
	out, err = run_(t, "export", "--db", db)
	require.NoError(t, err)
	want, err := os.ReadFile(demoFile)
	require.NoError(t, err)
	assert.Equal(t, string(want), out)

	file := filepath.Join(t.TempDir(), "rig.json")
	_, err = run_(t, "export", "--db", db, "--rig", "Carry-on board", "-o", file)
	require.NoError(t, err)
	out, err = run_(t, "check", file)
	require.NoError(t, err)
	assert.Contains(t, out, "1 rig,")

	changed := filepath.Join(t.TempDir(), "changed.json")
	require.NoError(t, os.WriteFile(changed, bytes.Replace(want, []byte("Nine Gulls"), []byte("Ten Gulls"), 1), 0o600))
	_, err = run_(t, "import", changed, "--db", db)
	assert.ErrorContains(t, err, "nothing was changed")
	_, err = run_(t, "import", changed, "--db", db, "--on-conflict", "sometimes")
	assert.ErrorContains(t, err, "--on-conflict")
	out, err = run_(t, "import", changed, "--db", db, "--on-conflict", "replace")
	require.NoError(t, err)
	assert.Contains(t, out, "1 replaced")
	_, err = run_(t, "export", "--db", filepath.Join(t.TempDir(), "none.db"))
	assert.ErrorIs(t, err, os.ErrNotExist)
}

func TestSongsComeAndGoInOpenFormats(t *testing.T) {
	dir := t.TempDir()
	db := filepath.Join(dir, "plan.db")
	_, err := run_(t, "import", demoFile, "--db", db)
	require.NoError(t, err)
	list, song := filepath.Join(dir, "Night.csv"), filepath.Join(dir, "cabana.mid")
	_, err = run_(t, "export", "--db", db, "--format", "csv", "-o", list)
	require.NoError(t, err)
	_, err = run_(t, "export", "--db", db, "--format", "smf", "--song", "Tin Cabana", "--rig", "long", "-o", song)
	require.NoError(t, err)

	out, err := run_(t, "import", song, "--db", db, "--dry-run")
	require.NoError(t, err)
	assert.Contains(t, out, "Tin Cabana, 126 bpm, 4/4, 7 sections")
	assert.Contains(t, out, "Tin Cabana is the song that is here already.")
	assert.Contains(t, out, "0 added")
	template, err := run_(t, "import", "--template")
	require.NoError(t, err)
	assert.Contains(t, template, "title,bpm,beat,meter")
	_, err = run_(t, "import")
	require.ErrorContains(t, err, "say which FILE")
	other := filepath.Join(dir, "other.db")
	out, err = run_(t, "import", list, "--db", other)
	require.NoError(t, err)
	assert.Contains(t, out, "Ferry Lights, 104 bpm, 4/4, 6 sections")
	assert.Contains(t, out, "Crunch is no sound here; Home stands in.")
	out, err = run_(t, "export", "--db", other, "--format", "csv")
	require.NoError(t, err)
	assert.Contains(t, out, "Lamp Room Waltz,112,,3/4")

	bad := filepath.Join(dir, "bad.csv")
	require.NoError(t, os.WriteFile(bad, []byte("title,bpm\nA,100\nB,fast\n"), 0o600))
	_, err = run_(t, "import", bad, "--db", other)
	assert.ErrorContains(t, err, `line 3: "fast" is no tempo`)
	for _, flags := range [][]string{
		{"--format", "wav"}, {"--format", "smf", "--song", "Nope"}, {"--format", "smf", "--rig", "Nope"},
		{"--format", "csv", "--setlist", "Nope"},
	} {
		_, err = run_(t, append([]string{"export", "--db", db}, flags...)...)
		assert.Error(t, err, "%v", flags)
	}
}

func TestKindsAndDocuments(t *testing.T) {
	for _, args := range [][]string{{"kinds", "--json"}, {"schema"}, {"openapi"}} {
		out, err := run_(t, args...)
		require.NoError(t, err)
		assert.True(t, json.Valid([]byte(out)), "%v", args)
	}
}

// says is what a command that works prints.
func says(t *testing.T, args ...string) string {
	t.Helper()
	out, err := run_(t, args...)
	require.NoError(t, err)
	return out
}

func TestSwitchingCommands(t *testing.T) {
	onItsOwn(t)
	out := says(
		t, "switch", demoFile, "--rig", "Long board", "--setlist", "Quay set", "--controller", "Turntable", "--loops",
	)
	assert.Contains(t, out, "no layout takes fewer, proven")
	assert.Contains(t, out, "loop 5: Silt, held on")
	out = says(t, "switch", demoFile, "--rig", "switched", "--school", "direct")
	assert.Contains(t, out, "has 4 switches")

	out = says(t, "repairs", demoFile, "--rig", "Carry-on board", "--setlist", "Quay set")
	assert.Contains(t, out, "It needs Echo and Rotor in the chain, and a recipe: Long board makes Shimmer with them.")
	var report struct {
		Before   struct{ Reached int }
		Failures []struct{ Repairs []struct{ Words string } }
	}
	require.NoError(
		t,
		json.Unmarshal(
			[]byte(says(t, "repairs", demoFile, "--rig", "Long board", "--destination", "Hired head", "--json")), &report,
		),
	)
	assert.NotEmpty(t, report.Failures)

	out = says(t, "compare", demoFile, "--rig", "Long board", "--with", "Carry-on board")
	assert.Contains(t, out, "Lead: It is made without delay.")
	assert.Contains(t, out, "Add Echo and Rotor, for Shimmer: reach 76 of 76")
	assert.Contains(
		t, says(t, "whatif", demoFile, "--rig", "Long board", "--gear", "Turntable"), "reach 75 of 76, 71 of 76 without it",
	)
	assert.Contains(t, says(t, "whatif", demoFile, "--rig", "Carry-on board", "--kind", "boost"), "58 of 58 without it")
}

func TestMIDICommand(t *testing.T) {
	var solved struct{ Rig json.RawMessage }
	require.NoError(t, json.Unmarshal([]byte(says(t, "switch", demoFile, "--rig", "switched", "--json")), &solved))
	p := demo.Plan()
	rig, err := plan.DecodeAggregate(plan.KindRig, solved.Rig)
	require.NoError(t, err)
	p.Put(rig)
	data, err := plan.Encode(p)
	require.NoError(t, err)
	file := filepath.Join(t.TempDir(), "taken.json")
	require.NoError(t, os.WriteFile(file, data, 0o600))
	rows, err := csv.NewReader(strings.NewReader(says(t, "midi", file, "--rig", "switched", "--csv"))).ReadAll()
	require.NoError(t, err)
	assert.Equal(
		t,
		[]string{
			"controller", "bank", "slot", "program", "to", "kind", "channel", "number", "value", "shown", "bytes", "does",
		},
		rows[0],
	)
	assert.Contains(
		t, rows,
		[]string{"Turntable", "1", "4", "Lead", "Echo", "program change", "3", "1", "", "2", "C2 01", "Echo preset B"},
	)
	assert.Contains(t, says(t, "midi", file, "--rig", "switched"), "Echo preset B: program change 1 on channel 3")
}

func TestSectionsAreListedAndMarked(t *testing.T) {
	out, err := run_(t, "sections", demoFile, "--setlist", "Quay set")
	require.NoError(t, err)
	assert.Contains(t, out, "Verse")
	file := filepath.Join(t.TempDir(), "sung.json")
	_, err = run_(t, "sections", demoFile, "--label", "chorus", "--singing", "yes", "--rest", "1", "-o", file)
	require.NoError(t, err)
	out, err = run_(t, "sections", file, "--json")
	require.NoError(t, err)
	var groups []plan.SectionGroup
	require.NoError(t, json.Unmarshal([]byte(out), &groups))
	i := slices.IndexFunc(groups, func(g plan.SectionGroup) bool { return g.Label == "Chorus" })
	assert.Equal(t, groups[i].Sections, groups[i].Singing)
	assert.Equal(t, 1.0, *groups[i].Rest)
	for _, bad := range [][]string{
		{"--label", "verse"}, {"--singing", "yes"}, {"--label", "verse", "--singing", "often"},
		{"--label", "verse", "--bars", "5000"}, {"--setlist", "nope"},
	} {
		_, err = run_(t, append([]string{"sections", demoFile}, bad...)...)
		assert.Error(t, err, bad)
	}
}

func TestPresetsGoIntoTheOrderOfTheSet(t *testing.T) {
	file := filepath.Join(t.TempDir(), "ordered.json")
	at := []string{"--rig", "long", "--setlist", "Quay set", "--gear", "Echo", "--set-order"}
	out, err := run_(t, append([]string{"presets", demoFile, "-o", file}, at...)...)
	require.NoError(t, err)
	assert.Contains(t, out, "change places; copy them in the device too")
	out, err = run_(t, append([]string{"presets", file}, at...)...)
	require.NoError(t, err)
	assert.Equal(t, "The presets of Echo stand in the order of the set.\n", out)
}
