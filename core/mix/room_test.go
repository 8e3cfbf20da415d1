package mix_test

import (
	"context"
	"fmt"
	"math"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/catalog"
	"envex/core/mix"
	"envex/core/plan"
	"envex/core/signal"
	"envex/golden"
)

var kept = signal.NewKept()

func number(x float64) *float64 { return &x }

// gig is a rig with a clean sound and a lead in one song, and a band.
func gig(t require.TestingT, change func(b *plan.Band), parts ...plan.Part) *plan.Plan {
	data, err := os.ReadFile("../../demo/testdata/small.envex.json")
	require.NoError(t, err)
	p, err := plan.Decode(data)
	require.NoError(t, err)
	b := plan.Band{ID: "band", Name: "Quay hands", Parts: parts}
	if change != nil {
		change(&b)
	}
	p.Put(b)
	require.Empty(t, p.Validate())
	return p
}

func usual() []plan.Part {
	return []plan.Part{
		{ID: "voice", Name: "Voice", Kind: plan.Voice}, {ID: "kick", Name: "Kick", Kind: plan.Kick},
		{ID: "bass", Name: "Bass", Kind: plan.BassPart}, {ID: "organ", Name: "Organ", Kind: plan.Organ},
	}
}

func room(t *testing.T, p *plan.Plan) *mix.Report {
	t.Helper()
	r, err := mix.Room(context.Background(), p, "small", "set", mix.Options{Kept: kept})
	require.NoError(t, err)
	return r
}

func titles(r *mix.Report) []string {
	list := []string{}
	for _, f := range r.Findings {
		list = append(list, f.Title)
	}
	return list
}

func TestAUsualBandLeavesRoom(t *testing.T) {
	r := room(t, gig(t, nil, usual()...))
	assert.Empty(t, titles(r))
	require.Len(t, r.Scenes, 2)
	clean, lead := r.Scenes[0], r.Scenes[1]
	assert.Equal(t, []string{}, clean.Rests)
	assert.Equal(t, []string{"Voice"}, lead.Rests, "a voice rests where the guitar leads, unless it is said")
	assert.True(t, lead.Lead)
	assert.Greater(t, lead.Guitar.Over, 0.0)
	assert.Contains(t, r.Assumed, "Voice is taken to rest where the guitar leads; say where it does not.")
	assert.Len(t, clean.Parts, 4)
	assert.Len(t, clean.Curve.Alone, len(r.Hz))
	assert.Equal(t, []int{0, 1}, []int{r.Sections[0].Scene, r.Sections[1].Scene})
	assert.Equal(t, []float64{24.8, 1000, 16000}, []float64{r.Hz[0], r.Hz[16], r.Hz[28]})
}

func TestWhatIsWrongIsFound(t *testing.T) {
	for name, x := range map[string]struct {
		change func(*plan.Band)
		want   []string
	}{
		"a guitar that is turned down": {
			func(b *plan.Band) { b.GuitarDB = number(-16) }, []string{"Lead is not over the band", "Clean is buried"},
		},
		"a guitar that is turned up": {
			func(b *plan.Band) { b.GuitarDB = number(14) }, []string{"Clean covers Voice", "Clean covers Organ", "Lead covers Organ"},
		},
		"a loud organ": {
			func(b *plan.Band) { b.Parts[3].LevelDB = number(20) }, []string{"Lead is not over the band", "Clean is buried"},
		},
		"a loud organ that rests in the song": {
			func(b *plan.Band) {
				b.Parts[3].LevelDB = number(20)
				b.Playing = []plan.Playing{{Part: "organ", Song: "ct4fjfbkxfjifypm", Rests: true}}
			}, []string{},
		},
		"a loud organ that rests in the song but for the solo": {
			func(b *plan.Band) {
				b.Parts[3].LevelDB = number(20)
				b.Playing = []plan.Playing{
					{Part: "organ", Song: "ct4fjfbkxfjifypm", Rests: true},
					{Part: "organ", Song: "ct4fjfbkxfjifypm", Section: "q6pohw2wkkooybl5"},
				}
			}, []string{"Lead is not over the band"},
		},
	} {
		t.Run(name, func(t *testing.T) {
			r := room(t, gig(t, x.change, usual()...))
			assert.ElementsMatch(t, x.want, titles(r))
			for _, f := range r.Findings {
				assert.NotEmpty(t, f.Words)
				assert.NotEmpty(t, f.Positions)
			}
		})
	}
}

