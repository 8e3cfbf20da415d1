package choose

import (
	"cmp"
	"context"
	"fmt"
	"math"
	"slices"

	"envex/core/plan"
	"envex/core/reach"
	"envex/core/signal"
)

// choosing finds the choices, renders them in full, and holds each to what it makes then.
type choosing struct {
	*metering
	o Options

	done  map[boxes]*Set // what was rendered
	heard map[string]signal.Sound
}

func (c *choosing) run(ctx context.Context) (*Report, error) {
	c.done, c.heard = map[boxes]*Set{}, map[string]signal.Sound{}
	most := len(c.boxes)
	if c.o.Most > 0 {
		most = min(most, c.o.Most)
	}
	for {
		search := &covering{worlds: c.worlds, sounds: len(c.sounds), caps: c.caps()}
		best, _, proven, err := search.covers(ctx, most, mostSets)
		if err != nil {
			return nil, err
		}
		tried := len(c.done)
		for _, x := range best {
			if c.done[x.taken] != nil {
				continue
			}
			if len(c.done) == mostTries {
				proven = false
				break
			}
			if c.done[x.taken], err = c.verified(ctx, x); err != nil {
				return nil, err
			}
			c.o.tell(0.6 + 0.38*float64(len(c.done))/mostTries)
		}
		if len(c.done) == tried {
			return c.report(ctx, best, proven, most)
		}
	}
}

// caps are how many sounds the choices make that were rendered.
func (c *choosing) caps() map[boxes]int {
	list := map[boxes]int{}
	for taken, set := range c.done {
		list[taken] = len(set.Covers)
	}
	return list
}

// verified holds a choice to what it makes in full. Where the quick meter says of its own chain that a sound is out, or
// where one does not hold, the boxes are metered by themselves and set anew; what does not hold then is struck out, a few
// times over.
func (c *choosing) verified(ctx context.Context, x cover) (*Set, error) {
	own := c.alone(x.taken)
	b, err := own.bench(x.taken&c.always, c.o)
	if err != nil {
		return nil, err
	}
	holds, err := c.holds(ctx, b, x)
	if err != nil {
		return nil, err
	}
	set := &Set{}
	if holds {
		if set, err = c.rendered(ctx, c.metering, x); err != nil || len(set.Covers) == x.count {
			return set, err
		}
	}
	if err := own.under(ctx, b); err != nil {
		return nil, err
	}
	c.tried += own.tried
	for range mostRounds {
		search := &covering{worlds: own.worlds, sounds: len(c.sounds)}
		best, _, _, err := search.covers(ctx, x.taken.count(), 1)
		if err != nil {
			return nil, err
		}
		if len(best) == 0 || set.Rig.ID != "" && best[0].count <= len(set.Covers) {
			break
		}
		best[0].taken = x.taken // what is not needed then is there all the same
		next, err := c.nudged(ctx, own, best[0])
		if err != nil {
			return nil, err
		}
		if set.Rig.ID == "" || len(next.Covers) > len(set.Covers) {
			set = next
		}
		if !own.strike(best[0], next) {
			break
		}
	}
	return set, nil
}

// holds reports whether the quick meter says of the chain that a choice makes what it said of the pile's.
func (c *choosing) holds(ctx context.Context, b *bench, x cover) (bool, error) {
	var list []config
	for sound, way := range x.made {
		if way >= 0 {
			list = append(list, c.recipes[x.world][sound][way].config)
		}
	}
	if err := b.sketch(ctx, list); err != nil {
		return false, err
	}
	if x.made[0] < 0 {
		return true, nil
	}
	home := b.got[name(c.recipes[x.world][0][x.made[0]].config, c.of[0])].Loudness
	for sound, way := range x.made {
		if way < 0 {
			continue
		}
		if _, ok := c.near(sound, home, b.got[name(c.recipes[x.world][sound][way].config, c.of[sound])]); !ok {
			return false, nil
		}
	}
	return true, nil
}

