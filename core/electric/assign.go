package electric

import (
	"cmp"
	"math"
	"slices"

	"envex/core/plan"
)

// Assignment is which output feeds which load.
type Assignment struct {
	Feeds    []plan.PowerFeed `json:"feeds"`
	Served   int              `json:"served"`
	Shared   int              `json:"shared" doc:"Loads that hang on an output beside another."`
	Leads    int              `json:"leads" doc:"Doubling and reversing leads it takes."`
	Least    float64          `json:"least_headroom" doc:"The least share of its current that an output has left."`
	Proven   bool             `json:"proven" doc:"Nothing better exists; false where there were too many ways to try all."`
	Unserved []Missing        `json:"unserved" doc:"The smallest set of loads that cannot be served."`
}

// maxTries is how many placements are tried before the best so far is given without proof.
const maxTries = 20_000

// score orders assignments: fewest loads left, fewest of those without a battery, fewest shared
// outputs, fewest leads, then most headroom where there is least.
type score struct {
	unserved, stranded, shared, leads int
	least                             float64
}

// counts compares all but the headroom.
func (a score) counts(b score) int {
	return cmp.Or(
		cmp.Compare(a.unserved, b.unserved), cmp.Compare(a.stranded, b.stranded), cmp.Compare(a.shared, b.shared),
		cmp.Compare(a.leads, b.leads),
	)
}

func (a score) compare(b score) int {
	if math.Abs(a.least-b.least) < hair {
		return a.counts(b)
	}
	return cmp.Or(a.counts(b), cmp.Compare(b.least, a.least))
}

// hair is a difference of headroom that is rounding alone.
const hair = 1e-9

// seat is an output, or two by a doubling lead, with the loads on it.
type seat struct {
	out, second int // second is -1 where there is none
	volts       float64
	lead        string
	loads       []int
	gives       float64
	drawn       float64
	pinned      *plan.PowerFeed
}

func (s *seat) headroom() float64 { return headroom(s.gives, s.drawn) }

// assigning is the search: load by load, every way to feed it, and to leave it.
type assigning struct {
	*feeding
	loads  []*load
	alike  []bool // the load is the same as the one before it
	outs   []output
	class  []int // outputs of one class are the same
	free   []bool
	seats  []seat
	drawn  map[plan.ID]float64 // of each supply
	floor  float64             // no output is to have less headroom
	codes  []int               // the output chosen for each load: those that are the same are tried in one order only
	all    [][]seat            // the seats that would take each load, were all outputs free
	fits   [][]seat            // those of them that leave headroom enough
	reach  [][]int             // the outputs of those seats
	taker  []int               // in a matching: the load each output has
	seen   []bool
	now    score
	best   score
	found  []seat
	left   []int
	have   bool
	leaves []int
	tries  int
	with   map[string][]plan.ID // what would be left with one more kind of lead
}

// assign finds the best assignment: first the fewest loads left, outputs shared and leads, by branch
// and bound over loads; then, among those, ever more headroom, until there is none with more. Outputs
// that are the same are tried once, and loads that are the same in one order, so nothing is missed by
// it. A maximum matching of loads and outputs is the bound.
func (f *feeding) assign() Assignment {
	a := &assigning{feeding: f, drawn: map[plan.ID]float64{}}
	a.solve()
	out := Assignment{
		Feeds: []plan.PowerFeed{}, Unserved: []Missing{}, Proven: a.tries <= maxTries, Shared: a.best.shared,
		Leads: a.best.leads, Least: a.best.least,
	}
	for i := range a.found {
		out.Feeds = append(out.Feeds, a.feedOf(&a.found[i]))
		out.Served += len(out.Feeds[i].Gear)
	}
	slices.SortStableFunc(out.Feeds, func(x, y plan.PowerFeed) int { return cmp.Compare(a.placeOf(x), a.placeOf(y)) })
	for _, i := range a.left {
		out.Unserved = append(out.Unserved, a.missing(a.loads[i]))
	}
	return out
}

