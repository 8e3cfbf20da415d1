package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"time"

	"github.com/jmoiron/sqlx"

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
// where the player is, from the clock's own zone. A request key that was used before keeps it once; it
// fails with [ErrOtherRequest] where that was for another one.
func (s *Store) KeepRehearsal(
	ctx context.Context, rig, setList plan.ID, request string, doc []byte,
) (int64, string, error) {
	s.write.Lock()
	defer s.write.Unlock()
	now := s.now()
	day := now.Format(time.DateOnly)
	tx, err := s.begun(ctx)
	if err != nil {
		return 0, "", err
	}
	id, err := keepRehearsal(ctx, tx, Rehearsal{At: now.Format(time.RFC3339), Doc: doc}, rig, setList, request)
	if err != nil {
		return 0, "", errors.Join(s.inWords(err), tx.Rollback())
	}
	if err := s.ended(ctx, tx); err != nil {
		return 0, "", err
	}
	return id, day, nil
}

func keepRehearsal(ctx context.Context, tx *sqlx.Tx, r Rehearsal, rig, setList plan.ID, request string) (int64, error) {
	var key any
	if request != "" {
		key = request
		var before struct {
			ID      int64   `db:"id"`
			Rig     plan.ID `db:"rig"`
			SetList plan.ID `db:"set_list"`
		}
		err := tx.GetContext(ctx, &before, `SELECT id, rig, set_list FROM rehearsals WHERE request = ?`, request)
		switch {
		case err == nil && (before.Rig != rig || before.SetList != setList):
			return 0, ErrOtherRequest
		case err == nil:
			return before.ID, nil
		case !errors.Is(err, sql.ErrNoRows):
			return 0, fmt.Errorf("store: look for a rehearsal: %w", err)
		}
	}
	done, err := tx.ExecContext(
		ctx, `INSERT INTO rehearsals (at, rig, set_list, doc, request) VALUES (?, ?, ?, ?, ?)`, r.At, rig, setList, r.Doc,
		key,
	)
	if err != nil {
		return 0, fmt.Errorf("store: keep a rehearsal: %w", err)
	}
	id, err := done.LastInsertId()
	if err != nil {
		return 0, fmt.Errorf("store: keep a rehearsal: %w", err)
	}
	return id, nil
}

// Rehearsals are those of a rig and a set list, the first kept first.
func (s *Store) Rehearsals(ctx context.Context, rig, setList plan.ID) ([]Rehearsal, error) {
	list := []Rehearsal{}
	err := s.db.SelectContext(
		ctx, &list,
		`SELECT id, at, doc FROM (SELECT id, at, doc FROM rehearsals WHERE rig = ? AND set_list = ? ORDER BY id DESC LIMIT ?) ORDER BY id`,
		rig, setList, maxRehearsals,
	)
	if err != nil {
		return nil, fmt.Errorf("store: read rehearsals: %w", err)
	}
	return list, nil
}
