package choose

import (
	"cmp"
	"context"
	"fmt"
	"runtime"
	"slices"
	"sync"

	"golang.org/x/sync/errgroup"

	"envex/core/plan"
	"envex/core/signal"
)

// choosing finds the choices, renders them in full, and holds each to what it makes then.
type choosing struct {
	*metering
	o Options

	done map[boxes]*tried

	mu      sync.Mutex // several choices are held to what they make at once
	heard   map[string]signal.Sound
	byTwins bool                        // some choice is taken to make less because its twin does
	best    struct{ covers, boxes int } // what some choice makes, rendered in full; it stays while several are held
}

// tried is a choice that was rendered in full, and how it was set then.
type tried struct {
	set  *Set
	said cover     // what it was taken to make
	as   cover     // what it was set to make, of the ways of its metering
	by   *metering // its own, or that of the pile
}

func (c *choosing) run(ctx context.Context) (*Report, error) {
	c.done, c.heard = map[boxes]*tried{}, map[string]signal.Sound{}
	most := len(c.boxes)
	if c.o.Most > 0 {
		most = min(most, c.o.Most)
	}
	for {
		search := &covering{worlds: c.worlds, sounds: len(c.sounds), cap: c.cap}
		best, _, proven, err := search.covers(ctx, most, mostSets)
		if err != nil {
			return nil, err
		}
		var open []cover
		left := false
		for _, x := range best {
			switch {
			case c.done[x.taken] != nil:
			case len(c.done) >= mostTries:
				left = true
			case len(open) < atOnce && !slices.ContainsFunc(open, c.twinOf(x)): // its twins learn from it
				open = append(open, x)
			}
		}
		if len(open) == 0 {
			return c.report(ctx, best, proven && !left, most)
		}
		if err := c.verify(ctx, open); err != nil {
			return nil, err
		}
	}
}

// verify holds choices to what they make in full, on as many processors as there are.
func (c *choosing) verify(ctx context.Context, list []cover) error {
	found := make([]*tried, len(list))
	group, ctx := errgroup.WithContext(ctx)
	group.SetLimit(runtime.GOMAXPROCS(0))
	finished := len(c.done)
	for i, x := range list {
		group.Go(func() (err error) {
			found[i], err = c.verified(ctx, x)
			c.mu.Lock()
			defer c.mu.Unlock()
			finished++
			c.o.tell(0.6 + 0.38*float64(finished)/mostTries)
			return err
		})
	}
	if err := group.Wait(); err != nil {
		return err
	}
	for i, x := range list {
		c.done[x.taken] = found[i]
		if n := len(found[i].set.Covers); n > c.best.covers || n == c.best.covers && x.taken.count() < c.best.boxes {
			c.best.covers, c.best.boxes = n, x.taken.count()
		}
	}
	return nil
}

// cap is how many sounds a choice makes at most that was rendered, or whose twin was.
func (c *choosing) cap(so cover) (int, bool) {
	if x, ok := c.done[so.taken]; ok {
		return len(x.set.Covers), true
	}
	if x := c.twin(so); x != nil {
		most := x.said.count - x.short()
		c.byTwins = c.byTwins || most < so.count
		return most, true
	}
	return 0, false
}

// bestTried are those of the choices that were rendered which make the most sounds, with the fewest boxes.
func (c *choosing) bestTried() []cover {
	var list []*tried
	for _, x := range c.done {
		if x.set.Rig.ID != "" {
			list = append(list, x)
		}
	}
	slices.SortFunc(list, func(a, b *tried) int {
		return cmp.Or(
			cmp.Compare(len(b.set.Covers), len(a.set.Covers)), cmp.Compare(a.said.taken.count(), b.said.taken.count()),
			cmp.Compare(a.said.taken, b.said.taken),
		)
	})
	var best []cover
	for _, x := range list[:min(len(list), mostSets)] {
		if len(x.set.Covers) == len(list[0].set.Covers) && x.said.taken.count() == list[0].said.taken.count() {
			best = append(best, x.said)
		}
	}
	return best
}

