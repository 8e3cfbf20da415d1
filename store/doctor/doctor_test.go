package doctor_test

import (
	"context"
	"database/sql"
	"fmt"
	"math/rand/v2"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/demo"
	"envex/store"
	"envex/store/doctor"
)

var ctx = context.Background()

func clock() time.Time { return time.Date(2027, 6, 12, 20, 0, 0, 0, time.UTC) }

func sound(id, name string) plan.Sound {
	return plan.Sound{ID: plan.ID(id), Name: name, Short: id, Role: plan.RhythmRole, Tape: "bone"}
}

func song(id, name string) plan.Song {
	return plan.Song{
		ID: plan.ID(id), Title: name, Tempo: plan.Tempo{BPM: 100}, Meter: plan.Meter{Beats: 4, Unit: 4},
		Sections: []plan.Section{{ID: "x", Label: "x", Sound: "a"}},
	}
}

// patient is a database with a song, its sound in three versions, a sound that was removed, and a rehearsal.
func patient(t *testing.T) string {
	t.Helper()
	path := filepath.Join(t.TempDir(), "plan.db")
	s, err := store.Open(ctx, path, clock)
	require.NoError(t, err)
	apply := func(edits ...store.Edit) {
		_, err := s.Apply(ctx, "Edit", "", edits...)
		require.NoError(t, err)
	}
	apply(store.Edit{Put: sound("a", "one")})
	apply(store.Edit{Put: song("t", "Tune")}, store.Edit{Put: sound("b", "Removed")})
	apply(store.Edit{Read: 1, Put: sound("a", "two")})
	apply(store.Edit{Read: 2, Put: sound("a", "three")})
	apply(store.Edit{Read: 1, Remove: "b"})
	_, _, err = s.KeepRehearsal(ctx, "r", "l", "", []byte(`{"played":1}`))
	require.NoError(t, err)
	_, err = s.Happened(ctx, "show", []store.NightEvent{{Event: "a", Doc: []byte(`{"note":1}`)}})
	require.NoError(t, err)
	require.NoError(t, s.Close())
	return path
}

func operate(t *testing.T, path string, statements ...string) {
	t.Helper()
	db, err := sql.Open("sqlite", "file:"+path)
	require.NoError(t, err)
	for _, s := range statements {
		_, err := db.Exec(s)
		require.NoError(t, err, s)
	}
	require.NoError(t, db.Close())
}

// repaired repairs a database, of which nothing may be edited, and opens the new one.
func repaired(t *testing.T, path string) (*doctor.Report, *store.Store) {
	t.Helper()
	before := read(t, path)
	to := filepath.Join(t.TempDir(), "new.db")
	report, err := doctor.Repair(ctx, path, to, clock)
	require.NoError(t, err)
	assert.Equal(t, before, read(t, path), "the patient is as it was")
	s, err := store.Open(ctx, to, clock)
	require.NoError(t, err)
	t.Cleanup(func() { _ = s.Close() })
	return report, s
}

// read is everything that is in and beside a database, but for its lock.
func read(t *testing.T, path string) map[string]string {
	t.Helper()
	entries, err := os.ReadDir(filepath.Dir(path))
	require.NoError(t, err)
	files := map[string]string{}
	for _, e := range entries {
		if !e.IsDir() && filepath.Ext(e.Name()) != ".lock" {
			data, err := os.ReadFile(filepath.Join(filepath.Dir(path), e.Name()))
			require.NoError(t, err)
			files[e.Name()] = string(data)
		}
	}
	return files
}

func names(s *store.Store) []string {
	p, _ := s.Plan()
	list := []string{}
	for _, a := range p.All() {
		list = append(list, a.Label())
	}
	return list
}

func TestOneThatIsWellIsSound(t *testing.T) {
	path := patient(t)
	report, err := doctor.Examine(ctx, path, clock)
	require.NoError(t, err)
	assert.True(t, report.Sound, report)
	assert.Equal(t, store.Contents{Sounds: 1, Songs: 1, Rehearsals: 1, Revisions: 6}, report.Contents)

	report, s := repaired(t, path)
	assert.True(t, report.Sound)
	assert.Equal(t, []string{"three", "Tune"}, names(s))
	night, err := s.Night(ctx, "show", 0)
	require.NoError(t, err)
	assert.Len(t, night, 1)
	list, err := s.Rehearsals(ctx, "r", "l")
	require.NoError(t, err)
	assert.Len(t, list, 1)
	for _, want := range [][]string{
		{"three", "Removed", "Tune"}, {"two", "Removed", "Tune"}, {"one", "Removed", "Tune"}, {"one"}, {},
	} {
		_, _, err := s.Undo(ctx, 0)
		require.NoError(t, err)
		assert.Equal(t, want, names(s), "all that was done can be undone")
	}
}

