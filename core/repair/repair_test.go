package repair_test

import (
	"context"
	"encoding/json"
	"math/rand"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/core/reach"
	"envex/core/repair"
	"envex/core/switching"
	"envex/demo"
	"envex/golden"
)

func night(t require.TestingT) *plan.Plan {
	p := demo.Plan()
	return p
}

func find(t *testing.T, p *plan.Plan, rig plan.ID) *repair.Report {
	t.Helper()
	r, err := repair.Find(
		context.Background(), p, repair.Site{Rig: rig}, "quay-set", repair.Options{Progress: golden.Progress(t, 1)},
	)
	require.NoError(t, err)
	return r
}

// verified carries a repair out and checks that it does what it says: the failure is mended, the
// reach is the one promised, and what it breaks was said.
func verified(t *testing.T, p *plan.Plan, at repair.Site, f repair.Failure, r repair.Repair) *plan.Plan {
	t.Helper()
	q, err := repair.Apply(context.Background(), p, at, r.Edits...)
	require.NoError(t, err, r.Words)
	before, err := p.At(at.Rig, at.Destination)
	require.NoError(t, err)
	after, err := q.At(at.Rig, at.Destination)
	require.NoError(t, err)
	was, err := reach.Compute(before, at.Rig, "quay-set")
	require.NoError(t, err)
	is, err := reach.Compute(after, at.Rig, "quay-set")
	require.NoError(t, err)
	assert.True(t, is.Changes[f.Place.Position-1].Verdict.Reached(), r.Words)
	assert.Equal(t, switching.OutcomeOf(is), r.Reach, r.Words)
	broken := 0
	for i := range is.Changes {
		if was.Changes[i].Verdict.Reached() && !is.Changes[i].Verdict.Reached() {
			broken++
		}
	}
	assert.Len(t, r.Breaks, broken, r.Words)
	return q
}

func TestEveryRepairDoesWhatItSays(t *testing.T) {
	p := night(t)
	for _, at := range []repair.Site{{Rig: "long"}, {Rig: "long", Destination: "long-hired"}} {
		r, err := repair.Find(context.Background(), p, at, "quay-set", repair.Options{})
		require.NoError(t, err)
		require.NotEmpty(t, r.Failures)
		for _, f := range r.Failures {
			assert.LessOrEqual(t, len(f.Repairs), 5)
			boxes := 0
			for _, x := range f.Repairs {
				assert.LessOrEqual(t, len(x.Edits), 2)
				if x.Heading == "" {
					assert.GreaterOrEqual(t, x.Boxes, boxes, "no new boxes first")
					boxes = x.Boxes
				}
				assert.GreaterOrEqual(t, x.Reach.Reached, r.Before.Reached, "what loses more than it mends is no repair")
				verified(t, p, at, f, x)
			}
		}
	}
}

// TestTheLongBoardIsSolved carries out the best repair of one failure after the other until only
// what truly needs a slow hand is left, and that is named and has a repair of its own.
func TestTheLongBoardIsSolved(t *testing.T) {
	p := night(t)
	for range 10 {
		report, err := reach.Compute(p, "long", "quay-set")
		require.NoError(t, err)
		var first *int
		for _, c := range report.Changes {
			if !c.Verdict.Reached() && (first == nil || c.Verdict != reach.ByHand) {
				first = &c.Position
				if c.Verdict != reach.ByHand {
					break
				}
			}
		}
		r, err := repair.Find(context.Background(), p, repair.Site{Rig: "long"}, "quay-set", repair.Options{Position: first})
		require.NoError(t, err)
		done := true
		for _, f := range r.Failures {
			if f.SlowHand {
				continue
			}
			done = false
			require.NotEmpty(t, f.Repairs, "%s, %s", f.Place.Song, f.Place.Section)
			best := f.Repairs[0]
			for _, x := range f.Repairs {
				if x.Reach.Reached > best.Reach.Reached {
					best = x
				}
			}
			p = verified(t, p, repair.Site{Rig: "long"}, f, best)
			break
		}
		if !done {
			continue
		}
		require.Len(t, r.Failures, 1)
		assert.Equal(t, "Night Dredger", r.Failures[0].Place.Song)
		assert.Contains(t, r.Failures[0].Reason, "Rust drive")
		require.NotEmpty(t, r.Failures[0].Repairs)
		verified(t, p, repair.Site{Rig: "long"}, r.Failures[0], r.Failures[0].Repairs[0])
		assert.Equal(t, 75, r.Before.Reached)
		return
	}
	t.Fatal("ten repairs were not enough")
}

