package plan

import (
	"fmt"
	"slices"

	"envex/core/reason"
)

// Picked is a rig with another box of a slot in the chain. What the rig says of the one that stood there is kept with
// the slot, and what was kept of the other stands in the rig: putting the first back gives the rig that there was. A
// box that never stood there, and recipes made since, have it on where the other is on, its controls where those of the
// same name stand, by a preset or not. It takes over the place on the floor, and what feeds the other where nothing is
// kept. The plan and the rig are not changed. It fails where there is no such slot or box, and where the box has too
// few blocks.
func (p *Plan) Picked(r *Rig, swap, gear ID) (Rig, error) {
	s, ok := r.FindSwap(swap)
	if !ok {
		return Rig{}, reason.Errorf("%s has no swap slot %q", r.Name, swap)
	}
	box, ok := s.Box(gear)
	if !ok {
		return Rig{}, reason.Errorf("%q is no box of the slot %s", gear, s.Name)
	}
	there := r.InSlot(s)
	if there == gear {
		return *r, nil
	}
	if err := p.CanShareSlot(r, there, gear); err != nil {
		return Rig{}, err
	}
	was, _ := p.FindGear(there)
	is, _ := p.FindGear(gear)
	x := &standingIn{was: was, is: is, blocks: map[Key]Key{}, any: true}
	x.match(r)
	asked, presets := r, r.Presets
	if box.Kept == nil {
		if len(r.Presets[gear]) == 0 { // it holds nothing of its own yet
			x.option = x.options(r)
			presets = x.presets(r, r.Presets)
		}
		asked = x.asked(p, r)
	}
	next := x.rig(asked)
	next.Presets, next.Snapshots, next.PresetNames, next.Levels = presets, r.Snapshots, r.PresetNames, r.Levels
	if box.Kept != nil {
		next = next.saying(gear, box.Kept)
	}
	next.Swaps = slices.Clone(r.Swaps)
	for i := range next.Swaps {
		t := &next.Swaps[i]
		if t.ID != swap {
			continue
		}
		t.Boxes = slices.Clone(t.Boxes)
		for j := range t.Boxes {
			switch t.Boxes[j].Gear {
			case there:
				t.Boxes[j].Kept = r.about(there)
			case gear:
				t.Boxes[j].Kept = nil
			}
		}
	}
	return next, nil
}

// WithPicks is the plan with boxes of a rig's slots picked, each as [Plan.Picked] does. The plan is not changed.
func (p *Plan) WithPicks(rig ID, picks []Pick) (*Plan, error) {
	q := *p
	for _, x := range picks {
		r, err := q.RigByID(rig)
		if err != nil {
			return nil, fmt.Errorf("plan: %w", err)
		}
		next, err := q.Picked(r, x.Swap, x.Gear)
		if err != nil {
			return nil, err
		}
		q.Put(next)
	}
	return &q, nil
}

// AtShow is the plan as a show finds its rig: with the boxes that the show picks, before any destination.
func (p *Plan) AtShow(s *Show) (*Plan, error) {
	if len(s.Picks) == 0 {
		return p, nil
	}
	return p.WithPicks(s.Rig, s.Picks)
}
