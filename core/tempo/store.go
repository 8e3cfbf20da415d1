package tempo

import (
	"fmt"
	"maps"
	"slices"

	"envex/core/plan"
)

// Storage is a rig and songs with the times of the set in presets.
type Storage struct {
	Rig   plan.Rig
	Songs []plan.Song // those that changed
	Words []string    // what was done
}

// Store puts the fewest times that serve the set into the presets of each device that stores them. The
// first time of a sound goes where its recipe's preset is; each other takes a preset that nothing uses,
// and a recipe of its own which the sections of its songs choose. It fails when rig or set list are not
// there, and when a device has too few presets: then nothing is changed.
func Store(p *plan.Plan, rig, setList plan.ID) (*Storage, error) {
	night, err := Plan(p, rig, "", setList)
	if err != nil {
		return nil, err
	}
	r, _ := p.FindRig(rig)
	s := &storing{plan: p, out: &Storage{Rig: cloned(r), Words: []string{}}, taken: map[plan.ID]map[string]bool{}, songs: map[plan.ID]*plan.Song{}, same: map[string]string{}}
	for _, x := range night.Presets {
		if err := s.sound(night, x); err != nil {
			return nil, err
		}
	}
	for _, song := range p.Songs {
		if changed, ok := s.songs[song.ID]; ok {
			s.out.Songs = append(s.out.Songs, *changed)
		}
	}
	return s.out, nil
}

// cloned is a rig whose presets and recipes can be changed without the plan's changing.
func cloned(r *plan.Rig) plan.Rig {
	out := *r
	out.Presets = plan.PresetMap{}
	for id, presets := range r.Presets {
		out.Presets[id] = map[string]map[plan.Key]plan.Value{}
		for name, values := range presets {
			out.Presets[id][name] = maps.Clone(values)
		}
	}
	out.Recipes = slices.Clone(r.Recipes)
	return out
}

type storing struct {
	plan  *plan.Plan
	out   *Storage
	taken map[plan.ID]map[string]bool
	songs map[plan.ID]*plan.Song
	same  map[string]string // the preset of a time that was stored, by device, preset it came from, and time
}

// sound stores the times of one sound on one device.
func (s *storing) sound(night *Night, x PresetPlan) error {
	g, ok := s.plan.FindGear(x.Gear)
	if !ok {
		return nil
	}
	preset, ok := g.PresetControl()
	if !ok {
		return nil // one memory alone: its time is set where it stands
	}
	recipes := s.recipesOf(night, x)
	for _, id := range recipes {
		i := slices.IndexFunc(s.out.Rig.Recipes, func(rec plan.Recipe) bool { return rec.ID == id })
		if i < 0 {
			continue
		}
		if err := s.recipe(night, x, preset, s.out.Rig.Recipes[i]); err != nil {
			return err
		}
	}
	return nil
}

// recipesOf are the recipes by which a plan's uses make its sound.
func (s *storing) recipesOf(night *Night, x PresetPlan) []plan.ID {
	var list []plan.ID
	for _, song := range night.Songs {
		for _, u := range song.Uses {
			if u.Variable == x.Variable && u.Sound == x.Sound && u.Note == x.Note && !slices.Contains(list, u.Recipe) {
				list = append(list, u.Recipe)
			}
		}
	}
	return list
}

func (s *storing) recipe(night *Night, x PresetPlan, preset plan.Variable, rec plan.Recipe) error {
	own := s.standsOn(preset, rec)
	for _, t := range x.Times {
		titles := s.titles(night, x, rec.ID, t)
		if len(titles) == 0 {
			continue
		}
		same := fmt.Sprint(x.Gear, "|", own, "|", t.MS)
		option, known := s.same[same]
		if !known {
			var err error
			if option, err = s.option(x, preset, own); err != nil {
				return err
			}
			s.same[same] = option
		}
		values := maps.Clone(s.out.Rig.Presets[x.Gear][own])
		if values == nil {
			values = map[plan.Key]plan.Value{}
		}
		values[x.Variable] = plan.Number(t.MS)
		if s.out.Rig.Presets[x.Gear] == nil {
			s.out.Rig.Presets[x.Gear] = map[string]map[plan.Key]plan.Value{}
		}
		s.out.Rig.Presets[x.Gear][option] = values
		s.out.Words = append(s.out.Words, fmt.Sprintf("%s preset %s is %.0f ms, for %s in %s.", x.Name, option, t.MS, x.SoundName, plan.Listed(titles)))
		if option != own {
			s.choose(night, x, preset, rec, option, t)
		}
	}
	return nil
}

