package signal

import (
	"math"
	"slices"
)

// LoudnessMeter measures a signal at its own rate as it comes: loudness by ITU-R BS.1770-4 annex 1, and the
// highest of the wave between its samples by annex 2. It keeps no more of it than a tenth of a second.
type LoudnessMeter struct {
	rate    int
	weights []filters
	peaks   []*peakMeter
	piece   []float64
	steps   []float64 // K-weighted energy of each tenth of a second, channels added
	lengths []int     // of those, in samples
	frames  int
	peak    float64
}

// NewLoudnessMeter is a meter of so many channels at a rate in Hz.
func NewLoudnessMeter(rate, channels int) *LoudnessMeter {
	m := &LoudnessMeter{rate: rate, piece: make([]float64, rate/10+1)}
	for range channels {
		m.weights = append(m.weights, kWeightingAt(float64(rate)))
		m.peaks = append(m.peaks, newPeakMeter(rate))
	}
	return m
}

// kWeightingAt are the two sections of BS.1770-4, annex 1, at any rate: the annex gives their coefficients at
// 48 kHz and asks for the same response at others. They are the analogue sections from which the bilinear
// transform gives those coefficients, transformed at this rate.
func kWeightingAt(rate float64) filters {
	if rate == Rate {
		return kWeighting()
	}
	k, q := math.Tan(math.Pi*1681.974450955533/rate), 0.7071752369554196
	high := math.Pow(10, 3.999843853973347/20)
	band := math.Pow(high, 0.4996667741545416)
	a0 := 1 + k/q + k*k
	head := biquad{
		b0: (high + band*k/q + k*k) / a0, b1: 2 * (k*k - high) / a0, b2: (high - band*k/q + k*k) / a0,
		a1: 2 * (k*k - 1) / a0, a2: (1 - k/q + k*k) / a0,
	}
	k, q = math.Tan(math.Pi*38.13547087602444/rate), 0.5003270373238773
	a0 = 1 + k/q + k*k
	ear := biquad{b0: 1, b1: -2, b2: 1, a1: 2 * (k*k - 1) / a0, a2: (1 - k/q + k*k) / a0}
	return filters{head, ear}
}

// Push takes the next samples of each channel.
func (m *LoudnessMeter) Push(block [][]float64) {
	n := 0
	for c, x := range block {
		n = len(x)
		m.peak = max(m.peak, highest(x))
		if len(m.peaks) > 0 {
			m.peaks[c].push(x)
		}
		m.weigh(c, x)
	}
	m.frames += n
}

// weigh adds the energy of a channel's samples to the tenths of a second they are in.
func (m *LoudnessMeter) weigh(c int, x []float64) {
	at := m.frames
	for len(x) > 0 {
		// A tenth of a second need not be a whole number of samples.
		step := at * 10 / m.rate
		end := ((step+1)*m.rate + 9) / 10
		n := min(len(x), end-at)
		piece := append(m.piece[:0], x[:n]...)
		m.weights[c].run(piece)
		for len(m.steps) <= step {
			m.steps, m.lengths = append(m.steps, 0), append(m.lengths, 0)
		}
		for _, v := range piece {
			m.steps[step] += v * v
		}
		if c == 0 {
			m.lengths[step] += n
		}
		x, at = x[n:], at+n
	}
}

// Measured is what the meter says of all that has come.
func (m *LoudnessMeter) Measured() Measured {
	out := Measured{PeakDBFS: -240, Seconds: float64(m.frames) / float64(m.rate)}
	loud := gated(m.blocks(), -70)
	if len(loud) > 0 {
		if loud = gated(loud, lufs(mean(loud))-10); len(loud) > 0 {
			v := lufs(mean(loud))
			out.LUFS = &v
		}
	}
	between := m.peak // the wave goes through its samples
	for _, p := range m.peaks {
		between = math.Max(between, p.end())
	}
	out.PeakDBFS = math.Max(decibels(m.peak), -240)
	out.TruePeak = math.Max(decibels(between), -240)
	return out
}

