package switching

import (
	"context"
	"fmt"
	"maps"
	"slices"

	"envex/core/plan"
	"envex/core/reason"
)

// Seat is a slot of a bank, and what comes of moving a program there.
type Seat struct {
	Bank  string  `json:"bank"`
	Slot  string  `json:"slot"`
	Holds string  `json:"holds,omitempty" doc:"What stands there now; it takes the place of what is moved."`
	Reach Outcome `json:"reach"`
}

// Exchanged is a rig with the programs of two slots of a controller exchanged; either may be empty,
// not both. It fails when the controller holds no program in either.
func Exchanged(r *plan.Rig, controller plan.ID, a, b Seat) (*plan.Rig, error) {
	own := r.Programs[controller]
	x, okX := own[a.Bank][a.Slot]
	y, okY := own[b.Bank][b.Slot]
	if !okX && !okY {
		return nil, reason.Errorf(
			"there is no program in bank %s slot %s, nor in bank %s slot %s", a.Bank, a.Slot, b.Bank, b.Slot,
		)
	}
	banks := map[string]map[string]plan.Program{}
	for name, slots := range own {
		banks[name] = maps.Clone(slots)
	}
	put := func(s Seat, program plan.Program, there bool) {
		if banks[s.Bank] == nil {
			banks[s.Bank] = map[string]plan.Program{}
		}
		delete(banks[s.Bank], s.Slot)
		if there {
			banks[s.Bank][s.Slot] = program
		}
	}
	put(a, y, okY)
	put(b, x, okX)
	for name, slots := range banks {
		if len(slots) == 0 {
			delete(banks, name)
		}
	}
	out := *r
	out.Programs = maps.Clone(r.Programs)
	out.Programs[controller] = banks
	return &out, nil
}

// Seats says, for every slot a program of a controller could be moved to, what the show would
// reach. The first is where it stands. It fails when there is no such program, and with the
// context's error when that is cancelled.
func Seats(
	ctx context.Context, p *plan.Plan, rig, setList, controller plan.ID, from Seat, progress func(float64),
) ([]Seat, error) {
	r, err := p.RigByID(rig)
	if err != nil {
		return nil, fmt.Errorf("switching: %w", err)
	}
	own := r.Programs[controller]
	if _, ok := own[from.Bank][from.Slot]; !ok {
		return nil, reason.Errorf("there is no program in bank %s slot %s", from.Bank, from.Slot)
	}
	g, slots, _, err := controllerOf(p, r, controller)
	if err != nil {
		return nil, err
	}
	names := map[string]bool{}
	for _, s := range slots {
		names[s.slot] = true
	}
	for _, bank := range own {
		for slot := range bank {
			names[slot] = true
		}
	}
	order := plan.SortedKeys(names)
	slices.SortStableFunc(order, plan.CompareSlots)
	banks := plan.SortedKeys(own)
	slices.SortStableFunc(banks, plan.CompareSlots)
	seats := []Seat{{Bank: from.Bank, Slot: from.Slot}}
	for _, bank := range banks {
		for _, slot := range order {
			if bank != from.Bank || slot != from.Slot {
				seats = append(seats, Seat{Bank: bank, Slot: slot})
			}
		}
	}
	for i := range seats {
		if err := ctx.Err(); err != nil {
			return nil, fmt.Errorf("switching: %w", err)
		}
		q := *p
		if i > 0 {
			moved, err := Exchanged(r, g.ID, from, seats[i])
			if err != nil {
				return nil, err
			}
			q.Put(*moved)
		}
		seats[i].Holds = own[seats[i].Bank][seats[i].Slot].Label
		if seats[i].Reach, err = outcome(&q, rig, setList); err != nil {
			return nil, err
		}
		if progress != nil {
			progress(float64(i+1) / float64(len(seats)))
		}
	}
	return seats, nil
}
