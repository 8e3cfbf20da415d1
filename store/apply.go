package store

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"maps"

	"github.com/jmoiron/sqlx"

	"envex/core/plan"
	"envex/core/reason"
)

// StaleError says that a write named an older version than the one that is there.
type StaleError struct {
	Kind    plan.AggregateKind
	ID      plan.ID
	Read    int // the version the write was based on
	Current int // the version that is there; 0 when nothing ever was
	Gone    bool
}

// Error says both versions.
func (e *StaleError) Error() string {
	if e.Gone {
		return fmt.Sprintf(
			"this %s was removed meanwhile: the write is based on version %d, and version %d removed it", e.Kind, e.Read,
			e.Current,
		)
	}
	return fmt.Sprintf(
		"this %s was changed meanwhile: the write is based on version %d, and version %d is there", e.Kind, e.Read, e.Current,
	)
}

// Words is what a person reads of it: see [reason.Of].
func (e *StaleError) Words() string { return e.Error() }

// InUseError wraps the uses that stand in the way of removing something.
type InUseError struct{ Uses []plan.Use }

// Error lists the uses.
func (e *InUseError) Error() string {
	text := "it is still in use"
	for _, u := range e.Uses {
		text += "; " + u.String()
	}
	return text
}

// Words is what a person reads of it: see [reason.Of].
func (e *InUseError) Words() string { return e.Error() }

// Edit is one aggregate to be written or removed, and the version it was read at: 0 for
// one that is new.
type Edit struct {
	Read   int
	Put    plan.Aggregate // nil to remove
	Remove plan.ID
}

func (e Edit) id() plan.ID {
	if e.Put != nil {
		return e.Put.AggregateID()
	}
	return e.Remove
}

// Done is a transaction that was carried out; Tx is 0 where there was nothing to change.
type Done struct {
	Tx       int64
	Versions map[plan.ID]int
}

// Request is what a write is asked under. A key that was used before makes the write give what it led to
// then and change nothing, so that one whose answer was lost can be sent again; Asked is a digest of what
// is asked, so that a key cannot stand for something else.
type Request struct{ Key, Asked string }

// Apply carries out edits as one transaction, whole or not at all. The label says in words
// what was done. A request key that was used before makes it give that transaction's result
// again and change nothing, so that a write whose answer was lost can be sent again.
//
// It fails with a [*StaleError] when an edit's version is not the current one, with
// [*InUseError] when something removed is still referred to, and with [plan.Problems] when
// the plan would not be valid.
//
// Edits that leave everything as it is are no transaction.
func (s *Store) Apply(ctx context.Context, label, request string, edits ...Edit) (Done, error) {
	asked, err := json.Marshal(struct {
		Label string
		Edits []Edit
	}{label, edits})
	if err != nil {
		return Done{}, fmt.Errorf("store: %w", err)
	}
	digest := sha256.Sum256(asked)
	return s.Change(
		ctx, Request{Key: request, Asked: hex.EncodeToString(digest[:])},
		func(State) (string, []Edit, error) { return label, edits, nil },
	)
}

// waiting is a change that waits for its turn, or has had it.
type waiting struct {
	ctx     context.Context
	request Request
	work    func(State) (string, []Edit, error)
	over    bool // guarded by the write lock, as what it led to is
	done    Done
	err     error
}

// Change is [Store.Apply] of edits that are worked out from the plan as it stands when it is this
// write's turn, so that nothing comes in between. An error of work is given as it is.
//
// Those that wait while another is on its way to the disk are carried out together, each a transaction of
// its own, with one wait for the disk. work may be called on another goroutine, and more than once: what it
// gives last counts.
func (s *Store) Change(
	ctx context.Context, request Request, work func(State) (label string, edits []Edit, err error),
) (Done, error) {
	w := &waiting{ctx: ctx, request: request, work: work}
	s.line.Lock()
	s.waiting = append(s.waiting, w)
	s.line.Unlock()
	s.write.Lock()
	defer s.write.Unlock()
	if !w.over {
		s.carryOut(context.WithoutCancel(ctx))
	}
	return w.done, w.err
}

