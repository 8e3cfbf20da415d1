package store_test

import (
	"context"
	"database/sql"
	"fmt"
	"os"
	"path/filepath"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/store"
)

// stopped is a database as a power cut leaves it: its files are copied while it is open, before what was
// written has been moved into the main file.
func stopped(t *testing.T, to string, name string, sounds ...string) (path string) {
	t.Helper()
	from := filepath.Join(t.TempDir(), "plan.db")
	s := open(t, from)
	for _, x := range sounds {
		put(t, s, 0, sound(x, x))
	}
	path = filepath.Join(to, name)
	for _, end := range []string{"", "-wal"} {
		data, err := os.ReadFile(from + end)
		require.NoError(t, err)
		require.NoError(t, os.WriteFile(path+end, data, 0o600))
	}
	return path
}

func damagedAs(t *testing.T, path, what string) {
	t.Helper()
	before, err := os.ReadFile(path)
	require.NoError(t, err)
	_, err = store.Open(ctx, path, clock)
	var wrong *store.DamagedError
	require.ErrorAs(t, err, &wrong)
	assert.ErrorContains(t, err, what)
	after, err := os.ReadFile(path)
	require.NoError(t, err)
	assert.Equal(t, before, after, "nothing was changed in it")
}

func TestAPowerCutLosesNothingThatWasAcknowledged(t *testing.T) {
	path := stopped(t, t.TempDir(), "plan.db", "a", "b")
	assert.Equal(t, []string{"a", "b"}, names(open(t, path)))
}

// Wherever the log ends that a power cut left, what was written before its last write is there, and of
// that all or nothing.
func TestALogThatWasCutOffAtAnyByteOfTheLastWrite(t *testing.T) {
	dir := t.TempDir()
	path := stopped(t, dir, "whole.db", "a", "b")
	main, err := os.ReadFile(path)
	require.NoError(t, err)
	log, err := os.ReadFile(path + "-wal")
	require.NoError(t, err)
	first := len(log)
	for frames := 0; first > 0 && frames < 1; first -= 4096 + 24 { // back to the commit before the last
		if at := first - 2*(4096+24) + 4; at > 0 && (log[at]|log[at+1]|log[at+2]|log[at+3]) != 0 {
			frames++
		}
	}
	require.Positive(t, first)
	for n := first; n <= len(log); n += 211 {
		at := filepath.Join(dir, "cut.db")
		require.NoError(t, os.WriteFile(at, main, 0o600))
		require.NoError(t, os.WriteFile(at+"-wal", log[:n], 0o600))
		s, err := store.Open(ctx, at, clock)
		require.NoError(t, err, "cut at %d of %d", n, len(log))
		have := names(s)
		if n < len(log) {
			assert.Equal(t, []string{"a"}, have, "cut at %d of %d", n, len(log))
		}
		require.NoError(t, s.Close())
		for _, end := range []string{"", "-wal", "-shm", ".lock"} {
			_ = os.Remove(at + end)
		}
	}
	s := open(t, path)
	assert.Equal(t, []string{"a", "b"}, names(s))
}

func TestAFileWithoutItsLogIsRefused(t *testing.T) {
	path := stopped(t, t.TempDir(), "plan.db", "a", "b")
	require.NoError(t, os.Remove(path+"-wal"))
	damagedAs(t, path, "-wal is missing, in which is what was written last")
}

func TestTheLogOfAnotherDatabaseIsRefused(t *testing.T) {
	dir := t.TempDir()
	mine, other := stopped(t, dir, "mine.db", "a", "b"), stopped(t, dir, "other.db", "c", "d", "e")
	data, err := os.ReadFile(other + "-wal")
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(mine+"-wal", data, 0o600))
	damagedAs(t, mine, "-wal does not fit")
}

func TestAByteThatTurnedEarlyInTheLogIsNoticed(t *testing.T) {
	path := stopped(t, t.TempDir(), "plan.db", "a", "b", "c")
	log, err := os.ReadFile(path + "-wal")
	require.NoError(t, err)
	log[5000] ^= 1
	require.NoError(t, os.WriteFile(path+"-wal", log, 0o600))
	damagedAs(t, path, "cannot be read from byte 4152 on")
}

