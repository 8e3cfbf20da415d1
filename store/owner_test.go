package store_test

import (
	"io/fs"
	"os"
	"path/filepath"
	"testing"

	"github.com/jmoiron/sqlx"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/store"
)

func TestADatabaseHasOneOwnerAtATime(t *testing.T) {
	path := filepath.Join(t.TempDir(), "plan.db")
	s, err := store.Open(ctx, path, clock)
	require.NoError(t, err)
	require.NoError(t, s.Announce("http://127.0.0.1:8420"))
	_, err = store.Open(ctx, path, clock)
	var owned *store.OwnedError
	require.ErrorAs(t, err, &owned)
	assert.Equal(t, store.Owner{PID: os.Getpid(), Address: "http://127.0.0.1:8420"}, owned.Owner)
	assert.ErrorContains(t, err, "at http://127.0.0.1:8420: close it there first")
	put(t, s, 0, sound("a", "one"))
	require.NoError(t, s.Close())
	require.NoError(t, s.Close(), "closing twice is closing once")

	s, err = store.Open(ctx, path, clock)
	require.NoError(t, err, "it was given back")
	assert.Equal(t, []string{"one"}, names(s))
	require.NoError(t, s.Close())
}

func TestADatabaseThatIsReplacedIsNotWrittenTo(t *testing.T) {
	path := filepath.Join(t.TempDir(), "plan.db")
	s, err := store.Open(ctx, path, clock)
	require.NoError(t, err)
	defer s.Close()
	put(t, s, 0, sound("a", "one"))
	require.NoError(t, os.Rename(path, path+".away"))
	_, err = s.Apply(ctx, "x", "", store.Edit{Put: sound("b", "two")})
	require.ErrorIs(t, err, store.ErrReplaced)
	require.NoError(t, os.WriteFile(path, []byte("something else"), 0o600))
	_, err = s.Apply(ctx, "x", "", store.Edit{Put: sound("b", "two")})
	require.ErrorIs(t, err, store.ErrReplaced)
	_, _, err = s.KeepRehearsal(ctx, "r", "l", "", []byte("{}"))
	require.ErrorIs(t, err, store.ErrReplaced)
	assert.Equal(t, []string{"one"}, names(s), "what was there can still be looked at")
	require.NoError(t, os.Rename(path+".away", path))
	_, err = s.Apply(ctx, "x", "", store.Edit{Put: sound("b", "two")})
	require.NoError(t, err)
}

func TestAWriteOfAnotherProgramIsNoticed(t *testing.T) {
	path := filepath.Join(t.TempDir(), "plan.db")
	s, err := store.Open(ctx, path, clock)
	require.NoError(t, err)
	defer s.Close()
	put(t, s, 0, sound("a", "one"))
	other, err := sqlx.Open("sqlite", "file:"+path)
	require.NoError(t, err)
	defer other.Close()
	_, err = other.Exec(
		`INSERT INTO revisions (id, version, content, doc, at, label) VALUES ('a', 2, 2, '{}', '', 'by hand')`,
	)
	require.NoError(t, err)
	_, err = s.Apply(ctx, "x", "", store.Edit{Put: sound("b", "two")})
	require.ErrorIs(t, err, store.ErrForeign)
	log, err := s.Log(ctx, 10)
	require.NoError(t, err)
	_, _, err = s.Undo(ctx, log[0].ID)
	require.ErrorIs(t, err, store.ErrForeign)
	assert.Equal(t, []string{"one"}, names(s))
}

func TestThePlanIsInTheMainFileOnceNothingIsWritten(t *testing.T) {
	path := filepath.Join(t.TempDir(), "plan.db")
	s, err := store.Open(ctx, path, clock)
	require.NoError(t, err)
	defer s.Close()
	put(t, s, 0, sound("a", "one"))
	require.NoError(t, s.Checkpoint(ctx))
	data, err := os.ReadFile(path)
	require.NoError(t, err)
	alone := filepath.Join(t.TempDir(), "copy.db")
	require.NoError(t, os.WriteFile(alone, data, 0o600))
	c, err := store.Open(ctx, alone, clock)
	require.NoError(t, err)
	defer c.Close()
	assert.Equal(t, []string{"one"}, names(c))
}

func TestOtherDatabasesAreLeftAsTheyAre(t *testing.T) {
	dir := t.TempDir()
	foreign := filepath.Join(dir, "other.db")
	db, err := sqlx.Open("sqlite", "file:"+foreign)
	require.NoError(t, err)
	_, err = db.Exec(`CREATE TABLE letters (id INTEGER); INSERT INTO letters VALUES (1)`)
	require.NoError(t, err)
	require.NoError(t, db.Close())
	before, err := os.ReadFile(foreign)
	require.NoError(t, err)
	_, err = store.Open(ctx, foreign, clock)
	require.ErrorContains(t, err, "it is the database of another program")
	after, err := os.ReadFile(foreign)
	require.NoError(t, err)
	assert.Equal(t, len(before), len(after))

	newer := filepath.Join(dir, "newer.db")
	s, err := store.Open(ctx, newer, clock)
	require.NoError(t, err)
	require.NoError(t, s.Close())
	db, err = sqlx.Open("sqlite", "file:"+newer)
	require.NoError(t, err)
	_, err = db.Exec(`INSERT INTO goose_db_version (version_id, is_applied) VALUES (999, 1)`)
	require.NoError(t, err)
	require.NoError(t, db.Close())
	_, err = store.Open(ctx, newer, clock)
	require.ErrorContains(t, err, "it was made by a newer Envex (schema 999; this one knows")

	text := filepath.Join(dir, "text.db")
	require.NoError(t, os.WriteFile(text, []byte("this is a letter, and no database, however long it may be"), 0o600))
	_, err = store.Open(ctx, text, clock)
	require.ErrorContains(t, err, "it is no SQLite database")
}

func TestWhoHasADatabaseIsAskedWithoutTakingIt(t *testing.T) {
	path := filepath.Join(t.TempDir(), "plan.db")
	require.NoError(t, store.Held(path), "nobody ever had it")
	_, err := os.Stat(path + ".lock")
	require.ErrorIs(t, err, fs.ErrNotExist, "and nothing is put beside it")
	s, err := store.Open(ctx, path, clock)
	require.NoError(t, err)
	require.NoError(t, s.Announce("http://127.0.0.1:8420"))
	for range 2 { // being asked about changes nothing
		var owned *store.OwnedError
		require.ErrorAs(t, store.Held(path), &owned)
		assert.Equal(t, os.Getpid(), owned.Owner.PID)
	}
	require.NoError(t, s.Close())
	require.NoError(t, store.Held(path), "it was let go")
	again, err := store.Open(ctx, path, clock)
	require.NoError(t, err, "asking has not taken it")
	require.NoError(t, again.Close())
}
