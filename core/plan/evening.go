package plan

import (
	"fmt"
	"maps"
	"slices"
	"strconv"
	"strings"
)

// Evening is a rig as a set is played on it where songs ask for another box of a swap slot than the one in the chain.
// The boxes of a slot stand behind each other in the chain of its plan; while a song is played with one of them, nothing
// is asked of the others. It answers for switches, hands and time, and not for the signal.
type Evening struct {
	Plan  *Plan
	Swaps []Swap        // slots at which boxes are changed
	Songs map[ID][]Pick // what stands in each of these slots, by song, where it is not what is in the chain
}

// recipeMark ends the id of a recipe that is told apart for an evening: no id in a file has it.
const recipeMark = "~"

// OwnRecipe is the id of a recipe in the file, of one that stands in the plan of an evening.
func OwnRecipe(id ID) ID {
	own, _, _ := strings.Cut(string(id), recipeMark)
	return ID(own)
}

// EveningOf is a rig of the plan as a set is played on it; the plan itself where no song of the set asks for another box.
// The plan is not changed. It fails where rig or set list is not in the plan, or a box cannot stand where it is asked to.
func (p *Plan) EveningOf(rig, setList ID) (*Evening, error) {
	r, err := p.RigByID(rig)
	if err != nil {
		return nil, fmt.Errorf("plan: %w", err)
	}
	l, err := p.SetListByID(setList)
	if err != nil {
		return nil, fmt.Errorf("plan: %w", err)
	}
	e := &Evening{Plan: p, Songs: map[ID][]Pick{}}
	for _, x := range l.Entries {
		if picks := r.PicksFor(x.Song); len(picks) > 0 {
			e.Songs[x.Song] = picks
		}
	}
	for _, s := range r.Swaps {
		for _, picks := range e.Songs {
			if slices.ContainsFunc(picks, func(x Pick) bool { return x.Swap == s.ID }) {
				e.Swaps = append(e.Swaps, s)
				break
			}
		}
	}
	if len(e.Songs) == 0 {
		return e, nil
	}
	return e, e.build(p, r)
}

// PicksFor are the boxes of swap slots that a song is played with where another of the slot is in the chain.
func (r *Rig) PicksFor(song ID) []Pick {
	var picks []Pick
	for i := range r.Swaps {
		s := &r.Swaps[i]
		there := r.InSlot(s)
		if !standsIn(r, there) {
			continue // the chain is another, at a destination
		}
		for _, b := range s.Boxes {
			if b.Gear != there && slices.Contains(b.Songs, song) {
				picks = append(picks, Pick{Swap: s.ID, Gear: b.Gear})
			}
		}
	}
	return picks
}

// build makes the plan in which all boxes that are asked for stand.
func (e *Evening) build(p *Plan, r *Rig) error {
	q := *p
	all := *r
	all.Path, all.Recipes, all.Swaps = slices.Clone(r.Path), nil, nil // nothing is left to pick
	boxes := map[ID]bool{}
	for _, s := range e.Swaps {
		boxes[r.InSlot(&s)] = true
	}
	for _, picks := range e.Songs {
		for _, x := range picks {
			boxes[x.Gear] = true
		}
	}
	for _, rec := range r.Recipes {
		all.Recipes = append(all.Recipes, p.askingOnly(rec, boxes, func(id ID) bool { return standsIn(r, id) }))
	}
	q.Songs = slices.Clone(p.Songs)
	made := map[string]*Rig{}
	for i := range q.Songs {
		picks := e.Songs[q.Songs[i].ID]
		if len(picks) == 0 {
			continue
		}
		name := fmt.Sprint(picks)
		with, known := made[name]
		if !known {
			there, err := p.WithPicks(r.ID, picks)
			if err != nil {
				return err
			}
			with, _ = there.FindRig(r.ID)
			made[name] = with
			all = joinedBy(all, r, with, picks)
		}
		all.Recipes = append(all.Recipes, p.ownRecipes(&q.Songs[i], with, boxes, len(made))...)
	}
	q.Put(all)
	e.Plan = &q
	return nil
}

func standsIn(r *Rig, id ID) bool {
	return slices.ContainsFunc(r.Stops(), func(k Key) bool { return k.Gear() == id })
}

// askingOnly is a recipe that asks nothing of boxes of slots but of those that stand there.
func (p *Plan) askingOnly(rec Recipe, boxes map[ID]bool, stands func(ID) bool) Recipe {
	values := map[Key]Value{}
	for k, v := range rec.Values {
		values[k] = v
	}
	for _, id := range SortedKeys(boxes) {
		if g, ok := p.FindGear(id); ok && !stands(id) {
			for _, v := range g.Variables() {
				values[v.Key] = Free()
			}
		}
	}
	rec.Values = values
	return rec
}

