package reach

import (
	"strings"

	"envex/core/plan"
)

// guitarAt is the key under which it is said how a guitar stands that is not in hand.
func guitarAt(id plan.ID) plan.Key { return GuitarKey + " " + plan.Key(id) }

// putAway is how guitars stand that are not in hand, of all that is said of how a rig stands.
func putAway(stands map[plan.Key]plan.Value) map[plan.ID]plan.InHand {
	list := map[plan.ID]plan.InHand{}
	for key, v := range stands {
		if id, ok := strings.CutPrefix(string(key), string(guitarAt(""))); ok {
			list[plan.ID(id)] = plan.InHandOf(v)
		}
	}
	return list
}

// layGuitars finds for every part how its guitar was when it was put away: as it was played last, before the start too,
// or set up for the part where it was not played before.
func (s *settings) layGuitars(parts []*part, from Start) {
	s.guitars = map[int]plan.InHand{}
	last := putAway(from.Stands)
	for _, x := range parts {
		h := x.song.InHand(x.guitar)
		was, played := last[x.guitar]
		if !played {
			was = h
		}
		s.guitars[x.position] = was
		last[x.guitar] = h
	}
}

// guitarsAfter are the guitars as they stand after a part, by the keys that a start names them with.
func (s *settings) guitarsAfter(parts []*part, from Start, part int) map[plan.Key]plan.Value {
	out := map[plan.Key]plan.Value{}
	for key, v := range from.Stands {
		if strings.HasPrefix(string(key), string(guitarAt(""))) {
			out[key] = v
		}
	}
	for _, x := range parts[:part+1] {
		if x.guitar != "" {
			out[guitarAt(x.guitar)] = x.song.InHand(x.guitar).Value()
		}
	}
	return out
}

// takenUp is what it takes, in seconds and in words, to have a guitar in hand after another, or the same one tuned
// otherwise, at the change into a part.
func (s *settings) takenUp(from, to plan.Value, into *part) (seconds float64, words string) {
	a, b := plan.InHandOf(from), plan.InHandOf(to)
	stood, known := s.guitars[into.position]
	if !known || stood.Guitar != b.Guitar {
		stood = b
	}
	return s.rig.TakenUp(a, b, stood, s.gearName)
}

// tunedOtherwise reports whether a song has a tuning or a capo of its own.
func tunedOtherwise(p *plan.Plan) bool {
	for i := range p.Songs {
		if p.Songs[i].InHand("") != (plan.InHand{}) {
			return true
		}
	}
	return false
}
