package api_test

import (
	"bytes"
	"encoding/json"
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/api"
	"envex/core/plan"
	"envex/demo"
)

func TestSongsAreReadAndWrittenInOpenFormats(t *testing.T) {
	s := start(t)
	s.loadDemo()
	octets := func(r *http.Request) { r.Header.Set("Content-Type", "application/octet-stream") }
	w := s.send("GET", "/api/export/songs?format=csv&set_list=quay-set", nil)
	require.Equal(t, 200, w.Code)
	assert.Contains(t, w.Header().Get("Content-Type"), "text/csv")
	refused(t, s.send("POST", "/api/read?name=Night.csv", []byte{}, octets), 400)
	w = s.send("POST", "/api/read?name=Night.csv", []byte("title,bpm\nNew One,100\n"), octets)
	require.Equal(t, 200, w.Code, w.Body.String())
	var u api.Understood
	require.NoError(t, json.Unmarshal(w.Body.Bytes(), &u))
	assert.Equal(t, "New One", u.Draft.Songs[0].Title)
	w = s.send("POST", "/api/import", []byte(u.File))
	require.Equal(t, 200, w.Code, w.Body.String())
	assert.Contains(t, w.Body.String(), "New One")
	p := refused(t, s.send("POST", "/api/read?name=x.csv", []byte("title,bpm\nA,fast\n"), octets), 422)
	assert.Contains(t, p.Detail, "ine 2")
	refused(t, s.send("POST", "/api/read?name=x.mid", []byte("no notes"), octets), 422)
	refused(t, s.send("POST", "/api/read?name=x.csv", []byte("title\nA\n")), 415)
	refused(t, s.send("POST", "/api/read?name=x.csv", make([]byte, 3<<20), octets), 413)
	refused(t, s.send("POST", "/api/read?name=x.wav", []byte("x"), octets), 422)
	w = s.send("GET", "/api/export/songs?format=smf&set_list=quay-set&rig=long", nil)
	require.Equal(t, 200, w.Code)
	assert.Equal(t, "MThd", w.Body.String()[:4])
	refused(t, s.send("GET", "/api/export/songs?format=smf&set_list=nope", nil), 404)
}

func TestImportIsWholeOrNothing(t *testing.T) {
	s := start(t)
	bad := bytes.Replace(demo.File, []byte(`"bpm": 104`), []byte(`"bpm": 5`), 1)
	p := refused(t, s.send("POST", "/api/import", bad), 422)
	assert.Equal(t, "songs[0].tempo.bpm", p.Errors[0].Location)
	var w api.WholePlan
	s.get("/api/plan", &w)
	assert.Empty(t, w.Gear)

	var r api.ImportResult
	dry := s.send("POST", "/api/import?dry_run=true", demo.File)
	require.NoError(t, json.Unmarshal(dry.Body.Bytes(), &r))
	assert.False(t, r.Done)
	require.Equal(t, 200, s.send("POST", "/api/import", demo.File).Code)
	exported := s.send("GET", "/api/export", nil)
	assert.Equal(t, string(demo.File), exported.Body.String(), "what goes out is what came in")

	other := bytes.Replace(demo.File, []byte(`"name": "Amber"`), []byte(`"name": "Umber"`), 1)
	asked := s.send("POST", "/api/import", other)
	require.NoError(t, json.Unmarshal(asked.Body.Bytes(), &r))
	require.Len(t, r.Conflicts, 1)
	assert.False(t, r.Done)
	require.Equal(t, 200, s.send("POST", "/api/import?resolve=copy", other).Code)
	s.get("/api/plan", &w)
	assert.Len(t, w.Gear, 31)
	require.Equal(t, 200, s.send("POST", "/api/undo", map[string]any{}).Code)
	s.get("/api/plan", &w)
	assert.Len(t, w.Gear, 30)
}

func TestWhatWasRemovedCanBeImportedAgain(t *testing.T) {
	s := start(t)
	s.loadDemo()
	require.Equal(t, 200, s.send("DELETE", "/api/shows/deck-13?version=1", nil).Code)
	w := s.send("POST", "/api/import", demo.File)
	require.Equal(t, 200, w.Code, w.Body.String())
	assert.Contains(t, w.Body.String(), "Upper deck")
}

func TestExportOfOneRigStandsAlone(t *testing.T) {
	s := start(t)
	s.loadDemo()
	w := s.send("GET", "/api/export?id=carry", nil)
	p, err := plan.Decode(w.Body.Bytes())
	require.NoError(t, err)
	assert.Len(t, p.Rigs, 1)
	refused(t, s.send("GET", "/api/export?id=nope", nil), 404)
}
