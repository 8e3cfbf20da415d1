package api_test

import (
	"bufio"
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/api"
	"envex/core/night"
	"envex/core/plan"
)

// happens sends events as a page whose clock shows now sends them.
func happens(t *testing.T, s server, now time.Time, events ...map[string]any) []api.RefusedEvent {
	t.Helper()
	var out struct {
		Refused []api.RefusedEvent `json:"refused"`
	}
	w := s.send(http.MethodPost, "/api/night/events", map[string]any{
		"show": "quay-12", "now_ms": now.UnixMilli(), "events": events,
	})
	require.Equal(t, http.StatusOK, w.Code, w.Body.String())
	require.NoError(t, json.Unmarshal(w.Body.Bytes(), &out))
	return out.Refused
}

func tonight(s server) api.Night {
	var n api.Night
	s.get("/api/night?show=quay-12", &n)
	return n
}

func atTheQuay(t *testing.T) server {
	s := start(t)
	s.loadDemo()
	return s
}

func TestANightIsFollowed(t *testing.T) {
	s := atTheQuay(t)
	before := tonight(s)
	require.NotEmpty(t, before.Evening.Steps)
	require.NotNil(t, before.Evening.Calls)
	at := before.Evening.Steps[6]
	refused := happens(
		t,
		s,
		time.Now(),
		map[string]any{
			"id": "a1", "page": "phone", "kind": "at", "at_ms": time.Now().UnixMilli(), "entry": at.Entry, "section": at.Section,
		},
		map[string]any{
			"id": "a2", "page": "phone", "kind": "called", "at_ms": time.Now().UnixMilli(), "entry": at.Entry,
			"section": at.Section, "song": before.Evening.Order[9].Song,
		},
		map[string]any{
			"id": "a3", "page": "phone", "kind": "broke", "at_ms": time.Now().UnixMilli(), "entry": at.Entry,
			"section": at.Section, "gear": "rotor", "way": map[string]any{"round": "out"},
		},
		map[string]any{
			"id":    "a4",
			"page":  "phone",
			"kind":  "note",
			"at_ms": time.Now().UnixMilli(),
			"text":  "Hot up here",
		},
		map[string]any{"id": "a5", "page": "phone", "kind": "called", "at_ms": time.Now().UnixMilli(), "song": "nope"},
	)
	assert.Equal(t, []api.RefusedEvent{{ID: "a5", Reason: `there is no song "nope" to call`}}, refused)
	n := tonight(s)
	require.Len(t, n.Events, 4)
	require.Len(t, n.Evening.Troubles, 1)
	assert.Equal(t, before.Evening.Order[9].Song, n.Evening.Order[2].Song)
	p, _ := s.store.Plan()
	show, _ := p.FindShow("quay-12")
	assert.Contains(t, show.Faults[len(show.Faults)-1].Text, "Rotor failed in "+at.Title)
	assert.Contains(t, show.After, "Hot up here")

	faults := len(show.Faults)
	happens(t, s, time.Now(), map[string]any{
		"id": "a3", "page": "phone", "kind": "broke", "at_ms": 0, "gear": "rotor", "way": map[string]any{"round": "out"},
	})
	p, _ = s.store.Plan()
	show, _ = p.FindShow("quay-12")
	assert.Len(t, show.Faults, faults, "what is sent again is written once")
}

// A page whose clock goes wrong, by hours, tells how long ago a thing was all the same.
func TestAClockThatGoesWrongTellsTheRightOrder(t *testing.T) {
	s := atTheQuay(t)
	steps := tonight(s).Evening.Steps
	place := func(id string, clock time.Time, ago time.Duration, step night.Step) map[string]any {
		return map[string]any{
			"id": id, "page": id, "kind": "at", "at_ms": clock.Add(-ago).UnixMilli(), "entry": step.Entry, "section": step.Section,
		}
	}
	late, early := time.Now().Add(-3*time.Hour), time.Now().Add(5*time.Hour)
	happens(t, s, early, place("second", early, 10*time.Second, steps[5]))
	happens(t, s, late, place("third", late, 2*time.Second, steps[6]))
	happens(t, s, time.Now(), place("first", time.Now(), time.Minute, steps[4]))
	happens(t, s, time.Now(), place("fourth", time.Now().Add(time.Hour), 0, steps[7]))
	n := tonight(s)
	var order []plan.ID
	for _, e := range n.Events {
		order = append(order, e.ID)
		assert.LessOrEqual(t, e.AtMS, n.NowMS, "nothing has happened that is still to come")
		assert.InDelta(t, n.NowMS, e.AtMS, 70_000)
	}
	assert.Equal(t, []plan.ID{"first", "second", "third", "fourth"}, order)
}

