package api_test

import (
	"encoding/json"
	"net/http"
	"net/http/httptest"
	"slices"
	"strconv"
	"strings"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/api"
)

var built = fstest.MapFS{
	"index.html": {Data: []byte("<p>page")}, "assets/a.js": {Data: []byte("0123456789")},
	"assets/a.js.br": {Data: []byte("small")}, "assets/a.js.gz": {Data: []byte("smaller")},
	"assets/b.css": {Data: []byte("b{}")},
}

// with sets headers: names and values in turn.
func with(headers ...string) func(*http.Request) {
	return func(r *http.Request) {
		for i := 0; i < len(headers); i += 2 {
			r.Header.Set(headers[i], headers[i+1])
		}
	}
}

func TestFilesGoOutCompressedWhereTheyAreTaken(t *testing.T) {
	s := start(t)
	ask := func(path string, headers ...string) *httptest.ResponseRecorder {
		return s.send("GET", path, nil, with(headers...))
	}
	for accepts, want := range map[string][2]string{
		"gzip, deflate, br": {"br", "small"}, "gzip;q=0.8": {"gzip", "smaller"}, "br;q=0, gzip": {"gzip", "smaller"},
		"": {"", "0123456789"}, "zstd": {"", "0123456789"},
	} {
		w := ask("/assets/a.js", "Accept-Encoding", accepts)
		require.Equal(t, 200, w.Code)
		assert.Equal(t, want[0], w.Header().Get("Content-Encoding"), accepts)
		assert.Equal(t, want[1], w.Body.String(), accepts)
		assert.Contains(t, w.Header().Get("Content-Type"), "javascript")
		assert.Equal(t, "Accept-Encoding", w.Header().Get("Vary"))
		assert.Contains(t, w.Header().Get("Cache-Control"), "immutable")
		assert.Empty(t, w.Header().Get("Content-Security-Policy"), "it is no page")
		assert.Equal(t, "nosniff", w.Header().Get("X-Content-Type-Options"))
		assert.Equal(t, strconv.Itoa(len(want[1])), w.Header().Get("Content-Length"))
	}
	part := ask("/assets/a.js", "Accept-Encoding", "br", "Range", "bytes=2-4")
	assert.Equal(t, http.StatusPartialContent, part.Code)
	assert.Equal(t, "234", part.Body.String(), "a part of the file as it is")
	assert.Empty(t, part.Header().Get("Content-Encoding"))
	assert.Equal(t, "b{}", ask("/assets/b.css", "Accept-Encoding", "br").Body.String(), "it is not compressed")
	page := ask("/order", "Accept-Encoding", "br")
	assert.Equal(t, "<p>page", page.Body.String())
	assert.Equal(t, "no-cache", page.Header().Get("Cache-Control"))
	assert.Contains(t, page.Header().Get("Content-Security-Policy"), "default-src 'self'")
}

func TestWhatHasNotChangedIsNotSentTwice(t *testing.T) {
	s := start(t)
	s.loadDemo()
	const asked = "/api/reach?rig=long&set_list=quay-set"
	first := s.send("GET", asked, nil)
	require.Equal(t, 200, first.Code)
	tag := first.Header().Get("ETag")
	require.NotEmpty(t, tag)
	again := s.send("GET", asked, nil, with("If-None-Match", tag))
	assert.Equal(t, http.StatusNotModified, again.Code)
	assert.Empty(t, again.Body.String())
	require.Equal(t, 200, s.send("POST", "/api/sections", map[string]any{"label": "verse", "bars": 12}).Code)
	assert.Equal(t, 200, s.send("GET", asked, nil, with("If-None-Match", tag)).Code, "something was written")
	const shown = "?rig=long&set_list=quay-set&wait_ms=0"
	for _, path := range []string{
		"/api/history", "/api/copies", "/api/devices", "/api/reaching", "/api/layers/heard" + shown, "/api/floor/fit" + shown,
	} {
		assert.Empty(t, s.send("GET", path, nil).Header().Get("ETag"), "%s is not of the plan alone", path)
	}
}

