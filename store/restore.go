package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"os"
	"strings"

	"github.com/jmoiron/sqlx"

	"envex/core/plan"
)

// Restored is what a restore did.
type Restored struct {
	Done
	Brought    []string `json:"brought" doc:"Things that are now as they were in the copy."`
	Removed    []string `json:"removed" doc:"Things that were not in the copy."`
	Rehearsals int      `json:"rehearsals" doc:"Rehearsals that were brought back."`
}

// Restore makes the plan what it is in a copy: one transaction, which can be undone as any other. What was
// done since stays in the log and in the versions. Where this database has nothing in it yet it gets the
// whole history of the copy; else versions of things that it never had come along, and what could be undone
// when the copy was made can be undone again. Rehearsals that are not here are brought back.
//
// The copy is read, not changed. It fails where that is damaged or of another program.
func (s *Store) Restore(ctx context.Context, path, label, request string) (Restored, error) {
	if s.readOnly != nil {
		return Restored{}, s.readOnly
	}
	source, err := readable(ctx, path, s)
	if err != nil {
		return Restored{}, err
	}
	defer source.Close()
	s.write.Lock()
	defer s.write.Unlock()
	tx, err := s.begun(ctx)
	if err != nil {
		return Restored{}, err
	}
	r := &restoring{store: s, from: source, tx: tx, out: Restored{Brought: []string{}, Removed: []string{}}}
	asked := Request{Key: request, Asked: label}
	if done, ok, err := already(ctx, tx, asked); ok || err != nil {
		return Restored{Done: done}, errors.Join(err, tx.Rollback())
	}
	if err := r.all(ctx, label, asked); err != nil {
		return Restored{}, errors.Join(fmt.Errorf("store: restore: %w", s.inWords(err)), tx.Rollback())
	}
	next, versions, err := s.load(ctx, tx)
	if err != nil {
		return Restored{}, errors.Join(fmt.Errorf("store: restore: %w", err), tx.Rollback())
	}
	if problems := next.Validate(); len(problems) > 0 {
		return Restored{}, errors.Join(problems, tx.Rollback())
	}
	if err := s.ended(ctx, tx); err != nil {
		return Restored{}, err
	}
	s.mu.Lock()
	defer s.mu.Unlock()
	s.publish(next, versions, versions)
	return r.out, nil
}

// readable opens a duplicate of a copy as a store, which brings its schema up to date.
func readable(ctx context.Context, path string, s *Store) (*Store, error) {
	dir, err := os.MkdirTemp("", "envex-restore-")
	if err != nil {
		return nil, fmt.Errorf("store: %w", err)
	}
	there, err := Duplicate(path, dir)
	if err != nil {
		return nil, errors.Join(err, os.RemoveAll(dir))
	}
	source, err := Open(ctx, there, s.now)
	if err != nil {
		return nil, errors.Join(unusable(err, there), os.RemoveAll(dir))
	}
	source.scratch = dir
	return source, nil
}

// UnusableError says why a file is no copy that can be brought back.
type UnusableError struct{ Why string }

// Error says why.
func (e *UnusableError) Error() string { return "this copy cannot be used: " + e.Why }

// Words is what a person reads of it: see [reason.Of].
func (e *UnusableError) Words() string { return e.Error() }

// unusable says why a duplicate of a copy could not be opened, without where that was.
func unusable(err error, path string) error {
	var wrong *DamagedError
	if errors.As(err, &wrong) {
		return &UnusableError{Why: "it is damaged: " + strings.Join(wrong.What, "; ")}
	}
	return &UnusableError{Why: strings.TrimPrefix(err.Error(), "store: open "+path+": ")}
}

type restoring struct {
	store, from *Store
	tx          *sqlx.Tx
	out         Restored
}

// standing is an aggregate as it stands, and the version whose document that repeats.
type standing struct {
	row
	Content int `db:"content"`
}

const standingNow = `SELECT a.kind, a.id, a.version, a.doc, r.content FROM aggregates a JOIN revisions r ON r.id = a.id AND r.version = a.version ORDER BY a.seq`

