package floor

import (
	"fmt"
	"math"
	"slices"

	"envex/core/plan"
)

// Hard reports whether things cannot stand so at all, whatever the foot makes of it.
func (f Finding) Hard() bool {
	switch f.Rule {
	case "overlap", "overhang", "plug", "power_plug", "plugs_meet", "lid", "beneath", "slats", "lead_short":
		return true
	}
	return false
}

// Stands reports whether everything can stand as it does.
func (s *Scene) Stands() bool {
	return !slices.ContainsFunc(s.check(s.spots()), Finding.Hard)
}

// ClosestHurried is how far apart the two switches closest together are that are pressed one after the other in a
// hurry, in mm.
func (s *Scene) ClosestHurried() (float64, bool) {
	spots, paces := s.spots(), s.paces()
	closest, found := math.Inf(1), false
	for _, x := range paces.hurried {
		closest, found = math.Min(
			closest, distance(s.switchAt(x.from, x.fromSw, spots), s.switchAt(x.to, x.toSw, spots)),
		), true
	}
	return math.Round(closest), found
}

// Limits of a board that a foot can work, in mm.
const (
	HurriedApart = 70.0  // between the centres of switches pressed in a hurry
	behindRoom   = 50.0  // from a switch to something taller in front of it
	tallerBy     = 15.0  // than the box of the switch, to be in the foot's way
	rockerRoom   = 50.0  // in front of a rocker, for the heel
	nearReach    = 280.0 // from the near edge of the board to a switch that is pressed often
	oftenPressed = 8     // times a night
	plugCutMM    = 20.0  // of a lead in each plug
)

// Finding is something about a board that is not as it should be.
type Finding struct {
	Rule  string    `json:"rule" enum:"overlap,overhang,plug,power_plug,plugs_meet,switch_behind,switches_close,lid,beneath,slats,too_heavy,too_large,lead_short,rocker,far"`
	Gear  []plan.ID `json:"gear" doc:"What it is about, what is best moved first."`
	Words string    `json:"words"`
	Value float64   `json:"value" doc:"What there is, in mm or g."`
	Limit float64   `json:"limit" doc:"What there ought to be."`

	Edit  string           `json:"edit,omitempty" doc:"What would mend it, in words."`
	Moves map[plan.ID]Spot `json:"-"`

	pieces []int
}

// Findings lists what is wrong with how the pieces stand, with a move that mends it where one does: the shortest
// of one piece along an edge that mends it and spoils nothing else.
func (s *Scene) Findings() []Finding {
	spots := s.spots()
	list := s.check(spots)
	for i := range list {
		s.mend(&list[i], spots, len(list))
	}
	return list
}

func (s *Scene) check(spots []Spot) []Finding {
	list := []Finding{}
	add := func(rule string, value, limit float64, pieces []int, words string, args ...any) {
		f := Finding{
			Rule: rule, Value: round1(value), Limit: round1(limit), Words: fmt.Sprintf(words, args...), pieces: pieces,
			Gear: []plan.ID{},
		}
		for _, i := range pieces {
			f.Gear = append(f.Gear, s.Pieces[i].Gear.ID)
		}
		list = append(list, f)
	}
	for i := range s.Pieces {
		for k := i + 1; k < len(s.Pieces); k++ {
			s.pair(i, k, spots, add)
		}
		s.alone(i, spots, add)
		s.plugs(i, spots, add)
	}
	s.switches(spots, add)
	for _, l := range s.Leads {
		need := (s.run(l, spots) + 2*plugCutMM) * 1.1
		if l.Made > 0 && l.Made < need-hair {
			add(
				"lead_short", l.Made, need, []int{l.From, l.To},
				"%s is too short: it is %.0f mm long, and the run with its plugs and slack takes %.0f.", l.Name, l.Made,
				math.Ceil(need-hair),
			)
		}
	}
	return list
}

type adder func(rule string, value, limit float64, pieces []int, words string, args ...any)

func (s *Scene) name(i int) string { return s.Pieces[i].Gear.Name }

