package choose

import (
	"cmp"
	"context"
	"maps"
	"math"
	"slices"

	"envex/core/plan"
	"envex/core/signal"
)

// What is looked through: each stage alone with its drive as it stands and in three places more, and two stages
// together of which the second has its drive as it stands. Levels are metered in three places each, and taken from the
// line between; where that meets a target, they are metered there.
var (
	drivesAt = []float64{0.2, 0.5, 0.8} // of the turn
	levelsAt = []float64{0.2, 0.5, 0.8}
)

const (
	levelFrom, levelTo = 0.05, 0.95 // of the turn, where a level may end up
	levelStep          = 0.025
	mostPlaces         = 6    // of one stage
	mostPairs          = 600  // settings with two stages on that are metered, for each choice of what is always on
	mostAlways         = 2    // boxes taken along that cannot be off
	mostChannels       = 6    // combinations of amp channels
	slackLU            = 0.25 // how far outside its band a sound may be by the quick meter, and still be rendered in full
	slackDirt          = 0.7  // the same in per cent of dirt
	slackDirtAlone     = 0.15 // the same by the meter of a choice by itself, which takes the whole period of tones
	slackTurned        = 1.5  // the same in LU of what can be turned into a sound
	slackDirtTurned    = 5.0
	sameHomeLU         = 0.25 // homes that are as loud as each other
)

// standing is a stage that is on, and where it stands.
type standing struct {
	stage int
	at    place
}

// config is what is on.
type config struct {
	channel int
	on      []standing
	known   bool // a recipe of the plan
}

// playing is a guitar and how it is set, as sounds ask for it.
type playing struct {
	sound  *plan.Sound // the first that asks for it
	guitar plan.ID
	hands  map[plan.Key]plan.Value // its controls, where somebody says
}

// metering is the worlds that were found, and what was metered for them.
type metering struct {
	*pile
	sounds   []*plan.Sound
	channels []map[plan.Key]plan.Value
	sources  []playing
	of       []int // by sound: its source
	places   [][]place
	only     boxes // that may be used
	tried    int
	partial  bool

	gives  []map[int]map[plan.Key][]giving // by sound, and which of the effects it asks
	turned map[plan.Key][]knobsAt

	worlds  []world
	recipes [][][]recipe // by world, sound and way
}

// recipe is what a way has on: stages, and what gives each effect that is asked besides.
type recipe struct {
	config
	given []giving
}

func (x *pile) meter(ctx context.Context, sounds []*plan.Sound, o Options) (*metering, error) {
	m := &metering{pile: x, sounds: sounds, only: ^boxes(0)}
	m.readChannels()
	m.readSources()
	if err := m.settleGiven(ctx, o); err != nil {
		return nil, err
	}
	o.tell(0.1)
	return m, m.all(ctx, x.colouring(), o)
}

// alone is a metering of a choice of boxes by itself, in the chain that they make: what is ahead of a drive changes
// what it makes. Nothing is metered yet.
func (m *metering) alone(taken boxes) *metering {
	own := &metering{
		pile: m.pile, sounds: m.sounds, only: taken, channels: m.channels, sources: m.sources, of: m.of, gives: m.gives,
		turned: m.turned,
	}
	own.places = make([][]place, len(m.stages))
	return own
}

func (m *metering) all(ctx context.Context, subsets []boxes, o Options) error {
	m.places = make([][]place, len(m.stages))
	for i, always := range subsets {
		b, err := m.bench(ctx, always, o)
		if err != nil {
			return err
		}
		if err := m.under(ctx, b, true); err != nil {
			return err
		}
		m.tried += b.meter.Tried
		o.tell(0.1 + 0.5*float64(i+1)/float64(len(subsets)))
	}
	return nil
}

// colouring are the choices of boxes that cannot be off: none, one, and two together.
func (x *pile) colouring() []boxes {
	list := []boxes{0}
	for i := range x.boxes {
		if !x.always.has(i) {
			continue
		}
		for _, b := range slices.Clone(list) {
			if b.count() < mostAlways {
				list = append(list, b|1<<i)
			}
		}
	}
	return list
}

// readChannels reads the channels of the amps that stay.
func (m *metering) readChannels() {
	m.channels = []map[plan.Key]plan.Value{{}}
	for _, v := range m.plan.VariablesIn(m.frame) {
		g, ok := m.plan.FindGear(v.Key.Gear())
		if !ok || g.Kind != plan.Amp || v.Control == nil || v.Control.Kind != plan.Selector ||
			v.Control.ID != "channel" {
			continue
		}
		var next []map[plan.Key]plan.Value
		for _, so := range m.channels {
			for _, option := range v.Control.Options {
				with := maps.Clone(so)
				with[v.Key] = plan.Text(option)
				next = append(next, with)
			}
		}
		if len(next) > mostChannels {
			m.partial = true
			next = next[:mostChannels]
		}
		m.channels = next
	}
}

