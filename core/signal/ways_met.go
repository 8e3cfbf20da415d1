package signal

import (
	"cmp"
	"context"
	"fmt"
	"maps"
	"math"
	"runtime"
	"slices"
	"strings"

	"envex/core/plan"
)

// This file meters settings on the grid of ways.go, and makes ways of those that are promising.

func (w *wayfinder) meterAll(ctx context.Context, list []attempt) error {
	settings := make([]Setting, len(list))
	for i := range list {
		settings[i] = list[i].set
	}
	got, err := w.meter(ctx, settings)
	for i := range got {
		list[i].got = got[i]
	}
	return err
}

// sketchLU and sketchDirt are how far a sketch may be from what [rendering.fan] meters: in loudness over home, where
// both are sketched, and in dirt by the quick tones. See [excerpts] and [quickTones].
const sketchLU, sketchDirt = 0.5, 0.7

// nearest are those of some attempts that have to be metered: all that may be near enough to be rendered in full, and
// all that may be the nearest, as far as a sketch tells. Sketches take a quarter of the time. Where a recording of the
// player's own is played, nothing is sketched.
func (w *wayfinder) nearest(ctx context.Context, list []attempt) ([]attempt, error) {
	if w.o.Dry != nil {
		return list, nil
	}
	x := Sketcher{rendering: w.rendering, Quick: true}
	settings := make([]Setting, len(list), len(list)+1)
	for i := range list {
		settings[i] = list[i].set
	}
	if w.home != nil {
		settings = append(settings, w.home.setting)
	}
	names, missing, called := unmetered(w.rendering, settings, w.rough)
	got, err := x.sketch(ctx, missing)
	if err != nil {
		return nil, err
	}
	for i, name := range called {
		if _, metered := w.metred[name]; !metered {
			w.Tried++
		}
		w.rough[name] = got[i]
	}
	home := w.rough[names[len(names)-1]].Loudness
	figures := make([]quick, len(list))
	best := math.Inf(1)
	for i := range list {
		s := w.rough[names[i]]
		figures[i] = quick{loudness: w.homeAt + s.Loudness - home, dirt: s.Dirt}
		best = min(best, w.score(figures[i]))
	}
	var near []attempt
	for i, t := range list {
		lu, dirt := w.offBy(figures[i])
		if lu <= nearLU+sketchLU && dirt <= nearDirt+sketchDirt ||
			w.score(figures[i]) <= best+2*(sketchLU+sketchDirt/10) {
			near = append(near, t)
		}
	}
	return near, nil
}

// unmetered names settings by all that makes a difference to what is heard, and gives those that are not known, each
// once, with their names.
func unmetered[T any](
	r *rendering, settings []Setting, known map[string]T,
) (names []string, missing []Setting, called []string) {
	names = make([]string, len(settings))
	seen := map[string]bool{}
	for i, s := range settings {
		names[i] = r.signatureOf(s)
		if _, ok := known[names[i]]; !ok && !seen[names[i]] {
			seen[names[i]] = true
			missing, called = append(missing, s), append(called, names[i])
		}
	}
	return names, missing, called
}

// meter is the quick figures of settings, those that were metered before from memory.
func (w *wayfinder) meter(ctx context.Context, settings []Setting) ([]quick, error) {
	names, missing, at := unmetered(w.rendering, settings, w.metred)
	if len(missing) > 0 {
		got, err := w.fan(ctx, missing, w.o.Dry, false, w.o.Progress)
		if err != nil {
			return nil, err
		}
		for i, name := range at {
			if _, sketched := w.rough[name]; !sketched {
				w.Tried++
			}
			w.metred[name] = got[i]
		}
	}
	out := make([]quick, len(settings))
	for i, name := range names {
		out[i] = w.metred[name]
	}
	return out, nil
}

// signatureOf tells settings apart by all that makes a difference to what is heard.
func (r *rendering) signatureOf(s Setting) string {
	var b strings.Builder
	b.WriteString(r.source(s).name())
	l := r.line(s)
	r.trims(l, s)
	for _, l := range l {
		b.WriteByte('|')
		b.WriteString(l.signature())
	}
	return b.String()
}

// nearLU and nearDirt are how far outside the targets of dirt and loudness a setting may be by its quick figures, and
// still be rendered in full.
const nearLU, nearDirt = 0.1, 0.2

func (w *wayfinder) offBy(q quick) (lu, dirt float64) {
	ll, lh, _ := LoudnessBand(w.sound.Targets)
	dl, dh, _ := DirtBand(w.sound.Targets)
	over := q.loudness - w.homeAt
	if w.home == nil {
		over = 0
	}
	return math.Abs(off(over, ll, lh)), math.Abs(off(q.dirt, dl, dh))
}

// score is how far a setting is off in all: ten per cent of dirt count as much as one LU.
func (w *wayfinder) score(q quick) float64 {
	lu, dirt := w.offBy(q)
	return lu + dirt/10
}

