package night

import (
	"cmp"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/core/reach"
	"envex/demo"
)

const show plan.ID = "quay-12"

func theDemo(t require.TestingT) *plan.Plan {
	p := demo.Plan()
	return p
}

func evening(t require.TestingT, p *plan.Plan, events ...Event) *Evening {
	e, err := On(p, show, "", events)
	require.NoError(t, err)
	return e
}

func titles(e *Evening) []string {
	var list []string
	for _, x := range e.Order {
		list = append(list, x.Title)
	}
	return list
}

// played are the titles in the order of the steps.
func played(e *Evening) []string {
	var list []string
	var entry plan.ID
	for _, s := range e.Steps {
		if s.Entry != entry {
			list = append(list, s.Title)
			entry = s.Entry
		}
	}
	return list
}

// in is a place of an evening: section k of its n-th song.
func in(e *Evening, n, k int) Event {
	entry := e.Order[n].Entry
	for i, s := range e.Steps {
		if s.Entry == entry {
			return Event{Entry: entry, Section: e.Steps[i+k].Section}
		}
	}
	panic("no such song")
}

func event(at Event, id plan.ID, atMS int64, kind Kind, with Event) Event {
	with.Entry, with.Section, with.ID, with.AtMS, with.Kind = at.Entry, at.Section, id, atMS, kind
	return with
}

func TestANightOnWhichNothingHappensIsThePlan(t *testing.T) {
	p := theDemo(t)
	e := evening(t, p)
	s, _ := p.FindShow(show)
	there, err := p.At(s.Rig, s.Destination)
	require.NoError(t, err)
	report, err := reach.Compute(there, s.Rig, s.SetList)
	require.NoError(t, err)
	require.Len(t, e.Steps, len(report.Sections))
	assert.Equal(t, report.Reach, e.Reach)
	for i, c := range report.Changes {
		assert.Equal(t, c.Presses, e.Steps[i+1].Presses)
		assert.Equal(t, c.Verdict, e.Steps[i+1].Verdict)
		assert.Equal(t, c.SectionID, e.Steps[i+1].Section)
	}
	assert.Equal(t, titles(e), played(e))
	assert.Empty(t, e.Troubles)
	assert.NotEmpty(t, e.Switches)
}

func TestASongThatIsCalledComesNext(t *testing.T) {
	p := theDemo(t)
	e := evening(t, p)
	want := titles(e)
	called := e.Order[9]
	e = evening(t, p, event(in(e, 2, 1), "c", 1, Called, Event{Song: called.Song}))
	order := slices.Concat(want[:3], []string{called.Title}, want[3:9], want[10:])
	assert.Equal(t, order, titles(e))
	assert.Equal(t, order, played(e))
	assert.EqualValues(t, "c", e.Order[3].Called)
	again := evening(t, p,
		event(in(e, 2, 1), "c", 1, Called, Event{Song: called.Song}),
		event(in(e, 3, 0), "d", 2, Called, Event{Song: e.Order[0].Song}))
	assert.Equal(t, slices.Concat(order[:4], order[:1], order[4:]), titles(again), "a song that was played comes again")
	undone := evening(t, p,
		event(in(e, 2, 1), "c", 1, Called, Event{Song: called.Song}), Event{ID: "u", AtMS: 3, Kind: Undone, Of: "c"})
	assert.Equal(t, evening(t, p).Steps, undone.Steps)
}

func TestASongThatIsCalledNowCutsThisOneShort(t *testing.T) {
	p := theDemo(t)
	e := evening(t, p)
	at := in(e, 2, 1)
	e = evening(t, p, event(at, "c", 1, Called, Event{Song: e.Order[9].Song, Now: true}))
	i := slices.IndexFunc(e.Steps, func(s Step) bool { return s.Entry == at.Entry && s.Section == at.Section })
	assert.Equal(t, e.Order[3].Entry, e.Steps[i+1].Entry)
}

// The presses to a song that is called are those that the table says beforehand.
func TestTheWayToACalledSongIsKnownBefore(t *testing.T) {
	p := theDemo(t)
	e := evening(t, p)
	require.NoError(t, e.WithCalls(t.Context()))
	for n := range len(e.Order) - 1 {
		end := 0
		for i, s := range e.Steps {
			if s.Entry == e.Order[n].Entry {
				end = i
			}
		}
		for _, song := range e.Calls.Songs {
			if song.Song == e.Order[n].Song || song.Song == e.Order[n+1].Song {
				continue
			}
			way := e.Calls.Ways[e.Calls.Rows[end]][song.Column]
			at := Event{Entry: e.Steps[end].Entry, Section: e.Steps[end].Section}
			then := evening(t, p, event(at, "c", 1, Called, Event{Song: song.Song}))
			next := then.Steps[end+1]
			require.Equal(t, song.Song, next.Song)
			assert.LessOrEqual(t, len(next.Presses), len(way.Presses), "%s to %s", e.Order[n].Title, song.Title)
			if way.Verdict.Reached() {
				assert.True(t, next.Verdict.Reached(), "%s to %s", e.Order[n].Title, song.Title)
			}
		}
	}
}

