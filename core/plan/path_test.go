package plan_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
)

// wired is small with what splits, loops and destinations need, and an amp with a loop.
func wired() plan.Plan {
	p := small()
	p.Gear[3].Loop = &plan.AmpLoop{Kind: "series"}
	p.Gear[2].Jacks = []plan.Jack{{ID: "thru", Name: "thru"}}
	p.Gear = append(p.Gear,
		plan.Gear{ID: "mix", Name: "Mixer", Kind: plan.Interface, Blocks: []plan.Block{
			{ID: "in", Name: "in", Effect: plan.EffectSplitter, Bypass: plan.AlwaysOn},
			{ID: "out", Name: "out", Effect: plan.EffectMixer, Bypass: plan.AlwaysOn},
		}},
		plan.Gear{
			ID: "sw", Name: "Turntable", Kind: plan.Controller,
			Switcher: &plan.Switcher{Loops: []plan.SwitcherLoop{{}, {Break: true}}},
		},
		plan.Gear{ID: "hired", Name: "Hired", Kind: plan.Amp, Blocks: []plan.Block{
			{ID: "pre", Name: "preamp", Effect: plan.EffectPreamp, Bypass: plan.AlwaysOn},
			{ID: "verb", Name: "reverb", Effect: plan.EffectReverb, Bypass: plan.TrueBypass},
			{ID: "pow", Name: "power", Effect: plan.EffectPower, Bypass: plan.AlwaysOn},
		}},
	)
	p.Rigs[0].Path = nodes("amber/drive", "combo/preamp", "echo/delay", "combo/power")
	return p
}

func nodes(keys ...plan.Key) []plan.Node {
	list := make([]plan.Node, len(keys))
	for i, k := range keys {
		list[i].Stop = k
	}
	return list
}

// split is a node that divides into lanes.
func split(kind, join string, lanes ...[]plan.Node) plan.Node {
	s := &plan.Split{ID: plan.ID("at-" + strings.ToLower(kind) + join), Kind: kind, Join: join}
	for _, l := range lanes {
		s.Lanes = append(s.Lanes, plan.Lane{Nodes: l})
	}
	return plan.Node{Split: s}
}

func TestPathsThatCanBeWired(t *testing.T) {
	between := split("copy", "sum", nodes("echo/delay"), nil)
	between.Split.From, between.Split.To = "mix/in", "mix/out"
	tap := split("tap", "", nodes("hired/pre", "hired/verb", "hired/pow"))
	tap.Split.From = "echo/thru"
	cases := map[string][]plan.Node{
		"a lane and a dry one through a mixer": {
			{Stop: "amber/drive"}, {Stop: "combo/preamp"}, between, {Stop: "combo/power"},
		},
		"a tap, and the main path goes on": {{Stop: "echo/delay"}, tap, {Stop: "combo/preamp"}, {Stop: "combo/power"}},
		"two amps, and nothing after": {
			{Stop: "amber/drive"}, split("copy", "", nodes("combo/preamp", "combo/power"), nodes("hired/pre", "hired/pow")),
		},
		"the preamp alone, sent elsewhere": {{Stop: "amber/drive"}, {Stop: "combo/preamp"}, {Stop: "echo/delay"}},
		"into the power section alone":     {{Stop: "amber/drive"}, {Stop: "combo/power"}},
		"a loop of a switcher": {
			{Stop: "amber/drive", Switcher: "sw", Loop: 1}, {Stop: "echo/delay", Switcher: "sw", Loop: 2},
		},
		"an amp's own reverb without a loop": nodes("hired/pre", "hired/verb", "hired/pow"),
		"nothing at all":                     nil,
	}
	for name, path := range cases {
		t.Run(name, func(t *testing.T) {
			p := wired()
			p.Rigs[0].Path = path
			assert.Empty(t, p.Validate())
			data, err := plan.Encode(&p)
			require.NoError(t, err)
			back, err := plan.Decode(data)
			require.NoError(t, err)
			assert.Equal(t, p.Rigs[0].Path, back.Rigs[0].Path, "a file keeps the path")
		})
	}
}

