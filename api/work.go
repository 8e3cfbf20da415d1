package api

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"reflect"
	"runtime"
	"sync"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/hashicorp/golang-lru/v2/simplelru"

	"envex/core/plan"
	"envex/core/reason"
)

// Work is a computation that may take longer than a request should. Asking again, with the same
// words and while the plan says the same, gives the same work: how far it is, then its result.
type Work[T any] struct {
	State    string  `json:"state" enum:"running,done,cancelled"`
	Progress float64 `json:"progress" doc:"From 0 to 1."`
	Result   *T      `json:"result,omitempty"`
}

// task is one piece of work, whatever its result is.
type task struct {
	name   string // what it was asked, whatever the plan said then
	client string // who asked first
	cancel context.CancelFunc
	done   chan struct{}

	mu       sync.Mutex
	progress float64
	result   any
	err      error
}

func (t *task) report(share float64) {
	t.mu.Lock()
	defer t.mu.Unlock()
	t.progress = max(t.progress, min(share, 1))
}

// workshop runs tasks outside of requests, a few at a time, each client in its turn, and keeps what they
// found for whoever asks again.
type workshop struct {
	ctx   context.Context
	seats *turns

	mu    sync.Mutex
	tasks *simplelru.LRU[string, *task] // by key; one that is dropped is cancelled
}

// How many results are kept, and how many tasks of one client may be under way.
const (
	keptTasks   = 64
	tasksAtOnce = 32
)

// errBusy says that a client has asked for as much as it may.
var errBusy = reason.Errorf("this device has too much in progress: wait until some of it is done")

func newWorkshop(ctx context.Context) *workshop {
	tasks, _ := simplelru.NewLRU(keptTasks, func(_ string, t *task) { t.cancel() }) // it fails on a size of 0 only
	return &workshop{ctx: ctx, seats: newTurns(max(1, runtime.NumCPU())), tasks: tasks}
}

// ask gives the task of that key, which it starts where there is none. A task that was asked the
// same of an older plan is cancelled: nobody waits for it any more. It fails with errBusy where that
// client has too many under way.
func (w *workshop) ask(
	client, key, name string, run func(ctx context.Context, report func(float64)) (any, error),
) (*task, error) {
	w.mu.Lock()
	defer w.mu.Unlock()
	if t, ok := w.tasks.Get(key); ok {
		return t, nil
	}
	under := 0
	for _, k := range w.tasks.Keys() {
		switch t, _ := w.tasks.Peek(k); {
		case t.ended():
		case t.name == name:
			w.tasks.Remove(k)
		case t.client == client:
			under++
		}
	}
	if under >= tasksAtOnce {
		return nil, errBusy
	}
	ctx, cancel := context.WithCancel(w.ctx)
	t := &task{name: name, client: client, cancel: cancel, done: make(chan struct{})}
	w.tasks.Add(key, t)
	go func() {
		defer cancel()
		defer close(t.done)
		if err := w.seats.take(ctx, client); err != nil {
			t.finish(nil, err)
			return
		}
		defer w.seats.give()
		t.finish(guarded(func() (any, error) { return run(ctx, t.report) }))
	}()
	return t, nil
}

// guarded turns a fault inside a task into its error, so that it does not take the server with it.
func guarded(run func() (any, error)) (result any, err error) {
	defer func() {
		if fault := recover(); fault != nil {
			result, err = nil, fmt.Errorf("something went wrong inside Envex: %v", fault)
		}
	}()
	return run()
}

func (t *task) finish(result any, err error) {
	t.mu.Lock()
	defer t.mu.Unlock()
	t.result, t.err = result, err
}

func (t *task) ended() bool {
	select {
	case <-t.done:
		return true
	default:
		return false
	}
}

// forget drops what a task found where that has lapsed.
func (w *workshop) forget(key string, lapsed func(found any) bool) {
	w.mu.Lock()
	defer w.mu.Unlock()
	if t, ok := w.tasks.Peek(key); ok && t.ended() && t.err == nil && lapsed(t.result) {
		w.tasks.Remove(key)
	}
}

// stop cancels the task of a key and forgets it; it reports whether there was one.
func (w *workshop) stop(key string) bool {
	w.mu.Lock()
	defer w.mu.Unlock()
	return w.tasks.Remove(key)
}

// Waiting is how long a request may wait for its work to end before it says how far it is.
type Waiting struct {
	WaitMS int `query:"wait_ms" minimum:"0" maximum:"2000" default:"150" doc:"How long to wait for the end of it before saying how far it is, in ms."`
}

func (w Waiting) wait() time.Duration { return time.Duration(w.WaitMS) * time.Millisecond }

type waits interface{ wait() time.Duration }

type workOutput[T any] struct{ Body Work[T] }

// job says what a piece of work is: where it is asked for, which part of the plan its answer
// depends on, and how it is found.
type job[In waits, T any] struct {
	id, path, summary string
	scope             func(p *plan.Plan, in In) (*plan.Plan, error)
	run               func(ctx context.Context, p *plan.Plan, in In, report func(float64)) (*T, error)
	lapsed            func(*T) bool // what was found is of no use any more; nil where it always is
}

