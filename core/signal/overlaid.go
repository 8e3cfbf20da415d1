package signal

import (
	"context"

	"envex/core/plan"
)

// Changed is what some settings laid over a sound do to it.
type Changed struct {
	Louder  float64 `json:"louder_lu"`
	Dirtier float64 `json:"dirtier_pct"`
}

// Laid is one of them: a sound, by its recipe, and what is laid over it.
type Laid struct {
	Sound  plan.ID
	Recipe plan.ID
	Over   map[plan.Key]plan.Value
}

// Overlaid meters what settings laid over sounds do to each, with time, modulation and pitch bypassed as in the
// targets. It fails when a sound or a recipe is not there, and with the context's error when that is cancelled.
func Overlaid(ctx context.Context, p *plan.Plan, rig plan.ID, laid []Laid, o Options) ([]Changed, error) {
	r, err := newRendering(p, rig, o.Kept)
	if err != nil {
		return nil, err
	}
	var settings []Setting
	for _, x := range laid {
		m, err := r.madeBy(x.Sound, x.Recipe, plan.Tempo{})
		if err != nil {
			return nil, err
		}
		over := m.setting
		for key, v := range x.Over {
			over = with(over, key, v)
		}
		settings = append(settings, m.setting, over)
	}
	figures, err := r.fan(ctx, settings, o.Dry, false, o.Progress)
	if err != nil {
		return nil, err
	}
	out := make([]Changed, len(laid))
	for i := range laid {
		a, b := figures[2*i], figures[2*i+1]
		out[i] = Changed{Louder: b.loudness - a.loudness, Dirtier: b.dirt - a.dirt}
	}
	return out, nil
}
