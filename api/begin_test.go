package api_test

import (
	"encoding/json"
	"net/http"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/about"
	"envex/api"
	"envex/core/catalog"
	"envex/core/guide"
	"envex/core/plan"
	"envex/core/propose"
	"envex/core/shorthand"
)

func post[T any](s server, path string, body any) T {
	s.t.Helper()
	w := s.send(http.MethodPost, path, body)
	require.Equal(s.t, http.StatusOK, w.Code, w.Body.String())
	var out T
	require.NoError(s.t, json.Unmarshal(w.Body.Bytes(), &out))
	return out
}

// What is typed is read, taken in as one step, proposed for, and undone.
func TestFromTypedWordsToRecipes(t *testing.T) {
	renders(t)
	s := start(t)
	next := func(rig, set plan.ID) []guide.Step {
		var out struct {
			Steps []guide.Step `json:"steps"`
		}
		s.get("/api/next?rig="+string(rig)+"&set_list="+string(set), &out)
		return out.Steps
	}
	assert.Equal(t, "rig", next("", "")[0].ID)

	chain := post[api.TypedChain](
		s, "/api/typed/chain", map[string]any{"text": "tuner, Amber = mid-hump drive, zorbulator > combo", "name": "Small"},
	)
	require.Len(t, chain.Chips, 4)
	assert.Equal(t, shorthand.NotPlaced, chain.Chips[2].Place)
	assert.Equal(t, "Small", chain.Name)
	assert.NotEmpty(t, chain.Said)
	var whole struct {
		Rigs  []any `json:"rigs"`
		Songs []any `json:"songs"`
	}
	s.get("/api/plan", &whole)
	assert.Empty(t, whole.Rigs, "reading changes nothing")
	taken := post[api.ImportResult](s, "/api/import?resolve=replace&label=Make+Small", []byte(chain.File))
	assert.True(t, taken.Done)

	set := post[api.TypedSet](
		s, "/api/typed/set",
		map[string]any{
			"text": "Ferry Lights 104: clean, chorus crunch\nNine Gulls", "name": "Quay", "pattern": "verse clean",
		},
	)
	assert.Equal(t, []string{"Clean", "Crunch"}, set.Sounds)
	assert.Len(t, set.Draft.Songs, 2)
	post[api.ImportResult](s, "/api/import?resolve=replace", []byte(set.File))
	assert.Equal(t, "recipes", next(chain.Rig, set.SetList)[0].ID)

	found := work[propose.Proposal](s, "/api/recipes/proposals?rig="+string(chain.Rig)+"&set_list="+string(set.SetList))
	require.Len(t, found.Sounds, 2)
	assert.NotEmpty(t, found.Sounds[0].Ways)

	// A way is heard before it is taken: alone while home has no recipe, else beside it.
	values, err := json.Marshal(found.Sounds[1].Ways[0].Values)
	require.NoError(t, err)
	heard := work[api.Listening](
		s,
		"/api/listen?proposed=true&rig="+string(chain.Rig)+"&sound="+string(found.Sounds[1].Sound)+"&values="+
			url.QueryEscape(string(values)),
	)
	require.Len(t, heard.Clips, 1)
	assert.Equal(t, "Crunch", heard.Clips[0].Name)

	// A song that is typed again is that song, with the sections that are typed.
	again := post[api.TypedSet](s, "/api/typed/set", map[string]any{"text": "Nine Gulls: clean, out crunch"})
	post[api.ImportResult](s, "/api/import?resolve=replace", []byte(again.File))
	s.get("/api/plan", &whole)
	assert.Len(t, whole.Songs, 2)

	for path, body := range map[string]map[string]any{
		"/api/typed/chain": {"text": strings.Repeat("chorus, ", 200)},
		"/api/typed/set":   {"text": "title,bpm\nOne,loud"},
	} {
		p := refused(t, s.send(http.MethodPost, path, body), http.StatusUnprocessableEntity)
		assert.Equal(t, "body.text", p.Errors[0].Location)
	}
	for _, path := range []string{
		"/api/recipes/proposals?rig=moon", "/api/recipes/proposals?rig=" + string(chain.Rig) + "&set_list=moon",
		"/api/recipes/proposals?rig=" + string(chain.Rig) + "&sounds=moon",
	} {
		refused(t, s.send(http.MethodGet, path, nil), http.StatusNotFound)
	}
}

func TestWhatIsStartedFrom(t *testing.T) {
	s := start(t)
	var list struct {
		Examples []api.ExampleRig `json:"examples"`
	}
	s.get("/api/examples", &list)
	require.Len(t, list.Examples, 8)
	for _, e := range list.Examples {
		assert.Greater(t, len(e.Stops), 3, e.ID)
		w := s.send(http.MethodGet, "/api/examples/"+e.ID, nil)
		require.Equal(t, http.StatusOK, w.Code)
		assert.True(t, post[api.ImportResult](s, "/api/import?resolve=replace", w.Body.Bytes()).Done, e.ID)
	}
	refused(t, s.send(http.MethodGet, "/api/examples/moon", nil), http.StatusNotFound)

	var g plan.Gear
	s.get("/api/kinds/memory-head/new?id=x1", &g)
	assert.Equal(t, "Head with a memory", g.Name)
	assert.NotEqual(t, 5, g.MIDI.Channel, "a channel that is free")
	refused(t, s.send(http.MethodGet, "/api/kinds/moon/new?id=x", nil), http.StatusNotFound)

	var words struct {
		Dirt     []plan.DirtWord     `json:"dirt"`
		Loudness []plan.LoudnessWord `json:"loudness"`
	}
	s.get("/api/sound-words", &words)
	assert.Equal(t, plan.DirtWords(), words.Dirt)
	assert.Equal(t, plan.LoudnessWords(), words.Loudness)
	var this about.Build
	s.get("/api/about", &this)
	assert.Equal(t, about.This(), this)
	var kinds struct {
		Kinds []catalog.Kind `json:"kinds"`
	}
	s.get("/api/kinds", &kinds)
	assert.Greater(t, len(kinds.Kinds), 90)
}
