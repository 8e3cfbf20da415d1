package floor

import (
	"math"
	"slices"
)

// better improves a legal layout by simulated annealing (Kirkpatrick, Gelatt and Vecchi 1983): pieces change places,
// move into other corners, slide and turn, and never into each other's way. It takes so many steps, not seconds, so
// that answers repeat, and gives the best layout it met, which is no worse than the one it began with.
func (f *fitter) better(start []Spot) []Spot {
	var movable []int
	for i := range f.Pieces {
		if f.in[i] && !f.pinned(i) {
			movable = append(movable, i)
		}
	}
	if len(movable) == 0 {
		return start
	}
	best, least := slices.Clone(start), f.cost(start).sum()
	const rounds = 3
	steps := 9000 * len(movable)
	for round := range rounds {
		now, cost := slices.Clone(best), least
		hot := math.Max(0.02*cost, 0.05) / float64(round+1)
		for k := range steps {
			if k%512 == 0 {
				if f.ctx.Err() != nil {
					return best
				}
				f.progress(0.3 + 0.7*(float64(round)+float64(k)/float64(steps))/rounds)
			}
			undo := f.try(now, movable)
			if undo == nil {
				continue
			}
			next := f.cost(now).sum()
			heat := hot * math.Pow(0.001, float64(k)/float64(steps))
			if next > cost && math.Exp((cost-next)/heat) < f.chance.share() {
				undo()
				continue
			}
			cost = next
			if cost < least-1e-9 {
				best, least = slices.Clone(now), cost
			}
		}
	}
	if whole := f.rounded(slices.Clone(best)); f.cost(whole).sum() <= f.cost(start).sum() {
		return whole
	}
	return best
}

// try makes one legal move, chosen by chance, and gives what takes it back; nil where it would not have been legal.
func (f *fitter) try(spots []Spot, movable []int) func() {
	i := movable[f.chance.below(len(movable))]
	was := spots[i]
	back := func() { spots[i] = was }
	switch f.chance.below(5) {
	case 0, 1: // two change places, corner for corner or middle for middle
		k := movable[f.chance.below(len(movable))]
		if k == i || !f.sameLayer(i, k) {
			return nil
		}
		other := spots[k]
		a, b := f.Pieces[i].rect(was), f.Pieces[k].rect(other)
		spots[i], spots[k] = Spot{other.X, other.Y, was.Rotation}, Spot{was.X, was.Y, other.Rotation}
		if f.chance.below(2) == 0 { // near edges stay in line
			spots[i].Y, spots[k].Y = b.Front()-a.D, a.Front()-b.D
			spots[i].X, spots[k].X = b.X+b.W/2-a.W/2, a.X+a.W/2-b.W/2
		}
		if f.legal(i, spots, f.in) && f.legal(k, spots, f.in) {
			return func() { spots[i], spots[k] = was, other }
		}
		spots[k] = other
	case 2: // into a corner
		turn := was.Rotation
		if f.chance.below(4) == 0 {
			turn = 90 * f.chance.below(4)
		}
		spots[i] = f.corner(i, turn, spots)
		if f.legal(i, spots, f.in) {
			return back
		}
	case 3: // anywhere
		room := f.room()
		form := &f.Pieces[i].forms[was.Rotation/90]
		spots[i].X = room.X + math.Round(f.chance.share()*(room.W-form.w))
		spots[i].Y = room.Y + math.Round(f.chance.share()*(room.D-form.d))
		if f.legal(i, spots, f.in) {
			return back
		}
	default: // a little to a side
		by := math.Round(math.Pow(60, f.chance.share()))
		if f.chance.below(2) == 0 {
			by = -by
		}
		if f.chance.below(2) == 0 {
			spots[i].X += by
		} else {
			spots[i].Y += by
		}
		if f.legal(i, spots, f.in) {
			return back
		}
	}
	back()
	return nil
}

// corner is a place against the edges of two other pieces or of the area, by chance.
func (f *fitter) corner(i, turn int, spots []Spot) Spot {
	room, form := f.room(), &f.Pieces[i].forms[turn/90]
	edges := func() (Rect, float64) {
		if k := f.chance.below(len(spots) + 1); k < len(spots) && k != i && f.in[k] && f.sameLayer(i, k) {
			return f.Pieces[k].rect(spots[k]), gaps[f.chance.below(len(gaps))]
		}
		return room, 0
	}
	at := Spot{Rotation: turn}
	r, gap := edges()
	at.X = []float64{r.X, r.Right() - form.w, r.Right() + gap, r.X - gap - form.w}[f.chance.below(4)]
	r, gap = edges()
	at.Y = []float64{r.Y, r.Front() - form.d, r.Front() + gap, r.Y - gap - form.d}[f.chance.below(4)]
	return at
}

// rounded sets pieces on whole millimetres, where that stays legal and costs nothing to speak of.
func (f *fitter) rounded(spots []Spot) []Spot {
	cost := f.cost(spots).sum()
	for i := range spots {
		if !f.in[i] || f.pinned(i) {
			continue
		}
		was := spots[i]
		for _, next := range []Spot{
			{math.Round(was.X), math.Round(was.Y), was.Rotation}, {math.Floor(was.X), math.Floor(was.Y), was.Rotation},
		} {
			spots[i] = next
			if f.legal(i, spots, f.in) && f.cost(spots).sum() <= cost+0.001 {
				break
			}
			spots[i] = was
		}
	}
	return spots
}