// Another guitar with the very spectrum of this one is the same; one that is darker is not.
func TestTwoGuitarsAreTheSame(t *testing.T) {
	p := gig(t, nil, usual()...)
	got, err := signal.Spread(
		context.Background(),
		p,
		"small",
		[]signal.Playing{{Sound: "clean", HeardOnly: true}},
		signal.Options{Kept: kept},
	)
	require.NoError(t, err)
	levels := got[0].Heard.Levels()
	twin := plan.Part{ID: "twin", Name: "Second guitar", Kind: plan.GuitarBright, Bands: levels[:]}
	r := room(t, gig(t, nil, append(usual(), twin)...))
	assert.Contains(t, titles(r), "Clean and Second guitar are the same")
	twin.Tilt = number(-4)
	assert.NotContains(
		t,
		titles(room(t, gig(t, nil, append(usual(), twin)...))),
		"Clean and Second guitar are the same",
	)
}

func TestWhyThereIsNoRoom(t *testing.T) {
	for words, change := range map[string]func(p *plan.Plan){
		"there is no band yet": func(p *plan.Plan) { p.Bands = nil },
		"has no parts":         func(p *plan.Plan) { p.Bands[0].Parts = nil },
		"there are 2 bands":    func(p *plan.Plan) { p.Put(plan.Band{ID: "other", Name: "Other"}) },
		"has no recipe":        func(p *plan.Plan) { p.Rigs[0].Recipes = nil },
		"there is no rig":      func(p *plan.Plan) { p.Rigs = nil },
	} {
		p := gig(t, nil, usual()...)
		change(p)
		_, err := mix.Room(context.Background(), p, "small", "set", mix.Options{Kept: kept})
		assert.ErrorContains(t, err, words)
	}
	ctx, cancel := context.WithCancel(context.Background())
	cancel()
	_, err := mix.Room(ctx, gig(t, nil, usual()...), "small", "set", mix.Options{Kept: kept})
	assert.ErrorIs(t, err, context.Canceled)
}

func TestWhatIsSaidOfWhatIsGoneIsNoted(t *testing.T) {
	r := room(t, gig(t, func(b *plan.Band) {
		b.Playing = []plan.Playing{{Part: "organ", Song: "gone", Rests: true}}
	}, usual()...))
	assert.Contains(t, r.Assumed, "How Organ plays is said of a song or a section that is gone; that says nothing.")
}

// A tuning is part of what is played, and one that cannot be read is said.
func TestTuningsAreHeard(t *testing.T) {
	p := gig(t, nil, usual()...)
	p.Songs[0].Tuning = "B standard"
	low := room(t, p)
	assert.Equal(t, "B standard", low.Scenes[0].Tuned)
	assert.NotEqual(t, room(t, gig(t, nil, usual()...)).Scenes[0].Guitar, low.Scenes[0].Guitar)
	p.Songs[0].Tuning, p.Songs[0].Capo = "as it comes", 2
	r := room(t, p)
	assert.Equal(t, "as it comes, capo 2", r.Scenes[0].Tuned)
	assert.Contains(
		t,
		r.Assumed,
		`The tuning of Ferry Lights, "as it comes", is not one that is known; the standard is taken.`,
	)
}

