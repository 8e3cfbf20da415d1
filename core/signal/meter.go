package signal

import "math"

// kWeighting are the two sections of ITU-R BS.1770-4, annex 1, at 48 kHz: the head, then the ear.
func kWeighting() filters {
	return filters{
		{b0: 1.53512485958697, b1: -2.69169618940638, b2: 1.19839281085285, a1: -1.69065929318241, a2: 0.73248077421585},
		{b0: 1, b1: -2, b2: 1, a1: -1.99004745483398, a2: 0.99007225036621},
	}
}

// A block of the meter is 400 ms, and blocks overlap by three quarters.
const (
	meterBlock = 400 * Rate / 1000
	meterStep  = meterBlock / 4
)

// lufs is the loudness of a mean square: that of BS.1770, where 997 Hz at full scale on one channel
// is -3.01.
func lufs(meanSquare float64) float64 { return -0.691 + 10*math.Log10(math.Max(meanSquare, 1e-20)) }

// blocks are the K-weighted mean squares of a signal, channels added, by block.
func blocks(channels ...[]float64) []float64 {
	var list []float64
	piece := make([]float64, meterStep)
	for c, x := range channels {
		weighting := kWeighting()
		steps := make([]float64, len(x)/meterStep)
		for i := range steps {
			copy(piece, x[i*meterStep:])
			weighting.run(piece)
			for _, v := range piece {
				steps[i] += v * v
			}
		}
		for k := 0; k+meterBlock/meterStep <= len(steps); k++ {
			if c == 0 {
				list = append(list, 0)
			}
			sum := 0.0
			for _, v := range steps[k : k+meterBlock/meterStep] {
				sum += v
			}
			list[k] += sum / meterBlock
		}
	}
	return list
}

func (w wave) channels() [][]float64 {
	if w.r == nil {
		return [][]float64{w.l}
	}
	return [][]float64{w.l, w.r}
}

// mask marks the blocks where a dry signal is within 30 dB of its loudest: where it is playing. All
// differences are taken over the same blocks, so that soft notes do not fall in and out of a gate.
func mask(dry []float64) []bool {
	list := blocks(dry)
	most := 0.0
	for _, b := range list {
		most = math.Max(most, b)
	}
	on := make([]bool, len(list))
	for i, b := range list {
		on[i] = b > 0 && b >= most*1e-3
	}
	return on
}

// maskedLoudness is the loudness of a signal over the blocks of a mask, in LUFS.
func maskedLoudness(w wave, on []bool) float64 {
	sum, n := 0.0, 0
	for i, b := range blocks(w.channels()...) {
		if i < len(on) && on[i] {
			sum += b
			n++
		}
	}
	if n == 0 {
		return lufs(0)
	}
	return lufs(sum / float64(n))
}

// Measured is what a meter says of a file.
type Measured struct {
	LUFS     *float64 `json:"lufs" doc:"Gated loudness by ITU-R BS.1770-4; absent where everything is under its gate of -70."`
	PeakDBFS float64  `json:"peak_dbfs" doc:"Of the samples; -240 for silence."`
	TruePeak float64  `json:"true_peak_dbtp" doc:"Of the wave between the samples, at four times the rate."`
	Seconds  float64  `json:"seconds"`
}

// Meter measures one or two channels at 48 kHz by ITU-R BS.1770-4: blocks under -70 LUFS, then those
// more than 10 LU under the mean of the rest, are left out.
func Meter[S float32 | float64](channels ...[]S) Measured {
	m := NewLoudnessMeter(Rate, len(channels))
	piece := make([][]float64, len(channels))
	for at := 0; len(channels) > 0 && at < len(channels[0]); at += meterPiece {
		for c, x := range channels {
			piece[c] = piece[c][:0]
			for _, v := range x[at:min(at+meterPiece, len(x))] {
				piece[c] = append(piece[c], float64(v))
			}
		}
		m.Push(piece)
	}
	return m.Measured()
}

// meterPiece is how much is metered at a time.
const meterPiece = 8192

func gated(list []float64, above float64) []float64 {
	var kept []float64
	for _, b := range list {
		if b > 0 && lufs(b) > above {
			kept = append(kept, b)
		}
	}
	return kept
}

func mean(x []float64) float64 {
	sum := 0.0
	for _, v := range x {
		sum += v
	}
	return sum / float64(max(1, len(x)))
}
