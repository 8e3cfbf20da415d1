package electric

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/path"
	"envex/core/plan"
)

// fedBoard is a plan with one supply and boxes in a row.
func fedBoard(outputs []plan.PowerOutput, boxes ...plan.Gear) *plan.Plan {
	p := bench(boxes...)
	for i := range outputs {
		if outputs[i].ID == "" {
			outputs[i].ID = plan.ID(fmt.Sprint(i + 1))
		}
	}
	p.Gear = append(
		p.Gear, plan.Gear{ID: "supply", Name: "Supply", Kind: plan.Supply, Supply: &plan.PowerSupply{Outputs: outputs}},
	)
	return p
}

func gives(ma float64, volts ...float64) plan.PowerOutput {
	return plan.PowerOutput{Voltages: volts, CurrentMA: ma}
}

func wants(id plan.ID, volts, ma float64, change ...func(*plan.Gear)) plan.Gear {
	g := box(id, plan.EffectChorus, plan.TrueBypass)
	g.Power = &plan.PowerDraw{Voltage: volts, Current: &ma}
	for _, f := range change {
		f(&g)
	}
	return g
}

func digital(g *plan.Gear)  { g.Power.Digital = true }
func battery(g *plan.Gear)  { g.Power.Battery = true }
func positive(g *plan.Gear) { g.Power.Polarity = "centre-positive" }
func withGain(g *plan.Gear) { g.Blocks[0].Effect = plan.EffectOverdrive }
func alternating(g *plan.Gear) {
	g.Power.AC = true
}

func feedRig(t require.TestingT, p *plan.Plan) *Power {
	require.Empty(t, p.Validate())
	r, err := FeedRig(p, "rig", "")
	require.NoError(t, err)
	return r
}

func rules(list []path.Finding) []string {
	var words []string
	for _, f := range list {
		words = append(words, f.Rule)
	}
	return words
}

func TestEachLoadGetsAnOutputThatFits(t *testing.T) {
	p := fedBoard([]plan.PowerOutput{
		gives(100, 9), gives(500, 9, 12, 18), {Voltages: []float64{9}, CurrentMA: 1000, AC: true}, gives(300, 9),
	},
		wants("drive", 9, 20), wants("echo", 9, 250), wants("wide", 18, 40), wants("old", 9, 800, alternating))
	a := feedRig(t, p).Assignment
	assert.Empty(t, a.Unserved)
	assert.True(t, a.Proven)
	got := map[plan.ID]plan.PowerFeed{}
	for _, f := range a.Feeds {
		for _, g := range f.Gear {
			got[g] = f
		}
	}
	assert.Equal(t, plan.ID("2"), got["wide"].Output)
	assert.Equal(t, 18.0, *got["wide"].Voltage)
	assert.Equal(t, plan.ID("3"), got["old"].Output)
	assert.Equal(t, plan.ID("4"), got["echo"].Output, "300 mA is the least that has 250 with a fifth in hand: exactly")
	assert.Equal(t, plan.ID("1"), got["drive"].Output)
	assert.InDelta(t, 1-250.0/300, a.Least, 1e-9)
}

func TestAFailureIsExplained(t *testing.T) {
	for name, c := range map[string]struct {
		outputs []plan.PowerOutput
		load    plan.Gear
		why     string
		would   string
	}{
		"voltage": {
			[]plan.PowerOutput{gives(500, 9)}, wants("x", 18, 40), "no output gives 18 V",
			"one more isolated output of 18 V centre-negative, 50 mA or more",
		},
		"current": {
			[]plan.PowerOutput{gives(300, 9)}, wants("x", 9, 300),
			"it draws 300 mA, and with 20 % in reserve the strongest output that fits gives 250 mA", "360 mA or more",
		},
		"AC": {[]plan.PowerOutput{gives(500, 9)}, wants("x", 9, 300, alternating), "no output gives AC", "9 V AC"},
		"polarity": {
			[]plan.PowerOutput{gives(500, 9)}, wants("x", 9, 30, positive),
			"wrong polarity: x is centre-positive, the output centre-negative",
			"a polarity-reversing lead, from an isolated output",
		},
		"battery": {
			[]plan.PowerOutput{gives(500, 18)}, wants("x", 9, 10, battery), "no output gives 9 V", "its battery: about 50 hours",
		},
		"nothing": {nil, wants("x", 9, 10), "no supply with outputs is owned", "9 V centre-negative"},
		"connector": {
			[]plan.PowerOutput{gives(500, 9)}, wants("x", 9, 30, func(g *plan.Gear) { g.Power.Connector = "3.5 mm tip" }),
			"x has a 3.5 mm tip, the output a 2.1 mm barrel", "with a 3.5 mm tip",
		},
	} {
		m := feedRig(t, fedBoard(c.outputs, c.load)).Assignment.Unserved
		require.Len(t, m, 1, name)
		assert.Equal(t, c.why, m[0].Why, name)
		assert.Contains(t, strings.Join(m[0].Would, "; "), c.would, name)
	}
}

