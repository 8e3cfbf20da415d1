package setorder

import (
	"context"
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"envex/core/plan"
)

// songsOf is a plan with a set of songs, each of one section, on a rig with three guitars.
func songsOf(songs ...plan.Song) *plan.Plan {
	p := &plan.Plan{
		Sounds: []plan.Sound{{ID: "home", Name: "Home", Short: "HM", Role: plan.HomeRole, Tape: "bone"}},
		Rigs: []plan.Rig{{
			ID: "rig", Name: "Rig", Guitars: []plan.ID{"six", "deep", "twelve"},
			Recipes: []plan.Recipe{{ID: "r", Sound: "home"}},
		}},
		SetLists: []plan.SetList{{ID: "set", Name: "Set"}},
	}
	for _, id := range p.Rigs[0].Guitars {
		p.Gear = append(p.Gear, plan.Gear{ID: id, Name: string(id), Kind: plan.Guitar})
	}
	for i, s := range songs {
		s.ID, s.Title = plan.ID(fmt.Sprint("song", i)), fmt.Sprint("Song ", i)
		s.Tempo, s.Meter = plan.Tempo{BPM: 100}, plan.Meter{Beats: 4, Unit: 4}
		s.Sections = []plan.Section{{ID: "1", Label: "All", Sound: "home"}}
		p.Songs = append(p.Songs, s)
		p.SetLists[0].Entries = append(
			p.SetLists[0].Entries,
			plan.SetEntry{ID: plan.ID(fmt.Sprint("in", i)), Song: s.ID},
		)
	}
	return p
}

func find(t require.TestingT, p *plan.Plan) *Report {
	r, err := Find(context.Background(), p, "rig", "set")
	require.NoError(t, err)
	return r
}

func TestSongsOnOneGuitarComeTogether(t *testing.T) {
	p := songsOf(
		plan.Song{Guitar: "six"}, plan.Song{Guitar: "deep"}, plan.Song{Guitar: "six"}, plan.Song{Guitar: "deep"},
		plan.Song{Guitar: "six"},
	)
	r := find(t, p)
	require.NotNil(t, r.Offered)
	assert.True(t, r.Exact)
	assert.Len(t, r.Now.Changes, 4)
	assert.Len(t, r.Offered.Changes, 1)
	assert.Equal(t, 12.0, r.Offered.Seconds)
	assert.Equal(t, "change guitar to deep", r.Now.Changes[0].Words)
	assert.Equal(t, "Song 1", r.Now.Changes[0].Title)
	assert.True(t, r.Now.Changes[0].Fits)
	assert.Equal(t, []plan.ID{"in1", "in3", "in0", "in2", "in4"}, r.Offered.Order)
	assert.Equal(t, r.Now.Reach.Total, r.Offered.Reach.Total)
}

func TestAnOrderThatIsTheBestIsLeft(t *testing.T) {
	r := find(t, songsOf(plan.Song{}, plan.Song{}, plan.Song{Capo: 2}))
	assert.Nil(t, r.Offered)
	assert.True(t, r.Exact)
	assert.Len(t, r.Now.Changes, 1)
}

func TestWhatIsPinnedOrGoesStraightOnStays(t *testing.T) {
	p := songsOf(
		plan.Song{Guitar: "six"}, plan.Song{Guitar: "deep"}, plan.Song{Guitar: "six"}, plan.Song{Guitar: "deep"},
		plan.Song{Guitar: "six"}, plan.Song{Guitar: "deep"},
	)
	e := p.SetLists[0].Entries
	e[1].Pinned, e[4].Segue = true, true
	r := find(t, p)
	require.NotNil(t, r.Offered)
	assert.Equal(t, plan.ID("in1"), r.Offered.Order[1])
	assert.Equal(t, slices.Index(r.Offered.Order, "in3")+1, slices.Index(r.Offered.Order, "in4"))
	e[1].Pinned, e[4].Segue = false, false
	e[0].From = 6
	r = find(t, p)
	require.NotNil(t, r.Offered)
	assert.Equal(t, plan.ID("in0"), r.Offered.Order[5], "it is to be the last, and that the set is not")
	assert.Len(t, r.Offered.Changes, 1)
	e[0].From, e[1].To, e[2].To = 0, 1, 1
	_, err := Find(context.Background(), p, "rig", "set")
	require.ErrorContains(t, err, "no order keeps every song of Set within its wished places")
}

func TestAFirstSongThatSaysItGoesStraightOnStaysFirst(t *testing.T) {
	p := songsOf(plan.Song{Guitar: "six"}, plan.Song{Guitar: "deep"}, plan.Song{Guitar: "six"}, plan.Song{Guitar: "deep"})
	p.SetLists[0].Entries[0].Segue = true
	r := find(t, p)
	require.NotNil(t, r.Offered)
	assert.Equal(t, plan.ID("in0"), r.Offered.Order[0])
}

