package plan_test

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"envex/core/plan"
)

func ptr[T any](v T) *T { return &v }

// small is a plan with one of everything, valid as it stands.
func small() plan.Plan {
	return plan.Plan{
		Gear: []plan.Gear{
			{ID: "gtr", Name: "Plank", Kind: plan.Guitar, Controls: []plan.Control{
				{ID: "pickup", Name: "pickup", Kind: plan.Selector, Access: plan.QuickHand, Options: []string{"neck", "bridge"}},
			}},
			{ID: "amber", Name: "Amber", Kind: plan.Pedal, Blocks: []plan.Block{{
				ID: "drive", Name: "drive", Effect: plan.EffectOverdrive, Bypass: plan.TrueBypass,
				Controls: []plan.Control{{ID: "gain", Name: "gain", Kind: plan.Knob, Access: plan.SlowHand}},
			}}, Footswitches: []plan.Footswitch{{ID: "s", Label: "Amber", X: 35, Y: 100, Press: &plan.Press{
				Actions: []plan.Action{{Kind: plan.Toggle, Target: "drive/on"}},
			}}}},
			{ID: "echo", Name: "Echo", Kind: plan.Pedal, Blocks: []plan.Block{{
				ID: "delay", Name: "delay", Effect: plan.EffectDelay, Bypass: plan.BufferedBypass, Trails: true,
				Controls: []plan.Control{
					{ID: "time", Name: "time", Kind: plan.Knob, Access: plan.Memory, Min: ptr(20.0), Max: ptr(1200.0), Unit: "ms"},
					{ID: "preset", Name: "preset", Kind: plan.Preset, Access: plan.Foot, Options: []string{"A", "B"}},
				},
			}}},
			{ID: "combo", Name: "Combo", Kind: plan.Amp, Blocks: []plan.Block{
				{ID: "preamp", Name: "preamp", Effect: plan.EffectPreamp, Bypass: plan.AlwaysOn},
				{ID: "power", Name: "power", Effect: plan.EffectPower, Bypass: plan.AlwaysOn},
			}},
		},
		Sounds: []plan.Sound{{ID: "home", Name: "Home", Short: "HM", Role: plan.HomeRole, Tape: "bone"}},
		Songs: []plan.Song{{ID: "song", Title: "Low Tide", Tempo: plan.Tempo{BPM: 100}, Meter: plan.Meter{Beats: 4, Unit: 4},
			Sections: []plan.Section{{ID: "a", Label: "Verse", Sound: "home", Recipe: "r1", Bars: ptr(8.0)}}}},
		SetLists: []plan.SetList{{ID: "set", Name: "Night", Entries: []plan.SetEntry{{ID: "e1", Song: "song"}}}},
		Rigs: []plan.Rig{{
			ID: "rig", Name: "Long board", Guitars: []plan.ID{"gtr"},
			Path: []plan.Node{{Stop: "amber/drive"}, {Stop: "echo/delay"}, {Stop: "combo/preamp"}, {Stop: "combo/power"}},
			Base: map[plan.Key]plan.Value{"amber/drive/gain": plan.Number(4)},
			Recipes: []plan.Recipe{{ID: "r1", Sound: "home", Values: map[plan.Key]plan.Value{
				"amber/drive/on": plan.On(true), "echo/delay/preset": plan.Free(), "gtr/pickup": plan.Text("neck"),
			}}},
			Presets: plan.PresetMap{"echo": {"A": {"echo/delay/time": plan.Number(300)}}},
		}},
		Shows: []plan.Show{{ID: "show", Name: "Quay", SetList: "set", Rig: "rig"}},
	}
}

func TestASoundPlanHasNoProblems(t *testing.T) {
	p := small()
	assert.Empty(t, p.Validate())
	empty := plan.Plan{}
	assert.Empty(t, empty.Validate(), "an empty plan is a plan")
}

