package mix

import (
	"hash/fnv"
	"math"

	"envex/core/hearing"
)

// moments is how many moments stand for a section. Levels go up and down in each part by itself, so that one is heard in
// the gaps of another.
const moments = 16

// at is a part at one moment: its level as a whole and in each band somewhere in its range, so that every place in the
// range comes once, in an order that is the part's own. Over all moments its power in each band is what it is on average.
func (s shape) moment(heard hearing.Spectrum, who string, moment int) hearing.Spectrum {
	place := func(seed uint32, spread float64) float64 {
		return spread * ((float64(shuffled(seed)[moment])+0.5)/moments - 0.5)
	}
	for band := range heard {
		db := place(seedOf(who, -1), s.beats) + place(seedOf(who, band), s.notes)
		heard[band] *= power(db) / s.mean(who, band)
	}
	return heard
}

// mean is the mean over all moments of what a band is raised by.
func (s shape) mean(who string, band int) float64 {
	a, b := shuffled(seedOf(who, -1)), shuffled(seedOf(who, band))
	sum := 0.0
	for m := range moments {
		sum += power(s.beats*((float64(a[m])+0.5)/moments-0.5) + s.notes*((float64(b[m])+0.5)/moments-0.5))
	}
	return sum / moments
}

func seedOf(who string, band int) uint32 {
	h := fnv.New32a()
	_, _ = h.Write([]byte(who)) // it never fails
	return h.Sum32() + uint32(2654435761*uint64(band+2))
}

// shuffled are the moments in an order that a seed gives: always the same.
func shuffled(seed uint32) [moments]int {
	var order [moments]int
	for i := range order {
		order[i] = i
	}
	for i := moments - 1; i > 0; i-- {
		seed = seed*1664525 + 1013904223 // Numerical Recipes' generator
		k := int(uint64(seed) * uint64(i+1) >> 32)
		order[i], order[k] = order[k], order[i]
	}
	return order
}

// apartDB is how far the shapes of two spectra are apart in dB, whatever their levels: the root of the mean square over
// the bands in which either is within 20 dB of its strongest.
func apartDB(a, b hearing.Spectrum) float64 {
	la, lb := a.Levels(), b.Levels()
	most := func(l [hearing.Bands]float64) float64 {
		m := math.Inf(-1)
		for _, x := range l {
			m = math.Max(m, x)
		}
		return m
	}
	ma, mb := most(la), most(lb)
	var diffs []float64
	mean := 0.0
	for band := range la {
		if la[band] > ma-20 || lb[band] > mb-20 {
			d := math.Max(la[band], ma-30) - math.Max(lb[band], mb-30)
			diffs = append(diffs, d)
			mean += d
		}
	}
	mean /= float64(max(1, len(diffs)))
	sum := 0.0
	for _, d := range diffs {
		sum += (d - mean) * (d - mean)
	}
	return math.Sqrt(sum / float64(max(1, len(diffs))))
}
