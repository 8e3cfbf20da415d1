package standin_test

import (
	"context"
	"os"
	"path/filepath"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/catalog"
	"envex/core/plan"
	"envex/core/signal"
	"envex/core/standin"
	"envex/golden"
)

func ptr[T any](v T) *T { return &v }

var kept = signal.NewKept()

// pier is a rig of a drive and a tremolo, a set that needs both, and a pile with more.
func pier(t require.TestingT, spare ...string) *plan.Plan {
	p := &plan.Plan{}
	for _, id := range append([]string{"three-single-coil", "combo-plain", "mid-hump-overdrive", "tremolo"}, spare...) {
		kind, ok := catalog.Find(id)
		require.True(t, ok, id)
		p.Put(kind.In(p, plan.ID(id), kind.Name))
	}
	for _, s := range []plan.Sound{
		{ID: "home", Name: "Home", Role: plan.HomeRole, Targets: plan.Targets{DirtMax: ptr(10.0)}},
		{ID: "crunch", Name: "Crunch", Role: "rhythm", Targets: plan.Targets{
			DirtMin: ptr(20.0), DirtMax: ptr(45.0), LoudnessLU: ptr(1.0), ToleranceLU: ptr(1.0),
		}},
		{ID: "haze", Name: "Haze", Role: "texture", Targets: plan.Targets{
			Effects: []plan.Heard{{Effect: plan.EffectTremolo}},
		}},
	} {
		s.Short, s.Tape = s.Name[:2], "bone"
		p.Put(s)
	}
	section := func(id plan.ID) plan.Section {
		return plan.Section{ID: "to-" + id, Label: string(id), Sound: id, Bars: ptr(4.0)}
	}
	p.Put(plan.Song{
		ID: "tide", Title: "Tide table", Tempo: plan.Tempo{BPM: 100}, Meter: plan.Meter{Beats: 4, Unit: 4},
		Sections: []plan.Section{section("home"), section("crunch"), section("haze")},
	})
	p.Put(plan.SetList{ID: "night", Name: "Night", Entries: []plan.SetEntry{{ID: "one", Song: "tide"}}})
	on := func(key plan.Key) map[plan.Key]plan.Value { return map[plan.Key]plan.Value{key: plan.On(true)} }
	rig := plan.Rig{
		ID: "rig", Name: "Pier rig", Guitars: []plan.ID{"three-single-coil"},
		Path: []plan.Node{{Stop: "mid-hump-overdrive/fx"}, {Stop: "tremolo/fx"}},
		Base: map[plan.Key]plan.Value{
			"mid-hump-overdrive/fx/drive": plan.Number(4), "mid-hump-overdrive/fx/level": plan.Number(5),
		},
		Recipes: []plan.Recipe{
			{ID: "r1", Sound: "home"}, {ID: "r2", Sound: "crunch", Values: on("mid-hump-overdrive/fx/on")},
			{ID: "r3", Sound: "haze", Values: on("tremolo/fx/on")},
		},
		Floor: plan.Floor{Places: map[plan.ID]plan.Placement{"mid-hump-overdrive": {X: 40, Y: 60}}},
	}
	amp, _ := p.FindGear("combo-plain")
	for _, b := range amp.Blocks {
		rig.Path = append(rig.Path, plan.Node{Stop: plan.BlockKey(amp.ID, b.ID)})
	}
	p.Put(rig)
	require.Empty(t, p.Validate())
	return p
}

func offerOf(r *standin.Report, id plan.ID) *standin.Offer {
	i := slices.IndexFunc(r.Offers, func(o standin.Offer) bool { return o.Gear == id })
	if i < 0 {
		return nil
	}
	return &r.Offers[i]
}

