package path

import (
	"context"
	"fmt"
	"slices"
	"sync"

	"envex/core/plan"
	"envex/core/reason"
)

// Judge says what is wrong with a rig's chain at one of its destinations, or as it stands
// when that is "", and what the best order is. The plan must be valid. It fails when there is
// no such rig or destination, and ends early with the context's error when that is
// cancelled.
func Judge(ctx context.Context, p *plan.Plan, rig, destination plan.ID) (*Report, error) {
	return JudgeDriven(ctx, p, rig, destination, nil)
}

// Driven is how much dirt the recipes take from preamps, 0 to 1, by the block.
type Driven map[plan.Key]float64

// JudgeDriven is Judge with the dirt of preamps measured. A preamp that is not measured is
// estimated by its channel or its gain knob.
func JudgeDriven(ctx context.Context, p *plan.Plan, rig, destination plan.ID, driven Driven) (*Report, error) {
	there, err := p.At(rig, destination)
	if err != nil {
		return nil, fmt.Errorf("path: %w", err)
	}
	r, _ := there.FindRig(rig)
	d, _ := r.FindDestination(destination)
	if n := len(r.Stops()); n > maxStops {
		return nil, reason.Errorf("%d stops are too many to order: the limit is %d", n, maxStops)
	}
	j := newJudge(there, r, d, r.Path, driven)
	report := &Report{
		Findings: []Finding{}, Questions: Questions(), Chosen: chosen(r), Kept: []Kept{},
		Path: r.Path, Stops: []Traced{}, Estimated: j.estimates(),
	}
	report.Cost = j.now()
	report.Findings = j.findings()
	report.Stops = j.trace.stops
	report.Splits = j.named()
	if report.Best, err = j.best(ctx); err != nil {
		return nil, fmt.Errorf("path: %w", err)
	}
	report.Words = report.words()
	if destination == "" { // kept orders are of the rig's own chain
		for _, o := range r.Orders {
			report.Kept = append(report.Kept, j.compare(o, report.Findings))
		}
	} else if own, ok := p.FindRig(rig); ok {
		report.Differs = differences(p, own.Path, r.Path)
	}
	if report.Path == nil {
		report.Path = []plan.Node{}
	}
	return report, nil
}

type judge struct {
	plan    *plan.Plan
	rig     *plan.Rig
	dest    *plan.Destination
	path    []plan.Node
	stops   []*stop
	rules   []rule
	present *track // the path as it stands
	whole   *track // with what has to stay together gathered
	broken  bool   // something that has to stay together does not
	mends   bool   // it can be brought together without breaking anything else
	trace   *trace
	driven  Driven
	checks  func() func([]plan.Node) plan.Problems
	costs   map[[2]*stop]int64 // of pairs that were asked for, the first before the second
	now     func() float64     // what the path costs as it stands
	against func() map[string]Finding
}

func newJudge(p *plan.Plan, r *plan.Rig, d *plan.Destination, path []plan.Node, driven Driven) *judge {
	j, read := reading(p, r, d, path, driven)
	read.group = true
	j.whole = read.list(path)
	j.pose(j.whole)
	j.broken = !slices.Equal(plan.StopsIn(order{}.nodes(j.whole)), plan.StopsIn(path))
	j.mends = !j.broken || j.wirable(order{}.nodes(j.whole))
	j.trace = follow(j)
	return j
}

// reading is a judge that knows how the path stands and what its pairs cost, and no more.
func reading(p *plan.Plan, r *plan.Rig, d *plan.Destination, path []plan.Node, driven Driven) (*judge, *reader) {
	at := *r
	at.Path = path
	j := &judge{
		plan: p, rig: &at, dest: d, path: path, stops: stopsOf(p, &at, driven), driven: driven, costs: map[[2]*stop]int64{},
	}
	j.checks = sync.OnceValue(p.PathChecks)
	j.now, j.against = sync.OnceValue(j.cost), sync.OnceValue(j.againstSchools)
	j.rules = rules(sides(r), carriesStereo(p, path, d))
	read := &reader{plan: p, rig: &at, stops: map[plan.Key]*stop{}, gears: map[plan.ID]*plan.Gear{}}
	for _, s := range j.stops {
		read.stops[s.key] = s
	}
	for i := range p.Gear {
		read.gears[p.Gear[i].ID] = &p.Gear[i]
	}
	j.present = read.list(path)
	return j, read
}

// wirable reports whether the rig is sound with another path.
func (j *judge) wirable(path []plan.Node) bool { return len(j.checks()(path)) == 0 }

// words says how good the order is.
func (r *Report) words() string {
	better := 0
	for _, f := range r.Findings {
		if f.Gravity == Preference && f.Settled == "" {
			better++
		}
	}
	proof := "proven"
	if !r.Best.Proven {
		proof = fmt.Sprintf("the best found; no order is under %g", r.Best.Bound)
	}
	switch {
	case r.Cost == 0:
		return "Nothing could stand better."
	case r.Best.Cost >= r.Cost:
		return fmt.Sprintf("%g points stand against this order, and no order has fewer: %s.", r.Cost, proof)
	case better == 1:
		return fmt.Sprintf(
			"1 thing could stand better (%g points). Best possible: %g points, %s.", r.Cost, r.Best.Cost, proof,
		)
	}
	return fmt.Sprintf(
		"%d things could stand better (%g points). Best possible: %g points, %s.", better, r.Cost, r.Best.Cost, proof,
	)
}

