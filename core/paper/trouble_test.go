package paper

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"envex/core/plan"
	"envex/demo"
)

func sum(t require.TestingT, figures []string) int {
	total := 0
	for _, x := range figures {
		n, err := strconv.Atoi(x)
		require.NoError(t, err)
		total += n
	}
	return total
}

func failing1(t require.TestingT, p *plan.Plan) Part {
	return partOf(t, sheet(t, p, "quay-12", FailurePlan), "If it dies")
}

func TestASoundIsLostWithTheEffectItMustHave(t *testing.T) {
	part := failing1(t, demo.Plan())
	assert.Equal(t, "Shimmer", cellOf(t, part, "Rotor", "lost"))
	assert.Equal(t, "Lead; Lead (On Rust, for Night Dredger): without its boost", cellOf(t, part, "Nudge", "changed"))
	assert.Empty(t, cellOf(t, part, "Nudge", "lost"))
	assert.Equal(t, "every sound", cellOf(t, part, "Plumb", "still there"))
	assert.Contains(t, cellOf(t, part, "Amber", "still there"), "Lead by its recipe On Rust, for Night Dredger")
	assert.Contains(t, part.Note, "77 sections")
	assert.Equal(t, "67", cellOf(t, part, "Rotor", "kept"))
	assert.Equal(t, "0", cellOf(t, part, "Rotor", "changed of it"))
	assert.Equal(t, "77", cellOf(t, part, "Bulkhead", "kept"))
	assert.Equal(t, "10", cellOf(t, part, "Bulkhead", "changed of it"), "two songs are played on it")
	assert.Equal(t, "every sound", cellOf(t, part, "Pier combo", "lost"))
	assert.Equal(t, "Swell", cellOf(t, part, "Sluice", "lost"), "it is swelled with the pedal")
}

func TestASecondBoxOfTheKindKeepsTheSound(t *testing.T) {
	p := demo.Plan()
	r, _ := p.FindRig("long")
	for i := range r.Recipes {
		if r.Recipes[i].Sound == "shimmer" {
			r.Recipes[i].Values["slap/fx/on"] = plan.On(true)
		}
	}
	part := failing1(t, p)
	assert.NotContains(t, cellOf(t, part, "Echo", "lost"), "Shimmer")
	assert.Contains(t, cellOf(t, part, "Echo", "changed"), "Shimmer: without its delay")
}

func TestTheWayRoundIsALeadFromTheBoxBeforeToTheBoxBehind(t *testing.T) {
	for name, x := range map[string]struct {
		rig, destination plan.ID
		box, way         string
	}{
		"buffered": {"long", "", "Slap", "lead from Flutter output to Echo input left"},
		"true bypass": {
			"long", "", "Nudge",
			"leave it off: true bypass passes the signal; if it does not, lead from Undertow output to Amber input",
		},
		"alone in a loop": {"bare", "", "Slap", "pull both its leads: Pier combo passes the signal by itself"},
		"switched loop":   {"switched", "", "Amber", "leave loop 3 off"},
		"the only amp":    {"long", "", "Pier combo", "to the house, as at Saloon, stereo DI"},
		"one of two amps": {"long", "long-two", "Jetty combo", "play on over the other amp, turned up"},
		"the last DI":     {"long", "long-di", "Gangway", "lead from Room output left to the house, by a DI of its own"},
		"guitar":          {"long", "", "Driftwood", "take Bulkhead"},
		"no other amp":    {"bare", "", "Pier combo", "none in this rig: have an amp or a DI to spare"},
	} {
		t.Run(name, func(t *testing.T) {
			part := failing1(t, at(t, x.rig, x.destination))
			assert.Equal(t, x.way, cellOf(t, part, x.box, "quickest way round"))
		})
	}
}

func TestADeadSupplyTakesWhatItFeedsWithIt(t *testing.T) {
	part := failing1(t, demo.Plan())
	way := cellOf(t, part, "Lantern", "quickest way round")
	assert.Contains(t, way, "batteries into Squeeze")
	assert.NotContains(t, way, "Plumb output", "it is fed by it")
	assert.Contains(t, way, "Silt output to Pier combo input", "Silt has a battery of its own")
	assert.Contains(t, cellOf(t, part, "Lantern", "lost"), "Lead")
}

func TestADeadSwitcherIsPlayedOnTheBoxesOwnSwitches(t *testing.T) {
	part := failing1(t, at(t, "switched", ""))
	way := cellOf(t, part, "Turntable", "quickest way round")
	assert.Regexp(t, `each box by its own switch: \d+ of 76 changes in time, with it \d+`, way)
	assert.Contains(t, way, "from Squeeze output to Undertow input")
	assert.NotContains(t, way, "Turntable")
}

