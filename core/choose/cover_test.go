package choose

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"envex/core/plan"
)

// brute tries every choice of boxes, and every place of every stage.
func brute(worlds []world, sounds, pile, stages, places, most int) (count, fewest int) {
	fewest = mostBoxes + 1
	for w := range worlds {
		at := make([]int, stages)
		for {
			for taken := boxes(0); taken < 1<<pile; taken++ {
				if taken.count() > most || taken&worlds[w].without != 0 {
					continue
				}
				n := 0
				for _, ways := range worlds[w].ways {
					for _, x := range ways {
						ok := x.needs.within(taken)
						for _, s := range x.stations {
							ok = ok && at[s.stage] == s.at
						}
						if ok {
							n++
							break
						}
					}
				}
				if n > count || n == count && taken.count() < fewest {
					count, fewest = n, taken.count()
				}
			}
			i := 0
			for ; i < stages; i++ {
				if at[i]++; at[i] < places {
					break
				}
				at[i] = 0
			}
			if i == stages {
				break
			}
		}
	}
	return count, fewest
}

func TestCoversAreThoseOfBruteForce(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		pile, sounds, places := rapid.IntRange(1, 8).Draw(t, "pile"), rapid.IntRange(1, 5).Draw(t, "sounds"), 2
		stages := min(pile, 5)
		worlds := make([]world, rapid.IntRange(1, 2).Draw(t, "worlds"))
		for w := range worlds {
			if rapid.Bool().Draw(t, "some are left at home") {
				worlds[w].without = 1 << rapid.IntRange(0, pile-1).Draw(t, "without")
			}
			for range sounds {
				var ways []way
				for range rapid.IntRange(0, 5).Draw(t, "ways") {
					x := way{needs: boxes(rapid.Uint64Range(0, 1<<pile-1).Draw(t, "needs"))}
					for s := range stages {
						if x.needs.has(s) {
							x.stations = append(x.stations, station{s, rapid.IntRange(0, places-1).Draw(t, "at")})
						}
					}
					ways = append(ways, x)
				}
				worlds[w].ways = append(worlds[w].ways, ways)
			}
		}
		most := rapid.IntRange(0, pile).Draw(t, "most")
		c := &covering{worlds: worlds, sounds: sounds}
		best, _, proven, err := c.covers(context.Background(), most, 100)
		require.NoError(t, err)
		require.True(t, proven)
		require.NotEmpty(t, best)
		count, fewest := brute(worlds, sounds, pile, stages, places, most)
		for _, x := range best {
			assert.Equal(t, count, x.count)
			assert.Equal(t, fewest, x.taken.count())
			at, made := map[int]int{}, 0
			for sound, i := range x.made {
				if i < 0 {
					continue
				}
				made++
				chosen := worlds[x.world].ways[sound][i]
				assert.True(t, chosen.needs.within(x.taken))
				for _, s := range chosen.stations {
					if was, ok := at[s.stage]; ok {
						assert.Equal(t, was, s.at, "a stage stands in two places")
					}
					at[s.stage] = s.at
				}
			}
			assert.Equal(t, x.count, made)
		}
	})
}

// Ten sounds of sixteen boxes, of which a known three make all: each of the three stands in one place, and decoys make
// all but one sound each.
func TestAPlantedChoiceIsFound(t *testing.T) {
	const pile, sounds = 16, 10
	planted := boxes(1<<3 | 1<<7 | 1<<12)
	stage := []int{3, 7, 12}
	w := world{}
	for s := range sounds {
		own := stage[s%3]
		ways := []way{{needs: 1 << own, stations: []station{{own, 1}}}}
		for b := range pile {
			if !planted.has(b) && b%sounds != s {
				ways = append(ways, way{needs: 1<<b | 1<<((b+5)%pile), stations: []station{{b, s % 4}}})
			}
		}
		w.ways = append(w.ways, ways)
	}
	c := &covering{worlds: []world{w}, sounds: sounds}
	best, _, proven, err := c.covers(context.Background(), 16, 10)
	require.NoError(t, err)
	assert.True(t, proven)
	require.Len(t, best, 1)
	assert.Equal(t, planted, best[0].taken)
	assert.Equal(t, sounds, best[0].count)
}