// Repeats that are a length of note come at the tempo of each song: songs that are near are one to the ear.
func TestRepeatsFollowTheTempoOfTheSong(t *testing.T) {
	p := gig(t, nil, usual()...)
	kind, ok := catalog.Find("digital-delay")
	require.True(t, ok)
	p.Put(kind.In(p, "echo", "Echo"))
	r := &p.Rigs[0]
	r.Path = slices.Insert(slices.Clone(r.Path), 1, plan.Node{Stop: "echo/fx"})
	r.Base = map[plan.Key]plan.Value{"echo/fx/time": plan.Sync("1/4")}
	for i := range r.Recipes {
		if r.Recipes[i].Sound == "lead" {
			r.Recipes[i].Values["echo/fx/on"] = plan.On(true)
		}
	}
	for i, bpm := range []float64{p.Songs[0].Tempo.BPM * 1.02, p.Songs[0].Tempo.BPM * 1.5} {
		song := p.Songs[0]
		song.ID, song.Title, song.Tempo.BPM = plan.ID(fmt.Sprint("song-", i)), fmt.Sprint("Song ", i), bpm
		song.Sections = slices.Clone(song.Sections)
		for k := range song.Sections {
			song.Sections[k].ID = plan.ID(fmt.Sprint("part-", i, "-", k))
		}
		p.Put(song)
		p.SetLists[0].Entries = append(
			p.SetLists[0].Entries,
			plan.SetEntry{ID: plan.ID(fmt.Sprint("e", i)), Song: song.ID},
		)
	}
	require.Empty(t, p.Validate())
	got := room(t, p)
	scenes, repeats := map[plan.ID]int{}, map[int]bool{}
	for _, s := range got.Scenes {
		scenes[s.Sound]++
		for _, x := range s.Repeats {
			repeats[int(math.Round(x.MS))] = true
		}
	}
	assert.Equal(t, map[plan.ID]int{"clean": 1, "lead": 2}, scenes)
	beat := 60000 / p.Songs[0].Tempo.BPM
	assert.Equal(t, map[int]bool{int(math.Round(beat)): true, int(math.Round(beat / 1.5)): true}, repeats)
}

// A song that picks another box of a slot is heard with it.
func TestASongIsHeardWithTheBoxItPicks(t *testing.T) {
	p := gig(t, nil, usual()...)
	kind, ok := catalog.Find("fuzz")
	require.True(t, ok)
	p.Put(kind.In(p, "reed", "Reed"))
	r := &p.Rigs[0]
	song := p.Songs[0]
	song.ID, song.Title, song.Sections = "other", "Other", slices.Clone(song.Sections)
	for k := range song.Sections {
		song.Sections[k].ID = plan.ID(fmt.Sprint("part-", k))
	}
	p.Put(song)
	p.SetLists[0].Entries = append(p.SetLists[0].Entries, plan.SetEntry{ID: "e2", Song: "other"})
	r.Swaps = []plan.Swap{{
		ID: "slot", Name: "Amber or Reed", Boxes: []plan.SwapBox{
			{Gear: "amber"}, {
				Gear: "reed", Songs: []plan.ID{"other"}, Kept: &plan.KeptBox{
					Settings: []plan.KeptSettings{
						{Recipe: "r2", Values: map[plan.Key]plan.Value{"reed/fx/on": plan.On(true)}},
					},
				},
			},
		},
	}}
	require.Empty(t, p.Validate())
	var with, own mix.Scene
	for _, s := range room(t, p).Scenes {
		if s.Sound == "lead" && len(s.Boxes) > 0 {
			with = s
		} else if s.Sound == "lead" {
			own = s
		}
	}
	assert.Equal(t, []string{"Reed"}, with.Boxes)
	assert.NotEqual(t, own.Guitar, with.Guitar)
	there, err := p.WithPicks("small", []plan.Pick{{Swap: "slot", Gear: "reed"}})
	require.NoError(t, err)
	there.SetLists[0].Entries = there.SetLists[0].Entries[1:]
	for _, s := range room(t, there).Scenes {
		if s.Sound == "lead" {
			assert.Equal(t, s.Guitar, with.Guitar, "as on a rig in which it stands")
		}
	}
}

