package api_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/access"
	"envex/api"
	"envex/core/electric"
	"envex/core/path"
	"envex/core/plan"
	"envex/core/play"
	"envex/core/reach"
	"envex/core/signal"
	"envex/core/tempo"
	"envex/demo"
	"envex/store"
)

type server struct {
	t testing.TB
	http.Handler
	quay  *quay
	store *store.Store
	log   *slog.Logger
}

// metered is what the tests have had metered: each chain is metered once.
var metered = signal.NewKept()

func start(t testing.TB) server {
	t.Helper()
	st, err := store.Open(t.Context(), filepath.Join(t.TempDir(), "plan.db"), time.Now)
	require.NoError(t, err)
	t.Cleanup(func() { _ = st.Close() })
	devices, err := access.Open(filepath.Join(t.TempDir(), "devices"), time.Now)
	require.NoError(t, err)
	var mu sync.Mutex
	n := 0
	network, log := &quay{}, slog.New(slog.NewTextHandler(io.Discard, nil))
	return server{t: t, quay: network, store: st, log: log, Handler: api.New(api.Options{
		Context: t.Context(), Store: st, Demo: demo.File, Log: log, Access: devices, Network: network, Scratch: t.TempDir(),
		Web: built, Kept: metered,
		NewID: func() plan.ID {
			mu.Lock()
			defer mu.Unlock()
			n++
			return plan.ID(fmt.Sprint("new", n))
		},
	})}
}

func (s server) send(method, path string, body any, change ...func(*http.Request)) *httptest.ResponseRecorder {
	s.t.Helper()
	var data []byte
	switch b := body.(type) {
	case nil:
	case []byte:
		data = b
	default:
		var err error
		data, err = json.Marshal(b)
		require.NoError(s.t, err)
	}
	r := httptest.NewRequest(method, "http://127.0.0.1:8420"+path, bytes.NewReader(data))
	if body != nil {
		r.Header.Set("Content-Type", "application/json")
	}
	for _, c := range change {
		c(r)
	}
	w := httptest.NewRecorder()
	s.ServeHTTP(w, r)
	return w
}

func (s server) get(path string, into any) {
	s.t.Helper()
	w := s.send("GET", path, nil)
	require.Equal(s.t, 200, w.Code, w.Body.String())
	require.NoError(s.t, json.Unmarshal(w.Body.Bytes(), into))
}

func (s server) loadDemo() {
	s.t.Helper()
	w := s.send("POST", "/api/demo", nil)
	require.Equal(s.t, 200, w.Code, w.Body.String())
}

type problem struct {
	Status  int    `json:"status"`
	Detail  string `json:"detail"`
	Read    int    `json:"read_version"`
	Current int    `json:"current_version"`
	Errors  []struct {
		Location string `json:"location"`
		Message  string `json:"message"`
	} `json:"errors"`
}

func refused(t testing.TB, w *httptest.ResponseRecorder, status int) problem {
	t.Helper()
	require.Equal(t, status, w.Code, w.Body.String())
	assert.Equal(t, "application/problem+json", w.Header().Get("Content-Type"))
	var p problem
	require.NoError(t, json.Unmarshal(w.Body.Bytes(), &p))
	assert.Equal(t, status, p.Status)
	return p
}

var home = map[string]any{
	"id": "home1", "name": "Home", "short": "H1", "role": "home", "tape": "bone", "targets": map[string]any{},
}

func versioned(version int, value any) map[string]any {
	return map[string]any{"version": version, "value": value}
}

func TestTheDocumentsAreFresh(t *testing.T) {
	for path, make := range map[string]func() ([]byte, error){
		"../docs/openapi.json": api.Document, "../docs/envex.schema.json": api.FileSchema,
	} {
		want, err := make()
		require.NoError(t, err)
		got, err := os.ReadFile(path)
		require.NoError(t, err)
		assert.True(t, bytes.Equal(want, got), "%s is stale: run make generate", path)
	}
}

