package repair

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"

	"envex/core/path"
	"envex/core/plan"
	"envex/core/reach"
	"envex/core/switching"
)

// scene is a rig at a destination playing a set, and what it reaches.
type scene struct {
	ctx    context.Context
	base   *plan.Plan // as it is saved
	site   Site
	set    plan.ID
	here   *plan.Plan // with the destination laid over the rig
	rig    *plan.Rig  // as it stands there
	report *reach.Report
	faults map[string]bool // of the chain as it stands
	budget int             // evaluations left
	known  map[string]*verified
}

// verified is what an edited plan was found to reach.
type verified struct {
	report *reach.Report
	err    error
	made   string // the rig and the songs as the edits leave them
}

func newScene(ctx context.Context, p *plan.Plan, at Site, set plan.ID) (*scene, error) {
	s := &scene{ctx: ctx, base: p, site: at, set: set, known: map[string]*verified{}}
	var err error
	if s.here, err = p.At(at.Rig, at.Destination); err != nil {
		return nil, err
	}
	s.rig, _ = s.here.FindRig(at.Rig)
	if s.report, err = reach.Compute(s.here, at.Rig, set); err != nil {
		return nil, fmt.Errorf("repair: %w", err)
	}
	s.faults, err = s.faultsOf(p)
	return s, err
}

// faultsOf names what cannot work, or is a danger, in the chain of a plan.
func (s *scene) faultsOf(p *plan.Plan) (map[string]bool, error) {
	judged, err := path.Judge(s.ctx, p, s.site.Rig, s.site.Destination)
	if err != nil {
		return nil, fmt.Errorf("repair: %w", err)
	}
	faults := map[string]bool{}
	for _, f := range judged.Findings {
		if f.Gravity == path.Danger || f.Gravity == path.Fault {
			faults[f.ID] = true
		}
	}
	return faults, nil
}

// try carries edits out and computes what is reached over the whole show. A plan that does not
// take them, or that they give a new fault, fails. It takes one from the budget; what was tried
// before takes none.
func (s *scene) try(edits ...Edit) (*reach.Report, error) {
	key := nameOf(edits)
	if v, ok := s.known[key]; ok {
		return v.report, v.err
	}
	if s.budget <= 0 {
		return nil, errSpent
	}
	s.budget--
	v := &verified{}
	v.report, v.made, v.err = s.verify(edits)
	if s.ctx.Err() != nil {
		return nil, s.ctx.Err()
	}
	s.known[key] = v
	return v.report, v.err
}

var errSpent = fmt.Errorf("the budget is spent")

// made tells apart what edits lead to: two ways to the same rig are one repair.
func (s *scene) made(edits ...Edit) string {
	if v, ok := s.known[nameOf(edits)]; ok {
		return v.made
	}
	return ""
}

func (s *scene) verify(edits []Edit) (*reach.Report, string, error) {
	q, err := Apply(s.ctx, s.base, s.site, edits...)
	if err != nil {
		return nil, "", err
	}
	r, _ := q.FindRig(s.site.Rig)
	made, err := json.Marshal([]any{r, q.Songs})
	if err != nil {
		return nil, "", fmt.Errorf("repair: %w", err)
	}
	if slices.ContainsFunc(edits, func(e Edit) bool {
		return e.Kind == Loop || e.Kind == AddStop || (e.Kind == Layout && e.Loops)
	}) {
		faults, err := s.faultsOf(q)
		if err != nil {
			return nil, "", err
		}
		for f := range faults {
			if !s.faults[f] {
				return nil, "", fmt.Errorf("it brings a fault: %s", f)
			}
		}
	}
	there, err := q.At(s.site.Rig, s.site.Destination)
	if err != nil {
		return nil, "", err
	}
	report, err := reach.Compute(there, s.site.Rig, s.set)
	return report, string(made), err
}

// id tells edits apart by all that they hold.
func (e Edit) id() string {
	data, err := json.Marshal(e)
	if err != nil {
		return fmt.Sprintf("%+v", e)
	}
	return string(data)
}

func nameOf(edits []Edit) string {
	name := ""
	for _, e := range edits {
		name += e.id() + "|"
	}
	return name
}

// variables are those of the rig, in the order of its gear.
func (s *scene) variables() []plan.Variable {
	return s.here.VariablesIn(s.rig)
}

// asked is what a recipe, else the base, else the default sets a variable to.
func (s *scene) asked(rec *plan.Recipe, v plan.Variable) plan.Value {
	if x, ok := rec.Values[v.Key]; ok && !x.IsZero() {
		return x
	}
	return s.rig.BaseValue(v)
}

// does reports whether a variable does anything in a recipe.
func (s *scene) does(rec *plan.Recipe, v plan.Variable) bool {
	for _, c := range v.When {
		x, ok := rec.Values[c.Key]
		if !ok {
			x, ok = s.rig.Base[c.Key]
		}
		if !ok {
			x = plan.On(false)
			if g, found := s.here.FindGear(c.Key.Gear()); found {
				for _, w := range g.Variables() {
					if w.Key == c.Key {
						x = w.Default
					}
				}
			}
		}
		if x.Kind() != plan.FreeValue && !c.Holds(x) {
			return false
		}
	}
	return true
}

// recipeAt is the recipe a section of the report is played on, nil where there is none.
func (s *scene) recipeAt(position int) *plan.Recipe {
	id := s.report.Sections[position].Recipe
	for i := range s.rig.Recipes {
		if s.rig.Recipes[i].ID == id {
			return &s.rig.Recipes[i]
		}
	}
	return nil
}

func (s *scene) soundName(id plan.ID) string {
	if x, ok := s.here.FindSound(id); ok {
		return x.Name
	}
	return string(id)
}

// heardIn are the effects that a recipe has on, by effect.
func (s *scene) heardIn(p *plan.Plan, rec *plan.Recipe) map[plan.Effect]bool {
	on := map[plan.Effect]bool{}
	for key, x := range rec.Values {
		g, ok := p.FindGear(key.Gear())
		if !ok {
			continue
		}
		for i := range g.Blocks {
			if plan.OnKey(g.ID, g.Blocks[i].ID) == key && x.IsOn() {
				on[g.Blocks[i].Effect] = true
			}
		}
	}
	for _, k := range rec.Rockers {
		if g, ok := p.FindGear(k.Gear()); ok {
			if b, ok := g.FindBlock(plan.ID(k.Rest())); ok {
				on[b.Effect] = true
			}
		}
	}
	return on
}

// meets reports whether a recipe has every effect on that a sound must be heard with.
func (s *scene) meets(p *plan.Plan, rec *plan.Recipe, sound *plan.Sound) bool {
	on := s.heardIn(p, rec)
	for _, h := range sound.Targets.Effects {
		if !on[h.Effect] {
			return false
		}
	}
	return true
}

// outcome sums a report up.
func outcome(r *reach.Report) switching.Outcome { return switching.OutcomeOf(r) }