// named is what the splits of the path and their lanes are called.
func (j *judge) named() []Named {
	list := []Named{}
	for _, it := range splitsIn(j.present) {
		n := Named{Split: it.node.Split.ID, Name: it.called, Lanes: []string{}}
		for i := range it.node.Split.Lanes {
			n.Lanes = append(n.Lanes, j.plan.LaneName(it.node.Split, i))
		}
		list = append(list, n)
	}
	return list
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

// ignoredBecause is the player's reason for leaving a finding as it is, "" where there is none.
func (j *judge) ignoredBecause(id string) string {
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

// cost is the weight of the preferences that the path as it stands violates, without the
// pairs that are settled.
func (j *judge) cost() float64 {
	var sum int64
	j.present.pairs(func(first, second *stop) { sum += j.openCost(first, second) })
	return weightOf(sum)
}

// costOfOrder is the weight of the preferences that an arrangement of the gathered path
// violates.
func (j *judge) costOfOrder(o order) float64 {
	var sum int64
	j.whole.each(func(l *track) {
		arranged, ok := o[l]
		if !ok {
			arranged = l.problem().present()
		}
		sum += l.problem().total(arranged) / hundredth * hundredth
	})
	for _, it := range splitsIn(j.whole) {
		sum += j.dividerCost(it)
	}
	return weightOf(sum)
}

// dividerCost is what a split costs by what divides it standing before its lanes.
func (j *judge) dividerCost(it *item) int64 {
	var sum int64
	if len(it.joint) == 0 || it.joint[0].key != it.node.Split.Divider() {
		return 0
	}
	for _, l := range it.inner {
		for _, x := range l.items {
			for _, t := range x.all {
				sum += j.openCost(it.joint[0], t)
			}
		}
	}
	return sum
}

func splitsIn(l *track) []*item {
	var found []*item
	l.each(func(l *track) {
		for _, it := range l.items {
			if it.node.Split != nil {
				found = append(found, it)
			}
		}
	})
	return found
}

func (j *judge) estimates() []string {
	var said []string
	for _, s := range j.stops {
		if s.is(plan.EffectPreamp) && s.isAmp() {
			by := "by its channel or its gain knob"
			if _, ok := j.driven[s.key]; ok {
				by = "by the dirt its model makes as the recipes set it"
			}
			said = append(said, fmt.Sprintf("%s is taken to be driven %.0f %%, %s.", s.name, s.dirt*100, by))
		}
		if s.gear.ID == plan.AnyAmpID && s.is(plan.EffectPower) {
			said = append(
				said,
				"Which amp it will be is not known: one clean channel, no loop and a speaker of its own are taken. Ask the house.",
			)
			continue
		}
		if s.isAmp() && s.is(plan.EffectPower) && s.gear.SpeakerOut == nil {
			said = append(said, fmt.Sprintf("%s is taken to have its speaker; what it may drive is not entered.", s.gear.Name))
		}
	}
	return said
}

// best finds the best order of every line of the path.
//
// Where what has to stay together cannot be brought together without breaking something else, the
// path stays as it is and nothing is proven.
func (j *judge) best(ctx context.Context) (Best, error) {
	if !j.mends {
		return Best{Cost: j.now(), Path: j.path, Order: plan.StopsIn(j.path), Moves: []Move{}}, nil
	}
	found, proven, bound := order{}, true, int64(0)
	var failed error
	j.whole.each(func(l *track) {
		if failed != nil || len(l.items) == 0 {
			return
		}
		arranged, ok, err := l.problem().solve(ctx)
		if err != nil {
			failed = err
			return
		}
		found[l] = arranged
		proven = proven && ok
		if ok {
			bound += l.problem().total(arranged) / hundredth * hundredth
		} else {
			bound += l.problem().bound() / hundredth * hundredth
		}
	})
	if failed != nil {
		return Best{}, failed
	}
	if !j.wirable(found.nodes(j.whole)) { // what is offered is sound, or nothing is
		return Best{
			Cost: j.now(), Path: j.path, Order: plan.StopsIn(j.path), Moves: []Move{}, Bound: min(j.now(), weightOf(bound)),
			Proven: weightOf(bound) >= j.now(),
		}, nil
	}
	b := Best{Cost: j.costOfOrder(found), Path: found.nodes(j.whole), Proven: proven, Moves: j.moves(found)}
	b.Order = plan.StopsIn(b.Path)
	b.Bound = b.Cost
	if !proven {
		for _, it := range splitsIn(j.whole) {
			bound += j.dividerCost(it)
		}
		b.Bound = weightOf(bound)
		b.Proven = b.Bound >= b.Cost // no order can be better
	}
	return b, nil
}
