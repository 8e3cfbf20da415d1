package store

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"envex/core/reason"
)

// How copies are called in their folder, which is beside the database: by what they were made for, and
// when.
const (
	copiesEnd  = ".copies"
	copyEnd    = ".db"
	copyDaily  = "day-"
	copySchema = "before-schema-"
	copyHand   = "kept-"
	copyTime   = "20060102T150405Z"
)

// How many copies are kept: of days, of weeks, and from before the schema changed. Those that were made by
// hand are kept until they are removed by hand.
const (
	keptDays    = 7
	keptWeeks   = 4
	keptSchemas = 4
)

// CopyKind is what a copy was made for.
type CopyKind string

// The kinds of copies.
const (
	DailyCopy  CopyKind = "daily"
	SchemaCopy CopyKind = "schema" // before the schema was brought up to date
	HandCopy   CopyKind = "hand"
)

// Kept is a copy in the folder beside the database.
type Kept struct {
	Name    string   `json:"name"`
	At      string   `json:"at" doc:"When it was made (RFC 3339)."`
	Kind    CopyKind `json:"kind" enum:"daily,schema,hand"`
	Problem string   `json:"problem,omitempty" doc:"Why it cannot be used."`
	Copy
}

// ErrNoCopy says that there is no copy of a name.
var ErrNoCopy = reason.Errorf("there is no such copy")

func (s *Store) copies() string { return s.home() + copiesEnd }

// Folder is where copies are kept.
func (s *Store) Folder() string { return s.copies() }

// home is the path of the database that this plan is of.
func (s *Store) home() string {
	if s.readOnly != nil {
		return s.readOnly.Of
	}
	return s.path
}

func kindOfCopy(name string) CopyKind {
	switch {
	case strings.HasPrefix(name, copyDaily):
		return DailyCopy
	case strings.HasPrefix(name, copySchema):
		return SchemaCopy
	}
	return HandCopy
}

// Copies lists the copies beside the database, the newest first, each as it was found when it was looked
// into.
func (s *Store) Copies(ctx context.Context) ([]Kept, error) {
	list, err := CopiesOf(ctx, s.home())
	if err != nil {
		return nil, err
	}
	return list, nil
}

// CopiesOf lists the copies beside a database, the newest first.
func CopiesOf(ctx context.Context, path string) ([]Kept, error) {
	entries, err := os.ReadDir(path + copiesEnd)
	if err != nil && !errors.Is(err, fs.ErrNotExist) {
		return nil, fmt.Errorf("store: look at the copies: %w", err)
	}
	list := []Kept{}
	for _, e := range entries {
		name, ok := strings.CutSuffix(e.Name(), copyEnd)
		if !ok || e.IsDir() {
			continue
		}
		info, err := e.Info()
		if err != nil {
			continue // it went in between
		}
		k := Kept{Name: name, At: info.ModTime().UTC().Format(time.RFC3339), Kind: kindOfCopy(name)}
		if k.Copy, err = Inspect(ctx, filepath.Join(path+copiesEnd, e.Name())); err != nil {
			k.Problem = err.Error()
		}
		list = append(list, k)
	}
	slices.SortFunc(list, func(a, b Kept) int {
		if c := strings.Compare(b.At, a.At); c != 0 {
			return c
		}
		return strings.Compare(b.Name, a.Name)
	})
	return list, nil
}

// CopyPath is where a copy of the list is; it fails with [ErrNoCopy] when there is none of that name.
func (s *Store) CopyPath(name string) (string, error) {
	if name != filepath.Base(name) || strings.HasPrefix(name, ".") {
		return "", ErrNoCopy
	}
	path := filepath.Join(s.copies(), name+copyEnd)
	if info, err := os.Stat(path); err != nil || !info.Mode().IsRegular() {
		return "", ErrNoCopy
	}
	return path, nil
}

// KeepCopy makes a copy beside the database that stays until it is removed.
func (s *Store) KeepCopy(ctx context.Context) (Kept, error) {
	if s.readOnly != nil {
		return Kept{}, s.readOnly
	}
	return s.keep(ctx, copyHand+s.now().UTC().Format(copyTime), true)
}

// TakeCopy puts a copy that is in a file beside the others, where it can be used. It is brought up to date, and is
// not changed itself.
func (s *Store) TakeCopy(ctx context.Context, path string) (Kept, error) {
	if s.readOnly != nil {
		return Kept{}, s.readOnly
	}
	source, err := readable(ctx, path, s)
	if err != nil {
		return Kept{}, err
	}
	defer source.Close()
	name := copyHand + s.now().UTC().Format(copyTime)
	return source.keepIn(ctx, s.copies(), name, true)
}

// RemoveCopy removes a copy.
func (s *Store) RemoveCopy(name string) error {
	if s.readOnly != nil {
		return s.readOnly
	}
	path, err := s.CopyPath(name)
	if err != nil {
		return err
	}
	if err := os.Remove(path); err != nil {
		return fmt.Errorf("store: remove the copy %s: %w", name, s.inWords(err))
	}
	return nil
}

// DailyCopy makes the copy of today, where there is none yet and there is something to copy, and removes
// those that are kept no longer: all but the latest of each of seven days, of each of four weeks, and
// four from before the schema changed.
func (s *Store) DailyCopy(ctx context.Context) error {
	if s.readOnly != nil {
		return nil
	}
	name := copyDaily + s.now().Format(time.DateOnly)
	if p, _ := s.Plan(); len(p.All()) == 0 {
		return nil
	}
	if _, err := s.CopyPath(name); errors.Is(err, ErrNoCopy) {
		if _, err := s.keep(ctx, name, true); err != nil {
			return err
		}
	}
	return s.prune()
}

func (s *Store) prune() error {
	entries, err := os.ReadDir(s.copies())
	if err != nil {
		return fmt.Errorf("store: look at the copies: %w", err)
	}
	var days, schemas []string
	for _, e := range entries { // by name, and so by date
		switch name := e.Name(); kindOfCopy(name) {
		case DailyCopy:
			days = append(days, name)
		case SchemaCopy:
			schemas = append(schemas, name)
		case HandCopy:
		}
	}
	old := outdated(days)
	if n := len(schemas) - keptSchemas; n > 0 {
		old = append(old, schemas[:n]...)
	}
	for _, name := range old {
		if err := os.Remove(filepath.Join(s.copies(), name)); err != nil {
			return fmt.Errorf("store: remove the copy %s: %w", name, err)
		}
	}
	return nil
}

// outdated are those of daily copies, in order, that are kept no longer.
func outdated(names []string) []string {
	var old []string
	weeks := map[[2]int]bool{}
	kept := 0
	for i := len(names) - 1; i >= 0; i-- {
		day, err := time.Parse(copyDaily+time.DateOnly+copyEnd, names[i])
		if err != nil {
			continue // not one of ours
		}
		year, number := day.ISOWeek()
		week := [2]int{year, number}
		switch {
		case kept < keptDays:
			kept++
		case !weeks[week] && len(weeks) < keptWeeks:
		default:
			old = append(old, names[i])
			continue
		}
		weeks[week] = true
	}
	return old
}