func (r *restoring) all(ctx context.Context, label string, request Request) error {
	fresh, err := r.history(ctx)
	if err != nil {
		return err
	}
	if err := r.nights(ctx); err != nil {
		return err
	}
	if err := r.rehearsals(ctx); err != nil {
		return err
	}
	var then, now []standing
	if err := r.from.db.SelectContext(ctx, &then, standingNow); err != nil {
		return fmt.Errorf("read the copy: %w", err)
	}
	if err := r.tx.SelectContext(ctx, &now, standingNow); err != nil {
		return err
	}
	here := map[plan.ID]standing{}
	for _, x := range now {
		here[x.ID] = x
	}
	var steps []step
	kept := map[plan.ID]bool{}
	for _, x := range then {
		kept[x.ID] = true
		st, err := r.bring(ctx, x, here[x.ID], label, fresh[x.ID])
		if err != nil {
			return err
		}
		if st != nil {
			steps = append(steps, *st)
		}
	}
	for _, x := range now {
		if kept[x.ID] || !x.Doc.Valid {
			continue
		}
		v, err := r.store.writeVersion(ctx, r.tx, x.Kind, x.ID, nil, 0, label)
		if err != nil {
			return err
		}
		r.out.Removed = append(r.out.Removed, r.store.nameOf(x.ID))
		steps = append(steps, step{ID: x.ID, Before: x.Content, After: v})
	}
	return r.log(ctx, label, request, steps)
}

// bring makes one thing what it is in the copy; nil where it is that already.
func (r *restoring) bring(ctx context.Context, then, now standing, label string, fresh bool) (*step, error) {
	if !fresh && then.Doc == now.Doc {
		return nil, nil
	}
	if fresh && !then.Doc.Valid {
		return nil, nil // it was removed there, and is not here
	}
	content, err := r.sameAs(ctx, then)
	if err != nil {
		return nil, err
	}
	var doc any
	if then.Doc.Valid {
		doc = then.Doc.String
		a, err := plan.DecodeAggregate(then.Kind, []byte(then.Doc.String))
		if err != nil {
			return nil, err
		}
		r.out.Brought = append(r.out.Brought, a.Label())
	} else {
		r.out.Removed = append(r.out.Removed, r.store.nameOf(then.ID))
	}
	v, err := r.store.writeVersion(ctx, r.tx, then.Kind, then.ID, doc, content, label)
	if err != nil {
		return nil, err
	}
	st := &step{ID: then.ID, Before: now.Content, After: content}
	if fresh {
		st.Before = 0
	}
	if content == 0 {
		st.After = v
	}
	return st, nil
}

// sameAs is the version here that has the document of a thing in the copy as the copy has it; 0 where the
// two have gone different ways. What was undoable when the copy was made is so again when it is kept.
func (r *restoring) sameAs(ctx context.Context, then standing) (int, error) {
	var doc sql.NullString
	err := r.tx.GetContext(ctx, &doc, `SELECT doc FROM revisions WHERE id = ? AND version = ?`, then.ID, then.Content)
	switch {
	case errors.Is(err, sql.ErrNoRows):
		return 0, nil
	case err != nil:
		return 0, err
	case doc != then.Doc:
		return 0, nil
	}
	return then.Content, nil
}

// history takes in the versions of things that were never here; those are given. Where nothing ever was
// here, it takes in all that was done too.
func (r *restoring) history(ctx context.Context) (map[plan.ID]bool, error) {
	var known []plan.ID
	if err := r.tx.SelectContext(ctx, &known, `SELECT id FROM aggregates`); err != nil {
		return nil, err
	}
	here := map[plan.ID]bool{}
	for _, id := range known {
		here[id] = true
	}
	fresh := map[plan.ID]bool{}
	copied := []struct{ read, write string }{
		{
			`SELECT kind, id, version, doc FROM aggregates ORDER BY seq`,
			`INSERT INTO aggregates (kind, id, version, doc) VALUES (?, ?, ?, ?)`,
		},
		{
			`SELECT id, version, content, doc, at, label FROM revisions ORDER BY rowid`,
			`INSERT INTO revisions (id, version, content, doc, at, label) VALUES (?, ?, ?, ?, ?, ?)`,
		},
	}
	for i, c := range copied {
		column := 1 - i // where the id stands
		err := r.each(ctx, c.read, func(row []any) error {
			id := plan.ID(fmt.Sprint(row[column]))
			if here[id] {
				return nil
			}
			fresh[id] = true
			_, err := r.tx.ExecContext(ctx, c.write, row...)
			return err
		})
		if err != nil {
			return nil, err
		}
	}
	if len(here) > 0 {
		return fresh, nil
	}
	return fresh, r.deeds(ctx)
}

