package choose

import (
	"context"
	"fmt"
	"slices"

	"envex/core/catalog"
	"envex/core/path"
	"envex/core/plan"
	"envex/core/reason"
	"envex/core/signal"
)

// Box is one box of the pile.
type Box struct {
	Gear   plan.ID `json:"gear"`
	Name   string  `json:"name"`
	Kind   string  `json:"kind,omitempty" doc:"The generic kind it would be, where it is not owned."`
	Always bool    `json:"always,omitempty" doc:"Something in it sounds as soon as it is plugged in: it colours every sound."`
}

// pile is the boxes that may be taken, and what stays as it is: guitars, amp and what belongs to neither.
type pile struct {
	plan   *plan.Plan // with the kinds put in
	frame  *plan.Rig
	boxes  []Box
	whole  []plan.Node // the chain with all of the pile in it, in its best order
	stages []stage
	giving map[plan.Effect][]provider
	always boxes // what cannot be off

	partialOrder bool // that order is not proven
}

// stage is a circuit of the pile that can be on, and makes what passes louder or dirtier.
type stage struct {
	key          plan.Key
	box          int
	effect       plan.Effect
	drive, level *plan.Control
	base         place
}

// place is where the knobs of a stage stand.
type place struct{ drive, level float64 }

// provider is a block that gives an effect other than gain.
type provider struct {
	key    plan.Key
	box    int
	effect plan.Effect
}

// frameBox is the place in the pile of what stays as it is.
const frameBox = -1

// newPile reads what may be taken: the pedals that are owned and make something that a sound can ask for or a level,
// and one of each kind that is allowed besides.
func newPile(ctx context.Context, p *plan.Plan, rig plan.ID, o Options) (*pile, error) {
	q := *p
	x := &pile{plan: &q, giving: map[plan.Effect][]provider{}}
	var gear []*plan.Gear
	for i := range p.Gear {
		g := &p.Gear[i]
		if g.Kind == plan.Pedal && useful(g) && (len(o.Pile) == 0 || slices.Contains(o.Pile, g.ID)) {
			gear = append(gear, g)
			x.boxes = append(x.boxes, Box{Gear: g.ID, Name: g.Name})
		}
	}
	for _, id := range o.Kinds {
		kind, ok := catalog.Find(id)
		if !ok {
			return nil, reason.Errorf("there is no kind %q", id)
		}
		if made := kind.In(&q, kindID(&q, id), kind.Name); made.Kind == plan.Pedal && useful(&made) {
			q.Put(made)
			gear = append(gear, &made)
			x.boxes = append(x.boxes, Box{Gear: made.ID, Name: made.Name, Kind: id})
		} else {
			return nil, reason.Errorf("a %s is no box that makes a sound", kind.Name)
		}
	}
	if len(gear) > mostBoxes {
		return nil, reason.Errorf("the pile has %d boxes; %d can be looked at in one go", len(gear), mostBoxes)
	}
	if err := x.read(p, rig, gear); err != nil {
		return nil, err
	}
	return x, x.arrange(ctx, gear)
}

// kindID is a free id for a kind that is not owned.
func kindID(p *plan.Plan, kind string) plan.ID {
	id := plan.ID("kind-" + kind)
	for n := 2; ; n++ {
		if _, taken := p.Find(id); !taken {
			return id
		}
		id = plan.ID(fmt.Sprintf("kind-%s-%d", kind, n))
	}
}

// useful reports whether a box makes something that a sound can need.
func useful(g *plan.Gear) bool {
	return slices.ContainsFunc(g.Blocks, func(b plan.Block) bool { return levels(b.Effect) || b.Effect.Traits().Asked })
}

// levels reports whether an effect is one that makes a sound louder or dirtier: a gain stage, a compressor, an EQ.
func levels(e plan.Effect) bool {
	return e.IsGain() || e == plan.EffectCompressor || e == plan.EffectEQ
}

// read takes up the stages and effects of boxes, and what the rig has that stays.
func (x *pile) read(p *plan.Plan, rig plan.ID, gear []*plan.Gear) error {
	frame, err := frameOf(p, rig)
	if err != nil {
		return err
	}
	x.frame = frame
	for i, g := range gear {
		for k := range g.Blocks {
			b := &g.Blocks[k]
			key := plan.BlockKey(g.ID, b.ID)
			if b.Bypass == plan.AlwaysOn && !b.Effect.Traits().Unheard {
				x.boxes[i].Always = true
				x.always |= 1 << i
			}
			if levels(b.Effect) && b.Bypass != plan.AlwaysOn {
				drive, level := signal.StageKnobs(b)
				s := stage{key: key, box: i, effect: b.Effect, drive: drive, level: level}
				s.base = place{x.stands(s.key, drive), x.stands(s.key, level)}
				x.stages = append(x.stages, s)
				continue
			}
			x.giving[b.Effect] = append(x.giving[b.Effect], provider{key, i, b.Effect})
		}
	}
	for _, key := range frame.Stops() {
		if g, ok := p.FindGear(key.Gear()); ok {
			if b, ok := g.FindBlock(plan.ID(key.Rest())); ok {
				x.giving[b.Effect] = append(x.giving[b.Effect], provider{key, frameBox, b.Effect})
			}
		}
	}
	return nil
}

// stands is where a knob stands in the frame's base, which is that of the rig it was made from.
func (x *pile) stands(stop plan.Key, c *plan.Control) float64 {
	if c == nil {
		return 0
	}
	if v, ok := x.frame.Base[stop+"/"+plan.Key(c.ID)]; ok && v.Kind() == plan.NumberValue {
		return v.Float()
	}
	return c.Initial().Float()
}

