package store

import (
	"maps"

	"envex/core/plan"
)

// Plan is the plan as it stands and the version of each of its aggregates. The caller must
// not change what it points to.
func (s *Store) Plan() (*plan.Plan, map[plan.ID]int) {
	s.mu.RLock()
	defer s.mu.RUnlock()
	p := s.current
	return &p, s.versions
}

// State is a plan at one moment: what is in it, the version of each aggregate, and how many writes
// this store had carried out by then.
type State struct {
	Plan     *plan.Plan
	Versions map[plan.ID]int
	Seq      int64
	touched  map[plan.ID]int64
}

// ChangedSince reports whether an aggregate was written after a moment of this store.
func (s State) ChangedSince(id plan.ID, seq int64) bool { return s.touched[id] > seq }

// State is the plan as it stands. The caller must not change what it points to.
func (s *Store) State() State {
	s.mu.RLock()
	defer s.mu.RUnlock()
	p := s.current
	return State{Plan: &p, Versions: s.versions, Seq: s.seq, touched: s.touched}
}

// Watch gives a channel that has something in it after every write, one or several, until it is
// stopped.
func (s *Store) Watch() (changed <-chan struct{}, stop func()) {
	c := make(chan struct{}, 1)
	s.mu.Lock()
	defer s.mu.Unlock()
	s.watchers[c] = true
	return c, func() {
		s.mu.Lock()
		defer s.mu.Unlock()
		delete(s.watchers, c)
	}
}

// publish makes a plan the current one and tells who watches. The lock is held.
func (s *Store) publish(next plan.Plan, versions map[plan.ID]int, written map[plan.ID]int) {
	s.seq++
	touched := maps.Clone(s.touched)
	for id := range written {
		touched[id] = s.seq
	}
	s.current, s.versions, s.touched = next, versions, touched
	for c := range s.watchers {
		select {
		case c <- struct{}{}:
		default: // it has not looked since the last write
		}
	}
}