// serve registers asking for a piece of work, and cancelling it.
func serve[In waits, T any](s *Server, api huma.API, j job[In, T]) {
	ask := huma.Operation{
		OperationID: "get-" + j.id, Method: http.MethodGet, Path: j.path, Summary: j.summary,
		Description: "Nothing is changed. It is begun by asking, goes on when nobody waits, and is there for whoever asks again.",
	}
	huma.Register(api, ask, func(ctx context.Context, in *In) (*workOutput[T], error) {
		t, err := begin(ctx, s, j, *in)
		if err != nil {
			return nil, err
		}
		waitFor(ctx, (*in).wait(), t)
		return answerOf[T](s, t)
	})
	stop := huma.Operation{
		OperationID: "cancel-" + j.id, Method: http.MethodDelete, Path: j.path, Summary: "Cancel: " + j.summary,
	}
	huma.Register(api, stop, func(_ context.Context, in *In) (*workOutput[T], error) {
		if err := cancel(s, j, *in); err != nil {
			return nil, err
		}
		return &workOutput[T]{Body: Work[T]{State: "cancelled"}}, nil
	})
}

// begin begins a piece of work, or finds the one that is under way or done.
func begin[In waits, T any](ctx context.Context, s *Server, j job[In, T], in In) (*task, error) {
	p, key, name, err := s.keyOf(j.id, in, func(p *plan.Plan) (*plan.Plan, error) { return j.scope(p, in) })
	if err != nil {
		return nil, err
	}
	s.work.forget(key, func(found any) bool {
		result, ok := found.(*T)
		return ok && j.lapsed != nil && j.lapsed(result)
	})
	t, err := s.work.ask(
		callerOf(ctx).client(), key, name,
		func(ctx context.Context, report func(float64)) (any, error) {
			if j.lapsed != nil || ofRecording(name) {
				return j.run(ctx, p, in, report) // it is of sounds that are gone with this program
			}
			return s.again(key, func() (any, error) { return j.run(ctx, p, in, report) }, func() any { return new(T) })
		},
	)
	if err != nil {
		return nil, huma.ErrorWithHeaders(s.problem(err, ""), http.Header{"Retry-After": {"1"}})
	}
	return t, nil
}

// cancel stops a piece of work and forgets it.
func cancel[In waits, T any](s *Server, j job[In, T], in In) error {
	_, key, _, err := s.keyOf(j.id, in, func(p *plan.Plan) (*plan.Plan, error) { return j.scope(p, in) })
	if err == nil {
		s.work.stop(key)
	}
	return err
}

// waitFor waits for tasks to end, no longer than a request would.
func waitFor(ctx context.Context, wait time.Duration, tasks ...*task) {
	timer := time.NewTimer(wait)
	defer timer.Stop()
	for _, t := range tasks {
		select {
		case <-t.done:
		case <-timer.C:
			return
		case <-ctx.Done():
			return
		}
	}
}

func answerOf[T any](s *Server, t *task) (*workOutput[T], error) {
	t.mu.Lock()
	defer t.mu.Unlock()
	out := &workOutput[T]{Body: Work[T]{State: "running", Progress: t.progress}}
	if !t.ended() {
		return out, nil
	}
	switch {
	case errors.Is(t.err, context.Canceled):
		out.Body.State = "cancelled"
	case t.err != nil:
		return nil, s.problem(t.err, "")
	default:
		result, ok := t.result.(*T)
		if !ok {
			return nil, fmt.Errorf("api: a task gave %T", t.result)
		}
		out.Body.State, out.Body.Progress, out.Body.Result = "done", 1, result
	}
	return out, nil
}

// keyOf names a piece of work by what was asked and by what its part of the plan says, so that the
// answer is found again while neither changes.
func (s *Server) keyOf(
	id string, in any, scope func(*plan.Plan) (*plan.Plan, error),
) (p *plan.Plan, key, name string, err error) {
	p, _ = s.store.Plan()
	part, err := scope(p)
	if err != nil {
		return nil, "", "", err
	}
	asked, err := json.Marshal(withoutWait(in))
	if err != nil {
		return nil, "", "", fmt.Errorf("api: %w", err)
	}
	said, err := json.Marshal(part)
	if err != nil {
		return nil, "", "", fmt.Errorf("api: %w", err)
	}
	sum := sha256.Sum256(said)
	name = id + " " + string(asked)
	return p, name + " " + hex.EncodeToString(sum[:]), name, nil
}

// withoutWait is what was asked, without how long the asker would wait.
func withoutWait(in any) map[string]any {
	out := map[string]any{}
	v := reflect.Indirect(reflect.ValueOf(in))
	for i := range v.NumField() {
		if v.Type().Field(i).Type != reflect.TypeFor[Waiting]() {
			out[v.Type().Field(i).Name] = v.Field(i).Interface()
		}
	}
	return out
}
