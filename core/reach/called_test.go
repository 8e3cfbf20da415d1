package reach

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"envex/core/plan"
)

// pairByPair counts what [ComputeAnyOrder] counts, every pair on its own.
func pairByPair(s *solver, l *plan.SetList) AnyOrder {
	var count AnyOrder
	first := map[plan.ID]int{}
	var songs []*plan.Song
	for i, x := range s.parts {
		if _, ok := first[x.song.ID]; x.starts && !ok {
			first[x.song.ID] = i
			songs = append(songs, x.song)
		}
	}
	gap := plan.SetList{GapS: l.GapS}.GapBefore(plan.SetEntry{})
	for _, a := range songs {
		for _, b := range songs {
			last, next := first[a.ID]+len(a.Sections)-1, first[b.ID]
			if a == b || s.parts[last].unset() || s.parts[next].unset() {
				continue
			}
			count.Total++
			if s.called(last, next, gap) {
				count.Reached++
			}
		}
	}
	return count
}

func TestSongsThatAreAlikeAreCountedOnceAndAllOfThemCount(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := randomPlan(t)
		// More songs that are alike, and some of the same at another tempo.
		for i := range rapid.IntRange(0, 4).Draw(t, "more") {
			song := p.Songs[rapid.IntRange(0, len(p.Songs)-1).Draw(t, "like")]
			song.ID = plan.ID("again" + string(rune('a'+i)))
			song.Tempo.BPM = min(400, song.Tempo.BPM*rapid.SampledFrom([]float64{1, 1, 1.5}).Draw(t, "faster"))
			p.Songs = append(p.Songs, song)
			p.SetLists[0].Entries = append(p.SetLists[0].Entries, plan.SetEntry{ID: song.ID + "-in", Song: song.ID})
		}
		p.SetLists[0].GapS = ptr(rapid.SampledFrom([]float64{0.2, 1, 3}).Draw(t, "gap"))
		require.Empty(t, p.Validate())
		rig, set := p.Rigs[0].ID, p.SetLists[0].ID
		s, err := prepare(p, &p.Rigs[0], &p.SetLists[0], Start{})
		require.NoError(t, err)
		s.solve()
		share := 0.0
		got, err := ComputeAnyOrder(context.Background(), p, rig, set, func(x float64) {
			assert.Greater(t, x, share)
			share = x
		})
		require.NoError(t, err)
		assert.Equal(t, pairByPair(s, &p.SetLists[0]), got)
		if got.Total > 0 {
			assert.Equal(t, 1.0, share)
		}
	})
}

func TestAnyOrderStopsWhenItIsCancelled(t *testing.T) {
	ctx, cancel := context.WithCancel(t.Context())
	cancel()
	_, err := ComputeAnyOrder(ctx, bigPlan(3), "rig", "set", nil)
	assert.ErrorIs(t, err, context.Canceled)
}

// A song that the rig cannot begin asks for nothing, as one does that is content with everything.
func TestASongThatCannotBeginIsNotLikeOneThatAsksForNothing(t *testing.T) {
	s := newStage()
	for i := range s.rig().Recipes {
		s.rig().Recipes[i].Values = map[plan.Key]plan.Value{}
	}
	song := func(id plan.ID, guitar plan.ID) plan.Song {
		return plan.Song{
			ID: id, Title: string(id), Tempo: plan.Tempo{BPM: 90}, Meter: plan.Meter{Beats: 4, Unit: 4}, Guitar: guitar,
			Sections: []plan.Section{{ID: "1", Label: "In", Sound: "a"}},
		}
	}
	s.plan.Gear = append(s.plan.Gear, plan.Gear{ID: "twelve", Name: "Twelve", Kind: plan.Guitar})
	s.plan.Songs = []plan.Song{song("first", ""), song("second", ""), song("third", "twelve")}
	s.plan.SetLists[0].Entries = []plan.SetEntry{
		{ID: "e1", Song: "first"}, {ID: "e2", Song: "second"}, {ID: "e3", Song: "third"},
	}
	require.Empty(t, s.plan.Validate())
	got, err := ComputeAnyOrder(t.Context(), &s.plan, "rig", "set", nil)
	require.NoError(t, err)
	assert.Equal(t, AnyOrder{Total: 6, Reached: 4}, got, "nobody gets to the third, and from it to both others")
}

// A song is reached where every box that has to be moved can be, whichever of them comes first.
func TestASongIsReachedInTimeForEveryBox(t *testing.T) {
	reached := func(on plan.Key, gap float64) AnyOrder {
		s := newStage()
		s.rig().Recipes[1].Values = map[plan.Key]plan.Value{on: plan.On(true)}
		song := func(id, sound plan.ID) plan.Song {
			return plan.Song{
				ID: id, Title: string(id), Tempo: plan.Tempo{BPM: 120}, Meter: plan.Meter{Beats: 4, Unit: 4},
				Sections: []plan.Section{{ID: "1", Label: "In", Sound: sound, Bars: ptr(8.0)}},
			}
		}
		s.plan.Songs = []plan.Song{song("x", "a"), song("y", "b")}
		s.plan.SetLists[0].Entries = []plan.SetEntry{{ID: "e1", Song: "x"}, {ID: "e2", Song: "y"}}
		s.plan.SetLists[0].GapS = &gap
		require.Empty(t, s.plan.Validate())
		got, err := ComputeAnyOrder(t.Context(), &s.plan, "rig", "set", nil)
		require.NoError(t, err)
		return got
	}
	for _, on := range []plan.Key{"one/b/on", "two/b/on", "delay/b/on"} {
		assert.Equal(t, AnyOrder{Total: 2, Reached: 0}, reached(on, 0.01), "%s: nobody is that quick", on)
		assert.Equal(t, AnyOrder{Total: 2, Reached: 2}, reached(on, 5), "%s", on)
	}
}