// nudged renders a choice in full; where a sound is out by what the quick meter cannot see, levels are turned to where all
// sounds that hear them are within, and it is rendered again.
func (c *choosing) nudged(ctx context.Context, m *metering, x cover) (*Set, error) {
	set, err := c.rendered(ctx, m, x)
	if err != nil || len(set.Misses) == 0 {
		return set, err
	}
	was := make([][]place, len(m.places))
	for i := range m.places {
		was[i] = slices.Clone(m.places[i])
	}
	moved, err := m.nudge(ctx, x, set)
	if err != nil || !moved {
		return set, err
	}
	next, err := c.rendered(ctx, m, x)
	if err != nil {
		return nil, err
	}
	if len(next.Covers) > len(set.Covers) {
		return next, nil
	}
	m.places = was
	return set, nil
}

// mostNudge is how far a level is nudged, in LU.
const mostNudge = 2.0

// nudge turns the levels of stages that sounds which are out have on last, to the middle of what all sounds that have
// them on can bear. It reports whether any was turned.
func (m *metering) nudge(ctx context.Context, x cover, set *Set) (bool, error) {
	out := map[station]bool{}
	low, high := map[station]float64{}, map[station]float64{}
	for _, made := range set.Made {
		sound := slices.IndexFunc(m.sounds, func(s *plan.Sound) bool { return s.ID == made.Sound })
		r := m.recipes[x.world][sound][x.made[sound]]
		l, h, asked := signal.LoudnessBand(m.sounds[sound].Targets)
		for i, on := range r.on {
			at := station{on.stage, m.stationOf(x, sound, on.stage)}
			if _, seen := low[at]; !seen {
				low[at], high[at] = -mostNudge, mostNudge
			}
			if sound == 0 {
				low[at], high[at] = 0, 0 // all others are measured against it
			} else if asked {
				low[at], high[at] = max(low[at], l-made.OverHome), min(high[at], h-made.OverHome)
			}
			out[at] = out[at] || i == len(r.on)-1 && outByLoudness(made)
		}
	}
	moved := false
	for at, is := range out {
		level := m.stages[at.stage].level
		if !is || level == nil || low[at] > high[at] {
			continue
		}
		slope, err := m.benches[x.world].slope(ctx, at)
		if err != nil {
			return false, err
		}
		if slope <= 0 {
			continue
		}
		from, to := level.Range()
		p := &m.places[at.stage][at.at]
		p.level = min(max(p.level+math.Round(10*(low[at]+high[at])/2/slope)/10, from), to)
		moved = true
	}
	return moved, nil
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

func outByLoudness(made Made) bool {
	return slices.ContainsFunc(made.Checks, func(x signal.Check) bool { return !x.Met && x.What == "loudness" })
}

// slope is how much louder a stage makes the first sound's guitar for each step of its level, alone, in LU.
func (b *bench) slope(ctx context.Context, at station) (float64, error) {
	s := b.stages[at.stage]
	levels := s.levels()
	if len(levels) < 2 {
		return 0, nil
	}
	here := b.places[at.stage][at.at]
	ends := []config{
		{on: []standing{{at.stage, place{here.drive, levels[0]}}}},
		{on: []standing{{at.stage, place{here.drive, levels[len(levels)-1]}}}},
	}
	if err := b.sketch(ctx, ends); err != nil {
		return 0, err
	}
	rise := b.got[name(ends[1], 0)].Loudness - b.got[name(ends[0], 0)].Loudness
	return rise / (levels[len(levels)-1] - levels[0]), nil
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
		out.Made = append(out.Made, Made{
			Sound: s.ID, Name: s.Name, Within: one.Met(), Dirt: one.Figures.Dirt, OverHome: one.OverHome, Checks: one.Checks,
			Words: c.words(m.recipes[x.world][sound][way]),
		})
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
		if known, ok := c.heard[set(0)+set(sound)]; ok {
			got[c.sounds[sound].ID] = known
		} else {
			missing = append(missing, c.sounds[sound].ID)
		}
	}
	if len(missing) == 0 {
		return got, nil
	}
	report, err := signal.Measure(ctx, &q, r.ID, signal.Options{Kept: c.o.Kept, Targets: true, Only: missing})
	if err != nil {
		return nil, fmt.Errorf("choose: %w", err)
	}
	for _, s := range report.Sounds {
		got[s.Sound] = s
		sound := slices.IndexFunc(c.sounds, func(x *plan.Sound) bool { return x.ID == s.Sound })
		c.heard[set(0)+set(sound)] = s
	}
	return got, nil
}