// frameOf is a rig without the pedals that are chosen from: guitars, amp, and what else stays as it is, such as a
// tuner. Without a rig it is the first guitar into the first amp.
func frameOf(p *plan.Plan, rig plan.ID) (*plan.Rig, error) {
	if rig == "" {
		f := &plan.Rig{ID: "choice", Name: "Choice"}
		for i := range p.Gear {
			g := &p.Gear[i]
			if g.Kind == plan.Guitar && len(f.Guitars) == 0 {
				f.Guitars = []plan.ID{g.ID}
			}
			if g.Kind == plan.Amp && len(f.Path) == 0 {
				for _, b := range g.Blocks {
					f.Path = append(f.Path, plan.Node{Stop: plan.BlockKey(g.ID, b.ID)})
				}
			}
		}
		if len(f.Path) == 0 {
			return nil, reason.Errorf("there is no amp to play through: put one into the gear, or choose a rig")
		}
		return f, nil
	}
	r, err := p.RigByID(rig)
	if err != nil {
		return nil, fmt.Errorf("choose: %w", err)
	}
	f := *r
	f.Path = withoutPedals(p, r.Path)
	return &f, nil
}

// withoutPedals is a path without the pedals that are chosen from, and without splits that have nothing left in them.
// What stood in a loop of a switcher stands in the chain.
func withoutPedals(p *plan.Plan, path []plan.Node) []plan.Node {
	var list []plan.Node
	for _, n := range path {
		if n.Split == nil {
			if g, ok := p.FindGear(n.Stop.Gear()); ok && stays(g) {
				n.Switcher, n.Loop, n.KeyIn = "", 0, ""
				list = append(list, n)
			}
			continue
		}
		s := *n.Split
		s.Lanes = slices.Clone(s.Lanes)
		full := 0
		for i := range s.Lanes {
			if s.Lanes[i].Nodes = withoutPedals(p, s.Lanes[i].Nodes); len(s.Lanes[i].Nodes) > 0 {
				full++
			}
		}
		if full > 0 && !onPedal(p, &s) {
			n.Split = &s
			list = append(list, n)
		}
	}
	return list
}

// onPedal reports whether a split hangs on a pedal, which need not be there.
func onPedal(p *plan.Plan, s *plan.Split) bool {
	for _, key := range []plan.Key{s.From, s.To, s.Choice} {
		if g, ok := p.FindGear(key.Gear()); ok && !stays(g) {
			return true
		}
	}
	return false
}

// arrange finds the order of all that may be taken: the one the chain is best in. What is taken stands in it.
func (x *pile) arrange(ctx context.Context, gear []*plan.Gear) error {
	amp := slices.IndexFunc(x.frame.Path, func(n plan.Node) bool {
		g, ok := x.plan.FindGear(n.Stop.Gear())
		return n.Split != nil || ok && g.Kind == plan.Amp
	})
	if amp < 0 {
		amp = len(x.frame.Path)
	}
	var front []plan.Node
	for _, g := range gear {
		for i := range g.Blocks {
			front = append(front, plan.Node{Stop: plan.BlockKey(g.ID, g.Blocks[i].ID)})
		}
	}
	x.whole = slices.Concat(x.frame.Path[:amp], front, x.frame.Path[amp:])
	best, proven, err := x.bestOrder(ctx, x.rig(func(plan.ID) bool { return true }))
	x.whole, x.partialOrder = best.Path, !proven
	return err
}

// bestOrder is a rig in the best order there is, and whether that is proven.
func (x *pile) bestOrder(ctx context.Context, r plan.Rig) (best plan.Rig, proven bool, err error) {
	q := *x.plan
	q.Put(r)
	judged, err := path.Judge(ctx, &q, r.ID, "")
	if err != nil {
		return r, false, fmt.Errorf("choose: %w", err)
	}
	r.Path = judged.Best.Path
	return r, judged.Best.Proven, nil
}

// rig is the frame with some gear of the pile put in, in the order of the pile.
func (x *pile) rig(taken func(plan.ID) bool) plan.Rig {
	f := x.frame
	var in func(path []plan.Node) []plan.Node
	in = func(path []plan.Node) []plan.Node {
		var list []plan.Node
		for _, n := range path {
			if n.Split != nil {
				s := *n.Split
				s.Lanes = slices.Clone(s.Lanes)
				for i := range s.Lanes {
					s.Lanes[i].Nodes = in(s.Lanes[i].Nodes)
				}
				n.Split = &s
			} else if i := x.place(n.Stop.Gear()); i >= 0 && !taken(n.Stop.Gear()) {
				continue
			}
			list = append(list, n)
		}
		return list
	}
	return plan.Rig{
		ID: f.ID, Name: f.Name, Guitars: f.Guitars, Path: in(x.whole), Base: f.Base, Schools: f.Schools,
		MostGains: f.MostGains, Profile: f.Profile, Presets: f.Presets, PresetNames: f.PresetNames, Levels: f.Levels,
		Snapshots: f.Snapshots, PowerLeads: f.PowerLeads, PatchCable: f.PatchCable,
	}
}

// place is where a piece of gear is in the pile; -1 where it is not.
func (x *pile) place(id plan.ID) int {
	return slices.IndexFunc(x.boxes, func(b Box) bool { return b.Gear == id })
}
