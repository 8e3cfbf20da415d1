package signal

import "sync"

// shares counts pieces of work done by several goroutines, and says how far they are.
type shares struct {
	mu       sync.Mutex
	done     int
	all      int
	progress func(float64)
}

func newShares(all int, progress func(float64)) *shares { return &shares{all: all, progress: progress} }

// with does something that must not be done by two at a time, and counts it as a piece done.
func (s *shares) with(do func()) {
	s.mu.Lock()
	defer s.mu.Unlock()
	do()
	if s.done++; s.progress != nil {
		s.progress(float64(s.done) / float64(s.all))
	}
}
