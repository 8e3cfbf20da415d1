package path

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"envex/core/plan"
)

// Way is the other way out of a finding that a school has to do with: to choose another side of it.
type Way struct {
	Question string `json:"question"`
	Side     string `json:"side"`
	Words    string `json:"words" doc:"What to choose, as a button says it."`
	Why      string `json:"why" doc:"What that does here."`
}

// waysOut are the sides of schools that are ways out of a preference. Where it follows from a side that is in
// force, another side of which it does not follow is one. Where it does not, but its first repair goes against
// a side in force, the player is told, and can choose that side's other as well: both ways are theirs.
func (j *judge) waysOut(f Finding) []Way {
	list := []Way{}
	if f.Gravity != Preference {
		return list
	}
	if f.School != "" {
		return j.otherSides(f)
	}
	if len(f.Repairs) == 0 {
		return list
	}
	after, _ := reading(j.plan, j.rig, j.dest, f.Repairs[0].Path, j.driven)
	was := j.against()
	for id, broken := range after.againstSchools() {
		if _, before := was[id]; before {
			continue
		}
		for _, w := range j.otherSides(broken) {
			w.Why = fmt.Sprintf(
				"%s goes against your side there: %s. Choose the other as well, or leave it.", f.Repairs[0].Words, broken.Reason,
			)
			if !slices.Contains(list, w) {
				list = append(list, w)
			}
		}
	}
	slices.SortFunc(list, func(a, b Way) int { return strings.Compare(a.Words, b.Words) })
	return list
}

// otherSides are the sides of a finding's school from which the finding does not follow.
func (j *judge) otherSides(f Finding) []Way {
	list := []Way{}
	in := sides(j.rig)
	stereo := carriesStereo(j.plan, j.path, j.dest)
	first, second := j.stopAt(f.Stops[0]), j.stopAt(f.Stops[1])
	if first == nil || second == nil {
		return list
	}
	for _, q := range Questions() {
		if q.ID != f.School {
			continue
		}
		for _, s := range q.Sides {
			if s.ID == in[q.ID] {
				continue
			}
			other := maps.Clone(in)
			other[q.ID] = s.ID
			follows := slices.ContainsFunc(
				between(rules(other, stereo), first, second), func(p preference) bool { return p.school == q.ID },
			)
			if !follows {
				list = append(
					list, Way{Question: q.ID, Side: s.ID, Words: fmt.Sprintf("Choose %s: %s", q.Name, s.Name), Why: s.Gains},
				)
			}
		}
	}
	return list
}

func (j *judge) stopAt(key plan.Key) *stop {
	for _, s := range j.stops {
		if s.key == key {
			return s
		}
	}
	return nil
}

// againstSchools are the pairs of stops that stand against a side in force, by a name of their own.
func (j *judge) againstSchools() map[string]Finding {
	list := map[string]Finding{}
	ofSides := slices.DeleteFunc(slices.Clone(j.rules), func(r rule) bool { return r.school == "" })
	j.present.pairs(func(earlier, later *stop) {
		for _, p := range between(ofSides, later, earlier) {
			list[findingID(p.rule, later, earlier)] = Finding{
				Stops: []plan.Key{later.key, earlier.key}, Reason: p.reason, School: p.school,
			}
		}
	})
	return list
}
