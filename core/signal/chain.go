package signal

import (
	"fmt"
	"slices"

	"envex/core/electric"
	"envex/core/plan"
)

// stage is one place of a chain that is rendered.
type stage struct {
	key     plan.Key
	name    string
	effect  plan.Effect
	amp     bool
	on      bool
	set     settings
	sum     bool // what a mono input takes of a stereo signal: the sum, else the left
	narrow  bool // it has one input and one output
	sums    bool // it has two inputs and one output
	turns   bool // it turns the polarity round while it is on
	delayMS float64
	trim    float64  // dB, while it is on, to what was measured
	hears   plan.Key // the earlier stop it listens to
	solved  bool     // its circuit is part of a passive run
	run     *passive // it is a passive run and no block
}

// fork is where a chain divides.
type fork struct {
	key   plan.Key
	name  string
	kind  string
	join  string
	lanes []line // those that sound
	sides []int  // of each, its place in the split
	names []string
	heard bool // of a tap: its lane is heard beside the main path
	muted bool // of a tap: the main path is not
}

// link is a stage or a fork.
type link struct {
	stage *stage
	fork  *fork
}

type line []link

// Setting is a rig as it is set for one moment.
type Setting = plan.Setting

// rendering is a rig that can be rendered: its chain, its circuits, and what was assumed.
type rendering struct {
	plan    *plan.Plan
	rig     *plan.Rig
	path    []plan.Node
	wired   *electric.Wired
	assumed []string
	kept    *Kept
	digests *digests
}

func newRendering(p *plan.Plan, rig plan.ID, kept *Kept) (*rendering, error) {
	r, err := p.RigByID(rig)
	if err != nil {
		return nil, fmt.Errorf("signal: %w", err)
	}
	wired, err := electric.Wire(p, rig)
	if err != nil {
		return nil, fmt.Errorf("signal: %w", err)
	}
	return &rendering{
		plan: p, rig: r, path: p.FromTheGuitar(r.Path), wired: wired, kept: kept.orNew(), digests: &digests{},
	}, nil
}

// on is the rig with its stops in another order.
func (r *rendering) on(path []plan.Node) (*rendering, error) {
	rig := *r.rig
	rig.Path = path
	p := *r.plan
	p.Put(rig)
	return newRendering(&p, rig.ID, r.kept)
}

// setFor is how a recipe sets the rig, at a tempo for what follows it.
func (r *rendering) setFor(rec *plan.Recipe, sound *plan.Sound, tempo plan.Tempo) Setting {
	return r.plan.SetFor(r.rig, rec, sound, tempo)
}

// line is the rig's chain as it is set.
func (r *rendering) line(s Setting) line {
	b := &building{rendering: r, set: s, circuit: r.wired.Circuit(s)}
	l := b.line(r.path, true)
	return append(l, b.runs("")...)
}

// building is a chain that is being read.
type building struct {
	*rendering
	set     Setting
	circuit electric.Circuit
}

func (b *building) line(nodes []plan.Node, main bool) line {
	var l line
	for i, n := range nodes {
		l = append(l, b.runs(n.ID())...)
		if n.Split != nil && n.Split.Kind == plan.SplitTap {
			taken, rest := b.tapped(n.Split)
			if !rest && main {
				return append(l, taken...) // what follows does not sound
			}
			l = append(l, tapLink(plan.Key(n.Split.ID), b.plan.LaneName(n.Split, 0), taken, rest, b.heardTap(n.Split))...)
			continue
		}
		if n.Split != nil {
			l = append(l, b.divided(n.Split)...)
			continue
		}
		x := b.stage(n)
		if x == nil {
			continue
		}
		l = append(l, link{stage: x})
		if x.effect == plan.EffectPower && x.amp && !meetsSpeaker(b.plan, nodes[i+1:]) {
			l = append(l, link{stage: b.ownSpeaker(x)})
		}
	}
	return b.parallelLoop(l)
}

// runs are the passive runs that end before a place.
func (b *building) runs(before plan.Key) line {
	var l line
	for {
		x, ok := b.nextRun(before)
		if !ok {
			return l
		}
		l = append(l, x)
	}
}

