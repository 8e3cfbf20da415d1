package choose

import (
	"context"
	"fmt"
	"maps"
	"math"
	"slices"

	"envex/core/plan"
	"envex/core/signal"
)

// This file turns the drives and levels of a choice, by hand so to speak: where a sound is out by a little, its stages
// are turned to where all sounds that have them on are within, as far as there is such a place.

const (
	roomLU      = 0.15 // inside its band that a sound is brought, by the sketch, which is that near to what is heard
	roomDirt    = 0.5  // the same in per cent of dirt
	ampleRoom   = 4.0  // times as much is taken where there is as much for all, as far as the middle
	dirtPerLU   = 5.0  // per cent of dirt that count as one LU
	knobStep    = 0.5  // by which a knob is turned to see what it does, of ten
	mostTurn    = 1.5  // by which a knob is turned at once, of ten
	mostSettles = 4    // times that knobs are turned
	knobGrain   = 0.1  // as a hand can set it, of ten
)

// settling is a choice whose knobs are turned.
type settling struct {
	*metering
	meter   *signal.Sketcher
	recipes map[int]plan.Recipe   // by sound
	on      map[int][]int         // the stages that a sound has on
	known   map[int]signal.Sketch // by sound: what is heard in full over what is sketched, where that is known
	knobs   []knob
	slope   []map[int]signal.Sketch // what each knob does to each sound, as it was seen last
}

// knob is the drive or the level of a stage.
type knob struct {
	stage   int
	control *plan.Control
	drive   bool
}

func (k knob) of(at map[int]place) float64 {
	if k.drive {
		return at[k.stage].drive
	}
	return at[k.stage].level
}

func (k knob) put(at map[int]place, to float64) {
	p := at[k.stage]
	if k.drive {
		p.drive = to
	} else {
		p.level = to
	}
	at[k.stage] = p
}

// settling reads a choice whose ways are those of a metering of its own.
func (c *choosing) settling(ctx context.Context, m *metering, x cover) (*settling, error) {
	r, err := c.rigOf(ctx, m, x, &Set{})
	if err != nil {
		return nil, err
	}
	q := *c.plan
	q.Put(r)
	s := &settling{
		metering: m, recipes: map[int]plan.Recipe{}, on: map[int][]int{}, known: map[int]signal.Sketch{},
	}
	if s.meter, err = signal.NewSketcher(&q, r.ID, c.o.Kept); err != nil {
		return nil, fmt.Errorf("choose: %w", err)
	}
	turned := map[int]bool{}
	for sound, way := range x.made {
		if way < 0 {
			continue
		}
		i := slices.IndexFunc(r.Recipes, func(rec plan.Recipe) bool { return rec.Sound == m.sounds[sound].ID })
		s.recipes[sound] = r.Recipes[i]
		for _, on := range m.recipes[x.world][sound][way].on {
			s.on[sound], turned[on.stage] = append(s.on[sound], on.stage), true
		}
	}
	for stage := range m.stages {
		if st := m.stages[stage]; turned[stage] {
			if st.drive != nil {
				s.knobs = append(s.knobs, knob{stage, st.drive, true})
			}
			if st.level != nil {
				s.knobs = append(s.knobs, knob{stage, st.level, false})
			}
		}
	}
	return s, nil
}

// standing is where the stages of a choice stand.
func (s *settling) standing(x cover) map[int]place {
	at := map[int]place{}
	for sound, stages := range s.on {
		for _, stage := range stages {
			at[stage] = s.places[stage][s.stationOf(x, sound, stage)]
		}
	}
	return at
}

// hear sketches sounds with stages standing somewhere.
func (s *settling) hear(ctx context.Context, at map[int]place, sounds []int) (map[int]signal.Sketch, error) {
	var list []plan.Recipe
	for _, sound := range sounds {
		rec := s.recipes[sound]
		rec.Values = maps.Clone(rec.Values)
		for _, stage := range s.on[sound] {
			maps.Copy(rec.Values, s.stages[stage].knobs(at[stage]))
		}
		list = append(list, rec)
	}
	got, err := s.meter.Of(ctx, list)
	if err != nil {
		return nil, fmt.Errorf("choose: %w", err)
	}
	out := map[int]signal.Sketch{}
	for i, sound := range sounds {
		got[i].Loudness += s.known[sound].Loudness
		got[i].Dirt += s.known[sound].Dirt
		out[sound] = got[i]
	}
	return out, nil
}

