package store_test

import (
	"errors"
	"fmt"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"envex/core/plan"
	"envex/store"
)

// model is what the store is meant to be: a list of everything that was ever so, and where
// in it we are.
type model struct {
	states []map[plan.ID]string
	at     int
}

func (m *model) now() map[plan.ID]string { return m.states[m.at] }

func (m *model) write(id plan.ID, name string, gone bool) {
	next := map[plan.ID]string{}
	for k, v := range m.now() {
		next[k] = v
	}
	if gone {
		delete(next, id)
	} else {
		next[id] = name
	}
	m.states = append(m.states[:m.at+1], next)
	m.at++
}

// Whatever is written, removed, undone and redone, in whatever order and across restarts,
// the store is where a plain list of states would be.
func TestTheStoreIsWhatItsModelIs(t *testing.T) {
	folder := t.TempDir()
	n := 0
	rapid.Check(t, func(t *rapid.T) {
		n++
		path := filepath.Join(folder, fmt.Sprint(n, ".db"))
		s, err := store.Open(ctx, path, clock)
		require.NoError(t, err)
		defer func() { _ = s.Close() }()
		m := &model{states: []map[plan.ID]string{{}}}
		for i := range rapid.IntRange(1, 14).Draw(t, "steps") {
			id := plan.ID(rapid.SampledFrom([]string{"a", "b", "c"}).Draw(t, "id"))
			_, versions := s.Plan()
			_, there := m.now()[id]
			switch rapid.SampledFrom([]string{"put", "put", "remove", "undo", "undo", "redo", "reopen"}).Draw(t, "do") {
			case "put":
				read := 0
				if there {
					read = versions[id]
				}
				name := fmt.Sprint("name ", i)
				_, err := s.Apply(ctx, "put", "", store.Edit{Read: read, Put: sound(string(id), name)})
				require.NoError(t, err)
				m.write(id, name, false)
			case "remove":
				_, err := s.Apply(ctx, "remove", "", store.Edit{Read: max(1, versions[id]), Remove: id})
				if !there {
					require.Error(t, err)
					continue
				}
				require.NoError(t, err)
				m.write(id, "", true)
			case "undo":
				_, _, err := s.Undo(ctx, 0)
				if m.at == 0 {
					require.True(t, errors.Is(err, store.ErrNothing))
					continue
				}
				require.NoError(t, err)
				m.at--
			case "redo":
				_, _, err := s.Redo(ctx, 0)
				if m.at == len(m.states)-1 {
					require.True(t, errors.Is(err, store.ErrNothing))
					continue
				}
				require.NoError(t, err)
				m.at++
			case "reopen":
				require.NoError(t, s.Close())
				s, err = store.Open(ctx, path, clock)
				require.NoError(t, err)
			}
			got := map[plan.ID]string{}
			p, _ := s.Plan()
			for _, x := range p.Sounds {
				got[x.ID] = x.Name
			}
			assert.Equal(t, m.now(), got)
		}
	})
}
