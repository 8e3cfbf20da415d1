package store_test

import (
	"database/sql"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/store"
)

// older makes a database as the first schema had it, with a sound in it.
func older(t *testing.T, path string) {
	t.Helper()
	db, err := sql.Open("sqlite", "file:"+path)
	require.NoError(t, err)
	defer func() { require.NoError(t, db.Close()) }()
	text, err := os.ReadFile("migrations/00001_plan.sql")
	require.NoError(t, err)
	up, _, _ := strings.Cut(string(text), "-- +goose Down")
	for _, statement := range []string{
		up,
		`CREATE TABLE goose_db_version (id INTEGER PRIMARY KEY AUTOINCREMENT, version_id INTEGER NOT NULL, is_applied INTEGER NOT NULL, tstamp TIMESTAMP DEFAULT (datetime('now')))`,
		`INSERT INTO goose_db_version (version_id, is_applied) VALUES (0, 1), (1, 1)`,
		`INSERT INTO aggregates (kind, id, version, doc) VALUES ('sound', 'hm', 1, '{"id":"hm","name":"Home","short":"HM","role":"home","tape":"bone","targets":{}}')`,
		`INSERT INTO transactions (at, label, state) VALUES ('2027-06-01T00:00:00Z', 'Add Home', 'done')`,
		`INSERT INTO revisions (id, version, content, doc, at, label) SELECT id, 1, 1, doc, '2027-06-01T00:00:00Z', 'Add Home' FROM aggregates`,
		`INSERT INTO steps (tx, id, before, after) VALUES (1, 'hm', 0, 1)`,
	} {
		_, err := db.Exec(statement)
		require.NoError(t, err, statement)
	}
}

func TestGearFromBeforeCircuitsWereChosenSoundsAsItDid(t *testing.T) {
	path := filepath.Join(t.TempDir(), "old.db")
	older(t, path)
	db, err := sql.Open("sqlite", "file:"+path)
	require.NoError(t, err)
	doc := func(name string) string {
		return `{"id":"box","name":"` + name +
			`","kind":"pedal","circuit":"Transparent overdrive","blocks":[{"id":"fx","name":"drive","effect":"overdrive","bypass":"true"}]}`
	}
	for _, statement := range []string{
		`INSERT INTO aggregates (kind, id, version, doc) VALUES ('gear', 'box', 2, '` + doc("New") + `')`,
		`INSERT INTO revisions (id, version, content, doc, at, label) VALUES ('box', 1, 1, '` + doc("Old") +
			`', '2027-06-01T00:00:00Z', 'Add'), ('box', 2, 2, '` + doc("New") + `', '2027-06-01T00:00:00Z', 'Name')`,
		`INSERT INTO transactions (at, label, state) VALUES ('2027-06-01T00:00:00Z', 'Add', 'done'), ('2027-06-01T00:00:00Z', 'Name', 'done')`,
		`INSERT INTO steps (tx, id, before, after) VALUES (2, 'box', 0, 1), (3, 'box', 1, 2)`,
	} {
		_, err := db.Exec(statement)
		require.NoError(t, err, statement)
	}
	require.NoError(t, db.Close())
	s := open(t, path)
	assert.EqualValues(t, store.Schema(), 7)
	model := func() string { return s.State().Plan.Gear[0].Blocks[0].Model }
	assert.Equal(t, plan.Transparent, model())
	_, _, err = s.Undo(ctx, 0)
	require.NoError(t, err)
	assert.Equal(t, plan.Transparent, model(), "and what is brought back does too")
}

func TestAnOlderDatabaseIsBroughtUpToDateWithAllItHolds(t *testing.T) {
	path := filepath.Join(t.TempDir(), "old.db")
	older(t, path)
	for range 2 { // and opened again it is as it was
		s := open(t, path)
		assert.Equal(t, []string{"Home"}, names(s))
		_, err := s.Rehearsals(ctx, "r", "l")
		require.NoError(t, err, "what came with a later schema is there")
		_, err = s.Night(ctx, "show", 0)
		require.NoError(t, err)
		a, err := s.At(ctx, "hm", 1)
		require.NoError(t, err)
		assert.Equal(t, "Home", a.Label())
		require.NoError(t, s.Close())
	}
	s := open(t, path)
	_, _, err := s.Undo(ctx, 0)
	require.NoError(t, err, "what was done under it can be taken back")
	assert.Empty(t, names(s))
}

func TestADatabaseOfALaterSchemaIsNotWrittenOver(t *testing.T) {
	path := filepath.Join(t.TempDir(), "new.db")
	s := open(t, path)
	put(t, s, 0, sound("hm", "Home"))
	require.NoError(t, s.Close())
	db, err := sql.Open("sqlite", "file:"+path)
	require.NoError(t, err)
	_, err = db.Exec(`ALTER TABLE aggregates RENAME TO things`)
	require.NoError(t, err)
	require.NoError(t, db.Close())
	_, err = store.Open(ctx, path, clock)
	require.Error(t, err)
	db, err = sql.Open("sqlite", "file:"+path)
	require.NoError(t, err)
	defer func() { require.NoError(t, db.Close()) }()
	var n int
	require.NoError(t, db.QueryRow(`SELECT count(*) FROM things`).Scan(&n))
	assert.Equal(t, 1, n, "what is there stays")
}

// Versions are read while others are written: whoever asks gets one that was, whole.
func TestVersionsAreReadWhileOthersAreWrittenConcurrent(t *testing.T) {
	s := fresh(t)
	put(t, s, 0, sound("hm", "v1"))
	const versions = 30
	var group sync.WaitGroup
	for range 4 {
		group.Go(func() {
			for {
				list, err := s.Revisions(ctx, "hm")
				if !assert.NoError(t, err) {
					return
				}
				for _, r := range list {
					a, err := s.At(ctx, "hm", r.Version)
					if !assert.NoError(t, err) {
						return
					}
					assert.Equal(t, fmt.Sprint("v", r.Version), a.Label())
				}
				if len(list) == versions {
					return
				}
			}
		})
	}
	for v := 2; v <= versions; v++ {
		put(t, s, v-1, sound("hm", fmt.Sprint("v", v)))
	}
	group.Wait()
	p, have := s.Plan()
	x, _ := p.FindSound("hm")
	assert.Equal(t, fmt.Sprint("v", versions), x.Name)
	assert.Equal(t, versions, have[plan.ID("hm")])
}
