// Package propose looks for recipes: which boxes of a rig are on, which presets and channels they stand on and where
// their knobs are, so that each sound is within its targets with few presses over the set.
package propose

import (
	"cmp"
	"context"
	"fmt"
	"maps"
	"slices"

	"envex/core/plan"
	"envex/core/reach"
	"envex/core/reason"
	"envex/core/signal"
)

// Proposal is ways to make the sounds of a rig.
type Proposal struct {
	Rig     plan.ID  `json:"rig"`
	SetList plan.ID  `json:"set_list,omitempty" doc:"Over which presses are counted."`
	Sounds  []Sound  `json:"sounds"`
	Tried   int      `json:"tried" doc:"Settings that were metered."`
	Taken   plan.Rig `json:"taken" doc:"The rig with the first way of each sound."`
}

// Sound is ways to make one sound; each stands on the first way of the sounds before it.
type Sound struct {
	Sound plan.ID `json:"sound"`
	Name  string  `json:"name"`
	Ways  []Way   `json:"ways" doc:"The best first; at most three. None where the rig has not what it asks."`
	Part  bool    `json:"part,omitempty" doc:"The rig has more settings than were tried: those nearest to the targets were."`
}

// Way is one way to make a sound.
type Way struct {
	Values   map[plan.Key]plan.Value `json:"values" doc:"What its recipe sets."`
	Within   bool                    `json:"within" doc:"Every target is met."`
	Dirt     float64                 `json:"dirt_pct"`
	OverHome float64                 `json:"loudness_lu" doc:"Over home."`
	Presses  int                     `json:"presses" doc:"Over the set, with what else has a recipe; without a set, those from home."`
	ByHand   int                     `json:"by_hand" doc:"Changes of the set that need a hand."`
	Base     map[plan.Key]plan.Value `json:"base,omitempty" doc:"Knobs that are turned for good, in the rig's base: no other sound hears them."`
	Words    string                  `json:"words"`
	Checks   []signal.Check          `json:"checks"`
	Recipe   plan.Recipe             `json:"recipe"`
	Near     *Nearness               `json:"near,omitempty" doc:"To the recording that the sound was measured from; absent where there is none."`
}

// Options say what is proposed for.
type Options struct {
	Sounds      []plan.ID // all without a recipe, where empty
	SetList     plan.ID
	Destination plan.ID
	NewID       func() plan.ID // of recipes
	Progress    func(share float64)
	Kept        *signal.Kept // as in [signal.Options]
}

// mostWays is how many ways of a sound are given.
const mostWays = 3

// For proposes recipes for sounds of a rig, home first, then as the plan has them, each on the rig with the first way
// of those before it. It fails when the rig, a sound or the set list are not there, and with the context's error when
// that is cancelled.
func For(ctx context.Context, p *plan.Plan, rig plan.ID, o Options) (*Proposal, error) {
	here := *p
	here.Rigs = slices.Clone(p.Rigs)
	r, err := here.RigByID(rig)
	if err != nil {
		return nil, fmt.Errorf("propose: %w", err)
	}
	for _, id := range o.Sounds {
		if _, ok := p.FindSound(id); !ok {
			return nil, reason.Errorf("there is no sound %q", id)
		}
	}
	if o.SetList != "" {
		if _, ok := p.FindSetList(o.SetList); !ok {
			return nil, reason.Errorf("there is no set list %q", o.SetList)
		}
	}
	out := &Proposal{Rig: rig, SetList: o.SetList, Sounds: []Sound{}, Taken: *r}
	list := wanted(p, r, o.Sounds)
	search := signal.NewSearch(signal.Options{Kept: o.Kept})
	for i, s := range list {
		there, err := here.At(rig, o.Destination)
		if err != nil {
			return nil, fmt.Errorf("propose: %w", err)
		}
		ways, err := search.Ways(ctx, there, rig, s.ID)
		if err != nil {
			return nil, fmt.Errorf("propose: %w", err)
		}
		one := Sound{Sound: s.ID, Name: s.Name, Ways: []Way{}, Part: search.Partial}
		for _, w := range ways {
			way := Way{
				Values: w.Recipe.Values, Within: w.Within, Dirt: w.Dirt, OverHome: w.OverHome, Base: w.Base, Words: w.Words,
				Checks: w.Checks, Recipe: w.Recipe,
			}
			if way.Recipe.ID = plan.ID(fmt.Sprintf("way-%s-%d", s.ID, len(one.Ways))); o.NewID != nil {
				way.Recipe.ID = o.NewID()
			}
			taken := Take(out.Taken, o.Destination, way)
			if way.Presses, way.ByHand, err = effort(&here, taken, o.SetList, s.ID); err != nil {
				return nil, err
			}
			one.Ways = append(one.Ways, way)
		}
		slices.SortStableFunc(one.Ways, byEffort)
		one.Ways = one.Ways[:min(len(one.Ways), mostWays)]
		if err := nearness(ctx, &here, out.Taken, s, one.Ways, o); err != nil {
			return nil, err
		}
		if len(one.Ways) > 0 {
			out.Taken = Take(out.Taken, o.Destination, one.Ways[0])
			here.Put(out.Taken)
		}
		out.Sounds = append(out.Sounds, one)
		if o.Progress != nil {
			o.Progress(float64(i+1) / float64(len(list)))
		}
	}
	out.Tried = search.Tried
	return out, nil
}