// Whatever has failed, whoever follows the tests comes to it and to nothing else.
func TestTheTestsLeadToWhatHasFailed(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var suspects []suspect
		for i := range rapid.IntRange(2, 70).Draw(t, "suspects") {
			suspects = append(
				suspects,
				suspect{name: fmt.Sprint("S", i), odds: float64(rapid.IntRange(1, 9).Draw(t, "odds")), test: fmt.Sprint(i)},
			)
		}
		part := tests(suspects, "")
		culprit := rapid.IntRange(0, len(suspects)-1).Draw(t, "culprit")
		step, count := 0, 0
		for {
			row := part.Rows[step]
			behind, err := strconv.Atoi(row[1].Text)
			require.NoError(t, err)
			next := row[3].Text
			if culprit > behind { // the signal is still there behind it
				next = row[2].Text
			}
			count++
			to, more := strings.CutPrefix(next, "go to ")
			if !more {
				assert.Equal(t, "it is "+suspects[culprit].name, next)
				break
			}
			n, err := strconv.Atoi(to)
			require.NoError(t, err)
			require.Greater(t, n-1, step, "the steps go on down the page")
			step = n - 1
		}
		var most, all int
		var average float64
		_, err := fmt.Sscanf(
			part.Note,
			"Play, with every box on, and take the signal to an amp that works: out of a jack by a lead that works, else by the lead that is there. %d suspects: %f tests on the average, %d at the most.",
			&all, &average, &most,
		)
		require.NoError(t, err)
		assert.Equal(t, len(suspects), all)
		assert.LessOrEqual(t, count, most)
		assert.Len(t, part.Rows, len(suspects)-1)
	})
}

func TestEachTestHalvesTheOdds(t *testing.T) {
	even := []suspect{{odds: 1}, {odds: 1}, {odds: 1}, {odds: 1}}
	assert.Equal(t, 1, (&halving{suspects: even}).middle(0, 3))
	likely := []suspect{{odds: 9}, {odds: 1}, {odds: 1}, {odds: 1}}
	assert.Equal(t, 0, (&halving{suspects: likely}).middle(0, 3), "the likely one is tested alone")
	assert.Contains(t, tests(even, "").Note, "2.0 tests on the average, 2 at the most")
}

func TestWhatFailedBeforeIsSuspectedFirst(t *testing.T) {
	p := demo.Plan()
	for i := range p.Shows {
		p.Shows[i].Faults = nil
	}
	p.Shows[1].Faults = []plan.Fault{
		{Text: "Crackled", Gear: "amber", Lead: true}, {Text: "Crackled again", Gear: "amber", Lead: true},
	}
	part := partOf(t, sheet(t, p, "quay-12", FaultFinding), "Suspects, the likeliest first")
	assert.Equal(t, "the lead from Nudge output to Amber input", part.Rows[0][0].Text)
	assert.Equal(t, "a patch lead, failed 2 times before", part.Rows[0][2].Text)
	p.Shows[1].Faults = []plan.Fault{{Text: "Died", Gear: "amber"}}
	part = partOf(t, sheet(t, p, "quay-12", FaultFinding), "Suspects, the likeliest first")
	assert.Equal(t, "a box, failed once before", cellOf(t, part, "Amber", "because"))
	assert.NotContains(t, cellOf(t, part, "the lead from Nudge output to Amber input", "because"), "failed")
}

func TestEachWayOutHasTestsOfItsOwn(t *testing.T) {
	s := sheet(t, at(t, "long", "long-two"), "quay-12", FaultFinding)
	left, right := partOf(t, s, "Where to test, stage left"), partOf(t, s, "Where to test, stage right")
	says := func(p Part) string { return strings.Join(cells(t, p, "take it at"), "\n") }
	assert.Contains(t, says(left), "Pier combo")
	assert.NotContains(t, says(left), "Jetty")
	assert.Contains(t, says(right), "Jetty combo")
	assert.NotContains(t, says(right), "Pier")
	assert.Contains(t, says(right), "Nudge", "what both go through is suspected in both")
}

func TestAPreampInAPedalIsAnEffectAndNoAmp(t *testing.T) {
	p := demo.Plan()
	rust, _ := p.FindGear("rust")
	rust.Blocks[0].Effect = plan.EffectPreamp
	part := failing1(t, p)
	assert.Empty(t, cellOf(t, part, "Rust", "lost"))
	assert.Contains(t, cellOf(t, part, "Rust", "changed"), "without its preamp")
	assert.Equal(t, "every sound", cellOf(t, part, "Pier combo", "lost"), "nor does it stand in for one")
}

func TestHeadphonesAreNoWayRoundAnAmp(t *testing.T) {
	p := demo.Plan()
	r, _ := p.FindRig("long")
	for i := range r.Destinations {
		if r.Destinations[i].TakesNoAmp() {
			r.Destinations[i].Kind = plan.Headphones
		}
	}
	assert.Equal(
		t, "none in this rig: have an amp or a DI to spare", cellOf(t, failing1(t, p), "Pier combo", "quickest way round"),
	)
}

