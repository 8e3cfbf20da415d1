package choose

import (
	"cmp"
	"context"
	"fmt"
	"slices"

	"envex/core/plan"
	"envex/core/reach"
)

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

// report tells of the best choices. Where the tries ran out before these were rendered, it tells of the best that were.
func (c *choosing) report(ctx context.Context, best []cover, proven bool, most int) (*Report, error) {
	if !proven {
		best = c.bestTried()
	}
	out := &Report{
		Rig: c.o.Rig, SetList: c.o.SetList, Pile: c.boxes, Sounds: c.earns(), Sets: []Set{}, Further: []Step{}, Unsaid: []plan.ID{},
		Tried: c.tried, Partial: c.partial, Assumed: []string{},
	}
	// How many each number of boxes makes, past what was asked too.
	search := &covering{worlds: c.worlds, sounds: len(c.sounds), cap: c.cap}
	_, curve, whole, err := search.covers(ctx, len(c.boxes), 1)
	if err != nil {
		return nil, err
	}
	made := 0
	for _, x := range best {
		set := c.done[x.taken].set
		if set.Rig.ID == "" {
			continue
		}
		set.Proven = proven && !c.partial
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
	if c.byTwins {
		out.Assumed = append(
			out.Assumed, "Of choices that differ only in what gives effects beside gain, one was heard: the others are as loud and as dirty.",
		)
	}
	if c.partialOrder {
		out.Assumed = append(
			out.Assumed, "The order of the whole pile is not proven the best; that of each choice is looked for again.",
		)
	}
	c.o.tell(1)
	return out, nil
}

// adds are the boxes that bring sounds which a choice misses, each by itself. Where the quick meter said that the
// choice makes a sound, and in full it does not, no way of its own is believed again.
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
			worlds[w].ways = slices.Clone(worlds[w].ways)
			for sound, made := range x.made {
				if made >= 0 && slices.Contains(set.Misses, c.sounds[sound].ID) {
					worlds[w].ways[sound] = slices.DeleteFunc(
						slices.Clone(worlds[w].ways[sound]), func(y way) bool { return y.needs.within(x.taken) },
					)
				}
			}
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
				switch x.needs.count() { // with what cannot be off
				case 0:
					one.Bare = true
				case 1:
					alone |= x.needs
				default:
					helps |= x.needs
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
			one.WhyNot = c.why(i)
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
			return fmt.Sprintf("The pile has no %s.", h.Effect.Traits().Name)
		}
	}
	return "No setting that was tried is near its dirt and its loudness."
}
