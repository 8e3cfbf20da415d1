package night

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
)

// walked are the places of a page that goes through some steps, each a while after the one before.
func walked(e *Evening, from, to int, secondsEach func(Step) float64) []Event {
	var list []Event
	at := 0.0
	for i := from; i <= to; i++ {
		s := e.Steps[i]
		list = append(list, Event{
			ID: plan.ID(
				fmt.Sprint("w", i),
			), Kind: At, Page: "phone", AtMS: int64(at * 1000), Entry: s.Entry, Section: s.Section,
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

func TestAPageThatIsTurnedThroughTeachesNoTempo(t *testing.T) {
	p := theDemo(t)
	e := evening(t, p)
	r, err := AfterShow(p, show, walked(e, 0, 11, func(Step) float64 { return 0.4 }))
	require.NoError(t, err)
	assert.Empty(t, r.Tempos)
	assert.Empty(t, r.Gaps)
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
	set, _ := p.FindSetList("quay-set")
	set.Entries[5].Segue = true
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
		assert.False(t, x.Segue, "it was called, and did not follow what it follows in the set")
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
