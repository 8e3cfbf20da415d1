package revision

import (
	"encoding/json"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"envex/core/plan"
	"envex/demo"
)

// edited is the long board before and after an edit, in words.
func edited(t require.TestingT, edit func(p *plan.Plan, r *plan.Rig)) []string {
	p, q := demo.Plan(), demo.Plan()
	before, _ := p.FindRig("long")
	after, _ := q.FindRig("long")
	edit(q, after)
	return Words(q, *before, *after)
}

func moveStop(r *plan.Rig, key, before plan.Key) {
	i := slices.IndexFunc(r.Path, func(n plan.Node) bool { return n.Stop == key })
	n := r.Path[i]
	path := slices.Delete(slices.Clone(r.Path), i, i+1)
	at := slices.IndexFunc(path, func(x plan.Node) bool { return x.Stop == before })
	if before == "" {
		at = len(path)
	}
	r.Path = slices.Insert(path, at, n)
}

func TestAMoveIsOneSentenceForOneBox(t *testing.T) {
	for name, x := range map[string]struct {
		key, before plan.Key
		words       string
	}{
		"into the loop":   {"nudge/fx", "slap/fx", "Nudge moved from before Amber to the loop"},
		"out of the loop": {"flutter/fx", "rust/fx", "Flutter moved from before Slap to ahead of the amp"},
		"within the zone": {"nudge/fx", "silt/fx", "Nudge moved from before Amber to before Silt"},
		"back up":         {"silt/fx", "squeeze/fx", "Silt moved from before Rotor to before Squeeze"},
	} {
		t.Run(name, func(t *testing.T) {
			assert.Equal(t, []string{x.words}, edited(t, func(_ *plan.Plan, r *plan.Rig) { moveStop(r, x.key, x.before) }))
		})
	}
}

func TestKnobsPresetsAndRecipesAreSaidByTheirLabels(t *testing.T) {
	assert.Equal(t, []string{
		"Amber drive 4 to 6.5",
		"Crunch: Amber no more on",
		"Lead: Slap on",
		"Echo preset B time 380 to 357 ms",
		"Echo preset C mix 5 to unchanged",
	}, edited(t, func(_ *plan.Plan, r *plan.Rig) {
		r.Base["amber/fx/drive"] = plan.Number(6.5)
		for i := range r.Recipes {
			switch {
			case r.Recipes[i].Sound == "lead" && r.Recipes[i].Name == "":
				r.Recipes[i].Values["slap/fx/on"] = plan.On(true)
			case r.Recipes[i].Sound == "crunch":
				delete(r.Recipes[i].Values, "amber/fx/on")
			}
		}
		r.Presets["echo"]["B"]["echo/fx/time"] = plan.Number(357)
		r.Presets["echo"]["C"]["echo/fx/mix"] = plan.Unchanged()
	}), "in the order of the rig")
}

func TestWhatComesAndGoesIsSaid(t *testing.T) {
	words := edited(t, func(_ *plan.Plan, r *plan.Rig) {
		r.Path = slices.DeleteFunc(r.Path, func(n plan.Node) bool { return n.Stop == "silt/fx" })
		r.Recipes = append(r.Recipes, plan.Recipe{ID: "new", Sound: "dust", Name: "Thin"})
		r.Destinations = r.Destinations[1:]
		r.Floor.Places["nudge"] = plan.Placement{X: r.Floor.Places["nudge"].X + 30, Y: r.Floor.Places["nudge"].Y - 10}
		r.PowerPlan = slices.Clone(r.PowerPlan)
		r.PowerPlan[0].Output = "9"
		r.Programs = plan.ProgramMap{"echo": {"1": {"2": {Label: "Chop", Values: map[plan.Key]plan.Value{}}}}}
		r.Name = "Longer board"
	})
	assert.Equal(t, []string{
		"Renamed from Long board to Longer board",
		"Silt taken out of the chain",
		"Recipe for Dust (Thin) added",
		"Echo program 1/2 stored: Chop",
		"Destination Hired head removed",
		"Nudge moved 30 mm to the right and 10 mm away from you",
		"Plumb fed by Lantern output 9, before by Lantern output 1",
	}, words)
}

