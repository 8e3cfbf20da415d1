package store

import (
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"os"

	"github.com/gofrs/flock"

	"envex/core/reason"
)

// Owner is the program that has a database open.
type Owner struct {
	PID     int    `json:"pid"`
	Address string `json:"address,omitempty"` // where it serves; "" while it does not
}

// OwnedError says that another program has a database open: one at a time may, since each keeps the plan
// in mind.
type OwnedError struct {
	Path  string
	Owner Owner
}

// Error says who has it.
func (e *OwnedError) Error() string {
	who := "another program"
	if e.Owner.PID != 0 {
		who = fmt.Sprintf("Envex, process %d", e.Owner.PID)
	}
	if e.Owner.Address != "" {
		who += ", at " + e.Owner.Address
	}
	return fmt.Sprintf("%s is open in %s: close it there first", e.Path, who)
}

// Words is what a person reads of it: see [reason.Of].
func (e *OwnedError) Words() string { return e.Error() }

// own takes the lock of a database, beside it. The lock is the system's, so that a program that ends in
// whatever way gives it back; the file stays, and says whose it last was.
func own(path string) (*flock.Flock, error) {
	lock := flock.New(path + ".lock")
	held, err := lock.TryLock()
	switch {
	case forbidden(err):
		return nil, &ReadOnlyError{
			Why: "the folder of " + path + " cannot be written to by you, or its disk is read-only", Of: path,
		}
	case err != nil:
		return nil, fmt.Errorf("store: lock %s: %w", path, err)
	case !held:
		return nil, &OwnedError{Path: path, Owner: ownerOf(path)}
	}
	return lock, nil
}

// Held fails with an [*OwnedError] where a program has a database open. Nothing is put beside it.
func Held(path string) error {
	if _, err := os.Stat(path + ".lock"); err != nil {
		return nil // nobody ever had it, or it cannot be known
	}
	lock := flock.New(path+".lock", flock.SetFlag(os.O_RDONLY))
	held, err := lock.TryLock()
	switch {
	case err != nil:
		return nil // a lock that cannot be taken by whoever may only read says nothing
	case !held:
		return &OwnedError{Path: path, Owner: ownerOf(path)}
	}
	if err := lock.Unlock(); err != nil {
		return fmt.Errorf("store: %w", err)
	}
	return nil
}

// ownerOf is who a lock file names; nobody where that cannot be read.
func ownerOf(path string) Owner {
	var o Owner
	data, err := os.ReadFile(path + ".lock")
	if err != nil || json.Unmarshal(data, &o) != nil {
		return Owner{}
	}
	return o
}

// Announce says in the lock file who has the database, and where it is served.
func (s *Store) Announce(address string) error {
	data, err := json.Marshal(Owner{PID: os.Getpid(), Address: address})
	if err != nil {
		return fmt.Errorf("store: %w", err)
	}
	// The same file, written over: another one would not be the one that is locked.
	if err := os.WriteFile(s.path+".lock", append(data, '\n'), 0o600); err != nil {
		return fmt.Errorf("store: say who has %s: %w", s.path, err)
	}
	return nil
}

// ErrReplaced says that the database file is not the one that was opened.
var ErrReplaced = reason.Errorf(
	"the database file was removed or replaced while it was open, so nothing more is written to it: keep what is on the screen by exporting it, then start Envex anew",
)

// ErrForeign says that something else has written to the database while it was open.
var ErrForeign = reason.Errorf(
	"another program has written to the database while it was open, so nothing more is written to it: export what is on the screen, then start Envex anew",
)

// unmoved fails with [ErrReplaced] where the database file has gone or is another.
func (s *Store) unmoved() error {
	now, err := os.Stat(s.path)
	switch {
	case errors.Is(err, fs.ErrNotExist):
		return ErrReplaced
	case err != nil:
		return fmt.Errorf("store: look at %s: %w", s.path, err)
	case !os.SameFile(now, s.file):
		return ErrReplaced
	}
	return nil
}
