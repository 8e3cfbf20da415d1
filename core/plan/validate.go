package plan

import (
	"reflect"
	"slices"
	"strings"
)

// Validate reports everything wrong with the plan at once, each problem with its path and
// a sentence. A plan with no problems can be computed on.
func (p *Plan) Validate() Problems {
	return p.validate(func(ps *Problems) { checkBounds(ps, nil, reflect.ValueOf(*p)) })
}

// ValidateChange is Validate of a plan that was valid before some things of it were written: what stands
// in each thing by itself is looked at in those alone, and how things go together in all.
func (p *Plan) ValidateChange(written ...ID) Problems {
	return p.validate(func(ps *Problems) {
		boundsIn(ps, "gear", p.Gear, written)
		boundsIn(ps, "sounds", p.Sounds, written)
		boundsIn(ps, "songs", p.Songs, written)
		boundsIn(ps, "bands", p.Bands, written)
		boundsIn(ps, "set_lists", p.SetLists, written)
		boundsIn(ps, "rigs", p.Rigs, written)
		boundsIn(ps, "shows", p.Shows, written)
	})
}

// boundsIn checks the bounds of those of a list that were written.
func boundsIn[T Aggregate](ps *Problems, field string, list []T, written []ID) {
	there := &way{field: field}
	if len(list) > MaxItems {
		ps.add(field, "there are %d entries: the limit is %d", len(list), MaxItems)
	}
	for i := range list {
		if slices.Contains(written, list[i].AggregateID()) {
			checkBounds(ps, &way{up: there, index: i}, reflect.ValueOf(list[i]))
		}
	}
}

func (p *Plan) validate(bounds func(*Problems)) Problems {
	v := newValidator(p)
	bounds(&v.problems)
	if n := p.Count(); n > MaxAggregates {
		v.problems.add("", "there are %d things in the plan: the limit is %d", n, MaxAggregates)
	}
	v.ids()
	for i := range p.Gear {
		v.gear(at("gear", i), &p.Gear[i])
	}
	v.sounds()
	for i := range p.Songs {
		v.song(at("songs", i), &p.Songs[i])
	}
	for i := range p.Bands {
		v.band(at("bands", i), &p.Bands[i])
	}
	for i := range p.SetLists {
		v.setList(at("set_lists", i), &p.SetLists[i])
	}
	for i := range p.Rigs {
		v.rig(at("rigs", i), &p.Rigs[i])
	}
	for i := range p.Shows {
		v.show(at("shows", i), &p.Shows[i])
	}
	return v.problems
}

// validator carries the look-ups that checks share.
type validator struct {
	plan      *Plan
	problems  Problems
	gearByID  map[ID]*Gear
	soundByID map[ID]bool
	songByID  map[ID]bool
	variables map[Key]Variable
	recipes   map[ID]ID // recipe to the sound it makes
}

func newValidator(p *Plan) *validator {
	v := &validator{
		plan: p, gearByID: map[ID]*Gear{}, soundByID: map[ID]bool{}, songByID: map[ID]bool{},
		variables: map[Key]Variable{}, recipes: map[ID]ID{},
	}
	for i := range p.Gear {
		v.gearByID[p.Gear[i].ID] = &p.Gear[i]
		for _, x := range p.Gear[i].Variables() {
			v.variables[x.Key] = x
		}
	}
	for _, s := range p.Sounds {
		v.soundByID[s.ID] = true
	}
	for _, s := range p.Songs {
		v.songByID[s.ID] = true
	}
	for _, r := range p.Rigs {
		for _, rec := range r.Recipes {
			v.recipes[rec.ID] = rec.Sound
		}
		for _, d := range r.Destinations {
			for _, rec := range d.Recipes {
				if _, own := v.recipes[rec.ID]; !own {
					v.recipes[rec.ID] = rec.Sound
				}
			}
		}
	}
	return v
}

// ids checks that every aggregate, and every recipe, has an id of its own.
func (v *validator) ids() {
	seen := map[ID]string{}
	check := func(path string, id ID) {
		if !v.idForm(path, id) {
			return
		}
		if first, ok := seen[id]; ok {
			v.problems.add(dot(path, "id"), "the id %q is used by %s already", id, first)
			return
		}
		seen[id] = path
	}
	for i, g := range v.plan.Gear {
		check(at("gear", i), g.ID)
	}
	for i, s := range v.plan.Sounds {
		check(at("sounds", i), s.ID)
	}
	for i, s := range v.plan.Songs {
		check(at("songs", i), s.ID)
	}
	for i, b := range v.plan.Bands {
		check(at("bands", i), b.ID)
	}
	for i, l := range v.plan.SetLists {
		check(at("set_lists", i), l.ID)
	}
	for i, r := range v.plan.Rigs {
		check(at("rigs", i), r.ID)
		for j, rec := range r.Recipes {
			check(at(dot(at("rigs", i), "recipes"), j), rec.ID)
		}
		own := map[ID]bool{}
		for _, rec := range r.Recipes {
			own[rec.ID] = true
		}
		for j, d := range r.Destinations {
			dp := at(dot(at("rigs", i), "destinations"), j)
			check(dp, d.ID)
			for k, rec := range d.Recipes {
				if !own[rec.ID] {
					check(at(dot(dp, "recipes"), k), rec.ID)
				}
			}
		}
	}
	for i, s := range v.plan.Shows {
		check(at("shows", i), s.ID)
	}
}

