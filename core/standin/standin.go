// Package standin answers what to play when a box is not there: what of the pile, or of the generic kinds, stands in
// for it, how near each sound comes with it, and what else changes.
package standin

import (
	"cmp"
	"context"
	"fmt"
	"math"
	"slices"

	"envex/core/catalog"
	"envex/core/plan"
	"envex/core/reach"
	"envex/core/reason"
	"envex/core/signal"
)

// Report is what can stand in for a box.
type Report struct {
	Rig    plan.ID `json:"rig"`
	Box    plan.ID `json:"box"`
	Name   string  `json:"name"`
	Sounds []Sound `json:"sounds" doc:"Those that the rig makes with it on, as they are."`
	Offers []Offer `json:"offers" doc:"The nearest first."`
	Left   []Left  `json:"left" doc:"Boxes that could do it and cannot be put in its place, and why."`
}

// Sound is a sound that the box is on in.
type Sound struct {
	Sound    plan.ID `json:"sound"`
	Name     string  `json:"name"`
	Dirt     float64 `json:"dirt_pct"`
	OverHome float64 `json:"loudness_lu"`
	Within   bool    `json:"within"`
	AsItIs   bool    `json:"as_it_is,omitempty" doc:"It does not say what it has to be: it is compared with what it is now."`
}

// Left is a box that cannot be put there.
type Left struct {
	Name string `json:"name"`
	Why  string `json:"why"`
}

// Offer is a box that stands in.
type Offer struct {
	Gear    plan.ID    `json:"gear"`
	Name    string     `json:"name"`
	Kind    string     `json:"kind,omitempty" doc:"The generic kind it would be, where it is not owned."`
	Off     float64    `json:"off" doc:"How far all sounds together are out: LU outside their bands, ten per cent of dirt counting as one, and a tenth of how far they are from what they were; of what repeats or rings, how far its time, its repeats, its level and its sides are from what they were."`
	Within  int        `json:"within" doc:"Sounds that are within all their targets."`
	Sounds  []Near     `json:"sounds"`
	Knobs   []Knob     `json:"knobs" doc:"Where its knobs stand, for all of these sounds."`
	Held    []Held     `json:"held" doc:"What its presets have to hold, where those of the other did and it has any."`
	Presses int        `json:"presses" doc:"More over the set than before; fewer where it is below 0."`
	ByHand  int        `json:"by_hand" doc:"Changes more that need a hand."`
	Missed  int        `json:"missed" doc:"Changes more that are not made."`
	Costs   []string   `json:"costs" doc:"These three in words; empty where all are as before."`
	Also    []string   `json:"also" doc:"What else changes: power, room, MIDI, in words."`
	Rig     plan.Rig   `json:"rig" doc:"The rig with it in the place of the other."`
	New     *plan.Gear `json:"new_gear,omitempty" doc:"The box, where it is not owned."`

	heard []signal.Sound
}

// Near is how near a sound comes.
type Near struct {
	Sound    plan.ID        `json:"sound"`
	Name     string         `json:"name"`
	Dirt     float64        `json:"dirt_pct"`
	OverHome float64        `json:"loudness_lu"`
	Within   bool           `json:"within"`
	Checks   []signal.Check `json:"checks"`
}

// Options say what may stand in.
type Options struct {
	SetList  plan.ID  // over which presses are counted; none where empty
	At       plan.ID  // the destination at which sounds are made; the rig as it stands where empty
	Kinds    []string // generic kinds that may; those with the same effect where nil
	Most     int      // offers; six where 0
	Progress func(share float64)
	Kept     *signal.Kept
}

const (
	usualOffers     = 6
	mostCorrections = 3 // times that knobs are set anew by what was heard in full
)

