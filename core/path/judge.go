package path

import (
	"context"
	"fmt"
	"sort"

	"envex/core/plan"
)

// Judge says what is wrong with the order of a rig's chain and what the best order is. The
// plan must be valid. It ends early with the context's error when that is cancelled.
func Judge(ctx context.Context, p *plan.Plan, rig plan.ID) (*Report, error) {
	r, ok := p.FindRig(rig)
	if !ok {
		return nil, fmt.Errorf("path: there is no rig %q", rig)
	}
	j := &judge{rig: r, stops: stopsOf(p, r)}
	j.rules = rules(sides(r), carriesStereo(j.stops))
	if len(j.stops) > maxStops {
		return nil, fmt.Errorf("path: %d stops are more than can be ordered; %d is the most", len(j.stops), maxStops)
	}
	report := &Report{Findings: []Finding{}, Questions: Questions(), Chosen: chosen(r)}
	j.problem = j.pose()
	present := make([]int, len(j.stops))
	for i := range present {
		present[i] = i
	}
	report.Cost = j.weight(present)
	report.Findings = j.findings(present)
	for _, s := range j.stops {
		if s.is(plan.EffectPreamp) && s.isAmp() {
			report.Estimated = append(report.Estimated, fmt.Sprintf("%s is taken to be driven %.0f %%, by its channel or its gain knob.", s.name, s.dirt*100))
		}
	}
	best, err := j.best(ctx, present)
	if err != nil {
		return nil, fmt.Errorf("path: %w", err)
	}
	report.Best = best
	return report, nil
}

type judge struct {
	rig     *plan.Rig
	stops   []*stop
	rules   []rule
	problem *problem
}

func chosen(r *plan.Rig) []Chosen {
	in := sides(r)
	list := []Chosen{}
	for _, q := range Questions() {
		c := Chosen{Question: q.ID, Side: in[q.ID]}
		for _, s := range r.Schools {
			c.ByPlayer = c.ByPlayer || s.Question == q.ID
		}
		list = append(list, c)
	}
	return list
}

// settled is the player's reason for leaving a pair as it is, "" where there is none.
func (j *judge) settled(id string) string {
	for _, s := range j.rig.Settled {
		if s.Finding == id {
			return s.Reason
		}
	}
	return ""
}

func findingID(rule string, a, b *stop) string {
	return "order:" + rule + ":" + string(a.key) + ":" + string(b.key)
}

// pose turns the preferences and what cannot be changed into a linear-ordering problem. A
// settled pair costs nothing either way.
func (j *judge) pose() *problem {
	n := len(j.stops)
	p := &problem{cost: make([][]int64, n), precedes: make([]uint64, n)}
	for i, a := range j.stops {
		p.cost[i] = make([]int64, n)
		for k, b := range j.stops {
			if i == k {
				continue
			}
			for _, f := range between(j.rules, b, a) { // a comes before b although b had better
				if j.settled(findingID(f.rule, b, a)) == "" {
					p.cost[i][k] += units(f.weight)
				}
			}
			if mustPrecede(a, b, i, k) {
				p.precedes[k] |= 1 << i
			}
		}
	}
	j.closeLoops(p)
	p.breakTies()
	return p
}

// mustPrecede reports whether a has to come before b whatever the preferences: an amp's own
// blocks keep their order, what stands out of the amp stays there, a switcher's loops run in
// number order, and nothing crosses a pinned stop.
func mustPrecede(a, b *stop, i, k int) bool {
	switch {
	case a.pinned || b.pinned:
		return i < k
	case a.isAmp() && b.isAmp() && a.gear == b.gear:
		return i < k
	case b.is(plan.EffectPower) && a.zone != plan.Out:
		return true
	case b.zone == plan.Out && !b.is(plan.EffectPower) && (a.zone != plan.Out || i < k):
		return true
	case a.loop > 0 && b.loop > 0 && a.loop < b.loop:
		return true
	}
	return false
}

// closeLoops keeps every stop out of the loop of an amp that has none: it must come before
// the preamp.
func (j *judge) closeLoops(p *problem) {
	for i, pre := range j.stops {
		if !pre.isAmp() || !pre.is(plan.EffectPreamp) || pre.gear.Loop != nil {
			continue
		}
		for k, s := range j.stops {
			if s.gear != pre.gear && s.zone != plan.Out {
				p.precedes[i] |= 1 << k
			}
		}
	}
}

// weight is the cost of an order without the settled pairs and without tie-breaking.
func (j *judge) weight(order []int) float64 {
	return weightOf(j.problem.total(order))
}

