package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"github.com/jmoiron/sqlx"

	"envex/core/plan"
)

// lastRevision is the number of the revision that was written last.
func lastRevision(ctx context.Context, q sqlx.QueryerContext) (int64, error) {
	var n int64
	if err := sqlx.GetContext(ctx, q, &n, `SELECT coalesce(max(rowid), 0) FROM revisions`); err != nil {
		return 0, fmt.Errorf("store: read revisions: %w", err)
	}
	return n, nil
}

// begun begins a transaction of a write, and refuses it where the database is not what this store knows.
func (s *Store) begun(ctx context.Context) (*sqlx.Tx, error) {
	if s.readOnly != nil {
		return nil, s.readOnly
	}
	if err := s.unmoved(); err != nil {
		return nil, err
	}
	if err := s.begins(ctx); err != nil {
		return nil, s.inWords(err)
	}
	tx, err := s.db.BeginTxx(ctx, nil)
	if err != nil {
		return nil, fmt.Errorf("store: begin: %w", s.inWords(err))
	}
	last, err := lastRevision(ctx, tx)
	if err == nil && last != s.known {
		err = ErrForeign
	}
	if err == nil {
		_, err = tx.ExecContext(ctx, `UPDATE log_mark SET writes = writes + 1`)
	}
	if err != nil {
		return nil, errors.Join(s.inWords(err), tx.Rollback())
	}
	return tx, nil
}

// ended commits a transaction of a write.
func (s *Store) ended(ctx context.Context, tx *sqlx.Tx) error {
	last, err := lastRevision(ctx, tx)
	if err != nil {
		return errors.Join(err, tx.Rollback())
	}
	if err := tx.Commit(); err != nil {
		// SQLite may have ended it itself, and then there is nothing left to take back.
		_ = tx.Rollback()
		return fmt.Errorf("store: commit: %w", s.inWords(err))
	}
	s.known = last
	s.stir()
	return nil
}

func (s *Store) logTx(ctx context.Context, tx *sqlx.Tx, label string, request Request) (int64, error) {
	var key any
	if request.Key != "" {
		key = request.Key
	}
	res, err := tx.ExecContext(
		ctx, `INSERT INTO transactions (at, label, state, request, asked) VALUES (?, ?, 'done', ?, ?)`, s.stamp(), label, key,
		request.Asked,
	)
	if err != nil {
		return 0, err
	}
	return res.LastInsertId()
}

func (s *Store) stamp() string { return s.now().UTC().Format(time.RFC3339Nano) }

func (s *Store) writeEdit(ctx context.Context, tx *sqlx.Tx, p *plan.Plan, id int64, label string, e Edit) (int, error) {
	kind, _ := kindOf(p, e.id())
	var doc any
	if e.Put != nil {
		data, err := json.Marshal(e.Put)
		if err != nil {
			return 0, err
		}
		kind, doc = e.Put.AggregateKind(), string(data)
	}
	before, err := contentOf(ctx, tx, e.id())
	if err != nil {
		return 0, err
	}
	version, err := s.writeVersion(ctx, tx, kind, e.id(), doc, 0, label)
	if err != nil {
		return 0, err
	}
	_, err = tx.ExecContext(
		ctx, `INSERT INTO steps (tx, id, before, after) VALUES (?, ?, ?, ?)`, id, e.id(), before, version,
	)
	return version, err
}

// writeVersion writes the next version of an aggregate. content is the version whose
// document it repeats, 0 when it is a new one.
func (s *Store) writeVersion(
	ctx context.Context, tx *sqlx.Tx, kind plan.AggregateKind, id plan.ID, doc any, content int, label string,
) (int, error) {
	_, err := tx.ExecContext(ctx, `INSERT INTO aggregates (kind, id, version, doc) VALUES (?, ?, 1, ?)
		ON CONFLICT (id) DO UPDATE SET kind = excluded.kind, version = version + 1, doc = excluded.doc`, kind, id, doc)
	if err != nil {
		return 0, err
	}
	var version int
	if err := tx.GetContext(ctx, &version, `SELECT version FROM aggregates WHERE id = ?`, id); err != nil {
		return 0, err
	}
	if content == 0 {
		content = version
	}
	_, err = tx.ExecContext(ctx, `INSERT INTO revisions (id, version, content, doc, at, label) VALUES (?, ?, ?, ?, ?, ?)`,
		id, version, content, doc, s.stamp(), label)
	return version, err
}

// contentOf is the content version of an aggregate as it stands, 0 when there is none.
func contentOf(ctx context.Context, tx *sqlx.Tx, id plan.ID) (int, error) {
	var content int
	err := tx.GetContext(
		ctx, &content,
		`SELECT r.content FROM revisions r JOIN aggregates a ON a.id = r.id AND a.version = r.version WHERE a.id = ?`, id,
	)
	if errors.Is(err, sql.ErrNoRows) {
		return 0, nil
	}
	return content, err
}

// already is what the transaction of a request led to; false where its key was never used, or is empty.
// It fails with [ErrOtherRequest] where the key was used for something else.
func already(ctx context.Context, q sqlx.QueryerContext, request Request) (Done, bool, error) {
	if request.Key == "" {
		return Done{}, false, nil
	}
	var before struct {
		ID    int64  `db:"id"`
		Asked string `db:"asked"`
	}
	err := sqlx.GetContext(ctx, q, &before, `SELECT id, asked FROM transactions WHERE request = ?`, request.Key)
	switch {
	case errors.Is(err, sql.ErrNoRows):
		return Done{}, false, nil
	case err != nil:
		return Done{}, false, fmt.Errorf("store: look up request: %w", err)
	case before.Asked != "" && before.Asked != request.Asked:
		return Done{}, false, ErrOtherRequest
	}
	var steps []step
	if err := sqlx.SelectContext(
		ctx, q, &steps, `SELECT id, before, after FROM steps WHERE tx = ?`, before.ID,
	); err != nil {
		return Done{}, false, fmt.Errorf("store: look up request: %w", err)
	}
	done := Done{Tx: before.ID, Versions: map[plan.ID]int{}}
	for _, st := range steps {
		done.Versions[st.ID] = st.After
	}
	return done, true, nil
}

// Already is what a request led to that was carried out before; false where it was not.
func (s *Store) Already(ctx context.Context, request Request) (Done, bool, error) {
	return already(ctx, s.db, request)
}
