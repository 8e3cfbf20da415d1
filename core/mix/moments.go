package mix

import (
	"hash/fnv"
	"math"

	"envex/core/hearing"
)

// moments is how many moments stand for a section. Levels go up and down in each part by itself, so that one is heard
// in the gaps of another.
const moments = 16

// over is a part over all moments: its level as a whole and in each band somewhere in its range, so that every place in
// the range comes once, in an order that is the part's own. Over all moments its power in each band is what it is on
// average. In a hall what was played before rings on.
func (s shape) over(heard hearing.Spectrum, who string, hallS float64) [moments]hearing.Spectrum {
	var out [moments]hearing.Spectrum
	whole := shuffled(seedOf(who, -1))
	for band, x := range heard {
		own := shuffled(seedOf(who, band))
		sum := 0.0
		for m := range out {
			out[m][band] = power(place(s.beats, whole[m]) + place(s.notes, own[m]))
			sum += out[m][band] / moments
		}
		for m := range out {
			out[m][band] *= x / sum
		}
	}
	return ringing(out, hallS)
}

// place is somewhere in a range around 0, the lowest of its moments first.
func place(spread float64, at int) float64 { return spread * ((float64(at)+0.5)/moments - 0.5) }

// A moment is a quarter of a second, about a beat of an eighth. Where a listener stands in a hall, what rings has some
// more power than what comes straight from the loudspeakers: by Sabine's formula for usual volumes, distances and
// loudspeakers that bundle tenfold.
const (
	momentS   = 0.25
	overStage = 1.2
)

// ringing lets what is played ring on from moment to moment in a hall of a reverberation time, which is how long a sound
// takes to fall by 60 dB (W. C. Sabine). The last moment goes before the first. All power together stays as it is.
func ringing(list [moments]hearing.Spectrum, hallS float64) [moments]hearing.Spectrum {
	if hallS <= 0 {
		return list
	}
	out := list
	fall := math.Pow(10, -6*momentS/hallS)
	for m := range out {
		k := overStage * (1 - fall) / fall
		for back := 1; back < moments; back++ {
			k *= fall
			before := list[(m-back+moments)%moments]
			for band, x := range before {
				out[m][band] += k * x
			}
		}
	}
	for band := range out[0] {
		was, is := 0.0, 0.0
		for m := range out {
			was += list[m][band]
			is += out[m][band]
		}
		for m := range out {
			if is > 0 {
				out[m][band] *= was / is
			}
		}
	}
	return out
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
