package doctor

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"time"

	"github.com/jmoiron/sqlx"

	"envex/core/plan"
	"envex/disk"
	"envex/store"
)

// found is everything that was found in a database.
type found struct {
	things     []*thing
	log        []deed
	rehearsals [][]any
	nights     [][]any
}

// deed is a transaction of the log with its steps.
type deed struct {
	row   []any
	steps []oneStep
}

type oneStep struct {
	id            plan.ID
	before, after int
}

// deeds reads the log, the rehearsals, and what happened at shows.
func (f *found) deeds(ctx context.Context, r *Report, db *sqlx.DB) {
	steps := map[int][]oneStep{}
	broken := salvage(ctx, db, "steps", "tx, id, before, after", func(row []any) {
		tx, ok := number(row[0])
		id, ok2 := text(row[1])
		before, ok3 := number(row[2])
		after, ok4 := number(row[3])
		if ok && ok2 && ok3 && ok4 {
			steps[tx] = append(steps[tx], oneStep{plan.ID(id), before, after})
		}
	})
	broken = salvage(ctx, db, "transactions", "id, at, label, state, request", func(row []any) {
		if id, ok := number(row[0]); ok && len(steps[id]) > 0 {
			f.log = append(f.log, deed{row, steps[id]})
		}
	}) || broken
	if broken {
		r.say("some of what was done cannot be read, and can be undone no more")
	}
	f.rehearsals = documents(ctx, r, db, "rehearsals", "at, rig, set_list, doc, request", 3, "the rehearsals")
	f.nights = documents(ctx, r, db, "nights", "show, event, doc", 2, "what happened at shows")
}

// documents are the rows of a table that keeps documents, in the column at a place, and says how many cannot be read. An
// older schema may not have the table.
func documents(ctx context.Context, r *Report, db *sqlx.DB, table, columns string, doc int, called string) [][]any {
	var there int
	err := db.GetContext(ctx, &there, `SELECT count(*) FROM sqlite_master WHERE name = ?`, table)
	if err != nil || there == 0 {
		return nil
	}
	var list [][]any
	unread := 0
	if salvage(ctx, db, table, columns, func(row []any) {
		if x, ok := text(row[doc]); ok && json.Valid([]byte(x)) {
			list = append(list, row)
			return
		}
		unread++
	}) {
		r.say("some of %s cannot be read", called)
	}
	if unread > 0 {
		r.say("%d of %s cannot be read", unread, called)
	}
	return list
}

// write writes what was found into a new database, opens it, and gives it its name when it is valid.
func (f *found) write(ctx context.Context, to string, now func() time.Time) error {
	dir, err := os.MkdirTemp(filepath.Dir(to), ".envex-repair-")
	if err != nil {
		return fmt.Errorf("doctor: write %s: %w", to, err)
	}
	defer os.RemoveAll(dir)
	fresh := filepath.Join(dir, "plan.db")
	for _, work := range []func() error{
		func() error { return tried(ctx, fresh, now) }, // an empty one, of the newest schema
		func() error { return f.fill(ctx, fresh, now) },
		func() error { return tried(ctx, fresh, now) },
	} {
		if err := work(); err != nil {
			return fmt.Errorf("doctor: write %s: %w", to, err)
		}
	}
	if err := disk.Settle(fresh, to); err != nil {
		return fmt.Errorf("doctor: write %s: %w", to, err)
	}
	return nil
}

// tried opens a database and closes it again.
func tried(ctx context.Context, path string, now func() time.Time) error {
	s, err := store.Open(ctx, path, now)
	if err != nil {
		return err
	}
	return s.Close()
}

func (f *found) fill(ctx context.Context, path string, now func() time.Time) error {
	db, err := sqlx.Open("sqlite", "file:"+path+"?_pragma=foreign_keys(1)")
	if err != nil {
		return err
	}
	defer db.Close()
	tx, err := db.BeginTxx(ctx, nil)
	if err != nil {
		return err
	}
	if err := f.put(ctx, tx, now().UTC().Format(time.RFC3339Nano)); err != nil {
		return errors.Join(err, tx.Rollback())
	}
	return tx.Commit()
}

