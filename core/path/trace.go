package path

import (
	"fmt"

	"envex/core/plan"
)

// The levels a signal can be at. Nominal figures, in dBu, are the usual ones: an instrument
// about -20, professional line level +4 (IEC 60268-15).
const (
	instrument = "instrument"
	line       = "line"
	speaker    = "speaker"

	instrumentDBu = -20.0
	lineDBu       = 4.0
)

// signal is what runs along the path at one place.
type signal struct {
	sides int // 1 for mono, 2 for stereo
	level string
	from  *stop // what it last came out of
	dbu   float64
}

// trace is what arrives at every stop and leaves it, and what was noticed on the way.
type trace struct {
	j     *judge
	stops []Traced
	found []Finding
}

// follow follows the signal along the path.
func follow(j *judge) *trace {
	t := &trace{j: j, stops: []Traced{}}
	t.nodes(j.path, signal{sides: 1, level: instrument, dbu: instrumentDBu})
	return t
}

// nodes follows a line; it ends where a split does not come back.
func (t *trace) nodes(nodes []plan.Node, in signal) (out signal, ended bool) {
	zones := t.j.plan.Zones(t.j.path)
	for _, n := range nodes {
		before := in
		at := len(t.stops)
		if n.Split == nil {
			s := t.j.find(n.Stop)
			if s == nil {
				continue
			}
			t.stops = append(t.stops, Traced{Stop: s.key, Zone: s.zone})
			in = t.through(n, s, in)
		} else {
			t.stops = append(t.stops, Traced{Stop: n.ID(), Zone: zones[n.ID()]})
			in, ended = t.split(n, in)
		}
		x := &t.stops[at]
		x.In, x.Out, x.LevelIn, x.LevelOut = before.sides, in.sides, before.level, in.level
		if ended {
			return in, true
		}
	}
	return in, false
}

func (j *judge) find(key plan.Key) *stop {
	for _, s := range j.stops {
		if s.key == key {
			return s
		}
	}
	return nil
}

// through is a signal after one stop.
func (t *trace) through(n plan.Node, s *stop, in signal) signal {
	out := in
	out.from = s
	stereoIn := s.block.Inputs == "stereo"
	if in.sides == 2 && !stereoIn {
		out.sides = 1
		if n.Takes == "" {
			t.lostSide(s, in)
		}
	}
	if s.stereoOut() && (!stereoIn || in.sides == 2 || s.widens()) {
		out.sides = 2
	} else if !s.stereoOut() {
		out.sides = 1
	}
	t.levels(s, in)
	switch {
	case s.isAmp() && s.is(plan.EffectPreamp):
		out.level, out.dbu = t.sendLevel(s)
	case s.is(plan.EffectPower):
		out.level = speaker
	case s.block.OutLevel != "":
		out.level, out.dbu = s.block.OutLevel, nominal(s.block.OutLevel)
	}
	return out
}

// widens reports whether the stop makes two sides of one even though it has two inputs.
func (s *stop) widens() bool {
	return s.traits.Widens
}

func nominal(level string) float64 {
	if level == line {
		return lineDBu
	}
	return instrumentDBu
}

// sendLevel is what an amp's loop is at; instrument level where that is not known.
func (t *trace) sendLevel(s *stop) (string, float64) {
	if l := s.gear.Loop; l != nil && l.LevelDB != nil {
		if *l.LevelDB >= 0 {
			return line, *l.LevelDB
		}
		return instrument, *l.LevelDB
	}
	return instrument, instrumentDBu
}