func TestTheNewestSoundVersionIsBroughtBack(t *testing.T) {
	tests := map[string]struct {
		damage []string
		state  string
		why    string
		names  []string
	}{
		"what stands is broken": {
			[]string{`UPDATE aggregates SET doc = '{"id":"a",' WHERE id = 'a'`},
			doctor.Older, "what stands of it cannot be read", []string{"three", "Tune"},
		},
		"the newest is broken": {
			[]string{
				`UPDATE aggregates SET doc = x'00ff' WHERE id = 'a'`,
				`UPDATE revisions SET doc = 'x' WHERE id = 'a' AND version = 3`,
			},
			doctor.Older, "what stands of it cannot be read", []string{"two", "Tune"},
		},
		"the newest is of another thing": {
			[]string{
				`UPDATE revisions SET doc = (SELECT doc FROM revisions WHERE id = 't') WHERE id = 'a' AND version > 1`,
				`UPDATE aggregates SET doc = (SELECT doc FROM revisions WHERE id = 't') WHERE id = 'a'`,
			},
			doctor.Older, "what stands of it cannot be read", []string{"one", "Tune"},
		},
		"the two differ": {
			[]string{`UPDATE aggregates SET doc = replace(doc, 'three', 'thrxe') WHERE id = 'a'`},
			doctor.Older, "what stands of it is not what was written last", []string{"thrxe", "Tune"},
		},
		"it was removed though it is needed": {
			[]string{
				`UPDATE aggregates SET doc = NULL, version = 4 WHERE id = 'a'`,
				`INSERT INTO revisions VALUES ('a', 4, 4, NULL, '', 'by hand')`,
			},
			doctor.Back, "it was removed while Tune still needs it", []string{"three", "Tune"},
		},
		"its newest does not go with the rest": {
			[]string{
				`UPDATE aggregates SET doc = replace(doc, '"bone"', '"glass"') WHERE id = 'a'`,
				`UPDATE revisions SET doc = replace(doc, '"bone"', '"glass"') WHERE id = 'a' AND version = 3`,
			},
			doctor.Older, "it does not go with the rest: ", []string{"two", "Tune"},
		},
		"its line is gone": {
			[]string{`PRAGMA foreign_keys = 0`, `DELETE FROM aggregates WHERE id = 'a'`},
			doctor.Sound, "", []string{"Tune", "three"},
		},
		"no version of it is left": {
			[]string{`UPDATE revisions SET doc = 'x' WHERE id = 'a'`, `UPDATE aggregates SET doc = 'x' WHERE id = 'a'`},
			doctor.Lost, "what stands of it cannot be read", []string{},
		},
	}
	for name, test := range tests {
		t.Run(name, func(t *testing.T) {
			path := patient(t)
			operate(t, path, test.damage...)
			report, s := repaired(t, path)
			assert.ElementsMatch(t, test.names, names(s))
			if test.state == doctor.Sound {
				return
			}
			require.NotEmpty(t, report.Things)
			assert.False(t, report.Sound)
			assert.Equal(t, test.state, report.Things[0].State)
			assert.Contains(t, report.Things[0].Why, test.why)
			_, err := store.Open(ctx, path, clock)
			var wrong *store.DamagedError
			require.ErrorAs(t, err, &wrong, "it is not opened as if nothing were")
		})
	}
}

func TestTheLogIsSpokenOf(t *testing.T) {
	path := patient(t)
	s, err := store.Open(ctx, path, clock)
	require.NoError(t, err)
	_, err = s.Apply(ctx, "Edit", "", store.Edit{Read: 3, Put: sound("a", "four")})
	require.NoError(t, err)
	_, err = doctor.Examine(ctx, path, clock)
	var owned *store.OwnedError
	require.ErrorAs(t, err, &owned, "one that is in use is left to whoever uses it")
	dir := t.TempDir()
	for _, end := range []string{"", "-wal"} {
		data, err := os.ReadFile(path + end)
		require.NoError(t, err)
		require.NoError(t, os.WriteFile(filepath.Join(dir, "plan.db"+end), data, 0o600))
	}
	require.NoError(t, s.Close())
	alone := filepath.Join(dir, "plan.db")
	report, cured := repaired(t, alone)
	assert.True(t, report.Sound)
	assert.Equal(t, []string{"four", "Tune"}, names(cured))

	require.NoError(t, os.Remove(alone+"-wal"))
	report, cured = repaired(t, alone)
	require.Len(t, report.Wrong, 1)
	assert.Contains(t, report.Wrong[0], "-wal is missing")
	assert.Equal(t, []string{"three", "Tune"}, names(cured), "what the file has is brought back")
}