func (j *judge) findings(order []int) []Finding {
	list := []Finding{}
	for x, i := range order {
		for _, k := range order[x+1:] {
			first, second := j.stops[k], j.stops[i] // had better be the other way round
			for _, f := range between(j.rules, first, second) {
				if j.problem.precedes[k]&(1<<i) != 0 {
					continue // it cannot be changed, so it is not nagged about
				}
				id := findingID(f.rule, first, second)
				list = append(list, Finding{
					ID: id, Rule: f.rule, Stops: []plan.Key{first.key, second.key}, Names: []string{first.name, second.name},
					Weight: weightOf(units(f.weight)), Reason: f.reason, School: f.school, Settled: j.settled(id), Repairs: j.repairs(order, k, i),
				})
			}
		}
	}
	sort.SliceStable(list, func(a, b int) bool { return list[a].Weight > list[b].Weight })
	return list
}

// repairs are the ways to mend a pair by moving one of the two: the one that should come
// first to just before the other, or the other to just after it; the cheaper first.
func (j *judge) repairs(order []int, first, second int) []Move {
	from, to := indexOf(order, first), indexOf(order, second)
	moves := []Move{}
	for _, m := range []struct {
		next  []int
		stop  int
		words string
	}{
		{shifted(order, from, to), first, fmt.Sprintf("Move %s before %s", j.stops[first].name, j.stops[second].name)},
		{shifted(order, to, from), second, fmt.Sprintf("Move %s after %s", j.stops[second].name, j.stops[first].name)},
	} {
		if j.problem.allowed(m.next) {
			moves = append(moves, j.move(m.next, m.stop, m.words))
		}
	}
	sort.SliceStable(moves, func(a, b int) bool { return moves[a].Cost < moves[b].Cost })
	return moves
}

func (j *judge) move(order []int, moved int, words string) Move {
	m := Move{Stop: j.stops[moved].key, Words: words, Cost: j.weight(order), Order: j.keys(order)}
	if at := indexOf(order, moved); at+1 < len(order) {
		m.Before = j.stops[order[at+1]].key
	}
	return m
}

func (j *judge) keys(order []int) []plan.Key {
	keys := make([]plan.Key, len(order))
	for x, i := range order {
		keys[x] = j.stops[i].key
	}
	return keys
}

func indexOf(order []int, stop int) int {
	for x, i := range order {
		if i == stop {
			return x
		}
	}
	return -1
}

// best finds the best order: exactly up to maxExact stops, and beyond that by descent from
// the present order, with a bound.
func (j *judge) best(ctx context.Context, present []int) (Best, error) {
	n := len(j.stops)
	order, proven := present, true
	if n > maxExact {
		var err error
		if order, err = j.problem.descend(ctx, present); err != nil {
			return Best{}, err
		}
		proven = j.problem.total(order) == j.problem.bound()
	} else if n > 1 {
		found, ok, err := j.problem.exact(ctx)
		if err != nil {
			return Best{}, err
		}
		if ok {
			order = found
		}
	}
	b := Best{Cost: j.weight(order), Order: j.keys(order), Proven: proven, Moves: j.moves(present, order)}
	b.Bound = b.Cost
	if !proven {
		b.Bound = weightOf(j.problem.bound())
	}
	return b, nil
}

// moves leads from one order to another with the fewest moves of one stop: those on a
// longest increasing run stay, the others are put in their place from the front on.
func (j *judge) moves(from, to []int) []Move {
	stay := longestRun(from, to)
	moves := []Move{}
	now := append([]int(nil), from...)
	for x, s := range to {
		if stay[s] {
			continue
		}
		rest := append([]int(nil), now...)
		at := indexOf(rest, s)
		rest = append(rest[:at:at], rest[at+1:]...)
		put := 0
		if x > 0 {
			put = indexOf(rest, to[x-1]) + 1
		}
		now = append(rest[:put:put], append([]int{s}, rest[put:]...)...)
		words := "Move " + j.stops[s].name + " to the end"
		if put+1 < len(now) {
			words = fmt.Sprintf("Move %s before %s", j.stops[s].name, j.stops[now[put+1]].name)
		}
		moves = append(moves, j.move(now, s, words))
		stay[s] = true
	}
	return moves
}

// longestRun marks the stops of a longest common run of two orders of the same stops.
func longestRun(from, to []int) map[int]bool {
	at := map[int]int{}
	for x, s := range from {
		at[s] = x
	}
	length, prev := make([]int, len(to)), make([]int, len(to))
	end := -1
	for x := range to {
		length[x], prev[x] = 1, -1
		for y := range x {
			if at[to[y]] < at[to[x]] && length[y]+1 > length[x] {
				length[x], prev[x] = length[y]+1, y
			}
		}
		if end < 0 || length[x] > length[end] {
			end = x
		}
	}
	stay := map[int]bool{}
	for ; end >= 0; end = prev[end] {
		stay[to[end]] = true
	}
	return stay
}
