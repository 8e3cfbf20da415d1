package paper

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"envex/core/plan"
	"envex/demo"
)

// at is the demo with its first show moved.
func at(t require.TestingT, rig, destination plan.ID) *plan.Plan {
	p := demo.Plan()
	p.Shows[0].Rig, p.Shows[0].Destination = rig, destination
	require.Empty(t, p.Validate())
	return p
}

func partOf(t require.TestingT, s *Sheet, title string) Part {
	i := slices.IndexFunc(s.Parts, func(p Part) bool { return p.Title == title })
	require.GreaterOrEqual(t, i, 0, title)
	return s.Parts[i]
}

// cellOf is the text of a column in the line that begins with a name.
func cellOf(t require.TestingT, p Part, line, column string) string {
	i := slices.IndexFunc(p.Rows, func(r Row) bool { return r[0].Text == line })
	require.GreaterOrEqual(t, i, 0, line)
	return cells(t, p, column)[i]
}

func TestOnlyWhatDiffersStandsInTheLineOfASound(t *testing.T) {
	s := sheet(t, demo.Plan(), "quay-12", SettingSheet)
	nudge := partOf(t, s, "Nudge")
	assert.Equal(t, []string{"all night", "LD Lead", "LD Lead (On Rust, for Night Dredger)"}, cells(t, nudge, "for"))
	assert.Equal(t, []string{"off", "on", "on"}, cells(t, nudge, "on or off"))
	assert.Equal(t, []string{"8:30 (1.5)", "", ""}, cells(t, nudge, "level"))
	require.NotNil(t, nudge.Rows[0][2].Hand)
	assert.InDelta(t, 0.15, *nudge.Rows[0][2].Hand, 1e-9)
	assert.Equal(t, []string{"all night"}, cells(t, partOf(t, s, "Silt"), "for"), "it is off in every sound")
	rust := partOf(t, s, "Rust")
	assert.Equal(t, "12 o'clock (5)", cellOf(t, rust, "LD Lead (On Rust, for Night Dredger)", "drive"))
}

func TestWhatAPresetHoldsIsSaidOnceInThePreset(t *testing.T) {
	echo := partOf(t, sheet(t, demo.Plan(), "quay-12", SettingSheet), "Echo")
	assert.Equal(t, "380 ms", cellOf(t, echo, "preset B", "time"))
	assert.Equal(t, "B", cellOf(t, echo, "LD Lead", "preset"))
	assert.Empty(t, cellOf(t, echo, "LD Lead", "time"), "no hand sets it")
	assert.Empty(t, cellOf(t, echo, "all night", "time"))
}

// A sound set as its lines say is set as its recipe says: the line for all night, then its own over it.
func TestTheSettingsSheetReadBackGivesEverySettingOfTheNight(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := demo.Plan()
		r, _ := p.FindRig("long")
		for i := range r.Recipes {
			if rapid.Bool().Draw(t, "turned") {
				if r.Recipes[i].Values == nil {
					r.Recipes[i].Values = map[plan.Key]plan.Value{}
				}
				r.Recipes[i].Values["amber/fx/drive"] = plan.Number(float64(rapid.IntRange(0, 10).Draw(t, "drive")))
				r.Recipes[i].Values["amber/fx/on"] = plan.On(rapid.Bool().Draw(t, "on"))
			}
		}
		part := partOf(t, sheet(t, p, "quay-12", SettingSheet), "Amber")
		m := &maker{plan: p, given: p, show: &p.Shows[0], rig: r}
		for _, x := range m.settings() {
			name := m.sound(x.Sound.ID).Text
			if x.Recipe.Name != "" {
				name += " (" + x.Recipe.Name + ")"
			}
			read := func(column string) string {
				for _, row := range part.Rows {
					if k := slices.IndexFunc(part.Columns, func(c Column) bool { return c.Name == column }); row[0].Text == name &&
						row[k].Text != "" {
						return row[k].Text
					}
				}
				return cellOf(t, part, "all night", column)
			}
			assert.Equal(t, x.Values["amber/fx/on"].String(), read("on or off"), name)
			if x.Values["amber/fx/on"].IsOn() {
				assert.Contains(t, read("drive"), "("+x.Values["amber/fx/drive"].String()+")", name)
			}
		}
	})
}

func TestAClockGoesFromSevenToFive(t *testing.T) {
	for turn, want := range map[float64]string{
		0: "7 o'clock", 0.5: "12 o'clock", 0.75: "2:30", 1: "5 o'clock", 0.15: "8:30", 0.55: "12:30", 0.575: "12:45",
		0.6: "1 o'clock", 0.29: "10 o'clock", 0.26: "9:30", 0.99: "5 o'clock",
	} {
		assert.Equal(t, want, plan.ClockFace(turn))
	}
}

