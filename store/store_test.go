package store_test

import (
	"context"
	"database/sql"
	"fmt"
	"path/filepath"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/store"
)

var ctx = context.Background()

func clock() time.Time { return time.Date(2027, 6, 12, 20, 0, 0, 0, time.UTC) }

func open(t *testing.T, path string) *store.Store {
	t.Helper()
	s, err := store.Open(ctx, path, clock)
	require.NoError(t, err)
	t.Cleanup(func() { _ = s.Close() })
	return s
}

func fresh(t *testing.T) *store.Store { return open(t, filepath.Join(t.TempDir(), "plan.db")) }

func sound(id, name string) plan.Sound {
	return plan.Sound{ID: plan.ID(id), Name: name, Short: id, Role: plan.RhythmRole, Tape: "bone"}
}

func song(id string, sounds ...string) plan.Song {
	s := plan.Song{ID: plan.ID(id), Title: id, Tempo: plan.Tempo{BPM: 100}, Meter: plan.Meter{Beats: 4, Unit: 4}}
	for i, x := range sounds {
		s.Sections = append(s.Sections, plan.Section{ID: plan.ID(fmt.Sprint("x", i)), Label: "x", Sound: plan.ID(x)})
	}
	return s
}

func names(s *store.Store) []string {
	p, _ := s.Plan()
	list := []string{}
	for _, a := range p.All() {
		list = append(list, a.Label())
	}
	return list
}

func put(t *testing.T, s *store.Store, read int, a plan.Aggregate) store.Done {
	t.Helper()
	done, err := s.Apply(ctx, "Write "+a.Label(), "", store.Edit{Read: read, Put: a})
	require.NoError(t, err)
	return done
}

func TestAStaleWriteIsRefusedWithBothVersions(t *testing.T) {
	s := fresh(t)
	put(t, s, 0, sound("a", "one"))
	put(t, s, 1, sound("a", "two"))
	_, err := s.Apply(ctx, "late", "", store.Edit{Read: 1, Put: sound("a", "three")})
	var stale *store.StaleError
	require.ErrorAs(t, err, &stale)
	assert.Equal(t, [2]int{1, 2}, [2]int{stale.Read, stale.Current})
	assert.Equal(t, []string{"two"}, names(s))
	_, err = s.Apply(ctx, "again new", "", store.Edit{Put: sound("a", "three")})
	require.ErrorAs(t, err, &stale, "what is there cannot be added as new")
	_, err = s.Apply(ctx, "of nothing", "", store.Edit{Read: 3, Put: sound("b", "three")})
	require.ErrorAs(t, err, &stale)
}

func TestAnInvalidPlanIsNeverWritten(t *testing.T) {
	s := fresh(t)
	put(t, s, 0, sound("a", "one"))
	_, err := s.Apply(ctx, "bad", "", store.Edit{Put: sound("b", "fine")}, store.Edit{Put: song("t", "nowhere")})
	var problems plan.Problems
	require.ErrorAs(t, err, &problems)
	assert.Equal(t, []string{"one"}, names(s), "whole or not at all")
}

func TestWhatIsUsedCannotBeRemoved(t *testing.T) {
	s := fresh(t)
	put(t, s, 0, sound("a", "one"))
	put(t, s, 0, song("t", "a"))
	_, err := s.Apply(ctx, "remove", "", store.Edit{Read: 1, Remove: "a"})
	var inUse *store.InUseError
	require.ErrorAs(t, err, &inUse)
	assert.Equal(t, "t: x", inUse.Uses[0].String())
	_, err = s.Apply(ctx, "remove both", "", store.Edit{Read: 1, Remove: "a"}, store.Edit{Read: 1, Remove: "t"})
	require.NoError(t, err)
	assert.Empty(t, names(s))
}

func TestUndoAndRedoSurviveReopening(t *testing.T) {
	path := filepath.Join(t.TempDir(), "plan.db")
	s, err := store.Open(ctx, path, clock)
	require.NoError(t, err)
	put(t, s, 0, sound("a", "one"))
	put(t, s, 1, sound("a", "two"))
	put(t, s, 0, sound("b", "three"))
	require.NoError(t, s.Close())

	s = open(t, path)
	assert.Equal(t, []string{"two", "three"}, names(s))
	for _, want := range [][]string{{"two"}, {"one"}, {}} {
		_, _, err = s.Undo(ctx, 0)
		require.NoError(t, err)
		assert.Equal(t, want, names(s))
	}
	_, _, err = s.Undo(ctx, 0)
	require.ErrorIs(t, err, store.ErrNothing)
	for _, want := range [][]string{{"one"}, {"two"}, {"two", "three"}} {
		_, _, err = s.Redo(ctx, 0)
		require.NoError(t, err)
		assert.Equal(t, want, names(s), "order and all")
	}
	_, versions := s.Plan()
	assert.Equal(t, 6, versions["a"], "every turn is a version of its own")
}

