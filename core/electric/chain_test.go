package electric

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/path"
	"envex/core/plan"
)

func ptr[T any](v T) *T { return &v }

// bench is a plan with a guitar of one single coil, one sound that is made by the base settings, and
// boxes in a row.
func bench(boxes ...plan.Gear) *plan.Plan {
	guitar := plan.Gear{
		ID: "guitar", Name: "Guitar", Kind: plan.Guitar,
		Pickups: []plan.Pickup{
			{ID: "bridge", Name: "bridge", ResistanceOhm: ptr(6000.0), InductanceH: ptr(2.5), CapacitancePF: ptr(110.0)},
		},
		Controls: []plan.Control{knob("volume"), knob("tone")},
		Wiring: &plan.Wiring{
			Volume: &plan.Pot{Ohm: 250e3}, Tone: &plan.ToneControl{Pot: plan.Pot{Ohm: 250e3}, CapacitorNF: 22},
		},
	}
	p := &plan.Plan{
		Gear:   append([]plan.Gear{guitar}, boxes...),
		Sounds: []plan.Sound{{ID: "home", Name: "Home", Short: "H", Tape: "bone", Role: plan.HomeRole}},
		Rigs: []plan.Rig{{
			ID: "rig", Name: "Rig", Guitars: []plan.ID{"guitar"}, Base: map[plan.Key]plan.Value{},
			Recipes: []plan.Recipe{{ID: "home-recipe", Sound: "home"}},
		}},
	}
	for _, b := range boxes {
		for _, x := range b.Blocks {
			p.Rigs[0].Path = append(p.Rigs[0].Path, plan.Node{Stop: plan.BlockKey(b.ID, x.ID)})
		}
	}
	return p
}

func knob(id plan.ID) plan.Control {
	return plan.Control{ID: id, Name: string(id), Kind: plan.Knob, Access: plan.QuickHand, Default: ptr(plan.Number(10))}
}

func box(id plan.ID, effect plan.Effect, bypass plan.Bypass, change ...func(*plan.Block)) plan.Gear {
	b := plan.Block{ID: "fx", Name: string(id), Effect: effect, Bypass: bypass, InputOhm: ptr(1e6), OutOhm: ptr(1e3)}
	for _, f := range change {
		f(&b)
	}
	return plan.Gear{ID: id, Name: string(id), Kind: plan.Pedal, Blocks: []plan.Block{b}}
}

func input(ohm float64) func(*plan.Block) { return func(b *plan.Block) { b.InputOhm = &ohm } }

func pedalPot(ohm float64, taper string) func(*plan.Block) {
	return func(b *plan.Block) {
		b.Passive, b.InputOhm, b.OutOhm, b.Pot = true, nil, nil, &plan.Pot{Ohm: ohm, Taper: taper}
		b.Controls = []plan.Control{knob("position")}
	}
}

// leads gives cables lengths, in m, from place to place.
func leads(p *plan.Plan, list ...any) *plan.Plan {
	for i := 0; i < len(list); i += 3 {
		p.Rigs[0].Leads = append(
			p.Rigs[0].Leads,
			plan.Lead{From: plan.Key(list[i].(string)), To: plan.Key(list[i+1].(string)), LengthM: ptr(list[i+2].(float64))},
		)
	}
	return p
}

func solve(t *testing.T, p *plan.Plan, o Options) *Report {
	t.Helper()
	require.Empty(t, p.Validate())
	r, err := Solve(p, "rig", "", o)
	require.NoError(t, err)
	return r
}

func homeOf(t *testing.T, p *plan.Plan) Sound {
	t.Helper()
	return solve(t, p, Options{}).Sounds[0]
}

// guitarOn writes the guitar of the bench down, its knobs at electrical fractions, and gives its jack.
func guitarOn(n *netlist, volume, tone float64) int {
	coil, out := n.node(), n.node()
	n.rl(1, coil, 6000, 2.5)
	n.c(coil, 0, 110)
	n.rc(coil, 0, 250e3*tone, 22e3)
	n.r(coil, out, 250e3*(1-volume))
	n.r(out, 0, 250e3*volume)
	return out
}

func assertSame(t *testing.T, n *netlist, node int, s Sound) {
	t.Helper()
	require.Len(t, s.Points, 121)
	for _, p := range s.Points {
		assert.InDelta(t, n.db(node, p.Hz), p.DB, 1e-3, "at %.0f Hz", p.Hz)
	}
}

