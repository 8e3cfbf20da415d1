package store

import (
	"context"
	"fmt"

	"github.com/pressly/goose/v3"

	"envex/core/reason"
)

// latest is the newest schema this program knows.
func latest(provider *goose.Provider) int64 {
	var version int64
	for _, m := range provider.ListSources() {
		version = max(version, m.Version)
	}
	return version
}

// Schema is the newest schema this program knows.
func Schema() int64 {
	files, err := migrations.ReadDir("migrations")
	if err != nil {
		return 0 // they are part of the program
	}
	return int64(len(files)) + 1 // and tellModels
}

// ours is the version of the schema a database has, 0 where there is none yet. It fails with a sentence
// when the database is of another program, or of a newer Envex.
func (s *Store) ours(ctx context.Context, provider *goose.Provider) (int64, error) {
	var parts []struct {
		Kind string `db:"type"`
		Name string `db:"name"`
	}
	if err := s.db.SelectContext(
		ctx, &parts, `SELECT type, name FROM sqlite_master WHERE type != 'index' AND name NOT LIKE 'sqlite_%'`,
	); err != nil {
		if notADatabase(err) {
			return 0, fmt.Errorf("it is no SQLite database: %w", err)
		}
		return 0, err
	}
	known, tables := map[string]bool{}, true
	for _, p := range parts {
		known[p.Name] = true
		tables = tables && p.Kind == "table" // we have no views and triggers, which act when data is read or written
	}
	if len(parts) == 0 {
		return 0, nil
	}
	if !tables || !known["goose_db_version"] || !known["aggregates"] {
		return 0, reason.Errorf("it is the database of another program: nothing was changed in it")
	}
	var version int64
	if err := s.db.GetContext(ctx, &version, `SELECT max(version_id) FROM goose_db_version WHERE is_applied`); err != nil {
		return 0, fmt.Errorf("read its version: %w", err)
	}
	if newest := latest(provider); version > newest {
		return 0, reason.Errorf(
			"it was made by a newer Envex (schema %d; this one knows %d): nothing was changed in it", version, newest,
		)
	}
	return version, nil
}