func TestPathsThatCannotBeWired(t *testing.T) {
	deep := nodes("amber/drive")
	for range plan.MaxLaneDepth + 1 {
		next := split("copy", "sum", deep, nil)
		next.Split.ID = plan.ID(strings.Repeat("x", len(next.Split.ID)+len(deep)))
		deep = []plan.Node{next}
	}
	noJack := split("tap", "", nil)
	noJack.Split.From = "echo/nowhere"
	back := split("tap", "sum", nil)
	back.Split.From = "echo/thru"
	notSplitter := split("copy", "sum", nil, nil)
	notSplitter.Split.From, notSplitter.Split.To = "amber/drive", "echo/delay"
	mixerOfNothing := split("copy", "", nil, nil)
	mixerOfNothing.Split.To = "mix/out"
	cases := map[string]struct {
		path []plan.Node
		at   string
		says string
	}{
		"a stop and a split": {
			[]plan.Node{{Stop: "amber/drive", Split: split("copy", "sum", nil, nil).Split}}, "[0]", "not both",
		},
		"neither":  {[]plan.Node{{}}, "[0].stop", "no gear"},
		"one lane": {[]plan.Node{split("copy", "sum", nil)}, "[0].split.lanes", "two lanes or more"},
		"three sides": {
			[]plan.Node{split("left-right", "sum", nil, nil, nil)}, "[0].split.lanes", "has two lanes",
		},
		"three lanes in stereo": {
			[]plan.Node{split("copy", "stereo", nil, nil, nil)}, "[0].split.join", "two lanes make a stereo signal",
		},
		"a tap with two lanes":        {[]plan.Node{split("tap", "", nil, nil)}, "[0].split.lanes", "one lane"},
		"a tap from nowhere":          {[]plan.Node{split("tap", "", nil)}, "[0].split.from", "say which jack"},
		"a tap from a jack not there": {[]plan.Node{noJack}, "[0].split.from", "no jack"},
		"a tap that comes back":       {[]plan.Node{back}, "[0].split.join", "does not come back"},
		"something after open lanes": {
			[]plan.Node{split("copy", "", nil, nil), {Stop: "amber/drive"}}, "[0].split.join", "nothing can follow",
		},
		"open lanes in a joined one": {
			[]plan.Node{split("copy", "sum", []plan.Node{split("AB", "", nil, nil)}, nil)},
			"[0].split.lanes[0].nodes[0].split.join", "has to come back",
		},
		"a mixer with nothing to mix": {[]plan.Node{mixerOfNothing}, "[0].split.to", "nothing is joined"},
		"a drive as a splitter":       {[]plan.Node{notSplitter}, "[0].split.from", "not a splitter"},
		"a delay as a mixer":          {[]plan.Node{notSplitter}, "[0].split.to", "no mixer"},
		"the same split twice": {
			[]plan.Node{split("copy", "sum", nil, nil), split("copy", "sum", nil, nil)}, "[1].split.id", "used already",
		},
		"lanes in lanes in lanes": {
			deep, strings.Repeat("[0].split.lanes[0].nodes", plan.MaxLaneDepth) + "[0].split", "deeper",
		},
		"a stop in both lanes": {
			[]plan.Node{split("copy", "sum", nodes("amber/drive"), nodes("amber/drive"))}, "[0].split.lanes[1].nodes[0].stop",
			"twice",
		},
		"a power section in a side lane": {
			[]plan.Node{split("copy", "", nodes("combo/preamp"), nodes("combo/power"))}, "[0].split.lanes[1].nodes[0].stop",
			"before its preamp",
		},
		"a split inside a fused amp": {
			[]plan.Node{{Stop: "hired/pre"}, split("copy", "sum", nil, nil), {Stop: "hired/pow"}}, "[1].stop", "no effects loop",
		},
		"a fused amp without its power": {nodes("hired/pre"), "[0].stop", "missing after"},
		"a loop of no switcher":         {[]plan.Node{{Stop: "amber/drive", Loop: 1}}, "[0].switcher", "say which"},
		"a loop it has not": {
			[]plan.Node{{Stop: "amber/drive", Switcher: "sw", Loop: 3}}, "[0].loop", "no loop 3",
		},
		"a switcher that is none": {
			[]plan.Node{{Stop: "amber/drive", Switcher: "echo", Loop: 1}}, "[0].switcher", "no switched loops",
		},
	}
	for name, c := range cases {
		t.Run(name, func(t *testing.T) {
			p := wired()
			p.Rigs[0].Path = c.path
			assertProblem(t, &p, "rigs[0].path"+c.at, c.says)
		})
	}
	t.Run("too many stops", func(t *testing.T) {
		p := wired()
		p.Rigs[0].Path = nodes(make([]plan.Key, plan.MaxStops+1)...)
		for i := range p.Rigs[0].Path {
			p.Rigs[0].Path[i].Stop = "amber/drive"
		}
		assertProblem(t, &p, "rigs[0].path", "the limit is 64")
	})
}

func assertProblem(t *testing.T, p *plan.Plan, path, says string) {
	t.Helper()
	for _, problem := range p.Validate() {
		if problem.Path == path && strings.Contains(problem.Message, says) {
			return
		}
	}
	t.Fatalf("no problem at %s that says %q, but:\n%s", path, says, p.Validate())
}