// A guitar that a song begins on and is put away inside it stands as that song left it.
func TestAGuitarPutAwayInsideASongStandsAsItWas(t *testing.T) {
	p := songsOf(plan.Song{Tuning: "Drop D"}, plan.Song{Guitar: "twelve", Tuning: "Drop D"}, plan.Song{Guitar: "six"})
	p.Sounds = append(p.Sounds, plan.Sound{ID: "far", Name: "Far", Short: "FR", Tape: "bone"})
	p.Rigs[0].Recipes = append(p.Rigs[0].Recipes, plan.Recipe{ID: "f", Sound: "far", Guitar: "twelve"})
	p.Songs[0].Sections = append(p.Songs[0].Sections, plan.Section{ID: "2", Label: "Two", Sound: "far"})
	for i := range p.SetLists[0].Entries {
		p.SetLists[0].Entries[i].Pinned = true
	}
	now := find(t, p).Now
	require.Len(t, now.Changes, 1)
	assert.Equal(t, "change guitar to six, tune 1 string to standard", now.Changes[0].Words)
	assert.Equal(t, 20.0, now.Seconds)
}

func TestAChangeThatDoesNotFitIsLate(t *testing.T) {
	p := songsOf(plan.Song{}, plan.Song{Tuning: "Half step down"}, plan.Song{Guitar: "deep"})
	p.SetLists[0].Entries[2].Segue = true
	r := find(t, p)
	assert.Equal(t, 2, r.Now.Late)
	assert.Equal(t, []bool{false, false}, []bool{r.Now.Changes[0].Fits, r.Now.Changes[1].Fits})
	assert.True(t, r.Now.Changes[1].Segue)
	assert.Zero(t, r.Now.Changes[1].GapS)
}

// brute is the least cost over every order there is.
func brute(s *set) (best cost, found bool) {
	var go_ func(order []*unit, left []*unit)
	go_ = func(order, left []*unit) {
		if len(left) == 0 {
			if c := s.costOf(order); s.inPlace(order) && (!found || c.less(best)) {
				best, found = c, true
			}
			return
		}
		for i, u := range left {
			go_(append(slices.Clone(order), u), append(slices.Clone(left[:i]), left[i+1:]...))
		}
	}
	go_(nil, s.units)
	return best, found
}

func drawnSet(t *rapid.T, most int) *plan.Plan {
	var songs []plan.Song
	for range rapid.IntRange(1, most).Draw(t, "songs") {
		songs = append(songs, plan.Song{
			Guitar: rapid.SampledFrom([]plan.ID{"", "six", "deep", "twelve"}).Draw(t, "guitar"),
			Tuning: rapid.SampledFrom([]string{"", "", "Drop D", "Eb", "DADGAD"}).Draw(t, "tuning"),
			Capo:   rapid.SampledFrom([]int{0, 0, 2, 5}).Draw(t, "capo"),
		})
	}
	p := songsOf(songs...)
	if rapid.Bool().Draw(t, "handed") {
		p.Rigs[0].HandedBy = "Nan"
	}
	n := len(songs)
	for i := range p.SetLists[0].Entries {
		e := &p.SetLists[0].Entries[i]
		e.Segue = rapid.IntRange(0, 4).Draw(t, "segue") == 0
		switch rapid.IntRange(0, 6).Draw(t, "wish") {
		case 0:
			e.Pinned = true
		case 1:
			e.From = rapid.IntRange(1, n).Draw(t, "from")
		case 2:
			e.To = rapid.IntRange(1, n).Draw(t, "to")
		}
	}
	return p
}

// The order that is found costs what the best of all orders costs.
func TestTheOrderIsTheBestThereIs(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := drawnSet(t, 7)
		s, err := read(p, "rig", "set")
		require.NoError(t, err)
		want, any := brute(s)
		best, exact, err := s.search(context.Background())
		require.NoError(t, err)
		require.True(t, exact)
		require.Equal(t, any, best != nil)
		if any {
			assert.Equal(t, want.changes, best.changes)
			assert.InDelta(t, want.seconds, best.seconds, 1e-6)
			assert.Equal(t, want.moved, best.moved)
		}
	})
}

