package path

import (
	"strings"

	"envex/core/plan"
)

// stop is a block in the chain with what the preferences ask about it.
type stop struct {
	key    plan.Key
	gear   *plan.Gear
	block  *plan.Block
	traits plan.Traits
	name   string
	pinned bool
	after  plan.Key // the earlier stop it listens to
	tapped bool     // it stands in a lane that does not come back to the main path
	joint  bool     // it divides or joins lanes
	lane   bool     // it stands in a lane
	sums   bool     // the player takes one side, or the sum, of what is stereo at its input
	zone   plan.Zone
	time   float64 // a delay's time in ms; 0 where it is not known
	dirt   float64 // of a preamp: how much dirt the recipes take from it, 0 to 1
}

// lowInputOhm is the input resistance under which a fuzz wants to see the pickup.
const lowInputOhm = 100e3

func (s *stop) is(effects ...plan.Effect) bool {
	for _, e := range effects {
		if s.block.Effect == e {
			return true
		}
	}
	return false
}

// does reports whether the stop's effect is of a nature.
func (s *stop) does(n plan.Nature) bool { return s.traits.Nature == n }

// in reports whether the stop's effect is of a family.
func (s *stop) in(f plan.Family) bool { return s.traits.Family == f }

// isGain reports whether the stop distorts: a drive of any kind, or a preamp that the
// recipes drive.
func (s *stop) isGain() bool {
	return s.does(plan.NatureGain) && (!s.is(plan.EffectPreamp) || s.dirt > 0)
}

// isDrive is isGain without clean boosts, which distort nothing themselves.
func (s *stop) isDrive() bool { return s.isGain() && !s.is(plan.EffectBoost) }

// share scales a weight by how much dirt there is: a preamp counts as far as it is driven.
func (s *stop) share() float64 {
	if s.is(plan.EffectPreamp) {
		return s.dirt
	}
	return 1
}

// heaviness orders gain stages from light to heavy; 0 for what is none, or a fuzz, which is
// excepted.
func (s *stop) heaviness() int { return s.traits.Weight }

// lowFuzz reports whether the stop is a fuzz that a buffer before it would change.
func (s *stop) lowFuzz() bool {
	return s.is(plan.EffectFuzz) && s.block.InputOhm != nil && *s.block.InputOhm < lowInputOhm
}

// buffers reports whether the stop is a live buffer even when it is off.
func (s *stop) buffers() bool {
	switch s.block.Bypass {
	case plan.BufferedBypass:
		return true
	case plan.AlwaysOn:
		return !s.block.Passive &&
			!s.is(plan.EffectVolume, plan.EffectPreamp, plan.EffectPower, plan.EffectSpeaker, plan.EffectLoad)
	}
	return false
}

// monoOnly reports whether a second side ends at the stop, wherever in the chain that is.
func (s *stop) monoOnly() bool {
	return s.block.Inputs != "stereo" && s.block.Outputs != "stereo" && !s.isAmp() && !s.ends() && !s.joint && !s.sums
}

// ends reports whether the stop is where a chain is handed on: to a speaker, a load or a line.
func (s *stop) ends() bool { return s.traits.Ends }

func (s *stop) stereoOut() bool { return s.block.Outputs == "stereo" }

func (s *stop) isAmp() bool { return s.gear.Kind == plan.Amp }

// stopsOf reads the stops of a path, splits included, in signal order.
func stopsOf(p *plan.Plan, r *plan.Rig, driven Driven) []*stop {
	c := &chainStops{plan: p, rig: r, driven: driven, zones: p.Zones(r.Path)}
	c.read(r.Path, false, false)
	return c.list
}

type chainStops struct {
	plan   *plan.Plan
	rig    *plan.Rig
	driven Driven
	zones  map[plan.Key]plan.Zone
	list   []*stop
}

