package choose

import (
	"cmp"
	"context"
	"fmt"
	"math/bits"
	"slices"
	"strings"
)

// mostBoxes is how many boxes a pile may have: they are told apart by the bits of one word.
const mostBoxes = 64

// boxes is a set of boxes of the pile, by their places in it.
type boxes uint64

func (b boxes) has(i int) bool      { return b&(1<<i) != 0 }
func (b boxes) with(o boxes) boxes  { return b | o }
func (b boxes) count() int          { return bits.OnesCount64(uint64(b)) }
func (b boxes) within(o boxes) bool { return b&^o == 0 }

// station is a stage that stands somewhere: one of the places that its knobs may have for the whole night.
type station struct{ stage, at int }

// way is one way to make a sound: what has to be taken for it, and where stages have to stand.
type way struct {
	needs    boxes
	stations []station // by stage, each at most once
	effort   int       // fewer is easier: what is on
}

// world is what is held fixed while sounds are made: how the home sound is made, against which the others are as loud
// as they have to be, and what sounds as soon as it is taken along.
type world struct {
	ways    [][]way // by sound
	first   bool    // the first sound has to be made, for any to count
	with    boxes   // what is taken in it whatever else is
	without boxes   // what would sound in it, and is not to be taken
}

// cover is a choice of boxes that makes some of the sounds.
type cover struct {
	taken boxes
	world int
	made  []int // by sound: its way; -1 where it is missed
	count int   // sounds that are made
}

// covering looks for the most sounds that few boxes can make. Each stage stands in one place for all of them.
type covering struct {
	worlds []world
	sounds int
	cap    func(so cover) (most int, tried bool) // how many sounds a choice makes that was tried, and makes no more

	steps, budget int
	order         []int   // sounds, those with the fewest ways first
	best          []cover // those that make the most, with the fewest boxes
	count         int     // sounds that the best make
	least         int     // boxes that they take
	keep          int     // how many of the best are kept
	seen          map[string]bool
	at            []int // by stage: where it stands; -1 anywhere
}

// mostSteps is how many branches are looked at before an answer is given without proof.
const mostSteps = 2_000_000

// covers are the choices of at most so many boxes that make the most sounds, each with the fewest boxes that do; keep
// says how many. They are proven to be where the search came to its end within its budget: it looks at no boxes, one,
// two and so on, and ends where no sound is left that more boxes could make. The curve is how many sounds each number
// of boxes makes, as far as it was looked at.
func (c *covering) covers(ctx context.Context, most, keep int) (best []cover, curve []int, proven bool, err error) {
	c.count, c.keep, c.steps = -1, keep, 0
	if c.budget == 0 {
		c.budget = mostSteps
	}
	could := 0
	for w := range c.worlds {
		c.begin(w)
		could = max(could, c.couldMake(w, most, 0, c.worlds[w].with))
	}
	for n := 0; n <= most && c.count < could; n++ {
		for w := range c.worlds {
			c.begin(w)
			if err := c.try(ctx, w, n, 0, cover{taken: c.worlds[w].with, world: w, made: c.none()}); err != nil {
				return nil, nil, false, err
			}
		}
		curve = append(curve, c.count)
	}
	return c.best, curve, c.steps <= c.budget, nil
}

func (c *covering) none() []int {
	list := make([]int, c.sounds)
	for i := range list {
		list[i] = -1
	}
	return list
}

func (c *covering) begin(w int) {
	ways := c.worlds[w].ways
	c.order = c.order[:0]
	stages := 0
	for i := range ways {
		c.order = append(c.order, i)
		for _, x := range ways[i] {
			for _, s := range x.stations {
				stages = max(stages, s.stage+1)
			}
		}
	}
	slices.SortStableFunc(c.order, func(a, b int) int { return cmp.Compare(len(ways[a]), len(ways[b])) })
	c.at = make([]int, stages)
	for i := range c.at {
		c.at[i] = -1
	}
	c.seen = map[string]bool{}
}

// stands reports whether a way goes with where stages stand already.
func (c *covering) stands(x way) bool {
	for _, s := range x.stations {
		if c.at[s.stage] >= 0 && c.at[s.stage] != s.at {
			return false
		}
	}
	return true
}

