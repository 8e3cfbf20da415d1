package night

import (
	"cmp"
	"context"
	"fmt"
	"slices"

	"envex/core/failure"
	"envex/core/plan"
)

// Break is something of the rig that can break, with the ways round it, the best first.
type Break struct {
	Gear plan.ID   `json:"gear"`
	Name string    `json:"name"`
	Kind string    `json:"kind" enum:"box,guitar,amp,supply"`
	Ways []Outcome `json:"ways"`
}

// Outcome is what is left of the show by one way round.
type Outcome struct {
	Way
	Words   string          `json:"words" doc:"What is done, in words."`
	Reached int             `json:"reached" doc:"Changes that are made, of those that are left."`
	Total   int             `json:"total"`
	Hit     int             `json:"hit" doc:"Sections that are left and lose or change their sound."`
	Lost    []failure.Sound `json:"lost" doc:"The sounds that are lost or changed."`
}

// Breaks are what can break from a place of the show on, in the order of the chain, and what is left of the show by each
// way round. The event says where the show stands, and when; what it says else is passed over. It tells report which
// share is done, from 0 to 1; report may be nil. It fails as [On] does, and when ctx ends.
func Breaks(
	ctx context.Context, p *plan.Plan, show, rig plan.ID, events []Event, here Event, report func(float64),
) ([]Break, error) {
	now, err := On(p, show, rig, events)
	if err != nil {
		return nil, err
	}
	list := now.breakable()
	for i := range list {
		b := &list[i]
		ways := now.waysRound(b)
		for _, w := range ways {
			if err := ctx.Err(); err != nil {
				return nil, fmt.Errorf("night: breaks: %w", err)
			}
			e := here
			e.ID, e.Kind, e.Rig, e.Gear, e.Way = "what-if~", Broke, now.Rig.ID, b.Gear, &w
			then, err := On(p, show, rig, append(slices.Clone(events), e))
			if err != nil {
				return nil, err
			}
			if o, ok := then.outcome(w); ok {
				b.Ways = append(b.Ways, o)
			}
		}
		slices.SortStableFunc(b.Ways, func(x, y Outcome) int {
			return cmp.Or(cmp.Compare(x.Hit, y.Hit), cmp.Compare(y.Reached-y.Total, x.Reached-x.Total))
		})
		if report != nil {
			report(float64(i+1) / float64(len(list)))
		}
	}
	return list, nil
}

// breakable are the guitars of the rig, what stands in its chain, and what feeds it.
func (e *Evening) breakable() []Break {
	var list []Break
	add := func(id plan.ID) {
		g, ok := e.plan.FindGear(id)
		if !ok || slices.ContainsFunc(list, func(b Break) bool { return b.Gear == id }) ||
			slices.ContainsFunc(e.Troubles, func(t Trouble) bool { return slices.Contains(t.Out, id) }) {
			return
		}
		kind := map[plan.GearKind]string{plan.Guitar: "guitar", plan.Amp: "amp", plan.Supply: "supply"}[g.Kind]
		list = append(list, Break{Gear: id, Name: g.Name, Kind: cmp.Or(kind, "box"), Ways: []Outcome{}})
	}
	for _, id := range e.rig.Guitars {
		add(id)
	}
	for _, id := range e.rig.GearIn() {
		add(id)
	}
	for _, id := range e.rig.Supplies() {
		add(id)
	}
	return list
}

// waysRound are the ways round a thing that can be tried.
func (e *Evening) waysRound(b *Break) []Way {
	g, _ := e.plan.FindGear(b.Gear)
	var ways []Way
	switch b.Kind {
	case "guitar":
		for _, id := range e.rig.Guitars {
			if id != b.Gear {
				ways = append(ways, Way{OtherGuitar, id})
			}
		}
		if len(ways) > 0 {
			return ways
		}
	case "amp":
		for _, d := range e.rig.Destinations {
			if d.Kind != plan.Headphones && !e.uses(d.ID, b.Gear) {
				ways = append(ways, Way{PlugInto, d.ID})
			}
		}
	case "box":
		ways = append(ways, e.spares(g)...)
	}
	return append(ways, Way{Round: LeaveOut})
}

// uses reports whether the rig needs a piece of gear where it is plugged into a destination.
func (e *Evening) uses(destination, gear plan.ID) bool {
	there, err := e.given.At(e.rig.ID, destination)
	if err != nil {
		return true
	}
	r, ok := there.FindRig(e.rig.ID)
	return !ok || slices.Contains(r.GearIn(), gear)
}

// spares are the boxes that are owned, not in the chain, and can take the place of one: those that do the same.
func (e *Evening) spares(g *plan.Gear) []Way {
	var ways []Way
	in := e.rig.GearIn()
	for i := range e.plan.Gear {
		other := &e.plan.Gear[i]
		if other.Kind != g.Kind || slices.Contains(in, other.ID) {
			continue
		}
		_, blocks, ok := e.plan.Instead(e.rig, g.ID, other)
		if ok && failure.DoesTheSame(e.plan, blocks) {
			ways = append(ways, Way{PutIn, other.ID})
		}
	}
	return ways
}

// outcome is what is left of a show after the last thing that broke; false where that way could not be gone.
func (e *Evening) outcome(w Way) (Outcome, bool) {
	i := slices.IndexFunc(e.Troubles, func(t Trouble) bool { return t.Event == "what-if~" })
	if i < 0 || e.Troubles[i].Words == "" {
		return Outcome{}, false
	}
	o := Outcome{
		Way: w, Words: e.Troubles[i].Words, Reached: e.Reach.Reached, Total: e.Reach.Total, Lost: e.Troubles[i].Lost,
	}
	for _, s := range e.Steps[e.From:] {
		if s.Meant != "" || s.Without != "" {
			o.Hit++
		}
	}
	return o, true
}