// under finds the worlds of a bench, with two stages on together where it is to be deep.
func (m *metering) under(ctx context.Context, b *bench, deep bool) error {
	var plain []config
	for channel := range m.channels {
		plain = append(plain, config{channel: channel})
	}
	known := b.known()
	if err := b.sketch(ctx, append(slices.Clone(plain), known...)); err != nil {
		return err
	}
	for _, c := range known {
		for _, on := range c.on {
			b.stand(on.stage, on.at)
		}
	}
	homes := b.levels(append(slices.Clone(plain), known...))
	singles, err := b.singles(ctx, homes)
	if err != nil {
		return err
	}
	var pairs []config
	if deep {
		if pairs, err = b.pairs(ctx, homes); err != nil {
			return err
		}
	}
	all := slices.Concat(plain, known, singles, pairs)
	for _, lufs := range homes {
		m.world(b, lufs, all)
	}
	return nil
}

// stand takes a place of a stage up among those it may stand in.
func (m *metering) stand(stage int, at place) {
	if !slices.Contains(m.places[stage], at) {
		m.places[stage] = append(m.places[stage], at)
	}
}

// known are what recipes of the plan have on that make the sounds with boxes of the pile.
func (b *bench) known() []config {
	var list []config
	for i := range b.plan.Rigs {
		r := &b.plan.Rigs[i]
		settings := b.plan.SettingsOf(r)
		for k := range r.Recipes {
			rec := &r.Recipes[k]
			if at := slices.IndexFunc(b.sounds, func(s *plan.Sound) bool { return s.ID == rec.Sound }); at >= 0 {
				set := settings.For(rec, b.sounds[at], b.plan.FirstTempo(rec.Sound))
				if c, ok := b.asSet(r, set); ok {
					list = append(list, c)
				}
			}
		}
	}
	return list
}

// asSet is what a setting of a rig has on; false where something of that is not in the pile.
func (b *bench) asSet(r *plan.Rig, set plan.Setting) (config, bool) {
	c := config{known: true}
	for _, key := range r.Stops() {
		g, ok := b.plan.FindGear(key.Gear())
		if !ok || g.Kind == plan.Amp {
			continue
		}
		block, ok := g.FindBlock(plan.ID(key.Rest()))
		if !ok || !levels(block.Effect) || block.Bypass != plan.AlwaysOn && !set.At(key+"/on").IsOn() {
			continue
		}
		i := slices.IndexFunc(b.usable, func(i int) bool { return b.stages[i].key == key })
		if i < 0 {
			if k := b.place(g.ID); k >= 0 && b.always.has(k) {
				continue
			}
			return c, false
		}
		s := b.stages[b.usable[i]]
		stands := func(k *plan.Control) float64 {
			if k == nil {
				return 0
			}
			return set.At(s.key + "/" + plan.Key(k.ID)).Float()
		}
		c.on = append(c.on, standing{b.usable[i], place{stands(s.drive), stands(s.level)}})
	}
	for i, so := range b.channels {
		same := true
		for key, v := range so {
			same = same && set.At(key) == v
		}
		if same {
			c.channel = i
		}
	}
	return c, true
}

// levels are how loud the home sound may be: as nothing on makes it on each channel, and as recipes do.
func (b *bench) levels(list []config) []float64 {
	var homes []float64
	home := b.sounds[0]
	low, high, _ := signal.DirtBand(home.Targets)
	take := func(only bool) {
		for _, c := range list {
			got := b.got[name(c, b.of[0])]
			if _, out := b.slack(false); only && (got.Dirt < low-out || got.Dirt > high+out) {
				continue
			}
			if !slices.ContainsFunc(homes, func(x float64) bool { return math.Abs(x-got.Loudness) < sameHomeLU }) {
				homes = append(homes, got.Loudness)
			}
		}
	}
	if take(true); len(homes) == 0 {
		take(false)
	}
	return homes
}

// band is how loud a sound has to be, in LUFS, for a home that is so loud. Home itself is as loud as it is.
func (m *metering) band(sound int, home float64) (low, high float64) {
	if sound == 0 {
		return home - sameHomeLU, home + sameHomeLU
	}
	low, high, _ = signal.LoudnessBand(m.sounds[sound].Targets)
	return home + low, home + high
}

// whole reports whether it is the pile that is metered, and not a choice by itself.
func (m *metering) whole() bool { return m.only == ^boxes(0) }

// slack is how far outside its bands a sound may be, in LU and per cent of dirt, to be near or to be turned into it.
func (m *metering) slack(turned bool) (lu, dirt float64) {
	switch {
	case turned:
		return slackTurned, slackDirtTurned
	case m.whole():
		return slackLU, slackDirt
	}
	return slackLU, slackDirtAlone
}

