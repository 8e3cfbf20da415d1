package choose

import (
	"cmp"
	"math"
	"slices"

	"envex/core/plan"
	"envex/core/signal"
)

// mostWays is how many ways of one sound a world has, those with the fewest boxes first.
const mostWays = 2000

// world makes a world of what was metered: for each sound every way that is within its targets or near them.
func (m *metering) world(b *bench, home float64, list []config) {
	w := world{with: b.always, without: m.without(b)}
	var recipes [][]recipe
	for sound := range m.sounds {
		ways, makes := m.ways(b, sound, home, list, false)
		if len(ways) == 0 { // then what can be turned into it, as far as that goes
			ways, makes = m.ways(b, sound, home, list, true)
		}
		ways, makes = sorted(ways, makes)
		if len(ways) > mostWays {
			m.partial = true
			ways, makes = ways[:mostWays], makes[:mostWays]
		}
		w.ways, recipes = append(w.ways, ways), append(recipes, makes)
	}
	if w.first = len(w.ways[0]) > 0; !w.first {
		// Nothing is louder than a home that is not there.
		for sound, s := range m.sounds {
			if _, _, asked := signal.LoudnessBand(s.Targets); asked {
				w.ways[sound], recipes[sound] = nil, nil
			}
		}
	}
	m.worlds, m.recipes = append(m.worlds, w), append(m.recipes, recipes)
}

// ways are those of a sound that are within its targets or near them, or such as can be turned into it.
func (m *metering) ways(b *bench, sound int, home float64, list []config, turned bool) ([]way, []recipe) {
	var ways []way
	var makes []recipe
	for _, c := range unique(list) {
		if !m.asks(sound, c.on) {
			continue
		}
		margin, ok := m.near(sound, home, b.got[name(c, m.of[sound])], turned)
		if !ok {
			continue
		}
		for _, given := range m.given(sound, m.without(b)) {
			ways = append(ways, m.way(c, given, b.always, margin))
			makes = append(makes, recipe{c, given})
		}
	}
	return ways, makes
}

// without is what would sound in the worlds of a bench, and is not to be taken.
func (m *metering) without(b *bench) boxes { return m.always&^b.always | ^m.only }

func unique(list []config) []config {
	seen := map[string]bool{}
	var out []config
	for _, c := range list {
		n := name(c, 0)
		if !seen[n] {
			seen[n] = true
			out = append(out, c)
		}
	}
	return out
}

// way is what has to be taken and where stages have to stand for what is on.
func (m *metering) way(c config, given []giving, always boxes, margin float64) way {
	x := way{needs: always, effort: 100*(len(c.on)+len(given)) - int(math.Round(20*margin))}
	if c.known {
		x.effort -= 50 // the player knows it
	}
	for _, on := range c.on {
		x.needs |= 1 << m.stages[on.stage].box
		x.stations = append(x.stations, station{on.stage, slices.Index(m.places[on.stage], on.at)})
	}
	for _, by := range given {
		if i := m.place(by.key.Gear()); i >= 0 {
			x.needs |= 1 << i
		}
		if by.at >= 0 {
			x.stations = append(x.stations, station{m.stageOf(by.key), by.at})
			x.effort += min(by.at, 1)
		}
	}
	return x
}

// stageOf numbers the blocks that give effects, after the stages.
func (m *metering) stageOf(key plan.Key) int {
	return len(m.stages) + slices.Index(plan.SortedKeys(m.turned), key)
}

// given are the ways to give the effects that a sound asks, those of stages apart: a block for each, where it stands.
func (m *metering) given(sound int, without boxes) [][]giving {
	list := [][]giving{nil}
	for k, h := range m.sounds[sound].Targets.Effects {
		if m.byStage(h.Effect) {
			continue
		}
		var next [][]giving
		for _, so := range list {
			for _, p := range m.giving[h.Effect] {
				if slices.ContainsFunc(so, func(x giving) bool { return x.key == p.key }) ||
					p.box >= 0 && without.has(p.box) {
					continue
				}
				for _, at := range m.gives[sound][k][p.key] {
					next = append(next, append(slices.Clone(so), at))
				}
			}
		}
		list = next
	}
	return list
}

// byStage reports whether an effect is given by stages that are on, and not by what stays.
func (m *metering) byStage(e plan.Effect) bool {
	return levels(e) && !slices.ContainsFunc(m.giving[e], func(p provider) bool { return p.box == frameBox })
}

// sorted puts the ways with the fewest boxes first, then the easiest, and leaves out those that take all that another
// takes and more.
func sorted(ways []way, makes []recipe) ([]way, []recipe) {
	order := make([]int, len(ways))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int {
		x, y := ways[a], ways[b]
		return cmp.Or(cmp.Compare(x.needs.count(), y.needs.count()), cmp.Compare(x.effort, y.effort))
	})
	var keptWays []way
	var keptMakes []recipe
	for _, i := range order {
		x := ways[i]
		if slices.ContainsFunc(keptWays, func(y way) bool {
			return y.needs.within(x.needs) && y.effort <= x.effort && subset(y.stations, x.stations)
		}) {
			continue
		}
		keptWays, keptMakes = append(keptWays, x), append(keptMakes, makes[i])
	}
	return keptWays, keptMakes
}

func subset(a, b []station) bool {
	for _, s := range a {
		if !slices.Contains(b, s) {
			return false
		}
	}
	return true
}
