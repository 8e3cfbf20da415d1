package plan

import (
	"maps"
	"slices"
)

// Instead is a rig with a box in the place of another: in the chain, in its loop, in what recipes and programs turn on,
// where it stands and what feeds it. A block takes the place of the first that does the same, or of one that can stand
// for it; a control that of the control of the same name. What presets of the other held goes over to presets of the
// box, or to the recipes where it has none. What the other box has not goes: switches that were assigned and what was
// measured of it. Blocks names, of each block that was replaced, the one that stands for it. The rig and the plan are
// not changed. It is false where no block of the box can stand for one of the other that is in the chain.
func (p *Plan) Instead(r *Rig, out ID, in *Gear) (next Rig, blocks map[Key]Key, ok bool) {
	was, there := p.FindGear(out)
	if !there {
		return Rig{}, nil, false
	}
	x := &standingIn{was: was, is: in, blocks: map[Key]Key{}}
	x.match(r)
	if len(x.blocks) == 0 {
		return Rig{}, nil, false
	}
	x.option = x.options(r)
	next = x.rig(x.asked(p, r))
	next.Presets = x.presets(r, without(r.Presets, out))
	next.Snapshots = without(r.Snapshots, out)
	next.PresetNames = without(r.PresetNames, out)
	next.Levels = slices.DeleteFunc(slices.Clone(r.Levels), func(l Level) bool { return l.Block.Gear() == out })
	next.Swaps = slotsWith(r.Swaps, out, in.ID)
	return next, x.blocks, true
}

// slotsWith are swap slots with a box in the place of another. One that stands in a slot already takes over from the
// other there; a slot with nothing left to choose from goes.
func slotsWith(list []Swap, out, in ID) []Swap {
	var slots []Swap
	for _, s := range list {
		_, there := s.Box(in)
		s.Boxes = slices.Clone(s.Boxes)
		s.Boxes = slices.DeleteFunc(s.Boxes, func(b SwapBox) bool { return there && b.Gear == out })
		for i := range s.Boxes {
			b := &s.Boxes[i]
			if b.Gear == out {
				b.Gear = in
			}
			if b.Gear == in {
				b.Kept = nil
			}
		}
		if len(s.Boxes) > 1 {
			slots = append(slots, s)
		}
	}
	return slots
}

// rig is a rig with the one box in the place of the other, but for presets and what was measured.
func (x *standingIn) rig(r *Rig) Rig {
	next, out := *r, x.was.ID
	next.Path = x.path(r.Path)
	next.Base, next.Recipes, next.Programs = x.values(r.Base), x.recipes(r.Recipes), x.programs(r.Programs)
	if r.PerGuitar != nil {
		next.PerGuitar = map[ID]map[Key]Value{}
		for guitar, values := range r.PerGuitar {
			next.PerGuitar[guitar] = x.values(values)
		}
	}
	next.OwnSwitches = x.keys(r.OwnSwitches)
	next.MIDI = slices.DeleteFunc(
		slices.Clone(r.MIDI), func(l MIDILink) bool { return l.Gear == out || l.Controller == out },
	)
	next.Relays = slices.DeleteFunc(slices.Clone(r.Relays), func(l RelayLink) bool { return l.Target.Gear() == out })
	next.Batteries = slices.DeleteFunc(slices.Clone(r.Batteries), func(b BatteryUse) bool { return b.Gear == out })
	next.Leads = slices.DeleteFunc(
		slices.Clone(r.Leads), func(l Lead) bool { return l.From.Gear() == out || l.To.Gear() == out },
	)
	next.Assignments, next.Clocks = x.assignments(r.Assignments), x.clocks(r.Clocks)
	next.Floor, next.PowerPlan = x.floor(r.Floor), x.feeds(r.PowerPlan)
	next.Orders = slices.Clone(r.Orders)
	for i := range next.Orders {
		next.Orders[i].Path = x.path(next.Orders[i].Path)
	}
	next.Destinations = slices.Clone(r.Destinations)
	for i := range next.Destinations {
		d := &next.Destinations[i]
		d.Path, d.Base, d.Recipes = x.path(d.Path), x.values(d.Base), x.recipes(d.Recipes)
	}
	return next
}

