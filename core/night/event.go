// Package night is a show as it goes: where its players are, which songs are called, what broke, and what is left to be
// done by a rig from there. What happened is a list of events; everything else follows from them and the plan, the same
// whatever way they came in.
package night

import (
	"cmp"
	"slices"

	"envex/core/plan"
	"envex/core/reason"
)

// Kind is what sort of thing happened.
type Kind string

// The kinds of events.
const (
	At      Kind = "at"      // a page came to a section
	Called  Kind = "called"  // a song is played next
	Dropped Kind = "dropped" // a song of the set is not played
	Broke   Kind = "broke"   // something failed, and is gone round
	Mended  Kind = "mended"  // what broke works again
	Note    Kind = "note"    // something was written down
	Check   Kind = "check"   // a check of the soundcheck is done
	Undone  Kind = "undone"  // an event before did not happen
	Over    Kind = "over"    // the show has ended
)

// Round is a way round something that failed.
type Round string

// The ways round.
const (
	LeaveOut    Round = "out"         // the rig goes on without it
	PutIn       Round = "instead"     // another box takes its place
	OtherGuitar Round = "guitar"      // songs are played on another guitar
	PlugInto    Round = "destination" // the rig is plugged in elsewhere
)

// Way is a way round something that failed, and what it takes.
type Way struct {
	Round Round   `json:"round" enum:"out,instead,guitar,destination"`
	Takes plan.ID `json:"takes,omitempty" doc:"The box, the guitar or the destination that is taken."`
}

// Event is one thing that happened at a show. Where it happened is where the page stood that wrote it: before the first
// song where no entry is named.
type Event struct {
	ID      plan.ID `json:"id" minLength:"1" maxLength:"64" doc:"Made by the page: an event that is sent again counts once."`
	AtMS    int64   `json:"at_ms" doc:"When, in milliseconds since 1970, by the clock of the server."`
	Page    string  `json:"page" maxLength:"64" doc:"Which page wrote it."`
	Name    string  `json:"name,omitempty" maxLength:"100" doc:"What the page is called."`
	Kind    Kind    `json:"kind" enum:"at,called,dropped,broke,mended,note,check,undone,over"`
	Rig     plan.ID `json:"rig,omitempty"`
	Entry   plan.ID `json:"entry,omitempty" doc:"The entry of the set in which it happened."`
	Section plan.ID `json:"section,omitempty" doc:"The section of its song."`
	Leads   bool    `json:"leads,omitempty" doc:"Of a place: pages that follow come to it."`
	Song    plan.ID `json:"song,omitempty" doc:"The song that is called."`
	Now     bool    `json:"now,omitempty" doc:"Of a song that is called: the rest of this one is not played."`
	Drops   plan.ID `json:"drops,omitempty" doc:"The entry that is not played."`
	Gear    plan.ID `json:"gear,omitempty" doc:"What broke."`
	Way     *Way    `json:"way,omitempty" doc:"How it is gone round."`
	Of      string  `json:"of,omitempty" maxLength:"100" doc:"The event that did not happen, or that is mended; the check that is done."`
	Text    string  `json:"text,omitempty" maxLength:"2000"`
}

// replans reports whether what is left of the show has to be worked out anew after an event.
func (e Event) replans() bool {
	return e.Kind == Called || e.Kind == Dropped || e.Kind == Broke || e.Kind == Mended
}

// ofRig reports whether an event is about one rig alone.
func (e Event) ofRig() bool { return e.Kind == Broke || e.Kind == Mended }

// InOrder are events in the order in which they happened, each once. It is the same however they came in.
func InOrder(events []Event) []Event {
	list := slices.Clone(events)
	slices.SortStableFunc(list, func(a, b Event) int {
		return cmp.Or(cmp.Compare(a.AtMS, b.AtMS), cmp.Compare(a.ID, b.ID))
	})
	seen := map[plan.ID]bool{}
	return slices.DeleteFunc(list, func(e Event) bool {
		twice := seen[e.ID]
		seen[e.ID] = true
		return twice
	})
}

// Latest are events in their order without the places of pages that have gone on: of each page the latest is left.
func Latest(events []Event) []Event {
	last := map[string]plan.ID{}
	for _, e := range events {
		if e.Kind == At {
			last[e.Page] = e.ID
		}
	}
	return slices.DeleteFunc(slices.Clone(events), func(e Event) bool { return e.Kind == At && last[e.Page] != e.ID })
}

// happened are events without those that are undone, and without the undoing.
func happened(events []Event) []Event {
	undone := map[string]bool{}
	for _, e := range events {
		if e.Kind == Undone {
			undone[e.Of] = true
		}
	}
	return slices.DeleteFunc(slices.Clone(events), func(e Event) bool {
		return e.Kind == Undone || (e.Kind != At && undone[string(e.ID)])
	})
}

// Valid fails where an event of a show cannot be: it names what is not there, or says too little. The plan must be valid.
func Valid(p *plan.Plan, show plan.ID, e Event) error {
	s, err := p.ShowByID(show)
	if err != nil {
		return err
	}
	if e.ID == "" {
		return reason.Errorf("an event has to have an id")
	}
	if _, ok := p.FindRig(e.Rig); e.Rig != "" && !ok {
		return reason.Errorf("there is no rig %q", e.Rig)
	}
	switch e.Kind {
	case At, Over:
	case Called:
		if _, ok := p.FindSong(e.Song); !ok {
			return reason.Errorf("there is no song %q to call", e.Song)
		}
	case Dropped:
		if e.Drops == "" {
			return reason.Errorf("say which song of the set is not played")
		}
	case Broke:
		return validWay(p, s, e)
	case Note:
		if e.Text == "" {
			return reason.Errorf("a note says something")
		}
	case Check, Undone, Mended:
		if e.Of == "" {
			return reason.Errorf("say which one it is of")
		}
	default:
		return reason.Errorf("nothing of the kind %q happens at a show", e.Kind)
	}
	return nil
}

func validWay(p *plan.Plan, s *plan.Show, e Event) error {
	g, ok := p.FindGear(e.Gear)
	if !ok {
		return reason.Errorf("there is no gear %q that could break", e.Gear)
	}
	if e.Way == nil {
		return reason.Errorf("say how %s is gone round", g.Name)
	}
	switch e.Way.Round {
	case LeaveOut:
		return nil
	case PutIn, OtherGuitar:
		if _, ok := p.FindGear(e.Way.Takes); !ok || e.Way.Takes == e.Gear {
			return reason.Errorf("%q cannot take the place of %s", e.Way.Takes, g.Name)
		}
		if takes, _ := p.FindGear(e.Way.Takes); (e.Way.Round == OtherGuitar) != (takes.Kind == plan.Guitar) {
			return reason.Errorf("%s cannot take the place of %s", takes.Name, g.Name)
		}
		return nil
	case PlugInto:
		r, _ := p.FindRig(cmp.Or(e.Rig, s.Rig))
		if _, ok := r.FindDestination(e.Way.Takes); !ok {
			return reason.Errorf("%s has no destination %q", r.Name, e.Way.Takes)
		}
		return nil
	}
	return reason.Errorf("there is no way round %q", e.Way.Round)
}
