package hire

import (
	"fmt"
	"slices"

	"envex/core/plan"
	"envex/core/propose"
	"envex/core/signal"
)

// retune brings sounds that are out back into their targets: home first, then as they are played, each by the fewest
// knobs that break no other, or else by another recipe of boxes that are there.
func (w *answering) retune() error {
	now, err := w.met()
	if err != nil {
		return err
	}
	order := slices.Clone(w.played)
	slices.SortStableFunc(order, func(a, b plan.ID) int { return w.role(a) - w.role(b) })
	for _, id := range order {
		if r, _ := w.destination(); now[id] || r.RecipeFor(plan.Section{Sound: id}) == nil {
			continue
		}
		changed, err := w.mend(id)
		if err != nil {
			return err
		}
		if changed {
			if now, err = w.met(); err != nil {
				return err
			}
		}
	}
	return nil
}

func (w *answering) role(id plan.ID) int {
	if s, ok := w.plan.FindSound(id); ok && s.Role == plan.HomeRole {
		return 0
	}
	return 1
}

// mend brings one sound back, and says whether it could.
func (w *answering) mend(id plan.ID) (bool, error) {
	tuned, err := signal.Tune(w.ctx, &w.plan, w.was.ID, w.id, id, signal.Options{Kept: w.o.Kept})
	if err != nil {
		return false, fmt.Errorf("hire: %w", err)
	}
	if tuned.Best >= 0 && len(tuned.Repairs[tuned.Best].Breaks) == 0 {
		best := tuned.Repairs[tuned.Best]
		w.plan.Put(best.Rig)
		w.out.Changes = append(w.out.Changes, Change{Sound: id, Name: tuned.Name, Words: best.Words})
		return true, nil
	}
	found, err := propose.For(w.ctx, &w.plan, w.was.ID, propose.Options{
		Sounds: []plan.ID{id}, Destination: w.id, NewID: w.o.NewID, Kept: w.o.Kept,
	})
	if err != nil {
		return false, fmt.Errorf("hire: %w", err)
	}
	for _, s := range found.Sounds {
		for _, way := range s.Ways {
			if !way.Within {
				continue
			}
			w.change(func(d *plan.Destination) {
				d.Recipes = append([]plan.Recipe{way.Recipe}, slices.Clone(d.Recipes)...)
				for _, key := range plan.SortedKeys(way.Base) {
					d.Base = with(d.Base, key, way.Base[key])
				}
			})
			w.out.Changes = append(
				w.out.Changes,
				Change{Sound: id, Name: s.Name, Words: "another recipe: " + way.Words},
			)
			return true, nil
		}
	}
	return false, nil
}

func with(m map[plan.Key]plan.Value, key plan.Key, v plan.Value) map[plan.Key]plan.Value {
	out := map[plan.Key]plan.Value{key: v}
	for k, x := range m {
		if k != key {
			out[k] = x
		}
	}
	return out
}
