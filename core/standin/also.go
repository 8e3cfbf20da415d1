package standin

import (
	"fmt"
	"slices"

	"envex/core/electric"
	"envex/core/path"
	"envex/core/plan"
	"envex/core/reach"
)

// effort compares what has to be pressed over the set.
func (s *search) effort(q *plan.Plan, out *Offer) error {
	if s.before == nil {
		return nil
	}
	after, err := reach.Compute(q, s.rig.ID, s.o.SetList)
	if err != nil {
		return fmt.Errorf("standin: %w", err)
	}
	a, b := counted(s.before), counted(after)
	out.Presses, out.ByHand, out.Missed = b[0]-a[0], b[1]-a[1], b[2]-a[2]
	out.Costs = costs(out.Presses, out.ByHand, out.Missed)
	return nil
}

// costs are what a box asks for over the set more than the other did, or less, in words.
func costs(presses, byHand, missed int) []string {
	list := []string{}
	for _, c := range []struct {
		n         int
		one, many string
	}{
		{presses, "press", "presses"}, {byHand, "change by hand", "changes by hand"},
		{missed, "change not made in time", "changes not made in time"},
	} {
		switch {
		case c.n == 1 || c.n == -1:
			list = append(list, fmt.Sprintf("%+d %s", c.n, c.one))
		case c.n != 0:
			list = append(list, fmt.Sprintf("%+d %s", c.n, c.many))
		}
	}
	return list
}

// counted are presses, changes by hand and changes that fail.
func counted(r *reach.Report) (n [3]int) {
	for _, c := range r.Changes {
		n[0] += len(c.Presses)
		if c.Verdict == reach.ByHand {
			n[1]++
		}
		if c.Fails {
			n[2]++
		}
	}
	return n
}

// also says what else changes: what feeds it, how much room it takes, how it is set from afar.
func (s *search) also(q *plan.Plan, g *plan.Gear, out *Offer) error {
	power, err := electric.FeedRig(q, s.rig.ID, "")
	if err != nil {
		return fmt.Errorf("standin: %w", err)
	}
	was, err := electric.FeedRig(s.plan, s.rig.ID, "")
	if err != nil {
		return fmt.Errorf("standin: %w", err)
	}
	for _, f := range power.Findings {
		before := slices.ContainsFunc(was.Findings, func(x path.Finding) bool { return x.Title == f.Title })
		if f.Settled == "" && !before && slices.Contains(f.Names, g.Name) {
			out.Also = append(out.Also, f.Title+".")
		}
	}
	if a, b := s.box.Power, g.Power; a != nil && b != nil && a.Current != nil && b.Current != nil &&
		(a.Voltage != b.Voltage || *a.Current != *b.Current) {
		out.Also = append(out.Also, fmt.Sprintf(
			"It draws %g mA at %g V; %s draws %g mA at %g V.", *b.Current, b.Voltage, s.box.Name, *a.Current, a.Voltage,
		))
	}
	if a, b := s.box.Size, g.Size; a != nil && b != nil && (b.Width > a.Width || b.Depth > a.Depth) {
		out.Also = append(out.Also, fmt.Sprintf(
			"It takes %.0f × %.0f mm; %s took %.0f × %.0f mm.", b.Width, b.Depth, s.box.Name, a.Width, a.Depth,
		))
	}
	switch a, b := s.box.MIDI != nil, g.MIDI != nil; {
	case a && !b:
		out.Also = append(out.Also, "It does not listen to MIDI, and "+s.box.Name+" did.")
	case !a && b:
		out.Also = append(out.Also, "It can be set by MIDI.")
	}
	return nil
}