// boards has the rig stand on a board of 460 by 300 mm.
func boards(p *plan.Plan) *plan.Rig {
	p.Gear = append(
		p.Gear,
		plan.Gear{
			ID: "plank", Name: "Plank", Kind: plan.Board, Size: &plan.Size{Width: 460, Depth: 300}, Board: &plan.BoardSpec{},
		},
	)
	r := &p.Rigs[0]
	r.Floor.Board, r.Floor.Places = "plank", map[plan.ID]plan.Placement{}
	return r
}

func spec(p *plan.Plan) *plan.BoardSpec { return p.Gear[len(p.Gear)-1].Board }

func TestWhatStandsOnBoardsIsValid(t *testing.T) {
	p := small()
	r := boards(&p)
	*spec(&p) = plan.BoardSpec{
		Standing: &plan.Area{X: 5, Y: 5, Width: 450, Depth: 290}, Slats: []plan.Slat{{Y: 0, Depth: 80}, {Y: 110, Depth: 80}},
		SlopeDeg: ptr(8.0), Beneath: ptr(60.0), Lid: ptr(90.0), MostG: ptr(12000.0),
	}
	p.Gear = append(p.Gear, plan.Gear{ID: "small", Name: "Small", Kind: plan.Board})
	r.Floor.Boards = []plan.BoardPlace{{Board: "small", X: 900, Y: 100}}
	r.Floor.Places["amber"] = plan.Placement{Board: "small", X: 10, Y: 10, Under: true, Pinned: true}
	r.Floor.Places["echo"] = plan.Placement{On: plan.OffFloor}
	assert.Empty(t, p.Validate())
	assert.Equal(t, []plan.Use{{Kind: "rig", ID: "rig", Name: "Long board", Where: "one of its boards"}}, p.Uses("small"))
}