// split follows a signal into lanes and, where they come together, out of them.
func (t *trace) split(n plan.Node, in signal) (out signal, ended bool) {
	s := n.Split
	if d := t.j.find(s.Divider()); d != nil {
		in = t.through(n, d, in)
	}
	lane := in
	if s.Kind == plan.SplitLeftRight {
		if in.sides == 1 {
			t.found = append(t.found, t.sidesOfMono(n, in))
		}
		lane.sides = 1
	}
	if g, ok := t.j.plan.FindGear(s.From.Gear()); ok && s.Kind == plan.SplitTap {
		switch g.Kind {
		case plan.Amp:
			lane.level, lane.dbu = line, lineDBu // an amp's line out, whatever runs on beside it
		case plan.Guitar:
			lane = signal{sides: 1, level: instrument, dbu: instrumentDBu}
		}
	}
	outs := make([]signal, 0, len(s.Lanes))
	for i := range s.Lanes {
		o, done := t.nodes(s.Lanes[i].Nodes, lane)
		if !done {
			outs = append(outs, o)
		}
		if s.Join == "" && !done {
			t.deadEnd(n, i, o)
		}
	}
	switch {
	case s.Kind == plan.SplitTap:
		return in, false
	case s.Join == "":
		return in, true
	}
	out = outs[0]
	for _, o := range outs {
		out.sides = max(out.sides, o.sides)
		if o.dbu > out.dbu {
			out.level, out.dbu = o.level, o.dbu
		}
	}
	if s.Join == plan.JoinStereo {
		out.sides = 2
	}
	if m := t.j.find(s.To); m != nil && s.To != s.Divider() {
		out = t.through(n, m, out)
	}
	return out, false
}

// lostSide notes that a stereo signal runs into one input and nobody has said what becomes
// of the second side.
func (t *trace) lostSide(s *stop, in signal) {
	gravity, reason := Fault, "a stereo signal runs into its one input, so the second side ends there"
	if !carriesStereo(t.j.plan, t.j.path, t.j.dest) {
		gravity, reason = Notice, "only one side of a stereo signal goes on here, and the rig ends in mono anyway"
	}
	from := "the guitar"
	stops := []*stop{s}
	if in.from != nil {
		from = in.from.name
		stops = append(stops, in.from)
	}
	f := about("stereo-into-mono", gravity, fmt.Sprintf("%s takes one side of %s", s.name, from), reason, stops...)
	for _, way := range []struct{ takes, words string }{
		{"left", "Plug in the left side alone"},
		{"sum", "Sum both sides before " + s.name},
	} {
		path := mapNodes(t.j.path, func(n plan.Node) plan.Node {
			if n.Stop == s.key || (n.Split != nil && (n.Split.From == s.key || n.Split.To == s.key)) {
				n.Takes = way.takes
			}
			return n
		})
		// The cost stays what it is or falls: what is said here is no matter of order.
		f.Repairs = append(f.Repairs, Move{Words: way.words, Stop: s.key, Path: path, Order: plan.StopsIn(path)})
	}
	t.found = append(t.found, f)
}

func (t *trace) sidesOfMono(n plan.Node, in signal) Finding {
	f := Finding{
		ID: "route:sides-of-mono:" + string(n.ID()), Rule: "sides-of-mono", Gravity: Notice,
		Title:  "Left and right of a mono signal",
		Reason: "the signal is mono here, so both lanes get the same",
	}
	if in.from != nil {
		f.Stops, f.Names = []plan.Key{in.from.key}, []string{in.from.name}
	}
	return f
}

// deadEnd notes a lane that ends in nothing that could be heard or seen.
func (t *trace) deadEnd(n plan.Node, lane int, o signal) {
	nodes := n.Split.Lanes[lane].Nodes
	if len(nodes) > 0 && o.from != nil && nodes[len(nodes)-1].Stop == o.from.key &&
		(o.from.ends() || o.from.is(plan.EffectPower, plan.EffectTuner, plan.EffectCab, plan.EffectLooper)) {
		return
	}
	name := t.j.plan.LaneName(n.Split, lane)
	f := Finding{
		ID: fmt.Sprintf("route:dead-end:%s:%d", n.ID(), lane), Rule: "dead-end", Gravity: Notice,
		Title:  "Nothing at the end of " + name,
		Reason: "the lane ends in no amp, line, speaker or tuner, so nothing of it is heard",
	}
	t.found = append(t.found, f)
}

