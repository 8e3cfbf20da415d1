package electric

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"envex/core/path"
	"envex/core/plan"
)

// What is taken where nobody has said.
const (
	usualInputOhm  = 1e6
	usualOutputOhm = 1e3
	usualPFPerM    = 100.0
	usualBypassPF  = 30.0
	usualPedalOhm  = 250e3 // of a passive volume pedal's pot
	patchM         = 0.3   // of the cable a buffer that is tried brings with it
)

// segment is a passive run: from the pickup, or from an active output, to the next active input.
type segment struct {
	from    plan.Key // what drives it; the guitar for the first
	fromOhm float64  // its output resistance; 0 for the guitar
	parts   network
	to      plan.Key // whose active input ends it; "" where nothing does
	toOhm   float64
	ended   bool
	first   bool   // the pickups drive it
	cables  []span // that hang on it
}

// copy is the segment as it is now: what is added to either is not added to the other.
func (s segment) copy() segment {
	s.parts, s.cables = slices.Clone(s.parts), slices.Clone(s.cables)
	return s
}

// span names a cable by its ends.
type span struct{ from, to plan.Key }

// wiring is what all sounds of a rig share: its cables and what was assumed.
type wiring struct {
	plan    *plan.Plan
	rig     *plan.Rig
	line    []plan.Node
	cables  map[span]float64 // farad
	blocks  map[plan.Key]owned
	tapped  map[plan.ID][]*plan.Split // the taps of each box
	assumed []string
	trying  bool // what is assumed has been said: the chain has been walked as it stands
}

// owned is a block with the gear it is in.
type owned struct {
	gear  *plan.Gear
	block *plan.Block
	on    plan.Key // its switch
}

func wire(p *plan.Plan, r *plan.Rig, c *path.Cables) *wiring {
	w := &wiring{
		plan: p, rig: r, line: p.FromTheGuitar(r.Path),
		cables: map[span]float64{}, blocks: map[plan.Key]owned{}, tapped: map[plan.ID][]*plan.Split{},
	}
	for _, key := range r.Stops() {
		if g, ok := p.FindGear(key.Gear()); ok {
			if b, ok := g.FindBlock(plan.ID(key.Rest())); ok {
				w.blocks[key] = owned{g, b, plan.OnKey(g.ID, b.ID)}
			}
		}
	}
	w.findTaps(r.Path)
	unknown, guessed := false, false
	for _, run := range c.Runs {
		guessed = guessed || run.Assumed && run.LengthM > 0
		at := span{run.From.Place, run.To.Place}
		if _, twice := w.cables[at]; twice {
			continue // the other side of a stereo pair
		}
		perM := usualPFPerM
		if g, ok := p.FindGear(run.Cable); ok && g.Cable != nil && g.Cable.PFPerM != nil {
			perM = *g.Cable.PFPerM
		} else {
			unknown = true
		}
		w.cables[at] = perM * run.LengthM * 1e-12
	}
	if guessed {
		w.assume(
			"Cables of which neither the length nor the places of both ends are known are taken at the usual length: 6 m to a guitar or an amp, 0.3 m between boxes.",
		)
	}
	if unknown {
		w.assume("Cable of which nobody has said more is taken to have %g pF a metre.", usualPFPerM)
	}
	return w
}

func (w *wiring) assume(format string, args ...any) {
	if w.trying {
		return
	}
	if text := fmt.Sprintf(format, args...); !slices.Contains(w.assumed, text) {
		w.assumed = append(w.assumed, text)
	}
}

// trial is what is tried and not in the plan: a buffer before one node of the chain, the guitar's
// volume at another turn.
type trial struct {
	buffer plan.Key
	volume *float64 // 0 to 10

	without cause // what is left out, to see what is its doing
}

// cause is something that takes treble, and that is left out to see how much.
type cause int

const (
	nothing   cause = iota
	theCable        // of the pickups' run
	theBoxes        // switched-off true-bypass boxes in it
	theVolume       // the guitar's volume, turned up
	theTone         // the guitar's tone control, turned up
	theInput        // the input it ends at, of 1 Mohm instead
)

