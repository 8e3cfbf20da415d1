package signal

import (
	"cmp"
	"context"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/catalog"
	"envex/core/plan"
)

// typed is a plan of an overdrive and an amp, with a home sound and one that is asked for.
func typed(t *testing.T, boxes ...string) *plan.Plan {
	t.Helper()
	p := &plan.Plan{}
	r := plan.Rig{ID: "r", Name: "r"}
	for _, id := range append(boxes, "combo-plain") {
		k, ok := catalog.Find(id)
		require.True(t, ok, id)
		g := k.New(plan.ID(id), id)
		p.Put(g)
		for _, b := range g.Blocks {
			r.Path = append(r.Path, plan.Node{Stop: plan.BlockKey(g.ID, b.ID)})
		}
	}
	r.Recipes = []plan.Recipe{{ID: "home", Sound: "home", Values: map[plan.Key]plan.Value{}}}
	p.Put(r)
	p.Put(plan.Sound{ID: "home", Name: "Home", Short: "HM", Role: plan.HomeRole, Tape: "bone"})
	return p
}

func ask(p *plan.Plan, dirtLow, dirtHigh, over, tolerance float64, effects ...plan.Heard) {
	p.Put(plan.Sound{ID: "asked", Name: "Asked", Short: "AS", Role: plan.LeadRole, Tape: "sky",
		Targets: plan.Targets{
			DirtMin: &dirtLow, DirtMax: &dirtHigh, LoudnessLU: &over, ToleranceLU: &tolerance, Effects: effects,
		}})
}

// strummed is one chord of the phrase as the guitar of a rig gives it: it is metered in a sixth of the time.
func strummed(r *rendering, s Setting) []float64 { return r.source(s).phrase()[5*Rate:] }

// Of an overdrive alone every setting on the grid is metered; where one is within the targets, one is proposed, and
// where none is, none is called so.
func TestAWayIsFoundWheneverOneIsOnTheGrid(t *testing.T) {
	p := typed(t, "mid-hump-overdrive")
	ask(p, 0, 100, 0, 1)
	r, err := newRendering(p, "r", keptHere)
	require.NoError(t, err)
	home := r.setFor(&r.rig.Recipes[0], nil, plan.Tempo{})
	grid := []Setting{home, with(home, "mid-hump-overdrive/fx/on", plan.On(true))}
	on := grid[1]
	for _, drive := range []float64{0, 2, 4, 5, 6, 8, 10} {
		for level := 0.0; level <= 10; level++ {
			grid = append(
				grid,
				with(
					with(on, "mid-hump-overdrive/fx/drive", plan.Number(drive)), "mid-hump-overdrive/fx/level", plan.Number(level),
				),
			)
		}
	}
	dry := strummed(r, home)
	all, err := r.fan(context.Background(), grid, dry, false, nil)
	require.NoError(t, err)
	search := NewSearch(Options{Dry: dry})
	for _, want := range []struct{ low, high, over, tolerance float64 }{
		{20, 40, 1, 1}, {45, 60, 3.5, 0.5}, {0, 12, 0, 1}, {30, 34, -6, 0.4}, {70, 100, 0, 1}, {0, 3, 6, 1}, {22, 26, 5, 0.3},
	} {
		ask(p, want.low, want.high, want.over, want.tolerance)
		any := false
		for _, q := range all {
			over := q.loudness - all[0].loudness
			any = any || q.dirt >= want.low && q.dirt <= want.high && over >= want.over-want.tolerance &&
				over <= want.over+want.tolerance
		}
		ways, err := search.Ways(context.Background(), p, "r", "asked")
		require.NoError(t, err)
		require.NotEmpty(t, ways)
		if any {
			assert.True(t, ways[0].Within, "%+v: %+v", want, ways[0])
		} else if ways[0].Within {
			assert.Contains(t, ways[0].Words, "combo-plain", "%+v: only the amp can have done it", want)
		}
		for i, w := range ways {
			if w.Within {
				assert.InDelta(t, (want.low+want.high)/2, w.Dirt, (want.high-want.low)/2+1e-9, "%d", i)
				assert.InDelta(t, want.over, w.OverHome, want.tolerance+1e-9)
			}
		}
	}
}

// What a sketch leaves out would not have been rendered: nothing of it is near the targets, or the nearest there is.
func TestASketchLeavesOutNothingThatIsNear(t *testing.T) {
	p := typed(t, "mid-hump-overdrive")
	ask(p, 0, 100, 0, 1)
	r, err := newRendering(p, "r", keptHere)
	require.NoError(t, err)
	all := map[string]quick{}
	for _, want := range []struct{ low, high, over, tolerance float64 }{
		{20, 40, 1, 1}, {45, 60, 3.5, 0.5}, {0, 12, 0, 1}, {30, 34, -6, 0.4}, {0, 3, 12, 0.1},
	} {
		ask(p, want.low, want.high, want.over, want.tolerance)
		s, _ := p.FindSound("asked")
		w := &wayfinder{Search: NewSearch(Options{Kept: keptHere}), rendering: r, sound: s, blocks: r.gainBlocks()}
		w.metred = all
		w.home = &made{setting: r.setFor(&r.rig.Recipes[0], nil, plan.Tempo{})}
		home, err := w.meter(t.Context(), []Setting{w.home.setting})
		require.NoError(t, err)
		w.homeAt = home[0].loudness
		tries := w.turnsOf(w.switches(), 1, mostTurned)
		near, err := w.nearest(t.Context(), tries)
		require.NoError(t, err)
		require.Less(t, len(near), len(tries)/2, "%+v", want)
		require.NoError(t, w.meterAll(t.Context(), tries))
		kept := map[string]bool{}
		for _, a := range near {
			kept[r.signatureOf(a.set)] = true
		}
		best := slices.MinFunc(tries, func(a, b attempt) int { return cmp.Compare(w.score(a.got), w.score(b.got)) })
		for _, a := range tries {
			if lu, dirt := w.offBy(a.got); lu <= nearLU && dirt <= nearDirt || w.score(a.got) == w.score(best.got) {
				assert.True(t, kept[r.signatureOf(a.set)], "%+v: %v, %.1f %% of dirt", want, a.turned, a.got.dirt)
			}
		}
	}
}