func TestASongIsDropped(t *testing.T) {
	p := theDemo(t)
	e := evening(t, p)
	want := titles(e)
	e = evening(t, p, event(in(e, 1, 0), "d", 1, Dropped, Event{Drops: e.Order[4].Entry}))
	assert.Equal(t, slices.Concat(want[:4], want[5:]), titles(e))
	assert.Equal(t, titles(e), played(e))
}

// A song goes straight on only from the song before it in the set.
func TestAGapComesBeforeASongThatFollowsAnother(t *testing.T) {
	p := theDemo(t)
	l, _ := p.FindSetList("quay-set")
	l.Entries[4].Segue = true
	e := evening(t, p)
	from := func(e *Evening, entry plan.ID) Step {
		return e.Steps[slices.IndexFunc(e.Steps, func(s Step) bool { return s.Entry == entry })]
	}
	assert.True(t, from(e, l.Entries[4].ID).Segue)
	e = evening(t, p, event(in(e, 1, 0), "d", 1, Dropped, Event{Drops: l.Entries[3].ID}))
	assert.False(t, from(e, l.Entries[4].ID).Segue)
	assert.Positive(t, from(e, l.Entries[4].ID).GapS)
}

func TestWhatBrokeIsNotPressed(t *testing.T) {
	p := theDemo(t)
	before := evening(t, p)
	s, _ := p.FindShow(show)
	r, _ := p.FindRig(s.Rig)
	at := in(before, 3, 1)
	for _, id := range append(r.GearIn(), r.Supplies()...) {
		e := evening(t, p, event(at, "b", 1, Broke, Event{Gear: id, Way: &Way{Round: LeaveOut}}))
		require.Len(t, e.Steps, len(before.Steps))
		require.Len(t, e.Troubles, 1)
		assert.Contains(t, e.Troubles[0].Out, id)
		for _, step := range e.Steps[e.From:] {
			assert.NotContains(t, step.Reason, "which is not in the chain", "%s is out: no recipe asks for it", id)
		}
		for _, step := range e.Steps[e.From:] {
			for _, press := range step.Presses {
				assert.NotContains(t, e.Troubles[0].Out, press.Switch.Gear(), "%s is out in %s", id, step.Label)
			}
		}
		assert.Equal(t, before.Steps[:e.From], e.Steps[:e.From], "what was played stays as it was")
	}
}

func TestASectionWhoseSoundIsLostIsPlayedOtherwise(t *testing.T) {
	p := theDemo(t)
	e := evening(t, p, Event{ID: "b", Kind: Broke, Gear: "rotor", Way: &Way{Round: LeaveOut}})
	hit := 0
	for _, s := range e.Steps {
		if s.Sound == "shimmer" || s.Meant == "Shimmer" {
			hit++
			assert.NotEmpty(t, cmp.Or(s.Without, s.Meant))
		}
	}
	assert.Equal(t, 10, hit)
	broke := Event{ID: "b", Kind: Broke, Gear: "rotor", Way: &Way{Round: LeaveOut}}
	undone := evening(t, p, broke, Event{ID: "m", AtMS: 5, Kind: Undone, Of: "b"})
	assert.Equal(t, evening(t, p).Steps, undone.Steps)
	mended := evening(t, p, broke, event(in(e, 6, 0), "m", 5, Mended, Event{Of: "b"}))
	assert.Empty(t, mended.Troubles)
	for _, s := range mended.Steps[mended.From:] {
		assert.Empty(t, s.Without, "%s is played with it again", s.Label)
	}
	assert.NotEmpty(
		t,
		mended.Steps[slices.IndexFunc(mended.Steps, func(s Step) bool { return s.Sound == "shimmer" })].Without,
	)
}

func TestABrokenGuitarIsChangedForAnother(t *testing.T) {
	p := theDemo(t)
	e := evening(t, p, Event{ID: "b", Kind: Broke, Gear: "driftwood", Way: &Way{OtherGuitar, "bulkhead"}})
	for _, s := range e.Steps {
		for _, h := range s.Hands {
			assert.NotContains(t, h.Action, "change guitar", "there is one guitar left")
		}
	}
	assert.Equal(t, "played on Bulkhead", e.Troubles[0].Words)
}

func TestWhatIsNotInThePlanAnyMoreIsSaid(t *testing.T) {
	e := evening(t, theDemo(t), Event{ID: "c", Kind: Called, Song: "gone"}, Event{ID: "o", AtMS: 9, Kind: Over})
	assert.Equal(t, []string{`there is no song "gone" to call`}, e.Ignored)
	assert.True(t, e.Ended)
}

func TestAShowThatIsNotThereHasNoEvening(t *testing.T) {
	p := theDemo(t)
	_, err := On(p, "nope", "", nil)
	require.Error(t, err)
	_, err = On(p, show, "nope", nil)
	require.Error(t, err)
}

func BenchmarkEvening(b *testing.B) {
	p := theDemo(b)
	base := evening(b, p)
	events := []Event{
		event(in(base, 2, 1), "a", 1, Called, Event{Song: base.Order[9].Song}),
		event(in(base, 3, 0), "b", 2, Broke, Event{Gear: "rotor", Way: &Way{Round: LeaveOut}}),
	}
	for b.Loop() {
		evening(b, p, events...)
	}
}
