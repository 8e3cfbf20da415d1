package plan

import (
	"slices"

	"envex/core/reason"
)

// Swap is a place in the chain where one of several boxes stands: a swap slot. The one that is in the chain is the one
// that everything is worked out for; what the rig says of the others is kept with them.
type Swap struct {
	ID    ID        `json:"id"`
	Name  string    `json:"name"`
	Boxes []SwapBox `json:"boxes" maxItems:"12" doc:"One of them is in the chain."`
}

// SwapBox is a box that can stand in a slot.
type SwapBox struct {
	Gear  ID       `json:"gear"`
	Songs []ID     `json:"songs,omitempty" doc:"Songs that are played with it, whichever stands there else: it is put there by hand before them."`
	Kept  *KeptBox `json:"kept,omitempty" doc:"What the rig says of it, while another stands there."`
}

// Pick is which box stands in a slot.
type Pick struct {
	Swap ID `json:"swap"`
	Gear ID `json:"gear"`
}

// FindSwap looks a swap slot up by id.
func (r *Rig) FindSwap(id ID) (*Swap, bool) {
	i := slices.IndexFunc(r.Swaps, func(s Swap) bool { return s.ID == id })
	if i < 0 {
		return nil, false
	}
	return &r.Swaps[i], true
}

// Box is a box of a slot.
func (s *Swap) Box(gear ID) (*SwapBox, bool) {
	i := slices.IndexFunc(s.Boxes, func(b SwapBox) bool { return b.Gear == gear })
	if i < 0 {
		return nil, false
	}
	return &s.Boxes[i], true
}

// InSlot is the box of a slot that stands in the chain; "" where none does.
func (r *Rig) InSlot(s *Swap) ID {
	for _, key := range r.allStops() {
		if _, ok := s.Box(key.Gear()); ok {
			return key.Gear()
		}
	}
	return ""
}

// PlayedWith is a rig on which a song is played with a box of a swap slot, whichever stands there else. The rig is not
// changed. It fails where there is no such slot or box.
func (r *Rig) PlayedWith(swap, gear, song ID) (Rig, error) {
	next := *r
	next.Swaps = slices.Clone(r.Swaps)
	s, ok := next.FindSwap(swap)
	if !ok {
		return Rig{}, reason.Errorf("%s has no swap slot %q", r.Name, swap)
	}
	if _, ok := s.Box(gear); !ok {
		return Rig{}, reason.Errorf("%q is no box of the slot %s", gear, s.Name)
	}
	s.Boxes = slices.Clone(s.Boxes)
	for i := range s.Boxes {
		b := &s.Boxes[i]
		_, b.Songs = parted(b.Songs, func(id ID) bool { return id == song })
		if b.Gear == gear {
			b.Songs = append(b.Songs, song)
		}
	}
	return next, nil
}

// allStops are the stops of the chain, then those of the chains that destinations have of their own.
func (r *Rig) allStops() []Key {
	stops := r.Stops()
	for _, d := range r.Destinations {
		stops = append(stops, StopsIn(d.Path)...)
	}
	return stops
}

// CanShareSlot says why a box cannot stand in a slot where another does, as an error that has a reason; nil where it can.
// Each block that is in the chain needs one of the other box to stand for it, of whatever effect.
func (p *Plan) CanShareSlot(r *Rig, there, other ID) error {
	a, err := p.GearByID(there)
	if err != nil {
		return err
	}
	b, err := p.GearByID(other)
	if err != nil {
		return err
	}
	for _, g := range []*Gear{a, b} {
		if g.Kind != Pedal {
			return reason.Errorf("%s is not a pedal: other amps are destinations of the rig", g.Name)
		}
	}
	stops := r.allStops()
	in := func(id ID) bool { return slices.ContainsFunc(stops, func(k Key) bool { return k.Gear() == id }) }
	switch {
	case !in(there):
		return reason.Errorf("%s is not in the chain of %s", a.Name, r.Name)
	case in(other):
		return reason.Errorf("%s is in the chain of %s already", b.Name, r.Name)
	case dividesOrJoins(r, there):
		return reason.Errorf("%s divides the signal, or joins it: another box cannot take that over", a.Name)
	}
	blocks := map[ID]bool{}
	for _, k := range stops {
		if k.Gear() == there {
			blocks[ID(k.Rest())] = true
		}
	}
	if len(blocks) > len(b.Blocks) {
		return reason.Errorf(
			"%s stands in the chain with %s, and %s has %d", a.Name, Counted(len(blocks), "block", "blocks"), b.Name,
			len(b.Blocks),
		)
	}
	return nil
}

// dividesOrJoins reports whether a split of the rig goes out from a box or ends in it.
func dividesOrJoins(r *Rig, id ID) bool {
	found := false
	look := func(n *Node) {
		if s := n.Split; s != nil {
			found = found || s.From.Gear() == id || s.To.Gear() == id || s.Choice.Gear() == id
		}
	}
	walkNodes(r.Path, look)
	for _, d := range r.Destinations {
		walkNodes(d.Path, look)
	}
	return found
}

