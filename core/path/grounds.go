package path

import (
	"fmt"
	"slices"

	"envex/core/plan"
)

// Cautions that stand beside what raises them.
const (
	earthCaution = "Never lift the mains safety earth to cure hum: use an isolated output, a DI or a transformer. Mains on stage follows the local electrical code."
	loadCaution  = "A valve amp always needs its speaker, or a load rated for it, of the right impedance, also while it is muted. Inside work is for a qualified tech: it holds lethal voltage when unplugged."
	ohmsCaution  = "Match the impedance of speaker or load to the amp's output, and use speaker cable. When in doubt ask a qualified tech."
)

// grounds collects what is earthed through the mains, amps and lines to the house without a transformer, by
// what the signal's ground ties together.
type grounds struct {
	j       *judge
	parent  []int           // of each group, one it was found to be tied to; itself where there is none
	of      map[plan.ID]int // the group of each piece of earthed gear
	earthed []*stop         // one stop of each
}

// groundFindings are the hum loops between several earthed things on one signal.
func (j *judge) groundFindings() []Finding {
	g := &grounds{j: j, of: map[plan.ID]int{}}
	g.follow(j.present, g.group())
	tied := map[int][]*stop{}
	var order []int
	for _, s := range g.earthed {
		k := g.root(g.of[s.gear.ID])
		if tied[k] == nil {
			order = append(order, k)
		}
		tied[k] = append(tied[k], s)
	}
	var list []Finding
	for _, k := range order {
		if len(tied[k]) < 2 {
			continue
		}
		var names []string
		for _, s := range tied[k] {
			names = append(names, s.gear.Name)
		}
		f := about(
			"hum-loop", Fault, "A hum loop between "+plan.Listed(names),
			"each is earthed through the mains, and the signal's ground ties them together", tied[k]...,
		)
		f.Caution = earthCaution
		f.Repairs = j.isolations()
		list = append(list, f)
	}
	return list
}

// group is a new group, tied to no other.
func (g *grounds) group() int {
	g.parent = append(g.parent, len(g.parent))
	return len(g.parent) - 1
}

func (g *grounds) root(k int) int {
	for g.parent[k] != k {
		k = g.parent[k]
	}
	return k
}

func (g *grounds) tie(a, b int) { g.parent[g.root(b)] = g.root(a) }

// follow walks a line whose ground is in a group, and gives the group at its end: past a transformer it is
// another.
func (g *grounds) follow(l *track, at int) int {
	for _, it := range l.items {
		if it.stop != nil {
			at = g.pass(it.stop, at)
			continue
		}
		d := g.j.find(it.node.Split.Divider())
		ends := make([]int, len(it.inner))
		for i, lane := range it.inner {
			own := at
			if i > 0 && d != nil && d.block.Isolated {
				own = g.group()
			}
			ends[i] = g.follow(lane, own)
		}
		if it.node.Split.Join == "" {
			continue
		}
		m := g.j.find(it.node.Split.To)
		if m != nil && m != d && m.block.Isolated {
			at = g.group() // the mixer parts what follows from every lane
			continue
		}
		for _, end := range ends {
			g.tie(at, end)
		}
	}
	return at
}

// pass is the group after a stop. The case of a thing is one ground, wherever in the chain its blocks stand.
func (g *grounds) pass(s *stop, at int) int {
	if s.isAmp() || s.is(plan.EffectDI) && !s.block.Isolated {
		if known, ok := g.of[s.gear.ID]; ok {
			g.tie(known, at)
		} else {
			g.of[s.gear.ID] = at
			g.earthed = append(g.earthed, s)
		}
	}
	if s.block.Isolated {
		return g.group()
	}
	return at
}

// isolations offers what the player owns and has not plugged in: a splitter with isolated
// outputs in place of a plain one, or an isolator in a lane.
func (j *judge) isolations() []Move {
	var moves []Move
	for i := range j.plan.Gear {
		g := &j.plan.Gear[i]
		for k := range g.Blocks {
			b := &g.Blocks[k]
			key := plan.BlockKey(g.ID, b.ID)
			isolator := b.Effect == plan.EffectSplitter || b.Effect == plan.EffectBuffer
			if !b.Isolated || !isolator || j.find(key) != nil {
				continue
			}
			if m, ok := j.isolated(key, g.StopName(b), b.Effect == plan.EffectSplitter); ok {
				moves = append(moves, m)
			}
		}
	}
	return moves
}

// isolated puts an isolator where it parts two amps: as the splitter of the first split whose
// lanes hold amps, or at the head of its second lane. Only what cures the hum is offered.
func (j *judge) isolated(key plan.Key, name string, splitter bool) (Move, bool) {
	for _, it := range splitsIn(j.present) {
		words := fmt.Sprintf("Split with %s", name)
		path := mapNodes(j.path, func(n plan.Node) plan.Node {
			if n.Split == nil || n.ID() != it.node.ID() {
				return n
			}
			s := *n.Split
			if splitter && s.Kind != plan.SplitTap {
				s.From = key
			} else if !splitter {
				lane := len(s.Lanes) - 1
				s.Lanes = append([]plan.Lane(nil), s.Lanes...)
				s.Lanes[lane].Nodes = append([]plan.Node{{Stop: key}}, s.Lanes[lane].Nodes...)
				words = fmt.Sprintf("Put %s at the head of the last lane", name)
			}
			n.Split = &s
			return n
		})
		if j.find(it.node.Split.Divider()) != nil && splitter {
			continue // one box would be left over
		}
		next := newJudge(j.plan, j.rig, j.dest, path, j.driven)
		if len(next.groundFindings()) == 0 {
			return j.rewired(path, it.node.ID(), words), true
		}
	}
	return Move{}, false
}

