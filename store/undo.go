package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"

	"github.com/jmoiron/sqlx"

	"envex/core/plan"
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
}

// ErrNothing says that there is nothing to undo or redo.
var ErrNothing = errors.New("there is nothing to do again or to take back")

// MovedOnError says why a transaction cannot be undone or redone: something it touched has
// been changed since.
type MovedOnError struct {
	Tx    Transaction
	Names []string
}

// Error names what has moved on.
func (e *MovedOnError) Error() string {
	text := fmt.Sprintf("%q cannot be taken back or done again: changed since", e.Tx.Label)
	for i, n := range e.Names {
		if i > 0 {
			text += ","
		}
		text += " " + n
	}
	return text
}

// Log lists the transactions, newest first.
func (s *Store) Log(ctx context.Context, limit int) ([]Transaction, error) {
	list := []Transaction{}
	err := s.db.SelectContext(ctx, &list, `SELECT id, at, label, state FROM transactions ORDER BY id DESC LIMIT ?`, limit)
	if err != nil {
		return nil, fmt.Errorf("store: read log: %w", err)
	}
	return list, nil
}

// Ends are the transactions that undo and redo would act on; nil where there is none.
func (s *Store) Ends(ctx context.Context) (undo, redo *Transaction, err error) {
	if undo, err = s.pick(ctx, `SELECT id, at, label, state FROM transactions WHERE state = 'done' ORDER BY id DESC LIMIT 1`); err != nil {
		return nil, nil, err
	}
	redo, err = s.pick(ctx, `SELECT id, at, label, state FROM transactions WHERE state = 'undone' ORDER BY id LIMIT 1`)
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
// writes the documents from before it as new versions. It fails with [ErrNothing], or with a
// [*MovedOnError] when anything it touched has been changed since.
func (s *Store) Undo(ctx context.Context, id int64) (Transaction, Done, error) {
	return s.turn(ctx, id, "done", "undone", `ORDER BY id DESC`)
}

// Redo does an undone transaction again: the one named, or the one undone last when id is 0.
func (s *Store) Redo(ctx context.Context, id int64) (Transaction, Done, error) {
	return s.turn(ctx, id, "undone", "done", `ORDER BY id`)
}

func (s *Store) turn(ctx context.Context, id int64, from, to, order string) (Transaction, Done, error) {
	s.write.Lock()
	defer s.write.Unlock()
	query := `SELECT id, at, label, state FROM transactions WHERE state = ? `
	args := []any{from}
	if id != 0 {
		query += `AND id = ? `
		args = append(args, id)
	}
	t, err := s.pick(ctx, query+order+` LIMIT 1`, args...)
	if err != nil {
		return Transaction{}, Done{}, err
	}
	if t == nil {
		return Transaction{}, Done{}, ErrNothing
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

// turnSteps brings each aggregate from the content after a step to the content before it.
func (s *Store) turnSteps(ctx context.Context, t Transaction, steps []step, to string) (Done, error) {
	tx, err := s.db.BeginTxx(ctx, nil)
	if err != nil {
		return Done{}, fmt.Errorf("store: begin: %w", err)
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
		return Done{}, errors.Join(&MovedOnError{Tx: t, Names: []string{problems[0].String()}}, tx.Rollback())
	}
	if err := tx.Commit(); err != nil {
		return Done{}, fmt.Errorf("store: commit: %w", err)
	}
	s.mu.Lock()
	defer s.mu.Unlock()
	s.current, s.versions = next, versions
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
		return Done{}, &MovedOnError{Tx: t, Names: moved}
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
			if err := tx.GetContext(ctx, &doc, `SELECT doc FROM revisions WHERE id = ? AND version = ?`, st.ID, st.Before); err != nil {
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
	if _, err := tx.ExecContext(ctx, `UPDATE transactions SET state = ? WHERE id = ?`, to, t.ID); err != nil {
		return Done{}, fmt.Errorf("store: write log: %w", err)
	}
	return done, nil
}

// turnVersion writes a version that repeats an older one. Content 0, which is nothing at
// all, is kept as 0 so that redoing a creation recognizes it.
func (s *Store) turnVersion(ctx context.Context, tx *sqlx.Tx, kind plan.AggregateKind, st step, doc any, label string) (int, error) {
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
	for _, a := range s.current.All() {
		if a.AggregateID() == id {
			return a.Label()
		}
	}
	return "something that was removed"
}
