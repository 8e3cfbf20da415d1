package api_test

import (
	"bytes"
	"io"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"path/filepath"
	"strings"
	"testing"
	"testing/fstest"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/api"
	"envex/core/plan"
	"envex/store"
)

func TestAnotherSiteCannotHaveWorkBegun(t *testing.T) {
	s := start(t)
	for site, want := range map[string]int{"cross-site": 403, "same-site": 403, "same-origin": 404, "none": 404, "": 404} {
		w := s.send(
			"GET",
			"/api/gainmap?rig=nowhere",
			nil,
			func(r *http.Request) { r.Header.Set("Sec-Fetch-Site", site) },
		)
		assert.Equal(t, want, w.Code, site)
	}
	// A link from elsewhere opens the page itself.
	w := s.send("GET", "/step", nil, func(r *http.Request) { r.Header.Set("Sec-Fetch-Site", "cross-site") })
	assert.Equal(t, 200, w.Code)
	for _, host := range []string{"localhost:8420", "[::1]:8420", "[::1]", "127.0.0.1"} {
		assert.Equal(t, 200, s.send("GET", "/api/plan", nil, func(r *http.Request) { r.Host = host }).Code, host)
	}
}

func TestABodyThatTricklesInIsCutOff(t *testing.T) {
	st, err := store.Open(t.Context(), filepath.Join(t.TempDir(), "plan.db"), time.Now)
	require.NoError(t, err)
	defer st.Close()
	web := httptest.NewServer(api.New(api.Options{
		Context: t.Context(), Store: st, NewID: func() plan.ID { return "e" },
		Log: slog.New(slog.NewTextHandler(io.Discard, nil)),
		Web: fstest.MapFS{}, BodyTime: 150 * time.Millisecond,
	}))
	defer web.Close()
	body, feed := io.Pipe()
	defer feed.Close()
	r, err := http.NewRequestWithContext(t.Context(), http.MethodPost, web.URL+"/api/operations", body)
	require.NoError(t, err)
	r.Header.Set("Content-Type", "application/json")
	go func() { _, _ = feed.Write([]byte(`{"label":`)) }() // and then nothing more
	began := time.Now()
	answer, err := http.DefaultClient.Do(r)
	if err == nil {
		assert.GreaterOrEqual(t, answer.StatusCode, 400)
		require.NoError(t, answer.Body.Close())
	}
	assert.Less(t, time.Since(began), 20*time.Second)
}

func TestOtherSitesAreKeptOut(t *testing.T) {
	s := start(t)
	body := versioned(0, home)
	cases := map[string]struct {
		change func(*http.Request)
		status int
	}{
		"another host name":                {func(r *http.Request) { r.Host = "evil.example" }, 421},
		"an address of the network":        {func(r *http.Request) { r.Host = "192.168.1.7:80" }, 421},
		"a name of the network":            {func(r *http.Request) { r.Host = "quay.local" }, 421},
		"a name that begins as an address": {func(r *http.Request) { r.Host = "[::1].evil.example" }, 421},
		"a name of figures":                {func(r *http.Request) { r.Host = "1.2.3.4.5" }, 421},
		"another origin": {
			func(r *http.Request) { r.Header.Set("Origin", "http://evil.example") },
			403,
		},
		"a cross-site fetch": {
			func(r *http.Request) { r.Header.Set("Sec-Fetch-Site", "cross-site") },
			403,
		},
		"a form's type":      {func(r *http.Request) { r.Header.Set("Content-Type", "text/plain") }, 415},
		"a body without end": {func(r *http.Request) { r.ContentLength = api.MaxBody + 1 }, 413},
		"its own page, again": {
			func(r *http.Request) { r.Header.Set("Origin", "http://127.0.0.1:8420") },
			200,
		},
	}
	for name, c := range cases {
		t.Run(name, func(t *testing.T) {
			w := s.send("PUT", "/api/sounds/home1", body, c.change)
			if c.status == 200 {
				assert.Equal(t, 200, w.Code, w.Body.String())
				return
			}
			refused(t, w, c.status)
		})
	}
	w := s.send("GET", "/", nil)
	policy := w.Header().Get("Content-Security-Policy")
	assert.Contains(t, policy, "default-src 'self'")
	assert.NotContains(t, strings.Split(policy, "style-src")[0], "unsafe-inline")
	assert.Equal(t, "nosniff", w.Header().Get("X-Content-Type-Options"))
}

func TestTooLargeABodyIsRefusedEvenWithoutALength(t *testing.T) {
	s := start(t)
	w := s.send(
		"POST",
		"/api/import",
		bytes.Repeat([]byte(" "), api.MaxBody+10),
		func(r *http.Request) { r.ContentLength = -1 },
	)
	assert.GreaterOrEqual(t, w.Code, 400)
	assert.Less(t, w.Code, 500)
}
