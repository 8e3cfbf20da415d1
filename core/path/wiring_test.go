package path

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
)

// cabled lists the cables of a rig in short.
func cabled(t *testing.T, p *plan.Plan, destination plan.ID) []string {
	t.Helper()
	require.Empty(t, p.Validate())
	c, err := DeriveCables(p, "rig", destination)
	require.NoError(t, err)
	list := []string{}
	for _, r := range c.Runs {
		more := ""
		if r.Stereo {
			more += " stereo"
		}
		if r.Level != instrument {
			more += " " + r.Level
		}
		if r.YLead {
			more += " Y"
		}
		list = append(list, fmt.Sprintf("%s %s > %s %s%s", r.From.Name, r.From.Jack, r.To.Name, r.To.Jack, more))
	}
	return list
}

func TestCablesOfLanesAndLoops(t *testing.T) {
	cases := map[string]struct {
		destination plan.ID
		want        []string
	}{
		"04-volume-before-the-drives-tuner-on-its-tap": {"", []string{
			"Driftwood output > Squeeze input", "Squeeze output > Sluice input", "Sluice tuner out > Plumb input",
			"Sluice output > Amber input",
			"Amber output > Rust input", "Rust output > Echo input", "Echo output > Pier combo input",
		}},
		"05-a-dual-drive": {"", []string{
			"Driftwood output > Plumb input", "Plumb output > Twin input", "Twin output > Echo input",
			"Echo output > Pier combo input",
		}},
		"06-a-loop-switcher": {"", []string{
			"Driftwood output > Plumb input", "Plumb output > Squeeze input", "Squeeze output > Turntable input",
			"Turntable send 1 > Undertow input", "Undertow output > Turntable return 1",
			"Turntable send 2 > Amber input", "Amber output > Turntable return 2",
			"Turntable send 3 > Rust input", "Rust output > Turntable return 3",
			"Turntable insert send > Sluice input", "Sluice output > Turntable insert return",
			"Turntable send 4 > Flutter input", "Flutter output > Turntable return 4",
			"Turntable send 5 > Echo input", "Echo output > Turntable return 5",
			"Turntable output > Pier combo input",
		}},
		"07-two-reverbs-in-parallel": {"", []string{
			"Driftwood output > Amber input", "Amber output > Echo input", "Echo output > Raft input",
			"Raft output 1 > Room input", "Raft output 2 > Vault input", "Room output > Raft input 1",
			"Vault output > Raft input 2",
			"Raft output > Pier combo input",
		}},
		"08-a-wet-lane-with-dwell-beside-a-dry-lane": {"", []string{
			"Driftwood output > Amber input", "Amber output > Raft input", "Raft output 2 > Nudge input",
			"Nudge output > Spring input",
			"Spring output > Raft input 2", "Raft output > Pier combo input",
		}},
		"10-mono-until-a-ping-pong-delay-then-two-amps": {"", []string{
			"Driftwood output > Plumb input", "Plumb output > Amber input", "Amber output > Flutter input",
			"Flutter output > Pong input",
			"Pong output > Grotto input stereo", "Grotto output left > Pier combo input",
			"Grotto output right > Jetty combo input",
		}},
		"12-a-multi-effect-by-four-cables": {"", []string{
			"Driftwood output > Plumb input", "Plumb output > Lagoon input", "Lagoon send > Hired head input",
			"Hired head send > Lagoon return",
			"Lagoon output > Hired head return", "Hired head speaker out > Crate input speaker",
		}},
		"13-a-piezo-on-a-path-of-its-own": {"", []string{
			"Driftwood piezo out > Acorn input", "Acorn output > Line input", "Driftwood output > Wave input",
			"Wave output > Amber input",
			"Amber output > Echo input", "Echo output > Pier combo input",
		}},
		"11-a-cab-simulator-before-the-time-effects-and-a-stereo-di": {"two", []string{
			"Driftwood output > Plumb input", "Plumb output > Amber input", "Amber output > Pong input",
			"Pong output > Grotto input stereo",
			"Grotto output left > Pier combo input", "Grotto output right > Jetty combo input",
		}},
	}
	for name, c := range cases {
		t.Run(name, func(t *testing.T) {
			assert.Equal(t, c.want, cabled(t, fromFile(t, name), c.destination))
		})
	}
}

func TestYLeadsAreSaid(t *testing.T) {
	p := fromFile(t, "07-two-reverbs-in-parallel")
	s := p.Rigs[0].Path[2].Split
	s.From, s.To = "", ""
	assert.Equal(t, []string{
		"Echo output > Room input Y", "Echo output > Vault input Y", "Room output > Pier combo input Y",
		"Vault output > Pier combo input Y",
	}, cabled(t, p, "")[2:])
}

func TestSidesGoIntoTheirOwnInputs(t *testing.T) {
	p := fromFile(t, "10-mono-until-a-ping-pong-delay-then-two-amps")
	p.Rigs[0].Path = []plan.Node{{Stop: "pong/fx"},
		{Split: &plan.Split{ID: "sides", Kind: plan.SplitLeftRight, Join: plan.JoinStereo, Lanes: []plan.Lane{
			{Nodes: []plan.Node{{Stop: "amber/fx"}}}, {Nodes: []plan.Node{{Stop: "flutter/fx"}}}}}}, {Stop: "grotto/fx"}}
	assert.Equal(t, []string{
		"Pong output left > Amber input", "Pong output right > Flutter input", "Amber output > Grotto input left",
		"Flutter output > Grotto input right",
	}, cabled(t, p, "")[1:])
}
