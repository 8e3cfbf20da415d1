package api_test

import (
	"bufio"
	"encoding/json"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/access"
	"envex/api"
	"envex/core/plan"
	"envex/core/reason"
)

// quay is a network that is there when it is opened.
type quay struct {
	state api.NetworkState
	fails error
}

func (q *quay) State() api.NetworkState { return q.state }
func (q *quay) Close() error            { q.state = api.NetworkState{Addresses: []string{}}; return nil }
func (q *quay) Open(secure bool) error {
	if q.fails == nil {
		q.state = api.NetworkState{On: true, Secure: secure, Addresses: []string{"http://quay.local:8421"}}
	}
	return q.fails
}

// from has a request come over the network from a device that shows a cookie.
func from(cookies ...*http.Cookie) func(*http.Request) {
	return func(r *http.Request) {
		*r = *r.WithContext(api.OverNetwork(r.Context()))
		r.Host, r.RemoteAddr = "quay.local:8421", "192.168.1.30:4000"
		for _, c := range cookies {
			r.AddCookie(c)
		}
	}
}

// pair lets a device in, and gives its cookie.
func (s server) pair(role string) *http.Cookie {
	s.t.Helper()
	require.Equal(s.t, http.StatusOK, s.send(http.MethodPut, "/api/network", map[string]any{"on": true}).Code)
	var p api.Pairing
	w := s.send(http.MethodPost, "/api/pairings", map[string]any{"role": role})
	require.Equal(s.t, http.StatusOK, w.Code, w.Body.String())
	require.NoError(s.t, json.Unmarshal(w.Body.Bytes(), &p))
	assert.Equal(s.t, []string{"http://quay.local:8421/pair#" + p.Code}, p.Links)
	w = s.send(http.MethodPost, "/api/session/pair", map[string]any{"code": p.Code, "name": "Phone"}, from())
	require.Equal(s.t, http.StatusOK, w.Code, w.Body.String())
	return cookie(s.t, w)
}

func cookie(t testing.TB, w *httptest.ResponseRecorder) *http.Cookie {
	t.Helper()
	list := w.Result().Cookies()
	require.Len(t, list, 1)
	return list[0]
}

func TestAStrangerOnTheNetworkSeesNothing(t *testing.T) {
	s := start(t)
	s.loadDemo()
	for _, r := range []struct {
		method, path string
		body         any
	}{
		{http.MethodGet, "/api/plan", nil}, {http.MethodGet, "/api/events", nil}, {http.MethodGet, "/api/export", nil},
		{http.MethodGet, "/api/backup", nil}, {http.MethodGet, "/api/openapi.json", nil},
		{http.MethodGet, "/api/clips/clip1", nil},
		{http.MethodPost, "/api/undo", map[string]any{}}, {http.MethodPost, "/api/demo", nil},
		{http.MethodGet, "/api/nothing", nil},
		{http.MethodPost, "/api/operations", map[string]any{}}, {http.MethodDelete, "/api/shows/quay-12?version=1", nil},
		{http.MethodPut, "/api/network", map[string]any{"on": true}}, {http.MethodGet, "/api/session/pair", nil},
	} {
		for _, c := range []func(*http.Request){
			from(), from(&http.Cookie{Name: "envex", Value: "guess"}), from(&http.Cookie{Name: "envex"}),
		} {
			refused(t, s.send(r.method, r.path, r.body, c), http.StatusUnauthorized)
		}
	}
	assert.Equal(t, http.StatusOK, s.send(http.MethodGet, "/", nil, from()).Code, "the page itself is for all")
	var session api.Session
	w := s.send(http.MethodGet, "/api/session", nil, from())
	require.NoError(t, json.Unmarshal(w.Body.Bytes(), &session))
	assert.Equal(t, api.Session{Network: true}, session)
	s.get("/api/session", &session)
	assert.Equal(t, api.Session{Role: access.Owner}, session, "this machine is the owner's")
	refused(
		t, s.send(http.MethodGet, "/api/session", nil, from(), func(r *http.Request) { r.Host = "evil.example" }),
		http.StatusMisdirectedRequest,
	)
}

