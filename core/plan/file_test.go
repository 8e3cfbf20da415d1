package plan_test

import (
	"fmt"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
)

func TestReadingBackWhatWasWrittenGivesTheSameThing(t *testing.T) {
	p := small()
	data, err := plan.Encode(&p)
	require.NoError(t, err)
	back, err := plan.Decode(data)
	require.NoError(t, err)
	again, err := plan.Encode(back)
	require.NoError(t, err)
	assert.Equal(t, string(data), string(again))
	assert.Equal(t, p.Rigs[0].Recipes[0].Values, back.Rigs[0].Recipes[0].Values)
}

func TestDecodeRefusesByPath(t *testing.T) {
	p := small()
	good, err := plan.Encode(&p)
	require.NoError(t, err)
	cases := map[string]struct{ data, path, says string }{
		"not JSON":       {"{", "", "ends too early"},
		"nothing":        {"", "", "ends too early"},
		"another format": {`{"format":"other","version":1}`, "format", "not an Envex file"},
		"no version":     {`{"format":"envex"}`, "version", "missing"},
		"newer":          {`{"format":"envex","version":3}`, "version", "newer Envex"},
		"two documents":  {string(good) + "{}", "", "after the end"},
		"field twice":    {`{"format":"envex","format":"envex"}`, "", "twice"},
		"too deep":       {strings.Repeat("[", 100), "", "deeper"},
		"unknown field":  {strings.Replace(string(good), `"title"`, `"titel"`, 1), "songs[0].titel", "no field"},
		"missing field":  {strings.Replace(string(good), `"title"`, `"titel"`, 1), "songs[0].title", "missing"},
		"case matters":   {strings.Replace(string(good), `"title"`, `"Title"`, 1), "songs[0].Title", "no field"},
		"wrong type": {
			strings.Replace(string(good), `"bpm": 100`, `"bpm": "fast"`, 1), "songs[0].tempo.bpm",
			"a number is expected, not text",
		},
		"wrong value": {
			strings.Replace(string(good), `"amber/drive/gain": 4`, `"amber/drive/gain": []`, 1),
			`rigs[0].base["amber/drive/gain"]`, "a value is",
		},
		"whole numbers": {
			strings.Replace(string(good), `"beats": 4`, `"beats": 4.5`, 1), "songs[0].meter.beats", "whole number",
		},
		"null": {strings.Replace(string(good), `"bpm": 100`, `"bpm": null`, 1), "songs[0].tempo.bpm", "null"},
		"huge number": {
			strings.Replace(string(good), `"bpm": 100`, `"bpm": 1e999`, 1), "songs[0].tempo.bpm", "too large",
		},
		"caught by meaning": {
			strings.Replace(string(good), `"bpm": 100`, `"bpm": 1000`, 1), "songs[0].tempo.bpm", "20 to 400",
		},
		"too long": {
			`{"format":"envex","version":1,"x":"` + strings.Repeat("a", plan.MaxFileBytes) + `"}`, "", "10 MB is the most",
		},
	}
	for name, c := range cases {
		t.Run(name, func(t *testing.T) {
			got, err := plan.Decode([]byte(c.data))
			assert.Nil(t, got)
			var problems plan.Problems
			require.ErrorAs(t, err, &problems)
			for _, p := range problems {
				if p.Path == c.path && strings.Contains(p.Message, c.says) {
					return
				}
			}
			t.Fatalf("no problem at %q that says %q, but:\n%v", c.path, c.says, err)
		})
	}
}

func TestTooManyOfAnythingIsRefused(t *testing.T) {
	p := small()
	for i := range plan.MaxItems + 1 {
		p.Songs[0].Sections = append(
			p.Songs[0].Sections, plan.Section{ID: plan.ID(fmt.Sprint("x", i)), Label: "x", Sound: "home"},
		)
	}
	assert.Contains(t, p.Validate().Error(), "the limit is")
}

func TestBundleIsSelfContained(t *testing.T) {
	p := small()
	p.Gear = append(p.Gear, plan.Gear{ID: "spare", Name: "Spare", Kind: plan.Pedal})
	for _, id := range []plan.ID{"show", "rig", "song"} {
		b, err := p.Bundle(id)
		require.NoError(t, err)
		assert.Empty(t, b.Validate(), "%s stands alone", id)
		_, has := b.FindGear("spare")
		assert.False(t, has, "what is not referred to stays behind")
	}
	_, err := p.Bundle("nope")
	assert.ErrorContains(t, err, "nope")
}