func TestAWriteBringsAnswersToWhatIsShown(t *testing.T) {
	s := start(t)
	s.loadDemo()
	bars := 12
	write := func(shown ...string) []api.Answer {
		var out api.Written
		bars++
		body := map[string]any{"label": "verse", "bars": bars}
		w := s.send("POST", "/api/sections", body, with("Envex-Since", "nothing", "Envex-Shown", strings.Join(shown, " ")))
		require.Equal(t, 200, w.Code, w.Body.String())
		require.NoError(t, json.Unmarshal(w.Body.Bytes(), &out))
		for _, a := range out.Plan.Answers {
			assert.Equal(t, out.Plan.At, a.At, a.Question)
		}
		return out.Plan.Answers
	}
	questions := []string{
		"/api/reach?rig=long&set_list=quay-set", "/api/order?rig=long", "/api/uses/amber",
		"/api/reach?rig=long&set_list=quay-set&destination=long-hired",
	}
	for i, a := range write(questions...) {
		assert.Equal(t, questions[i], a.Question, "in the order they were asked")
		alone := s.send("GET", a.Question, nil)
		require.Equal(t, 200, alone.Code, a.Question)
		assert.JSONEq(t, alone.Body.String(), string(a.Body), a.Question)
	}
	for _, shown := range []string{
		"", "/api/reach?rig=nope&set_list=quay-set", "/api/reach?rig=long&set_list=quay-set&destination=nope", "%zz",
		"/api/plan", "/api/history", "/api/levels?rig=long", "http://elsewhere.example/api/reach?rig=long&set_list=quay-set",
	} {
		assert.Empty(t, write(shown), shown)
	}
	assert.Len(t, write(slices.Repeat(questions[:1], 30)...), 24, "no write asks for everything")
	long := "/api/differ?rig=long&order=" + strings.Repeat("x", 9000)
	assert.Len(t, write(long, questions[0]), 1, "a write is not refused for what it asks besides")
}

func TestAnEmptySetHasListsAndNotNothing(t *testing.T) {
	s := start(t)
	rig := map[string]any{"id": "r", "name": "R", "floor": map[string]any{}, "profile": map[string]any{}}
	set := map[string]any{"id": "s", "name": "S", "entries": []any{}}
	body := map[string]any{"label": "x", "edits": []any{
		map[string]any{"kind": "rig", "id": "r", "add": rig}, map[string]any{"kind": "set_list", "id": "s", "add": set},
	}}
	require.Equal(t, 200, s.send("POST", "/api/operations", body).Code)
	for _, path := range []string{
		"reach?rig=r&set_list=s", "order?rig=r", "order/lessons?rig=r",
		"cables?rig=r", "power?rig=r", "floor?rig=r&set_list=s", "tempo?rig=r&set_list=s", "layers?rig=r&set_list=s",
		"midi?rig=r", "sections",
	} {
		w := s.send("GET", "/api/"+path, nil)
		require.Equal(t, 200, w.Code, path)
		assert.NotContains(t, w.Body.String(), ":null", path)
	}
}

// BenchmarkEdit is an edit with the answers that a screen shows.
func BenchmarkEdit(b *testing.B) {
	s := start(b)
	s.loadDemo()
	shown := strings.Join([]string{
		"/api/reach?rig=long&set_list=quay-set", "/api/order?rig=long", "/api/cables?rig=long", "/api/uses/amber",
		"/api/next?rig=long&set_list=quay-set", "/api/tempo?rig=long&set_list=quay-set",
	}, " ")
	bars := 0
	for b.Loop() {
		bars++
		body := map[string]any{"label": "verse", "bars": 4 + bars%60}
		w := s.send("POST", "/api/sections", body, with("Envex-Since", "nothing", "Envex-Shown", shown))
		require.Equal(b, 200, w.Code, w.Body.String())
	}
}
