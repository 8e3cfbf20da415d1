package choose

import (
	"context"
	"math"
	"slices"

	"envex/core/plan"
	"envex/core/signal"
)

// nudged renders a choice in full; where a sound is out by what the quick meter cannot see, levels are turned to where
// all sounds that hear them are within, and it is rendered again.
func (c *choosing) nudged(ctx context.Context, m *metering, x cover) (*Set, error) {
	set, err := c.rendered(ctx, m, x)
	if err != nil || len(set.Misses) == 0 {
		return set, err
	}
	was := make([][]place, len(m.places))
	for i := range m.places {
		was[i] = slices.Clone(m.places[i])
	}
	moved, err := m.nudge(ctx, x, set)
	if err != nil || !moved {
		return set, err
	}
	next, err := c.rendered(ctx, m, x)
	if err != nil {
		return nil, err
	}
	if len(next.Covers) > len(set.Covers) {
		return next, nil
	}
	m.places = was
	return set, nil
}

// mostNudge is how far a level is nudged, in LU.
const mostNudge = 2.0

// nudge turns the levels of stages that sounds which are out have on last, to the middle of what all sounds that have
// them on can bear. It reports whether any was turned.
func (m *metering) nudge(ctx context.Context, x cover, set *Set) (bool, error) {
	out := map[station]bool{}
	low, high := map[station]float64{}, map[station]float64{}
	for _, made := range set.Made {
		sound := slices.IndexFunc(m.sounds, func(s *plan.Sound) bool { return s.ID == made.Sound })
		r := m.recipes[x.world][sound][x.made[sound]]
		l, h, asked := signal.LoudnessBand(m.sounds[sound].Targets)
		for i, on := range r.on {
			at := station{on.stage, m.stationOf(x, sound, on.stage)}
			if _, seen := low[at]; !seen {
				low[at], high[at] = -mostNudge, mostNudge
			}
			if sound == 0 {
				low[at], high[at] = 0, 0 // all others are measured against it
			} else if asked {
				low[at], high[at] = max(low[at], l-made.OverHome), min(high[at], h-made.OverHome)
			}
			out[at] = out[at] || i == len(r.on)-1 && outByLoudness(made)
		}
	}
	moved := false
	for at, is := range out {
		level := m.stages[at.stage].level
		if !is || level == nil || low[at] > high[at] {
			continue
		}
		slope, err := m.benches[x.world].slope(ctx, at)
		if err != nil {
			return false, err
		}
		if slope <= 0 {
			continue
		}
		from, to := level.Range()
		p := &m.places[at.stage][at.at]
		p.level = min(max(p.level+math.Round(10*(low[at]+high[at])/2/slope)/10, from), to)
		moved = true
	}
	return moved, nil
}

// stationOf is the place of a stage in the way of a sound.
func (m *metering) stationOf(x cover, sound, stage int) int {
	for _, s := range m.worlds[x.world].ways[sound][x.made[sound]].stations {
		if s.stage == stage {
			return s.at
		}
	}
	return -1
}

func outByLoudness(made Made) bool {
	return slices.ContainsFunc(made.Checks, func(x signal.Check) bool { return !x.Met && x.What == "loudness" })
}

// slope is how much louder a stage makes the first sound's guitar for each step of its level, alone, in LU.
func (b *bench) slope(ctx context.Context, at station) (float64, error) {
	s := b.stages[at.stage]
	levels := s.levels()
	if len(levels) < 2 {
		return 0, nil
	}
	here := b.places[at.stage][at.at]
	ends := []config{
		{on: []standing{{at.stage, place{here.drive, levels[0]}}}},
		{on: []standing{{at.stage, place{here.drive, levels[len(levels)-1]}}}},
	}
	if err := b.sketch(ctx, ends); err != nil {
		return 0, err
	}
	rise := b.got[name(ends[1], 0)].Loudness - b.got[name(ends[0], 0)].Loudness
	return rise / (levels[len(levels)-1] - levels[0]), nil
}