func TestADeviceThatIsPairedIsLetIn(t *testing.T) {
	s := start(t)
	s.loadDemo()
	phone := s.pair("owner")
	assert.Equal(
		t, [4]any{"envex", true, http.SameSiteStrictMode, "/"},
		[4]any{phone.Name, phone.HttpOnly, phone.SameSite, phone.Path},
	)
	assert.Equal(t, http.StatusOK, s.send(http.MethodGet, "/api/plan", nil, from(phone)).Code)
	assert.Equal(t, http.StatusOK, s.send(http.MethodDelete, "/api/shows/quay-12?version=1", nil, from(phone)).Code)
	refused(
		t,
		s.send(
			http.MethodDelete, "/api/shows/loft-7?version=1", nil, from(phone),
			func(r *http.Request) { r.Header.Set("Origin", "http://evil.example") },
		),
		http.StatusForbidden,
	)

	var d api.Devices
	s.get("/api/devices", &d)
	require.Len(t, d.Devices, 1)
	assert.Equal(t, "Phone", d.Devices[0].Name)
	assert.True(t, d.Network.On)
	require.Equal(t, http.StatusOK, s.send(http.MethodDelete, "/api/devices/"+d.Devices[0].ID, nil).Code)
	refused(t, s.send(http.MethodGet, "/api/plan", nil, from(phone)), http.StatusUnauthorized)
	refused(t, s.send(http.MethodDelete, "/api/devices/"+d.Devices[0].ID, nil), http.StatusNotFound)

	phone = s.pair("owner")
	w := s.send(http.MethodDelete, "/api/session", nil, from(phone))
	require.Equal(t, http.StatusOK, w.Code)
	assert.Negative(t, cookie(t, w).MaxAge, "it may leave by itself")
	refused(t, s.send(http.MethodGet, "/api/plan", nil, from(phone)), http.StatusUnauthorized)
	require.Equal(t, http.StatusOK, s.send(http.MethodPut, "/api/network", map[string]any{"on": false}).Code)
	refused(t, s.send(http.MethodPost, "/api/pairings", map[string]any{"role": "stand"}), http.StatusConflict)
}

func TestADeviceIsLetInByThePassphrase(t *testing.T) {
	s := start(t)
	p := refused(
		t, s.send(http.MethodPut, "/api/passphrase", map[string]any{"passphrase": "short"}), http.StatusUnprocessableEntity,
	)
	assert.Equal(t, "body.passphrase", p.Errors[0].Location)
	enter := func(passphrase string) *httptest.ResponseRecorder {
		return s.send(http.MethodPost, "/api/session", map[string]any{"passphrase": passphrase, "name": "Laptop"}, from())
	}
	refused(t, enter("nine kelps in a row"), http.StatusConflict)
	require.Equal(
		t, http.StatusOK, s.send(http.MethodPut, "/api/passphrase", map[string]any{"passphrase": "nine kelps in a row"}).Code,
	)
	laptop := cookie(t, enter("nine kelps in a row"))
	assert.Equal(t, http.StatusOK, s.send(http.MethodPost, "/api/demo", nil, from(laptop)).Code)
	for range 3 {
		refused(t, enter("not the passphrase"), http.StatusUnauthorized)
	}
	w := enter("nine kelps in a row")
	refused(t, w, http.StatusTooManyRequests)
	assert.NotEmpty(t, w.Header().Get("Retry-After"))
	refused(
		t, s.send(http.MethodPost, "/api/session", map[string]any{"passphrase": "nine kelps in a row"}), http.StatusConflict,
	)

	secure := s.send(http.MethodPost, "/api/session", map[string]any{"passphrase": "nine kelps in a row"}, from(),
		func(r *http.Request) {
			tls := httptest.NewRequest(http.MethodGet, "https://quay.local", nil)
			r.TLS, r.RemoteAddr = tls.TLS, "192.168.1.31:1"
		})
	c := cookie(t, secure)
	assert.Equal(t, "__Host-envex", c.Name)
	assert.True(t, c.Secure)
}