// wanted are the sounds that are asked for, home first.
func wanted(p *plan.Plan, r *plan.Rig, asked []plan.ID) []plan.Sound {
	var list []plan.Sound
	for _, s := range p.Sounds {
		if slices.Contains(asked, s.ID) || len(asked) == 0 && r.RecipeFor(plan.Section{Sound: s.ID}) == nil {
			list = append(list, s)
		}
	}
	slices.SortStableFunc(list, func(a, b plan.Sound) int {
		return cmp.Compare(b2i(a.Role != plan.HomeRole), b2i(b.Role != plan.HomeRole))
	})
	return list
}

func b2i(b bool) int {
	if b {
		return 1
	}
	return 0
}

// byEffort puts what is within first, then what needs no hand, then fewest presses.
func byEffort(a, b Way) int {
	return cmp.Or(
		cmp.Compare(b2i(!a.Within), b2i(!b.Within)),
		within(a, b, cmp.Or(cmp.Compare(a.ByHand, b.ByHand), cmp.Compare(a.Presses, b.Presses))),
	)
}

// within keeps the order of ways that miss: the nearest first, whatever it costs to press.
func within(a, b Way, so int) int {
	if !a.Within && !b.Within {
		return 0
	}
	return so
}

// Take is a rig with a way taken: its recipe before others of its sound, and its knobs turned.
func Take(r plan.Rig, destination plan.ID, w Way) plan.Rig {
	at := slices.IndexFunc(r.Recipes, func(x plan.Recipe) bool { return x.Sound == w.Recipe.Sound })
	if at < 0 {
		at = len(r.Recipes)
	}
	r.Recipes = slices.Insert(slices.Clone(r.Recipes), at, w.Recipe)
	if len(w.Base) == 0 {
		return r
	}
	if i := slices.IndexFunc(r.Destinations, func(d plan.Destination) bool { return d.ID == destination }); i >= 0 {
		r.Destinations = slices.Clone(r.Destinations)
		r.Destinations[i].Base = merged(r.Destinations[i].Base, w.Base)
		return r
	}
	r.Base = merged(r.Base, w.Base)
	return r
}

func merged(a, b map[plan.Key]plan.Value) map[plan.Key]plan.Value {
	out := maps.Clone(a)
	if out == nil {
		out = map[plan.Key]plan.Value{}
	}
	maps.Copy(out, b)
	return out
}

// effort is the presses over a set, and the changes that need a hand; without a set, those from home and back.
func effort(p *plan.Plan, taken plan.Rig, setList, sound plan.ID) (presses, byHand int, err error) {
	here := *p
	here.Rigs = slices.Clone(p.Rigs)
	here.Put(taken)
	if setList == "" {
		setList = fromHome(&here, sound)
		if setList == "" {
			return 0, 0, nil
		}
	}
	report, err := reach.Compute(&here, taken.ID, setList)
	if err != nil {
		return 0, 0, fmt.Errorf("propose: %w", err)
	}
	for _, c := range report.Changes {
		if c.From.ID != sound && c.To.ID != sound {
			continue
		}
		presses += len(c.Presses)
		if c.Verdict == reach.ByHand {
			byHand++
		}
	}
	return presses, byHand, nil
}

// fromHome puts a set of one song into a plan that goes from home to a sound and back; "" where there is no home sound.
func fromHome(p *plan.Plan, sound plan.ID) plan.ID {
	i := slices.IndexFunc(p.Sounds, func(s plan.Sound) bool { return s.Role == plan.HomeRole })
	if i < 0 || p.Sounds[i].ID == sound {
		return ""
	}
	bars := 4.0
	section := func(id, sound plan.ID) plan.Section {
		return plan.Section{ID: id, Label: string(id), Sound: sound, Bars: &bars}
	}
	home := p.Sounds[i].ID
	p.Songs = append(slices.Clone(p.Songs),
		plan.Song{ID: "from-home", Title: "From home", Tempo: plan.Tempo{BPM: 120}, Meter: plan.Meter{Beats: 4, Unit: 4},
			Sections: []plan.Section{section("home", home), section("there", sound), section("back", home)}})
	p.SetLists = append(
		slices.Clone(p.SetLists),
		plan.SetList{
			ID: "from-home-set", Name: "From home", Entries: []plan.SetEntry{{ID: "from-home-entry", Song: "from-home"}},
		},
	)
	return "from-home-set"
}
