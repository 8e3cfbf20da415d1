package hire_test

import (
	"context"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/catalog"
	"envex/core/hire"
	"envex/core/plan"
	"envex/core/reach"
	"envex/core/signal"
)

var kept = signal.NewKept()

func ptr[T any](v T) *T { return &v }

// pier is a guitar, a drive and a delay in the loop of an amp, with a night of three sounds.
func pier(t require.TestingT, amp string) *plan.Plan {
	p := &plan.Plan{}
	for _, id := range []string{"three-single-coil", "mid-hump-overdrive", "digital-delay", amp, "supply"} {
		kind, ok := catalog.Find(id)
		require.True(t, ok, id)
		p.Put(kind.In(p, plan.ID(id), kind.Name))
	}
	sound := func(id, name string, role plan.Role, targets plan.Targets) {
		p.Put(plan.Sound{ID: plan.ID(id), Name: name, Short: name[:2], Tape: "bone", Role: role, Targets: targets})
	}
	sound("home", "Home", plan.HomeRole, plan.Targets{})
	sound("crunch", "Crunch", "rhythm", plan.Targets{})
	sound("far", "Far", "texture", plan.Targets{Effects: []plan.Heard{{Effect: plan.EffectDelay}}})
	bars := 4.0
	section := func(id string) plan.Section {
		return plan.Section{ID: plan.ID("to-" + id), Label: id, Sound: plan.ID(id), Bars: &bars}
	}
	p.Put(plan.Song{
		ID: "tide", Title: "Tide table", Tempo: plan.Tempo{BPM: 100}, Meter: plan.Meter{Beats: 4, Unit: 4},
		Sections: []plan.Section{section("home"), section("crunch"), section("far")},
	})
	p.Put(plan.SetList{ID: "night", Name: "Night", Entries: []plan.SetEntry{{ID: "one", Song: "tide"}}})
	drive, delay := firstOf(p, "mid-hump-overdrive"), firstOf(p, "digital-delay")
	g, _ := p.FindGear(plan.ID(amp))
	path := []plan.Node{{Stop: drive}, {Stop: firstOf(p, plan.ID(amp))}, {Stop: delay}}
	for _, b := range g.Blocks[1:] {
		path = append(path, plan.Node{Stop: plan.BlockKey(g.ID, b.ID)})
	}
	values := func(more ...plan.Key) map[plan.Key]plan.Value {
		m := map[plan.Key]plan.Value{}
		for _, k := range more {
			m[k] = plan.On(true)
		}
		return m
	}
	p.Put(plan.Rig{
		ID: "rig", Name: "Rig", Guitars: []plan.ID{"three-single-coil"}, Path: path,
		Recipes: []plan.Recipe{
			{ID: "r-home", Sound: "home"}, {ID: "r-crunch", Sound: "crunch", Values: values(drive + "/on")},
			{ID: "r-far", Sound: "far", Values: values(delay + "/on")},
		},
		PowerPlan: []plan.PowerFeed{{Supply: "supply", Output: supplyOutput(p), Gear: []plan.ID{"digital-delay"}}},
	})
	require.Empty(t, p.Validate())
	return p
}

// anyHow lets the last sound be as loud as it comes, so that nothing is looked for to mend it.
func anyHow(p *plan.Plan) {
	p.Sounds[2].Targets.LoudnessLU, p.Sounds[2].Targets.ToleranceLU = ptr(0.0), ptr(6.0)
	p.Sounds[2].Targets.DirtMin, p.Sounds[2].Targets.DirtMax = nil, ptr(100.0)
}

func firstOf(p *plan.Plan, gear plan.ID) plan.Key {
	g, _ := p.FindGear(gear)
	return plan.BlockKey(gear, g.Blocks[0].ID)
}

func supplyOutput(p *plan.Plan) plan.ID {
	g, _ := p.FindGear("supply")
	return g.Supply.Outputs[0].ID
}

