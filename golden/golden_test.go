package golden

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestLinesAreShortAndSayEverything(t *testing.T) {
	assert.Equal(t, `a.b: 1.235
a.list: x, 2
c[0].id: one
c[1].id: two
c[1].on: true
`, Lines(t, map[string]any{
		"a": map[string]any{"b": 1.23456, "list": []any{"x", 2}, "none": []any{}, "nought": 0.0, "off": false, "no": nil},
		"c": []any{map[string]any{"id": "one", "on": false}, map[string]any{"id": "two", "on": true}},
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