func TestAChoiceThatWasTriedCountsAsMuchAsItMakes(t *testing.T) {
	w := world{ways: [][]way{{{needs: 1}, {needs: 2}}, {{needs: 1}, {needs: 6}}}}
	c := &covering{worlds: []world{w}, sounds: 2, cap: func(so cover) (int, bool) { return 1, so.taken == 1 }}
	best, _, _, err := c.covers(context.Background(), 3, 10)
	require.NoError(t, err)
	require.NotEmpty(t, best)
	for _, x := range best {
		assert.Equal(t, 2, x.count)
		assert.Equal(t, 2, x.taken.count(), "one box makes one of them, two make both")
	}
}

// The first sound is what the others are as loud as: where it is not made, nothing is.
func TestTheFirstSoundHasToBeMade(t *testing.T) {
	w := world{first: true, with: 8, ways: [][]way{{{needs: 1 | 8}}, {{needs: 2 | 8}}, {{needs: 2 | 8}}}}
	c := &covering{worlds: []world{w}, sounds: 3}
	best, curve, _, err := c.covers(context.Background(), 2, 10)
	require.NoError(t, err)
	require.Len(t, best, 1)
	assert.Equal(t, boxes(1|8), best[0].taken)
	assert.Equal(t, []int{-1, -1, 1}, curve, "what cannot be off is taken along")
}

func TestASearchThatIsCutShortProvesNothing(t *testing.T) {
	w := world{}
	for range 6 {
		var ways []way
		for b := range 10 {
			ways = append(ways, way{needs: 1 << b})
		}
		w.ways = append(w.ways, ways)
	}
	c := &covering{worlds: []world{w}, sounds: 6, budget: 3}
	_, _, proven, err := c.covers(context.Background(), 10, 1)
	require.NoError(t, err)
	assert.False(t, proven)

	ctx, cancel := context.WithCancel(context.Background())
	cancel()
	for i := range w.ways { // no two sounds share a box, so that there is much to look through
		for k := range w.ways[i] {
			w.ways[i][k].needs = 1 << (10*i + k)
			w.ways[i][k].stations = []station{{i, k}}
		}
	}
	c = &covering{worlds: []world{w}, sounds: 6}
	_, _, _, err = c.covers(ctx, 10, 1)
	assert.ErrorIs(t, err, context.Canceled)
}

// BenchmarkCovers is the largest that is proven: sixteen boxes, ten sounds, four places of each of ten stages.
func BenchmarkCovers(b *testing.B) {
	w := world{}
	seed := uint64(7)
	next := func(n int) int {
		seed = seed*6364136223846793005 + 1442695040888963407
		return int(seed>>33) % n
	}
	for range 10 {
		var ways []way
		for range 60 {
			x := way{}
			for _, s := range []int{next(10), next(10)} {
				if !x.needs.has(s) {
					x.needs, x.stations = x.needs.with(1<<s), append(x.stations, station{s, next(4)})
				}
			}
			if e := next(12); e < 6 {
				x.needs = x.needs.with(1 << (10 + e))
			}
			ways = append(ways, x)
		}
		w.ways = append(w.ways, ways)
	}
	for b.Loop() {
		for most := range 6 {
			c := &covering{worlds: []world{w}, sounds: 10}
			best, _, proven, err := c.covers(context.Background(), most, 8)
			require.NoError(b, err)
			require.True(b, proven)
			require.NotEmpty(b, best)
		}
	}
}

// What was left out may make more: nothing is proven then.
func TestNothingIsProvenWhereSettingsWereLeftOut(t *testing.T) {
	w := world{ways: [][]way{{{needs: 1}}}}
	for _, partial := range []bool{false, true} {
		m := &metering{
			pile: &pile{
				boxes: []Box{{Gear: "one"}},
				plan:  &plan.Plan{},
			}, sounds: []*plan.Sound{{ID: "s"}}, worlds: []world{w},
			partial: partial,
		}
		done := &Set{Covers: []plan.ID{"s"}, Rig: plan.Rig{ID: "r"}}
		c := &choosing{metering: m, done: map[boxes]*tried{1: {set: done, said: cover{taken: 1}}}}
		r, err := c.report(context.Background(), []cover{{taken: 1, made: []int{0}, count: 1}}, true, 1)
		require.NoError(t, err)
		require.Len(t, r.Sets, 1)
		assert.Equal(t, !partial, r.Sets[0].Proven)
		assert.Equal(t, 1, r.Bound)
	}
}
