package repair

import (
	"cmp"
	"context"
	"fmt"
	"slices"

	"envex/core/plan"
	"envex/core/reach"
	"envex/core/reason"
	"envex/core/switching"
)

// Comparison is the same set on two rigs.
type Comparison struct {
	Here      plan.ID           `json:"here"`
	There     plan.ID           `json:"there"`
	Reach     switching.Outcome `json:"reach"`
	Other     switching.Outcome `json:"other"`
	Sounds    []Survival        `json:"sounds" doc:"Of the set, in the order they are first played."`
	Changes   []Differs         `json:"changes" doc:"Changes that are reached on one rig and not on the other."`
	Additions []Addition        `json:"additions" doc:"The smallest additions to the other rig that make sounds it cannot make."`
}

// Survival is a sound of the set and whether the other rig makes it.
type Survival struct {
	Sound   plan.ID   `json:"sound"`
	Name    string    `json:"name"`
	Here    bool      `json:"here"`
	There   bool      `json:"there"`
	Lacks   []string  `json:"lacks" doc:"Effects the sound must be heard with, and its recipe there does not turn on."`
	Missing []plan.ID `json:"missing" doc:"Boxes that this rig makes it with and the other does not have."`
	Words   string    `json:"words"`
}

// Differs is a change that one of the rigs makes in time.
type Differs struct {
	Place reach.Place   `json:"place"`
	Here  reach.Verdict `json:"here" enum:"in_time,tight,late,by_hand,impossible,not_set"`
	There reach.Verdict `json:"there" enum:"in_time,tight,late,by_hand,impossible,not_set"`
	Words string        `json:"words" doc:"The reason on the one that fails."`
}

// Addition is boxes to put into the other rig, and what that gives.
type Addition struct {
	Words  string            `json:"words"`
	Boxes  []plan.ID         `json:"boxes"`
	Sounds []plan.ID         `json:"sounds" doc:"Sounds it makes besides."`
	Edits  []Edit            `json:"edits"`
	Reach  switching.Outcome `json:"reach"`
}

// Compare plays a set on a rig and on another, and looks for the smallest additions to the other
// that make the sounds it cannot make. It fails when something named is not in the plan, and with
// the context's error when that is cancelled.
func Compare(ctx context.Context, p *plan.Plan, here, there Site, setList plan.ID) (*Comparison, error) {
	a, err := newScene(ctx, p, here, setList)
	if err != nil {
		return nil, err
	}
	b, err := newScene(ctx, p, there, setList)
	if err != nil {
		return nil, err
	}
	out := &Comparison{
		Here: here.Rig, There: there.Rig, Reach: outcome(a.report), Other: outcome(b.report), Sounds: []Survival{},
		Changes: []Differs{}, Additions: []Addition{},
	}
	for _, id := range playedSounds(a.report) {
		out.Sounds = append(out.Sounds, survival(a, b, id))
	}
	for i := range a.report.Changes {
		x, y := &a.report.Changes[i], &b.report.Changes[i]
		if x.Verdict.Reached() == y.Verdict.Reached() {
			continue
		}
		d := Differs{Place: x.Place, Here: x.Verdict, There: y.Verdict, Words: y.Reason}
		if y.Verdict.Reached() {
			d.Words = x.Reason
		}
		out.Changes = append(out.Changes, d)
	}
	out.Additions, err = a.additions(b, out.Sounds)
	return out, err
}

// playedSounds are the sounds of a show in the order they are first played.
func playedSounds(r *reach.Report) []plan.ID {
	var list []plan.ID
	for _, s := range r.Sections {
		if !slices.Contains(list, s.Sound) {
			list = append(list, s.Sound)
		}
	}
	return list
}

// makes is the recipe a rig makes a sound with, nil where it has none or where a box of it is not
// in the chain.
func (s *scene) makes(sound plan.ID) *plan.Recipe {
	rec := s.rig.RecipeFor(plan.Section{Sound: sound})
	if rec == nil || len(s.missing(rec)) > 0 {
		return nil
	}
	return rec
}

func survival(a, b *scene, sound plan.ID) Survival {
	x := Survival{Sound: sound, Name: a.soundName(sound), Lacks: []string{}, Missing: []plan.ID{}}
	here, there := a.makes(sound), b.makes(sound)
	x.Here, x.There = here != nil, there != nil
	if want, ok := b.here.FindSound(sound); ok && there != nil {
		on := b.heardIn(b.here, there)
		for _, h := range want.Targets.Effects {
			if !on[h.Effect] {
				x.Lacks = append(x.Lacks, string(h.Effect))
			}
		}
	}
	if here != nil && there == nil {
		x.Missing = append(x.Missing, b.missing(here)...)
	}
	switch {
	case x.There && len(x.Lacks) > 0:
		x.Words = fmt.Sprintf("It is made without %s.", plan.Listed(x.Lacks))
	case x.There:
		x.Words = "It can be made."
	case len(x.Missing) > 0:
		x.Words = fmt.Sprintf("%s has no recipe for it, and no %s.", b.rig.Name, plan.Listed(b.names(x.Missing)))
	default:
		x.Words = fmt.Sprintf("%s has no recipe for it, though every box is there.", b.rig.Name)
	}
	return x
}