// words say what is on.
func (c *choosing) words(r recipe) string {
	var list []string
	for _, values := range []map[plan.Key]plan.Value{c.channels[r.channel]} {
		for _, key := range plan.SortedKeys(values) {
			list = append(list, values[key].Word())
		}
	}
	called := func(key plan.Key) {
		if g, ok := c.plan.FindGear(key.Gear()); ok {
			if b, ok := g.FindBlock(plan.ID(key.Rest())); ok {
				list = append(list, g.StopName(b))
			}
		}
	}
	for _, on := range r.on {
		called(c.stages[on.stage].key)
	}
	for _, by := range r.given {
		called(by.key)
	}
	if len(list) == 0 {
		return "everything off"
	}
	return plan.Listed(list)
}

// finish says of a choice what it costs to play, to carry and to feed.
func (c *choosing) finish(ctx context.Context, out *Set) error {
	if err := c.feed(&out.Rig, out); err != nil {
		return err
	}
	if err := c.fit(ctx, &out.Rig, out); err != nil {
		return err
	}
	q := *c.plan
	q.Put(out.Rig)
	return c.effort(&q, out)
}

// effort counts presses, hands and late changes over the set list.
func (c *choosing) effort(p *plan.Plan, out *Set) error {
	if c.o.SetList == "" {
		return nil
	}
	report, err := reach.Compute(p, out.Rig.ID, c.o.SetList)
	if err != nil {
		return fmt.Errorf("choose: %w", err)
	}
	for _, x := range report.Changes {
		out.Presses += len(x.Presses)
		switch {
		case x.Verdict == reach.ByHand:
			out.ByHand++
		case x.Fails:
			out.Late++
		}
	}
	return nil
}

// easier orders choices of as many boxes: the most sounds, then hands, what is late, presses; then what fits, takes the
// least floor and weighs the least; then what is fed, and from the fewest outputs.
func easier(a, b Set) int {
	no := func(x *bool) int { return b2i(x != nil && !*x) }
	return cmp.Or(
		cmp.Compare(len(b.Covers), len(a.Covers)), cmp.Compare(len(a.Boxes), len(b.Boxes)),
		cmp.Compare(a.ByHand, b.ByHand), cmp.Compare(a.Late, b.Late), cmp.Compare(a.Presses, b.Presses),
		cmp.Compare(no(a.Fits), no(b.Fits)), cmp.Compare(a.AreaCM2, b.AreaCM2), cmp.Compare(a.WeightG, b.WeightG),
		cmp.Compare(no(a.Fed), no(b.Fed)), cmp.Compare(a.Outputs, b.Outputs),
	)
}