func (v *validator) idForm(path string, id ID) bool {
	if !idForm.MatchString(string(id)) {
		v.problems.add(dot(path, "id"), "%q is not an id: letters, digits, dots, dashes and underscores, 64 at most", id)
		return false
	}
	return true
}

func (v *validator) name(path, name string) {
	switch {
	case strings.TrimSpace(name) == "":
		v.problems.add(path, "a name is needed")
	case len(name) > MaxName:
		v.problems.add(path, "the name is longer than %d characters", MaxName)
	}
}

// localIDs checks ids that have to be unique only within their owner.
func localIDs[T any](v *validator, path string, list []T, id func(T) ID) {
	seen := map[ID]bool{}
	for i, x := range list {
		if !v.idForm(at(path, i), id(x)) {
			continue
		}
		if seen[id(x)] {
			v.problems.add(dot(at(path, i), "id"), "the id %q is used twice", id(x))
		}
		seen[id(x)] = true
	}
}

func (v *validator) sounds() {
	short := map[string]string{}
	for i, s := range v.plan.Sounds {
		path := at("sounds", i)
		v.name(dot(path, "name"), s.Name)
		letters := strings.ToUpper(s.Short)
		switch n := len([]rune(s.Short)); {
		case n < 1 || n > 3:
			v.problems.add(dot(path, "short"), "one to three letters are needed")
		case short[letters] != "":
			v.problems.add(dot(path, "short"), "%s already goes by %s", short[letters], s.Short)
		default:
			short[letters] = s.Name
		}
		t := s.Targets
		if t.DirtMin != nil && t.DirtMax != nil && *t.DirtMin > *t.DirtMax {
			v.problems.add(dot(path, "targets.dirt_min_pct"), "the least dirt is more than the most")
		}
		v.thirds(dot(path, "targets.bands_db"), t.Bands)
		if t.Guitar != "" {
			v.guitar(dot(path, "targets.guitar"), t.Guitar)
		}
		for j, h := range t.Effects {
			hp := at(dot(path, "targets.effects"), j)
			if of := h.Effect.Traits(); of.Effect != "" && !of.Asked {
				v.problems.add(dot(hp, "effect"), "no sound can ask for this effect: %s", of.Name)
			}
			if h.Note != "" {
				v.note(dot(hp, "note"), h.Note)
			}
		}
	}
}

func (v *validator) guitar(path string, id ID) {
	g, ok := v.gearByID[id]
	switch {
	case !ok:
		v.problems.add(path, "there is no gear %q", id)
	case g.Kind != Guitar:
		v.problems.add(path, "%s is not a guitar", g.Name)
	}
}

func (v *validator) note(path, note string) {
	if _, ok := NoteFraction(note); !ok {
		v.problems.add(path, "%q is not a note length: write 1/4, 1/8. (dotted) or 1/8t (triplet)", note)
	}
}

func (v *validator) tempo(path string, t Tempo) {
	if t.Beat != "" {
		v.note(dot(path, "beat"), t.Beat)
	}
}

func (v *validator) song(path string, s *Song) {
	v.name(dot(path, "title"), s.Title)
	v.tempo(dot(path, "tempo"), s.Tempo)
	if u := s.Meter.Unit; u > 0 && u&(u-1) != 0 {
		v.problems.add(dot(path, "meter.unit"), "%d is not a note: write 2, 4, 8 or 16", u)
	}
	if s.Guitar != "" {
		v.guitar(dot(path, "guitar"), s.Guitar)
	}
	localIDs(v, dot(path, "sections"), s.Sections, func(x Section) ID { return x.ID })
	v.layers(path, s)
	for i, sec := range s.Sections {
		sp := at(dot(path, "sections"), i)
		v.name(dot(sp, "label"), sec.Label)
		if !v.soundByID[sec.Sound] {
			v.problems.add(dot(sp, "sound"), "there is no sound %q", sec.Sound)
		}
		if sec.Tempo != nil {
			v.tempo(dot(sp, "tempo"), *sec.Tempo)
		}
		v.others(sp, &s.Sections[i])
		if sec.Recipe != "" {
			sound, ok := v.recipes[sec.Recipe]
			switch {
			case !ok:
				v.problems.add(dot(sp, "recipe"), "there is no recipe %q", sec.Recipe)
			case sound != sec.Sound:
				v.problems.add(dot(sp, "recipe"), "the recipe %q makes another sound", sec.Recipe)
			}
		}
	}
}

func (v *validator) setList(path string, l *SetList) {
	v.name(dot(path, "name"), l.Name)
	if _, ok := v.plan.FindBand(l.Band); l.Band != "" && !ok {
		v.problems.add(dot(path, "band"), "there is no band %q", l.Band)
	}
	localIDs(v, dot(path, "entries"), l.Entries, func(x SetEntry) ID { return x.ID })
	for i, e := range l.Entries {
		if !v.songByID[e.Song] {
			v.problems.add(dot(at(dot(path, "entries"), i), "song"), "there is no song %q", e.Song)
		}
		if e.To > 0 && e.To < e.From {
			v.problems.add(dot(at(dot(path, "entries"), i), "to"), "its last place, %d, is before its first, %d", e.To, e.From)
		}
	}
}
