package api_test

import (
	"encoding/json"
	"fmt"
	"net/http"
	"net/http/httptest"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/api"
	"envex/core/journal"
	"envex/core/paper"
	"envex/core/plan"
	"envex/store"
)

// withDemo is a server with the demo in it.
func withDemo(t *testing.T) server {
	s := start(t)
	require.Equal(t, http.StatusOK, s.send("POST", "/api/demo", nil).Code)
	return s
}

func read[T any](t testing.TB, w *httptest.ResponseRecorder) T {
	t.Helper()
	var v T
	require.Equal(t, http.StatusOK, w.Code, w.Body.String())
	require.NoError(t, json.Unmarshal(w.Body.Bytes(), &v))
	return v
}

func (s server) show(t *testing.T, id plan.ID) api.Versioned[plan.Show] {
	for _, x := range read[api.WholePlan](t, s.send("GET", "/api/plan", nil)).Shows {
		if x.Value.ID == id {
			return x
		}
	}
	require.Fail(t, "no such show")
	return api.Versioned[plan.Show]{}
}

func (s server) rig(t *testing.T, id plan.ID) api.Versioned[plan.Rig] {
	for _, x := range read[api.WholePlan](t, s.send("GET", "/api/plan", nil)).Rigs {
		if x.Value.ID == id {
			return x
		}
	}
	require.Fail(t, "no such rig")
	return api.Versioned[plan.Rig]{}
}

func TestEverySheetIsServedInEveryForm(t *testing.T) {
	renders(t)
	s := withDemo(t)
	list := read[struct{ Sheets []api.SheetInfo }](t, s.send("GET", "/api/sheets", nil)).Sheets
	require.Len(t, list, len(paper.AllKinds()))
	for _, x := range list {
		assert.NotEmpty(t, x.Title)
		sheet := read[paper.Sheet](t, s.send("GET", "/api/sheet?show=quay-12&kind="+string(x.Kind), nil))
		assert.Equal(t, x.Title, sheet.Title)
		for format, kind := range map[string]string{"html": "text/html", "csv": "text/csv", "md": "text/markdown"} {
			w := s.send("GET", fmt.Sprintf("/api/sheet/file?show=quay-12&kind=%s&format=%s", x.Kind, format), nil)
			require.Equal(t, http.StatusOK, w.Code)
			assert.True(t, strings.HasPrefix(w.Header().Get("Content-Type"), kind))
			assert.Contains(t, w.Header().Get("Content-Disposition"), fmt.Sprintf(`filename="quay-12-%s.%s"`, x.Kind, format))
			assert.NotEmpty(t, w.Body.Bytes())
		}
		w := s.send("GET", fmt.Sprintf("/api/sheet/file?show=quay-12&kind=%s&format=svg", x.Kind), nil)
		assert.Equal(t, x.Drawn, w.Code == http.StatusOK, "%s: %s", x.Kind, w.Body)
	}
}

func TestASheetRunsNothingAndIsFramedByOurOwnPagesAlone(t *testing.T) {
	s := withDemo(t)
	w := s.send("GET", "/api/sheet/file?show=quay-12&kind=all&format=html&paper=letter", nil)
	require.Equal(t, http.StatusOK, w.Code)
	assert.Equal(
		t, "default-src 'none'; style-src 'unsafe-inline'; font-src data:; frame-ancestors 'self'",
		w.Header().Get("Content-Security-Policy"),
	)
	assert.True(t, strings.HasPrefix(w.Header().Get("Content-Disposition"), "inline"))
	assert.Equal(t, len(paper.Kinds()), strings.Count(w.Body.String(), "<article"))
	assert.Contains(t, w.Body.String(), "size: letter")
	w = s.send("GET", "/api/page?show=quay-12&save=true", nil)
	require.Equal(t, http.StatusOK, w.Code)
	assert.Contains(t, w.Header().Get("Content-Security-Policy"), "script-src 'sha256-")
	assert.Equal(t, `attachment; filename="quay-12-gig.html"`, w.Header().Get("Content-Disposition"))
}

