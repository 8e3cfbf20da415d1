package mix

import (
	"context"
	"fmt"
	"slices"

	"envex/core/plan"
	"envex/core/signal"
)

// turned is a move of a knob, worked out for the whole set; false where it does not put the finding right everywhere.
func (m *mender) turned(ctx context.Context, t turn) (Move, bool, error) {
	knob, to := t.knob, t.to
	move := Move{
		What: "knob", Figure: t.figure, size: t.size(), Words: fmt.Sprintf("%s from %g to %g", knob.Name, knob.At, to),
		Values: map[plan.Key]plan.Value{knob.Key: plan.Number(to)},
	}
	own, err := m.own.RigByID(m.rig.ID)
	if err != nil {
		return move, false, fmt.Errorf("mix: %w", err)
	}
	play := m.playing[m.worst().at]
	rec := play.on.Rig.RecipeFor(plan.Section{Sound: play.Sound, Recipe: play.Recipe})
	rig := knob.Turned(own, m.destination, *rec, to)
	move.Rig = &rig
	changed := *m.own
	changed.Put(rig)
	there, err := changed.At(rig.ID, m.destination)
	if err != nil {
		return move, false, fmt.Errorf("mix: %w", err)
	}
	x, err := newRoom(there, rig.ID, m.out.SetList)
	if err != nil {
		return move, false, err
	}
	x.noCuts, x.out.HallS = true, m.o.HallS
	if err := x.renderFrom(ctx, m.room, append(slices.Clone(knob.Shared), m.finding.Sound), m.quiet()); err != nil {
		return move, false, err
	}
	ok, err := m.compare(ctx, x, &move)
	if err != nil || !ok {
		return move, false, err
	}
	move.Breaks, err = m.breaks(ctx, there, append(slices.Clone(knob.Shared), m.finding.Sound))
	return move, err == nil, err
}

// breaks are the sounds that are in their targets and would not be.
func (m *mender) breaks(ctx context.Context, changed *plan.Plan, sounds []plan.ID) ([]string, error) {
	o := signal.Options{Dry: m.o.Dry, Kept: m.o.Kept, Want: signal.ForTargets}
	for _, id := range sounds {
		if _, known := m.met[id]; !known {
			o.Only = append(o.Only, id)
		}
	}
	if len(o.Only) > 0 {
		was, err := signal.Measure(ctx, m.plan, m.rig.ID, o)
		if err != nil {
			return nil, fmt.Errorf("mix: %w", err)
		}
		for _, s := range was.Sounds {
			m.met[s.Sound] = s.Met()
		}
	}
	o.Only = slices.DeleteFunc(slices.Clone(sounds), func(id plan.ID) bool { return !m.met[id] })
	list := []string{}
	if len(o.Only) == 0 {
		return list, nil
	}
	is, err := signal.Measure(ctx, changed, m.rig.ID, o)
	if err != nil {
		return nil, fmt.Errorf("mix: %w", err)
	}
	for _, s := range is.Sounds {
		if !s.Met() {
			list = append(list, s.Name)
		}
	}
	return list, nil
}

// compare works out a room with a move made, and notes what it brings and ends; false where the finding is still there.
func (m *mender) compare(ctx context.Context, x *room, move *Move) (bool, error) {
	if err := x.report(ctx); err != nil {
		return false, err
	}
	move.Brings, move.Ends = []string{}, []string{}
	if move.Breaks == nil {
		move.Breaks = []string{}
	}
	has := func(list []Finding, id string) bool {
		return slices.ContainsFunc(list, func(f Finding) bool { return f.ID == id })
	}
	for _, f := range x.out.Findings {
		if f.ID == m.finding.ID {
			return false, nil
		}
		if !has(m.out.Findings, f.ID) {
			move.Brings = append(move.Brings, f.Title)
		}
	}
	for _, f := range m.out.Findings {
		if f.ID != m.finding.ID && !has(x.out.Findings, f.ID) {
			move.Ends = append(move.Ends, f.Title)
		}
	}
	return true, nil
}
