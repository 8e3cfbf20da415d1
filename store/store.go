// Package store keeps a plan in SQLite: every aggregate as a whole with a version, every
// version as a revision, and a log of transactions that can be undone and redone.
package store

import (
	"context"
	"database/sql"
	"embed"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"net/url"
	"sync"
	"time"

	"github.com/jmoiron/sqlx"
	"github.com/pressly/goose/v3"
	_ "modernc.org/sqlite" // the pure-Go driver, so that no C compiler is needed

	"envex/core/plan"
)

//go:embed migrations/*.sql
var migrations embed.FS

// Store is one plan in one database file. It is safe for concurrent use: there is one
// writer at a time, and readers see the plan as of some write.
type Store struct {
	db    *sqlx.DB
	now   func() time.Time
	write sync.Mutex

	mu       sync.RWMutex // guards what follows
	current  plan.Plan
	versions map[plan.ID]int
}

// Open opens or creates the database at path and brings its schema up to date. An existing
// plan is read and validated, so that a damaged file is refused before anything is shown.
func Open(ctx context.Context, path string, now func() time.Time) (*Store, error) {
	dsn := "file:" + (&url.URL{Path: path}).EscapedPath() +
		"?_pragma=journal_mode(WAL)&_pragma=foreign_keys(1)&_pragma=busy_timeout(5000)&_pragma=synchronous(FULL)&_txlock=immediate"
	db, err := sqlx.Open("sqlite", dsn)
	if err != nil {
		return nil, fmt.Errorf("store: open %s: %w", path, err)
	}
	db.SetMaxOpenConns(4)
	s := &Store{db: db, now: now}
	if err := s.begin(ctx); err != nil {
		return nil, errors.Join(fmt.Errorf("store: open %s: %w", path, err), db.Close())
	}
	return s, nil
}

func (s *Store) begin(ctx context.Context) error {
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return err
	}
	provider, err := goose.NewProvider(goose.DialectSQLite3, s.db.DB, files)
	if err != nil {
		return err
	}
	if _, err := provider.Up(ctx); err != nil {
		return err
	}
	current, versions, err := s.load(ctx, s.db)
	if err != nil {
		return err
	}
	if problems := current.Validate(); len(problems) > 0 {
		return fmt.Errorf("the plan in it is damaged: %w", problems)
	}
	s.current, s.versions = current, versions
	return nil
}

// Close closes the database.
func (s *Store) Close() error { return s.db.Close() }

// row is one line of the aggregates table.
type row struct {
	Kind    plan.AggregateKind `db:"kind"`
	ID      plan.ID            `db:"id"`
	Version int                `db:"version"`
	Doc     sql.NullString     `db:"doc"`
}

func (s *Store) load(ctx context.Context, q sqlx.QueryerContext) (plan.Plan, map[plan.ID]int, error) {
	var rows []row
	if err := sqlx.SelectContext(ctx, q, &rows, `SELECT kind, id, version, doc FROM aggregates ORDER BY seq`); err != nil {
		return plan.Plan{}, nil, err
	}
	var p plan.Plan
	versions := map[plan.ID]int{}
	for _, r := range rows {
		versions[r.ID] = r.Version
		if !r.Doc.Valid {
			continue
		}
		a, err := plan.DecodeAggregate(r.Kind, []byte(r.Doc.String))
		if err != nil {
			return plan.Plan{}, nil, fmt.Errorf("read %s %s: %w", r.Kind, r.ID, err)
		}
		p.Put(a)
	}
	return p, versions, nil
}

// Plan is the plan as it stands and the version of each of its aggregates. The caller must
// not change what it points to.
func (s *Store) Plan() (*plan.Plan, map[plan.ID]int) {
	s.mu.RLock()
	defer s.mu.RUnlock()
	p := s.current
	return &p, s.versions
}

// StaleError says that a write named an older version than the one that is there.
type StaleError struct {
	Kind    plan.AggregateKind
	ID      plan.ID
	Read    int // the version the write was based on
	Current int // the version that is there; 0 when nothing ever was
	Gone    bool
}

// Error says both versions.
func (e *StaleError) Error() string {
	if e.Gone {
		return fmt.Sprintf("this %s was removed meanwhile: the write is based on version %d, and version %d removed it", e.Kind, e.Read, e.Current)
	}
	return fmt.Sprintf("this %s was changed meanwhile: the write is based on version %d, and version %d is there", e.Kind, e.Read, e.Current)
}

// ErrInUse wraps the uses that stand in the way of removing something.
type ErrInUse struct{ Uses []plan.Use }

// Error lists the uses.
func (e *ErrInUse) Error() string {
	text := "it is still in use"
	for _, u := range e.Uses {
		text += "; " + u.String()
	}
	return text
}

// Edit is one aggregate to be written or removed, and the version it was read at: 0 for
// one that is new.
type Edit struct {
	Read   int
	Put    plan.Aggregate // nil to remove
	Remove plan.ID
}

func (e Edit) id() plan.ID {
	if e.Put != nil {
		return e.Put.AggregateID()
	}
	return e.Remove
}

// Done is a transaction that was carried out.
type Done struct {
	Tx       int64
	Versions map[plan.ID]int
}

