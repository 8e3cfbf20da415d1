package reach

import (
	"math"
	"runtime"
	"strings"
	"sync"

	"envex/core/floor"
	"envex/core/plan"
)

// describe turns the solved show into the report.
func (s *solver) describe(r *Report) {
	s.said = newPhrases(s.vars)
	s.owner()
	r.Sections = make([]Section, 0, len(s.parts))
	r.Changes = make([]Change, len(s.parts)-1)
	s.changes(r.Changes, func() {
		for i := range s.parts {
			r.Sections = append(r.Sections, s.section(i))
		}
		r.Rows = s.rows()
	})
	for _, x := range s.rests {
		l, until := s.restWords(x)
		at := &r.Sections[x.part]
		at.ReadyEarly = append(at.ReadyEarly, l)
		c := &r.Changes[until-1]
		c.Leisure = append(c.Leisure, l)
	}
	if s.parts[0].isStart() {
		r.afterStart()
	}
	for i := range r.Changes {
		r.Reach.count(r.Changes[i].Verdict)
	}
	for i := range r.Changes {
		r.Changes[i].Fails = r.Changes[i].Verdict.fails()
	}
	r.Songs = songs(r.Sections, r.Changes)
	r.Findings = findings(r.Changes)
}

// songs are the songs that sections belong to, each with the worst of the changes into its sections.
func songs(sections []Section, changes []Change) []Song {
	list := []Song{}
	for _, s := range sections {
		if len(list) == 0 || list[len(list)-1].Entry != s.Entry {
			list = append(list, Song{Entry: s.Entry, Worst: InTime})
		}
		if i := s.Position - 1; i >= 0 && changes[i].Verdict.rank() < list[len(list)-1].Worst.rank() {
			list[len(list)-1].Worst = changes[i].Verdict
		}
	}
	return list
}

// changes writes the changes out, on every processor there is, and does something else meanwhile.
// Each keeps its own words; what is solved stays as it is.
func (s *solver) changes(list []Change, meanwhile func()) {
	var done sync.WaitGroup
	crew := min(runtime.GOMAXPROCS(0), max(1, len(list)/20))
	for k := range crew {
		own := *s
		own.said = newPhrases(s.vars)
		done.Go(func() {
			for i := len(list) * k / crew; i < len(list)*(k+1)/crew; i++ {
				list[i] = own.change(i + 1)
			}
		})
	}
	meanwhile()
	done.Wait()
}

func (t *Totals) count(v Verdict) {
	if v == NotSet {
		t.NotSet++
		return
	}
	t.Total++
	if v.Reached() {
		t.Reached++
	}
	switch v {
	case InTime:
		t.InTime++
	case Tight:
		t.Tight++
	case Late:
		t.Late++
	case ByHand:
		t.ByHand++
	case Impossible:
		t.Impossible++
	}
}

func (s *solver) section(i int) Section {
	x := s.parts[i]
	out := Section{
		Place: x.place(), Sound: x.sec.Sound, BPM: x.tempo.BPM, StartsSong: x.starts, Segue: x.segue,
		GapS: x.gap, ReadyEarly: []Leisure{}, RockerBlock: x.rocker,
	}
	if x.recipe != nil {
		out.Recipe = plan.OwnRecipe(x.recipe.ID)
	}
	out.Silent = s.silent(x)
	if !math.IsInf(x.duration, 1) {
		out.DurationS = &x.duration
	}
	if x.starts {
		out.Stands = make(map[plan.Key]plan.Value, len(s.vars))
		for v, known := range s.vars {
			if at, _ := s.stands(v, i); at < len(known.values) {
				out.Stands[known.Key] = known.values[at]
			}
		}
	}
	return out
}

// silent are the stops that a part's signal does not pass, because a switch sends it elsewhere.
func (s *solver) silent(x *part) []plan.Key {
	if x.recipe == nil || !s.lanes {
		return nil
	}
	if known, ok := s.unheard[x.recipe]; ok {
		return known
	}
	set := s.settings.plan.SetFor(s.rig, x.recipe, x.sound, x.tempo)
	sounding := s.settings.plan.StopsSounding(s.rig.Path, set)
	var list []plan.Key
	for _, key := range s.rig.Stops() {
		if !sounding[key] {
			list = append(list, key)
		}
	}
	s.unheard[x.recipe] = list
	return list
}

