package wav

import "math"

// sinc brings a signal of any rate to 48 kHz by a sum of its neighbours around each new sample: a sinc under
// a Kaiser window. It is for rates whose pieces a transform would be slow with, since they have large prime
// factors.
type sinc struct {
	rate  int
	n     int // samples of the result
	half  float64
	cut   float64 // share of the band that is kept, of the input's own
	table []float64
	in    []float64 // from sample number first on
	first int
	count int
	y     []float64
}

const (
	sincZeros  = 40   // of the sinc, to either side
	sincBeta   = 9    // of the window: what is stopped is 90 dB down
	sincKept   = 0.95 // of the lower of the two bands
	sincPoints = 512  // of the table, between two zeros
)

func newSinc(rate, frames int) *sinc {
	s := &sinc{rate: rate, cut: sincKept * math.Min(1, float64(Rate)/float64(rate))}
	s.half = sincZeros / s.cut
	s.table = make([]float64, sincZeros*sincPoints+2)
	for i := range s.table {
		x := float64(i) / sincPoints
		window := math.Sqrt(math.Max(0, 1-(x/sincZeros)*(x/sincZeros)))
		s.table[i] = bessel(sincBeta*window) / bessel(sincBeta)
		if x > 0 {
			s.table[i] *= math.Sin(math.Pi*x) / (math.Pi * x)
		}
	}
	reach := int(s.half) + 1
	s.in, s.first = make([]float64, reach), -reach // silence before it
	s.y = make([]float64, 0, frames*Rate/rate+2)
	return s
}

// bessel is the modified Bessel function of the first kind, of order 0, by its series.
func bessel(x float64) float64 {
	sum, term := 1.0, 1.0
	for k := 1.0; term > 1e-12*sum; k++ {
		term *= (x / (2 * k)) * (x / (2 * k))
		sum += term
	}
	return sum
}

func (s *sinc) push(x []float64) {
	s.count += len(x)
	s.take(x)
}

func (s *sinc) take(x []float64) {
	s.in = append(s.in, x...)
	for {
		at := float64(s.n) * float64(s.rate) / Rate
		from, to := int(math.Ceil(at-s.half)), int(math.Floor(at+s.half))
		if to >= s.first+len(s.in) {
			break
		}
		sum := 0.0
		for i := from; i <= to; i++ {
			place := math.Abs(at-float64(i)) * s.cut * sincPoints
			k := int(place)
			share := place - float64(k)
			sum += s.in[i-s.first] * (s.table[k]*(1-share) + s.table[k+1]*share)
		}
		s.y = append(s.y, sum*s.cut)
		s.n++
	}
	if keep := int(float64(s.n)*float64(s.rate)/Rate-s.half) - 1; keep > s.first+4*blockFrames {
		s.in = append(s.in[:0], s.in[keep-s.first:]...)
		s.first = keep
	}
}

func (s *sinc) end() []float64 {
	s.take(make([]float64, int(s.half)+2))
	length := int(math.Ceil(float64(s.count) * Rate / float64(s.rate)))
	for len(s.y) < length {
		s.y = append(s.y, 0)
	}
	return s.y[:length]
}
