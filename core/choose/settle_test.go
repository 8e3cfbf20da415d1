package choose

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"envex/core/plan"
	"envex/core/signal"
)

func ptr[T any](v T) *T { return &v }

// levelled is a settling of two sounds over a home that nothing changes, each with the one stage on.
func levelled(first, second plan.Targets) *settling {
	level := &plan.Control{ID: "level", Kind: plan.Knob}
	return &settling{
		metering: &metering{
			pile:   &pile{stages: []stage{{key: "drive/fx", level: level}}},
			sounds: []*plan.Sound{{ID: "home"}, {ID: "one", Targets: first}, {ID: "two", Targets: second}},
		},
		recipes: map[int]plan.Recipe{0: {}, 1: {}, 2: {}},
		on:      map[int][]int{1: {0}, 2: {0}},
		knobs:   []knob{{stage: 0, control: level}},
	}
}

func loud(lu, tolerance float64) plan.Targets {
	return plan.Targets{LoudnessLU: ptr(lu), ToleranceLU: ptr(tolerance)}
}

// A knob that is as loud for each unit as it is turned brings both sounds to where both are within, with the least turn;
// where there is no such place, it stands in the middle.
func TestAKnobIsTurnedToWhereAllThatHearItAreWithin(t *testing.T) {
	slope := []map[int]signal.Sketch{{1: {Loudness: 1}, 2: {Loudness: 1}}}
	heard := func(one, two float64) map[int]signal.Sketch {
		return map[int]signal.Sketch{0: {Loudness: -20}, 1: {Loudness: -20 + one}, 2: {Loudness: -20 + two}}
	}
	at := map[int]place{0: {level: 5}}
	s := levelled(loud(1, 1), loud(1, 1))
	assert.InDelta(t, 0.9, s.best(at, heard(-0.7, -0.5), slope, 1)[0], 0.11, "the lower one comes in, by the room")
	assert.InDelta(t, -1.2, s.best(at, heard(3, 2.5), slope, 1)[0], 0.11)
	assert.InDelta(t, 0, s.best(at, heard(1, 1.2), slope, 1)[0], 1e-9, "nothing is turned for nothing")
	assert.InDelta(t, mostTurn, s.best(at, heard(-9, -9), slope, 1)[0], 1e-9, "so far at once, and no farther")
	assert.InDelta(t, 0.5, s.best(map[int]place{0: {level: 9.5}}, heard(-9, -9), slope, 1)[0], 1e-9, "nor past its end")
	s = levelled(loud(0, 0.5), loud(3, 0.5))
	assert.InDelta(t, 0, s.best(at, heard(1.5, 1.5), slope, 1)[0], 0.11)
}

// Less is out after the turn that is found than before it, by the slopes it was found by.
func TestATurnIsNeverForTheWorse(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		some := func(low, high float64, name string) float64 { return rapid.Float64Range(low, high).Draw(t, name) }
		targets := func(name string) plan.Targets {
			x := loud(some(-3, 3, name), some(0.2, 2, name+" tolerance"))
			if rapid.Bool().Draw(t, name+" has dirt") {
				x.DirtMin = ptr(some(0, 50, name+" dirt"))
				x.DirtMax = ptr(*x.DirtMin + 10)
			}
			return x
		}
		s := levelled(targets("one"), targets("two"))
		slope := []map[int]signal.Sketch{{}}
		got := map[int]signal.Sketch{0: {Loudness: -20, Dirt: 5}}
		for _, sound := range []int{1, 2} {
			got[sound] = signal.Sketch{Loudness: some(-26, -14, "loudness"), Dirt: some(0, 60, "dirt")}
			slope[0][sound] = signal.Sketch{Loudness: some(-1, 2, "slope"), Dirt: some(-3, 6, "slope of dirt")}
		}
		at := map[int]place{0: {level: some(0, 10, "at")}}
		turn := s.best(at, got, slope, 1)
		next := map[int]signal.Sketch{0: got[0]}
		for sound, x := range slope[0] {
			next[sound] = signal.Sketch{
				Loudness: got[sound].Loudness + turn[0]*x.Loudness, Dirt: got[sound].Dirt + turn[0]*x.Dirt,
			}
		}
		assert.LessOrEqual(t, s.loss(next, 1), s.loss(got, 1)+1e-9)
		to := at[0].level + turn[0]
		assert.True(t, to >= -1e-9 && to <= 10+1e-9, to)
	})
}

// Home is as loud as it is, and asks nothing of loudness; dirt counts where it is asked.
func TestHowFarASoundIsOut(t *testing.T) {
	s := levelled(loud(2, 1), plan.Targets{DirtMin: ptr(20.0), DirtMax: ptr(40.0)})
	s.sounds[0].Targets = plan.Targets{DirtMax: ptr(10.0), LoudnessLU: ptr(9.0)}
	out := func(sound int, loudness, dirt, room float64) float64 {
		return s.out(sound, -20, signal.Sketch{Loudness: loudness, Dirt: dirt}, room)
	}
	assert.Zero(t, out(0, -20, 9, 1))
	assert.InDelta(t, 1, out(0, -20, 15, 0), 1e-9, "five per cent are one")
	assert.Zero(t, out(1, -18, 90, 1))
	assert.InDelta(t, 4, out(1, -15, 0, 0), 1e-9)
	assert.InDelta(t, (2+roomLU)*(2+roomLU), out(1, -15, 0, 1), 1e-9)
	assert.Zero(t, out(1, -18.5, 0, ampleRoom), "no farther inside than half way to the middle")
	assert.Positive(t, out(1, -18.6, 0, ampleRoom))
	assert.InDelta(t, 4, out(2, 0, 10, 0), 1e-9)
	assert.InDelta(t, 1, out(2, 0, 45, 0), 1e-9)
}
