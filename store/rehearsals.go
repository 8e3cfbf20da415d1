package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"time"

	"envex/core/plan"
)

// Rehearsal is a song that was rehearsed, as a document of whoever keeps it.
type Rehearsal struct {
	ID  int64  `db:"id"`
	At  string `db:"at"`
	Doc []byte `db:"doc"`
}

// maxRehearsals is how many of a rig and set list are read: the latest.
const maxRehearsals = 2000

// KeepRehearsal keeps a song that was rehearsed on a rig for a set, and gives its number and its day
// where the player is, from the clock's own zone. A request key that was used before keeps it once.
func (s *Store) KeepRehearsal(ctx context.Context, rig, setList plan.ID, request string, doc []byte) (int64, string, error) {
	s.write.Lock()
	defer s.write.Unlock()
	now := s.now()
	day := now.Format(time.DateOnly)
	var key any
	if request != "" {
		key = request
		var id int64
		err := s.db.GetContext(ctx, &id, `SELECT id FROM rehearsals WHERE request = ?`, request)
		if err == nil {
			return id, day, nil
		}
		if !errors.Is(err, sql.ErrNoRows) {
			return 0, "", fmt.Errorf("store: look for a rehearsal: %w", err)
		}
	}
	done, err := s.db.ExecContext(ctx, `INSERT INTO rehearsals (at, rig, set_list, doc, request) VALUES (?, ?, ?, ?, ?)`, now.Format(time.RFC3339), rig, setList, doc, key)
	if err != nil {
		return 0, "", fmt.Errorf("store: keep a rehearsal: %w", err)
	}
	id, err := done.LastInsertId()
	if err != nil {
		return 0, "", fmt.Errorf("store: keep a rehearsal: %w", err)
	}
	return id, day, nil
}

// Rehearsals are those of a rig and a set list, the first kept first.
func (s *Store) Rehearsals(ctx context.Context, rig, setList plan.ID) ([]Rehearsal, error) {
	list := []Rehearsal{}
	err := s.db.SelectContext(ctx, &list, `SELECT id, at, doc FROM (SELECT id, at, doc FROM rehearsals WHERE rig = ? AND set_list = ? ORDER BY id DESC LIMIT ?) ORDER BY id`, rig, setList, maxRehearsals)
	if err != nil {
		return nil, fmt.Errorf("store: read rehearsals: %w", err)
	}
	return list, nil
}