// carryOut carries out all changes that wait. The write lock is held.
func (s *Store) carryOut(ctx context.Context) {
	s.line.Lock()
	list := s.waiting
	s.waiting = nil
	s.line.Unlock()
	for _, w := range list {
		w.over = true
	}
	fail := func(err error) {
		for _, w := range list {
			if w.err == nil {
				w.done, w.err = Done{}, err
			}
		}
	}
	// Of several, the plan they come to is judged once. Where it may not be, each is carried out again and
	// judged by itself, so that only those are refused that have to be.
	tx, d, err := s.together(ctx, list, len(list) > 1)
	if errors.Is(err, errTogether) {
		tx, d, err = s.together(ctx, list, false)
	}
	if err != nil {
		fail(err)
		return
	}
	if len(d.written) == 0 {
		if err := tx.Rollback(); err != nil {
			fail(fmt.Errorf("store: %w", err))
		}
		return
	}
	if err := s.ended(ctx, tx); err != nil {
		fail(err)
		return
	}
	s.mu.Lock()
	defer s.mu.Unlock()
	s.publish(d.plan, d.versions, d.written)
}

// errTogether says that what several changes come to together may not be.
var errTogether = reason.Errorf("they cannot be together")

// together carries out changes in one transaction of the database, which is open when it succeeds. With
// once the plan is judged when all are done, and errTogether says that it may not be so.
func (s *Store) together(ctx context.Context, list []*waiting, once bool) (*sqlx.Tx, *draft, error) {
	tx, err := s.begun(ctx)
	if err != nil {
		return nil, nil, err
	}
	d := s.draft()
	d.once = once
	for _, w := range list {
		w.done, w.err = d.carryOut(ctx, tx, w)
	}
	if once && len(d.plan.ValidateChange(plan.SortedKeys(d.written)...)) > 0 {
		return nil, nil, errors.Join(errTogether, tx.Rollback())
	}
	return tx, d, nil
}

// draft is the plan as it will stand once the changes so far are on the disk.
type draft struct {
	*Store
	plan     plan.Plan
	versions map[plan.ID]int
	touched  map[plan.ID]int64
	written  map[plan.ID]int
	once     bool // the plan is judged when all changes are done, not after each
}

func (s *Store) draft() *draft {
	now := s.State()
	return &draft{
		Store: s, plan: *now.Plan, versions: maps.Clone(now.Versions), touched: maps.Clone(now.touched),
		written: map[plan.ID]int{},
	}
}

func (d *draft) state() State {
	p := d.plan
	now := State{Plan: &p, Versions: maps.Clone(d.versions), Seq: d.Store.seq, touched: maps.Clone(d.touched)}
	if len(d.written) > 0 {
		now.Seq++
	}
	return now
}

// carryOut carries out one change, or leaves everything as it is.
func (d *draft) carryOut(ctx context.Context, tx *sqlx.Tx, w *waiting) (done Done, err error) {
	defer func() {
		if fault := recover(); fault != nil { // it may be another's change than the one this goroutine came with
			done, err = Done{}, fmt.Errorf("store: a change failed: %v", fault)
		}
	}()
	if err := w.ctx.Err(); err != nil {
		return Done{}, err
	}
	if done, ok, err := already(ctx, tx, w.request); ok || err != nil {
		return done, err
	}
	label, edits, err := w.work(d.state())
	if err != nil {
		return Done{}, err
	}
	next, err := d.check(edits)
	if err != nil {
		return Done{}, err
	}
	edits, unchanged, err := d.changing(edits)
	if err != nil {
		return Done{}, err
	}
	if len(edits) == 0 {
		return Done{Versions: unchanged}, nil
	}
	return d.save(ctx, tx, next, func() (Done, error) {
		done, err := d.writeAll(ctx, tx, label, w.request, edits)
		for id, v := range unchanged {
			done.Versions[id] = v
		}
		return done, err
	})
}

// save carries out a change of the database that leads to a plan, and takes back what it did of it where
// it fails.
func (d *draft) save(ctx context.Context, tx *sqlx.Tx, next plan.Plan, do func() (Done, error)) (Done, error) {
	if _, err := tx.ExecContext(ctx, `SAVEPOINT one`); err != nil {
		return Done{}, fmt.Errorf("store: write: %w", d.inWords(err))
	}
	done, err := do()
	if err != nil {
		_, back := tx.ExecContext(ctx, `ROLLBACK TO one`)
		_, gone := tx.ExecContext(ctx, `RELEASE one`)
		return Done{}, errors.Join(fmt.Errorf("store: write: %w", d.inWords(err)), back, gone)
	}
	if _, err := tx.ExecContext(ctx, `RELEASE one`); err != nil {
		return Done{}, fmt.Errorf("store: write: %w", d.inWords(err))
	}
	for id, v := range done.Versions {
		if d.versions[id] != v {
			d.written[id], d.touched[id] = v, d.Store.seq+1
		}
		d.versions[id] = v
	}
	d.plan = next
	return done, nil
}