func TestADriveIsStoodInForByTheNearest(t *testing.T) {
	p := pier(t, "transparent-overdrive", "fuzz", "chorus")
	r, err := standin.For(context.Background(), p, "rig", "mid-hump-overdrive", standin.Options{
		SetList: "night", Kinds: []string{}, Kept: kept, Progress: golden.Progress(t, 1),
	})
	require.NoError(t, err)
	require.Len(t, r.Sounds, 1, "it is on in one sound")
	require.Len(t, r.Offers, 2, "a chorus is no drive")
	assert.Equal(t, plan.ID("transparent-overdrive"), r.Offers[0].Gear)
	best := r.Offers[0]
	assert.Equal(t, 1, best.Within)
	require.Len(t, best.Sounds, 1)
	assert.True(t, best.Sounds[0].Within)
	assert.Zero(t, best.Presses, "it has a switch of its own, as the other had")
	assert.LessOrEqual(t, best.Off, r.Offers[1].Off)
	for _, words := range best.Also {
		assert.NotContains(t, words, "no power", "nothing is fed as it is: that is no change")
	}

	// What is said of it is what the meter says of the rig that it comes to.
	p.Put(best.Rig)
	require.Empty(t, p.Validate())
	full, err := signal.Measure(context.Background(), p, "rig", signal.Options{Kept: kept, Only: []plan.ID{"crunch"}})
	require.NoError(t, err)
	assert.InDelta(t, full.Sounds[0].OverHome, best.Sounds[0].OverHome, 0.01)
	assert.InDelta(t, full.Sounds[0].Figures.Dirt, best.Sounds[0].Dirt, 0.01)
	for _, k := range best.Knobs {
		if v, ok := best.Rig.Base[k.Key]; ok {
			assert.InDelta(t, v.Float(), k.At, 1e-9)
		}
	}
	at := best.Rig.Floor.Places["transparent-overdrive"]
	assert.Equal(t, plan.Placement{X: 40, Y: 60}, at, "it stands where the other did")
	assert.NotContains(t, best.Rig.GearIn(), plan.ID("mid-hump-overdrive"))
}

func TestAKindThatIsNotOwnedIsOffered(t *testing.T) {
	p := pier(t)
	r, err := standin.For(context.Background(), p, "rig", "tremolo", standin.Options{
		Kinds: []string{"tap-tremolo", "fuzz"}, Kept: kept,
	})
	require.NoError(t, err)
	assert.False(t, r.Sounds[0].AsItIs, "haze says what it needs")
	require.Len(t, r.Offers, 1)
	o := r.Offers[0]
	assert.Equal(t, "tap-tremolo", o.Kind)
	require.NotNil(t, o.New)
	assert.Equal(t, 1, o.Within)
	assert.NotEmpty(t, o.Also, "it is another size and draws another current")
	p.Put(*o.New)
	p.Put(o.Rig)
	assert.Empty(t, p.Validate())

	r, err = standin.For(context.Background(), p, "rig", "tap-tremolo", standin.Options{Kept: kept, Most: 2})
	assert.ErrorContains(t, err, "there is no gear", "one that is not owned has an id of its own")
	assert.Nil(t, r)
	r, err = standin.For(context.Background(), p, "rig", o.Gear, standin.Options{Kept: kept, Most: 2})
	require.NoError(t, err)
	assert.Len(t, r.Offers, 2, "no more than were asked for")
	r, err = standin.For(context.Background(), p, "rig", o.Gear, standin.Options{Kinds: []string{}, Kept: kept})
	require.NoError(t, err)
	assert.NotNil(t, offerOf(r, "tremolo"), "what is owned stands in for it")
}