func TestValidateNamesEachFaultByItsPath(t *testing.T) {
	cases := map[string]struct {
		break_ func(*plan.Plan)
		path   string
		says   string
	}{
		"dangling sound": {
			func(p *plan.Plan) { p.Songs[0].Sections[0].Sound = "nope" }, "songs[0].sections[0].sound", "no sound",
		},
		"dangling recipe": {
			func(p *plan.Plan) { p.Songs[0].Sections[0].Recipe = "nope" }, "songs[0].sections[0].recipe", "no recipe",
		},
		"dangling song": {
			func(p *plan.Plan) { p.SetLists[0].Entries[0].Song = "nope" }, "set_lists[0].entries[0].song", "no song",
		},
		"dangling stop": {
			func(p *plan.Plan) { p.Rigs[0].Path[0].Stop = "gone/drive" }, "rigs[0].path[0].stop", "no gear",
		},
		"dangling block": {
			func(p *plan.Plan) { p.Rigs[0].Path[0].Stop = "amber/x" }, "rigs[0].path[0].stop", "no block",
		},
		"dangling rig": {func(p *plan.Plan) { p.Shows[0].Rig = "nope" }, "shows[0].rig", "no rig"},
		"block twice": {
			func(p *plan.Plan) { p.Rigs[0].Path[1].Stop = "amber/drive" }, "rigs[0].path[1].stop", "twice",
		},
		"unknown control": {
			func(p *plan.Plan) { p.Rigs[0].Recipes[0].Values["amber/drive/glow"] = plan.Number(1) },
			`rigs[0].recipes[0].values["amber/drive/glow"]`, "no control",
		},
		"knob out of range": {
			func(p *plan.Plan) { p.Rigs[0].Base["amber/drive/gain"] = plan.Number(11) }, `rigs[0].base["amber/drive/gain"]`,
			"0 to 10",
		},
		"no such option": {
			func(p *plan.Plan) { p.Rigs[0].Recipes[0].Values["gtr/pickup"] = plan.Text("middle") },
			`rigs[0].recipes[0].values["gtr/pickup"]`, "no option",
		},
		"number for on": {
			func(p *plan.Plan) { p.Rigs[0].Recipes[0].Values["amber/drive/on"] = plan.Number(1) },
			`rigs[0].recipes[0].values["amber/drive/on"]`, "on or off",
		},
		"free in base": {
			func(p *plan.Plan) { p.Rigs[0].Base["amber/drive/gain"] = plan.Free() }, `rigs[0].base["amber/drive/gain"]`,
			"only a recipe",
		},
		"loop without a loop": {
			func(p *plan.Plan) { p.Rigs[0].Path[1], p.Rigs[0].Path[2] = p.Rigs[0].Path[2], p.Rigs[0].Path[1] },
			"rigs[0].path[2].stop", "no effects loop",
		},
		"power before preamp": {
			func(p *plan.Plan) { p.Rigs[0].Path[2], p.Rigs[0].Path[3] = p.Rigs[0].Path[3], p.Rigs[0].Path[2] },
			"rigs[0].path[2].stop", "before its preamp",
		},
		"preamp without power": {
			func(p *plan.Plan) { p.Rigs[0].Path = p.Rigs[0].Path[:3] }, "rigs[0].path[2].stop", "missing",
		},
		"tempo of zero": {func(p *plan.Plan) { p.Songs[0].Tempo.BPM = 0 }, "songs[0].tempo.bpm", "outside 20 to 400"},
		"absurd tempo": {
			func(p *plan.Plan) { p.Songs[0].Tempo.BPM = 401 }, "songs[0].tempo.bpm", "outside 20 to 400",
		},
		"section's own tempo": {
			func(p *plan.Plan) { p.Songs[0].Sections[0].Tempo = &plan.Tempo{BPM: 19} }, "songs[0].sections[0].tempo.bpm",
			"outside",
		},
		"meter of thirds": {func(p *plan.Plan) { p.Songs[0].Meter.Unit = 3 }, "songs[0].meter.unit", "not a note"},
		"a key from later on": {
			func(p *plan.Plan) { p.Rigs[0].Path[0].KeyIn = "echo/delay" }, "rigs[0].path[0].key", "not an earlier stop",
		},
		"same id twice": {func(p *plan.Plan) { p.Sounds[0].ID = "rig" }, "rigs[0].id", "used by"},
		"bad id":        {func(p *plan.Plan) { p.Sounds[0].ID = "a/b" }, "sounds[0].id", "not an id"},
		"no name":       {func(p *plan.Plan) { p.Gear[1].Name = " " }, "gear[1].name", "name is needed"},
		"unknown tape":  {func(p *plan.Plan) { p.Sounds[0].Tape = "red" }, "sounds[0].tape", "not one of"},
		"amp without power": {
			func(p *plan.Plan) { p.Gear[3].Blocks = p.Gear[3].Blocks[:1] }, "gear[3].blocks", "one power block",
		},
		"toggle of a knob": {
			func(p *plan.Plan) { p.Gear[1].Footswitches[0].Press.Actions[0].Target = "drive/gain" },
			"gear[1].footswitches[0].press.actions[0].target", "cannot be toggled",
		},
		"switch to nowhere": {
			func(p *plan.Plan) { p.Gear[1].Footswitches[0].Press.Actions[0].Target = "x/on" },
			"gear[1].footswitches[0].press.actions[0].target", "no control",
		},
		"preset that is not": {
			func(p *plan.Plan) { p.Rigs[0].Presets["echo"]["Z"] = nil }, `rigs[0].presets["echo"]["Z"]`, "no preset",
		},
		"presets of a drive": {
			func(p *plan.Plan) { p.Rigs[0].Presets["amber"] = nil }, `rigs[0].presets["amber"]`, "no presets",
		},
		"rocker that is not": {
			func(p *plan.Plan) { p.Rigs[0].Recipes[0].Rockers = []plan.Key{"amber/drive"} }, "rigs[0].recipes[0].rockers[0]",
			"not played with the foot",
		},
		"guitar that is not": {
			func(p *plan.Plan) { p.Rigs[0].Guitars[0] = "amber" }, "rigs[0].guitars[0]", "not a guitar",
		},
		"negative rest": {
			func(p *plan.Plan) { p.Songs[0].Sections[0].Rest = -1 }, "songs[0].sections[0].rest_beats", "outside",
		},
		"placed but not owned": {
			func(p *plan.Plan) { p.Rigs[0].Floor.Places = map[plan.ID]plan.Placement{"x": {}} }, `rigs[0].floor.places["x"]`,
			"no gear",
		},
		"a board that is a box": {
			func(p *plan.Plan) { p.Rigs[0].Floor.Boards = []plan.BoardPlace{{Board: "amber"}} }, "rigs[0].floor.boards[0].board",
			"not a board",
		},
		"a board twice": {
			func(p *plan.Plan) { boards(p); p.Rigs[0].Floor.Boards = []plan.BoardPlace{{Board: "plank"}} },
			"rigs[0].floor.boards[0].board", "already",
		},
		"on a board of others": {
			func(p *plan.Plan) { boards(p).Floor.Places["amber"] = plan.Placement{Board: "echo"} },
			`rigs[0].floor.places["amber"].board`, "no board",
		},
		"on a board and not": {func(p *plan.Plan) {
			boards(p).Floor.Places["amber"] = plan.Placement{Board: "plank", On: plan.OnGround}
		}, `rigs[0].floor.places["amber"].on`, "not both"},
		"beneath the floor": {
			func(p *plan.Plan) { boards(p).Floor.Places["amber"] = plan.Placement{On: plan.OnGround, Under: true} },
			`rigs[0].floor.places["amber"].under`, "nothing above",
		},
		"beneath no board": {func(p *plan.Plan) {
			r := boards(p)
			r.Floor.Board = ""
			r.Floor.Places["amber"] = plan.Placement{Under: true}
		}, `rigs[0].floor.places["amber"].under`, "no board"},
		"slats of a box": {
			func(p *plan.Plan) { p.Gear[1].Board = &plan.BoardSpec{} }, "gear[1].board", "not a board",
		},
		"a slat past the edge": {
			func(p *plan.Plan) { boards(p); spec(p).Slats = []plan.Slat{{Y: 250, Depth: 60}} }, "gear[4].board.slats[0]",
			"past the board",
		},
		"slats on each other": {
			func(p *plan.Plan) { boards(p); spec(p).Slats = []plan.Slat{{Y: 0, Depth: 60}, {Y: 50, Depth: 60}} },
			"gear[4].board.slats[1].y_mm", "ends at 60",
		},
		"standing past the edge": {
			func(p *plan.Plan) { boards(p); spec(p).Standing = &plan.Area{X: 10, Width: 460, Depth: 300} },
			"gear[4].board.standing", "past the board",
		},
		"a jack past its side": {func(p *plan.Plan) {
			p.Gear[1].Size = &plan.Size{Width: 70, Depth: 120}
			p.Gear[1].Jacks = []plan.Jack{{ID: "in", Side: "left", At: ptr(121.0)}}
		}, "gear[1].jacks[0].at_mm", "120 mm long"},
		"power on no side": {
			func(p *plan.Plan) { p.Gear[1].Power = &plan.PowerDraw{Voltage: 9, At: ptr(10.0)} }, "gear[1].power.at_mm",
			"which side",
		},
		"turned by an odd angle": {
			func(p *plan.Plan) { p.Rigs[0].Floor.Places = map[plan.ID]plan.Placement{"amber": {Rotation: 45}} },
			`rigs[0].floor.places["amber"].rotation_deg`, "not one of",
		},
	}
	for name, c := range cases {
		t.Run(name, func(t *testing.T) {
			p := small()
			c.break_(&p)
			for _, problem := range p.Validate() {
				if problem.Path == c.path && strings.Contains(problem.Message, c.says) {
					return
				}
			}
			t.Fatalf("no problem at %s that says %q, but:\n%s", c.path, c.says, p.Validate())
		})
	}
}

