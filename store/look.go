package store

import (
	"context"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"net/url"
	"os"
	"path/filepath"
	"time"
)

// address is a path as SQLite takes it, with room for a query.
func address(path string) string { return "file:" + (&url.URL{Path: path}).EscapedPath() }

// Duplicate copies a database and its log into a folder, and gives the path of the copy. Nothing is
// changed beside the database, as SQLite would by opening it.
func Duplicate(path, dir string) (string, error) {
	to := filepath.Join(dir, "plan.db")
	for _, end := range []string{"", "-wal"} {
		err := copyFile(path+end, to+end)
		if err != nil && (end == "" || !errors.Is(err, fs.ErrNotExist)) {
			return "", fmt.Errorf("store: copy %s: %w", path+end, err)
		}
	}
	return to, nil
}

func copyFile(from, to string) error {
	in, err := os.Open(from)
	if err != nil {
		return err
	}
	defer in.Close()
	out, err := os.OpenFile(to, os.O_WRONLY|os.O_CREATE|os.O_EXCL, 0o600)
	if err != nil {
		return err
	}
	_, err = io.Copy(out, in)
	return errors.Join(err, out.Close())
}

// Look opens a plan to be looked at and exported, and not to be written to: why says of which database it
// is, and why, to whoever tries. It opens a copy, so that nothing is changed in or beside the file.
func Look(ctx context.Context, path string, why ReadOnlyError, now func() time.Time) (*Store, error) {
	dir, err := os.MkdirTemp("", "envex-look-")
	if err != nil {
		return nil, fmt.Errorf("store: %w", err)
	}
	copied, err := Duplicate(path, dir)
	if err != nil {
		return nil, errors.Join(err, os.RemoveAll(dir))
	}
	s, err := Open(ctx, copied, now)
	if err != nil {
		return nil, errors.Join(err, os.RemoveAll(dir))
	}
	s.readOnly, s.scratch = &why, dir
	return s, nil
}

// ReadOnly is why nothing can be written; nil where it can.
func (s *Store) ReadOnly() *ReadOnlyError { return s.readOnly }
