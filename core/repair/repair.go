package repair

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"slices"

	"envex/core/plan"
	"envex/core/reach"
	"envex/core/switching"
)

// Report is every change of a show that fails, with what would mend it.
type Report struct {
	Before   switching.Outcome `json:"before"`
	Failures []Failure         `json:"failures" doc:"In the order of the night."`
	Complete bool              `json:"complete" doc:"Everything was looked at that was to be; false where the budget ran out."`
}

// Failure is a change that fails.
type Failure struct {
	Place    reach.Place   `json:"place"`
	From     string        `json:"from"`
	To       string        `json:"to"`
	Verdict  reach.Verdict `json:"verdict" enum:"late,by_hand,impossible,not_set"`
	Reason   string        `json:"reason"`
	SlowHand bool          `json:"slow_hand" doc:"It needs a hand that has to leave the guitar: no footwork mends it."`
	Repairs  []Repair      `json:"repairs" doc:"At most five, cheapest first."`
	Takes    string        `json:"takes,omitempty" doc:"Where no repair of two edits was found: what it would take, as far as is known."`
}

// Repair is one or two edits that mend a failure, verified on the whole show.
type Repair struct {
	Words  string            `json:"words"`
	Edits  []Edit            `json:"edits"`
	Boxes  int               `json:"boxes" doc:"How many boxes it adds."`
	Reach  switching.Outcome `json:"reach" doc:"Of the whole show with it."`
	Mends  int               `json:"mends" doc:"How many failures it mends, this one included."`
	Breaks []string          `json:"breaks" doc:"Changes that are made in time now and would not be."`
	Minds  []string          `json:"minds,omitempty" doc:"What it does to the sounds, where it is not only footwork."`

	Heading string `json:"heading,omitempty" doc:"What it stands under, where it lets a sound come out wrong; such repairs come last."`
}

// wrongHeading stands over repairs that let a sound come out wrong.
const wrongHeading = "With these a sound may come out wrong"

// Limits of the search: edits to a repair, answers to a failure, and evaluations to each.
const (
	maxRepairs = 5
	perFailure = 160
	pairsFrom  = 8
)

// Options narrow a search for repairs.
type Options struct {
	Position *int // only the change into this section
	Progress func(share float64)
}

// Find looks for repairs of every failed change of a show. Its budget counts evaluations, so the
// answer is the same every time. It fails when rig, destination or set list are not in the plan,
// and with the context's error when that is cancelled.
func Find(ctx context.Context, p *plan.Plan, at Site, setList plan.ID, o Options) (*Report, error) {
	s, err := newScene(ctx, p, at, setList)
	if err != nil {
		return nil, err
	}
	out := &Report{Before: outcome(s.report), Failures: []Failure{}, Complete: true}
	var failed []*reach.Change
	for i := range s.report.Changes {
		c := &s.report.Changes[i]
		if c.Verdict == reach.NotSet && s.recipeAt(c.Position) != nil {
			continue // it waits for the recipe of the sound before
		}
		if !c.Verdict.Reached() && (o.Position == nil || *o.Position == c.Position) {
			failed = append(failed, c)
		}
	}
	for i, c := range failed {
		s.budget = perFailure
		f := Failure{
			Place: c.Place, From: c.From.Name, To: c.To.Name, Verdict: c.Verdict, Reason: c.Reason, SlowHand: needsSlowHand(c),
			Repairs: []Repair{},
		}
		if f.Repairs, err = s.repairs(c); err != nil {
			return nil, err
		}
		if len(f.Repairs) == 0 {
			f.Takes = s.takes(c)
		}
		out.Complete = out.Complete && s.budget > 0
		out.Failures = append(out.Failures, f)
		if o.Progress != nil {
			o.Progress(float64(i+1) / float64(len(failed)))
		}
	}
	return out, nil
}

func needsSlowHand(c *reach.Change) bool {
	return c.Verdict == reach.ByHand &&
		slices.ContainsFunc(c.Hands, func(h reach.Hand) bool { return h.Access == plan.SlowHand })
}