// nextRun takes the next run that ends before a place.
func (b *building) nextRun(before plan.Key) (link, bool) {
	i := slices.IndexFunc(b.circuit.Runs, func(x electric.Run) bool { return x.Before == before })
	if i < 0 {
		return link{}, false
	}
	x := b.circuit.Runs[i]
	b.circuit.Runs = slices.Delete(b.circuit.Runs, i, i+1)
	key := plan.Key("wires to " + string(x.To) + " before " + string(before))
	return link{stage: &stage{key: key, on: true, run: b.passiveOf(x, b.sourceOf(b.circuit.Source))}}, true
}

// divided is a split: what divides the signal, its lanes, and what joins them.
func (b *building) divided(sp *plan.Split) line {
	var l line
	if x := b.stage(plan.Node{Stop: sp.Divider()}); x != nil {
		if run, ok := b.nextRun(sp.Divider()); ok {
			l = append(l, run)
		}
		l = append(l, link{stage: x})
	}
	f := &fork{key: plan.Key(sp.ID), name: b.joinName(sp), kind: sp.Kind, join: sp.Join}
	sounds, _ := b.plan.Sounding(sp, b.set)
	for i, lane := range sp.Lanes {
		if !sounds[i] {
			continue
		}
		f.sides = append(f.sides, i)
		f.lanes = append(f.lanes, append(b.line(lane.Nodes, false), b.runs(electric.LaneEnd(sp.ID, i))...))
		f.names = append(f.names, b.plan.LaneName(sp, i))
	}
	if sp.Kind == plan.SplitAB && len(f.lanes) > 1 {
		f.kind = plan.SplitCopy // chosen together
	}
	l = append(append(l, link{fork: f}), b.runs(sp.To)...)
	if x := b.stage(plan.Node{Stop: sp.To}); x != nil && sp.To != sp.Divider() {
		l = append(l, link{stage: x})
	}
	return l
}

// joinName is what the lanes of a split come together in.
func (b *building) joinName(sp *plan.Split) string {
	if g, ok := b.plan.FindGear(sp.To.Gear()); ok {
		return g.Name
	}
	return "a Y lead"
}

// tapped is the lane of a tap, where it sounds, and whether what follows the tap sounds.
func (b *building) tapped(sp *plan.Split) (lane line, rest bool) {
	sounds, rest := b.plan.Sounding(sp, b.set)
	if !sounds[0] {
		return nil, rest
	}
	return append(b.line(sp.Lanes[0].Nodes, false), b.runs(electric.LaneEnd(sp.ID, 0))...), rest
}

// heardTap reports whether the lane of a tap is heard beside the main path: where something chooses it, or
// where it has a source of its own.
func (b *building) heardTap(sp *plan.Split) bool {
	if nodes := sp.Lanes[0].Nodes; len(nodes) == 0 || b.endsUnheard(nodes[len(nodes)-1]) {
		return false
	}
	_, chosen := b.plan.ChoiceOf(sp)
	g, ok := b.plan.FindGear(sp.From.Gear())
	own := ok && slices.ContainsFunc(g.Pickups, func(p plan.Pickup) bool { return p.Jack == plan.ID(sp.From.Rest()) })
	return chosen || own
}

// endsUnheard reports whether a lane that ends at a node ends in a tuner.
func (b *building) endsUnheard(last plan.Node) bool {
	x := b.rendering.stage(last, b.set)
	return x != nil && x.effect == plan.EffectTuner
}

// tapLink is a tap as a link, where there is anything to it.
func tapLink(key plan.Key, name string, lane line, rest, heard bool) line {
	f := &fork{key: key, names: []string{name}, kind: plan.SplitTap, muted: !rest, heard: heard && len(lane) > 0}
	if len(lane) > 0 {
		f.lanes = []line{lane}
	}
	if len(f.lanes) == 0 && !f.muted {
		return nil
	}
	return line{{fork: f}}
}

func (b *building) stage(n plan.Node) *stage {
	x := b.rendering.stage(n, b.set)
	if x != nil {
		x.solved = b.circuit.Solved[x.key]
	}
	return x
}