// pair finds boxes that stand on each other, and plugs that meet.
func (s *Scene) pair(i, k int, spots []Spot, add adder) {
	if !s.sameLayer(i, k) {
		return
	}
	a, b := s.Pieces[i].rect(spots[i]), s.Pieces[k].rect(spots[k])
	if a.Meets(b) {
		w, d := a.shared(b)
		add(
			"overlap", math.Min(w, d), 0, []int{i, k}, "%s and %s stand on each other by %.0f mm.", s.name(i), s.name(k),
			math.Ceil(math.Min(w, d)-hair),
		)
		return
	}
	fa, fb := &s.Pieces[i].forms[spots[i].Rotation/90], &s.Pieces[k].forms[spots[k].Rotation/90]
	for x, p := range fa.plugs {
		for y, q := range fb.plugs {
			pa, pb := spots[i].moved(p), spots[k].moved(q)
			if pa.Meets(pb) && !pa.Meets(b) && !pb.Meets(a) {
				w, d := pa.shared(pb)
				add("plugs_meet", math.Min(w, d), 0, []int{i, k},
					"The plugs at %s of %s and at %s of %s are in one place: %.0f mm of one are in the other.",
					s.Pieces[i].Plugs[fa.known[x]].Jack, s.name(i), s.Pieces[k].Plugs[fb.known[y]].Jack, s.name(k),
					math.Ceil(math.Min(w, d)-hair))
			}
		}
	}
}

// alone finds what is wrong with a box wherever others stand.
func (s *Scene) alone(i int, spots []Spot, add adder) {
	if s.Board == nil {
		return
	}
	p := &s.Pieces[i]
	r, room := p.rect(spots[i]), s.room()
	if !r.Within(room) {
		over := math.Max(math.Max(room.X-r.X, r.Right()-room.Right()), math.Max(room.Y-r.Y, r.Front()-room.Front()))
		add(
			"overhang", over, 0, []int{i}, "%s stands %.0f mm over the edge of %s.", s.name(i), math.Ceil(over-hair),
			s.Board.Name,
		)
	} else if share := s.slatShare(i, spots[i]); share < leastOnSlats {
		add(
			"slats", share*r.D, leastOnSlats*r.D, []int{i}, "%s stands in a gap: %.0f of its %.0f mm are on slats.", s.name(i),
			share*r.D, r.D,
		)
	}
	height := heightOf(p.Gear)
	switch {
	case height == nil:
	case p.Box.Under && s.Spec.Beneath != nil && *height > *s.Spec.Beneath:
		add(
			"beneath", *s.Spec.Beneath, *height, []int{i}, "%s does not fit beneath %s: it is %.0f mm high, and there are %.0f.",
			s.name(i), s.Board.Name, *height, *s.Spec.Beneath,
		)
	case !p.Box.Under && s.Spec.Lid != nil && *height > *s.Spec.Lid:
		add(
			"lid", *s.Spec.Lid, *height, []int{i},
			"The lid of %s does not close over %s: it is %.0f mm high, and there are %.0f.", s.Board.Name, s.name(i), *height,
			*s.Spec.Lid,
		)
	}
}

func heightOf(g *plan.Gear) *float64 {
	if g.FloorUnit != nil {
		return g.FloorUnit.Height
	}
	if g.Size == nil {
		return nil
	}
	return g.Size.Height
}

// plugs finds plugs of a box that have no room.
func (s *Scene) plugs(i int, spots []Spot, add adder) {
	p := &s.Pieces[i]
	f := &p.forms[spots[i].Rotation/90]
	rule := func(plug int) string {
		if p.Plugs[plug].Jack == powerWord {
			return "power_plug"
		}
		return "plug"
	}
	for k, r := range f.plugs {
		plug := f.known[k]
		_, _, side := p.Plugs[plug].point(sizeOf(p.Gear), spots[i].Rotation)
		free, by := s.clear(i, spots[i].moved(r), side, spots)
		if by >= 0 {
			add(rule(plug), free, p.Plugs[plug].Length, []int{i, by},
				"The plug at %s of %s has no room: it needs %.0f mm, and %s leaves %.0f.",
				p.Plugs[plug].Jack, s.name(i), p.Plugs[plug].Length, s.name(by), math.Floor(free+hair))
		}
	}
	for _, l := range f.loose {
		if s.looseRoom(i, l, l.length, spots, nil) >= l.count {
			continue
		}
		strip := stripAlong(p.rect(spots[i]), l.side, l.length)
		free, by := l.length, -1
		for k := range s.Pieces {
			if k != i && s.sameLayer(i, k) && s.Pieces[k].rect(spots[k]).Meets(strip) {
				if gap := between(p.rect(spots[i]), s.Pieces[k].rect(spots[k]), l.side); by < 0 || gap < free {
					free, by = gap, k
				}
			}
		}
		if by >= 0 {
			add(rule(l.plug), math.Max(free, 0), l.length, []int{i, by},
				"The plug at %s of %s has no room anywhere along its side: it needs %.0f mm, and %s leaves %.0f.",
				p.Plugs[l.plug].Jack, s.name(i), l.length, s.name(by), math.Max(0, math.Floor(free+hair)))
		}
	}
}