func (s *settling) all() []int { return slices.Sorted(maps.Keys(s.recipes)) }

// with are the sounds that have a stage on.
func (s *settling) with(stage int) []int {
	return slices.DeleteFunc(s.all(), func(sound int) bool { return !slices.Contains(s.on[sound], stage) })
}

// out is how far a sound is out of its bands, narrower by so much of the room, as squares that add up.
func (s *settling) out(sound int, home float64, got signal.Sketch, room float64) float64 {
	sum := 0.0
	add := func(x, low, high, inside, unit float64) {
		inside = min(inside*room, (high-low)/4)
		if by := max(low+inside-x, x-high+inside, 0) / unit; by > 0 {
			sum += by * by
		}
	}
	if sound != 0 {
		low, high := s.band(sound, home)
		add(got.Loudness, low, high, roomLU, 1)
	}
	low, high, _ := signal.DirtBand(s.sounds[sound].Targets)
	if low > 0 || high < 100 {
		if low <= 0 {
			low = math.Inf(-1)
		}
		if high >= 100 {
			high = math.Inf(1)
		}
		add(got.Dirt, low, high, roomDirt, dirtPerLU)
	}
	return sum
}

func (s *settling) loss(got map[int]signal.Sketch, room float64) float64 {
	sum := 0.0
	for _, sound := range s.all() {
		sum += s.out(sound, got[0].Loudness, got[sound], room)
	}
	return sum
}

// settle turns knobs until every sound is within, or no turn brings them nearer; and then to where they have ample room,
// as far as there is. It gives where the stages stand then.
func (s *settling) settle(ctx context.Context, at map[int]place) (map[int]place, error) {
	got, err := s.hear(ctx, at, s.all())
	if err != nil {
		return nil, err
	}
	for range mostSettles {
		if s.loss(got, 1) == 0 {
			break
		}
		better, err := s.turned(ctx, &at, &got, 1)
		if err != nil {
			return nil, err
		}
		if !better {
			return at, nil
		}
	}
	if s.loss(got, 1) == 0 && s.loss(got, ampleRoom) > 0 {
		_, err = s.turned(ctx, &at, &got, ampleRoom) // what was seen of the knobs will do here
	}
	return at, err
}

// turned turns knobs once so that sounds are out of their bands, less so much room, by less than they were. It reports
// whether there is such a turn. None brings a sound out that was within.
func (s *settling) turned(ctx context.Context, at *map[int]place, got *map[int]signal.Sketch, room float64) (bool, error) {
	if s.slope == nil || room < ampleRoom {
		slopes, err := s.slopes(ctx, *at, *got)
		if err != nil {
			return false, err
		}
		s.slope = slopes
	}
	turn := s.best(*at, *got, s.slope, room)
	for share := 1.0; share > 0.2; share /= 2 {
		next := maps.Clone(*at)
		for i, k := range s.knobs {
			low, high := k.control.Range()
			grain := knobGrain * (high - low) / 10
			k.put(next, min(max(math.Round((k.of(*at)+share*turn[i])/grain)*grain, low), high))
		}
		if maps.Equal(next, *at) {
			return false, nil
		}
		now, err := s.hear(ctx, next, s.all())
		if err != nil {
			return false, err
		}
		if s.loss(now, room) < s.loss(*got, room) && s.loss(now, 1) <= s.loss(*got, 1) {
			*at, *got = next, now
			return true, nil
		}
	}
	return false, nil
}