func TestASingleCoilThroughThreeAndFifteenMetres(t *testing.T) {
	far := func(m float64) Sound {
		return homeOf(t, leads(bench(box("amp", plan.EffectBuffer, plan.AlwaysOn)), "guitar", "amp/fx", m))
	}
	near, long := far(3), far(15)
	assert.InDelta(t, 4300, *near.PeakHz, 5)
	assert.InDelta(t, 3.04, *near.PeakDB, 0.005)
	assert.InDelta(t, 7090, *near.Minus3, 5)
	assert.InDelta(t, 2410, *long.PeakHz, 5)
	assert.InDelta(t, 6.37, *long.PeakDB, 0.005)
	assert.InDelta(t, 11.90, long.Loss5k-near.Loss5k, 0.005)
	assert.InDelta(t, 0, near.Loss5k, 1e-9, "3 m into 1 Mohm is what loss is counted from")
	assert.Equal(t, plan.Key("amp/fx"), *near.FirstBuffer)
	assert.InDelta(t, 300, near.BeforePF, 1e-6)
}

func TestPotsAreDividersAtTheirElectricalFraction(t *testing.T) {
	for _, c := range []struct {
		taper    string
		knob     float64
		fraction float64
	}{
		{plan.LinearTaper, 5, 0.5}, {plan.AudioTaper, 5, 0.15}, {plan.AudioTaper10, 5, 0.10}, {"", 2.5, 0.075},
		{plan.AudioTaper, 7.5, 0.575}, {plan.AudioTaper10, 10, 1}, {plan.LinearTaper, 0, 0},
	} {
		assert.InDelta(t, c.fraction, plan.Pot{Taper: c.taper}.Fraction(c.knob/10), 1e-12)
		p := leads(bench(box("amp", plan.EffectBuffer, plan.AlwaysOn)), "guitar", "amp/fx", 3.0)
		p.Gear[0].Wiring.Volume.Taper = c.taper
		p.Rigs[0].Base["guitar/volume"] = plan.Number(c.knob)
		if s := homeOf(t, p); c.knob == 0 {
			assert.Less(t, s.LevelDB, -150.0, "turned down is silent")
		} else {
			n := newNetlist()
			out := guitarOn(n, c.fraction, 1)
			n.c(out, 0, 300)
			n.r(out, 0, 1e6)
			assertSame(t, n, out, s)
		}
	}
}

func TestToneBeforeAndAfterTheVolumeAndATrebleBleed(t *testing.T) {
	p := leads(bench(box("amp", plan.EffectBuffer, plan.AlwaysOn)), "guitar", "amp/fx", 6.0)
	w := p.Gear[0].Wiring
	w.Tone.Vintage, w.Tone.Pot.Taper, w.Volume.Taper = true, plan.LinearTaper, plan.LinearTaper
	w.Bleed = &plan.TrebleBleed{CapacitancePF: 1000, ResistanceOhm: ptr(150e3)}
	p.Rigs[0].Base["guitar/volume"], p.Rigs[0].Base["guitar/tone"] = plan.Number(6), plan.Number(4)
	n := newNetlist()
	coil, out := n.node(), n.node()
	n.rl(1, coil, 6000, 2.5)
	n.c(coil, 0, 110)
	n.r(coil, out, 250e3*0.4)
	n.c(coil, out, 1000)
	n.r(coil, out, 150e3)
	n.r(out, 0, 250e3*0.6)
	n.rc(out, 0, 250e3*0.4, 22e3)
	n.c(out, 0, 600)
	n.r(out, 0, 1e6)
	assertSame(t, n, out, homeOf(t, p))
}

