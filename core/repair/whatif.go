package repair

import (
	"context"
	"fmt"

	"envex/core/catalog"
	"envex/core/path"
	"envex/core/plan"
	"envex/core/reach"
	"envex/core/reason"
	"envex/core/switching"
)

// WhatIf is what adding a pedal would gain.
type WhatIf struct {
	Name    string            `json:"name"`
	Owned   bool              `json:"owned" doc:"It is in the gear pile; else it is a generic kind, to be got first."`
	Where   string            `json:"where" doc:"Its place in the chain, in words."`
	Before  switching.Outcome `json:"before"`
	Reach   switching.Outcome `json:"reach"`
	Gear    *plan.Gear        `json:"gear,omitempty" doc:"The box to be added to the pile, where it is a generic kind."`
	Edits   []Edit            `json:"edits"`
	Sounds  []string          `json:"sounds" doc:"Sounds it lets the rig make."`
	Cost    float64           `json:"cost" doc:"Weight of the preferences of order that are violated with it."`
	Was     float64           `json:"was" doc:"The same without it."`
	Brings  []string          `json:"brings" doc:"Findings about the chain that it brings."`
	Powered string            `json:"powered,omitempty" doc:"What it asks of the supply."`
}

// Box is a box to be put in: one that is owned, or a generic kind under an id that is free.
type Box struct {
	Gear plan.ID
	Kind string
}

// Consider puts a box where the order of the chain is best for it, makes every sound that another
// rig makes with it and this one could not, and says what is reached then. A loop switcher, or
// another box without a place in the chain, is taken into use as a controller: its loops are
// chosen and its programs laid out. It fails when there is no such box, when it is in the rig
// already, and with the context's error when that is cancelled.
func Consider(ctx context.Context, p *plan.Plan, at Site, setList plan.ID, box Box) (*WhatIf, error) {
	s, err := newScene(ctx, p, at, setList)
	if err != nil {
		return nil, err
	}
	out := &WhatIf{
		Before: outcome(s.report), Edits: []Edit{}, Sounds: []string{}, Brings: []string{}, Owned: box.Kind == "",
	}
	q := *p
	g, ok := p.FindGear(box.Gear)
	if box.Kind != "" {
		kind, known := catalog.Find(box.Kind)
		if !known {
			return nil, reason.Errorf("there is no kind %q", box.Kind)
		}
		if ok {
			return nil, reason.Errorf("the id %q is taken", box.Gear)
		}
		made := kind.New(box.Gear, "")
		q.Put(made)
		out.Gear, g = &made, &made
	} else if !ok {
		return nil, reason.Errorf("there is no gear %q", box.Gear)
	}
	out.Name = g.Name
	if g.Power != nil && g.Power.Current != nil {
		out.Powered = fmt.Sprintf("%g V, %g mA, %s", g.Power.Voltage, *g.Power.Current, g.Power.Polarity)
	}
	if err := s.consider(&q, g, out); err != nil {
		return nil, err
	}
	return out, nil
}

func (s *scene) consider(q *plan.Plan, g *plan.Gear, out *WhatIf) error {
	take := func(e Edit) error {
		next, err := Apply(s.ctx, q, s.site, e)
		if err != nil {
			return err
		}
		*q = *next
		out.Edits = append(out.Edits, e)
		return nil
	}
	if len(g.Blocks) > 0 {
		e, err := s.insert(q, g.ID)
		if err != nil {
			return fmt.Errorf("repair: %w", err)
		}
		if err := take(e); err != nil {
			return err
		}
		out.Where = s.whereIs(q, e)
		if err := s.nowMakes(q, g.ID, take, out); err != nil {
			return err
		}
	} else {
		e := Edit{
			Kind: Layout, Gear: g.ID, SetList: s.set, School: switching.Page, Loops: g.Switcher != nil,
			Words: "Choose the loops of " + g.Name + " and lay out its programs",
		}
		if err := take(e); err != nil {
			return err
		}
		out.Where = "beside the chain, its loops in it"
	}
	there, err := q.At(s.site.Rig, s.site.Destination)
	if err != nil {
		return err
	}
	report, err := reach.Compute(there, s.site.Rig, s.set)
	if err != nil {
		return fmt.Errorf("repair: %w", err)
	}
	out.Reach = outcome(report)
	before, err := path.Judge(s.ctx, s.base, s.site.Rig, s.site.Destination)
	if err != nil {
		return fmt.Errorf("repair: %w", err)
	}
	after, err := path.Judge(s.ctx, q, s.site.Rig, s.site.Destination)
	if err != nil {
		return fmt.Errorf("repair: %w", err)
	}
	out.Was, out.Cost = before.Cost, after.Cost
	had := map[string]bool{}
	for _, f := range before.Findings {
		had[f.ID] = true
	}
	for _, f := range after.Findings {
		if !had[f.ID] {
			out.Brings = append(out.Brings, f.Title)
		}
	}
	return nil
}

// whereIs says between what a box was put.
func (s *scene) whereIs(q *plan.Plan, e Edit) string {
	r, _ := q.FindRig(s.site.Rig)
	nodes := (&applier{p: q, r: r, at: s.site}).path()
	name := func(i int) string {
		if i < 0 || i >= len(nodes) || nodes[i].Split != nil {
			return ""
		}
		if g, ok := q.FindGear(nodes[i].Stop.Gear()); ok {
			return g.Name
		}
		return ""
	}
	g, _ := q.FindGear(e.Gear)
	before, after := name(e.At-1), name(e.At+len(g.Blocks))
	switch {
	case before != "" && after != "":
		return "between " + before + " and " + after
	case after != "":
		return "before " + after
	case before != "":
		return "after " + before
	}
	return "in the chain"
}

// nowMakes borrows a recipe for every sound of the show that the rig has none for, from a rig that
// makes it with the box.
func (s *scene) nowMakes(q *plan.Plan, box plan.ID, take func(Edit) error, out *WhatIf) error {
	for _, sound := range playedSounds(s.report) {
		if s.makes(sound) != nil {
			continue
		}
		there, err := q.At(s.site.Rig, s.site.Destination)
		if err != nil {
			return err
		}
		now := &scene{ctx: s.ctx, here: there, site: s.site}
		now.rig, _ = there.FindRig(s.site.Rig)
		for _, e := range now.borrows(sound) {
			if err := take(e); err == nil {
				out.Sounds = append(out.Sounds, s.soundName(sound))
				break
			}
		}
	}
	return nil
}