func TestSheetsThatAreNotThereAreProblems(t *testing.T) {
	s := withDemo(t)
	for path, want := range map[string]int{
		"/api/sheet?show=nowhere&kind=set":                           http.StatusNotFound,
		"/api/sheet?show=quay-12&kind=poem":                          http.StatusUnprocessableEntity,
		"/api/sheet/file?show=nowhere&kind=set&format=html":          http.StatusNotFound,
		"/api/sheet/file?show=quay-12&kind=all&format=csv":           http.StatusUnprocessableEntity,
		"/api/sheet/file?show=quay-12&kind=set&format=svg":           http.StatusUnprocessableEntity,
		"/api/sheet/file?show=quay-12&kind=set&format=html&paper=a3": http.StatusUnprocessableEntity,
		"/api/page?show=nowhere":                                     http.StatusNotFound,
	} {
		w := s.send("GET", path, nil)
		assert.Equal(t, want, w.Code, path)
		assert.Equal(t, "application/problem+json", w.Header().Get("Content-Type"), path)
	}
}

func TestAChangeOfTheNightIsKeptAsOneAndTakenBackAsOne(t *testing.T) {
	s := withDemo(t)
	show := s.show(t, "quay-12")
	value := plan.Number(410)
	show.Value.Fixes = []plan.Fix{
		{Text: "Slower echo", Key: "echo/fx/time", Value: &value, Preset: "B"}, {Text: "Left of the drums"},
	}
	require.Equal(t, http.StatusOK, s.send("PUT", "/api/shows/quay-12", show).Code)
	lines := read[struct{ Lines []journal.Line }](
		t, s.send("GET", "/api/journal?show=quay-12&kind=change&text=echo", nil),
	).Lines
	require.Len(t, lines, 1)
	assert.Equal(t, "Echo time to 410 ms in preset B of Echo", lines[0].Carries)

	named := func(text string) map[string]string { return map[string]string{"text": text} }
	w := s.send("POST", "/api/shows/quay-12/fixes/0/keep", named("Left of the drums"))
	assert.Equal(t, http.StatusConflict, w.Code, "another change stands there")
	require.Equal(t, http.StatusOK, s.send("POST", "/api/shows/quay-12/fixes/0/keep", named("Slower echo")).Code)
	assert.Equal(t, plan.Number(410), s.rig(t, "long").Value.Presets["echo"]["B"]["echo/fx/time"])
	assert.Equal(t, plan.FixKept, s.show(t, "quay-12").Value.Fixes[0].Keep)
	require.Equal(t, http.StatusOK, s.send("POST", "/api/undo", map[string]any{}).Code)
	assert.Equal(t, plan.Number(380), s.rig(t, "long").Value.Presets["echo"]["B"]["echo/fx/time"])
	assert.Empty(t, s.show(t, "quay-12").Value.Fixes[0].Keep)

	assert.Equal(
		t, http.StatusUnprocessableEntity, s.send("POST", "/api/shows/quay-12/fixes/1/keep", map[string]string{}).Code,
		"nothing to carry over",
	)
	assert.Equal(t, http.StatusUnprocessableEntity, s.send("POST", "/api/shows/quay-12/fixes/7/leave", named("")).Code)
	assert.Equal(t, http.StatusNotFound, s.send("POST", "/api/shows/nowhere/fixes/0/keep", map[string]string{}).Code)
	require.Equal(t, http.StatusOK, s.send("POST", "/api/shows/quay-12/fixes/1/leave", map[string]string{}).Code)
	assert.Equal(t, plan.FixLeft, s.show(t, "quay-12").Value.Fixes[1].Keep)
}

func TestAFreshBatteryIsWrittenDownAndItsHoursBeginAnew(t *testing.T) {
	s := withDemo(t)
	require.Equal(t, http.StatusOK, s.send("POST", "/api/shows/quay-12/batteries/silt", nil).Code)
	assert.Zero(t, *s.rig(t, "long").Value.Batteries[0].UsedH)
	lines := read[struct{ Lines []journal.Line }](t, s.send("GET", "/api/journal?gear=silt&kind=battery", nil)).Lines
	require.NotEmpty(t, lines)
	assert.Equal(t, plan.ID("quay-12"), lines[0].Show)
	w := s.send("POST", "/api/shows/quay-12/batteries/amber", nil)
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), "Amber does not run on a battery in Long board.")
}