// verified renders the most promising of some attempts in full and checks every target; where none is promising, the
// nearest one.
func (w *wayfinder) verified(ctx context.Context, list []attempt) ([]Way, error) {
	order := make([]int, len(list))
	score := make([]float64, len(list))
	for i := range list {
		order[i] = i
		score[i] = w.score(list[i].got)
	}
	slices.SortStableFunc(order, func(a, b int) int {
		x, y := &list[a], &list[b]
		return cmp.Or(
			cmp.Compare(score[a], score[b]), cmp.Compare(x.byHand, y.byHand), cmp.Compare(len(x.turned), len(y.turned)),
			cmp.Compare(len(x.on), len(y.on)), cmp.Compare(x.away, y.away),
		)
	})
	var promising []int
	for n, i := range order {
		if lu, dirt := w.offBy(list[i].got); n > 0 && (lu > nearLU || dirt > nearDirt) {
			break
		}
		promising = append(promising, i)
	}
	if err := w.renderHome(ctx); err != nil {
		return nil, err
	}
	var ways []Way
	within := 0
	for len(promising) > 0 && within < mostFound {
		some := promising[:min(len(promising), runtime.GOMAXPROCS(0), mostFound-within)]
		promising = promising[len(some):]
		got := make([]Way, len(some))
		err := inParallel(ctx, len(some), nil, func(i int) (err error) {
			got[i], err = w.way(ctx, list[some[i]])
			return err
		})
		if err != nil {
			return nil, err
		}
		for _, way := range got {
			ways = append(ways, way)
			if way.Within {
				within++
			}
		}
	}
	slices.SortStableFunc(ways, wayOrder)
	return ways[:min(len(ways), mostFound)], nil
}

// renderHome renders the home sound in full, once.
func (w *wayfinder) renderHome(ctx context.Context) error {
	if w.home == nil {
		return nil
	}
	name := w.signatureOf(w.home.setting)
	if _, ok := w.homes[name]; ok {
		return nil
	}
	h, err := w.branch().figures(ctx, w.home.setting, w.o.Dry, depth{squash: true})
	if err != nil {
		return err
	}
	w.homes[name] = h.Playing
	return nil
}

// way renders an attempt in full. It may be called by several at once.
func (w *wayfinder) way(ctx context.Context, t attempt) (Way, error) {
	out := Way{
		Recipe: plan.Recipe{Sound: w.sound.ID, Guitar: w.sound.Targets.Guitar, Values: map[plan.Key]plan.Value{}},
		On:     append([]plan.Key{}, t.on...), Turned: len(t.turned), byHand: t.byHand, away: t.away,
	}
	for key, v := range t.values {
		if _, turned := t.turned[key]; !turned {
			out.Recipe.Values[key] = v
		}
	}
	for key, at := range t.turned {
		if w.unheard(key) {
			if out.Base == nil {
				out.Base = map[plan.Key]plan.Value{}
			}
			out.Base[key] = plan.Number(at)
		} else {
			out.Recipe.Values[key] = plan.Number(at)
		}
	}
	for _, key := range t.on {
		if _, b, ok := w.block(key); ok && b.Rocker {
			out.Recipe.Rockers = append(out.Recipe.Rockers, key)
		}
	}
	out.Words = w.words(t)
	f, err := w.branch().figures(ctx, t.set, w.o.Dry, depth{whole: true, dirt: true, times: true, squash: true})
	if err != nil {
		return out, err
	}
	home := f.Playing
	if w.home != nil {
		home = w.homes[w.branch().signatureOf(w.home.setting)]
	}
	out.Dirt, out.OverHome = f.Dirt, f.Playing-home
	rec := out.Recipe
	out.Checks = w.branch().checks(made{w.sound, &rec, t.set, w.tempo}, *f, out.OverHome)
	out.Within = !slices.ContainsFunc(out.Checks, func(c Check) bool { return !c.Met })
	for _, c := range out.Checks {
		if by := math.Abs(c.By); !c.Met {
			if c.What == "dirt" {
				by /= 10
			}
			out.off += by
		}
	}
	return out, nil
}

// unheard reports whether no other sound of the rig hears a knob: its block is off in all their recipes.
func (w *wayfinder) unheard(key plan.Key) bool {
	v, ok := w.plan.VariableOf(key)
	if !ok {
		return false
	}
	for _, m := range w.made {
		if m.sound.ID != w.sound.ID && m.setting.Works(v) {
			return false
		}
	}
	return true
}

// words say what is on, and what is turned to where.
func (w *wayfinder) words(t attempt) string {
	var list []string
	for _, b := range w.blocks {
		if b.channel {
			list = append(list, b.name+" "+t.values[b.key].Word())
		}
	}
	for _, key := range t.on {
		list = append(list, w.called(key))
	}
	for _, key := range slices.Sorted(maps.Keys(t.turned)) {
		if v, ok := w.plan.VariableOf(key); ok && v.Control != nil {
			list = append(
				list, fmt.Sprintf("%s %s at %g", w.called(plan.BlockKey(v.Gear, v.Block)), v.Control.Name, t.turned[key]),
			)
		}
	}
	if len(list) == 0 {
		return "everything off"
	}
	return strings.Join(list, ", ")
}

// called is a block's name in a list: its own where its box is named after its circuits, else that of the stop.
func (w *wayfinder) called(key plan.Key) string {
	g, b, ok := w.block(key)
	switch {
	case !ok:
		return string(key)
	case strings.Contains(strings.ToLower(g.Name), strings.ToLower(b.Name)):
		return b.Name
	}
	return g.StopName(b)
}
