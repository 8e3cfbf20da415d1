package path

import (
	"fmt"
	"math"
	"slices"

	"envex/core/plan"
)

// leastLatencyMS is the difference between two lanes under which the first notch of their
// sum is above 20 kHz, out of hearing.
const leastLatencyMS = 0.025

// deepest is the most negative level that is stated, in dB: deeper is not heard as such.
const deepest = -60.0

// state is how one recipe sets the rig.
type state struct {
	sound string
	plan  *plan.Plan
	set   plan.Setting
}

// states are the states the rig's recipes put it in, or its base where it has none.
func (j *judge) states() []state {
	if len(j.rig.Recipes) == 0 {
		return []state{{"", j.plan, j.plan.SetFor(j.rig, nil, nil, plan.Tempo{})}}
	}
	settings := j.plan.SettingsOf(j.rig)
	list := make([]state, len(j.rig.Recipes))
	for i := range j.rig.Recipes {
		rec := &j.rig.Recipes[i]
		sound, _ := j.plan.FindSound(rec.Sound)
		list[i] = state{"", j.plan, settings.For(rec, sound, j.plan.FirstTempo(rec.Sound))}
		if sound != nil {
			list[i].sound = sound.Name
		}
	}
	return list
}

func (at state) on(s *stop) bool {
	return s.block.Bypass == plan.AlwaysOn || at.set.At(plan.OnKey(s.gear.ID, s.block.ID)).IsOn()
}

// sounding are the lanes of a split that sound.
func (at state) sounding(it *item) []*track {
	sounds, _ := at.plan.Sounding(it.node.Split, at.set)
	var list []*track
	for i, l := range it.inner {
		if sounds[i] {
			list = append(list, l)
		}
	}
	return list
}

// passage is what a lane does to a signal besides what is wanted: how late it comes and
// whether it is turned round.
type passage struct {
	latencyMS float64
	inverts   bool
}

// passageOf sums a line up in one state. A block with true bypass does nothing while it is
// off; any other is late as soon as it is in the path. Lanes within are taken by the first that sounds.
func passageOf(l *track, at state) passage {
	var p passage
	pass := func(s *stop) {
		on := at.on(s)
		if s.block.LatencyMS != nil && (on || s.block.Bypass != plan.TrueBypass) {
			p.latencyMS += *s.block.LatencyMS
		}
		if s.block.Inverts && on {
			p.inverts = !p.inverts
		}
	}
	for _, it := range l.items {
		switch {
		case it.stop != nil:
			pass(it.stop)
		case it.node.Split.Kind != plan.SplitTap:
			for _, s := range it.joint {
				pass(s)
			}
			if lanes := at.sounding(it); len(lanes) > 0 {
				inner := passageOf(lanes[0], at)
				p.latencyMS += inner.latencyMS
				p.inverts = p.inverts != inner.inverts
			}
		}
	}
	return p
}

// notchHz is the first frequency at which two equal signals, one late by so many ms, cancel
// when summed: 1/(2 x delay).
func notchHz(ms float64) float64 { return 1000 / (2 * ms) }

// opposedDB is the level at a frequency of two equal signals of opposite polarity, one late
// by so many ms, re the same two in step: |1 - exp(-jwt)| / 2 = |sin(pi f t)|.
func opposedDB(hz, ms float64) float64 {
	return math.Max(deepest, 20*math.Log10(math.Abs(math.Sin(math.Pi*hz*ms/1000))))
}

// lowHz stands for the low end when its cancelling is stated.
const lowHz = 100.0

// laneFindings are lanes that come together and do not fit, and passive splits.
func (j *judge) laneFindings() []Finding {
	var list []Finding
	for _, it := range splitsIn(j.present) {
		s := it.node.Split
		if f, ok := j.passive(it); ok {
			list = append(list, f)
		}
		if s.Kind == plan.SplitTap {
			continue // its lane does not come back
		}
		if _, chosen := j.plan.ChoiceOf(s); s.Kind == plan.SplitAB && !chosen {
			list = append(list, j.unchosen(it))
		}
		list = append(list, j.meeting(it)...)
	}
	for i := range j.plan.Gear {
		list = append(list, j.parallelLoop(&j.plan.Gear[i])...)
	}
	return list
}

// meeting compares the lanes of a split that sound together: summed by a join, summed later
// by one mono line, or in the air by two amps.
func (j *judge) meeting(it *item) []Finding {
	s := it.node.Split
	where := "the lanes are summed"
	switch {
	case s.Join == plan.JoinStereo && !j.foldsDown():
		return nil
	case s.Join == plan.JoinStereo:
		where = "the house gets the sum of both sides"
	case s.Join == "" && !severalAmps(it):
		return nil
	case s.Join == "":
		where = "the amps stand in one room"
	}
	worst, worstIn := 0.0, ""
	turned, turnedIn, turnedMS := false, "", 0.0
	for _, at := range j.states() {
		var lanes []passage
		for _, l := range at.sounding(it) {
			lanes = append(lanes, passageOf(l, at))
		}
		for i, a := range lanes {
			for _, b := range lanes[i+1:] {
				d := math.Abs(a.latencyMS - b.latencyMS)
				if d > worst {
					worst, worstIn = d, at.sound
				}
				if a.inverts != b.inverts && !turned {
					turned, turnedIn, turnedMS = true, at.sound, d
				}
			}
		}
	}
	name := j.plan.SplitName(s)
	var list []Finding
	if turned {
		list = append(list, j.split(it, "lane-polarity", "Polarity turns round in "+name,
			inSound(turnedIn)+where+" and one is upside down, so the low end cancels",
			Figure{"left at 100 Hz", math.Round(opposedDB(lowHz, turnedMS)*10) / 10, "dB"}))
	}
	if worst > leastLatencyMS && s.Join != "" {
		list = append(list, j.split(it, "lane-latency", "Lanes out of step in "+name,
			inSound(worstIn)+where+" and one comes later, so they comb",
			Figure{"apart", math.Round(worst*1000) / 1000, "ms"}, Figure{"first notch", math.Round(notchHz(worst)), "Hz"}))
	}
	return list
}