// stage is a block as it is set.
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
		key: n.Stop, name: g.StopName(b), effect: b.Effect, amp: g.Kind == plan.Amp,
		set: settings{gear: g, block: b, at: s.At},
		on:  b.Bypass == plan.AlwaysOn || s.At(plan.OnKey(g.ID, b.ID)).IsOn(), turns: b.Inverts, sum: n.Takes == "sum",
		narrow: b.Inputs != "stereo" && b.Outputs != "stereo" && makesOne(b.Effect) ||
			b.Inputs != "stereo" && (b.Effect == plan.EffectPreamp || b.Effect == plan.EffectPower),
		sums:  b.Inputs == "stereo" && b.Outputs != "stereo" && !ends(b.Effect),
		hears: n.KeyIn,
	}
	if b.LatencyMS != nil && (x.on || b.Bypass != plan.TrueBypass) {
		x.delayMS = *b.LatencyMS
	}
	return x
}

// makesOne reports whether an effect with one input and one output makes one of two sides. What is only a filter or a
// level is taken to be there twice.
func makesOne(e plan.Effect) bool {
	t := e.Traits()
	return t.Clips || t.Nature == plan.NaturePitch || t.Nature == plan.NatureModulation || t.Nature == plan.NatureTime
}

// ends reports whether an effect is where a chain is handed on, each side by itself.
func ends(e plan.Effect) bool {
	return e.Traits().Ends || e == plan.EffectPower || e == plan.EffectTuner
}

// meetsSpeaker reports whether a speaker, a load or a simulator of one comes after.
func meetsSpeaker(p *plan.Plan, nodes []plan.Node) bool {
	for _, key := range plan.StopsIn(nodes) {
		if g, ok := p.FindGear(key.Gear()); ok {
			if b, ok := g.FindBlock(plan.ID(key.Rest())); ok &&
				(b.Effect == plan.EffectSpeaker || b.Effect == plan.EffectCab || b.Effect == plan.EffectLoad) {
				return true
			}
		}
	}
	return false
}

// ownSpeakerID is that of a speaker which stands in no path.
const ownSpeakerID plan.ID = "speaker"

// ownSpeaker is the speaker of an amp's own, which stands in no path.
func (r *rendering) ownSpeaker(power *stage) *stage {
	block := plan.Block{ID: ownSpeakerID, Name: "speaker", Effect: plan.EffectSpeaker, Bypass: plan.AlwaysOn}
	if g := power.set.gear; g.SpeakerOut == nil || !g.SpeakerOut.Internal {
		words := g.Name + " has no speaker in the chain; an open-backed one is taken."
		if !slices.Contains(r.assumed, words) {
			r.assumed = append(r.assumed, words)
		}
	}
	return &stage{
		key: power.key + "/speaker", name: power.set.gear.Name + " speaker", effect: plan.EffectSpeaker, on: true,
		set: settings{gear: power.set.gear, block: &block, at: power.set.at},
	}
}

// parallelLoop makes the stops between an amp's sections a lane beside the dry signal, where its
// loop is parallel.
func (r *rendering) parallelLoop(l line) line {
	pre := slices.IndexFunc(
		l, func(x link) bool { return x.stage != nil && x.stage.amp && x.stage.effect == plan.EffectPreamp },
	)
	if pre < 0 || l[pre].stage.set.gear.Loop == nil || l[pre].stage.set.gear.Loop.Kind != "parallel" {
		return l
	}
	power := slices.IndexFunc(l, func(x link) bool {
		return x.stage != nil && x.stage.effect == plan.EffectPower && x.stage.set.gear == l[pre].stage.set.gear
	})
	for power > 0 && l[power-1].stage != nil && l[power-1].stage.run != nil {
		power-- // what leads to the power section carries both
	}
	if power < pre+2 {
		return l
	}
	f := &fork{
		kind: plan.SplitCopy, join: plan.JoinSum, lanes: []line{nil, slices.Clone(l[pre+1 : power])}, sides: []int{0, 1},
		names: []string{"dry", "loop"},
	}
	return slices.Concat(l[:pre+1], line{{fork: f}}, l[power:])
}
