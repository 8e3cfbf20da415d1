package plan

import (
	"fmt"

	"envex/core/reason"
)

// Reference is one aggregate's mention of another: to whom, and where in words.
type Reference struct {
	To    ID
	Where string
}

// References lists every aggregate that a mentions, in the order it mentions them. A song
// also mentions the recipes its sections choose; see [Plan.Bundle].
func References(a Aggregate) []Reference {
	var refs []Reference
	add := func(to ID, format string, args ...any) {
		if to != "" {
			refs = append(refs, Reference{To: to, Where: fmt.Sprintf(format, args...)})
		}
	}
	switch a := a.(type) {
	case Sound:
		add(a.Targets.Guitar, "is played on it")
	case Song:
		add(a.Guitar, "is played on it")
		for _, s := range a.Sections {
			add(s.Sound, "%s", s.Label)
			add(s.Recipe, "%s", s.Label)
			for _, o := range s.Others {
				add(o.Band, "%s", s.Label)
				add(o.Sound, "%s", s.Label)
				add(o.Recipe, "%s", s.Label)
			}
		}
	case SetList:
		add(a.Band, "plays it")
		for i, e := range a.Entries {
			add(e.Song, "song %d of the set", i+1)
		}
	case Rig:
		rigReferences(&a, add)
	case Show:
		add(a.SetList, "plays it")
		add(a.Rig, "is played on it")
		for _, o := range a.Others {
			add(o.Rig, "is played on it")
		}
		showReferences(&a, add)
	}
	return refs
}

func showReferences(s *Show, add func(ID, string, ...any)) {
	for _, f := range s.Faults {
		add(f.Gear, "its log")
	}
	for _, f := range s.Fixes {
		add(f.Gear, "its log")
		add(f.Key.Gear(), "its log")
		add(f.Sound, "its log")
	}
	for _, id := range s.Batteries {
		add(id, "its log")
	}
}

func rigReferences(r *Rig, add func(ID, string, ...any)) {
	if r.Player != nil {
		add(r.Player.Band, "its player is of it")
	}
	for _, id := range r.Guitars {
		add(id, "plugs in")
	}
	pathReferences(r.Path, "in the chain", add)
	settingReferences(r.Base, r.Recipes, add)
	for _, id := range SortedKeys(r.PerGuitar) {
		add(id, "settings for a guitar")
		for _, key := range SortedKeys(r.PerGuitar[id]) {
			add(key.Gear(), "settings for a guitar")
		}
	}
	for _, o := range r.Orders {
		pathReferences(o.Path, "in the order kept as "+o.Name, add)
	}
	for _, d := range r.Destinations {
		known := add
		if d.Kind == AnyAmp {
			known = func(to ID, format string, args ...any) {
				if to != AnyAmpID { // it stands in no file
					add(to, format, args...)
				}
			}
		}
		known(d.Amp, "at %s", d.Name)
		pathReferences(d.Path, "in the chain at "+d.Name, known)
		settingReferences(d.Base, d.Recipes, known)
		for _, l := range d.Relays {
			known(l.Controller, "relays at %s", d.Name)
			known(l.Target.Gear(), "relays at %s", d.Name)
		}
	}
	for _, s := range r.Swaps {
		for _, b := range s.Boxes {
			add(b.Gear, "in the swap slot %s", s.Name)
			for _, id := range b.Songs {
				add(id, "in the swap slot %s", s.Name)
			}
			if b.Kept != nil {
				keptReferences(b.Kept, add)
			}
		}
	}
	for _, h := range r.Held {
		add(h.Switcher, "a loop that is held on")
	}
	for _, id := range SortedKeys(r.Presets) {
		add(id, "presets")
	}
	for _, id := range SortedKeys(r.PresetNames) {
		add(id, "the names of its presets")
	}
	for _, id := range SortedKeys(r.Snapshots) {
		add(id, "snapshots")
	}
	for _, key := range r.OwnSwitches {
		add(key.Gear(), "keeps its own switch")
	}
	for _, pin := range r.SlotPins {
		add(pin.Controller, "a slot that is kept")
		add(pin.Sound, "stays on a slot")
	}
	for _, l := range r.Levels {
		add(l.Block.Gear(), "a measured level")
		for _, key := range SortedKeys(l.At) {
			add(key.Gear(), "a measured level")
		}
	}
	for _, l := range r.MIDI {
		add(l.Controller, "MIDI")
		add(l.Gear, "MIDI")
	}
	for _, l := range r.Relays {
		add(l.Controller, "relays")
		add(l.Target.Gear(), "relays")
	}
	for _, id := range SortedKeys(r.Programs) {
		add(id, "programs")
		for _, bank := range SortedKeys(r.Programs[id]) {
			for _, slot := range SortedKeys(r.Programs[id][bank]) {
				program := r.Programs[id][bank][slot]
				add(program.Sound, "programs")
				for _, key := range SortedKeys(program.Values) {
					add(key.Gear(), "programs")
				}
			}
		}
	}
	for _, a := range r.Assignments {
		add(a.Gear, "assigned switches")
		for _, press := range []*Press{a.Press, a.Hold, a.Double} {
			if press == nil {
				continue
			}
			for _, act := range press.Actions {
				add(act.Target.Gear(), "assigned switches")
			}
		}
	}
	add(r.Floor.Board, "its board")
	for _, b := range r.Floor.Boards {
		add(b.Board, "one of its boards")
	}
	for _, id := range SortedKeys(r.Floor.Places) {
		add(id, "on the floor")
	}
	for _, s := range r.Floor.DoubleStomps {
		add(s.A.Gear(), "double stomps")
		add(s.B.Gear(), "double stomps")
	}
	for _, c := range r.Clocks {
		add(c.From, "as a clock")
		for _, id := range c.To {
			add(id, "as what follows a clock")
		}
	}
	for _, f := range r.PowerPlan {
		add(f.Supply, "power")
		for _, id := range f.Gear {
			add(id, "power")
		}
	}
	for _, b := range r.Batteries {
		add(b.Gear, "batteries")
	}
	add(r.PatchCable, "cables")
	for _, l := range r.Leads {
		add(l.From.Gear(), "cables")
		add(l.To.Gear(), "cables")
		add(l.Cable, "cables")
	}
}