// For looks for what stands in for a box of a rig. It fails when rig, destination, box or set list are not there, when
// the box is not in the rig's chain or is no pedal, and with the context's error when that is cancelled.
func For(ctx context.Context, p *plan.Plan, rig, box plan.ID, o Options) (*Report, error) {
	if o.Kept == nil {
		o.Kept = signal.NewKept()
	}
	given, own := p, (*plan.Rig)(nil)
	p, err := given.At(rig, o.At)
	if err != nil {
		return nil, fmt.Errorf("standin: %w", err)
	}
	own, _ = given.FindRig(rig)
	r, _ := p.FindRig(rig)
	g, err := p.GearByID(box)
	if err != nil {
		return nil, fmt.Errorf("standin: %w", err)
	}
	if g.Kind != plan.Pedal {
		return nil, reason.Errorf(
			"%s is not a pedal: what another amp or guitar does is asked as a destination",
			g.Name,
		)
	}
	if !slices.Contains(r.GearIn(), box) {
		return nil, reason.Errorf("%s is not in the chain of %s", g.Name, r.Name)
	}
	for _, id := range o.Kinds {
		if _, ok := catalog.Find(id); !ok {
			return nil, reason.Errorf("there is no kind %q", id)
		}
	}
	s := &search{given: given, own: own, plan: p, rig: r, box: g, o: o}
	if o.SetList != "" {
		if s.before, err = reach.Compute(p, rig, o.SetList); err != nil {
			return nil, fmt.Errorf("standin: %w", err)
		}
	}
	return s.run(ctx)
}

type search struct {
	given  *plan.Plan
	own    *plan.Rig // of the plan that was given, its destinations apart
	plan   *plan.Plan
	rig    *plan.Rig // as it stands there
	box    *plan.Gear
	o      Options
	before *reach.Report
	was    map[plan.ID]signal.Sound
	uses   []plan.ID // sounds that the box is on in
}

func (s *search) run(ctx context.Context) (*Report, error) {
	out := &Report{Rig: s.rig.ID, Box: s.box.ID, Name: s.box.Name, Sounds: []Sound{}, Offers: []Offer{}, Left: []Left{}}
	if err := s.asItIs(ctx, out); err != nil {
		return nil, err
	}
	candidates := s.candidates()
	for i, c := range candidates {
		offer, why, err := s.offer(ctx, c)
		if err != nil {
			return nil, err
		}
		if offer != nil {
			out.Offers = append(out.Offers, *offer)
		} else if why != "" {
			out.Left = append(out.Left, Left{Name: c.gear.Name, Why: why})
		}
		if s.o.Progress != nil {
			s.o.Progress(0.05 + 0.95*float64(i+1)/float64(len(candidates)))
		}
	}
	slices.SortStableFunc(out.Offers, func(a, b Offer) int {
		return cmp.Or(
			cmp.Compare(b.Within, a.Within), cmp.Compare(a.Off, b.Off), cmp.Compare(a.Missed, b.Missed),
			cmp.Compare(a.ByHand, b.ByHand),
		)
	})
	most := s.o.Most
	if most <= 0 {
		most = usualOffers
	}
	out.Offers = out.Offers[:min(len(out.Offers), most)]
	return out, nil
}

// asItIs measures the sounds that the box is on in.
func (s *search) asItIs(ctx context.Context, out *Report) error {
	for i := range s.plan.Sounds {
		sound := &s.plan.Sounds[i]
		if s.isOn(s.rig, sound, s.box.ID) {
			s.uses = append(s.uses, sound.ID)
		}
	}
	s.was = map[plan.ID]signal.Sound{}
	if len(s.uses) == 0 {
		return nil
	}
	silent := slices.DeleteFunc(slices.Clone(s.uses), func(id plan.ID) bool {
		sound, _ := s.plan.FindSound(id)
		return !signal.SaysNothing(sound.Targets)
	})
	asked, open, err := signal.AsMade(ctx, s.plan, s.rig.ID, silent, s.o.Kept)
	if err != nil {
		return fmt.Errorf("standin: %w", err)
	}
	s.plan = asked
	report, err := signal.Measure(
		ctx,
		s.plan,
		s.rig.ID,
		signal.Options{Kept: s.o.Kept, Only: s.uses, Want: s.depth()},
	)
	if err != nil {
		return fmt.Errorf("standin: %w", err)
	}
	for _, x := range report.Sounds {
		s.was[x.Sound] = x
		out.Sounds = append(out.Sounds, Sound{
			Sound: x.Sound, Name: x.Name, Dirt: x.Figures.Dirt, OverHome: x.OverHome, Within: x.Met(),
			AsItIs: slices.Contains(open, x.Sound),
		})
	}
	return nil
}

