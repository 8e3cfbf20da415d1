package signal

import (
	"context"
	"fmt"
	"math"

	"envex/core/plan"
)

// Difference is what another order of the chain does to the sounds of a rig.
type Difference struct {
	Sounds []SoundDiffers `json:"sounds" doc:"Those that it changes, the most changed first."`
	Words  string         `json:"words" doc:"The one that is changed most, in a sentence."`
}

// SoundDiffers is one sound on two orders: the other less the present.
type SoundDiffers struct {
	Sound    plan.ID  `json:"sound"`
	Name     string   `json:"name"`
	Louder   float64  `json:"louder_lu"`
	Dirtier  float64  `json:"dirtier_pct"`
	Squashed float64  `json:"squashed"`
	Hiss     float64  `json:"hiss_db" doc:"More playing over hiss is positive."`
	First    *float64 `json:"first_db,omitempty" doc:"How much louder the first repeat, or the tail, of its delay comes."`
	Mud      *float64 `json:"mud_db,omitempty"`
	Repeats  int      `json:"repeats,omitempty" doc:"How many more repeats are heard."`
}

// Differ meters every sound of a rig on another order of its chain against the present one, for the
// stops named: sounds that do not have one of them on are left out, since nothing changes for them.
func Differ(
	ctx context.Context, p *plan.Plan, rig plan.ID, other []plan.Node, stops []plan.Key, o Options,
) (*Difference, error) {
	r, err := newRendering(p, rig, o.Kept)
	if err != nil {
		return nil, err
	}
	var sounds []made
	for _, s := range r.recipes() {
		if r.uses(s.setting, stops) {
			sounds = append(sounds, s)
		}
	}
	out := &Difference{Sounds: []SoundDiffers{}, Words: "No sound of this rig is changed by it."}
	if len(sounds) == 0 {
		return out, nil
	}
	moved, err := r.on(other)
	if err != nil {
		return nil, err
	}
	list := make([]SoundDiffers, len(sounds))
	err = inParallel(ctx, len(sounds), o.Progress, func(i int) error {
		s := sounds[i]
		there := moved.branch()
		want := depth{whole: true, dirt: true, squash: true, noise: true, times: r.hasSpace(s.setting)}
		a, err := r.branch().figures(ctx, s.setting, o.Dry, want)
		if err != nil {
			return err
		}
		b, err := there.figures(ctx, s.setting, o.Dry, want)
		if err != nil {
			return err
		}
		d := SoundDiffers{
			Sound: s.sound.ID, Name: s.sound.Name, Louder: b.Playing - a.Playing, Dirtier: b.Dirt - a.Dirt,
			Squashed: b.Squash - a.Squash, Hiss: b.Noise - a.Noise,
		}
		for _, x := range a.Times {
			for _, y := range b.Times {
				if x.Stop == y.Stop && (d.First == nil || math.Abs(y.First-x.First) > math.Abs(*d.First)) {
					first, mud := y.First-x.First, y.Mud-x.Mud
					d.First, d.Mud, d.Repeats = &first, &mud, y.Audible-x.Audible
				}
			}
		}
		list[i] = d
		return nil
	})
	if err != nil {
		return nil, err
	}
	for _, d := range list {
		if d.weight() >= 0.25 {
			out.Sounds = append(out.Sounds, d)
		}
	}
	for i := range out.Sounds {
		for k := i; k > 0 && out.Sounds[k].weight() > out.Sounds[k-1].weight(); k-- {
			out.Sounds[k], out.Sounds[k-1] = out.Sounds[k-1], out.Sounds[k]
		}
	}
	if len(out.Sounds) > 0 {
		out.Words = out.Sounds[0].words()
	}
	return out, nil
}

func (r *rendering) uses(s Setting, stops []plan.Key) bool {
	on := 0
	r.line(s).each(func(x *stage) {
		for _, k := range stops {
			if x.key == k && x.on {
				on++
			}
		}
	})
	return on == len(stops)
}

func (r *rendering) hasSpace(s Setting) bool {
	has := false
	r.line(s).each(func(x *stage) { has = has || (x.on && x.effect.Traits().Nature == plan.NatureTime) })
	return has
}

// weight is how far two sounds are apart, 1 at what is just told apart.
func (d SoundDiffers) weight() float64 {
	w := math.Max(math.Max(math.Abs(d.Louder)/sameLU, math.Abs(d.Dirtier)/sameDirt), math.Abs(d.Squashed)/sameSquash)
	if d.First != nil {
		w = math.Max(w, math.Max(math.Abs(*d.First)/1.5, math.Abs(*d.Mud)/6))
	}
	return w
}

func (d SoundDiffers) words() string {
	text := fmt.Sprintf("%s: %+.1f LU, %+.0f points of dirt", d.Name, d.Louder, d.Dirtier)
	if d.First != nil && math.Abs(*d.First) >= 0.5 {
		text += fmt.Sprintf(", first repeat %+.1f dB", *d.First)
	}
	if d.Mud != nil && math.Abs(*d.Mud) >= 3 {
		text += fmt.Sprintf(", mud %+.0f dB", *d.Mud)
	}
	return text + "."
}
