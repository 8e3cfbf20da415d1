package tempo

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"envex/core/plan"
	"envex/demo"
)

func bpm(x float64) plan.Tempo { return plan.Tempo{BPM: x} }

func TestTheTable(t *testing.T) {
	for _, c := range []struct {
		tempo plan.Tempo
		note  string
		ms    float64
	}{
		{bpm(120), "1/4", 500}, {bpm(120), "1/8", 250}, {bpm(120), "1/8.", 375}, {bpm(120), "1/8t", 166.6667},
		{bpm(126), "1/8.", 357.1429},
		{bpm(60), "1/1", 4000}, {plan.Tempo{BPM: 60, Beat: "1/4."}, "1/8", 333.3333}, {bpm(90), "1/4t", 444.4444},
	} {
		found := false
		for _, l := range Table(c.tempo) {
			if l.Note == c.note {
				found = true
				assert.InDelta(t, c.ms, l.MS, 1e-4)
				assert.InDelta(t, 1000/c.ms, l.Hz, 1e-4)
			}
		}
		assert.True(t, found, c.note)
	}
	list := Table(bpm(100))
	for i := 1; i < len(list); i++ {
		assert.Greater(t, list[i-1].MS, list[i].MS, "the longest first")
	}
}

func TestNotesAreReadAsPlayersWriteThem(t *testing.T) {
	for text, note := range map[string]string{
		"1/8": "1/8", "dotted 1/8": "1/8.", "1/8.": "1/8.", "Dotted Eighth": "1/8.", "eighth note triplet": "1/8t",
		"1/4t": "1/4t", "quarter": "1/4", "crotchet": "1/4", "1/64": "1/64",
	} {
		got, err := ParseNote(text)
		require.NoError(t, err, text)
		assert.Equal(t, note, got)
	}
	for _, text := range []string{"", "1/3", "dotted", "dotted triplet 1/8", "2/4", "1/128", "eighth eighth", "1/8.."} {
		_, err := ParseNote(text)
		assert.Error(t, err, text)
	}
}

func FuzzParseNote(f *testing.F) {
	for _, s := range []string{"dotted 1/8", "1/8t", "quarter triplet", "1/8.t"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, text string) {
		note, err := ParseNote(text)
		if err != nil {
			return
		}
		again, err := ParseNote(Words(note))
		require.NoError(t, err)
		assert.Equal(t, note, again)
	})
}

func TestMillisecondsAndBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		tempo := bpm(rapid.Float64Range(20, 400).Draw(t, "bpm"))
		note := rapid.SampledFrom(Notes()).Draw(t, "note")
		ms, ok := tempo.Milliseconds(note)
		require.True(t, ok)
		near, ok := Nearest(tempo, ms)
		require.True(t, ok)
		assert.InDelta(t, 0, near.OffMS, 1e-9)
		assert.InDelta(t, ms, near.MS, 1e-9)
		off := rapid.Float64Range(-0.02, 0.02).Draw(t, "off")
		near, _ = Nearest(tempo, ms*(1+off))
		assert.InDelta(t, 100*off, near.OffPct, 1e-6)
	})
	_, ok := Nearest(bpm(120), 0)
	assert.False(t, ok)
	_, ok = Nearest(bpm(120), math.Inf(1))
	assert.False(t, ok)
}

func TestRepeats(t *testing.T) {
	e := Echo{MS: 400, Ratio: 0.5, Feedback: 0.5}
	assert.InDelta(t, -6.02, e.RepeatDB(1), 0.01)
	assert.InDelta(t, -12.04, e.RepeatDB(2), 0.01)
	assert.Equal(t, 4, e.Audible(), "the fifth is 30.1 dB down")
	assert.Equal(t, 1600.0, e.TailMS())
	assert.InDelta(t, 10*math.Log10(0.25/0.75), e.EnergyDB(), 1e-9)
	assert.InDelta(t, 1, RatioOfMix(0.5), 1e-12)
	assert.InDelta(t, 0.25, RatioOfMix(0.2), 1e-12)
	assert.Equal(t, 0, Echo{MS: 400}.Audible())
	assert.Equal(t, 1, Echo{MS: 400, Ratio: 1}.Audible(), "without feedback one")

	assert.True(t, Echo{MS: 110, Ratio: 0.56, Feedback: 0.1}.IsSlapback())
	assert.False(t, Echo{MS: 160, Ratio: 0.56, Feedback: 0.1}.IsSlapback(), "too long")
	assert.False(t, Echo{MS: 110, Ratio: 0.56, Feedback: 0.6}.IsSlapback(), "it goes on")
	assert.False(t, Echo{MS: 110, Ratio: 0.9, Feedback: 0.1}.IsSlapback(), "too loud")

	loud := Echo{MS: 120, Ratio: 1, Feedback: 0.5}
	assert.True(t, loud.Clutters(bpm(120)))
	assert.False(t, Echo{MS: 300, Ratio: 1, Feedback: 0.5}.Clutters(bpm(120)), "over an eighth apart")
	assert.False(t, Echo{MS: 120, Ratio: 0.4, Feedback: 0.3}.Clutters(bpm(120)), "too soft to")
}

