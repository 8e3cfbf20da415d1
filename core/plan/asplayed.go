package plan

import (
	"cmp"
	"fmt"
	"slices"
)

// PickedRig is a rig with boxes of swap slots in the places of those that stand in its chain, in a plan of its own.
type PickedRig struct {
	Name  string // tells what is picked apart: "" for what stands in the chain
	Picks []Pick
	Plan  *Plan
	Rig   *Rig
}

// Boxes are the names of the boxes that are picked.
func (x *PickedRig) Boxes() []string {
	var names []string
	for _, pick := range x.Picks {
		if g, ok := x.Plan.FindGear(pick.Gear); ok {
			names = append(names, g.Name)
		}
	}
	return names
}

// PlayedSong is a song of a set on the rig as it stands then. Its sections begin at a position in the set, from 0.
type PlayedSong struct {
	Song  *Song
	Begin int
	On    *PickedRig
}

// AsPlayed are the songs of a set in its order, each with the rig as it stands then: songs that pick the same boxes
// share one. It fails where rig or set list is not in the plan, or a box cannot stand where it is asked to.
func (p *Plan) AsPlayed(rig, setList ID) ([]PlayedSong, error) {
	r, err := p.RigByID(rig)
	if err != nil {
		return nil, fmt.Errorf("plan: %w", err)
	}
	l, err := p.SetListByID(setList)
	if err != nil {
		return nil, fmt.Errorf("plan: %w", err)
	}
	standings := map[string]*PickedRig{}
	var list []PlayedSong
	begin := 0
	for _, e := range l.Entries {
		song, ok := p.FindSong(e.Song)
		if !ok {
			continue
		}
		picks := r.PicksFor(song.ID)
		name := ""
		if len(picks) > 0 {
			name = fmt.Sprint(picks)
		}
		on := standings[name]
		if on == nil {
			if on, err = p.pickedRig(rig, name, picks); err != nil {
				return nil, err
			}
			standings[name] = on
		}
		list = append(list, PlayedSong{Song: song, Begin: begin, On: on})
		begin += len(song.Sections)
	}
	return list, nil
}

func (p *Plan) pickedRig(rig ID, name string, picks []Pick) (*PickedRig, error) {
	there := p
	if len(picks) > 0 {
		var err error
		if there, err = p.WithPicks(rig, picks); err != nil {
			return nil, err
		}
	}
	r, err := there.RigByID(rig)
	if err != nil {
		return nil, fmt.Errorf("plan: %w", err)
	}
	return &PickedRig{Name: name, Picks: picks, Plan: there, Rig: r}, nil
}

// PlayedIn is the plan with a rig as one song is played on it: the boxes that the song picks stand in the swap slots,
// the recipes that its sections name come before others of their sounds, and sounds have its tempo. The plan is not
// changed.
// It fails where rig or song is not in the plan, or a box cannot stand where the song asks for it.
func (p *Plan) PlayedIn(rig, song ID) (*Plan, error) {
	r, err := p.RigByID(rig)
	if err != nil {
		return nil, fmt.Errorf("plan: %w", err)
	}
	x, err := p.SongByID(song)
	if err != nil {
		return nil, fmt.Errorf("plan: %w", err)
	}
	there, err := p.WithPicks(rig, r.PicksFor(song))
	if err != nil {
		return nil, err
	}
	on, _ := there.FindRig(rig)
	q, with := *there, *on
	with.Recipes = first(on.Recipes, func(rec Recipe) bool {
		return slices.ContainsFunc(x.Sections, func(s Section) bool { return s.Recipe == rec.ID })
	})
	q.Put(with)
	// Sounds take the tempo of the first song that has them.
	q.Songs = first(there.Songs, func(s Song) bool { return s.ID == song })
	return &q, nil
}

// PutBack is a rig that was changed as a song is played on it, as [Plan.PlayedIn] gives it, with the boxes back in the
// swap slots that stand there in the other, and recipes in their order: what was said of a box that was picked is kept
// with its slot. It fails where the rigs have other slots.
func (p *Plan) PutBack(played Rig, was *Rig) (Rig, error) {
	next, q := played, *p
	for i := range was.Swaps {
		q.Put(next)
		s := &was.Swaps[i]
		var err error
		if next, err = q.Picked(&next, s.ID, was.InSlot(s)); err != nil {
			return Rig{}, err
		}
	}
	at := map[ID]int{}
	for i := range was.Recipes {
		at[was.Recipes[i].ID] = i
	}
	next.Recipes = slices.Clone(next.Recipes)
	slices.SortStableFunc(next.Recipes, func(a, b Recipe) int { return cmp.Compare(at[a.ID], at[b.ID]) })
	return next, nil
}

// first is a list with some of it before the others.
func first[T any](list []T, is func(T) bool) []T {
	front, others := parted(list, is)
	return append(slices.Clip(front), others...)
}

// Otherwise is a way in which songs of a set are played that is not how the rig stands.
type Otherwise struct {
	Songs []ID   `json:"songs" doc:"In the order of the set."`
	Words string `json:"words" doc:"What is other than in the chain, and than the first recipes."`
	Stops []Key  `json:"stops" doc:"The stops of the chain then."`
}

// PlayedOtherwise are the songs of a set that pick a box of a swap slot which is not in the chain, or name a recipe
// that is not the first of its sound. It fails where [Plan.AsPlayed] does.
func (p *Plan) PlayedOtherwise(rig, setList ID) ([]Otherwise, error) {
	songs, err := p.AsPlayed(rig, setList)
	if err != nil {
		return nil, err
	}
	list := []Otherwise{}
	for _, x := range songs {
		words := p.otherThan(x)
		if words == "" {
			continue
		}
		i := slices.IndexFunc(list, func(o Otherwise) bool { return o.Words == words })
		if i < 0 {
			i = len(list)
			list = append(list, Otherwise{Words: words, Stops: x.On.Rig.Stops()})
		}
		if !slices.Contains(list[i].Songs, x.Song.ID) {
			list[i].Songs = append(list[i].Songs, x.Song.ID)
		}
	}
	return list, nil
}

// otherThan says what is other while a song is played.
func (p *Plan) otherThan(x PlayedSong) string {
	var parts []string
	if boxes := x.On.Boxes(); len(boxes) > 0 {
		parts = append(parts, "with "+Listed(boxes))
	}
	for _, s := range x.Song.Sections {
		rec, first := x.On.Rig.RecipeFor(s), x.On.Rig.RecipeFor(Section{Sound: s.Sound})
		sound, ok := p.FindSound(s.Sound)
		if rec == nil || rec.ID == first.ID || !ok {
			continue
		}
		words := sound.Name + " by another recipe"
		if rec.Name != "" {
			words = sound.Name + " by " + rec.Name
		}
		if !slices.Contains(parts, words) {
			parts = append(parts, words)
		}
	}
	return Listed(parts)
}
