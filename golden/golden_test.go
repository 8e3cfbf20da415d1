package golden

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestLinesAreShortAndSayEverything(t *testing.T) {
	assert.Equal(t, `k 7
 a: b 1.235; list x, 2
 c:
  1: id one
  2: id two; on yes
   more: x 1
 rows:
  1:
   1 1
   2:
    1 2
`, Lines(t, map[string]any{
		"a": map[string]any{
			"b":      1.23456,
			"list":   []any{"x", 2},
			"none":   []any{},
			"nought": 0.0,
			"off":    false,
			"no":     nil,
		},
		"c": []any{
			map[string]any{"id": "one", "on": false},
			map[string]any{"id": "two", "on": true, "more": map[string]any{"x": 1}},
		},
		"k": 7, "rows": []any{[]any{1, []any{2}}},
	}))
}

func TestPlansHaveNames(t *testing.T) {
	seen := map[string]bool{}
	for _, p := range Plans(t) {
		assert.False(t, seen[p.Name], p.Name)
		assert.NotEmpty(t, p.Data, p.Name)
		seen[p.Name] = true
	}
	assert.True(t, seen["kelp-street-nine"])
	assert.Greater(t, len(seen), 8)
}