// slopes are what each knob does to each sound, for each unit of its turn.
func (s *settling) slopes(
	ctx context.Context, at map[int]place, got map[int]signal.Sketch,
) ([]map[int]signal.Sketch, error) {
	var list []map[int]signal.Sketch
	for _, k := range s.knobs {
		low, high := k.control.Range()
		step := knobStep * (high - low) / 10
		if k.of(at)+step > high {
			step = -step
		}
		there := maps.Clone(at)
		k.put(there, k.of(at)+step)
		moved, err := s.hear(ctx, there, s.with(k.stage))
		if err != nil {
			return nil, err
		}
		for sound, x := range moved {
			moved[sound] = signal.Sketch{
				Loudness: (x.Loudness - got[sound].Loudness) / step, Dirt: (x.Dirt - got[sound].Dirt) / step,
			}
		}
		list = append(list, moved)
	}
	return list, nil
}

// best is how far each knob is turned so that, by the slopes, sounds are out by the least: one knob after the other,
// until none brings them nearer.
func (s *settling) best(
	at map[int]place, got map[int]signal.Sketch, slopes []map[int]signal.Sketch, room float64,
) []float64 {
	turn := make([]float64, len(s.knobs))
	loss := func() float64 {
		now := maps.Clone(got)
		small := 0.0
		for i := range s.knobs {
			for sound, x := range slopes[i] {
				y := now[sound]
				y.Loudness += turn[i] * x.Loudness
				y.Dirt += turn[i] * x.Dirt
				now[sound] = y
			}
			small += turn[i] * turn[i]
		}
		return s.loss(now, room) + 2e-3*small
	}
	least := loss()
	for moved := true; moved; {
		moved = false
		for i, k := range s.knobs {
			low, high := k.control.Range()
			unit := (high - low) / 10
			was, to := turn[i], turn[i]
			for step := -mostTurn; step <= mostTurn+1e-9; step += knobGrain {
				turn[i] = step * unit
				if x := k.of(at) + turn[i]; x < low || x > high {
					continue
				}
				if now := loss(); now < least-1e-6 {
					least, to = now, turn[i]
				}
			}
			turn[i] = to
			moved = moved || to != was
		}
	}
	return turn
}

// learn takes up how far what is heard in full is from the sketch, for each sound.
func (s *settling) learn(ctx context.Context, at map[int]place, set *Set) error {
	s.known = map[int]signal.Sketch{}
	got, err := s.hear(ctx, at, s.all())
	if err != nil {
		return err
	}
	for _, made := range set.Made {
		i := slices.IndexFunc(s.sounds, func(x *plan.Sound) bool { return x.ID == made.Sound })
		if _, ok := got[i]; !ok {
			continue
		}
		s.known[i] = signal.Sketch{
			Loudness: made.OverHome - (got[i].Loudness - got[0].Loudness), Dirt: made.Dirt - got[i].Dirt,
		}
	}
	return nil
}

// standingAt is a choice with its stages somewhere, in a metering of its own.
func (m *metering) standingAt(x cover, at map[int]place) (*metering, cover) {
	own, as := *m, x
	own.places = make([][]place, len(m.places))
	for stage, p := range at {
		own.places[stage] = []place{p}
	}
	w := world{ways: make([][]way, len(m.sounds))}
	recipes := make([][]recipe, len(m.sounds))
	as.world, as.made = 0, slices.Clone(x.made)
	for sound, i := range x.made {
		if i < 0 {
			continue
		}
		y := m.worlds[x.world].ways[sound][i]
		y.stations = slices.Clone(y.stations)
		for k := range y.stations {
			if y.stations[k].stage < len(m.stages) {
				y.stations[k].at = 0
			}
		}
		w.ways[sound], recipes[sound] = []way{y}, []recipe{m.recipes[x.world][sound][i]}
		as.made[sound] = 0
	}
	own.worlds, own.recipes = []world{w}, [][][]recipe{recipes}
	return &own, as
}

// stationOf is the place of a stage in the way of a sound.
func (m *metering) stationOf(x cover, sound, stage int) int {
	for _, s := range m.worlds[x.world].ways[sound][x.made[sound]].stations {
		if s.stage == stage {
			return s.at
		}
	}
	return -1
}