// verified holds a choice to what it makes in full. It is set as the pile's chain was, or as its twin is where that was
// tried; where that does not hold, its boxes are metered by themselves and set anew.
func (c *choosing) verified(ctx context.Context, x cover) (*tried, error) {
	if other := c.twin(x); other != nil {
		out, err := c.likeTwin(ctx, x, other)
		if err != nil || len(out.set.Covers) >= x.count-other.short() {
			return out, err
		}
	}
	out := &tried{set: &Set{}, said: x, as: x, by: c.metering}
	own, as := c.fixed(x, c.metering, x)
	if err := c.held(ctx, own, as, out); err != nil || len(out.set.Covers) == x.count || c.beaten(x) {
		return out, err
	}
	own = c.alone(x.taken)
	b, err := own.bench(ctx, x.taken&c.always, c.o)
	if err != nil {
		return nil, err
	}
	for _, deep := range []bool{false, true} {
		if err := c.setAnew(ctx, b, out, deep); err != nil {
			return nil, err
		}
		if len(out.set.Covers) == x.count {
			break
		}
	}
	c.mu.Lock()
	c.tried += b.meter.Tried
	c.mu.Unlock()
	return out, nil
}

// beaten reports whether another choice makes as many sounds as one was taken to make, with no more boxes: it would be
// one among several then, and what makes it so many is not looked for.
func (c *choosing) beaten(x cover) bool {
	return c.best.covers >= x.count && c.best.boxes <= x.taken.count()
}

// setAnew meters the boxes of a choice by themselves and sets them to make the most; what was set before stays where
// that makes as many. Two stages on together are looked at only where it is to be deep: mostly one at a time will do.
func (c *choosing) setAnew(ctx context.Context, b *bench, out *tried, deep bool) error {
	own := c.alone(out.said.taken)
	b.metering = own
	if err := own.under(ctx, b, deep); err != nil {
		return err
	}
	for range mostRounds {
		search := &covering{worlds: own.worlds, sounds: len(c.sounds)}
		best, _, _, err := search.covers(ctx, out.said.taken.count(), 1)
		if err != nil {
			return err
		}
		if len(best) == 0 || best[0].count <= len(out.set.Covers) {
			return nil
		}
		x := best[0]
		x.taken = out.said.taken // what is not needed then is there all the same
		try := &tried{set: &Set{}, said: x, as: x, by: own}
		if err := c.held(ctx, own, x, try); err != nil {
			return err
		}
		if out.set.Rig.ID == "" || len(try.set.Covers) > len(out.set.Covers) {
			out.set, out.as, out.by = try.set, try.as, try.by
		}
		if !own.strike(x, try.set) {
			return nil
		}
	}
	return nil
}

// held turns the knobs of a choice to where its sounds are within, and renders it in full. Where one is out by what
// sketches cannot see, they are turned once more by what is heard.
func (c *choosing) held(ctx context.Context, m *metering, x cover, out *tried) error {
	s, err := c.settling(ctx, m, x)
	if err != nil {
		return err
	}
	at := s.standing(x)
	for again := range 2 {
		if at, err = s.settle(ctx, at); err != nil {
			return err
		}
		own, as := m.standingAt(x, at)
		set, err := c.rendered(ctx, own, as)
		if err != nil {
			return err
		}
		if out.set.Rig.ID == "" || len(set.Covers) > len(out.set.Covers) {
			out.set, out.as, out.by = set, as, own
		}
		if len(set.Covers) == x.count || again > 0 {
			break
		}
		if err := s.learn(ctx, at, set); err != nil {
			return err
		}
	}
	c.mu.Lock()
	c.tried += s.meter.Tried
	c.mu.Unlock()
	return nil
}