func TestWhatElseARigKeepsIsChecked(t *testing.T) {
	cases := map[string]struct {
		break_ func(*plan.Plan)
		path   string
		says   string
	}{
		"held loop": {
			func(p *plan.Plan) { p.Rigs[0].Held = []plan.HeldLoop{{Switcher: "sw", Loop: 9}} }, "rigs[0].held[0].loop",
			"no loop 9",
		},
		"kept without a name": {
			func(p *plan.Plan) { p.Rigs[0].Orders = []plan.KeptOrder{{}} }, "rigs[0].orders[0].name", "name is needed",
		},
		"kept twice": {
			func(p *plan.Plan) { p.Rigs[0].Orders = []plan.KeptOrder{{Name: "a"}, {Name: "a"}} }, "rigs[0].orders[1].name",
			"under that name",
		},
		"kept and not owned": {
			func(p *plan.Plan) { p.Rigs[0].Orders = []plan.KeptOrder{{Name: "a", Path: nodes("x/y")}} },
			"rigs[0].orders[0].path[0].stop", "no gear",
		},
		"no such amp": {func(p *plan.Plan) {
			p.Rigs[0].Destinations = []plan.Destination{{ID: "d", Name: "d", Kind: plan.HiredAmp, Amp: "echo"}}
		}, "rigs[0].destinations[0].amp", "not an amp"},
		"a destination's id": {func(p *plan.Plan) {
			p.Rigs[0].Destinations = []plan.Destination{{ID: "home", Name: "d", Kind: plan.OwnAmp}}
		}, "rigs[0].destinations[0].id", "used by"},
		"a show to nowhere": {
			func(p *plan.Plan) { p.Shows[0].Destination = "d" }, "shows[0].destination", "no destination",
		},
		"a speaker of 0 ohm": {
			func(p *plan.Plan) { p.Gear[3].SpeakerOut = &plan.SpeakerOut{Ohms: []float64{0}} }, "gear[3].speaker_out.ohms[0]",
			"no speaker",
		},
		"a pedal's speaker": {
			func(p *plan.Plan) { p.Gear[1].SpeakerOut = &plan.SpeakerOut{} }, "gear[1].speaker_out", "only an amp",
		},
		"a jack of no block": {func(p *plan.Plan) { p.Gear[2].Jacks[0].Block = "x" }, "gear[2].jacks[0].block", "no block"},
		"a switcher of none": {
			func(p *plan.Plan) { p.Gear[5].Switcher.Loops = nil }, "gear[5].switcher.loops", "1 to 64 loops",
		},
		"latency beyond sense": {
			func(p *plan.Plan) { p.Gear[2].Blocks[0].LatencyMS = ptr(5000.0) }, "gear[2].blocks[0].latency_ms", "outside",
		},
	}
	for name, c := range cases {
		t.Run(name, func(t *testing.T) {
			p := wired()
			require.Empty(t, p.Validate())
			c.break_(&p)
			assertProblem(t, &p, c.path, c.says)
		})
	}
}

func TestZonesInLanes(t *testing.T) {
	p := wired()
	tap := split("tap", "", nodes("hired/pre", "hired/pow"))
	tap.Split.From = "echo/thru"
	p.Rigs[0].Path = []plan.Node{
		{Stop: "amber/drive"}, {Stop: "combo/preamp"}, tap, {Stop: "echo/delay"}, {Stop: "combo/power"},
	}
	require.Empty(t, p.Validate())
	zones := p.Zones(p.Rigs[0].Path)
	assert.Equal(t, plan.InTheLoop, zones["at-tap"])
	assert.Equal(t, plan.InTheLoop, zones["hired/pre"], "a lane begins in the zone of its split")
	assert.Equal(t, plan.Out, zones["hired/pow"])
	assert.Equal(t, plan.InTheLoop, zones["echo/delay"], "and the main path goes on where it was")

	p.Rigs[0].Path = []plan.Node{
		split("copy", "sum", nodes("combo/preamp"), nil), {Stop: "echo/delay"}, {Stop: "combo/power"},
	}
	assert.Equal(
		t, plan.InTheLoop, p.Zones(p.Rigs[0].Path)["echo/delay"], "after a join it is where the first lane has come to",
	)

	p.Gear[1].Blocks[0].Effect = plan.EffectPreamp
	p.Rigs[0].Path = nodes("amber/drive", "echo/delay", "combo/preamp", "combo/power")
	assert.Equal(t, plan.FrontOfAmp, p.Zones(p.Rigs[0].Path)["echo/delay"], "a preamp pedal is no amp")
}

func TestStopsComeInSignalOrder(t *testing.T) {
	n := split("copy", "sum", nodes("a/x"), nodes("b/x"))
	n.Split.From, n.Split.To = "mix/in", "mix/out"
	assert.Equal(
		t, []plan.Key{"z/x", "mix/in", "a/x", "b/x", "mix/out", "y/x"},
		plan.StopsIn([]plan.Node{{Stop: "z/x"}, n, {Stop: "y/x"}}),
	)
	n.Split.To = "mix/in"
	assert.Len(t, plan.StopsIn([]plan.Node{n}), 3, "one box that does both stands once")
}