func TestWhatIsEasilyOverlookedIsSaid(t *testing.T) {
	for name, x := range map[string]struct {
		edit  func(r *plan.Rig)
		words string
	}{
		"recipes change places": {
			func(r *plan.Rig) { r.Recipes[0], r.Recipes[1] = r.Recipes[1], r.Recipes[0] },
			"Recipes stand in another order: the first for a sound is its default",
		},
		"destinations do": {
			func(r *plan.Rig) { r.Destinations[0], r.Destinations[1] = r.Destinations[1], r.Destinations[0] },
			"Destinations stand in another order",
		},
		"another board": {
			func(r *plan.Rig) { r.Floor.Board = "carryplank" }, "floor board: Long plank to Carry-on plank",
		},
		"double stomps": {
			func(r *plan.Rig) { r.Floor.DoubleStomps = []plan.DoubleStomp{{A: "amber/s", B: "nudge/s"}} },
			"floor double stomps 1 a: now amber/s",
		},
		"an empty controller": {
			func(r *plan.Rig) { r.Programs = plan.ProgramMap{"echo": {}} }, "Echo: an empty list of programs came or went",
		},
		"an empty box": {
			func(r *plan.Rig) { r.Presets["slap"] = nil }, "Slap: an empty list of presets came or went",
		},
		"an empty preset": {
			func(r *plan.Rig) { r.Presets["echo"]["D"] = map[plan.Key]plan.Value{} }, "Echo preset D: an empty one came or went",
		},
		"a setting of nothing": {func(r *plan.Rig) { r.Base["amber/fx/on"] = plan.Value{} }, "Amber"},
		"turned":               {func(r *plan.Rig) { turn(r, "nudge", 90) }, "Nudge turned from 0 to 90 degrees"},
		"on the bare floor": {
			func(r *plan.Rig) { at(r, "nudge", func(x *plan.Placement) { x.On = plan.OnGround }) },
			"Nudge put on the bare floor",
		},
		"beneath": {
			func(r *plan.Rig) { at(r, "nudge", func(x *plan.Placement) { x.Under, x.Pinned = true, true }) },
			"Nudge hung beneath, pinned",
		},
		"off the floor": {func(r *plan.Rig) { delete(r.Floor.Places, "nudge") }, "Nudge taken off the floor"},
		"no more fed": {
			func(r *plan.Rig) { r.PowerPlan = r.PowerPlan[1:] }, "Plumb no more fed by Lantern output 1",
		},
		"feeds change places": {
			func(r *plan.Rig) { r.PowerPlan[0], r.PowerPlan[1] = r.PowerPlan[1], r.PowerPlan[0] },
			"power 1 gear 1: Plumb to Squeeze",
		},
		"guitars": {
			func(r *plan.Rig) { r.Guitars = r.Guitars[:1] }, "Guitars: Driftwood, before Driftwood and Bulkhead",
		},
		"a foot": {
			func(r *plan.Rig) { r.Recipes[0].Rockers = []plan.Key{"sluice/fx"} }, "Home: foot on Sluice, before nothing",
		},
		"a guitar of a recipe": {func(r *plan.Rig) { r.Recipes[0].Guitar = "bulkhead" }, "Home: on Bulkhead, before none"},
		"a recipe's name": {
			func(r *plan.Rig) { r.Recipes[0].Name = "Bare" }, `Recipe for Home renamed from "" to "Bare"`,
		},
		"a held loop": {
			func(r *plan.Rig) { r.Held = []plan.HeldLoop{{Switcher: "turntable", Loop: 2}} }, "held 1 loop: now 2",
		},
		"a pinned stop": {func(r *plan.Rig) { r.Path[0].Pinned = true }, "Plumb, pinned: false to true"},
		"at a destination": {
			func(r *plan.Rig) { r.Destinations[0].Base["hired/preamp/drive"] = plan.Number(7) },
			"Hired head: Hired head preamp drive 5.5 to 7",
		},
		"its kind": {func(r *plan.Rig) { r.Destinations[0].Kind = plan.OwnAmp }, "Hired head: kind: hired-amp to own-amp"},
	} {
		t.Run(name, func(t *testing.T) {
			words := edited(t, func(_ *plan.Plan, r *plan.Rig) { x.edit(r) })
			require.NotEmpty(t, words)
			assert.Equal(t, x.words, words[0])
		})
	}
}

func at(r *plan.Rig, id plan.ID, edit func(x *plan.Placement)) {
	x := r.Floor.Places[id]
	edit(&x)
	r.Floor.Places[id] = x
}

func turn(r *plan.Rig, id plan.ID, degrees int) {
	x := r.Floor.Places[id]
	x.Rotation = degrees
	r.Floor.Places[id] = x
}

