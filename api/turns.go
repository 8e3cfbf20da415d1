package api

import (
	"context"
	"slices"
	"sync"
)

// turns are seats that are shared fairly: whoever waits gets one in the order in which they came, and the
// clients that wait take turns, however many things each of them waits for.
type turns struct {
	mu      sync.Mutex
	free    int
	waiting map[string][]chan struct{} // by client, the first to come first
	order   []string                   // clients that wait, whose turn is next first
}

func newTurns(seats int) *turns {
	return &turns{free: seats, waiting: map[string][]chan struct{}{}}
}

// take waits for a seat. It fails where the context ends first.
func (t *turns) take(ctx context.Context, client string) error {
	t.mu.Lock()
	if t.free > 0 {
		t.free--
		t.mu.Unlock()
		return nil
	}
	mine := make(chan struct{})
	if len(t.waiting[client]) == 0 {
		t.order = append(t.order, client)
	}
	t.waiting[client] = append(t.waiting[client], mine)
	t.mu.Unlock()
	select {
	case <-mine:
		return nil
	case <-ctx.Done():
	}
	t.mu.Lock()
	at := slices.Index(t.waiting[client], mine)
	if at >= 0 {
		t.leave(client, at)
	}
	t.mu.Unlock()
	if at < 0 {
		t.give() // it was given in between
	}
	return ctx.Err()
}

// leave takes one out of those that wait. The lock is held.
func (t *turns) leave(client string, at int) {
	t.waiting[client] = slices.Delete(t.waiting[client], at, at+1)
	if len(t.waiting[client]) > 0 {
		return
	}
	delete(t.waiting, client)
	if i := slices.Index(t.order, client); i >= 0 {
		t.order = slices.Delete(t.order, i, i+1)
	}
}

// give gives a seat back, and to whose turn it is.
func (t *turns) give() {
	t.mu.Lock()
	defer t.mu.Unlock()
	if len(t.order) == 0 {
		t.free++
		return
	}
	client := t.order[0]
	next := t.waiting[client][0]
	t.leave(client, 0)
	if i := slices.Index(t.order, client); i >= 0 { // it waits for more: behind the others
		t.order = append(slices.Delete(t.order, i, i+1), client)
	}
	close(next)
}
