package paper

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"envex/core/path"
	"envex/core/plan"
)

// How likely each sort of thing is to have failed, re a pedal that runs on a supply: a working rule of
// thumb, said on the sheet. What has moved and is trodden on fails first.
const (
	longLeadOdds  = 4.0
	patchLeadOdds = 2.0
	boxOdds       = 1.0
	batteryOdds   = 4.0
	valveAmpOdds  = 2.0
	failedOdds    = 3.0 // more, for each time it is in the log of a show
)

// longLeadM is from where a lead is one that lies on the stage.
const longLeadM = 2.0

// faults is where to test when no sound comes out: each test at the point that halves what is left.
func (m *maker) faults() error {
	cables, err := path.DeriveCables(m.given, m.show.Rig, m.show.Destination)
	if err != nil {
		return err
	}
	m.sheet.Parts = append(
		m.sheet.Parts,
		Part{Title: "Look before you test", Columns: []Column{{"no.", true}, {"is it", false}}, Rows: m.glances()},
	)
	for _, line := range m.linesOf(m.rig.Path) {
		suspects := m.suspects(cables.Runs, line)
		if len(suspects) < 2 {
			continue
		}
		m.sheet.Parts = append(m.sheet.Parts, tests(suspects, line.name), likeliest(suspects, line.name))
	}
	m.sheet.Assumed = append(
		m.sheet.Assumed,
		fmt.Sprintf(
			"Odds by rule of thumb: a lead across the stage %g to 1, a patch lead %g, a box on a battery %g, a valve amp %g, anything else %g; %g more for each time it failed at a show.",
			longLeadOdds, patchLeadOdds, batteryOdds, valveAmpOdds, boxOdds, failedOdds,
		),
	)
	m.sheet.Cautions = append(m.sheet.Cautions,
		"Turn the amp down, or to standby, before a plug is pulled or put in: the noise can harm ears and speakers.",
		"Test with plugs and leads, never inside a box or an amp: amps hold lethal voltage even when they are unplugged. Inside work is for a qualified tech.")
	return nil
}

// glances are what costs no lead to check.
func (m *maker) glances() []Row {
	var asks []string
	if len(m.rig.Guitars) > 0 {
		asks = append(asks, "the guitar's volume up, and its selector not between two places")
	}
	for _, key := range m.rig.Stops() {
		g, ok := m.plan.FindGear(key.Gear())
		if !ok {
			continue
		}
		b, ok := g.FindBlock(plan.ID(key.Rest()))
		switch {
		case !ok:
		case b.Effect == plan.EffectTuner:
			asks = append(asks, g.Name+" not muting")
		case b.Effect == plan.EffectVolume:
			asks = append(asks, g.Name+" toe down")
		case b.Effect == plan.EffectPreamp && g.Kind == plan.Amp:
			asks = append(asks, g.Name+" on, and not on standby")
		}
	}
	for _, id := range m.rig.Supplies() {
		asks = append(asks, m.name(id)+" lit, and every box it feeds")
	}
	rows := []Row{}
	for i, x := range asks {
		rows = append(rows, Row{text(fmt.Sprint(i + 1)), text(x)})
	}
	return rows
}

// line is one way through a path: of each split the lane it takes.
type line struct {
	name string
	off  map[plan.Key]bool // blocks of lanes it does not take
}

// linesOf are the ways through a path, such that each lane is in one: the first takes the first lane of
// every split, and of each of the others one split takes another. A tap that feeds a tuner is no way out.
func (m *maker) linesOf(nodes []plan.Node) []line {
	var choices [][]line // of each split
	for i, n := range nodes {
		if n.Split == nil {
			continue
		}
		ways := m.waysThrough(n.Split)
		if m.plan.IsOutput(n.Split) {
			rest := nodes[i+1:]
			if g, ok := m.plan.FindGear(n.Split.From.Gear()); ok && g.Kind == plan.Guitar {
				rest = append(slices.Clone(nodes[:i]), rest...) // it leaves at the guitar
			}
			ways = append(ways, line{name: m.plan.LaneName(n.Split, 0), off: stopsOf(rest)})
		}
		choices = append(choices, ways)
	}
	with := func(at, choice int) line {
		var l line
		for i, ways := range choices {
			k := 0
			if i == at {
				k = choice
			}
			l.off = union(l.off, ways[k].off)
			if i == at || l.name == "" && at < 0 {
				l.name = ways[k].name
			}
		}
		return l
	}
	all := []line{with(-1, 0)}
	for i, ways := range choices {
		for k := 1; k < len(ways); k++ {
			all = append(all, with(i, k))
		}
	}
	return all
}

