package guitars

import (
	"fmt"
	"maps"
	"math"

	"envex/core/plan"
	"envex/core/signal"
)

// knob is one that may be set for a guitar.
type knob struct {
	key  plan.Key
	name string
	on   plan.Key // what has to be on for it; "" where nothing has
	own  bool     // it is the guitar's, and stands alike in all sounds: what recipes say of it becomes the setting
	low  float64
	high float64
}

// knobs are the guitar's own volume and the levels ahead of the first stage that clips.
func (w *work) knobs(g *plan.Gear) []knob {
	var list []knob
	for _, c := range g.Controls {
		key := plan.Key(g.ID) + "/" + plan.Key(c.ID)
		if c.Kind == plan.Knob && (c.ID == "volume" || c.ID == "level") && w.alike(g.ID, key) {
			low, high := c.Range()
			list = append(list, knob{key: key, name: g.Name + " " + c.Name, own: true, low: low, high: high})
		}
	}
	for _, n := range w.rig.Path {
		if w.clips(n) {
			break
		}
		b := w.block(n.Stop)
		if n.Split != nil || b == nil || b.Rocker {
			continue
		}
		box, _ := w.plan.FindGear(n.Stop.Gear())
		_, level := signal.StageKnobs(b)
		if level == nil {
			continue
		}
		low, high := level.Range()
		k := knob{
			key:  n.Stop + "/" + plan.Key(level.ID),
			name: box.StopName(b) + " " + level.Name,
			low:  low,
			high: high,
		}
		if b.Bypass != plan.AlwaysOn {
			k.on = plan.OnKey(box.ID, b.ID)
		}
		list = append(list, k)
	}
	return list
}

// alike reports whether a knob of a guitar stands in one place in every recipe of the rig, those of single sections
// with them: then it levels them, and else it is what tells them apart. What a recipe leaves free is the player's to
// turn.
func (w *work) alike(guitar plan.ID, key plan.Key) bool {
	settings := w.plan.SettingsOf(w.rig)
	var first plan.Value
	for i, rec := range w.rig.Recipes {
		if own, named := rec.Values[key]; named && own.Kind() == plan.FreeValue {
			return false
		}
		rec.Guitar = guitar
		sound, _ := w.plan.FindSound(rec.Sound)
		at := settings.For(&rec, sound, w.plan.FirstTempo(rec.Sound)).At(key)
		if i == 0 {
			first = at
		}
		if at != first {
			return false
		}
	}
	return true
}

// values are a knob at a place, for a guitar.
func (k knob) values(at float64) map[plan.Key]plan.Value {
	out := map[plan.Key]plan.Value{k.key: plan.Number(math.Round(at*10) / 10)}
	if k.on != "" {
		out[k.on] = plan.On(true)
	}
	return out
}

// nearest is where a knob brings the sounds nearest, and how near, by the quick meter: over its whole turn by tones of
// half the length, then finely around the best.
func (w *work) nearest(id plan.ID, k knob) (float64, float64, error) {
	turn := (k.high - k.low) / 10
	var places []float64
	for at := k.low; at <= k.high+1e-9; at += coarse * turn {
		places = append(places, at)
	}
	at, _, err := w.best(id, k, places, true)
	if err != nil {
		return 0, 0, err
	}
	places = []float64{at}
	for d := -coarse * turn; d <= coarse*turn+1e-9; d += finest * turn {
		if x := at + d; x >= k.low && x <= k.high {
			places = append(places, x)
		}
	}
	return w.best(id, k, places, false)
}

// best is the one of some places of a knob that brings the sounds nearest, and how near.
func (w *work) best(id plan.ID, k knob, places []float64, quick bool) (float64, float64, error) {
	reference, err := w.sketched(w.o.Reference, knob{}, []map[plan.Key]plan.Value{nil}, quick)
	if err != nil {
		return 0, 0, err
	}
	settings := make([]map[plan.Key]plan.Value, len(places))
	for i, at := range places {
		settings[i] = k.values(at)
	}
	got, err := w.sketched(id, k, settings, quick)
	if err != nil {
		return 0, 0, err
	}
	best, least := places[0], math.Inf(1)
	for i, at := range places {
		off := 0.0
		for j := range w.sounds {
			x, y := got[i*len(w.sounds)+j], reference[j]
			off += math.Abs(x.Loudness-y.Loudness) + math.Abs(x.Dirt-y.Dirt)/10
		}
		if off /= float64(len(w.sounds)); off < least-1e-9 {
			best, least = at, off
		}
	}
	return best, least, nil
}

// sketched is every sound on a guitar by the quick meter, with each of some settings of a knob for it: what a recipe
// names itself goes before them, but for the guitar's own knob.
func (w *work) sketched(
	id plan.ID, k knob, settings []map[plan.Key]plan.Value, quick bool,
) ([]signal.Sketch, error) {
	q := w.on(w.rig, id)
	if w.meters == nil {
		w.meters = map[metering]*signal.Sketcher{}
	}
	x, ok := w.meters[metering{id, quick}]
	if !ok {
		var err error
		if x, err = signal.NewSketcher(q, w.rig.ID, w.o.Kept); err != nil {
			return nil, fmt.Errorf("guitars: %w", err)
		}
		x.Quick = quick
		w.meters[metering{id, quick}] = x
	}
	played, _ := q.FindRig(w.rig.ID)
	var list []plan.Recipe
	for _, values := range settings {
		for _, rec := range played.Recipes {
			own := maps.Clone(values)
			if own == nil {
				own = map[plan.Key]plan.Value{}
			}
			maps.Copy(own, k.leftOf(rec.Values))
			rec.Values = own
			list = append(list, rec)
		}
	}
	got, err := x.Of(w.ctx, list)
	if err != nil {
		return nil, fmt.Errorf("guitars: %w", err)
	}
	return got, nil
}

// leftOf is what a recipe names without the guitar's own knob.
func (k knob) leftOf(values map[plan.Key]plan.Value) map[plan.Key]plan.Value {
	if _, named := values[k.key]; !named || !k.own {
		return values
	}
	left := maps.Clone(values)
	delete(left, k.key)
	return left
}