func TestWhatCannotBeHelpedIsSaid(t *testing.T) {
	dir := t.TempDir()
	text := filepath.Join(dir, "text.db")
	require.NoError(t, os.WriteFile(text, []byte("a letter, and no database at all, however long it may be"), 0o600))
	report, err := doctor.Examine(ctx, text, clock)
	require.NoError(t, err)
	assert.False(t, report.Sound)
	assert.Contains(t, report.Wrong[0], "its first page cannot be read")
	_, err = doctor.Repair(ctx, text, filepath.Join(dir, "new.db"), clock)
	require.ErrorContains(t, err, "can be brought back")
	assert.NoFileExists(t, filepath.Join(dir, "new.db"))
	_, err = doctor.Examine(ctx, filepath.Join(dir, "none.db"), clock)
	require.ErrorContains(t, err, "no such file")

	foreign := filepath.Join(dir, "foreign.db")
	operate(t, foreign, `CREATE TABLE letters (id INTEGER)`)
	_, err = doctor.Examine(ctx, foreign, clock)
	require.ErrorContains(t, err, "is the database of another program")

	newer := patient(t)
	operate(t, newer, `INSERT INTO goose_db_version (version_id, is_applied) VALUES (999, 1)`)
	_, err = doctor.Examine(ctx, newer, clock)
	require.ErrorContains(t, err, "made by a newer Envex")

	well := patient(t)
	_, err = doctor.Repair(ctx, well, well, clock)
	require.ErrorContains(t, err, "is there already: say another name")
}

// Wherever a disk loses a piece of a database, it is said, and what is brought back is valid.
func TestAnyPieceMayBeLost(t *testing.T) {
	path := filepath.Join(t.TempDir(), "plan.db")
	s, err := store.Open(ctx, path, clock)
	require.NoError(t, err)
	file, err := plan.Decode(demo.File)
	require.NoError(t, err)
	var edits []store.Edit
	for _, a := range file.All() {
		edits = append(edits, store.Edit{Put: a})
	}
	_, err = s.Apply(ctx, "Load", "", edits...)
	require.NoError(t, err)
	for i := range 30 {
		now := s.State()
		sound := now.Plan.Sounds[i%len(now.Plan.Sounds)]
		sound.Notes = fmt.Sprint("turn ", i)
		_, err = s.Apply(ctx, "Turn", "", store.Edit{Read: now.Versions[sound.ID], Put: sound})
		require.NoError(t, err)
	}
	whole := len(names(s))
	require.NoError(t, s.Close())
	data, err := os.ReadFile(path)
	require.NoError(t, err)
	dice := rand.New(rand.NewPCG(1, 2))
	most := 0
	for round := range 25 {
		damaged := append([]byte{}, data...)
		at := 4096 + dice.IntN(len(data)-4096-600)
		for i := range 1 + dice.IntN(600) {
			damaged[at+i] = byte(dice.Uint32())
		}
		sick := filepath.Join(t.TempDir(), "sick.db")
		require.NoError(t, os.WriteFile(sick, damaged, 0o600))
		to := filepath.Join(t.TempDir(), "new.db")
		report, err := doctor.Repair(ctx, sick, to, clock)
		require.NoError(t, err, "round %d, at %d", round, at)
		if s, err := store.Open(ctx, sick, clock); err == nil { // it fell on what nothing needs, or on an older version
			require.NoError(t, s.Close())
		} else {
			assert.False(t, report.Sound, "round %d, at %d: %v", round, at, err)
		}
		s, err := store.Open(ctx, to, clock)
		require.NoError(t, err, "round %d, at %d", round, at)
		have := len(names(s))
		require.NoError(t, s.Close())
		lost := 0
		for _, x := range report.Things {
			if x.State == doctor.Lost {
				lost++
			}
		}
		if lost == 0 && len(report.Wrong) == 0 {
			assert.Equal(t, whole, have, "round %d, at %d", round, at)
		}
		most = max(most, have)
	}
	assert.Equal(t, whole, most)
}
