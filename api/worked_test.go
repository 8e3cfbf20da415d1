package api_test

import (
	"errors"
	"net/http"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/api"
	"envex/core/plan"
	"envex/core/signal"
)

// shelf keeps results from one server of a test to the next.
type shelf struct {
	mu   sync.Mutex
	kept map[string][]byte
	full error
}

func (s *shelf) Get(key string) ([]byte, bool) {
	s.mu.Lock()
	defer s.mu.Unlock()
	data, ok := s.kept[key]
	return data, ok
}

func (s *shelf) Put(key string, data []byte) error {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.full == nil {
		s.kept[key] = data
	}
	return s.full
}

// over is a server like another, with a shelf.
func (s server) over(w api.Worked) server {
	s.Handler = api.New(api.Options{
		Context: s.t.Context(), Store: s.store, NewID: func() plan.ID { return "e" }, Log: s.log, Scratch: s.t.TempDir(),
		Worked: w,
	})
	return s
}

func TestWhatWasWorkedOutIsThereAtTheNextStart(t *testing.T) {
	renders(t)
	first := start(t)
	first.loadSmall()
	results := &shelf{kept: map[string][]byte{}}
	found := work[signal.Report](first.over(results), "/api/signal?rig=small")
	require.Len(t, results.kept, 1)
	again := work[signal.Report](first.over(results), "/api/signal?rig=small")
	assert.Equal(t, found, again)

	// It is what was kept that is given, and nothing is worked out anew.
	for key, data := range results.kept {
		results.kept[key] = []byte(strings.Replace(string(data), found.Sounds[0].Name, "Kept on the shelf", 1))
	}
	kept := work[signal.Report](first.over(results), "/api/signal?rig=small")
	assert.Equal(t, "Kept on the shelf", kept.Sounds[0].Name)
	for key := range results.kept {
		results.kept[key] = []byte("no figures")
	}
	assert.Equal(t, found, work[signal.Report](first.over(results), "/api/signal?rig=small"))

	// What hangs on sounds that go with the program is worked out every time.
	at := first.over(results)
	n := len(results.kept)
	work[api.Listening](at, "/api/listen?rig=small&sound=clean")
	dry := at.bring(tone(t, 0.1, 3))
	work[signal.Report](at, "/api/signal?rig=small&dry="+dry.ID)
	assert.Len(t, results.kept, n)

	// A folder that is full is said in the log, and the answer is given.
	results.kept, results.full = map[string][]byte{}, errors.New("no space left")
	assert.Equal(t, found, work[signal.Report](first.over(results), "/api/signal?rig=small"))
	refused(t, first.over(results).send(http.MethodGet, "/api/signal?rig=moon", nil), 404)
}