// unchosen notes a switch between lanes that nothing is known to turn.
func (j *judge) unchosen(it *item) Finding {
	f := j.split(it, "nothing-chooses", "Say what chooses a lane of "+j.plan.SplitName(it.node.Split),
		"nothing that can be set chooses among its lanes, so its first is taken to sound in every sound")
	f.Gravity = Notice
	return f
}

func inSound(sound string) string {
	if sound == "" {
		return ""
	}
	return "in " + sound + " "
}

func (j *judge) split(it *item, rule, title, reason string, figures ...Figure) Finding {
	f := Finding{
		ID: "route:" + rule + ":" + string(it.node.ID()), Rule: rule, Gravity: Fault, Title: title, Reason: reason,
		Figures: figures,
	}
	for _, s := range it.all {
		f.Stops = append(f.Stops, s.key)
		f.Names = append(f.Names, s.name)
	}
	return f
}

func severalAmps(it *item) bool {
	n := 0
	for _, l := range it.inner {
		for _, x := range l.items {
			for _, s := range x.all {
				if s.is(plan.EffectPower) {
					n++
				}
			}
		}
	}
	return n > 1
}

// foldsDown reports whether the house gets one line with both sides on it.
func (j *judge) foldsDown() bool {
	return j.dest != nil && j.dest.Kind == plan.MonoDI &&
		(j.dest.MonoLine == plan.ExternalSum || j.dest.MonoLine == plan.LeftSums)
}

// parallelLoop judges what stands in a parallel loop of an amp: the dry sound goes past it,
// so that only what is added to it belongs there, in step and the right way up.
func (j *judge) parallelLoop(g *plan.Gear) []Finding {
	if g.Loop == nil || g.Loop.Kind != "parallel" {
		return nil
	}
	var inside *track
	j.present.each(func(l *track) {
		in := false
		for _, it := range l.items {
			switch {
			case it.stop != nil && it.stop.gear == g && it.stop.is(plan.EffectPreamp):
				in, inside = true, &track{}
			case it.stop != nil && it.stop.gear == g && it.stop.is(plan.EffectPower):
				in = false
			case in && (it.stop == nil || it.stop.gear != g):
				inside.items = append(inside.items, it)
			}
		}
	})
	if inside == nil {
		return nil
	}
	var found []Finding
	for _, it := range inside.items {
		if it.stop == nil || it.stop.traits.Parallel {
			continue
		}
		found = append(found, about("parallel-loop", Fault, fmt.Sprintf("%s in a parallel loop", it.stop.name),
			fmt.Sprintf("the loop of %s is parallel, so the sound without it is always there too", g.Name), it.stop))
	}
	for _, at := range j.states() {
		if p := passageOf(inside, at); p.latencyMS > leastLatencyMS {
			f := about(
				"loop-latency", Fault, fmt.Sprintf("The loop of %s is out of step", g.Name),
				inSound(at.sound)+"what comes back is summed with the dry sound and comes later, so they comb",
			)
			f.ID += ":" + string(g.ID)
			f.Figures = []Figure{
				{"apart", math.Round(p.latencyMS*1000) / 1000, "ms"}, {"first notch", math.Round(notchHz(p.latencyMS)), "Hz"},
			}
			return append(found, f)
		}
	}
	return found
}

// together reports whether two lanes of a split ever sound at once.
func (j *judge) together(it *item) bool {
	return slices.ContainsFunc(j.states(), func(at state) bool { return len(at.sounding(it)) > 1 })
}

// passive notes a split without a buffer: every lane's input loads what feeds it.
func (j *judge) passive(it *item) (Finding, bool) {
	s := it.node.Split
	d := j.find(s.Divider())
	if s.Kind == plan.SplitTap || s.Kind == plan.SplitLeftRight || !j.together(it) || (d != nil && !d.block.Passive) {
		return Finding{}, false
	}
	siemens, known := 0.0, 0
	var names []string
	for _, l := range it.inner {
		if len(l.items) == 0 || len(l.items[0].all) == 0 {
			continue
		}
		first := l.items[0].all[0]
		if first.is(plan.EffectSpeaker, plan.EffectLoad) {
			return Finding{}, false // a power section is not a signal that is loaded down
		}
		names = append(names, first.name)
		if ohm := first.block.InputOhm; ohm != nil && *ohm > 0 {
			siemens += 1 / *ohm
			known++
		}
	}
	if len(names) < 2 {
		return Finding{}, false
	}
	f := j.split(
		it, "passive-split", "A split without a buffer", fmt.Sprintf("%s load what feeds them together", plan.Listed(names)),
	)
	f.Gravity = Notice
	if known == len(names) {
		f.Figures = []Figure{{"load", math.Round(1 / siemens / 1000), "kohm"}}
	}
	return f, true
}
