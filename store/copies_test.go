package store_test

import (
	"context"
	"database/sql"
	"fmt"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"envex/store"
)

func TestACopyOfAPlanInUseHasEverything(t *testing.T) {
	s := fresh(t)
	put(t, s, 0, sound("a", "one"))
	put(t, s, 1, sound("a", "two"))
	_, _, err := s.KeepRehearsal(ctx, "r", "l", "", []byte(`{"played":1}`))
	require.NoError(t, err)
	_, err = s.Happened(ctx, "show", []store.NightEvent{happens("a", `{}`)})
	require.NoError(t, err)
	to := filepath.Join(t.TempDir(), "copy.db")
	require.NoError(t, os.WriteFile(to, []byte("an older copy"), 0o600))
	c, err := s.Backup(ctx, to)
	require.NoError(t, err)
	assert.Equal(t, store.Contents{Sounds: 1, Revisions: 2, Rehearsals: 1}, c.Contents)
	info, err := os.Stat(to)
	require.NoError(t, err)
	assert.Equal(t, info.Size(), c.Bytes)
	put(t, s, 2, sound("a", "three"))

	again := open(t, to)
	assert.Equal(t, []string{"two"}, names(again))
	list, err := again.Rehearsals(ctx, "r", "l")
	require.NoError(t, err)
	assert.Len(t, list, 1)
	night, err := again.Night(ctx, "show", 0)
	require.NoError(t, err)
	assert.Len(t, night, 1)
	_, _, err = again.Undo(ctx, 0)
	require.NoError(t, err)
	assert.Equal(t, []string{"one"}, names(again), "and what could be undone, can")
	left, err := filepath.Glob(filepath.Join(filepath.Dir(to), ".envex-copy-*"))
	require.NoError(t, err)
	assert.Empty(t, left, "nothing is left beside it")
}

func TestACopyThatCannotBeMadeLeavesTheOlderOne(t *testing.T) {
	s := fresh(t)
	put(t, s, 0, sound("a", "one"))
	dir := t.TempDir()
	_, err := s.Backup(ctx, filepath.Join(dir, "nowhere", "copy.db"))
	require.ErrorContains(t, err, "nowhere")
	to := filepath.Join(dir, "copy.db")
	require.NoError(t, os.WriteFile(to, []byte("an older copy"), 0o600))
	stopped, cancel := context.WithCancel(ctx)
	cancel()
	_, err = s.Backup(stopped, to)
	require.Error(t, err)
	data, err := os.ReadFile(to)
	require.NoError(t, err)
	assert.Equal(t, "an older copy", string(data))
}

func TestAPlanIsRestoredAndThatIsUndone(t *testing.T) {
	s := fresh(t)
	put(t, s, 0, sound("a", "one"))
	put(t, s, 0, sound("g", "gone"))
	_, err := s.Apply(ctx, "Remove gone", "", store.Edit{Read: 1, Remove: "g"})
	require.NoError(t, err)
	kept, err := s.KeepCopy(ctx)
	require.NoError(t, err)
	put(t, s, 1, sound("a", "two"))
	put(t, s, 0, sound("b", "new"))
	_, _, err = s.Undo(ctx, 0)
	require.NoError(t, err)
	put(t, s, 0, sound("b", "new again"))

	path, err := s.CopyPath(kept.Name)
	require.NoError(t, err)
	r, err := s.Restore(ctx, path, "Bring back a copy", "key")
	require.NoError(t, err)
	assert.Equal(t, []string{"one"}, r.Brought)
	assert.Equal(t, []string{"new again"}, r.Removed)
	assert.Equal(t, []string{"one"}, names(s))
	again, err := s.Restore(ctx, path, "Bring back a copy", "key")
	require.NoError(t, err)
	assert.Equal(t, r.Tx, again.Tx, "asked again under its key it is done once")

	undo, _, err := s.Ends(ctx)
	require.NoError(t, err)
	assert.Equal(t, "Bring back a copy", undo.Label)
	_, _, err = s.Undo(ctx, 0)
	require.NoError(t, err)
	assert.Equal(t, []string{"two", "new again"}, names(s))
	_, _, err = s.Redo(ctx, 0)
	require.NoError(t, err)
	assert.Equal(t, []string{"one"}, names(s))
	// What could be undone when the copy was made can be undone again.
	for _, tx := range []int64{3, 2, 1} {
		_, _, err = s.Undo(ctx, tx)
		require.NoError(t, err)
	}
	assert.Empty(t, names(s))
}