func TestSomethingNewLeavesWhatWasUndoneBehind(t *testing.T) {
	s := fresh(t)
	put(t, s, 0, sound("a", "one"))
	put(t, s, 1, sound("a", "two"))
	_, _, err := s.Undo(ctx, 0)
	require.NoError(t, err)
	put(t, s, 3, sound("a", "other"))
	_, _, err = s.Redo(ctx, 0)
	require.ErrorIs(t, err, store.ErrNothing)
	_, _, err = s.Undo(ctx, 0)
	require.NoError(t, err)
	assert.Equal(t, []string{"one"}, names(s))
	log, err := s.Log(ctx, 10)
	require.NoError(t, err)
	assert.Equal(t, []string{"undone", "dropped", "done"}, []string{log[0].State, log[1].State, log[2].State})
}

func TestAnOlderTransactionIsUndoneUnlessItHasMovedOn(t *testing.T) {
	s := fresh(t)
	first := put(t, s, 0, sound("a", "one"))
	second := put(t, s, 1, sound("a", "two"))
	put(t, s, 0, sound("b", "three"))
	_, _, err := s.Undo(ctx, first.Tx)
	var moved *store.MovedOnError
	require.ErrorAs(t, err, &moved)
	assert.Equal(t, []string{"two"}, moved.Names)
	_, _, err = s.Undo(ctx, second.Tx)
	require.NoError(t, err, "nothing it touched has changed since")
	assert.Equal(t, []string{"one", "three"}, names(s))
	_, _, err = s.Undo(ctx, first.Tx)
	require.NoError(t, err, "the content is again what it left")
	assert.Equal(t, []string{"three"}, names(s))
}

func TestUndoThatWouldBreakThePlanIsRefused(t *testing.T) {
	s := fresh(t)
	first := put(t, s, 0, sound("a", "one"))
	put(t, s, 0, song("t", "a"))
	_, _, err := s.Undo(ctx, first.Tx)
	var invalid *store.InvalidTurnError
	require.ErrorAs(t, err, &invalid)
	assert.Equal(t, `cannot undo "Write one": then there is no sound "a"`, invalid.Error())
	assert.Equal(t, []string{"one", "t"}, names(s))
}

func TestAWriteSentTwiceHappensOnce(t *testing.T) {
	path := filepath.Join(t.TempDir(), "plan.db")
	s, err := store.Open(ctx, path, clock)
	require.NoError(t, err)
	first, err := s.Apply(ctx, "write", "key-1", store.Edit{Put: sound("a", "one")})
	require.NoError(t, err)
	require.NoError(t, s.Close()) // the answer was lost and the program restarted
	s = open(t, path)
	second, err := s.Apply(ctx, "write", "key-1", store.Edit{Put: sound("a", "one")})
	require.NoError(t, err)
	assert.Equal(t, first, second)
	log, err := s.Log(ctx, 10)
	require.NoError(t, err)
	assert.Len(t, log, 1)
}

// A write that dies between two statements leaves nothing behind.
func TestACrashInTheMiddleOfAWriteLeavesThePlanAsItWas(t *testing.T) {
	path := filepath.Join(t.TempDir(), "plan.db")
	s := open(t, path)
	put(t, s, 0, sound("a", "one"))
	db, err := sql.Open("sqlite", path)
	require.NoError(t, err)
	defer db.Close()
	_, err = db.Exec(`CREATE TRIGGER torn BEFORE INSERT ON steps BEGIN SELECT RAISE(ABORT, 'pulled the plug'); END`)
	require.NoError(t, err)
	_, err = s.Apply(ctx, "torn", "", store.Edit{Read: 1, Put: sound("a", "two")})
	require.ErrorContains(t, err, "pulled the plug")
	assert.Equal(t, []string{"one"}, names(s))
	_, err = db.Exec(`DROP TRIGGER torn`)
	require.NoError(t, err)
	require.NoError(t, s.Close())
	again := open(t, path)
	assert.Equal(t, []string{"one"}, names(again))
	put(t, again, 1, sound("a", "two"))
}

func TestADamagedPlanIsRefusedOnOpening(t *testing.T) {
	path := filepath.Join(t.TempDir(), "plan.db")
	s, err := store.Open(ctx, path, clock)
	require.NoError(t, err)
	put(t, s, 0, sound("a", "one"))
	require.NoError(t, s.Close())
	db, err := sql.Open("sqlite", path)
	require.NoError(t, err)
	_, err = db.Exec(`UPDATE aggregates SET doc = '{"id":"a"}'`)
	require.NoError(t, err)
	require.NoError(t, db.Close())
	_, err = store.Open(ctx, path, clock)
	require.ErrorContains(t, err, "name")
}

