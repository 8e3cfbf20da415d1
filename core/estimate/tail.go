package estimate

import (
	"math"
)

// Tail is what rings on after the playing has ended.
type Tail struct {
	S       Figure  `json:"s" doc:"Until it is 60 dB down."`
	LevelDB float64 `json:"level_db" doc:"Where it begins, re the sound before it."`
	AtMost  bool    `json:"at_most" doc:"Nothing stopped before it: it may be the strings alone."`
}

// Size is the size of a reverb that rings so, in the words of targets.
func (t *Tail) Size() string {
	switch {
	case t.S.Is < 1:
		return "small"
	case t.S.Is < 2:
		return "medium"
	}
	return "large"
}

const (
	step       = rate / 100 // samples of a level: 10 ms
	stopDB     = 3.0        // that a level falls by within 60 ms, over how it goes on, where strings are stopped
	tailLeastS = 0.15       // of a fall that can be measured
	tailWithin = 0.25       // how far off its length is in four of five recordings that were rendered, as a share
)

// tailOf measures how the end of a recording falls: a straight line in dB (M. R. Schroeder, "New method of measuring
// reverberation time", 1965, where nothing but the tail is left) from where the strings were stopped to 10 dB over
// what is left at the end. nil where the recording ends before it has fallen by 15 dB.
func tailOf(x []float64) *Tail {
	levels := make([]float64, len(x)/step)
	most := math.Inf(-1)
	for i := range levels {
		sum := 0.0
		for _, v := range x[i*step : (i+1)*step] {
			sum += v * v / step
		}
		levels[i] = 10 * math.Log10(sum+1e-12)
		most = math.Max(most, levels[i])
	}
	end := 0 // of the playing: the last that is near the loudest
	for i, db := range levels {
		if db > most-15 {
			end = i
		}
	}
	floor := math.Inf(1)
	for _, db := range levels[end:] {
		floor = math.Min(floor, db)
	}
	if floor > levels[end]-15 {
		return nil
	}
	// Where the level falls most within 60 ms, and by more than what follows does, the strings were stopped.
	const within, after = 6, 12
	stopped, by := end, 0.0
	for i := max(0, end-30); i+within+after < min(len(levels), end+30); i++ {
		drop := mean(levels[max(0, i-2):i+1]) - mean(levels[i+within:i+within+3])
		goesOn := (mean(levels[i+within:i+within+3]) - mean(levels[i+within+after-2:i+within+after+1])) * within / after
		if d := drop - math.Max(goesOn, 0); d > by {
			stopped, by = i+within, d
		}
	}
	out := &Tail{AtMost: by < stopDB}
	if out.AtMost {
		stopped = end
	}
	last := stopped
	for last < len(levels) && levels[last] > math.Max(floor+10, levels[stopped]-40) {
		last++
	}
	if float64(last-stopped)*step/rate < tailLeastS {
		return &Tail{S: Figure{0, 0, tailLeastS * 60 / 15}, LevelDB: floor - levels[end], AtMost: true}
	}
	slope := slopeOf(levels[stopped:last]) * rate / step // dB per second
	if slope >= 0 {
		return nil
	}
	s := -60 / slope
	out.S = Figure{s, s * (1 - tailWithin), s * (1 + tailWithin)}
	out.LevelDB = levels[stopped] - levels[max(0, stopped-2*within)]
	return out
}

func mean(x []float64) float64 {
	sum := 0.0
	for _, v := range x {
		sum += v
	}
	return sum / float64(len(x))
}

// slopeOf is the slope of a straight line through values, per value, by least squares.
func slopeOf(y []float64) float64 {
	n, middle := float64(len(y)), mean(y)
	xy, xx := 0.0, 0.0
	for i, v := range y {
		d := float64(i) - (n-1)/2
		xy += d * (v - middle)
		xx += d * d
	}
	return xy / math.Max(xx, 1)
}
