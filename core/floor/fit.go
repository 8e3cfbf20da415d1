package floor

import (
	"cmp"
	"context"
	"math"
	"slices"
)

// Fitted is what [Scene.Fit] found.
type Fitted struct {
	Spots   []Spot
	LeftOut []int // pieces that found no place
	Proven  bool  // of what does not fit, that nothing does
	Cost    Cost
}

// Cost is what a layout costs: less is better, the first that differs decides, near enough.
type Cost struct {
	Seconds float64 // of the foot's ways over the night, hurried ones a little more
	CableMM float64
	hard    float64 // what the foot finds hard
	untidy  float64
}

// In one figure, in seconds of the night: a metre of cable is worth a tenth, a box out of its row a sixteenth, so that
// they decide where the feet hardly mind.
func (c Cost) sum() float64 { return c.Seconds + c.hard + c.CableMM/1000*cablePerM + c.untidy }

const (
	cablePerM = 0.1
	rowCost   = 0.06
)

// turnedCost is what it costs to have a box stand turned, by quarters: its knobs are read from the side, or from
// behind the switch.
var turnedCost = [4]float64{0, 1, 3, 1}

// turnedRocker is what it costs to have a rocker stand turned, which no foot works.
const turnedRocker = 10.0

// Fit finds a place for every piece of the scene that is not pinned: first so that everything fits, then so that
// the foot has the shortest ways, then the least cable, then in rows. It is no worse than how the pieces stand,
// where that is legal, and the same for the same seed. It ends with the context's error when that is cancelled.
// Where not everything fits, it leaves out as few pieces as it can, those needed least first.
func (s *Scene) Fit(ctx context.Context, seed uint64, progress func(share float64)) (Fitted, error) {
	if progress == nil {
		progress = func(float64) {}
	}
	f := &fitter{Scene: s, ctx: ctx, chance: &chance{seed}, paces: s.paces(), progress: progress}
	f.in = slices.Repeat([]bool{true}, len(s.Pieces))
	out := Fitted{}
	start, ok := f.start()
	if err := ctx.Err(); err != nil {
		return Fitted{}, err
	}
	if !ok {
		out.Proven = f.impossible()
		start, out.LeftOut = f.leaveOut()
		if err := ctx.Err(); err != nil {
			return Fitted{}, err
		}
	}
	best := f.better(start)
	if err := ctx.Err(); err != nil {
		return Fitted{}, err
	}
	out.Spots, out.Cost = best, f.cost(best)
	progress(1)
	return out, nil
}

type fitter struct {
	*Scene
	ctx      context.Context
	chance   *chance
	paces    paces
	progress func(float64)
	in       []bool // the pieces that are to be placed
	looks    int    // corners that may still be looked at in building layouts
}

// maxBuilds bounds how many corners are looked at in building layouts, in steps, so that answers repeat.
const maxBuilds = 400_000

// Cost is what the pieces cost where they stand.
func (s *Scene) Cost(spots []Spot) Cost {
	f := &fitter{Scene: s, paces: s.paces(), in: slices.Repeat([]bool{true}, len(s.Pieces))}
	return f.cost(spots)
}

// Legal reports whether every piece stands within the board and in nobody's way.
func (s *Scene) Legal(spots []Spot) bool {
	for i := range s.Pieces {
		if !s.legal(i, spots, nil) {
			return false
		}
	}
	return true
}

func (f *fitter) cost(spots []Spot) Cost {
	return Cost{
		Seconds: f.paces.seconds(f.Scene, spots), CableMM: f.cable(spots), hard: f.paces.discomfort(f.Scene, spots),
		untidy: f.untidy(spots),
	}
}

// untidy counts boxes that are turned, and those whose near edge is in line with no other.
func (f *fitter) untidy(spots []Spot) float64 {
	sum := 0.0
	for i := range spots {
		sum += turnedCost[spots[i].Rotation/90]
		if spots[i].Rotation != 0 && f.rocker(i) {
			sum += turnedRocker
		}
		near := 20.0
		for k := range spots {
			if k != i {
				near = math.Min(near, math.Abs(f.Pieces[i].rect(spots[i]).Front()-f.Pieces[k].rect(spots[k]).Front()))
			}
		}
		sum += near / 20 * rowCost
	}
	return sum
}

// pinned reports whether a piece stays where it is.
func (f *fitter) pinned(i int) bool { return f.Pieces[i].Box.Pinned }

// legalAll reports whether every piece that is to be placed is in nobody's way.
func (f *fitter) legalAll(spots []Spot) bool {
	for i := range spots {
		if f.in[i] && !f.legal(i, spots, f.in) {
			return false
		}
	}
	return true
}