// repairs looks for single edits first, and for pairs of the most helpful where none is enough.
func (s *scene) repairs(c *reach.Change) ([]Repair, error) {
	var found, pairs []Repair
	type promising struct {
		edit Edit
		gain float64
	}
	var near []promising
	for _, e := range s.candidates(c) {
		r, err := s.try(e)
		if errors.Is(err, errSpent) {
			break
		}
		switch {
		case s.ctx.Err() != nil:
			return nil, fmt.Errorf("repair: %w", s.ctx.Err())
		case err != nil:
			continue // it does not fit this rig
		}
		if r == nil {
			continue
		}
		now := r.Changes[c.Position-1]
		if now.Verdict.Reached() {
			if r.Reach.Reached >= s.report.Reach.Reached { // what loses more than it mends is no repair
				found = append(found, s.describe(r, e))
			}
		} else if gain := now.SlackS - c.SlackS; gain > 1e-9 || len(now.Presses) < len(c.Presses) ||
			now.Verdict != c.Verdict {
			near = append(near, promising{e, gain})
		}
	}
	if s.recipeAt(c.Position) == nil {
		for _, pair := range s.withOneBox(c.To.ID) {
			r, err := s.try(pair...)
			if s.ctx.Err() != nil {
				return nil, fmt.Errorf("repair: %w", s.ctx.Err())
			}
			if err == nil && r.Changes[c.Position-1].Verdict.Reached() {
				found = append(found, s.describe(r, pair...))
			}
		}
	}
	if !slices.ContainsFunc(found, func(r Repair) bool { return len(r.Breaks) == 0 }) {
		for _, r := range found {
			if len(r.Edits) == 1 {
				near = append(near, promising{r.Edits[0], 1e6 - float64(len(r.Breaks))}) // it mends, and breaks something: something else may mend that
			}
		}
		slices.SortStableFunc(near, func(a, b promising) int { return cmp.Compare(b.gain, a.gain) })
		near = near[:min(len(near), pairsFrom)]
		for i := range near {
			for k := i + 1; k < len(near); k++ {
				r, err := s.try(near[i].edit, near[k].edit)
				if s.ctx.Err() != nil {
					return nil, fmt.Errorf("repair: %w", s.ctx.Err())
				}
				if err != nil || !r.Changes[c.Position-1].Verdict.Reached() || r.Reach.Reached < s.report.Reach.Reached {
					continue
				}
				if x := s.describe(r, near[i].edit, near[k].edit); len(found) == 0 || len(x.Breaks) == 0 {
					pairs = append(pairs, x)
				}
			}
		}
	}
	return pickBest(s.once(append(found, pairs...))), nil
}

// once leaves out repairs that lead to the same rig as one before.
func (s *scene) once(found []Repair) []Repair {
	seen := map[string]bool{}
	return slices.DeleteFunc(found, func(r Repair) bool {
		made := s.made(r.Edits...)
		twice := made != "" && seen[made]
		seen[made] = true
		return twice
	})
}

// takes says what a sound that the rig cannot make would take, by another rig that makes it.
func (s *scene) takes(c *reach.Change) string {
	if s.recipeAt(c.Position) != nil {
		return ""
	}
	for i := range s.here.Rigs {
		other := &s.here.Rigs[i]
		rec := other.RecipeFor(plan.Section{Sound: c.To.ID})
		if other.ID == s.rig.ID || rec == nil {
			continue
		}
		switch missing := s.missing(rec); len(missing) {
		case 0:
			return fmt.Sprintf("It needs a recipe: %s makes %s with what is here.", other.Name, c.To.Name)
		default:
			return fmt.Sprintf(
				"It needs %s in the chain, and a recipe: %s makes %s with them.", plan.Listed(s.names(missing)), other.Name,
				c.To.Name,
			)
		}
	}
	return "It needs a recipe. No rig of the plan has a recipe for " + c.To.Name + "."
}

func (s *scene) describe(r *reach.Report, edits ...Edit) Repair {
	out := Repair{Edits: edits, Reach: outcome(r), Breaks: []string{}}
	for i, e := range edits {
		if i > 0 {
			out.Words += "; "
		}
		out.Words += e.Words
		if e.Kind == AddStop || (e.Kind == Layout && !slices.Contains(s.rig.GearIn(), e.Gear)) {
			out.Boxes++
		}
		if m := s.minds(e); m != "" {
			out.Minds = append(out.Minds, m)
			if e.Kind == Free {
				out.Heading = wrongHeading
			}
		}
	}
	for i := range r.Changes {
		was, is := s.report.Changes[i].Verdict.Reached(), r.Changes[i].Verdict.Reached()
		switch {
		case was && !is:
			out.Breaks = append(
				out.Breaks, fmt.Sprintf("%s, %s: %s", r.Changes[i].Song, r.Changes[i].Section, r.Changes[i].Reason),
			)
		case is && !was:
			out.Mends++
		}
	}
	return out
}

// minds says what an edit does to the sounds themselves.
func (s *scene) minds(e Edit) string {
	switch e.Kind {
	case Leave:
		return "It is then heard in both sounds."
	case Same:
		return "The sound changes by that setting."
	case Free:
		return "The setting is then whatever it was before."
	case Borrow:
		return "The sound is then made another way."
	}
	return ""
}

// pickBest puts the cheapest first: no new boxes, few edits, nothing broken, the most reached; and
// shows no more than two of a kind while there are others. What lets a sound come out wrong is last.
func pickBest(found []Repair) []Repair {
	rank := map[string]int{"": 0, wrongHeading: 1}
	slices.SortStableFunc(found, func(a, b Repair) int {
		return cmp.Or(
			cmp.Compare(rank[a.Heading], rank[b.Heading]), cmp.Compare(a.Boxes, b.Boxes),
			cmp.Compare(len(a.Edits), len(b.Edits)), cmp.Compare(len(a.Breaks), len(b.Breaks)),
			cmp.Compare(len(a.Minds), len(b.Minds)), cmp.Compare(b.Reach.Reached, a.Reach.Reached),
			cmp.Compare(a.Reach.Presses, b.Reach.Presses),
		)
	})
	list := []Repair{}
	count := map[Kind]int{}
	var others []Repair
	for _, r := range found {
		if k := r.Edits[0].Kind; count[k] < 2 {
			count[k]++
			list = append(list, r)
		} else {
			others = append(others, r)
		}
	}
	list = append(list, others...)
	list = list[:min(len(list), maxRepairs)]
	slices.SortStableFunc(list, func(a, b Repair) int { return cmp.Compare(rank[a.Heading], rank[b.Heading]) })
	return list
}
