package dial

import (
	"context"
	"fmt"
	"math"
	"slices"
	"strings"

	"envex/core/plan"
	"envex/core/reason"
	"envex/core/signal"
)

// Channels are the channels of an amp at the levels they stand at, what makes them level, and the leads above them.
type Channels struct {
	Rig       plan.ID   `json:"rig"`
	Amp       plan.ID   `json:"amp"`
	Name      string    `json:"name" doc:"Of the amp."`
	Reference string    `json:"reference" doc:"The channel that the others are levelled with: the one that home is played on."`
	Channels  []Channel `json:"channels"`
	Leads     []Lead    `json:"leads"`
	Words     string    `json:"words,omitempty" doc:"What there is to know of it besides."`
}

// Channel is one channel of an amp, with every pedal off.
type Channel struct {
	Name    string    `json:"name"`
	Over    float64   `json:"over_lu" doc:"Its loudness over the channel that the others are levelled with."`
	Dirt    float64   `json:"dirt_pct"`
	Reserve float64   `json:"reserve_pct" doc:"How much dirtier it is with its gain on full: the gain that is kept in reserve."`
	Level   *Place    `json:"level,omitempty" doc:"Where its level makes it as loud; absent where it is, or where no knob of its own does."`
	Rig     *plan.Rig `json:"rig,omitempty" doc:"The whole rig with that level."`
	Words   string    `json:"words"`
}

// Lead is a sound that has to stand above the others.
type Lead struct {
	Sound  plan.ID   `json:"sound"`
	Name   string    `json:"name"`
	Over   float64   `json:"over_lu" doc:"Over the loudest sound that is no lead."`
	Wanted float64   `json:"wanted_lu" doc:"What it has to be over it: by its own target, else 2 LU."`
	Level  *Place    `json:"level,omitempty" doc:"Where a knob that no other sound hears makes it so; absent where it is, or where there is none."`
	Rig    *plan.Rig `json:"rig,omitempty" doc:"The whole rig with that level."`
	Words  string    `json:"words"`
}

// leadLU is how far a lead has to be over the loudest other sound where its target does not say.
const leadLU = 2.0

// LevelChannels compares the channels of the first amp of a rig that has several, and the leads of the rig with its
// other sounds: gain that is kept in reserve, and the knob that makes each as loud as it has to be. It fails when the
// rig is not there, has no amp or no recipe, and with the context's error when that is cancelled.
func LevelChannels(ctx context.Context, own *plan.Plan, rig, destination plan.ID, o Options) (*Channels, error) {
	p, r, kept, err := standing(own, rig, destination)
	if err != nil {
		return nil, err
	}
	if len(r.Recipes) == 0 {
		return nil, reason.Errorf("%s makes no sound yet", r.Name)
	}
	x := &levelling{plan: p, rig: r, kept: kept, destination: destination, bare: bareOf(r)}
	if x.sketcher, err = signal.NewSketcher(p, rig, o.Kept); err != nil {
		return nil, fmt.Errorf("dial: %w", err)
	}
	out := &Channels{Rig: rig, Channels: []Channel{}, Leads: []Lead{}}
	if err := x.channels(ctx, out); err != nil {
		return nil, err
	}
	if o.Progress != nil {
		o.Progress(0.5)
	}
	if err := x.leads(ctx, out); err != nil {
		return nil, err
	}
	return out, nil
}

// bareOf is the first recipe of a rig with every pedal off.
func bareOf(r *plan.Rig) plan.Recipe {
	bare := r.Recipes[0]
	bare.Values = map[plan.Key]plan.Value{}
	for _, key := range r.Stops() {
		bare.Values[key+"/on"] = plan.On(false)
	}
	return bare
}

type levelling struct {
	plan        *plan.Plan
	rig         *plan.Rig
	kept        *plan.Rig // without the destination
	destination plan.ID
	bare        plan.Recipe
	sketcher    *signal.Sketcher
}

// one meters one recipe.
func (x *levelling) one(ctx context.Context, rec plan.Recipe) (signal.Sketch, error) {
	got, err := x.sketcher.Of(ctx, []plan.Recipe{rec})
	if err != nil {
		return signal.Sketch{}, fmt.Errorf("dial: %w", err)
	}
	return got[0], nil
}

