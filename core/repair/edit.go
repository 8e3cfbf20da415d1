package repair

import (
	"context"
	"fmt"
	"maps"
	"slices"

	"envex/core/plan"
	"envex/core/reason"
	"envex/core/switching"
)

// Kind is what an edit does.
type Kind string

// The edits of a rig, in the order in which, among equals, they are offered.
const (
	Place   Kind = "place"  // stand boxes elsewhere on the floor
	Stomp   Kind = "stomp"  // press two neighbours under one shoe
	Swap    Kind = "swap"   // exchange two slots of a controller
	Assign  Kind = "assign" // give a free footswitch something to do
	Loop    Kind = "loop"   // put a stop into a loop, and into the programs
	Layout  Kind = "layout" // lay out the programs of a controller anew
	Choose  Kind = "choose" // make a section with another recipe of its sound
	Free    Kind = "free"   // let a recipe not mind a setting
	Same    Kind = "same"   // give two sounds one setting
	Leave   Kind = "leave"  // leave a block on through another sound
	Borrow  Kind = "borrow" // make a sound as something else makes it
	Rock    Kind = "rock"   // move a rocker with the foot while a sound lasts
	Plug    Kind = "plug"   // plug a guitar in
	AddStop Kind = "add"    // put a box into the chain
)

// Edit is one change of a plan for the sake of a rig. Which fields count depends on the kind.
type Edit struct {
	Kind    Kind                       `json:"kind" enum:"place,stomp,swap,assign,loop,layout,choose,free,same,leave,borrow,rock,plug,add"`
	Words   string                     `json:"words"`
	Key     plan.Key                   `json:"key,omitempty" doc:"The variable, the stop or the footswitch it is about."`
	Other   plan.Key                   `json:"other,omitempty" doc:"The other footswitch of a pair."`
	Gear    plan.ID                    `json:"gear,omitempty" doc:"The controller, the guitar or the box it is about."`
	Loop    int                        `json:"loop,omitempty" minimum:"0" maximum:"64"`
	At      int                        `json:"at,omitempty" minimum:"0" maximum:"1000" doc:"Of a box that is added: its place on the main line."`
	Recipe  plan.ID                    `json:"recipe,omitempty"`
	Sound   plan.ID                    `json:"sound,omitempty"`
	Song    plan.ID                    `json:"song,omitempty"`
	Section plan.ID                    `json:"section,omitempty"`
	Value   *plan.Value                `json:"value,omitempty"`
	Values  map[plan.Key]plan.Value    `json:"values,omitempty" doc:"Of a block that is left on: its settings, as the other sound has them."`
	Places  map[plan.ID]plan.Placement `json:"places,omitempty"`
	Press   *plan.Press                `json:"press,omitempty"`
	Bank    string                     `json:"bank,omitempty"`
	Slot    string                     `json:"slot,omitempty"`
	ToBank  string                     `json:"to_bank,omitempty"`
	ToSlot  string                     `json:"to_slot,omitempty"`
	SetList plan.ID                    `json:"set_list,omitempty"`
	School  switching.School           `json:"school,omitempty" enum:"page,song,direct"`
	Loops   bool                       `json:"loops,omitempty" doc:"Of a layout: choose the loops too."`

	rig *plan.Rig // of a layout: what it was found to lead to
}

// Site is the rig an edit is for, and where it plugs in.
type Site struct {
	Rig         plan.ID
	Destination plan.ID
}

// Apply carries edits out, one after the other, on a copy of the plan. It fails when one of them
// does not fit the plan any more, and with [plan.Problems] where the plan would not be valid.
func Apply(ctx context.Context, p *plan.Plan, at Site, edits ...Edit) (*plan.Plan, error) {
	q := *p
	for _, e := range edits {
		if err := apply(ctx, &q, at, e); err != nil {
			return nil, reason.Errorf("%s: %w", e.Words, err)
		}
	}
	if problems := q.Validate(); len(problems) > 0 {
		return nil, problems
	}
	if err := withinLimits(p, &q, at); err != nil {
		return nil, err
	}
	return &q, nil
}