func (a *assigning) solve() {
	a.prepare()
	a.aim(math.Inf(-1))
	a.place(0)
	for a.tries <= maxTries {
		before := a.best
		if a.aim(a.best.least + hair); a.now.least < a.floor {
			return // a pinned feed has no more
		}
		a.place(0)
		if a.best.compare(before) >= 0 {
			return
		}
	}
}

// aim sets the headroom that every output is to have, and with it what can feed which load.
func (a *assigning) aim(floor float64) {
	a.floor = floor
	for i := len(a.loads) - 1; i >= 0; i-- {
		a.fits[i] = slices.DeleteFunc(
			slices.Clone(a.all[i]), func(w seat) bool { return headroom(w.gives, a.loads[i].ma) < floor },
		)
		a.reach[i] = nil
		for _, w := range a.fits[i] {
			for _, o := range [2]int{w.out, w.second} {
				if o >= 0 && !slices.Contains(a.reach[i], o) {
					a.reach[i] = append(a.reach[i], o)
				}
			}
		}
	}
}

func (a *assigning) placeOf(f plan.PowerFeed) int {
	return slices.IndexFunc(a.outs, func(o output) bool { return o.supply.ID == f.Supply && o.ID == f.Output })
}

func (a *assigning) feedOf(s *seat) plan.PowerFeed {
	if s.pinned != nil {
		return *s.pinned
	}
	o := a.outs[s.out]
	f := plan.PowerFeed{Supply: o.supply.ID, Output: o.ID, Lead: s.lead}
	if len(o.Voltages) > 1 {
		volts := s.volts
		if s.lead == plan.VoltageDoubling {
			volts /= 2
		}
		f.Voltage = &volts
	}
	if s.second >= 0 {
		f.Second = a.outs[s.second].ID
	}
	for _, i := range s.loads {
		f.Gear = append(f.Gear, a.loads[i].gear.ID)
	}
	return f
}

func (a *assigning) prepare() {
	uses := slices.ContainsFunc(a.outputs, func(o output) bool { return o.used })
	for _, o := range a.outputs {
		if o.used || !uses {
			a.outs = append(a.outs, o)
		}
	}
	a.classify()
	a.free = make([]bool, len(a.outs))
	for i := range a.free {
		a.free[i] = true
	}
	a.now.least = 1
	pinned := a.seatPinned()
	for i := range a.feeding.loads {
		if l := &a.feeding.loads[i]; l.battery == nil && !pinned[l.gear.ID] {
			a.loads = append(a.loads, l)
		}
	}
	a.sortLoads()
	a.codes = make([]int, len(a.loads))
	a.alike, a.fits, a.reach = make([]bool, len(a.loads)), make([][]seat, len(a.loads)), make([][]int, len(a.loads))
	a.taker, a.seen = make([]int, len(a.outs)), make([]bool, len(a.outs))
	for i := range a.loads {
		a.alike[i] = i > 0 && sameLoad(a.loads[i-1], a.loads[i])
	}
}

// seatPinned keeps what the player has pinned where it is, and its outputs from others.
func (a *assigning) seatPinned() map[plan.ID]bool {
	done := map[plan.ID]bool{}
	for i := range a.rig.PowerPlan {
		feed := &a.rig.PowerPlan[i]
		by, ok := a.fedBy(feed)
		at := a.placeOf(*feed)
		if !feed.Pinned || !ok || at < 0 {
			continue
		}
		s := seat{
			out: at, second: -1, volts: by.volts, lead: feed.Lead, gives: by.gives, drawn: a.feeding.drawn(feed.Gear),
			pinned: feed,
		}
		a.free[at] = false
		if by.other != nil {
			s.second = slices.IndexFunc(a.outs, func(o output) bool { return o.supply.ID == feed.Supply && o.ID == feed.Second })
			a.free[s.second] = false
		}
		for _, id := range feed.Gear {
			done[id] = true
		}
		a.drawn[feed.Supply] += s.drawn
		a.now.least = math.Min(a.now.least, s.headroom())
		a.seats = append(a.seats, s)
	}
	return done
}