// start finds some legal layout: how it stands, or the best of several that were packed.
func (f *fitter) start() ([]Spot, bool) {
	now := f.spots()
	var best []Spot
	take := func(spots []Spot) {
		if best == nil || f.cost(spots).sum() < f.cost(best).sum() {
			best = slices.Clone(spots)
		}
	}
	if f.allPlaced() && f.legalAll(now) {
		take(now)
	}
	const rounds = 60
	f.looks = maxBuilds
	for round := range rounds {
		if f.ctx.Err() != nil {
			return nil, false
		}
		if best != nil && round >= 6 {
			break
		}
		f.progress(0.3 * float64(round) / float64(rounds))
		if spots, ok := f.packed(round); ok {
			take(spots)
		}
		if f.looks > 0 {
			if spots, ok := f.built(round); ok {
				take(spots)
			}
		}
	}
	return best, best != nil
}

func (f *fitter) allPlaced() bool {
	return !slices.ContainsFunc(f.Pieces, func(p Piece) bool { return !p.Box.Placed })
}

// packed packs the pieces as bare rectangles, or with room for their plugs, where nothing is pinned.
func (f *fitter) packed(round int) ([]Spot, bool) {
	room := f.room()
	spots := f.spots()
	margin := []float64{1, 0.5, 0}[round%3]
	for _, under := range []bool{false, true} {
		var list []int
		var size [][2]float64
		var off [][2]float64
		for i := range f.Pieces {
			if !f.in[i] || f.Pieces[i].Box.Under != under {
				continue
			}
			if f.pinned(i) {
				return nil, false
			}
			r := f.withPlugs(i, margin)
			list = append(list, i)
			size, off = append(size, [2]float64{r.W, r.D}), append(off, [2]float64{-r.X, -r.Y})
		}
		turns := round%2 == 1 || margin == 0
		at, found := pack(f.ctx, room.W, room.D, size, turns, 4000+1000*round, &chance{uint64(round)})
		if found != fits {
			return nil, false
		}
		for k, i := range list {
			turn := at[k].W != size[k][0]
			spots[i] = Spot{room.X + at[k].X + off[k][0], room.Y + at[k].Y + off[k][1], 0}
			if turn {
				// Turned by 90 degrees, what was at its near side is at its left.
				inner := f.Pieces[i].forms[0]
				spots[i] = Spot{room.X + at[k].X + (size[k][1] - inner.d - off[k][1]), room.Y + at[k].Y + off[k][0], 90}
			}
		}
	}
	return spots, f.legalAll(spots)
}

// withPlugs is a piece with a share of the room of its plugs all along their sides, from its far left corner.
func (f *fitter) withPlugs(i int, share float64) Rect {
	form := &f.Pieces[i].forms[0]
	r := Rect{0, 0, form.w, form.d}
	grow := func(side int, by float64) {
		strip := stripAlong(Rect{0, 0, form.w, form.d}, side, by*share)
		x, y := math.Min(r.X, strip.X), math.Min(r.Y, strip.Y)
		r = Rect{x, y, math.Max(r.Right(), strip.Right()) - x, math.Max(r.Front(), strip.Front()) - y}
	}
	for _, p := range f.Pieces[i].Plugs {
		grow(p.side, p.Length)
	}
	return r
}

// built places one piece after the other in the first corner where it is in nobody's way, the largest first, and
// what found no room earlier the next time.
func (f *fitter) built(round int) ([]Spot, bool) {
	var order []int
	for i := range f.Pieces {
		if f.in[i] && !f.pinned(i) {
			order = append(order, i)
		}
	}
	slices.SortStableFunc(order, func(a, b int) int {
		x, y := &f.Pieces[a].forms[0], &f.Pieces[b].forms[0]
		return cmp.Compare(y.w*y.d, x.w*x.d)
	})
	turns := [][]int{{0}, {0, 90, 270}, {0, 90, 180, 270}}[round%3]
	for range 30 {
		if f.ctx.Err() != nil || f.looks <= 0 {
			return nil, false
		}
		spots, missing := f.build(order, turns, round%2 == 1)
		if missing < 0 {
			return spots, true
		}
		// What found no room goes before another.
		at := slices.Index(order, missing)
		to := f.chance.below(at + 1)
		order = slices.Insert(slices.Delete(order, at, at+1), to, missing)
		if round > 3 {
			a, b := f.chance.below(len(order)), f.chance.below(len(order))
			order[a], order[b] = order[b], order[a]
		}
	}
	return nil, false
}

// build places pieces in an order, from the near edge of the board or from the far one, and says which found no
// room, or -1.
func (f *fitter) build(order []int, turns []int, fromFar bool) ([]Spot, int) {
	spots := f.spots()
	placed := make([]bool, len(spots))
	for i := range f.Pieces {
		placed[i] = f.in[i] && f.pinned(i)
	}
	room := f.room()
	for _, i := range order {
		best, found := Spot{}, false
		lowest := math.Inf(1)
		for _, turn := range turns {
			form := &f.Pieces[i].forms[turn/90]
			xs, ys := f.corners(i, spots, placed, form)
			if !fromFar {
				slices.Reverse(ys)
			}
			spots[i].Rotation = turn
			placed[i] = true
			if at, ok := f.first(i, spots, placed, xs, ys); ok {
				score := at.Y - room.Y
				if !fromFar {
					score = room.Front() - at.Y - form.d
				}
				if score < lowest {
					best, found, lowest = at, true, score
				}
			}
			placed[i] = false
		}
		if !found {
			return nil, i
		}
		spots[i], placed[i] = best, true
	}
	return spots, -1
}

