package api_test

import (
	"encoding/json"
	"net/http"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/api"
	"envex/store"
)

// raw sends a file as it is.
func raw(r *http.Request) { r.Header.Set("Content-Type", "application/octet-stream") }

func (s server) copies() []store.Kept {
	s.t.Helper()
	var out struct {
		Copies []store.Kept
	}
	s.get("/api/copies", &out)
	return out.Copies
}

func TestCopiesAreMadeListedBroughtBackAndRemoved(t *testing.T) {
	s := start(t)
	s.loadDemo()
	assert.Empty(t, s.copies())
	require.Equal(t, http.StatusOK, s.send(http.MethodPost, "/api/copies", nil).Code)
	list := s.copies()
	require.Len(t, list, 1)
	assert.Equal(t, store.HandCopy, list[0].Kind)
	assert.Equal(t, 14, list[0].Contents.Songs)
	require.Equal(t, http.StatusOK, s.send(http.MethodDelete, "/api/shows/quay-12?version=1", nil).Code)

	w := s.send(
		http.MethodPost, "/api/copies/"+list[0].Name+"/restore", nil,
		func(r *http.Request) { r.Header.Set("Envex-Since", "x") },
	)
	require.Equal(t, http.StatusOK, w.Code, w.Body.String())
	var done api.RestoredPlan
	require.NoError(t, json.Unmarshal(w.Body.Bytes(), &done))
	require.Len(t, done.Brought, 1)
	require.NotNil(t, done.Plan, "what is new comes with the answer")
	assert.Contains(t, done.Plan.Undo.Label, "Bring back the copy of ")

	file := s.send(http.MethodGet, "/api/copies/"+list[0].Name+"/file", nil)
	require.Equal(t, http.StatusOK, file.Code)
	path := filepath.Join(t.TempDir(), "there.db")
	require.NoError(t, os.WriteFile(path, file.Body.Bytes(), 0o600))
	_, err := store.Inspect(t.Context(), path)
	require.NoError(t, err)
	fresh := s.send(http.MethodGet, "/api/backup", nil)
	require.Equal(t, http.StatusOK, fresh.Code)

	require.Equal(t, http.StatusNoContent, s.send(http.MethodDelete, "/api/copies/"+list[0].Name, nil).Code)
	assert.Empty(t, s.copies())
	refused(t, s.send(http.MethodPost, "/api/copies/"+list[0].Name+"/restore", nil), http.StatusNotFound)
	refused(t, s.send(http.MethodGet, "/api/copies/"+list[0].Name+"/file", nil), http.StatusNotFound)

	other := start(t)
	taken := other.send(http.MethodPost, "/api/copies/file", fresh.Body.Bytes(), raw)
	require.Equal(t, http.StatusOK, taken.Code, taken.Body.String())
	require.Len(t, other.copies(), 1)
	require.Equal(
		t, http.StatusOK, other.send(http.MethodPost, "/api/copies/"+other.copies()[0].Name+"/restore", nil).Code,
	)
	var there, here api.WholePlan
	s.get("/api/plan", &there)
	other.get("/api/plan", &here)
	assert.Len(t, here.Songs, len(there.Songs))
}

func TestWhatIsNoCopyIsNotTaken(t *testing.T) {
	s := start(t)
	p := refused(
		t, s.send(http.MethodPost, "/api/copies/file", []byte("a letter, however long it may be, is no database"), raw),
		http.StatusUnprocessableEntity,
	)
	assert.Contains(t, p.Detail, "This copy cannot be used: it is no SQLite database")
	refused(t, s.send(http.MethodPost, "/api/copies/file", map[string]any{}), http.StatusUnsupportedMediaType)
	refused(
		t,
		s.send(
			http.MethodPost, "/api/copies/file", []byte("x"), raw, func(r *http.Request) { r.ContentLength = api.MaxCopy + 1 },
		),
		http.StatusRequestEntityTooLarge,
	)
	refused(t, s.send(http.MethodDelete, "/api/copies/..%2Fplan", nil), http.StatusNotFound)
	assert.Empty(t, s.copies())
}

func TestAKeyIsForOneRequest(t *testing.T) {
	s := start(t)
	key := func(r *http.Request) { r.Header.Set("Idempotency-Key", "one") }
	sound := map[string]any{
		"id": "a", "name": "One", "short": "A", "role": "rhythm", "tape": "bone", "targets": map[string]any{},
	}
	first := s.send(http.MethodPut, "/api/sounds/a", versioned(0, sound), key)
	require.Equal(t, http.StatusOK, first.Code, first.Body.String())
	require.Equal(t, http.StatusOK, s.send(http.MethodPut, "/api/sounds/a", versioned(0, sound), key).Code)
	sound["name"] = "Other"
	p := refused(t, s.send(http.MethodPut, "/api/sounds/a", versioned(1, sound), key), http.StatusUnprocessableEntity)
	assert.Contains(t, p.Detail, "was used before for another one")
	add := map[string]any{
		"label": "x",
		"edits": []any{
			map[string]any{
				"kind": "sound", "id": "b",
				"add": map[string]any{
					"id": "b", "name": "B", "short": "B", "role": "rhythm", "tape": "bone", "targets": map[string]any{},
				},
			},
		},
	}
	again := func(r *http.Request) { r.Header.Set("Idempotency-Key", "two") }
	w := s.send(http.MethodPost, "/api/operations", add, again)
	require.Equal(t, http.StatusOK, w.Code, w.Body.String())
	require.Equal(t, http.StatusOK, s.send(http.MethodPost, "/api/operations", add, again).Code)
	add["label"] = "y"
	refused(t, s.send(http.MethodPost, "/api/operations", add, again), http.StatusUnprocessableEntity)
}
