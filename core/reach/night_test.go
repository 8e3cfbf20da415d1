package reach

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"envex/core/floor"
	"envex/core/plan"
)

func TestTheNightOfTheSwitchesIsCounted(t *testing.T) {
	press := func(key plan.Key) Press { return Press{Switch: key} }
	r := &Report{
		Sections: []Section{
			{Place: Place{Position: 0}}, {Place: Place{Position: 1}, RockerBlock: "wah/w"}, {Place: Place{Position: 2}},
			{Place: Place{Position: 3}},
		},
		Changes: []Change{
			{
				Place: Place{Position: 1}, Verdict: InTime, SlackS: 2, FootworkS: 0.5, Presses: []Press{press("a/s"), press("b/s")},
			},
			{
				Place: Place{Position: 2}, Verdict: InTime, SlackS: 2, FootworkS: 0.25, Presses: []Press{press("b/s")},
				Leisure: []Leisure{{Steps: []Step{{Switch: "c/s"}}}},
			},
			{
				Place: Place{Position: 3}, Verdict: InTime, SlackS: 0.4, FootworkS: 1, Presses: []Press{press("a/s"), press("b/s")},
			},
		},
	}
	n := r.Night()
	assert.Equal(t, map[plan.Key]int{"a/s": 2, "b/s": 3, "c/s": 1}, n.Presses)
	assert.Equal(t, []floor.Step{
		{From: "a/s", To: "b/s", Times: 1},
		{From: "a/s", To: "b/s", Times: 1, Hurried: true},
		{From: "wah", To: "b/s", Times: 1},
	}, n.Steps, "from the rocker the foot was on")
	assert.InDelta(t, 1.75, r.FootworkS(), 1e-12)
	r.Changes[0].Verdict = Late
	assert.Equal(
		t, []floor.Step{{From: "a/s", To: "b/s", Times: 2, Hurried: true}, {From: "wah", To: "b/s", Times: 1}},
		r.Night().Steps,
	)
}