func TestAFileThatWasPutToRestStandsByItself(t *testing.T) {
	from := filepath.Join(t.TempDir(), "plan.db")
	s := open(t, from)
	for range 2 { // and again after more was written
		put(t, s, len(names(s)), sound("a", "one"))
		require.NoError(t, s.Checkpoint(ctx))
		data, err := os.ReadFile(from)
		require.NoError(t, err)
		alone := filepath.Join(t.TempDir(), "copy.db")
		require.NoError(t, os.WriteFile(alone, data, 0o600))
		assert.Equal(t, []string{"one"}, names(open(t, alone)))
	}
}

func TestAWriteThatDoesNotFitOnTheDiskSaysSo(t *testing.T) {
	s := fresh(t)
	put(t, s, 0, sound("a", "one"))
	s.Full()
	_, err := s.Apply(ctx, "x", "", store.Edit{Put: song("big", manyNames(900)...)}, store.Edit{Put: sound("b", "two")})
	require.ErrorIs(t, err, store.ErrDiskFull)
	assert.Equal(t, []string{"one"}, names(s), "what was there stays")
	s.Roomy()
	put(t, s, 0, sound("b", "two"))
	assert.Equal(t, []string{"one", "two"}, names(s))
}

func manyNames(n int) []string {
	list := make([]string, n)
	for i := range list {
		list[i] = "a"
	}
	return list
}

func TestAPlanThatIsLookedAtIsNotWrittenTo(t *testing.T) {
	path := stopped(t, t.TempDir(), "plan.db", "a")
	before, err := os.ReadDir(filepath.Dir(path))
	require.NoError(t, err)
	s, err := store.Look(ctx, path, store.ReadOnlyError{Why: "the stick is locked", Of: path}, clock)
	require.NoError(t, err)
	assert.Equal(t, []string{"a"}, names(s))
	var refused *store.ReadOnlyError
	_, err = s.Apply(ctx, "x", "", store.Edit{Put: sound("b", "two")})
	require.ErrorAs(t, err, &refused)
	require.EqualError(t, refused, "nothing is written: the stick is locked")
	_, _, err = s.Undo(ctx, 0)
	require.ErrorAs(t, err, &refused)
	_, _, err = s.KeepRehearsal(ctx, "r", "l", "", []byte("{}"))
	require.ErrorAs(t, err, &refused)
	_, err = s.KeepCopy(ctx)
	require.ErrorAs(t, err, &refused)
	_, err = s.Restore(ctx, path, "x", "")
	require.ErrorAs(t, err, &refused)
	require.NoError(t, s.Close())
	after, err := os.ReadDir(filepath.Dir(path))
	require.NoError(t, err)
	assert.Len(t, after, len(before), "nothing was put beside it")
}

func TestAKeyThatStoodForSomethingElseIsRefused(t *testing.T) {
	s := fresh(t)
	_, err := s.Apply(ctx, "x", "key", store.Edit{Put: sound("a", "one")})
	require.NoError(t, err)
	again, err := s.Apply(ctx, "x", "key", store.Edit{Put: sound("a", "one")})
	require.NoError(t, err)
	assert.EqualValues(t, 1, again.Tx)
	_, err = s.Apply(ctx, "x", "key", store.Edit{Put: sound("b", "two")})
	require.ErrorIs(t, err, store.ErrOtherRequest)
	_, _, err = s.KeepRehearsal(ctx, "r", "l", "night", []byte("{}"))
	require.NoError(t, err)
	_, _, err = s.KeepRehearsal(ctx, "r", "other", "night", []byte("{}"))
	require.ErrorIs(t, err, store.ErrOtherRequest)
	assert.Equal(t, []string{"one"}, names(s))
}

func TestChangesThatWaitTogetherAreEachTheirOwn(t *testing.T) {
	s := fresh(t)
	put(t, s, 0, sound("a", "0"))
	// While the first holds the line, the others gather behind it.
	begun, goOn := make(chan struct{}), make(chan struct{})
	results := make(chan error, 4)
	go func() {
		_, err := s.Change(ctx, store.Request{}, func(now store.State) (string, []store.Edit, error) {
			close(begun)
			<-goOn
			return "first", []store.Edit{{Read: now.Versions["a"], Put: sound("a", "1")}}, nil
		})
		results <- err
	}()
	<-begun
	gone, cancel := context.WithCancel(ctx)
	cancel()
	for _, w := range []struct {
		ctx  context.Context
		work func(now store.State) (string, []store.Edit, error)
	}{
		{ctx, func(now store.State) (string, []store.Edit, error) {
			return "second", []store.Edit{{Read: now.Versions["b"], Put: sound("b", "2")}}, nil
		}},
		{ctx, func(store.State) (string, []store.Edit, error) { panic("a fault") }},
		{gone, func(store.State) (string, []store.Edit, error) {
			return "of one who left", []store.Edit{{Put: sound("x", "x")}}, nil
		}},
	} {
		go func() {
			_, err := s.Change(w.ctx, store.Request{}, w.work)
			results <- err
		}()
	}
	close(goOn)
	failed := 0
	for range 4 {
		if err := <-results; err != nil {
			failed++
		}
	}
	assert.Equal(t, 2, failed, "the fault, and the one who left")
	assert.Equal(t, []string{"1", "2"}, names(s))
	log, err := s.Log(ctx, 10)
	require.NoError(t, err)
	assert.Len(t, log, 3)
	assert.True(t, s.State().ChangedSince("a", 1))
}

