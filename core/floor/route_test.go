package floor

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func TestALeadIsDrawnRoundTheBoxesItJoins(t *testing.T) {
	// The next box stands to the left: from output on the left to input on the right, straight across.
	s := pair(200, 20, 100, 50)
	assert.Equal(t, [][2]float64{{200, 80}, {170, 80}}, s.Route(s.Leads[0]))
	// It stands beneath: round, and not across either box.
	s = pair(200, 20, 200, 170)
	route := s.Route(s.Leads[0])
	assert.Equal(t, [2]float64{200, 80}, route[0])
	assert.Equal(t, [2]float64{270, 200}, route[len(route)-1])
	assert.Zero(t, crossed(s, route))
	assert.Len(t, route, 6)
}

// crossed is how many boxes of a scene a route goes across.
func crossed(s *Scene, route [][2]float64) int {
	n := 0
	for i := 1; i < len(route); i++ {
		a, b := route[i-1], route[i]
		for _, p := range s.Pieces {
			r := p.Box.Rect()
			if math.Max(a[0], b[0]) > r.X+1 && math.Min(a[0], b[0]) < r.Right()-1 && math.Max(a[1], b[1]) > r.Y+1 &&
				math.Min(a[1], b[1]) < r.Front()-1 {
				n++
			}
		}
	}
	return n
}

func TestADrawnLeadGoesAlongEdgesFromJackToJack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		at := rapid.Float64Range(0, 500)
		s := pair(at.Draw(t, "x1"), at.Draw(t, "y1"), at.Draw(t, "x2"), at.Draw(t, "y2"))
		route := s.Route(s.Leads[0])
		ax, ay, bx, by := s.Ends(s.Leads[0])
		require.Equal(t, [2]float64{ax, ay}, route[0])
		require.Equal(t, [2]float64{bx, by}, route[len(route)-1])
		long := 0.0
		for i := 1; i < len(route); i++ {
			dx, dy := math.Abs(route[i][0]-route[i-1][0]), math.Abs(route[i][1]-route[i-1][1])
			require.Less(t, math.Min(dx, dy), 1e-6)
			long += dx + dy
		}
		require.GreaterOrEqual(t, long, s.run(s.Leads[0], s.spots())-1e-6)
		// Boxes that stand well apart are never drawn across.
		if a, b := s.Pieces[0].Box.Rect(), s.Pieces[1].Box.Rect(); a.X-b.Right() > 30 || b.X-a.Right() > 30 ||
			a.Y-b.Front() > 30 || b.Y-a.Front() > 30 {
			require.Zero(t, crossed(s, route), "%v", route)
		}
	})
}