func TestADrawThatIsOnlyUsualSaysSo(t *testing.T) {
	usual := func(g *plan.Gear) { *g = g.Assuming() }
	p := fedBoard([]plan.PowerOutput{gives(100, 9), gives(100, 9)}, wants("drive", 9, 20, usual), wants("echo", 9, 90))
	assert.Equal(t, []string{"20 mA is what boxes like drive draw; read its label."}, feedRig(t, p).Assumed)
	p.Gear[slices.IndexFunc(p.Gear, func(g plan.Gear) bool { return g.ID == "drive" })].Power.Current = ptr(24.0)
	assert.Empty(t, feedRig(t, p).Assumed, "it was read off")
}

func TestContestedOutputsNameTheirTakers(t *testing.T) {
	m := feedRig(
		t, fedBoard([]plan.PowerOutput{gives(500, 9), gives(100, 9)}, wants("a", 9, 300), wants("b", 9, 310, battery)),
	).Assignment.Unserved
	require.Len(t, m, 1)
	assert.Equal(t, plan.ID("b"), m[0].Gear, "the one with a battery is left")
	assert.Equal(t, "the one output that could feed it feeds a", m[0].Why)
	assert.NotContains(t, m[0].Would, "allowing daisy chains", "one output has not enough for both")
}

func TestDoublingAndReversingLeads(t *testing.T) {
	p := fedBoard(
		[]plan.PowerOutput{gives(300, 9), gives(300, 9), gives(100, 9), gives(100, 9), gives(100, 9)}, wants("big", 9, 450),
		wants("wide", 18, 60), wants("plus", 9, 5, positive),
	)
	supply := &p.Gear[len(p.Gear)-1]
	assert.Equal(t, 0, feedRig(t, p).Assignment.Served)
	supply.Supply.Doubles = []string{plan.CurrentDoubling, plan.VoltageDoubling}
	p.Rigs[0].PowerLeads = []string{plan.CurrentDoubling, plan.VoltageDoubling, plan.Reversing}
	r := feedRig(t, p)
	assert.Empty(t, r.Assignment.Unserved)
	assert.Equal(t, 3, r.Assignment.Leads)
	p.Rigs[0].PowerPlan = r.Assignment.Feeds
	assert.Empty(t, feedRig(t, p).Findings, "what is assigned has nothing against it")
	supply.Supply.Doubles = nil
	assert.Contains(t, rules(feedRig(t, p).Findings), "doubling")
}

func TestDaisyChains(t *testing.T) {
	p := fedBoard(
		[]plan.PowerOutput{gives(500, 9), gives(500, 9)}, wants("drive", 9, 20, withGain), wants("fuzz", 9, 5, withGain),
		wants("tuner", 9, 40, digital), wants("plus", 9, 5, positive),
	)
	assert.Len(t, feedRig(t, p).Assignment.Unserved, 2)
	p.Rigs[0].PowerLeads = []string{plan.DaisyChain}
	a := feedRig(t, p).Assignment
	require.Len(t, a.Unserved, 1)
	assert.Equal(t, plan.ID("plus"), a.Unserved[0].Gear, "a positive ground never shares")
	assert.Equal(t, 1, a.Shared)
	for _, f := range a.Feeds {
		assert.False(t, slices.Contains(f.Gear, "tuner") && len(f.Gear) > 1, "digital does not share with gain")
	}
}