func TestStandingInIsRefusedWhereThereIsNothingToStandInFor(t *testing.T) {
	p := pier(t, "chorus")
	for words, ids := range map[string][2]plan.ID{
		`there is no rig "nope"`:                 {"nope", "tremolo"},
		`there is no gear "nope"`:                {"rig", "nope"},
		"Chorus is not in the chain of Pier rig": {"rig", "chorus"},
		"is not a pedal":                         {"rig", "combo-plain"},
	} {
		_, err := standin.For(context.Background(), p, ids[0], ids[1], standin.Options{})
		assert.ErrorContains(t, err, words)
	}
	_, err := standin.For(context.Background(), p, "rig", "tremolo", standin.Options{SetList: "nope"})
	assert.ErrorContains(t, err, `there is no set list "nope"`)
	_, err = standin.For(context.Background(), p, "rig", "tremolo", standin.Options{Kinds: []string{"nope"}})
	assert.ErrorContains(t, err, `there is no kind "nope"`)
	ctx, cancel := context.WithCancel(context.Background())
	cancel()
	_, err = standin.For(ctx, p, "rig", "tremolo", standin.Options{})
	assert.ErrorIs(t, err, context.Canceled)
}

// Whatever box of whatever rig is missing, what could do its job can be put in its place, and the plan is sound then.
func TestAnythingThatCouldDoItCanBePutIn(t *testing.T) {
	files, err := filepath.Glob("../../testdata/rigs/*/rig.envex.json")
	require.NoError(t, err)
	files = append(files, "../../demo/kelp-street-nine.envex.json")
	require.Greater(t, len(files), 5)
	tried := 0
	for _, file := range files {
		data, err := os.ReadFile(file)
		require.NoError(t, err)
		p, err := plan.Decode(data)
		require.NoError(t, err)
		for i := range p.Rigs {
			r := &p.Rigs[i]
			for _, id := range r.GearIn() {
				g, ok := p.FindGear(id)
				if !ok || g.Kind != plan.Pedal {
					continue
				}
				for _, kind := range catalog.All() {
					if kind.Gear.Kind != plan.Pedal {
						continue
					}
					q := *p
					in := kind.In(p, "in-its-place", kind.Name)
					q.Put(in)
					next, blocks, ok := q.Instead(r, id, &in)
					if !ok {
						continue
					}
					tried++
					q.Put(next)
					assert.Empty(t, q.Validate(), "%s: %s for %s", file, kind.Name, g.Name)
					for from, to := range blocks {
						a, _ := g.FindBlock(plan.ID(from.Rest()))
						b, _ := in.FindBlock(plan.ID(to.Rest()))
						assert.True(t, plan.CanStandFor(a.Effect, b.Effect))
					}
					assert.NotContains(t, next.GearIn(), id)
				}
			}
		}
	}
	assert.Greater(t, tried, 100)
}

// Where a sound says nothing, it has to be as it was: not everything that makes a noise is within.
func TestASoundThatSaysNothingIsComparedWithWhatItWas(t *testing.T) {
	p := pier(t)
	s, _ := p.FindSound("crunch")
	bare := *s
	bare.Targets = plan.Targets{}
	p.Put(bare)
	r, err := standin.For(context.Background(), p, "rig", "mid-hump-overdrive", standin.Options{
		Kinds: []string{"mid-hump-overdrive", "sustaining-fuzz"}, Kept: kept,
	})
	require.NoError(t, err)
	require.Len(t, r.Offers, 2)
	assert.True(t, r.Sounds[0].AsItIs)
	assert.Equal(t, "mid-hump-overdrive", r.Offers[0].Kind)
	assert.Equal(t, 1, r.Offers[0].Within, "the same circuit is as it was")
	assert.Equal(t, 0, r.Offers[1].Within, "a fuzz is not")
}

