package reach

import (
	"fmt"

	"envex/core/floor"
	"envex/core/plan"
)

// Compute is the reach of a rig over a set list. The plan must be valid. Same input, same
// answer. It fails when the rig or the set list is not in the plan, or when one footswitch
// moves more controls at once than any footswitch does.
func Compute(p *plan.Plan, rig, setList plan.ID) (*Report, error) {
	c, err := Follow(p, rig, setList, Start{})
	if err != nil {
		return nil, err
	}
	return c.Report, nil
}

func lookUp(p *plan.Plan, rig, setList plan.ID) (*plan.Rig, *plan.SetList, error) {
	r, err := p.RigByID(rig)
	if err != nil {
		return nil, nil, fmt.Errorf("reach: %w", err)
	}
	l, err := p.SetListByID(setList)
	if err != nil {
		return nil, nil, fmt.Errorf("reach: %w", err)
	}
	return r, l, nil
}

func prepare(p *plan.Plan, r *plan.Rig, l *plan.SetList, from Start) (*solver, error) {
	evening, err := p.EveningOf(r.ID, l.ID)
	if err != nil {
		return nil, fmt.Errorf("reach: %w", err)
	}
	p = evening.Plan
	r, _ = p.FindRig(r.ID)
	fl := floor.Lay(p, r)
	foot := r.Profile.Filled()
	s := &solver{
		plan: p, rig: r, foot: foot, feet: newFeet(foot, &fl, r.Floor.DoubleStomps), unheard: map[*plan.Recipe][]plan.Key{},
	}
	s.lanes = len(p.LaneConditions(r.Path)) > 0
	if s.parts, err = from.cut(layOut(p, l)); err != nil {
		return nil, err
	}
	s.settings = newSettings(p, r, evening)
	ops, touched := buildOps(s.settings, &fl)
	s.settings.resolve(s.parts)
	s.settings.layGuitars(s.parts, from)
	s.settings.begin(s.parts, from)
	s.vars = s.settings.vars
	if s.machines, s.fixed, err = buildMachines(s.settings, s.parts, ops, touched); err != nil {
		return nil, err
	}
	return s, nil
}
