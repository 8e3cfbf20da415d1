package night

import (
	"cmp"
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"envex/core/plan"
	"envex/core/reach"
	"envex/demo"
)

const show plan.ID = "quay-12"

func theDemo(t require.TestingT) *plan.Plan {
	p, err := plan.Decode(demo.File)
	require.NoError(t, err)
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
	assert.NotEmpty(t, mended.Steps[slices.IndexFunc(mended.Steps, func(s Step) bool { return s.Sound == "shimmer" })].Without)
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

func TestTroubleOfAnotherRigIsNoneOfThis(t *testing.T) {
	p := theDemo(t)
	e := evening(t, p, Event{ID: "b", Kind: Broke, Rig: "bare", Gear: "rotor", Way: &Way{Round: LeaveOut}})
	assert.Empty(t, e.Troubles)
}

func TestWhatIsNotInThePlanAnyMoreIsSaid(t *testing.T) {
	e := evening(t, theDemo(t), Event{ID: "c", Kind: Called, Song: "gone"}, Event{ID: "o", AtMS: 9, Kind: Over})
	assert.Equal(t, []string{`there is no song "gone" to call`}, e.Ignored)
	assert.True(t, e.Ended)
}

// drawn are events as several pages could have sent them.
func drawn(t *rapid.T, p *plan.Plan, base *Evening) []Event {
	s, _ := p.FindShow(show)
	r, _ := p.FindRig(s.Rig)
	var list []Event
	for i := range rapid.IntRange(1, 5).Draw(t, "events") {
		step := rapid.SampledFrom(base.Steps).Draw(t, "in")
		e := Event{
			ID: plan.ID(fmt.Sprint("e", i)), AtMS: int64(rapid.IntRange(0, 3).Draw(t, "at")), Entry: step.Entry,
			Section: step.Section, Kind: rapid.SampledFrom([]Kind{Called, Dropped, Broke, Mended, At, Undone}).Draw(t, "kind"),
		}
		switch e.Kind {
		case Called:
			e.Song = rapid.SampledFrom(p.Songs).Draw(t, "song").ID
			e.Now = rapid.Bool().Draw(t, "now")
		case Dropped:
			e.Drops = rapid.SampledFrom(base.Order).Draw(t, "drops").Entry
		case Broke:
			e.Gear = rapid.SampledFrom(r.GearIn()).Draw(t, "gear")
			e.Way = &Way{Round: LeaveOut}
		case Undone, Mended:
			e.Of = fmt.Sprint("e", rapid.IntRange(0, 4).Draw(t, "of"))
		}
		list = append(list, e)
	}
	return list
}

// The evening is the same in whatever order events come in, and however often each is sent.
func TestAnEveningDoesNotDependOnHowItsEventsCameIn(t *testing.T) {
	p := theDemo(t)
	base := evening(t, p)
	rapid.Check(t, func(t *rapid.T) {
		events := drawn(t, p, base)
		sent := rapid.Permutation(append(slices.Clone(events), events[rapid.IntRange(0, len(events)-1).Draw(t, "twice")])).Draw(t, "sent")
		want, err := json.Marshal(evening(t, p, events...))
		require.NoError(t, err)
		got, err := json.Marshal(evening(t, p, sent...))
		require.NoError(t, err)
		assert.JSONEq(t, string(want), string(got))
	})
}

// Whatever happens, each song of the order is played, in that order, and every step leads on.
func TestWhateverHappensTheShowGoesOn(t *testing.T) {
	p := theDemo(t)
	base := evening(t, p)
	rapid.Check(t, func(t *rapid.T) {
		e := evening(t, p, drawn(t, p, base)...)
		assert.Equal(t, titles(e), played(e))
		require.NoError(t, e.WithCalls(t.Context()))
		assert.Len(t, e.Calls.Rows, len(e.Steps))
	})
}

func TestEventsThatSayTooLittleAreRefused(t *testing.T) {
	p := theDemo(t)
	for want, e := range map[string]Event{
		"an event has to have an id":                     {Kind: Over},
		`there is no rig "nope"`:                         {ID: "x", Kind: Over, Rig: "nope"},
		`there is no song "" to call`:                    {ID: "x", Kind: Called},
		"say which song of the set is not played":        {ID: "x", Kind: Dropped},
		`there is no gear "nope" that could break`:       {ID: "x", Kind: Broke, Gear: "nope"},
		"say how Rotor is gone round":                    {ID: "x", Kind: Broke, Gear: "rotor"},
		`"rotor" cannot take the place of Rotor`:         {ID: "x", Kind: Broke, Gear: "rotor", Way: &Way{PutIn, "rotor"}},
		`Long board has no destination "nope"`:           {ID: "x", Kind: Broke, Gear: "pier", Way: &Way{PlugInto, "nope"}},
		`there is no way round "up"`:                     {ID: "x", Kind: Broke, Gear: "pier", Way: &Way{Round: "up"}},
		"a note says something":                          {ID: "x", Kind: Note},
		"say which one it is of":                         {ID: "x", Kind: Check},
		`nothing of the kind "danced" happens at a show`: {ID: "x", Kind: "danced"},
	} {
		err := Valid(p, show, e)
		require.Error(t, err, want)
		assert.Equal(t, want, err.Error())
	}
	require.Error(t, Valid(p, "nope", Event{ID: "x", Kind: Over}))
	require.NoError(t, Valid(p, show, Event{ID: "x", Kind: At}))
}

func TestBreaksAreOrderedByWhatIsLeft(t *testing.T) {
	p := theDemo(t)
	e := evening(t, p)
	share := 0.0
	list, err := Breaks(t.Context(), p, show, "", nil, event(in(e, 3, 1), "", 1, At, Event{}), func(x float64) { share = x })
	require.NoError(t, err)
	assert.Equal(t, 1.0, share)
	kinds := map[string]bool{}
	for _, b := range list {
		kinds[b.Kind] = true
		require.NotEmpty(t, b.Ways, b.Name)
		for i, w := range b.Ways {
			assert.NotEmpty(t, w.Words, b.Name)
			assert.LessOrEqual(t, w.Reached, w.Total)
			if i > 0 {
				assert.GreaterOrEqual(t, w.Hit, b.Ways[i-1].Hit)
			}
		}
	}
	assert.Equal(t, map[string]bool{"guitar": true, "box": true, "amp": true, "supply": true}, kinds)
	ctx, cancel := context.WithCancel(t.Context())
	cancel()
	_, err = Breaks(ctx, p, show, "", nil, Event{}, nil)
	require.ErrorIs(t, err, context.Canceled)
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

func TestWhatHappensIsWrittenIntoTheLogOfTheShow(t *testing.T) {
	p := theDemo(t)
	e := evening(t, p)
	at := in(e, 3, 1)
	broke := event(at, "b", 1, Broke, Event{Gear: "rotor", Way: &Way{Round: LeaveOut}})
	s, label, ok := Logged(p, show, broke, "leave it off")
	require.True(t, ok)
	assert.Equal(t, "Rotor failed", label)
	fault := s.Faults[len(s.Faults)-1]
	assert.Equal(t, "Rotor failed in "+e.Order[3].Title+", "+e.Steps[slices.IndexFunc(e.Steps, func(x Step) bool {
		return x.Section == at.Section
	})].Label+". Gone round: leave it off.", fault.Text)
	assert.Empty(t, fault.Cured)
	p.Put(s)
	require.Empty(t, p.Validate())
	_, _, ok = Logged(p, show, broke, "leave it off")
	assert.False(t, ok, "it is written once")
	mended, _, ok := Logged(p, show, Event{ID: "m", Kind: Mended, Of: "b"}, "")
	require.True(t, ok)
	assert.Equal(t, "Works again.", mended.Faults[len(mended.Faults)-1].Cured)
	struck, _, ok := Logged(p, show, Event{ID: "u", Kind: Undone, Of: "b"}, "")
	require.True(t, ok)
	before, _ := theDemo(t).FindShow(show)
	assert.Equal(t, len(before.Faults), len(struck.Faults))
	note := Event{ID: "n", Kind: Note, Text: "Wind in the backing microphones"}
	s, _, ok = Logged(p, show, note, "")
	require.True(t, ok)
	assert.Contains(t, s.After, "Wind in the backing microphones")
	p.Put(s)
	_, _, ok = Logged(p, show, note, "")
	assert.False(t, ok)
	for _, e := range []Event{{ID: "x", Kind: At}, {ID: "x", Kind: Undone, Of: "called"}, {ID: "x", Kind: Mended, Of: "nope"}} {
		_, _, ok = Logged(p, show, e, "")
		assert.False(t, ok)
	}
	_, _, ok = Logged(p, "nope", note, "")
	assert.False(t, ok)
}

// walked are the places of a page that goes through some steps, each a while after the one before.
func walked(e *Evening, from, to int, secondsEach func(Step) float64) []Event {
	var list []Event
	at := 0.0
	for i := from; i <= to; i++ {
		s := e.Steps[i]
		list = append(list, Event{
			ID: plan.ID(fmt.Sprint("w", i)), Kind: At, Page: "phone", AtMS: int64(at * 1000), Entry: s.Entry, Section: s.Section,
		})
		at += secondsEach(s)
	}
	return list
}

func TestAShowAsItIsWrittenTeachesNothing(t *testing.T) {
	p := theDemo(t)
	e := evening(t, p)
	l, _ := p.FindSetList("quay-set")
	asWritten := func(i int) func(Step) float64 {
		return func(s Step) float64 {
			took := 10.0
			if s.LengthS != nil {
				took = *s.LengthS
			}
			k := slices.IndexFunc(e.Steps, func(x Step) bool { return x.Entry == s.Entry && x.Section == s.Section })
			if k+1 < len(e.Steps) && e.Steps[k+1].Starts {
				n := slices.IndexFunc(l.Entries, func(x plan.SetEntry) bool { return x.ID == e.Steps[k+1].Entry })
				took += l.GapBefore(l.Entries[n])
			}
			return took
		}
	}
	r, err := AfterShow(p, show, walked(e, 0, len(e.Steps)-1, asWritten(0)))
	require.NoError(t, err)
	assert.Nil(t, r.Order)
	assert.Empty(t, r.Tempos)
	assert.Empty(t, r.Gaps)
	none, err := AfterShow(p, show, nil)
	require.NoError(t, err)
	assert.Nil(t, none.Order, "nobody followed it")
}

func TestWhatAShowTeachesIsMeasured(t *testing.T) {
	p := theDemo(t)
	e := evening(t, p)
	events := walked(e, 0, 11, func(s Step) float64 {
		took := *s.LengthS
		if s.Title == "Ferry Lights" {
			took *= 104.0 / 98
		}
		if s.Label == "Out" && s.Title == "Ferry Lights" {
			return *s.LengthS + 40
		}
		return took
	})
	r, err := AfterShow(p, show, events)
	require.NoError(t, err)
	require.Len(t, r.Tempos, 1)
	assert.Equal(t, "Ferry Lights", r.Tempos[0].Title)
	assert.InDelta(t, 98, r.Tempos[0].Played, 0.5)
	require.Len(t, r.Gaps, 1)
	assert.Equal(t, "Low Tide Cumbia", r.Gaps[0].Title)
	assert.Equal(t, 40.0, r.Gaps[0].Passed)
	require.NotNil(t, r.Order)
	assert.Equal(t, []string{"Ferry Lights", "Low Tide Cumbia"}, r.Order.Titles)
	assert.Len(t, r.Order.Dropped, 12)
}

func TestWhatWasCalledAndBrokeIsGoneThrough(t *testing.T) {
	p := theDemo(t)
	e := evening(t, p)
	events := []Event{
		event(in(e, 0, 0), "1", 1000, At, Event{Page: "phone"}),
		event(in(e, 0, 0), "2", 2000, Called, Event{Song: e.Order[5].Song}),
		{ID: "3", AtMS: 3000, Kind: At, Page: "phone", Entry: e.Order[5].Entry},
		{ID: "4", AtMS: 4000, Kind: Called, Entry: e.Order[5].Entry, Song: e.Order[0].Song},
		{ID: "5", AtMS: 5000, Kind: At, Page: "phone", Entry: "~4"},
		{ID: "6", AtMS: 6000, Kind: Check, Of: "lines"},
	}
	s, _ := p.FindShow(show)
	s.Faults = []plan.Fault{{Text: "Rotor failed", Gear: "rotor"}, {Text: "A lead", Cured: "changed"}}
	s.After = "Bring tape"
	r, err := AfterShow(p, show, events)
	require.NoError(t, err)
	require.NotNil(t, r.Order)
	assert.Equal(t, []string{"Ferry Lights", e.Order[5].Title, "Ferry Lights"}, r.Order.Titles)
	assert.Equal(t, []string{e.Order[5].Title, "Ferry Lights"}, r.Order.Called)
	assert.Equal(t, []string{"Rotor failed"}, r.Broken)
	assert.Equal(t, 1, r.Checks)
	assert.Contains(t, r.Next.Notes, "Not cured: Rotor failed")
	assert.Contains(t, r.Next.Notes, "Bring tape")
	assert.Equal(t, s.Rig, r.Next.Rig)
	for _, x := range r.Order.Entries {
		assert.NotContains(t, string(x.ID), "~")
	}
	r.Next.ID = "next"
	p.Put(r.Next)
	l, _ := p.FindSetList("quay-set")
	l.Entries = r.Order.Entries
	require.Empty(t, p.Validate())
	_, err = AfterShow(p, "nope", nil)
	require.Error(t, err)
}

// Sent cue by cue, what it says and has not been sent before, the devices stand after the night where the plan has them.
func TestDevicesStandWhereThePlanHasThem(t *testing.T) {
	p := theDemo(t)
	for _, rig := range []plan.ID{"long", "switched", "carry"} {
		base, err := On(p, show, rig, nil)
		require.NoError(t, err)
		e, err := On(p, show, rig, []Event{event(in(base, 2, 1), "c", 1, Called, Event{Song: base.Order[9].Song})})
		require.NoError(t, err)
		cues, err := e.Cues()
		require.NoError(t, err)
		require.Len(t, cues, len(e.Steps))
		desk, err := e.Desk()
		require.NoError(t, err)
		sent := map[plan.Key]string{}
		messages := 0
		for i, c := range cues {
			for _, s := range c.Sends {
				if sent[s.Moves] == s.Bytes {
					continue
				}
				sent[s.Moves] = s.Bytes
				messages++
				heard := desk.Receive(s.Message.Bytes())
				require.Len(t, heard, 1)
				assert.NotEmpty(t, heard[0].Words, "somebody listens to %s", s.Words)
			}
			for _, s := range c.Sends {
				assert.Equal(t, e.Stands(i)[s.Moves], desk.At(s.Moves), "%s in %s", s.Moves, e.Steps[i].Label)
			}
		}
		if rig != "carry" {
			assert.Positive(t, messages, "%s has devices that listen", rig)
		}
	}
}

func TestTwoRigsPlayOneShow(t *testing.T) {
	p := theDemo(t)
	second := plan.PartOf{Band: p.Bands[0].ID, Part: p.Bands[0].Parts[0].ID}
	r, _ := p.FindRig("carry")
	r.Player = &second
	p.Songs[0].Sections[1].Others = []plan.OtherPlayer{{PartOf: second, Sound: "crunch"}}
	s, _ := p.FindShow(show)
	s.Others = []plan.ShowRig{{Rig: "carry"}}
	require.Empty(t, p.Validate())
	first := evening(t, p)
	other, err := On(p, show, "carry", nil)
	require.NoError(t, err)
	assert.Equal(t, []reach.Named{{ID: "long", Name: "Long board"}, {ID: "carry", Name: other.Rig.Name}}, other.Rigs)
	assert.Equal(t, p.Bands[0].Parts[0].Name, other.Player)
	assert.Equal(t, plan.ID("home"), first.Steps[1].Sound)
	assert.Equal(t, plan.ID("crunch"), other.Steps[1].Sound)
	called := event(in(first, 2, 1), "c", 1, Called, Event{Song: first.Order[9].Song})
	broke := event(in(first, 2, 1), "b", 2, Broke, Event{Rig: "carry", Gear: r.GearIn()[0], Way: &Way{Round: LeaveOut}})
	first = evening(t, p, called, broke)
	other, err = On(p, show, "carry", []Event{called, broke})
	require.NoError(t, err)
	assert.Equal(t, titles(first), titles(other), "a song is called for all")
	assert.Empty(t, first.Troubles)
	assert.Len(t, other.Troubles, 1, "a box dies on one")
	assert.Equal(t, plan.ID("crunch"), other.Steps[1].Sound, "and the other player keeps their own sounds")
}
