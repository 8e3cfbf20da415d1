package failure

import (
	"cmp"
	"math"
	"slices"

	"envex/core/plan"
)

// Instead is what can be played where a sound is lost.
type Instead struct {
	Sound  plan.ID `json:"sound"`
	Recipe plan.ID `json:"recipe"`
	Name   string  `json:"name"`
	Same   bool    `json:"same,omitempty" doc:"It is the lost sound itself, without what it misses."`
}

// mostInstead is how many sounds are named that can be played in place of a lost one.
const mostInstead = 3

// How much a difference counts when a sound is looked for that comes nearest to a lost one. The unit is an effect of
// another nature that is not asked for.
const (
	missingEffect = 2.0
	sameNature    = 1.0 // another effect of the same nature is heard in its place
	strangeEffect = 1.0
	otherRole     = 1.5
	dirtPerStep   = 25.0 // per cent of dirt that count as one
	loudPerStep   = 3.0  // LU that count as one
)

// insteadOf are the sounds that come nearest to one that is lost, the nearest first: judged by what both ask for.
func (f *Rig) insteadOf(s plan.Used, out map[plan.ID]bool, g *plan.Gear, fates []Sound) []Instead {
	type candidate struct {
		Instead
		far float64
	}
	var list []candidate
	if g.Kind != plan.Guitar && f.noWayOut(s, out) == "" {
		given := f.heardIn(s, out)
		if n := lacking(s.Sound, given); n > 0 {
			list = append(list, candidate{Instead{s.Sound.ID, s.Recipe.ID, s.Name, true}, n})
		}
	}
	for i, x := range fates {
		if x.State == Lost || x.ID == s.Sound.ID {
			continue
		}
		other := f.sounds[i]
		recipe := cmp.Or(x.ByRecipe, x.Recipe)
		list = append(list, candidate{Instead{x.ID, recipe, other.Sound.Name, false}, distance(s.Sound, other.Sound)})
	}
	slices.SortStableFunc(list, func(a, b candidate) int { return cmp.Compare(a.far, b.far) })
	names := []Instead{}
	for _, c := range list {
		if len(names) < mostInstead && !slices.ContainsFunc(names, func(x Instead) bool { return x.Sound == c.Sound }) {
			names = append(names, c.Instead)
		}
	}
	return names
}

// heardIn are the effects that are on in a sound and not out.
func (f *Rig) heardIn(s plan.Used, out map[plan.ID]bool) []plan.Effect {
	var list []plan.Effect
	for _, key := range f.rig.Stops() {
		if b, on := f.isOn(s, key); on && !out[key.Gear()] {
			list = append(list, b.Effect)
		}
	}
	return list
}

// lacking is how much of what a sound has to be heard with is not among some effects.
func lacking(s *plan.Sound, given []plan.Effect) float64 {
	far := 0.0
	for _, h := range s.Targets.Effects {
		switch {
		case slices.Contains(given, h.Effect):
		case slices.ContainsFunc(given, func(e plan.Effect) bool { return e.Traits().Nature == h.Effect.Traits().Nature }):
			far += sameNature
		default:
			far += missingEffect
		}
	}
	return far
}

// distance is how far a sound is from another that it would have to stand for.
func distance(lost, other *plan.Sound) float64 {
	asked := func(s *plan.Sound) []plan.Effect {
		var list []plan.Effect
		for _, h := range s.Targets.Effects {
			list = append(list, h.Effect)
		}
		return list
	}
	far := lacking(lost, asked(other))
	for _, e := range asked(other) {
		if !slices.Contains(asked(lost), e) {
			far += strangeEffect
		}
	}
	if lost.Role != other.Role {
		far += otherRole
	}
	if a, ok := dirtOf(lost); ok {
		if b, ok := dirtOf(other); ok {
			far += math.Abs(a-b) / dirtPerStep
		}
	}
	if a, b := lost.Targets.LoudnessLU, other.Targets.LoudnessLU; a != nil && b != nil {
		far += math.Abs(*a-*b) / loudPerStep
	}
	return far
}

// dirtOf is the middle of the dirt that a sound asks for, in per cent; false where it asks for none.
func dirtOf(s *plan.Sound) (float64, bool) {
	low, high := s.Targets.DirtMin, s.Targets.DirtMax
	switch {
	case low != nil && high != nil:
		return (*low + *high) / 2, true
	case low != nil:
		return (*low + 100) / 2, true
	case high != nil:
		return *high / 2, true
	}
	return 0, false
}