// powerWord is what a power inlet is called.
const powerWord = "the power inlet"

// clear is how far a plug can stand out of a side before it meets a box, and which; -1 where it has all its room.
func (s *Scene) clear(i int, plug Rect, side int, spots []Spot) (float64, int) {
	free, by := math.Inf(1), -1
	for k := range s.Pieces {
		if k == i || !s.sameLayer(i, k) {
			continue
		}
		if o := s.Pieces[k].rect(spots[k]); plug.Meets(o) {
			if gap := between(s.Pieces[i].rect(spots[i]), o, side); gap < free {
				free, by = math.Max(gap, 0), k
			}
		}
	}
	return free, by
}

// between is the gap on a side of a box to another.
func between(a, b Rect, side int) float64 {
	switch side {
	case far:
		return a.Y - b.Front()
	case right:
		return b.X - a.Right()
	case front:
		return b.Y - a.Front()
	}
	return a.X - b.Right()
}

// switches finds switches and rockers that the foot cannot get at.
func (s *Scene) switches(spots []Spot, add adder) {
	hurried := map[[2]plan.Key]bool{}
	for _, step := range s.Night.Steps {
		if step.Hurried {
			hurried[[2]plan.Key{step.From, step.To}], hurried[[2]plan.Key{step.To, step.From}] = true, true
		}
	}
	for i := range s.Pieces {
		p := &s.Pieces[i]
		if p.Box.Under || p.Box.Off {
			continue
		}
		for x := range p.Gear.Footswitches {
			key := plan.BlockKey(p.Gear.ID, p.Gear.Footswitches[x].ID)
			at := s.switchAt(i, x, spots)
			pressed := s.Night.Presses[key]
			if pressed == 0 {
				continue
			}
			s.inFront(i, at, spots, add)
			if s.Board != nil && pressed >= oftenPressed && s.Board.Rect().Front()-at.y > nearReach {
				add("far", s.Board.Rect().Front()-at.y, nearReach, []int{i},
					"%s is pressed %d times a night and stands %.0f mm from the near edge; %.0f are in reach without stepping over.",
					s.name(i), pressed, s.Board.Rect().Front()-at.y, nearReach)
			}
			for k := i + 1; k < len(s.Pieces); k++ {
				for y := range s.Pieces[k].Gear.Footswitches {
					other := plan.BlockKey(s.Pieces[k].Gear.ID, s.Pieces[k].Gear.Footswitches[y].ID)
					if d := distance(at, s.switchAt(k, y, spots)); hurried[[2]plan.Key{key, other}] && d < HurriedApart-hair &&
						!s.Pieces[k].Box.Under {
						add(
							"switches_close", d, HurriedApart, []int{k, i},
							"The switches of %s and %s are %.0f mm apart and pressed in a hurry; %.0f are comfortable.", s.name(i),
							s.name(k), d, HurriedApart,
						)
					}
				}
			}
		}
		if s.rocker(i) {
			r := p.rect(spots[i])
			for k := range s.Pieces {
				o := s.Pieces[k].rect(spots[k])
				if gap := o.Y - r.Front(); k != i && s.sameLayer(i, k) && gap > -hair && gap < rockerRoom-hair &&
					o.X < r.Right()-hair && r.X < o.Right()-hair {
					add(
						"rocker", gap, rockerRoom, []int{i, k},
						"The foot has no room on %s: its heel needs %.0f mm in front of it, and %s leaves %.0f.", s.name(i), rockerRoom,
						s.name(k), math.Floor(gap+hair),
					)
				}
			}
		}
	}
}

func (s *Scene) rocker(i int) bool { return hasRocker(s.Pieces[i].Gear) }