// standingIn is a box that takes the place of another.
type standingIn struct {
	was, is *Gear
	blocks  map[Key]Key
	any     bool // where nothing does the same, any block takes the place

	presetWas, presetIs Key
	option              map[string]string // which preset stands for which; nil where none does
}

// match finds the block that stands for each of the other box that is in the chain: one that does the same first, then
// one of the same family or nature.
func (x *standingIn) match(r *Rig) {
	used := map[ID]bool{}
	stops := r.allStops()
	for _, same := range []func(a, b Effect) bool{
		func(a, b Effect) bool { return a == b },
		CanStandFor,
		func(Effect, Effect) bool { return x.any },
	} {
		for _, key := range stops {
			b, ok := x.was.FindBlock(ID(key.Rest()))
			if key.Gear() != x.was.ID || !ok || x.blocks[key] != "" {
				continue
			}
			i := slices.IndexFunc(x.is.Blocks, func(c Block) bool { return !used[c.ID] && same(b.Effect, c.Effect) })
			if i >= 0 {
				used[x.is.Blocks[i].ID] = true
				x.blocks[key] = BlockKey(x.is.ID, x.is.Blocks[i].ID)
			}
		}
	}
}

// CanStandFor reports whether a block of one effect can do the job of another for a night: the same, another gain
// stage, something of the same family, or another modulation.
func CanStandFor(a, b Effect) bool {
	s, t := a.Traits(), b.Traits()
	switch {
	case a == b:
		return true
	case a.IsGain() && b.IsGain(), evensOrBoosts(a) && evensOrBoosts(b):
		return true
	case s.Family != "" && s.Family == t.Family:
		// A reverb and a delay stand by the same rules, and are heard as different things.
		return s.Nature != NatureTime
	}
	return s.Nature == NatureModulation && t.Nature == NatureModulation
}

// evensOrBoosts reports whether an effect is one whose level at the end is what is needed of it for a night.
func evensOrBoosts(e Effect) bool { return e == EffectBoost || e == EffectCompressor }

// key is what a key of the other box becomes; false where that is nothing.
func (x *standingIn) key(k Key) (Key, bool) {
	if k.Gear() != x.was.ID {
		return k, true
	}
	for from, to := range x.blocks {
		rest, ok := cutKey(k, from)
		if !ok {
			continue
		}
		if rest == "" || rest == "on" {
			b, _ := x.is.FindBlock(ID(to.Rest()))
			if rest == "on" && b.Bypass == AlwaysOn {
				return "", false
			}
			return joined(to, rest), true
		}
		return x.control(from, to, rest)
	}
	// A control of the whole box.
	a, b := findIn(x.was.Controls, ID(k.Rest())), findIn(x.is.Controls, ID(k.Rest()))
	if a != nil && b != nil && alikeIn(a, b) {
		return joined(Key(x.is.ID), b.ID), true
	}
	return "", false
}

// alikeIn reports whether a setting of one control means the same on another.
func alikeIn(a, b *Control) bool {
	return a.Kind == b.Kind && (a.Kind == Knob && a.Unit == b.Unit || a.Kind == Selector)
}

// control is the control of the block that stands in, by the same id and form, or the time for the time.
func (x *standingIn) control(from, to Key, id ID) (Key, bool) {
	a, _ := x.was.FindBlock(ID(from.Rest()))
	b, _ := x.is.FindBlock(ID(to.Rest()))
	if c, ok := findControl(a, id); ok {
		if d, ok := findControl(b, id); ok && alikeIn(c, d) {
			return joined(to, d.ID), true
		}
		if d := b.TimeControl(); d != nil && c.Timed() {
			return joined(to, d.ID), true
		}
	}
	return "", false
}

func findControl(b *Block, id ID) (*Control, bool) {
	c := findIn(b.Controls, id)
	return c, c != nil
}

func findIn(list []Control, id ID) *Control {
	i := slices.IndexFunc(list, func(c Control) bool { return c.ID == id })
	if i < 0 {
		return nil
	}
	return &list[i]
}