func (s *solver) change(i int) Change {
	a, b := s.parts[i-1], s.parts[i]
	o := s.outcomes[i]
	c := Change{
		Place: b.place(), From: soundNamed(a.sound), To: soundNamed(b.sound), Verdict: o.verdict,
		NeededS: round(o.needed), FreeS: round(o.free), SlackS: round(o.free - o.needed), FootworkS: round(o.feet),
		BetweenSet: b.afterGap(), Presses: []Press{}, Hands: s.handsOf(o, b), Leisure: []Leisure{}, Between: []Between{},
	}
	s.presses(o, &c)
	c.Cuts = s.cuts(i)
	c.Reason = s.reason(i, o, &c)
	if o.verdict == NotSet {
		c.unset = soundName(b.sound)
		if !b.unset() {
			c.unset = soundName(a.sound)
		}
	}
	if !o.verdict.Reached() {
		c.Finding = findingName(a, b, o.verdict)
		for _, k := range s.rig.Settled {
			if k.Finding == c.Finding {
				c.Settled = k.Reason
			}
		}
	}
	return c
}

// handsOf are the things done by hand in a way through the change into a part.
func (s *solver) handsOf(o *outcome, into *part) []Hand {
	list := []Hand{}
	for _, m := range o.motions {
		for _, h := range m.hands {
			list = append(list, Hand{
				Variable: s.vars[h.v].Key, Access: h.access, Seconds: h.seconds,
				Action: s.movedWords(h.v, h.from, h.to, into), To: s.vars[h.v].values[h.to],
			})
		}
	}
	return list
}

// findingName is stable while the music and the verdict stay what they are.
func findingName(a, b *part, v Verdict) string {
	return "reach:" + string(v) + ":" + string(a.entry) + ":" + string(a.sec.ID) + ":" + string(b.entry) + ":" +
		string(b.sec.ID)
}

func soundNamed(x *plan.Sound) Named {
	if x == nil {
		return Named{}
	}
	return Named{x.ID, x.Name}
}

// round keeps a tenth of a millisecond, which is more than any foot knows.
func round(s float64) float64 { return math.Round(s*1e4) / 1e4 }

// presses writes out the presses of a change in order, and the sounds between them.
func (s *solver) presses(o *outcome, c *Change) {
	c.Presses, c.Moves = make([]Press, 0, o.cost.atChange), make([]Moved, 0, len(o.tasks))
	c.Between = make([]Between, 0, max(0, len(o.tasks)-1))
	states := make([]int, len(o.motions))
	for k, m := range o.motions {
		states[k] = m.from
	}
	t := 0.0
	at := o.at
	for n, ti := range o.order {
		g := o.tasks[ti]
		m := o.motions[o.of[ti]]
		move := s.feet.from(at, g.op.sw) * o.pace.factor
		if o.stomped[n] {
			move = 0
		}
		t += move
		each := (s.feet.busy(g.group, o.pace) - float64(g.count-1)*s.feet.table[g.op.sw*len(s.feet.floor.Switches)+
			g.op.sw]*o.pace.factor) / float64(g.count)
		for k := range g.count {
			again := s.feet.table[g.op.sw*len(s.feet.floor.Switches)+g.op.sw] * o.pace.factor
			if k > 0 {
				t, move = t+again, again
			}
			before := states[o.of[ti]]
			states[o.of[ti]] = g.states[k]
			done := t + each + s.feet.lag(g.group)
			s.pressOnce(
				o, c,
				pressAt{
					g: g.group, machine: m.machine, before: before, after: g.states[k], t: t, each: each, move: move, done: done,
				},
			)
			s.moves(c, m.machine, before, g.states[k], done)
			s.passing(o, c, states, done)
			t += each
		}
		at = &stance{sw: g.op.sw}
	}
	for k := range c.Between {
		until := o.feet - s.foot.Dwell
		if k+1 < len(c.Between) {
			until = c.Between[k+1].AtS
		}
		c.Between[k].ForS = round(math.Max(0, until-c.Between[k].AtS))
	}
}

// moves notes what a press moved; the bank a controller stands on is not heard.
func (s *solver) moves(c *Change, mi, before, after int, t float64) {
	key := [3]int{mi, before, after}
	values, known := s.said.moved[key]
	if !known {
		values = map[plan.Key]plan.Value{}
		m := s.machines[mi]
		for j, v := range m.vars {
			if now := m.value(after, j); now != m.value(before, j) && !s.vars[v].silent && now < len(s.vars[v].values) {
				values[s.vars[v].Key] = s.vars[v].values[now]
			}
		}
		s.said.moved[key] = values
	}
	if len(values) > 0 {
		c.Moves = append(c.Moves, Moved{AtS: round(t), Values: values})
	}
}

// pressAt is one press as it is written down.
type pressAt struct {
	g             group
	machine       int
	before, after int
	t, each, move float64
	done          float64
}