func TestAnEmptyProgramMapStillSaysWhatListens(t *testing.T) {
	s := sheet(t, demo.Plan(), "quay-12", MIDIMap)
	assert.Empty(t, partOf(t, s, "Programs").Rows)
	assert.Contains(t, partOf(t, s, "Programs").Note, "holds programs yet")
	heard := partOf(t, s, "What listens")
	assert.Equal(t, []string{"3", "3"}, cells(t, heard, "channel"))
	assert.Contains(t, cells(t, heard, "values")[1], "B = 1 (shown 2)")
}

func TestProgramsSayTheirLoopsAndWhatTheySend(t *testing.T) {
	p := at(t, "switched", "")
	r, _ := p.FindRig("switched")
	switcher := r.Path[slices.IndexFunc(r.Path, func(n plan.Node) bool { return n.Switcher != "" })].Switcher
	r.Programs = plan.ProgramMap{
		switcher: {
			"1": {
				"2": {
					Label: "Chop", Values: map[plan.Key]plan.Value{"amber/fx/on": plan.On(true), "echo/fx/preset": plan.Text("B")},
				},
			},
		},
	}
	r.MIDI = []plan.MIDILink{{Controller: switcher, Gear: "echo", Channel: 3}}
	require.Empty(t, p.Validate())
	part := partOf(t, sheet(t, p, "quay-12", MIDIMap), "Programs")
	require.Len(t, part.Rows, 1)
	assert.Equal(t, "Chop", part.Rows[0][3].Text)
	assert.Equal(t, "3", part.Rows[0][4].Text, "Amber stands in loop 3")
	assert.Contains(t, part.Rows[0][5].Text, "Echo: program change 1 on channel 3, shown as 2")
}

func TestTheHouseGetsALineForEachOutput(t *testing.T) {
	for name, x := range map[string]struct {
		destination plan.ID
		from        []string
		take        string
		note        string
	}{
		"one combo": {"", []string{"Pier combo speaker out"}, "a microphone in front of the speaker", ""},
		"two combos": {
			"long-two", []string{"Pier combo speaker out (stage left)", "Jetty combo speaker out (stage right)"},
			"a microphone in front of the speaker", "",
		},
		"both sides": {
			"long-di", []string{"Gangway XLR left", "Gangway XLR right"}, "balanced, from the rig's DI",
			"hard left and hard right",
		},
		"one line of two": {"long-line", []string{"Bollard XLR"}, "balanced, from the rig's DI", "which sums both sides"},
	} {
		t.Run(name, func(t *testing.T) {
			lines := partOf(t, sheet(t, at(t, "long", x.destination), "quay-12", House), "Lines")
			assert.Equal(t, x.from, cells(t, lines, "from"))
			assert.Equal(t, x.take, cells(t, lines, "take it")[0])
			assert.Contains(t, cells(t, lines, "note")[0], x.note)
			for _, phantom := range cells(t, lines, "phantom power") {
				assert.True(t, strings.HasPrefix(phantom, "off"), phantom)
			}
		})
	}
}

func TestAnActiveDITakesPhantomPowerOnlyWhenNothingFeedsIt(t *testing.T) {
	p := at(t, "long", "long-di")
	di, _ := p.FindGear("gangway")
	for i := range di.Blocks {
		di.Blocks[i].Passive = false
	}
	phantom := func() string {
		return cells(t, partOf(t, sheet(t, p, "quay-12", House), "Lines"), "phantom power")[0]
	}
	assert.Equal(t, "on, for this line alone", phantom())
	r, _ := p.FindRig("long")
	r.Batteries = append(r.Batteries, plan.BatteryUse{Gear: "gangway"})
	assert.Equal(t, "not needed", phantom())
}

func TestABoxWithoutADIIsTakenByTheHousesOwn(t *testing.T) {
	p := at(t, "long", "long-di")
	r, _ := p.FindRig("long")
	for i := range r.Destinations {
		path := r.Destinations[i].Path
		r.Destinations[i].Path = slices.DeleteFunc(path, func(n plan.Node) bool { return n.Stop.Gear() == "gangway" })
	}
	lines := partOf(t, sheet(t, p, "quay-12", House), "Lines")
	assert.Equal(t, []string{"Room output left", "Room output right"}, cells(t, lines, "from"))
	assert.Equal(t, "an isolated DI from the house", cells(t, lines, "take it")[0])
}