func (d *draft) writeAll(ctx context.Context, tx *sqlx.Tx, label string, request Request, edits []Edit) (Done, error) {
	done := Done{Versions: map[plan.ID]int{}}
	if _, err := tx.ExecContext(ctx, `UPDATE transactions SET state = 'dropped' WHERE state = 'undone'`); err != nil {
		return done, err
	}
	id, err := d.logTx(ctx, tx, label, request)
	if err != nil {
		return done, err
	}
	done.Tx = id
	for _, e := range edits {
		v, err := d.writeEdit(ctx, tx, &d.plan, id, label, e)
		if err != nil {
			return done, err
		}
		done.Versions[e.id()] = v
	}
	return done, nil
}

// check works out the plan after the edits and refuses them if it may not be.
func (d *draft) check(edits []Edit) (plan.Plan, error) {
	next := d.plan
	for _, e := range edits {
		have := d.versions[e.id()]
		kind, exists := kindOf(&d.plan, e.id())
		if e.Put != nil {
			kind = e.Put.AggregateKind()
		}
		if (e.Read == 0 && exists) || (e.Read != 0 && (e.Read != have || !exists)) {
			return next, &StaleError{Kind: kind, ID: e.id(), Read: e.Read, Current: have, Gone: have > 0 && !exists}
		}
		if e.Put != nil {
			next.Put(e.Put)
		} else {
			next.Drop(kind, e.Remove)
		}
	}
	for _, e := range edits {
		if e.Put != nil {
			continue
		}
		if uses := next.Uses(e.Remove); len(uses) > 0 {
			return next, &InUseError{Uses: uses}
		}
		if r, ok := d.plan.FindRig(e.Remove); ok {
			with := next
			with.Put(*r)
			if uses := with.Uses(e.Remove); len(uses) > 0 {
				return next, &InUseError{Uses: uses}
			}
		}
	}
	written := make([]plan.ID, len(edits))
	for i, e := range edits {
		written[i] = e.id()
	}
	var problems plan.Problems
	if !d.once {
		problems = next.ValidateChange(written...)
	}
	for _, e := range edits {
		problems = append(problems, d.untidy(&next, e)...)
	}
	if len(problems) > 0 {
		return next, problems
	}
	return next, nil
}

// untidy is what an edit brings in text that no hand writes. What stood there before may stay.
func (d *draft) untidy(next *plan.Plan, e Edit) plan.Problems {
	if e.Put == nil {
		return nil
	}
	found := plan.Untidy(e.Put)
	if len(found) == 0 {
		return nil
	}
	before := map[plan.Problem]bool{}
	if a, ok := d.plan.Find(e.id()); ok {
		for _, p := range plan.Untidy(a) {
			before[p] = true
		}
	}
	var fresh plan.Problems
	for _, p := range found {
		if !before[p] {
			p.Path = next.PathOf(e.id()) + "." + p.Path
			fresh = append(fresh, p)
		}
	}
	return fresh
}

// changing leaves out edits that leave an aggregate as it is, and gives the versions of those.
func (d *draft) changing(edits []Edit) (real []Edit, unchanged map[plan.ID]int, err error) {
	unchanged = map[plan.ID]int{}
	for _, e := range edits {
		if have, ok := d.plan.Find(e.id()); ok && e.Put != nil {
			same, err := alike(have, e.Put)
			if err != nil {
				return nil, nil, err
			}
			if same {
				unchanged[e.id()] = d.versions[e.id()]
				continue
			}
		}
		real = append(real, e)
	}
	return real, unchanged, nil
}

// alike reports whether two aggregates are written alike.
func alike(a, b plan.Aggregate) (bool, error) {
	before, err := json.Marshal(a)
	if err != nil {
		return false, fmt.Errorf("store: compare: %w", err)
	}
	after, err := json.Marshal(b)
	if err != nil {
		return false, fmt.Errorf("store: compare: %w", err)
	}
	return bytes.Equal(before, after), nil
}

func kindOf(p *plan.Plan, id plan.ID) (plan.AggregateKind, bool) {
	a, ok := p.Find(id)
	if !ok {
		return "", false
	}
	return a.AggregateKind(), true
}