// inFront finds a taller box so close in front of a switch that the foot comes down on it.
func (s *Scene) inFront(i int, at point, spots []Spot, add adder) {
	own := heightOf(s.Pieces[i].Gear)
	if own == nil {
		return
	}
	slope := 0.0
	if s.Spec.SlopeDeg != nil {
		slope = math.Tan(*s.Spec.SlopeDeg * math.Pi / 180)
	}
	for k := range s.Pieces {
		h := heightOf(s.Pieces[k].Gear)
		if k == i || h == nil || !s.sameLayer(i, k) {
			continue
		}
		o := s.Pieces[k].rect(spots[k])
		gap := o.Y - at.y
		if gap < 0 || gap >= behindRoom || at.x < o.X-s.Foot.Width/2 || at.x > o.Right()+s.Foot.Width/2 {
			continue
		}
		if taller := *h - *own - slope*gap; taller > tallerBy {
			add(
				"switch_behind", gap, behindRoom, []int{i, k},
				"The switch of %s is %.0f mm behind %s, which is %.0f mm taller; the foot needs %.0f.", s.name(i), gap, s.name(k),
				taller, behindRoom,
			)
		}
	}
}

func round1(x float64) float64 { return math.Round(x*10) / 10 }

// maxShift is how far a box is moved to mend a finding, in mm.
const maxShift = 300

// mend looks for the shortest move of one piece of a finding along an edge that mends all there is about that piece,
// or at least the finding, and makes no other.
func (s *Scene) mend(f *Finding, spots []Spot, now int) {
	for _, whole := range []bool{true, false} {
		for by := 1; by <= maxShift; by = further(by) {
			for _, i := range f.pieces {
				if !s.Pieces[i].Box.Pinned && s.shift(f, i, by, spots, now, whole) {
					return
				}
			}
		}
	}
}

// shift tries to mend a finding by a move of one piece so far to each side.
func (s *Scene) shift(f *Finding, i, by int, spots []Spot, now int, whole bool) bool {
	was := spots[i]
	defer func() { spots[i] = was }()
	for _, to := range []struct {
		x, y  int
		words string
	}{{-by, 0, "left"}, {by, 0, "right"}, {0, by, "towards you"}, {0, -by, "away from you"}} {
		spots[i] = Spot{was.X + float64(to.x), was.Y + float64(to.y), was.Rotation}
		if s.mends(f, i, spots, now, whole) {
			f.Edit = fmt.Sprintf("Move %s %d mm %s", s.name(i), by, to.words)
			f.Moves = map[plan.ID]Spot{s.Pieces[i].Gear.ID: spots[i]}
			return true
		}
	}
	return false
}

// further is the next distance to try: every millimetre close by, then coarser.
func further(by int) int {
	if by < 60 {
		return by + 1
	}
	return by + 5
}

func (s *Scene) mends(f *Finding, i int, spots []Spot, now int, whole bool) bool {
	list := s.check(spots)
	if len(list) >= now {
		return false
	}
	for _, x := range list {
		if whole && slices.Contains(x.pieces, i) || x.Rule == f.Rule && slices.Equal(x.Gear, f.Gear) {
			return false
		}
	}
	return true
}

// Aside finds a box on the bare floor that stands where a board is, and the shortest way off it.
func Aside(box Box, board BoardAt) (Finding, bool) {
	b, r := box.Rect(), board.Rect()
	if !b.Meets(r) {
		return Finding{}, false
	}
	w, d := b.shared(r)
	f := Finding{Rule: "overlap", Gear: []plan.ID{box.Gear, board.Board}, Value: round1(math.Min(w, d)),
		Words: fmt.Sprintf("%s stands on the bare floor where %s is.", box.Name, board.Name)}
	if box.Pinned {
		return f, true
	}
	ways := []struct {
		x, y  float64
		words string
	}{
		{r.X - b.Right(), 0, "left"}, {r.Right() - b.X, 0, "right"}, {0, r.Front() - b.Y, "towards you"},
		{0, r.Y - b.Front(), "away from you"},
	}
	best := ways[0]
	for _, way := range ways[1:] {
		if math.Abs(way.x+way.y) < math.Abs(best.x+best.y) {
			best = way
		}
	}
	f.Edit = fmt.Sprintf("Move %s %.0f mm %s", box.Name, math.Ceil(math.Abs(best.x+best.y)-hair), best.words)
	away := func(by float64) float64 { return math.Copysign(math.Ceil(math.Abs(by)-hair), by) }
	f.Moves = map[plan.ID]Spot{box.Gear: {box.X + away(best.x), box.Y + away(best.y), box.Rotation}}
	return f, true
}
