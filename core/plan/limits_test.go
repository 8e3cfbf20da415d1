package plan_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/demo"
)

func TestWhatIsOnBeyondThePlayersLimitIsSaid(t *testing.T) {
	p := demo.Plan()
	r, _ := p.FindRig("long")
	most := 0
	for i := range r.Recipes {
		on := len(p.GainStages(r, &r.Recipes[i]))
		most = max(most, on)
	}
	require.Equal(t, 2, most, "a lead has the boost and a drive on")
	assert.Empty(t, p.OverLimit(r), "nobody has set a limit")
	r.MostGains = &most
	assert.Empty(t, p.OverLimit(r))
	one := 1
	r.MostGains = &one
	over := p.OverLimit(r)
	assert.Equal(t, map[plan.ID]string{
		"long-lead":      "Nudge and Amber are on at once, and 1 at most are allowed",
		"long-rust-lead": "Nudge and Rust are on at once, and 1 at most are allowed",
	}, over)
}
