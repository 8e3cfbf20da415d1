package operation

import (
	"encoding/json"
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What operations do is written down once for those who apply them here and for the page that shows
// them before there is an answer.
func TestVectors(t *testing.T) {
	data, err := os.ReadFile("testdata/vectors.json")
	require.NoError(t, err)
	var vectors []struct {
		Name   string
		Before any
		Ops    []Op
		After  any
		Reason Reason
	}
	require.NoError(t, json.Unmarshal(data, &vectors))
	require.NotEmpty(t, vectors)
	for _, v := range vectors {
		t.Run(v.Name, func(t *testing.T) {
			was, err := json.Marshal(v.Before)
			require.NoError(t, err)
			tree := v.Before
			for i, op := range v.Ops {
				if tree, err = step(tree, i, op); err != nil {
					break
				}
			}
			if v.Reason != "" {
				var conflict *ConflictError
				require.ErrorAs(t, err, &conflict)
				assert.Equal(t, v.Reason, conflict.Reason, conflict.Error())
				assert.NotEmpty(t, conflict.Error())
			} else {
				require.NoError(t, err)
				assert.Equal(t, v.After, tree)
			}
			still, err := json.Marshal(v.Before)
			require.NoError(t, err)
			assert.Equal(t, string(was), string(still), "what it was given is left as it is")
		})
	}
}

func TestWhatIsNoOperationIsSaidToBeNone(t *testing.T) {
	place := 0
	list := map[string]any{"list": []any{map[string]any{"id": "a"}}, "text": "x"}
	for name, op := range map[string]Op{
		`there is no act "toggle"`: {Do: "toggle"},
		"set needs a path":         {Do: Set},
		"remove needs an element":  {Do: Remove, Path: []Step{{Key: "list"}}},
		"move needs an element":    {Do: Move, Path: []Step{{Key: "list"}}},
		"insert needs a value":     {Do: Insert, Path: []Step{{Key: "list"}}, Element: "b"},
		"the new element is not the one that is named": {
			Do: Insert, Path: []Step{{Key: "list"}}, Element: map[string]any{"id": "b"}, Value: map[string]any{"id": "c"},
		},
		"a step has one of key, match and place": {Do: Set, Path: []Step{{Key: "list", Place: &place, Of: 1}}},
		"there is no list at text":               {Do: Insert, Path: []Step{{Key: "text"}}, Value: "y"},
		"set names a field":                      {Do: Set, Path: []Step{{Key: "list"}, {Place: &place, Of: 1}}},
	} {
		_, err := step(list, 3, op)
		var invalid *InvalidError
		require.ErrorAs(t, err, &invalid, name)
		assert.Equal(t, name, invalid.Message)
		assert.Equal(t, "operation 3: "+name, invalid.Error())
	}
}

func TestAStepIsOneThing(t *testing.T) {
	place := 0
	tree := map[string]any{"list": []any{map[string]any{"id": "a"}}}
	for _, s := range []Step{
		{}, {Key: "list", Match: "a"}, {Key: "list", Place: &place, Of: 1}, {Match: "a", Place: &place, Of: 1},
		{Key: "list", Match: "a", Place: &place, Of: 1},
	} {
		_, err := step(tree, 0, Op{Do: Set, Path: []Step{{Key: "list"}, s, {Key: "id"}}, To: "b"})
		var invalid *InvalidError
		require.ErrorAs(t, err, &invalid, "%+v", s)
		assert.Equal(t, "a step has one of key, match and place", invalid.Message)
		_, err = step(tree, 0, Op{Do: Set, Path: []Step{s}, To: "b"})
		require.ErrorAs(t, err, &invalid, "%+v", s)
	}
}

// A conflict says where it is as a person counts: the first of a list is number 1.
func TestAConflictSaysWhereItIs(t *testing.T) {
	place := 1
	tree := map[string]any{"lanes": []any{
		map[string]any{
			"nodes": []any{},
		}, map[string]any{"nodes": []any{map[string]any{"stop": "a/fx", "pinned": true}}},
	}}
	_, err := step(tree, 0, Op{
		Do: Set, To: false, Was: false,
		Path: []Step{
			{
				Key: "lanes",
			}, {Place: &place, Of: 2}, {Key: "nodes"}, {Match: map[string]any{"stop": "a/fx"}}, {Key: "pinned"},
		},
	})
	var conflict *ConflictError
	require.ErrorAs(t, err, &conflict)
	assert.Equal(t, "lanes.2.nodes.a/fx.pinned", conflict.Path)
	assert.Equal(t, true, conflict.Theirs)
	assert.Equal(t, false, conflict.Yours)
}

func TestWhatIsTheSame(t *testing.T) {
	object := func(key string, v any) any { return map[string]any{key: v} }
	for name, x := range map[string]struct {
		a, b         any
		exact, alike bool
	}{
		"numbers of another kind":               {1, 1.0, true, true},
		"another number":                        {1, 1.5, false, false},
		"a number and its word":                 {1, "1", false, false},
		"nothing and nought":                    {nil, 0, false, true},
		"nothing and no":                        {nil, false, false, true},
		"nothing and an empty list":             {nil, []any{}, false, true},
		"nothing and an object with nothing":    {nil, object("a", ""), false, true},
		"nothing and an entry that says off":    {nil, object("a/on", false), false, false},
		"an absent field and one that is empty": {object("a", "x"), map[string]any{"a": "x", "b": []any{}}, false, true},
		"an absent entry and one that is 0":     {object("a/x", 1), map[string]any{"a/x": 1, "b/x": 0}, false, false},
		"lists of another length":               {[]any{1}, []any{1, 2}, false, false},
		"lists in another order":                {[]any{1, 2}, []any{2, 1}, false, false},
		"lists whose last are alike":            {[]any{1, nil}, []any{1, false}, false, true},
		"a list and an object":                  {[]any{1}, object("a", 1), false, false},
		"a word and a list":                     {"a", []any{"a"}, false, false},
		"a word and an object":                  {"a", object("a", "a"), false, false},
		"a list in an entry that says nothing":  {object("a/x", []any{nil}), object("a/x", []any{false}), false, false},
		"yes and no":                            {true, false, false, false},
	} {
		assert.Equal(t, x.exact, exact(x.a, x.b), name)
		assert.Equal(t, x.exact, exact(x.b, x.a), name)
		assert.Equal(t, x.alike, alike(x.a, x.b), name)
		assert.Equal(t, x.alike, alike(x.b, x.a), name)
	}
}