func TestVersionsOfARigAreComparedInWordsAndBroughtBack(t *testing.T) {
	s := withDemo(t)
	rig := s.rig(t, "long")
	first := rig.Version
	rig.Value.Base["amber/fx/drive"] = plan.Number(6)
	require.Equal(t, http.StatusOK, s.send("PUT", "/api/rigs/long", rig).Code)
	words := func(query string) []string {
		return read[struct{ Words []string }](t, s.send("GET", "/api/revisions/long/compare?"+query, nil)).Words
	}
	assert.Equal(t, []string{"Amber drive 4 to 6"}, words(fmt.Sprintf("from=%d", first)))
	assert.Equal(t, []string{"Amber drive 6 to 4"}, words(fmt.Sprintf("from=%d&to=%d", first+1, first)))
	assert.Empty(t, words(fmt.Sprintf("from=%d&to=%d", first, first)))

	restore := func(version, read int) int {
		return s.send("POST", "/api/revisions/long/restore", map[string]int{"version": version, "read": read}).Code
	}
	assert.Equal(t, http.StatusConflict, restore(first, first), "it moved on")
	assert.Equal(t, http.StatusNotFound, restore(99, first+1))
	require.Equal(t, http.StatusOK, restore(first, first+1))
	assert.Equal(t, plan.Number(4), s.rig(t, "long").Value.Base["amber/fx/drive"])
	log := read[struct{ Revisions []store.Revision }](t, s.send("GET", "/api/revisions/long", nil)).Revisions
	assert.Equal(t, fmt.Sprintf("Bring back version %d of Long board", first), log[0].Label)
	assert.Len(t, log, first+2, "nothing is lost")
	require.Equal(t, http.StatusOK, s.send("POST", "/api/undo", map[string]any{}).Code)
	assert.Equal(t, plan.Number(6), s.rig(t, "long").Value.Base["amber/fx/drive"])
	assert.Equal(t, http.StatusNotFound, s.send("GET", "/api/revisions/long/compare?from=99", nil).Code)
}

func TestWhatWasRemovedIsBroughtBackUnlessSomethingIsInItsWay(t *testing.T) {
	s := withDemo(t)
	show := s.show(t, "deck-13")
	require.Equal(t, http.StatusOK, s.send("DELETE", fmt.Sprintf("/api/shows/deck-13?version=%d", show.Version), nil).Code)
	rig := s.rig(t, "carry")
	require.Equal(t, http.StatusOK, s.send("DELETE", fmt.Sprintf("/api/rigs/carry?version=%d", rig.Version), nil).Code)
	w := s.send("POST", "/api/revisions/deck-13/restore", map[string]int{"version": show.Version, "read": 0})
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), `there is no rig`)
	assert.Equal(
		t, http.StatusUnprocessableEntity,
		s.send("POST", "/api/revisions/carry/restore", map[string]int{"version": rig.Version + 1, "read": 0}).Code,
		"the version that removed it",
	)
	require.Equal(
		t, http.StatusOK,
		s.send("POST", "/api/revisions/carry/restore", map[string]int{"version": rig.Version, "read": 0}).Code,
	)
	require.Equal(
		t, http.StatusOK,
		s.send("POST", "/api/revisions/deck-13/restore", map[string]int{"version": show.Version, "read": 0}).Code,
	)
	assert.Equal(t, show.Value, s.show(t, "deck-13").Value)
}

func TestASongAsChordProIsUnderstoodBeforeItIsTaken(t *testing.T) {
	s := withDemo(t)
	bring := func(name, text string) *httptest.ResponseRecorder {
		return s.send(
			"POST", "/api/read?name="+name, []byte(text),
			func(r *http.Request) { r.Header.Set("Content-Type", "application/octet-stream") },
		)
	}
	u := read[api.Understood](
		t,
		bring(
			"windlass.cho",
			"{t: Windlass}\n{tempo: 96}\n{sov: Verse [Crunch]}\nHaul [D]away\n{eov}\n{c: Fog}\n{c: Bridge [Fog]}",
		),
	)
	assert.Equal(t, "Windlass", u.Draft.Songs[0].Title)
	assert.Equal(t, []string{"Fog is no sound here; Home stands in."}, u.Said)
	assert.Equal(t, []string{"Words and chords are left out."}, u.Draft.Left)
	file, err := plan.Decode([]byte(u.File))
	require.NoError(t, err)
	require.Len(t, file.Songs, 1)
	assert.Equal(t, plan.ID("crunch"), file.Songs[0].Sections[0].Sound)
	require.Equal(t, http.StatusOK, s.send("POST", "/api/import", []byte(u.File)).Code)
	for name, text := range map[string]string{"x.cho": "# nothing", "x.pdf": "%PDF", "x": "{t: X}"} {
		w := bring(name, text)
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, name)
	}
	assert.Contains(
		t, bring("x.cho", "{t: X}\n{tempo: never}").Body.String(),
		`Line 2 is left out: \"never\" is no tempo from 20 to 400.`,
	)
}

