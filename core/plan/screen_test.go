package plan_test

import (
	"encoding/json"
	"flag"
	"math"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	. "envex/core/plan"
)

var updateScreen = flag.Bool("update", false, "write what the screens are held to anew")

// What a person changes on a screen is drawn before the server has answered, so some rules stand there too. They are
// held to what this package says of the same plans: the file is read by the tests of the screens.

// onScreen is a rig at a destination, or as it stands.
type onScreen struct {
	File        string         `json:"file"`
	Rig         ID             `json:"rig"`
	Destination ID             `json:"destination,omitempty"`
	Path        []Node         `json:"path"`
	Zones       map[Key]Zone   `json:"zones"`
	Base        map[Key]Value  `json:"base"`
	Recipes     []settled      `json:"recipes"`
	Variables   []onScreenKnob `json:"variables"`
}

type onScreenKnob struct {
	Key     Key   `json:"key"`
	Default Value `json:"default"`
}

// settled is a recipe, and what each variable is set to by it.
type settled struct {
	ID     ID      `json:"id"`
	Values []Value `json:"values"`
}

func TestWhatTheScreensAreHeldTo(t *testing.T) {
	files, err := filepath.Glob("../path/testdata/chains/*.envex.json")
	require.NoError(t, err)
	var out struct {
		Rigs     []onScreen         `json:"rigs"`
		Clock    map[string]float64 `json:"clock"`
		Decibels map[string]float64 `json:"decibels"`
	}
	for _, file := range append(files, "../../demo/kelp-street-nine.envex.json") {
		data, err := os.ReadFile(file)
		require.NoError(t, err)
		p, err := Decode(data)
		require.NoError(t, err)
		for i := range p.Rigs {
			out.Rigs = append(out.Rigs, rigOnScreen(t, p, file, p.Rigs[i].ID, ""))
			for _, d := range p.Rigs[i].Destinations {
				out.Rigs = append(out.Rigs, rigOnScreen(t, p, file, p.Rigs[i].ID, d.ID))
			}
		}
	}
	out.Clock = map[string]float64{}
	for n := range 41 {
		turn := float64(n) / 40
		out.Clock[ClockFace(turn)] = turn
	}
	out.Decibels = map[string]float64{}
	for _, percent := range []string{"1", "10", "50", "71", "100", "141", "200", "400"} {
		var share float64
		require.NoError(t, json.Unmarshal([]byte(percent), &share))
		out.Decibels[percent] = math.Round(200*math.Log10(share/100)) / 10
	}
	now, err := json.Marshal(out)
	require.NoError(t, err)
	const name = "../../web/src/testdata/rules.json"
	if *updateScreen {
		require.NoError(t, os.MkdirAll(filepath.Dir(name), 0o755))
		require.NoError(t, os.WriteFile(name, append(now, '\n'), 0o644))
	}
	was, err := os.ReadFile(name)
	require.NoError(t, err)
	assert.JSONEq(t, string(was), string(now), "run go test ./core/plan -update, and the tests of the screens")
}

func rigOnScreen(t *testing.T, p *Plan, file string, rig, destination ID) onScreen {
	there, err := p.At(rig, destination)
	require.NoError(t, err)
	r, err := there.RigByID(rig)
	require.NoError(t, err)
	out := onScreen{
		File: filepath.ToSlash(file[len("../"):]), Rig: rig, Destination: destination, Path: r.Path, Base: r.Base,
		Zones: map[Key]Zone{}, Recipes: []settled{}, Variables: []onScreenKnob{},
	}
	for key, zone := range there.Zones(r.Path) {
		out.Zones[key] = zone
	}
	variables := there.VariablesIn(r)
	for _, v := range variables {
		out.Variables = append(out.Variables, onScreenKnob{v.Key, v.Default})
	}
	for _, rec := range r.Recipes {
		x := settled{ID: rec.ID}
		for _, v := range variables {
			value, ok := rec.Values[v.Key]
			if !ok {
				value = r.BaseValue(v)
			}
			x.Values = append(x.Values, value)
		}
		out.Recipes = append(out.Recipes, x)
	}
	return out
}