// withinLimits refuses what has more on at once than the player allows, where it was not so before.
func withinLimits(before, after *plan.Plan, at Site) error {
	over := func(p *plan.Plan) map[plan.ID]string {
		there, err := p.At(at.Rig, at.Destination)
		if err != nil {
			return nil
		}
		r, _ := there.FindRig(at.Rig)
		return there.OverLimit(r)
	}
	had, has := over(before), over(after)
	for _, id := range plan.SortedKeys(has) {
		if had[id] == "" {
			return reason.Errorf("%s", has[id])
		}
	}
	return nil
}

func apply(ctx context.Context, p *plan.Plan, at Site, e Edit) error {
	found, err := p.RigByID(at.Rig)
	if err != nil {
		return fmt.Errorf("%w", err)
	}
	r := *found
	if e.Kind == Choose {
		return choose(p, e)
	}
	a := &applier{ctx: ctx, p: p, r: &r, at: at}
	if err := a.apply(e); err != nil {
		return err
	}
	p.Put(r)
	return nil
}

func choose(p *plan.Plan, e Edit) error {
	song, err := p.SongByID(e.Song)
	if err != nil {
		return fmt.Errorf("%w", err)
	}
	next := *song
	next.Sections = slices.Clone(song.Sections)
	i := slices.IndexFunc(next.Sections, func(s plan.Section) bool { return s.ID == e.Section })
	if i < 0 {
		return reason.Errorf("%s has no section %q", song.Title, e.Section)
	}
	next.Sections[i].Recipe = e.Recipe
	p.Put(next)
	return nil
}

type applier struct {
	ctx context.Context
	p   *plan.Plan
	r   *plan.Rig
	at  Site
}

func (a *applier) apply(e Edit) error {
	switch e.Kind {
	case Place:
		places := map[plan.ID]plan.Placement{}
		maps.Copy(places, a.r.Floor.Places)
		maps.Copy(places, e.Places)
		a.r.Floor.Places = places
	case Stomp:
		a.r.Floor.DoubleStomps = append(slices.Clone(a.r.Floor.DoubleStomps), plan.DoubleStomp{A: e.Key, B: e.Other})
	case Swap:
		return a.swap(e)
	case Assign:
		list := slices.DeleteFunc(slices.Clone(a.r.Assignments), func(x plan.Assignment) bool {
			return x.Gear == e.Key.Gear() && string(x.Switch) == e.Key.Rest()
		})
		a.r.Assignments = append(list, plan.Assignment{Gear: e.Key.Gear(), Switch: plan.ID(e.Key.Rest()), Press: e.Press})
	case Loop:
		return a.loop(e)
	case Layout:
		return a.layout(e)
	case Free, Same, Leave:
		return a.recipe(e.Recipe, func(rec *plan.Recipe) {
			values := map[plan.Key]plan.Value{}
			maps.Copy(values, rec.Values)
			values[e.Key] = *e.Value
			maps.Copy(values, e.Values)
			rec.Values = values
		}, e.Value != nil)
	case Rock:
		return a.recipe(e.Recipe, func(rec *plan.Recipe) { rec.Rockers = append(slices.Clone(rec.Rockers), e.Key) }, true)
	case Borrow:
		return a.borrow(e)
	case Plug:
		if slices.Contains(a.r.Guitars, e.Gear) {
			return reason.Errorf("it is plugged in already")
		}
		a.r.Guitars = append(slices.Clone(a.r.Guitars), e.Gear)
	case AddStop:
		return a.add(e)
	default:
		return reason.Errorf("there is no edit %q", e.Kind)
	}
	return nil
}

// path is the chain that is edited: the destination's own where it has one, else the rig's.
func (a *applier) path() []plan.Node {
	if d, ok := a.r.FindDestination(a.at.Destination); ok && len(d.Path) > 0 {
		return d.Path
	}
	return a.r.Path
}

