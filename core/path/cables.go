package path

import (
	"fmt"
	"math"
	"strings"

	"envex/core/floor"
	"envex/core/plan"
)

// Cables is every cable of a rig, derived from its path.
type Cables struct {
	Runs    []Run         `json:"runs"`
	Sends   []Send        `json:"sends" doc:"Where the signal leaves the rig."`
	Control []ControlLead `json:"control" doc:"Leads that carry no sound."`
	Leads   int           `json:"leads" doc:"How many leads there are but for power: a stereo run is two."`
	TotalM  float64       `json:"total_m" doc:"Length of these leads together. Leads for power come with the supply."`
	Assumed []string      `json:"assumed,omitempty" doc:"What was assumed, in words."`
}

// Run is one cable from a jack to a jack.
type Run struct {
	From    End     `json:"from"`
	To      End     `json:"to"`
	LengthM float64 `json:"length_m"`
	Assumed bool    `json:"assumed,omitempty" doc:"The length is the usual one, because where the ends are is not known."`
	Plugs   string  `json:"plugs"`
	Stereo  bool    `json:"stereo,omitempty" doc:"Two leads, or one with three poles."`
	Level   string  `json:"level" enum:"instrument,line,speaker"`
	YLead   bool    `json:"y_lead,omitempty" doc:"It shares a jack with another by a Y lead."`
	Cable   plan.ID `json:"cable,omitempty" doc:"The stock it is cut from, or the made-up lead it is."`
}

// Channels is whether it carries one side or both: mono or stereo.
func (r Run) Channels() string {
	if r.Stereo {
		return "stereo"
	}
	return "mono"
}

// Leads is how many leads it is: a stereo one is two.
func (r Run) Leads() int {
	if r.Stereo {
		return 2
	}
	return 1
}

// End is a jack of a piece of gear.
type End struct {
	Gear  plan.ID  `json:"gear"`
	Name  string   `json:"name"`
	Jack  string   `json:"jack"`
	Place plan.Key `json:"place" doc:"gear/block, a guitar, or gear/jack of a loop switcher or a tap."`

	Socket plan.ID `json:"-"` // the jack among those the gear lists; none where it lists no such
}

// DeriveCables lists the cables of a rig at one of its destinations, or as it stands when that
// is "", in signal order: from the first guitar through the chain, its lanes and the loops of
// its switchers. Blocks of one box that follow each other need none between them. The plan
// must be valid. It fails when there is no such rig or destination.
//
// A cable's length is the Manhattan run between the jacks' sides of the boxes as they stand,
// with 20 mm for each plug and a tenth in hand, rounded up to 5 cm. What the player says of a cable
// goes before that.
func DeriveCables(p *plan.Plan, rig, destination plan.ID) (*Cables, error) {
	there, err := p.At(rig, destination)
	if err != nil {
		return nil, fmt.Errorf("path: %w", err)
	}
	r, _ := there.FindRig(rig)
	return cablesOf(there, r), nil
}

func cablesOf(p *plan.Plan, r *plan.Rig) *Cables {
	lay := floor.Lay(p, r)
	j := newJudge(p, r, nil, r.Path, nil)
	w := &wiring{
		plan: p, judge: j, floor: &lay, out: &Cables{Runs: []Run{}, Sends: []Send{}, Control: []ControlLead{}},
		level: map[plan.Key]Traced{},
	}
	for _, t := range j.trace.stops {
		w.level[t.Stop] = t
	}
	var start []tail
	if len(r.Guitars) > 0 {
		if g, ok := p.FindGear(r.Guitars[0]); ok {
			start = []tail{{end: end{gear: g, jack: "output", long: true}, level: instrument}}
		}
	}
	w.leaves(w.line(p.FromTheGuitar(r.Path), start), "")
	w.controlLeads()
	for _, x := range w.out.Runs {
		w.out.Leads += x.Leads()
		w.out.TotalM += x.LengthM * float64(x.Leads())
	}
	for _, x := range w.out.Control {
		if x.Kind != PowerLead {
			w.out.Leads++
			w.out.TotalM += x.LengthM
		}
	}
	w.out.TotalM = math.Round(w.out.TotalM*100) / 100
	return w.out
}