// pressOnce writes one use of a switch: one press, or every tap of a tempo.
func (s *solver) pressOnce(o *outcome, c *Change, x pressAt) {
	sw := &s.feet.floor.Switches[x.g.op.sw]
	n := x.g.op.presses()
	for k := range n {
		p := Press{
			Switch: sw.Key, Label: sw.Name, Gesture: x.g.op.gesture.String(), AtS: round(x.t), MoveS: round(x.move),
			Action: s.stateWords(x.machine, x.before, x.after), SlackS: round(o.free - x.done - s.foot.Dwell),
		}
		p.Act = s.act(x.g.op, sw, p.Action)
		if n > 1 {
			beat := x.each / float64(n-1)
			p.AtS = round(x.t + float64(k)*beat)
			if k > 0 {
				p.MoveS = 0
			}
		}
		c.Presses = append(c.Presses, p)
	}
}

// act is what a press does, short enough for a music stand: what moves, after the switch where that does not
// name it; of a program the switch alone, of a tap what it taps.
func (s *solver) act(o *op, sw *floor.Switch, moves string) string {
	key := acted{o, moves}
	known, ok := s.said.acts[key]
	if !ok {
		known = s.actWords(o, sw, moves)
		s.said.acts[key] = known
	}
	return known
}

func (s *solver) actWords(o *op, sw *floor.Switch, moves string) string {
	gesture := ""
	if o.gesture != pressed {
		gesture = o.gesture.String() + " "
	}
	recalls, taps := false, ""
	for _, e := range o.effects {
		recalls = recalls || e.kind == plan.Recall
		if e.kind == plan.Tap {
			taps = sw.Name
		}
	}
	g, _ := s.settings.plan.FindGear(sw.Key.Gear())
	switch {
	case taps != "":
		return "tap " + taps
	case recalls || moves == "":
		return gesture + sw.Name
	case gesture == "" && g != nil && strings.Contains(moves, g.Name):
		return moves
	}
	return gesture + sw.Name + ": " + moves
}

// passing notes the sound after a press that is not the last.
func (s *solver) passing(o *outcome, c *Change, states []int, t float64) {
	pending, words := make([]plan.Key, 0, len(o.motions)), make([]string, 0, len(o.motions))
	for k, m := range o.motions {
		if len(m.ways) == 0 || states[k] == m.to {
			continue
		}
		x := s.machines[m.machine]
		for j, v := range x.vars {
			if now := x.value(states[k], j); now != x.value(m.to, j) {
				pending = append(pending, s.vars[v].Key)
				words = append(words, s.stillWords(v, now))
			}
		}
	}
	if len(pending) > 0 {
		c.Between = append(
			c.Between, Between{AtS: round(t), Pending: pending, Words: plan.Listed(words), Loud: s.loudBetween(o, states)},
		)
	}
}

// restWords says what is made ready, where, and for which section; and the part that it is.
func (s *solver) restWords(x rest) (Leisure, int) {
	m := s.machines[x.machine]
	next := x.part + 1
	for next < len(s.parts)-1 && (m.allowed[next] == nil || m.allows(next, x.from)) {
		next++
	}
	l := Leisure{
		During: s.parts[x.part].place(), For: s.parts[next].place(), Presses: x.way.presses(), Switches: []string{},
		Steps:  []Step{},
		Action: s.stateWords(x.machine, x.from, x.to),
	}
	for _, g := range x.way {
		sw := s.feet.floor.Switches[g.op.sw]
		for range g.count * g.op.presses() {
			l.Switches = append(l.Switches, sw.Name)
		}
		for range g.count {
			l.Steps = append(l.Steps, Step{Switch: sw.Key, Label: sw.Name, Gesture: g.op.gesture.String()})
		}
	}
	return l, next
}

// rows lists what can be switched: every block's on and off in chain order, and every other
// variable that moves somewhere in the show.
func (s *solver) rows() []Row {
	rows := []Row{}
	for v, x := range s.vars {
		if s.owner()[v].machine < 0 && !x.IsOn() {
			continue
		}
		row := Row{
			Variable: x.Key, Gear: x.Gear, Label: x.Label, Switch: x.IsOn(), Access: x.Access, Cells: make([]Cell, len(s.parts)),
		}
		before := 0
		for i, p := range s.parts {
			arrived, value := s.stands(v, i)
			cell := Cell{Free: p.wants.of[v].oneOf == nil, Moves: i > 0 && arrived != before}
			before = value
			if value < len(x.values) {
				cell.Value = s.valueWords(v, value)
				cell.On = x.values[value].IsOn()
			}
			row.Cells[i] = cell
		}
		rows = append(rows, row)
	}
	return rows
}