func TestPickupsTogetherAreSideBySide(t *testing.T) {
	p := leads(bench(box("amp", plan.EffectBuffer, plan.AlwaysOn)), "guitar", "amp/fx", 3.0)
	g := &p.Gear[0]
	g.Wiring = &plan.Wiring{}
	g.Pickups = append(
		g.Pickups,
		plan.Pickup{ID: "neck", Name: "neck", ResistanceOhm: ptr(7000.0), InductanceH: ptr(3.0), CapacitancePF: ptr(90.0)},
	)
	g.Controls = append(
		g.Controls,
		plan.Control{
			ID: "pickup", Name: "pickup", Kind: plan.Selector, Access: plan.QuickHand,
			Options: []string{"bridge", "bridge+neck"},
		},
	)
	p.Rigs[0].Base["guitar/pickup"] = plan.Text("bridge+neck")
	n := newNetlist()
	out := n.node()
	n.rl(1, out, 6000, 2.5)
	n.rl(1, out, 7000, 3)
	n.c(out, 0, 200)
	n.c(out, 0, 300)
	n.r(out, 0, 1e6)
	assertSame(t, n, out, homeOf(t, p))
}

func TestSwitchedOffPedalsHangOnTheGuitarUntilABuffer(t *testing.T) {
	p := leads(bench(
		box("a", plan.EffectBoost, plan.TrueBypass), box("b", plan.EffectOverdrive, plan.TrueBypass),
		box("amp", plan.EffectBuffer, plan.AlwaysOn),
	),
		"guitar", "a/fx", 5.0, "a/fx", "b/fx", 0.5, "b/fx", "amp/fx", 6.0)
	n := newNetlist()
	out := guitarOn(n, 1, 1)
	n.c(out, 0, 500+30+50+30+600)
	n.r(out, 0, 1e6)
	assertSame(t, n, out, homeOf(t, p))

	p.Rigs[0].Base["b/fx/on"] = plan.On(true) // now it is the first buffer, and drives the rest
	n = newNetlist()
	out = guitarOn(n, 1, 1)
	n.c(out, 0, 500+30+50)
	n.r(out, 0, 1e6)
	second := newNetlist()
	end := second.node()
	second.r(1, end, 1e3)
	second.c(end, 0, 600)
	second.r(end, 0, 1e6)
	s := homeOf(t, p)
	assert.Equal(t, plan.Key("b/fx"), *s.FirstBuffer)
	for _, pt := range s.Points {
		assert.InDelta(t, n.db(out, pt.Hz)+second.db(end, pt.Hz), pt.DB, 1e-3)
	}
	require.Len(t, s.Segments, 2)
}

func TestCapacitancesOfBoxesAreTheirOwn(t *testing.T) {
	p := leads(
		bench(box("a", plan.EffectBoost, plan.TrueBypass), box("amp", plan.EffectBuffer, plan.AlwaysOn)), "guitar", "a/fx",
		1.0, "a/fx", "amp/fx", 1.0,
	)
	p.Gear[1].Blocks[0].BypassPF, p.Gear[2].Blocks[0].InputPF = ptr(80.0), ptr(500.0)
	n := newNetlist()
	out := guitarOn(n, 1, 1)
	n.c(out, 0, 100+80+100+500)
	n.r(out, 0, 1e6)
	assertSame(t, n, out, homeOf(t, p))
}

// tapped is a passive volume pedal with a tuner on its tap, before an amp.
func tapped(position float64) *plan.Plan {
	volume := box("volume", plan.EffectVolume, plan.AlwaysOn, pedalPot(250e3, plan.LinearTaper))
	volume.Jacks = []plan.Jack{{ID: "tuner", Name: "tuner out"}}
	p := bench(volume, box("amp", plan.EffectBuffer, plan.AlwaysOn))
	p.Gear = append(p.Gear, box("tuner", plan.EffectTuner, plan.BufferedBypass, input(470e3)))
	p.Rigs[0].Path = []plan.Node{
		{Stop: "volume/fx"},
		{
			Split: &plan.Split{
				ID: "tap", Kind: plan.SplitTap, From: "volume/tuner", Lanes: []plan.Lane{{Nodes: []plan.Node{{Stop: "tuner/fx"}}}},
			},
		},
		{Stop: "amp/fx"},
	}
	p.Rigs[0].Base["volume/fx/position"] = plan.Number(position)
	return leads(p, "guitar", "volume/fx", 3.0, "volume/tuner", "tuner/fx", 1.0, "volume/fx", "amp/fx", 2.0)
}

func TestAVolumePedalsTapLoadsAtEveryPosition(t *testing.T) {
	for _, position := range []float64{10, 5, 1} {
		n := newNetlist()
		in, out := guitarOn(n, 1, 1), n.node()
		n.c(in, 0, 300+100)
		n.r(in, 0, 470e3)
		n.r(in, out, 250e3*(1-position/10))
		n.r(out, 0, 250e3*position/10)
		n.c(out, 0, 200)
		n.r(out, 0, 1e6)
		assertSame(t, n, out, homeOf(t, tapped(position)))
	}
}