func TestTheLastRepeatIsTheLastAudible(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		e := Echo{
			MS: 100, Ratio: rapid.Float64Range(0.01, 4).Draw(t, "ratio"),
			Feedback: rapid.Float64Range(0, 0.95).Draw(t, "feedback"),
		}
		n := e.Audible()
		if n > 0 {
			assert.GreaterOrEqual(t, e.RepeatDB(n), -30-1e-6)
		}
		assert.Less(t, e.RepeatDB(n+1), -30.0)
		sum := 0.0
		for k := 1; k < 2000; k++ {
			sum += math.Pow(10, e.RepeatDB(k)/10)
		}
		assert.InDelta(t, 10*math.Log10(sum), e.EnergyDB(), 1e-6, "the energy is the sum over all repeats")
	})
}

func TestTwoDelaysInterlock(t *testing.T) {
	hits := Interlock(
		bpm(120), plan.Meter{Beats: 4, Unit: 4},
		[]Echo{{MS: 375, Ratio: 1, Feedback: 0.8}, {MS: 500, Ratio: 1, Feedback: 0.8}},
	)
	var both []float64
	for _, h := range hits {
		assert.LessOrEqual(t, h.AtMS, 2000.0)
		assert.InDelta(t, h.AtMS/500, h.Beat, 1e-9)
		if len(h.With) > 0 && h.Delay == 0 {
			both = append(both, h.AtMS)
		}
	}
	assert.Equal(t, []float64{1500}, both, "a dotted eighth and a quarter meet on the fourth beat")
	assert.Empty(t, Interlock(bpm(120), plan.Meter{Beats: 4, Unit: 4}, []Echo{{}}))
}

func TestDriftOfATap(t *testing.T) {
	assert.InDelta(t, 3, TapPct(bpm(120), 15), 1e-9, "15 ms over a beat of 500")
	d := DriftOf(Echo{MS: 375, Ratio: 0.5, Feedback: 0.5}, 3)
	assert.InDelta(t, 4*375*0.03, d.LastMS, 1e-9)
	assert.Equal(t, 3, d.First, "the third is 33.75 ms off")
	assert.Equal(t, 0, DriftOf(Echo{MS: 375, Ratio: 0.5, Feedback: 0.5}, 1).First)
}

// A time that is stored already is taken where it serves, to the very end of what may be off, and no further.
func TestAStoredTimeIsTakenWhereItServes(t *testing.T) {
	needs := []need{{Served{Song: "a"}, "", 400, 10, 3}, {Served{Song: "b"}, "", 412, 10, 3}}
	for stored, kept := range map[float64]bool{401.9: false, 402: true, 405: true, 410: true, 410.1: false} {
		got := pierce(needs, []float64{stored})
		require.Len(t, got, 1)
		assert.Equal(t, kept, got[0].Kept, "%g", stored)
		if kept {
			assert.Equal(t, stored, got[0].MS)
		} else {
			assert.InDelta(t, 406, got[0].MS, 1e-9)
		}
	}
}

func TestFewestTimesPierceEveryNeed(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var needs []need
		for i := range rapid.IntRange(1, 7).Draw(t, "songs") {
			needs = append(
				needs,
				need{
					Served{Song: string(rune('a' + i))}, "", float64(rapid.IntRange(200, 700).Draw(t, "ms")),
					float64(rapid.IntRange(0, 80).Draw(t, "tol")), 3,
				},
			)
		}
		got := pierce(needs, nil)
		served := map[string]bool{}
		for _, s := range got {
			for _, x := range needs {
				for _, name := range s.Songs {
					if name == x.Song {
						served[name] = true
						assert.InDelta(t, x.ms, s.MS, x.tol+1e-6)
					}
				}
			}
		}
		assert.Len(t, served, len(needs))
		// Brute force: no fewer points, of all ends, pierce everything.
		for mask := range 1 << len(needs) {
			count, all := 0, true
			for i := range needs {
				count += mask >> i & 1
			}
			for _, x := range needs {
				hit := false
				for i, y := range needs {
					hit = hit || mask>>i&1 == 1 && math.Abs(y.ms+y.tol-x.ms) <= x.tol+1e-9
				}
				all = all && hit
			}
			if all {
				assert.LessOrEqual(t, len(got), count)
			}
		}
	})
}