func (f *found) put(ctx context.Context, tx *sqlx.Tx, at string) error {
	kept := map[plan.ID]map[int]bool{}
	for _, t := range f.things {
		if len(t.versions) == 0 {
			continue
		}
		versions, err := t.put(ctx, tx, at)
		if err != nil {
			return err
		}
		kept[t.id] = versions
	}
	for _, d := range f.log {
		if err := d.put(ctx, tx, kept); err != nil {
			return err
		}
	}
	for _, row := range f.rehearsals {
		if _, err := tx.ExecContext(
			ctx, `INSERT OR IGNORE INTO rehearsals (at, rig, set_list, doc, request) VALUES (?, ?, ?, ?, ?)`, row...,
		); err != nil {
			return err
		}
	}
	for _, row := range f.nights {
		if _, err := tx.ExecContext(ctx, `INSERT OR IGNORE INTO nights (show, event, doc) VALUES (?, ?, ?)`, row...); err != nil {
			return err
		}
	}
	return nil
}

// put writes a thing with its sound versions, and what is to stand as the newest.
func (t *thing) put(ctx context.Context, tx *sqlx.Tx, at string) (map[int]bool, error) {
	r := t.standing()
	last, kept := t.versions[0].version, map[int]bool{}
	var doc any
	if r != nil {
		doc = r.doc
	}
	again := r == nil || t.chosen > 0 || t.why != "" // it needs a version of its own
	if again {
		last = max(t.newest, last) + 1
	}
	if _, err := tx.ExecContext(
		ctx, `INSERT INTO aggregates (kind, id, version, doc) VALUES (?, ?, ?, ?)`, t.kind, t.id, last, doc,
	); err != nil {
		return nil, err
	}
	write := func(v revision) error {
		if kept[v.version] {
			return nil // what stood and what was written last are of one version
		}
		kept[v.version] = true
		_, err := tx.ExecContext(
			ctx, `INSERT INTO revisions (id, version, content, doc, at, label) VALUES (?, ?, ?, ?, ?, ?)`, t.id, v.version,
			v.content, v.doc, v.at, v.label,
		)
		return err
	}
	for i := len(t.versions) - 1; i >= 0; i-- {
		if err := write(t.versions[i]); err != nil {
			return nil, err
		}
	}
	if !again {
		return kept, nil
	}
	now := revision{version: last, content: last, doc: doc, at: at, label: "Repair: it could not be brought back"}
	if r != nil {
		now.label = fmt.Sprintf("Repair: as in version %d", r.version)
		if r.label != "As it stood" {
			now.content = r.content
		}
	}
	return kept, write(now)
}

// put writes a transaction where every version it led from and to is there.
func (d deed) put(ctx context.Context, tx *sqlx.Tx, kept map[plan.ID]map[int]bool) error {
	for _, s := range d.steps {
		if !kept[s.id][s.after] || s.before != 0 && !kept[s.id][s.before] {
			return nil
		}
	}
	done, err := tx.ExecContext(
		ctx, `INSERT OR IGNORE INTO transactions (id, at, label, state, request) VALUES (?, ?, ?, ?, ?)`, d.row...,
	)
	if err != nil {
		return err
	}
	if n, err := done.RowsAffected(); err != nil || n == 0 {
		return err // its state or its key makes no sense
	}
	for _, s := range d.steps {
		if _, err := tx.ExecContext(
			ctx, `INSERT INTO steps (tx, id, before, after) SELECT max(id), ?, ?, ? FROM transactions WHERE id = ?`, s.id,
			s.before, s.after, d.row[0],
		); err != nil {
			return err
		}
	}
	return nil
}