// levels notes what is fed a level it is not made for.
func (t *trace) levels(s *stop, in signal) {
	want := s.block.Level
	if want == "" {
		want = instrument
	}
	switch {
	case in.level == speaker:
		t.speakerInto(s, in)
	case want == "any" || s.isAmp() || s.joint && s.block.Passive:
	case in.level == line && want == instrument:
		f := about("line-into-instrument", Fault, fmt.Sprintf("%s is fed line level", s.name),
			"it is made for instrument level, so it clips where the loop is loud", s)
		f.Figures = []Figure{{"over what it is made for", in.dbu - instrumentDBu, "dB"}}
		t.found = append(t.found, f)
	case in.level == instrument && want == line && in.dbu <= instrumentDBu:
		f := about("instrument-into-line", Fault, fmt.Sprintf("%s is fed instrument level", s.name),
			"it is made for line level, so its own hiss is as loud as the guitar", s)
		f.Figures = []Figure{{"under what it is made for", lineDBu - in.dbu, "dB"}}
		t.found = append(t.found, f)
	}
}

// speakerInto notes a speaker output that runs into anything but a speaker or a rated load.
func (t *trace) speakerInto(s *stop, in signal) {
	if s.is(plan.EffectSpeaker, plan.EffectLoad) || s.block.Level == speaker ||
		(in.from != nil && s.gear == in.from.gear) {
		return
	}
	f := about("speaker-into-input", Danger, fmt.Sprintf("A speaker output into %s", s.name),
		"a power section gives tens of volts, and has no load there", s)
	f.Caution = "A speaker output goes to a speaker or a load that is rated for it, through speaker cable. A valve amp without a load destroys itself."
	t.found = append(t.found, f)
}

// signalFindings are what was noticed along the way.
func (j *judge) signalFindings() []Finding {
	list := j.trace.found
	for i := range list {
		for k := range list[i].Repairs {
			if m := &list[i].Repairs[k]; m.Path != nil && list[i].Rule == "stereo-into-mono" {
				m.Cost = newJudge(j.plan, j.rig, j.dest, m.Path, j.driven).cost()
			}
		}
		if list[i].Rule == "line-into-instrument" {
			list[i].Repairs = j.outOfLoop(list[i].Stops[0])
		}
		if list[i].Rule == "instrument-into-line" {
			list[i].Repairs = j.intoLoop(list[i].Stops[0])
		}
	}
	return list
}

// outOfLoop moves a stop before the preamp of its line.
func (j *judge) outOfLoop(key plan.Key) []Move {
	return j.across(key, func(s *stop) bool { return s.isAmp() && s.is(plan.EffectPreamp) }, 0, "in front of")
}

// intoLoop moves a stop behind the preamp of its line, where its loop is at line level.
func (j *judge) intoLoop(key plan.Key) []Move {
	return j.across(key, func(s *stop) bool {
		level, _ := j.trace.sendLevel(s)
		return s.isAmp() && s.is(plan.EffectPreamp) && s.gear.Loop != nil && level == line
	}, 1, "into the loop of")
}

func (j *judge) across(key plan.Key, goal func(*stop) bool, after int, words string) []Move {
	if j.broken {
		return nil
	}
	for _, at := range j.whole.places(key) {
		for k, it := range at.list.items {
			if it.stop == nil || !goal(it.stop) {
				continue
			}
			to := k + after
			if at.item < to {
				to--
			}
			next := shifted(at.list.problem().present(), at.item, to)
			if at.list.problem().allowed(next) {
				name := fmt.Sprintf("Move %s %s %s", at.list.items[at.item].name(), words, it.stop.gear.Name)
				return []Move{j.moved(order{at.list: next}, key, name)}
			}
		}
	}
	return nil
}
