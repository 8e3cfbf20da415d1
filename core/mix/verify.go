package mix

import (
	"context"
	"fmt"
	"math"
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
	rec := m.rig.RecipeFor(plan.Section{Sound: m.worst().sound.ID, Recipe: m.playing[m.worst().at].Recipe})
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

// renderFrom renders what is otherwise than in another room, which is what is played of some sounds, and takes the rest
// from there.
func (x *room) renderFrom(ctx context.Context, from *room, changed []plan.ID, o Options) error {
	home := x.homeSound()
	x.home = x.spectrumOf(signal.Playing{Sound: home.Sound, Recipe: home.ID})
	x.spectra = make([]signal.Spectra, len(x.playing))
	var anew []signal.Playing
	var places []int
	for i, want := range x.playing {
		at := slices.IndexFunc(from.playing, func(have signal.Playing) bool { return same(have, want) })
		if at >= 0 && !slices.Contains(changed, want.Sound) {
			x.spectra[i] = from.spectra[at]
			continue
		}
		anew, places = append(anew, want), append(places, i)
	}
	got, err := signal.Spread(
		ctx,
		x.plan,
		x.rig.ID,
		anew,
		signal.Options{Dry: o.Dry, Kept: o.Kept, Progress: o.Progress},
	)
	if err != nil {
		return fmt.Errorf("mix: %w", err)
	}
	for k, i := range places {
		x.spectra[i] = got[k]
	}
	return nil
}

// tempoWithin is how far apart two tempi are, as a share, at which repeats are heard alike.
const tempoWithin = 0.03

// same reports whether two things that are played are one to the ear.
func same(a, b signal.Playing) bool {
	if a.Sound != b.Sound || a.Recipe != b.Recipe || a.Tuned != b.Tuned {
		return false
	}
	if a.Tempo.BPM == 0 || b.Tempo.BPM == 0 {
		return a.Tempo == b.Tempo
	}
	return math.Abs(a.Tempo.BeatSeconds()/b.Tempo.BeatSeconds()-1) <= tempoWithin
}