// Apply carries out edits as one transaction, whole or not at all. The label says in words
// what was done. A request key that was used before makes it give that transaction's result
// again and change nothing, so that a write whose answer was lost can be sent again.
//
// It fails with a [*StaleError] when an edit's version is not the current one, with
// [*ErrInUse] when something removed is still referred to, and with [plan.Problems] when
// the plan would not be valid.
func (s *Store) Apply(ctx context.Context, label, request string, edits ...Edit) (Done, error) {
	s.write.Lock()
	defer s.write.Unlock()
	if request != "" {
		if done, ok, err := s.already(ctx, request); ok || err != nil {
			return done, err
		}
	}
	next, err := s.check(edits)
	if err != nil {
		return Done{}, err
	}
	return s.commit(ctx, next, func(tx *sqlx.Tx) (Done, error) {
		if _, err := tx.ExecContext(ctx, `UPDATE transactions SET state = 'dropped' WHERE state = 'undone'`); err != nil {
			return Done{}, err
		}
		id, err := s.logTx(ctx, tx, label, request)
		if err != nil {
			return Done{}, err
		}
		done := Done{Tx: id, Versions: map[plan.ID]int{}}
		for _, e := range edits {
			v, err := s.writeEdit(ctx, tx, id, label, e)
			if err != nil {
				return Done{}, err
			}
			done.Versions[e.id()] = v
		}
		return done, nil
	})
}

// check works out the plan after the edits and refuses them if it may not be.
func (s *Store) check(edits []Edit) (plan.Plan, error) {
	next := s.current
	for _, e := range edits {
		have := s.versions[e.id()]
		kind, exists := kindOf(&s.current, e.id())
		if e.Put != nil {
			kind = e.Put.AggregateKind()
		}
		if (e.Read == 0 && exists) || (e.Read != 0 && (e.Read != have || !exists)) {
			return next, &StaleError{Kind: kind, ID: e.id(), Read: e.Read, Current: have, Gone: have > 0 && !exists}
		}
		if e.Put != nil {
			next.Put(e.Put)
		} else {
			next.Drop(kind, e.Remove)
		}
	}
	for _, e := range edits {
		if e.Put != nil {
			continue
		}
		if uses := next.Uses(e.Remove); len(uses) > 0 {
			return next, &ErrInUse{Uses: uses}
		}
		if r, ok := s.current.FindRig(e.Remove); ok {
			with := next
			with.Put(*r)
			if uses := with.Uses(e.Remove); len(uses) > 0 {
				return next, &ErrInUse{Uses: uses}
			}
		}
	}
	if problems := next.Validate(); len(problems) > 0 {
		return next, problems
	}
	return next, nil
}

func kindOf(p *plan.Plan, id plan.ID) (plan.AggregateKind, bool) {
	for _, a := range p.All() {
		if a.AggregateID() == id {
			return a.AggregateKind(), true
		}
	}
	return "", false
}

// commit runs a write and, once it is on disk, makes the plan it leads to the current one.
func (s *Store) commit(ctx context.Context, next plan.Plan, do func(*sqlx.Tx) (Done, error)) (Done, error) {
	tx, err := s.db.BeginTxx(ctx, nil)
	if err != nil {
		return Done{}, fmt.Errorf("store: begin: %w", err)
	}
	done, err := do(tx)
	if err != nil {
		return Done{}, errors.Join(fmt.Errorf("store: write: %w", err), tx.Rollback())
	}
	if err := tx.Commit(); err != nil {
		return Done{}, fmt.Errorf("store: commit: %w", err)
	}
	s.mu.Lock()
	defer s.mu.Unlock()
	versions := map[plan.ID]int{}
	for id, v := range s.versions {
		versions[id] = v
	}
	for id, v := range done.Versions {
		versions[id] = v
	}
	s.current, s.versions = next, versions
	return done, nil
}

func (s *Store) logTx(ctx context.Context, tx *sqlx.Tx, label, request string) (int64, error) {
	var key any
	if request != "" {
		key = request
	}
	res, err := tx.ExecContext(ctx, `INSERT INTO transactions (at, label, state, request) VALUES (?, ?, 'done', ?)`, s.stamp(), label, key)
	if err != nil {
		return 0, err
	}
	return res.LastInsertId()
}

func (s *Store) stamp() string { return s.now().UTC().Format(time.RFC3339Nano) }

func (s *Store) writeEdit(ctx context.Context, tx *sqlx.Tx, id int64, label string, e Edit) (int, error) {
	kind, _ := kindOf(&s.current, e.id())
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
	_, err = tx.ExecContext(ctx, `INSERT INTO steps (tx, id, before, after) VALUES (?, ?, ?, ?)`, id, e.id(), before, version)
	return version, err
}

// writeVersion writes the next version of an aggregate. content is the version whose
// document it repeats, 0 when it is a new one.
func (s *Store) writeVersion(ctx context.Context, tx *sqlx.Tx, kind plan.AggregateKind, id plan.ID, doc any, content int, label string) (int, error) {
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
	err := tx.GetContext(ctx, &content, `SELECT r.content FROM revisions r JOIN aggregates a ON a.id = r.id AND a.version = r.version WHERE a.id = ?`, id)
	if errors.Is(err, sql.ErrNoRows) {
		return 0, nil
	}
	return content, err
}

func (s *Store) already(ctx context.Context, request string) (Done, bool, error) {
	var id int64
	err := s.db.GetContext(ctx, &id, `SELECT id FROM transactions WHERE request = ?`, request)
	if errors.Is(err, sql.ErrNoRows) {
		return Done{}, false, nil
	}
	if err != nil {
		return Done{}, false, fmt.Errorf("store: look up request: %w", err)
	}
	var steps []step
	if err := s.db.SelectContext(ctx, &steps, `SELECT id, before, after FROM steps WHERE tx = ?`, id); err != nil {
		return Done{}, false, fmt.Errorf("store: look up request: %w", err)
	}
	done := Done{Tx: id, Versions: map[plan.ID]int{}}
	for _, st := range steps {
		done.Versions[st.ID] = st.After
	}
	return done, true, nil
}