type wiring struct {
	plan  *plan.Plan
	judge *judge
	floor *floor.Plan
	out   *Cables
	said  map[string]bool
	level map[plan.Key]Traced
}

// end is a jack with what its length depends on.
type end struct {
	gear *plan.Gear
	jack string
	id   plan.ID // of the jack, where the gear lists it
	long bool    // it is away from the board: a guitar, an amp

	block plan.ID // the block it belongs to; none of a guitar, a switcher or a tap
}

// place names an end for what the player says of its cable.
func (e end) place() plan.Key {
	switch {
	case e.block != "":
		return plan.BlockKey(e.gear.ID, e.block)
	case e.gear.Kind == plan.Guitar:
		return plan.Key(e.gear.ID)
	}
	return plan.BlockKey(e.gear.ID, plan.ID(e.jack))
}

// tail is an output that something is still to be plugged into.
type tail struct {
	end
	stop   *stop // what it comes out of; nil for a guitar or a switcher
	stereo bool
	level  string
}

// line wires the nodes of a line and gives the outputs at its end.
func (w *wiring) line(nodes []plan.Node, tails []tail) []tail {
	var in loopID // the loop the signal is in
	visited := map[plan.ID]bool{}
	for i, n := range nodes {
		at := loopID{n.Switcher, n.Loop}
		if at != in {
			if in.switcher != "" {
				tails = w.leaveLoop(in, tails, at.switcher, nodes[i:])
			}
			if at.switcher != "" {
				tails = w.enterLoop(at, tails, in.switcher == at.switcher, visited)
			}
			in = at
		}
		if n.Split != nil {
			tails = w.split(n, tails)
		} else if s := w.judge.find(n.Stop); s != nil {
			w.connect(tails, s, "in", "input")
			tails = []tail{w.after(s, w.level[s.key])}
		}
	}
	if in.switcher != "" {
		tails = w.leaveLoop(in, tails, "", nil)
	}
	return tails
}

// enterLoop plugs into a switcher, unless the signal is in it already, and goes out of the
// loop's send.
func (w *wiring) enterLoop(at loopID, tails []tail, inside bool, visited map[plan.ID]bool) []tail {
	g, ok := w.plan.FindGear(at.switcher)
	if !ok {
		return tails
	}
	level, stereo := instrument, false
	for _, t := range tails {
		level, stereo = t.level, t.stereo && g.Switcher.Loops[at.loop-1].Stereo
	}
	if !inside {
		jack := "input"
		if visited[g.ID] {
			jack = "insert return"
		}
		visited[g.ID] = true
		w.plug(tails, switcherEnd(g, jack), false, stereo)
	}
	return []tail{{end: switcherEnd(g, fmt.Sprintf("send %d", at.loop)), level: level, stereo: stereo}}
}

// leaveLoop plugs into the loop's return. Where the signal leaves the switcher it does so by
// its output, or by an insert when it comes back later on this line.
func (w *wiring) leaveLoop(from loopID, tails []tail, next plan.ID, rest []plan.Node) []tail {
	g, ok := w.plan.FindGear(from.switcher)
	if !ok {
		return tails
	}
	level, stereo := instrument, false
	for _, t := range tails {
		level, stereo = t.level, t.stereo && g.Switcher.Loops[from.loop-1].Stereo
	}
	w.plug(tails, switcherEnd(g, fmt.Sprintf("return %d", from.loop)), false, stereo)
	jack := "output"
	for _, n := range rest {
		if n.Switcher == from.switcher && next != from.switcher {
			jack = "insert send"
		}
	}
	return []tail{{end: switcherEnd(g, jack), level: level, stereo: stereo}}
}

// switcherEnd is a jack of a loop switcher by its usual name: one that it lists under it, or under the usual id.
func switcherEnd(g *plan.Gear, name string) end {
	e := end{gear: g, jack: name}
	id := map[string]string{"input": "in", "output": "out"}[name]
	if id == "" {
		id = strings.ReplaceAll(name, " ", "-")
	}
	for _, j := range g.Jacks {
		if string(j.ID) == id || strings.EqualFold(j.Name, name) {
			e.id = j.ID
		}
	}
	return e
}