// The page repeats a parameter that is a list. One that is read otherwise would be cut to its first element in silence.
func TestListsInQuestionsAreRepeated(t *testing.T) {
	data, err := api.Document()
	require.NoError(t, err)
	var document struct {
		Paths map[string]map[string]struct {
			Parameters []struct {
				Name    string
				In      string
				Explode *bool
				Schema  struct{ Type any }
			}
		}
	}
	require.NoError(t, json.Unmarshal(data, &document))
	lists := 0
	for path, operations := range document.Paths {
		for method, operation := range operations {
			for _, p := range operation.Parameters {
				if p.In != "query" || !strings.Contains(fmt.Sprint(p.Schema.Type), "array") {
					continue
				}
				lists++
				assert.True(t, p.Explode != nil && *p.Explode, "%s %s: %s", method, path, p.Name)
			}
		}
	}
	assert.Greater(t, lists, 5)
}

func TestReachIsTheSameAsTheCoreComputes(t *testing.T) {
	s := start(t)
	s.loadDemo()
	var got, want reach.Report
	s.get("/api/reach?rig=long&set_list=quay-set", &got)
	p := demo.Plan()
	report, err := reach.Compute(p, "long", "quay-set")
	require.NoError(t, err)
	data, err := json.Marshal(report)
	require.NoError(t, err)
	require.NoError(t, json.Unmarshal(data, &want))
	assert.Equal(t, want, got)
	e := refused(t, s.send("GET", "/api/reach?rig=nope&set_list=quay-set", nil), 404)
	assert.Equal(t, "query.rig", e.Errors[0].Location)
	any := work[reach.AnyOrder](s, "/api/reach/any-order?rig=long&set_list=quay-set")
	assert.Equal(t, 14*13, any.Total)
}

func TestOrder(t *testing.T) {
	s := start(t)
	s.loadDemo()
	var r path.Report
	s.get("/api/order?rig=long", &r)
	assert.NotEmpty(t, r.Findings)
	assert.Equal(t, r.Best.Order, r.Best.Moves[len(r.Best.Moves)-1].Order)
	assert.NotContains(t, s.send("GET", "/api/order?rig=carry", nil).Body.String(), "null")
	e := refused(t, s.send("GET", "/api/order?rig=nope", nil), 404)
	assert.Equal(t, "query.rig", e.Errors[0].Location)

	var c path.Cables
	s.get("/api/cables?rig=long", &c)
	assert.Equal(t, "Driftwood", c.Runs[0].From.Name)
	refused(t, s.send("GET", "/api/cables?rig=nope", nil), 404)
}

func TestElectric(t *testing.T) {
	s := start(t)
	s.loadDemo()
	var r electric.Report
	s.get("/api/electric?rig=bare&set_list=quay-set", &r)
	require.NotNil(t, r.Jump)
	assert.Equal(t, plan.Key("nudge/fx"), r.Buffer.Before)
	s.get("/api/electric?rig=bare&set_list=quay-set&buffer_before=nudge/fx&volume=10", &r)
	assert.Equal(t, plan.Key("buffer"), *r.Sounds[0].FirstBuffer)
	assert.InDelta(t, 0, r.Sounds[0].LevelDB, 1)
	for at, status := range map[string]int{
		"rig=nope": 404, "rig=bare&set_list=nope": 404, "rig=long&destination=nope": 404,
		"rig=bare&buffer_before=nope/fx": 422, "rig=bare&volume=11": 422,
	} {
		refused(t, s.send("GET", "/api/electric?"+at, nil), status)
	}
}

func TestSectionsOfOneNameAreMarkedAtOnce(t *testing.T) {
	s := start(t)
	s.loadDemo()
	var before, after []plan.SectionGroup
	s.get("/api/sections?set_list=quay-set", &before)
	require.NotEmpty(t, before)
	require.Equal(t, "Verse", before[0].Label)
	require.NotEqual(t, before[0].Sections, before[0].Singing)
	mark := map[string]any{"set_list": "quay-set", "label": "verse 2", "singing": true, "bars": 12}
	require.Equal(t, 200, s.send("POST", "/api/sections", mark).Code)
	s.get("/api/sections?set_list=quay-set", &after)
	assert.Equal(t, after[0].Sections, after[0].Singing)
	assert.Equal(t, 12.0, *after[0].Bars)
	require.Equal(t, 200, s.send("POST", "/api/undo", map[string]any{}).Code, "undone as one")
	s.get("/api/sections?set_list=quay-set", &after)
	assert.Equal(t, before, after)
	refused(t, s.send("GET", "/api/sections?set_list=nope", nil), 404)
	refused(
		t,
		s.send("POST", "/api/sections", map[string]any{"set_list": "nope", "label": "verse", "singing": true}),
		404,
	)
	refused(t, s.send("POST", "/api/sections", map[string]any{"label": "verse", "bars": 2000}), 422)
	refused(t, s.send("POST", "/api/sections", map[string]any{"label": "verse", "bars": 0.1}), 422)
}