func TestAHighVolumePedalDullsAtHalfEvenBehindABuffer(t *testing.T) {
	p := bench(
		box("buffer", plan.EffectBuffer, plan.AlwaysOn),
		box("volume", plan.EffectVolume, plan.AlwaysOn, pedalPot(500e3, plan.LinearTaper)),
		box("amp", plan.EffectBuffer, plan.AlwaysOn),
	)
	leads(p, "guitar", "buffer/fx", 3.0, "buffer/fx", "volume/fx", 0.3, "volume/fx", "amp/fx", 6.0)
	full := homeOf(t, p)
	p.Rigs[0].Base["volume/fx/position"] = plan.Number(5)
	half := homeOf(t, p)
	assert.Less(t, full.Tone5k, 0.1)
	assert.Greater(t, half.Tone5k, 5.0, "125 kohm into 600 pF is 3 dB down at 2 kHz")
	assert.InDelta(t, -7.0, half.LevelDB-full.LevelDB, 0.1, "half way, into 1 Mohm")
	p.Gear[2].Blocks[0].Pot.Ohm = 25e3
	assert.Less(t, homeOf(t, p).Tone5k, 0.2, "a low one does not")
}

// twoAmps divides the guitar between two amps with a lead, or with a box.
func twoAmps(kind, from string) *plan.Plan {
	p := bench(box("one", plan.EffectBuffer, plan.AlwaysOn), box("two", plan.EffectBuffer, plan.AlwaysOn, input(500e3)))
	splitter := box("splitter", plan.EffectSplitter, plan.AlwaysOn)
	p.Gear = append(p.Gear, splitter)
	p.Rigs[0].Path = []plan.Node{
		{
			Split: &plan.Split{
				ID: "split", Kind: kind, From: plan.Key(from),
				Lanes: []plan.Lane{{Nodes: []plan.Node{{Stop: "one/fx"}}}, {Nodes: []plan.Node{{Stop: "two/fx"}}}},
			},
		},
	}
	head := "guitar"
	if from != "" {
		head = from
		leads(p, "guitar", from, 3.0)
	}
	return leads(p, head, "one/fx", 4.0, head, "two/fx", 5.0)
}

func TestAPassiveSplitLoadsWithTheOtherLane(t *testing.T) {
	n := newNetlist()
	out := guitarOn(n, 1, 1)
	n.c(out, 0, 400+500)
	n.r(out, 0, 1e6)
	n.r(out, 0, 500e3)
	assertSame(t, n, out, homeOf(t, twoAmps(plan.SplitCopy, "")))

	one := newNetlist()
	out = guitarOn(one, 1, 1)
	one.c(out, 0, 400)
	one.r(out, 0, 1e6)
	assertSame(t, one, out, homeOf(t, twoAmps(plan.SplitAB, "")))

	buffered := homeOf(t, twoAmps(plan.SplitCopy, "splitter/fx"))
	assert.Equal(t, plan.Key("splitter/fx"), *buffered.FirstBuffer)
	assert.InDelta(t, 300, buffered.BeforePF, 1e-6)
}

func TestPassiveLanesThatMeetAgainAreSideBySide(t *testing.T) {
	p := bench(
		box("v1", plan.EffectVolume, plan.AlwaysOn, pedalPot(100e3, plan.LinearTaper)),
		box("v2", plan.EffectVolume, plan.AlwaysOn, pedalPot(200e3, plan.LinearTaper)),
		box("amp", plan.EffectBuffer, plan.AlwaysOn),
	)
	p.Rigs[0].Path = []plan.Node{
		{
			Split: &plan.Split{
				ID: "y", Kind: plan.SplitCopy, Join: plan.JoinSum,
				Lanes: []plan.Lane{{Nodes: []plan.Node{{Stop: "v1/fx"}}}, {Nodes: []plan.Node{{Stop: "v2/fx"}}}},
			},
		},
		{Stop: "amp/fx"},
	}
	p.Rigs[0].Base["v1/fx/position"], p.Rigs[0].Base["v2/fx/position"] = plan.Number(5), plan.Number(8)
	leads(p, "guitar", "v1/fx", 3.0, "guitar", "v2/fx", 2.0, "v1/fx", "amp/fx", 1.0, "v2/fx", "amp/fx", 0.0)
	n := newNetlist()
	in, out := guitarOn(n, 1, 1), n.node()
	n.c(in, 0, 500)
	n.r(in, out, 50e3)
	n.r(out, 0, 50e3)
	n.r(in, out, 40e3)
	n.r(out, 0, 160e3)
	n.c(out, 0, 100)
	n.r(out, 0, 1e6)
	assertSame(t, n, out, homeOf(t, p))
}