func cutKey(k, block Key) (rest ID, ok bool) {
	if k == block {
		return "", true
	}
	if len(k) > len(block) && k[:len(block)] == block && k[len(block)] == '/' {
		return ID(k[len(block)+1:]), true
	}
	return "", false
}

func joined(block Key, rest ID) Key {
	if rest == "" {
		return block
	}
	return block + "/" + Key(rest)
}

func (x *standingIn) keys(list []Key) []Key {
	var out []Key
	for _, k := range list {
		if to, ok := x.key(k); ok {
			out = append(out, to)
		}
	}
	return out
}

// values are settings by what their keys become. A knob stands within the range that it has then.
func (x *standingIn) values(m map[Key]Value) map[Key]Value {
	if m == nil {
		return nil
	}
	out := make(map[Key]Value, len(m))
	for k, v := range m {
		if k.Gear() != x.was.ID {
			out[k] = v
		}
	}
	for _, k := range SortedKeys(m) {
		if to, ok := x.option[m[k].Word()]; ok && k == x.presetWas {
			out[x.presetIs] = Text(to)
			continue
		}
		to, ok := x.key(k)
		if !ok || to == k {
			continue
		}
		v := m[k]
		c := x.controlAt(to)
		if c != nil && v.Kind() == NumberValue {
			low, high := c.Range()
			v = Number(min(max(v.Float(), low), high))
		}
		if c != nil && v.Kind() == TextValue && !slices.Contains(c.Options, v.Word()) {
			continue // it has no such position
		}
		out[to] = v
	}
	return out
}

// controlAt is a control of the box that stands in, by its key; nil for what turns a block on.
func (x *standingIn) controlAt(k Key) *Control {
	id := ID(lastOf(k))
	if block, ok := x.is.FindBlock(blockIn(k)); ok && Key(joined(BlockKey(x.is.ID, block.ID), id)) == k {
		return findIn(block.Controls, id)
	}
	return findIn(x.is.Controls, id)
}

// blockIn is the block of a key of a control in it.
func blockIn(k Key) ID {
	rest := k.Rest()
	for i := range rest {
		if rest[i] == '/' {
			return ID(rest[:i])
		}
	}
	return ID(rest)
}

func lastOf(k Key) string {
	for i := len(k) - 1; i >= 0; i-- {
		if k[i] == '/' {
			return string(k[i+1:])
		}
	}
	return string(k)
}

func (x *standingIn) recipes(list []Recipe) []Recipe {
	out := slices.Clone(list)
	for i := range out {
		out[i].Values, out[i].Rockers = x.values(out[i].Values), x.keys(out[i].Rockers)
		out[i].Rockers = slices.DeleteFunc(out[i].Rockers, func(k Key) bool {
			b, ok := x.is.FindBlock(ID(k.Rest()))
			return k.Gear() == x.is.ID && (!ok || !b.Rocker)
		})
		if out[i].Notes != nil {
			notes := map[Key]string{}
			for k, note := range out[i].Notes {
				if to, ok := x.key(k); ok {
					notes[to] = note
				}
			}
			out[i].Notes = notes
		}
	}
	return out
}

func (x *standingIn) programs(m ProgramMap) ProgramMap {
	if m == nil {
		return nil
	}
	out := ProgramMap{}
	for id, banks := range m {
		if id == x.was.ID {
			continue
		}
		out[id] = map[string]map[string]Program{}
		for bank, slots := range banks {
			out[id][bank] = map[string]Program{}
			for slot, program := range slots {
				program.Values = x.values(program.Values)
				out[id][bank][slot] = program
			}
		}
	}
	return out
}

func without[M ~map[ID]V, V any](m M, id ID) M {
	out := maps.Clone(m)
	delete(out, id)
	return out
}