// split wires what divides the signal, the lanes, and what joins them.
func (w *wiring) split(n plan.Node, tails []tail) []tail {
	s := n.Split
	divider := w.judge.find(s.Divider())
	if divider != nil {
		w.connect(tails, divider, "in", "input")
	}
	ends := make([][]tail, len(s.Lanes))
	for i, lane := range s.Lanes {
		ends[i] = w.line(lane.Nodes, w.laneStart(n, i, tails, divider))
	}
	mixer := w.judge.find(s.To)
	switch {
	case s.Kind == plan.SplitTap:
		if w.plan.IsOutput(s) {
			w.leaves(ends[0], w.plan.LaneName(s, 0))
		}
		return tails
	case s.Join == "":
		for i := range s.Lanes {
			w.leaves(ends[i], w.plan.LaneName(s, i))
		}
		return nil
	case mixer != nil:
		for i := range ends {
			w.connect(ends[i], mixer, fmt.Sprintf("in-%d", i+1), w.returnName(mixer == divider, i))
		}
		return []tail{w.after(mixer, w.level[n.ID()])}
	}
	var all []tail
	for _, e := range ends {
		all = append(all, e...)
	}
	return all
}

func (w *wiring) returnName(oneBox bool, lane int) string {
	if oneBox {
		return fmt.Sprintf("return %d", lane+1)
	}
	return fmt.Sprintf("input %d", lane+1)
}

// laneStart is what the first box of a lane is plugged into.
func (w *wiring) laneStart(n plan.Node, lane int, tails []tail, divider *stop) []tail {
	s := n.Split
	level := w.level[n.ID()].LevelIn
	switch {
	case s.Kind == plan.SplitTap:
		g, ok := w.plan.FindGear(s.From.Gear())
		if !ok {
			return nil
		}
		e := end{
			gear: g, jack: s.From.Rest(), block: plan.ID(s.From.Rest()), long: g.Kind == plan.Amp || g.Kind == plan.Guitar,
		}
		for _, j := range g.Jacks {
			if string(j.ID) == s.From.Rest() {
				e.id = j.ID
				if j.Name != "" {
					e.jack = j.Name
				}
			}
		}
		return []tail{{end: e, level: level}}
	case divider != nil:
		e := w.jack(divider, fmt.Sprintf("out-%d", lane+1), fmt.Sprintf("output %d", lane+1))
		return []tail{{end: e, stop: divider, level: level, stereo: divider.stereoOut() && s.Kind != plan.SplitLeftRight}}
	case s.Kind == plan.SplitLeftRight && len(tails) == 2:
		return tails[lane : lane+1]
	case s.Kind == plan.SplitLeftRight && len(tails) == 1:
		t := tails[0]
		t.stereo = false
		side := []string{"left", "right"}[lane]
		if t.stop != nil {
			t.end = w.jack(t.stop, "out-"+side[:1], "output "+side)
		}
		return []tail{t}
	}
	return tails
}

// after is the output of a stop, with what was traced there.
func (w *wiring) after(s *stop, traced Traced) tail {
	t := tail{stop: s, stereo: traced.Out == 2, level: traced.LevelOut}
	switch {
	case s.isAmp() && s.is(plan.EffectPower):
		t.end = end{gear: s.gear, jack: "speaker out", long: true, block: s.block.ID}
	case s.gear.Kind == plan.Guitar:
		t.end = end{gear: s.gear, jack: "output", long: true, block: s.block.ID}
	case s.isAmp():
		t.end = end{gear: s.gear, jack: "send", long: true, block: s.block.ID}
	default:
		t.end = w.jack(s, "out", "output")
	}
	if t.level == "" {
		t.level = instrument
	}
	return t
}

// connect plugs outputs into a stop: two outputs go into its two sides, where it has them.
func (w *wiring) connect(tails []tail, s *stop, id, name string) {
	to := w.input(s, id, name)
	for _, t := range tails {
		w.loopAssumed(t.stop, s)
	}
	if len(tails) == 2 && s.block.Inputs == "stereo" {
		for k, side := range []string{"left", "right"} {
			w.plug(tails[k:k+1], w.input(s, id+"-"+side[:1], name+" "+side), true, false)
		}
		return
	}
	w.plug(tails, to, false, s.block.Inputs == "stereo")
}