func TestANewDatabaseGetsTheWholeHistoryOfACopy(t *testing.T) {
	old := fresh(t)
	put(t, old, 0, sound("a", "one"))
	put(t, old, 1, sound("a", "two"))
	_, _, err := old.KeepRehearsal(ctx, "r", "l", "played", []byte(`{"played":1}`))
	require.NoError(t, err)
	_, err = old.Happened(ctx, "show", []store.NightEvent{happens("a", `{"of":"the copy"}`)})
	require.NoError(t, err)
	to := filepath.Join(t.TempDir(), "copy.db")
	_, err = old.Backup(ctx, to)
	require.NoError(t, err)

	s := fresh(t)
	_, err = s.Happened(ctx, "show", []store.NightEvent{happens("b", `{}`)})
	require.NoError(t, err)
	r, err := s.Restore(ctx, to, "Bring back a copy", "")
	require.NoError(t, err)
	assert.Equal(t, 1, r.Rehearsals)
	night, err := s.Night(ctx, "show", 0)
	require.NoError(t, err)
	assert.Len(t, night, 2, "what happened here, and what happened in the copy")
	assert.Equal(t, []string{"two"}, names(s))
	list, err := s.Revisions(ctx, "a")
	require.NoError(t, err)
	assert.Len(t, list, 3, "the two of the copy, and that it was brought back")
	_, _, err = s.Undo(ctx, 0)
	require.NoError(t, err)
	assert.Empty(t, names(s))
	_, _, err = s.Redo(ctx, 0)
	require.NoError(t, err)
	_, _, err = s.Undo(ctx, 2)
	require.NoError(t, err)
	assert.Equal(t, []string{"one"}, names(s))
	r, err = s.Restore(ctx, to, "Bring back a copy", "")
	require.NoError(t, err)
	assert.Zero(t, r.Rehearsals, "each is there once")
}

func TestACopyOfAnotherPlanIsTakenIn(t *testing.T) {
	other := fresh(t)
	put(t, other, 0, sound("a", "theirs"))
	put(t, other, 1, sound("a", "theirs, later"))
	put(t, other, 0, sound("b", "of theirs alone"))
	to := filepath.Join(t.TempDir(), "copy.db")
	_, err := other.Backup(ctx, to)
	require.NoError(t, err)
	s := fresh(t)
	put(t, s, 0, sound("a", "mine"))
	put(t, s, 0, sound("c", "of mine alone"))
	_, err = s.Restore(ctx, to, "Bring back a copy", "")
	require.NoError(t, err)
	assert.Equal(t, []string{"theirs, later", "of theirs alone"}, names(s))
	_, _, err = s.Undo(ctx, 0)
	require.NoError(t, err)
	assert.Equal(t, []string{"mine", "of mine alone"}, names(s))
}