func TestABoxOfADestinationIsStoodInForThere(t *testing.T) {
	p := pier(t, "transparent-overdrive")
	r, _ := p.FindRig("rig")
	lane := append([]plan.Node{{Stop: "mid-hump-overdrive/fx"}}, r.Path[2:]...)
	r.Path = r.Path[1:]
	r.Destinations = []plan.Destination{{
		ID: "hall", Name: "Hall", Kind: plan.OwnAmp, Path: lane,
		Base: map[plan.Key]plan.Value{"mid-hump-overdrive/fx/drive": plan.Number(6)},
	}}
	require.Empty(t, p.Validate())
	_, err := standin.For(context.Background(), p, "rig", "mid-hump-overdrive", standin.Options{Kept: kept})
	require.ErrorContains(t, err, "is not in the chain of Pier rig", "it stands there at the hall alone")
	got, err := standin.For(context.Background(), p, "rig", "mid-hump-overdrive", standin.Options{
		At: "hall", SetList: "night", Kinds: []string{}, Kept: kept,
	})
	require.NoError(t, err)
	offer := offerOf(got, "transparent-overdrive")
	require.NotNil(t, offer)
	require.Len(t, offer.Sounds, 1)

	// What comes of it is the rig with its destination, and what was said holds there.
	d, ok := offer.Rig.FindDestination("hall")
	require.True(t, ok)
	assert.Equal(t, plan.Key("transparent-overdrive/fx"), d.Path[0].Stop)
	assert.Equal(t, plan.Key("tremolo/fx"), offer.Rig.Path[0].Stop, "the rig's own chain is as it was")
	q := *p
	q.Put(offer.Rig)
	require.Empty(t, q.Validate())
	there, err := q.At("rig", "hall")
	require.NoError(t, err)
	full, err := signal.Measure(
		context.Background(),
		there,
		"rig",
		signal.Options{Kept: kept, Only: []plan.ID{"crunch"}},
	)
	require.NoError(t, err)
	assert.InDelta(t, offer.Sounds[0].OverHome, full.Sounds[0].OverHome, 0.01)
	assert.InDelta(t, offer.Sounds[0].Dirt, full.Sounds[0].Figures.Dirt, 0.01)
	_, err = standin.For(context.Background(), p, "rig", "tremolo", standin.Options{At: "nowhere"})
	require.ErrorContains(t, err, "has no destination")
}

// quay is a rig of an echo whose presets hold a time each, in a set that needs both, and a pile with more.
func quay(t *testing.T, spare ...string) *plan.Plan {
	p := pier(t, append([]string{"tape-echo"}, spare...)...)
	long, short := plan.Heard{Effect: plan.EffectDelay, Note: "1/4"}, plan.Heard{Effect: plan.EffectDelay}
	for id, heard := range map[plan.ID]plan.Heard{"haze": long, "crunch": short} {
		s, _ := p.FindSound(id)
		with := *s
		with.Targets = plan.Targets{Effects: []plan.Heard{heard}}
		p.Put(with)
	}
	r, _ := p.FindRig("rig")
	with := *r
	with.Path = append([]plan.Node{{Stop: "tape-echo/fx"}}, r.Path...)
	held := func(ms, repeats float64) map[plan.Key]plan.Value {
		return map[plan.Key]plan.Value{
			"tape-echo/fx/time":    plan.Number(ms),
			"tape-echo/fx/repeats": plan.Number(repeats),
		}
	}
	with.Presets = plan.PresetMap{"tape-echo": {"A": held(100, 2), "B": held(380, 3), "C": held(640, 3)}}
	preset := func(name string) map[plan.Key]plan.Value {
		return map[plan.Key]plan.Value{"tape-echo/fx/on": plan.On(true), "tape-echo/fx/preset": plan.Text(name)}
	}
	with.Recipes = []plan.Recipe{
		{
			ID:    "r1",
			Sound: "home",
		}, {ID: "r2", Sound: "crunch", Values: preset("B")}, {ID: "r3", Sound: "haze", Values: preset("C")},
	}
	p.Put(with)
	song, _ := p.FindSong("tide")
	more := *song
	again := song.Sections[2]
	again.ID = "again"
	more.Sections = append(slices.Clone(song.Sections), again)
	p.Put(more)
	require.Empty(t, p.Validate())
	return p
}