// walker follows a chain as it is set and gathers its segments.
type walker struct {
	*wiring
	set    plan.Setting
	try    trial
	tail   plan.Key   // the output that is still to be plugged in
	meet   []plan.Key // what meets it by a Y lead
	node   plan.Key   // of the path, which the signal has come to
	segs   []segment
	ended  bool       // it has come to a power section or a speaker
	source instrument // what drives the first run
	all    *Circuit   // every run of every lane is noted there; nil where the first lane is enough

	places map[plan.Key]bool   // where a buffer is tried beside the chain as it stands
	parted map[plan.Key]parted // what comes of it
	once   bool                // it goes no further than the first active input behind the buffer
	over   bool                // it has come there
}

// walk gives the segments of the rig's chain as it is set, along the first lane of each split, and
// the instrument at its head.
func (w *wiring) walk(set plan.Setting, try trial) ([]segment, instrument) {
	return (&walker{wiring: w, set: set, try: try}).follow(w.instrument(set, try))
}

// instrument is what drives the first run of a chain as it is set.
func (w *wiring) instrument(set plan.Setting, try trial) instrument {
	var guitar *plan.Gear
	if g, ok := w.plan.FindGear(set.Guitar); ok {
		guitar = g
	}
	source := instrumentOf(guitar, set, w.assume)
	if try.volume != nil {
		source.knobs.volume = *try.volume / 10
	}
	switch try.without {
	case theVolume:
		source.knobs.volume = 1
	case theTone:
		source.knobs.tone = 1
	}
	return source
}

// follow gathers the segments from an instrument on.
func (x *walker) follow(source instrument) ([]segment, instrument) {
	if len(x.rig.Guitars) > 0 {
		x.tail = plan.Key(x.rig.Guitars[0])
	}
	x.source = source
	x.segs = []segment{{from: plan.Key(x.set.Guitar), first: true, parts: source.ladder(source.knobs)}}
	x.follows(x.wiring.line)
	x.open("")
	x.segs = unplugged(x.segs)
	return x.segs, x.source
}

func (x *walker) now() *segment { return &x.segs[len(x.segs)-1] }

func (x *walker) add(p ...part) { x.now().parts = append(x.now().parts, p...) }

// load hangs a capacitance on the line: what hangs at one point adds up.
func (x *walker) load(farad float64) {
	s := x.now()
	if last := len(s.parts) - 1; last >= 0 {
		if c, ok := s.parts[last].(across); ok && math.IsInf(c.ohm, 1) {
			s.parts[last] = capacitor(c.farad + farad)
			return
		}
	}
	x.add(capacitor(farad))
}

// cable plugs what is open into a place: where lanes meet by a Y lead, the end of each.
func (x *walker) cable(to plan.Key) {
	x.plug(span{x.tail, to})
	for _, from := range x.meet {
		x.plug(span{from, to})
	}
	x.meet = nil
}

func (x *walker) plug(at span) {
	if x.try.without == theCable && x.now().first {
		return
	}
	if farad := x.cables[at]; farad > 0 {
		x.load(farad)
		if !x.trying { // which they are is asked of the chain as it stands
			x.now().cables = append(x.now().cables, at)
		}
	}
}

// active ends the run at an active input, and begins the next at its output.
func (x *walker) active(key plan.Key, inOhm, inFarad, outOhm float64) {
	s := x.now()
	if x.try.without == theInput && s.first {
		inOhm, inFarad = usualInputOhm, 0
	}
	s.parts = append(s.parts, across{inOhm, inFarad})
	s.to, s.toOhm, s.ended = key, inOhm, true
	before := key
	if _, block := x.blocks[key]; !block {
		before = x.node
	}
	x.note(before)
	x.segs = append(x.segs, segment{from: key, fromOhm: outOhm, parts: network{inLine(outOhm)}})
	if x.once && key != tried {
		x.over, x.ended = true, true
	}
}

// loopPlace names a loop of a switcher.
type loopPlace struct {
	switcher plan.ID
	loop     int
}

// follows goes along the nodes of a line: where they stand in loops of a switcher that is off, past them.
func (x *walker) follows(nodes []plan.Node) {
	x.goOn(nodes, progress{engaged: true, visited: map[plan.ID]bool{}})
}