func needs(a *hire.Ask, of string) string {
	var list []string
	for _, x := range a.Items {
		if x.Of == of {
			list = append(list, x.Need+" ("+x.Why+")")
		}
	}
	return strings.Join(list, "; ")
}

func TestWhatARigAsksOfAnAmp(t *testing.T) {
	p := pier(t, "combo-loop")
	ask, err := hire.AskFor(context.Background(), p, "rig", "", "night", kept)
	require.NoError(t, err)
	amp := needs(ask, "Open-back combo with a loop")
	assert.Contains(t, amp, "a series effects loop at instrument level, or with a level control (Digital delay in it)")
	assert.Contains(t, amp, "reverb of its own (on in Home, Crunch and Far)")
	assert.Contains(t, amp, "a combo, or a head with a cab")
	assert.Contains(t, amp, "dirt by itself (Home, Crunch and Far)")
	assert.NotContains(t, amp, "channels")
	assert.Contains(t, needs(ask, "Power"), "1 mains outlet at the board")
	assert.Contains(t, needs(ask, "Power"), "1 mains outlet at the amp")
	assert.Contains(t, needs(ask, "The house"), "1 microphone in front of a speaker")
	assert.Len(t, ask.Cautions, 2)
	assert.NotEmpty(t, ask.Assumed)

	// An amp that is to stay clean has to take the loudest that comes in.
	g, _ := p.FindGear("combo-loop")
	r, _ := p.FindRig("rig")
	r.Base = map[plan.Key]plan.Value{plan.BlockKey(g.ID, g.Blocks[0].ID) + "/gain": plan.Number(1)}
	r.Recipes[1].Values[firstOf(p, "mid-hump-overdrive")+"/level"] = plan.Number(9)
	ask, err = hire.AskFor(context.Background(), p, "rig", "", "night", kept)
	require.NoError(t, err)
	amp = needs(ask, g.Name)
	assert.Contains(t, amp, "clean: ")
	assert.Regexp(
		t,
		`clean headroom for peaks of [0-9.]+ V at its input \(Crunch comes in at \+[0-9.]+ LU over home`,
		amp,
	)
}

func TestWithoutRecipesItIsSaidThatTheGainIsNotKnown(t *testing.T) {
	p := pier(t, "combo-loop")
	r, _ := p.FindRig("rig")
	r.Recipes = nil
	ask, err := hire.AskFor(context.Background(), p, "rig", "", "night", kept)
	require.NoError(t, err)
	assert.Equal(t, []string{
		"No sound of the set has a recipe yet: what gain, channels and headroom it needs is not known.",
	}, ask.Assumed)
	assert.NotContains(t, needs(ask, "Open-back combo with a loop"), "dirt")
}

func TestChannelsAreAskedForWhereTheSetChangesThem(t *testing.T) {
	p := pier(t, "two-channel-head")
	channel := firstOf(p, "two-channel-head") + "/channel"
	r, _ := p.FindRig("rig")
	r.Recipes[0].Values = map[plan.Key]plan.Value{channel: plan.Text("clean")}
	r.Recipes[1].Values[channel] = plan.Text("drive")
	r.Recipes[2].Values[channel] = plan.Text("clean")
	ask, err := hire.AskFor(context.Background(), p, "rig", "", "night", kept)
	require.NoError(t, err)
	amp := needs(ask, "Two-channel head")
	assert.Contains(t, amp, "2 channels: clean and drive, with its footswitch (the set changes between them)")
	assert.Contains(t, amp, "(Home and Far)")
	assert.Contains(t, amp, "drive, gain for ")
	assert.Contains(t, amp, "a cab for it, 8 ohm or 16 ohm")
}

