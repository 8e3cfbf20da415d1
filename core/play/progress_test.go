package play

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
)

func TestProgressAndDrills(t *testing.T) {
	score := func(position int, o Outcome) Score {
		return Score{Position: position, Section: plan.ID(rune('a' + position)), Outcome: o}
	}
	list := []Kept{
		{Day: "2026-11-02", Scores: []Score{score(1, Made), score(2, Missed), score(3, Made)}},
		{Day: "2026-11-01", Scores: []Score{score(1, Made), score(2, Late), score(3, Missed)}},
		{Day: "2026-11-02", Scores: []Score{score(2, Made)}},
	}
	over := Over(list)
	require.Len(t, over, 3)
	assert.Equal(t, []int{2, 3, 1}, []int{over[0].Position, over[1].Position, over[2].Position})
	assert.Equal(t, []Day{{"2026-11-01", 1, 0}, {"2026-11-02", 2, 1}}, over[0].Days)
	drill := Drill(list)
	require.Len(t, drill, 2, "what is always made needs no drill")
	assert.Empty(t, Drill(nil))
}
