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

// tuning is the settings of one gain stage that were metered, for the sounds that use it.
type tuning struct {
	sounds []*plan.Sound
	points []point
	at     int // the point that was chosen
}

// point is one setting, and what the quick meter says of each sound with it, loudness over home.
type point struct {
	values map[plan.Key]plan.Value
	got    []signal.Sketch
}

// tune sets the knobs of gain stages that stand in to where all sounds that use them come nearest.
func (s *search) tune(
	ctx context.Context, q *plan.Plan, r *plan.Rig, blocks map[plan.Key]plan.Key,
) ([]*tuning, error) {
	var list []*tuning
	for _, from := range plan.SortedKeys(blocks) {
		to := blocks[from]
		g, _ := q.FindGear(to.Gear())
		b, _ := g.FindBlock(plan.ID(to.Rest()))
		drive, level := signal.StageKnobs(b)
		if !b.Effect.Traits().Pushes && !b.Effect.IsGain() || drive == nil && level == nil {
			continue
		}
		t, err := s.tuneOne(ctx, q, r, to, drive, level)
		if err != nil {
			return nil, err
		}
		if t != nil {
			list = append(list, t)
		}
	}
	return list, nil
}

// turnsAt are where knobs are metered first, as shares of their turn; then, for each place of the drive, levels in
// small steps around the best there, and in the smallest around the best of all: at its low end a level rises steeply.
var turnsAt = []float64{0.15, 0.35, 0.55, 0.75, 0.95}

const (
	marginLU   = 0.15 // how far within its band a sound is set, since the quick meter is out by about as much
	levelAside = 0.4  // of a knob from 0 to 10
	levelSides = 3    // steps to each side
)

// tuneOne meters settings of one stage, coarse and then fine, and puts the rig at the best; nil where no sound uses it.
func (s *search) tuneOne(
	ctx context.Context, q *plan.Plan, r *plan.Rig, stop plan.Key, drive, level *plan.Control,
) (*tuning, error) {
	t := &tuning{}
	for _, id := range s.uses {
		if sound, _ := q.FindSound(id); s.hears(q, r, sound, stop) {
			t.sounds = append(t.sounds, sound)
		}
	}
	home := s.home(q, r)
	if len(t.sounds) == 0 || home == nil {
		return nil, nil
	}
	x, err := signal.NewSketcher(q, r.ID, s.o.Kept)
	if err != nil {
		return nil, fmt.Errorf("standin: %w", err)
	}
	if err := t.meter(ctx, x, r, home, product(places(stop, drive), places(stop, level))); err != nil {
		return nil, err
	}
	var fine []map[plan.Key]plan.Value
	coarse := t.points
	for of := range slices.Chunk(coarse, len(places(stop, level))) {
		t.points = of // those of one place of the drive
		for _, values := range around(stop, level, of[s.nearest(t, nil)].values, levelAside) {
			all := maps.Clone(of[0].values)
			maps.Copy(all, values)
			fine = append(fine, all)
		}
	}
	t.points = coarse
	if err := t.meter(ctx, x, r, home, fine); err != nil {
		return nil, err
	}
	best := t.points[s.nearest(t, nil)].values
	var finest []map[plan.Key]plan.Value
	for _, values := range around(stop, level, best, 0.1) { // what a hand can set
		all := maps.Clone(best)
		maps.Copy(all, values)
		finest = append(finest, all)
	}
	if err := t.meter(ctx, x, r, home, finest); err != nil {
		return nil, err
	}
	t.at = s.nearest(t, nil)
	*r = Set(*r, t.points[t.at].values)
	q.Put(*r)
	return t, nil
}

// meter meters the sounds with settings.
func (t *tuning) meter(
	ctx context.Context, x *signal.Sketcher, r *plan.Rig, home *plan.Sound, settings []map[plan.Key]plan.Value,
) error {
	recipes := []plan.Recipe{*r.RecipeFor(plan.Section{Sound: home.ID})}
	for _, values := range settings {
		for _, sound := range t.sounds {
			rec := *r.RecipeFor(plan.Section{Sound: sound.ID})
			rec.Values = maps.Clone(rec.Values)
			maps.Copy(rec.Values, values)
			recipes = append(recipes, rec)
		}
	}
	got, err := x.Of(ctx, recipes)
	if err != nil {
		return fmt.Errorf("standin: %w", err)
	}
	for i, values := range settings {
		p := point{values: values}
		for k := range t.sounds {
			y := got[1+i*len(t.sounds)+k]
			p.got = append(p.got, signal.Sketch{Loudness: y.Loudness - got[0].Loudness, Dirt: y.Dirt})
		}
		t.points = append(t.points, p)
	}
	return nil
}