func TestALoopThatIsOffTakesItsCablesOut(t *testing.T) {
	p := bench(
		box("a", plan.EffectBoost, plan.TrueBypass), box("b", plan.EffectOverdrive, plan.TrueBypass),
		box("amp", plan.EffectBuffer, plan.AlwaysOn),
	)
	p.Gear = append(
		p.Gear,
		plan.Gear{
			ID: "switcher", Name: "Switcher", Kind: plan.Controller,
			Switcher: &plan.Switcher{Loops: []plan.SwitcherLoop{{}, {}}},
		},
	)
	path := p.Rigs[0].Path
	path[0].Switcher, path[0].Loop, path[1].Switcher, path[1].Loop = "switcher", 1, "switcher", 2
	leads(
		p, "guitar", "switcher/input", 5.0, "switcher/send 1", "a/fx", 0.7, "a/fx", "switcher/return 1", 0.7,
		"switcher/send 2", "b/fx", 0.7, "b/fx", "switcher/return 2", 0.7, "switcher/output", "amp/fx", 6.0,
	)
	assert.InDelta(t, 1100, homeOf(t, p).BeforePF, 1e-6, "straight through the switcher")
	p.Rigs[0].Base["b/fx/on"] = plan.On(true)
	s := homeOf(t, p)
	assert.Equal(t, plan.Key("b/fx"), *s.FirstBuffer)
	assert.InDelta(t, 570, s.BeforePF, 1e-6)
	p.Rigs[0].Base["b/fx/on"], p.Rigs[0].Held = plan.On(false), []plan.HeldLoop{{Switcher: "switcher", Loop: 1}}
	assert.InDelta(
		t, 500+70+30+70+600, homeOf(t, p).BeforePF, 1e-6, "a loop that is held on brings its pedal, off as it is",
	)
	p.Gear[len(p.Gear)-1].Switcher.Buffered = true
	assert.InDelta(t, 500, homeOf(t, p).BeforePF, 1e-6)
}

func TestCableStockHasACapacitanceOfItsOwn(t *testing.T) {
	p := leads(
		bench(box("a", plan.EffectBoost, plan.TrueBypass), box("amp", plan.EffectBuffer, plan.AlwaysOn)), "a/fx", "amp/fx",
		2.0,
	)
	p.Gear = append(p.Gear,
		plan.Gear{ID: "low", Name: "Low", Kind: plan.CableStock, Cable: &plan.CableSpec{PFPerM: ptr(50.0)}},
		plan.Gear{
			ID: "coil", Name: "Coiled lead", Kind: plan.CableStock,
			Cable: &plan.CableSpec{PFPerM: ptr(150.0), LengthM: ptr(9.0)},
		})
	r := &p.Rigs[0]
	r.PatchCable = "low"
	r.Leads = append(r.Leads, plan.Lead{From: "guitar", To: "a/fx", Cable: "coil"})
	assert.InDelta(t, 9*150+30+2*50, homeOf(t, p).BeforePF, 1e-6)
	cables, err := path.DeriveCables(p, "rig", "")
	require.NoError(t, err)
	assert.Equal(t, 9.0, cables.Runs[0].LengthM)
	assert.False(t, cables.Runs[0].Assumed)
}

