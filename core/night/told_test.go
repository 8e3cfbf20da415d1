package night

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/golden"
)

// eventful is an evening on which much happens: songs are called and dropped, boxes and a guitar break and are mended,
// two pages walk through it, and some of it is taken back.
func eventful(e *Evening) []Event {
	first, third, fifth := in(e, 0, 0), in(e, 2, 1), in(e, 4, 0)
	list := []Event{
		event(first, "a1", 1_000, At, Event{Page: "phone", Leads: true}),
		event(first, "a2", 1_500, At, Event{Page: "tablet"}),
		event(first, "n1", 2_000, Note, Event{Text: "The floor is wet."}),
		event(first, "b1", 3_000, Broke, Event{Gear: "rotor", Way: &Way{Round: LeaveOut}}),
		event(in(e, 0, 1), "a3", 30_000, At, Event{Page: "phone", Leads: true}),
		event(in(e, 0, 1), "c1", 31_000, Called, Event{Song: e.Order[6].Song}),
		event(in(e, 0, 1), "c2", 32_000, Called, Event{Song: e.Order[7].Song}),
		event(in(e, 0, 1), "u1", 33_000, Undone, Event{Of: "c2"}),
		event(in(e, 0, 1), "d1", 34_000, Dropped, Event{Drops: e.Order[3].Entry}),
		event(third, "b2", 400_000, Broke, Event{Gear: "amber", Way: &Way{Round: PutIn, Takes: "rust"}}),
		event(third, "b3", 401_000, Broke, Event{Gear: "driftwood", Way: &Way{Round: OtherGuitar, Takes: "wharf"}}),
		event(fifth, "m1", 500_000, Mended, Event{Of: "b1"}),
		event(fifth, "c3", 501_000, Called, Event{Song: e.Order[0].Song, Now: true}),
		event(fifth, "b4", 502_000, Broke, Event{Gear: "pier", Way: &Way{Round: PlugInto, Takes: "long-hired"}}),
	}
	return list
}

func TestWhatIsToldOfAnEvening(t *testing.T) {
	p := theDemo(t)
	var other plan.ID
	for _, g := range p.Gear {
		if g.Kind == plan.Guitar && g.ID != "driftwood" && other == "" {
			other = g.ID
		}
	}
	e := evening(t, p)
	events := eventful(e)
	for i := range events {
		if events[i].Way != nil && events[i].Way.Round == OtherGuitar {
			events[i].Way.Takes = other
		}
	}
	var b strings.Builder
	for n := range events {
		if events[n].Kind == At || events[n].Kind == Note {
			continue
		}
		now, err := On(p, show, "long", events[:n+1])
		require.NoError(t, err)
		fmt.Fprintf(&b, "# after %s, %s\n", events[n].ID, events[n].Kind)
		for _, x := range now.Order {
			fmt.Fprintf(&b, "%s called %q\n", x.Title, x.Called)
		}
		for _, x := range now.Troubles {
			b.WriteString(golden.Lines(t, x))
		}
		for i, s := range now.Steps {
			if i%23 == 0 || n == len(events)-1 && (s.Without != "" || s.Starts) {
				fmt.Fprintf(&b, "step %d\n%s", i, golden.Lines(t, s))
			}
		}
	}
	golden.Hold(t, "testdata/evening.txt", b.String())

	b.Reset()
	played := walked(e, 0, 30, func(s Step) float64 { return 1.04 * *s.LengthS })
	review, err := AfterShow(p, show, append(events, played...))
	require.NoError(t, err)
	b.WriteString(golden.Lines(t, review))
	review, err = AfterShow(p, show, played)
	require.NoError(t, err)
	b.WriteString("# played as it was written, but slower\n" + golden.Lines(t, review))
	for _, x := range events {
		if next, words, ok := Logged(p, show, x, "by hand"); ok {
			fmt.Fprintf(&b, "# logged %s: %s\n%s", x.ID, words, golden.Lines(t, next.Faults))
		}
	}
	golden.Hold(t, "testdata/review.txt", b.String())
}
