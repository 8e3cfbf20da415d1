package mix

import (
	"cmp"
	"context"
	"fmt"
	"math"
	"slices"

	"envex/core/plan"
	"envex/core/signal"
)

// Knobs are turned as far as this first, both ways, and by less where that puts the finding right; in tenths of their
// turn.
const furthest = 3.5

var nearer = []float64{1, 2}

// knob is one that may be turned.
type knob struct{ signal.KnobOf }

// turn is a knob at another place, and what the finding's figure comes to.
type turn struct {
	knob   signal.KnobOf
	to     float64
	figure float64
}

// size is how far it is turned, in tenths of its whole turn.
func (t turn) size() float64 { return math.Abs(t.to-t.knob.At) / (t.knob.High - t.knob.Low) * 10 }

// turns adds turns of a knob to a list: as far as it goes.
func (k knob) turns(list []turn, by ...float64) []turn {
	for _, x := range by {
		to := math.Round(10*math.Min(math.Max(k.At+x*(k.High-k.Low)/10, k.Low), k.High)) / 10
		if to != k.At && !slices.ContainsFunc(list, func(t turn) bool { return t.knob.Key == k.Key && t.to == to }) {
			list = append(list, turn{knob: k.KnobOf, to: to})
		}
	}
	return list
}

// turn tries turns of knobs where the finding is worst, and gives those that put it right there. Loudness is counted
// from home, which stays where it is.
func (m *mender) turn(ctx context.Context, turns []turn, progress func(float64)) ([]turn, error) {
	s := m.worst()
	list := make([]signal.Playing, len(turns))
	for i, t := range turns {
		list[i] = m.playing[s.at].Playing
		list[i].Over = map[plan.Key]plan.Value{t.knob.Key: plan.Number(t.to)}
		list[i].HeardOnly = m.finding.What != "rings" && m.finding.What != "repeats"
	}
	got, err := signal.Spread(
		ctx,
		m.playing[s.at].on.Plan,
		m.rig.ID,
		list,
		signal.Options{Dry: m.o.Dry, Kept: m.o.Kept, Progress: progress},
	)
	if err != nil {
		return nil, fmt.Errorf("mix: %w", err)
	}
	var right []turn
	for i, t := range turns {
		if err := ctx.Err(); err != nil {
			return nil, fmt.Errorf("mix: %w", err)
		}
		figure, off := m.figureIn(m.room, m.hearAs(s, got[i]))
		if t.figure = figure; off <= 0 {
			right = append(right, t)
		}
	}
	return right, nil
}

// knobs tries each knob of the sound by steps, and takes the least step of each that puts it right where it is worst.
func (m *mender) knobs(ctx context.Context) ([]Move, error) {
	s := m.worst()
	play := m.playing[s.at]
	there, err := signal.Knobs(play.on.Plan, m.rig.ID, play.Sound, play.Recipe)
	if err != nil {
		return nil, fmt.Errorf("mix: %w", err)
	}
	knobs := make([]knob, len(there))
	for i, k := range there {
		knobs[i] = knob{k}
	}
	var turns []turn
	for _, k := range knobs {
		turns = k.turns(turns, -furthest, furthest)
	}
	far, err := m.turn(ctx, turns, m.share(0, 0.4))
	if err != nil {
		return nil, err
	}
	turns = nil
	for _, t := range far {
		for _, by := range nearer {
			turns = knob{t.knob}.turns(turns, math.Copysign(by, t.to-t.knob.At))
		}
	}
	near, err := m.turn(ctx, turns, m.share(0.4, 0.6))
	if err != nil {
		return nil, err
	}
	best := map[plan.Key]turn{}
	for _, t := range append(near, far...) {
		if have, ok := best[t.knob.Key]; !ok || t.size() < have.size() {
			best[t.knob.Key] = t
		}
	}
	keys := plan.SortedKeys(best)
	slices.SortStableFunc(keys, func(a, b plan.Key) int { return cmp.Compare(best[a].size(), best[b].size()) })
	var moves []Move
	for n, key := range keys[:min(len(keys), mostKnobs)] {
		move, ok, err := m.turned(ctx, best[key])
		if err != nil {
			return nil, err
		}
		if ok {
			moves = append(moves, move)
		}
		m.share(0.6, 1)(float64(n+1) / float64(min(len(keys), mostKnobs)))
	}
	return moves, nil
}

// hearAs is a scene with another guitar in it.
func (m *mender) hearAs(s *scene, spectra signal.Spectra) Scene {
	at := len(m.spectra)
	m.spectra, m.playing = append(m.spectra, spectra), append(m.playing, m.playing[s.at])
	other := *s
	other.at = at
	ask := m.asked(&other)
	ask.about = &check{what: m.finding.What, part: m.finding.Part}
	out := m.sceneOf(&other, listen(ask))
	m.spectra, m.playing = m.spectra[:at], m.playing[:at]
	return out
}
