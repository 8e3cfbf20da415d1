package api

import (
	"bytes"
	"encoding/json"
	"fmt"
	"strings"
	"time"
)

// Worked keeps results from one start of the program to the next, such as [envex/worked.Folder] does.
type Worked interface {
	Get(key string) ([]byte, bool)
	Put(key string, data []byte) error
}

// worthKeeping is how long something has to have taken for its result to be kept.
const worthKeeping = 150 * time.Millisecond

// ofRecording reports whether a piece of work was asked about a recording that was brought: its id says another one
// after the next start.
func ofRecording(name string) bool { return strings.Contains(name, `"take`) }

// again is what was found under a key by this program at an earlier start, or what is found now, which is kept where it
// took long.
func (s *Server) again(key string, run func() (any, error), empty func() any) (any, error) {
	if s.worked == nil {
		return run()
	}
	if data, ok := s.worked.Get(key); ok {
		if result := empty(); json.Unmarshal(data, result) == nil {
			return result, nil
		}
	}
	began := time.Now()
	result, err := run()
	if err != nil || time.Since(began) < worthKeeping {
		return result, err
	}
	if err := s.remember(key, result, empty()); err != nil {
		s.log.Warn("what was worked out is not kept for the next start", "why", err)
	}
	return result, nil
}

// remember keeps a result. What does not come back as it was is not kept.
func (s *Server) remember(key string, result, back any) error {
	data, err := json.Marshal(result)
	if err != nil {
		return fmt.Errorf("api: %w", err)
	}
	if json.Unmarshal(data, back) != nil {
		return nil
	}
	if same, err := json.Marshal(back); err != nil || !bytes.Equal(same, data) {
		return err
	}
	return s.worked.Put(key, data)
}
