package store

import (
	"context"
	"errors"
	"fmt"

	"github.com/jmoiron/sqlx"

	"envex/core/plan"
	"envex/core/reason"
)

// NightEvent is something that happened at a show, as a document of whoever keeps it. Seq counts them as they came in.
type NightEvent struct {
	Seq   int64   `db:"seq"`
	Event plan.ID `db:"event"`
	Doc   []byte  `db:"doc"`
}

// maxNight is how many events of a show are kept.
const maxNight = 20000

// Happened keeps events of a show, all of them or none, and gives those that are new: one that is kept already stays as
// it is. It fails where a show would have more than 20000.
func (s *Store) Happened(ctx context.Context, show plan.ID, events []NightEvent) ([]NightEvent, error) {
	s.write.Lock()
	defer s.write.Unlock()
	tx, err := s.begun(ctx)
	if err != nil {
		return nil, err
	}
	fresh, err := happened(ctx, tx, show, events)
	if err != nil {
		return nil, errors.Join(s.inWords(err), tx.Rollback())
	}
	if err := s.ended(ctx, tx); err != nil {
		return nil, err
	}
	if len(fresh) > 0 {
		s.tellNights()
	}
	return fresh, nil
}

func happened(ctx context.Context, tx *sqlx.Tx, show plan.ID, events []NightEvent) ([]NightEvent, error) {
	fresh := []NightEvent{}
	for _, e := range events {
		done, err := tx.ExecContext(
			ctx,
			`INSERT INTO nights (show, event, doc) VALUES (?, ?, ?) ON CONFLICT (show, event) DO NOTHING`,
			show,
			e.Event,
			string(e.Doc),
		)
		if err != nil {
			return nil, fmt.Errorf("store: keep what happened: %w", err)
		}
		n, err := done.RowsAffected()
		if err != nil {
			return nil, fmt.Errorf("store: keep what happened: %w", err)
		}
		if n == 0 {
			continue
		}
		if e.Seq, err = done.LastInsertId(); err != nil {
			return nil, fmt.Errorf("store: keep what happened: %w", err)
		}
		fresh = append(fresh, e)
	}
	var count int
	if err := tx.GetContext(ctx, &count, `SELECT count(*) FROM nights WHERE show = ?`, show); err != nil {
		return nil, fmt.Errorf("store: count what happened: %w", err)
	}
	if count > maxNight {
		return nil, reason.Errorf("more than %d things happened at this show: begin another show", maxNight)
	}
	return fresh, nil
}

// Night is what happened at a show after a number, 0 for all of it, in the order in which it came in.
func (s *Store) Night(ctx context.Context, show plan.ID, after int64) ([]NightEvent, error) {
	list := []NightEvent{}
	err := s.db.SelectContext(
		ctx, &list, `SELECT seq, event, doc FROM nights WHERE show = ? AND seq > ? ORDER BY seq`, show, after,
	)
	if err != nil {
		return nil, fmt.Errorf("store: read what happened: %w", s.inWords(err))
	}
	return list, nil
}

// WatchNights gives a channel that has something in it after anything happened at any show, once or several times,
// until it is stopped.
func (s *Store) WatchNights() (changed <-chan struct{}, stop func()) {
	c := make(chan struct{}, 1)
	s.mu.Lock()
	defer s.mu.Unlock()
	s.nights[c] = true
	return c, func() {
		s.mu.Lock()
		defer s.mu.Unlock()
		delete(s.nights, c)
	}
}

func (s *Store) tellNights() {
	s.mu.RLock()
	defer s.mu.RUnlock()
	for c := range s.nights {
		select {
		case c <- struct{}{}:
		default: // it has not looked since the last
		}
	}
}