func TestHeadphonesSendNothingToTheHouse(t *testing.T) {
	p := at(t, "long", "long-di")
	r, _ := p.FindRig("long")
	for i := range r.Destinations {
		r.Destinations[i].Kind = plan.Headphones
	}
	lines := partOf(t, sheet(t, p, "quay-12", House), "Lines")
	assert.Empty(t, lines.Rows)
	assert.Contains(t, lines.Note, "Headphones")
}

func TestEverySectionOfTheSetIsExpectedByTheHouse(t *testing.T) {
	p := demo.Plan()
	sections := 0
	l, _ := p.FindSetList("quay-set")
	for _, e := range l.Entries {
		song, _ := p.FindSong(e.Song)
		sections += len(song.Sections)
	}
	s := sheet(t, p, "quay-12", House)
	assert.Equal(t, sections, sum(t, cells(t, partOf(t, s, "What to expect"), "sections")))
	assert.Equal(t, 12, len(partOf(t, s, "Guitar leads").Rows))
}

func TestThePowerPlanSaysWhatEachOutputFeedsAndWhatIsWrong(t *testing.T) {
	s := sheet(t, demo.Plan(), "quay-12", PowerSheet)
	lantern := partOf(t, s, "Lantern")
	assert.Equal(
		t, []string{"Plumb", "Squeeze", "Undertow", "Nudge", "Amber", "Rust", "Rotor", "Flutter", "Slap", "Echo", "Room"},
		cells(t, lantern, "feeds"),
	)
	assert.Equal(t, "545 of 1900 mA drawn. Mains: 100-240 V.", lantern.Note)
	assert.Equal(t, "250", cells(t, lantern, "of mA")[9])
	assert.Equal(t, []string{"Silt"}, cells(t, partOf(t, s, "Not on an output"), "box"))
	assert.Equal(t, "its battery", cellOf(t, partOf(t, s, "Not on an output"), "Silt", "runs on"))
	assert.Contains(t, partOf(t, s, "Not right yet").Rows[0][0].Text, "less than 20 % in reserve")
	assert.Contains(t, strings.Join(s.Cautions, " "), "wrong voltage or polarity does")
	p := at(t, "switched", "")
	assert.Contains(
		t, cells(t, partOf(t, sheet(t, p, "quay-12", PowerSheet), "Not on an output"), "runs on"), "nothing yet",
	)
}

func TestTheFloorSaysWhatEveryGestureDoes(t *testing.T) {
	p := demo.Plan()
	on := plan.On(true)
	echo, _ := p.FindGear("echo")
	press := func(actions ...plan.Action) *plan.Press { return &plan.Press{Actions: actions} }
	echo.Footswitches[1].Press = press(plan.Action{Kind: plan.Step, Target: "fx/preset", By: -1})
	echo.Footswitches[1].Hold = &plan.Press{Momentary: true, Actions: []plan.Action{{Kind: plan.Mute}}}
	echo.Footswitches[1].Double = press(
		plan.Action{Kind: plan.Tap, Target: "fx/time"}, plan.Action{Kind: plan.Set, Target: "fx/on", Value: &on},
	)
	require.Empty(t, p.Validate())
	part := partOf(t, sheet(t, p, "quay-12", FloorSheet), "Footswitches")
	i := slices.Index(cells(t, part, "switch"), "preset")
	require.GreaterOrEqual(t, i, 0)
	assert.Equal(t, "Echo preset down", cells(t, part, "press")[i])
	assert.Equal(t, "mute, while it is held", cells(t, part, "hold")[i])
	assert.Equal(t, "Echo time tap tempo, Echo to on", cells(t, part, "double press")[i])
	assert.Equal(t, "315", cells(t, part, "across mm")[i])
	m := &maker{plan: p}
	three := plan.Text("B/3")
	assert.Equal(t, "program B/3", m.acts(plan.Action{Kind: plan.Recall, Value: &three}))
	assert.Equal(t, "bank up", m.acts(plan.Action{Kind: plan.Bank}))
	assert.Equal(t, "bank down 2", m.acts(plan.Action{Kind: plan.Bank, By: -2}))
	assert.Equal(t, "bank up 3", m.acts(plan.Action{Kind: plan.Bank, By: 3}))
	assert.Equal(
		t, "gone/fx/on on and off", m.acts(plan.Action{Kind: plan.Toggle, Target: "gone/fx/on"}),
		"what is not there keeps its key",
	)
}

func TestABoxWithoutAPlaceIsSaidToBeAssumed(t *testing.T) {
	p := demo.Plan()
	r, _ := p.FindRig("long")
	delete(r.Floor.Places, "echo")
	assert.Contains(
		t, sheet(t, p, "quay-12", FloorSheet).Assumed,
		"Echo has no place yet: it is taken to stand in a row in front of the rest.",
	)
}