func TestTempo(t *testing.T) {
	s := start(t)
	s.loadDemo()
	var n tempo.Night
	s.get("/api/tempo?set_list=quay-set&rig=long", &n)
	assert.Len(t, n.Songs, 14)
	assert.Len(t, n.Presets, 2)
	var notes api.Notes
	s.get("/api/tempo/notes?bpm=126&ms=350", &notes)
	assert.Equal(t, "1/8.", notes.Nearest.Note)
	s.get("/api/tempo/notes?bpm=60&beat=1/4.", &notes)
	assert.InDelta(t, 4000*2/3.0, notes.Table[0].MS, 1e-6)
	var order tempo.SetOrder
	s.get("/api/tempo/set-order?rig=long&set_list=quay-set&gear=echo", &order)
	assert.NotEmpty(t, order.Moves)
	refused(t, s.send("GET", "/api/tempo/set-order?rig=long&set_list=quay-set&gear=amber", nil), 422)
	refused(t, s.send("GET", "/api/tempo/set-order?rig=long&set_list=nope&gear=echo", nil), 404)
	refused(t, s.send("GET", "/api/tempo/store?rig=long&set_list=quay-set", nil), 422)
	refused(t, s.send("GET", "/api/tempo/store?rig=nope&set_list=quay-set", nil), 404)
	few := map[string]any{"rig": "long", "set_list": "quay-set"}
	assert.Contains(t, refused(t, s.send("POST", "/api/tempo/store", few), 422).Detail, "Echo has 3 presets")
	refused(t, s.send("POST", "/api/tempo/store", map[string]any{"rig": "nope", "set_list": "quay-set"}), 404)
	var whole api.WholePlan
	s.get("/api/plan", &whole)
	for _, g := range whole.Gear {
		if g.Value.ID == "echo" {
			g.Value.Blocks[0].Controls[0].Options = []string{"A", "B", "C", "D", "E", "F", "G", "H"}
			require.Equal(t, plan.Preset, g.Value.Blocks[0].Controls[0].Kind)
			require.Equal(t, 200, s.send("PUT", "/api/gear/echo", g).Code)
		}
	}
	w := s.send("POST", "/api/tempo/store", few)
	require.Equal(t, 200, w.Code, w.Body.String())
	assert.Contains(t, w.Body.String(), "Echo preset B is 264 ms")
	require.Equal(t, 200, s.send("POST", "/api/undo", map[string]any{}).Code, "songs and rig are taken back together")
	for at, status := range map[string]int{
		"?set_list=nope": 404, "?set_list=quay-set&rig=nope": 404, "/notes?bpm=1": 422, "/notes?bpm=100&beat=x": 422,
	} {
		refused(t, s.send("GET", "/api/tempo"+at, nil), status)
	}
}

