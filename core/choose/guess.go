package choose

import (
	"cmp"
	"math"
	"slices"

	"envex/core/plan"
	"envex/core/signal"
)

// This file takes levels from the line between those that were metered, and chooses the places that promise most.

// turned is a knob at a share of its turn, to a tenth as a hand can set it.
func turned(c *plan.Control, share float64) float64 {
	low, high := c.Range()
	return math.Round(10*(low+(high-low)*share)) / 10
}

// drives are the places of a stage's drive that are looked at, its own first.
func (s stage) drives() []float64 {
	list := []float64{s.base.drive}
	if s.drive == nil {
		return list
	}
	for _, share := range drivesAt {
		if at := turned(s.drive, share); !slices.Contains(list, at) {
			list = append(list, at)
		}
	}
	return list
}

// levels are the places of a stage's level that are metered.
func (s stage) levels() []float64 {
	if s.level == nil {
		return []float64{s.base.level}
	}
	var list []float64
	for _, share := range levelsAt {
		list = append(list, turned(s.level, share))
	}
	return list
}

// guess is a place of a stage and what the line between those that were metered says it makes.
type guess struct {
	at     place
	margin map[[2]int]float64 // by home and sound
}

// guesses are the places of a stage that promise to make sounds, with something on before or after it or not.
func (b *bench) guesses(with config, stage int, drives []float64, homes []float64) []guess {
	s := b.stages[stage]
	var list []guess
	for _, drive := range drives {
		for _, level := range s.between() {
			g := guess{place{drive, level}, map[[2]int]float64{}}
			on := b.inOrder(append(slices.Clone(with.on), standing{stage, g.at}))
			for sound := range b.sounds {
				if !b.asks(sound, on) {
					continue
				}
				got := b.line(with, standing{stage, g.at}, b.of[sound])
				for h, home := range homes {
					if margin, ok := b.near(sound, home, got, true); ok {
						g.margin[[2]int{h, sound}] = margin
					}
				}
			}
			if len(g.margin) > 0 {
				list = append(list, g)
			}
		}
	}
	return list
}

// between are the places a level may end up in.
func (s stage) between() []float64 {
	if s.level == nil {
		return []float64{s.base.level}
	}
	var list []float64
	for share := levelFrom; share <= levelTo+1e-9; share += levelStep {
		if at := turned(s.level, share); !slices.Contains(list, at) {
			list = append(list, at)
		}
	}
	return list
}

// passes is how much of a signal a level lets through, in dB under all of it: what comes out of a stage is nearer to a
// straight line over it than over the turn.
func (s stage) passes(level float64) float64 {
	low, high := s.level.Range()
	return 20 * math.Log10(max(signal.Taper((level-low)/(high-low)), 1e-3))
}

// line is what the line between metered levels says of a stage at a place: of the stage alone, and with another on, which
// was metered where it stands, what turning its level does alone.
func (b *bench) line(with config, on standing, source int) signal.Sketch {
	s := b.stages[on.stage]
	if len(with.on) > 0 {
		alone := config{channel: with.channel}
		base := b.got[name(b.plus(with, standing{on.stage, s.base}), source)]
		there, here := b.line(alone, on, source), b.line(alone, standing{on.stage, s.base}, source)
		return signal.Sketch{
			Loudness: base.Loudness + there.Loudness - here.Loudness, Dirt: max(0, base.Dirt+there.Dirt-here.Dirt),
		}
	}
	at := func(level float64) signal.Sketch {
		c := b.plus(with, standing{on.stage, place{on.at.drive, level}})
		if got, ok := b.got[name(c, source)]; ok {
			return got
		}
		return b.got[name(c, b.of[0])] // nobody plays it alone so: it was metered for home
	}
	levels := s.levels()
	if len(levels) == 1 {
		return at(levels[0])
	}
	i := 1
	for i < len(levels)-1 && levels[i] < on.at.level {
		i++
	}
	x, y := at(levels[i-1]), at(levels[i])
	t := (s.passes(on.at.level) - s.passes(levels[i-1])) / (s.passes(levels[i]) - s.passes(levels[i-1]))
	return signal.Sketch{
		Loudness: x.Loudness + t*(y.Loudness-x.Loudness), Dirt: max(0, x.Dirt+t*(y.Dirt-x.Dirt)),
	}
}

// plus is a config with a stage more, in the order of the stages, so that it has one name.
func (b *bench) plus(c config, on standing) config {
	return config{channel: c.channel, on: b.inOrder(append(slices.Clone(c.on), on))}
}

func (b *bench) inOrder(on []standing) []standing {
	slices.SortStableFunc(on, func(a, b standing) int { return cmp.Compare(a.stage, b.stage) })
	return on
}

// worthwhile is how much further inside its bands a place has to bring sounds to be looked at where others bring them
// in already.
const worthwhile = 0.3

// marginNear is the margin of what is just near enough to a sound.
const marginNear = slackLU + slackDirt/10

// chosen are the fewest guesses that together promise all that any does, the one that promises most first, and then
// those that bring the same sounds in with more room to spare: a line is not exact, and a place that serves several
// sounds may be at the edge for each.
func chosen(list []guess, most int) []place {
	held := map[[2]int]float64{}
	var out []place
	for len(out) < most {
		best, gain := -1, worthwhile
		for i, g := range list {
			n := 0.0
			for k, margin := range g.margin {
				had, promised := held[k]
				switch {
				case promised:
					n += max(0, margin-had)
				case margin >= -marginNear:
					n += 10 + margin
				default:
					n += 1 + margin/10 // what has to be turned into a sound promises less
				}
			}
			if n > gain {
				best, gain = i, n
			}
		}
		if best < 0 {
			break
		}
		for k, margin := range list[best].margin {
			if had, promised := held[k]; !promised || margin > had {
				held[k] = margin
			}
		}
		out = append(out, list[best].at)
	}
	return out
}

// mostPromises is how many settings of the same boxes are metered for one sound.
const mostPromises = 4

// promises are the settings of two stages that promise the most for each sound, of each choice of boxes.
type promises map[promised][]promise

type promised struct {
	needs       boxes
	channel     int
	home, sound int
}

type promise struct {
	config
	margin float64
}

func (p promises) add(needs boxes, c config, margins map[[2]int]float64) {
	for k, margin := range margins {
		key := promised{needs, c.channel, k[0], k[1]}
		list := append(p[key], promise{c, margin})
		slices.SortStableFunc(list, func(a, b promise) int { return cmp.Compare(b.margin, a.margin) })
		p[key] = list[:min(len(list), mostPromises)]
	}
}

// all are the settings that promise the most for anything, each once, in one order.
func (p promises) all() []config {
	var list []config
	seen := map[string]bool{}
	for _, some := range p {
		for _, x := range some {
			if n := name(x.config, 0); !seen[n] {
				seen[n] = true
				list = append(list, x.config)
			}
		}
	}
	slices.SortFunc(list, func(a, b config) int { return cmp.Compare(name(a, 0), name(b, 0)) })
	return list
}

// needs are the boxes that two stages are in.
func (m *metering) needs(a, b int) boxes { return 1<<m.stages[a].box | 1<<m.stages[b].box }