func (x *standingIn) path(nodes []Node) []Node {
	var list []Node
	for _, n := range nodes {
		if to, ok := x.key(n.KeyIn); ok {
			n.KeyIn = to
		} else {
			n.KeyIn = ""
		}
		if n.Switcher == x.was.ID {
			n.Switcher, n.Loop = "", 0
		}
		if n.Split == nil {
			to, ok := x.key(n.Stop)
			if !ok {
				continue // the box has nothing that does this
			}
			n.Stop = to
			list = append(list, n)
			continue
		}
		s := *n.Split
		s.From, _ = x.key(s.From)
		s.To, _ = x.key(s.To)
		s.Choice, _ = x.key(s.Choice)
		s.Lanes = slices.Clone(s.Lanes)
		for i := range s.Lanes {
			s.Lanes[i].Nodes = x.path(s.Lanes[i].Nodes)
		}
		n.Split = &s
		list = append(list, n)
	}
	return list
}

// assignments are those of other boxes, as far as they do anything to what stands in.
func (x *standingIn) assignments(list []Assignment) []Assignment {
	var out []Assignment
	for _, a := range list {
		if a.Gear == x.was.ID {
			continue
		}
		whole := true
		press := func(p *Press) *Press {
			if p == nil {
				return nil
			}
			q := *p
			q.Actions = slices.Clone(p.Actions)
			for i := range q.Actions {
				to, ok := x.key(q.Actions[i].Target)
				whole = whole && ok
				q.Actions[i].Target = to
			}
			return &q
		}
		a.Press, a.Hold, a.Double = press(a.Press), press(a.Hold), press(a.Double)
		if whole {
			out = append(out, a)
		}
	}
	return out
}

func (x *standingIn) clocks(list []Clock) []Clock {
	var out []Clock
	for _, c := range list {
		c.To = slices.DeleteFunc(slices.Clone(c.To), func(id ID) bool { return id == x.was.ID })
		if c.From != x.was.ID && len(c.To) > 0 {
			out = append(out, c)
		}
	}
	return out
}

// floor stands the box where the other stood. Switches that are pressed together with one of the other's are pressed
// apart.
func (x *standingIn) floor(f Floor) Floor {
	f.Places = maps.Clone(f.Places)
	if at, ok := f.Places[x.was.ID]; ok {
		delete(f.Places, x.was.ID)
		f.Places[x.is.ID] = at
	}
	f.DoubleStomps = slices.DeleteFunc(slices.Clone(f.DoubleStomps), func(d DoubleStomp) bool {
		return d.A.Gear() == x.was.ID || d.B.Gear() == x.was.ID
	})
	return f
}

// feeds put the box on the output that fed the other, where it takes one.
func (x *standingIn) feeds(list []PowerFeed) []PowerFeed {
	out := slices.Clone(list)
	for i := range out {
		out[i].Gear = slices.Clone(out[i].Gear)
		for k, id := range out[i].Gear {
			if id == x.was.ID {
				out[i].Gear[k] = x.is.ID
			}
		}
		if x.is.Power == nil {
			out[i].Gear = slices.DeleteFunc(out[i].Gear, func(id ID) bool { return id == x.is.ID })
		}
	}
	return slices.DeleteFunc(out, func(f PowerFeed) bool { return len(f.Gear) == 0 })
}

// SetAs is what a rig says of one piece of gear, said of another that has what the first has, or less: base settings,
// recipes that name any of it, and what its presets hold, by those of the other. What the other does not remember, its
// recipes ask for. It is for an amp that stands in: what the other has no control for is left out.
func (p *Plan) SetAs(r *Rig, was, is *Gear) (map[Key]Value, []Recipe, map[string]map[Key]Value) {
	x := &standingIn{was: was, is: is, blocks: map[Key]Key{}}
	x.match(r)
	if len(r.Presets[is.ID]) == 0 { // it holds nothing of its own yet
		x.option = x.options(r)
	}
	asks := x.asked(p, r).Recipes
	of := func(k Key) bool { return k.Gear() == was.ID }
	var base map[Key]Value
	for k, v := range x.values(valuesOf(r.Base, was.ID)) {
		if base == nil {
			base = map[Key]Value{}
		}
		base[k] = v
	}
	var recipes []Recipe
	for i, rec := range x.recipes(asks) {
		if len(valuesOf(asks[i].Values, was.ID)) > 0 || slices.ContainsFunc(asks[i].Rockers, of) {
			recipes = append(recipes, rec)
		}
	}
	return base, recipes, x.presets(r, PresetMap{})[is.ID]
}
