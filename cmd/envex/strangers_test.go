package main

import (
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/tidwall/gjson"

	"envex/core/paper"
)

// What invented players play, none like the demo, with the answers a careful tech would give, written down
// before anything was run. See testdata/rigs.
const strangers = "../../testdata/rigs"

// answer is one thing that has to be so of what a command gives.
type answer struct {
	Ask     string   `json:"ask"`      // the command and its flags, without the file
	Of      string   `json:"of"`       // where in its JSON, as gjson paths say it
	Is      any      `json:"is"`       // exactly this
	AtLeast *float64 `json:"at_least"` // no less
	AtMost  *float64 `json:"at_most"`  // no more
	Has     string   `json:"has"`      // this is somewhere in it
	Lacks   string   `json:"lacks"`    // and this is not
	Why     string   `json:"why"`
}

func stranger(t *testing.T, name string) []answer {
	t.Helper()
	data, err := os.ReadFile(filepath.Join(strangers, name, "answers.json"))
	require.NoError(t, err)
	var list []answer
	dec := json.NewDecoder(strings.NewReader(string(data)))
	dec.DisallowUnknownFields()
	require.NoError(t, dec.Decode(&list))
	return list
}

func strangersNamed(t *testing.T) []string {
	t.Helper()
	onItsOwn(t)
	dirs, err := filepath.Glob(filepath.Join(strangers, "*", "rig.envex.json"))
	require.NoError(t, err)
	require.GreaterOrEqual(t, len(dirs), 12)
	var names []string
	for _, d := range dirs {
		names = append(names, filepath.Base(filepath.Dir(d)))
	}
	return names
}

// asked is what a command gives of a stranger's rig, each asked once.
type asked struct {
	t     *testing.T
	file  string
	known map[string]string
}

func (a *asked) json(ask string) string {
	a.t.Helper()
	if known, ok := a.known[ask]; ok {
		return known
	}
	words := strings.Fields(ask)
	args := append([]string{words[0], a.file}, words[1:]...)
	json := !strings.Contains(ask, "--format")
	if words[0] != "sheet" {
		args = append(args, "--rig", "rig")
	} else {
		args = append(args, "--show", "show")
		if json {
			args = append(args, "--format", "json")
			json = false
		}
	}
	if json {
		args = append(args, "--json")
	}
	out, err := run_(a.t, args...)
	require.NoError(a.t, err, ask)
	a.known[ask] = out
	return out
}

func TestStrangersGetTheAnswersOfACarefulTech(t *testing.T) {
	for _, name := range strangersNamed(t) {
		t.Run(name, func(t *testing.T) {
			t.Parallel()
			a := &asked{t: t, file: filepath.Join(strangers, name, "rig.envex.json"), known: map[string]string{}}
			for _, x := range stranger(t, name) {
				x.check(t, gjson.Get(a.json(x.Ask), x.Of))
			}
		})
	}
}

func (x answer) check(t *testing.T, got gjson.Result) {
	t.Helper()
	said := fmt.Sprintf("%s: %s: %s", x.Ask, x.Of, x.Why)
	if x.Is != nil {
		if want, ok := x.Is.(float64); ok {
			assert.InDelta(t, want, got.Float(), 1e-6, said)
		} else {
			assert.Equal(t, x.Is, got.Value(), said)
		}
	}
	if x.AtLeast != nil {
		assert.True(t, got.Exists(), said)
		assert.GreaterOrEqual(t, got.Float(), *x.AtLeast, said)
	}
	if x.AtMost != nil {
		assert.True(t, got.Exists(), said)
		assert.LessOrEqual(t, got.Float(), *x.AtMost, said)
	}
	if x.Has != "" {
		assert.Contains(t, got.Raw, x.Has, said)
	}
	if x.Lacks != "" {
		assert.NotContains(t, got.Raw, x.Lacks, said)
	}
}