func TestProgramsAreComparedSlotBySlot(t *testing.T) {
	p, q := demo.Plan(), demo.Plan()
	before, _ := p.FindRig("switched")
	after, _ := q.FindRig("switched")
	slot := func(label string, sound plan.ID, on bool) plan.ProgramMap {
		return plan.ProgramMap{
			"turntable": {"1": {"2": {Label: label, Sound: sound, Values: map[plan.Key]plan.Value{"amber/fx/on": plan.On(on)}}}},
		}
	}
	before.Programs, after.Programs = slot("Chop", "skank", false), slot("Bark", "crunch", true)
	assert.Equal(t, []string{
		"Turntable program 1/2 is called Bark, before Chop",
		"Turntable program 1/2 serves Crunch, before Skank",
		"Turntable program 1/2: Amber off to on",
	}, Words(q, *before, *after))
	after.Programs["turntable"]["1"] = map[string]plan.Program{"3": {}}
	assert.Equal(
		t, []string{"Turntable program 1/2 cleared: it was Chop", "Turntable program 1/3 stored: nothing"},
		Words(q, *before, *after),
	)
}

func TestLanesAreNamedWhereAStopComesIntoOne(t *testing.T) {
	p, q := demo.Plan(), demo.Plan()
	r, _ := p.FindRig("long")
	s, _ := q.FindRig("long")
	i := slices.IndexFunc(r.Destinations, func(d plan.Destination) bool { return d.ID == "long-two" })
	require.GreaterOrEqual(t, i, 0)
	r.Path, s.Path = r.Destinations[i].Path, s.Destinations[i].Path
	last := len(s.Path) - 1
	room := s.Path[last-1]
	require.Equal(t, plan.Key("room/fx"), room.Stop)
	s.Path[last].Split.Lanes[1].Nodes = append([]plan.Node{room}, s.Path[last].Split.Lanes[1].Nodes...)
	s.Path = append(s.Path[:last-1:last-1], s.Path[last])
	right := s.Path[last-1].Split.Lanes[1].Name
	words := strings.Join(Words(q, *r, *s), "\n")
	assert.Contains(t, words, "Room moved from before the split "+string(s.Path[last-1].Split.ID)+" to the lane "+right)
	back := strings.Join(Words(q, *s, *r), "\n")
	assert.Contains(t, back, "Room moved from the lane "+right)
	s.Path[last-1].Split.Lanes[1].Name = "far side"
	assert.Contains(t, strings.Join(Words(q, *r, *s), "\n"), "lanes: ")
}

func TestLoopsOfASwitcherAreNamed(t *testing.T) {
	p, q := demo.Plan(), demo.Plan()
	before, _ := p.FindRig("switched")
	after, _ := q.FindRig("switched")
	i := slices.IndexFunc(after.Path, func(n plan.Node) bool { return n.Stop == "amber/fx" })
	after.Path[i].Switcher, after.Path[i].Loop = "", 0
	assert.Equal(t, []string{"Amber taken out of loop 3 of Turntable"}, Words(q, *before, *after))
	assert.Equal(t, []string{"Amber put into loop 3 of Turntable"}, Words(q, *after, *before))
}

func TestThingsThatAreNoRigAreSaidByTheirFields(t *testing.T) {
	p := demo.Plan()
	a, _ := p.FindSong("ferry-lights")
	b := *a
	b.Tempo.BPM, b.Tuning = 108, "Drop D"
	assert.Equal(t, []string{"tempo bpm: 104 to 108", "tuning: now Drop D"}, Words(p, *a, b))
	assert.Equal(t, []string{"Ferry Lights was added"}, Words(p, nil, b))
	assert.Equal(t, []string{"Ferry Lights was removed"}, Words(p, *a, nil))
	assert.Empty(t, Words(p, nil, nil))
	short := b
	short.Sections = b.Sections[1:]
	for _, words := range Words(p, b, short) {
		assert.Contains(t, words, "ferry-lights-1", "what only moved up a place is not said")
	}
}

func TestWhatDiffersInALongTextIsShown(t *testing.T) {
	p := demo.Plan()
	a := p.Rigs[0]
	a.Notes = strings.Repeat("All the same. ", 20) + "Left side."
	b := a
	b.Notes = strings.Repeat("All the same. ", 20) + "Right side."
	words := Words(p, a, b)
	require.Len(t, words, 1)
	assert.Contains(t, words[0], "Left side. to …")
	assert.Contains(t, words[0], "Right side.")
}

