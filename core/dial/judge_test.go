package dial

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"

	"envex/core/hearing"
	"envex/core/plan"
	"envex/core/signal"
)

func TestAKnobIsTriedOverItsTurnAndWhereItStands(t *testing.T) {
	at := func(k signal.KnobOf) (list []float64) {
		for _, x := range pointsOf(k) {
			list = append(list, x.At)
		}
		return list
	}
	assert.Equal(t, []float64{0, 1, 2.5, 4, 5, 5.5, 7, 8.5, 10}, at(signal.KnobOf{At: 5, Low: 0, High: 10}),
		"a place a twentieth away is another")
	assert.Equal(t, []float64{-12, -9.6, -6, -2.4, 1, 4.8, 8.4, 12}, at(signal.KnobOf{At: 1, Low: -12, High: 12}),
		"one that is nearer is not")
	assert.Equal(t, []float64{0.5, 10, 25, 40, 55, 70, 85, 100}, at(signal.KnobOf{At: 0.5, Low: 0, High: 100}))
}

func TestHowFarPointsAreApart(t *testing.T) {
	for _, p := range []Point{{Louder: -1}, {Dirt: 5}, {Bright: 1.5}, {Deep: -1.5}} {
		assert.InDelta(t, 1, p.apart(Point{}), 1e-12)
		assert.InDelta(t, 1, Point{}.apart(p), 1e-12)
	}
	assert.InDelta(t, 2, Point{Louder: 3, Dirt: 15, Bright: 1.5, Deep: 2}.apart(
		Point{Louder: 2, Dirt: 10, Bright: 3, Deep: 0.5}), 1e-12)
}

// A knob from 0 to 20: what a tenth of its turn does is what two of its figures do.
func TestWhatATenthOfATurnDoesWhereAKnobStands(t *testing.T) {
	points := func() []Point {
		return []Point{
			{At: 0, Louder: -60}, {At: 4, Louder: -20}, {At: 8, Louder: -4, Dirt: 2, Deep: -1},
			{At: 12, Dirt: 12}, {At: 16, Louder: 1, Dirt: 12, Bright: 3}, {At: 20, Louder: 1.5, Dirt: 14, Bright: 3.5, Deep: 1},
		}
	}
	middle := Travel{KnobOf: signal.KnobOf{At: 12, Low: 0, High: 20}, Points: points()}
	middle.judge()
	below := math.Sqrt(16+4+4.0/9) / 2 // for 2 of 4
	assert.InDelta(t, below, middle.Mark, 1e-9, "to the side where it does more")
	assert.Equal(t, 8.0, middle.Steep.From, "what is under -20 LU does not count as steep")
	assert.Equal(t, 12.0, middle.Steep.To)
	assert.InDelta(t, below, middle.Steep.Mark, 1e-9)
	// The mean of both sides: 2 and 0.5 LU, 5 and 0 points, 0 and 1.5 dB, 0.5 and 0 dB.
	assert.Equal(t, "A tenth up: +1.2 LU, +2 points of dirt and +0.8 dB of brightness.", middle.Words)

	top := Travel{KnobOf: signal.KnobOf{At: 20, Low: 0, High: 20}, Points: points()}
	top.judge()
	assert.Equal(t, "A tenth down: -0.2 LU and -0.5 dB of depth.", top.Words)

	low := Travel{KnobOf: signal.KnobOf{At: 0, Low: 0, High: 20}, Points: points()}
	low.judge()
	assert.Equal(t, "A tenth up: +20.0 LU.", low.Words)
	assert.InDelta(t, 20, low.Mark, 1e-9)
}

