package play

import (
	"math"

	"envex/core/plan"
)

// moves is what hands move at one moment.
type moves struct {
	at     float64
	values map[plan.Key]plan.Value
}

// turn lets a hand move a control, to where the change nearest in time has it.
func (g *judging) turn(m *machine, x Press) []Event {
	near, to := math.Inf(1), plan.Value{}
	for _, sec := range g.script.Sections {
		v, ok := sec.moved[x.Hand]
		if away := math.Max(math.Max(sec.FromS-x.AtS, x.AtS-sec.UntilS), 0); ok && away < near {
			near, to = away, v
		}
	}
	if math.IsInf(near, 1) {
		return []Event{{AtS: x.AtS, Kind: "nothing", Words: "No change of this song has a hand move that."}}
	}
	return m.move(x, x.Hand, to)
}

// hands are what hands move at the changes of the song. They are taken to be in time, unless they are judged.
func (g *judging) hands() []moves {
	var list []moves
	if g.handsToo {
		return nil
	}
	for _, x := range g.script.Sections {
		if len(x.moved) > 0 {
			list = append(list, moves{math.Min(x.AtS, x.UntilS), x.moved})
		}
	}
	return list
}

// byHand moves what hands move up to a moment.
func (g *judging) byHand(m *machine, states []state, hands []moves, until float64) ([]state, []moves) {
	for len(hands) > 0 && hands[0].at <= until {
		for key, v := range hands[0].values {
			if _, there := m.values[key]; there {
				m.values[key] = v
			}
		}
		states = append(states, state{hands[0].at, copied(m.values)})
		hands = hands[1:]
	}
	return states, hands
}

func copied(values map[plan.Key]plan.Value) map[plan.Key]plan.Value {
	out := make(map[plan.Key]plan.Value, len(values))
	for k, v := range values {
		out[k] = v
	}
	return out
}
