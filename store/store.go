// Package store keeps a plan in SQLite: every aggregate as a whole with a version, every
// version as a revision, and a log of transactions that can be undone and redone.
package store

import (
	"context"
	"database/sql"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"sync"
	"time"

	"github.com/gofrs/flock"
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
	known int64 // the last revision this store has written or read; guarded by write

	logging bool // the main file says that there is a log; guarded by write

	line    sync.Mutex
	waiting []*waiting // changes that wait for their turn; guarded by line

	path     string
	lock     *flock.Flock
	file     os.FileInfo    // of the database as it was opened
	readOnly *ReadOnlyError // why nothing is written; nil where it can be
	scratch  string         // a folder that goes when the store is closed

	wrote, closing, rested chan struct{} // for [Store.rest]

	once   sync.Once
	closed error // what closing came to

	mu       sync.RWMutex // guards what follows
	current  plan.Plan
	versions map[plan.ID]int
	seq      int64             // how many transactions, undos and redos this store has carried out
	touched  map[plan.ID]int64 // the seq that last wrote each aggregate; absent for those only read
	watchers map[chan struct{}]bool
	nights   map[chan struct{}]bool // who watches shows
}

// Open opens or creates the database at path and brings its schema up to date, after a copy of it was
// made. An existing plan is read and validated, so that a damaged file is refused before anything is
// shown: with a [*DamagedError]. One that cannot be written to is refused with a [*ReadOnlyError], and one
// that another program has open with an [*OwnedError].
func Open(ctx context.Context, path string, now func() time.Time) (*Store, error) {
	// The lock first: to open and close a file that this process has open elsewhere would give away SQLite's.
	lock, err := own(path)
	if err != nil {
		return nil, err
	}
	if err := writable(path); err != nil {
		return nil, errors.Join(err, lock.Unlock())
	}
	s := &Store{
		now: now, path: path, lock: lock, touched: map[plan.ID]int64{}, watchers: map[chan struct{}]bool{}, nights: map[chan struct{}]bool{},
		wrote: make(chan struct{}, 1), closing: make(chan struct{}), rested: make(chan struct{}),
	}
	if err := s.connect(ctx); err != nil {
		return nil, errors.Join(err, lock.Unlock())
	}
	go s.rest()
	return s, nil
}

func (s *Store) connect(ctx context.Context) error {
	if err := Fits(ctx, s.path); err != nil {
		return err
	}
	db, err := sqlx.Open("sqlite", address(s.path)+
		"?_pragma=journal_mode(WAL)&_pragma=foreign_keys(1)&_pragma=trusted_schema(0)&_pragma=busy_timeout(5000)&_pragma=synchronous(FULL)&_txlock=immediate")
	if err != nil {
		return fmt.Errorf("store: open %s: %w", s.path, err)
	}
	db.SetMaxOpenConns(4)
	s.db = db
	if err := s.begin(ctx); err != nil {
		if damaged(err) {
			err = &DamagedError{Path: s.path, What: []string{err.Error()}}
		}
		return errors.Join(fmt.Errorf("store: open %s: %w", s.path, s.inWords(err)), db.Close())
	}
	return nil
}

func (s *Store) begin(ctx context.Context) error {
	if err := s.upToDate(ctx); err != nil {
		return err
	}
	var err error
	if s.file, err = os.Stat(s.path); err != nil {
		return err
	}
	if s.known, err = lastRevision(ctx, s.db); err != nil {
		return err
	}
	if err := s.sound(ctx); err != nil {
		return err
	}
	m, _, err := marked(ctx, s.db)
	if err != nil {
		return err
	}
	s.logging = m.Open
	if err := s.checkpoint(ctx); err != nil {
		return err
	}
	return s.closeLog(ctx)
}

// upToDate brings the schema up to date, after a copy of what there is.
func (s *Store) upToDate(ctx context.Context) error {
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return err
	}
	provider, err := goose.NewProvider(goose.DialectSQLite3, s.db.DB, files, goose.WithGoMigrations(tellModels))
	if err != nil {
		return err
	}
	version, err := s.ours(ctx, provider)
	if err != nil {
		return err
	}
	if version > 0 && version < latest(provider) {
		if err := s.beforeSchema(ctx, version); err != nil {
			return fmt.Errorf("make a copy before its schema is brought up to date: %w", err)
		}
	}
	_, err = provider.Up(ctx)
	return err
}

// sound reads the plan, and fails with a [*DamagedError] where anything about it is not as it should be.
func (s *Store) sound(ctx context.Context) error {
	wrong := &DamagedError{Path: s.path}
	if err := whole(ctx, s.db); err != nil {
		wrong.What = append(wrong.What, err.Error())
	}
	current, versions, err := s.load(ctx, s.db)
	if err != nil {
		wrong.What = append(wrong.What, err.Error())
	} else if problems := current.Validate(); len(problems) > 0 {
		wrong.What = append(wrong.What, "the plan in it is not valid: "+problems[0].String())
	}
	if err := twice(ctx, s.db); err != nil {
		wrong.What = append(wrong.What, err.Error())
	}
	if len(wrong.What) > 0 {
		return wrong
	}
	s.current, s.versions = current, versions
	return nil
}

// whole fails where the pages of a database do not hang together.
func whole(ctx context.Context, q sqlx.QueryerContext) error {
	var said string
	if err := sqlx.GetContext(ctx, q, &said, `PRAGMA quick_check(1)`); err != nil {
		return fmt.Errorf("its pages cannot be read: %w", err)
	}
	if said != "ok" {
		return fmt.Errorf("its pages do not hang together: %s", said)
	}
	return nil
}

// twice fails where what stands is not what was written last: each document is there twice, and the two
// are compared.
func twice(ctx context.Context, q sqlx.QueryerContext) error {
	var other []string
	err := sqlx.SelectContext(
		ctx, q, &other,
		`SELECT a.kind || ' ' || a.id FROM aggregates a LEFT JOIN revisions r ON r.id = a.id AND r.version = a.version WHERE r.id IS NULL OR r.doc IS NOT a.doc ORDER BY a.seq`,
	)
	if err != nil {
		return fmt.Errorf("its documents cannot be read: %w", err)
	}
	if len(other) > 0 {
		return fmt.Errorf("what stands of %s is not what was written last of it", other[0])
	}
	return nil
}

// Close moves everything that was written into the main file, closes the database and gives it back.
func (s *Store) Close() error {
	s.once.Do(func() {
		close(s.closing)
		<-s.rested
		s.write.Lock()
		defer s.write.Unlock()
		var kept error
		if s.unmoved() == nil { // one that was replaced is not written to
			kept = s.closeLog(context.Background())
		}
		s.closed = errors.Join(kept, s.db.Close(), s.lock.Unlock())
		if s.scratch != "" {
			s.closed = errors.Join(s.closed, os.RemoveAll(s.scratch))
		}
	})
	return s.closed
}

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