// Whoever sends the same twice, or two who send at once, make one change.
func TestKeepingTwiceIsKeepingOnceConcurrent(t *testing.T) {
	s := withDemo(t)
	version := s.show(t, "loft-7").Version
	send := func(key string) *httptest.ResponseRecorder {
		return s.send(
			"POST", "/api/shows/loft-7/fixes/1/keep", map[string]string{},
			func(r *http.Request) { r.Header.Set("Idempotency-Key", key) },
		)
	}
	const tabs = 6
	done := make([]api.Written, tabs)
	var group sync.WaitGroup
	for i := range tabs {
		group.Go(func() { done[i] = read[api.Written](t, send(fmt.Sprint("tab ", i))) })
	}
	group.Wait()
	won := -1
	for i := range done {
		if done[i].Transaction != 0 {
			require.Equal(t, -1, won, "one of them alone")
			won = i
		}
	}
	require.GreaterOrEqual(t, won, 0)
	first := read[api.Written](t, send(fmt.Sprint("tab ", won)))
	again := read[api.Written](t, send(fmt.Sprint("tab ", won)))
	assert.Equal(t, first, again, "an answer that was lost is given again")
	assert.Equal(t, version+1, s.show(t, "loft-7").Version)
	for _, rec := range s.rig(t, "long").Value.Recipes {
		if rec.Sound == "lead" && rec.Name == "" {
			assert.Equal(t, plan.Number(1.8), rec.Values["nudge/fx/level"])
		}
	}
}

func TestBringingBackTwiceIsBringingBackOnce(t *testing.T) {
	s := withDemo(t)
	rig := s.rig(t, "bare")
	rig.Value.Notes = "Another night"
	require.Equal(t, http.StatusOK, s.send("PUT", "/api/rigs/bare", rig).Code)
	send := func() *httptest.ResponseRecorder {
		return s.send(
			"POST", "/api/revisions/bare/restore", map[string]int{"version": rig.Version, "read": rig.Version + 1},
			func(r *http.Request) { r.Header.Set("Idempotency-Key", "once") },
		)
	}
	first, again := read[api.Written](t, send()), read[api.Written](t, send())
	assert.Equal(t, first, again)
	log := read[struct{ Revisions []store.Revision }](t, s.send("GET", "/api/revisions/bare", nil)).Revisions
	assert.Len(t, log, rig.Version+2)
}

func TestTheLogIsSearchedOverHTTP(t *testing.T) {
	s := withDemo(t)
	texts := func(query string) []string {
		list := []string{}
		for _, l := range read[struct{ Lines []journal.Line }](t, s.send("GET", "/api/journal?"+query, nil)).Lines {
			list = append(list, l.Text)
		}
		return list
	}
	assert.Equal(t, []string{"Died in Night Dredger", "Fresh battery"}, texts("gear=silt"))
	assert.Equal(t, []string{"Crackled whenever Amber was trodden on"}, texts("text=spare+amber"))
	assert.Equal(t, []string{"Hummed between songs"}, texts("kind=fault&gear=pier"))
	assert.Len(t, texts("kind=before"), 5)
	assert.Empty(t, texts("text=nobody"))
	assert.Equal(t, http.StatusUnprocessableEntity, s.send("GET", "/api/journal?kind=gossip", nil).Code)
	assert.Equal(t, http.StatusUnprocessableEntity, s.send("GET", "/api/journal?text="+strings.Repeat("x", 201), nil).Code)
}