func pathReferences(path []Node, where string, add func(ID, string, ...any)) {
	for _, key := range StopsIn(path) {
		add(key.Gear(), "%s", where)
	}
	walkNodes(path, func(n *Node) {
		add(n.KeyIn.Gear(), "%s", where)
		add(n.Switcher, "%s", where)
		if n.Split != nil {
			add(n.Split.From.Gear(), "%s", where)
			add(n.Split.Choice.Gear(), "%s", where)
		}
	})
}

func settingReferences(base map[Key]Value, recipes []Recipe, add func(ID, string, ...any)) {
	for _, key := range SortedKeys(base) {
		add(key.Gear(), "base settings")
	}
	for _, rec := range recipes {
		add(rec.Sound, "a recipe makes it")
		add(rec.Guitar, "a recipe")
		for _, key := range SortedKeys(rec.Values) {
			add(key.Gear(), "a recipe")
		}
		for _, key := range rec.Rockers {
			add(key.Gear(), "a recipe")
		}
	}
}

// Use is one thing that mentions another and would be broken without it.
type Use struct {
	Kind  AggregateKind `json:"kind"`
	ID    ID            `json:"id"`
	Name  string        `json:"name"`
	Where string        `json:"where"`
}

// String is the use in words.
func (u Use) String() string { return u.Name + ": " + u.Where }

// Uses lists everything in the plan that mentions the aggregate id, once for each place.
// For a rig that includes sections which choose one of its recipes.
func (p *Plan) Uses(id ID) []Use {
	targets := map[ID]bool{id: true}
	if r, ok := p.FindRig(id); ok {
		for _, inner := range r.innerIDs() {
			targets[inner] = true
		}
	}
	var uses []Use
	seen := map[Use]bool{}
	for _, a := range p.All() {
		if a.AggregateID() == id {
			continue
		}
		for _, ref := range References(a) {
			u := Use{Kind: a.AggregateKind(), ID: a.AggregateID(), Name: a.Label(), Where: ref.Where}
			if targets[ref.To] && !seen[u] {
				seen[u] = true
				uses = append(uses, u)
			}
		}
	}
	return uses
}

// Bundle is the part of the plan that the named aggregates need to stand alone: themselves
// and, in the plan's order, all they refer to. An id that is not in the plan is an error.
func (p *Plan) Bundle(ids ...ID) (*Plan, error) {
	byID := map[ID]Aggregate{}
	for _, a := range p.All() {
		byID[a.AggregateID()] = a
		if r, ok := a.(Rig); ok {
			for _, id := range r.innerIDs() {
				byID[id] = r
			}
		}
	}
	keep := map[ID]bool{}
	for len(ids) > 0 {
		id := ids[0]
		ids = ids[1:]
		a, ok := byID[id]
		if !ok {
			return nil, reason.Errorf("there is nothing with the id %q", id)
		}
		if keep[a.AggregateID()] {
			continue
		}
		keep[a.AggregateID()] = true
		for _, ref := range References(a) {
			ids = append(ids, ref.To)
		}
	}
	bundle := &Plan{}
	for _, a := range p.All() {
		if keep[a.AggregateID()] {
			bundle.Put(a)
		}
	}
	return bundle, nil
}
