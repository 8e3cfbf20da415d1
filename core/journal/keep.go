package journal

import (
	"fmt"
	"maps"
	"slices"

	"envex/core/plan"
	"envex/core/reason"
)

// carries is what keeping a change sets, in words: Echo preset B time to 380 ms.
func carries(p *plan.Plan, f plan.Fix) string {
	label, unit := string(f.Key), ""
	name := nameOf(p, f.Key.Gear())
	if g, ok := p.FindGear(f.Key.Gear()); ok {
		for _, v := range g.Variables() {
			if v.Key == f.Key {
				label = v.Label
				if v.Control != nil && v.Control.Unit != "" && f.Value.Kind() == plan.NumberValue {
					unit = " " + v.Control.Unit
				}
			}
		}
	}
	words := fmt.Sprintf("%s to %s%s", label, f.Value, unit)
	if f.Preset != "" { // for every sound that is on it
		return words + fmt.Sprintf(" in preset %s of %s", f.Preset, name)
	}
	if s, ok := p.FindSound(f.Sound); ok {
		words += " for " + s.Name
	}
	return words
}

// CarryOver is the rig with a change of a show's night in it for good, and the show with that decided. What is set in
// a preset goes into that preset, what is set for one sound into its first recipe, anything else into the base
// settings; where the show's destination lays its own over the last two, into those. The plan is not changed. It
// fails when there is no such show or change, when the change does not say what stood where, or when the rig has no
// recipe for its sound.
func CarryOver(p *plan.Plan, show plan.ID, fix int) (plan.Rig, plan.Show, error) {
	s, err := p.ShowByID(show)
	if err != nil {
		return plan.Rig{}, plan.Show{}, fmt.Errorf("journal: %w", err)
	}
	if fix < 0 || fix >= len(s.Fixes) {
		return plan.Rig{}, plan.Show{}, reason.Errorf("%s has no change %d", s.Name, fix+1)
	}
	f := s.Fixes[fix]
	if f.Key == "" || f.Value == nil {
		return plan.Rig{}, plan.Show{}, reason.Errorf(
			"%q does not say which control stood where, so there is nothing to carry over", f.Text,
		)
	}
	r, err := p.RigByID(s.Rig)
	if err != nil {
		return plan.Rig{}, plan.Show{}, fmt.Errorf("journal: %w", err)
	}
	rig := *r
	switch {
	case f.Preset != "":
		inPreset(&rig, f)
	case f.Sound != "":
		if !inRecipe(&rig, s.Destination, f) {
			return plan.Rig{}, plan.Show{}, reason.Errorf("%s has no recipe for that sound", rig.Name)
		}
	default:
		inBase(&rig, s.Destination, f)
	}
	return rig, decided(*s, fix, plan.FixKept), nil
}

// Leave is the show with a change of its night decided to have been for that night alone. It fails when there is no
// such show or change.
func Leave(p *plan.Plan, show plan.ID, fix int) (plan.Show, error) {
	s, err := p.ShowByID(show)
	if err != nil {
		return plan.Show{}, fmt.Errorf("journal: %w", err)
	}
	if fix < 0 || fix >= len(s.Fixes) {
		return plan.Show{}, reason.Errorf("%s has no change %d", s.Name, fix+1)
	}
	return decided(*s, fix, plan.FixLeft), nil
}

func decided(s plan.Show, fix int, keep string) plan.Show {
	s.Fixes = slices.Clone(s.Fixes)
	s.Fixes[fix].Keep = keep
	return s
}

// with is a map with one value more; the map it is given stays as it is.
func with[K comparable, V any](m map[K]V, key K, value V) map[K]V {
	out := maps.Clone(m)
	if out == nil {
		out = map[K]V{}
	}
	out[key] = value
	return out
}

func inPreset(r *plan.Rig, f plan.Fix) {
	gear := f.Key.Gear()
	r.Presets = with(r.Presets, gear, with(r.Presets[gear], f.Preset, with(r.Presets[gear][f.Preset], f.Key, *f.Value)))
}

func inBase(r *plan.Rig, destination plan.ID, f plan.Fix) {
	if i := slices.IndexFunc(r.Destinations, func(d plan.Destination) bool { return d.ID == destination }); i >= 0 {
		if _, own := r.Destinations[i].Base[f.Key]; own {
			r.Destinations = slices.Clone(r.Destinations)
			r.Destinations[i].Base = with(r.Destinations[i].Base, f.Key, *f.Value)
			return
		}
	}
	r.Base = with(r.Base, f.Key, *f.Value)
}

// inRecipe reports whether there is a recipe for the sound.
func inRecipe(r *plan.Rig, destination plan.ID, f plan.Fix) bool {
	if i := slices.IndexFunc(r.Destinations, func(d plan.Destination) bool { return d.ID == destination }); i >= 0 {
		if list, ok := setIn(r.Destinations[i].Recipes, f); ok {
			r.Destinations = slices.Clone(r.Destinations)
			r.Destinations[i].Recipes = list
			return true
		}
	}
	list, ok := setIn(r.Recipes, f)
	if ok {
		r.Recipes = list
	}
	return ok
}

// setIn sets the value in the first recipe for the sound.
func setIn(recipes []plan.Recipe, f plan.Fix) ([]plan.Recipe, bool) {
	i := slices.IndexFunc(recipes, func(x plan.Recipe) bool { return x.Sound == f.Sound })
	if i < 0 {
		return nil, false
	}
	list := slices.Clone(recipes)
	list[i].Values = with(list[i].Values, f.Key, *f.Value)
	return list, true
}

// Freshen is the show with a fresh battery for a box written down, and its rig with that battery's hours
// at nothing. It fails when there is no such show, or the rig does not run the box on a battery.
func Freshen(p *plan.Plan, show, gear plan.ID) (plan.Rig, plan.Show, error) {
	s, err := p.ShowByID(show)
	if err != nil {
		return plan.Rig{}, plan.Show{}, fmt.Errorf("journal: %w", err)
	}
	r, err := p.RigByID(s.Rig)
	if err != nil {
		return plan.Rig{}, plan.Show{}, fmt.Errorf("journal: %w", err)
	}
	i := slices.IndexFunc(r.Batteries, func(b plan.BatteryUse) bool { return b.Gear == gear })
	if i < 0 {
		return plan.Rig{}, plan.Show{}, reason.Errorf("%s does not run on a battery in %s", nameOf(p, gear), r.Name)
	}
	rig, next := *r, *s
	rig.Batteries = slices.Clone(rig.Batteries)
	none := 0.0
	rig.Batteries[i].UsedH = &none
	if !slices.Contains(next.Batteries, gear) {
		next.Batteries = append(slices.Clone(next.Batteries), gear)
	}
	return rig, next, nil
}
