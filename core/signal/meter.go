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
	for c, x := range channels {
		y := append([]float64(nil), x...)
		kWeighting().run(y)
		sums := make([]float64, len(y)+1)
		for i, v := range y {
			sums[i+1] = sums[i] + v*v
		}
		for k, from := 0, 0; from+meterBlock <= len(y); k, from = k+1, from+meterStep {
			if c == 0 {
				list = append(list, 0)
			}
			list[k] += (sums[from+meterBlock] - sums[from]) / meterBlock
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
func Meter(channels ...[]float64) Measured {
	list := blocks(channels...)
	loud := gated(list, -70)
	m := Measured{PeakDBFS: -240}
	if len(loud) > 0 {
		if loud = gated(loud, lufs(mean(loud))-10); len(loud) > 0 {
			v := lufs(mean(loud))
			m.LUFS = &v
		}
	}
	peak := 0.0
	for _, x := range channels {
		m.Seconds = math.Max(m.Seconds, float64(len(x))/Rate)
		for _, v := range x {
			peak = math.Max(peak, math.Abs(v))
		}
	}
	m.PeakDBFS = math.Max(decibels(peak), -240)
	m.TruePeak = math.Max(decibels(truePeak(channels...)), -240)
	return m
}

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

// truePeak is the highest of the wave between the samples, found at four times the rate as BS.1770-4,
// annex 2, does.
func truePeak(channels ...[]float64) float64 {
	most := 0.0
	history := overTaps/over + 1
	for _, x := range channels {
		in := append(append(make([]float64, history), x...), make([]float64, history)...)
		for i := history; i < len(in); i++ {
			for phase := range over {
				sum := 0.0
				for k, tap := 0, phase; tap < overTaps; k, tap = k+1, tap+over {
					sum += overFIR[tap] * in[i-k]
				}
				most = math.Max(most, math.Abs(sum*over))
			}
		}
	}
	return most
}
