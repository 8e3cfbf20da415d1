package night

import (
	"cmp"
	"fmt"
	"slices"

	"envex/core/failure"
	"envex/core/plan"
)

// Trouble is something that broke, and how it is gone round.
type Trouble struct {
	Event plan.ID         `json:"event"`
	Gear  plan.ID         `json:"gear"`
	Name  string          `json:"name"`
	Way   Way             `json:"way"`
	Words string          `json:"words" doc:"What is done about it."`
	Out   []plan.ID       `json:"out" doc:"What does nothing any more."`
	Lost  []failure.Sound `json:"lost" doc:"The sounds of the set that are lost or changed by it."`
}

// place is a section of a song.
type place struct{ song, section plan.ID }

// substitute is what a section has instead of the sound it asks for.
type substitute struct {
	meant   string // the sound it would have, where it has another
	without string
}

// asItIs is the plan with everything done that goes round what broke: the rig where it is plugged in, without what does
// nothing any more. Sections whose sound is lost have the one that comes nearest.
func (g *stage) asItIs() (*plan.Plan, map[place]substitute, error) {
	destination := g.show.Destination
	for _, e := range g.troubles {
		if e.Way.Round == PlugInto {
			destination = e.Way.Takes
		}
	}
	p, err := g.given.At(g.rig, destination)
	if err != nil {
		return nil, nil, fmt.Errorf("night: %w", err)
	}
	w := &wreck{plan: p, rig: g.rig, marks: map[place]substitute{}}
	g.out.Troubles = []Trouble{}
	for _, e := range g.troubles {
		t, err := w.round(g, e)
		if err != nil {
			return nil, nil, err
		}
		if t.Words != "" { // else that way could not be gone, which is said
			g.out.Troubles = append(g.out.Troubles, *t)
		}
	}
	return w.plan, w.marks, nil
}

// wreck is a plan while what broke is taken out of it.
type wreck struct {
	plan  *plan.Plan
	rig   plan.ID
	marks map[place]substitute
}

// round has a plan go round one thing that broke.
func (w *wreck) round(g *stage, e Event) (*Trouble, error) {
	gear, _ := w.plan.FindGear(e.Gear)
	t := &Trouble{
		Event: e.ID, Gear: e.Gear, Name: gear.Name, Way: *e.Way, Out: []plan.ID{e.Gear}, Lost: []failure.Sound{},
	}
	takes := ""
	if x, ok := w.plan.FindGear(e.Way.Takes); ok {
		takes = x.Name
	}
	r, err := w.plan.RigByID(w.rig)
	if err != nil {
		return nil, fmt.Errorf("night: %w", err)
	}
	switch e.Way.Round {
	case PlugInto:
		d, _ := r.FindDestination(e.Way.Takes)
		t.Words = "plugged into " + d.Name
	case OtherGuitar:
		t.Words = "played on " + takes
		w.guitar(r, e.Gear, e.Way.Takes)
	case PutIn:
		other, _ := w.plan.FindGear(e.Way.Takes)
		next, _, ok := w.plan.Instead(r, e.Gear, other)
		if !ok {
			g.out.Ignored = append(g.out.Ignored, fmt.Sprintf("%s cannot take the place of %s", takes, gear.Name))
			break
		}
		t.Words = takes + " in its place"
		q := *w.plan
		q.Put(next)
		w.plan = &q
	case LeaveOut:
		return t, w.leave(g, t)
	}
	return t, nil
}

// leave takes a box out, and gives the sections that need it what comes nearest.
func (w *wreck) leave(g *stage, t *Trouble) error {
	q := *w.plan
	q.SetLists = append(
		slices.Clone(q.SetLists), plan.SetList{ID: songbook, Name: "Songs", Entries: g.everySong(w.plan)},
	)
	f, err := failure.On(&q, w.rig, "", songbook)
	if err != nil {
		return fmt.Errorf("night: %w", err)
	}
	fate, err := f.Without(t.Gear)
	if err != nil {
		return fmt.Errorf("night: %w", err)
	}
	t.Words, t.Out = fate.Round, fate.Out
	byRecipe := map[plan.ID]failure.Sound{}
	for _, s := range fate.Sounds {
		byRecipe[s.Recipe] = s
		if s.State == failure.Lost || s.State == failure.Changed {
			t.Lost = append(t.Lost, s)
		}
	}
	r, _ := w.plan.FindRig(w.rig)
	next := *w.plan
	next.Songs = slices.Clone(next.Songs)
	for i := range next.Songs {
		song := &next.Songs[i]
		song.Sections = slices.Clone(song.Sections)
		for k := range song.Sections {
			rec := r.RecipeFor(song.Sections[k])
			if rec == nil {
				continue
			}
			if s, ok := byRecipe[rec.ID]; ok {
				w.give(song.ID, &song.Sections[k], s)
			}
		}
	}
	out := map[plan.ID]bool{}
	for _, id := range fate.Out {
		out[id] = true
	}
	w.plan = failure.Taken(&next, r, out)
	return nil
}

// give has a section played by what is left of its sound.
func (w *wreck) give(song plan.ID, sec *plan.Section, s failure.Sound) {
	mark := w.marks[place{song, sec.ID}]
	switch s.State {
	case failure.Other:
		sec.Recipe = s.ByRecipe
	case failure.Changed:
		mark.without = joined(mark.without, s.Without)
	case failure.Lost:
		if len(s.Instead) == 0 || s.Instead[0].Same {
			mark.without = joined(mark.without, s.Without)
			break
		}
		mark = substitute{meant: cmp.Or(mark.meant, s.Name)}
		sec.Sound, sec.Recipe = s.Instead[0].Sound, s.Instead[0].Recipe
	}
	if mark != (substitute{}) {
		w.marks[place{song, sec.ID}] = mark
	}
}

func joined(a, b string) string {
	if a == "" || a == b {
		return b
	}
	return a + ", " + b
}

// guitar has everything that is played on a guitar played on another.
func (w *wreck) guitar(r *plan.Rig, broken, other plan.ID) {
	q := *w.plan
	to := func(id *plan.ID) {
		if *id == broken {
			*id = other
		}
	}
	next := *r
	next.Guitars = []plan.ID{other}
	for _, id := range r.Guitars {
		if id != broken && id != other {
			next.Guitars = append(next.Guitars, id)
		}
	}
	if len(r.Guitars) > 0 && r.Guitars[0] != broken {
		next.Guitars = slices.DeleteFunc(slices.Clone(r.Guitars), func(id plan.ID) bool { return id == broken })
		if !slices.Contains(next.Guitars, other) {
			next.Guitars = append(next.Guitars, other)
		}
	}
	next.Recipes = slices.Clone(r.Recipes)
	for i := range next.Recipes {
		to(&next.Recipes[i].Guitar)
	}
	q.Songs, q.Sounds = slices.Clone(q.Songs), slices.Clone(q.Sounds)
	for i := range q.Songs {
		to(&q.Songs[i].Guitar)
	}
	for i := range q.Sounds {
		to(&q.Sounds[i].Targets.Guitar)
	}
	q.Put(next)
	w.plan = &q
}