func TestTheSmallBoardIsToldWhatItCannotDo(t *testing.T) {
	p := night(t)
	r := find(t, p, "carry")
	require.Len(t, r.Failures, 9, "sections that wait for a recipe")
	for _, f := range r.Failures {
		assert.Equal(t, "Shimmer", f.To)
		assert.Empty(t, f.Repairs, "two boxes and a recipe are more than two edits")
		assert.Equal(t, "It needs Echo and Rotor in the chain, and a recipe: Long board makes Shimmer with them.", f.Takes)
	}
	c, err := repair.Compare(context.Background(), p, repair.Site{Rig: "long"}, repair.Site{Rig: "carry"}, "quay-set")
	require.NoError(t, err)
	lost := map[string]string{}
	for _, s := range c.Sounds {
		if !s.There || len(s.Lacks) > 0 {
			lost[s.Name] = s.Words
		}
	}
	assert.Equal(t, map[string]string{
		"Lead": "It is made without delay.", "Swell": "It is made without volume.", "Dust": "It is made without octave.",
		"Shimmer": "Carry-on board has no recipe for it, and no Echo and Rotor.",
	}, lost)
	assert.Len(t, c.Changes, 21, "those that wait for a recipe with those that fail")
	require.NotEmpty(t, c.Additions)
	for i, a := range c.Additions {
		if i > 0 {
			assert.GreaterOrEqual(t, len(a.Boxes), len(c.Additions[i-1].Boxes))
		}
		q, err := repair.Apply(context.Background(), p, repair.Site{Rig: "carry"}, a.Edits...)
		require.NoError(t, err)
		report, err := reach.Compute(q, "carry", "quay-set")
		require.NoError(t, err)
		assert.Equal(t, switching.OutcomeOf(report), a.Reach, a.Words)
		again, err := repair.Compare(context.Background(), q, repair.Site{Rig: "long"}, repair.Site{Rig: "carry"}, "quay-set")
		require.NoError(t, err)
		for _, s := range again.Sounds {
			for _, id := range a.Sounds {
				if s.Sound == id {
					assert.True(t, s.There && len(s.Lacks) == 0, "%s: %s", a.Words, s.Name)
				}
			}
		}
	}
	same, err := repair.Compare(context.Background(), p, repair.Site{Rig: "long"}, repair.Site{Rig: "long"}, "quay-set")
	require.NoError(t, err)
	assert.Empty(t, same.Changes)
	assert.Empty(t, same.Additions)
}

func TestOneBoxIsPutInForASoundThatNeedsIt(t *testing.T) {
	p := night(t)
	carry, _ := p.FindRig("carry")
	carry.Path = append([]plan.Node{{Stop: "rotor/fx"}}, carry.Path...)
	r := find(t, p, "carry")
	require.Len(t, r.Failures, 9, "sections that wait for a recipe")
	best := r.Failures[0].Repairs[0]
	assert.Equal(t, 1, best.Boxes)
	assert.Equal(t, 76, best.Reach.Reached)
	assert.Equal(t, "Add Echo; make Shimmer as Long board makes it", best.Words)
	q := verified(t, p, repair.Site{Rig: "carry"}, r.Failures[0], best)
	with, _ := q.FindRig("carry")
	long, _ := q.FindRig("long")
	assert.Equal(t, long.Presets["echo"], with.Presets["echo"], "it is set as the other rig has it")
}

