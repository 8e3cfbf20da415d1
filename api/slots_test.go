package api_test

import (
	"encoding/json"
	"net/http"
	"net/url"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/api"
	"envex/core/beside"
	"envex/core/plan"
	"envex/core/signal"
)

func TestABoxOfASlotIsPickedAndTheBoxesStandSideBySide(t *testing.T) {
	renders(t)
	s := start(t)
	s.loadDemo()
	var can struct{ Choices []plan.SlotChoice }
	s.get("/api/slots?rig=carry&box=slap", &can)
	assert.Contains(t, can.Choices, plan.SlotChoice{Gear: "flutter", Name: "Flutter"})

	at := s.rig(t, "carry")
	rig := at.Value
	rig.Swaps = []plan.Swap{{ID: "slot", Name: "Colour", Boxes: []plan.SwapBox{{Gear: "slap"}, {Gear: "flutter"}}}}
	s.put("/api/rigs/carry", at.Version, rig)
	var picked plan.Rig
	s.get("/api/slots/picked?rig=carry&swap=slot&gear=flutter", &picked)
	assert.Contains(t, picked.Stops(), plan.Key("flutter/fx"))
	assert.NotContains(t, picked.Stops(), plan.Key("slap/fx"))

	found := work[beside.Report](s, "/api/beside?rig=carry&set_list=quay-set&slot=slot")
	require.Len(t, found.Columns, 2)
	assert.Equal(t, []string{"Slap", "Flutter"}, []string{found.Columns[0].Name, found.Columns[1].Name})
	found = work[beside.Report](s, "/api/beside?rig=long&set_list=quay-set&destination=long-hired&own=true&tempo=4&tempo=-4")
	require.Len(t, found.Columns, 4)
	assert.Equal(t, "Hired head", found.Columns[0].Name)
	assert.Equal(t, "As it stands", found.Columns[1].Name)
	assert.InDelta(t, 4, found.Columns[2].TempoPct, 1e-9)
	assert.InDelta(t, -4, found.Columns[3].TempoPct, 1e-9)

	// A song is played with the other box: its figures are of the rig with that in the chain.
	var of struct{ Ways []plan.Otherwise }
	s.get("/api/slots/otherwise?rig=carry&set_list=quay-set", &of)
	require.Equal(t, []plan.Otherwise{}, of.Ways)
	at = s.rig(t, "carry")
	rig = at.Value
	rig.Swaps[0].Boxes[1].Songs = []plan.ID{"ferry-lights"}
	s.put("/api/rigs/carry", at.Version, rig)
	s.get("/api/slots/otherwise?rig=carry&set_list=quay-set", &of)
	require.Equal(t, []plan.Otherwise{{Songs: []plan.ID{"ferry-lights"}, Words: "with Flutter", Stops: picked.Stops()}}, of.Ways)
	const figures = "/api/signal?rig=carry"
	chain, played := work[signal.Report](s, figures), work[signal.Report](s, figures+"&song=ferry-lights")
	assert.NotEqual(t, chain.Sounds, played.Sounds)

	// A place of a boost is heard with that box, and taken up by the chain as it stands.
	placed := work[signal.Placement](s, "/api/boost?rig=carry&block=nudge/fx&song=ferry-lights")
	for _, x := range placed.Places {
		stands := plan.StopsIn(x.Path)
		assert.ElementsMatch(t, rig.Stops(), stands)
		want := slices.Clone(stands)
		want[slices.Index(want, "slap/fx")] = "flutter/fx"
		assert.Equal(t, want, x.Order)
		assert.Equal(t, x.Here, slices.Equal(stands, rig.Stops()))
	}
	order, err := json.Marshal(placed.Places[0].Order)
	require.NoError(t, err)
	heard := work[api.Listening](
		s, "/api/listen?rig=carry&sound=lead&song=ferry-lights&order="+url.QueryEscape(string(order)),
	)
	assert.Len(t, heard.Clips, 2)

	at = s.rig(t, "carry")
	s.put("/api/rigs/carry", at.Version, picked)
	assert.Equal(t, played.Sounds, work[signal.Report](s, figures+"&song=ferry-lights").Sounds)

	for path, status := range map[string]int{
		figures + "&song=moon":                                      http.StatusNotFound,
		"/api/slots/otherwise?rig=carry&set_list=moon":              http.StatusNotFound,
		"/api/slots/otherwise?rig=moon&set_list=quay-set":           http.StatusNotFound,
		"/api/slots?rig=moon&box=slap":                              http.StatusNotFound,
		"/api/slots?rig=carry&box=moon":                             http.StatusNotFound,
		"/api/slots/picked?rig=carry&swap=slot&gear=moon":           http.StatusNotFound,
		"/api/slots/picked?rig=carry&swap=moon&gear=flutter":        http.StatusUnprocessableEntity,
		"/api/slots/picked?rig=carry&swap=slot&gear=nudge":          http.StatusUnprocessableEntity,
		"/api/beside?rig=carry&set_list=moon&slot=slot":             http.StatusNotFound,
		"/api/beside?rig=carry&set_list=quay-set&slot=moon":         http.StatusNotFound,
		"/api/beside?rig=carry&set_list=quay-set":                   http.StatusUnprocessableEntity,
		"/api/beside?rig=long&set_list=quay-set&tempo=99":           http.StatusUnprocessableEntity,
		"/api/beside?rig=long&set_list=quay-set&into=moon&tempo=-4": http.StatusUnprocessableEntity,
	} {
		refused(t, s.send(http.MethodGet, path, nil), status)
	}
}