// What a low cut costs and gives is what it costs and gives when it is made.
func TestALowCutIsAdvisedWhereTheLowEndIsNotHeard(t *testing.T) {
	r := room(t, gig(t, func(b *plan.Band) { b.GuitarDB = number(6) }, usual()...))
	require.Len(t, r.Cuts, 1, "a rig with one end has one")
	c := r.Cuts[0]
	assert.Equal(t, "The whole rig", c.Name)
	assert.Greater(t, c.Hz, 60.0)
	assert.LessOrEqual(t, c.Costs, 3.0)
	assert.GreaterOrEqual(t, c.Gains, 2.0)
	assert.NotEmpty(t, c.Part)
	high := make([]float64, plan.PartBands)
	for i := range high {
		high[i] = -100
	}
	high[25] = 0 // 8 kHz
	alone := room(t, gig(t, nil, plan.Part{ID: "shaker", Name: "Shaker", Kind: plan.Percussion, Bands: high}))
	assert.Zero(t, alone.Cuts[0].Hz, "nothing masks it, and nobody gains")
}

// Every move that is given puts the finding right when it is made, and says rightly what comes with it.
func TestMovesDoWhatTheySay(t *testing.T) {
	for name, change := range map[string]func(*plan.Band){
		"a loud organ":       func(b *plan.Band) { b.Parts[3].LevelDB = number(10) },
		"a guitar too quiet": func(b *plan.Band) { b.GuitarDB = number(-9) },
	} {
		t.Run(name, func(t *testing.T) {
			p := gig(t, change, usual()...)
			before := room(t, p)
			require.NotEmpty(t, before.Findings)
			f := before.Findings[0]
			m, err := mix.Mend(
				context.Background(), p, "small", "", "set", f.ID, mix.Options{Kept: kept, Progress: golden.Progress(t, 1)},
			)
			require.NoError(t, err)
			assert.Equal(t, f.ID, m.Finding.ID)
			require.NotEmpty(t, m.Moves)
			for _, move := range m.Moves {
				q := *p
				switch {
				case move.Rig != nil:
					q.Put(*move.Rig)
				case move.Band != nil:
					q.Put(*move.Band)
				default:
					assert.Equal(t, "register", move.What)
					continue
				}
				require.Empty(t, q.Validate(), move.Words)
				after := room(t, &q)
				assert.NotContains(t, titles(after), f.Title, move.Words)
				for _, title := range titles(after) {
					assert.True(
						t,
						slices.Contains(titles(before), title) || slices.Contains(move.Brings, title),
						"%s: %s",
						move.Words,
						title,
					)
				}
				for _, title := range move.Ends {
					assert.NotContains(t, titles(after), title)
				}
			}
		})
	}
	none, err := mix.Mend(
		context.Background(),
		gig(t, nil, usual()...),
		"small",
		"",
		"set",
		"room:buried:clean:",
		mix.Options{Kept: kept},
	)
	require.NoError(t, err)
	assert.Equal(t, "That is not so any more.", none.Words)
	assert.Empty(t, none.Moves)
}

// Halls side by side say what each says by itself.
func TestHallsSideBySide(t *testing.T) {
	p := gig(t, func(b *plan.Band) { b.GuitarDB = number(-4) }, usual()...)
	halls := mix.UsualHalls()
	got, err := mix.Halls(
		context.Background(), p, "small", "set", halls, mix.Options{Kept: kept, Progress: golden.Progress(t, 1)},
	)
	require.NoError(t, err)
	require.Len(t, got.Halls, len(halls))
	require.Len(t, got.Sounds, 2)
	assert.Equal(t, "Ferry Lights", got.Sounds[1].Title)
	for i, h := range got.Halls {
		alone, err := mix.Room(
			context.Background(), p, "small", "set", mix.Options{Kept: kept, HallS: h.ReverbS},
		)
		require.NoError(t, err)
		for k, s := range alone.Scenes {
			assert.InDelta(t, s.Guitar.Share, h.Heard[k].Share, 1e-9)
		}
		if i > 0 {
			assert.Less(t, h.Heard[0].Share, got.Halls[i-1].Heard[0].Share+0.3, "a longer hall leaves no more")
			assert.Less(t, h.Heard[0].Share, got.Halls[0].Heard[0].Share, "and less than the open air")
		}
	}
	_, err = mix.Halls(context.Background(), p, "small", "set", nil, mix.Options{Kept: kept})
	assert.Error(t, err)
}

