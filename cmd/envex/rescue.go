package main

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"time"

	"envex/api"
	"envex/core/reason"
	"envex/store"
	"envex/store/doctor"
)

// toServe opens a database to be served. One that cannot be written to is opened to be looked at, and of one
// that is damaged what is sound, beside what is wrong with it.
func toServe(ctx context.Context, db string) (*store.Store, *api.Rescue, error) {
	st, err := store.Open(ctx, db, time.Now)
	var only *store.ReadOnlyError
	var wrong *store.DamagedError
	switch {
	case errors.As(err, &only):
		st, err = store.Look(ctx, db, *only, time.Now)
		return st, nil, err
	case errors.As(err, &wrong):
		return rescue(ctx, db, err)
	}
	return st, nil, err
}

// rescue opens what is sound of a damaged database.
func rescue(ctx context.Context, db string, why error) (*store.Store, *api.Rescue, error) {
	dir, err := os.MkdirTemp("", "envex-rescue-")
	if err != nil {
		return nil, nil, reason.Errorf("%w; rescue: %w", why, err)
	}
	defer os.RemoveAll(dir)
	sound := filepath.Join(dir, "plan.db")
	report, err := doctor.Repair(ctx, db, sound, time.Now)
	if err != nil {
		return nil, nil, reason.Errorf("%w; rescue: %w", why, err)
	}
	st, err := store.Look(
		ctx, sound, store.ReadOnlyError{Why: "the database is damaged, and what is shown is what is sound of it", Of: db},
		time.Now,
	)
	if err != nil {
		return nil, nil, reason.Errorf("%w; rescue: %w", why, err)
	}
	return st, &api.Rescue{Report: report, Repair: func(ctx context.Context) (string, error) {
		to, err := freeName(db)
		if err != nil {
			return "", err
		}
		_, err = doctor.Repair(ctx, db, to, time.Now)
		return to, err
	}}, nil
}

// freeName is a name beside a database that nothing has yet.
func freeName(db string) (string, error) {
	stem := strings.TrimSuffix(db, filepath.Ext(db))
	for n := 1; ; n++ {
		name := stem + "-repaired.db"
		if n > 1 {
			name = fmt.Sprintf("%s-repaired-%d.db", stem, n)
		}
		_, err := os.Lstat(name)
		if errors.Is(err, fs.ErrNotExist) {
			return filepath.Abs(name)
		}
		if err != nil {
			return "", err
		}
	}
}
