package floor

import (
	"cmp"
	"math"
	"slices"

	"envex/core/plan"
)

// Scene is one board with what stands on it and hangs beneath it, and how it is used. With no board it is the
// bare floor.
type Scene struct {
	Board  *BoardAt
	Spec   plan.BoardSpec
	Pieces []Piece
	Leads  []Lead
	Night  Night
	Foot   plan.Footwork
	Limits plan.CarryLimits
}

// Piece is a box with the plugs that go into it.
type Piece struct {
	Gear  *plan.Gear
	Box   Box
	Plugs []Plug
	Need  float64 // how badly it is needed, where not everything finds a place

	forms [4]form
}

// Plug is a plug in a side of a box.
type Plug struct {
	Socket
	Is     plan.ID // the jack
	Jack   string  // what it goes into, in words
	Length float64 // how far it stands out, in mm
}

// PowerPlug is the plug that brings power to a box.
func PowerPlug(inlet Socket) Plug {
	return Plug{Socket: inlet, Jack: powerWord, Length: PlugLengths["power"]}
}

// Lead is a lead between two boxes of a scene, by piece and plug; a plug of -1 is in the middle of the box.
type Lead struct {
	From, FromPlug int
	To, ToPlug     int
	Count          int     // a stereo lead counts twice
	Made           float64 // the length of a made-up lead in mm, 0 for what is cut
	Level          string  // of the signal in it
	Name           string
}

// form is a piece turned one way, measured from its far left corner.
type form struct {
	w, d     float64
	plugs    []Rect      // where the place along the side is known
	known    []int       // the plug of each of these
	loose    []looseSide // where it is not
	sockets  []point     // by plug
	switches []point     // by footswitch
}

// looseSide is a side with plugs whose place along it is not known.
type looseSide struct {
	side   int
	length float64
	count  int
	plug   int // the first of them
}

type point struct{ x, y float64 }

// Prepare works out how the pieces look turned each way. It is to be called once after the scene is filled.
func (s *Scene) Prepare() {
	for i := range s.Pieces {
		p := &s.Pieces[i]
		for turn := range p.forms {
			p.forms[turn] = p.form(turn * 90)
		}
	}
}

func (p *Piece) form(degrees int) form {
	size := sizeOf(p.Gear)
	f := form{w: size.Width, d: size.Depth}
	if degrees%180 != 0 {
		f.w, f.d = f.d, f.w
	}
	for i, plug := range p.Plugs {
		x, y, side := plug.point(size, degrees)
		f.sockets = append(f.sockets, point{x, y})
		if !plug.Assumed {
			f.plugs = append(f.plugs, plugAt(x, y, side, plug.Length))
			f.known = append(f.known, i)
			continue
		}
		at := -1
		for k := range f.loose {
			if f.loose[k].side == side && f.loose[k].length == plug.Length {
				at = k
			}
		}
		if at < 0 {
			at = len(f.loose)
			f.loose = append(f.loose, looseSide{side: side, length: plug.Length, plug: i})
		}
		f.loose[at].count++
	}
	for i := range p.Gear.Footswitches {
		x, y := turned(p.Gear.Footswitches[i].X, p.Gear.Footswitches[i].Y, size, degrees)
		f.switches = append(f.switches, point{x, y})
	}
	return f
}

// Spot is where a piece stands: its far left corner on the floor, and how it is turned.
type Spot struct {
	X, Y     float64
	Rotation int
}

func (b Box) spot() Spot { return Spot{b.X, b.Y, b.Rotation} }

func (p *Piece) rect(at Spot) Rect {
	f := &p.forms[at.Rotation/90]
	return Rect{at.X, at.Y, f.w, f.d}
}

// moved is a rectangle measured from the corner of a piece, on the floor.
func (at Spot) moved(r Rect) Rect {
	r.X += at.X
	r.Y += at.Y
	return r
}

// spots are where all pieces stand.
func (s *Scene) spots() []Spot {
	list := make([]Spot, len(s.Pieces))
	for i := range s.Pieces {
		list[i] = s.Pieces[i].Box.spot()
	}
	return list
}

// room is where pieces of a scene may stand; nothing bounds the bare floor.
func (s *Scene) room() Rect {
	if s.Board == nil {
		return Rect{-1e6, -1e6, 2e6, 2e6}
	}
	return s.Board.Area
}

// sameLayer reports whether two pieces can be in each other's way.
func (s *Scene) sameLayer(i, k int) bool { return s.Pieces[i].Box.Under == s.Pieces[k].Box.Under }

// clash reports whether two pieces with their plugs are in each other's way, but for plugs whose place is not known.
func (s *Scene) clash(i int, a Spot, k int, b Spot) bool {
	if !s.sameLayer(i, k) {
		return false
	}
	p, q := &s.Pieces[i], &s.Pieces[k]
	ra, rb := p.rect(a), q.rect(b)
	if math.Abs(ra.X+ra.W/2-rb.X-rb.W/2) > (ra.W+rb.W)/2+80 || math.Abs(ra.Y+ra.D/2-rb.Y-rb.D/2) > (ra.D+rb.D)/2+80 {
		return false // two straight plugs do not reach that far
	}
	if ra.Meets(rb) {
		return true
	}
	fa, fb := &p.forms[a.Rotation/90], &q.forms[b.Rotation/90]
	for _, x := range fa.plugs {
		x = a.moved(x)
		if x.Meets(rb) {
			return true
		}
		for _, y := range fb.plugs {
			if x.Meets(b.moved(y)) {
				return true
			}
		}
	}
	for _, y := range fb.plugs {
		if b.moved(y).Meets(ra) {
			return true
		}
	}
	return false
}

