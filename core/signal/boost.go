package signal

import (
	"context"
	"fmt"
	"math"
	"slices"

	"envex/core/path"
	"envex/core/plan"
	"envex/core/reason"
)

// Placement is what a boost does at every place of the chain where it could stand.
type Placement struct {
	Block   plan.Key  `json:"block"`
	Name    string    `json:"name"`
	Places  []Placed  `json:"places" doc:"Along the chain; the one it has is marked."`
	Louder  int       `json:"louder" doc:"The place where it makes louder, by index."`
	Thicker int       `json:"thicker" doc:"The place where it makes dirtier."`
	Sounds  []plan.ID `json:"sounds" doc:"The sounds that use it."`
}

// Placed is the boost at one place.
type Placed struct {
	Words string      `json:"words"`
	Path  []plan.Node `json:"path" doc:"The main line with it there."`
	Order []plan.Key  `json:"order" doc:"The ids of its stops and splits as they are played, to listen to."`
	Here  bool        `json:"here"`
	SameA *int        `json:"same_as,omitempty" doc:"Nothing but what is linear lies between it and that place, so that it was not rendered: they are the same."`
	Does  []BoostDoes `json:"does" doc:"For each sound that uses it."`
	Meets int         `json:"meets" doc:"How many of them are in their targets of loudness and dirt."`
	Cost  float64     `json:"cost" doc:"Weight of the preferences of order that are violated."`
}

// BoostDoes is what the boost does to one sound there: on against off, and what comes of it.
type BoostDoes struct {
	Sound    plan.ID `json:"sound"`
	Name     string  `json:"name"`
	Louder   float64 `json:"louder_lu"`
	Dirtier  float64 `json:"dirtier_pct"`
	Squashed float64 `json:"squashed"`
	Hiss     float64 `json:"hiss_db" doc:"How much closer the hiss comes."`
	OverHome float64 `json:"over_home_lu"`
	Dirt     float64 `json:"dirt_pct"`
	Met      bool    `json:"met" doc:"Loudness and dirt are in the sound's targets."`
}

// PlaceBoost meters a boost, or any other gain stage, at every legal place of the chain. It fails
// when the rig or the block is not there, when no sound uses it, and with the context's error when
// that is cancelled.
func PlaceBoost(ctx context.Context, p *plan.Plan, rig plan.ID, block plan.Key, o Options) (*Placement, error) {
	r, err := newRendering(p, rig, o.Kept)
	if err != nil {
		return nil, err
	}
	at := slices.IndexFunc(r.path, func(n plan.Node) bool { return n.Split == nil && n.Stop == block })
	if at < 0 {
		return nil, reason.Errorf("%s is not on the main line of %s", block, r.rig.Name)
	}
	b := &placing{rendering: r, block: block, from: at}
	sounds := r.recipes()
	for _, s := range sounds {
		if s.setting.At(block + "/on").IsOn() {
			b.sounds = append(b.sounds, s)
		}
	}
	if len(b.sounds) == 0 {
		return nil, reason.Errorf("no sound of %s has it on", r.rig.Name)
	}
	b.home = sounds[max(0, homeOf(sounds))]
	return b.run(ctx, o)
}

// idsOf are the ids of the nodes of a main line.
func idsOf(path []plan.Node) []plan.Key {
	var list []plan.Key
	for _, n := range path {
		list = append(list, n.ID())
	}
	return list
}

type placing struct {
	*rendering
	block  plan.Key
	from   int
	sounds []made
	home   made
}

func (b *placing) run(ctx context.Context, o Options) (*Placement, error) {
	places, err := b.legal(ctx)
	if err != nil {
		return nil, err
	}
	g, _ := b.plan.FindGear(b.block.Gear())
	block, _ := g.FindBlock(plan.ID(b.block.Rest()))
	out := &Placement{Block: b.block, Name: g.StopName(block), Places: places, Sounds: []plan.ID{}}
	for _, s := range b.sounds {
		out.Sounds = append(out.Sounds, s.sound.ID)
	}
	// Off, the boost is nowhere: one rendering serves every place.
	var off []Setting
	for _, s := range b.sounds {
		off = append(off, with(s.setting, b.block+"/on", plan.On(false)))
	}
	without, err := b.fan(ctx, append(off, b.home.setting), o.Dry, true, nil)
	if err != nil {
		return nil, err
	}
	share := newShares(len(places), o.Progress)
	for i := range places {
		x := &out.Places[i]
		if x.SameA != nil {
			x.Does, x.Meets = out.Places[*x.SameA].Does, out.Places[*x.SameA].Meets
			share.with(func() {})
			continue
		}
		moved, err := b.on(x.Path)
		if err != nil {
			return nil, err
		}
		var on []Setting
		for _, s := range b.sounds {
			on = append(on, s.setting)
		}
		figures, err := moved.fan(ctx, append(on, b.home.setting), o.Dry, true, nil)
		if err != nil {
			return nil, err
		}
		home := figures[len(on)].loudness
		for k, s := range b.sounds {
			f, w := figures[k], without[k]
			d := BoostDoes{
				Sound: s.sound.ID, Name: s.sound.Name, Louder: f.loudness - w.loudness, Dirtier: f.dirt - w.dirt,
				Squashed: f.squash - w.squash, Hiss: w.noise - f.noise, OverHome: f.loudness - home, Dirt: f.dirt,
			}
			ll, lh, _ := LoudnessBand(s.sound.Targets)
			dl, dh, _ := DirtBand(s.sound.Targets)
			if d.Met = off2(d.OverHome, ll, lh) && off2(d.Dirt, dl, dh); d.Met {
				x.Meets++
			}
			x.Does = append(x.Does, d)
		}
		share.with(func() {})
	}
	out.Louder, out.Thicker = out.best(func(d BoostDoes) float64 { return d.Louder }), out.best(
		func(d BoostDoes) float64 { return d.Dirtier },
	)
	return out, nil
}

