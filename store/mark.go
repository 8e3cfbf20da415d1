package store

import (
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"io/fs"
	"os"

	"github.com/jmoiron/sqlx"

	"envex/store/wal"
)

// mark is whether the main file stands for the plan without its log, and which log it goes with.
type mark struct {
	Mark string `db:"mark"`
	Open bool   `db:"open"`
}

// marked reads the mark of a database; false where it is of a schema that had none.
func marked(ctx context.Context, q sqlx.QueryerContext) (mark, bool, error) {
	var tables int
	if err := sqlx.GetContext(
		ctx, q, &tables, `SELECT count(*) FROM sqlite_master WHERE name = 'log_mark'`,
	); err != nil || tables == 0 {
		return mark{}, false, err
	}
	var m mark
	err := sqlx.GetContext(ctx, q, &m, `SELECT mark, open FROM log_mark`)
	return m, err == nil, err
}

// Fits fails with a [*DamagedError] where the log of a database is missing, damaged, or of another one.
// SQLite itself would open such a database as it was before, without a word. Nothing is changed by it.
func Fits(ctx context.Context, path string) error {
	if info, err := os.Stat(path); errors.Is(err, fs.ErrNotExist) || err == nil && info.Size() == 0 {
		return nil
	}
	name := path + "-wal"
	log, err := wal.Read(name)
	if err != nil {
		return fmt.Errorf("store: %w", err)
	}
	if log.Damage > 0 {
		return &DamagedError{
			Path: path,
			What: []string{
				fmt.Sprintf(
					"its log %s cannot be read from byte %d on, and what was written last, %d times at least, is behind that", name,
					log.Damage, log.Lost,
				),
			},
		}
	}
	alone, ok, err := markOf(ctx, path, true)
	if err != nil || !ok {
		return nil // what is wrong with it is said when it is opened
	}
	switch {
	case alone.Open && log.Missing:
		return &DamagedError{
			Path: path,
			What: []string{
				fmt.Sprintf(
					"its log %s is missing, in which is what was written last: copy both, or make a copy with envex backup", name,
				),
			},
		}
	case log.Commits == 0:
		return nil
	}
	return ofThis(ctx, path, alone)
}

// ofThis fails where a log is not of the database that stands beside it. It looks at copies, since
// SQLite would take the log in.
func ofThis(ctx context.Context, path string, alone mark) error {
	dir, err := os.MkdirTemp("", "envex-log-")
	if err != nil {
		return fmt.Errorf("store: %w", err)
	}
	defer os.RemoveAll(dir)
	beside, err := Duplicate(path, dir)
	if err != nil {
		return err
	}
	both, ok, err := markOf(ctx, beside, false)
	if err != nil || !ok || both.Mark != alone.Mark {
		return &DamagedError{
			Path: path,
			What: []string{
				fmt.Sprintf("its log %s-wal does not fit: it is of another database, or of this one at another time", path),
			},
			foreign: true,
		}
	}
	return nil
}

func markOf(ctx context.Context, path string, alone bool) (mark, bool, error) {
	query := "?mode=ro"
	if alone {
		query += "&immutable=1"
	}
	db, err := sqlx.Open("sqlite", address(path)+query)
	if err != nil {
		return mark{}, false, err
	}
	defer db.Close()
	return marked(ctx, db)
}

// begins writes into the main file that there is a log from now on. A write is acknowledged only after that.
func (s *Store) begins(ctx context.Context) error {
	if s.logging {
		return nil
	}
	if _, err := s.db.ExecContext(ctx, `UPDATE log_mark SET mark = ?, open = 1`, rand.Text()); err != nil {
		return fmt.Errorf("store: mark the log: %w", err)
	}
	if err := s.checkpoint(ctx); err != nil {
		return err
	}
	s.logging = true
	return nil
}

// closeLog moves everything into the main file and writes into it that it stands for the plan by itself.
func (s *Store) closeLog(ctx context.Context) error {
	if !s.logging {
		return nil
	}
	if err := s.checkpoint(ctx); err != nil {
		return err
	}
	if _, err := s.db.ExecContext(ctx, `UPDATE log_mark SET open = 0`); err != nil {
		return fmt.Errorf("store: mark the log: %w", err)
	}
	if err := s.checkpoint(ctx); err != nil {
		return err
	}
	s.logging = false
	return nil
}

// checkpoint moves everything that was written from the write-ahead log into the main file.
func (s *Store) checkpoint(ctx context.Context) error {
	var busy, log, moved int
	if err := s.db.QueryRowxContext(ctx, `PRAGMA wal_checkpoint(TRUNCATE)`).Scan(&busy, &log, &moved); err != nil {
		return fmt.Errorf("store: move the log into the file: %w", err)
	}
	if busy != 0 {
		return errors.New("store: move the log into the file: something reads the database for very long")
	}
	return nil
}
