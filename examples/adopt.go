package examples

import (
	"slices"
	"strings"

	"envex/core/plan"
	"envex/core/shorthand"
)

// For is an example as it comes into a plan: sounds that the plan has by the same name are those of the plan, and others
// get letters and a tape that are free there.
func For(p *plan.Plan, id string) (*plan.Plan, error) {
	e, err := Plan(id)
	if err != nil {
		return nil, err
	}
	now := map[plan.ID]plan.ID{}
	have := slices.Clone(p.Sounds)
	var sounds []plan.Sound
	for _, s := range e.Sounds {
		own := slices.IndexFunc(have, func(x plan.Sound) bool { return x.ID != s.ID && strings.EqualFold(x.Name, s.Name) })
		if own >= 0 {
			now[s.ID] = have[own].ID
			sounds = append(sounds, have[own])
			continue
		}
		others := slices.DeleteFunc(slices.Clone(have), func(x plan.Sound) bool { return x.ID == s.ID })
		if slices.ContainsFunc(others, func(x plan.Sound) bool { return strings.EqualFold(x.Short, s.Short) }) {
			fresh := shorthand.SoundOf(s.Name, others)
			s.Short, s.Tape = fresh.Short, fresh.Tape
		}
		if s.Role == plan.HomeRole &&
			slices.ContainsFunc(others, func(x plan.Sound) bool { return x.Role == plan.HomeRole }) {
			s.Role = plan.RhythmRole
		}
		have = append(others, s)
		sounds = append(sounds, s)
	}
	e.Sounds = sounds
	for i := range e.Songs {
		for k := range e.Songs[i].Sections {
			if to, ok := now[e.Songs[i].Sections[k].Sound]; ok {
				e.Songs[i].Sections[k].Sound = to
			}
		}
	}
	for i := range e.Rigs {
		r := &e.Rigs[i]
		for k := range r.Recipes {
			if to, ok := now[r.Recipes[k].Sound]; ok {
				r.Recipes[k].Sound = to
			}
		}
		for _, banks := range r.Programs {
			for _, slots := range banks {
				for slot, program := range slots {
					if to, ok := now[program.Sound]; ok {
						program.Sound = to
						slots[slot] = program
					}
				}
			}
		}
	}
	withOwned(e, p)
	return e, nil
}

// withOwned adds what sounds of the plan refer to, so that the example stands alone: their guitars.
func withOwned(e, p *plan.Plan) {
	for _, s := range e.Sounds {
		if g, ok := p.FindGear(s.Targets.Guitar); ok && s.Targets.Guitar != "" {
			e.Put(*g)
		}
	}
}