func TestWhatCanBreakIsListedWithTheWaysRoundIt(t *testing.T) {
	s := atTheQuay(t)
	at := tonight(s).Evening.Steps[6]
	var out struct {
		Breaks []night.Break `json:"breaks"`
	}
	s.get(fmt.Sprintf("/api/night/breaks?show=quay-12&entry=%s&section=%s", at.Entry, at.Section), &out)
	require.NotEmpty(t, out.Breaks)
	assert.NotEmpty(t, out.Breaks[0].Ways)
	refused(t, s.send(http.MethodGet, "/api/night/breaks?show=nope", nil), 404)
	refused(t, s.send(http.MethodGet, "/api/night?show=quay-12&rig=nope", nil), 404)
	refused(
		t,
		s.send(http.MethodPost, "/api/night/events", map[string]any{"show": "nope", "now_ms": 1, "events": []any{}}),
		404,
	)
}

// heardBy reads a stream of events from after a number until it has heard as many.
func heardBy(t *testing.T, url, after string, count int, meanwhile func()) (ids, data []string) {
	t.Helper()
	ctx, cancel := context.WithTimeout(t.Context(), 20*time.Second)
	defer cancel()
	r, err := http.NewRequestWithContext(ctx, http.MethodGet, url+"/api/night/events?show=quay-12", nil)
	require.NoError(t, err)
	if after != "" {
		r.Header.Set("Last-Event-ID", after)
	}
	w, err := http.DefaultClient.Do(r)
	require.NoError(t, err)
	defer w.Body.Close()
	require.Equal(t, "text/event-stream", w.Header.Get("Content-Type"))
	meanwhile()
	lines := bufio.NewScanner(w.Body)
	id := ""
	for len(ids) < count && lines.Scan() {
		if x, ok := strings.CutPrefix(lines.Text(), "id: "); ok {
			id = x
		}
		if x, ok := strings.CutPrefix(lines.Text(), "data: "); ok && id != "" && strings.HasPrefix(x, "{") {
			ids, data = append(ids, id), append(data, x)
			id = ""
		}
	}
	return ids, data
}

// A page that was away hears what it missed, and nothing twice.
func TestAPageThatWasAwayHearsWhatItMissed(t *testing.T) {
	s := atTheQuay(t)
	web := httptest.NewServer(s)
	defer web.Close()
	note := func(id string) {
		happens(
			t,
			s,
			time.Now(),
			map[string]any{"id": id, "page": "p", "kind": "note", "at_ms": time.Now().UnixMilli(), "text": id},
		)
	}
	note("one")
	ids, data := heardBy(t, web.URL, "", 2, func() { note("two") })
	require.Len(t, data, 2)
	assert.Contains(t, data[0], `"one"`)
	assert.Contains(t, data[1], `"two"`)
	note("three")
	_, data = heardBy(t, web.URL, ids[1], 1, func() {})
	require.Len(t, data, 1)
	assert.Contains(t, data[0], `"three"`)
	refused(t, s.send(http.MethodGet, "/api/night/events?show=nope", nil), 404)
	refused(t, s.send(http.MethodGet, "/api/night/events?show=quay-12&after=x", nil), 422)
}

func TestSimulatedDevicesAnswer(t *testing.T) {
	s := atTheQuay(t)
	var cues struct {
		Cues []night.Cue `json:"cues"`
	}
	s.get("/api/night/cues?show=quay-12", &cues)
	require.NotEmpty(t, cues.Cues)
	require.NotEmpty(t, cues.Cues[0].Sends)
	type said struct {
		Answers []api.SimulatedAnswer `json:"answers"`
		Shown   []struct {
			Variable plan.Key `json:"variable"`
			Value    string   `json:"value"`
		} `json:"shown"`
	}
	send := func(bytes string, wrong int) said {
		var out said
		w := s.send(
			http.MethodPost,
			"/api/night/simulated",
			map[string]any{"show": "quay-12", "bytes": bytes, "wrong": wrong},
		)
		require.Equal(t, http.StatusOK, w.Code, w.Body.String())
		require.NoError(t, json.Unmarshal(w.Body.Bytes(), &out))
		return out
	}
	var last said
	sent := map[plan.Key]string{}
	for _, c := range cues.Cues {
		for _, x := range c.Sends {
			if sent[x.Moves] == x.Bytes {
				continue
			}
			sent[x.Moves] = x.Bytes
			last = send(x.Bytes, 0)
			require.Len(t, last.Answers, 1)
			assert.Equal(t, x.Bytes, last.Answers[0].Answer, "a device says what it obeys")
		}
	}
	values := map[plan.Key]string{}
	for _, x := range last.Shown {
		values[x.Variable] = x.Value
	}
	for _, x := range cues.Cues[len(cues.Cues)-1].Sends {
		assert.Contains(t, x.Words, values[x.Moves], "after the night it stands where the plan has it")
	}
	x := cues.Cues[0].Sends[0]
	wrong := send(x.Bytes, x.Channel)
	assert.NotEqual(t, x.Bytes, wrong.Answers[0].Answer)
	assert.Empty(t, send("CF 01", 0).Answers[0].Answer, "nobody listens there")
	refused(t, s.send(http.MethodPost, "/api/night/simulated", map[string]any{"show": "quay-12", "bytes": "xyz"}), 422)
	refused(t, s.send(http.MethodPost, "/api/night/simulated", map[string]any{"show": "nope", "bytes": ""}), 404)
}