func (c *choosing) report(ctx context.Context, best []cover, proven bool, most int) (*Report, error) {
	out := &Report{
		Rig: c.o.Rig, SetList: c.o.SetList, Pile: c.boxes, Sounds: c.earns(), Sets: []Set{}, Further: []Step{},
		Tried: c.tried, Partial: c.partial, Assumed: []string{},
	}
	// How many each number of boxes makes, past what was asked too.
	search := &covering{worlds: c.worlds, sounds: len(c.sounds), caps: c.caps()}
	_, curve, whole, err := search.covers(ctx, len(c.boxes), 1)
	if err != nil {
		return nil, err
	}
	made := 0
	for _, x := range best {
		set := c.done[x.taken]
		if set == nil {
			continue
		}
		set.Proven = proven
		if err := c.finish(ctx, set); err != nil {
			return nil, err
		}
		if set.Adds, err = c.adds(ctx, x, set); err != nil {
			return nil, err
		}
		made = max(made, len(set.Covers))
		out.Sets = append(out.Sets, *set)
	}
	out.Sets = slices.DeleteFunc(out.Sets, func(s Set) bool { return len(s.Covers) < made })
	for n, count := range curve {
		if whole && count >= 0 {
			out.Further = append(out.Further, Step{Boxes: n, Covers: count})
		}
	}
	out.Bound = most
	for n, count := range curve {
		if count >= made {
			out.Bound = min(out.Bound, n)
			break
		}
	}
	slices.SortStableFunc(out.Sets, easier)
	if c.partialOrder {
		out.Assumed = append(out.Assumed, "The order of the whole pile is not proven the best; that of each choice is looked for again.")
	}
	c.o.tell(1)
	return out, nil
}

// adds are the boxes that bring sounds which a choice misses, each by itself.
func (c *choosing) adds(ctx context.Context, x cover, set *Set) ([]Added, error) {
	list := []Added{}
	if len(set.Misses) == 0 {
		return list, nil
	}
	for i, b := range c.boxes {
		if x.taken.has(i) {
			continue
		}
		worlds := slices.Clone(c.worlds)
		for w := range worlds {
			worlds[w].without |= ^(x.taken | 1<<i)
		}
		search := &covering{worlds: worlds, sounds: len(c.sounds)}
		best, _, _, err := search.covers(ctx, x.taken.count()+1, 1)
		if err != nil {
			return nil, err
		}
		if len(best) == 0 || best[0].count <= len(set.Covers) {
			continue
		}
		one := Added{Box: b.Gear, Sounds: []plan.ID{}}
		for sound, way := range best[0].made {
			if id := c.sounds[sound].ID; way >= 0 && slices.Contains(set.Misses, id) {
				one.Sounds = append(one.Sounds, id)
			}
		}
		if len(one.Sounds) > 0 {
			list = append(list, one)
		}
	}
	slices.SortStableFunc(list, func(a, b Added) int { return cmp.Compare(len(b.Sounds), len(a.Sounds)) })
	return list, nil
}

// earns is what of the pile is of use for each sound.
func (c *choosing) earns() []Sound {
	var out []Sound
	for i, s := range c.sounds {
		one := Sound{Sound: s.ID, Name: s.Name, Alone: []plan.ID{}, Helps: []plan.ID{}}
		var alone, helps boxes
		for _, w := range c.worlds {
			for _, x := range w.ways[i] {
				switch own := x.needs &^ w.with; {
				case own == 0:
					one.Bare = one.Bare || w.with == 0
				case own.count() == 1 && w.with == 0:
					alone |= own
				default:
					helps |= own
				}
			}
		}
		for k, b := range c.boxes {
			switch {
			case alone.has(k):
				one.Alone = append(one.Alone, b.Gear)
			case helps.has(k):
				one.Helps = append(one.Helps, b.Gear)
			}
		}
		if !one.Bare && alone|helps == 0 {
			one.Nobody = c.why(i)
		}
		out = append(out, one)
	}
	return out
}

// why says what the pile has not for a sound that nothing of it makes.
func (c *choosing) why(sound int) string {
	for _, h := range c.sounds[sound].Targets.Effects {
		has := len(c.giving[h.Effect]) > 0 ||
			slices.ContainsFunc(c.stages, func(s stage) bool { return s.effect == h.Effect })
		if !has {
			return fmt.Sprintf("Nothing in the pile is a %s.", h.Effect.Traits().Name)
		}
	}
	return "No setting that was tried is near its dirt and its loudness."
}