// One change that may not be, among others that wait with it, is refused alone.
func TestAChangeThatMayNotBeIsRefusedAmongOthers(t *testing.T) {
	s := fresh(t)
	put(t, s, 0, sound("a", "0"))
	begun, goOn := make(chan struct{}), make(chan struct{})
	type result struct {
		name string
		err  error
	}
	results := make(chan result, 9)
	first := sync.OnceFunc(func() {
		close(begun)
		<-goOn
	})
	change := func(name string, put plan.Aggregate) {
		_, err := s.Change(ctx, store.Request{}, func(now store.State) (string, []store.Edit, error) {
			if name == "first" {
				first()
			}
			return name, []store.Edit{{Read: now.Versions[put.AggregateID()], Put: put}}, nil
		})
		results <- result{name, err}
	}
	go change("first", sound("a", "1"))
	<-begun
	for i := range 7 {
		go change(fmt.Sprint("good ", i), sound(string(rune('b'+i)), "good"))
	}
	go change("bad", song("t", "nowhere"))
	time.Sleep(50 * time.Millisecond) // for all to stand in line; those that come later are carried out too
	close(goOn)
	for range 9 {
		r := <-results
		var problems plan.Problems
		if r.name == "bad" {
			require.ErrorAs(t, r.err, &problems)
		} else {
			require.NoError(t, r.err, r.name)
		}
	}
	p, _ := s.Plan()
	assert.Len(t, p.Sounds, 8)
	assert.Empty(t, p.Songs)
	assert.Empty(t, p.Validate())
	log, err := s.Log(ctx, 20)
	require.NoError(t, err)
	assert.Len(t, log, 9)
}

func TestTextThatNoHandWritesIsRefusedAndWhatStoodStays(t *testing.T) {
	path := filepath.Join(t.TempDir(), "plan.db")
	s := open(t, path)
	put(t, s, 0, sound("a", "one"))
	_, err := s.Apply(ctx, "x", "", store.Edit{Read: 1, Put: sound("a", "o\u202ene")})
	require.EqualError(t, err, "sounds[0].name: a character that turns the direction of text (U+202E) cannot stand here")
	require.NoError(t, s.Close())
	db, err := sql.Open("sqlite", "file:"+path)
	require.NoError(t, err)
	_, err = db.Exec(
		`UPDATE aggregates SET doc = replace(doc, '"one"', '"o\u0007ne"'); UPDATE revisions SET doc = (SELECT doc FROM aggregates)`,
	)
	require.NoError(t, err)
	require.NoError(t, db.Close())
	s = open(t, path)
	changed := sound("a", "o\ane")
	changed.Notes = "from before"
	put(t, s, 1, changed)
	_, err = s.Apply(ctx, "x", "", store.Edit{Read: 2, Put: sound("a", "t\awo")})
	require.NoError(t, err, "it is the same fault at the same place")
}

func TestTheLogSaysWhatCanNoLongerBeTakenBack(t *testing.T) {
	s := fresh(t)
	put(t, s, 0, sound("a", "one"))
	put(t, s, 0, sound("b", "one"))
	put(t, s, 1, sound("a", "two"))
	moved := func() (list []bool) {
		log, err := s.Log(ctx, 10)
		require.NoError(t, err)
		for _, x := range log {
			list = append(list, x.Moved)
		}
		return list
	}
	assert.Equal(t, []bool{false, false, true}, moved())
	_, _, err := s.Undo(ctx, 0)
	require.NoError(t, err)
	assert.Equal(t, []bool{false, false, false}, moved(), "what was taken back stands in the way no more")
}