func TestMergeAsksWhenContentDiffers(t *testing.T) {
	mine, file := small(), small()
	file.Gear[1].Name = "Amber Two"
	file.Gear = append(file.Gear, plan.Gear{ID: "new", Name: "New", Kind: plan.Pedal})
	next := 0
	newID := func() plan.ID { next++; return plan.ID(fmt.Sprint("fresh", next)) }

	m, err := mine.Merge(&file, nil, newID)
	require.NoError(t, err)
	require.Equal(t, []plan.Conflict{{Kind: plan.KindGear, ID: "amber", Mine: "Amber", File: "Amber Two"}}, m.Conflicts)
	assert.Empty(t, m.Added, "nothing counts until the conflict is answered")

	m, err = mine.Merge(&file, map[plan.ID]plan.Resolution{"amber": plan.Replace}, newID)
	require.NoError(t, err)
	assert.Len(t, m.Added, 1)
	require.Len(t, m.Replaced, 1)
	assert.Equal(t, "Amber Two", m.Replaced[0].Label())

	m, err = mine.Merge(&file, map[plan.ID]plan.Resolution{"amber": plan.KeepOwn}, newID)
	require.NoError(t, err)
	assert.Empty(t, m.Replaced)
}

func TestMergeCopyRenamesEveryMention(t *testing.T) {
	mine, file := small(), small()
	file.Gear[1].Name = "Amber Two"
	file.Gear[1].Blocks[0].ID = "amber" // a block that reads like its gear's id stays what it is
	file.Gear[1].Footswitches[0].Press.Actions[0].Target = "amber/on"
	r := &file.Rigs[0]
	r.Path[0].Stop = "amber/amber"
	r.Base = map[plan.Key]plan.Value{"amber/amber/gain": plan.Number(4)}
	r.Recipes[0].Values = map[plan.Key]plan.Value{"amber/amber/on": plan.On(true)}
	r.Floor.Places = map[plan.ID]plan.Placement{"amber": {X: 1}}
	file.Gear[1].Footswitches[0].ID = "amber"
	r.Assignments = []plan.Assignment{
		{
			Gear: "amber", Switch: "amber",
			Press: &plan.Press{Actions: []plan.Action{{Kind: plan.Toggle, Target: "amber/amber/on"}}},
		},
	}
	require.Empty(t, file.Validate())
	n := 0
	newID := func() plan.ID { n++; return plan.ID(fmt.Sprint("fresh", n)) }
	m, err := mine.Merge(
		&file, map[plan.ID]plan.Resolution{"amber": plan.Copy, "rig": plan.Copy, "song": plan.Copy}, newID,
	)
	require.NoError(t, err)
	require.Empty(t, m.Conflicts)
	merged := mine
	for _, a := range append(m.Added, m.Replaced...) {
		merged.Put(a)
	}
	require.Empty(t, merged.Validate())
	require.Len(t, merged.Rigs, 2)
	assert.Equal(t, "Amber", merged.Gear[1].Name, "mine is untouched")
	copied := merged.Rigs[1]
	amber := copied.Path[0].Stop.Gear()
	assert.NotEqual(t, plan.ID("amber"), amber)
	assert.Contains(t, copied.Floor.Places, amber)
	assert.Equal(t, plan.ID("amber"), copied.Assignments[0].Switch, "a switch is named within its box")
	assert.Equal(t, plan.OnKey(amber, "amber"), copied.Assignments[0].Press.Actions[0].Target)
	g, ok := merged.FindGear(amber)
	require.True(t, ok)
	assert.Equal(t, plan.ID("amber"), g.Blocks[0].ID)
	assert.Equal(t, plan.Key("amber/on"), g.Footswitches[0].Press.Actions[0].Target)
}

func FuzzDecode(f *testing.F) {
	p := small()
	data, err := plan.Encode(&p)
	require.NoError(f, err)
	f.Add(data)
	f.Add([]byte(`{"format":"envex","version":1}`))
	f.Add([]byte(`{"format":"envex","version":1,"gear":[{"id":"a","name":"a","kind":"amp","blocks":[]}]}`))
	if demo, err := os.ReadFile("../../demo/kelp-street-nine.envex.json"); err == nil {
		f.Add(demo)
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		got, err := plan.Decode(data)
		if err != nil {
			assert.Nil(t, got)
			return
		}
		out, err := plan.Encode(got)
		require.NoError(t, err)
		back, err := plan.Decode(out)
		require.NoError(t, err, "what was accepted can be written and read again")
		out2, err := plan.Encode(back)
		require.NoError(t, err)
		assert.Equal(t, string(out), string(out2))
	})
}