// standsOn is the preset a recipe has its device on.
func (s *storing) standsOn(preset plan.Variable, rec plan.Recipe) string {
	v, ok := rec.Values[preset.Key]
	if !ok || v.Kind() != plan.TextValue {
		v = s.out.Rig.BaseValue(preset)
	}
	return v.Word()
}

// titles are the songs that a time serves by a recipe.
func (s *storing) titles(night *Night, x PresetPlan, recipe plan.ID, t Serving) []string {
	var list []string
	for _, song := range night.Songs {
		if !slices.Contains(t.Songs, song.Title) || slices.Contains(list, song.Title) {
			continue
		}
		if slices.ContainsFunc(song.Uses, func(u Use) bool { return u.Variable == x.Variable && u.Recipe == recipe && u.Note == x.Note }) {
			list = append(list, song.Title)
		}
	}
	return list
}

// option is a preset for a time: the recipe's own, where no other time has it, else one that nothing of
// the rig uses.
func (s *storing) option(x PresetPlan, preset plan.Variable, own string) (string, error) {
	taken := s.taken[x.Gear]
	if taken == nil {
		taken = map[string]bool{}
		s.taken[x.Gear] = taken
	}
	if !taken[own] {
		taken[own] = true
		return own, nil
	}
	used := map[string]bool{s.out.Rig.BaseValue(preset).Word(): true}
	for _, rec := range s.out.Rig.Recipes {
		if v, ok := rec.Values[preset.Key]; ok {
			used[v.Word()] = true
		}
	}
	for _, banks := range s.out.Rig.Programs {
		for _, slots := range banks {
			for _, program := range slots {
				if v, ok := program.Values[preset.Key]; ok {
					used[v.Word()] = true
				}
			}
		}
	}
	for _, o := range preset.Control.Options {
		if !taken[o] && !used[o] {
			taken[o] = true
			return o, nil
		}
	}
	return "", fmt.Errorf("tempo: %s has %d presets, and the set needs more times than that", x.Name, len(preset.Control.Options))
}

// choose gives the songs of a time a recipe that stands on its preset.
func (s *storing) choose(night *Night, x PresetPlan, preset plan.Variable, rec plan.Recipe, option string, t Serving) {
	next := rec
	next.ID = plan.ID(fmt.Sprintf("%.40s-%s-%.12s", rec.ID, x.Gear, option))
	next.Name = fmt.Sprintf("%s at %.0f ms", x.Name, t.MS)
	next.Values = maps.Clone(rec.Values)
	if next.Values == nil {
		next.Values = map[plan.Key]plan.Value{}
	}
	next.Values[preset.Key] = plan.Text(option)
	if i := slices.IndexFunc(s.out.Rig.Recipes, func(r plan.Recipe) bool { return r.ID == next.ID }); i >= 0 {
		s.out.Rig.Recipes[i] = next
	} else {
		s.out.Rig.Recipes = append(s.out.Rig.Recipes, next)
	}
	for _, entry := range night.Songs {
		if !slices.Contains(t.Songs, entry.Title) {
			continue
		}
		song := s.songs[entry.Song]
		if song == nil {
			found, ok := s.plan.FindSong(entry.Song)
			if !ok {
				continue
			}
			copied := *found
			copied.Sections = slices.Clone(found.Sections)
			song = &copied
		}
		changed := false
		for i := range song.Sections {
			sec := &song.Sections[i]
			if sec.Sound != x.Sound {
				continue
			}
			if was := s.out.Rig.RecipeFor(*sec); was != nil && was.ID == rec.ID {
				sec.Recipe, changed = next.ID, true
			}
		}
		if changed {
			s.songs[entry.Song] = song
		}
	}
}