// amp is the preamp of the first amp that has several channels, and the selector of them; where none has, of the first.
func (x *levelling) amp() (g *plan.Gear, b *plan.Block, selector plan.Variable, several bool) {
	for _, id := range x.rig.GearIn() {
		box, ok := x.plan.FindGear(id)
		if !ok || box.Kind != plan.Amp {
			continue
		}
		for i := range box.Blocks {
			if box.Blocks[i].Effect != plan.EffectPreamp {
				continue
			}
			if g == nil {
				g, b = box, &box.Blocks[i]
			}
			for _, m := range box.Blocks[i].ModelAt {
				for _, key := range []plan.Key{
					plan.BlockKey(box.ID, box.Blocks[i].ID) + "/" + plan.Key(m.Control), plan.Key(string(box.ID) + "/" + string(m.Control)),
				} {
					if v, ok := x.plan.VariableOf(key); ok && len(v.Control.Options) > 1 {
						return box, &box.Blocks[i], v, true
					}
				}
			}
		}
	}
	return g, b, plan.Variable{}, false
}

func (x *levelling) channels(ctx context.Context, out *Channels) error {
	g, b, selector, several := x.amp()
	if g == nil {
		return reason.Errorf("no amp of %s has a preamp", x.rig.Name)
	}
	out.Amp, out.Name = g.ID, g.Name
	if !several {
		out.Words = g.Name + " has one channel: there is nothing to level it with."
		return nil
	}
	home := x.rig.Recipes[0]
	for _, s := range x.plan.Sounds {
		if rec := x.rig.RecipeFor(plan.Section{Sound: s.ID}); rec != nil && s.Role == plan.HomeRole {
			home = *rec
			break
		}
	}
	sound, _ := x.plan.FindSound(home.Sound)
	out.Reference = x.plan.SetFor(x.rig, &home, sound, plan.Tempo{}).At(selector.Key).Word()
	options := slices.Clone(selector.Control.Options)
	slices.SortStableFunc(options, func(a, b string) int { // the reference first
		return boolInt(b == out.Reference) - boolInt(a == out.Reference)
	})
	var reference float64
	for i, option := range options {
		rec := x.bare
		rec.Values = map[plan.Key]plan.Value{selector.Key: plan.Text(option)}
		for key, v := range x.bare.Values {
			rec.Values[key] = v
		}
		now, err := x.one(ctx, rec)
		if err != nil {
			return err
		}
		if i == 0 {
			reference = now.Loudness
		}
		c, err := x.channel(ctx, g, b, selector, rec, now, reference)
		if err != nil {
			return err
		}
		c.Name = option
		out.Channels = append(out.Channels, c)
	}
	return nil
}

func boolInt(x bool) int {
	if x {
		return 1
	}
	return 0
}

// channel is one channel against the loudness of the reference.
func (x *levelling) channel(
	ctx context.Context,
	g *plan.Gear,
	b *plan.Block,
	selector plan.Variable,
	rec plan.Recipe,
	now signal.Sketch,
	reference float64,
) (Channel, error) {
	c := Channel{Over: now.Loudness - reference, Dirt: now.Dirt}
	m, _ := g.ModelIn(b, func(key plan.Key) plan.Value { return rec.Values[key] })
	knob := func(id plan.ID) (plan.Variable, bool) {
		if id == "" {
			return plan.Variable{}, false
		}
		return x.plan.VariableOf(plan.BlockKey(g.ID, b.ID) + "/" + plan.Key(id))
	}
	gain, hasGain := knob(m.Gain)
	if hasGain {
		_, high := gain.Control.Range()
		full, err := x.one(ctx, turned(rec, gain.Key, high))
		if err != nil {
			return c, err
		}
		c.Reserve = math.Max(0, full.Dirt-now.Dirt)
	}
	if math.Abs(c.Over) <= noticedLU {
		c.Words = "It is level."
		return c, nil
	}
	level, own := knob(m.Level)
	if !own {
		level, own = gain, hasGain
	}
	if !own {
		c.Words = "No knob of its own makes it level."
		return c, nil
	}
	at, ok, err := x.bring(ctx, rec, level.Key, level.Control, reference)
	if err != nil || !ok {
		c.Words = "Its own knob does not bring it there."
		return c, err
	}
	low, high := level.Control.Range()
	c.Level = &Place{Key: level.Key, Name: level.Label, At: at, Low: low, High: high}
	next := x.kept.SetAt(x.destination, plan.Recipe{}, map[plan.Key]plan.Value{level.Key: plan.Number(at)})
	c.Rig = &next
	c.Words = fmt.Sprintf("%s at %g makes it level.", level.Label, at)
	return c, nil
}

