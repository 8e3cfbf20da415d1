// Package failure is a rig without one of its boxes: which sounds of a set are still there, which are changed or lost, and
// the quickest way round it. It goes by what the sounds ask for; nothing is rendered.
package failure

import (
	"fmt"
	"slices"
	"strings"

	"envex/core/path"
	"envex/core/plan"
)

// Rig is a rig where it plugs in, as a set is played on it.
type Rig struct {
	given  *plan.Plan // before the destination
	plan   *plan.Plan
	rig    *plan.Rig
	set    plan.ID
	sounds []plan.Used
	cables *path.Cables
	stops  map[plan.Key]bool
}

// On is a rig of the plan at one of its destinations, or as it stands where that is "", with a set that is played on it.
// The plan must be valid. It fails where rig or destination are not there, or its cables cannot be derived.
func On(p *plan.Plan, rig, destination, setList plan.ID) (*Rig, error) {
	there, err := p.At(rig, destination)
	if err != nil {
		return nil, fmt.Errorf("failure: %w", err)
	}
	r, err := there.RigByID(rig)
	if err != nil {
		return nil, fmt.Errorf("failure: %w", err)
	}
	cables, err := path.DeriveCables(p, rig, destination)
	if err != nil {
		return nil, fmt.Errorf("failure: %w", err)
	}
	f := &Rig{
		given: p, plan: there, rig: r, set: setList, sounds: there.UsedIn(r, setList), cables: cables, stops: map[plan.Key]bool{},
	}
	for _, key := range r.Stops() {
		f.stops[key] = true
	}
	return f, nil
}

// State is what becomes of a sound.
type State string

// What can become of a sound.
const (
	Here    State = "here"    // it is as it was
	Other   State = "other"   // another of its recipes makes it
	Changed State = "changed" // it is there, without something that is on in it
	Lost    State = "lost"    // what it must have is gone
)

// Sound is a sound of the set, and what becomes of it.
type Sound struct {
	ID       plan.ID `json:"id"`
	Recipe   plan.ID `json:"recipe"`
	Name     string  `json:"name"`
	State    State   `json:"state" enum:"here,other,changed,lost"`
	By       string  `json:"by,omitempty" doc:"The other recipe that makes it."`
	ByRecipe plan.ID `json:"by_recipe,omitempty"`
	Without  string  `json:"without,omitempty" doc:"What it is without, in words."`
	Sections int     `json:"sections" doc:"Of the set, that ask for it."`
	Hit      int     `json:"hit" doc:"Of these, where it is changed or lost."`

	Instead []Instead `json:"instead,omitempty" doc:"Of one that is lost: what can be played in its place, the nearest first."`
}

// Fate is a rig without a box.
type Fate struct {
	Gear   plan.ID   `json:"gear"`
	Name   string    `json:"name"`
	Out    []plan.ID `json:"out" doc:"What does nothing any more: the box, and what only it feeds."`
	Sounds []Sound   `json:"sounds"`
	Round  string    `json:"round" doc:"The quickest way round it, in words."`
	Spares []string  `json:"spares" doc:"Boxes that are owned and can stand in for it."`
}

// Boxes are what can fail: everything in the rig, and what feeds it.
func (f *Rig) Boxes() []plan.ID {
	list := f.rig.GearIn()
	for _, id := range f.rig.Supplies() {
		if !slices.Contains(list, id) {
			list = append(list, id)
		}
	}
	return list
}

// Sections counts the sections of the set that have a sound on this rig.
func (f *Rig) Sections() int {
	all := 0
	for _, s := range f.sounds {
		all += s.Sections
	}
	return all
}

// Without is what becomes of the sounds when a box fails. It fails where the plan has no such box, or its cables cannot be
// derived.
func (f *Rig) Without(gear plan.ID) (*Fate, error) {
	g, err := f.plan.GearByID(gear)
	if err != nil {
		return nil, fmt.Errorf("failure: %w", err)
	}
	out := f.dead(g)
	way, err := f.wayRound(g, out)
	if err != nil {
		return nil, fmt.Errorf("failure: %w", err)
	}
	return &Fate{
		Gear: gear, Name: g.Name, Out: plan.SortedKeys(out), Sounds: f.soundsWithout(out, g), Round: way, Spares: f.spares(g),
	}, nil
}

// dead is what does nothing any more when a box fails: itself, and what a supply alone feeds.
func (f *Rig) dead(g *plan.Gear) map[plan.ID]bool {
	out := map[plan.ID]bool{g.ID: true}
	for _, feed := range f.rig.PowerPlan {
		if feed.Supply == g.ID {
			for _, id := range feed.Gear {
				out[id] = true
			}
		}
	}
	return out
}

func (f *Rig) soundsWithout(out map[plan.ID]bool, g *plan.Gear) []Sound {
	list := make([]Sound, 0, len(f.sounds))
	for _, s := range f.sounds {
		x := Sound{ID: s.Sound.ID, Recipe: s.Recipe.ID, Name: s.Name, State: Here, Sections: s.Sections}
		missing, gone := f.missing(s, out, g)
		hit := s.Sections
		if g.Kind == plan.Guitar {
			hit = s.On[g.ID]
		}
		if len(missing) > 0 {
			other := f.other(s, out, g)
			switch {
			case other != nil:
				x.State, x.By, x.ByRecipe = Other, other.Name, other.ID
			case gone:
				x.State, x.Hit, x.Without = Lost, hit, strings.Join(missing, ", ")
			default:
				x.State, x.Hit, x.Without = Changed, hit, strings.Join(missing, ", ")
			}
		}
		list = append(list, x)
	}
	for i := range list {
		if list[i].State == Lost {
			list[i].Instead = f.insteadOf(f.sounds[i], out, g, list)
		}
	}
	return list
}

// Taken is a plan in which boxes are taken out of a rig: out of its chain, of what switches it, and of what its recipes
// ask for. The plan is not changed.
func Taken(p *plan.Plan, rig *plan.Rig, out map[plan.ID]bool) *plan.Plan {
	r := *rig
	r.Path = without(p, rig.Path, out)
	r.Programs = plan.ProgramMap{}
	for id, banks := range rig.Programs {
		if !out[id] {
			r.Programs[id] = banks
		}
	}
	r.Assignments = slices.DeleteFunc(
		slices.Clone(rig.Assignments),
		func(a plan.Assignment) bool { return out[a.Gear] },
	)
	r.MIDI = slices.DeleteFunc(slices.Clone(rig.MIDI), func(l plan.MIDILink) bool { return out[l.Controller] })
	r.Relays = slices.DeleteFunc(slices.Clone(rig.Relays), func(l plan.RelayLink) bool { return out[l.Controller] })
	r.Recipes = slices.Clone(rig.Recipes)
	for i := range r.Recipes {
		rec := &r.Recipes[i]
		values := map[plan.Key]plan.Value{}
		for key, v := range rec.Values {
			if !out[key.Gear()] {
				values[key] = v
			}
		}
		rec.Values = values
		rec.Rockers = slices.DeleteFunc(slices.Clone(rec.Rockers), func(key plan.Key) bool { return out[key.Gear()] })
	}
	q := *p
	q.Put(r)
	return &q
}

func (f *Rig) name(id plan.ID) string {
	if g, ok := f.plan.FindGear(id); ok {
		return g.Name
	}
	return string(id)
}