// Whatever is changed in a rig's file, something is said; where nothing is, nothing.
func TestNoDifferenceIsLeftOut(t *testing.T) {
	p := demo.Plan()
	rapid.Check(t, func(t *rapid.T) {
		r := p.Rigs[rapid.IntRange(0, len(p.Rigs)-1).Draw(t, "rig")]
		data, err := json.Marshal(r)
		require.NoError(t, err)
		var tree any
		require.NoError(t, json.Unmarshal(data, &tree))
		for range rapid.IntRange(1, 3).Draw(t, "edits") {
			tree = disturb(t, tree)
		}
		changed, err := json.Marshal(tree)
		require.NoError(t, err)
		var after plan.Rig
		if json.Unmarshal(changed, &after) != nil {
			t.Skip("no rig any more")
		}
		again, err := json.Marshal(after)
		require.NoError(t, err)
		if string(again) == string(data) {
			assert.Empty(t, Words(p, r, after))
			return
		}
		assert.NotEmpty(t, Words(p, r, after), "%s", changed)
		assert.NotEmpty(t, Words(p, after, r), "%s", changed)
		for _, words := range Words(p, r, after) {
			assert.Equal(t, strings.TrimSpace(words), words)
		}
	})
}

// disturb changes something somewhere in a tree of JSON.
func disturb(t *rapid.T, v any) any {
	switch v := v.(type) {
	case map[string]any:
		keys := plan.SortedKeys(v)
		if len(keys) == 0 {
			return v
		}
		key := rapid.SampledFrom(keys).Draw(t, "key")
		if key == "id" {
			return v
		}
		if rapid.IntRange(0, 5).Draw(t, "drop") == 0 {
			delete(v, key)
			return v
		}
		v[key] = disturb(t, v[key])
	case []any:
		if len(v) == 0 {
			return v
		}
		i := rapid.IntRange(0, len(v)-1).Draw(t, "entry")
		switch rapid.IntRange(0, 5).Draw(t, "how") {
		case 0:
			return slices.Delete(v, i, i+1)
		case 1:
			v[0], v[i] = v[i], v[0]
			return v
		}
		v[i] = disturb(t, v[i])
	case float64:
		return v + float64(rapid.IntRange(1, 3).Draw(t, "more"))
	case bool:
		return !v
	case string:
		return v + rapid.SampledFrom([]string{"x", "/y", "z z"}).Draw(t, "letters")
	}
	return v
}

func TestAStopThatCrossesIntoTheNextLaneHasMovedThoughTheOrderIsTheSame(t *testing.T) {
	p := demo.Plan()
	lanes := func(left, right []plan.Node) plan.Rig {
		return plan.Rig{
			ID: "r", Name: "R",
			Path: []plan.Node{
				{
					Split: &plan.Split{
						ID: "s", Kind: plan.SplitCopy, Lanes: []plan.Lane{{Name: "left", Nodes: left}, {Name: "right", Nodes: right}},
					},
				},
			},
		}
	}
	amber, room, slap := plan.Node{Stop: "amber/fx"}, plan.Node{Stop: "room/fx"}, plan.Node{Stop: "slap/fx"}
	assert.Equal(
		t, []string{"Room moved from the lane left to the lane right"},
		Words(p, lanes([]plan.Node{amber, room}, []plan.Node{slap}), lanes([]plan.Node{amber}, []plan.Node{room, slap})),
	)
}

func TestWhatIsNoMoreGoesByItsID(t *testing.T) {
	p := demo.Plan()
	before := plan.Rig{
		ID: "r", Name: "R", Path: []plan.Node{{Stop: "sold/fx"}, {Stop: "amber/gone"}},
		Base: map[plan.Key]plan.Value{"sold/fx/level": plan.Number(3)}, Recipes: []plan.Recipe{{ID: "x", Sound: "forgotten"}},
	}
	after := plan.Rig{ID: "r", Name: "R", Guitars: []plan.ID{"lost"}}
	assert.Equal(t, []string{
		"Guitars: lost, before none",
		"sold/fx taken out of the chain",
		"Amber taken out of the chain",
		"sold/fx/level no more 3",
		"Recipe for forgotten removed",
	}, Words(p, before, after))
}

