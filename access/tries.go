package access

import (
	"fmt"
	"sync"
	"time"

	"golang.org/x/time/rate"
)

// How often somebody may try: a few times at once, then slowly; from one address, and from all together.
const (
	triesAtOnce    = 5
	tryEvery       = 20 * time.Second
	allTriesAtOnce = 40
	allTryEvery    = 3 * time.Second
	addressesKept  = 1000
)

// TooManyError says that somebody has tried too often.
type TooManyError struct{ Wait time.Duration }

// Error says how long to wait.
func (e *TooManyError) Error() string {
	return fmt.Sprintf("that was tried too often: try again in %d s", e.Seconds())
}

// Words is what a person reads of it: see [reason.Of].
func (e *TooManyError) Words() string { return e.Error() }

// Seconds is how long to wait, in whole seconds.
func (e *TooManyError) Seconds() int { return int((e.Wait + time.Second - 1) / time.Second) }

// tries limits how often somebody may try.
type tries struct {
	mu   sync.Mutex
	all  *rate.Limiter
	from map[string]*rate.Limiter
}

func newTries() *tries {
	return &tries{all: rate.NewLimiter(rate.Every(allTryEvery), allTriesAtOnce), from: map[string]*rate.Limiter{}}
}

// take takes one try of an address, or fails with a [*TooManyError].
func (t *tries) take(from string, now time.Time) error {
	t.mu.Lock()
	defer t.mu.Unlock()
	l := t.from[from]
	if l == nil {
		if len(t.from) >= addressesKept {
			t.from = map[string]*rate.Limiter{} // the limit on all holds meanwhile
		}
		l = rate.NewLimiter(rate.Every(tryEvery), triesAtOnce)
		t.from[from] = l
	}
	for _, l := range []*rate.Limiter{l, t.all} {
		r := l.ReserveN(now, 1)
		if wait := r.DelayFrom(now); wait > 0 {
			r.CancelAt(now)
			return &TooManyError{Wait: wait}
		}
	}
	return nil
}
