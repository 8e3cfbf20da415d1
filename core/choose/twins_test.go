package choose

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/core/signal"
)

// paired is a pile of a drive, two delays and a preamp that cannot be off, with a drive and a delay tried: taken to make
// three sounds.
func paired(misses ...Made) *choosing {
	c := &choosing{metering: &metering{
		pile: &pile{
			boxes:  []Box{{Gear: "drive"}, {Gear: "slap"}, {Gear: "echo"}, {Gear: "preamp"}},
			stages: []stage{{key: "drive/fx"}}, always: 1 << 3, plan: &plan.Plan{},
		},
		sounds: []*plan.Sound{{ID: "home"}, {ID: "lead"}, {ID: "far"}},
	}}
	made := append([]Made{{Sound: "home"}}, misses...)
	c.done = map[boxes]*tried{0b0011: {
		set:  &Set{Rig: plan.Rig{ID: "r"}, Covers: make([]plan.ID, 3-len(misses)), Made: made},
		said: cover{taken: 0b0011, made: []int{0, 0, 0}, count: 3}, as: cover{made: []int{0, 0, 0}},
	}}
	return c
}

func TestWhatIsOutByItsStagesIsOutForATwinToo(t *testing.T) {
	out := func(what string) Made {
		return Made{Sound: "lead", Checks: []signal.Check{{What: "width", Met: true}, {What: what}}}
	}
	like := func(taken boxes, made ...int) cover { return cover{taken: taken, made: made, count: 3} }
	for _, what := range []string{"loudness", "dirt"} {
		c := paired(out(what))
		most, ok := c.cap(like(0b0101, 1, 2, 3))
		assert.True(t, ok, "another delay, whichever way")
		assert.Equal(t, 2, most)
		_, ok = c.cap(like(0b0101, 1, 2, -1))
		assert.False(t, ok, "of other sounds nothing is known")
		_, ok = c.cap(like(0b1011, 1, 2, 3))
		assert.False(t, ok, "what cannot be off has a say")
		_, ok = c.cap(like(0b0110, 1, 2, 3))
		assert.False(t, ok, "nor of another drive")
	}
	most, ok := paired(out("effect")).cap(like(0b0101, 1, 2, 3))
	assert.True(t, ok)
	assert.Equal(t, 3, most, "another delay may give what this one does not")
	most, _ = paired(out("effect")).cap(like(0b0011, 1, 2, 3))
	assert.Equal(t, 2, most, "the one itself does not")

	c := paired()
	c.done[0b0011].as.made[2] = -1
	most, _ = c.cap(like(0b0101, 1, 2, 3))
	assert.Equal(t, 2, most, "what could not be set at all is not made")
	c.done[0b0011].set = &Set{}
	most, _ = c.cap(like(0b0101, 1, 2, 3))
	assert.Zero(t, most, "nor is anything where nothing could be set")
}

// Where the tries run out, what was tried and makes the most is told, unproven; not what nobody heard.
func TestWhereTheTriesRunOutTheBestThatWasTriedIsTold(t *testing.T) {
	c := paired(Made{Sound: "lead", Checks: []signal.Check{{What: "dirt"}}})
	c.done[0b0011].set.Covers = []plan.ID{"home", "far"}
	fewer := &Set{Rig: plan.Rig{ID: "r"}, Covers: []plan.ID{"home"}}
	c.done[0b0001] = &tried{set: fewer, said: cover{taken: 0b0001, made: []int{0, -1, -1}, count: 1}}
	c.done[0b0100] = &tried{set: &Set{}, said: cover{taken: 0b0100, made: []int{0, 0, 0}, count: 3}}
	c.worlds = []world{{ways: [][]way{{{needs: 1}}, {{needs: 1}}, {{needs: 1}}}}}
	r, err := c.report(context.Background(), []cover{{taken: 0b1001, made: []int{0, 0, 0}, count: 3}}, false, 4)
	require.NoError(t, err)
	require.Len(t, r.Sets, 1)
	assert.Equal(t, []plan.ID{"home", "far"}, r.Sets[0].Covers)
	assert.False(t, r.Sets[0].Proven)
}

// As many as make the most for a sound of the same boxes, each once, always in one order.
func TestTheMostPromisingSettingsOfTwoStagesAreKept(t *testing.T) {
	at := func(drive float64) config { return config{on: []standing{{0, place{drive: drive}}}} }
	first := promises{}
	for i := range 7 {
		first.add(3, at(float64(i)), map[[2]int]float64{{0, 1}: float64(i % 5), {0, 2}: float64(i)})
	}
	first.add(5, at(9), map[[2]int]float64{{0, 1}: -1})
	var drives []float64
	for _, c := range first.all() {
		drives = append(drives, c.on[0].at.drive)
	}
	assert.ElementsMatch(t, []float64{1, 2, 3, 4, 5, 6, 9}, drives, "0 is never among the best four")
	for range 5 {
		assert.Equal(t, first.all(), first.all())
	}
	first.add(3, at(1), map[[2]int]float64{{0, 3}: 1})
	seen := map[float64]int{}
	for _, c := range first.all() {
		seen[c.on[0].at.drive]++
	}
	for drive, n := range seen {
		assert.Equal(t, 1, n, drive)
	}
}