func TestWithoutALoopWhatStoodInItMovesInFront(t *testing.T) {
	p := pier(t, "combo-loop")
	var shares []float64
	got, err := hire.Plan(context.Background(), p, "rig", "night", hire.Options{
		Without: []string{hire.Loop}, Kept: kept, Progress: func(x float64) { shares = append(shares, x) },
	})
	require.NoError(t, err)
	assert.Equal(t, []string{
		"Digital delay moves in front of the amp", "Open-back combo with a loop stays at home",
	}, got.Moves)
	require.NotNil(t, got.New)
	assert.Nil(t, got.New.Loop)
	assert.Equal(t, "Hired amp, no loop", got.New.Name)
	assert.Equal(t, []float64{0.25, 0.5, 0.75, 1}, shares)
	require.Len(t, got.Columns, 2)

	// It can be taken as it is, and what it says of the sounds the meter says of the rig there.
	q := *p
	q.Put(*got.New)
	q.Put(got.Rig)
	require.Empty(t, q.Validate())
	there, err := q.At("rig", got.Destination)
	require.NoError(t, err)
	full, err := signal.Measure(context.Background(), there, "rig", signal.Options{Kept: kept})
	require.NoError(t, err)
	for i, s := range full.Sounds {
		assert.InDelta(t, s.Figures.Dirt, got.Columns[1].Sounds[i].Dirt, 0.01, s.Name)
		assert.InDelta(t, s.OverHome, got.Columns[1].Sounds[i].OverHome, 0.01, s.Name)
	}
	// The delay in front takes 1.2 LU from the one sound that uses it, and no knob is its alone.
	require.Len(t, got.Lost, 1)
	assert.Equal(t, plan.ID("far"), got.Lost[0].Sound)
	assert.Contains(t, got.Lost[0].Words, "short of")
	own, _ := p.FindRig("rig")
	assert.Empty(t, own.Destinations, "the plan stays as it is")
}

// An amp like the rig's own remembers what that does once it is stored, and the same programs call for it: no sound is
// lost that the loop has nothing to do with, and the feet have no more to do.
func TestWhatTheOwnAmpRemembersIsStoredInTheHiredOne(t *testing.T) {
	data, err := os.ReadFile("../../examples/stored-amp.envex.json")
	require.NoError(t, err)
	p, err := plan.Decode(data)
	require.NoError(t, err)
	rig, own := p.Rigs[0], plan.ID("stored-amp-4")
	rig.PresetNames = map[plan.ID]map[string]string{own: {"2": "Loud"}}
	p.Put(rig)
	anyHow(p) // Lead: its boost stands in the loop
	got, err := hire.Plan(context.Background(), p, rig.ID, p.SetLists[0].ID, hire.Options{
		Without: []string{hire.Loop}, Kept: kept,
	})
	require.NoError(t, err)
	assert.Contains(t, got.Moves, "What presets 1 and 2 held is stored in Hired amp, no loop")
	assert.Empty(t, got.Changes, "nothing is made another way")
	assert.Empty(t, got.Lost)
	assert.Equal(t, got.Columns[0].Outcome.Reached, got.Columns[1].Outcome.Reached)
	assert.Equal(t, map[string]string{"2": "Loud"}, got.Rig.PresetNames[got.New.ID])
	held := got.Rig.Presets[got.New.ID]
	require.Len(t, held, 2)
	assert.Equal(t, plan.Text("drive"), held["2"][plan.Key(got.New.ID)+"/preamp/channel"])
	q := *p
	q.Put(*got.New)
	q.Put(got.Rig)
	require.Empty(t, q.Validate())
}

