package signal

import (
	"fmt"
	"slices"

	"envex/core/plan"
)

// stage is one place of a chain that is rendered.
type stage struct {
	key    plan.Key
	name   string
	effect plan.Effect
	amp    bool
	on     bool
	set    settings
	sum    bool // what a mono input takes of a stereo signal: the sum, else the left
	narrow bool // it has one input and one output
	turns  bool // it turns the polarity round while it is on
	late   float64
	trim   float64  // dB, while it is on, to what was measured
	hears  plan.Key // the earlier stop it listens to
}

// fork is where a chain divides.
type fork struct {
	kind  string
	join  string
	lanes []line
	names []string
}

// link is a stage or a fork.
type link struct {
	stage *stage
	fork  *fork
}

type line []link

// Setting is a rig as it is set for one moment.
type Setting = plan.Setting

// rendering is a rig that can be rendered: its chain, and what was assumed.
type rendering struct {
	plan    *plan.Plan
	rig     *plan.Rig
	path    []plan.Node
	assumed []string
}

func newRendering(p *plan.Plan, rig plan.ID) (*rendering, error) {
	r, ok := p.FindRig(rig)
	if !ok {
		return nil, fmt.Errorf("signal: there is no rig %q", rig)
	}
	return &rendering{plan: p, rig: r, path: r.Path}, nil
}

// setFor is how a recipe sets the rig, at a tempo for what follows it.
func (r *rendering) setFor(rec *plan.Recipe, sound *plan.Sound, tempo plan.Tempo) Setting {
	return r.plan.SetFor(r.rig, rec, sound, tempo)
}

// line reads a path as it is set.
func (r *rendering) line(nodes []plan.Node, s Setting) line {
	var l line
	for i, n := range nodes {
		if n.Split != nil {
			l = append(l, r.divided(n.Split, s)...)
			continue
		}
		x := r.stage(n, s)
		if x == nil {
			continue
		}
		l = append(l, link{stage: x})
		if x.effect == plan.EffectPower && x.amp && !meetsSpeaker(r.plan, nodes[i+1:]) {
			l = append(l, link{stage: r.ownSpeaker(x)})
		}
	}
	return r.parallelLoop(l, nodes)
}

// divided is a split: what divides the signal, its lanes, and what joins them.
func (r *rendering) divided(sp *plan.Split, s Setting) line {
	f := &fork{kind: sp.Kind, join: sp.Join}
	for i, lane := range sp.Lanes {
		f.lanes = append(f.lanes, r.line(lane.Nodes, s))
		name := lane.Name
		if name == "" {
			name = fmt.Sprintf("lane %d", i+1)
		}
		f.names = append(f.names, name)
	}
	var l line
	if x := r.stage(plan.Node{Stop: sp.Divider()}, s); x != nil {
		l = append(l, link{stage: x})
	}
	l = append(l, link{fork: f})
	if x := r.stage(plan.Node{Stop: sp.To}, s); x != nil && sp.To != sp.Divider() {
		l = append(l, link{stage: x})
	}
	return l
}

func (r *rendering) stage(n plan.Node, s Setting) *stage {
	g, ok := r.plan.FindGear(n.Stop.Gear())
	if !ok {
		return nil
	}
	b, ok := g.FindBlock(plan.ID(n.Stop.Rest()))
	if !ok {
		return nil
	}
	x := &stage{
		key: n.Stop, name: g.StopName(b), effect: b.Effect, amp: g.Kind == plan.Amp, set: settings{g, b, s.At},
		on: b.Bypass == plan.AlwaysOn || s.At(plan.OnKey(g.ID, b.ID)).IsOn(), turns: b.Inverts, sum: n.Takes == "sum",
		narrow: b.Inputs != "stereo" && b.Outputs != "stereo" && natureOf(b.Effect) != wire || b.Inputs != "stereo" && (b.Effect == plan.EffectPreamp || b.Effect == plan.EffectPower),
		hears:  n.KeyIn,
	}
	if b.LatencyMS != nil && (x.on || b.Bypass != plan.TrueBypass) {
		x.late = *b.LatencyMS
	}
	return x
}

// meetsSpeaker reports whether a speaker, a load or a simulator of one comes after.
func meetsSpeaker(p *plan.Plan, nodes []plan.Node) bool {
	for _, key := range plan.StopsIn(nodes) {
		if g, ok := p.FindGear(key.Gear()); ok {
			if b, ok := g.FindBlock(plan.ID(key.Rest())); ok && (b.Effect == plan.EffectSpeaker || b.Effect == plan.EffectCab || b.Effect == plan.EffectLoad) {
				return true
			}
		}
	}
	return false
}

// ownSpeaker is the speaker of an amp's own, which stands in no path.
func (r *rendering) ownSpeaker(power *stage) *stage {
	block := plan.Block{ID: "speaker", Name: "speaker", Effect: plan.EffectSpeaker, Bypass: plan.AlwaysOn}
	if g := power.set.gear; g.SpeakerOut == nil || !g.SpeakerOut.Internal {
		words := g.Name + " has no speaker in the chain; an open-backed one is taken."
		if !slices.Contains(r.assumed, words) {
			r.assumed = append(r.assumed, words)
		}
	}
	return &stage{key: power.key + "/speaker", name: power.set.gear.Name + " speaker", effect: plan.EffectSpeaker, on: true, set: settings{power.set.gear, &block, power.set.at}}
}

// parallelLoop makes the stops between an amp's sections a lane beside the dry signal, where its
// loop is parallel.
func (r *rendering) parallelLoop(l line, nodes []plan.Node) line {
	pre := slices.IndexFunc(l, func(x link) bool { return x.stage != nil && x.stage.amp && x.stage.effect == plan.EffectPreamp })
	if pre < 0 || l[pre].stage.set.gear.Loop == nil || l[pre].stage.set.gear.Loop.Kind != "parallel" {
		return l
	}
	power := slices.IndexFunc(l, func(x link) bool {
		return x.stage != nil && x.stage.effect == plan.EffectPower && x.stage.set.gear == l[pre].stage.set.gear
	})
	if power < pre+2 {
		return l
	}
	f := &fork{kind: plan.SplitCopy, join: plan.JoinSum, lanes: []line{nil, slices.Clone(l[pre+1 : power])}, names: []string{"dry", "loop"}}
	return slices.Concat(l[:pre+1], line{{fork: f}}, l[power:])
}