// Two outputs that say the same thing say it alike.
func TestNoTwoOutputsOfAStrangersRigContradictEachOther(t *testing.T) {
	for _, name := range strangersNamed(t) {
		t.Run(name, func(t *testing.T) {
			t.Parallel()
			a := &asked{t: t, file: filepath.Join(strangers, name, "rig.envex.json"), known: map[string]string{}}
			reach, repairs := a.json("reach --setlist set"), a.json("repairs --setlist set")
			assert.Equal(
				t,
				gjson.Get(reach, "reach.reached").Raw,
				gjson.Get(repairs, "before.reached").Raw,
				"reach and repairs",
			)
			assert.Equal(
				t,
				gjson.Get(reach, "reach.total").Raw,
				gjson.Get(repairs, "before.total").Raw,
				"reach and repairs",
			)
			set := gjson.Get(a.json("sheet --kind set"), "parts.#.rows.#").Array()
			rows := 0.0
			for _, n := range set {
				rows += n.Float()
			}
			assert.Equal(t, gjson.Get(reach, "sections.#").Float(), rows, "the set sheet has every section")

			cables, patch := a.json("cables"), a.json("sheet --kind patch")
			assert.Equal(
				t, gjson.Get(cables, "runs.#").Raw, gjson.Get(patch, `parts.#(title=="From jack to jack").rows.#`).Raw,
				"leads that carry sound",
			)
			assert.Equal(
				t,
				gjson.Get(cables, "control.#").Raw,
				gjson.Get(patch, `parts.#(title=="Control and power leads").rows.#`).Raw,
				"leads that carry none",
			)
			cut := gjson.Get(patch, `parts.#(title=="To cut")`)
			total, leads := 0.0, 0.0
			for _, row := range cut.Get("rows").Array() {
				leads += gjson.Get(row.Raw, "4.text").Float()
				total += gjson.Get(row.Raw, "5.text").Float()
			}
			assert.Equal(t, gjson.Get(cables, "leads").Float(), leads, "leads to cut")
			assert.InDelta(t, gjson.Get(cables, "total_m").Float(), total, 0.02, "metres to cut")
			lines := 0
			for _, s := range gjson.Get(cables, "sends").Array() {
				lines++
				if s.Get("stereo").Bool() {
					lines++
				}
			}
			assert.Equal(
				t,
				lines,
				int(gjson.Get(a.json("sheet --kind foh"), `parts.#(title=="Lines").rows.#`).Int()),
				"lines to the house",
			)

			// Rendering takes its time: those with several lanes stand for the others.
			signal, levels := "{}", "{}"
			if slices.Contains([]string{"singer", "two-amps", "wet-dry-wet"}, name) {
				signal, levels = a.json("signal"), a.json("levels --setlist set")
			}
			for _, rung := range gjson.Get(levels, "rungs.#(first==true)#").Array() {
				over := gjson.Get(signal, fmt.Sprintf("sounds.#(sound==%q).over_home_lu", rung.Get("sound").String()))
				assert.InDelta(
					t,
					over.Float(),
					rung.Get("over_home_lu").Float(),
					0.05,
					"loudness of %s",
					rung.Get("name"),
				)
			}
			power := a.json("power")
			sum := 0.0
			for _, l := range gjson.Get(power, "loads").Array() {
				sum += l.Get("current_ma").Float()
			}
			assert.InDelta(t, gjson.Get(power, "drawn_ma").Float(), sum, 1e-6, "what all draw is the sum of each")
			order := a.json("order")
			assert.LessOrEqual(t, gjson.Get(order, "best.cost").Float(), gjson.Get(order, "cost").Float())
			assert.Equal(
				t, gjson.Get(order, "best.bound").Float() >= gjson.Get(order, "best.cost").Float(),
				gjson.Get(order, "best.proven").Bool(), "what meets its bound is proven, and nothing else",
			)
			failing := a.json("sheet --kind failure")
			for _, row := range gjson.Get(failing, "parts.0.rows").Array() {
				assert.NotEmpty(
					t,
					gjson.Get(row.Raw, "6.text").String(),
					"a way round %s",
					gjson.Get(row.Raw, "0.text"),
				)
			}
		})
	}
}

// What does not render is asked of every stranger's rig, in words and as JSON.
func TestEveryReportTakesAStrangersRig(t *testing.T) {
	asks := []string{
		"reach --setlist set", "reach --setlist set --any-order", "order", "cables", "floor --setlist set",
		"floor --setlist set --board plain-650x356 --fit", "electric --setlist set", "power", "midi",
		"tempo --setlist set", "repairs --setlist set", "check",
	}
	for _, kind := range paper.Kinds() {
		asks = append(asks, "sheet --kind "+string(kind))
	}
	for _, name := range strangersNamed(t) {
		t.Run(name, func(t *testing.T) {
			t.Parallel()
			file := filepath.Join(strangers, name, "rig.envex.json")
			for _, ask := range asks {
				words := strings.Fields(ask)
				args := append([]string{words[0], file}, words[1:]...)
				switch words[0] {
				case "sheet":
					args = append(args, "--show", "show")
				case "check":
				default:
					args = append(args, "--rig", "rig")
				}
				said, err := run_(t, args...)
				require.NoError(t, err, ask)
				for _, bad := range []string{"NaN", "+Inf", "-Inf", "%!", "<nil>", "0 of 0 ", "switching:", "electric:"} {
					assert.NotContains(t, said, bad, ask)
				}
				if words[0] == "check" || words[0] == "sheet" {
					continue
				}
				data, err := run_(t, append(args, "--json")...)
				require.NoError(t, err, ask)
				assert.True(t, gjson.Valid(data), ask)
				assert.NotContains(t, data, "NaN", ask)
			}
		})
	}
}
