package beside

import (
	"fmt"
	"math"

	"envex/core/plan"
	"envex/core/reason"
)

// Asked is in which ways a set is to stand side by side: each of them adds columns.
type Asked struct {
	Slot     *plan.Swap // every box of it
	Into     []plan.ID  // destinations; "" for the rig as it stands
	TempoPct []float64
}

// Ways are the ways that are asked for, named, after the one there is: the rig at a destination, or as it stands when
// that is "". It fails where nothing is asked, or a destination is not there.
func Ways(p *plan.Plan, r *plan.Rig, here plan.ID, a Asked) ([]Way, error) {
	name, err := placeName(r, here)
	if err != nil {
		return nil, err
	}
	list := []Way{{Name: name, Destination: here}}
	if a.Slot != nil {
		there := r.InSlot(a.Slot)
		if g, ok := p.FindGear(there); ok {
			list[0].Name = g.Name
			list[0].Picks = []plan.Pick{{Swap: a.Slot.ID, Gear: there}}
		}
		for _, b := range a.Slot.Boxes {
			if g, ok := p.FindGear(b.Gear); ok && b.Gear != there {
				list = append(list, Way{
					Name: g.Name, Destination: here, Picks: []plan.Pick{{Swap: a.Slot.ID, Gear: b.Gear}},
				})
			}
		}
	}
	for _, id := range a.Into {
		if id == here {
			continue
		}
		name, err := placeName(r, id)
		if err != nil {
			return nil, err
		}
		list = append(list, Way{Name: name, Destination: id})
	}
	for _, pct := range a.TempoPct {
		if math.Abs(pct) > MostTempo {
			return nil, tooFar()
		}
		word := "faster"
		if pct < 0 {
			word = "slower"
		}
		if pct != 0 {
			list = append(
				list,
				Way{Name: fmt.Sprintf("%g %% %s", max(pct, -pct), word), Destination: here, TempoPct: pct},
			)
		}
	}
	if len(list) > MostWays {
		return nil, tooMany()
	}
	if len(list) < 2 {
		return nil, reason.Errorf("nothing stands beside %s: name a swap slot, a destination or a tempo", list[0].Name)
	}
	return list, nil
}

func placeName(r *plan.Rig, id plan.ID) (string, error) {
	if id == "" {
		return "As it stands", nil
	}
	d, ok := r.FindDestination(id)
	if !ok {
		return "", reason.Errorf("%s has no destination %q", r.Name, id)
	}
	return d.Name, nil
}