func TestWhatIf(t *testing.T) {
	p := night(t)
	consider := func(rig plan.ID, box repair.Box) *repair.WhatIf {
		w, err := repair.Consider(context.Background(), p, repair.Site{Rig: rig}, "quay-set", box)
		require.NoError(t, err)
		q := *p
		if w.Gear != nil {
			q.Put(*w.Gear)
		}
		after, err := repair.Apply(context.Background(), &q, repair.Site{Rig: rig}, w.Edits...)
		require.NoError(t, err)
		report, err := reach.Compute(after, rig, "quay-set")
		require.NoError(t, err)
		assert.Equal(t, switching.OutcomeOf(report), w.Reach)
		return w
	}
	w := consider("long", repair.Box{Gear: "turntable"})
	assert.True(t, w.Owned)
	assert.Equal(t, 75, w.Reach.Reached)
	w = consider("long", repair.Box{Gear: "new", Kind: "loop-switcher"})
	assert.False(t, w.Owned)
	assert.Greater(t, w.Reach.Reached, w.Before.Reached)
	carry, _ := p.FindRig("carry")
	carry.Path = append([]plan.Node{{Stop: "rotor/fx"}}, carry.Path...)
	w = consider("carry", repair.Box{Gear: "echo"})
	assert.Equal(t, []string{"Shimmer"}, w.Sounds)
	assert.Equal(t, 76, w.Reach.Reached)
	assert.Contains(t, w.Powered, "9 V")

	for says, box := range map[string]repair.Box{
		"no gear": {Gear: "nope"}, "no kind": {Gear: "x", Kind: "nope"}, "in the chain already": {Gear: "amber"},
		"is taken": {Gear: "amber", Kind: "boost"}, "no place": {Gear: "pier"},
	} {
		_, err := repair.Consider(context.Background(), p, repair.Site{Rig: "carry"}, "quay-set", box)
		assert.Error(t, err, says)
	}
}

func TestTheSameQuestionHasTheSameAnswerAndIsCancelled(t *testing.T) {
	p := night(t)
	position := 21
	o := repair.Options{Position: &position}
	one, err := repair.Find(context.Background(), p, repair.Site{Rig: "long"}, "quay-set", o)
	require.NoError(t, err)
	require.Len(t, one.Failures, 1)
	two, err := repair.Find(context.Background(), p, repair.Site{Rig: "long"}, "quay-set", o)
	require.NoError(t, err)
	assert.Equal(t, one.Failures[0].Repairs, two.Failures[0].Repairs)

	ctx, cancel := context.WithCancel(context.Background())
	steps := 0
	_, err = repair.Find(
		ctx, p, repair.Site{Rig: "long"}, "quay-set", repair.Options{Progress: func(float64) { steps++; cancel() }},
	)
	assert.ErrorIs(t, err, context.Canceled)
	assert.Equal(t, 1, steps)
	_, err = repair.Find(context.Background(), p, repair.Site{Rig: "nope"}, "quay-set", o)
	assert.ErrorContains(t, err, "no rig")
}