func off2(x, low, high float64) bool { return off(x, low, high) == 0 }

func (p *Placement) best(of func(BoostDoes) float64) int {
	best, at := 0.0, 0
	for i, x := range p.Places {
		sum := 0.0
		for _, d := range x.Does {
			sum += of(d)
		}
		// A place it need not be moved to wins among equals.
		if i == 0 || sum > best+0.05 || (sum > best-0.05 && x.Here) {
			best, at = sum, i
		}
	}
	return at
}

// with is a setting with one value changed.
func with(s Setting, key plan.Key, v plan.Value) Setting {
	values := make(map[plan.Key]plan.Value, len(s.Values))
	for k, x := range s.Values {
		values[k] = x
	}
	values[key] = v
	return Setting{Values: values, Guitar: s.Guitar, Tuned: s.Tuned}
}

// legal lists the places of the main line where the block gives the chain no fault it has not got:
// along the chain, each with whether only linear stops lie between it and the one before.
func (b *placing) legal(ctx context.Context) ([]Placed, error) {
	had, err := b.faults(ctx, b.path)
	if err != nil {
		return nil, err
	}
	rest := slices.Delete(slices.Clone(b.path), b.from, b.from+1)
	node := b.path[b.from]
	node.Switcher, node.Loop = "", 0
	var list []Placed
	var wires []float64 // what the runs of the place before come to
	straight := true
	for i := 0; i <= len(rest); i++ {
		if i > 0 {
			straight = straight && b.linear(rest[i-1])
		}
		path := slices.Insert(slices.Clone(rest), i, node)
		if i == b.from {
			path = b.path
		}
		judged, err := b.judged(ctx, path)
		if err != nil {
			return nil, err
		}
		if i != b.from && judged.worse(had.names) {
			continue
		}
		x := Placed{
			Words: b.whereWords(rest, i), Path: path, Order: idsOf(path), Here: i == b.from, Cost: judged.cost,
			Does: []BoostDoes{},
		}
		there, err := b.wiresOn(path)
		if err != nil {
			return nil, err
		}
		if n := len(list) - 1; n >= 0 && straight && near(there, wires) {
			same := n
			if list[n].SameA != nil {
				same = *list[n].SameA
			}
			x.SameA = &same
		}
		list = append(list, x)
		straight, wires = true, there
	}
	return list, nil
}

// wiresOn are what the passive runs of a path take together, in dB, in every sound that uses the boost: a
// box that is moved takes its input's load along, and its buffer.
func (b *placing) wiresOn(path []plan.Node) ([]float64, error) {
	there, err := b.on(path)
	if err != nil {
		return nil, err
	}
	var list []float64
	for _, s := range b.sounds {
		l := there.line(s.setting)
		for hz := 80.0; hz <= 8000; hz *= 1.5 {
			db := 0.0
			l.all(func(x *stage) {
				if x.run != nil {
					db += decibels(x.run.response(hz))
				}
			})
			list = append(list, db)
		}
	}
	return list, nil
}

// inaudibleDB is a difference of level that nobody hears.
const inaudibleDB = 0.1

func near(a, b []float64) bool {
	for i := range a {
		if math.Abs(a[i]-b[i]) > inaudibleDB {
			return false
		}
	}
	return len(a) == len(b)
}

// linear reports whether a stop is linear and the same at all times in every sound that uses the
// boost: a neighbour of that sort may change places with a boost, and nothing is heard of it.
func (b *placing) linear(n plan.Node) bool {
	if n.Split != nil {
		return false
	}
	for _, s := range b.sounds {
		x := b.stage(n, s.setting)
		if x == nil || !x.on {
			continue
		}
		switch t := x.effect.Traits(); {
		case t.Clips, t.Nature == plan.NaturePitch, t.Nature == plan.NatureModulation, x.effect == plan.EffectGate:
			return false
		case x.effect == plan.EffectDelay && x.set.is().Model == plan.Tape:
			return false
		}
	}
	return true
}

type faultsOf struct {
	names map[string]bool
	cost  float64
}

func (f faultsOf) worse(had map[string]bool) bool {
	for name := range f.names {
		if !had[name] {
			return true
		}
	}
	return false
}

func (b *placing) faults(ctx context.Context, nodes []plan.Node) (faultsOf, error) {
	return b.judged(ctx, nodes)
}

func (b *placing) judged(ctx context.Context, nodes []plan.Node) (faultsOf, error) {
	rig := *b.rig
	rig.Path = nodes
	q := *b.plan
	q.Put(rig)
	if problems := q.Validate(); len(problems) > 0 {
		return faultsOf{names: map[string]bool{"it cannot be wired": true}}, nil
	}
	report, err := path.Judge(ctx, &q, rig.ID, "")
	if err != nil {
		return faultsOf{}, fmt.Errorf("signal: %w", err)
	}
	f := faultsOf{names: map[string]bool{}, cost: report.Cost}
	for _, x := range report.Findings {
		if x.Gravity == path.Danger || x.Gravity == path.Fault {
			f.names[x.ID] = true
		}
	}
	return f, nil
}

func (b *placing) whereWords(rest []plan.Node, i int) string {
	name := func(n plan.Node) string {
		if n.Split != nil {
			return "the split"
		}
		if g, ok := b.plan.FindGear(n.Stop.Gear()); ok {
			if x, ok := g.FindBlock(plan.ID(n.Stop.Rest())); ok {
				return g.StopName(x)
			}
		}
		return string(n.Stop)
	}
	if i == 0 {
		return "first, before " + name(rest[0])
	}
	return "after " + name(rest[i-1])
}
