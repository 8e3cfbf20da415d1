package store

import (
	"errors"
	"fmt"
	"io/fs"
	"os"
	"strings"
	"syscall"

	"modernc.org/sqlite"
	sqlite3 "modernc.org/sqlite/lib"

	"envex/core/reason"
)

// ReadOnlyError says that a plan can be looked at and not written to.
type ReadOnlyError struct {
	Why string
	Of  string // the path of the database
}

// Error says why.
func (e *ReadOnlyError) Error() string { return "nothing is written: " + e.Why }

// Words is what a person reads of it: see [reason.Of].
func (e *ReadOnlyError) Words() string { return e.Error() }

// DamagedError says that a database cannot be trusted as it is.
type DamagedError struct {
	Path string
	What []string // sentences without their end

	foreign bool // its log is that of another
}

// OfAnother reports whether the log of a damaged database is that of another one.
func OfAnother(e *DamagedError) bool { return e.foreign }

// Error says all that is wrong with it.
func (e *DamagedError) Error() string {
	return fmt.Sprintf("%s is damaged: %s. See envex doctor --db %s", e.Path, strings.Join(e.What, "; "), e.Path)
}

// Words is what a person reads of it: see [reason.Of].
func (e *DamagedError) Words() string { return e.Error() }

// ErrDiskFull says that a write did not fit on the disk.
var ErrDiskFull = reason.Errorf("the disk is full, so nothing was written: free some space and try again")

// ErrOtherRequest says that a request key has been used for something else.
var ErrOtherRequest = reason.Errorf("the key of this request was used before for another one: nothing was changed")

// inWords gives what SQLite says of the disk as what a person can do about it. Everything else is left.
func (s *Store) inWords(err error) error {
	var e *sqlite.Error
	switch {
	case errors.Is(err, syscall.ENOSPC):
		return errors.Join(ErrDiskFull, err)
	case !errors.As(err, &e):
		return err
	case e.Code()&0xff == sqlite3.SQLITE_FULL:
		return errors.Join(ErrDiskFull, err)
	case e.Code()&0xff == sqlite3.SQLITE_READONLY:
		return &ReadOnlyError{Why: "the disk, the folder or the file cannot be written to", Of: s.path}
	}
	return err
}

// notADatabase reports whether an error says that a file is no SQLite database at all.
func notADatabase(err error) bool {
	var e *sqlite.Error
	return errors.As(err, &e) && e.Code()&0xff == sqlite3.SQLITE_NOTADB
}

// damaged reports whether an error says that a database cannot be read as one.
func damaged(err error) bool {
	var e *sqlite.Error
	return errors.As(err, &e) && e.Code()&0xff == sqlite3.SQLITE_CORRUPT
}

// forbidden reports whether an error says that something may not be written.
func forbidden(err error) bool {
	return errors.Is(err, fs.ErrPermission) || errors.Is(err, syscall.EROFS)
}

// writable fails with a [*ReadOnlyError] where a database that is there cannot be written to.
func writable(path string) error {
	f, err := os.OpenFile(path, os.O_RDWR, 0)
	switch {
	case errors.Is(err, fs.ErrNotExist):
		return nil
	case forbidden(err):
		return &ReadOnlyError{Why: path + " cannot be written to by you, or its disk is read-only", Of: path}
	case err != nil:
		return fmt.Errorf("store: open %s: %w", path, err)
	}
	return f.Close()
}
