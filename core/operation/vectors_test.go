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