// looseFit reports whether the plugs of a piece whose place is not known find room somewhere along their side.
func (s *Scene) looseFit(i int, spots []Spot, placed []bool) bool {
	f := &s.Pieces[i].forms[spots[i].Rotation/90]
	for _, l := range f.loose {
		if s.looseRoom(i, l, l.length, spots, placed) < l.count {
			return false
		}
	}
	return true
}

// looseRoom is how many plugs of a length find room along a side beside each other.
func (s *Scene) looseRoom(i int, l looseSide, length float64, spots []Spot, placed []bool) int {
	rect := s.Pieces[i].rect(spots[i])
	strip := stripAlong(rect, l.side, length)
	across := l.side == far || l.side == front
	from, to := rect.Y, rect.Front()
	if across {
		from, to = rect.X, rect.Right()
	}
	var blocked []span
	for k := range s.Pieces {
		if k == i || !s.sameLayer(i, k) || placed != nil && !placed[k] {
			continue
		}
		switch o := s.Pieces[k].rect(spots[k]); {
		case !o.Meets(strip):
		case across:
			blocked = append(blocked, span{o.X, o.Right()})
		default:
			blocked = append(blocked, span{o.Y, o.Front()})
		}
	}
	slices.SortFunc(blocked, func(a, b span) int { return cmp.Compare(a.from, b.from) })
	n := 0
	for _, b := range append(blocked, span{to, to}) {
		n += int(math.Max(0, b.from-from)/PlugWidth + hair)
		from = math.Max(from, b.to)
	}
	return n
}

type span struct{ from, to float64 }

// legal reports whether a piece at its spot is in nobody's way and within the board, among those that are placed.
func (s *Scene) legal(i int, spots []Spot, placed []bool) bool {
	if !s.Pieces[i].rect(spots[i]).Within(s.room()) {
		return false
	}
	for k := range s.Pieces {
		if k != i && (placed == nil || placed[k]) && s.clash(i, spots[i], k, spots[k]) {
			return false
		}
	}
	if !s.looseFit(i, spots, placed) {
		return false
	}
	r := s.Pieces[i].rect(spots[i])
	for k := range s.Pieces {
		if k == i || placed != nil && !placed[k] || !s.sameLayer(i, k) ||
			len(s.Pieces[k].forms[spots[k].Rotation/90].loose) == 0 {
			continue
		}
		o := s.Pieces[k].rect(spots[k])
		if w, d := r.shared(o); w > -45 && d > -45 && !s.looseFit(k, spots, placed) {
			return false
		}
	}
	return s.onSlats(i, spots[i])
}

// leastOnSlats is how much of the depth of a box must lie on slats for it to stand.
const leastOnSlats = 0.3

// onSlats reports whether a piece stands on what its board is made of: on two slats, or half of it on one.
func (s *Scene) onSlats(i int, at Spot) bool { return s.slatShare(i, at) >= leastOnSlats }

// slatShare is how much of the depth of a piece lies on slats: all of it on a solid board and off boards.
func (s *Scene) slatShare(i int, at Spot) float64 {
	if s.Board == nil || len(s.Spec.Slats) == 0 || s.Pieces[i].Box.Under {
		return 1
	}
	r := s.Pieces[i].rect(at)
	on := 0.0
	for _, slat := range s.Spec.Slats {
		_, d := r.shared(Rect{r.X, s.Board.Y + slat.Y, r.W, slat.Depth})
		on += math.Max(d, 0)
	}
	return on / r.D
}

// cable is the length of all leads of the scene in mm, plugs and slack apart.
func (s *Scene) cable(spots []Spot) float64 {
	sum := 0.0
	for _, l := range s.Leads {
		sum += s.run(l, spots) * float64(l.Count)
	}
	return sum
}

// run is the Manhattan run of one lead in mm.
func (s *Scene) run(l Lead, spots []Spot) float64 {
	a, b := s.socket(l.From, l.FromPlug, spots), s.socket(l.To, l.ToPlug, spots)
	return math.Abs(a.x-b.x) + math.Abs(a.y-b.y)
}

// Ends are where a lead is plugged in, as its pieces stand.
func (s *Scene) Ends(l Lead) (ax, ay, bx, by float64) {
	spots := s.spots()
	a, b := s.socket(l.From, l.FromPlug, spots), s.socket(l.To, l.ToPlug, spots)
	return a.x, a.y, b.x, b.y
}

// PlugRoom is the room that a plug of a piece takes as it stands.
func (s *Scene) PlugRoom(piece, plug int) Rect {
	p := &s.Pieces[piece]
	x, y, side := p.Plugs[plug].point(sizeOf(p.Gear), p.Box.Rotation)
	return plugAt(p.Box.X+x, p.Box.Y+y, side, p.Plugs[plug].Length)
}

func (s *Scene) socket(piece, plug int, spots []Spot) point {
	f := &s.Pieces[piece].forms[spots[piece].Rotation/90]
	at := point{f.w / 2, f.d / 2}
	if plug >= 0 {
		at = f.sockets[plug]
	}
	return point{spots[piece].X + at.x, spots[piece].Y + at.y}
}
