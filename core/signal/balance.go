package signal

import (
	"context"
	"fmt"
	"slices"

	"envex/core/plan"
	"envex/core/reason"
)

// Finding is something to be said of levels and dirt.
type Finding struct {
	ID    string    `json:"id"`
	Title string    `json:"title"`
	Words string    `json:"words"`
	Sound plan.ID   `json:"sound,omitempty"`
	Block plan.Key  `json:"block,omitempty"`
	Pair  []plan.ID `json:"pair,omitempty" doc:"Two sounds that are the same."`
	Tunes bool      `json:"tunes,omitempty" doc:"The sound misses a target: a knob or a boost may bring it in."`
}

// Balance is all that is to be said of the levels and the dirt of a set on a rig.
type Balance struct {
	Findings []Finding `json:"findings"`
	Words    string    `json:"words,omitempty" doc:"Where there is nothing to mend."`
}

// BalanceOf joins what the gain map and the ladder of a set say. That a sound is not at its level is said
// once: by the map where no combination of the gain stages brings it there, which is the reason.
func BalanceOf(m *GainMap, l *Ladder) *Balance {
	out := &Balance{Findings: slices.Clone(m.Findings)}
	if out.Findings == nil {
		out.Findings = []Finding{}
	}
	unreached := map[plan.ID]bool{}
	for _, f := range m.Findings {
		if f.Sound != "" && f.ID == unreachedID(f.Sound) {
			unreached[f.Sound] = true
		}
	}
	for _, f := range l.Findings {
		if f.Sound == "" || f.ID != levelID(f.Sound) || !unreached[f.Sound] {
			out.Findings = append(out.Findings, f)
		}
	}
	if len(out.Findings) == 0 {
		out.Words = "Every target is met, and nothing is the same twice."
	}
	return out
}

func unreachedID(sound plan.ID) string { return "gain:unreached:" + string(sound) }

func levelID(sound plan.ID) string { return "level:target:" + string(sound) }

// BoostMove is whether another place of a boost brings a sound into its targets.
type BoostMove struct {
	Found bool        `json:"found"`
	Block plan.Key    `json:"block,omitempty"`
	Words string      `json:"words,omitempty"`
	Path  []plan.Node `json:"path,omitempty"`
	Rig   *plan.Rig   `json:"rig,omitempty" doc:"The whole rig with it moved, where that was asked."`
}

// MoveBoost looks for the place of the first boost that a sound has on, where the sound is in its targets of
// loudness and dirt, no fewer sounds than now are, and the order costs least: at a destination of the rig, or as
// the rig stands when that is "". It fails when rig, destination, sound or recipe are not there, and with the
// context's error when that is cancelled.
func MoveBoost(ctx context.Context, p *plan.Plan, rig, destination, sound plan.ID, o Options) (*BoostMove, error) {
	r, sounds, at, err := recipeOf(p, rig, destination, sound, o.Kept)
	if err != nil {
		return nil, err
	}
	block := r.boostOf(sounds[at])
	if block == "" {
		return &BoostMove{}, nil
	}
	found, err := PlaceBoost(ctx, r.plan, rig, block, o)
	if err != nil {
		return nil, err
	}
	now, best := 0, -1
	for _, x := range found.Places {
		if x.Here {
			now = x.Meets
		}
	}
	for i, x := range found.Places {
		met := slices.ContainsFunc(x.Does, func(d BoostDoes) bool { return d.Sound == sound && d.Met })
		if met && !x.Here && x.SameA == nil && x.Meets >= now && (best < 0 || x.Cost < found.Places[best].Cost) {
			best = i
		}
	}
	if best < 0 {
		return &BoostMove{Block: block}, nil
	}
	own, _ := p.FindRig(rig)
	x := found.Places[best]
	moved := own.WithPathAt(destination, x.Path)
	return &BoostMove{Found: true, Block: block, Words: found.Name + " " + x.Words, Path: x.Path, Rig: &moved}, nil
}

// boostOf is the first boost of the main line that a sound has on, if it has one.
func (r *rendering) boostOf(m made) plan.Key {
	for _, n := range r.path {
		if n.Split != nil || !m.setting.At(n.Stop+"/on").IsOn() {
			continue
		}
		if g, ok := r.plan.FindGear(n.Stop.Gear()); ok {
			if b, ok := g.FindBlock(plan.ID(n.Stop.Rest())); ok && b.Effect == plan.EffectBoost {
				return n.Stop
			}
		}
	}
	return ""
}

// recipeOf is a rig at a destination, its recipes, and which of them makes a sound.
func recipeOf(
	p *plan.Plan, rig, destination, sound plan.ID, kept *Kept,
) (*rendering, []made, int, error) {
	there, err := p.At(rig, destination)
	if err != nil {
		return nil, nil, 0, fmt.Errorf("signal: %w", err)
	}
	r, err := newRendering(there, rig, kept)
	if err != nil {
		return nil, nil, 0, err
	}
	sounds := r.recipes()
	at := slices.IndexFunc(sounds, func(m made) bool { return m.sound.ID == sound })
	if at < 0 {
		return nil, nil, 0, reason.Errorf("%s has no recipe for the sound %q", r.rig.Name, sound)
	}
	return r, sounds, at, nil
}
