// Package doctor looks into a database that cannot be opened, says in words what is wrong with it, and
// brings back what is sound into a new one. It works on a copy: the patient is never edited.
package doctor

import (
	"context"
	"errors"
	"fmt"
	"os"
	"time"

	"github.com/jmoiron/sqlx"

	"envex/core/plan"
	"envex/core/reason"
	"envex/store"
)

// What became of a thing.
const (
	Sound = "sound" // it is as it was last
	Older = "older" // an older version of it is the newest that is sound
	Back  = "back"  // it was removed, and came back because something needs it
	Lost  = "lost"  // no version of it can be used
)

// Thing is something of the plan and what became of it.
type Thing struct {
	Kind    plan.AggregateKind `json:"kind"`
	ID      plan.ID            `json:"id"`
	Name    string             `json:"name"`
	State   string             `json:"state" enum:"older,back,lost"`
	Version int                `json:"version,omitempty" doc:"The version that is brought back."`
	Newest  int                `json:"newest" doc:"The newest version of which anything was found."`
	Why     string             `json:"why"`
}

// Report is what is wrong with a database, and what of it can be brought back.
type Report struct {
	Path     string         `json:"path"`
	Sound    bool           `json:"sound" doc:"Nothing is wrong with it."`
	Wrong    []string       `json:"wrong" doc:"What is wrong with the file."`
	Things   []Thing        `json:"things" doc:"What is not as it was last."`
	Contents store.Contents `json:"contents" doc:"What can be brought back."`
	Copies   []store.Kept   `json:"copies" doc:"Copies that are beside it."`
}

func (r *Report) say(format string, args ...any) {
	r.Wrong = append(r.Wrong, fmt.Sprintf(format, args...))
}

// Examine says what is wrong with a database. It fails where the file cannot be read at all, is that of
// another program, or is open in one.
func Examine(ctx context.Context, path string, now func() time.Time) (*Report, error) {
	r, _, err := operate(ctx, path, "", now)
	return r, err
}

// Repair writes what is sound of a database into a new file: the newest sound version of each thing, the
// older ones, the log as far as it can still be undone, and rehearsals. It fails where that file is there
// already.
func Repair(ctx context.Context, path, to string, now func() time.Time) (*Report, error) {
	if _, err := os.Lstat(to); err == nil {
		return nil, reason.Errorf("%s is there already: say another name", to)
	}
	r, written, err := operate(ctx, path, to, now)
	if err == nil && !written {
		err = reason.Errorf("nothing of %s can be brought back", path)
	}
	return r, err
}

// operate works on a duplicate of a database.
func operate(ctx context.Context, path, to string, now func() time.Time) (*Report, bool, error) {
	if err := store.Held(path); err != nil {
		return nil, false, err
	}
	dir, err := os.MkdirTemp("", "envex-doctor-")
	if err != nil {
		return nil, false, fmt.Errorf("doctor: %w", err)
	}
	defer os.RemoveAll(dir)
	body, err := store.Duplicate(path, dir)
	if err != nil {
		return nil, false, err
	}
	r := &Report{Path: path, Wrong: []string{}, Things: []Thing{}}
	if r.Copies, err = store.CopiesOf(ctx, path); err != nil {
		return nil, false, err
	}
	if err := r.log(ctx, path, body); err != nil {
		return nil, false, err
	}
	db, err := sqlx.Open("sqlite", "file:"+body+"?_pragma=trusted_schema(0)")
	if err != nil {
		return nil, false, fmt.Errorf("doctor: %w", err)
	}
	defer db.Close()
	db.SetMaxOpenConns(1)
	readable, err := r.pages(ctx, db)
	if err != nil || !readable {
		return r, false, err
	}
	found := r.all(ctx, db)
	r.Sound = len(r.Wrong) == 0 && len(r.Things) == 0
	if to == "" {
		return r, false, nil
	}
	return r, true, found.write(ctx, to, now)
}

// log says what is wrong with the log, and takes one away that does not fit from the duplicate.
func (r *Report) log(ctx context.Context, path, body string) error {
	err := store.Fits(ctx, path)
	var wrong *store.DamagedError
	if !errors.As(err, &wrong) {
		return err
	}
	r.Wrong = append(r.Wrong, wrong.What...)
	if store.OfAnother(wrong) {
		if err := os.Remove(body + "-wal"); err != nil {
			return fmt.Errorf("doctor: %w", err)
		}
	}
	return nil
}

// pages says what is wrong with the file as such; false where nothing can be read of it.
func (r *Report) pages(ctx context.Context, db *sqlx.DB) (bool, error) {
	var tables []string
	if err := db.SelectContext(ctx, &tables, `SELECT name FROM sqlite_master WHERE type = 'table'`); err != nil {
		r.say("its first page cannot be read, and without that nothing can: %v", err)
		return false, nil
	}
	known := map[string]bool{}
	for _, t := range tables {
		known[t] = true
	}
	if len(tables) == 0 {
		r.say("there is nothing in it")
		return false, nil
	}
	if !known["aggregates"] || !known["revisions"] {
		return false, reason.Errorf("%s is the database of another program", r.Path)
	}
	var version int64
	if err := db.GetContext(
		ctx, &version, `SELECT max(version_id) FROM goose_db_version WHERE is_applied`,
	); err == nil && version > store.Schema() {
		return false, reason.Errorf(
			"%s was made by a newer Envex (schema %d; this one knows %d)", r.Path, version, store.Schema(),
		)
	}
	var said []string
	if err := db.SelectContext(ctx, &said, `PRAGMA quick_check(10)`); err != nil {
		r.say("its pages cannot all be read: %v", err)
	}
	for _, s := range said {
		if s != "ok" {
			r.say("its pages do not hang together: %s", s)
		}
	}
	return true, nil
}

// all reads everything that can be read, and chooses what of each thing is to stand.
func (r *Report) all(ctx context.Context, db *sqlx.DB) *found {
	f := &found{things: r.things(ctx, db)}
	f.deeds(ctx, r, db)
	whole(f.things)
	p, _ := planOf(f.things)
	r.Contents = store.Count(p)
	r.Contents.Rehearsals = len(f.rehearsals)
	for _, t := range f.things {
		r.Contents.Revisions += len(t.versions)
		if state, ok := t.became(); ok {
			r.Things = append(r.Things, state)
		}
	}
	return f
}

// became is what became of a thing; false where it is as it was last.
func (t *thing) became() (Thing, bool) {
	out := Thing{Kind: t.kind, ID: t.id, Name: t.name(), Newest: t.newest, Why: t.why}
	r := t.standing()
	switch {
	case r == nil:
		out.State = Lost
		if out.Why == "" {
			out.Why = "no version of it can be read"
		}
		return out, true
	case t.back:
		out.State = Back
	case t.chosen > 0 || r.version < t.newest || t.why != "":
		out.State = Older
	default:
		return out, false
	}
	out.Version = r.version
	return out, true
}