// strike takes out of a world the ways that did not hold, and reports whether there were any.
func (m *metering) strike(x cover, set *Set) bool {
	some := false
	for sound, i := range x.made {
		if i >= 0 && !slices.Contains(set.Covers, m.sounds[sound].ID) {
			w := &m.worlds[x.world]
			w.ways[sound] = slices.Delete(w.ways[sound], i, i+1)
			m.recipes[x.world][sound] = slices.Delete(m.recipes[x.world][sound], i, i+1)
			some = true
		}
	}
	return some
}

// rendered makes a choice a rig and says what it makes.
func (c *choosing) rendered(ctx context.Context, m *metering, x cover) (*Set, error) {
	out := &Set{
		Boxes: []plan.ID{}, Names: []string{}, Covers: []plan.ID{}, Misses: []plan.ID{}, Unknown: []plan.ID{}, Made: []Made{},
		Adds: []Added{},
	}
	for i, b := range c.boxes {
		if x.taken.has(i) {
			out.Boxes, out.Names = append(out.Boxes, b.Gear), append(out.Names, b.Name)
			if g, _ := c.plan.FindGear(b.Gear); b.Kind != "" {
				out.New = append(out.New, *g)
			}
		}
	}
	r, err := c.rigOf(ctx, m, x, out)
	if err != nil {
		return nil, err
	}
	got, err := c.measured(ctx, &r, m, x)
	if err != nil {
		return nil, err
	}
	for sound, way := range x.made {
		s := c.sounds[sound]
		one, ok := got[s.ID]
		if way < 0 || !ok {
			out.Misses = append(out.Misses, s.ID)
			continue
		}
		made := Made{
			Sound: s.ID, Name: s.Name, Within: one.Met(), Dirt: one.Figures.Dirt, OverHome: one.OverHome, Checks: one.Checks,
			Words: c.words(m.recipes[x.world][sound][way]),
		}
		made.DirtMin, made.DirtMax, _ = signal.DirtBand(s.Targets)
		if low, high, asked := signal.LoudnessBand(s.Targets); asked {
			made.LoudMin, made.LoudMax = &low, &high
		}
		out.Made = append(out.Made, made)
		if one.Met() {
			out.Covers = append(out.Covers, s.ID)
		} else {
			out.Misses = append(out.Misses, s.ID)
		}
	}
	out.Rig = r
	return out, nil
}

// measured renders the sounds of a choice in full, those that were not rendered yet as they are set.
func (c *choosing) measured(ctx context.Context, r *plan.Rig, m *metering, x cover) (map[plan.ID]signal.Sound, error) {
	q := *c.plan
	q.Put(*r)
	set := func(sound int) string {
		if x.made[sound] < 0 {
			return ""
		}
		makes := m.recipes[x.world][sound][x.made[sound]]
		var at []any
		for _, on := range makes.on {
			at = append(at, on.stage, m.places[on.stage][m.stationOf(x, sound, on.stage)])
		}
		for _, by := range makes.given {
			at = append(at, by)
		}
		return fmt.Sprint(x.taken, sound, makes.channel, at)
	}
	got := map[plan.ID]signal.Sound{}
	var missing []plan.ID
	for sound, way := range x.made {
		if way < 0 {
			continue
		}
		c.mu.Lock()
		known, ok := c.heard[set(0)+set(sound)]
		c.mu.Unlock()
		if ok {
			got[c.sounds[sound].ID] = known
		} else {
			missing = append(missing, c.sounds[sound].ID)
		}
	}
	if len(missing) == 0 {
		return got, nil
	}
	report, err := signal.Measure(ctx, &q, r.ID, signal.Options{Kept: c.o.Kept, Want: signal.ForTargets, Only: missing})
	if err != nil {
		return nil, fmt.Errorf("choose: %w", err)
	}
	c.mu.Lock()
	defer c.mu.Unlock()
	for _, s := range report.Sounds {
		got[s.Sound] = s
		sound := slices.IndexFunc(c.sounds, func(x *plan.Sound) bool { return x.ID == s.Sound })
		c.heard[set(0)+set(sound)] = s
	}
	return got, nil
}