func TestWithOneChannelASoundIsMadeByOtherBoxesOrSaidToBeLost(t *testing.T) {
	p := pier(t, "two-channel-head")
	channel := firstOf(p, "two-channel-head") + "/channel"
	r, _ := p.FindRig("rig")
	r.Recipes[0].Values = map[plan.Key]plan.Value{channel: plan.Text("clean")}
	r.Recipes[1].Values = map[plan.Key]plan.Value{channel: plan.Text("drive")}
	anyHow(p)
	r.Recipes[2].Values[channel] = plan.Text("clean")
	got, err := hire.Plan(
		context.Background(),
		p,
		"rig",
		"night",
		hire.Options{Without: []string{hire.Channels}, Kept: kept},
	)
	require.NoError(t, err)
	var knobs []plan.ID
	for _, c := range got.New.Blocks[0].Controls {
		knobs = append(knobs, c.ID)
	}
	assert.Equal(
		t,
		[]plan.ID{"gain", "bass", "mid", "treble"},
		knobs,
		"those of the clean channel, on which home is played",
	)
	assert.Equal(t, plan.CleanVoice, got.New.Blocks[0].Model)
	assert.InDelta(t, got.Columns[0].Sounds[0].Dirt, got.Columns[1].Sounds[0].Dirt, 0.01, "home is as it was")
	assert.InDelta(t, got.Columns[0].Sounds[0].TrebleDB, got.Columns[1].Sounds[0].TrebleDB, 0.01)
	assert.Empty(t, got.New.Footswitches, "there is nothing to switch")
	said := len(got.Lost)
	for _, c := range got.Changes {
		if c.Sound == "crunch" {
			said++
		}
	}
	assert.Equal(t, 1, said, "%v %v", got.Changes, got.Lost)
	p.Put(*got.New)
	p.Put(got.Rig)
	require.Empty(t, p.Validate())
}

func TestOfTwoAmpsOneIsNotThere(t *testing.T) {
	p := pier(t, "combo-loop")
	kind, _ := catalog.Find("combo-plain")
	p.Put(kind.In(p, "second", "Second combo"))
	anyHow(p)
	lane := func(gear plan.ID) (nodes []plan.Node) {
		g, _ := p.FindGear(gear)
		for _, b := range g.Blocks {
			nodes = append(nodes, plan.Node{Stop: plan.BlockKey(gear, b.ID)})
		}
		return nodes
	}
	r, _ := p.FindRig("rig")
	r.Path = []plan.Node{
		{Stop: firstOf(p, "mid-hump-overdrive")}, {Stop: firstOf(p, "digital-delay")},
		{Split: &plan.Split{ID: "two", Kind: plan.SplitCopy, Lanes: []plan.Lane{
			{Nodes: lane("combo-loop")}, {Nodes: lane("second")},
		}}},
	}
	require.Empty(t, p.Validate())
	ask, err := hire.AskFor(context.Background(), p, "rig", "", "night", kept)
	require.NoError(t, err)
	assert.Equal(t, hire.SecondAmp, ask.Items[0].Without)
	assert.Contains(t, ask.Items[0].Need, "2 amps side by side")
	assert.Contains(t, needs(ask, "Second combo"), "dirt by itself")

	got, err := hire.Plan(
		context.Background(),
		p,
		"rig",
		"night",
		hire.Options{Without: []string{hire.SecondAmp}, Kept: kept},
	)
	require.NoError(t, err)
	assert.Equal(t, []string{
		"Open-back combo with a loop stays at home", "Second combo stays at home",
	}, got.Moves, "what stands there is hired, as the load-out list has it")
	require.NotNil(t, got.New)
	d, _ := got.Rig.FindDestination(got.Destination)
	for _, n := range d.Path {
		assert.Nil(t, n.Split)
	}
	// With the loop gone, too, the amp in the lane is another.
	got, err = hire.Plan(context.Background(), p, "rig", "night", hire.Options{
		Without: []string{hire.SecondAmp, hire.Loop}, Kept: kept,
	})
	require.NoError(t, err)
	assert.Equal(t, "Hired amp, one alone and no loop", got.New.Name)
	assert.Contains(t, got.Moves, "Open-back combo with a loop stays at home")
}

