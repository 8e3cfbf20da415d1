package plan

import (
	"fmt"
	"math"
)

// ClockFace is a turn of 0 to 1 of a knob as on a clock, to the nearest quarter of an hour: knobs go from 7 o'clock
// by noon to 5 o'clock, 300 degrees.
func ClockFace(turn float64) string {
	quarters := int(math.Round((7 + turn*10) * 4))
	hour := (quarters/4-1)%12 + 1
	if quarters%4 == 0 {
		return fmt.Sprintf("%d o'clock", hour)
	}
	return fmt.Sprintf("%d:%02d", hour, quarters%4*15)
}