func TestWhereAStopComesToIsSaid(t *testing.T) {
	p := demo.Plan()
	rig := func(nodes ...plan.Node) plan.Rig { return plan.Rig{ID: "r", Name: "R", Path: nodes} }
	amber, rust := plan.Node{Stop: "amber/fx"}, plan.Node{Stop: "rust/fx"}
	in := func(n plan.Node, loop int) plan.Node { n.Switcher, n.Loop = "turntable", loop; return n }
	for name, x := range map[string]struct {
		before, after plan.Rig
		want          []string
	}{
		"the end":        {rig(amber), rig(amber, rust), []string{"Rust added at the end of the chain"}},
		"before another": {rig(amber), rig(rust, amber), []string{"Rust added before Amber"}},
		"a loop": {
			rig(amber), rig(amber, in(rust, 4)), []string{"Rust added at the end of the chain, in loop 4 of Turntable"},
		},
		"out of a loop": {
			rig(amber, in(rust, 4)), rig(amber), []string{"Rust taken out of the chain, and of loop 4 of Turntable"},
		},
		"another loop": {
			rig(amber, in(rust, 4)), rig(amber, in(rust, 5)),
			[]string{"Rust moved from loop 4 of Turntable to loop 5 of Turntable"},
		},
		"to the end": {
			rig(amber, rust, plan.Node{Stop: "echo/fx"}, plan.Node{Stop: "room/fx"}),
			rig(rust, plan.Node{Stop: "echo/fx"}, plan.Node{Stop: "room/fx"}, amber),
			[]string{"Amber moved from before Rust to the end"},
		},
		"from the end": {
			rig(rust, plan.Node{Stop: "echo/fx"}, plan.Node{Stop: "room/fx"}, amber),
			rig(amber, rust, plan.Node{Stop: "echo/fx"}, plan.Node{Stop: "room/fx"}),
			[]string{"Amber moved from the end to before Rust"},
		},
		"what a gate hears": {
			rig(amber, rust), rig(amber, plan.Node{Stop: "rust/fx", KeyIn: "amber/fx"}),
			[]string{"Rust, key: nothing to amber/fx"},
		},
		"what it takes": {
			rig(amber), rig(plan.Node{Stop: "amber/fx", Takes: "left"}), []string{"Amber, takes: nothing to left"},
		},
	} {
		t.Run(name, func(t *testing.T) { assert.Equal(t, x.want, Words(p, x.before, x.after)) })
	}
}

func TestFeedsAreSaidWithTheirVoltageAndLead(t *testing.T) {
	p := demo.Plan()
	volts := 12.5
	rig := func(feeds ...plan.PowerFeed) plan.Rig { return plan.Rig{ID: "r", Name: "R", PowerPlan: feeds} }
	plain := plan.PowerFeed{Supply: "lantern", Output: "1", Gear: []plan.ID{"echo"}}
	doubled := plan.PowerFeed{
		Supply: "lantern", Output: "2", Gear: []plan.ID{"echo"}, Voltage: &volts, Lead: plan.CurrentDoubling, Second: "3",
		Pinned: true,
	}
	assert.Equal(
		t,
		[]string{
			"Echo fed by Lantern output 2 at 12.5 V by a current-doubling lead with output 3, pinned, before by Lantern output 1",
		},
		Words(p, rig(plain), rig(doubled)),
	)
	assert.Equal(t, []string{"Echo fed by Lantern output 1"}, Words(p, rig(), rig(plain)))
	assert.Equal(
		t,
		[]string{
			"Echo fed by Lantern output 1 and Lantern output 2 at 12.5 V by a current-doubling lead with output 3, pinned, before by Lantern output 1",
		},
		Words(p, rig(plain), rig(plain, doubled)),
	)
}

func TestSnapshotsAreNamedByTheirPreset(t *testing.T) {
	p := demo.Plan()
	rig := func(time float64) plan.Rig {
		return plan.Rig{
			ID: "r", Name: "R",
			Snapshots: plan.SnapshotMap{"echo": {"B": {"2": {"echo/fx/time": plan.Number(time), "echo/fx/on": plan.On(true)}}}},
		}
	}
	assert.Equal(t, []string{"Echo preset B snapshot 2 time 357 to 380 ms"}, Words(p, rig(357), rig(380)))
	off := rig(357)
	off.Snapshots["echo"]["B"]["2"]["echo/fx/on"] = plan.On(false)
	assert.Equal(t, []string{"Echo preset B snapshot 2 on to off"}, Words(p, rig(357), off))
}
