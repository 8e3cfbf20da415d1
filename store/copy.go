package store

import (
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"time"

	"github.com/jmoiron/sqlx"

	"envex/core/plan"
	"envex/disk"
)

// Contents is what a database holds, counted.
type Contents struct {
	Gear       int `json:"gear"`
	Sounds     int `json:"sounds"`
	Songs      int `json:"songs"`
	Bands      int `json:"bands"`
	SetLists   int `json:"set_lists"`
	Rigs       int `json:"rigs"`
	Shows      int `json:"shows"`
	Rehearsals int `json:"rehearsals"`
	Revisions  int `json:"revisions" doc:"Versions of things that can be brought back."`
}

// Copy is a copy of a whole database: the plan, every version of it, undo, and the rehearsals.
type Copy struct {
	Bytes    int64    `json:"bytes"`
	Contents Contents `json:"contents"`
}

// Backup writes a copy of the database to a file, while it is being used. The copy is opened and its plan
// validated before it takes its name; an earlier file of that name stays until then.
func (s *Store) Backup(ctx context.Context, to string) (Copy, error) {
	return s.backup(ctx, to, true)
}

// backup is Backup; one whose schema is older is not read as a plan.
func (s *Store) backup(ctx context.Context, to string, read bool) (Copy, error) {
	dir, err := os.MkdirTemp(filepath.Dir(to), ".envex-copy-")
	if err != nil {
		return Copy{}, fmt.Errorf("store: copy to %s: %w", to, s.inWords(err))
	}
	defer os.RemoveAll(dir)
	fresh := filepath.Join(dir, "plan.db")
	if _, err := s.db.ExecContext(ctx, `VACUUM INTO ?`, fresh); err != nil {
		return Copy{}, fmt.Errorf("store: copy to %s: %w", to, s.inWords(err))
	}
	if err := aside(ctx, fresh); err != nil {
		return Copy{}, err
	}
	c, err := Inspect(ctx, fresh)
	if err != nil && read {
		return Copy{}, fmt.Errorf("store: the copy is not as it should be, and was thrown away: %w", err)
	}
	if err := disk.Settle(fresh, to); err != nil {
		return Copy{}, fmt.Errorf("store: copy to %s: %w", to, s.inWords(err))
	}
	return c, nil
}

// aside writes into a copy that it stands for the plan by itself: it was made while there was a log.
func aside(ctx context.Context, path string) error {
	db, err := sqlx.Open("sqlite", address(path))
	if err != nil {
		return fmt.Errorf("store: %w", err)
	}
	defer db.Close()
	_, there, err := marked(ctx, db)
	if err == nil && there {
		_, err = db.ExecContext(ctx, `UPDATE log_mark SET open = 0`)
	}
	if err != nil {
		return fmt.Errorf("store: write the copy: %w", err)
	}
	return nil
}

// Inspect looks into a copy and fails where its pages do not hang together or its plan is not valid. The
// copy is not changed.
func Inspect(ctx context.Context, path string) (Copy, error) {
	info, err := os.Stat(path)
	if err != nil {
		return Copy{}, fmt.Errorf("store: %w", err)
	}
	db, err := sqlx.Open("sqlite", address(path)+"?mode=ro&immutable=1&_pragma=trusted_schema(0)")
	if err != nil {
		return Copy{}, fmt.Errorf("store: %w", err)
	}
	defer db.Close()
	c := Copy{Bytes: info.Size()}
	if err := errors.Join(whole(ctx, db), twice(ctx, db)); err != nil {
		return c, fmt.Errorf("store: %s: %w", path, err)
	}
	p, _, err := (&Store{}).load(ctx, db)
	if err != nil {
		return c, fmt.Errorf("store: %s: %w", path, err)
	}
	c.Contents = Count(&p)
	if err := db.GetContext(ctx, &c.Contents.Revisions, `SELECT count(*) FROM revisions`); err != nil {
		return c, fmt.Errorf("store: %s: %w", path, err)
	}
	var kept int
	if err := db.GetContext(ctx, &kept, `SELECT count(*) FROM sqlite_master WHERE name = 'rehearsals'`); err != nil {
		return c, fmt.Errorf("store: %s: %w", path, err)
	}
	if kept > 0 { // the first schema had none
		if err := db.GetContext(ctx, &c.Contents.Rehearsals, `SELECT count(*) FROM rehearsals`); err != nil {
			return c, fmt.Errorf("store: %s: %w", path, err)
		}
	}
	if problems := p.Validate(); len(problems) > 0 {
		return c, fmt.Errorf("store: %s: its plan is not valid: %w", path, problems)
	}
	return c, nil
}

// Count counts what a plan has.
func Count(p *plan.Plan) Contents {
	return Contents{
		Gear: len(p.Gear), Sounds: len(p.Sounds), Songs: len(p.Songs), SetLists: len(p.SetLists), Rigs: len(p.Rigs),
		Shows: len(p.Shows), Bands: len(p.Bands),
	}
}

// beforeSchema makes a copy of a database whose schema is about to be brought up to date.
func (s *Store) beforeSchema(ctx context.Context, version int64) error {
	_, err := s.keep(ctx, fmt.Sprintf("%s%d-%s", copySchema, version, s.now().UTC().Format(copyTime)), false)
	return err
}

// keep makes a copy in the folder of copies.
func (s *Store) keep(ctx context.Context, name string, read bool) (Kept, error) {
	return s.keepIn(ctx, s.copies(), name, read)
}

// keepIn makes a copy in a folder of copies.
func (s *Store) keepIn(ctx context.Context, folder, name string, read bool) (Kept, error) {
	if err := os.MkdirAll(folder, 0o700); err != nil {
		return Kept{}, fmt.Errorf("store: make room for copies: %w", s.inWords(err))
	}
	c, err := s.backup(ctx, filepath.Join(folder, name+copyEnd), read)
	if err != nil {
		return Kept{}, err
	}
	return Kept{Name: name, At: s.now().UTC().Format(time.RFC3339), Kind: kindOfCopy(name), Copy: c}, nil
}