// bring looks for where a knob makes a recipe as loud as it has to be, by halving, to a tenth; false where it does not
// get within what is just noticed.
func (x *levelling) bring(
	ctx context.Context, rec plan.Recipe, key plan.Key, control *plan.Control, loudness float64,
) (float64, bool, error) {
	low, high := control.Range()
	for high-low > 0.05 {
		mid := (low + high) / 2
		got, err := x.one(ctx, turned(rec, key, mid))
		if err != nil {
			return 0, false, err
		}
		if got.Loudness < loudness {
			low = mid
		} else {
			high = mid
		}
	}
	at := math.Round(10*(low+high)/2) / 10
	got, err := x.one(ctx, turned(rec, key, at))
	return at, err == nil && math.Abs(got.Loudness-loudness) <= noticedLU, err
}

// leads compares the leads with the loudest sound that is none.
func (x *levelling) leads(ctx context.Context, out *Channels) error {
	loudest, home := math.Inf(-1), math.NaN()
	var leads []plan.Recipe
	for _, s := range x.plan.Sounds {
		rec := x.rig.RecipeFor(plan.Section{Sound: s.ID})
		if rec == nil {
			continue
		}
		if s.Role == plan.LeadRole {
			leads = append(leads, *rec)
			continue
		}
		got, err := x.one(ctx, *rec)
		if err != nil {
			return err
		}
		loudest = math.Max(loudest, got.Loudness)
		if s.Role == plan.HomeRole && math.IsNaN(home) {
			home = got.Loudness
		}
	}
	if math.IsInf(loudest, -1) {
		return nil // there is nothing to stand above
	}
	for _, rec := range leads {
		l, err := x.lead(ctx, rec, loudest, home)
		if err != nil {
			return err
		}
		out.Leads = append(out.Leads, l)
	}
	return nil
}

func (x *levelling) lead(ctx context.Context, rec plan.Recipe, loudest, home float64) (Lead, error) {
	s, err := x.plan.SoundByID(rec.Sound)
	if err != nil {
		return Lead{}, fmt.Errorf("dial: %w", err)
	}
	now, err := x.one(ctx, rec)
	if err != nil {
		return Lead{}, err
	}
	l := Lead{Sound: s.ID, Name: s.Name, Over: now.Loudness - loudest, Wanted: leadLU}
	if t := s.Targets.LoudnessLU; t != nil && !math.IsNaN(home) {
		l.Wanted = home + *t - loudest
	}
	if l.Over >= l.Wanted-noticedLU {
		l.Words = "It stands above the others."
		return l, nil
	}
	knobs, err := signal.Knobs(x.plan, x.rig.ID, s.ID, rec.ID)
	if err != nil {
		return l, fmt.Errorf("dial: %w", err)
	}
	for _, k := range knobs {
		v, ok := x.plan.VariableOf(k.Key)
		if !ok || v.Control == nil || !strings.HasSuffix(string(k.Key), "/level") || !x.alone(k, rec) {
			continue
		}
		at, ok, err := x.bring(ctx, rec, k.Key, v.Control, loudest+l.Wanted)
		if err != nil {
			return l, err
		}
		if ok {
			place := placeOf(k, at)
			next := k.Turned(x.kept, x.destination, rec, at)
			l.Level, l.Rig = &place, &next
			l.Words = fmt.Sprintf("%s at %g brings it there.", k.Name, at)
			return l, nil
		}
	}
	l.Words = "No level that it alone hears brings it there: see what Levels says of it."
	return l, nil
}

// alone reports whether no other sound hears a knob: its recipe or preset holds it, or its block is off in all others.
func (x *levelling) alone(k signal.KnobOf, rec plan.Recipe) bool {
	v, ok := x.plan.VariableOf(k.Key)
	if !ok || v.Block == "" {
		return false
	}
	for _, id := range k.Shared {
		sound, _ := x.plan.FindSound(id)
		other := x.rig.RecipeFor(plan.Section{Sound: id})
		if other == nil {
			continue
		}
		g, _ := x.plan.FindGear(v.Gear)
		b, ok := g.FindBlock(v.Block)
		if !ok || b.Bypass == plan.AlwaysOn ||
			x.plan.SetFor(x.rig, other, sound, plan.Tempo{}).At(plan.OnKey(v.Gear, v.Block)).IsOn() {
			return false
		}
	}
	return true
}