// ownRecipes gives a song recipes of its own, as it is played with its picks, and returns them.
func (p *Plan) ownRecipes(song *Song, with *Rig, boxes map[ID]bool, number int) []Recipe {
	var list []Recipe
	song.Sections = slices.Clone(song.Sections)
	for i := range song.Sections {
		rec := with.RecipeFor(song.Sections[i])
		if rec == nil {
			continue
		}
		own := p.askingOnly(*rec, boxes, func(id ID) bool { return standsIn(with, id) })
		own.ID = rec.ID + recipeMark + ID(strconv.Itoa(number)) + recipeMark + song.ID
		song.Sections[i].Recipe = own.ID
		if !slices.ContainsFunc(list, func(x Recipe) bool { return x.ID == own.ID }) {
			list = append(list, own)
		}
	}
	return list
}

// joinedBy is a rig with the boxes of some picks behind those in whose slot they stand, set, switched and placed as they
// are in the rig where they are picked.
func joinedBy(all Rig, r, with *Rig, picks []Pick) Rig {
	for _, x := range picks {
		if standsIn(&all, x.Gear) {
			continue
		}
		s, _ := r.FindSwap(x.Swap)
		is := func(k Key) bool { return k.Gear() == x.Gear }
		all.Path = behind(all.Path, r.Path, with.Path, r.InSlot(s))
		all.Base = replaced(all.Base, x.Gear, valuesOf(with.Base, x.Gear))
		for _, guitar := range SortedKeys(with.PerGuitar) {
			if values := valuesOf(with.PerGuitar[guitar], x.Gear); values != nil {
				all.PerGuitar = maps.Clone(all.PerGuitar)
				if all.PerGuitar == nil {
					all.PerGuitar = map[ID]map[Key]Value{}
				}
				all.PerGuitar[guitar] = replaced(all.PerGuitar[guitar], x.Gear, values)
			}
		}
		places := replacedPlace(all.Floor.Places, x.Gear, with.Floor.Places)
		all.Floor.Places = places
		own := with.about(x.Gear)
		all.Assignments = bothPresses(all.Assignments, own.Assignments)
		all.MIDI = append(slices.Clone(all.MIDI), own.MIDI...)
		all.Relays = append(slices.Clone(all.Relays), own.Relays...)
		all.OwnSwitches = append(slices.Clone(all.OwnSwitches), own.OwnSwitches...)
		stomps, _ := parted(with.Floor.DoubleStomps, func(d DoubleStomp) bool { return is(d.A) || is(d.B) })
		all.Floor.DoubleStomps = append(slices.Clone(all.Floor.DoubleStomps), stomps...)
		all.Clocks = own.inClocks(all.Clocks)
		programs := own.inPrograms(all.Programs, x.Gear)
		all.Programs = programs
	}
	return all
}

// behind puts each stop of another box behind the one that it stands for: two paths of the same form, told apart by one.
func behind(into, was, is []Node, there ID) []Node {
	stands := map[Key]Key{}
	var match func(a, b []Node)
	match = func(a, b []Node) {
		for i := range a {
			if a[i].Stop.Gear() == there && a[i].Split == nil {
				stands[a[i].Stop] = b[i].Stop
			}
			if a[i].Split != nil {
				for j := range a[i].Split.Lanes {
					match(a[i].Split.Lanes[j].Nodes, b[i].Split.Lanes[j].Nodes)
				}
			}
		}
	}
	match(was, is)
	var put func([]Node) []Node
	put = func(nodes []Node) []Node {
		var out []Node
		for _, n := range nodes {
			if n.Split != nil {
				s := *n.Split
				s.Lanes = slices.Clone(s.Lanes)
				for i := range s.Lanes {
					s.Lanes[i].Nodes = put(s.Lanes[i].Nodes)
				}
				n.Split = &s
			}
			out = append(out, n)
			if other, ok := stands[n.Stop]; ok && n.Split == nil {
				n.Stop = other
				out = append(out, n)
			}
		}
		return out
	}
	return put(into)
}

func replacedPlace(places map[ID]Placement, id ID, from map[ID]Placement) map[ID]Placement {
	at, ok := from[id]
	if !ok {
		return places
	}
	out := map[ID]Placement{id: at}
	for k, v := range places {
		if k != id {
			out[k] = v
		}
	}
	return out
}

// bothPresses are assignments with others added: a switch that does something to each of two boxes does both.
func bothPresses(list, others []Assignment) []Assignment {
	out := slices.Clone(list)
	for _, b := range others {
		i := slices.IndexFunc(out, func(a Assignment) bool { return a.Gear == b.Gear && a.Switch == b.Switch })
		if i < 0 {
			out = append(out, b)
			continue
		}
		a := out[i]
		a.Press, a.Hold, a.Double = bothActs(a.Press, b.Press), bothActs(a.Hold, b.Hold), bothActs(a.Double, b.Double)
		out[i] = a
	}
	return out
}

func bothActs(a, b *Press) *Press {
	if a == nil || b == nil {
		if a == nil {
			return b
		}
		return a
	}
	both := Press{Momentary: a.Momentary, Actions: slices.Clone(a.Actions)}
	for _, x := range b.Actions {
		if !slices.ContainsFunc(both.Actions, func(y Action) bool { return y.Kind == x.Kind && y.Target == x.Target }) {
			both.Actions = append(both.Actions, x)
		}
	}
	return &both
}
