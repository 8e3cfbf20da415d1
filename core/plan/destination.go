package plan

import (
	"fmt"
	"maps"
	"slices"
)

// DestinationKind is the sort of place a rig plugs into.
type DestinationKind string

// The sorts of place a rig plugs into.
const (
	OwnAmp     DestinationKind = "own-amp"
	HiredAmp   DestinationKind = "hired-amp"
	TwoAmps    DestinationKind = "two-amps"
	StereoDI   DestinationKind = "stereo-di"
	MonoDI     DestinationKind = "mono-di"
	Headphones DestinationKind = "headphones"
)

// What a mono line really carries of a stereo signal.
const (
	ExternalSum = "external-sum" // both sides, summed outside the last box
	LeftSums    = "left-sums"    // both sides, summed by the left jack of the last box
	LeftAlone   = "left-alone"   // the left side only
)

// Destination is a named overlay on a rig for where it plugs in.
type Destination struct {
	ID       ID              `json:"id"`
	Name     string          `json:"name"`
	Kind     DestinationKind `json:"kind" enum:"own-amp,hired-amp,two-amps,stereo-di,mono-di,headphones"`
	Amp      ID              `json:"amp,omitempty" doc:"The amp that stands in for the rig's own."`
	Path     []Node          `json:"path,omitempty" doc:"The whole chain there; absent to follow the rig's."`
	Recipes  []Recipe        `json:"recipes,omitempty" doc:"One with the id of a recipe of the rig replaces it; the others go ahead of the rig's for their sound."`
	MonoLine string          `json:"mono_line,omitempty" enum:"external-sum,left-sums,left-alone" doc:"Where one mono line goes to the house: what it carries."`
	Base     map[Key]Value   `json:"base,omitempty" doc:"Settings that differ from the rig's there."`
}

// TakesNoAmp reports whether the destination is fed without an amp of the player's.
func (d *Destination) TakesNoAmp() bool {
	return d.Kind == StereoDI || d.Kind == MonoDI || d.Kind == Headphones
}

// FindDestination looks a destination up by id.
func (r *Rig) FindDestination(id ID) (*Destination, bool) {
	i := slices.IndexFunc(r.Destinations, func(d Destination) bool { return d.ID == id })
	if i < 0 {
		return nil, false
	}
	return &r.Destinations[i], true
}

// At is the plan with one rig as it stands at one of its destinations: chain, settings and
// recipes overlaid. An empty destination is the rig itself. The plan is not changed.
func (p *Plan) At(rig, destination ID) (*Plan, error) {
	r, ok := p.FindRig(rig)
	if !ok {
		return nil, fmt.Errorf("plan: there is no rig %q", rig)
	}
	if destination == "" {
		return p, nil
	}
	d, ok := r.FindDestination(destination)
	if !ok {
		return nil, fmt.Errorf("plan: %s has no destination %q", r.Name, destination)
	}
	there := *r
	there.Path = p.pathAt(r, d)
	there.Base = maps.Clone(r.Base)
	if len(d.Base) > 0 && there.Base == nil {
		there.Base = map[Key]Value{}
	}
	maps.Copy(there.Base, d.Base)
	there.Recipes = overlaid(r.Recipes, d.Recipes)
	q := *p
	q.Put(there)
	return &q, nil
}

// overlaid puts recipes of a destination over those of a rig.
func overlaid(own, over []Recipe) []Recipe {
	var ahead []Recipe
	list := slices.Clone(own)
	for _, rec := range over {
		if i := slices.IndexFunc(list, func(x Recipe) bool { return x.ID == rec.ID }); i >= 0 {
			list[i] = rec
		} else {
			ahead = append(ahead, rec)
		}
	}
	return append(ahead, list...)
}

// pathAt is the chain of a rig at a destination: the destination's own where it has one,
// else the rig's with the other amp in the place of the first, or without its amps where it
// is fed none.
func (p *Plan) pathAt(r *Rig, d *Destination) []Node {
	switch {
	case len(d.Path) > 0:
		return d.Path
	case d.Amp != "":
		if hired, ok := p.FindGear(d.Amp); ok {
			return p.withAmp(r.Path, hired)
		}
	case d.TakesNoAmp():
		return p.withoutAmps(r.Path)
	}
	return r.Path
}

// withAmp is a path with another amp in the place of the first amp of its main line. What
// stood in the loop moves in front where the other amp has none.
func (p *Plan) withAmp(path []Node, amp *Gear) []Node {
	own := ID("")
	for _, n := range path {
		if g, ok := p.FindGear(n.Stop.Gear()); ok && g.Kind == Amp {
			own = g.ID
			break
		}
	}
	if own == amp.ID {
		return path
	}
	var pre, between, power []Key
	for _, b := range amp.Blocks {
		key := BlockKey(amp.ID, b.ID)
		switch b.Effect {
		case EffectPreamp:
			pre = append(pre, key)
		case EffectPower:
			power = append(power, key)
		default:
			between = append(between, key)
		}
	}
	var front, loop, out []Node
	zones := p.Zones(path)
	for _, n := range path {
		switch zone := zones[n.ID()]; {
		case n.Stop != "" && n.Stop.Gear() == own:
		case zone == Out:
			out = append(out, n)
		case zone == InTheLoop && amp.Loop != nil:
			loop = append(loop, n)
		default:
			front = append(front, n)
		}
	}
	stops := func(keys []Key) (nodes []Node) {
		for _, k := range keys {
			nodes = append(nodes, Node{Stop: k})
		}
		return nodes
	}
	return slices.Concat(front, stops(pre), loop, stops(between), stops(power), out)
}

func (p *Plan) withoutAmps(path []Node) []Node {
	var list []Node
	for _, n := range path {
		if g, ok := p.FindGear(n.Stop.Gear()); ok && g.Kind == Amp {
			continue
		}
		if n.Split != nil {
			s := *n.Split
			s.Lanes = slices.Clone(s.Lanes)
			for i := range s.Lanes {
				s.Lanes[i].Nodes = p.withoutAmps(s.Lanes[i].Nodes)
			}
			n.Split = &s
		}
		list = append(list, n)
	}
	return list
}
