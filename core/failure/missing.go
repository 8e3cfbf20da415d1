package failure

import (
	"slices"

	"envex/core/plan"
)

// other is another recipe of the rig that makes the sound without the boxes that are out; nil where there is none.
func (f *Rig) other(s plan.Used, out map[plan.ID]bool, g *plan.Gear) *plan.Recipe {
	for i := range f.rig.Recipes {
		rec := &f.rig.Recipes[i]
		if rec.Sound != s.Sound.ID || rec.ID == s.Recipe.ID || rec.Name == "" {
			continue
		}
		set := f.plan.SetFor(f.rig, rec, s.Sound, plan.Tempo{})
		try := s
		try.Recipe, try.Values = rec, set.Values
		if missing, _ := f.missing(try, out, g); len(missing) == 0 {
			return rec
		}
	}
	return nil
}

// missing is what a sound is without, in words, and whether it is no longer that sound: it has to be
// heard with an effect that nothing else which is on gives, or there is nothing to play it on.
func (f *Rig) missing(s plan.Used, out map[plan.ID]bool, g *plan.Gear) (words []string, gone bool) {
	if g.Kind == plan.Guitar {
		return f.onAnother(s, g)
	}
	if words := f.noWayOut(s, out); words != "" {
		return []string{words}, true
	}
	sounding := f.plan.StopsSounding(f.rig.Path, s.Setting())
	given := map[plan.Effect]bool{}
	for _, key := range f.rig.Stops() {
		if !sounding[key] {
			continue
		}
		b, on := f.isOn(s, key)
		// A preamp in a pedal is an effect, and stands in for no amp, where there is one.
		if stage := b.Effect == plan.EffectPreamp || b.Effect == plan.EffectPower; on && !out[key.Gear()] &&
			(!stage || f.isAmp(key) || !f.hasAmp()) {
			given[b.Effect] = true
		}
	}
	for _, key := range f.rig.Stops() {
		b, on := f.isOn(s, key)
		if !on || !out[key.Gear()] || !sounding[key] {
			continue
		}
		needed := slices.ContainsFunc(s.Sound.Targets.Effects, func(h plan.Heard) bool { return h.Effect == b.Effect })
		switch {
		case f.isAmp(key) && (b.Effect == plan.EffectPreamp || b.Effect == plan.EffectPower):
			if given[b.Effect] {
				words = appendNew(words, "on the other amp alone")
			} else {
				words = appendNew(words, "without "+f.name(key.Gear()))
			}
		case b.Effect == plan.EffectPreamp && !f.hasAmp() && !given[b.Effect]:
			words, gone = appendNew(words, "no preamp"), true
		case b.Effect == plan.EffectDI:
			words = appendNew(words, "without the line from "+f.name(key.Gear()))
		case needed && !given[b.Effect]:
			words, gone = appendNew(words, "no "+b.Effect.Traits().Name), true
		case b.Effect.Traits().Unheard: // a sound is the same sound without it
		default:
			words = appendNew(words, "without its "+b.Effect.Traits().Name)
		}
	}
	return words, gone
}

// noWayOut says what a sound ends at where nothing of it comes out of the rig any more; "" where something
// does. A box that dies in the middle of a line is gone past; one at its end is not.
func (f *Rig) noWayOut(s plan.Used, out map[plan.ID]bool) string {
	said := ""
	carried := f.plan.Carries(f.rig.Path, s.Setting(), func(key plan.Key) bool {
		b, _ := f.isOn(s, key)
		switch {
		case !out[key.Gear()]:
			return false
		case f.isAmp(key) && (b.Effect == plan.EffectPreamp || b.Effect == plan.EffectPower):
			said = "no amp"
			return true
		case b.Effect.Traits().Ends:
			said = "no " + b.Effect.Traits().Name
			return true
		}
		return false
	})
	if carried {
		return ""
	}
	return said
}

func appendNew(list []string, x string) []string {
	if slices.Contains(list, x) {
		return list
	}
	return append(list, x)
}

func (f *Rig) isOn(s plan.Used, key plan.Key) (plan.Block, bool) {
	g, ok := f.plan.FindGear(key.Gear())
	if !ok {
		return plan.Block{}, false
	}
	b, ok := g.FindBlock(plan.ID(key.Rest()))
	if !ok {
		return plan.Block{}, false
	}
	return *b, b.Bypass == plan.AlwaysOn || s.Values[plan.OnKey(g.ID, b.ID)] == plan.On(true)
}

// hasAmp reports whether an amp stands in the chain: without one its preamps are all the amp there is.
func (f *Rig) hasAmp() bool { return slices.ContainsFunc(f.rig.Stops(), f.isAmp) }

func (f *Rig) isAmp(key plan.Key) bool {
	g, ok := f.plan.FindGear(key.Gear())
	return ok && g.Kind == plan.Amp
}

func (f *Rig) onAnother(s plan.Used, g *plan.Gear) ([]string, bool) {
	if s.On[g.ID] == 0 {
		return nil, false
	}
	if id := f.otherGuitar(g.ID); id != "" {
		return []string{"on " + f.name(id)}, false
	}
	return []string{"no guitar"}, true
}

func (f *Rig) otherGuitar(id plan.ID) plan.ID {
	for _, other := range f.rig.Guitars {
		if other != id {
			return other
		}
	}
	return ""
}
