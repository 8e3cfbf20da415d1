package paper

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/demo"
)

func TestTheWalkGoesThroughEveryLane(t *testing.T) {
	s := sheet(t, at(t, "long", "long-two"), "quay-12", Walk)
	part := s.Parts[0]
	where, what := cells(t, part, "where"), cells(t, part, "what")
	left, right := slices.Index(what, "Pier combo preamp"), slices.Index(what, "Jetty combo preamp")
	require.Positive(t, left)
	require.Greater(t, right, left, "one lane after the other")
	assert.Equal(t, "amp", where[left])
	assert.Contains(t, cells(t, part, "by")[right], "from Room output right to input")
}

func TestALaneWithNothingInItIsSaidToGoStraightOn(t *testing.T) {
	p := demo.Plan()
	r, _ := p.FindRig("long")
	i := slices.IndexFunc(r.Path, func(n plan.Node) bool { return n.Stop == "slap/fx" })
	r.Path[i] = plan.Node{
		Split: &plan.Split{
			ID: "par", Kind: plan.SplitCopy, Join: plan.JoinSum,
			Lanes: []plan.Lane{{Name: "wet", Nodes: []plan.Node{{Stop: "slap/fx"}}}, {}},
		},
	}
	require.Empty(t, p.Validate())
	part := sheet(t, p, "quay-12", Walk).Parts[0]
	what, where := cells(t, part, "what"), cells(t, part, "where")
	assert.Equal(t, "wet", where[slices.Index(what, "Slap")])
	assert.Equal(t, "lane 2", where[slices.Index(what, "straight on")])
	patch := partOf(t, sheet(t, p, "quay-12", PatchList), "From jack to jack")
	assert.Contains(t, strings.Join(cells(t, patch, "note"), ";"), "Y lead")
}

func TestWhatDividesAndJoinsIsWalkedBeforeAndBehindItsLanes(t *testing.T) {
	p := demo.Plan()
	p.Gear = append(p.Gear, plan.Gear{ID: "fork", Name: "Fork", Kind: plan.Interface, Blocks: []plan.Block{
		{ID: "split", Name: "split", Effect: plan.EffectSplitter, Bypass: plan.AlwaysOn},
		{ID: "mix", Name: "mix", Effect: plan.EffectMixer, Bypass: plan.AlwaysOn},
	}})
	r, _ := p.FindRig("long")
	i := slices.IndexFunc(r.Path, func(n plan.Node) bool { return n.Stop == "rust/fx" })
	r.Path[i] = plan.Node{
		Split: &plan.Split{
			ID: "par", Kind: plan.SplitCopy, From: "fork/split", To: "fork/mix", Join: plan.JoinSum,
			Lanes: []plan.Lane{{Nodes: []plan.Node{{Stop: "rust/fx"}}}, {Name: "dry"}},
		},
	}
	require.Empty(t, p.Validate())
	what := cells(t, sheet(t, p, "quay-12", Walk).Parts[0], "what")
	order := []int{
		slices.Index(what, "Fork split"), slices.Index(what, "Rust"), slices.Index(what, "straight on"),
		slices.Index(what, "Fork mix"),
	}
	assert.True(t, slices.IsSorted(order), "%v", order)
	assert.Positive(t, order[0])
	way := cellOf(t, failing1(t, p), "Fork", "quickest way round")
	assert.Contains(t, way, "Amber output to Rust input", "without it the first lane that has anything in it goes on")
}

func TestSnapshotsStandUnderTheirPresets(t *testing.T) {
	p := demo.Plan()
	echo, _ := p.FindGear("echo")
	echo.Controls = append(
		echo.Controls,
		plan.Control{ID: "shot", Name: "snapshot", Kind: plan.Snapshot, Access: plan.Foot, Options: []string{"1", "2"}},
	)
	r, _ := p.FindRig("long")
	r.Snapshots = plan.SnapshotMap{
		"echo": {"B": {"2": {"echo/fx/time": plan.Number(420), "echo/fx/mix": plan.Unchanged()}}},
	}
	require.Empty(t, p.Validate())
	part := partOf(t, sheet(t, p, "quay-12", SettingSheet), "Echo")
	assert.Equal(t, "420 ms", cellOf(t, part, "preset B, snapshot 2", "time"))
	assert.Empty(t, cellOf(t, part, "preset B, snapshot 2", "mix"), "unchanged is left as it is")
}

func TestWhatIsWrongWithTheLineStandsOnTheMap(t *testing.T) {
	p := at(t, "switched", "")
	r, _ := p.FindRig("switched")
	var switcher plan.ID
	for _, n := range r.Path {
		if n.Switcher != "" {
			switcher = n.Switcher
		}
	}
	r.Programs = plan.ProgramMap{
		switcher: {
			"1": {
				"1": {Label: "x", Values: map[plan.Key]plan.Value{"echo/fx/preset": plan.Text("B"), "amber/fx/on": plan.On(false)}},
			},
		},
	}
	r.MIDI = []plan.MIDILink{{Controller: switcher, Gear: "echo", Channel: 3}}
	room, _ := p.FindGear("room")
	room.MIDI = &plan.MIDIPort{Channel: 3}
	require.Empty(t, p.Validate())
	s := sheet(t, p, "quay-12", MIDIMap)
	wrong := partOf(t, s, "Not right yet")
	assert.Contains(t, strings.Join(cells(t, wrong, "why"), " "), "What is meant for one moves the other too.")
	assert.Equal(t, []string{"none"}, cells(t, partOf(t, s, "Programs"), "loops on"))
}

func TestALeadThatWasMeasuredIsNoLongerAssumed(t *testing.T) {
	p := demo.Plan()
	notes := func() []string {
		return cells(t, partOf(t, sheet(t, p, "quay-12", PatchList), "From jack to jack"), "note")
	}
	before := notes()
	r, _ := p.FindRig("long")
	length := 5.5
	r.Leads = append(r.Leads, plan.Lead{From: "rotor/fx", To: "pier/preamp", LengthM: &length})
	require.Empty(t, p.Validate())
	after := notes()
	i := slices.Index(before, "length assumed")
	require.GreaterOrEqual(t, i, 0)
	assert.Empty(t, after[i])
	assert.Equal(t, "5.50", cells(t, partOf(t, sheet(t, p, "quay-12", PatchList), "From jack to jack"), "length m")[i])
}

func TestASongsNotesAreReadBeforeTheCountIn(t *testing.T) {
	p := demo.Plan()
	p.Songs[0].Notes = "Wait for the ferry horn."
	assert.Equal(t, "104 bpm, Wait for the ferry horn.", sheet(t, p, "quay-12", SetSheet).Parts[0].Note)
	p.Sounds[0].Short = ""
	assert.Equal(
		t, "Home", sheet(t, p, "quay-12", SetSheet).Parts[0].Rows[0][2].Text, "a sound without letters goes by its name",
	)
}

func TestAThingOfNoKnownCircuitGoesByItsKind(t *testing.T) {
	p := demo.Plan()
	amber, _ := p.FindGear("amber")
	amber.Circuit, amber.Colour = "", ""
	part := partOf(t, sheet(t, p, "quay-12", LoadOut), "To carry")
	assert.Equal(t, "pedal", cellOf(t, part, "Amber", "kind"))
	assert.Equal(t, "pedal", partOf(t, sheet(t, p, "quay-12", SettingSheet), "Amber").Note)
	what := sheet(t, p, "quay-12", Walk).Parts[0]
	i := slices.Index(cells(t, what, "what"), "Amber")
	assert.Equal(t, "overdrive", cells(t, what, "what it is")[i])
}
