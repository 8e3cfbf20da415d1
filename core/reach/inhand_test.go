package reach

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
)

// tunedSet is a set of songs on two guitars, each song one section of the same sound, 20 s apart.
func tunedSet(t *testing.T, songs ...plan.Song) *stage {
	t.Helper()
	s := newStage()
	s.plan.Gear = append(
		s.plan.Gear,
		plan.Gear{ID: "six", Name: "Six", Kind: plan.Guitar},
		plan.Gear{ID: "deep", Name: "Deep", Kind: plan.Guitar},
	)
	s.rig().Guitars = []plan.ID{"six", "deep"}
	s.plan.Songs, s.plan.SetLists[0].Entries = nil, nil
	for i, song := range songs {
		song.ID, song.Title = "song"+plan.ID(rune('a'+i)), string(rune('A'+i))
		song.Tempo, song.Meter = plan.Tempo{BPM: 120}, plan.Meter{Beats: 4, Unit: 4}
		song.Sections = []plan.Section{{ID: "1", Label: "All", Sound: "a", Bars: ptr(16.0)}}
		s.plan.Songs = append(s.plan.Songs, song)
		s.plan.SetLists[0].Entries = append(
			s.plan.SetLists[0].Entries,
			plan.SetEntry{ID: "in" + song.ID, Song: song.ID},
		)
	}
	s.plan.SetLists[0].GapS = ptr(20.0)
	require.Empty(t, s.plan.Validate())
	return s
}

func handsOf(t *testing.T, s *stage) (words []string, seconds []float64, verdicts []Verdict) {
	t.Helper()
	r, err := Compute(&s.plan, "rig", "set")
	require.NoError(t, err)
	for _, c := range r.Changes {
		w, n := "", 0.0
		for _, h := range c.Hands {
			w += h.Action
			n += h.Seconds
		}
		words, seconds, verdicts = append(words, w), append(seconds, n), append(verdicts, c.Verdict)
	}
	return words, seconds, verdicts
}

func TestGuitarTuningAndCapoHaveTheirPrice(t *testing.T) {
	on := func(guitar plan.ID, tuning string, capo int) plan.Song {
		return plan.Song{Guitar: guitar, Tuning: tuning, Capo: capo}
	}
	for name, x := range map[string]struct {
		songs   []plan.Song
		words   []string
		seconds []float64
	}{
		"one string":           {[]plan.Song{on("six", "", 0), on("six", "Drop D", 0)}, []string{"tune 1 string to Drop D"}, []float64{8}},
		"the same by a name":   {[]plan.Song{on("six", "Standard", 0), on("six", "EADGBE", 0)}, []string{""}, []float64{0}},
		"all strings":          {[]plan.Song{on("six", "", 0), on("six", "Half step down", 0)}, []string{"tune 6 strings to Half step down"}, []float64{48}},
		"back":                 {[]plan.Song{on("six", "Drop D", 0), on("six", "", 0)}, []string{"tune 1 string to standard"}, []float64{8}},
		"unreadable":           {[]plan.Song{on("six", "the odd one", 0), on("six", "", 0)}, []string{"tune 6 strings to standard"}, []float64{48}},
		"a capo":               {[]plan.Song{on("six", "", 0), on("six", "", 3), on("six", "", 0)}, []string{"capo to fret 3", "take the capo off"}, []float64{4, 4}},
		"another guitar":       {[]plan.Song{on("six", "", 0), on("deep", "Drop D", 0)}, []string{"change guitar to Deep"}, []float64{12}},
		"put away as it stood": {[]plan.Song{on("deep", "Drop D", 0), on("six", "", 0), on("deep", "", 0)}, []string{"change guitar to Six", "change guitar to Deep, tune 1 string to standard"}, []float64{12, 20}},
		"tuning and capo":      {[]plan.Song{on("six", "", 0), on("six", "Drop D", 2)}, []string{"tune 1 string to Drop D, capo to fret 2"}, []float64{12}},
	} {
		t.Run(name, func(t *testing.T) {
			words, seconds, verdicts := handsOf(t, tunedSet(t, x.songs...))
			assert.Equal(t, x.words, words)
			assert.Equal(t, x.seconds, seconds)
			for i, s := range x.seconds {
				if s > 20 {
					assert.Equal(t, ByHand, verdicts[i])
				} else {
					assert.True(t, verdicts[i].Reached())
				}
			}
		})
	}
}

func TestWhoHandsAGuitarOverHasItReady(t *testing.T) {
	s := tunedSet(
		t,
		plan.Song{Guitar: "deep", Tuning: "Drop D"},
		plan.Song{Guitar: "six"},
		plan.Song{Guitar: "deep", Capo: 2},
	)
	s.rig().HandedBy = "Nan"
	words, seconds, _ := handsOf(t, s)
	assert.Equal(t, []string{"Nan hands over Six", "Nan hands over Deep, capo on fret 2"}, words)
	assert.Equal(t, []float64{6, 6}, seconds)
}

func TestNobodyTunesWhereASongGoesStraightOn(t *testing.T) {
	s := tunedSet(t, plan.Song{}, plan.Song{Tuning: "Drop D"})
	s.plan.SetLists[0].Entries[1].Segue = true
	_, _, verdicts := handsOf(t, s)
	assert.Equal(t, []Verdict{ByHand}, verdicts)
}

func TestATuningCountsWithoutAGuitarInTheRig(t *testing.T) {
	s := tunedSet(t, plan.Song{}, plan.Song{Tuning: "Drop D"})
	s.rig().Guitars = nil
	words, _, _ := handsOf(t, s)
	assert.Equal(t, []string{"tune 1 string to Drop D"}, words)
}

// Followed from the middle, a guitar that was put away stands as it was put away.
func TestAGuitarThatWasPutAwayIsRemembered(t *testing.T) {
	s := tunedSet(t, plan.Song{Guitar: "deep", Tuning: "Drop D"}, plan.Song{Guitar: "six"}, plan.Song{Guitar: "deep"})
	whole, err := Follow(&s.plan, "rig", "set", Start{})
	require.NoError(t, err)
	stands := whole.Stands(1)
	s.plan.SetLists[0].Entries = s.plan.SetLists[0].Entries[1:]
	rest, err := Follow(&s.plan, "rig", "set", Start{Section: "1", Stands: stands})
	require.NoError(t, err)
	require.Len(t, rest.Report.Changes, 1)
	assert.Equal(t, "change guitar to Deep, tune 1 string to standard", rest.Report.Changes[0].Hands[0].Action)
}