func TestPastTwoBoxesOfALoopTheAmpIsLeftToItself(t *testing.T) {
	p := at(t, "bare", "")
	r, _ := p.FindRig("bare")
	moveTo := func(key, before plan.Key) {
		i := indexOf(r.Path, key)
		n := r.Path[i]
		r.Path = append(r.Path[:i:i], r.Path[i+1:]...)
		k := indexOf(r.Path, before)
		r.Path = append(r.Path[:k:k], append([]plan.Node{n}, r.Path[k:]...)...)
	}
	moveTo("flutter/fx", "slap/fx")
	r.PowerPlan = []plan.PowerFeed{{Supply: "buoy", Output: "1", Gear: []plan.ID{"flutter", "slap"}}}
	require.Empty(t, p.Validate())
	assert.Contains(
		t, cellOf(t, failing1(t, p), "Buoy", "quickest way round"),
		"pull both its leads: Pier combo passes the signal by itself",
	)
}

func indexOf(path []plan.Node, key plan.Key) int {
	for i, n := range path {
		if n.Stop == key {
			return i
		}
	}
	return -1
}

func TestWithoutItsOnlyGuitarWhatIsPlayedOnAnotherIsKept(t *testing.T) {
	p := demo.Plan()
	r, _ := p.FindRig("long")
	r.Guitars = r.Guitars[:1]
	part := failing1(t, p)
	assert.Equal(t, "10", cellOf(t, part, "Driftwood", "kept"), "two songs are on a guitar that is not this one")
	assert.Equal(t, "none in this rig: have a guitar to spare", cellOf(t, part, "Driftwood", "quickest way round"))
}

func TestEveryLaneIsInAWayOutAndATapInNone(t *testing.T) {
	stop := func(key plan.Key) plan.Node { return plan.Node{Stop: key} }
	lane := func(name string, nodes ...plan.Node) plan.Lane { return plan.Lane{Name: name, Nodes: nodes} }
	split := func(s plan.Split) plan.Node { return plan.Node{Split: &s} }
	tap := split(plan.Split{ID: "t", Kind: plan.SplitTap, Lanes: []plan.Lane{lane("tuner", stop("plumb/fx"))}})
	inner := split(
		plan.Split{
			ID: "i", Kind: plan.SplitCopy, Lanes: []plan.Lane{lane("wet", stop("room/fx")), lane("", stop("slap/fx"))},
		},
	)
	outer := split(
		plan.Split{
			ID: "o", Kind: plan.SplitCopy, Lanes: []plan.Lane{lane("left", stop("a/fx"), inner), lane("right", stop("b/fx"))},
		},
	)
	m := &maker{
		plan: &plan.Plan{Gear: []plan.Gear{{ID: "plumb", Blocks: []plan.Block{{ID: "fx", Effect: plan.EffectTuner}}}}},
	}
	lines := m.linesOf([]plan.Node{stop("first/fx"), tap, outer, split(plan.Split{ID: "e", Kind: plan.SplitCopy})})
	assert.Len(t, m.linesOf([]plan.Node{stop("first/fx")}), 1)
	var names []string
	for _, l := range lines {
		names = append(names, l.name)
		assert.True(t, l.off["plumb/fx"], "what a tap feeds is no way out: %s", l.name)
		assert.False(t, l.off["first/fx"])
	}
	assert.Equal(t, []string{"wet", "lane 2", "right"}, names, "by the lane they end in")
	assert.Equal(t, map[plan.Key]bool{"plumb/fx": true, "b/fx": true, "slap/fx": true}, lines[0].off)
	assert.Equal(t, map[plan.Key]bool{"plumb/fx": true, "b/fx": true, "room/fx": true}, lines[1].off)
	assert.Equal(t, map[plan.Key]bool{"plumb/fx": true, "a/fx": true, "room/fx": true, "slap/fx": true}, lines[2].off)
}

// A pedal that is at home can stand in for one that dies, what does the same before what is like it; a tuner is missed
// by no sound.
func TestTheFailurePlanNamesWhatCanStandIn(t *testing.T) {
	p := demo.Plan()
	r, _ := p.FindRig("carry")
	amber, _ := p.FindGear("amber")
	plain, spare := *amber, *amber
	plain.ID, plain.Name, spare.ID, spare.Name = "silt-two", "Silt two", "amber-two", "Amber two"
	plain.Blocks = slices.Clone(amber.Blocks)
	plain.Blocks[0].Effect, plain.Blocks[0].Model, plain.Blocks[0].ModelAt = plan.EffectFuzz, "", nil
	p.Put(plain)
	p.Put(spare)
	require.Contains(t, r.GearIn(), plan.ID("amber"))
	show, _ := p.FindShow("quay-12")
	carried := *show
	carried.Rig, carried.Destination = "carry", ""
	p.Put(carried)
	part := failing1(t, p)
	assert.Regexp(t, "^Amber two", cellOf(t, part, "Amber", "owned, can stand in"))
	assert.Contains(t, cellOf(t, part, "Amber", "owned, can stand in"), "Silt two")
	assert.Empty(t, cellOf(t, part, "Plumb", "owned, can stand in"))
}