// A dry amp comes first, and the echoes stand in the lane of the other two: with one amp it is their lane that is
// needed.
func TestOneAmpStandsWhereMostSoundsAreMade(t *testing.T) {
	data, err := os.ReadFile("../../testdata/rigs/wet-dry-wet/rig.envex.json")
	require.NoError(t, err)
	p, err := plan.Decode(data)
	require.NoError(t, err)
	r := p.Rigs[0]
	got, err := hire.Plan(context.Background(), p, r.ID, p.SetLists[0].ID, hire.Options{
		Without: []string{hire.SecondAmp}, Kept: kept,
	})
	require.NoError(t, err)
	assert.Empty(t, got.Lost)
	d, ok := got.Rig.FindDestination(got.Destination)
	require.True(t, ok)
	stops := plan.StopsIn(d.Path)
	assert.Contains(t, stops, plan.Key("skip/fx"))
	assert.Contains(t, stops, plan.Key("vault/fx"))
	assert.Contains(t, got.Moves, "Parts moves out of the chain")
	for _, s := range got.Columns[1].Sounds {
		assert.True(t, s.Made, s.Name)
	}
}

// On the line that is left a sound lacks its reverb, and the amp has one: it is made by that, and not passed over.
func TestASoundThatLacksABoxIsMadeAnotherWay(t *testing.T) {
	data, err := os.ReadFile("../../testdata/rigs/wet-dry-wet/rig.envex.json")
	require.NoError(t, err)
	p, err := plan.Decode(data)
	require.NoError(t, err)
	r := p.Rigs[0]
	r.Path = slices.Clone(r.Path)
	split := *r.Path[1].Split
	split.Lanes = slices.Clone(split.Lanes)
	split.Lanes[0].Nodes = append([]plan.Node{{Stop: "skip/fx"}}, split.Lanes[0].Nodes...)
	split.Lanes[1].Nodes = split.Lanes[1].Nodes[1:]
	r.Path[1].Split = &split
	p.Put(r)
	require.Empty(t, p.Validate())
	got, err := hire.Plan(context.Background(), p, r.ID, p.SetLists[0].ID, hire.Options{
		Without: []string{hire.SecondAmp}, Kept: kept,
	})
	require.NoError(t, err)
	assert.True(t, slices.ContainsFunc(got.Changes, func(c hire.Change) bool {
		return c.Sound == "room" && strings.Contains(c.Words, "reverb")
	}), "%+v, lost %+v", got.Changes, got.Lost)
}

func TestAnAmpOfThePileStandsThere(t *testing.T) {
	p := pier(t, "combo-loop")
	kind, _ := catalog.Find("combo-plain")
	p.Put(kind.In(p, "other", "Other combo"))
	anyHow(p)
	got, err := hire.Plan(context.Background(), p, "rig", "night", hire.Options{Amp: "other", Kept: kept})
	require.NoError(t, err)
	assert.Nil(t, got.New)
	assert.Contains(t, got.Moves, "Digital delay moves in front of the amp")
	assert.Contains(t, got.Moves, "Open-back combo with a loop stays at home")
	d, _ := got.Rig.FindDestination(got.Destination)
	assert.Equal(t, plan.ID("other"), d.Amp)
}