func (a *assigning) classify() {
	a.class = make([]int, len(a.outs))
	for i, o := range a.outs {
		a.class[i] = i
		for k, x := range a.outs[:i] {
			if x.supply == o.supply && slices.Equal(x.Voltages, o.Voltages) && x.CurrentMA == o.CurrentMA &&
				x.polarity() == o.polarity() && x.AC == o.AC && plug(x.Connector) == plug(o.Connector) && x.Shared == o.Shared {
				a.class[i] = a.class[k]
				break
			}
		}
	}
}

// sortLoads puts those with fewest ways first, then those that draw most, so that the same stand
// together.
func (a *assigning) sortLoads() {
	ways := map[*load][]seat{}
	for _, l := range a.loads {
		ways[l] = a.ways(l)
	}
	slices.SortStableFunc(a.loads, func(x, y *load) int {
		return cmp.Or(
			cmp.Compare(len(ways[x]), len(ways[y])), cmp.Compare(y.ma, x.ma), cmp.Compare(y.draw.Voltage, x.draw.Voltage),
		)
	})
	for _, l := range a.loads {
		a.all = append(a.all, ways[l])
	}
}

func sameLoad(x, y *load) bool {
	return x.draw.Voltage == y.draw.Voltage && x.most() == y.most() && x.ma == y.ma && x.draw.AC == y.draw.AC &&
		x.draw.Digital == y.draw.Digital && x.gain == y.gain && x.draw.Battery == y.draw.Battery &&
		polarityOr(x.draw.Polarity, x.draw.AC) == polarityOr(y.draw.Polarity, y.draw.AC) &&
		plug(x.draw.Connector) == plug(y.draw.Connector)
}

// ways are the seats that would take a load, were all outputs free: those without a lead first, the
// strongest first, since the loads that draw most come first.
func (a *assigning) ways(l *load) []seat {
	var list []seat
	add := func(s seat) {
		o := &a.outs[s.out]
		if v, _ := a.match(l, o, s.volts, s.lead); v == Fits && l.ma*reserve <= s.gives {
			list = append(list, s)
		}
	}
	for i := range a.outs {
		o := &a.outs[i]
		for _, volts := range o.Voltages {
			add(seat{out: i, second: -1, volts: volts, gives: o.CurrentMA})
			if a.allows(plan.Reversing) {
				add(seat{out: i, second: -1, volts: volts, gives: o.CurrentMA, lead: plan.Reversing})
			}
			for k := i + 1; k < len(a.outs); k++ {
				other := &a.outs[k]
				if other.supply != o.supply || o.AC || other.AC || o.Shared || other.Shared || o.polarity() != other.polarity() ||
					!slices.Contains(other.Voltages, volts) {
					continue
				}
				if a.doubles(o, plan.CurrentDoubling) {
					add(seat{out: i, second: k, volts: volts, gives: o.CurrentMA + other.CurrentMA, lead: plan.CurrentDoubling})
				}
				if a.doubles(o, plan.VoltageDoubling) {
					add(
						seat{
							out: i, second: k, volts: 2 * volts, gives: math.Min(o.CurrentMA, other.CurrentMA), lead: plan.VoltageDoubling,
						},
					)
				}
			}
		}
	}
	slices.SortStableFunc(list, func(x, y seat) int {
		return cmp.Or(cmp.Compare(min(1, len(x.lead)), min(1, len(y.lead))), cmp.Compare(y.gives, x.gives))
	})
	return list
}

func (a *assigning) doubles(o *output, lead string) bool {
	return a.allows(lead) && slices.Contains(o.supply.Supply.Doubles, lead)
}
