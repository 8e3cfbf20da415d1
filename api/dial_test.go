package api_test

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/dial"
	"envex/core/plan"
)

func TestKnobsOfASound(t *testing.T) {
	renders(t)
	s := start(t)
	s.loadSmall()
	found := work[dial.Travels](s, "/api/knobs?rig=small&sound=lead")
	require.NotEmpty(t, found.Knobs)
	assert.Equal(t, "Lead", found.Name)
	assert.NotEmpty(t, found.Knobs[0].Points)
	refused(t, s.send(http.MethodGet, "/api/knobs?rig=moon&sound=lead", nil), http.StatusNotFound)
}

func TestWhatWasDialledIsFoundAgain(t *testing.T) {
	renders(t)
	s := start(t)
	s.loadDemo()
	var found dial.Found
	s.get("/api/dialled?rig=long", &found)
	assert.NotEmpty(t, found.Now)
	refused(t, s.send(http.MethodGet, "/api/dialled?rig=moon", nil), http.StatusNotFound)

	var r plan.Rig
	p, _ := s.store.Plan()
	own, _ := p.FindRig("long")
	r = *own
	r.Dialled = []plan.Dialled{
		{ID: "loft", Name: "Net loft", Values: map[plan.Key]plan.Value{"amber/fx/drive": plan.Number(9)}},
	}
	s.send(http.MethodPost, "/api/operations", editing(
		"Keep", plan.KindRig, "long", set(nil, r.Dialled, "dialled"),
	))
	var back struct{ Rig plan.Rig }
	s.get("/api/dialled/rig?rig=long&set=loft", &back)
	assert.Equal(t, plan.Number(9), back.Rig.Base["amber/fx/drive"])
	refused(t, s.send(http.MethodGet, "/api/dialled/rig?rig=long&set=attic", nil), http.StatusUnprocessableEntity)
	refused(t, s.send(http.MethodGet, "/api/dialled/rig?rig=long", nil), http.StatusUnprocessableEntity)
	refused(t, s.send(http.MethodGet, "/api/dialled/rig?rig=long&amp=pier", nil), http.StatusUnprocessableEntity)
	refused(t, s.send(http.MethodGet, "/api/dialled/rig?rig=moon&set=loft", nil), http.StatusNotFound)
}

func TestHowASoundIsDialledIn(t *testing.T) {
	renders(t)
	s := start(t)
	s.loadSmall()
	steps := work[dial.Recipe](s, "/api/dial/steps?rig=small&sound=lead")
	assert.Len(t, steps.Steps, 2)
	starts := work[dial.Starts](s, "/api/dial/starts?rig=small")
	assert.Len(t, starts.Ways, 3)
	channels := work[dial.Channels](s, "/api/dial/channels?rig=small")
	assert.Len(t, channels.Leads, 1)
	refused(t, s.send(http.MethodGet, "/api/dial/channels?rig=moon", nil), http.StatusNotFound)
	refused(t, s.send(http.MethodGet, "/api/dial/starts?rig=moon", nil), http.StatusNotFound)
	refused(t, s.send(http.MethodGet, "/api/dial/steps?rig=moon&sound=lead", nil), http.StatusNotFound)
}