// adds reports whether a way takes more than is taken, or moves what stands anywhere yet.
func (c *covering) adds(x way, taken boxes) bool {
	if !x.needs.within(taken) {
		return true
	}
	return slices.ContainsFunc(x.stations, func(s station) bool { return c.at[s.stage] < 0 })
}

// open reports whether a way is still open to a choice of so many boxes.
func (c *covering) open(w int, x way, taken boxes, most int) bool {
	return x.needs.with(taken).count() <= most && x.needs&c.worlds[w].without == 0 && c.stands(x)
}

func (c *covering) try(ctx context.Context, w, most, depth int, so cover) error {
	if c.steps++; c.steps > c.budget {
		return nil
	}
	if c.steps%4096 == 0 {
		if err := ctx.Err(); err != nil {
			return fmt.Errorf("choose: %w", err)
		}
	}
	if so.taken.count() > most {
		return nil
	}
	if depth == c.sounds {
		c.found(so)
		return nil
	}
	could := so.count + c.couldMake(w, most, depth, so.taken)
	if could < c.count || could == c.count && so.taken.count() > c.least || c.known(depth, so) {
		return nil
	}
	sound := c.order[depth]
	for i, x := range c.worlds[w].ways[sound] {
		if !c.open(w, x, so.taken, most) {
			continue
		}
		more := c.adds(x, so.taken)
		set := c.put(x)
		next := cover{so.taken.with(x.needs), w, slices.Clone(so.made), so.count + 1}
		next.made[sound] = i
		err := c.try(ctx, w, most, depth+1, next)
		c.lift(set)
		if err != nil {
			return err
		}
		if !more {
			return nil // it costs nothing: no other way, and not to make it, is better
		}
	}
	if sound == 0 && c.worlds[w].first {
		return nil
	}
	return c.try(ctx, w, most, depth+1, cover{so.taken, w, so.made, so.count})
}

// couldMake is how many of the sounds that are left have a way open, each by itself: no choice makes more.
func (c *covering) couldMake(w, most, depth int, taken boxes) int {
	n := 0
	for _, sound := range c.order[depth:] {
		if slices.ContainsFunc(c.worlds[w].ways[sound], func(x way) bool { return c.open(w, x, taken, most) }) {
			n++
		}
	}
	return n
}

// known reports whether the search has been here: at this sound, with as much taken, standing so, and as many made.
func (c *covering) known(depth int, so cover) bool {
	var b strings.Builder
	fmt.Fprint(&b, depth, so.taken, so.count, c.at)
	if c.seen[b.String()] {
		return true
	}
	c.seen[b.String()] = true
	return false
}

// put makes the stages of a way stand where it needs them, and gives those that stood anywhere before.
func (c *covering) put(x way) []int {
	var set []int
	for _, s := range x.stations {
		if c.at[s.stage] < 0 {
			c.at[s.stage] = s.at
			set = append(set, s.stage)
		}
	}
	return set
}

func (c *covering) lift(stages []int) {
	for _, s := range stages {
		c.at[s] = -1
	}
}

// found takes a choice up among the best, where it is.
func (c *covering) found(so cover) {
	if c.cap != nil {
		if most, tried := c.cap(so); tried {
			so.count = min(so.count, most)
		}
	}
	switch n := so.taken.count(); {
	case so.count < c.count || so.count == c.count && n > c.least:
		return
	case so.count > c.count || n < c.least:
		c.best, c.count, c.least = nil, so.count, n
	}
	for i, x := range c.best {
		if x.taken == so.taken {
			if c.effort(so) < c.effort(x) {
				c.best[i] = so
				slices.SortFunc(c.best, c.easier)
			}
			return
		}
	}
	at, _ := slices.BinarySearchFunc(c.best, so, c.easier)
	c.best = slices.Insert(c.best, at, so)
	c.best = c.best[:min(len(c.best), c.keep)]
}

// easier puts those first that are sure of the most, and have the least on.
func (c *covering) easier(a, b cover) int {
	return cmp.Or(cmp.Compare(c.effort(a), c.effort(b)), cmp.Compare(a.taken, b.taken))
}

// effort is how much is on in all ways of a choice together.
func (c *covering) effort(x cover) int {
	n := 0
	for sound, i := range x.made {
		if i >= 0 {
			n += c.worlds[x.world].ways[sound][i].effort
		}
	}
	return n
}