func TestValidateReportsEverythingAtOnce(t *testing.T) {
	p := small()
	p.Songs[0].Tempo.BPM = 0
	p.Songs[0].Sections[0].Sound = "nope"
	p.Rigs[0].Path[0].Stop = "gone/x"
	assert.Len(t, p.Validate(), 4, "tempo, sound, the recipe that now makes another sound, and the stop")
}

func TestTempo(t *testing.T) {
	ms := func(bpm float64, beat, note string) float64 {
		got, ok := plan.Tempo{BPM: bpm, Beat: beat}.Milliseconds(note)
		require.True(t, ok)
		return got
	}
	assert.InDelta(t, 500, ms(120, "", "1/4"), 1e-9)
	assert.InDelta(t, 357.142857, ms(126, "", "1/8."), 1e-6)
	assert.InDelta(t, 333.333333, ms(120, "", "1/4t"), 1e-6)
	assert.InDelta(t, 500.0/3, ms(120, "1/4.", "1/8"), 1e-6, "in 6/8 the dotted quarter gets the beat")
	assert.InDelta(t, 2.0, plan.Tempo{BPM: 120}.BarSeconds(plan.Meter{Beats: 4, Unit: 4}), 1e-9)
	assert.InDelta(t, 1.5, plan.Tempo{BPM: 120}.BarSeconds(plan.Meter{Beats: 3, Unit: 4}), 1e-9)
	assert.InDelta(t, 1.0, plan.Tempo{BPM: 120, Beat: "1/4."}.BarSeconds(plan.Meter{Beats: 6, Unit: 8}), 1e-9)
	for _, bad := range []string{"", "1/3", "1/0", "2/4", "1/128", "1/+4", "1/08", "x", "1/4..", "1/-4"} {
		_, ok := plan.NoteFraction(bad)
		assert.False(t, ok, bad)
	}
}

