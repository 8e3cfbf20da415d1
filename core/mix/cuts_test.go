package mix

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"

	"envex/core/hearing"
	"envex/core/plan"
	"envex/core/signal"
)

func TestACutTakesWhatLiesBelowItFromItsLane(t *testing.T) {
	var all, di, amp hearing.Spectrum
	for band := range all {
		di[band], amp[band] = 1, 2
		all[band] = 3
	}
	spectra := signal.Spectra{Heard: all, Lanes: []signal.LaneSpectrum{{Key: "di", Heard: di}, {Key: "amp", Heard: amp}}}
	whole := (&lowCut{band: 5}).of(spectra)
	assert.Equal(t, [2]float64{0, 3}, [2]float64{whole[4], whole[5]})
	one := (&lowCut{Cut: Cut{Lane: "di"}, band: 5}).of(spectra)
	assert.Equal(t, [2]float64{2, 3}, [2]float64{one[4], one[5]})
	spectra.Lanes[0].Heard = all.Plus(all)
	one = (&lowCut{Cut: Cut{Lane: "di"}, band: 5}).of(spectra)
	assert.Zero(t, one[4], "no less than nothing")

	x := &room{spectra: []signal.Spectra{spectra, spectra, {Heard: all, Lanes: spectra.Lanes[:1]}}}
	hz := map[plan.Key][]float64{}
	for _, c := range x.possibleCuts() {
		hz[c.Lane] = append(hz[c.Lane], c.Hz)
	}
	assert.Len(t, hz, 3, "of the whole, and of each lane once")
	assert.Equal(t, []float64{45, 55, 70, 90, 110, 140, 175}, hz[""], "as a knob would be marked, to 200 Hz")
	assert.Equal(t, hz[""], hz["amp"])
	x.spectra = x.spectra[2:]
	assert.Len(t, x.possibleCuts(), len(hz[""]), "the one lane of a rig is the whole")
}

func TestTheHighestCutThatCostsNextToNothingIsAdvised(t *testing.T) {
	cut := func(lane plan.Key, hz, costs, gains float64) *lowCut {
		return &lowCut{Cut: Cut{Lane: lane, Name: "Rig", Hz: hz, Costs: costs, Gains: gains, Part: "Bass"}}
	}
	x := &room{out: &Report{}, lowCuts: []*lowCut{
		cut("", 45, 0.1, 1.9), cut("", 90, 3, 2), cut("", 110, 3.1, 8), cut("di", 45, 0.1, 1.9),
	}}
	x.adviseCuts()
	assert.Len(t, x.out.Cuts, 2)
	assert.Equal(t, 90.0, x.out.Cuts[0].Hz)
	assert.Equal(t, "A low cut at 90 Hz costs 3.0 % of the guitar among all, and gives Bass 2 %.", x.out.Cuts[0].Words)
	assert.Zero(t, x.out.Cuts[1].Hz)
	assert.Equal(t, "What it has of low end is heard, or takes nothing from anyone.", x.out.Cuts[1].Words)
}

// A cut is held against the scene in which it costs most, and the part that gains most in any.
func TestWhatACutComesToInAllScenes(t *testing.T) {
	bass, organ := plan.Part{Name: "Bass"}, plan.Part{Name: "Organ"}
	s := &scene{voices: []voice{{part: &bass}, {part: &organ}}}
	x := &room{lowCuts: []*lowCut{{}}}
	note := func(guitar, low, high float64) {
		x.noteCuts(s, balance{
			guitar: GuitarHeard{Sones: 10}, parts: []PartHeard{{Sones: 4}, {Sones: 5}},
			cut: []changed{{sones: guitar, parts: []float64{low, high}}},
		})
	}
	note(9.8, 4.2, 5)
	note(9.9, 4, 5.2)
	got := x.lowCuts[0]
	assert.InDelta(t, 2, got.Costs, 1e-9)
	assert.InDelta(t, 5, got.Gains, 1e-9)
	assert.Equal(t, "Bass", got.Part)
	note(9.8, 4, 5.5)
	assert.Equal(t, "Organ", got.Part)
	x.noteCuts(&scene{}, balance{}) // alone there is nobody to gain
	assert.InDelta(t, 2, got.Costs, 1e-9)
}

func TestAPartPlaysOtherwiseWhereTheFindingIs(t *testing.T) {
	soft := -2.0
	m := &mender{
		room: &room{
			band: &plan.Band{
				Parts: []plan.Part{{ID: "organ"}, {ID: "bass"}},
				Playing: []plan.Playing{
					{Part: "organ", Song: "tide", Section: "2", LevelDB: &soft}, {Part: "bass", Song: "tide", Section: "1"},
				},
			},
			out: &Report{Sections: []Section{
				{Song: "tide", Section: "1", Scene: 0}, {Song: "tide", Section: "2", Scene: 0},
				{Song: "tide", Section: "3", Scene: 1},
			}},
		},
		finding: Finding{Scenes: []int{0}},
	}
	louder := m.playingSo(plan.Part{ID: "organ"}, way{level: 3})
	how := func(b plan.Band, section plan.ID) plan.Playing {
		got, _ := b.PlayingOf("organ", "tide", section)
		return got
	}
	assert.InDelta(t, 1, value(how(louder, "2").LevelDB), 1e-12, "over what is said of it there")
	assert.InDelta(t, 3, value(how(louder, "1").LevelDB), 1e-12)
	assert.Nil(t, how(louder, "3").LevelDB, "it is well there")
	assert.Len(t, louder.Playing, 3)
	assert.Equal(t, -2.0, *m.band.Playing[0].LevelDB, "the band stays as it is")
	even := m.playingSo(plan.Part{ID: "organ"}, way{level: 2, tilt: -2})
	assert.Nil(t, how(even, "2").LevelDB, "nothing is said where it is as usual")
	assert.InDelta(t, -2, value(how(even, "2").Tilt), 1e-12)
	rests := m.playingSo(plan.Part{ID: "organ"}, way{rests: true})
	assert.True(t, how(rests, "1").Rests)
}

func TestTheLeastWayOfAPartComesFirst(t *testing.T) {
	for _, covered := range []bool{true, false} {
		list := waysOf(plan.Part{Name: "Organ"}, covered)
		for i := 1; i < len(list); i++ {
			assert.Greater(t, list[i].size, list[i-1].size, list[i].words)
		}
		for _, w := range list {
			if !w.rests {
				assert.Contains(t, w.words, fmt.Sprintf(" %g dB", math.Abs(w.level+w.tilt)), "it does what it says")
			}
			if covered {
				assert.False(t, w.rests)
				assert.Positive(t, w.level+w.tilt)
			} else {
				assert.True(t, w.rests || w.level+w.tilt < 0, w.words)
			}
		}
	}
	assert.Equal(t, 2, Move{Brings: []string{"a"}, Breaks: []string{"b"}, Ends: []string{"c"}}.price())
}