// isOn reports whether a rig makes a sound with any block of a box on.
func (s *search) isOn(r *plan.Rig, sound *plan.Sound, box plan.ID) bool {
	rec := r.RecipeFor(plan.Section{Sound: sound.ID})
	if rec == nil {
		return false
	}
	set := s.plan.SetFor(r, rec, sound, s.plan.FirstTempo(sound.ID))
	return slices.ContainsFunc(r.Stops(), func(key plan.Key) bool {
		if key.Gear() != box {
			return false
		}
		g, _ := s.plan.FindGear(box)
		b, ok := g.FindBlock(plan.ID(key.Rest()))
		return ok && (b.Bypass == plan.AlwaysOn || set.At(key+"/on").IsOn())
	})
}

// candidate is a box that may stand in.
type candidate struct {
	gear plan.Gear
	kind string
}

// candidates are the pedals that are owned and not in the chain, and a box of each kind, that can do what the box does.
func (s *search) candidates() []candidate {
	var list []candidate
	in := s.rig.GearIn()
	for _, g := range s.plan.Gear {
		if g.Kind == plan.Pedal && !slices.Contains(in, g.ID) && s.can(&g) {
			list = append(list, candidate{gear: g})
		}
	}
	for _, kind := range catalog.All() {
		switch {
		case kind.Gear.Kind != plan.Pedal, s.o.Kinds != nil && !slices.Contains(s.o.Kinds, kind.ID),
			s.o.Kinds == nil && !s.same(&kind.Gear):
			continue
		}
		id := plan.ID("kind-" + kind.ID)
		for n := 2; taken(s.plan, id); n++ {
			id = plan.ID(fmt.Sprintf("kind-%s-%d", kind.ID, n))
		}
		if made := kind.In(s.plan, id, kind.Name); s.can(&made) {
			list = append(list, candidate{made, kind.ID})
		}
	}
	return list
}

func taken(p *plan.Plan, id plan.ID) bool { _, ok := p.Find(id); return ok }

// can reports whether a box has a block that can stand for one of the box that is missing.
func (s *search) can(g *plan.Gear) bool { return s.any(g, plan.CanStandFor) }

// same reports whether a box has a block with the very effect.
func (s *search) same(g *plan.Gear) bool {
	return s.any(g, func(a, b plan.Effect) bool { return a == b })
}

func (s *search) any(g *plan.Gear, fits func(a, b plan.Effect) bool) bool {
	return slices.ContainsFunc(s.box.Blocks, func(a plan.Block) bool {
		able := func(b plan.Block) bool { return fits(a.Effect, b.Effect) }
		return !a.Effect.Traits().Unheard && slices.ContainsFunc(g.Blocks, able)
	})
}