// goOn follows the nodes of a line from where a walk has come to.
func (x *walker) goOn(nodes []plan.Node, p progress) {
	for ; p.at < len(nodes); p.at++ {
		if x.ended {
			return
		}
		n := nodes[p.at]
		x.part(nodes, p)
		x.node = n.ID()
		if at := (loopPlace{n.Switcher, n.Loop}); at != p.in {
			x.leave(p.in, p.engaged, at.switcher, nodes[p.at:])
			x.tryBefore(n)
			p.engaged = x.enter(at, p.in.switcher == at.switcher, p.visited, nodes)
			p.in = at
		} else if p.in.switcher == "" {
			x.tryBefore(n)
		}
		switch {
		case !p.engaged || x.ended:
		case n.Split != nil:
			x.split(n)
		default:
			x.stop(n)
		}
	}
	if !x.ended {
		x.leave(p.in, p.engaged, "", nil)
	}
}

// jack is a jack of a switcher as a place.
func jack(switcher plan.ID, name string) plan.Key { return plan.BlockKey(switcher, plan.ID(name)) }

// enter goes into a switcher, and out of the loop's send where the loop is on.
func (x *walker) enter(at loopPlace, inside bool, visited map[plan.ID]bool, nodes []plan.Node) (engaged bool) {
	if at.switcher == "" {
		return true
	}
	if !inside {
		name := "input"
		if visited[at.switcher] {
			name = "insert return"
		}
		x.cable(jack(at.switcher, name))
		if g, ok := x.plan.FindGear(at.switcher); ok && g.Switcher != nil && g.Switcher.Buffered && !visited[at.switcher] {
			x.active(plan.Key(at.switcher), usualInputOhm, 0, usualOutputOhm)
		}
		visited[at.switcher] = true
		x.tail = ""
	}
	if x.loopOn(at, nodes) {
		x.tail = jack(at.switcher, fmt.Sprintf("send %d", at.loop))
		return true
	}
	return false
}

// leave comes back from a loop, and out of the switcher where the next node is not in it.
func (x *walker) leave(from loopPlace, engaged bool, next plan.ID, rest []plan.Node) {
	if from.switcher == "" {
		return
	}
	if engaged {
		x.cable(jack(from.switcher, fmt.Sprintf("return %d", from.loop)))
	}
	if next == from.switcher {
		return
	}
	name := "output"
	if slices.ContainsFunc(rest, func(n plan.Node) bool { return n.Switcher == from.switcher }) {
		name = "insert send"
	}
	x.tail = jack(from.switcher, name)
}

// loopOn reports whether a loop is in the chain: held on, or with a block in it that is on.
func (x *walker) loopOn(at loopPlace, nodes []plan.Node) bool {
	if x.rig.IsHeld(at.switcher, at.loop) {
		return true
	}
	for _, n := range nodes {
		if n.Switcher != at.switcher || n.Loop != at.loop {
			continue
		}
		for _, key := range plan.StopsIn([]plan.Node{n}) {
			if _, b, ok := x.block(key); ok && (b.Bypass == plan.AlwaysOn || x.set.At(x.blocks[key].on).IsOn()) {
				return true
			}
		}
	}
	return false
}

func (w *wiring) block(key plan.Key) (*plan.Gear, *plan.Block, bool) {
	o, ok := w.blocks[key]
	return o.gear, o.block, ok
}

// tryBefore puts the buffer that is tried before a node. It stands on the board: the cable that was
// there goes into it, and a patch cable out of it, but for the run to an amp, which goes out of it.
func (x *walker) tryBefore(n plan.Node) {
	if x.try.buffer == "" || n.ID() != x.try.buffer {
		return
	}
	to := n.ID()
	if n.Split != nil {
		to = n.Split.Divider()
	}
	if n.Switcher != "" {
		to = jack(n.Switcher, "input")
	}
	patch := patchM * usualPFPerM * 1e-12
	run := x.cables[span{x.tail, to}]
	from, _ := x.plan.FindGear(x.tail.Gear())
	amp, _ := x.plan.FindGear(to.Gear())
	fromBoard := from != nil && from.Kind != plan.Guitar
	if fromBoard && amp != nil && amp.Kind == plan.Amp {
		run, patch = patch, run
	}
	x.load(run)
	x.active(tried, usualInputOhm, 0, usualOutputOhm)
	x.load(patch)
	x.tail = ""
}