func (c *chainStops) read(nodes []plan.Node, tapped, lane bool) {
	for _, n := range nodes {
		if n.Split == nil {
			if s := c.add(n.Stop); s != nil {
				s.pinned, s.after, s.tapped, s.lane = n.Pinned, n.KeyIn, tapped, lane
				s.zone, s.sums = c.zones[n.Stop], n.Takes != ""
			}
			continue
		}
		joint := func(key plan.Key) {
			if s := c.add(key); s != nil {
				s.joint, s.zone, s.tapped, s.pinned = true, c.zones[n.ID()], tapped, n.Pinned
			}
		}
		joint(n.Split.Divider())
		for _, inner := range n.Split.Lanes {
			c.read(inner.Nodes, tapped || n.Split.Kind == plan.SplitTap, true)
		}
		if n.Split.To != n.Split.Divider() {
			joint(n.Split.To)
		}
	}
}

func (c *chainStops) add(key plan.Key) *stop {
	g, ok := c.plan.FindGear(key.Gear())
	if !ok {
		return nil
	}
	b, ok := g.FindBlock(plan.ID(key.Rest()))
	if !ok {
		return nil
	}
	s := &stop{key: key, gear: g, block: b, name: g.StopName(b), traits: b.Effect.Traits()}
	s.time = delayTime(c.rig, s)
	if s.is(plan.EffectPreamp) {
		measured, ok := c.driven[key]
		if s.dirt = measured; !ok {
			s.dirt = preampDirt(c.rig, s)
		}
	}
	c.list = append(c.list, s)
	return s
}

// delayTime is the time the rig's base setting gives a delay, in ms.
func delayTime(r *plan.Rig, s *stop) float64 {
	if !s.is(plan.EffectDelay) {
		return 0
	}
	for _, v := range s.gear.Variables() {
		if v.Block == s.block.ID && v.Control != nil && v.Control.Unit == "ms" {
			if x := r.BaseValue(v); x.Kind() == plan.NumberValue {
				return x.Float()
			}
		}
	}
	return 0
}

// A preamp's gain knob is taken to be clean up to cleanGain and driven all the way from
// fullGain; a channel by whether its name says that it is dirty. The recipe that takes most
// dirt decides. This stands in for a measurement and is said to be an estimate.
const (
	cleanGain = 5.0
	fullGain  = 8.0
)

var dirtyNames = []string{"drive", "lead", "crunch", "dirty", "gain"}

func preampDirt(r *plan.Rig, s *stop) float64 {
	most := 0.0
	recipes := r.Recipes
	if len(recipes) == 0 {
		recipes = []plan.Recipe{{}}
	}
	for i := range recipes {
		most = max(most, recipeDirt(r, &recipes[i], s))
	}
	return most
}

func recipeDirt(r *plan.Rig, rec *plan.Recipe, s *stop) float64 {
	knob, channel, hasChannel := 0.0, 0.0, false
	for _, v := range s.gear.Variables() {
		if v.Block != s.block.ID || v.Control == nil {
			continue
		}
		x, ok := rec.Values[v.Key]
		if !ok || x.Kind() == plan.FreeValue {
			x = r.BaseValue(v)
		}
		name := strings.ToLower(v.Control.Name)
		switch {
		case v.Control.Kind == plan.Knob && (name == "gain" || name == "drive"):
			knob = max(knob, min(1, max(0, (x.Float()-cleanGain)/(fullGain-cleanGain))))
		case v.Control.Kind == plan.Selector && strings.Contains(name, "channel"):
			hasChannel = true
			for _, d := range dirtyNames {
				if strings.Contains(strings.ToLower(x.Word()), d) {
					channel = 1
				}
			}
		}
	}
	if hasChannel {
		return channel
	}
	return knob
}

// carriesStereo reports whether a second side has anywhere to go: a path into one mono power
// section, or into one mono line, loses it in any order.
func carriesStereo(p *plan.Plan, nodes []plan.Node, d *plan.Destination) bool {
	if d != nil && d.Kind == plan.MonoDI {
		return false
	}
	for _, n := range nodes {
		if n.Split != nil && n.Split.Kind == plan.SplitLeftRight {
			return true
		}
		g, ok := p.FindGear(n.Stop.Gear())
		if !ok {
			continue
		}
		if b, ok := g.FindBlock(plan.ID(n.Stop.Rest())); ok && b.Effect == plan.EffectPower && b.Inputs != "stereo" {
			return false
		}
	}
	return true
}
