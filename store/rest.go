package store

import (
	"context"
	"time"
)

// restAfter is how long nothing is written before what was is moved from the log into the main file.
const restAfter = 2 * time.Second

// rest moves what was written into the main file whenever nothing has been written for a while, so that
// the plan does not live in the write-ahead log alone: a copy of the main file then has it.
func (s *Store) rest() {
	defer close(s.rested)
	timer := time.NewTimer(restAfter)
	timer.Stop()
	for {
		select {
		case <-s.wrote:
			timer.Reset(restAfter)
		case <-timer.C:
			_ = s.Checkpoint(context.Background()) // it is tried again after the next write, and on closing
		case <-s.closing:
			timer.Stop()
			return
		}
	}
}

// Checkpoint moves everything that was written into the main file, which then stands for the plan by itself.
func (s *Store) Checkpoint(ctx context.Context) error {
	s.write.Lock()
	defer s.write.Unlock()
	return s.closeLog(ctx)
}

// stir says that something was written.
func (s *Store) stir() {
	select {
	case s.wrote <- struct{}{}:
	default:
	}
}
