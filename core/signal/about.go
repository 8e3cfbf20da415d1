package signal

import (
	"envex/core/plan"
	"envex/core/reason"
)

// About is a take in which stops are heard: a sound that has them all on, the one that is named before others;
// where none has, that sound, or the rig's first, with them turned on. It fails when the rig is not there, has
// no recipe, or has not got a stop.
func About(p *plan.Plan, rig plan.ID, stops []plan.Key, prefer plan.ID) (Take, error) {
	r, err := newRendering(p, rig, nil)
	if err != nil {
		return Take{}, err
	}
	stands := map[plan.Key]bool{}
	for _, key := range r.rig.Stops() {
		stands[key] = true
	}
	over := map[plan.Key]plan.Value{}
	for _, key := range stops {
		g, ok := p.FindGear(key.Gear())
		if !ok || !stands[key] {
			return Take{}, reason.Errorf("%s is not in %s", key, r.rig.Name)
		}
		if b, ok := g.FindBlock(plan.ID(key.Rest())); ok && b.Bypass != plan.AlwaysOn {
			over[plan.OnKey(g.ID, b.ID)] = plan.On(true)
		}
	}
	all := r.recipes()
	if len(all) == 0 {
		return Take{}, reason.Errorf("%s makes no sound yet", r.rig.Name)
	}
	best, most := all[0], -1
	for _, m := range all {
		on := 0
		for key := range over {
			if m.setting.At(key).IsOn() {
				on++
			}
		}
		if m.sound.ID == prefer && on == most || on > most {
			best, most = m, on
		}
	}
	if most < len(over) && prefer != "" {
		for _, m := range all {
			if m.sound.ID == prefer {
				best = m
			}
		}
	}
	for key := range over {
		if best.setting.At(key).IsOn() {
			delete(over, key)
		}
	}
	return Take{Name: best.sound.Name, Sound: best.sound.ID, Recipe: best.recipe.ID, Over: over}, nil
}

// layer is a looper that is heard: what is played first, for the length of a bar or two, goes round under
// what comes after.
type layer struct {
	level float64
	line  [2][]float64
	at    int
}

// layerS is how long a layer is: what the test phrase takes to come to its next part.
const layerS = 2

func newLayer(level float64) *layer {
	return &layer{level: level, line: [2][]float64{make([]float64, 0, layerS*Rate), make([]float64, 0, layerS*Rate)}}
}

func (y *layer) run(w wave) wave {
	for i := range w.l {
		recording := len(y.line[0]) < layerS*Rate
		for side, x := range w.channels() {
			if recording {
				y.line[side] = append(y.line[side], x[i])
			} else {
				x[i] += y.level * y.line[min(side, len(y.line)-1)][y.at]
			}
		}
		switch {
		case !recording:
			y.at = (y.at + 1) % (layerS * Rate)
		case w.r == nil:
			y.line[1] = append(y.line[1], w.l[i])
		}
	}
	return w
}
