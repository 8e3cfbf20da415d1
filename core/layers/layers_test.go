package layers

import (
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"envex/core/plan"
)

func looper(t require.TestingT) *plan.Plan {
	data, err := os.ReadFile("../../testdata/rigs/looper/rig.envex.json")
	require.NoError(t, err)
	p, err := plan.Decode(data)
	require.NoError(t, err)
	return p
}

func compute(t require.TestingT, p *plan.Plan) *Report {
	r, err := Compute(p, p.Rigs[0].ID, "", p.SetLists[0].ID)
	require.NoError(t, err)
	return r
}

func acts(s Song) (list []Act) {
	for _, p := range s.Presses {
		list = append(list, p.Act)
	}
	return list
}

func titles(r *Report) (list []string) {
	for _, f := range r.Findings {
		list = append(list, f.Title)
	}
	return list
}

func ptr[T any](v T) *T { return &v }

// Of the song Ropewalk: bass, chords, tune, end.
func TestPressesFallOnTheBar(t *testing.T) {
	for _, x := range []struct {
		name   string
		change func(s []plan.Section)
		acts   []Act
		says   string
	}{
		{"bass, chords over it, then both to the end", func([]plan.Section) {}, []Act{Record, Overdub, Close, Stop}, ""},
		{"a pause of the loop", func(s []plan.Section) { s[2].Looping = nil }, []Act{Record, Overdub, Stop, Play, Stop}, ""},
		{
			"half a section recorded", func(s []plan.Section) { s[1].Looping.Bars = ptr(4.0) },
			[]Act{Record, Overdub, Close, Stop}, "",
		},
		{
			"a layer longer than the loop", func(s []plan.Section) { s[0].Looping.Bars = ptr(4.0) },
			[]Act{Record, Close, Overdub, Close, Stop}, "Chords does not fit the loop",
		},
		{
			"a third of the loop's length would shift", func(s []plan.Section) { s[1].Looping.Bars = ptr(3.0) },
			[]Act{Record, Overdub, Close, Stop}, "Chords does not fit the loop",
		},
		{
			"one layer alone", func(s []plan.Section) { s[3].Looping.Plays = []string{"Bass"} },
			[]Act{Record, Overdub, Close, Stop}, "End: Chords plays too",
		},
		{
			"before it is there", func(s []plan.Section) { s[0].Looping.Plays = []string{"Chords"} },
			[]Act{Record, Overdub, Close, Stop}, "Bass: Chords is not there",
		},
		{
			"another tempo", func(s []plan.Section) { s[3].Tempo = &plan.Tempo{BPM: 104} }, []Act{Record, Overdub, Close, Stop},
			"End: Bass is at another tempo",
		},
	} {
		p := looper(t)
		x.change(p.Songs[0].Sections)
		require.Empty(t, p.Validate(), x.name)
		r := compute(t, p)
		assert.Equal(t, x.acts, acts(r.Songs[0]), x.name)
		if x.says == "" {
			assert.Empty(t, r.Findings, x.name)
		} else {
			assert.Contains(t, strings.Join(titles(r), "; "), x.says, x.name)
		}
		if x.name == "another tempo" {
			assert.Contains(
				t, r.Findings[0].Words, "recorded at 100 beats a minute, and the section is at 104: they part by 92 ms a bar",
				"four beats of 600 ms against 576.9",
			)
		}
		bar := 60.0 / 100 * 4
		for _, press := range r.Songs[0].Presses {
			whole := press.AtS / bar
			if x.name != "another tempo" {
				assert.InDelta(t, whole, float64(int(whole+0.5)), 1e-9, "%s: %s", x.name, press.Words)
			}
			assert.NotEmpty(t, press.Switch)
		}
	}
}

// What stands after the looper changes a layer that is there; what stands before it does not.
func TestWhatStandsAfterTheLooperChangesItsLayers(t *testing.T) {
	p := looper(t)
	r := &p.Rigs[0]
	assert.Empty(t, compute(t, p).Songs[0].Under, "octave and drive stand before it")
	for i := range r.Recipes {
		if r.Recipes[i].ID == "r-tune" {
			r.Recipes[i].Values["hall/fx/on"] = plan.On(true)
			r.Recipes[i].Values["small-combo/preamp/gain"] = plan.Number(8)
		}
	}
	require.Empty(t, p.Validate())
	under := compute(t, p).Songs[0].Under
	require.Len(t, under, 2, "both layers run under the tune")
	assert.Equal(t, "ropewalk-3", string(under[0].Section))
	assert.Len(t, under[0].Changes, 2)
	assert.Equal(t, plan.Number(8), under[0].Over["small-combo/preamp/gain"])
	assert.NotContains(t, under[0].Over, plan.Key("sand/fx/on"), "the drive stands before the looper")
	assert.Contains(t, under[0].Words, "stands after Round")

	// Behind the drive's place nothing is changed: the looper last takes all of it up.
	path := r.Path
	r.Path = []plan.Node{path[0], path[1], path[3], path[2], path[4], path[5], path[6]}
	under = compute(t, p).Songs[0].Under
	require.Len(t, under, 2)
	assert.Equal(t, []string{"Small combo preamp gain"}, under[0].Changes, "the hall is recorded with it now")
}

