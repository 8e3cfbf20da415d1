package store_test

import (
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/store"
)

func TestEveryVersionOfAThingIsThereAsItWas(t *testing.T) {
	path := filepath.Join(t.TempDir(), "plan.db")
	s := open(t, path)
	put(t, s, 0, sound("hm", "Home"))
	put(t, s, 1, sound("hm", "Hearth"))
	_, err := s.Apply(ctx, "Remove it", "", store.Edit{Read: 2, Remove: "hm"})
	require.NoError(t, err)
	_, _, err = s.Undo(ctx, 0)
	require.NoError(t, err)
	require.NoError(t, s.Close())

	s = open(t, path)
	want := []string{"Home", "Hearth", "", "Hearth"}
	for i, name := range want {
		a, err := s.At(ctx, "hm", i+1)
		require.NoError(t, err)
		if name == "" {
			assert.Nil(t, a, "that version removed it")
			continue
		}
		assert.Equal(t, sound("hm", name), a)
	}
	list, err := s.Revisions(ctx, "hm")
	require.NoError(t, err)
	require.Len(t, list, 4)
	assert.Equal(
		t, []string{"Undo: Remove it", "Remove it", "Write Hearth", "Write Home"},
		[]string{list[0].Label, list[1].Label, list[2].Label, list[3].Label},
	)
	assert.Equal(
		t, []bool{false, true, false, false}, []bool{list[0].Removed, list[1].Removed, list[2].Removed, list[3].Removed},
	)
	for _, r := range list {
		assert.Equal(t, "2027-06-12T20:00:00Z", r.At)
	}
	for _, gone := range []int{0, 5, -1} {
		_, err := s.At(ctx, "hm", gone)
		require.ErrorIs(t, err, store.ErrNoVersion)
	}
	_, err = s.At(ctx, "nobody", 1)
	require.ErrorIs(t, err, store.ErrNoVersion)
	none, err := s.Revisions(ctx, "nobody")
	require.NoError(t, err)
	assert.NotNil(t, none, "an empty list is a list")
	assert.Empty(t, none)
}

func TestTheLogAndItsEndsSayWhatCanBeTurned(t *testing.T) {
	s := fresh(t)
	undo, redo, err := s.Ends(ctx)
	require.NoError(t, err)
	assert.Nil(t, undo)
	assert.Nil(t, redo)
	_, _, err = s.Undo(ctx, 0)
	require.ErrorIs(t, err, store.ErrNothing)
	_, _, err = s.Redo(ctx, 7)
	require.ErrorIs(t, err, store.ErrNothing)

	put(t, s, 0, sound("hm", "Home"))
	put(t, s, 0, sound("ld", "Lead"))
	_, _, err = s.Undo(ctx, 0)
	require.NoError(t, err)
	undo, redo, err = s.Ends(ctx)
	require.NoError(t, err)
	require.NotNil(t, undo)
	require.NotNil(t, redo)
	assert.Equal(t, "Write Home", undo.Label)
	assert.Equal(t, "Write Lead", redo.Label)
	log, err := s.Log(ctx, 10)
	require.NoError(t, err)
	assert.Equal(t, []string{"undone", "done"}, []string{log[0].State, log[1].State})
	put(t, s, 0, sound("cr", "Crunch"))
	_, redo, err = s.Ends(ctx)
	require.NoError(t, err)
	assert.Nil(t, redo, "what was undone is left behind")
	log, err = s.Log(ctx, 2)
	require.NoError(t, err)
	require.Len(t, log, 2)
	assert.Equal(t, []string{"done", "dropped"}, []string{log[0].State, log[1].State})
}

func TestRefusalsSayWhatStandsInTheWay(t *testing.T) {
	s := fresh(t)
	put(t, s, 0, sound("hm", "Home"))
	put(t, s, 0, song("tide", "hm"))
	put(t, s, 1, sound("hm", "Hearth"))
	_, err := s.Apply(ctx, "x", "", store.Edit{Read: 1, Put: sound("hm", "Late")})
	require.ErrorContains(
		t, err, "this sound was changed meanwhile: the write is based on version 1, and version 2 is there",
	)
	_, err = s.Apply(ctx, "x", "", store.Edit{Read: 2, Remove: "hm"})
	require.ErrorContains(t, err, "it is still in use; tide: x")
	_, err = s.Apply(ctx, "x", "", store.Edit{Read: 1, Remove: "tide"})
	require.NoError(t, err)
	_, err = s.Apply(ctx, "x", "", store.Edit{Read: 1, Put: song("tide", "hm")})
	require.ErrorContains(
		t, err, "this song was removed meanwhile: the write is based on version 1, and version 2 removed it",
	)
	first, err := s.Log(ctx, 10)
	require.NoError(t, err)
	_, _, err = s.Undo(ctx, first[len(first)-1].ID)
	require.ErrorContains(t, err, `cannot undo "Write Home": Hearth has changed since`)
	var moved *store.MovedOnError
	require.ErrorAs(t, err, &moved)
	assert.Equal(t, []string{"Hearth"}, moved.Names)
	_, ok := findSound(s, "hm")
	assert.True(t, ok)
}

func findSound(s *store.Store, id plan.ID) (*plan.Sound, bool) {
	p, _ := s.Plan()
	return p.FindSound(id)
}