func useOf(n *Night, title, sound string, stop plan.Key) *Use {
	for i := range n.Songs {
		for k := range n.Songs[i].Uses {
			if u := &n.Songs[i].Uses[k]; n.Songs[i].Title == title && u.SoundName == sound && u.Stop == stop {
				return u
			}
		}
	}
	return nil
}

func TestTheNightOfTheDemo(t *testing.T) {
	n, err := Plan(demo.Plan(), "long", "", "quay-set")
	require.NoError(t, err)
	require.Len(t, n.Songs, 14)
	lead := useOf(n, "Tin Cabana", "Lead", "echo/fx")
	require.NotNil(t, lead)
	assert.InDelta(t, 357.14, *lead.WantedMS, 0.01)
	assert.Equal(t, 380.0, *lead.SetMS)
	assert.InDelta(t, 22.86, lead.OffMS, 0.01)
	assert.Equal(t, Stored, lead.Way)
	assert.Equal(t, "dotted 1/8", lead.Words)
	assert.False(t, lead.Heard, "Lead need not lock")
	slap := useOf(n, "Tin Cabana", "Skank", "slap/fx")
	assert.Nil(t, slap.WantedMS)
	assert.Equal(t, Fixed, slap.Way)
	require.Len(t, n.Presets, 2, "Lead stands on one preset, Shimmer and Swell share another")
	assert.Len(t, n.Presets[0].Times, 4)
	_, err = Plan(demo.Plan(), "long", "", "nope")
	assert.Error(t, err)
	_, err = Plan(demo.Plan(), "long", "nope", "quay-set")
	assert.Error(t, err)
	alone, err := Plan(demo.Plan(), "", "", "quay-set")
	require.NoError(t, err)
	assert.Len(t, alone.Songs[0].Table, len(Notes()))
	assert.Empty(t, alone.Songs[0].Uses)
}

func TestASoundThatMustLock(t *testing.T) {
	p := demo.Plan()
	for i := range p.Sounds {
		p.Sounds[i].Targets.StrictTempo = p.Sounds[i].ID == "lead"
	}
	n, err := Plan(p, "long", "", "quay-set")
	require.NoError(t, err)
	lead := useOf(n, "Tin Cabana", "Lead", "echo/fx")
	assert.InDelta(t, 3*22.86, lead.LastOffMS, 0.1, "three repeats are asked")
	assert.True(t, lead.Heard)
	assert.False(t, useOf(n, "Winch Song", "Lead", "echo/fx").Heard, "381 ms for 380")
	assert.Greater(t, len(n.Presets[0].Times), 4, "a strict sound takes more presets")
	titles := map[string]bool{}
	for _, f := range n.Findings {
		titles[f.Title] = true
	}
	assert.True(t, titles["Echo is out of time in Tin Cabana"])
}

func TestABindingFollowsTheTempoAndALongestTimeIsKept(t *testing.T) {
	p := demo.Plan()
	r, _ := p.FindRig("long")
	for id, preset := range r.Presets["echo"] {
		if id == "B" {
			preset["echo/fx/time"] = plan.Sync("1/8.")
		}
	}
	r.Presets["echo"]["C"]["echo/fx/time"] = plan.Sync("1/1")
	for i := range p.Sounds {
		for k := range p.Sounds[i].Targets.Effects {
			p.Sounds[i].Targets.Effects[k].Note = ""
		}
	}
	n, err := Plan(p, "long", "", "quay-set")
	require.NoError(t, err)
	lead := useOf(n, "Tin Cabana", "Lead", "echo/fx")
	assert.InDelta(t, *lead.WantedMS, *lead.SetMS, 1e-9)
	assert.InDelta(t, 0, lead.OffMS, 1e-9)
	assert.True(t, useOf(n, "Rope & Lantern", "Swell", "echo/fx").TooLong, "a whole note at 76 is 3158 ms")
}