// first is the first of some corners where a piece is in nobody's way.
func (f *fitter) first(i int, spots []Spot, placed []bool, xs, ys []float64) (Spot, bool) {
	for _, spots[i].Y = range ys {
		for _, spots[i].X = range xs {
			if f.looks--; f.looks <= 0 {
				return Spot{}, false
			}
			if f.legal(i, spots, placed) {
				return spots[i], true
			}
		}
	}
	return Spot{}, false
}

// gaps are what may be left between boxes: nothing, or room for plugs.
var gaps = []float64{0, PlugLengths["flat"], PlugWidth, 2 * PlugLengths["flat"], PlugLengths["straight"]}

// corners are where a piece could stand: against the edges of the area and of what is placed, with and without
// room for plugs.
func (f *fitter) corners(i int, spots []Spot, placed []bool, form *form) (xs, ys []float64) {
	room := f.room()
	xs, ys = append(xs, room.X, room.Right()-form.w), append(ys, room.Y, room.Front()-form.d)
	for k := range spots {
		if !placed[k] || !f.sameLayer(i, k) {
			continue
		}
		r := f.Pieces[k].rect(spots[k])
		for _, g := range gaps {
			xs = append(xs, r.Right()+g, r.X-g-form.w)
			ys = append(ys, r.Front()+g, r.Y-g-form.d)
		}
		xs, ys = append(xs, r.X), append(ys, r.Y, r.Front()-form.d)
	}
	within := func(low, high float64) func(float64) bool {
		return func(x float64) bool { return x < low-hair || x > high+hair }
	}
	xs = slices.DeleteFunc(xs, within(room.X, room.Right()-form.w))
	ys = slices.DeleteFunc(ys, within(room.Y, room.Front()-form.d))
	slices.Sort(xs)
	slices.Sort(ys)
	return slices.Compact(xs), slices.Compact(ys)
}

// impossible reports whether it is proven that not everything fits: by its area, or by every packing of a few.
func (f *fitter) impossible() bool {
	room := f.room()
	for _, under := range []bool{false, true} {
		var size [][2]float64
		for i := range f.Pieces {
			if f.in[i] && f.Pieces[i].Box.Under == under {
				size = append(size, [2]float64{f.Pieces[i].forms[0].w, f.Pieces[i].forms[0].d})
			}
		}
		if _, found := pack(f.ctx, room.W, room.D, size, true, 0, nil); found == never {
			return true
		}
		if len(size) <= maxFew && packFew(f.ctx, room.W, room.D, size, true) == never {
			return true
		}
	}
	return false
}

// Vital is how badly a piece is needed without which nothing plays: it is left out last.
const Vital = 1e9

// leaveOut takes out as few pieces as it can for the others to fit, those needed least, and of those the
// largest, first.
func (f *fitter) leaveOut() ([]Spot, []int) {
	var order []int
	for i := range f.Pieces {
		if !f.pinned(i) {
			order = append(order, i)
		}
	}
	area := func(i int) float64 { return f.Pieces[i].forms[0].w * f.Pieces[i].forms[0].d }
	slices.SortStableFunc(order, func(a, b int) int {
		return cmp.Or(cmp.Compare(f.Pieces[a].Need, f.Pieces[b].Need), cmp.Compare(area(b), area(a)))
	})
	var out []int
	for len(out) < len(order) {
		if f.ctx.Err() != nil {
			return nil, nil
		}
		for _, i := range order {
			if !f.in[i] || !f.mayGo(i) {
				continue
			}
			f.in[i] = false
			if !f.tooMuch() {
				if spots, ok := f.start(); ok {
					out = append(out, i)
					slices.Sort(out)
					return spots, out
				}
			}
			f.in[i] = true
		}
		// No single one is enough: the one that takes most room for its use goes.
		worst := -1
		for _, i := range order {
			if f.in[i] && f.mayGo(i) && (worst < 0 || area(i)/(1+f.Pieces[i].Need) > area(worst)/(1+f.Pieces[worst].Need)) {
				worst = i
			}
		}
		f.in[worst] = false
		out = append(out, worst)
	}
	slices.Sort(out)
	return f.spots(), out
}

// mayGo reports whether a piece may be left out: a vital one only when nothing else is in.
func (f *fitter) mayGo(i int) bool {
	if f.Pieces[i].Need < Vital {
		return true
	}
	for k := range f.Pieces {
		if f.in[k] && f.Pieces[k].Need < Vital && !f.pinned(k) {
			return false
		}
	}
	return true
}

// tooMuch reports whether what is in has more area than there is.
func (f *fitter) tooMuch() bool {
	room := f.room()
	for _, under := range []bool{false, true} {
		sum := 0.0
		for i := range f.Pieces {
			if f.in[i] && f.Pieces[i].Box.Under == under {
				sum += f.Pieces[i].forms[0].w * f.Pieces[i].forms[0].d
			}
		}
		if sum > room.W*room.D {
			return true
		}
	}
	return false
}
