package signal

import (
	"context"
	"math"
	"slices"

	"envex/core/plan"
)

// AsMade is a plan in which sounds of a rig that do not say how dirty or how loud they have to be, or what has to be heard,
// have to be as its recipes make them: within what two sounds may differ in and still be the same to the ear. A sound that
// says something keeps that; home is as loud as it is. It also gives the sounds that have something from a recipe. The
// plan that it is given is not changed. It fails when the rig is not there, and with the context's error when that is
// cancelled.
func AsMade(
	ctx context.Context, p *plan.Plan, rig plan.ID, sounds []plan.ID, kept *Kept,
) (*plan.Plan, []plan.ID, error) {
	r, err := newRendering(p, rig, kept)
	if err != nil {
		return nil, nil, err
	}
	list := r.recipes()
	var open []plan.ID
	for _, m := range list {
		if slices.Contains(sounds, m.sound.ID) && saysTooLittle(m.sound.Targets) {
			open = append(open, m.sound.ID)
		}
	}
	if len(open) == 0 {
		return p, nil, nil
	}
	report, err := Measure(ctx, p, rig, Options{Kept: kept, Only: open, Want: ForTargets})
	if err != nil {
		return nil, nil, err
	}
	q := *p
	home := homeOf(list)
	for _, got := range report.Sounds {
		at := slices.IndexFunc(list, func(m made) bool { return m.sound.ID == got.Sound })
		s := *list[at].sound
		if _, _, asked := DirtBand(s.Targets); !asked {
			low, high := tenth(max(got.Figures.Dirt-sameDirt, 0)), tenth(min(got.Figures.Dirt+sameDirt, 100))
			s.Targets.DirtMin, s.Targets.DirtMax = &low, &high
		}
		if s.Targets.LoudnessLU == nil && at != home {
			over, tolerance := tenth(got.OverHome), sameLU
			s.Targets.LoudnessLU, s.Targets.ToleranceLU = &over, &tolerance
		}
		if len(s.Targets.Effects) == 0 {
			s.Targets.Effects = r.heardIn(list[at])
		}
		q.Put(s)
	}
	return &q, open, nil
}

// saysTooLittle reports whether a sound does not say how dirty or how loud it has to be.
func saysTooLittle(t plan.Targets) bool {
	_, _, dirt := DirtBand(t)
	return !dirt || t.LoudnessLU == nil && t.Effects == nil
}

// tenth is a figure as somebody would write it down.
func tenth(x float64) float64 { return math.Round(10*x) / 10 }

// SaysNothing reports whether a sound has no targets at all: anything would be within them.
func SaysNothing(t plan.Targets) bool {
	_, _, dirt := DirtBand(t)
	return !dirt && t.LoudnessLU == nil && len(t.Effects) == 0 && t.Width != "stereo"
}

// heardIn are the effects of pedals that are heard as themselves in a sound as a recipe makes it.
func (r *rendering) heardIn(m made) []plan.Heard {
	var list []plan.Heard
	r.line(m.setting).each(func(x *stage) {
		if t := x.effect.Traits(); x.on && !x.amp && t.Apart && t.Asked {
			list = append(list, plan.Heard{Effect: x.effect})
		}
	})
	if len(list) > 0 {
		return list
	}
	return nil
}
