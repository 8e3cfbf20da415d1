package tempo

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"envex/core/plan"
	"envex/demo"
)

// heldAlong is what every section of a set finds on the preset it stands on, song by song.
func heldAlong(t require.TestingT, p *plan.Plan, r *plan.Rig) (names []string) {
	key := plan.Key("echo/fx/preset")
	for _, e := range p.SetLists[0].Entries {
		song, ok := p.FindSong(e.Song)
		require.True(t, ok)
		for _, s := range song.Sections {
			rec := r.RecipeFor(s)
			if rec == nil {
				continue
			}
			v, ok := rec.Values[key]
			if !ok {
				v = r.Base[key]
			}
			names = append(names, r.PresetNames["echo"][v.Word()])
		}
	}
	return names
}

func TestPresetsFollowTheSet(t *testing.T) {
	p := demo.Plan()
	r, _ := p.FindRig("long")
	r.PresetNames = map[plan.ID]map[string]string{"echo": {"A": "short one", "B": "lead one", "C": "long one"}}
	r.Presets = plan.PresetMap{"echo": {"B": {"echo/fx/mix": plan.Number(4)}}}
	onB := plan.Program{Values: map[plan.Key]plan.Value{"echo/fx/preset": plan.Text("B")}}
	r.Programs = plan.ProgramMap{"turntable": {"1": {"1": onB}}}
	found, err := InSetOrder(p, "long", "quay-set", "echo")
	require.NoError(t, err)
	order, songs := calledFor(p, r, &p.SetLists[0], presetOf(t, p))
	require.Greater(t, len(order), 1, "the set stands on several")
	require.NotEqual(t, []string{"A", "B", "C"}[:len(order)], order)
	require.NotEmpty(t, found.Moves)
	l, _ := p.FindSetList("quay-set")
	gone := *l
	gone.Entries = append([]plan.SetEntry{{ID: "gone", Song: "gone"}}, l.Entries...)
	other, otherSongs := calledFor(p, r, &gone, presetOf(t, p))
	assert.Equal(t, order, other, "a song that is gone calls for nothing, and ends nothing")
	assert.Equal(t, songs, otherSongs)
	assert.Equal(t, order[0], found.Moves[0].From)
	assert.Equal(t, "A", found.Moves[0].To)
	assert.Equal(t, songs[order[0]], found.Moves[0].Song)
	assert.Equal(t, heldAlong(t, p, r), heldAlong(t, p, &found.Rig), "every section stands on what it stood on")
	where := map[string]string{"A": "A", "B": "B", "C": "C"}
	for _, m := range found.Moves {
		where[m.From] = m.To
		assert.Equal(t, m.Name, found.Rig.PresetNames["echo"][m.To])
	}
	assert.Equal(t, r.Presets["echo"]["B"], found.Rig.Presets["echo"][where["B"]])
	assert.Equal(t, plan.Text(where["B"]), found.Rig.Programs["turntable"]["1"]["1"].Values["echo/fx/preset"])
	assert.Equal(t, plan.Text("B"), r.Programs["turntable"]["1"]["1"].Values["echo/fx/preset"], "the plan stays")

	p.Put(found.Rig)
	require.Empty(t, p.Validate())
	again, err := InSetOrder(p, "long", "quay-set", "echo")
	require.NoError(t, err)
	assert.Empty(t, again.Moves, "they stand so now")
	assert.Equal(t, "The presets of Echo stand in the order of the set.", again.Words)
	for _, bad := range [][3]plan.ID{
		{"nope", "quay-set", "echo"}, {"long", "nope", "echo"}, {"long", "quay-set", "nope"}, {"long", "quay-set", "amber"},
	} {
		_, err = InSetOrder(p, bad[0], bad[1], bad[2])
		assert.Error(t, err, bad)
	}
}

func presetOf(t *testing.T, p *plan.Plan) plan.Variable {
	g, _ := p.FindGear("echo")
	v, ok := g.PresetControl()
	require.True(t, ok)
	return v
}

// Wherever the sections stand, each finds what it found, and what is called for comes in order.
func TestPresetsInSetOrderLoseNothing(t *testing.T) {
	whole := demo.Plan()
	rapid.Check(t, func(t *rapid.T) {
		data, err := plan.Encode(whole)
		require.NoError(t, err)
		p, err := plan.Decode(data)
		require.NoError(t, err)
		r, _ := p.FindRig("long")
		r.PresetNames = map[plan.ID]map[string]string{"echo": {"A": "a", "B": "b", "C": "c"}}
		for i := range r.Recipes {
			if r.Recipes[i].Values == nil {
				r.Recipes[i].Values = map[plan.Key]plan.Value{}
			}
			r.Recipes[i].Values["echo/fx/preset"] = plan.Text(rapid.SampledFrom([]string{"A", "B", "C"}).Draw(t, "on"))
		}
		found, err := InSetOrder(p, "long", "quay-set", "echo")
		require.NoError(t, err)
		require.Equal(t, heldAlong(t, p, r), heldAlong(t, p, &found.Rig))
		p.Put(found.Rig)
		again, err := InSetOrder(p, "long", "quay-set", "echo")
		require.NoError(t, err)
		require.Empty(t, again.Moves)
	})
}
