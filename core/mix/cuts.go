package mix

import (
	"fmt"
	"math"
	"slices"

	"envex/core/hearing"
	"envex/core/plan"
	"envex/core/signal"
)

// Cut is a low cut that a lane, or the whole rig, can do with: what lies below it is not heard among the band, and
// takes from the others.
type Cut struct {
	Lane  plan.Key `json:"lane,omitempty" doc:"Absent for the whole rig."`
	Name  string   `json:"name"`
	Hz    float64  `json:"hz" doc:"0 where no cut is of use."`
	Costs float64  `json:"costs_pct" doc:"What is lost of the guitar among all, where it loses most."`
	Gains float64  `json:"gains_pct" doc:"What a part gains, where one gains most."`
	Part  string   `json:"part,omitempty" doc:"The part that gains most."`
	Words string   `json:"words"`
}

// A cut costs at most so much of the guitar in any scene, and gains a part at least so much in one, in per cent.
const (
	cutCosts = 3.0
	cutGains = 2.0
)

// highestCut is how high a low cut is advised, in Hz: more leaves a guitar thin where it is alone.
const highestCut = 201.0

// lowCut is one that may be made.
type lowCut struct {
	Cut
	band int // what lies under it goes
}

// possibleCuts are those that are tried: of the whole rig and of each of its lanes, from 50 Hz up.
func (x *room) possibleCuts() []*lowCut {
	list := []Cut{{Name: "The whole rig"}}
	for _, s := range x.spectra {
		for _, l := range s.Lanes {
			if one := (Cut{Lane: l.Key, Name: l.Name}); len(s.Lanes) > 1 && !slices.Contains(list, one) {
				list = append(list, one)
			}
		}
	}
	var cuts []*lowCut
	for _, c := range list {
		for band := 3; hearing.Centre(band) <= highestCut; band++ {
			low, _ := hearing.Edges(band)
			c.Hz = fives(low)
			cuts = append(cuts, &lowCut{Cut: c, band: band})
		}
	}
	return cuts
}

// of is what is heard of a guitar with the cut.
func (c *lowCut) of(spectra signal.Spectra) hearing.Spectrum {
	cut := spectra.Heard
	for band := range c.band {
		if c.Lane == "" {
			cut[band] = 0
		}
		for _, l := range spectra.Lanes {
			if l.Key == c.Lane {
				cut[band] = math.Max(0, cut[band]-l.Heard[band])
			}
		}
	}
	return cut
}

// noteCuts notes what each cut comes to in a scene.
func (x *room) noteCuts(s *scene, all balance) {
	if len(s.voices) == 0 {
		return
	}
	for k, c := range x.lowCuts {
		got := all.cut[k]
		c.Costs = math.Max(c.Costs, 100-percent(got.sones, all.guitar.Sones))
		for i, v := range s.voices {
			if gain := percent(got.parts[i], all.parts[i].Sones) - 100; gain > c.Gains {
				c.Gains, c.Part = gain, v.part.Name
			}
		}
	}
}

// adviseCuts gives, for each lane and for all of the rig, the highest low cut that costs next to nothing and is of use.
func (x *room) adviseCuts() {
	for _, c := range x.lowCuts {
		i := slices.IndexFunc(x.out.Cuts, func(have Cut) bool { return have.Lane == c.Lane })
		if i < 0 {
			i = len(x.out.Cuts)
			x.out.Cuts = append(x.out.Cuts, Cut{
				Lane: c.Lane, Name: c.Name, Words: "What it has of low end is heard, or takes nothing from anyone.",
			})
		}
		if c.Costs <= cutCosts && c.Gains >= cutGains {
			x.out.Cuts[i] = c.Cut
			x.out.Cuts[i].Words = fmt.Sprintf(
				"A low cut at %.0f Hz costs %.1f %% of the guitar among all, and gives %s %.0f %%.",
				c.Hz,
				c.Costs,
				c.Part,
				c.Gains,
			)
		}
	}
}

// fives is a frequency as a knob would be marked.
func fives(hz float64) float64 { return math.Round(hz/5) * 5 }
