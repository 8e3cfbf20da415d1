package play

import (
	"fmt"
	"math"
	"slices"

	"envex/core/reason"
)

// Move is one timed move of the foot from switch to switch.
type Move struct {
	Distance float64 `json:"distance_mm" minimum:"0" maximum:"5000" doc:"Between the centres of the switches."`
	Width    float64 `json:"width_mm" minimum:"5" maximum:"300"`
	Seconds  float64 `json:"seconds" minimum:"0" maximum:"60" doc:"From one press to the next."`
}

// bits is the difficulty of a move in Fitts' law, Shannon form (MacKenzie 1992): log2(D/W + 1).
func (m Move) bits() float64 { return math.Log2(m.Distance/m.Width + 1) }

// Fit is a player's feet: seconds = sum + b x bits. The fixed part of a move and the dwell on a switch
// cannot be told apart from press to press, so their sum is fitted.
type Fit struct {
	Sum     float64 `json:"sum_s" doc:"a and the dwell."`
	B       float64 `json:"b_s" doc:"A bit."`
	Spread  float64 `json:"spread_s" doc:"Standard deviation of what is left."`
	R2      float64 `json:"r2" doc:"The share of the variance that distance explains."`
	Used    int     `json:"used"`
	LeftOut int     `json:"left_out" doc:"Moves that are no part of it: a slip, a pause."`
	Good    bool    `json:"good" doc:"Good enough to be kept."`
	Words   string  `json:"words"`
}

// What a fit needs.
const (
	leastMoves  = 12
	leastSpread = 0.5  // bits between the easiest and the hardest move
	goodSpread  = 0.15 // s
	outlierAt   = 3.0  // robust standard deviations
)

// ErrTooFew is given where there are too few moves, or all alike.
var ErrTooFew = reason.Errorf("too few moves, or all of one difficulty")

// FitFeet fits the foot-timing model to moves by least squares, leaving outliers out: a straight line
// through medians of pairwise slopes (Theil and Sen) says which moves are over three robust standard
// deviations (1.4826 x the median deviation) off, and the rest are fitted. It fails with ErrTooFew
// where the moves do not tell.
func FitFeet(moves []Move) (*Fit, error) {
	var x, y []float64
	for _, m := range moves {
		if m.Width > 0 && m.Distance > 0 && m.Seconds > 0 && !math.IsInf(m.Seconds, 0) {
			x, y = append(x, m.bits()), append(y, m.Seconds)
		}
	}
	if len(x) < leastMoves || slices.Max(x)-slices.Min(x) < leastSpread {
		return nil, reason.Errorf(
			"%w: at least %d moves over different distances are needed, and there are %d", ErrTooFew, leastMoves, len(x),
		)
	}
	slope, at := theilSen(x, y)
	var off []float64
	for i := range x {
		off = append(off, math.Abs(y[i]-at-slope*x[i]))
	}
	limit := math.Max(0.02, outlierAt*1.4826*median(off))
	var ux, uy []float64
	for i := range x {
		if off[i] <= limit {
			ux, uy = append(ux, x[i]), append(uy, y[i])
		}
	}
	f := line(ux, uy)
	f.LeftOut = len(x) - len(ux)
	f.Good = f.B > 0 && f.Sum > 0 && f.Spread <= goodSpread && f.Used >= leastMoves
	f.Words = fmt.Sprintf(
		"%d moves fitted, %d left out; they scatter by %.0f ms around it.", f.Used, f.LeftOut, f.Spread*1000,
	)
	if !f.Good {
		f.Words += " That is not steady enough to keep: play it again."
	}
	return f, nil
}

// theilSen is a straight line that a few wild points do not move.
func theilSen(x, y []float64) (slope, at float64) {
	var slopes []float64
	for i := range x {
		for k := i + 1; k < len(x); k++ {
			if d := x[k] - x[i]; math.Abs(d) > 1e-9 {
				slopes = append(slopes, (y[k]-y[i])/d)
			}
		}
	}
	slope = median(slopes)
	var rest []float64
	for i := range x {
		rest = append(rest, y[i]-slope*x[i])
	}
	return slope, median(rest)
}

func median(list []float64) float64 {
	if len(list) == 0 {
		return 0
	}
	s := slices.Clone(list)
	slices.Sort(s)
	n := len(s)
	if n%2 == 1 {
		return s[n/2]
	}
	return (s[n/2-1] + s[n/2]) / 2
}

// line is the least-squares line.
func line(x, y []float64) *Fit {
	n := float64(len(x))
	var sx, sy, sxx, sxy, syy float64
	for i := range x {
		sx, sy, sxx, sxy, syy = sx+x[i], sy+y[i], sxx+x[i]*x[i], sxy+x[i]*y[i], syy+y[i]*y[i]
	}
	f := &Fit{Used: len(x)}
	f.B = (n*sxy - sx*sy) / (n*sxx - sx*sx)
	f.Sum = (sy - f.B*sx) / n
	left := 0.0
	for i := range x {
		d := y[i] - f.Sum - f.B*x[i]
		left += d * d
	}
	f.Spread = math.Sqrt(left / math.Max(1, n-2))
	if total := syy - sy*sy/n; total > 0 {
		f.R2 = 1 - left/total
	}
	return f
}