func TestValueKeepsItsFormThroughJSON(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		v := rapid.OneOf(
			rapid.Map(rapid.Float64Range(-1e6, 1e6), plan.Number),
			rapid.Map(rapid.String(), plan.Text),
			rapid.Map(rapid.Bool(), plan.On),
			rapid.Map(rapid.SampledFrom([]string{"1/4", "1/8."}), plan.Sync),
			rapid.Just(plan.Free()), rapid.Just(plan.Unchanged()),
		).Draw(t, "value")
		data, err := json.Marshal(v)
		require.NoError(t, err)
		var back plan.Value
		require.NoError(t, json.Unmarshal(data, &back))
		if v.Kind() != plan.TextValue || json.Valid([]byte(v.Word())) || back.Kind() == plan.TextValue {
			data2, err := json.Marshal(back)
			require.NoError(t, err)
			assert.Equal(t, string(data), string(data2))
			assert.Equal(t, v.Kind(), back.Kind())
		}
	})
	for _, bad := range []string{`[]`, `{}`, `{"sync":3}`, `{"free":false}`, `{"free":true,"sync":"1/4"}`} {
		var v plan.Value
		assert.Error(t, json.Unmarshal([]byte(bad), &v), bad)
	}
}

func TestZonesFollowTheAmp(t *testing.T) {
	p := small()
	p.Gear[3].Loop = &plan.AmpLoop{Kind: "series"}
	r := &p.Rigs[0]
	r.Path = []plan.Node{{Stop: "amber/drive"}, {Stop: "combo/preamp"}, {Stop: "echo/delay"}, {Stop: "combo/power"}}
	require.Empty(t, p.Validate())
	assert.Equal(
		t,
		map[plan.Key]plan.Zone{
			"amber/drive": plan.FrontOfAmp, "combo/preamp": plan.FrontOfAmp, "echo/delay": plan.InTheLoop,
			"combo/power": plan.Out,
		},
		p.Zones(r.Path),
	)
}

func TestUsesNameThePlaces(t *testing.T) {
	p := small()
	var said []string
	for _, u := range p.Uses("amber") {
		said = append(said, u.String())
	}
	assert.Equal(t, []string{"Long board: in the chain", "Long board: base settings", "Long board: a recipe"}, said)
	assert.NotEmpty(t, p.Uses("rig"), "a show plays on it and a section chose its recipe")
	assert.Empty(t, p.Uses("show"))
}