func TestASongIsRehearsedJudgedAndKept(t *testing.T) {
	s := start(t)
	s.loadDemo()
	var script play.Script
	s.get("/api/play/script?rig=bare&set_list=quay-set", &script)
	song := script.Songs[0]
	presses := []play.Press{}
	for _, x := range song.Sections {
		for _, p := range x.Presses {
			presses = append(presses, play.Press{AtS: p.AtS, Switch: p.Switch})
		}
	}
	played := api.Played{Rig: "bare", SetList: "quay-set", Entry: song.Entry, UntilS: song.LengthS, Presses: presses}
	w := s.send("POST", "/api/play/judge", played)
	require.Equal(t, 200, w.Code, w.Body.String())
	var r play.Result
	require.NoError(t, json.Unmarshal(w.Body.Bytes(), &r))
	assert.Equal(t, 5, r.Made)

	once := func(r *http.Request) { r.Header.Set("Idempotency-Key", "one") }
	require.Equal(t, 200, s.send("POST", "/api/rehearsals", played, once).Code)
	require.Equal(t, 200, s.send("POST", "/api/rehearsals", played, once).Code)
	played.Presses = nil
	w = s.send("POST", "/api/rehearsals", played)
	require.Equal(t, 422, w.Code, "presses are a list")
	played.Presses = []play.Press{}
	require.Equal(t, 200, s.send("POST", "/api/rehearsals", played).Code)
	var kept api.Rehearsals
	s.get("/api/rehearsals?rig=bare&set_list=quay-set", &kept)
	require.Len(t, kept.Kept, 2)
	assert.Equal(t, []int{5, 2}, []int{kept.Kept[0].Made, kept.Kept[1].Made})
	assert.Len(t, kept.Drill, 3)
	played.UntilS = 0
	refused(t, s.send("POST", "/api/rehearsals", played), 422)
	played.Entry = "nope"
	refused(t, s.send("POST", "/api/play/judge", played), 422)
	played.Rig = "nope"
	refused(t, s.send("POST", "/api/play/judge", played), 404)
	refused(t, s.send("GET", "/api/play/script?rig=nope&set_list=quay-set", nil), 404)

	drill := map[string]any{"rig": "long", "set_list": "quay-set", "steps": []any{}}
	refused(t, s.send("POST", "/api/play/fit", drill), 422)
	s.get("/api/play/script?rig=long&set_list=quay-set", &script)
	steps := []play.Step{}
	for i, to := range script.Switches[1:] {
		steps = append(steps, play.Step{From: script.Switches[0].Key, To: to.Key, Seconds: 0.3 + 0.05*float64(i)})
	}
	drill["steps"] = append(steps, steps...)
	w = s.send("POST", "/api/play/fit", drill)
	require.Equal(t, 200, w.Code, w.Body.String())
	assert.Contains(t, w.Body.String(), `"a_s":`)
	drill["rig"] = "nope"
	refused(t, s.send("POST", "/api/play/fit", drill), 404)
}

func TestEverythingIsComputedForADestination(t *testing.T) {
	s := start(t)
	s.loadDemo()
	var r path.Report
	s.get("/api/order?rig=long&destination=long-two", &r)
	assert.Contains(t, r.Differs, "with Jetty combo preamp")
	var c path.Cables
	s.get("/api/cables?rig=long&destination=long-di", &c)
	assert.Equal(t, "Gangway", c.Runs[len(c.Runs)-1].To.Name)
	var own, hired reach.Report
	s.get("/api/reach?rig=long&set_list=quay-set", &own)
	s.get("/api/reach?rig=long&set_list=quay-set&destination=long-hired", &hired)
	assert.NotEqual(t, own.Reach, hired.Reach)
	for _, at := range []string{"/api/order?rig=long", "/api/cables?rig=long", "/api/reach?rig=long&set_list=quay-set"} {
		e := refused(t, s.send("GET", at+"&destination=nowhere", nil), 404)
		assert.Equal(t, "query.destination", e.Errors[0].Location, at)
	}
}

func TestPagesAndFiles(t *testing.T) {
	s := start(t)
	assert.Equal(t, "<p>page", s.send("GET", "/step", nil).Body.String(), "the front end routes its own paths")
	assert.Equal(t, "0123456789", s.send("GET", "/assets/a.js", nil).Body.String())
	refused(t, s.send("GET", "/api/nowhere", nil), 404)
}

func TestABoxOfThePileIsPlaced(t *testing.T) {
	s := start(t)
	s.loadDemo()
	var found path.Placing
	s.get("/api/place?rig=carry&gear=rust", &found)
	require.NotEmpty(t, found.Places)
	assert.Equal(t, "Rust", found.Name)
	assert.Contains(t, refused(t, s.send("GET", "/api/place?rig=carry&gear=amber", nil), 422).Detail, "already")
	refused(t, s.send("GET", "/api/place?rig=nope&gear=rust", nil), 404)
}
