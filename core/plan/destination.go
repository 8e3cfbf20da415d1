package plan

import (
	"fmt"
	"maps"
	"slices"

	"envex/core/reason"
)

// DestinationKind is the sort of place a rig plugs into.
type DestinationKind string

// The sorts of place a rig plugs into.
const (
	OwnAmp     DestinationKind = "own-amp"
	HiredAmp   DestinationKind = "hired-amp"
	AnyAmp     DestinationKind = "any-amp" // whatever stands there: nothing is known of it
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
	Kind     DestinationKind `json:"kind" enum:"own-amp,hired-amp,any-amp,two-amps,stereo-di,mono-di,headphones"`
	Amp      ID              `json:"amp,omitempty" doc:"The amp that stands in for the rig's own."`
	Path     []Node          `json:"path,omitempty" doc:"The whole chain there; absent to follow the rig's."`
	Recipes  []Recipe        `json:"recipes,omitempty" doc:"One with the id of a recipe of the rig replaces it; the others go ahead of the rig's for their sound."`
	MonoLine string          `json:"mono_line,omitempty" enum:"external-sum,left-sums,left-alone" doc:"Where one mono line goes to the house: what it carries."`
	Base     map[Key]Value   `json:"base,omitempty" doc:"Settings that differ from the rig's there."`
	Relays   []RelayLink     `json:"relays,omitempty" doc:"What relays of controllers are plugged into of the amp there, in place of what they work elsewhere."`
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
	r, err := p.RigByID(rig)
	if err != nil {
		return nil, fmt.Errorf("plan: %w", err)
	}
	p = p.PlayedBy(r)
	if destination == "" {
		return p, nil
	}
	d, ok := r.FindDestination(destination)
	if !ok {
		return nil, reason.Errorf("%s has no destination %q", r.Name, destination)
	}
	there := *r
	with := *p
	if d.Kind == AnyAmp {
		with = *p.withAnyAmp()
	}
	there.Path = with.pathAt(r, d)
	there.Base = maps.Clone(r.Base)
	if len(d.Base) > 0 && there.Base == nil {
		there.Base = map[Key]Value{}
	}
	maps.Copy(there.Base, d.Base)
	there.Recipes = overlaid(r.Recipes, d.Recipes)
	there.Relays = relaysAt(r.Relays, d.Relays)
	there.Swaps = swapsAt(r.Swaps, d)
	q := with
	q.Put(there)
	return &q, nil
}

// AnyAmpID is the id of the amp of which nothing is known; it stands in no file.
const AnyAmpID ID = "any-amp"

// withAnyAmp is the plan with the amp of which nothing is known among its gear.
func (p *Plan) withAnyAmp() *Plan {
	q := *p
	q.Put(anyAmp())
	return &q
}

// anyAmp stands for whatever amp there is: one channel, no loop, and a speaker of its own.
func anyAmp() Gear {
	knob := func(id ID, at float64) Control {
		v := Number(at)
		return Control{ID: id, Name: string(id), Kind: Knob, Access: SlowHand, Default: &v}
	}
	return Gear{ID: AnyAmpID, Name: "Any amp", Kind: Amp, Blocks: []Block{
		{
			ID: "preamp", Name: "preamp", Effect: EffectPreamp, Model: CleanVoice, Bypass: AlwaysOn,
			Controls: []Control{knob("gain", 3), knob("bass", 5), knob("mid", 5), knob("treble", 5)},
		},
		{ID: "power", Name: "power", Effect: EffectPower, Bypass: AlwaysOn, Controls: []Control{knob("master", 5)}},
	}}
}

// relaysAt are what relays work at a destination: those that are plugged into something there work nothing else.
func relaysAt(own, there []RelayLink) []RelayLink {
	if len(there) == 0 {
		return own
	}
	list := slices.DeleteFunc(slices.Clone(own), func(l RelayLink) bool {
		return slices.ContainsFunc(there, func(x RelayLink) bool {
			return x.Controller == l.Controller && x.Relay == l.Relay
		})
	})
	return append(list, there...)
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
	case d.Kind == AnyAmp:
		amp := anyAmp()
		return p.WithAmp(r.Path, &amp)
	case d.Amp != "":
		if hired, ok := p.FindGear(d.Amp); ok {
			return p.WithAmp(r.Path, hired)
		}
	case d.TakesNoAmp():
		return p.withoutAmps(r.Path)
	}
	return r.Path
}

// ampOn is the first amp on the main line of a path; "" where none is.
func (p *Plan) ampOn(path []Node) ID {
	for _, n := range path {
		if g, ok := p.FindGear(n.Stop.Gear()); ok && g.Kind == Amp {
			return g.ID
		}
	}
	return ""
}