func TestAWayTurnsOnTheEffectsThatAreAsked(t *testing.T) {
	p := typed(t, "mid-hump-overdrive", "tap-tremolo", "tap-delay", "hall-reverb")
	ask(p, 0, 100, 0, 40, plan.Heard{Effect: plan.EffectDelay, Note: "1/8."}, plan.Heard{Effect: plan.EffectTremolo})
	ways, err := NewSearch(Options{}).Ways(context.Background(), p, "r", "asked")
	require.NoError(t, err)
	require.True(t, ways[0].Within)
	values := ways[0].Recipe.Values
	assert.Equal(t, plan.On(true), values["tap-delay/fx/on"])
	assert.Equal(t, plan.Sync("1/8."), values["tap-delay/fx/time"])
	assert.Equal(t, plan.On(true), values["tap-tremolo/fx/on"])
	assert.Equal(t, plan.On(false), values["hall-reverb/fx/on"], "nobody asked for it")
	assert.Contains(t, ways[0].On, plan.Key("tap-delay/fx"))

	ask(p, 0, 100, 0, 40, plan.Heard{Effect: plan.EffectVibe})
	ways, err = NewSearch(Options{}).Ways(context.Background(), p, "r", "asked")
	require.NoError(t, err)
	for _, w := range ways {
		assert.False(t, w.Within, "the rig has no vibe")
	}
	ask(p, 0, 100, 0, 40, plan.Heard{Effect: plan.EffectFuzz})
	ways, err = NewSearch(Options{}).Ways(context.Background(), p, "r", "asked")
	require.NoError(t, err)
	assert.Empty(t, ways, "nor a fuzz")
}

// A knob that another sound hears is turned in the recipe; one that none does is turned for good.
func TestAKnobIsTurnedWhereNoOtherSoundHearsIt(t *testing.T) {
	p := typed(t, "mid-hump-overdrive")
	ask(p, 45, 60, 2, 1)
	r, err := newRendering(p, "r", keptHere)
	require.NoError(t, err)
	search := NewSearch(Options{Dry: strummed(r, r.setFor(&r.rig.Recipes[0], nil, plan.Tempo{}))})
	ways, err := search.Ways(context.Background(), p, "r", "asked")
	require.NoError(t, err)
	require.True(t, ways[0].Within)
	require.Positive(t, ways[0].Turned)
	assert.Len(t, ways[0].Base, ways[0].Turned)

	p.Put(plan.Sound{ID: "other", Name: "Other", Short: "OT", Role: plan.RhythmRole, Tape: "teal"})
	with := *r.rig
	with.Recipes = append(
		with.Recipes,
		plan.Recipe{ID: "other", Sound: "other", Values: map[plan.Key]plan.Value{"mid-hump-overdrive/fx/on": plan.On(true)}},
	)
	p.Put(with)
	ways, err = search.Ways(context.Background(), p, "r", "asked")
	require.NoError(t, err)
	assert.Empty(t, ways[0].Base)
	assert.Contains(t, ways[0].Recipe.Values, plan.Key("mid-hump-overdrive/fx/drive"))
}

func TestWaysOfWhatIsNotThere(t *testing.T) {
	p := typed(t, "boost")
	_, err := NewSearch(Options{}).Ways(context.Background(), p, "nowhere", "home")
	require.Error(t, err)
	_, err = NewSearch(Options{}).Ways(context.Background(), p, "r", "nothing")
	require.Error(t, err)
	ask(p, 0, 100, 0, 1)
	ctx, cancel := context.WithCancel(context.Background())
	cancel()
	_, err = NewSearch(Options{}).Ways(ctx, p, "r", "asked")
	assert.ErrorIs(t, err, context.Canceled)
}

// Of many stages only the choices that are nearest are turned, and it is said; of few all are.
func TestWhatIsLeftOutOfTheGridIsSaid(t *testing.T) {
	turned := func(boxes ...string) (*wayfinder, []attempt) {
		p := typed(t, boxes...)
		ask(p, 20, 40, 0, 1)
		r, err := newRendering(p, "r", keptHere)
		require.NoError(t, err)
		s, _ := p.FindSound("asked")
		w := &wayfinder{Search: NewSearch(Options{}), rendering: r, sound: s, blocks: r.gainBlocks()}
		return w, w.turnsOf(w.switches(), 2, mostTurned)
	}
	w, few := turned("mid-hump-overdrive", "light-overdrive")
	assert.False(t, w.Partial)
	assert.Equal(t, 2*(7*11-1), len(few), "six drives and as it stands, ten levels and as it stands, of each of the two")
	w, many := turned(
		"mid-hump-overdrive", "light-overdrive", "transparent-overdrive", "thinning-overdrive", "hard-clip-distortion",
		"high-gain-distortion",
	)
	assert.True(t, w.Partial)
	assert.LessOrEqual(t, len(many), mostTurned)
	assert.NotEmpty(t, many)
}