// The table, filled as a whole, says the same.
func TestTheTableIsTheSame(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := drawnSet(t, 9)
		s, err := read(p, "rig", "set")
		require.NoError(t, err)
		want, exact, err := s.layer(context.Background(), nil, 1<<30)
		require.NoError(t, err)
		require.True(t, exact)
		d, ok := newDense(s)
		if !ok {
			return
		}
		got, err := d.search(context.Background())
		require.NoError(t, err)
		require.Equal(t, want != nil, got != nil)
		if want != nil {
			assert.Equal(t, want.changes, got.changes)
			assert.InDelta(t, want.seconds, got.seconds, 1e-6)
			assert.Equal(t, want.moved, got.moved)
			assert.Len(t, s.entriesOf(got), len(s.list.Entries))
		}
	})
}

// The long look, which leaves out what cannot be better, finds what the plain one finds.
func TestLeavingOutLosesNothing(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := drawnSet(t, 9)
		s, err := read(p, "rig", "set")
		require.NoError(t, err)
		s.bounds()
		want, exact, err := s.layer(context.Background(), nil, 1<<30)
		require.NoError(t, err)
		require.True(t, exact)
		few, _, err := s.layer(context.Background(), nil, 3)
		require.NoError(t, err)
		if want == nil || few == nil {
			return
		}
		best, exact, err := s.layer(context.Background(), few, 1<<30)
		require.NoError(t, err)
		require.True(t, exact)
		if best == nil || few.less(best.cost) {
			best = few
		}
		assert.False(t, want.less(best.cost))
		assert.False(t, best.less(want.cost))
	})
}

// worth is what an order of a set costs, by the rules as a player would say them; false where it breaks one.
func worth(p *plan.Plan, order []int) (cost, bool) {
	l, r := p.SetLists[0], &p.Rigs[0]
	var c cost
	var in plan.InHand
	left := map[plan.ID]plan.InHand{} // guitars as they were put away
	for place, i := range order {
		e := l.Entries[i]
		first, last := e.Places(i, len(order))
		straight := i > 0 && (place == 0 || order[place-1] != i-1)
		if place < first || place > last || e.Segue && (straight || i == 0 && place > 0) {
			return cost{}, false
		}
		song, _ := p.FindSong(e.Song)
		guitar := func(sec plan.Section) plan.InHand {
			sound, _ := p.FindSound(sec.Sound)
			return song.InHand(r.GuitarOf(song, r.RecipeFor(sec), sound))
		}
		begins, ends := guitar(song.Sections[0]), guitar(song.Sections[len(song.Sections)-1])
		stood, known := left[begins.Guitar]
		if !known {
			stood = begins
		}
		seconds, words := r.TakenUp(in, begins, stood, func(id plan.ID) string { return string(id) })
		if place > 0 && words != "" {
			c.changes, c.seconds = c.changes+1, c.seconds+seconds
		}
		in, left[begins.Guitar] = ends, begins
		left[ends.Guitar] = ends
		c.moved += max(place-i, i-place)
	}
	return c, true
}

// Of all orders that break no rule none is better than what is found, by rules that are written here again.
func TestNoOrderIsBetterByTheRules(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := drawnSet(t, 6)
		p.Sounds = append(p.Sounds, plan.Sound{ID: "far", Name: "Far", Short: "FR", Tape: "bone"})
		p.Rigs[0].Recipes = append(p.Rigs[0].Recipes, plan.Recipe{ID: "f", Sound: "far", Guitar: "twelve"})
		for i := range p.Songs {
			switch rapid.IntRange(0, 3).Draw(t, "in it") {
			case 0:
				p.Songs[i].Sections = append(p.Songs[i].Sections, plan.Section{ID: "2", Label: "Two", Sound: "far"})
			case 1:
				p.Songs[i].Sections = []plan.Section{
					{ID: "1", Label: "One", Sound: "far"}, {ID: "2", Label: "Two", Sound: "home"},
				}
			}
		}
		entries := p.SetLists[0].Entries
		var best cost
		any := false
		var try func(order, left []int)
		try = func(order, left []int) {
			if c, ok := worth(p, order); len(left) == 0 && ok && (!any || c.less(best)) {
				best, any = c, true
			}
			for k, i := range left {
				try(append(slices.Clone(order), i), append(slices.Clone(left[:k]), left[k+1:]...))
			}
		}
		all := make([]int, len(entries))
		for i := range all {
			all[i] = i
		}
		try(nil, all)
		found, err := Find(context.Background(), p, "rig", "set")
		if !any {
			require.Error(t, err)
			return
		}
		require.NoError(t, err)
		require.True(t, found.Exact)
		order := all
		said := found.Now
		if found.Offered != nil {
			said, order = *found.Offered, nil
			for _, id := range said.Order {
				order = append(order, slices.IndexFunc(entries, func(e plan.SetEntry) bool { return e.ID == id }))
			}
		}
		got, ok := worth(p, order)
		require.True(t, ok, "it breaks no rule")
		assert.Equal(t, best.changes, got.changes)
		assert.InDelta(t, best.seconds, got.seconds, 1e-6)
		assert.Equal(t, best.moved, got.moved)
		assert.Len(t, said.Changes, got.changes)
		assert.InDelta(t, got.seconds, said.Seconds, 1e-6)
	})
}

