package store_test

import (
	"context"
	"fmt"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/store"
)

func happens(id, doc string) store.NightEvent {
	return store.NightEvent{Event: plan.ID(id), Doc: []byte(doc)}
}

func TestWhatHappensAtAShowIsKeptOnce(t *testing.T) {
	ctx := context.Background()
	file := filepath.Join(t.TempDir(), "plan.db")
	s := open(t, file)
	told, stop := s.WatchNights()
	defer stop()
	fresh, err := s.Happened(ctx, "quay", []store.NightEvent{happens("a", `{"a":1}`), happens("b", `{"b":1}`)})
	require.NoError(t, err)
	require.Len(t, fresh, 2)
	assert.Less(t, fresh[0].Seq, fresh[1].Seq)
	<-told
	fresh, err = s.Happened(ctx, "quay", []store.NightEvent{happens("b", `{"b":2}`), happens("c", `{"c":1}`)})
	require.NoError(t, err)
	require.Len(t, fresh, 1, "what was sent before is kept as it was")
	<-told
	_, err = s.Happened(ctx, "quay", []store.NightEvent{happens("c", `{}`)})
	require.NoError(t, err)
	select {
	case <-told:
		t.Fatal("nothing new happened")
	default:
	}
	_, err = s.Happened(ctx, "loft", []store.NightEvent{happens("a", `{}`)})
	require.NoError(t, err)
	require.NoError(t, s.Close())

	s = open(t, file)
	list, err := s.Night(ctx, "quay", 0)
	require.NoError(t, err)
	require.Len(t, list, 3)
	assert.JSONEq(t, `{"b":1}`, string(list[1].Doc))
	rest, err := s.Night(ctx, "quay", list[1].Seq)
	require.NoError(t, err)
	assert.Equal(t, list[2:], rest)
}

func TestAShowHasAnEnd(t *testing.T) {
	ctx := context.Background()
	s := open(t, filepath.Join(t.TempDir(), "plan.db"))
	var many []store.NightEvent
	for i := range 20001 {
		many = append(many, happens(fmt.Sprint(i), `{}`))
	}
	_, err := s.Happened(ctx, "quay", many)
	require.ErrorContains(t, err, "more than 20000 things")
	list, err := s.Night(ctx, "quay", 0)
	require.NoError(t, err)
	assert.Empty(t, list, "all or none")
	_, err = s.Happened(ctx, "quay", many[1:])
	require.NoError(t, err)
}
