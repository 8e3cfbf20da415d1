package plan

import "cmp"

// Used is a rig as it is set for a sound of a set: by one of its recipes.
type Used struct {
	Name     string // of the sound, and in brackets of the recipe where that has one
	Sound    *Sound
	Recipe   *Recipe
	Sections int           // of the set that are played so
	Guitar   ID            // what it is played on where the song does not say
	On       map[ID]int    // of the sections, how many are played on each guitar
	Values   map[Key]Value // lengths of notes as they are: they follow the song
}

// Setting is how the rig stands in it.
func (u Used) Setting() Setting { return Setting{Values: u.Values, Guitar: u.Guitar} }

// UsedIn are the settings of a rig for the sounds of a set, each recipe that is used once, in the order in which they
// first come. There are none where the plan has no such set list.
func (p *Plan) UsedIn(r *Rig, setList ID) []Used {
	list := []Used{}
	l, ok := p.FindSetList(setList)
	if !ok {
		return list
	}
	seen := map[[2]ID]int{}
	for _, e := range l.Entries {
		song, ok := p.FindSong(e.Song)
		if !ok {
			continue
		}
		for _, sec := range song.Sections {
			sound, ok := p.FindSound(sec.Sound)
			rec := r.RecipeFor(sec)
			if !ok || rec == nil {
				continue
			}
			key := [2]ID{sound.ID, rec.ID}
			i, ok := seen[key]
			if !ok {
				i = len(list)
				seen[key] = i
				list = append(list, p.usedFor(r, rec, sound))
			}
			list[i].Sections++
			list[i].On[cmp.Or(song.Guitar, list[i].Guitar)]++
		}
	}
	return list
}

func (p *Plan) usedFor(r *Rig, rec *Recipe, sound *Sound) Used {
	set := p.SetFor(r, rec, sound, Tempo{})
	name := sound.Name
	if rec.Name != "" {
		name += " (" + rec.Name + ")"
	}
	return Used{Name: name, Sound: sound, Recipe: rec, Guitar: set.Guitar, On: map[ID]int{}, Values: set.Values}
}
