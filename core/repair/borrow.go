package repair

import (
	"fmt"
	"slices"

	"envex/core/path"
	"envex/core/plan"
	"envex/core/reason"
)

// borrows makes a sound that the rig has no recipe for: as the rig makes another that has every
// effect asked, or as another rig makes it with boxes that are here.
func (s *scene) borrows(sound plan.ID) []Edit {
	want, ok := s.here.FindSound(sound)
	if !ok {
		return nil
	}
	var list []Edit
	for i := range s.here.Rigs {
		other := &s.here.Rigs[i]
		for k := range other.Recipes {
			rec := &other.Recipes[k]
			own := other.ID == s.rig.ID
			if !s.meets(s.here, rec, want) || (rec.Sound != sound && (!own || len(want.Targets.Effects) == 0)) ||
				(own && rec.Sound == sound) {
				continue
			}
			if len(s.missing(rec)) > 0 {
				continue
			}
			words := fmt.Sprintf("Make %s as %s makes it", want.Name, other.Name)
			if own {
				words = fmt.Sprintf("Make %s as %s is made", want.Name, s.soundName(rec.Sound))
			}
			list = append(list, Edit{Kind: Borrow, Recipe: rec.ID, Sound: sound, Words: words})
		}
	}
	return list
}

// withOneBox makes a sound as another rig makes it, with one box put in that is missing here; what
// takes more is found by [Compare].
func (s *scene) withOneBox(sound plan.ID) [][]Edit {
	var list [][]Edit
	for i := range s.here.Rigs {
		other := &s.here.Rigs[i]
		if other.ID == s.rig.ID {
			continue
		}
		for k := range other.Recipes {
			rec := &other.Recipes[k]
			missing := s.missing(rec)
			if rec.Sound != sound || len(missing) != 1 {
				continue
			}
			add, err := s.insert(s.base, missing[0])
			if err != nil {
				continue // it finds no place in this chain
			}
			list = append(
				list,
				[]Edit{
					add,
					{
						Kind: Borrow, Recipe: rec.ID, Sound: sound,
						Words: fmt.Sprintf("make %s as %s makes it", s.soundName(sound), other.Name),
					},
				},
			)
		}
	}
	return list
}

// missing are the boxes that a recipe turns on and the chain does not have, and guitars it is
// played on that are not plugged in.
func (s *scene) missing(rec *plan.Recipe) []plan.ID {
	var list []plan.ID
	stops := s.rig.Stops()
	need := func(id plan.ID) {
		if !slices.Contains(list, id) {
			list = append(list, id)
		}
	}
	for _, key := range plan.SortedKeys(rec.Values) {
		g, ok := s.here.FindGear(key.Gear())
		if !ok || !rec.Values[key].IsOn() {
			continue
		}
		if !slices.ContainsFunc(stops, func(k plan.Key) bool { return k.Gear() == g.ID }) {
			need(g.ID)
		}
	}
	for _, k := range rec.Rockers {
		if !slices.Contains(stops, k) {
			need(k.Gear())
		}
	}
	return list
}

// insert is the edit that puts a box where the chain is best for it, by the preferences of order.
func (s *scene) insert(p *plan.Plan, gear plan.ID) (Edit, error) {
	g, err := p.GearByID(gear)
	if err != nil {
		return Edit{}, fmt.Errorf("%w", err)
	}
	placing, err := path.Place(s.ctx, p, s.site.Rig, s.site.Destination, gear, nil)
	if err != nil {
		return Edit{}, fmt.Errorf("repair: %w", err)
	}
	if len(placing.Places) == 0 {
		return Edit{}, reason.Errorf("there is no place in the chain for %s", g.Name)
	}
	return Edit{Kind: AddStop, Gear: gear, At: placing.Places[0].At, Words: "Add " + g.Name}, nil
}
