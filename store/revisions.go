package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"

	"envex/core/plan"
	"envex/core/reason"
)

// Revision is one version of an aggregate.
type Revision struct {
	Version int    `db:"version" json:"version"`
	At      string `db:"at" json:"at"`
	Label   string `db:"label" json:"label"`
	Removed bool   `db:"removed" json:"removed"`
}

// Revisions lists the versions of an aggregate, newest first.
func (s *Store) Revisions(ctx context.Context, id plan.ID) ([]Revision, error) {
	list := []Revision{}
	err := s.db.SelectContext(
		ctx, &list,
		`SELECT version, at, label, doc IS NULL AS removed FROM revisions WHERE id = ? ORDER BY version DESC LIMIT 500`, id,
	)
	if err != nil {
		return nil, fmt.Errorf("store: read revisions: %w", err)
	}
	return list, nil
}

// ErrNoVersion says that an aggregate never had a version.
var ErrNoVersion = reason.Errorf("there is no such version")

// At is an aggregate as a version of it was; nil where that version removed it. It fails with
// [ErrNoVersion] when there never was one.
func (s *Store) At(ctx context.Context, id plan.ID, version int) (plan.Aggregate, error) {
	var r struct {
		Kind plan.AggregateKind `db:"kind"`
		Doc  sql.NullString     `db:"doc"`
	}
	err := s.db.GetContext(
		ctx, &r, `SELECT a.kind, r.doc FROM revisions r JOIN aggregates a ON a.id = r.id WHERE r.id = ? AND r.version = ?`,
		id, version,
	)
	switch {
	case errors.Is(err, sql.ErrNoRows):
		return nil, ErrNoVersion
	case err != nil:
		return nil, fmt.Errorf("store: read version: %w", err)
	case !r.Doc.Valid:
		return nil, nil
	}
	a, err := plan.DecodeAggregate(r.Kind, []byte(r.Doc.String))
	if err != nil {
		return nil, fmt.Errorf("store: read version: %w", err)
	}
	return a, nil
}
