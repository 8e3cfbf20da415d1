package plan_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
)

func TestWordsForDirtGoUpWithoutAGap(t *testing.T) {
	words := plan.DirtWords()
	low := 0.0
	for i, w := range words {
		if w.Min != nil {
			assert.GreaterOrEqual(t, *w.Min, low, w.Word)
			low = *w.Min
			assert.LessOrEqual(t, *w.Min, *words[i-1].Max, "%s begins where %s is not over", w.Word, words[i-1].Word)
		}
		var targets plan.Targets
		require.True(t, targets.Called(w.Word))
		assert.Equal(t, w.Min, targets.DirtMin)
		assert.Equal(t, w.Max, targets.DirtMax)
	}
	assert.False(t, new(plan.Targets).Called("purple"))
	last := -100.0
	for _, w := range plan.LoudnessWords() {
		assert.Greater(t, w.LU, last)
		last = w.LU
	}
}