func stopsOf(nodes []plan.Node) map[plan.Key]bool {
	all := map[plan.Key]bool{}
	for _, key := range plan.StopsIn(nodes) {
		all[key] = true
	}
	return all
}

// waysThrough are the ways through one split, named by their lanes; past a tap there is one.
func (m *maker) waysThrough(s *plan.Split) []line {
	all := map[plan.Key]bool{}
	for _, lane := range s.Lanes {
		for _, key := range plan.StopsIn(lane.Nodes) {
			all[key] = true
		}
	}
	if s.Kind == plan.SplitTap || len(s.Lanes) == 0 {
		return []line{{off: all}}
	}
	var ways []line
	for i, lane := range s.Lanes {
		name := m.plan.LaneName(s, i)
		others := union(all, nil)
		for _, key := range plan.StopsIn(lane.Nodes) {
			delete(others, key)
		}
		for _, inner := range m.linesOf(lane.Nodes) {
			ways = append(ways, line{name: cmp.Or(inner.name, name), off: union(others, inner.off)})
		}
	}
	return ways
}

func union(a, b map[plan.Key]bool) map[plan.Key]bool {
	out := map[plan.Key]bool{}
	for _, m := range []map[plan.Key]bool{a, b} {
		for k := range m {
			out[k] = true
		}
	}
	return out
}

// suspect is a thing along a line that may have failed, and how the signal is taken behind it.
type suspect struct {
	name string
	odds float64
	why  string
	test string
}

// suspects are the leads and boxes of a line in signal order.
func (m *maker) suspects(runs []path.Run, l line) []suspect {
	runs = slices.DeleteFunc(slices.Clone(runs), func(r path.Run) bool { return l.off[r.From.Place] || l.off[r.To.Place] })
	var list []suspect
	for i, r := range runs {
		if i == 0 {
			list = append(list, m.boxSuspect(r.From, "", r.From.Jack))
		}
		list = append(list, m.leadSuspect(r))
		out := ""
		if i+1 < len(runs) && runs[i+1].From.Gear == r.To.Gear {
			out = runs[i+1].From.Jack
		}
		list = append(list, m.boxSuspect(r.To, r.To.Jack, out))
	}
	return list
}

func (m *maker) leadSuspect(r path.Run) suspect {
	s := suspect{
		name: fmt.Sprintf("the lead from %s %s to %s %s", r.From.Name, r.From.Jack, r.To.Name, r.To.Jack),
		odds: patchLeadOdds, why: "a patch lead",
	}
	if r.LengthM >= longLeadM {
		s.odds, s.why = longLeadOdds, "a lead across the stage"
	}
	s.test = fmt.Sprintf("the end of the lead into %s %s", r.To.Name, r.To.Jack)
	m.failed(&s, r.To.Gear, true)
	return s
}