// withAmpInLane is a path with another amp in the place of the first that stands in a lane; false where none does.
func (p *Plan) withAmpInLane(path []Node, amp *Gear) ([]Node, bool) {
	for i, n := range path {
		if n.Split == nil {
			continue
		}
		for j, lane := range n.Split.Lanes {
			nodes, ok := lane.Nodes, p.ampOn(lane.Nodes) != ""
			if ok {
				nodes = p.WithAmp(nodes, amp)
			} else {
				nodes, ok = p.withAmpInLane(nodes, amp)
			}
			if ok {
				path = slices.Clone(path)
				s := *n.Split
				s.Lanes = slices.Clone(s.Lanes)
				s.Lanes[j].Nodes = nodes
				path[i].Split = &s
				return path, true
			}
		}
	}
	return nil, false
}

// OneAmp are the ways to have a path that splits into amps in one line: one lane that ends in an amp goes on, the
// others go. A path with one amp is the only way; the first lanes come first.
func (p *Plan) OneAmp(path []Node) [][]Node {
	ways := [][]Node{nil}
	for _, n := range path {
		goOn := [][]Node{{n}}
		if n.Split != nil && n.Split.Join == "" && len(p.AmpsIn([]Node{n})) > 1 {
			goOn = nil
			for _, lane := range n.Split.Lanes {
				if len(p.AmpsIn(lane.Nodes)) > 0 {
					goOn = append(goOn, p.OneAmp(lane.Nodes)...)
				}
			}
		}
		var next [][]Node
		for _, before := range ways {
			for _, after := range goOn {
				next = append(next, slices.Concat(before, after))
			}
		}
		ways = next
	}
	return ways
}

// AmpsIn are the amps of a path, lanes included, each once.
func (p *Plan) AmpsIn(path []Node) []ID {
	var list []ID
	for _, key := range StopsIn(path) {
		if g, ok := p.FindGear(key.Gear()); ok && g.Kind == Amp && !slices.Contains(list, g.ID) {
			list = append(list, g.ID)
		}
	}
	return list
}

// WithAmp is a path with another amp in the place of the first amp of its main line. What
// stood in the loop moves in front where the other amp has none.
func (p *Plan) WithAmp(path []Node, amp *Gear) []Node {
	own := p.ampOn(path)
	if own == "" {
		if inLane, ok := p.withAmpInLane(path, amp); ok {
			return inLane
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
		case zone == Out && p.effectOf(n.Stop) == EffectSpeaker && amp.hasSpeaker():
			// the other amp brings its own
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

// SetAt is a rig with settings changed for one of its recipes, where that was asked: those the recipe names in
// the recipe, the others in the base settings that recipes share. At a destination what changes is its own: the
// rig elsewhere stays as it is. The rig is not changed.
func (r *Rig) SetAt(destination ID, rec Recipe, values map[Key]Value) Rig {
	out := *r
	set := func(m map[Key]Value, key Key, v Value) map[Key]Value {
		m = maps.Clone(m)
		if m == nil {
			m = map[Key]Value{}
		}
		m[key] = v
		return m
	}
	out.Destinations = slices.Clone(r.Destinations)
	d := slices.IndexFunc(out.Destinations, func(x Destination) bool { return x.ID == destination })
	for _, key := range SortedKeys(values) {
		_, named := rec.Values[key]
		switch {
		case named:
			rec.Values = set(rec.Values, key, values[key])
		case d >= 0:
			out.Destinations[d].Base = set(out.Destinations[d].Base, key, values[key])
		default:
			out.Base = set(out.Base, key, values[key])
		}
	}
	list := &out.Recipes
	if d >= 0 {
		list = &out.Destinations[d].Recipes
	}
	*list = slices.Clone(*list)
	if i := slices.IndexFunc(*list, func(x Recipe) bool { return x.ID == rec.ID }); i >= 0 {
		(*list)[i] = rec
	} else if d >= 0 && someNamed(rec, values) {
		*list = append(*list, rec)
	}
	return out
}

// WithPathAt is a rig with another path, at a destination where one is named: its own from then on. The rig is
// not changed.
func (r *Rig) WithPathAt(destination ID, path []Node) Rig {
	out := *r
	out.Destinations = slices.Clone(r.Destinations)
	if d := slices.IndexFunc(out.Destinations, func(x Destination) bool { return x.ID == destination }); d >= 0 {
		out.Destinations[d].Path = path
	} else {
		out.Path = path
	}
	return out
}

// someNamed reports whether a recipe names any of some settings.
func someNamed(rec Recipe, values map[Key]Value) bool {
	for key := range values {
		if _, ok := rec.Values[key]; ok {
			return true
		}
	}
	return false
}

// hasSpeaker reports whether an amp is taken to have a speaker of its own: where nobody has said, it is.
func (g *Gear) hasSpeaker() bool { return g.SpeakerOut == nil || g.SpeakerOut.Internal }

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