func TestWhatATenthIsSaidToDo(t *testing.T) {
	assert.Equal(t, "A tenth of its turn is not heard here.", wordsOf(0.24, Point{Louder: 2}, "up"))
	assert.Equal(t, "A tenth of its turn is just heard here.",
		wordsOf(0.25, Point{Louder: 0.24, Dirt: 1.2, Bright: 0.37, Deep: -0.37}, "up"))
	assert.Equal(t, "A tenth up: +0.2 LU, -1 points of dirt, +0.4 dB of brightness and -0.4 dB of depth.",
		wordsOf(0.25, Point{Louder: 0.25, Dirt: -1.25, Bright: 0.375, Deep: -0.375}, "up"))
}

func TestWhatLiesBetweenTwoFrequencies(t *testing.T) {
	var s hearing.Spectrum
	for _, band := range []int{16, 19, 22} { // 1, 2 and 4 kHz
		s[band] = 1e6
	}
	assert.InDelta(t, 10*math.Log10(1.0/3), between(s, 1000, 2000), 1e-9, "from the lower, up to the higher")
	assert.InDelta(t, 10*math.Log10(2.0/3), between(s, 2000, 20000), 1e-9)
	assert.InDelta(t, 0, between(s, 0, 20000), 1e-9)
}

func TestWhichSoundsMoveWithAKnob(t *testing.T) {
	p := &plan.Plan{Sounds: []plan.Sound{
		{ID: "a", Name: "A"}, {ID: "b", Name: "B"}, {ID: "c", Name: "C"}, {ID: "d", Name: "D"},
	}}
	r := &plan.Rig{Recipes: []plan.Recipe{{Sound: "a"}, {Sound: "b"}, {Sound: "c"}, {Sound: "c"}}}
	assert.Empty(t, sharing(p, r, nil))
	assert.Equal(t, "B and C", sharing(p, r, []plan.ID{"b", "c"}), "two are named, also where they are all")
	r.Recipes = append(r.Recipes, plan.Recipe{Sound: "d"})
	assert.Equal(t, "every other sound", sharing(p, r, []plan.ID{"b", "c", "d"}))
	p.Sounds = append(p.Sounds, plan.Sound{ID: "e", Name: "E"})
	r.Recipes = append(r.Recipes, plan.Recipe{Sound: "e"})
	assert.Equal(t, "B, C and D", sharing(p, r, []plan.ID{"b", "c", "d"}))
}

func TestWhereAControlStandsInWords(t *testing.T) {
	preset := plan.Variable{Label: "Echo preset", Control: &plan.Control{Options: []string{"A", "B"}}}
	assert.Equal(t, "Echo preset B", standsAt(preset, plan.Text("B")))
	preset.Control.Options = preset.Control.Options[:1]
	assert.Empty(t, standsAt(preset, plan.Text("A")), "there is nothing to choose")
	time := plan.Variable{Label: "Echo time", Control: &plan.Control{Unit: "ms"}}
	assert.Equal(t, "Echo time 380.5 ms", standsAt(time, plan.Number(380.46)))
	time.Control.Unit = ""
	assert.Equal(t, "Echo time 3", standsAt(time, plan.Number(3)))
	assert.Empty(t, standsAt(time, plan.Free()))
}

func TestWhichPlacesOfAGainAreTried(t *testing.T) {
	assert.Equal(t, []float64{0}, placesIn(plan.Variable{}))
	low, high := -4.0, 6.0
	assert.Equal(t, []float64{-3, -2, -1, 0, 1, 2, 3, 4, 5, 6},
		placesIn(plan.Variable{Control: &plan.Control{Min: &low, Max: &high}}))
}

func TestWhichKnobIsTheGain(t *testing.T) {
	g := &plan.Gear{ID: "amp", Blocks: []plan.Block{{ID: "preamp", Effect: plan.EffectPreamp}}}
	knob := func(id plan.ID) plan.Variable { return plan.Variable{Control: &plan.Control{ID: id}} }
	for id, is := range map[plan.ID]bool{"gain": true, "drive": true, "volume": true, "level": false, "master": false} {
		assert.Equal(t, is, isGain(g, &g.Blocks[0], knob(id), plan.Setting{}), id)
	}
}