// swaps checks the swap slots of a rig.
func (v *validator) swaps(path string, r *Rig) {
	localIDs(v, path, r.Swaps, func(s Swap) ID { return s.ID })
	used := map[ID]string{}
	for i := range r.Swaps {
		s, sp := &r.Swaps[i], at(path, i)
		v.name(dot(sp, "name"), s.Name)
		if len(s.Boxes) < 2 {
			v.problems.add(dot(sp, "boxes"), "a swap slot has two boxes or more to choose from")
		}
		songs, standing := map[ID]bool{}, ID("")
		for j := range s.Boxes {
			b, bp := &s.Boxes[j], at(dot(sp, "boxes"), j)
			if !v.gearExists(dot(bp, "gear"), b.Gear) {
				continue
			}
			g := v.gearByID[b.Gear]
			if other, ok := used[b.Gear]; ok {
				v.problems.add(dot(bp, "gear"), "%s is in the slot %s already", g.Name, other)
			}
			used[b.Gear] = s.Name
			if g.Kind != Pedal {
				v.problems.add(dot(bp, "gear"), "%s is not a pedal: other amps are destinations of the rig", g.Name)
			}
			if slices.ContainsFunc(r.allStops(), func(k Key) bool { return k.Gear() == b.Gear }) {
				if standing != "" {
					v.problems.add(
						dot(bp, "gear"), "%s is in the chain, and so is %s: one of a slot is",
						g.Name, v.gearByID[standing].Name,
					)
				}
				standing = b.Gear
				if b.Kept != nil {
					v.problems.add(dot(bp, "kept"), "%s is in the chain: what the rig says of it stands there", g.Name)
				}
			}
			for k, id := range b.Songs {
				kp := at(dot(bp, "songs"), k)
				if _, ok := v.plan.FindSong(id); !ok {
					v.problems.add(kp, "there is no song %q", id)
				}
				if songs[id] {
					v.problems.add(kp, "this song is played with another box of the slot, or stands here twice")
				}
				songs[id] = true
			}
			if b.Kept != nil {
				v.kept(dot(bp, "kept"), b.Gear, b.Kept)
			}
		}
		if standing == "" && len(s.Boxes) > 0 {
			v.problems.add(dot(sp, "boxes"), "none of them is in the chain of %s", r.Name)
		}
		v.canStand(sp, r, s, standing)
	}
}

// canStand says which boxes of a slot cannot stand where one does.
func (v *validator) canStand(path string, r *Rig, s *Swap, standing ID) {
	if standing == "" {
		return
	}
	stops := r.allStops()
	for j, b := range s.Boxes {
		in := slices.ContainsFunc(stops, func(k Key) bool { return k.Gear() == b.Gear })
		if g := v.gearByID[b.Gear]; in || g == nil || g.Kind != Pedal || v.gearByID[standing].Kind != Pedal {
			continue // said already
		}
		if err := v.plan.CanShareSlot(r, standing, b.Gear); err != nil {
			words, _ := reason.Of(err)
			v.problems.add(dot(at(dot(path, "boxes"), j), "gear"), "%s", words)
		}
	}
}

// picks checks what a show picks for the slots of its rig.
func (v *validator) picks(path string, r *Rig, picks []Pick) {
	for i, x := range picks {
		pp := at(path, i)
		s, ok := r.FindSwap(x.Swap)
		if !ok {
			v.problems.add(dot(pp, "swap"), "%s has no swap slot %q", r.Name, x.Swap)
			continue
		}
		if _, ok := s.Box(x.Gear); !ok {
			v.problems.add(dot(pp, "gear"), "%q is no box of the slot %s", x.Gear, s.Name)
		}
		if slices.ContainsFunc(picks[:i], func(y Pick) bool { return y.Swap == x.Swap }) {
			v.problems.add(dot(pp, "swap"), "another pick is for that slot")
		}
	}
}

// SlotChoice is a box that is owned, and why it cannot stand where another does; Why is empty where it can.
type SlotChoice struct {
	Gear ID     `json:"gear"`
	Name string `json:"name"`
	Why  string `json:"why,omitempty"`
}

// SlotChoices are the pedals that are not in the chain, and whether each could stand where one does that is.
func (p *Plan) SlotChoices(r *Rig, there ID) []SlotChoice {
	list := []SlotChoice{}
	for i := range p.Gear {
		g := &p.Gear[i]
		if g.Kind != Pedal || slices.ContainsFunc(r.allStops(), func(k Key) bool { return k.Gear() == g.ID }) {
			continue
		}
		c := SlotChoice{Gear: g.ID, Name: g.Name}
		if err := p.CanShareSlot(r, there, g.ID); err != nil {
			c.Why, _ = reason.Of(err)
		}
		list = append(list, c)
	}
	return list
}

// WithSlot is a rig with a swap slot where a box stands, or with a further box for the slot that it stands in already.
// It fails where the box cannot stand there.
func (p *Plan) WithSlot(r *Rig, id ID, name string, there, other ID) (Rig, error) {
	if err := p.CanShareSlot(r, there, other); err != nil {
		return Rig{}, err
	}
	next := *r
	next.Swaps = slices.Clone(r.Swaps)
	for i := range next.Swaps {
		s := &next.Swaps[i]
		if _, ok := s.Box(other); ok {
			g, _ := p.FindGear(other)
			return Rig{}, reason.Errorf("%s is in the slot %s already", g.Name, s.Name)
		}
		if _, ok := s.Box(there); ok {
			s.Boxes = append(slices.Clone(s.Boxes), SwapBox{Gear: other})
			return next, nil
		}
	}
	next.Swaps = append(next.Swaps, Swap{ID: id, Name: name, Boxes: []SwapBox{{Gear: there}, {Gear: other}}})
	return next, nil
}
