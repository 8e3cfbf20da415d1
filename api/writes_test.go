package api_test

import (
	"maps"
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/api"
	"envex/core/electric"
	"envex/store"
)

func TestAStaleWriteSaysBothVersions(t *testing.T) {
	s := start(t)
	require.Equal(t, 200, s.send("PUT", "/api/sounds/home1", versioned(0, home)).Code)
	other := maps.Clone(home)
	other["name"] = "Hearth"
	require.Equal(t, 200, s.send("PUT", "/api/sounds/home1", versioned(1, other)).Code)
	p := refused(t, s.send("PUT", "/api/sounds/home1", versioned(1, home)), 409)
	assert.Equal(t, [2]int{1, 2}, [2]int{p.Read, p.Current})
}

func TestALostAnswerIsAskedForAgain(t *testing.T) {
	s := start(t)
	key := func(r *http.Request) { r.Header.Set("Idempotency-Key", "once") }
	first := s.send("PUT", "/api/sounds/home1", versioned(0, home), key)
	second := s.send("PUT", "/api/sounds/home1", versioned(0, home), key)
	assert.Equal(t, 200, second.Code)
	assert.Equal(t, first.Body.String(), second.Body.String())
}

func TestBadFieldsAreNamedByTheirPath(t *testing.T) {
	s := start(t)
	bad := map[string]any{
		"id": "home1", "name": "Home", "short": "H1", "role": "shouting", "tape": "bone", "targets": map[string]any{},
		"colour": "red",
	}
	p := refused(t, s.send("PUT", "/api/sounds/home1", versioned(0, bad)), 422)
	var where []string
	for _, e := range p.Errors {
		where = append(where, e.Location)
	}
	assert.Contains(t, where, "body.value.role")
	assert.Contains(t, where, "body.value.colour")

	song := map[string]any{"id": "t", "title": "T", "tempo": map[string]any{"bpm": 100},
		"meter":    map[string]any{"beats": 4, "unit": 3},
		"sections": []any{map[string]any{"id": "a", "label": "A", "sound": "gone"}}}
	p = refused(t, s.send("PUT", "/api/songs/t", versioned(0, song)), 422)
	where = nil
	for _, e := range p.Errors {
		where = append(where, e.Location)
	}
	assert.ElementsMatch(t, []string{"body.value.meter.unit", "body.value.sections[0].sound"}, where)
	refused(t, s.send("PUT", "/api/sounds/other", versioned(0, home)), 422)
}

func TestRemovingWhatIsUsedListsTheUses(t *testing.T) {
	s := start(t)
	s.loadDemo()
	p := refused(t, s.send("DELETE", "/api/gear/amber?version=1", nil), 409)
	require.NotEmpty(t, p.Errors)
	assert.Equal(t, "Long board: in the chain", p.Errors[0].Message)
	require.Equal(t, 200, s.send("DELETE", "/api/shows/deck-13?version=1", nil).Code)
	refused(t, s.send("DELETE", "/api/shows/deck-13?version=1", nil), 409)
}

func TestPowerThatHarmsIsRefused(t *testing.T) {
	s := start(t)
	s.loadDemo()
	var fed electric.Power
	s.get("/api/power?rig=long", &fed)
	assert.Equal(t, 11, fed.Assignment.Served)
	assert.NotContains(t, s.send("GET", "/api/power?rig=bare", nil).Body.String(), "null")
	refused(t, s.send("GET", "/api/power?rig=nope", nil), 404)

	var whole api.WholePlan
	s.get("/api/plan", &whole)
	rig := whole.Rigs[0]
	volts := 18.0
	for i := range rig.Value.PowerPlan {
		if f := &rig.Value.PowerPlan[i]; f.Output == "12" {
			f.Voltage = &volts
		}
	}
	p := refused(t, s.send("PUT", "/api/rigs/long", rig), 422)
	assert.Equal(t, "body.value.power[10]", p.Errors[0].Location)
	assert.Contains(t, p.Errors[0].Message, "18 V into Room, which takes 9 V")
	var after api.WholePlan
	s.get("/api/plan", &after)
	assert.Equal(t, whole.Rigs[0].Version, after.Rigs[0].Version, "nothing was changed")
}

func TestHistory(t *testing.T) {
	s := start(t)
	require.Equal(t, 200, s.send("PUT", "/api/sounds/home1?label=First", versioned(0, home)).Code)
	var log struct{ Transactions []store.Transaction }
	s.get("/api/history", &log)
	require.Len(t, log.Transactions, 1)
	assert.Equal(t, "First", log.Transactions[0].Label)
	require.Equal(t, 200, s.send("POST", "/api/undo", map[string]any{}).Code)
	refused(t, s.send("POST", "/api/undo", map[string]any{}), 409)
	require.Equal(t, 200, s.send("POST", "/api/redo", map[string]any{}).Code)
	var revisions struct{ Revisions []store.Revision }
	s.get("/api/revisions/home1", &revisions)
	require.Len(t, revisions.Revisions, 3)
	assert.True(t, revisions.Revisions[1].Removed)
}