func (s *scene) names(gear []plan.ID) []string {
	var list []string
	for _, id := range gear {
		if g, ok := s.here.FindGear(id); ok {
			list = append(list, g.Name)
		}
	}
	return list
}

// maxAdditions is how many additions are worked out.
const maxAdditions = 6

// additions tries, for every set of sounds that the other rig lacks, the boxes they need together:
// each sound alone and all of them, fewest boxes first.
func (s *scene) additions(b *scene, sounds []Survival) ([]Addition, error) {
	var lost []Survival
	for _, x := range sounds {
		if x.Here && (!x.There || len(x.Lacks) > 0) {
			lost = append(lost, x)
		}
	}
	var sets [][]Survival
	for i := range lost {
		sets = append(sets, lost[i:i+1])
	}
	if len(lost) > 1 {
		sets = append(sets, lost)
	}
	list := []Addition{}
	for _, set := range sets[:min(len(sets), maxAdditions)] {
		x, err := s.addition(b, set)
		if s.ctx.Err() != nil {
			return nil, fmt.Errorf("repair: %w", s.ctx.Err())
		}
		if err != nil {
			continue // it finds no place in the other chain
		}
		if !slices.ContainsFunc(
			list, func(y Addition) bool { return slices.Equal(x.Boxes, y.Boxes) && slices.Equal(x.Sounds, y.Sounds) },
		) {
			list = append(list, x)
		}
	}
	slices.SortStableFunc(list, func(x, y Addition) int {
		return cmp.Or(cmp.Compare(len(x.Boxes), len(y.Boxes)), cmp.Compare(y.Reach.Reached, x.Reach.Reached))
	})
	return list, nil
}

func (s *scene) addition(b *scene, set []Survival) (Addition, error) {
	x := Addition{Boxes: []plan.ID{}, Sounds: []plan.ID{}, Edits: []Edit{}}
	p := b.base
	take := func(e Edit) error {
		next, err := Apply(s.ctx, p, b.site, e)
		if err == nil {
			p = next
			x.Edits = append(x.Edits, e)
		}
		return err
	}
	var names []string
	for _, sound := range set {
		rec := s.makes(sound.Sound)
		for _, id := range b.missing(rec) {
			if slices.Contains(x.Boxes, id) {
				continue
			}
			e, err := b.insert(p, id)
			if err != nil {
				return x, err
			}
			if err := take(e); err != nil {
				return x, err
			}
			x.Boxes = append(x.Boxes, id)
		}
		if sound.There { // it is made there already, without an effect: with the boxes it is made whole
			e, err := b.adopted(p, rec, sound.Sound)
			if err != nil {
				return x, err
			}
			for _, step := range e {
				if err := take(step); err != nil {
					return x, err
				}
			}
		} else if err := take(
			Edit{
				Kind: Borrow, Recipe: rec.ID, Sound: sound.Sound,
				Words: fmt.Sprintf("Make %s as %s makes it", sound.Name, s.rig.Name),
			},
		); err != nil {
			return x, err
		}
		x.Sounds = append(x.Sounds, sound.Sound)
		names = append(names, sound.Name)
	}
	there, err := p.At(b.site.Rig, b.site.Destination)
	if err != nil {
		return x, err
	}
	report, err := reach.Compute(there, b.site.Rig, b.set)
	if err != nil {
		return x, fmt.Errorf("repair: %w", err)
	}
	x.Reach = outcome(report)
	x.Words = fmt.Sprintf("Add %s, for %s", plan.Listed(b.names(x.Boxes)), plan.Listed(names))
	if len(x.Boxes) == 0 {
		x.Words = "No box: make " + plan.Listed(names) + " as here"
	}
	return x, nil
}

// adopted turns on, in the recipe the other rig has for a sound, what this one turns on besides.
func (s *scene) adopted(p *plan.Plan, from *plan.Recipe, sound plan.ID) ([]Edit, error) {
	rec := s.rig.RecipeFor(plan.Section{Sound: sound})
	if rec == nil {
		return nil, reason.Errorf("it has no recipe")
	}
	want, _ := p.FindSound(sound)
	on := s.heardIn(p, rec)
	var list []Edit
	for _, key := range plan.SortedKeys(from.Values) {
		g, ok := p.FindGear(key.Gear())
		if !ok {
			continue
		}
		for i := range g.Blocks {
			b := &g.Blocks[i]
			belongs := slices.ContainsFunc(
				want.Targets.Effects, func(h plan.Heard) bool { return h.Effect == b.Effect && !on[h.Effect] },
			)
			if !belongs || len(g.Blocks) > 1 && plan.OnKey(g.ID, b.ID) != key {
				continue
			}
			x := from.Values[key]
			list = append(
				list,
				Edit{
					Kind: Same, Recipe: rec.ID, Key: key, Value: &x,
					Words: fmt.Sprintf("%s in %s as in the other rig", g.Name, want.Name),
				},
			)
			break
		}
	}
	for _, key := range from.Rockers {
		if g, ok := p.FindGear(key.Gear()); ok && !slices.Contains(rec.Rockers, key) {
			list = append(
				list, Edit{Kind: Rock, Recipe: rec.ID, Key: key, Words: fmt.Sprintf("%s in %s by foot", g.Name, want.Name)},
			)
		}
	}
	if len(list) == 0 {
		return nil, reason.Errorf("the other rig makes it without that effect too")
	}
	return list, nil
}