func TestWhatCannotBeAskedOrAnswered(t *testing.T) {
	p := pier(t, "combo-loop")
	ask := func(rig, at, set plan.ID) error {
		_, err := hire.AskFor(context.Background(), p, rig, at, set, kept)
		return err
	}
	require.Error(t, ask("nope", "", "night"))
	require.Error(t, ask("rig", "nope", "night"))
	require.Error(t, ask("rig", "", "nope"))
	answer := func(o hire.Options) error {
		o.Kept = kept
		_, err := hire.Plan(context.Background(), p, "rig", "night", o)
		return err
	}
	require.ErrorContains(t, answer(hire.Options{}), "nothing is lacking")
	require.ErrorContains(
		t,
		answer(hire.Options{Without: []string{hire.Channels, hire.SecondAmp}}),
		"nothing is lacking",
	)
	require.ErrorContains(t, answer(hire.Options{Without: []string{"hum"}}), `not "hum"`)
	require.ErrorContains(t, answer(hire.Options{Amp: "digital-delay"}), "Digital delay is not an amp")
	require.Error(t, answer(hire.Options{Amp: "nope"}))
	_, err := hire.Plan(context.Background(), p, "nope", "night", hire.Options{})
	require.Error(t, err)
	_, err = hire.Plan(context.Background(), p, "rig", "nope", hire.Options{})
	require.Error(t, err)
	r, _ := p.FindRig("rig")
	r.Path = r.Path[:1]
	kind, _ := catalog.Find("di")
	p.Put(kind.In(p, "own-di", "Own DI"))
	r.Path = append(r.Path, plan.Node{Stop: firstOf(p, "own-di")})
	none, err := hire.AskFor(context.Background(), p, "rig", "", "night", kept)
	require.NoError(t, err)
	assert.Equal(t, "1 balanced line at microphone level (from the rig's own DI)", needs(none, hire.OfTheHouse))
	for _, x := range none.Items {
		assert.Contains(t, []string{hire.OfTheHouse, hire.OfPower}, x.Of)
	}
	require.ErrorContains(t, answer(hire.Options{Without: []string{hire.Loop}}), "no amp")
	ctx, stop := context.WithCancel(context.Background())
	stop()
	_, err = hire.Plan(ctx, pier(t, "combo-loop"), "rig", "night", hire.Options{Without: []string{hire.Loop}})
	require.ErrorIs(t, err, context.Canceled)
}

// The relay that works the channels of the rig's own amp goes into the jack of the hired one, and the set is played there
// with the same presses.
func TestARelayWorksTheChannelsOfTheHiredAmp(t *testing.T) {
	p := pier(t, "two-channel-head")
	kind, _ := catalog.Find("relay-controller")
	box := kind.In(p, "box", "Box")
	p.Put(box)
	channel := firstOf(p, "two-channel-head") + "/channel"
	r, _ := p.FindRig("rig")
	r.Relays = []plan.RelayLink{{Controller: "box", Relay: "relay-1", Target: channel}}
	r.Programs = plan.ProgramMap{"box": {"1": {}}}
	for i, slot := range []string{"1", "2"} {
		option := plan.Text([]string{"clean", "drive"}[i])
		r.Recipes[i].Values = map[plan.Key]plan.Value{channel: option}
		r.Programs["box"]["1"][slot] = plan.Program{
			Sound: r.Recipes[i].Sound, Values: map[plan.Key]plan.Value{channel: option},
		}
	}
	r.Recipes = r.Recipes[:2]
	song, _ := p.FindSong("tide")
	song.Sections = song.Sections[:2]
	require.Empty(t, p.Validate())
	got, err := hire.Plan(context.Background(), p, "rig", "night", hire.Options{Without: []string{hire.Loop}, Kept: kept})
	require.NoError(t, err)
	q := *p
	q.Put(*got.New)
	q.Put(got.Rig)
	require.Empty(t, q.Validate())
	d, ok := got.Rig.FindDestination(got.Destination)
	require.True(t, ok)
	hired := firstOf(&q, got.New.ID) + "/channel"
	assert.Equal(t, []plan.RelayLink{{Controller: "box", Relay: "relay-1", Target: hired}}, d.Relays)
	assert.Equal(t, r.Relays, got.Rig.Relays, "it is the own amp's wherever that stands")
	was, err := reach.Compute(p, "rig", "night")
	require.NoError(t, err)
	there, err := q.At("rig", got.Destination)
	require.NoError(t, err)
	is, err := reach.Compute(there, "rig", "night")
	require.NoError(t, err)
	require.Len(t, is.Changes, 1)
	assert.Equal(t, was.Changes[0].Verdict, is.Changes[0].Verdict)
	assert.Len(t, is.Changes[0].Presses, len(was.Changes[0].Presses))
	assert.Empty(t, is.Changes[0].Hands, "nobody bends to the amp")
}
