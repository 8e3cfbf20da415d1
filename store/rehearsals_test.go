package store_test

import (
	"context"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestRehearsalsAreKeptApartFromThePlan(t *testing.T) {
	ctx := context.Background()
	file := filepath.Join(t.TempDir(), "plan.db")
	s := open(t, file)
	first, day, err := s.KeepRehearsal(ctx, "rig", "set", "once", []byte(`{"a":1}`))
	require.NoError(t, err)
	assert.Len(t, day, len("2026-01-01"))
	again, _, err := s.KeepRehearsal(ctx, "rig", "set", "once", []byte(`{"a":2}`))
	require.NoError(t, err)
	assert.Equal(t, first, again, "sent twice, kept once")
	_, _, err = s.KeepRehearsal(ctx, "rig", "set", "", []byte(`{"a":3}`))
	require.NoError(t, err)
	_, _, err = s.KeepRehearsal(ctx, "rig", "other", "", []byte(`{}`))
	require.NoError(t, err)
	require.NoError(t, s.Close())

	s = open(t, file)
	list, err := s.Rehearsals(ctx, "rig", "set")
	require.NoError(t, err)
	require.Len(t, list, 2)
	assert.JSONEq(t, `{"a":1}`, string(list[0].Doc))
	assert.JSONEq(t, `{"a":3}`, string(list[1].Doc))
	none, err := s.Rehearsals(ctx, "nope", "set")
	require.NoError(t, err)
	assert.Empty(t, none)
}