// near reports whether a sketch is within the targets of a sound or near them, or can be turned into it, and by how much
// it is inside.
func (m *metering) near(sound int, home float64, got signal.Sketch, turned bool) (margin float64, ok bool) {
	low, high := m.band(sound, home)
	dl, dh, _ := signal.DirtBand(m.sounds[sound].Targets)
	lu := min(got.Loudness-low, high-got.Loudness)
	dirt := min(got.Dirt-dl, dh-got.Dirt)
	if outLU, outDirt := m.slack(turned); lu < -outLU || dirt < -outDirt {
		return 0, false
	}
	// What asks for no loudness is best as loud as home; a margin of more than an LU or ten per cent is of no use.
	if math.IsInf(lu, 1) {
		lu = 1 - math.Abs(got.Loudness-home)
	}
	return min(lu, 1) + min(dirt, 10)/10, true
}

// asks reports whether what is on has every effect that a sound asks of stages.
func (m *metering) asks(sound int, on []standing) bool {
	for _, h := range m.sounds[sound].Targets.Effects {
		if m.byStage(h.Effect) && !slices.ContainsFunc(on, func(s standing) bool {
			return m.stages[s.stage].effect == h.Effect
		}) {
			return false
		}
	}
	return true
}

// singles are the stages alone, where they promise to make a sound.
func (b *bench) singles(ctx context.Context, homes []float64) ([]config, error) {
	var list []config
	for channel := range b.channels {
		for _, i := range b.usable {
			s := b.stages[i]
			for _, drive := range s.drives() {
				for _, level := range s.levels() {
					list = append(list, config{channel: channel, on: []standing{{i, place{drive, level}}}})
				}
			}
		}
	}
	if err := b.sketch(ctx, list); err != nil {
		return nil, err
	}
	var found []config
	for _, i := range b.usable {
		s := b.stages[i]
		var guesses []guess
		for channel := range b.channels {
			guesses = append(guesses, b.guesses(config{channel: channel}, i, s.drives(), homes)...)
		}
		for _, at := range chosen(guesses, mostPlaces) {
			b.stand(i, at)
		}
		for channel := range b.channels {
			for _, at := range b.places[i] {
				found = append(found, config{channel: channel, on: []standing{{i, at}}})
			}
		}
	}
	return found, b.sketch(ctx, found)
}

// pairs are two stages together: one where it stands for a sound of its own or as it stood, the other with its drive as
// it stands and its level where it promises something.
func (b *bench) pairs(ctx context.Context, homes []float64) ([]config, error) {
	if b.frame.MostGains != nil && *b.frame.MostGains < 2 {
		return nil, nil
	}
	type pair struct {
		with   config
		second int
	}
	var pairs []pair
	var list []config
	spent := 0
	seconds := slices.Clone(b.usable)
	slices.SortStableFunc(seconds, func(i, k int) int { return cmp.Compare(b.pushes(i), b.pushes(k)) })
	for _, second := range seconds {
		s := b.stages[second]
		for _, first := range b.usable {
			if first == second || b.stages[first].box == s.box && b.always.has(s.box) {
				continue
			}
			for _, at := range b.firsts(first) {
				for channel := range b.channels {
					with := config{channel: channel, on: []standing{{first, at}}}
					both := b.plus(with, standing{second, s.base})
					if spent += len(b.played(both.on)); spent > mostPairs {
						b.partial = true
						continue
					}
					pairs = append(pairs, pair{with, second})
					list = append(list, both)
				}
			}
		}
	}
	if err := b.sketch(ctx, list); err != nil {
		return nil, err
	}
	guesses := map[int][]guess{}
	for _, x := range pairs {
		guesses[x.second] = append(
			guesses[x.second], b.guesses(x.with, x.second, []float64{b.stages[x.second].base.drive}, homes)...,
		)
	}
	for _, second := range b.usable {
		for _, at := range chosen(guesses[second], mostPlaces) {
			b.stand(second, at)
		}
	}
	var found []config
	best := promises{}
	for _, x := range pairs {
		for _, g := range b.guesses(x.with, x.second, []float64{b.stages[x.second].base.drive}, homes) {
			if slices.Contains(b.places[x.second], g.at) {
				best.add(b.needs(x.with.on[0].stage, x.second), b.plus(x.with, standing{x.second, g.at}), g.margin)
			}
		}
	}
	for _, c := range best.all() {
		for _, on := range c.on {
			b.stand(on.stage, on.at)
		}
		found = append(found, c)
	}
	if len(found) > mostPairs {
		b.partial = true
		found = found[:mostPairs]
	}
	return found, b.sketch(ctx, found)
}

// pushes is how likely a stage is to be the second of two: boosts and what evens come before drives.
func (b *bench) pushes(i int) int {
	switch e := b.stages[i].effect; {
	case e == plan.EffectBoost:
		return 0
	case !e.IsGain():
		return 1
	}
	return 2 + b.stages[i].effect.Traits().Weight
}

// firsts are the places of the first of two stages that are looked at.
func (b *bench) firsts(i int) []place {
	list := b.places[i][:min(len(b.places[i]), 2)]
	if base := b.stages[i].base; !slices.Contains(list, base) {
		list = append(slices.Clone(list), base)
	}
	return list
}
