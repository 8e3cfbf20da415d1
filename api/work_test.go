package api_test

import (
	"encoding/json"
	"net/http"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/api"
	"envex/core/midi"
	"envex/core/plan"
	"envex/core/repair"
	"envex/core/switching"
)

// work asks until the work is done.
func work[T any](s server, path string) *T {
	s.t.Helper()
	for range 600 {
		var w api.Work[T]
		s.get(path+"&wait_ms=500", &w)
		if w.State == "done" {
			require.NotNil(s.t, w.Result)
			assert.Equal(s.t, 1.0, w.Progress)
			return w.Result
		}
		require.Equal(s.t, "running", w.State)
		assert.Less(s.t, w.Progress, 1.001)
	}
	s.t.Fatal("it does not end")
	return nil
}

func TestProgramsAreLaidOut(t *testing.T) {
	s := start(t)
	s.loadDemo()
	found := work[switching.Solution](s, "/api/switch?rig=switched&set_list=quay-set&school=page")
	assert.True(t, found.Proven)
	assert.Equal(t, found.Reach.Total, found.Reach.Reached)
	e := refused(t, s.send("GET", "/api/switch?rig=carry&set_list=quay-set&wait_ms=2000", nil), 422)
	assert.Contains(t, e.Detail, "no controller with slots")
	refused(t, s.send("GET", "/api/switch?rig=switched&set_list=quay-set&school=both", nil), 422)
	refused(t, s.send("GET", "/api/switch?rig=nope&set_list=quay-set", nil), 404)
}

func TestWorkIsFoundAgainAndIsDoneAnewWhenThePlanChanges(t *testing.T) {
	s := start(t)
	s.loadDemo()
	path := "/api/compare?rig=long&set_list=quay-set&with=carry"
	first := work[repair.Comparison](s, path)
	begun := time.Now()
	assert.Equal(t, first, work[repair.Comparison](s, path))
	again := time.Since(begun)
	assert.Less(t, again, time.Second, "it was kept")

	w := s.whole()
	var carry plan.Rig
	version := 0
	for _, r := range w.Rigs {
		if r.Value.ID == "carry" {
			carry, version = r.Value, r.Version
		}
	}
	carry.Recipes = carry.Recipes[:len(carry.Recipes)-1]
	s.put("/api/rigs/carry", version, carry)
	assert.NotEqual(t, first.Other, work[repair.Comparison](s, path).Other)
}

func TestWorkIsCancelled(t *testing.T) {
	s := start(t)
	s.loadDemo()
	path := "/api/repairs?rig=long&set_list=quay-set"
	var w api.Work[repair.Report]
	s.get(path+"&wait_ms=0", &w)
	require.Equal(t, "running", w.State)
	var wait sync.WaitGroup
	wait.Go(func() { // someone waits while it is cancelled
		var seen api.Work[repair.Report]
		s.get(path+"&wait_ms=2000", &seen)
		assert.Contains(t, []string{"cancelled", "running"}, seen.State)
	})
	time.Sleep(20 * time.Millisecond)
	require.Equal(t, http.StatusOK, s.send("DELETE", path, nil).Code)
	wait.Wait()
}