func TestWhatIsNoCopyIsNotRestored(t *testing.T) {
	s := fresh(t)
	put(t, s, 0, sound("a", "one"))
	dir := t.TempDir()
	text := filepath.Join(dir, "text.db")
	require.NoError(t, os.WriteFile(text, []byte("a letter, and no database at all, however long it may be"), 0o600))
	trap := filepath.Join(dir, "trap.db")
	_, err := s.Backup(ctx, trap)
	require.NoError(t, err)
	db, err := sql.Open("sqlite", trap)
	require.NoError(t, err)
	_, err = db.Exec(`CREATE TRIGGER trap AFTER INSERT ON steps BEGIN DELETE FROM revisions; END`)
	require.NoError(t, err)
	require.NoError(t, db.Close())
	bad := filepath.Join(dir, "bad.db")
	_, err = s.Backup(ctx, bad)
	require.NoError(t, err)
	db, err = sql.Open("sqlite", bad)
	require.NoError(t, err)
	_, err = db.Exec(`UPDATE aggregates SET doc = '{"id":"a"}'; UPDATE revisions SET doc = '{"id":"a"}'`)
	require.NoError(t, err)
	require.NoError(t, db.Close())
	for file, why := range map[string]string{
		text: "no SQLite database", trap: "of another program", bad: "is damaged",
		filepath.Join(dir, "none.db"): "no such file",
	} {
		_, err := s.Restore(ctx, file, "x", "")
		require.ErrorContains(t, err, why)
	}
	assert.Equal(t, []string{"one"}, names(s))
	log, err := s.Log(ctx, 10)
	require.NoError(t, err)
	assert.Len(t, log, 1)
}

// Whatever was done before and after a copy was made, restoring it gives the plan of then, and undoing
// that gives the plan of before.
func TestRestoringGivesThePlanOfThen(t *testing.T) {
	rapid.Check(t, func(r *rapid.T) {
		dir, err := os.MkdirTemp("", "restore")
		require.NoError(r, err)
		defer os.RemoveAll(dir)
		s, err := store.Open(ctx, filepath.Join(dir, "plan.db"), clock)
		require.NoError(r, err)
		defer s.Close()
		do := func(name string) {
			for i := range rapid.IntRange(0, 6).Draw(r, name) {
				id := rapid.SampledFrom([]string{"a", "b", "c"}).Draw(r, "id")
				now := s.State()
				_, exists := now.Plan.FindSound(sound(id, "").ID)
				read := now.Versions[sound(id, "").ID]
				switch {
				case rapid.Bool().Draw(r, "undo"):
					_, _, _ = s.Undo(ctx, 0)
				case !exists:
					_, err = s.Apply(ctx, "add", "", store.Edit{Put: sound(id, fmt.Sprint(name, i))})
				case rapid.Bool().Draw(r, "remove"):
					_, err = s.Apply(ctx, "remove", "", store.Edit{Read: read, Remove: sound(id, "").ID})
				default:
					_, err = s.Apply(ctx, "change", "", store.Edit{Read: read, Put: sound(id, fmt.Sprint(name, i))})
				}
				require.NoError(r, err)
			}
		}
		do("before")
		then := names(s)
		to := filepath.Join(dir, "copy.db")
		_, err = s.Backup(ctx, to)
		require.NoError(r, err)
		do("after")
		now := names(s)
		done, err := s.Restore(ctx, to, "restore", "")
		require.NoError(r, err)
		require.ElementsMatch(r, then, names(s))
		if done.Tx != 0 {
			_, _, err = s.Undo(ctx, done.Tx)
			require.NoError(r, err)
		}
		require.ElementsMatch(r, now, names(s))
		require.NoError(r, s.Close())
		s, err = store.Open(ctx, filepath.Join(dir, "plan.db"), clock)
		require.NoError(r, err)
		require.ElementsMatch(r, now, names(s))
	})
}