func TestAStandReadsAndWritesNotesAndFaultsOfShows(t *testing.T) {
	s := start(t)
	s.loadDemo()
	stand := s.pair("stand")
	for _, path := range []string{
		"/api/plan", "/api/export", "/api/reach?rig=long&set_list=quay-set", "/api/history", "/api/session",
	} {
		assert.Equal(t, http.StatusOK, s.send(http.MethodGet, path, nil, from(stand)).Code, path)
	}
	for _, path := range []string{"/api/backup", "/api/copies", "/api/copies/x/file", "/api/devices", "/api/condition"} {
		refused(t, s.send(http.MethodGet, path, nil, from(stand)), http.StatusForbidden)
	}
	edit := func(kind, id string, ops ...map[string]any) *httptest.ResponseRecorder {
		return s.send(
			http.MethodPost, "/api/operations",
			map[string]any{"label": "Edit", "edits": []any{map[string]any{"kind": kind, "id": id, "ops": ops}}}, from(stand),
		)
	}
	set := func(field string, was, to any) map[string]any {
		op := map[string]any{"do": "set", "path": []any{map[string]any{"key": field}}, "to": to}
		if was != nil {
			op["was"] = was
		}
		return op
	}
	show := func() plan.Show {
		var all api.WholePlan
		s.get("/api/plan", &all)
		for _, x := range all.Shows {
			if x.Value.ID == "quay-20" {
				return x.Value
			}
		}
		require.Fail(t, "no such show")
		return plan.Show{}
	}
	before := show()
	was := any(before.Notes)
	if before.Notes == "" {
		was = nil
	}
	w := edit("show", "quay-20", set("notes", was, "Load in by the slip"))
	require.Equal(t, http.StatusOK, w.Code, w.Body.String())
	w = edit(
		"show", "quay-20",
		map[string]any{
			"do": "insert", "path": []any{map[string]any{"key": "faults"}},
			"value": map[string]any{"text": "The tuner went dark"},
		},
	)
	require.Equal(t, http.StatusOK, w.Code, w.Body.String())
	assert.Equal(t, "The tuner went dark", show().Faults[len(show().Faults)-1].Text)

	kept := show()
	refused(t, edit("show", "quay-20", set("name", before.Name, "Mine")), http.StatusForbidden)
	refused(
		t, edit("show", "quay-20", set("notes", "Load in by the slip", "x"), set("name", before.Name, "Mine")),
		http.StatusForbidden,
	)
	refused(t, edit("rig", "long", set("notes", "Everything, into the Pier combo.", "x")), http.StatusForbidden)
	refused(
		t,
		s.send(
			http.MethodPost, "/api/operations",
			map[string]any{
				"label": "x", "edits": []any{map[string]any{"kind": "show", "id": "quay-20", "remove": true, "version": 9}},
			},
			from(stand),
		),
		http.StatusForbidden,
	)
	for _, r := range []struct {
		method, path string
		body         any
	}{
		{http.MethodPost, "/api/undo", map[string]any{}}, {http.MethodPut, "/api/sounds/home1", versioned(0, home)},
		{http.MethodPost, "/api/demo", nil},
		{http.MethodDelete, "/api/shows/quay-20?version=9", nil},
		{http.MethodPut, "/api/network", map[string]any{"on": false}},
		{http.MethodPost, "/api/pairings", map[string]any{"role": "owner"}},
		{http.MethodPut, "/api/passphrase", map[string]any{"passphrase": "nine kelps in a row"}},
		{http.MethodPost, "/api/copies", nil}, {http.MethodPost, "/api/rehearsals", map[string]any{}},
		{http.MethodPost, "/api/import", map[string]any{}},
	} {
		p := refused(t, s.send(r.method, r.path, r.body, from(stand)), http.StatusForbidden)
		assert.Contains(t, p.Detail, "paired as a stand", r.path)
	}
	assert.Equal(t, kept, show())
}

func TestAStreamEndsWhenItsDeviceIsForgotten(t *testing.T) {
	s := start(t)
	stand := s.pair("stand")
	live := httptest.NewUnstartedServer(s)
	live.Config.BaseContext = nil
	live.Config.Handler = http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		r = r.WithContext(api.OverNetwork(r.Context()))
		s.ServeHTTP(w, r)
	})
	live.Start()
	defer live.Close()
	r, err := http.NewRequestWithContext(t.Context(), http.MethodGet, live.URL+"/api/events", nil)
	require.NoError(t, err)
	r.AddCookie(stand)
	answer, err := http.DefaultClient.Do(r)
	require.NoError(t, err)
	defer answer.Body.Close()
	lines := bufio.NewReader(answer.Body)
	first, err := lines.ReadString('\n')
	require.NoError(t, err)
	assert.True(t, strings.HasPrefix(first, "retry"))
	var d api.Devices
	s.get("/api/devices", &d)
	require.Equal(t, http.StatusOK, s.send(http.MethodDelete, "/api/devices/"+d.Devices[0].ID, nil).Code)
	ended := make(chan struct{})
	go func() {
		defer close(ended)
		for {
			if _, err := lines.ReadString('\n'); err != nil {
				return
			}
		}
	}()
	select {
	case <-ended:
	case <-time.After(10 * time.Second):
		require.Fail(t, "the stream goes on")
	}
}

func TestANetworkThatCannotBeOpenedSaysWhy(t *testing.T) {
	s := start(t)
	s.quay.fails = reason.Errorf("cannot listen on :8421")
	p := refused(t, s.send(http.MethodPut, "/api/network", map[string]any{"on": true}), http.StatusConflict)
	assert.Equal(t, "Cannot listen on :8421.", p.Detail)
	alone := server{
		t:       t,
		Handler: api.New(api.Options{Context: t.Context(), Store: s.store, NewID: func() plan.ID { return "x" }, Log: s.log}),
	}
	refused(t, alone.send(http.MethodPut, "/api/network", map[string]any{"on": true}), http.StatusConflict)
	refused(
		t, alone.send(http.MethodPut, "/api/passphrase", map[string]any{"passphrase": "nine kelps in a row"}),
		http.StatusConflict,
	)
	refused(t, alone.send(http.MethodPost, "/api/pairings", map[string]any{"role": "stand"}), http.StatusConflict)
	refused(t, alone.send(http.MethodGet, "/api/plan", nil, from()), http.StatusUnauthorized)
}