// A bound that is told of a way is one: no way to go on from it costs less in the end.
func TestWhatAWayCostsAtLeastIsNeverMore(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := drawnSet(t, 6)
		s, err := read(p, "rig", "set")
		require.NoError(t, err)
		s.bounds()
		var go_ func(w *way, trail []*way)
		go_ = func(w *way, trail []*way) {
			if w.places == len(s.list.Entries) {
				for _, x := range trail {
					least := s.atLeast(x)
					require.False(t, w.changes < least.changes, "%d of at least %d changes", w.changes, least.changes)
					require.False(t, w.seconds < least.seconds-eps, "%g of at least %g s", w.seconds, least.seconds)
				}
				return
			}
			for _, next := range s.goOn(w) {
				go_(next, append(slices.Clone(trail), next))
			}
		}
		go_(s.begin(), nil)
	})
}

// The bound is worth something: it knows a change to each guitar that is left, and that nothing is left at the end.
func TestWhatAWayCostsAtLeastCountsWhatIsLeft(t *testing.T) {
	p := songsOf(
		plan.Song{Guitar: "six"}, plan.Song{Guitar: "deep"}, plan.Song{Guitar: "twelve"}, plan.Song{Guitar: "deep"},
	)
	s, err := read(p, "rig", "set")
	require.NoError(t, err)
	s.bounds()
	w := s.with(s.begin(), s.units[0])
	w.played = "\x01\x00\x00"
	assert.Equal(t, cost{changes: 2, seconds: 24}, s.atLeast(w), "the second deep may come right after the first")
	assert.Equal(t, cost{changes: 1, seconds: 12}, s.kinds[1].first, "from another")
	assert.Equal(t, cost{changes: 0, seconds: 0}, s.kinds[1].least, "from its own")
	assert.Equal(t, cost{changes: 1, seconds: 12}, s.kinds[2].least, "there is one alone")
}

func TestAnOrderIsSaidAsItIsTaken(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := drawnSet(t, 8)
		r, err := Find(context.Background(), p, "rig", "set")
		if err != nil || r.Offered == nil {
			return
		}
		l := p.SetLists[0]
		entries := slices.Clone(l.Entries)
		slices.SortStableFunc(entries, func(a, b plan.SetEntry) int {
			return slices.Index(r.Offered.Order, a.ID) - slices.Index(r.Offered.Order, b.ID)
		})
		l.Entries = entries
		q := *p
		q.SetLists = []plan.SetList{l}
		for i := range l.Entries {
			l.Entries[i].Pinned = false
		}
		again, err := Find(context.Background(), &q, "rig", "set")
		require.NoError(t, err)
		assert.Equal(t, r.Offered.Changes, again.Now.Changes)
		assert.Equal(t, r.Offered.Seconds, again.Now.Seconds)
		assert.Equal(t, r.Offered.Reach, again.Now.Reach)
	})
}

func TestWhatIsNotThereIsNotPutInOrder(t *testing.T) {
	p := songsOf(plan.Song{})
	_, err := Find(context.Background(), p, "nope", "set")
	require.Error(t, err)
	_, err = Find(context.Background(), p, "rig", "nope")
	require.Error(t, err)
	ctx, cancel := context.WithCancel(context.Background())
	cancel()
	_, err = Find(ctx, p, "rig", "set")
	require.ErrorIs(t, err, context.Canceled)
	r := find(t, songsOf())
	assert.Nil(t, r.Offered)
}

// Twenty songs, each in a tuning of its own on one guitar, and twenty on three guitars in five.
func BenchmarkTwentySongs(b *testing.B) {
	notes := []string{"C", "C#", "D", "Eb", "E", "F"}
	var apart, mixed []plan.Song
	for i := range 20 {
		apart = append(apart, plan.Song{Guitar: "six", Tuning: fmt.Sprint("Drop ", notes[i%5]), Capo: i / 5})
		mixed = append(mixed, plan.Song{
			Guitar: []plan.ID{"six", "deep", "twelve"}[i%3], Tuning: []string{"", "Drop D", "Eb", "", "DADGAD"}[i*7%5],
		})
	}
	for name, songs := range map[string][]plan.Song{"all apart": apart, "mixed": mixed} {
		b.Run(name, func(b *testing.B) {
			p := songsOf(songs...)
			for b.Loop() {
				r := find(b, p)
				require.True(b, r.Exact)
			}
		})
	}
}
