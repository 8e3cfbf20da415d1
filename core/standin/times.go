package standin

import (
	"fmt"
	"math"
	"slices"

	"envex/core/plan"
	"envex/core/signal"
)

// How much a difference in what repeats or rings counts, each as one LU outside a band, and no more.
const (
	octavesApart = 1.0 // of a delay's time, or of how long a reverb rings
	repeatsApart = 4.0 // repeats that are heard
	firstApart   = 6.0 // dB of the first repeat, or of the tail
	circuitApart = 0.25
	notThere     = 2.0
)

// depth is what has to be metered of the sounds: what repeats or rings where the missing box did.
func (s *search) depth() signal.Want {
	if slices.ContainsFunc(
		s.box.Blocks,
		func(b plan.Block) bool { return b.Effect.Traits().Nature == plan.NatureTime },
	) {
		return signal.WithTimes
	}
	return signal.ForTargets
}

// ringing is how far what repeats or rings in a sound, and its two sides, are from what they were.
func (s *search) ringing(q *plan.Plan, now signal.Sound, blocks map[plan.Key]plan.Key) float64 {
	was, known := s.was[now.Sound]
	if !known || s.depth() != signal.WithTimes {
		return 0
	}
	far := 0.0
	for _, from := range plan.SortedKeys(blocks) { // in one order, so that sums are the same to the last digit
		to := blocks[from]
		a, b := timesOf(was.Figures, from), timesOf(now.Figures, to)
		switch {
		case a == nil:
			continue
		case b == nil:
			far += notThere
			continue
		case a.MS > 0:
			far += octaves(a.MS, b.MS) + min(math.Abs(float64(a.Audible-b.Audible))/repeatsApart, 1)
		default:
			far += octaves(a.Rings, b.Rings)
		}
		far += min(math.Abs(a.First-b.First)/firstApart, 1)
		if s.circuit(s.plan, s.rig, now.Sound, from) != s.circuit(q, nil, now.Sound, to) {
			far += circuitApart
		}
	}
	return far + min(math.Abs(sides(was.Figures)-sides(now.Figures)), 1)
}

// oneSide says which sounds had two sides and have one.
func (s *search) oneSide(list []signal.Sound) []string {
	var names []string
	for _, now := range list {
		if was, ok := s.was[now.Sound]; ok && sides(was.Figures) < 0.95 && sides(now.Figures) > 0.99 {
			names = append(names, now.Name)
		}
	}
	if len(names) == 0 {
		return nil
	}
	return []string{plan.Listed(names) + " had two sides, and both are the same now."}
}

// sides are how alike both sides are: 1 where there is one alone.
func sides(f signal.Figures) float64 {
	if f.Sides == nil {
		return 1
	}
	return *f.Sides
}

func octaves(a, b float64) float64 {
	if a <= 0 || b <= 0 {
		return min(math.Abs(a-b), octavesApart)
	}
	return min(math.Abs(math.Log2(a/b)), octavesApart)
}

func timesOf(f signal.Figures, stop plan.Key) *signal.TimeFigures {
	i := slices.IndexFunc(f.Times, func(t signal.TimeFigures) bool { return t.Stop == stop })
	if i < 0 {
		return nil
	}
	return &f.Times[i]
}

// circuit is the circuit of a block in a sound of a rig: of the one that is searched for where it is nil.
func (s *search) circuit(p *plan.Plan, r *plan.Rig, id plan.ID, stop plan.Key) string {
	if r == nil {
		r, _ = p.FindRig(s.rig.ID)
	}
	sound, _ := p.FindSound(id)
	g, _ := p.FindGear(stop.Gear())
	b, _ := g.FindBlock(plan.ID(stop.Rest()))
	set := p.SetFor(r, r.RecipeFor(plan.Section{Sound: id}), sound, p.FirstTempo(id))
	m, _ := g.ModelIn(b, set.At)
	return m.Model
}

// sameCircuit puts selectors of the box where its blocks are the circuits that those of the missing box were, where one
// position does for all sounds. It says where another circuit is left.
func (s *search) sameCircuit(q *plan.Plan, next *plan.Rig, blocks map[plan.Key]plan.Key) []string {
	words := []string{}
	for _, from := range plan.SortedKeys(blocks) {
		to := blocks[from]
		g, _ := q.FindGear(to.Gear())
		b, _ := g.FindBlock(plan.ID(to.Rest()))
		was, _ := s.box.FindBlock(plan.ID(from.Rest()))
		if b.Effect != was.Effect || b.Effect.IsGain() {
			continue
		}
		var wanted []string
		for _, id := range s.uses {
			if m := s.circuit(s.plan, s.rig, id, from); m != "" && !slices.Contains(wanted, m) {
				wanted = append(wanted, m)
			}
		}
		if len(wanted) != 1 {
			continue
		}
		i := slices.IndexFunc(b.ModelAt, func(m plan.ModelAt) bool { return m.Model == wanted[0] })
		if i >= 0 &&
			slices.ContainsFunc(b.Controls, func(c plan.Control) bool { return c.ID == b.ModelAt[i].Control }) {
			key := to + "/" + plan.Key(b.ModelAt[i].Control)
			*next = Set(*next, map[plan.Key]plan.Value{key: plan.Text(b.ModelAt[i].Is)})
			q.Put(*next)
			continue
		}
		if is := s.circuit(q, next, s.uses[0], to); is != wanted[0] {
			words = append(words, fmt.Sprintf(
				"Its circuit is %s; that of %s is %s.",
				circuitName(b.Effect, is),
				s.box.Name,
				circuitName(b.Effect, wanted[0]),
			))
		}
	}
	return words
}

// circuitName is what a circuit is called.
func circuitName(e plan.Effect, id string) string {
	for _, m := range plan.ModelsOf(e) {
		if m.ID == id {
			return m.Name
		}
	}
	return id
}