func TestWhatNobodySaidIsAssumedInWords(t *testing.T) {
	p := bench(
		plan.Gear{
			ID: "amp", Name: "Amp", Kind: plan.Pedal,
			Blocks: []plan.Block{{ID: "fx", Name: "fx", Effect: plan.EffectBuffer, Bypass: plan.AlwaysOn}},
		},
	)
	p.Gear[0].Wiring, p.Gear[0].Pickups = nil, nil
	r := solve(t, p, Options{})
	assert.Contains(t, r.Assumed, "The pots of Guitar are not known; 250 kohm, audio taper, and 22 nF are taken.")
	assert.Contains(
		t, r.Assumed, "The pickups of Guitar are not known; a single coil of 2.5 H, 6 kohm and 110 pF is taken.",
	)
	assert.Contains(t, r.Assumed, "The input of Amp is not known; 1 Mohm is taken.")
	assert.Contains(t, r.Assumed, "Cable of which nobody has said more is taken to have 100 pF a metre.")
	p.Rigs[0].Guitars = nil
	assert.Contains(t, strings.Join(solve(t, p, Options{}).Assumed, " "), "No guitar is plugged in")
}

func TestNoPeakIsAnAnswer(t *testing.T) {
	p := leads(bench(box("fuzz", plan.EffectFuzz, plan.AlwaysOn, input(8e3))), "guitar", "fuzz/fx", 3.0)
	s := homeOf(t, p)
	assert.Nil(t, s.PeakHz)
	assert.Nil(t, s.PeakDB)
	require.NotNil(t, s.Minus3)
	p.Gear[0].Wiring, p.Gear[0].Pickups[0] = &plan.Wiring{}, plan.Pickup{
		ID: "bridge", Name: "bridge", ResistanceOhm: ptr(0.0), InductanceH: ptr(0.0), CapacitancePF: ptr(0.0),
	}
	flat := homeOf(t, p)
	assert.Nil(t, flat.PeakHz)
	assert.Nil(t, flat.Minus3, "nothing falls")
	assert.InDelta(t, 0, flat.LevelDB, 1e-8)
}

func TestSolveRefusesWhatIsNotThere(t *testing.T) {
	p := bench(box("amp", plan.EffectBuffer, plan.AlwaysOn))
	for name, ask := range map[string]func() (*Report, error){
		"rig":         func() (*Report, error) { return Solve(p, "none", "", Options{}) },
		"destination": func() (*Report, error) { return Solve(p, "rig", "none", Options{}) },
		"set list":    func() (*Report, error) { return Solve(p, "rig", "", Options{SetList: "none"}) },
		"sound":       func() (*Report, error) { return Solve(p, "rig", "", Options{Only: "none"}) },
		"place":       func() (*Report, error) { return Solve(p, "rig", "", Options{Buffer: "none/fx"}) },
	} {
		_, err := ask()
		assert.Error(t, err, name)
	}
}

func TestWherePassiveLanesMeetEveryCableCounts(t *testing.T) {
	for _, join := range []struct {
		name string
		to   plan.Key
	}{{"by a Y lead", ""}, {"in a passive mixer", "mix/fx"}} {
		t.Run(join.name, func(t *testing.T) {
			off := func(id plan.ID) plan.Gear { return box(id, plan.EffectOverdrive, plan.TrueBypass) }
			p := bench(
				off("a"), off("b"),
				box(
					"mix", plan.EffectMixer, plan.AlwaysOn, func(b *plan.Block) { b.Passive, b.InputOhm, b.OutOhm = true, nil, nil },
				),
				box("amp", plan.EffectBuffer, plan.AlwaysOn),
			)
			split := &plan.Split{
				ID: "y", Kind: plan.SplitCopy, Join: plan.JoinSum, To: join.to,
				Lanes: []plan.Lane{{Nodes: []plan.Node{{Stop: "a/fx"}}}, {Nodes: []plan.Node{{Stop: "b/fx"}}}},
			}
			p.Rigs[0].Path = []plan.Node{{Split: split}, {Stop: "amp/fx"}}
			after := "amp/fx"
			if join.to != "" {
				after = string(join.to)
				leads(p, after, "amp/fx", 0.0)
			}
			leads(p, "guitar", "a/fx", 3.0, "guitar", "b/fx", 2.0, "a/fx", after, 4.0, "b/fx", after, 5.0)
			n := newNetlist()
			jack := guitarOn(n, 1, 1)
			n.c(jack, 0, 100*(3+2+4+5)+2*30)
			n.r(jack, 0, 1e6)
			s := homeOf(t, p)
			for _, x := range []int{0, 60, 100, 120} {
				assert.InDelta(t, n.db(jack, grid[x]), s.Points[x].DB, 1e-5, "at %g Hz", grid[x])
			}
		})
	}
}
