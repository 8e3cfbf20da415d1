package night

import (
	"encoding/json"
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"envex/core/plan"
)

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
		sent := rapid.Permutation(append(slices.Clone(events), events[rapid.IntRange(0, len(events)-1).Draw(t, "twice")])).
			Draw(t, "sent")
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
		"an event has to have an id":               {Kind: Over},
		`there is no rig "nope"`:                   {ID: "x", Kind: Over, Rig: "nope"},
		`there is no song "" to call`:              {ID: "x", Kind: Called},
		"say which song of the set is not played":  {ID: "x", Kind: Dropped},
		`there is no gear "nope" that could break`: {ID: "x", Kind: Broke, Gear: "nope"},
		"say how Rotor is gone round":              {ID: "x", Kind: Broke, Gear: "rotor"},
		`"rotor" cannot take the place of Rotor`:   {ID: "x", Kind: Broke, Gear: "rotor", Way: &Way{PutIn, "rotor"}},
		`Long board has no destination "nope"`:     {ID: "x", Kind: Broke, Gear: "pier", Way: &Way{PlugInto, "nope"}},
		`there is no way round "up"`:               {ID: "x", Kind: Broke, Gear: "pier", Way: &Way{Round: "up"}},
		"Rotor cannot take the place of Driftwood": {
			ID: "x", Kind: Broke, Gear: "driftwood", Way: &Way{OtherGuitar, "rotor"},
		},
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