func (a *applier) setPath(path []plan.Node) {
	if d, ok := a.r.FindDestination(a.at.Destination); ok && len(d.Path) > 0 {
		list := slices.Clone(a.r.Destinations)
		for i := range list {
			if list[i].ID == d.ID {
				list[i].Path = path
			}
		}
		a.r.Destinations = list
		return
	}
	a.r.Path = path
}

// recipe changes a recipe where it stands: over the rig at the destination, or in the rig.
func (a *applier) recipe(id plan.ID, change func(*plan.Recipe), valid bool) error {
	if !valid {
		return reason.Errorf("it needs a value")
	}
	if at := slices.IndexFunc(
		a.r.Destinations, func(d plan.Destination) bool { return d.ID == a.at.Destination },
	); at >= 0 {
		list := slices.Clone(a.r.Destinations)
		recipes := slices.Clone(list[at].Recipes)
		if i := slices.IndexFunc(recipes, func(x plan.Recipe) bool { return x.ID == id }); i >= 0 {
			change(&recipes[i])
			list[at].Recipes = recipes
			a.r.Destinations = list
			return nil
		}
	}
	recipes := slices.Clone(a.r.Recipes)
	i := slices.IndexFunc(recipes, func(x plan.Recipe) bool { return x.ID == id })
	if i < 0 {
		return reason.Errorf("the rig has no recipe %q", id)
	}
	change(&recipes[i])
	a.r.Recipes = recipes
	return nil
}

func (a *applier) swap(e Edit) error {
	own := a.r.Programs[e.Gear]
	if own == nil {
		return reason.Errorf("it has no programs")
	}
	r, err := switching.Exchanged(
		a.r, e.Gear, switching.Seat{Bank: e.Bank, Slot: e.Slot}, switching.Seat{Bank: e.ToBank, Slot: e.ToSlot},
	)
	if err != nil {
		return err
	}
	*a.r = *r
	return nil
}

// layout lays the programs of a controller out anew, for the set list and where the rig plugs in.
func (a *applier) layout(e Edit) error {
	laid := e.rig
	if laid == nil {
		q := *a.p
		q.Put(*a.r)
		there, err := q.At(a.at.Rig, a.at.Destination)
		if err != nil {
			return err
		}
		s, err := switching.Solve(
			a.ctx, there, a.at.Rig, e.SetList, switching.Options{Controller: e.Gear, School: e.School, ChooseLoops: e.Loops},
		)
		if err != nil {
			return err
		}
		laid = &s.Rig
	}
	a.r.Programs, a.r.Presets, a.r.Assignments = laid.Programs, laid.Presets, laid.Assignments
	if e.Loops {
		a.r.Held = laid.Held
		path := slices.Clone(a.path())
		for i := range path {
			if k := slices.IndexFunc(laid.Path, func(n plan.Node) bool { return n.ID() == path[i].ID() }); k >= 0 {
				path[i].Switcher, path[i].Loop = laid.Path[k].Switcher, laid.Path[k].Loop
			}
		}
		a.setPath(path)
	}
	return nil
}

// loop puts a stop into a loop and its state into every program, by the recipe of the sound that
// the program serves.
func (a *applier) loop(e Edit) error {
	path := slices.Clone(a.path())
	i := slices.IndexFunc(path, func(n plan.Node) bool { return n.Split == nil && n.Stop == e.Key })
	if i < 0 {
		return reason.Errorf("%s is not on the main line", e.Key)
	}
	path[i].Switcher, path[i].Loop = e.Gear, e.Loop
	a.setPath(path)
	programs := plan.ProgramMap{}
	maps.Copy(programs, a.r.Programs)
	banks := map[string]map[string]plan.Program{}
	for bank, slots := range programs[e.Gear] {
		banks[bank] = map[string]plan.Program{}
		for slot, program := range slots {
			if rec := a.r.RecipeFor(plan.Section{Sound: program.Sound}); rec != nil {
				values := map[plan.Key]plan.Value{}
				maps.Copy(values, program.Values)
				values[e.Key+"/on"] = plan.On(askedOf(a.r, rec, e.Key+"/on").IsOn())
				program.Values = values
			}
			banks[bank][slot] = program
		}
	}
	if len(banks) > 0 {
		programs[e.Gear] = banks
		a.r.Programs = programs
	}
	return nil
}