// stop follows the signal through one block.
func (x *walker) stop(n plan.Node) {
	g, b, ok := x.block(n.Stop)
	if !ok || g.Kind == plan.Guitar && g.ID != x.set.Guitar {
		return // the other guitar's own boost
	}
	x.cable(n.Stop)
	on := b.Bypass == plan.AlwaysOn || x.set.At(x.blocks[n.Stop].on).IsOn()
	switch {
	case b.Effect == plan.EffectSpeaker || b.Effect == plan.EffectLoad:
		x.ended = true
	case passiveVolume(b):
		x.taps(g)
		x.volume(g, b)
		x.solved(n.Stop)
	case b.Passive:
		if b.InputOhm != nil {
			x.add(across{*b.InputOhm, or(b.InputPF, 0) * 1e-12})
		}
		x.taps(g)
		if b.Effect == plan.EffectDI {
			s := x.now()
			s.to, s.toOhm, s.ended = n.Stop, or(b.InputOhm, math.Inf(1)), true
			x.ended = true
			x.note(n.Stop)
		}
	case b.Bypass == plan.TrueBypass && !on:
		if b.BypassPF == nil {
			x.assume("Switched-off boxes of which nobody has said more are taken to have %g pF.", usualBypassPF)
		}
		if x.try.without != theBoxes || !x.now().first {
			x.load(or(b.BypassPF, usualBypassPF) * 1e-12)
		}
		x.taps(g)
	default:
		x.active(n.Stop, x.inputOhm(g, b), or(b.InputPF, 0)*1e-12, x.outputOhm(g, b))
		x.ended = x.over || b.Effect == plan.EffectPower
	}
	x.tail = n.Stop
}

// passiveVolume reports whether a block is a volume pedal of nothing but a pot. One that is always
// on and has no input of a known resistance is taken for one.
func passiveVolume(b *plan.Block) bool {
	return b.Effect == plan.EffectVolume && (b.Passive || b.Bypass == plan.AlwaysOn && b.InputOhm == nil)
}

func (x *walker) volume(g *plan.Gear, b *plan.Block) {
	pot := plan.Pot{Ohm: usualPedalOhm}
	if b.Pot != nil {
		pot = *b.Pot
	} else {
		x.assume("The pot of %s is not known; %.0f kohm, audio taper, is taken.", g.StopName(b), usualPedalOhm/1000)
	}
	x.add(divider(pot, turnOf(b.Controls, plan.BlockKey(g.ID, b.ID), pot.Control, "position", x.set), nil)...)
}

// lowInputOhm is what the second input jack of an amp loads with: its two 68 kohm resistors in a row to earth, half of
// whose voltage goes on.
const lowInputOhm = 136e3

// inLow reports whether an amp with a choice of inputs is plugged into the low one.
func (x *walker) inLow(g *plan.Gear, b *plan.Block) bool {
	return b.Effect == plan.EffectPreamp && slices.ContainsFunc(b.Controls, func(c plan.Control) bool {
		return c.Kind == plan.Selector && (c.ID == "input" || strings.EqualFold(c.Name, "input")) &&
			strings.EqualFold(x.set.At(plan.BlockKey(g.ID, b.ID)+"/"+plan.Key(c.ID)).Word(), "low")
	})
}

func (x *walker) inputOhm(g *plan.Gear, b *plan.Block) float64 {
	if x.inLow(g, b) {
		return lowInputOhm
	}
	if b.InputOhm == nil {
		x.assume("The input of %s is not known; %g Mohm is taken.", g.StopName(b), usualInputOhm/1e6)
	}
	return or(b.InputOhm, usualInputOhm)
}

func (x *walker) outputOhm(g *plan.Gear, b *plan.Block) float64 {
	if b.OutOhm == nil && b.Effect != plan.EffectPower {
		x.assume("The output resistance of %s is not known; %g kohm is taken.", g.StopName(b), usualOutputOhm/1e3)
	}
	return or(b.OutOhm, usualOutputOhm)
}