func TestManyTabsAtOnce(t *testing.T) {
	s := fresh(t)
	put(t, s, 0, sound("a", "0"))
	var wins sync.Map
	var wg sync.WaitGroup
	for tab := range 8 {
		wg.Add(1)
		go func() {
			defer wg.Done()
			for n := range 10 {
				p, versions := s.Plan()
				require.Len(t, p.Sounds, 1)
				done, err := s.Apply(ctx, "race", "", store.Edit{Read: versions["a"], Put: sound("a", fmt.Sprint(tab, "-", n))})
				var stale *store.StaleError
				if err != nil {
					assert.ErrorAs(t, err, &stale)
					continue
				}
				_, twice := wins.LoadOrStore(done.Versions["a"], tab)
				assert.False(t, twice, "two writes got the same version")
			}
		}()
	}
	wg.Wait()
	won := 0
	wins.Range(func(any, any) bool { won++; return true })
	_, versions := s.Plan()
	assert.Equal(t, won+1, versions["a"], "every write that was taken is there, and no other")
	revisions, err := s.Revisions(ctx, "a")
	require.NoError(t, err)
	assert.Len(t, revisions, won+1)
}

func TestRedoBeginsWithWhatWasUndoneLast(t *testing.T) {
	s := fresh(t)
	a := put(t, s, 0, sound("a", "one"))
	b := put(t, s, 0, sound("b", "two"))
	for _, tx := range []int64{a.Tx, b.Tx} { // the older one first
		_, _, err := s.Undo(ctx, tx)
		require.NoError(t, err)
	}
	_, redo, err := s.Ends(ctx)
	require.NoError(t, err)
	require.NotNil(t, redo)
	assert.Equal(t, b.Tx, redo.ID)
	again, _, err := s.Redo(ctx, 0)
	require.NoError(t, err)
	assert.Equal(t, b.Tx, again.ID)
	assert.Equal(t, []string{"two"}, names(s))
	again, _, err = s.Redo(ctx, 0)
	require.NoError(t, err)
	assert.Equal(t, a.Tx, again.ID)
}

func TestAnUndoThatCannotWorkDoesNotBlockThoseBehindIt(t *testing.T) {
	s := fresh(t)
	a := put(t, s, 0, sound("a", "one"))
	b := put(t, s, 0, sound("b", "two"))
	second := put(t, s, 1, sound("b", "three"))
	_, _, err := s.Undo(ctx, second.Tx)
	require.NoError(t, err)
	put(t, s, 3, sound("b", "four")) // the undone edit is left behind
	_, _, err = s.Undo(ctx, 0)
	require.NoError(t, err)
	// What is next is the making of b, and then that of a.
	undo, _, err := s.Ends(ctx)
	require.NoError(t, err)
	require.NotNil(t, undo)
	assert.Equal(t, b.Tx, undo.ID)
	fifth := put(t, s, 5, sound("b", "five"))
	put(t, s, 6, sound("b", "six"))
	_, _, err = s.Undo(ctx, fifth.Tx)
	var moved *store.MovedOnError
	require.ErrorAs(t, err, &moved, "it is not the latest of b")
	for range 2 {
		_, _, err = s.Undo(ctx, 0)
		require.NoError(t, err)
	}
	undo, _, err = s.Ends(ctx)
	require.NoError(t, err)
	assert.Equal(t, b.Tx, undo.ID)
	_, _, err = s.Undo(ctx, b.Tx)
	require.NoError(t, err)
	undo, _, err = s.Ends(ctx)
	require.NoError(t, err)
	assert.Equal(t, a.Tx, undo.ID)
}

func TestATransactionThatIsTurnedAlreadyIsLeftSo(t *testing.T) {
	s := fresh(t)
	a := put(t, s, 0, sound("a", "one"))
	for range 2 { // an answer that was lost is asked for again
		tx, _, err := s.Undo(ctx, a.Tx)
		require.NoError(t, err)
		assert.Equal(t, a.Tx, tx.ID)
		assert.Empty(t, names(s))
	}
	_, _, err := s.Undo(ctx, 0)
	require.ErrorIs(t, err, store.ErrNothing)
}

func TestAWriteThatChangesNothingIsNoTransaction(t *testing.T) {
	s := fresh(t)
	put(t, s, 0, sound("a", "one"))
	before := s.State().Seq
	done, err := s.Apply(ctx, "again", "key", store.Edit{Read: 1, Put: sound("a", "one")})
	require.NoError(t, err)
	assert.Equal(t, store.Done{Versions: map[plan.ID]int{"a": 1}}, done)
	assert.Equal(t, before, s.State().Seq)
	log, err := s.Log(ctx, 10)
	require.NoError(t, err)
	assert.Len(t, log, 1)
}

func TestWhoWatchesHearsOfEveryWriteOnceOrMore(t *testing.T) {
	s := fresh(t)
	changed, stop := s.Watch()
	a := put(t, s, 0, sound("a", "one"))
	put(t, s, 0, sound("b", "two"))
	<-changed
	now := s.State()
	assert.Equal(t, int64(2), now.Seq)
	assert.True(t, now.ChangedSince("b", 1))
	assert.False(t, now.ChangedSince("a", 1))
	_, _, err := s.Undo(ctx, a.Tx)
	require.NoError(t, err)
	<-changed
	assert.True(t, s.State().ChangedSince("a", 2))
	stop()
	put(t, s, 1, sound("b", "three"))
	select {
	case <-changed:
		t.Fatal("it was told after it had stopped")
	default:
	}
}