func TestCopiesOfSevenDaysAndFourWeeksAreKept(t *testing.T) {
	day := time.Date(2027, 6, 1, 12, 0, 0, 0, time.UTC)
	path := filepath.Join(t.TempDir(), "plan.db")
	s, err := store.Open(ctx, path, func() time.Time { return day })
	require.NoError(t, err)
	defer s.Close()
	require.NoError(t, s.DailyCopy(ctx))
	none, err := s.Copies(ctx)
	require.NoError(t, err)
	assert.Empty(t, none, "there is nothing to copy")
	put(t, s, 0, sound("a", "one"))
	hand, err := s.KeepCopy(ctx)
	require.NoError(t, err)
	for range 45 {
		require.NoError(t, s.DailyCopy(ctx))
		require.NoError(t, s.DailyCopy(ctx), "one a day")
		day = day.AddDate(0, 0, 1)
	}
	entries, err := os.ReadDir(path + ".copies")
	require.NoError(t, err)
	var have []string
	for _, e := range entries {
		have = append(have, e.Name())
	}
	// The last seven days reach into two weeks; the Sundays of two more are kept.
	assert.Equal(t, []string{
		"day-2027-06-27.db", "day-2027-07-04.db",
		"day-2027-07-09.db", "day-2027-07-10.db", "day-2027-07-11.db", "day-2027-07-12.db", "day-2027-07-13.db",
		"day-2027-07-14.db", "day-2027-07-15.db",
		hand.Name + ".db",
	}, have)

	// Of those from before the schema changed the last four are kept; what is no copy is left alone.
	for _, name := range []string{"a note.txt", "before-schema-1.db", "before-schema-2.db", "before-schema-3.db",
		"before-schema-4.db", "before-schema-5.db", "before-schema-6.db"} {
		require.NoError(t, os.WriteFile(filepath.Join(path+".copies", name), nil, 0o600))
	}
	require.NoError(t, os.Mkdir(filepath.Join(path+".copies", "a folder.db"), 0o700))
	require.NoError(t, s.DailyCopy(ctx))
	listed, err := s.Copies(ctx)
	require.NoError(t, err)
	have = nil
	for _, c := range listed {
		if c.Kind != store.DailyCopy {
			have = append(have, c.Name)
		}
	}
	assert.ElementsMatch(t, []string{
		hand.Name, "before-schema-3", "before-schema-4", "before-schema-5", "before-schema-6",
	}, have)
	assert.FileExists(t, filepath.Join(path+".copies", "a note.txt"))

	require.NoError(t, s.RemoveCopy(hand.Name))
	require.ErrorIs(t, s.RemoveCopy(hand.Name), store.ErrNoCopy)
	for _, name := range []string{"../plan", "", "..", "a/b", ".hidden"} {
		_, err := s.CopyPath(name)
		require.ErrorIs(t, err, store.ErrNoCopy, name)
	}
}

func TestACopyThatIsDamagedSaysSo(t *testing.T) {
	s := fresh(t)
	put(t, s, 0, sound("a", "one"))
	kept, err := s.KeepCopy(ctx)
	require.NoError(t, err)
	path, err := s.CopyPath(kept.Name)
	require.NoError(t, err)
	require.NoError(t, os.Truncate(path, 9000))
	list, err := s.Copies(ctx)
	require.NoError(t, err)
	require.Len(t, list, 1)
	assert.NotEmpty(t, list[0].Problem)
}

func TestACopyIsMadeBeforeTheSchemaIsBroughtUpToDate(t *testing.T) {
	path := filepath.Join(t.TempDir(), "old.db")
	older(t, path)
	s := open(t, path)
	list, err := s.Copies(ctx)
	require.NoError(t, err)
	require.Len(t, list, 1)
	assert.Equal(t, store.SchemaCopy, list[0].Kind)
	assert.Equal(t, 1, list[0].Contents.Sounds)
	put(t, s, 1, sound("hm", "Changed"))
	from, err := s.CopyPath(list[0].Name)
	require.NoError(t, err)
	_, err = s.Restore(ctx, from, "Bring back a copy", "")
	require.NoError(t, err, "a copy of an older schema can be brought back")
	assert.Equal(t, []string{"Home"}, names(s))

	// Where none can be made, nothing is brought up to date.
	path = filepath.Join(t.TempDir(), "old.db")
	older(t, path)
	require.NoError(t, os.WriteFile(path+".copies", nil, 0o600))
	_, err = store.Open(ctx, path, clock)
	require.ErrorContains(t, err, "make a copy before its schema is brought up to date")
}