// nearest is the point at which all sounds together are out by least, each corrected by what the quick meter was out
// for it; nil for nothing.
func (s *search) nearest(t *tuning, out map[plan.ID]signal.Sketch) int {
	best, off := 0, math.Inf(1)
	for i, p := range t.points {
		sum := 0.0
		for k, sound := range t.sounds {
			y := p.got[k]
			y.Loudness += out[sound.ID].Loudness
			y.Dirt += out[sound.ID].Dirt
			sum += s.offBy(sound, y, marginLU)
		}
		if sum < off-1e-9 {
			best, off = i, sum
		}
	}
	return best
}

// corrected chooses again with what was heard in full in place of what the quick meter said. It reports whether that is
// another setting.
func (s *search) corrected(r *plan.Rig, list []*tuning, heard []Near) bool {
	moved := false
	for _, t := range list {
		out := map[plan.ID]signal.Sketch{}
		for k, sound := range t.sounds {
			for _, h := range heard {
				if h.Sound == sound.ID {
					was := t.points[t.at].got[k]
					out[sound.ID] = signal.Sketch{Loudness: h.OverHome - was.Loudness, Dirt: h.Dirt - was.Dirt}
				}
			}
		}
		if at := s.nearest(t, out); at != t.at {
			t.at, moved = at, true
			*r = Set(*r, t.points[at].values)
		}
	}
	return moved
}

// Set is a rig with knobs where they stand for all sounds: in the base, and not in recipes or at
// destinations that would have it otherwise. The rig is not changed.
func Set(r plan.Rig, values map[plan.Key]plan.Value) plan.Rig {
	r.Base = maps.Clone(r.Base)
	if r.Base == nil {
		r.Base = map[plan.Key]plan.Value{}
	}
	maps.Copy(r.Base, values)
	r.Recipes = unset(r.Recipes, values)
	r.Destinations = slices.Clone(r.Destinations)
	for i := range r.Destinations {
		d := &r.Destinations[i]
		d.Base, d.Recipes = maps.Clone(d.Base), unset(d.Recipes, values)
		for key := range values {
			delete(d.Base, key)
		}
	}
	return r
}

// unset are recipes that say nothing of some knobs.
func unset(list []plan.Recipe, values map[plan.Key]plan.Value) []plan.Recipe {
	list = slices.Clone(list)
	for i := range list {
		list[i].Values = maps.Clone(list[i].Values)
		for key := range values {
			delete(list[i].Values, key)
		}
	}
	return list
}

// places are where a knob is metered first; one place where there is none.
func places(stop plan.Key, c *plan.Control) []map[plan.Key]plan.Value {
	if c == nil {
		return []map[plan.Key]plan.Value{{}}
	}
	var list []map[plan.Key]plan.Value
	low, high := c.Range()
	for _, share := range turnsAt {
		list = append(list, at(stop, c, low+(high-low)*share))
	}
	return list
}

// around are places of a knob on both sides of where it stands among some values, in steps of so much of a knob from 0
// to 10.
func around(stop plan.Key, c *plan.Control, near map[plan.Key]plan.Value, step float64) []map[plan.Key]plan.Value {
	if c == nil {
		return []map[plan.Key]plan.Value{{}}
	}
	low, high := c.Range()
	from := near[stop+"/"+plan.Key(c.ID)].Float()
	var list []map[plan.Key]plan.Value
	for n := -levelSides; n <= levelSides; n++ {
		list = append(list, at(stop, c, min(max(from+float64(n)*step*(high-low)/10, low), high)))
	}
	return list
}

// at is a knob at a place, to a tenth as a hand can set it.
func at(stop plan.Key, c *plan.Control, x float64) map[plan.Key]plan.Value {
	return map[plan.Key]plan.Value{stop + "/" + plan.Key(c.ID): plan.Number(math.Round(10*x) / 10)}
}

// product is every setting of the one with every setting of the other.
func product(a, b []map[plan.Key]plan.Value) []map[plan.Key]plan.Value {
	var list []map[plan.Key]plan.Value
	for _, x := range a {
		for _, y := range b {
			both := maps.Clone(x)
			maps.Copy(both, y)
			list = append(list, both)
		}
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
