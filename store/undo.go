package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"strings"

	"github.com/jmoiron/sqlx"

	"envex/core/plan"
	"envex/core/reason"
)

// step is what one transaction did to one aggregate.
type step struct {
	ID     plan.ID `db:"id"`
	Before int     `db:"before"`
	After  int     `db:"after"`
}

// Transaction is one line of the log.
type Transaction struct {
	ID    int64  `db:"id" json:"id"`
	At    string `db:"at" json:"at"`
	Label string `db:"label" json:"label"`
	State string `db:"state" json:"state" enum:"done,undone,dropped"`
	Moved bool   `db:"moved" json:"moved,omitempty" doc:"Of one that is listed: something it touched has been changed since, so that it cannot be taken back, or done again."`
}

// ErrNothing says that there is nothing to undo or redo.
var ErrNothing = reason.Errorf("there is nothing to undo or redo")

// MovedOnError says why a transaction cannot be undone or redone: something it touched has
// been changed since.
type MovedOnError struct {
	Tx    Transaction
	Redo  bool
	Names []string
}

// Error names what has moved on.
func (e *MovedOnError) Error() string {
	act, have := "undo", "has"
	if e.Redo {
		act = "redo"
	}
	if len(e.Names) > 1 {
		have = "have"
	}
	return fmt.Sprintf("cannot %s %q: %s %s changed since", act, e.Tx.Label, strings.Join(e.Names, ", "), have)
}

// Words is what a person reads of it: see [reason.Of].
func (e *MovedOnError) Words() string { return e.Error() }

// InvalidTurnError says why a transaction cannot be undone or redone: the plan would not be valid
// with what has been done since.
type InvalidTurnError struct {
	Tx      Transaction
	Redo    bool
	Problem plan.Problem
}

// Error names the first problem there would be.
func (e *InvalidTurnError) Error() string {
	act := "undo"
	if e.Redo {
		act = "redo"
	}
	return fmt.Sprintf("cannot %s %q: then %s", act, e.Tx.Label, e.Problem.Message)
}

// Words is what a person reads of it: see [reason.Of].
func (e *InvalidTurnError) Words() string { return e.Error() }

// Log lists the transactions, newest first.
func (s *Store) Log(ctx context.Context, limit int) ([]Transaction, error) {
	list := []Transaction{}
	err := s.db.SelectContext(ctx, &list, `SELECT id, at, label, state, EXISTS (
		SELECT 1 FROM steps s JOIN aggregates a ON a.id = s.id JOIN revisions r ON r.id = a.id AND r.version = a.version
		WHERE s.tx = t.id AND r.content != iif(t.state = 'done', s.after, s.before)) AS moved
		FROM transactions t ORDER BY id DESC LIMIT ?`, limit)
	if err != nil {
		return nil, fmt.Errorf("store: read log: %w", err)
	}
	return list, nil
}

// Of transactions, those whose every aggregate still is as they left it: the others cannot be turned, and
// do not stand in the way of those behind them.
const unmovedSince = ` AND NOT EXISTS (
	SELECT 1 FROM steps s JOIN aggregates a ON a.id = s.id JOIN revisions r ON r.id = a.id AND r.version = a.version
	WHERE s.tx = t.id AND r.content != `

const (
	undoable = `SELECT id, at, label, state FROM transactions t WHERE state = 'done'` + unmovedSince +
		`s.after) ORDER BY id DESC LIMIT 1`
	redoable = `SELECT id, at, label, state FROM transactions t WHERE state = 'undone'` + unmovedSince +
		`s.before) ORDER BY turned DESC LIMIT 1`
)

// Ends are the transactions that undo and redo would act on: the latest done, and the one undone last, of
// those that can be. They are nil where there is none.
func (s *Store) Ends(ctx context.Context) (undo, redo *Transaction, err error) {
	if undo, err = s.pick(ctx, undoable); err != nil {
		return nil, nil, err
	}
	redo, err = s.pick(ctx, redoable)
	return undo, redo, err
}

func (s *Store) pick(ctx context.Context, query string, args ...any) (*Transaction, error) {
	var t Transaction
	err := s.db.GetContext(ctx, &t, query, args...)
	if errors.Is(err, sql.ErrNoRows) {
		return nil, nil
	}
	if err != nil {
		return nil, fmt.Errorf("store: read log: %w", err)
	}
	return &t, nil
}

// Undo takes back a transaction: the one named, or the latest that is done when id is 0. It
// writes the documents from before it as new versions. One that is named and undone already is left
// so, and that is no failure: a request whose answer was lost can be sent again. It fails with
// [ErrNothing], with a [*MovedOnError] when anything it touched has been changed since, and with an
// [*InvalidTurnError] when the plan would not be valid.
func (s *Store) Undo(ctx context.Context, id int64) (Transaction, Done, error) {
	return s.turn(ctx, id, "undone", undoable)
}

// Redo does an undone transaction again: the one named, or the one undone last when id is 0.
func (s *Store) Redo(ctx context.Context, id int64) (Transaction, Done, error) {
	return s.turn(ctx, id, "done", redoable)
}