func TestATapTakesTimeTheSetHasToLeave(t *testing.T) {
	p := demo.Plan()
	g, _ := p.FindGear("slap")
	g.Blocks[0].Controls[0].Access = plan.Foot
	g.Footswitches = append(
		g.Footswitches,
		plan.Footswitch{
			ID: "tap", Label: "tap", X: 10, Y: 10,
			Press: &plan.Press{Actions: []plan.Action{{Kind: plan.Tap, Target: "fx/time"}}},
		},
	)
	for i := range p.Sounds {
		if p.Sounds[i].ID == "skank" {
			p.Sounds[i].Targets.Effects[0].Note, p.Sounds[i].Targets.StrictTempo = "1/8", true
		}
	}
	zero := 0.0
	p.SetLists[0].GapS = &zero
	n, err := Plan(p, "long", "", "quay-set")
	require.NoError(t, err)
	u := useOf(n, "Tin Cabana", "Skank", "slap/fx")
	assert.Equal(t, ByTap, u.Way)
	assert.InDelta(t, 3*60/126.0, u.TapS, 1e-9)
	assert.False(t, u.TapFits, "the song begins with it, and there is no gap")
	assert.InDelta(t, 100*15/(60000/126.0), u.Drift.Pct, 1e-9)
	var rules []string
	for _, f := range n.Findings {
		if f.Entry == n.Songs[3].Entry {
			rules = append(rules, f.Title)
		}
	}
	assert.Contains(t, rules, "No time to tap in Tin Cabana")

	song, _ := p.FindSong("tin-cabana")
	song.Sections[0].Sound, song.Sections[1].Sound = "home", "home"
	n, err = Plan(p, "long", "", "quay-set")
	require.NoError(t, err)
	u = useOf(n, "Tin Cabana", "Skank", "slap/fx")
	assert.InDelta(
		t, (*song.Sections[0].Bars+*song.Sections[1].Bars)*4*60/126, u.RoomS, 1e-6, "the sections before it leave room",
	)
	assert.True(t, u.TapFits)
}

func TestDelaysOfOneSoundInterlock(t *testing.T) {
	p := demo.Plan()
	r, _ := p.FindRig("long")
	for i := range r.Recipes {
		if r.Recipes[i].Sound == "lead" {
			r.Recipes[i].Values["slap/fx/on"] = plan.On(true)
		}
	}
	n, err := Plan(p, "long", "", "quay-set")
	require.NoError(t, err)
	require.Len(t, n.Songs[0].Pairs, 1)
	pair := n.Songs[0].Pairs[0]
	assert.Equal(t, []string{"Slap", "Echo"}, pair.Names)
	assert.NotEmpty(t, pair.Hits)
	assert.InDelta(t, 4*60000/104.0, pair.BarMS, 1e-6)
}

func TestTimesAreStoredInPresets(t *testing.T) {
	p := demo.Plan()
	_, err := Store(p, "long", "quay-set")
	assert.ErrorContains(t, err, "Echo has 3 presets, and the set needs more times than that")

	g, _ := p.FindGear("echo")
	for i := range g.Blocks[0].Controls {
		if c := &g.Blocks[0].Controls[i]; c.Kind == plan.Preset {
			c.Options = []string{"A", "B", "C", "D", "E", "F", "G", "H"}
		}
	}
	before, err := plan.Encode(p)
	require.NoError(t, err)
	stored, err := Store(p, "long", "quay-set")
	require.NoError(t, err)
	after, err := plan.Encode(p)
	require.NoError(t, err)
	assert.Equal(t, string(before), string(after), "the plan itself is not touched")
	assert.Len(t, stored.Words, 6, "over all sounds together")
	p.Put(stored.Rig)
	for _, s := range stored.Songs {
		p.Put(s)
	}
	require.Empty(t, p.Validate())
	n, err := Plan(p, "long", "", "quay-set")
	require.NoError(t, err)
	for _, s := range n.Songs {
		for _, u := range s.Uses {
			if u.WantedMS != nil && u.Stop == "echo/fx" {
				assert.LessOrEqual(t, math.Abs(u.OffMS), LooseShare**u.WantedMS+0.1, "%s, %s", s.Title, u.SoundName)
			}
		}
	}
	for _, f := range n.Findings {
		assert.NotContains(t, f.ID, "tempo:loose:echo")
	}
	_, err = Store(p, "nope", "quay-set")
	assert.Error(t, err)
}
