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

// The worst of a song is that of the changes into its own sections, the one between songs among them; a song that is
// played twice is two.
func TestTheWorstOfASongIsOfItsOwnChanges(t *testing.T) {
	at := func(position int, entry plan.ID) Section {
		return Section{Place: Place{Position: position, Entry: entry}}
	}
	sections := []Section{at(0, "a"), at(1, "a"), at(2, "b"), at(3, "b"), at(4, "b"), at(5, "c"), at(6, "d")}
	var changes []Change
	for i, v := range []Verdict{Tight, Late, ByHand, InTime, NotSet, Impossible} {
		changes = append(changes, Change{Place: Place{Position: i + 1}, Verdict: v})
	}
	assert.Equal(t, []Song{{"a", Tight}, {"b", ByHand}, {"c", NotSet}, {"d", Impossible}}, songs(sections, changes))
	assert.Equal(t, []Song{{"a", InTime}}, songs(sections[:1], nil), "the first sound of the night is no change")
	assert.Empty(t, songs(nil, nil))
	for v, fails := range map[Verdict]bool{
		InTime: false, Tight: false, NotSet: false, Late: true, ByHand: true, Impossible: true,
	} {
		assert.Equal(t, fails, v.fails(), string(v))
	}
}