// A band that is copied, with other ids, is heard the same.
func TestIDsDoNotMatter(t *testing.T) {
	own := room(t, gig(t, nil, usual()...))
	parts := usual()
	for i := range parts {
		parts[i].ID = "copy-" + parts[i].ID
	}
	copied := room(t, gig(t, nil, parts...))
	for i := range own.Scenes {
		assert.Equal(t, own.Scenes[i].Guitar, copied.Scenes[i].Guitar)
		assert.Equal(t, own.Scenes[i].Curve, copied.Scenes[i].Curve)
	}
}

// A lane has its level in each sound, and in a song where that is said; what is off is found, and a knob puts it right.
func TestLanesAreHeldAgainstWhatIsWished(t *testing.T) {
	data, err := os.ReadFile("../../examples/two-amps.envex.json")
	require.NoError(t, err)
	p, err := plan.Decode(data)
	require.NoError(t, err)
	p.Put(plan.Band{ID: "band", Name: "Quay hands", Parts: usual()[:1]})
	r := &p.Rigs[0]
	look := func() *mix.Report {
		require.Empty(t, p.Validate())
		got, err := mix.Room(context.Background(), p, r.ID, p.SetLists[0].ID, mix.Options{Kept: kept})
		require.NoError(t, err)
		return got
	}
	before := look()
	at := slices.IndexFunc(before.Scenes, func(s mix.Scene) bool { return len(s.Lanes) > 1 && !s.Home })
	require.GreaterOrEqual(t, at, 0)
	s := before.Scenes[at]
	lane := s.Lanes[1]
	assert.Nil(t, lane.Wished)

	home := slices.IndexFunc(before.Scenes, func(s mix.Scene) bool { return s.Home })
	r.LaneLevels = []plan.LaneLevel{
		{Lane: lane.Key, Sound: s.Sound, LU: lane.Level}, {Lane: lane.Key, Sound: before.Scenes[home].Sound, LU: 9},
	}
	assert.NotContains(t, strings.Join(titles(look()), "; "), " is too ")
	r.LaneLevels = []plan.LaneLevel{{Lane: lane.Key, Sound: s.Sound, LU: lane.Level - 3}}
	loud := look()
	i := slices.IndexFunc(loud.Findings, func(f mix.Finding) bool { return f.What == "lane" })
	require.GreaterOrEqual(t, i, 0)
	assert.Equal(t, lane.Name+" is too loud in "+s.Name, loud.Findings[i].Title)
	assert.InDelta(t, 3, loud.Findings[i].Figure, 0.01)

	// What is said of one song is of that song alone.
	songs := map[plan.ID]bool{}
	for _, sec := range before.Sections {
		if before.Scenes[sec.Scene].Sound == s.Sound {
			songs[sec.Song] = true
		}
	}
	require.Greater(t, len(songs), 1)
	one := plan.SortedKeys(songs)[0]
	r.LaneLevels = []plan.LaneLevel{
		{
			Lane:  lane.Key,
			Sound: s.Sound,
			LU:    lane.Level,
		}, {Lane: lane.Key, Sound: s.Sound, Song: one, LU: lane.Level + 4},
	}
	got := look()
	require.Len(
		t,
		slices.DeleteFunc(slices.Clone(got.Findings), func(f mix.Finding) bool { return f.What != "lane" }),
		1,
	)
	for _, f := range got.Findings {
		for _, position := range f.Positions {
			if f.What == "lane" {
				assert.Contains(t, f.Title, "is too quiet")
				assert.Equal(t, one, got.Sections[position].Song)
			}
		}
	}
}