func TestDangersOfTheFeedsAsTheyStand(t *testing.T) {
	feed := func(output plan.ID, ids ...plan.ID) []plan.PowerFeed {
		return []plan.PowerFeed{{Supply: "supply", Output: output, Gear: ids}}
	}
	outputs := []plan.PowerOutput{
		gives(100, 9), gives(100, 18), {Voltages: []float64{9}, CurrentMA: 100, AC: true}, gives(100, 9),
	}
	outputs[3].Polarity = "centre-positive"
	for name, c := range map[string]struct {
		load   plan.Gear
		output plan.ID
		rule   string
		harm   bool
	}{
		"fits":         {wants("x", 9, 20), "1", "", false},
		"too high":     {wants("x", 9, 20), "2", "harm", true},
		"AC into DC":   {wants("x", 9, 20), "3", "harm", true},
		"polarity":     {wants("x", 9, 20), "4", "harm", true},
		"too low":      {wants("x", 18, 20), "1", "unfit", false},
		"DC into AC":   {wants("x", 9, 20, alternating), "1", "unfit", false},
		"takes 9 - 18": {wants("x", 9, 20, func(g *plan.Gear) { g.Power.Highest = ptr(18.0) }), "2", "", false},
		"overdrawn":    {wants("x", 9, 90), "1", "overdrawn", false},
	} {
		p := fedBoard(slices.Clone(outputs), c.load)
		p.Rigs[0].PowerPlan = feed(c.output, "x")
		p.Rigs[0].Settled = []plan.IgnoredFinding{{Finding: "power:harm:x", Reason: "it is fine"}}
		r := feedRig(t, p)
		if c.rule == "" {
			assert.Empty(t, r.Findings, name)
			continue
		}
		require.Len(t, r.Findings, 1, name)
		assert.Equal(t, c.rule, r.Findings[0].Rule, name)
		if c.harm {
			assert.Equal(t, path.Danger, r.Findings[0].Gravity, name)
			assert.NotEmpty(t, r.Findings[0].Caution, name)
			assert.Empty(t, r.Findings[0].Settled, "a danger cannot be kept")
		}
		i := slices.IndexFunc(r.Loads[0].Choices, func(x Choice) bool { return x.Output == c.output })
		assert.Equal(t, c.harm, r.Loads[0].Choices[i].Verdict == Harmful, name)
	}
}

func TestChainsThatClashAndSharedGrounds(t *testing.T) {
	p := fedBoard(
		[]plan.PowerOutput{gives(500, 9), gives(500, 9)}, wants("drive", 9, 20, withGain), wants("echo", 9, 200, digital),
	)
	p.Rigs[0].PowerPlan = []plan.PowerFeed{{Supply: "supply", Output: "1", Gear: []plan.ID{"drive", "echo"}}}
	assert.Equal(t, []string{"daisy-clash"}, rules(feedRig(t, p).Findings))
	s := p.Gear[len(p.Gear)-1].Supply
	p.Rigs[0].PowerPlan = []plan.PowerFeed{
		{Supply: "supply", Output: "1", Gear: []plan.ID{"drive"}}, {Supply: "supply", Output: "2", Gear: []plan.ID{"echo"}},
	}
	assert.Empty(t, feedRig(t, p).Findings)
	s.Outputs[0].Shared, s.Outputs[1].Shared = true, true
	assert.Equal(t, []string{"shared-ground"}, rules(feedRig(t, p).Findings))
	s.Outputs[0].Shared, s.Outputs[1].Shared, s.TotalMA = false, false, ptr(250.0)
	assert.Equal(t, []string{"supply-overdrawn"}, rules(feedRig(t, p).Findings))
}

func TestBatteriesHaveHoursLeft(t *testing.T) {
	p := fedBoard([]plan.PowerOutput{gives(100, 9)}, wants("fuzz", 9, 2, battery), wants("drive", 9, 20))
	p.Rigs[0].Batteries = []plan.BatteryUse{{Gear: "fuzz", CapacityMAH: ptr(400.0), UsedH: ptr(150.0)}}
	r := feedRig(t, p)
	assert.InDelta(t, 50, *r.Loads[0].HoursLeft, 1e-9)
	assert.Equal(t, "battery", r.Loads[0].Fed)
	assert.Equal(t, []string{"unfed"}, rules(r.Findings))
	assert.Empty(t, r.Assignment.Unserved)
	assert.Equal(t, 1, r.Assignment.Served)
	p.Rigs[0].Batteries[0].UsedH = ptr(196.0)
	assert.Contains(t, rules(feedRig(t, p).Findings), "battery")
}

func TestAValveAmpBringsItsCaution(t *testing.T) {
	p := fedBoard([]plan.PowerOutput{gives(100, 9)}, wants("x", 9, 20))
	assert.Len(t, feedRig(t, p).Cautions, 3)
	p.Gear[1].Kind, p.Gear[1].SpeakerOut = plan.Amp, &plan.SpeakerOut{Internal: true, Valve: true}
	p.Gear[1].Blocks = []plan.Block{
		{ID: "preamp", Name: "preamp", Effect: plan.EffectPreamp, Bypass: plan.AlwaysOn},
		{ID: "fx", Name: "power", Effect: plan.EffectPower, Bypass: plan.AlwaysOn},
	}
	assert.Contains(t, strings.Join(feedRig(t, p).Cautions, " "), "lethal voltage")
}

func TestPinnedFeedsStay(t *testing.T) {
	p := fedBoard([]plan.PowerOutput{gives(500, 9), gives(100, 9)}, wants("big", 9, 300), wants("small", 9, 10))
	p.Rigs[0].PowerPlan = []plan.PowerFeed{{Supply: "supply", Output: "1", Gear: []plan.ID{"small"}, Pinned: true}}
	a := feedRig(t, p).Assignment
	assert.Equal(t, p.Rigs[0].PowerPlan[0], a.Feeds[0])
	require.Len(t, a.Unserved, 1)
	assert.Equal(t, plan.ID("big"), a.Unserved[0].Gear)
}

