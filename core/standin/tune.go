package standin

import (
	"context"
	"fmt"
	"maps"
	"math"
	"slices"

	"envex/core/plan"
	"envex/core/signal"
)

// tune sets the knobs of gain stages that stand in to where all sounds that use them come nearest: each drive as it
// stands and in three places more, levels between those that are metered.
func (s *search) tune(ctx context.Context, q *plan.Plan, r *plan.Rig, blocks map[plan.Key]plan.Key) error {
	for _, from := range plan.SortedKeys(blocks) {
		to := blocks[from]
		g, _ := q.FindGear(to.Gear())
		b, _ := g.FindBlock(plan.ID(to.Rest()))
		drive, level := signal.StageKnobs(b)
		if !b.Effect.Traits().Pushes && !b.Effect.IsGain() || drive == nil && level == nil {
			continue
		}
		if err := s.tuneOne(ctx, q, r, to, drive, level); err != nil {
			return err
		}
	}
	return nil
}

// turnsAt are where knobs are metered, as shares of their turn.
var turnsAt = []float64{0.15, 0.35, 0.55, 0.75, 0.95}

func (s *search) tuneOne(
	ctx context.Context, q *plan.Plan, r *plan.Rig, stop plan.Key, drive, level *plan.Control,
) error {
	var sounds []*plan.Sound
	for _, id := range s.uses {
		if sound, _ := q.FindSound(id); s.hears(q, r, sound, stop) {
			sounds = append(sounds, sound)
		}
	}
	home := s.home(q, r)
	if len(sounds) == 0 || home == nil {
		return nil
	}
	x, err := signal.NewSketcher(q, r.ID, s.o.Kept)
	if err != nil {
		return fmt.Errorf("standin: %w", err)
	}
	drives, levels := places(stop, drive), places(stop, level)
	var recipes []plan.Recipe
	recipes = append(recipes, *r.RecipeFor(plan.Section{Sound: home.ID}))
	for _, sound := range sounds {
		rec := *r.RecipeFor(plan.Section{Sound: sound.ID})
		for _, d := range drives {
			for _, l := range levels {
				set := rec
				set.Values = maps.Clone(rec.Values)
				maps.Copy(set.Values, d)
				maps.Copy(set.Values, l)
				recipes = append(recipes, set)
			}
		}
	}
	got, err := x.Of(ctx, recipes)
	if err != nil {
		return fmt.Errorf("standin: %w", err)
	}
	base := got[0].Loudness
	at := func(sound, d, l int) signal.Sketch {
		y := got[1+(sound*len(drives)+d)*len(levels)+l]
		return signal.Sketch{Loudness: y.Loudness - base, Dirt: y.Dirt}
	}
	best, off := map[plan.Key]plan.Value{}, math.Inf(1)
	for d := range drives {
		for step := range steps(levels) {
			i, t := step/fine, float64(step%fine)/fine
			sum := 0.0
			for k, sound := range sounds {
				y := at(k, d, i)
				if t > 0 {
					z := at(k, d, i+1)
					y.Loudness += t * (z.Loudness - y.Loudness)
					y.Dirt += t * (z.Dirt - y.Dirt)
				}
				sum += s.off(sound, y)
			}
			if sum < off-1e-9 {
				off, best = sum, maps.Clone(drives[d])
				for key, v := range levels[i] {
					to := v.Float()
					if t > 0 {
						to += t * (levels[i+1][key].Float() - to)
					}
					best[key] = plan.Number(math.Round(10*to) / 10)
				}
			}
		}
	}
	s.set(r, best)
	q.Put(*r)
	return nil
}

// set puts knobs where they stand for all sounds: in the base, and not in recipes that would have it otherwise.
func (s *search) set(r *plan.Rig, values map[plan.Key]plan.Value) {
	r.Base = maps.Clone(r.Base)
	if r.Base == nil {
		r.Base = map[plan.Key]plan.Value{}
	}
	maps.Copy(r.Base, values)
	r.Recipes = slices.Clone(r.Recipes)
	for i := range r.Recipes {
		r.Recipes[i].Values = maps.Clone(r.Recipes[i].Values)
		for key := range values {
			delete(r.Recipes[i].Values, key)
		}
	}
}

// fine is how many places are looked at between two that were metered.
const fine = 8

// steps is how many places there are along the levels.
func steps(levels []map[plan.Key]plan.Value) int { return (len(levels)-1)*fine + 1 }

// places are where a knob is metered; one where there is none.
func places(stop plan.Key, c *plan.Control) []map[plan.Key]plan.Value {
	if c == nil {
		return []map[plan.Key]plan.Value{{}}
	}
	var list []map[plan.Key]plan.Value
	low, high := c.Range()
	for _, share := range turnsAt {
		list = append(list, map[plan.Key]plan.Value{
			stop + "/" + plan.Key(c.ID): plan.Number(math.Round(10*(low+(high-low)*share)) / 10),
		})
	}
	return list
}

// hears reports whether a sound has a stop on.
func (s *search) hears(q *plan.Plan, r *plan.Rig, sound *plan.Sound, stop plan.Key) bool {
	rec := r.RecipeFor(plan.Section{Sound: sound.ID})
	if rec == nil {
		return false
	}
	g, _ := q.FindGear(stop.Gear())
	b, _ := g.FindBlock(plan.ID(stop.Rest()))
	return b.Bypass == plan.AlwaysOn || q.SetFor(r, rec, sound, q.FirstTempo(sound.ID)).At(stop+"/on").IsOn()
}

// home is the sound that the others are measured against: of the home role, else the first that the rig makes.
func (s *search) home(q *plan.Plan, r *plan.Rig) *plan.Sound {
	var first *plan.Sound
	for i := range q.Sounds {
		sound := &q.Sounds[i]
		if r.RecipeFor(plan.Section{Sound: sound.ID}) == nil {
			continue
		}
		if sound.Role == plan.HomeRole {
			return sound
		}
		if first == nil {
			first = sound
		}
	}
	return first
}

// knobs are where the knobs of the box stand then.
func (s *search) knobs(q *plan.Plan, r *plan.Rig, blocks map[plan.Key]plan.Key) []Knob {
	list := []Knob{}
	for _, from := range plan.SortedKeys(blocks) {
		to := blocks[from]
		g, _ := q.FindGear(to.Gear())
		b, _ := g.FindBlock(plan.ID(to.Rest()))
		for _, c := range b.Controls {
			if c.Kind != plan.Knob {
				continue
			}
			key := to + "/" + plan.Key(c.ID)
			v, ok := r.Base[key]
			if !ok {
				v = c.Initial()
			}
			if v.Kind() != plan.NumberValue {
				continue
			}
			k := Knob{Key: key, Name: c.Name, At: v.Float()}
			if low, high := c.Range(); c.Unit == "" {
				k.Clock = plan.ClockFace((v.Float() - low) / (high - low))
			}
			list = append(list, k)
		}
	}
	return list
}
