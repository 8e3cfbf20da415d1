package api

import (
	"context"
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// inLine has a client wait for a seat, and gives what says that it has it.
func inLine(t *testing.T, s *turns, ctx context.Context, client string) <-chan error {
	t.Helper()
	s.mu.Lock()
	before := len(s.waiting[client])
	s.mu.Unlock()
	got := make(chan error, 1)
	go func() { got <- s.take(ctx, client) }()
	require.Eventually(t, func() bool {
		s.mu.Lock()
		defer s.mu.Unlock()
		return len(s.waiting[client]) > before
	}, 5*time.Second, time.Millisecond)
	return got
}

func TestClientsTakeTurns(t *testing.T) {
	s := newTurns(1)
	require.NoError(t, s.take(t.Context(), "busy"))
	var list []<-chan error
	for _, client := range []string{"busy", "busy", "busy", "phone", "tablet", "phone"} {
		list = append(list, inLine(t, s, t.Context(), client))
	}
	for _, i := range []int{0, 3, 4, 1, 5, 2} { // however many the busy one wants
		s.give()
		require.NoError(t, <-list[i], i)
	}
	s.give()
	assert.Equal(t, 1, s.free)
	assert.Empty(t, s.waiting)
	assert.Empty(t, s.order)
}

func TestOneThatLeavesTheLineIsNotWaitedFor(t *testing.T) {
	s := newTurns(1)
	require.NoError(t, s.take(t.Context(), "a"))
	ctx, leave := context.WithCancel(t.Context())
	gone, stays := inLine(t, s, ctx, "b"), inLine(t, s, t.Context(), "c")
	leave()
	require.ErrorIs(t, <-gone, context.Canceled)
	s.give()
	require.NoError(t, <-stays)
	s.give()
	assert.Equal(t, 1, s.free)
}

func TestAClientHasOnlySoMuchUnderWay(t *testing.T) {
	w := newWorkshop(t.Context())
	block := make(chan struct{})
	ask := func(client string, i int) error {
		_, err := w.ask(client, fmt.Sprint(client, i), fmt.Sprint(client, i),
			func(context.Context, func(float64)) (any, error) {
				<-block
				return nil, nil
			})
		return err
	}
	for i := range tasksAtOnce {
		require.NoError(t, ask("phone", i))
	}
	require.ErrorIs(t, ask("phone", tasksAtOnce), errBusy)
	require.NoError(t, ask("phone", 0), "what is under way is found again")
	require.NoError(t, ask("", 0), "another is not kept from anything")
	close(block)
	require.Eventually(t, func() bool { return ask("phone", tasksAtOnce) == nil }, 5*time.Second, time.Millisecond)
}
