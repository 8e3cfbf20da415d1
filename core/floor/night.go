package floor

import "envex/core/plan"

// Night is how the switches are used over a show.
type Night struct {
	Steps   []Step
	Presses map[plan.Key]int // by switch
}

// Step is a way of the foot from a switch, or from a box whose rocker it is on, to a switch.
type Step struct {
	From, To plan.Key
	Times    int
	Hurried  bool // there is hardly time for it
}

// hurriedWeight is what a step counts for that there is hardly time for.
const hurriedWeight = 1.5

// pace is the ways of the foot between pieces of a scene, ready to be added up.
type paces struct {
	foot plan.Footwork
	list []stride

	hurried []stride // pairs of switches that are pressed in a hurry, one after the other
	often   []stride // switches that are pressed often
	rockers []int
}

type stride struct {
	from, to     int // pieces
	fromSw, toSw int // their footswitches, -1 for a rocker
	width        float64
	weight       float64
}

func (s *Scene) paces() paces {
	out := paces{foot: s.Foot}
	type seat struct{ piece, sw int }
	at := map[plan.Key]seat{}
	for i := range s.Pieces {
		g := s.Pieces[i].Gear
		at[plan.Key(g.ID)] = seat{i, -1}
		for k := range g.Footswitches {
			at[plan.BlockKey(g.ID, g.Footswitches[k].ID)] = seat{i, k}
		}
	}
	for _, step := range s.Night.Steps {
		a, ok := at[step.From]
		b, ok2 := at[step.To]
		if !ok || !ok2 || b.sw < 0 {
			continue
		}
		x := stride{from: a.piece, fromSw: a.sw, to: b.piece, toSw: b.sw, width: s.Foot.Width, weight: float64(step.Times)}
		if w := s.Pieces[b.piece].Gear.Footswitches[b.sw].Width; w != nil {
			x.width = *w
		}
		if step.Hurried {
			x.weight *= hurriedWeight
		}
		out.list = append(out.list, x)
		if step.Hurried && a.piece != b.piece && a.sw >= 0 {
			out.hurried = append(out.hurried, x)
		}
	}
	for i := range s.Pieces {
		g := s.Pieces[i].Gear
		for k := range g.Footswitches {
			if s.Night.Presses[plan.BlockKey(g.ID, g.Footswitches[k].ID)] >= oftenPressed {
				out.often = append(out.often, stride{to: i, toSw: k})
			}
		}
		if s.rocker(i) {
			out.rockers = append(out.rockers, i)
		}
	}
	return out
}

// What a switch that is hard to get at counts for, in seconds of the night: so much that the foot's ways are not
// shortened at its cost.
const (
	cramped  = 4.0 // two switches pressed in a hurry that are in each other's way, or a rocker without room
	tooFar   = 2.0 // a switch pressed often that is out of reach
	farPerMM = 0.01
)

// discomfort is what the foot finds hard that takes it no longer.
func (p *paces) discomfort(s *Scene, spots []Spot) float64 {
	sum := 0.0
	for i := range p.hurried {
		x := &p.hurried[i]
		if d := distance(s.switchAt(x.from, x.fromSw, spots), s.switchAt(x.to, x.toSw, spots)); d < HurriedApart {
			sum += cramped * (1 + (HurriedApart-d)/HurriedApart)
		}
	}
	for i := range p.often {
		if s.Board == nil {
			break
		}
		if over := s.Board.Rect().Front() - s.switchAt(p.often[i].to, p.often[i].toSw, spots).y - nearReach; over > 0 {
			sum += tooFar + farPerMM*over
		}
	}
	for _, i := range p.rockers {
		r := s.Pieces[i].rect(spots[i])
		for k := range s.Pieces {
			o := s.Pieces[k].rect(spots[k])
			if gap := o.Y - r.Front(); k != i && gap > -hair && gap < rockerRoom-hair && o.X < r.Right()-hair &&
				r.X < o.Right()-hair {
				sum += cramped
			}
		}
	}
	return sum
}

// seconds is what the strides take together, each as often as it is made.
func (p *paces) seconds(s *Scene, spots []Spot) float64 {
	sum := 0.0
	for i := range p.list {
		sum += p.one(s, &p.list[i], spots)
	}
	return sum
}

func (p *paces) one(s *Scene, x *stride, spots []Spot) float64 {
	a, b := s.switchAt(x.from, x.fromSw, spots), s.switchAt(x.to, x.toSw, spots)
	return x.weight * MoveSeconds(p.foot, distance(a, b), x.width)
}

// switchAt is where a footswitch of a piece is; the middle of the box for a rocker.
func (s *Scene) switchAt(piece, sw int, spots []Spot) point {
	f := &s.Pieces[piece].forms[spots[piece].Rotation/90]
	at := point{f.w / 2, f.d / 2}
	if sw >= 0 {
		at = f.switches[sw]
	}
	return point{spots[piece].X + at.x, spots[piece].Y + at.y}
}