func TestWhatPresetsHeldIsHeldByThoseOfTheOther(t *testing.T) {
	p := quay(t, "multi-effect")
	kind, _ := catalog.Find("tape-echo")
	p.Put(kind.In(p, "spare", "Spare echo"))
	got, err := standin.For(context.Background(), p, "rig", "tape-echo", standin.Options{
		SetList: "night", Kinds: []string{}, Kept: kept,
	})
	require.NoError(t, err)
	o := offerOf(got, "spare")
	require.NotNil(t, o)
	assert.Zero(t, o.Presses, "it is stepped through as the other was")
	assert.Zero(t, o.Missed)
	require.Len(t, o.Held, 3)
	assert.Equal(t, "B", o.Held[1].Preset)
	assert.Equal(t, []standin.Knob{
		{Key: "spare/fx/time", Name: "time", At: 380, Unit: "ms"},
		{Key: "spare/fx/repeats", Name: "repeats", At: 3, Clock: "10 o'clock", Turn: ptr(0.3)},
	}, o.Held[1].Knobs)
	for _, k := range o.Knobs {
		assert.NotEqual(t, "time", k.Name, "a preset holds it")
	}
	for _, words := range o.Also {
		assert.NotContains(t, words, "had")
	}
}

func TestWhatPresetsHeldIsOneForAllWhereNoneAre(t *testing.T) {
	p := quay(t, "tape-delay-knob", "slap-delay", "tap-delay")
	got, err := standin.For(context.Background(), p, "rig", "tape-echo", standin.Options{
		SetList: "night", Kinds: []string{}, Kept: kept,
	})
	require.NoError(t, err)
	knob := offerOf(got, "tape-delay-knob")
	require.NotNil(t, knob)
	at := map[string]float64{}
	for _, k := range knob.Knobs {
		at[k.Name] = k.At
	}
	assert.Equal(t, 640.0, at["time"], "two sections of three have it")
	assert.Equal(t, 3.0, at["repeats"])
	assert.Contains(t, knob.Also, "With time at 640 ms: Crunch had 380 ms.")
	assert.Empty(t, knob.Held)
	assert.Zero(t, knob.ByHand, "nobody turns it in the set")

	slap := offerOf(got, "slap-delay")
	require.NotNil(t, slap)
	assert.Contains(t, slap.Also, "With time at 300 ms: Crunch had 380 ms, Haze had 640 ms.", "it goes no further")

	tap := offerOf(got, "tap-delay")
	require.NotNil(t, tap)
	assert.Contains(t, tap.Also, "Its time is tapped: 1/4 for Haze.")
	for _, rec := range tap.Rig.Recipes {
		v, named := rec.Values["tap-delay/fx/time"]
		if rec.Sound == "haze" {
			assert.Equal(t, plan.Sync("1/4"), v, "it asks for a note, which is tapped")
		} else {
			assert.False(t, named, "%s asks for none", rec.Sound)
		}
	}

	// A note that a preset held is the one that is tapped, whatever the sound asks.
	synced := *p
	r, _ := synced.FindRig("rig")
	with := *r
	with.Presets = plan.PresetMap{"tape-echo": {
		"B": {"tape-echo/fx/time": plan.Sync("1/8.")}, "C": {"tape-echo/fx/time": plan.Number(640)},
	}}
	synced.Put(with)
	require.Empty(t, synced.Validate())
	got, err = standin.For(
		context.Background(),
		&synced,
		"rig",
		"tape-echo",
		standin.Options{Kinds: []string{}, Kept: kept},
	)
	require.NoError(t, err)
	assert.Contains(t, offerOf(got, "tap-delay").Also, "Its time is tapped: 1/4 for Haze, 1/8. for Crunch.")

	// Without a set every sound counts alike.
	got, err = standin.For(context.Background(), p, "rig", "tape-echo", standin.Options{Kinds: []string{}, Kept: kept})
	require.NoError(t, err)
	for _, k := range offerOf(got, "tape-delay-knob").Knobs {
		if k.Name == "time" {
			assert.Equal(t, 380.0, k.At, "the shorter of two that count alike")
		}
	}
}

