package signal

import (
	"context"
	"fmt"
	"strings"

	"envex/core/plan"
)

// quick are the figures that a map of many settings needs, time effects bypassed.
type quick struct {
	loudness, dirt, squash, noise float64
}

// fan meters many settings of a rig at once: chains that begin alike are rendered once as far as they are alike, and
// those that were metered before not at all. Settings are given; the figures come back in their order. Those of a
// recording are not kept.
func (r *rendering) fan(
	ctx context.Context, settings []Setting, dry []float64, noise bool, progress func(float64),
) ([]quick, error) {
	out := make([]quick, len(settings))
	lines := make([]line, len(settings))
	names := make([]string, len(settings))
	what := fmt.Sprint("quick ", noise)
	sources := map[string][]int{}
	var order []string
	for i, s := range settings {
		lines[i] = r.line(s)
		r.trims(lines[i], s)
		if dry == nil {
			names[i] = r.identityOf(lines[i], s)
		}
		if known, ok := before[quick](r.kept, names[i], what); ok {
			out[i], names[i] = known, ""
			continue
		}
		key := r.source(s).name()
		if sources[key] == nil {
			order = append(order, key)
		}
		sources[key] = append(sources[key], i)
	}
	// Four signals run along each tree: the phrase a little down and a little up, the tones, the hiss.
	signals := 3
	if noise {
		signals = 4
	}
	missing := 0
	for _, group := range sources {
		missing += len(group)
	}
	shares := newShares(missing*signals, progress)
	var jobs []func() error
	for _, key := range order {
		group := sources[key]
		from := r.source(settings[group[0]])
		in := from.play(dry)
		playing := mask(in)
		for k, db := range []float64{-1.5, 1.5} {
			jobs = append(jobs, func() error {
				return r.along(ctx, lines, group, scaledBy(in, db), mode{still: true}, func(i int, w wave) {
					level := maskedLoudness(w, playing)
					shares.with(func() {
						if k == 0 {
							out[i].loudness += level / 2
							out[i].squash += level / 3
						} else {
							out[i].loudness += level / 2
							out[i].squash -= level / 3
						}
					})
				})
			})
		}
		jobs = append(jobs, func() error {
			return r.along(
				ctx,
				lines,
				group,
				multitone().by(from.level(), toneSettling),
				mode{still: true},
				func(i int, w wave) {
					dirt := multitone().dirt(w)
					shares.with(func() { out[i].dirt = dirt })
				},
			)
		})
		if noise {
			jobs = append(jobs, func() error {
				return r.along(ctx, lines, group, hissing(), mode{still: true, hiss: true}, func(i int, w wave) {
					level := lufs(mean(blocks(w.channels()...)[2:]))
					shares.with(func() { out[i].noise = level })
				})
			})
		}
	}
	if err := inParallel(ctx, len(jobs), nil, func(i int) error { return jobs[i]() }); err != nil {
		return nil, err
	}
	for _, group := range sources {
		for _, i := range group {
			out[i].squash = min(max(1+out[i].squash, 0), 1)
			out[i].noise = out[i].loudness - out[i].noise
			r.kept.keep(names[i], what, out[i])
		}
	}
	return out, nil
}

func scaledBy(x []float64, db float64) []float64 {
	y := make([]float64, len(x))
	k := factor(db)
	for i, v := range x {
		y[i] = v * k
	}
	return y
}

// along carries a signal down lines: they are parted by what the next link does, and each party goes on
// alone.
func (r *rendering) along(
	ctx context.Context, lines []line, group []int, x []float64, m mode, leaf func(i int, w wave),
) error {
	return r.alongWave(ctx, lines, group, wave{l: x}, m, 0, leaf)
}

func (r *rendering) alongWave(
	ctx context.Context, lines []line, group []int, w wave, m mode, from int, leaf func(i int, w wave),
) error {
	if err := ctx.Err(); err != nil {
		return err
	}
	for at := from; ; at++ {
		if at == len(lines[group[0]]) {
			w = newPlayer(ctx, m, nil).gathered(w, 0, 0)
			for _, i := range group {
				leaf(i, w)
			}
			return nil
		}
		parties := map[string][]int{}
		var order []string
		for _, i := range group {
			name := lines[i][at].signature()
			if parties[name] == nil {
				order = append(order, name)
			}
			parties[name] = append(parties[name], i)
		}
		if len(order) == 1 {
			l := lines[group[0]][at : at+1]
			next, err := newPlayer(ctx, m, l).along(l, w)
			if err != nil {
				return err
			}
			w = next
			continue
		}
		for k, name := range order {
			own := w
			if k+1 < len(order) {
				own = w.clone()
			}
			l := lines[parties[name][0]][at : at+1]
			next, err := newPlayer(ctx, m, l).along(l, own)
			if err != nil {
				return err
			}
			if err := r.alongWave(ctx, lines, parties[name], next, m, at+1, leaf); err != nil {
				return err
			}
		}
		return nil
	}
}

// signature tells apart what a link does: its state and where its controls stand.
func (x link) signature() string {
	if x.fork != nil {
		var b strings.Builder
		for _, lane := range x.fork.lanes {
			b.WriteByte('|')
			for _, y := range lane {
				b.WriteString(y.signature())
			}
		}
		return b.String()
	}
	s := x.stage
	if s.run != nil {
		return s.run.name
	}
	if (mode{still: true}).bypassed(s) {
		return string(s.key) + " off"
	}
	var b strings.Builder
	fmt.Fprint(&b, s.key, s.trim)
	if g := s.set.gear; g != nil {
		for _, c := range s.set.block.Controls {
			fmt.Fprint(&b, " ", s.set.at(plan.BlockKey(g.ID, s.set.block.ID)+"/"+plan.Key(c.ID)))
		}
		for _, c := range g.Controls {
			fmt.Fprint(&b, " ", s.set.at(plan.Key(string(g.ID)+"/"+string(c.ID))))
		}
	}
	return b.String()
}
