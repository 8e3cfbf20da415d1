package path

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
)

// left is where the signal leaves a rig, in words.
func left(t *testing.T, p *plan.Plan) []string {
	t.Helper()
	c, err := DeriveCables(p, "rig", "")
	require.NoError(t, err)
	require.NotNil(t, c.Sends, "an empty list is a list")
	list := []string{}
	for _, s := range c.Sends {
		words := fmt.Sprintf("%s %s", s.Name, s.Jack)
		if s.Lane != "" {
			words += " of " + s.Lane
		}
		if s.Stereo {
			words += ", both sides"
		}
		list = append(list, words+", "+s.Level)
	}
	return list
}

func TestTheSignalLeavesByTheLastOutput(t *testing.T) {
	assert.Equal(t, []string{"Amp speaker out, speaker"}, left(t, chain(3, "overdrive", "preamp", "power")))
	assert.Equal(t, []string{"delay output, instrument"}, left(t, chain(3, "overdrive", "delay")))
	assert.Equal(t, []string{}, left(t, chain(3)), "where there is nothing, nothing leaves")
	p := chain(3)
	p.Gear = append(p.Gear, plan.Gear{ID: "g", Name: "Plank", Kind: plan.Guitar})
	p.Rigs[0].Guitars = []plan.ID{"g"}
	assert.Equal(t, []string{"Plank output, instrument"}, left(t, p), "a guitar alone")
}

func TestBothSidesLeaveByAStereoOutput(t *testing.T) {
	p := chain(3, "overdrive", "delay")
	p.Gear[2].Blocks[0].Outputs = "stereo"
	assert.Equal(t, []string{"delay output, both sides, instrument"}, left(t, p))
	p.Gear[2].Blocks[0].OutLevel = "line"
	assert.Equal(t, []string{"delay output, both sides, line"}, left(t, p))
}

func TestEachLaneThatIsNotJoinedLeavesOnItsOwn(t *testing.T) {
	p := chain(3, "overdrive", "delay", "reverb")
	path := p.Rigs[0].Path
	split := &plan.Split{
		ID: "s", Kind: plan.SplitCopy, Lanes: []plan.Lane{{Name: "wet", Nodes: path[1:2]}, {Name: "room", Nodes: path[2:3]}},
	}
	p.Rigs[0].Path = []plan.Node{path[0], {Split: split}}
	assert.Equal(t, []string{"delay output of wet, instrument", "reverb output of room, instrument"}, left(t, p))
	split.Lanes[1] = plan.Lane{Name: "dry"}
	assert.Equal(
		t, []string{"delay output of wet, instrument", "overdrive output of dry, instrument"}, left(t, p),
		"a lane straight on leaves by what divides it",
	)
	split.Lanes[1] = plan.Lane{Name: "room", Nodes: path[2:3]}
	split.Join = plan.JoinSum
	assert.Equal(
		t, []string{"delay output, instrument", "reverb output, instrument"}, left(t, p), "joined by a Y lead at the house",
	)
}

func TestWhatATapFeedsIsNoWayOut(t *testing.T) {
	p := chain(3, "overdrive", "tuner", "delay")
	p.Gear[1].Jacks = []plan.Jack{{ID: "tap", Name: "tuner out"}}
	path := p.Rigs[0].Path
	p.Rigs[0].Path = []plan.Node{
		path[0],
		{Split: &plan.Split{ID: "s", Kind: plan.SplitTap, From: "overdrive0/tap", Lanes: []plan.Lane{{Nodes: path[1:2]}}}},
		path[2],
	}
	assert.Equal(t, []string{"delay output, instrument"}, left(t, p))
}