func TestADestinationIsLaidOverTheRig(t *testing.T) {
	p := wired()
	r := &p.Rigs[0]
	r.Base["hired/verb/on"] = plan.On(false)
	r.Recipes = append(r.Recipes, plan.Recipe{ID: "r2", Sound: "home"})
	r.Destinations = []plan.Destination{
		{ID: "hire", Name: "Hired", Kind: plan.HiredAmp, Amp: "hired",
			Base:    map[plan.Key]plan.Value{"hired/verb/on": plan.On(true)},
			Recipes: []plan.Recipe{{ID: "r1", Sound: "home", Name: "louder"}, {ID: "r3", Sound: "home"}}},
		{ID: "di", Name: "DI", Kind: plan.StereoDI},
		{ID: "other", Name: "Other way", Kind: plan.OwnAmp, Path: nodes("echo/delay")},
		{ID: "own", Name: "As it is", Kind: plan.OwnAmp, Amp: "combo"},
	}
	require.Empty(t, p.Validate())
	at := func(d plan.ID) *plan.Rig {
		q, err := p.At("rig", d)
		require.NoError(t, err)
		require.Empty(t, q.Validate(), "a rig is whole wherever it plugs in")
		there, _ := q.FindRig("rig")
		return there
	}
	hire := at("hire")
	assert.Equal(
		t, nodes("amber/drive", "echo/delay", "hired/pre", "hired/verb", "hired/pow"), hire.Path,
		"an amp without a loop has it all in front",
	)
	assert.Equal(t, plan.On(true), hire.Base["hired/verb/on"])
	assert.Equal(t, plan.On(false), r.Base["hired/verb/on"], "the rig itself is left alone")
	assert.Equal(
		t, []plan.ID{"r3", "r1", "r2"}, []plan.ID{hire.Recipes[0].ID, hire.Recipes[1].ID, hire.Recipes[2].ID},
		"its own ahead, one replaced in place",
	)
	assert.Equal(t, "louder", hire.Recipes[1].Name)
	assert.Equal(t, nodes("amber/drive", "echo/delay"), at("di").Path)
	assert.Equal(t, nodes("echo/delay"), at("other").Path)
	assert.Equal(t, r.Path, at("own").Path)
	assert.Equal(t, r.Path, at("").Path)

	p.Gear[6].Loop = &plan.AmpLoop{Kind: "series"}
	assert.Equal(
		t, nodes("amber/drive", "hired/pre", "echo/delay", "hired/verb", "hired/pow"), at("hire").Path,
		"one with a loop keeps them in it",
	)

	_, err := p.At("rig", "nowhere")
	assert.ErrorContains(t, err, "no destination")
	_, err = p.At("no rig", "")
	assert.ErrorContains(t, err, "no rig")
}

func TestDestinationsTravelWithTheirRig(t *testing.T) {
	p := wired()
	p.Rigs[0].Destinations = []plan.Destination{
		{ID: "hire", Name: "Hired", Kind: plan.HiredAmp, Amp: "hired", Recipes: []plan.Recipe{{ID: "r9", Sound: "home"}}},
	}
	p.Shows[0].Destination = "hire"
	p.Rigs[0].Orders = []plan.KeptOrder{{Name: "other", Path: nodes("echo/delay")}}
	p.Rigs[0].Held = []plan.HeldLoop{{Switcher: "sw", Loop: 1}}
	require.Empty(t, p.Validate())
	bundle, err := p.Bundle("rig")
	require.NoError(t, err)
	for _, id := range []plan.ID{"hired", "sw", "echo"} {
		_, ok := bundle.FindGear(id)
		assert.True(t, ok, "the bundle holds %s", id)
	}
	assert.NotEmpty(t, p.Uses("hired"), "so that it is not removed while a destination binds it")

	own := wired()
	own.Rigs[0].Destinations = []plan.Destination{{ID: "hire", Name: "Mine", Kind: plan.MonoDI}}
	own.Shows = nil
	n := 0
	m, err := own.Merge(
		&p, map[plan.ID]plan.Resolution{"rig": plan.Copy},
		func() plan.ID { n++; return plan.ID("new" + string(rune('a'+n))) },
	)
	require.NoError(t, err)
	for _, a := range append(m.Added, m.Replaced...) {
		own.Put(a)
	}
	require.Empty(t, own.Validate(), "a copy has ids of its own, its destinations and their recipes too")
	show, _ := own.FindShow("show")
	copied, _ := own.FindRig(show.Rig)
	require.NotNil(t, copied)
	assert.Equal(t, copied.Destinations[0].ID, show.Destination, "and the show still plays there")
	assert.NotEqual(t, plan.ID("hire"), show.Destination)
}