// boxSuspect is a box from one jack to another: a switcher or an amp with a loop is passed through more than once.
func (m *maker) boxSuspect(at path.End, in, out string) suspect {
	s := suspect{name: at.Name, odds: boxOdds, why: "a box"}
	g, ok := m.plan.FindGear(at.Gear)
	if !ok {
		return s
	}
	switch {
	case in == "" || g.Switcher == nil && g.Kind != plan.Amp:
	case out == "":
		s.name += fmt.Sprintf(" from %s on", in)
	default:
		s.name += fmt.Sprintf(" from %s to %s", in, out)
	}
	switch {
	case slices.ContainsFunc(m.rig.Batteries, func(b plan.BatteryUse) bool { return b.Gear == g.ID }):
		s.odds, s.why = batteryOdds, "a box on a battery"
	case g.SpeakerOut != nil && g.SpeakerOut.Valve:
		s.odds, s.why = valveAmpOdds, "a valve amp"
	case g.Kind == plan.Amp:
		s.why = "an amp"
	case g.Kind == plan.Guitar:
		s.why = "a guitar"
	}
	if out != "" {
		s.test = at.Name + " " + out
	}
	m.failed(&s, g.ID, false)
	return s
}

// failed makes what failed before more likely.
func (m *maker) failed(s *suspect, gear plan.ID, lead bool) {
	n := 0
	for _, show := range m.given.Shows {
		for _, f := range show.Faults {
			if f.Gear == gear && f.Lead == lead {
				n++
			}
		}
	}
	switch {
	case n == 1:
		s.why += ", failed once before"
	case n > 1:
		s.why += fmt.Sprintf(", failed %d times before", n)
	}
	s.odds += failedOdds * float64(n)
}

// halving is the tests that find a suspect: each is at the place that parts what is left most nearly
// in two by its odds.
type halving struct {
	suspects []suspect
	rows     []Row
	most     int     // tests at the most
	expected float64 // sum of odds times tests
}

// part tests suspects from first to last, both included, and gives how a step of the sheet refers to it.
func (h *halving) part(first, last, depth int) string {
	if first == last {
		h.most = max(h.most, depth)
		h.expected += h.suspects[first].odds * float64(depth)
		return "it is " + h.suspects[first].name
	}
	at := h.middle(first, last)
	step := len(h.rows)
	h.rows = append(h.rows, nil)
	behind := h.part(at+1, last, depth+1)
	before := h.part(first, at, depth+1)
	h.rows[step] = Row{text(fmt.Sprint(step + 1)), text(h.suspects[at].test), text(behind), text(before)}
	return fmt.Sprintf("go to %d", step+1)
}

// middle is the suspect behind which the odds on both sides are most nearly even.
func (h *halving) middle(first, last int) int {
	total := 0.0
	for _, s := range h.suspects[first : last+1] {
		total += s.odds
	}
	best, least, sum := first, math.Inf(1), 0.0
	for i := first; i < last; i++ {
		sum += h.suspects[i].odds
		if d := math.Abs(total - 2*sum); d < least-1e-9 {
			best, least = i, d
		}
	}
	return best
}

func tests(suspects []suspect, name string) Part {
	h := &halving{suspects: suspects}
	h.part(0, len(suspects)-1, 0)
	total := 0.0
	for _, s := range suspects {
		total += s.odds
	}
	return Part{
		Title: titled("Where to test", name),
		Note: fmt.Sprintf(
			"Play, with every box on, and take the signal to an amp that works: out of a jack by a lead that works, else by the lead that is there. %d suspects: %.1f tests on the average, %d at the most.",
			len(suspects), h.expected/total, h.most,
		),
		Columns: []Column{{"no.", true}, {"take it at", false}, {"you hear it", false}, {"you do not", false}},
		Rows:    h.rows,
	}
}

func titled(title, name string) string {
	if name == "" {
		return title
	}
	return title + ", " + name
}

// likeliest are the suspects, the likeliest first.
func likeliest(suspects []suspect, name string) Part {
	list := slices.Clone(suspects)
	slices.SortStableFunc(list, func(a, b suspect) int { return cmp.Compare(b.odds, a.odds) })
	total := 0.0
	for _, s := range list {
		total += s.odds
	}
	part := Part{
		Title:   titled("Suspects, the likeliest first", name),
		Columns: []Column{{"suspect", false}, {"chance %", true}, {"because", false}}, Rows: []Row{},
	}
	for _, s := range list {
		part.Rows = append(part.Rows, Row{text(s.name), text(fmt.Sprintf("%.0f", 100*s.odds/total)), text(s.why)})
	}
	return part
}