// borrow gives a sound a recipe made after another: one of this rig, or of another.
func (a *applier) borrow(e Edit) error {
	var from *plan.Recipe
	for i := range a.p.Rigs {
		for k := range a.p.Rigs[i].Recipes {
			if a.p.Rigs[i].Recipes[k].ID == e.Recipe {
				from = &a.p.Rigs[i].Recipes[k]
			}
		}
	}
	if from == nil {
		return reason.Errorf("there is no recipe %q", e.Recipe)
	}
	rec := *from
	rec.ID, rec.Sound, rec.Name = a.freshRecipe(), e.Sound, ""
	rec.Values = map[plan.Key]plan.Value{}
	known := map[plan.Key]bool{}
	for _, id := range a.gearHere() {
		if g, ok := a.p.FindGear(id); ok {
			for _, v := range g.Variables() {
				known[v.Key] = true
			}
		}
	}
	for key, x := range from.Values {
		if known[key] {
			rec.Values[key] = x
		}
	}
	rec.Rockers = slices.DeleteFunc(
		slices.Clone(rec.Rockers), func(k plan.Key) bool { return !slices.Contains(a.gearHere(), k.Gear()) },
	)
	a.r.Recipes = append(slices.Clone(a.r.Recipes), rec)
	return nil
}

func (a *applier) gearHere() []plan.ID {
	here := *a.r
	here.Path = a.path()
	return here.GearIn()
}

// freshRecipe is an id no recipe of the plan has.
func (a *applier) freshRecipe() plan.ID {
	taken := map[plan.ID]bool{}
	for _, x := range a.p.All() {
		taken[x.AggregateID()] = true
	}
	for i := range a.p.Rigs {
		for _, rec := range a.p.Rigs[i].Recipes {
			taken[rec.ID] = true
		}
		for _, d := range a.p.Rigs[i].Destinations {
			taken[d.ID] = true
			for _, rec := range d.Recipes {
				taken[rec.ID] = true
			}
		}
	}
	for n := 1; ; n++ {
		if id := plan.ID(fmt.Sprintf("recipe-%d", n)); !taken[id] {
			return id
		}
	}
}

// add puts the blocks of a box into the chain, side by side.
func (a *applier) add(e Edit) error {
	g, err := a.p.GearByID(e.Gear)
	if err != nil {
		return fmt.Errorf("%w", err)
	}
	path := a.path()
	if slices.ContainsFunc(plan.StopsIn(path), func(k plan.Key) bool { return k.Gear() == e.Gear }) {
		return reason.Errorf("%s is in the chain already", g.Name)
	}
	var nodes []plan.Node
	for _, b := range g.Blocks {
		nodes = append(nodes, plan.Node{Stop: plan.BlockKey(g.ID, b.ID)})
	}
	at := min(e.At, len(path))
	a.setPath(slices.Concat(path[:at], nodes, path[at:]))
	a.settle(e.Gear)
	return nil
}

// settle sets a box that is new in the rig as another rig has it: base settings and presets.
func (a *applier) settle(gear plan.ID) {
	base := map[plan.Key]plan.Value{}
	maps.Copy(base, a.r.Base)
	for i := range a.p.Rigs {
		other := &a.p.Rigs[i]
		if other.ID == a.r.ID || !slices.Contains(other.GearIn(), gear) {
			continue
		}
		for key, x := range other.Base {
			if _, set := base[key]; key.Gear() == gear && !set {
				base[key] = x
			}
		}
		if held := other.Presets[gear]; held != nil && a.r.Presets[gear] == nil {
			presets := plan.PresetMap{}
			maps.Copy(presets, a.r.Presets)
			presets[gear] = held
			a.r.Presets = presets
		}
	}
	if len(base) > 0 {
		a.r.Base = base
	}
}

func askedOf(r *plan.Rig, rec *plan.Recipe, key plan.Key) plan.Value {
	if x, ok := rec.Values[key]; ok && !x.IsZero() {
		return x
	}
	return r.Base[key]
}