func TestEditsThatDoNotFitAreRefused(t *testing.T) {
	p := night(t)
	value := plan.On(true)
	for name, e := range map[string]repair.Edit{
		"no such kind":        {Kind: "sing"},
		"no such recipe":      {Kind: repair.Leave, Recipe: "nope", Key: "echo/fx/on", Value: &value},
		"no value":            {Kind: repair.Same, Recipe: "long-home", Key: "echo/fx/on"},
		"no such control":     {Kind: repair.Same, Recipe: "long-home", Key: "echo/fx/nope", Value: &value},
		"no such song":        {Kind: repair.Choose, Song: "nope"},
		"no such section":     {Kind: repair.Choose, Song: "winch", Section: "nope"},
		"no such recipe here": {Kind: repair.Choose, Song: "winch", Section: "winch-1", Recipe: "nope"},
		"no programs":         {Kind: repair.Swap, Gear: "turntable", Bank: "1", Slot: "1", ToBank: "1", ToSlot: "2"},
		"not in the line":     {Kind: repair.Loop, Key: "hull/fx", Gear: "turntable", Loop: 1},
		"no such loop":        {Kind: repair.Loop, Key: "rotor/fx", Gear: "turntable", Loop: 60},
		"in already":          {Kind: repair.AddStop, Gear: "amber"},
		"plugged in already":  {Kind: repair.Plug, Gear: "driftwood"},
		"nothing to borrow":   {Kind: repair.Borrow, Recipe: "nope", Sound: "lead"},
	} {
		t.Run(name, func(t *testing.T) {
			before, err := plan.Encode(p)
			require.NoError(t, err)
			_, err = repair.Apply(context.Background(), p, repair.Site{Rig: "long"}, e)
			assert.Error(t, err)
			after, err := plan.Encode(p)
			require.NoError(t, err)
			assert.Equal(t, before, after, "the plan is as it was")
		})
	}
}

func TestRepairsHoldOnFloorsOfAnyShape(t *testing.T) {
	for seed := range int64(4) {
		r := rand.New(rand.NewSource(seed))
		p := night(t)
		long, _ := p.FindRig("long")
		places := map[plan.ID]plan.Placement{}
		for id := range long.Floor.Places {
			if r.Intn(4) > 0 {
				places[id] = plan.Placement{X: float64(r.Intn(12) * 80), Y: float64(r.Intn(3) * 130), Rotation: r.Intn(3) * 90}
			}
		}
		long.Floor.Places = places
		report, err := reach.Compute(p, "long", "quay-set")
		require.NoError(t, err)
		for _, c := range report.Changes {
			if c.Verdict.Reached() {
				continue
			}
			found, err := repair.Find(
				context.Background(), p, repair.Site{Rig: "long"}, "quay-set", repair.Options{Position: &c.Position},
			)
			require.NoError(t, err)
			for _, x := range found.Failures[0].Repairs {
				verified(t, p, repair.Site{Rig: "long"}, found.Failures[0], x)
			}
			break
		}
	}
}

func BenchmarkRepairs(b *testing.B) {
	p := night(b)
	for b.Loop() {
		if _, err := repair.Find(
			context.Background(), p, repair.Site{Rig: "long"}, "quay-set", repair.Options{},
		); err != nil {
			b.Fatal(err)
		}
	}
}

// Two edits that differ only in what they carry are two, and what leads to the same rig is one.
func TestNoRepairShowsTheFiguresOfAnother(t *testing.T) {
	p := night(t)
	for _, rig := range []plan.ID{"long", "carry"} {
		r, err := repair.Find(context.Background(), p, repair.Site{Rig: rig}, "quay-set", repair.Options{})
		require.NoError(t, err)
		for _, f := range r.Failures {
			seen := map[string]string{}
			wrong := false
			for _, x := range f.Repairs {
				q, err := repair.Apply(context.Background(), p, repair.Site{Rig: rig}, x.Edits...)
				require.NoError(t, err, x.Words)
				made, _ := q.FindRig(rig)
				data, err := json.Marshal([]any{made, q.Songs})
				require.NoError(t, err)
				assert.Empty(t, seen[string(data)], "%s is offered once", x.Words)
				seen[string(data)] = x.Words
				report, err := reach.Compute(q, rig, "quay-set")
				require.NoError(t, err)
				assert.Equal(t, report.Reach.Reached, x.Reach.Reached, "%s", x.Words)
				assert.False(t, wrong && x.Heading == "", "what lets a sound be wrong is last")
				wrong = wrong || x.Heading != ""
			}
		}
	}
}