// deeds takes in the log of a copy, into a database in which nothing was ever done.
func (r *restoring) deeds(ctx context.Context) error {
	for _, c := range []struct{ read, write string }{
		{
			`SELECT id, at, label, state, request, asked, turned FROM transactions ORDER BY id`,
			`INSERT INTO transactions (id, at, label, state, request, asked, turned) VALUES (?, ?, ?, ?, ?, ?, ?)`,
		},
		{
			`SELECT tx, id, before, after FROM steps ORDER BY tx`,
			`INSERT INTO steps (tx, id, before, after) VALUES (?, ?, ?, ?)`,
		},
	} {
		err := r.each(ctx, c.read, func(row []any) error {
			_, err := r.tx.ExecContext(ctx, c.write, row...)
			return err
		})
		if err != nil {
			return err
		}
	}
	return nil
}

// rehearsals takes in those of the copy that are not here.
func (r *restoring) rehearsals(ctx context.Context) error {
	return r.each(ctx, `SELECT at, rig, set_list, doc, request FROM rehearsals ORDER BY id`, func(row []any) error {
		res, err := r.tx.ExecContext(ctx, `INSERT INTO rehearsals (at, rig, set_list, doc, request) SELECT ?1, ?2, ?3, ?4, ?5
			WHERE NOT EXISTS (SELECT 1 FROM rehearsals WHERE at = ?1 AND rig = ?2 AND set_list = ?3 AND doc = ?4 OR request = ?5)`, row...)
		if err != nil {
			return err
		}
		n, err := res.RowsAffected()
		r.out.Rehearsals += int(n)
		return err
	})
}

// nights takes in what happened at shows and is not here.
func (r *restoring) nights(ctx context.Context) error {
	return r.each(ctx, `SELECT show, event, doc FROM nights ORDER BY seq`, func(row []any) error {
		_, err := r.tx.ExecContext(
			ctx, `INSERT INTO nights (show, event, doc) VALUES (?, ?, ?) ON CONFLICT (show, event) DO NOTHING`, row...,
		)
		return err
	})
}

// each reads rows of the copy.
func (r *restoring) each(ctx context.Context, query string, do func(row []any) error) error {
	rows, err := r.from.db.QueryxContext(ctx, query)
	if err != nil {
		return fmt.Errorf("read the copy: %w", err)
	}
	defer rows.Close()
	for rows.Next() {
		row, err := rows.SliceScan()
		if err != nil {
			return fmt.Errorf("read the copy: %w", err)
		}
		if err := do(row); err != nil {
			return err
		}
	}
	return rows.Err()
}

// log writes what the restore did as one transaction; nothing where it changed nothing.
func (r *restoring) log(ctx context.Context, label string, request Request, steps []step) error {
	r.out.Versions = map[plan.ID]int{}
	if len(steps) == 0 {
		return nil
	}
	if _, err := r.tx.ExecContext(ctx, `UPDATE transactions SET state = 'dropped' WHERE state = 'undone'`); err != nil {
		return err
	}
	id, err := r.store.logTx(ctx, r.tx, label, request)
	if err != nil {
		return err
	}
	r.out.Tx = id
	for _, st := range steps {
		if _, err := r.tx.ExecContext(
			ctx, `INSERT INTO steps (tx, id, before, after) VALUES (?, ?, ?, ?)`, id, st.ID, st.Before, st.After,
		); err != nil {
			return err
		}
		var version int
		if err := r.tx.GetContext(ctx, &version, `SELECT version FROM aggregates WHERE id = ?`, st.ID); err != nil {
			return err
		}
		r.out.Versions[st.ID] = version
	}
	return nil
}