func (s *Store) turn(ctx context.Context, id int64, to, next string) (Transaction, Done, error) {
	s.write.Lock()
	defer s.write.Unlock()
	t, err := s.turnable(ctx, id, next)
	switch {
	case err != nil:
		return Transaction{}, Done{}, err
	case t.State == to:
		return *t, Done{Tx: t.ID}, nil
	}
	var steps []step
	if err := s.db.SelectContext(ctx, &steps, `SELECT id, before, after FROM steps WHERE tx = ?`, t.ID); err != nil {
		return Transaction{}, Done{}, fmt.Errorf("store: read steps: %w", err)
	}
	if to == "done" {
		for i := range steps {
			steps[i].Before, steps[i].After = steps[i].After, steps[i].Before
		}
	}
	done, err := s.turnSteps(ctx, *t, steps, to)
	return *t, done, err
}

// turnable is the transaction that is named, or with none named the one that is next in order. One
// that is named may have been turned already.
func (s *Store) turnable(ctx context.Context, id int64, next string) (*Transaction, error) {
	var t *Transaction
	var err error
	if id != 0 {
		t, err = s.pick(ctx, `SELECT id, at, label, state FROM transactions WHERE id = ? AND state != 'dropped'`, id)
	} else {
		t, err = s.pick(ctx, next)
	}
	if err == nil && t == nil {
		err = ErrNothing
	}
	return t, err
}

// turnSteps brings each aggregate from the content after a step to the content before it.
func (s *Store) turnSteps(ctx context.Context, t Transaction, steps []step, to string) (Done, error) {
	tx, err := s.begun(ctx)
	if err != nil {
		return Done{}, err
	}
	done, err := s.writeTurn(ctx, tx, t, steps, to)
	if err != nil {
		return Done{}, errors.Join(err, tx.Rollback())
	}
	next, versions, err := s.load(ctx, tx)
	if err != nil {
		return Done{}, errors.Join(fmt.Errorf("store: %w", err), tx.Rollback())
	}
	if problems := next.Validate(); len(problems) > 0 {
		return Done{}, errors.Join(&InvalidTurnError{Tx: t, Redo: to == "done", Problem: problems[0]}, tx.Rollback())
	}
	if err := s.ended(ctx, tx); err != nil {
		return Done{}, err
	}
	s.mu.Lock()
	defer s.mu.Unlock()
	s.publish(next, versions, done.Versions)
	return done, nil
}

func (s *Store) writeTurn(ctx context.Context, tx *sqlx.Tx, t Transaction, steps []step, to string) (Done, error) {
	var moved []string
	for _, st := range steps {
		now, err := contentOf(ctx, tx, st.ID)
		if err != nil {
			return Done{}, fmt.Errorf("store: read version: %w", err)
		}
		if now != st.After {
			moved = append(moved, s.nameOf(st.ID))
		}
	}
	if len(moved) > 0 {
		return Done{}, &MovedOnError{Tx: t, Redo: to == "done", Names: moved}
	}
	label := "Undo: " + t.Label
	if to == "done" {
		label = "Redo: " + t.Label
	}
	done := Done{Tx: t.ID, Versions: map[plan.ID]int{}}
	for _, st := range steps {
		var kind plan.AggregateKind
		if err := tx.GetContext(ctx, &kind, `SELECT kind FROM aggregates WHERE id = ?`, st.ID); err != nil {
			return Done{}, fmt.Errorf("store: read kind: %w", err)
		}
		var doc sql.NullString
		if st.Before != 0 {
			if err := tx.GetContext(
				ctx, &doc, `SELECT doc FROM revisions WHERE id = ? AND version = ?`, st.ID, st.Before,
			); err != nil {
				return Done{}, fmt.Errorf("store: read revision: %w", err)
			}
		}
		var text any
		if doc.Valid {
			text = doc.String
		}
		v, err := s.turnVersion(ctx, tx, kind, st, text, label)
		if err != nil {
			return Done{}, fmt.Errorf("store: write: %w", err)
		}
		done.Versions[st.ID] = v
	}
	if _, err := tx.ExecContext(
		ctx, `UPDATE transactions SET state = ?, turned = (SELECT max(turned) + 1 FROM transactions) WHERE id = ?`, to, t.ID,
	); err != nil {
		return Done{}, fmt.Errorf("store: write log: %w", err)
	}
	return done, nil
}

// turnVersion writes a version that repeats an older one. Content 0, which is nothing at
// all, is kept as 0 so that redoing a creation recognizes it.
func (s *Store) turnVersion(
	ctx context.Context, tx *sqlx.Tx, kind plan.AggregateKind, st step, doc any, label string,
) (int, error) {
	v, err := s.writeVersion(ctx, tx, kind, st.ID, doc, st.Before, label)
	if err != nil || st.Before != 0 {
		return v, err
	}
	_, err = tx.ExecContext(ctx, `UPDATE revisions SET content = 0 WHERE id = ? AND version = ?`, st.ID, v)
	return v, err
}

func (s *Store) nameOf(id plan.ID) string {
	s.mu.RLock()
	defer s.mu.RUnlock()
	if a, ok := s.current.Find(id); ok {
		return a.Label()
	}
	return "something that was removed"
}
