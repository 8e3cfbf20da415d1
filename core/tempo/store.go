package tempo

import (
	"fmt"
	"maps"
	"slices"

	"envex/core/plan"
	"envex/core/reason"
)

// Storage is a rig and songs with the times of the set in presets.
type Storage struct {
	Rig        plan.Rig
	Songs      []plan.Song // those that changed
	Words      []string    // what was done
	Overwrites []Overwrite
}

// Overwrite is a preset that held another time.
type Overwrite struct {
	Gear   plan.ID `json:"gear"`
	Name   string  `json:"name"`
	Preset string  `json:"preset"`
	Was    float64 `json:"was_ms"`
	Is     float64 `json:"is_ms"`
	Words  string  `json:"words"`
}

// Store puts the fewest times that serve the set into the presets of each device that stores them. A time
// goes where a recipe's preset is that it serves, one that holds it already first; each other takes a preset
// that nothing uses, and a recipe of its own which the sections of its songs choose. Where sounds are named,
// only their times are stored. It fails when rig or set list are not there, and when a device has too few
// presets: then nothing is changed.
func Store(p *plan.Plan, rig, setList plan.ID, only ...plan.ID) (*Storage, error) {
	night, err := Plan(p, rig, "", setList)
	if err != nil {
		return nil, err
	}
	r, _ := p.FindRig(rig)
	s := &storing{
		plan: p, only: only, out: &Storage{Rig: cloned(r), Words: []string{}, Overwrites: []Overwrite{}},
		taken: map[plan.ID]map[string]bool{}, songs: map[plan.ID]*plan.Song{}, from: map[plan.ID]plan.ID{},
	}
	for _, x := range night.Presets {
		if err := s.device(night, x); err != nil {
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
	only  []plan.ID
	out   *Storage
	taken map[plan.ID]map[string]bool
	songs map[plan.ID]*plan.Song
	from  map[plan.ID]plan.ID // what each recipe that was made was made from
}

// device stores the times of one device that can share presets.
func (s *storing) device(night *Night, x PresetPlan) error {
	g, ok := s.plan.FindGear(x.Gear)
	if !ok {
		return nil
	}
	preset, ok := g.PresetControl()
	if !ok {
		return nil // one memory alone: its time is set where it stands
	}
	// Times that are where they belong stay there, before others look for a place.
	times := slices.Clone(x.Times)
	slices.SortStableFunc(times, func(a, b Serving) int {
		return map[bool]int{true: 0, false: 1}[a.Kept] - map[bool]int{true: 0, false: 1}[b.Kept]
	})
	for _, t := range times {
		if len(s.only) > 0 && !slices.ContainsFunc(t.For, func(f Served) bool { return slices.Contains(s.only, f.Sound) }) {
			continue
		}
		if err := s.time(night, x, preset, t); err != nil {
			return err
		}
	}
	return nil
}

// time puts one time into a preset, and has the recipes that it serves stand on that.
func (s *storing) time(night *Night, x PresetPlan, preset plan.Variable, t Serving) error {
	owns := []string{} // the presets that the recipes stand on
	recipes := []plan.Recipe{}
	for _, f := range t.For {
		i := slices.IndexFunc(s.out.Rig.Recipes, func(rec plan.Recipe) bool { return rec.ID == f.Recipe })
		if i < 0 || slices.ContainsFunc(recipes, func(rec plan.Recipe) bool { return rec.ID == f.Recipe }) {
			continue
		}
		rec := s.out.Rig.Recipes[i]
		recipes = append(recipes, rec)
		if own := s.standsOn(preset, rec); !slices.Contains(owns, own) {
			owns = append(owns, own)
		}
	}
	if len(owns) == 0 {
		return nil
	}
	option, err := s.option(x, preset, owns, t.MS)
	if err != nil {
		return err
	}
	held := s.out.Rig.Presets[x.Gear][option]
	if slices.Contains(owns, option) {
		if was := held[x.Variable]; was.Kind() == plan.NumberValue && was.Float() != t.MS {
			s.out.Overwrites = append(s.out.Overwrites, Overwrite{x.Gear, x.Name, option, was.Float(), t.MS,
				fmt.Sprintf("%s preset %s goes from %g to %g ms.", x.Name, option, was.Float(), t.MS)})
		}
	} else {
		held = s.out.Rig.Presets[x.Gear][owns[0]] // what it holds beside the time comes along
	}
	values := maps.Clone(held)
	if values == nil {
		values = map[plan.Key]plan.Value{}
	}
	values[x.Variable] = plan.Number(t.MS)
	if s.out.Rig.Presets[x.Gear] == nil {
		s.out.Rig.Presets[x.Gear] = map[string]map[plan.Key]plan.Value{}
	}
	s.out.Rig.Presets[x.Gear][option] = values
	sounds := []string{}
	for _, f := range t.For {
		if !slices.Contains(sounds, f.SoundName) {
			sounds = append(sounds, f.SoundName)
		}
	}
	s.out.Words = append(
		s.out.Words,
		fmt.Sprintf(
			"%s preset %s is %.0f ms, for %s in %s.", x.Name, option, t.MS, plan.Listed(sounds), plan.Listed(t.Songs),
		),
	)
	for _, f := range t.For {
		s.choose(night, x, preset, f, option, t.MS)
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

// option is a preset for a time: one of the recipes' own, where no other time has it, that which holds the
// time already before others; else one that nothing of the rig uses.
func (s *storing) option(x PresetPlan, preset plan.Variable, owns []string, ms float64) (string, error) {
	taken := s.taken[x.Gear]
	if taken == nil {
		taken = map[string]bool{}
		s.taken[x.Gear] = taken
	}
	own := ""
	for _, o := range owns {
		if taken[o] {
			continue
		}
		if own == "" || s.out.Rig.Presets[x.Gear][o][x.Variable] == plan.Number(ms) {
			own = o
		}
	}
	if own != "" {
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
	for _, empty := range []bool{true, false} { // what holds something is taken last
		for _, o := range preset.Control.Options {
			if taken[o] || used[o] || empty == (len(s.out.Rig.Presets[x.Gear][o]) > 0) {
				continue
			}
			taken[o] = true
			if was := s.out.Rig.Presets[x.Gear][o][x.Variable]; was.Kind() == plan.NumberValue {
				s.out.Overwrites = append(
					s.out.Overwrites,
					Overwrite{
						x.Gear, x.Name, o, was.Float(), ms,
						fmt.Sprintf("%s preset %s, which no recipe uses, goes from %g to %g ms.", x.Name, o, was.Float(), ms),
					},
				)
			}
			return o, nil
		}
	}
	return "", reason.Errorf(
		"%s has %d presets, and the set needs more times than that", x.Name, len(preset.Control.Options),
	)
}

// choose has the sections of a song that a time serves stand on its preset. A section that was given a recipe
// for the time of another device already keeps what that says.
func (s *storing) choose(night *Night, x PresetPlan, preset plan.Variable, f Served, option string, ms float64) {
	at := slices.IndexFunc(night.Songs, func(x Song) bool { return x.Entry == f.Entry })
	song := s.songs[night.Songs[at].Song]
	if song == nil {
		found, ok := s.plan.FindSong(night.Songs[at].Song)
		if !ok {
			return
		}
		copied := *found
		copied.Sections = slices.Clone(found.Sections)
		song = &copied
	}
	for i := range song.Sections {
		sec := &song.Sections[i]
		was := s.out.Rig.RecipeFor(*sec)
		if sec.Sound != f.Sound || sec.TempoIn(*song) != f.tempo || was == nil || s.origin(was.ID) != f.Recipe ||
			s.standsOn(preset, *was) == option {
			continue
		}
		sec.Recipe = s.derived(*was, x, preset, option, ms)
		s.songs[song.ID] = song
	}
}

// origin is the recipe of the plan that a recipe was derived from.
func (s *storing) origin(id plan.ID) plan.ID {
	for {
		from, ok := s.from[id]
		if !ok {
			return id
		}
		id = from
	}
}

// derived is a recipe that stands on a preset and is else as another, made once.
func (s *storing) derived(rec plan.Recipe, x PresetPlan, preset plan.Variable, option string, ms float64) plan.ID {
	next := rec
	next.ID = plan.ID(fmt.Sprintf("%.40s-%s-%.12s", rec.ID, x.Gear, option))
	next.Name = fmt.Sprintf("%s at %.0f ms", x.Name, ms)
	if _, again := s.from[rec.ID]; again {
		next.Name = rec.Name + ", " + next.Name
	}
	next.Values = maps.Clone(rec.Values)
	if next.Values == nil {
		next.Values = map[plan.Key]plan.Value{}
	}
	next.Values[preset.Key] = plan.Text(option)
	s.from[next.ID] = rec.ID
	if i := slices.IndexFunc(s.out.Rig.Recipes, func(r plan.Recipe) bool { return r.ID == next.ID }); i >= 0 {
		s.out.Rig.Recipes[i] = next
	} else {
		s.out.Rig.Recipes = append(s.out.Rig.Recipes, next)
	}
	return next.ID
}