// loadFindings are power sections without a proper load.
func (j *judge) loadFindings() []Finding {
	var list []Finding
	powers := map[plan.ID]bool{}
	j.present.each(func(l *track) {
		for i, it := range l.items {
			if it.stop == nil || !it.stop.is(plan.EffectPower) {
				continue
			}
			powers[it.stop.gear.ID] = true
			var after *item
			if i+1 < len(l.items) {
				after = l.items[i+1]
			}
			list = append(list, j.loadOf(it.stop, after)...)
		}
	})
	for _, s := range j.stops {
		if !s.isAmp() || !s.is(plan.EffectPreamp) || powers[s.gear.ID] {
			continue
		}
		f := about("no-load", Danger, fmt.Sprintf("%s has no load while its preamp is used", s.gear.Name),
			"its power section is not in the chain and is alive all the same", s)
		if o := s.gear.SpeakerOut; o != nil && (o.Internal || !o.Valve) {
			f.Gravity, f.Title = Notice, fmt.Sprintf("The power section of %s is left out", s.gear.Name)
			f.Reason = "it is alive all the same: leave its speaker connected, and turn its master down"
		}
		f.Caution = loadCaution
		list = append(list, f)
	}
	return list
}

// loadOf judges what a power section drives.
func (j *judge) loadOf(s *stop, after *item) []Finding {
	o := s.gear.SpeakerOut
	ohms, known, any := loads(after)
	var list []Finding
	if !any && o != nil && !o.Internal && (after == nil || len(after.all) == 0 || after.all[0].isAmp()) {
		f := about("no-load", Danger, fmt.Sprintf("%s has no speaker", s.gear.Name), "its power section runs into nothing", s)
		if !o.Valve {
			f.Gravity = Notice
			f.Reason = "its power section runs into nothing, so it is silent"
		}
		f.Caution = loadCaution
		list = append(list, f)
	}
	beside := ""
	if any && known && o != nil && o.Internal && len(o.Ohms) > 0 && ohms > 0 {
		// Its own speaker, which is the load it is made for, hangs on the same output.
		ohms = 1 / (1/ohms + 1/slices.Max(o.Ohms))
		beside = " and its own speaker is on it too"
	}
	if any && known && o != nil && len(o.Ohms) > 0 {
		fits := false
		for _, x := range o.Ohms {
			fits = fits || (ohms > x*0.95 && ohms < x*1.05)
		}
		if !fits {
			f := about("load-impedance", Danger, fmt.Sprintf("%s is not rated for its load", s.gear.Name),
				fmt.Sprintf("its output is made for %s%s", ohmWords(o.Ohms), beside), s)
			f.Figures = []Figure{{"load", float64(int(ohms*10+0.5)) / 10, "ohm"}}
			f.Caution = ohmsCaution
			list = append(list, f)
		}
	}
	return list
}

func ohmWords(ohms []float64) string {
	var words []string
	for _, x := range ohms {
		words = append(words, fmt.Sprintf("%g", x))
	}
	return plan.Listed(words) + " ohm"
}

// loads is what hangs on a power section: a speaker or load, or several in parallel lanes.
func loads(after *item) (ohms float64, known, any bool) {
	if after == nil {
		return 0, false, false
	}
	load := func(s *stop) bool { return s.is(plan.EffectSpeaker, plan.EffectLoad) || s.block.Level == speaker }
	var list []*stop
	switch {
	case after.stop != nil && load(after.stop):
		list = []*stop{after.stop}
	case after.node.Split != nil:
		for _, lane := range after.inner {
			if len(lane.items) > 0 && lane.items[0].stop != nil && load(lane.items[0].stop) {
				list = append(list, lane.items[0].stop)
			}
		}
	}
	siemens := 0.0
	for _, s := range list {
		if s.block.InputOhm == nil || *s.block.InputOhm <= 0 {
			return 0, false, true
		}
		siemens += 1 / *s.block.InputOhm
	}
	if siemens == 0 {
		return 0, false, len(list) > 0
	}
	return 1 / siemens, true, true
}

// houseFindings is what becomes of a stereo rig on one mono line to the house.
func (j *judge) houseFindings() []Finding {
	if j.dest == nil || j.dest.Kind != plan.MonoDI {
		return nil
	}
	for i := len(j.trace.stops) - 1; i >= 0; i-- {
		if j.trace.stops[i].Out < 2 {
			continue
		}
		var stops []*stop
		if last := j.find(j.trace.stops[i].Stop); last != nil { // else two lanes that end side by side
			stops = append(stops, last)
		}
		f := about(
			"mono-line", Fault, "One mono line for a stereo rig",
			"nobody has said what the line carries: both sides summed, or the left alone", stops...,
		)
		switch j.dest.MonoLine {
		case plan.ExternalSum, plan.LeftSums:
			f.Gravity = Notice
			f.Reason = "both sides are summed: what is panned apart comes 3 dB down, and what differs between the sides combs"
			f.Figures = []Figure{{"of what is on one side only", -3.0, "dB"}}
		case plan.LeftAlone:
			f.Reason = "only the left side goes out, so what is on the right is lost: every other repeat of a ping-pong delay"
		}
		return []Finding{f}
	}
	return nil
}
