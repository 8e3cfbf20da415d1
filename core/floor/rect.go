package floor

import "math"

// hair is how far things may reach into each other before it counts, in mm: less than anybody can set.
const hair = 1e-6

// Rect is a rectangle on the floor or on a board, in mm.
type Rect struct{ X, Y, W, D float64 }

// Right is its right edge.
func (r Rect) Right() float64 { return r.X + r.W }

// Front is its edge towards the player.
func (r Rect) Front() float64 { return r.Y + r.D }

// Meets reports whether two rectangles share more than an edge.
func (r Rect) Meets(o Rect) bool {
	return r.X < o.Right()-hair && o.X < r.Right()-hair && r.Y < o.Front()-hair && o.Y < r.Front()-hair
}

// Within reports whether it lies in another.
func (r Rect) Within(o Rect) bool {
	return r.X >= o.X-hair && r.Y >= o.Y-hair && r.Right() <= o.Right()+hair && r.Front() <= o.Front()+hair
}

// shared is the width and depth that two rectangles have in common; negative where they are apart.
func (r Rect) shared(o Rect) (w, d float64) {
	return math.Min(r.Right(), o.Right()) - math.Max(r.X, o.X), math.Min(r.Front(), o.Front()) - math.Max(r.Y, o.Y)
}