func TestAFullBoardIsAssignedWithProof(t *testing.T) {
	var outs []plan.PowerOutput
	for i := range 12 {
		outs = append(outs, gives([]float64{100, 100, 300, 500}[i%4], 9))
	}
	var loads []plan.Gear
	for i := range 16 {
		g := wants(plan.ID(fmt.Sprintf("load%d", i)), 9, []float64{5, 20, 40, 100, 250}[i%5])
		g.Power.Digital = i%5 > 2
		if !g.Power.Digital {
			withGain(&g)
		}
		loads = append(loads, g)
	}
	p := fedBoard(outs, loads...)
	a := feedRig(t, p).Assignment
	assert.Len(t, a.Unserved, 4)
	assert.True(t, a.Proven)
	p.Rigs[0].PowerLeads = []string{plan.DaisyChain}
	a = feedRig(t, p).Assignment
	assert.Empty(t, a.Unserved)
	assert.Equal(t, 4, a.Shared)
	t.Log(a.Proven, a.Least)
}

func TestHarmIsRefusedOnceAndNotWhenItWasThere(t *testing.T) {
	p := fedBoard([]plan.PowerOutput{gives(100, 9, 18), gives(100, 9)}, wants("x", 9, 20), wants("y", 9, 20, positive))
	next := p.Rigs[0]
	next.PowerPlan = []plan.PowerFeed{
		{Supply: "supply", Output: "2", Gear: []plan.ID{"x"}},
		{Supply: "supply", Output: "1", Voltage: ptr(18.0), Gear: []plan.ID{"x"}},
	}
	harm := Harm(p, next)
	require.Len(t, harm, 1)
	assert.Equal(t, "power[1]", harm[0].Path)
	assert.Contains(t, harm[0].Message, "18 V into x")
	next.PowerPlan = []plan.PowerFeed{{Supply: "supply", Output: "2", Gear: []plan.ID{"x", "y"}}}
	assert.Len(t, Harm(p, next), 2, "the wrong polarity, and a chain of both")
	p.Rigs[0].PowerPlan = next.PowerPlan
	assert.Empty(t, Harm(p, next), "other changes of the rig go on")
	next.PowerPlan = []plan.PowerFeed{{Supply: "gone", Output: "2", Gear: []plan.ID{"x"}}}
	assert.Empty(t, Harm(p, next))
}

// Exactly the reserve is enough, and exactly what an output gives is not more than it gives.
func TestWhatIsDrawnIsHeldAgainstTheReserve(t *testing.T) {
	about := func(draws float64) (title string, left float64) {
		p := fedBoard([]plan.PowerOutput{gives(120, 9)}, wants("a", 9, draws))
		p.Rigs[0].PowerPlan = []plan.PowerFeed{{Supply: "supply", Output: "1", Gear: []plan.ID{"a"}}}
		for _, f := range feedRig(t, p).Findings {
			if strings.HasPrefix(f.ID, "power:overdrawn") {
				return f.Title, f.Figures[0].Value
			}
		}
		return "", 0
	}
	title, _ := about(100)
	assert.Empty(t, title, "120 mA is 100 mA and a fifth more")
	title, left := about(101)
	assert.Contains(t, title, "less than 20 % in reserve")
	assert.Equal(t, 16.0, left)
	title, left = about(120)
	assert.Contains(t, title, "less than 20 % in reserve", "no more is drawn than is given")
	assert.Equal(t, 0.0, left)
	title, left = about(121)
	assert.Contains(t, title, "gives 120 mA, and 121 mA is drawn")
	assert.Equal(t, -1.0, left)
	_, left = about(240)
	assert.Equal(t, -100.0, left, "as much again as there is")
	assert.Equal(t, -1.0, headroom(0, 1), "nothing is given, and something drawn")
	assert.Equal(t, 0.0, headroom(0, 0))
	assert.Equal(t, 0.25, headroom(100, 75))
}

// What is drawn in all is the sum of every box, those of unknown draw at what is taken of them.
func TestTheDrawOfARigIsTheSumOfItsBoxes(t *testing.T) {
	unknown := wants("c", 9, 1)
	unknown.Power.Current = nil
	r := feedRig(t, fedBoard([]plan.PowerOutput{gives(500, 9)}, wants("a", 9, 30), wants("b", 18, 20), unknown))
	assert.Equal(t, 50+usualMA, r.DrawnMA)
	assert.InDelta(t, (30*9+20*18+usualMA*9)/1000, r.DrawnW, 1e-9)
	assert.Len(t, r.Assumed, 1)
}