// plug makes the cables from outputs to one input; several meet there by a Y lead.
func (w *wiring) plug(tails []tail, to end, side, stereo bool) {
	for _, t := range tails {
		if t.gear == to.gear && !side && len(tails) == 1 && (t.stop != nil || t.gear.Kind == plan.Guitar) {
			continue // within one box
		}
		w.run(t.end, to, t.stereo && stereo, t.level, len(tails) > 1)
	}
}

func (w *wiring) input(s *stop, id, name string) end {
	if s.isAmp() {
		jack := "input"
		if !s.is(plan.EffectPreamp) {
			jack = "return"
		}
		return end{gear: s.gear, jack: jack, long: true, block: s.block.ID}
	}
	return w.jack(s, id, name)
}

// jack is a box's jack: that of the block, where its jacks are told apart, else by the usual
// ids, else by the usual name.
func (w *wiring) jack(s *stop, id, name string) end {
	is := func(j plan.Jack, want string) bool { return string(j.ID) == want }
	if out := strings.HasPrefix(id, "out"); standsApart(s) {
		is = func(j plan.Jack, want string) bool {
			first := strings.HasPrefix(string(j.ID), "out") || strings.HasPrefix(string(j.ID), "send")
			return j.Block == s.block.ID && first == out
		}
	}
	for _, want := range []string{id, id + "-l", strings.TrimSuffix(id, "-1")} {
		for _, j := range s.gear.Jacks {
			if !is(j, want) {
				continue
			}
			if j.Name != "" {
				name = j.Name
			}
			return end{gear: s.gear, jack: name, id: j.ID, long: s.ends() && s.gear.Kind == plan.Amp, block: s.block.ID}
		}
	}
	return end{gear: s.gear, jack: name, long: s.is(plan.EffectSpeaker, plan.EffectLoad), block: s.block.ID}
}

// loopAssumed says what is assumed about an amp's loop whose level is not known.
func (w *wiring) loopAssumed(from, to *stop) {
	for _, s := range []*stop{from, to} {
		if s == nil || (from != nil && to != nil && from.gear == to.gear) {
			continue
		}
		inLoop := s.isAmp() && (s == from && s.is(plan.EffectPreamp) || s == to && !s.is(plan.EffectPreamp))
		if inLoop && s.gear.Loop != nil && s.gear.Loop.LevelDB == nil {
			w.assume(fmt.Sprintf("The level of %s's loop is not known; instrument level is assumed.", s.gear.Name))
		}
	}
}

func (w *wiring) assume(text string) {
	if w.said == nil {
		w.said = map[string]bool{}
	}
	if !w.said[text] {
		w.said[text] = true
		w.out.Assumed = append(w.out.Assumed, text)
	}
}

func (w *wiring) run(from, to end, stereo bool, level string, y bool) {
	x := Run{
		From: endOf(from), To: endOf(to),
		Plugs: "straight", Stereo: stereo, Level: level, YLead: y || w.taken(from),
	}
	if level == speaker {
		x.Plugs = "speaker"
	}
	ax, ay, ok := w.place(from)
	bx, by, ok2 := w.place(to)
	switch {
	case from.long || to.long:
		x.LengthM, x.Assumed = longRunM, true
	case ok && ok2:
		x.LengthM = cut(math.Abs(ax-bx) + math.Abs(ay-by))
	default:
		x.LengthM, x.Assumed = shortRunM, true
	}
	if !from.long && !to.long && level != speaker {
		x.Plugs = "flat"
	}
	w.applyLeads(&x, from.long || to.long)
	w.out.Runs = append(w.out.Runs, x)
}

// taken reports whether a cable leaves that output already: then a Y lead shares it.
func (w *wiring) taken(from end) bool {
	for i := range w.out.Runs {
		if x := &w.out.Runs[i]; x.From.Gear == from.gear.ID && x.From.Jack == from.jack {
			x.YLead = true
			return true
		}
	}
	return false
}