func TestTheNearestEchoRepeatsAsTheOtherDid(t *testing.T) {
	p := quay(t, "slap-delay", "tape-delay-knob")
	got, err := standin.For(context.Background(), p, "rig", "tape-echo", standin.Options{
		SetList: "night", Kinds: []string{}, Kept: kept,
	})
	require.NoError(t, err)
	require.Len(t, got.Offers, 2)
	assert.Equal(t, plan.ID("tape-delay-knob"), got.Offers[0].Gear, "the other goes to 300 ms")
	assert.Equal(t, got.Offers[0].Within, got.Offers[1].Within)
	assert.Greater(t, got.Offers[1].Off, got.Offers[0].Off+0.5)
	assert.Contains(t, got.Offers[1].Also, "Its circuit is digital; that of Tape echo is tape.")
	assert.NotContains(t, got.Offers[0].Also, "circuit")
}

func TestASelectorStandsWhereTheCircuitIsTheSame(t *testing.T) {
	p := pier(t, "hall-reverb", "reverb", "spring-reverb")
	r, _ := p.FindRig("rig")
	with := *r
	with.Path = append([]plan.Node{{Stop: "hall-reverb/fx"}}, r.Path...)
	with.Recipes = slices.Clone(r.Recipes)
	with.Recipes[2].Values = map[plan.Key]plan.Value{"hall-reverb/fx/on": plan.On(true)}
	p.Put(with)
	s, _ := p.FindSound("haze")
	haze := *s
	haze.Targets = plan.Targets{Effects: []plan.Heard{{Effect: plan.EffectReverb}}}
	p.Put(haze)
	require.Empty(t, p.Validate())
	got, err := standin.For(
		context.Background(),
		p,
		"rig",
		"hall-reverb",
		standin.Options{Kinds: []string{}, Kept: kept},
	)
	require.NoError(t, err)
	require.Len(t, got.Offers, 2)
	assert.Equal(t, plan.ID("reverb"), got.Offers[0].Gear)
	assert.Equal(t, "hall", got.Offers[0].Rig.Base["reverb/fx/type"].Word())
	for _, words := range got.Offers[0].Also {
		assert.NotContains(t, words, "circuit")
	}
	assert.Contains(t, got.Offers[1].Also, "Its circuit is spring; that of Hall reverb is hall.")
}

func TestWhatElseChangesWithABox(t *testing.T) {
	p := pier(t)
	small, _ := p.FindGear("tremolo")
	change := func(id plan.ID, how func(*plan.Gear)) {
		g := *small
		g.ID, g.Name = id, string(id)
		power := *g.Power
		g.Power = &power
		how(&g)
		p.Put(g)
	}
	change("alike", func(*plan.Gear) {})
	change("hungry", func(g *plan.Gear) { g.Power.Current = ptr(77.0) })
	change("wide", func(g *plan.Gear) { g.Size = &plan.Size{Width: 200, Depth: g.Size.Depth, Height: g.Size.Height} })
	change("remote", func(g *plan.Gear) { g.MIDI = &plan.MIDIPort{Channel: 2} })
	also := func(id plan.ID, box plan.ID) []string {
		got, err := standin.For(context.Background(), p, "rig", box, standin.Options{Kinds: []string{}, Kept: kept})
		require.NoError(t, err)
		o := offerOf(got, id)
		require.NotNil(t, o, id)
		return o.Also
	}
	assert.Empty(t, also("alike", "tremolo"))
	assert.Contains(t, also("hungry", "tremolo")[0], "It draws 77 mA at 9 V; Tremolo draws ")
	assert.Contains(t, also("wide", "tremolo")[0], "It takes 200 × ")
	assert.Equal(t, []string{"It can be set by MIDI."}, also("remote", "tremolo"))
}