// blocks are the K-weighted mean squares of blocks of 400 ms, each a tenth of a second after the one before.
func (m *LoudnessMeter) blocks() []float64 {
	whole := len(m.steps)
	if whole > 0 && m.frames*10 < whole*m.rate { // the last is not over
		whole--
	}
	var list []float64
	for k := 0; k+4 <= whole; k++ {
		sum, n := 0.0, 0
		for i := k; i < k+4; i++ {
			sum, n = sum+m.steps[i], n+m.lengths[i]
		}
		list = append(list, sum/float64(n))
	}
	return list
}

// newBlockMeter is a meter of loudness at the rate of everything, which looks for no peaks between samples.
func newBlockMeter(channels int) *LoudnessMeter {
	m := NewLoudnessMeter(Rate, channels)
	m.peaks = nil
	return m
}

// masked is the loudness over the blocks of a mask, in LUFS.
func (m *LoudnessMeter) masked(on []bool) float64 {
	sum, n := 0.0, 0
	for i, b := range m.blocks() {
		if i < len(on) && on[i] {
			sum, n = sum+b, n+1
		}
	}
	return lufs(sum / float64(max(1, n)))
}

// peakTaps are those of the filter between the samples of a peak meter that looks at four times the rate.
const peakTaps = 65

var peakFIR = kaiserLowPass(peakTaps, 20000.0/(Rate*4), 6)

// peakMeter finds the highest of a wave between its samples, at 192 kHz or nearly, as BS.1770-4 annex 2 does.
type peakMeter struct {
	over    int
	taps    [][4]float64 // by how long ago a sample came, the longest first: its share in each value between
	bound   float64      // how much higher a value between samples can be than the highest of them
	pending []float64    // what has come that a later sample needs, silence before it
	most    float64
}

func newPeakMeter(rate int) *peakMeter {
	p := &peakMeter{over: 1}
	var fir []float64
	switch {
	case rate < 96000:
		p.over, fir = 4, peakFIR
	case rate < 192000:
		p.over, fir = 2, kaiserLowPass(peakTaps/2+1, 20000.0/(Rate*2), 6)
	default:
		return p // its samples are near enough
	}
	p.taps = make([][4]float64, (len(fir)+p.over-1)/p.over)
	var sums [4]float64
	for i, x := range fir {
		x *= float64(p.over)
		p.taps[len(p.taps)-1-i/p.over][i%p.over] = x
		sums[i%p.over] += math.Abs(x)
	}
	p.bound = slices.Max(sums[:])
	p.pending = make([]float64, p.history())
	return p
}

// history is how many samples before one the wave around it depends on.
func (p *peakMeter) history() int { return max(0, len(p.taps)-1) }

// peakPiece is how many samples are passed over at a time where none can be higher than what has been.
const peakPiece = 32

func (p *peakMeter) push(x []float64) {
	if p.over == 1 {
		return
	}
	h := p.history()
	p.pending = append(p.pending, x...)
	in := p.pending
	for i := h; i < len(in); i += peakPiece {
		piece := in[i-h : min(i+peakPiece, len(in))]
		if highest(piece)*p.bound > p.most {
			p.look(piece)
		}
	}
	p.pending = in[:copy(in, in[len(in)-h:])]
}

// look finds the highest value between the samples of a piece.
func (p *peakMeter) look(x []float64) {
	for ; len(x) >= len(p.taps); x = x[1:] {
		var a, b, c, d float64
		for k, v := range x[:len(p.taps)] {
			t := &p.taps[k]
			a, b, c, d = a+t[0]*v, b+t[1]*v, c+t[2]*v, d+t[3]*v
		}
		p.most = max(p.most, math.Abs(a), math.Abs(b), math.Abs(c), math.Abs(d))
	}
}

// highest is the highest of some samples, either way up.
func highest(x []float64) float64 {
	most := 0.0
	for _, v := range x {
		most = max(most, math.Abs(v))
	}
	return most
}

// end is the highest of all that has come, with silence after it.
func (p *peakMeter) end() float64 {
	if p.over > 1 {
		q := *p
		q.pending = slices.Clone(p.pending)
		q.push(make([]float64, p.history()+1))
		return q.most
	}
	return 0
}
