package floor

import (
	"context"
	"math"
	"slices"
)

// packer packs rectangles into a rectangle: the lowest stretch of the skyline of what is placed already either takes
// one of those that are left at its left end, or stays empty up to the lower of its neighbours. What stays empty
// may not be more than the whole leaves free, which ends most branches early in the tight cases that are hard. Not
// every packing is found so: where it finds none, there may be one all the same.
type packer struct {
	ctx     context.Context
	w, d    float64
	size    [][2]float64
	turns   bool
	spare   float64 // of the area
	left    int     // branches that may still be followed
	used    []bool
	at      []Rect
	sky     []step // from left to right
	shuffle *chance
}

// step is a stretch of the skyline.
type step struct{ x, w, y float64 }

// verdict of a search.
type verdict int

const (
	open verdict = iota // not decided
	fits
	never // proven
)

// pack looks for a place for every rectangle in an area so wide and deep, from its far left corner. It follows so
// many branches at the most, and says whether there is a packing, none, or that it does not know.
func pack(
	ctx context.Context, w, d float64, size [][2]float64, turns bool, branches int, shuffle *chance,
) ([]Rect, verdict) {
	p := &packer{
		ctx: ctx, w: w, d: d, size: size, turns: turns, left: branches, used: make([]bool, len(size)),
		at: make([]Rect, len(size)), sky: []step{{0, w, 0}}, shuffle: shuffle,
	}
	p.spare = w * d
	for _, x := range size {
		p.spare -= x[0] * x[1]
		if !(x[0] <= w+hair && x[1] <= d+hair) && !(turns && x[1] <= w+hair && x[0] <= d+hair) {
			return nil, never
		}
	}
	if p.spare < -hair {
		return nil, never
	}
	if p.place(len(size)) {
		return p.at, fits
	}
	return nil, open
}

// maxFew is for how many rectangles every packing is looked at, and maxLooks how many of them at the most.
const (
	maxFew   = 6
	maxLooks = 2_000_000
)

// packFew looks at every packing of a few rectangles. Any packing can be pushed to the far left until each
// rectangle touches the edge or another on its left and at its back, and then there is an order in which each comes
// after those; so it is enough to try, in every order, the corners of what is placed.
func packFew(ctx context.Context, w, d float64, size [][2]float64, turns bool) verdict {
	looks := 0
	var at []Rect
	used := make([]bool, len(size))
	var place func() verdict
	place = func() verdict {
		if len(at) == len(size) {
			return fits
		}
		if looks++; looks > maxLooks || looks%1024 == 0 && ctx.Err() != nil {
			return open
		}
		xs, ys := []float64{0}, []float64{0}
		for _, r := range at {
			xs, ys = append(xs, r.Right()), append(ys, r.Front())
		}
		for i := range size {
			if used[i] {
				continue
			}
			for turn := range 2 {
				r := Rect{W: size[i][turn], D: size[i][1-turn]}
				if turn == 1 && (!turns || r.W == r.D) {
					break
				}
				for _, r.X = range xs {
					for _, r.Y = range ys {
						if !r.Within(Rect{0, 0, w, d}) || slices.ContainsFunc(at, r.Meets) {
							continue
						}
						used[i], at = true, append(at, r)
						if found := place(); found != never {
							return found
						}
						used[i], at = false, at[:len(at)-1]
					}
				}
			}
		}
		return never
	}
	return place()
}

func (p *packer) place(rest int) bool {
	if rest == 0 {
		return true
	}
	if p.left--; p.left < 0 || p.left%1024 == 0 && p.ctx.Err() != nil {
		return false
	}
	low := 0
	for i := range p.sky {
		if p.sky[i].y < p.sky[low].y-hair {
			low = i
		}
	}
	seg := p.sky[low]
	was := slices.Clone(p.sky)
	for _, c := range p.choices(seg) {
		p.used[c.i] = true
		p.at[c.i] = Rect{seg.x, seg.y, c.w, c.d}
		p.raise(low, c.w, seg.y+c.d)
		if p.place(rest - 1) {
			return true
		}
		p.used[c.i] = false
		p.sky = append(p.sky[:0], was...)
	}
	// Nothing begins at its left end: it stays empty up to the lower neighbour.
	up := math.Inf(1)
	if low > 0 {
		up = p.sky[low-1].y
	}
	if low+1 < len(p.sky) {
		up = math.Min(up, p.sky[low+1].y)
	}
	lost := (up - seg.y) * seg.w
	if math.IsInf(up, 1) || lost > p.spare+hair {
		return false
	}
	p.spare -= lost
	p.raise(low, seg.w, up)
	if p.place(rest) {
		return true
	}
	p.spare += lost
	p.sky = append(p.sky[:0], was...)
	return false
}

type choice struct {
	i     int
	w, d  float64
	score float64
}

// choices are what can begin at the left end of a stretch: what fills it best first, alike ones once.
func (p *packer) choices(seg step) []choice {
	var list []choice
	for i, used := range p.used {
		if used {
			continue
		}
		for turn := range 2 {
			w, d := p.size[i][turn], p.size[i][1-turn]
			if turn == 1 && (!p.turns || w == d) {
				break
			}
			if w > seg.w+hair || seg.y+d > p.d+hair ||
				slices.ContainsFunc(list, func(c choice) bool { return c.w == w && c.d == d }) {
				continue
			}
			score := (seg.w - w) / p.w
			if score < hair {
				score = -1
			}
			score -= w * d / (p.w * p.d)
			if p.shuffle != nil {
				score += p.shuffle.share() * 0.5
			}
			list = append(list, choice{i, w, d, score})
		}
	}
	slices.SortStableFunc(list, func(a, b choice) int {
		switch {
		case a.score < b.score:
			return -1
		case a.score > b.score:
			return 1
		}
		return 0
	})
	return list
}

// raise lifts the left part of a stretch of the skyline, and joins it with neighbours of its height.
func (p *packer) raise(k int, w, y float64) {
	seg := p.sky[k]
	rest := step{seg.x + w, seg.w - w, seg.y}
	p.sky[k] = step{seg.x, w, y}
	if rest.w > hair {
		p.sky = slices.Insert(p.sky, k+1, rest)
	} else {
		p.sky[k].w = seg.w
	}
	if k+1 < len(p.sky) && math.Abs(p.sky[k+1].y-p.sky[k].y) < hair {
		p.sky[k].w += p.sky[k+1].w
		p.sky = slices.Delete(p.sky, k+1, k+2)
	}
	if k > 0 && math.Abs(p.sky[k-1].y-p.sky[k].y) < hair {
		p.sky[k-1].w += p.sky[k].w
		p.sky = slices.Delete(p.sky, k, k+1)
	}
}

// chance is a row of numbers that look as if they came by chance, and are the same every time: splitmix64
// (Steele, Lea and Flood 2014).
type chance struct{ state uint64 }

func (c *chance) next() uint64 {
	c.state += 0x9e3779b97f4a7c15
	z := c.state
	z = (z ^ z>>30) * 0xbf58476d1ce4e5b9
	z = (z ^ z>>27) * 0x94d049bb133111eb
	return z ^ z>>31
}

// share is from 0 up to 1.
func (c *chance) share() float64 { return float64(c.next()>>11) / (1 << 53) }

// below is a whole number from 0 up to n.
func (c *chance) below(n int) int { return int(c.next() % uint64(n)) }
