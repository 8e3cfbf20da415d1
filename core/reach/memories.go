package reach

import (
	"fmt"

	"envex/core/plan"
)

// presets narrows each preset control to the memories that hold what the recipe asks of the
// settings stored in them, and the snapshot within. Where the recipe does not choose the preset
// itself, any that fits will do; of those with snapshots the first, since which snapshot fits
// depends on it.
func (s *settings) presets(x *part, w *wants, values []plan.Value) {
	for _, id := range s.rig.GearIn() {
		var asked []*variable
		for _, m := range s.memory {
			if v, named := x.recipe.Values[m.Key]; m.Gear == id && named && v.Kind() != plan.FreeValue && holds(x, m, values) {
				asked = append(asked, m)
			}
		}
		if len(asked) == 0 || w.broken != "" {
			continue
		}
		g, _ := s.plan.FindGear(id)
		preset, ok := s.memoryOf(g.PresetControl())
		if !ok {
			continue
		}
		s.narrow(x, w, g, preset, asked)
	}
}

func (s *settings) memoryOf(v plan.Variable, ok bool) (int, bool) {
	if !ok {
		return 0, false
	}
	i, ok := s.byKey[v.Key]
	return i, ok
}

// narrow leaves a preset, and a snapshot where the gear has them, only the positions that hold
// every setting asked.
func (s *settings) narrow(x *part, w *wants, g *plan.Gear, preset int, asked []*variable) {
	open := func(i int) []int {
		if _, chosen := x.recipe.Values[s.vars[i].Key]; !chosen {
			return all(len(s.vars[i].values))
		}
		return w.of[i].oneOf
	}
	shot, snaps := s.memoryOf(g.SnapshotControl())
	shots := []int{-1}
	if snaps {
		shots = open(shot)
	}
	var left, within []int
	for _, n := range open(preset) {
		var fit []int
		for _, k := range shots {
			word := ""
			if k >= 0 {
				word = s.vars[shot].values[k].Word()
			}
			if s.remembers(x, g.ID, s.vars[preset].values[n].Word(), word, asked) == nil {
				fit = append(fit, k)
			}
		}
		if len(fit) == 0 || (snaps && len(left) > 0) {
			continue
		}
		left, within = append(left, n), fit
	}
	if len(left) == 0 {
		missing := asked[0]
		for _, n := range open(preset) {
			if m := s.remembers(x, g.ID, s.vars[preset].values[n].Word(), "", asked); m != nil {
				missing = m
				break
			}
		}
		w.broken = fmt.Sprintf(
			"No preset of %s holds %s at %s, which %s needs.", g.Name, missing.Label, x.recipe.Values[missing.Key],
			soundName(x.sound),
		)
		return
	}
	w.of[preset].oneOf = left
	if snaps {
		w.of[shot].oneOf = within
	}
}

// remembers gives the first of the settings that a memory does not hold as the recipe asks; nil
// where it holds them all.
func (s *settings) remembers(x *part, gear plan.ID, preset, snapshot string, asked []*variable) *variable {
	for _, m := range asked {
		held, has := s.rig.Remembered(gear, preset, snapshot, m.Key)
		if s.clocked[gear] && has && held.Kind() == plan.SyncValue && held == x.recipe.Values[m.Key] {
			continue // both follow the clock
		}
		if !has || !sameSetting(resolved(m.Control, held, x.tempo), resolved(m.Control, x.recipe.Values[m.Key], x.tempo)) {
			return m
		}
	}
	return nil
}

// sameSetting compares two settings; times and knobs agree where nobody could tell them apart.
func sameSetting(a, b plan.Value) bool {
	if a.Kind() == plan.NumberValue && b.Kind() == plan.NumberValue {
		return plan.SameTime(a.Float(), b.Float())
	}
	return a == b
}