func TestWhatARigCannotDoIsSaid(t *testing.T) {
	p := looper(t)
	r := &p.Rigs[0]
	r.Path = append(r.Path[:2:2], r.Path[3:]...)
	require.Empty(t, p.Validate())
	assert.Contains(t, strings.Join(titles(compute(t, p)), "; "), "No looper is in")
	for i := range p.Songs {
		for k := range p.Songs[i].Sections {
			p.Songs[i].Sections[k].Looping = nil
		}
	}
	none := compute(t, p)
	assert.Empty(t, none.Findings, "nothing is asked of it")
	assert.Empty(t, none.Songs)
	_, err := Compute(p, "nope", "", p.SetLists[0].ID)
	require.Error(t, err)
	_, err = Compute(p, r.ID, "", "nope")
	assert.ErrorContains(t, err, "no set list")
	p = looper(t)
	p.Gear[3].Footswitches = append(p.Gear[3].Footswitches, plan.Footswitch{ID: "stop", Label: "stop", X: 90, Y: 100})
	require.Empty(t, p.Validate())
	stops := compute(t, p).Songs[0].Presses
	assert.Equal(t, plan.Key("round/stop"), stops[len(stops)-1].Switch)
}

// The foot has a press more on the bar than the change leaves it time for.
func TestABusyFootIsSaid(t *testing.T) {
	p := looper(t)
	for i := range p.Songs[0].Sections {
		p.Songs[0].Sections[i].Lead, p.Songs[0].Sections[i].Grace = ptr(0.2), ptr(0.1)
	}
	assert.Contains(t, strings.Join(titles(compute(t, p)), "; "), "Chords: the foot is busy")
	busy := func(p *plan.Plan) (list []string) {
		for _, title := range titles(compute(t, p)) {
			if strings.Contains(title, "busy") {
				list = append(list, title)
			}
		}
		return list
	}
	assert.NotContains(t, strings.Join(busy(p), "; "), "Bass", "nothing is pressed for the first section")
	assert.Empty(t, busy(looper(t)), "as it stands there is time")
	for i := range p.Songs[0].Sections {
		p.Songs[0].Sections[i].Lead, p.Songs[0].Sections[i].Grace = ptr(0.0), ptr(0.0)
	}
	assert.NotContains(t, strings.Join(busy(p), "; "), "Chords", "a change that fails is said elsewhere")
	for i := range p.Rigs[0].Recipes {
		p.Rigs[0].Recipes[i].Values = map[plan.Key]plan.Value{}
	}
	assert.Empty(t, busy(p), "where no sound asks for a press the foot has only the looper")
}

// Songs without layers stand between those with them.
func TestASongWithoutLayersIsPassedOver(t *testing.T) {
	p := looper(t)
	plain := p.Songs[0]
	plain.ID, plain.Title, plain.Sections = "plain", "Plain", slices.Clone(plain.Sections)
	for i := range plain.Sections {
		plain.Sections[i].Looping = nil
	}
	p.Songs = append(p.Songs, plain)
	p.SetLists[0].Entries = slices.Insert(p.SetLists[0].Entries, 0, plan.SetEntry{ID: "plain-in", Song: "plain"})
	require.Empty(t, p.Validate())
	got := compute(t, p)
	require.Len(t, got.Songs, len(compute(t, looper(t)).Songs))
	assert.Equal(t, "Ropewalk", got.Songs[0].Title)
}

// Whatever sections ask, a loop is recorded before it plays, is closed once for each layer, and is stopped at
// the end.
func TestALoopIsAlwaysClosedAndStopped(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := looper(t)
		names := []string{}
		s := &p.Songs[0]
		for i := range s.Sections {
			x := &plan.Looping{}
			if rapid.Bool().Draw(t, "records") {
				x.Records = string(rune('a' + i))
				names = append(names, x.Records)
			}
			s.Sections[i].Looping = x
		}
		for i := range s.Sections {
			for _, n := range names {
				if rapid.Bool().Draw(t, "plays") {
					s.Sections[i].Looping.Plays = append(s.Sections[i].Looping.Plays, n)
				}
			}
		}
		if len(names) == 0 {
			return
		}
		require.Empty(t, p.Validate())
		song := compute(t, p).Songs[0]
		running, last := false, -1.0
		for _, press := range song.Presses {
			require.GreaterOrEqual(t, press.AtS, last)
			last = press.AtS
			switch press.Act {
			case Record, Play:
				require.False(t, running, press.Words)
				running = true
			case Overdub, Close:
				require.True(t, running, press.Words)
			case Stop:
				require.True(t, running, press.Words)
				running = false
			}
		}
		require.False(t, running)
		require.Len(t, song.Layers, len(names))
	})
}

func TestWhatIsPressedInASectionIsToldWithItsBar(t *testing.T) {
	r := &Report{Songs: []Song{{Entry: "one", Presses: []Press{
		{Section: "a", Bar: 1, Words: "Record Bass with Round"},
		{Section: "a", Bar: 5, Words: "Close Bass with Round: it plays"}, {Section: "b", Bar: 1, Words: "Stop the loop"},
	}}}}
	assert.Equal(t, []string{"Record Bass with Round", "Close Bass with Round: it plays (bar 5)"}, r.Looped("one", "a"))
	assert.Empty(t, r.Looped("two", "a"))
}