func TestARepairIsOneTransactionAndIsUndone(t *testing.T) {
	s := start(t)
	s.loadDemo()
	found := work[repair.Report](s, "/api/repairs?rig=long&set_list=quay-set&position=21")
	require.Len(t, found.Failures, 1)
	best := found.Failures[0].Repairs[0]
	body := map[string]any{"rig": "long", "label": best.Words, "edits": best.Edits}
	before := s.whole()
	require.Equal(t, 200, s.send("POST", "/api/edits", body).Code)
	var report struct {
		Reach struct{ Reached int }
	}
	s.get("/api/reach?rig=long&set_list=quay-set", &report)
	assert.Equal(t, best.Reach.Reached, report.Reach.Reached)
	assert.Equal(t, best.Words, s.whole().Undo.Label)
	e := refused(t, s.send("POST", "/api/edits", body), 409)
	assert.Contains(t, e.Detail, "that way already")
	require.Equal(t, 200, s.send("POST", "/api/undo", map[string]any{}).Code)
	after := s.whole()
	for i := range before.Rigs {
		assert.Equal(t, before.Rigs[i].Value, after.Rigs[i].Value)
	}
	refused(t, s.send("POST", "/api/edits", map[string]any{"rig": "nope", "label": "x", "edits": best.Edits}), 404)
	bad := []repair.Edit{{Kind: repair.Swap, Words: "Exchange two slots", Gear: "turntable"}}
	e = refused(t, s.send("POST", "/api/edits", map[string]any{"rig": "long", "label": "x", "edits": bad}), 422)
	assert.Contains(t, e.Detail, "Nothing was changed.")
}

func TestABoxOfAGenericKindComesInWithItsRig(t *testing.T) {
	s := start(t)
	s.loadDemo()
	refused(t, s.send("GET", "/api/what-if?rig=carry&set_list=quay-set", nil), 422)
	found := work[repair.WhatIf](s, "/api/what-if?rig=carry&set_list=quay-set&kind=loop-switcher")
	require.NotNil(t, found.Gear)
	body := map[string]any{"rig": "carry", "label": "Put it in", "edits": found.Edits, "gear": found.Gear}
	require.Equal(t, 200, s.send("POST", "/api/edits", body).Code)
	var report struct {
		Reach struct{ Reached int }
	}
	s.get("/api/reach?rig=carry&set_list=quay-set", &report)
	assert.Equal(t, found.Reach.Reached, report.Reach.Reached)
	require.Equal(t, 200, s.send("POST", "/api/undo", map[string]any{}).Code)
	for _, g := range s.whole().Gear {
		assert.NotEqual(t, found.Gear.ID, g.Value.ID, "undone with the rest")
	}
}

func TestMIDIIsMappedAndMonitored(t *testing.T) {
	s := start(t)
	s.loadDemo()
	solved := work[switching.Solution](s, "/api/switch?rig=switched&set_list=quay-set")
	for _, r := range s.whole().Rigs {
		if r.Value.ID == "switched" {
			s.put("/api/rigs/switched", r.Version, solved.Rig)
		}
	}
	var report midi.Report
	s.get("/api/midi?rig=switched", &report)
	require.Len(t, report.Devices, 1)
	assert.Len(t, report.Programs, 7)
	lead := midi.Slot{Controller: "turntable", Bank: "1", Slot: "4"}
	res := s.send("POST", "/api/midi/monitor", map[string]any{"rig": "switched", "recalls": []midi.Slot{lead}})
	require.Equal(t, 200, res.Code)
	var seen midi.Monitor
	require.NoError(t, json.Unmarshal(res.Body.Bytes(), &seen))
	require.Len(t, seen.Heard, 1)
	assert.Equal(t, "C2 01", seen.Heard[0].Bytes)
	refused(
		t, s.send("POST", "/api/midi/monitor", map[string]any{"rig": "switched", "recalls": []midi.Slot{{Controller: "x"}}}),
		422,
	)
	refused(t, s.send("GET", "/api/midi?rig=nope", nil), 404)
	seats := work[api.Seats](s, "/api/switch/seats?rig=switched&set_list=quay-set&controller=turntable&bank=1&slot=4")
	assert.Len(t, seats.Seats, 8)
}

func (s server) whole() api.WholePlan {
	s.t.Helper()
	var w api.WholePlan
	s.get("/api/plan", &w)
	return w
}

func (s server) put(path string, version int, value any) {
	s.t.Helper()
	res := s.send("PUT", path, map[string]any{"version": version, "value": value})
	require.Equal(s.t, 200, res.Code, res.Body.String())
}
