package floor

import (
	"math"

	"envex/core/plan"
)

// MoveSeconds is how long a foot takes to a switch of effective width w mm whose centre is d
// mm away: a + b log2(d/w + 1), Fitts' law in Shannon form (MacKenzie 1992).
func MoveSeconds(f plan.Footwork, d, w float64) float64 {
	return f.A + f.B*math.Log2(d/w+1)
}

func distance(a, b point) float64 { return math.Hypot(a.x-b.x, a.y-b.y) }