// offer puts a box in, sets its knobs for the sounds, and says what comes of it; nil and why where it cannot be put
// there.
func (s *search) offer(ctx context.Context, c candidate) (*Offer, string, error) {
	q := *s.plan
	if c.kind != "" {
		q.Put(c.gear)
	}
	g, _ := q.FindGear(c.gear.ID)
	next, blocks, ok := q.Instead(s.rig, s.box.ID, g)
	if !ok {
		return nil, "nothing in it does what " + s.box.Name + " does in the chain.", nil
	}
	q.Put(next)
	if problems := q.ValidateChange(next.ID); len(problems) > 0 {
		return nil, problems[0].Message + ".", nil
	}
	also := append(s.sameCircuit(&q, &next, blocks), s.carried(&q, &next, blocks)...)
	tuned, err := s.tune(ctx, &q, &next, blocks)
	if err != nil {
		return nil, "", err
	}
	out := &Offer{Gear: g.ID, Name: g.Name, Kind: c.kind, Also: also, Costs: []string{}}
	if c.kind != "" {
		out.New = &c.gear
	}
	if err := s.hear(ctx, &q, blocks, out); err != nil {
		return nil, "", err
	}
	heard := out.Sounds
	for range mostCorrections {
		other := next
		if !s.corrected(&other, tuned, heard) {
			break
		}
		again, p := *out, q
		p.Put(other)
		if err := s.hear(ctx, &p, blocks, &again); err != nil {
			return nil, "", err
		}
		if heard = again.Sounds; again.Within > out.Within || again.Within == out.Within && again.Off < out.Off {
			*out, q, next = again, p, other
		}
	}
	out.Also = append(out.Also, s.oneSide(out.heard)...)
	out.Rig = next
	out.Knobs, out.Held = knobs(&q, &next, g.ID, blocks)
	if s.o.At != "" { // the rig with the box in it everywhere, and not as it stands there
		whole, _, ok := s.given.Instead(s.own, s.box.ID, g)
		if !ok {
			return nil, "nothing in it does what " + s.box.Name + " does in the chain.", nil
		}
		values := map[plan.Key]plan.Value{}
		for key, v := range next.Base {
			if key.Gear() == g.ID {
				values[key] = v
			}
		}
		out.Rig = Set(whole, values)
	}
	if err := s.effort(&q, out); err != nil {
		return nil, "", err
	}
	return out, "", s.also(&q, g, out)
}

// hear measures the sounds with the box in.
func (s *search) hear(ctx context.Context, q *plan.Plan, blocks map[plan.Key]plan.Key, out *Offer) error {
	out.Sounds, out.Within, out.Off = []Near{}, 0, 0
	if len(s.uses) == 0 {
		return nil
	}
	report, err := signal.Measure(
		ctx,
		q,
		s.rig.ID,
		signal.Options{Kept: s.o.Kept, Only: s.uses, Want: s.depth()},
	)
	if err != nil {
		return fmt.Errorf("standin: %w", err)
	}
	out.heard = report.Sounds
	for _, x := range report.Sounds {
		sound, _ := q.FindSound(x.Sound)
		out.Sounds = append(out.Sounds, Near{
			Sound: x.Sound, Name: x.Name, Dirt: x.Figures.Dirt, OverHome: x.OverHome, Within: x.Met(), Checks: x.Checks,
		})
		if x.Met() {
			out.Within++
		}
		out.Off += s.off(sound, signal.Sketch{Loudness: x.OverHome, Dirt: x.Figures.Dirt}) + s.ringing(q, x, blocks)
	}
	return nil
}

// off is how far a sound is out, of its targets and of what it was. Its loudness is over home.
func (s *search) off(sound *plan.Sound, got signal.Sketch) float64 { return s.offBy(sound, got, 0) }

// offBy is the same with bands of loudness that are narrower on each side by so many LU.
func (s *search) offBy(sound *plan.Sound, got signal.Sketch, margin float64) float64 {
	was := s.was[sound.ID]
	low, high, _ := signal.LoudnessBand(sound.Targets)
	dl, dh, _ := signal.DirtBand(sound.Targets)
	margin = min(margin, (high-low)/2)
	out := outside(got.Loudness, low+margin, high-margin) + outside(got.Dirt, dl, dh)/10
	if out > 0 {
		out += outAtAll
	}
	return out + (math.Abs(got.Loudness-was.OverHome)+math.Abs(got.Dirt-was.Figures.Dirt)/10)/10
}

// outAtAll is how far a sound counts as out that is out by next to nothing: a target is met or it is not.
const outAtAll = 0.25

func outside(x, low, high float64) float64 { return max(low-x, x-high, 0) }
